"""How the evidence of a step is judged, as data.

The server judges by it, hands it out whole with the step, and the device judges by it too (`web/src/lib/run/rules.ts`).
Both run through the cases in `tests/data/judgement_cases.json`, so that what one takes the other takes.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field

from mainspring.core.procedure.step import Reading, Step

_NEVER_BELOW_ZERO = ("voltage", "current", "speed", "input_power", "frequency", "signal", "flow", "time", "count")
LARGEST = 1e9  # SI; no reading of the trade is larger


@dataclass(frozen=True)
class NumberRule(Reading):
    """How one number is judged: a reading whose expectation is plain, and `positive` where it cannot be below zero."""

    positive: bool = False


@dataclass(frozen=True)
class RowRule:
    """A row of a table: where it is read, and what each column is expected to show."""

    reference: float
    expected: Mapping[str, float]


@dataclass(frozen=True)
class SchoolRule:
    """One way of doing it: what it leads one to expect, and whether who takes it says why."""

    label: str
    expected: float | None = None
    asks_why: bool = False


@dataclass(frozen=True)
class Rules:
    """Everything that decides what proves a step, what a note may excuse, what it waits for and what holds it."""

    step: str
    title: str
    proof: str
    safety: bool = True
    skippable: bool = False
    after: tuple[str, ...] = ()
    stops: tuple[str, ...] = ()
    numbers: tuple[NumberRule, ...] = ()
    rows: tuple[RowRule, ...] = ()
    row_dimension: str = "ratio"
    every_row: bool = False  # or only the last one, and a row is what it is
    explains: bool = False  # a note may excuse a number out of its band
    choices: tuple[str, ...] = ()
    right: str = ""  # the choice that proves it, * for any
    items: Mapping[str, str] = field(default_factory=dict)
    units: int = 0
    schools: Mapping[str, SchoolRule] = field(default_factory=dict)
    seconds: float | None = None
    reopens: tuple[str, ...] = ()  # steps that a failed answer opens anew, until the server says so itself


def _number(reading: Reading) -> NumberRule:
    plain = None if reading.expected is None else float(reading.expected)
    positive = reading.low is not None or reading.dimension in _NEVER_BELOW_ZERO
    return NumberRule(**{**vars(reading), "expected": plain, "positive": positive})


def rules_of(step: Step) -> Rules:
    """The rules of a step."""
    table = step.table
    rows: tuple[RowRule, ...] = ()
    if table is not None:
        expected = table.expected or ({},) * len(table.references)
        rows = tuple(
            RowRule(float(r), {c: float(f) for c, f in e.items()})
            for r, e in zip(table.references, expected, strict=True)
        )
    return Rules(
        step=step.id,
        title=step.title,
        proof=step.proof,
        safety=step.safety,
        skippable=bool(step.skip) and not step.safety,
        after=step.after,
        stops=step.held_by,
        numbers=tuple(_number(r) for r in (table.columns if table is not None else step.readings)),
        rows=rows,
        row_dimension="ratio" if table is None else table.references[0].dimension or "ratio",
        every_row=table is not None and table.all_rows,
        explains=not step.safety or (table is not None and not table.strict),
        choices=tuple(step.choices or ()),
        right=step.right,
        items=dict(step.items),
        units=step.units,
        schools={
            n: SchoolRule(s.label, None if s.expected is None else float(s.expected), s.asks_why)
            for n, s in step.schools.items()
        },
        seconds=None if step.seconds is None else float(step.seconds),
        reopens=step.reopens,
    )


def fits(rule: NumberRule, value: float, expected: float | None) -> bool:
    """Whether a number passes: inside its limits, and close enough to what is expected."""
    if rule.low is not None and value < rule.low:
        return False
    if rule.high is not None and value >= rule.high:
        return False
    if expected is None:
        return True
    off = abs(value - expected)
    if rule.band is not None:
        return off <= rule.band * (1 + 1e-9)
    return rule.tolerance is None or off <= max(rule.tolerance * abs(expected), rule.least)


def hopeless(rule: NumberRule, value: float, expected: float | None) -> bool:
    """Whether a number is so far off that no note will do."""
    return expected is not None and rule.gross is not None and abs(value - expected) > rule.gross
