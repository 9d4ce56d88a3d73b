"""Things looked at, each of them."""

from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import Answer, Proof, Read, Told, told_items
from mainspring.core.procedure.rules import AllOf, Form
from mainspring.core.procedure.step import YES, Step


class Listed(Proof):
    """A list to tick off; what is not seen yet stays open."""

    id, words = "list", "each one seen"

    def forms(self, step: Step) -> dict[str, Form]:
        return {"list": Form((AllOf(step.title, step.items, only=True),))}

    def told(self, evidence: Evidence, step: Step) -> Told:
        return told_items(evidence.data, step.items)

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return [("list", dict.fromkeys(step.items, YES), 0.0)]
