"""Numbers read, each inside its band."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import (
    Answer,
    Paper,
    Proof,
    Read,
    Told,
    blanks_of,
    in_bands,
    numbers,
    school_boxes,
    school_of,
    seen,
    told_items,
    told_readings,
    told_school,
)
from mainspring.core.procedure.rules import Rules
from mainspring.core.procedure.step import YES, Step


class Readings(Proof):
    """All the step's numbers at once, with what is to be seen beside them."""

    id, kind, words = "readings", "readings", "readings inside their band"

    def judge(self, rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: list[Evidence]) -> Evidence:
        kept: dict[str, Any] = {}
        expected: dict[str, float | None] = {n.id: n.expected for n in rules.numbers}
        if rules.schools:
            kept["school"] = school_of(rules, data, made)
            expected = dict.fromkeys(expected, rules.schools[kept["school"]].expected)
        values, items = numbers(rules.numbers, data), seen(rules, data)
        judged = in_bands(rules, replace(made, data=kept | values | items), values, expected)
        return replace(judged, passed=judged.passed and set(items) == set(rules.items))

    def lacking(self, rules: Rules, mine: list[Evidence]) -> tuple[str, ...]:
        return tuple(name for key, name in rules.items.items() if mine and key not in mine[-1].data)

    def told(self, evidence: Evidence, step: Step) -> Told:
        data = evidence.data
        return [*told_readings(data, step.readings), *told_items(data, step.items), *told_school(data, step)]

    def on_paper(self, step: Step, system: str) -> Paper:
        return Paper(blanks_of(step, system), [*step.items.values(), *school_boxes(step, system)])

    def sample(self, step: Step, read: Read) -> list[Answer]:
        usual = next(iter(step.schools.values())).expected if step.schools else None
        values = {
            r.id: read(r, r.expected if r.expected is not None else usual, i)
            for i, r in enumerate(step.readings)
            if not r.optional
        }
        again = {f"{r.id}.again": values[r.id] for r in step.readings if r.twice and r.id in values}
        return [("readings", {**values, **again, **dict.fromkeys(step.items, YES)}, 0.0)]
