"""The settings sheet: planned, as found, as left."""

from collections.abc import Iterable

from mainspring.core.errors import BadEntry
from mainspring.core.families.sheet import SetRow, rows_of
from mainspring.core.method import Figure
from mainspring.core.procedure import check_text
from mainspring.core.settings.conflicts import Conflict, conflicts_of, in_force_values
from mainspring.core.settings.kept import KeptSetting
from mainspring.core.settings.own import OWN, setting_of
from mainspring.core.settings.setting import SettingRow
from mainspring.service.commands import carry_out
from mainspring.service.errors import BadRecord, SetBetween
from mainspring.service.keys import Of
from mainspring.service.lines import check_who
from mainspring.service.opened import Opened, OpenLines
from mainspring.service.present import present
from mainspring.service.views import ConflictView, EffectView, FamilyParameter, Ledger, SettingView, SheetView
from mainspring.store import repository
from mainspring.store.repository import Change

ANYTHING: object = object()  # whatever is there
WHY_LIMIT = 500


class Sheets:
    """What is done with settings sheets."""

    def __init__(self, lines: OpenLines) -> None:
        self.lines = lines

    def view(self, line_id: str) -> SheetView:
        """The sheet for the screen."""
        return sheet_view(self.lines.open(line_id))[0]

    def put(
        self,
        line_id: str,
        setting_id: str,
        moment: str,
        value: float | str | None,
        by: str,
        seen: object = ANYTHING,
        why: str = "",
    ) -> SheetView:
        """Keep a setting as `enter` does; the sheet as it stands then."""
        return sheet_view(self.enter(line_id, setting_id, moment, value, by, seen, why))[0]

    def enter(
        self,
        line_id: str,
        setting_id: str,
        moment: str,
        value: float | str | None,
        by: str,
        seen: object = ANYTHING,
        why: str = "",
        family: str = "",
    ) -> Opened:
        """Keep a setting as found, decided or left; None takes it away. What is decided has its reason.

        `family` is the hash of the family by which it was read back. `seen` is what its maker saw there: SetBetween
        when somebody else has entered something other in between.
        """
        by = check_who(by)
        known = setting_of(setting_id)
        if known is None:
            allowed = "an id of the settings sheet, or own. and the label of a parameter of the drive"
            raise BadRecord({"setting": BadEntry("setting", setting_id[:80], allowed)})
        try:
            checked = None if value is None else known.check(value)
            least = 1 if moment == "decided" and value is not None else 0
            why = check_text("reason", why, WHY_LIMIT, least=least)
        except BadEntry as problem:
            raise BadRecord({setting_id: problem}) from None

        def decide(opened: Opened) -> Change:
            there = opened.setting(setting_id, moment)
            now = None if there is None else there.value
            same_family = there is not None and family in ("", there.family)
            if now == checked and (there is None or (there.why == why and not there.taken and same_family)):
                return Change(by)
            if there is not None and seen is not ANYTHING and now != seen:
                raise SetBetween(known.label, now, there.by)
            kept = KeptSetting(setting_id, moment, checked, by, repository.now(), why, family=family)
            return Change(by, settings=(kept,))

        return carry_out(self.lines, line_id, decide)[1]

    def take_plan(self, line_id: str, by: str) -> SheetView:
        """Enter what is decided or proposed as left where nothing else has proven or contradicted it.

        For a drive set straight from the sheet. Each is marked as taken and not read back; a setting whose value as
        found does something else than the proposed one is left open.
        """
        by = check_who(by)

        def decide(opened: Opened) -> Change:
            moment = repository.now()
            entered = [
                KeptSetting(row.row.setting.id, "left", row.to_take, by, moment, "", True)
                for row in set_rows(opened)
                if row.to_take is not None
            ]
            return Change(by, settings=tuple(entered))

        return sheet_view(carry_out(self.lines, line_id, decide)[1])[0]


def set_rows(opened: Opened) -> list[SetRow]:
    """The sheet with what was entered of it."""
    found = opened.assessment
    told = opened.judged.on_site.settings
    sheet = [*found.settings, *own_rows(opened.settings)]
    return rows_of(sheet, opened.line, found.derived, opened.family, opened.settings, told)


def own_rows(kept: Iterable[KeptSetting]) -> list[SettingRow]:
    """The drive's own parameters that somebody entered, by their labels."""
    ids = dict.fromkeys(k.setting for k in kept if k.setting.startswith(OWN))
    return [SettingRow(known, None) for id in sorted(ids) if (known := setting_of(id)) is not None]


def sheet_conflicts(opened: Opened) -> list[Conflict]:
    """Settings in force that contradict one another."""
    planned = {r.setting.id: r.planned.value for r in opened.assessment.settings if r.planned is not None}
    return conflicts_of(opened.line, opened.assessment.derived, in_force_values(opened.line, planned))


def sheet_view(opened: Opened) -> tuple[SheetView, Ledger]:
    """The sheet for the screen, and the ledger of its figures."""
    ledger = Ledger()
    family = opened.family
    entered = set_rows(opened)
    rows = [_row(ledger, row) for row in entered]
    view = SheetView(
        family=family.id,
        family_name=family.name,
        rows=rows,
        set_count=sum(r.left is not None for r in rows),
        read_count=sum(r.left is not None and not r.taken for r in rows),
        absent_count=sum(r.verdict == "absent" for r in rows),
        differs_count=sum(r.verdict == "differs" for r in rows),
        to_take=sum(r.to_take is not None for r in entered),
        conflicts=[
            ledger.show(ConflictView, c, Of.SETTING / "conflict" / c.id, severity=c.severity.word)
            for c in sheet_conflicts(opened)
        ],
    )
    return view, ledger


def _row(ledger: Ledger, entered: SetRow) -> SettingView:
    setting, planned, value = entered.row.setting, entered.row.planned, entered.planned
    parameter, found, decided, left = entered.parameter, entered.found, entered.decided, entered.left
    key = Of.SETTING / setting.id
    effect, other = entered.effect, entered.elsewhere
    return present(
        None,
        SettingView,
        setting,
        planned=ledger.figure(key, value) if isinstance(value, Figure) else None,
        planned_choice=value if isinstance(value, str) else None,
        reason=[] if planned is None else ledger.sentence(key / "reason", planned.reason),
        source="" if planned is None else str(planned.source),
        missing=entered.row.missing,
        needs=entered.row.needs,
        family=None
        if parameter is None
        else FamilyParameter(
            number=parameter.number,
            label=parameter.called(),
            words={id: parameter.word(id) or w.code for id, w in parameter.choices.items()},
        ),
        found=None if found is None else found.value,
        decided=None if decided is None else decided.value,
        decided_why="" if decided is None else decided.why,
        decided_by="" if decided is None else decided.by,
        decided_at=None if decided is None else decided.at,
        left=None if left is None else left.value,
        left_by="" if left is None else left.by,
        left_at=None if left is None else left.at,
        each=[] if setting.each is None else setting.each(entered.line),
        former=None if entered.former is None else entered.former.value,
        taken=left is not None and left.taken,
        elsewhere="" if other is None else f"{setting.choices.get(str(other.value), other.value)}, {other.by}",
        verdict=entered.verdict,
        effect=None
        if effect is None
        else EffectView(
            severity=effect.severity.word,
            title=effect.title,
            because=ledger.sentence(key / "effect", effect.because),
        ),
    )
