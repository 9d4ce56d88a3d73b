"""Done, with a name."""

from mainspring.core.procedure.proofs.kind import Answer, Proof, Read
from mainspring.core.procedure.rules import Form
from mainspring.core.procedure.step import Step


class Tick(Proof):
    """Nothing but the word of who did it."""

    id, words = "tick", "done, with your name"

    def forms(self, step: Step) -> dict[str, Form]:
        return {"tick": Form()}

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return [("tick", {}, 0.0)]
