"""The sheet at the keypad: one parameter at a time, in the drive's own order, and what the display reads back."""

from typing import Any

from pydantic import BaseModel

from mainspring.core.errors import BadEntry
from mainspring.core.families import KEYS, keypad_steps
from mainspring.core.families.changes import changes_between
from mainspring.core.families.dial import read_back, whole_of
from mainspring.core.families.keypad import KeypadStep, without_parameter
from mainspring.core.families.sheet import SetRow
from mainspring.core.settings import SETTINGS
from mainspring.core.settings.own import OWN
from mainspring.exchange.pdf import laid_out
from mainspring.service.families import ChangeView, Families, change_view, wanted_values
from mainspring.service.keys import Of
from mainspring.service.lines import check_who
from mainspring.service.opened import Opened
from mainspring.service.present import present
from mainspring.service.sheet import Sheets, set_rows
from mainspring.service.views import Ledger, Part
from mainspring.store import repository


class DialledView(BaseModel):
    """One field to dial: its number, and the text."""

    number: str
    text: str


class KeyView(BaseModel):
    """One parameter at the keypad."""

    setting: str
    label: str  # the neutral one
    definition: str
    number: str
    called: str  # the display's
    page: str
    way: str
    fields: list[DialledView]
    text: str
    says: str
    choices: dict[str, str]  # code and word by choice, for reading back by a touch
    wanted: float | str
    dimension: str | None
    rounded: bool
    holds: float | str
    problem: str
    hidden: str
    word: str
    siblings: list[str]
    stopped: bool
    cycle: bool
    doubt: str
    proven: str
    reason: list[Part]
    decided: str  # by whom and why, where it is not the proposed value
    found: float | str | None
    left: float | str | None
    verdict: str
    moved: str  # why it does not stand where its number puts it


class OlderView(BaseModel):
    """A version of the family by which settings were read back before, and what is otherwise now."""

    digest: str
    settings: int
    changes: list[ChangeView]


class KeypadView(BaseModel):
    """The sheet in the order of the drive's keypad."""

    family: str
    family_name: str
    about: str
    keys: dict[str, str]  # what is done to it, and how at this keypad
    languages: list[str]
    digest: str
    steps: list[KeyView]
    without: list[str]  # labels of settings that the family has no parameter for
    older: list[OlderView]


class Keypads:
    """What is done at keypads."""

    def __init__(self, families: Families, sheets: Sheets) -> None:
        self.families, self.sheets, self.lines = families, sheets, families.lines

    def view(self, opened: Opened, language: str = "") -> KeypadView:
        """The keypad of a line's drive, its labels and words in a language that the family has."""
        ledger, family = Ledger(), opened.family
        rows = {r.row.setting.id: r for r in set_rows(opened)}
        values = {id: r.wanted for id, r in rows.items() if r.wanted is not None}
        left = sum(r.left is not None for id, r in rows.items() if id != "reset.factory_before")
        return present(
            None,
            KeypadView,
            family,
            family=family.id,
            family_name=family.name,
            keys={KEYS[k]: text for k, text in family.keys.items()},
            steps=[_key(ledger, rows[s.setting.id], s, language, left) for s in keypad_steps(family, values)],
            without=[rows[s].row.setting.label for s in without_parameter(family, values)],
            older=self._older(opened),
        )

    def pdf(self, opened: Opened, units: str, paper: str) -> bytes:
        """The keypad on paper: what to dial in the drive's order, with room for what is read back."""
        view = self.view(opened)
        told = list(view.keys.items())
        without = ", ".join(view.without)
        pdf: bytes = laid_out(
            "keypad.html",
            units,
            paper=paper,
            site=opened.site.name,
            tag=opened.kept.tag,
            title=opened.kept.title,
            printed=f"{repository.now():%Y-%m-%d %H:%M} UTC",
            view=view,
            told=told,
            without=without,
        ).write_pdf()
        return pdf

    def _older(self, opened: Opened) -> list[OlderView]:
        """Versions by which settings were left, where what they dial is otherwise in the version in force."""
        now = opened.family
        by: dict[str, list[str]] = {}
        for kept in opened.settings:
            if kept.moment == "left" and kept.family and kept.family != now.digest:
                by.setdefault(kept.family, []).append(kept.setting)
        found = []
        for digest, settings in by.items():
            before = self.families.version(digest)
            if before.id != now.id:
                continue
            numbers = {p.number for p in (*before.parameters, *now.parameters) if p.setting in settings}
            changes = [c for c in changes_between(before, now) if c.number in numbers]
            views = [change_view(c) for c in changes]
            found.append(OlderView(digest=digest, settings=len(settings), changes=views))
        return found

    def put(
        self, line_id: str, setting: str, moment: str, text: str, seen: Any, by: str, language: str = ""
    ) -> KeypadView:
        """Keep what stands on the display for a setting, as found or as left; BadEntry for what cannot stand."""
        opened = self.lines.open(line_id)
        parameter = opened.family.parameter(setting)
        if setting.startswith(OWN):
            return self.view(self.sheets.enter(line_id, setting, moment, text.strip() or None, by, seen), language)
        if parameter is None or setting not in SETTINGS:
            raise BadEntry("setting", setting[:80], f"one that {opened.family.name} has a parameter for")
        values = wanted_values(opened)
        value = read_back(parameter, SETTINGS[setting], text, whole_of(values), values.get(setting))
        self.families.remember(opened.family, check_who(by))
        entered = self.sheets.enter(line_id, setting, moment, value, by, seen, family=opened.family.digest)
        return self.view(entered, language)


def _key(ledger: Ledger, row: SetRow, step: KeypadStep, language: str, left: int) -> KeyView:
    p, planned = step.parameter, row.row.planned
    proven = "" if p.proven is None else f"{p.proven.by}, {p.proven.on.isoformat()}"
    return present(
        None,
        KeyView,
        p,
        setting=step.setting.id,
        label=step.setting.label,
        definition=step.setting.means,
        called=p.called(language),
        way=step.way,
        fields=[DialledView(number=n, text=t) for n, t in step.dial.fields],
        text=step.dial.text,
        says=p.word(str(step.wanted), language) or step.dial.says,
        choices={id: " ".join(filter(None, (w.code, p.word(id, language)))) for id, w in p.choices.items()},
        wanted=step.wanted,
        dimension=step.setting.dimension,
        rounded=step.dial.rounded,
        holds=step.dial.holds,
        problem=step.dial.problem,
        hidden=step.hidden,
        word=step.word,
        siblings=[SETTINGS[s].label for s in step.siblings],
        proven=proven,
        reason=[] if planned is None else ledger.sentence(Of.SETTING / step.setting.id / "reason", planned.reason),
        decided="" if row.decided is None else f"Decided by {row.decided.by}: {row.decided.why}",
        found=None if row.found is None else row.found.value,
        left=None if row.left is None else row.left.value,
        verdict=row.verdict,
        moved=step.moved + _would_wipe(step, left),
    )


def _would_wipe(step: KeypadStep, left: int) -> str:
    """What a reset would undo now."""
    if step.setting.id != "reset.factory_before" or step.wanted != "yes" or not left:
        return ""
    return f" {left} settings are read back already: resetting now wipes them, unless they are entered once more."
