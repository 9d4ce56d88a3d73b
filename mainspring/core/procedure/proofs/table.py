"""A row of readings at each of several points."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.method import given
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import (
    Answer,
    Paper,
    Proof,
    Read,
    Told,
    in_bands,
    number,
    told_readings,
    unit_of,
)
from mainspring.core.procedure.rules import Rules
from mainspring.core.procedure.step import Step
from mainspring.core.quantity import DIMENSIONS, round_significant


class Table(Proof):
    """Row by row; of a baseline each row is what it is, and the last one proves."""

    id, kind, words = "table", "row", "a row at each point"

    def judge(self, rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: list[Evidence]) -> Evidence:
        reference = data.get("reference")
        row = next((r for r in rules.rows if r.reference == reference and not isinstance(reference, bool)), None)
        if row is None:
            show = DIMENSIONS[rules.row_dimension].show
            raise BadEntry("reference", reference, ", ".join(show(r.reference) for r in rules.rows))
        if all(data.get(n.id) is None for n in rules.numbers):
            raise BadEntry("row", "empty", "at least one reading")
        values = {
            n.id: number(n, data.get(n.id))
            for n in rules.numbers
            if data.get(n.id) is not None or not (n.optional or not row.expected)
        }
        kept = replace(made, data={"reference": row.reference, **values})
        judged = in_bands(rules, kept, values, row.expected)
        return judged if rules.every_row else replace(judged, passed=True)

    def in_force(self, mine: list[Evidence]) -> list[Evidence]:
        latest = {e.data["reference"]: e for e in mine if isinstance(e.data.get("reference"), (int, float))}
        return [latest[r] for r in sorted(latest)]

    def lacking(self, rules: Rules, mine: list[Evidence]) -> tuple[str, ...]:
        read = {e.data["reference"] for e in mine}
        wanted = rules.rows if rules.every_row else rules.rows[-1:]
        return tuple(f"{r.reference:g}" for r in wanted if r.reference not in read)

    def told(self, evidence: Evidence, step: Step) -> Told:
        assert step.table is not None
        reference = evidence.data.get("reference")
        at: Told = []
        if isinstance(reference, (int, float)):
            at = ["at ", given("reference", reference, step.table.references[0].dimension), ": "]
        return at + told_readings(evidence.data, step.table.columns)

    def on_paper(self, step: Step, system: str) -> Paper:
        table = step.table
        assert table is not None
        dimension = table.references[0].dimension or "ratio"
        heads = [unit_of(dimension, system), *(f"{c.label}, {unit_of(c.dimension, system)}" for c in table.columns)]
        rows = []
        for i, reference in enumerate(table.references):
            expected = table.expected[i] if table.expected else {}
            cells = [
                _plain(float(expected[c.id]), c.dimension, system) if c.id in expected else "" for c in table.columns
            ]
            rows.append([_plain(float(reference), dimension, system, 6), *cells])
        return Paper(boxes=list(step.items.values()), heads=heads, rows=rows)

    def sample(self, step: Step, read: Read) -> list[Answer]:
        table = step.table
        assert table is not None
        made: list[Answer] = []
        for reference, expected in zip(table.references, table.expected, strict=True):
            columns = [c for c in table.columns if c.id in expected or not (c.optional or expected)]
            data = {c.id: read(c, expected.get(c.id), 0) for c in columns}
            made.append(("row", {"reference": float(reference), **data}, 60.0))
        return made


def _plain(value: float, dimension: str, system: str, digits: int = 4) -> str:
    return round_significant(DIMENSIONS[dimension].unit(unit_of(dimension, system)).from_si(value), digits)
