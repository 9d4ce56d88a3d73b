"""Two directions of rotation compared, where the shaft cannot be seen."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.practice.pump import DIRECTIONS_APART
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import (
    Answer,
    Paper,
    Proof,
    Read,
    Told,
    blanks_of,
    numbers,
    told_readings,
)
from mainspring.core.procedure.rules import Rules, fits
from mainspring.core.procedure.step import Step
from mainspring.core.sentence import in_sentence, show


class Turns(Proof):
    """The same opening, both ways round; the direction that delivers more is right."""

    id, kind, words = "turns", "turns", "two directions compared"

    def judge(self, rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: list[Evidence]) -> Evidence:
        values = numbers(rules.numbers, data)
        left = data.get("choice")
        if not isinstance(left, str) or left not in rules.choices:
            raise BadEntry("direction left", left, ", ".join(rules.choices))
        better = better_turn(values)
        if better is None and left == "first" and as_foretold(rules, values):
            return replace(made, data={**values, "choice": left, "better": left})
        if better is None:
            raise BadEntry(
                "the two directions",
                "the same",
                f"readings that differ by more than {show(DIRECTIONS_APART)}: read both again"
                if "second_pressure" in values
                else "both directions read, or a pressure as wired that the model foretells",
            )
        return replace(made, data={**values, "choice": left, "better": better}, passed=left == better)

    def told(self, evidence: Evidence, step: Step) -> Told:
        chosen = str(evidence.data.get("choice"))
        label = (step.choices or {}).get(chosen, chosen)
        return [*told_readings(evidence.data, step.readings), in_sentence(label), ", "]

    def on_paper(self, step: Step, system: str) -> Paper:
        return Paper(blanks_of(step, system), [*step.items.values(), *(step.choices or {}).values()])

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return [("turns", {"first_pressure": 2.1e5, "second_pressure": 3.9e5, "choice": "second"}, 0.0)]


def as_foretold(rules: Rules, values: Mapping[str, float]) -> bool:
    """Whether only one direction was read, and it gives at full speed what the model foretells of this pump."""
    if any(name.startswith("second_") for name in values):
        return False
    rule = next((n for n in rules.numbers if n.id == "first_pressure" and n.expected is not None), None)
    return rule is not None and "first_pressure" in values and fits(rule, values["first_pressure"], rule.expected)


def better_turn(values: Mapping[str, float]) -> str | None:
    """The direction of rotation that delivers more: by flow where both were read, else by pressure.

    None when they are too near to each other. More flow at the same opening is more pressure too; a centrifugal
    pump running backwards still gives some of both (common practice).
    """
    for name in ("flow", "pressure"):
        first, second = values.get(f"first_{name}"), values.get(f"second_{name}")
        if first is None or second is None:
            continue
        if abs(first - second) > DIRECTIONS_APART * max(abs(first), abs(second)):
            return "first" if first > second else "second"
    return None
