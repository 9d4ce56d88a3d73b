"""What was seen, of a few possibilities."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import (
    Answer,
    Paper,
    Proof,
    Read,
    Told,
    explained,
    school_boxes,
    school_of,
    told_school,
)
from mainspring.core.procedure.rules import Rules
from mainspring.core.procedure.step import Step
from mainspring.core.sentence import in_sentence


class Choice(Proof):
    """One of the step's choices; some prove it, the others hold it."""

    id, kind, words = "choice", "choice", "what you saw"

    def judge(self, rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: list[Evidence]) -> Evidence:
        chosen = data.get("choice")
        if not isinstance(chosen, str) or chosen not in rules.choices:
            raise BadEntry(rules.title, chosen, ", ".join(rules.choices))
        kept: dict[str, Any] = {"choice": chosen}
        if rules.schools and set(rules.schools) == set(rules.choices):  # the choice is the school
            explained(rules, chosen, made)
        elif rules.schools:
            kept["school"] = school_of(rules, data, made)
        return replace(made, data=kept, passed=rules.right in ("*", chosen))

    def told(self, evidence: Evidence, step: Step) -> Told:
        chosen = str(evidence.data.get("choice"))
        label = (step.choices or {}).get(chosen, chosen)
        return [in_sentence(label), ", ", *told_school(evidence.data, step)]

    def on_paper(self, step: Step, system: str) -> Paper:
        boxes = [*step.items.values(), *(step.choices or {}).values()]
        if not set(step.schools) & set(step.choices or {}):
            boxes += school_boxes(step, system)
        return Paper(boxes=boxes)

    def sample(self, step: Step, read: Read) -> list[Answer]:
        choices = step.choices or {}
        return [("choice", {"choice": step.right if step.right in choices else next(iter(choices))}, 0.0)]
