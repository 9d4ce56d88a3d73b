"""A line of the settings sheet: what is proposed, found, decided and left, and what that comes to on its make."""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass

from mainspring.core.checks.finding import Severity
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError
from mainspring.core.families.dial import Dial, Whole, dial, nothing_known, same_to_the_drive, whole_of
from mainspring.core.families.family import Family, Parameter
from mainspring.core.line import Line, Told
from mainspring.core.method import Figure
from mainspring.core.sentence import say
from mainspring.core.settings.deviations import value_effect
from mainspring.core.settings.effect import Effect
from mainspring.core.settings.kept import KeptSetting
from mainspring.core.settings.setting import SettingRow, same_value


@dataclass(frozen=True)
class SetRow:
    """One line of a sheet: what is proposed, found, decided and left, by whom, and what a make calls it."""

    row: SettingRow
    parameter: Parameter | None
    absent: bool  # the drive has none, and nobody has entered or decided a value
    found: KeptSetting | None
    decided: KeptSetting | None
    left: KeptSetting | None
    former: KeptSetting | None  # as left in the drive that this one has replaced
    elsewhere: Told | None  # in force by another sheet
    line: Line
    derived: Derived
    whole: Whole = nothing_known  # values of other settings, where the display shows percent of one

    @property
    def dial(self) -> Dial | None:
        """What is dialled for it on its make, where that is known."""
        if self.parameter is None or self.wanted is None:
            return None
        try:
            return dial(self.parameter, self.row.setting, self.wanted, self.whole)
        except MainspringError:
            return None  # its unit is none of the setting's; the family's problems say so

    @property
    def planned(self) -> Figure | str | None:
        """The proposed value."""
        return None if self.row.planned is None else self.row.planned.value

    @property
    def wanted(self) -> float | str | None:
        """What is to be set: as decided, else as proposed."""
        if self.decided is not None:
            value: float | str = self.decided.value
            return value
        return None if self.row.planned is None else planned_value(self.row)

    def _same(self, kept: KeptSetting) -> bool:
        setting, wanted = self.row.setting, self.wanted
        if wanted is None or same_value(wanted, kept.value, exact=setting.exact):
            return True
        if setting.exact or self.parameter is None:
            return False
        return same_to_the_drive(self.parameter, setting, wanted, kept.value, self.whole)

    @property
    def to_take(self) -> float | str | None:
        """What may be entered as left unread: nothing has been left, and nothing found speaks against it."""
        if self.left is not None or self.elsewhere is not None or self.absent:
            return None
        return None if self.found is not None and not self._same(self.found) else self.wanted

    @property
    def verdict(self) -> str:
        """absent, open, unplanned, taken, same, decided or differs."""
        if self.absent:
            return "absent"
        if self.left is None:
            return "open"
        if self.wanted is None:
            return "unplanned"
        if not self._same(self.left):
            return "differs"
        return "taken" if self.left.taken else "decided" if self.decided is not None else "same"

    @property
    def effect(self) -> Effect | None:
        """What the value does that is there: as left, else as decided, else as found."""
        last = self.left or self.decided or self.found
        if last is None:
            return None
        if self.left is not None and self.decided is not None and not self._same(self.left):
            return Effect(Severity.CAUTION, "Not as decided", say("The drive was left otherwise than decided."))
        return value_effect(self.line, self.derived, self.row, last.value, last.moment)


def rows_of(
    sheet: Iterable[SettingRow],
    line: Line,
    derived: Derived,
    family: Family,
    kept: Iterable[KeptSetting],
    told: Mapping[str, Told],
) -> list[SetRow]:
    """The sheet with what was entered of it, here or on the run sheet (`told`)."""
    entered = {(s.setting, s.moment): s for s in kept}
    values: dict[str, float | str] = {}  # filled with the rows, and asked when one is shown
    rows = []
    for row in sheet:
        id = row.setting.id
        found, decided, left, former = (entered.get((id, moment)) for moment in ("found", "decided", "left", "former"))
        other = told.get(id)
        if other is not None and other.how == "left" and other.at is not None and (left is None or left.at < other.at):
            left = KeptSetting(id, "left", other.value, other.by, other.at)  # read back on the run sheet
        last = left or decided
        rows.append(
            SetRow(
                row,
                family.parameter(id),
                absent=family.lacks(id) and (found or decided or left) is None,
                found=found,
                decided=decided,
                left=left,
                former=former,
                elsewhere=other if other is not None and (last is None or other.at != last.at) else None,
                line=line,
                derived=derived,
                whole=whole_of(values),
            )
        )
    values.update({r.row.setting.id: r.wanted for r in rows if r.wanted is not None})
    return rows


def planned_value(row: SettingRow) -> float | str:
    """What is planned, as it is kept."""
    assert row.planned is not None
    value = row.planned.value
    return float(value) if isinstance(value, Figure) else value
