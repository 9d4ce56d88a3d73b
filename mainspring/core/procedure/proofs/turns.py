"""Two directions of rotation compared, where the shaft cannot be seen."""

from dataclasses import replace

from mainspring.core.practice.pump import DIRECTIONS_APART
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import Answer, Paper, Proof, Read, Told, blanks_of, numbers, told_readings
from mainspring.core.procedure.rules import Form, More, OneOf, Option
from mainspring.core.procedure.step import Step
from mainspring.core.sentence import in_sentence, show


class Turns(Proof):
    """The same opening, both ways round; the direction that delivers more is right."""

    id, words = "turns", "two directions compared"

    def forms(self, step: Step) -> dict[str, Form]:
        read = numbers(step.readings)
        more = More(
            "choice",
            ("first", "second"),
            ("flow", "pressure"),
            float(DIRECTIONS_APART),
            next((n for n in read if n.id == "first_pressure" and n.expected is not None), None),
            same=f"readings that differ by more than {show(DIRECTIONS_APART)}: read both again",
            single="both directions read, or a pressure as wired that the model foretells",
        )
        left = OneOf("choice", "direction left", {n: Option(label) for n, label in (step.choices or {}).items()})
        return {"turns": Form((*(replace(n, expected=None, low=None, high=None) for n in read), left, more))}

    def told(self, evidence: Evidence, step: Step) -> Told:
        chosen = str(evidence.data.get("choice"))
        label = (step.choices or {}).get(chosen, chosen)
        return [*told_readings(evidence.data, step.readings), in_sentence(label), ", "]

    def on_paper(self, step: Step, system: str) -> Paper:
        return Paper(blanks_of(step, system), [*step.items.values(), *(step.choices or {}).values()])

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return [("turns", {"first_pressure": 2.1e5, "second_pressure": 3.9e5, "choice": "second"}, 0.0)]
