"""A row of readings at each of several points."""

from mainspring.core.method import given
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import (
    Answer,
    Paper,
    Proof,
    Read,
    Told,
    explains,
    numbers,
    told_readings,
    unit_of,
)
from mainspring.core.procedure.rules import Ask, At, Form, Point
from mainspring.core.procedure.step import Step
from mainspring.core.quantity import DIMENSIONS, round_significant


class Table(Proof):
    """Row by row; of a baseline each row is what it is, and the last one proves."""

    id, words = "table", "a row at each point"

    def forms(self, step: Step) -> dict[str, Form]:
        table = step.table
        if table is None:
            return {"row": Form()}
        expected = table.expected or ({},) * len(table.references)
        parts = tuple(
            Point(
                float(r),
                f"{r:g}",
                {c: float(f) for c, f in e.items()},
                {c.id: w for c in table.columns if (w := table.within(i, c)) is not None},
            )
            for i, (r, e) in enumerate(zip(table.references, expected, strict=True))
        )
        at = At(
            "reference",
            "reference",
            parts,
            last_will_do=not table.all_rows,
            dimension=table.references[0].dimension or "ratio",
        )
        asks: tuple[Ask, ...] = (at, *numbers(table.columns))
        return {"row": Form(asks, explains=explains(step), as_found=not table.all_rows)}

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
