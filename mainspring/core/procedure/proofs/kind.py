"""What every kind of proof answers, and how one is declared."""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field, replace
from typing import Any, ClassVar

from mainspring.core.errors import BadEntry, shown
from mainspring.core.method import Figure, given
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.rules import LARGEST, NumberRule, Rules, fits, hopeless
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
    kind: ClassVar[str]  # what its evidence is called
    words: ClassVar[str]  # what proves a step

    @property
    def kinds(self) -> tuple[str, ...]:
        """Kinds of evidence that count for it."""
        return (self.kind,)

    def judge(self, rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: list[Evidence]) -> Evidence:
        """The evidence as it will be kept. Raises BadEntry for what cannot be taken, Held for what is too early."""
        raise NotImplementedError

    def in_force(self, mine: list[Evidence]) -> list[Evidence]:
        """Of the step's own evidence in order, what counts now."""
        return mine[-1:]

    def lacking(self, rules: Rules, mine: list[Evidence]) -> tuple[str, ...]:
        """What is still to be proven, of a step made of parts."""
        return ()

    def told(self, evidence: Evidence, step: Step) -> Told:
        """What the story says of it."""
        return ["done"]

    def on_paper(self, step: Step, system: str) -> Paper:
        """How it stands on the printed sheet."""
        return Paper(boxes=list(step.items.values()))

    def sample(self, step: Step, read: Read) -> list[Answer]:
        """Evidence that would prove the step, with what an instrument shows."""
        return [(self.kind, {}, 0.0)]


def part_of(evidence: Evidence) -> object:
    """Which part of a step a piece is about: a row or a unit; None for the whole."""
    return evidence.data.get("reference", evidence.data.get("unit"))


def number(rule: NumberRule, value: object) -> float:
    """A number as read, or BadEntry."""
    if isinstance(value, bool) or not isinstance(value, (int, float)) or not abs(value) < LARGEST:
        raise BadEntry(rule.label, value, f"a reading in {DIMENSIONS[rule.dimension].si}")
    if value < 0 and rule.positive:
        raise BadEntry(rule.label, shown(float(value)), "not below 0")
    return float(value)


def numbers(rules: tuple[NumberRule, ...], data: Mapping[str, Any]) -> dict[str, float]:
    """The numbers wanted, optional ones where given; those to be read twice must say the same twice."""
    found = {r.id: number(r, data.get(r.id)) for r in rules if not (r.optional and data.get(r.id) is None)}
    for rule in rules:
        if rule.twice and rule.id in found:
            again = number(rule, data.get(f"{rule.id}.again"))
            if not math.isclose(again, found[rule.id], rel_tol=1e-9):
                raise BadEntry(f"{rule.label}, read again", shown(again), f"the same as before, {found[rule.id]:.10g}")
    return found


def in_bands(
    rules: Rules, made: Evidence, values: Mapping[str, float], expected: Mapping[str, float | None]
) -> Evidence:
    """Passed inside the bands, or explained where an explanation is enough."""
    out = [n for n in rules.numbers if n.id in values and not fits(n, values[n.id], expected.get(n.id))]
    if not out:
        return made
    may = rules.explains and not any(hopeless(n, values[n.id], expected.get(n.id)) for n in out)
    return replace(made, data={**made.data, "out": [n.id for n in out]}, passed=may and bool(made.note))


def seen(rules: Rules, data: Mapping[str, Any]) -> dict[str, Any]:
    """Items ticked."""
    return {key: YES for key in rules.items if data.get(key) in (True, YES)}


def school_of(rules: Rules, data: Mapping[str, Any], made: Evidence) -> str:
    """The way of doing it that was taken, the usual one where none was named. Raises BadEntry."""
    school = data.get("school", next(iter(rules.schools)))
    if school not in rules.schools:
        raise BadEntry("way of doing it", school, ", ".join(rules.schools))
    return explained(rules, str(school), made)


def explained(rules: Rules, school: str, made: Evidence) -> str:
    """The school, if its reason is given where one is asked. Raises BadEntry."""
    known = rules.schools[school]
    if known.asks_why and not made.note:
        raise BadEntry("reason", "empty", f"why “{in_sentence(known.label)}”; it stays on the sheet with your name")
    return school


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
    known = DIMENSIONS[dimension]
    return known.us if system == "us" else known.si


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
