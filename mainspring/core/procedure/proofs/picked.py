"""Any of several things named."""

from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import Answer, Proof, Read, Told, told_items
from mainspring.core.procedure.rules import AllOf, Form
from mainspring.core.procedure.step import YES, Step


class Picked(Proof):
    """At least one of a list; all the others are meant as left alone."""

    id, words = "picked", "what you name"

    def forms(self, step: Step) -> dict[str, Form]:
        return {"picked": Form((AllOf(step.title, step.items, any_will_do=True, only=True),))}

    def told(self, evidence: Evidence, step: Step) -> Told:
        return told_items(evidence.data, step.items)

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return [("picked", {next(iter(step.items)): YES}, 0.0)]
