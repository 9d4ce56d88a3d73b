"""Each unit of several by itself."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.procedure.evidence import Evidence, check_text
from mainspring.core.procedure.proofs.kind import Answer, Paper, Proof, Read, Told, seen, told_items
from mainspring.core.procedure.rules import Rules
from mainspring.core.procedure.step import YES, Step

SERIAL_LIMIT = 60


class Units(Proof):
    """One piece for each unit, with its serial number; no two units have the same."""

    id, kind, words = "units", "unit", "each unit by itself"

    def judge(self, rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: list[Evidence]) -> Evidence:
        unit = data.get("unit")
        if isinstance(unit, bool) or not isinstance(unit, (int, float)) or unit not in range(1, rules.units + 1):
            raise BadEntry("unit", unit, f"1 to {rules.units}")
        serial = check_text("serial number", data.get("serial", ""), SERIAL_LIMIT)
        items = seen(rules, data)
        kept = {"unit": int(unit), **({"serial": serial} if serial else {}), **items}
        return replace(made, data=kept, passed=set(items) == set(rules.items))

    def in_force(self, mine: list[Evidence]) -> list[Evidence]:
        latest = {e.data["unit"]: e for e in mine if isinstance(e.data.get("unit"), (int, float))}
        return [latest[u] for u in sorted(latest)]

    def lacking(self, rules: Rules, mine: list[Evidence]) -> tuple[str, ...]:
        there = {e.data["unit"] for e in mine}
        serials = [s for e in mine if (s := e.data.get("serial"))]
        twice = sorted({s for s in serials if serials.count(s) > 1})
        absent = tuple(f"unit {n}" for n in range(1, rules.units + 1) if n not in there)
        return absent + tuple(f"serial number {s} stands at two units" for s in twice)

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
