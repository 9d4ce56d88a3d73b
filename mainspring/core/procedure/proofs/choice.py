"""What was seen, of a few possibilities."""

from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import (
    Answer,
    Paper,
    Proof,
    Read,
    Told,
    options,
    school_boxes,
    told_school,
    way,
)
from mainspring.core.procedure.rules import Form, OneOf, Option
from mainspring.core.procedure.step import Step
from mainspring.core.sentence import in_sentence


class Choice(Proof):
    """One of the step's choices; some prove it, the others hold it."""

    id, words = "choice", "what you saw"

    def forms(self, step: Step) -> dict[str, Form]:
        choices = step.choices or {}
        ways = options(step)
        if set(ways) == set(choices):  # the choice is the way of doing it
            return {"choice": Form((OneOf("choice", step.title, ways, step.right),))}
        chosen = OneOf("choice", step.title, {n: Option(label) for n, label in choices.items()}, step.right)
        return {"choice": Form((chosen, *way(step)))}

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
