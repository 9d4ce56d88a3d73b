"""Numbers read, each inside its band."""

from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import (
    Answer,
    Paper,
    Proof,
    Read,
    Told,
    blanks_of,
    explains,
    items,
    numbers,
    school_boxes,
    told_items,
    told_readings,
    told_school,
    way,
)
from mainspring.core.procedure.rules import Form
from mainspring.core.procedure.step import YES, Step


class Readings(Proof):
    """All the step's numbers at once, with what is to be seen beside them."""

    id, words = "readings", "readings inside their band"

    def forms(self, step: Step) -> dict[str, Form]:
        asks = (*way(step), *numbers(step.readings), *items(step))
        return {"readings": Form(asks, explains=explains(step))}

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
