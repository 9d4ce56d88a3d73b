"""The settings sheet: planned, as found, as left."""

from dataclasses import dataclass

from mainspring.core.errors import BadEntry
from mainspring.core.method import Figure
from mainspring.core.settings import SETTINGS, family_of
from mainspring.core.settings.families import Parameter
from mainspring.core.settings.setting import SettingRow, same_value
from mainspring.service.commands import carry_out
from mainspring.service.errors import BadRecord, SetBetween
from mainspring.service.keys import Of
from mainspring.service.lines import check_who
from mainspring.service.opened import Opened, OpenLines
from mainspring.service.views import FamilyParameter, Ledger, SettingView, SheetView
from mainspring.store import repository
from mainspring.store.repository import Change, KeptSetting

ANYTHING: object = object()  # whatever is there


class Sheets:
    """What is done with settings sheets."""

    def __init__(self, lines: OpenLines) -> None:
        self.lines = lines

    def view(self, line_id: str) -> SheetView:
        """The sheet for the screen."""
        return sheet_view(self.lines.open(line_id))[0]

    def put(
        self, line_id: str, setting_id: str, moment: str, value: float | str | None, by: str, seen: object = ANYTHING
    ) -> SheetView:
        """Keep a setting as found or as left; None takes it away.

        `seen` is what its maker saw there: SetBetween when somebody else has entered something other in between.
        """
        by = check_who(by)
        if setting_id not in SETTINGS:
            raise BadRecord({"setting": BadEntry("setting", setting_id[:80], "an id of the settings sheet")})
        known = SETTINGS[setting_id]
        try:
            checked = None if value is None else known.check(value)
        except BadEntry as problem:
            raise BadRecord({setting_id: problem}) from None

        def decide(opened: Opened) -> Change:
            there = opened.setting(setting_id, moment)
            now = None if there is None else there.value
            if now == checked:
                return Change(by)
            if there is not None and seen is not ANYTHING and now != seen:
                raise SetBetween(known.label, now, there.by)
            return Change(by, settings=(KeptSetting(setting_id, moment, checked, by, repository.now()),))

        return sheet_view(carry_out(self.lines, line_id, decide)[1])[0]

    def take_plan(self, line_id: str, by: str) -> SheetView:
        """Enter every planned value that is still open as left: for a drive set straight from the sheet."""
        by = check_who(by)

        def decide(opened: Opened) -> Change:
            moment = repository.now()
            entered = [
                KeptSetting(row.setting.id, "left", planned_value(row), by, moment)
                for row in opened.assessment.settings
                if row.planned is not None and opened.setting(row.setting.id, "left") is None
            ]
            return Change(by, settings=tuple(entered))

        return sheet_view(carry_out(self.lines, line_id, decide)[1])[0]


def planned_value(row: SettingRow) -> float | str:
    """What is planned, as it is kept."""
    assert row.planned is not None
    value = row.planned.value
    return float(value) if isinstance(value, Figure) else value


@dataclass(frozen=True)
class SetRow:
    """One line of a sheet: what is planned, what a make calls it, what was found and left, and by whom."""

    row: SettingRow
    parameter: Parameter | None
    found: KeptSetting | None
    left: KeptSetting | None

    @property
    def planned(self) -> Figure | str | None:
        """The planned value."""
        return None if self.row.planned is None else self.row.planned.value

    @property
    def verdict(self) -> str:
        """open, unplanned, same or differs."""
        if self.left is None:
            return "open"
        if self.planned is None:
            return "unplanned"
        return "same" if same_value(self.planned, self.left.value, exact=self.row.setting.exact) else "differs"


def set_rows(opened: Opened) -> list[SetRow]:
    """The sheet with what was entered of it."""
    family = family_of(opened.line.value("drive.family"))
    kept = {(s.setting, s.moment): s for s in opened.settings}
    return [
        SetRow(
            row,
            family.parameter(row.setting.id),
            kept.get((row.setting.id, "found")),
            kept.get((row.setting.id, "left")),
        )
        for row in opened.assessment.settings
    ]


def sheet_view(opened: Opened) -> tuple[SheetView, Ledger]:
    """The sheet for the screen, and the ledger of its figures."""
    ledger = Ledger()
    family = family_of(opened.line.value("drive.family"))
    rows = [_row(ledger, row) for row in set_rows(opened)]
    view = SheetView(
        family=family.id,
        family_name=family.name,
        rows=rows,
        set_count=sum(r.left is not None for r in rows),
        differs_count=sum(r.verdict == "differs" for r in rows),
    )
    return view, ledger


def _row(ledger: Ledger, entered: SetRow) -> SettingView:
    setting, planned, value = entered.row.setting, entered.row.planned, entered.planned
    parameter, found, left = entered.parameter, entered.found, entered.left
    key = Of.SETTING / setting.id
    return SettingView(
        id=setting.id,
        group=setting.group,
        label=setting.label,
        dimension=setting.dimension,
        choices=setting.choices,
        planned=ledger.figure(key, value) if isinstance(value, Figure) else None,
        planned_choice=value if isinstance(value, str) else None,
        reason=[] if planned is None else ledger.sentence(key / "reason", planned.reason),
        source="" if planned is None else str(planned.source),
        wrong=setting.wrong,
        missing=entered.row.missing,
        needs=entered.row.needs,
        family=None if parameter is None else FamilyParameter.model_validate(parameter, from_attributes=True),
        found=None if found is None else found.value,
        left=None if left is None else left.value,
        left_by="" if left is None else left.by,
        left_at=None if left is None else left.at,
        verdict=entered.verdict,
    )
