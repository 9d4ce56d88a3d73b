"""What every kind of proof answers, and how one is declared."""

from collections.abc import Callable, Iterable, Mapping
from dataclasses import dataclass, field
from typing import Any, ClassVar

from mainspring.core.method import Figure, given
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.rules import AllOf, Ask, Form, Number, OneOf, Option
from mainspring.core.procedure.step import YES, Reading, Step
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.sentence import in_sentence, show

Told = list[str | Figure]
Answer = tuple[str, dict[str, Any], float]  # kind, data, seconds to wait before it
Read = Callable[[Reading, Figure | None, int], float]  # what an instrument shows, by reading, expectation and order


@dataclass
class Paper:
    """A step on paper: blanks with label and expectation, boxes to tick, and a table to fill in."""

    blanks: list[tuple[str, str]] = field(default_factory=list)
    boxes: list[str] = field(default_factory=list)
    heads: list[str] = field(default_factory=list)
    rows: list[list[str]] = field(default_factory=list)


class Proof:
    """A kind of proof: all that differs for it, side by side."""

    id: ClassVar[str]
    words: ClassVar[str]  # what proves a step

    def forms(self, step: Step) -> dict[str, Form]:
        """What its entries must hold, by kind of entry: the device and the server judge by nothing else."""
        raise NotImplementedError

    def told(self, evidence: Evidence, step: Step) -> Told:
        """What the story says of it."""
        return ["done"]

    def on_paper(self, step: Step, system: str) -> Paper:
        """How it stands on the printed sheet."""
        return Paper(boxes=list(step.items.values()))

    def sample(self, step: Step, read: Read) -> list[Answer]:
        """Evidence that would prove the step, with what an instrument shows."""
        return []


_NEVER_BELOW_ZERO = ("voltage", "current", "speed", "input_power", "frequency", "signal", "flow", "time", "count")


def numbers(readings: Iterable[Reading]) -> tuple[Number, ...]:
    """The numbers that readings ask."""
    return tuple(
        Number(
            **{
                **vars(r),
                "expected": None if r.expected is None else float(r.expected),
                "positive": r.low is not None or r.dimension in _NEVER_BELOW_ZERO,
            }
        )
        for r in readings
    )


def items(step: Step) -> tuple[AllOf, ...]:
    """Its list, each to be seen."""
    return (AllOf(step.title, step.items),) if step.items else ()


def options(step: Step) -> dict[str, Option]:
    """Its ways of doing it."""
    return {
        n: Option(s.label, None if s.expected is None else float(s.expected), s.asks_why)
        for n, s in step.schools.items()
    }


def way(step: Step) -> tuple[Ask, ...]:
    """The way of doing it that is taken, the first where none is named."""
    return (OneOf("school", "way of doing it", options(step), usual=True),) if step.schools else ()


def explains(step: Step) -> bool:
    """Whether a note may excuse what lies out of its band."""
    return not step.safety or (step.table is not None and not step.table.strict)


def told_readings(data: Mapping[str, Any], readings: tuple[Reading, ...]) -> Told:
    """Readings of a piece in words."""
    told: Told = []
    for reading in readings:
        value = data.get(reading.id)
        if isinstance(value, (int, float)):
            told += [f"{in_sentence(reading.label)} ", given(reading.id, value, reading.dimension), ", "]
    return told


def told_items(data: Mapping[str, Any], items: Mapping[str, str]) -> Told:
    """Items of a piece in words."""
    return [f"{in_sentence(name.split(':')[0])}, " for key, name in items.items() if data.get(key) == YES]


def told_school(data: Mapping[str, Any], step: Step) -> Told:
    """The way of doing it in words."""
    school = step.schools.get(str(data.get("school")))
    return [] if school is None else [f"{in_sentence(school.label)}, "]


def unit_of(dimension: str, system: str) -> str:
    """Symbol of the unit that a system shows."""
    return DIMENSIONS[dimension].symbol(system)


def blanks_of(step: Step, system: str) -> list[tuple[str, str]]:
    """A blank for each reading, with what is expected."""
    return [
        (
            f"{r.label}, {unit_of(r.dimension, system)}",
            "" if r.expected is None else f"expect {show(r.expected, system)}",
        )
        for r in step.readings
    ]


def school_boxes(step: Step, system: str) -> list[str]:
    """A box for each way of doing it."""
    return [
        f"{s.label}{'' if s.expected is None else f', expect {show(s.expected, system)}'}"
        for s in step.schools.values()
    ]
