"""What was changed for the work and is back as it belongs."""

from collections.abc import Sequence

from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import Answer, Paper, Proof, Read, Told, items
from mainspring.core.procedure.rules import Form, NoneLeft, Noted, Text
from mainspring.core.procedure.step import YES, Step
from mainspring.core.sentence import in_sentence

_NOTED = ("temporary", "back", "what", "of", "what is back")


class PutBack(Proof):
    """Noted at any time, ticked back at any time; at the end somebody says that nothing is left."""

    id, words = "put_back", "everything back, with your name"

    def forms(self, step: Step) -> dict[str, Form]:
        return {
            "temporary": Form((Text("what", "what is to be put back", least=1),), every=True, any_time=True),
            "back": Form((Noted(*_NOTED),), every=True, any_time=True),
            "tick": Form((NoneLeft(*_NOTED, again="the word that all is back"), *items(step))),
        }

    def told(self, evidence: Evidence, step: Step) -> Told:
        if evidence.kind == "temporary":
            return [f"to be put back: {in_sentence(str(evidence.data.get('what')))}"]
        return ["back as it belongs" if evidence.kind == "back" else "everything is back"]

    def on_paper(self, step: Step, system: str) -> Paper:
        return Paper([("Also changed for now", ""), ("Also changed for now", "")], list(step.items.values()))

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return [("tick", dict.fromkeys(step.items, YES), 0.0)]


def still_changed(evidence: Sequence[Evidence]) -> list[str]:
    """Of what was changed for now, what nobody has put back yet."""
    return [str(e.data["what"]) for e in NoneLeft(*_NOTED).open(evidence)]
