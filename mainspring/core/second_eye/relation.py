"""Relations between the entries of a line, and how much a disagreement weighs."""

import math
from collections.abc import Callable, Iterable
from typing import Any

from mainspring.core.line import Line, find_field
from mainspring.core.line.fields import Points, Quantity
from mainspring.core.line.stations import GROUPS

Values = dict[str, Any]  # by field path: numbers in SI, rows of numbers
_NUMBERS = frozenset(
    f"{group.id}.{name}" for group in GROUPS.values() for name, field in group.fields.items()
    if isinstance(field, (Quantity, Points))
)  # fmt: skip
_OF_A_PLATE = ("supply", "drive", "motor")  # whose volts, amps and power have the same names
INPUT_RANGE = ("drive.input_voltage_low", "drive.input_voltage_high")
# input ranges that drives are made for [V], common practice, no source: one on another supply is the wrong drive
DRIVE_CLASSES = frozenset({
    (100, 120), (110, 120), (115, 120), (200, 240), (208, 240), (220, 240), (230, 240), (380, 415), (380, 440),
    (380, 480), (380, 500), (400, 480), (400, 500), (440, 480), (440, 500), (460, 480), (500, 600), (525, 600),
    (500, 690), (525, 690), (575, 600), (660, 690),
})  # fmt: skip
GROSS = 20.0  # spreads; nothing counts for more


class Facts:
    """A line's entries as plain numbers, and its choices and traits."""

    def __init__(self, line: Line) -> None:
        self.line = line
        self.traits = line.traits
        self.values: Values = {
            path: entry.value
            for group, entries in line.entries.items()
            for name, entry in entries.items()
            if (path := f"{group}.{name}") in _NUMBERS
        }

    def choice(self, path: str) -> Any:
        """What was chosen, or None."""
        return self.line.value(path)

    def typed(self, path: str) -> str:
        """What was typed, with its unit; empty where it is not known."""
        group, _, name = path.partition(".")
        return self.line.entries[group][name].typed

    def may_be_wrong(self, path: str) -> bool:
        """Whether nobody has upheld the entry, and it is not half of a pair that only a plate gives."""
        group, _, name = path.partition(".")
        if path in INPUT_RANGE and tuple(round(self.values.get(p, 0.0)) for p in INPUT_RANGE) in DRIVE_CLASSES:
            return False
        return not self.line.entries[group][name].upheld


class Relation:
    """What several entries say of each other, in one number that lies in a band on a right line.

    `measure` takes the entries in the order of `fields` and gives the number, mostly a logarithm of a ratio; `spread`
    is how far beyond the band right lines stray. `words` name the witness in a sentence: "the drive's amps"; where they
    are the words of one of the fields, `names` is that field. A `range` has one field: what is plausible of it,
    whatever the others say; it asks and never accuses.
    """

    __slots__ = ("fields", "high", "low", "measure", "names", "spread", "words")

    def __init__(
        self,
        words: str,
        fields: tuple[str, ...],
        low: float,
        high: float,
        spread: float,
        measure: Callable[..., float],
        names: str = "",
    ) -> None:
        self.words, self.fields, self.low, self.high = words, fields, low, high
        self.spread, self.measure, self.names = spread, measure, names

    def witness_against(self, field: str) -> str:
        """Who speaks against one of the fields, or for it: never that field itself."""
        if field != self.names:
            return self.words
        other = find_field(next(f for f in self.fields if f != field))
        group = other.path.partition(".")[0]
        return f"the {group}'s {other.spoken}" if group in _OF_A_PLATE else f"the {other.spoken}"

    @property
    def is_range(self) -> bool:
        """Whether it speaks of one number alone; a curve speaks of itself."""
        return len(self.fields) == 1 and not self.fields[0].endswith("curve")

    def strain(self, values: Values) -> float:
        """How far outside its band, in spreads and half a spread more; 0 inside."""
        try:
            x = self.measure(*[values[f] for f in self.fields])
        except (ValueError, ZeroDivisionError, OverflowError):
            return GROSS
        if self.low <= x <= self.high:
            return 0.0
        excess = self.low - x if x < self.low else x - self.high
        return min(excess / self.spread + 0.5, GROSS) if excess == excess else GROSS


def misfit(strain: float) -> float:
    """What a strain weighs: heavy tails, so that one gross contradiction does not drown the rest."""
    return 3.0 * math.log1p(strain * strain / 6.0) if strain else 0.0


class Relations:
    """Those that a line has the entries for."""

    def __init__(self, facts: Facts) -> None:
        self.facts = facts
        self.found: list[Relation] = []

    def add(
        self,
        words: str,
        fields: tuple[str, ...],
        band: tuple[float, float],
        spread: float,
        measure: Callable[..., float],
        names: str = "",
    ) -> None:
        """A relation, where all its entries are there."""
        values = self.facts.values
        for path in fields:
            if path not in values:
                return
        self.found.append(Relation(words, fields, band[0], band[1], spread, measure, names))

    def ratio(
        self, words: str, over: str, under: str, band: tuple[float, float], spread: float, *, names: str = ""
    ) -> None:
        """One entry over another, as a logarithm; the words are those of the other, unless said."""
        self.add(words, (over, under), band, spread, _log_ratio, names or under)


def _log_ratio(over: float, under: float) -> float:
    return math.log(over / under)


def near(value: float, listed: Iterable[float]) -> float:
    """Log distance to the nearest of a list."""
    return min(abs(math.log(value / one)) for one in listed)
