"""Each unit of several by itself."""

from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import Answer, Paper, Proof, Read, Told, items, told_items
from mainspring.core.procedure.rules import At, Form, Point, Text
from mainspring.core.procedure.step import YES, Step

SERIAL_LIMIT = 60


class Units(Proof):
    """One piece for each unit, with its serial number; no two units have the same."""

    id, words = "units", "each unit by itself"

    def forms(self, step: Step) -> dict[str, Form]:
        parts = tuple(Point(n, f"unit {n}", {}) for n in range(1, step.units + 1))
        serial = Text("serial", "serial number", most=SERIAL_LIMIT, unlike="serial number {} stands at two units")
        return {"unit": Form((At("unit", "unit", parts), serial, *items(step)))}

    def told(self, evidence: Evidence, step: Step) -> Told:
        serial = evidence.data.get("serial")
        head = f"unit {evidence.data.get('unit')}{f', {serial}' if serial else ''}: "
        return [head, *told_items(evidence.data, step.items)]

    def on_paper(self, step: Step, system: str) -> Paper:
        heads = ["Unit", "Serial number", *step.items.values()]
        return Paper(heads=heads, rows=[[str(n + 1)] + [""] * (len(heads) - 1) for n in range(step.units)])

    def sample(self, step: Step, read: Read) -> list[Answer]:
        items = dict.fromkeys(step.items, YES)
        return [("unit", {"unit": n, "serial": f"MF-{4100 + n}", **items}, 60.0) for n in range(1, step.units + 1)]
