"""A photo."""

from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import Answer, Proof, Read, Told
from mainspring.core.procedure.rules import Form, Text
from mainspring.core.procedure.step import Step

PHOTO_ID = 36  # characters


class Photo(Proof):
    """A picture of what nobody will open to look at again."""

    id, words = "photo", "a photo"

    def forms(self, step: Step) -> dict[str, Form]:
        return {"photo": Form((Text("photo", "photo", least=1, most=PHOTO_ID),))}

    def told(self, evidence: Evidence, step: Step) -> Told:
        return ["photo kept"]

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return []  # there is no picture to show
