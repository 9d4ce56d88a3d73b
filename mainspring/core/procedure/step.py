"""What a step of the run sheet is: what to do, why, how it is proven, what holds it and what it holds."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, field
from datetime import datetime
from functools import cached_property
from typing import Any

from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError, NotKnown
from mainspring.core.line import Line
from mainspring.core.method import Figure
from mainspring.core.procedure.evidence import ANY_TIME, Evidence, leaves_of
from mainspring.core.sentence import Sentence
from mainspring.core.settings.setting import SETTINGS

PHASES = {
    "visit": "This visit",
    "isolate": "Isolate and wait",
    "power": "First power",
    "data": "Set the drive",
    "many": "More than one",
    "turn": "First turn",
    "signals": "Signals",
    "loop": "Close the loop",
    "finish": "Hand over",
}
NEWS = 3.0  # standard uncertainties
LEAST_SHARE = 0.7  # of what the trade allows
YES = 1.0  # how a thing seen is kept beside numbers


@dataclass(frozen=True)
class Band:
    """One number to read: its kind, what is expected, and between what it passes.

    `tolerance` is a share of the expected value, `band` the same in units of the reading. A difference up to `least`
    says nothing: displays and gauges do not tell it apart. Beyond `gross` no explanation is taken: the thing does not
    work.
    """

    id: str
    label: str
    dimension: str
    expected: float | None = None
    low: float | None = None
    high: float | None = None
    tolerance: float | None = None
    least: float = 0.0
    band: float | None = None
    gross: float | None = None
    optional: bool = False
    twice: bool = False  # read once more, since it must be right to the last digit
    read: float | None = None  # what was read of it already, at another place
    read_by: str = ""

    def fits(self, value: float, expected: float | None, within: float | None = None) -> bool:
        """Whether a number passes: inside its limits, and close enough to what is expected.

        `within` is how close, where that is known of this one number.
        """
        if (self.low is not None and value < self.low) or (self.high is not None and value >= self.high):
            return False
        if expected is None:
            return True
        off = abs(value - expected)
        if within is not None:
            return off <= within * (1 + 1e-9)
        if self.band is not None:
            return off <= self.band * (1 + 1e-9)
        return self.tolerance is None or off <= max(self.tolerance * abs(expected), self.least)

    def hopeless(self, value: float, expected: float | None) -> bool:
        """Whether a number is so far off that no note will do."""
        return expected is not None and self.gross is not None and abs(value - expected) > self.gross


@dataclass(frozen=True)
class Reading(Band):
    """A number to read, with the figure that is expected of it."""

    expected: Figure | None = None


@dataclass(frozen=True)
class StepTable:
    """Rows to read at several references, each cell with its prediction."""

    references: tuple[Figure, ...]
    columns: tuple[Reading, ...]
    expected: tuple[Mapping[str, Figure], ...]
    missing: str = ""
    all_rows: bool = False  # or only the last one
    bounds: tuple[Figure, ...] = ()  # limits in force by which its rows were chosen: every row rests on them
    not_asked: frozenset[float] = frozenset()  # references at which it does not run, by the limits in force
    strict: bool = False  # no word excuses what lies out of its band
    fills: tuple[str, ...] = ()  # a reading that another of these stands in for
    uncertain: tuple[Mapping[str, float], ...] = ()  # of what is expected: standard uncertainty, row by row

    def within(self, row: int, column: "Reading") -> float | None:
        """How far off a reading of a row may lie before it is news, where its uncertainty is known.

        Three uncertainties; never less than seven tenths of what the trade allows: a right reading is not held up.
        """
        uncertain = self.uncertain[row].get(column.id) if self.uncertain else None
        if uncertain is None:
            return None
        usual = (column.tolerance or 0.0) * abs(float(self.expected[row][column.id]))
        return max(NEWS * uncertain, LEAST_SHARE * usual, column.least)

    def leaves(self, reference: float) -> dict[str, Any]:
        """What a row rests on: its own predictions, and the bounds of the table."""
        if reference not in self._leaves:
            row = next(i for i, r in enumerate(self.references) if float(r) == reference)
            self._leaves[reference] = leaves_of((*self.expected[row].values(), *self.bounds))
        return self._leaves[reference]

    @cached_property
    def _leaves(self) -> dict[float, dict[str, Any]]:
        return {}  # filled row by row: a file brings thousands of pieces for one step


@dataclass(frozen=True)
class School:
    """One of two ways the trade does it, with its reason and, for a reading, what it leads one to expect."""

    label: str
    why: str
    expected: Figure | None = None
    asks_why: bool = False  # who takes it says why, and it stays visible


@dataclass(frozen=True)
class Step:
    """One step of the run sheet.

    `safety` marks what guards people or machine: it is never overridden. `skip` says what is lost by going on without
    the step; empty, the step cannot be left out either.
    """

    id: str
    title: str
    what: Sentence
    why: str
    proof: str
    danger: str = ""
    after: tuple[str, ...] = ()  # ids of steps, or a phase and a dot for all of it
    readings: tuple[Reading, ...] = ()
    choices: Mapping[str, str] | None = None
    right: str = ""  # the choice that proves the step, * for any
    wrong: str = ""  # what to do when it does not come right
    items: Mapping[str, str] = field(default_factory=dict)
    units: int = 0
    schools: Mapping[str, School] = field(default_factory=dict)
    seconds: Figure | None = None
    table: StepTable | None = None
    rests_on: tuple[Figure, ...] = ()
    chosen: Mapping[str, str | None] = field(default_factory=dict)  # choices that shaped it, by field path
    held_by: tuple[str, ...] = ()  # open stop findings that hold this step
    safety: bool = True
    skip: str = ""
    gates: tuple[str, ...] = ()  # steps that wait for this one; filled in by the plan
    since: datetime | None = None  # what was proven up to here counts no more
    visit: str = ""  # of a step that each visit does anew: what was proven in another counts not
    reopens: tuple[str, ...] = ()  # what a wrong answer here opens anew
    behind: str = ""  # what it may leave behind that must be put back

    @property
    def phase(self) -> str:
        """The phase it stands in."""
        return self.id.split(".")[0]

    @cached_property
    def leaves(self) -> dict[str, Any]:
        """What a piece of evidence rests on that is no row of a table."""
        return {**leaves_of(self.rests_on), **self.chosen}

    def counts(self, evidence: Evidence) -> bool:
        """Whether a piece of evidence is not of before it had to be proven anew.

        What was changed for the work stays changed from visit to visit, until it is back.
        """
        if evidence.kind in ANY_TIME:
            return True
        if self.visit and evidence.visit != self.visit:
            return False
        return self.since is None or evidence.at > self.since


def known(*getters: Callable[[], Figure]) -> tuple[Figure, ...]:
    """The figures that can be told now."""
    found = []
    for get in getters:
        try:
            found.append(get())
        except MainspringError:
            continue
    return tuple(found)


def first_known(*getters: Callable[[], Figure]) -> Figure | None:
    """The first of the figures that can be told now."""
    return next(iter(known(*getters)), None)


def planned(line: Line, derived: Derived, *groups: str) -> tuple[Figure, ...]:
    """Figures of the settings of some groups: evidence that they were entered rests on these."""

    def getter(plan: Callable[..., object]) -> Callable[[], Figure]:
        def get() -> Figure:
            value = plan(line, derived).value  # type: ignore[attr-defined]
            if not isinstance(value, Figure):
                raise NotKnown("choice", "a number")
            return value

        return get

    return known(*(getter(s.plan) for s in SETTINGS.values() if s.group in groups))
