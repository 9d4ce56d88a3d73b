"""The run sheet: showing it, and keeping evidence."""

from datetime import datetime
from typing import Any

from peewee import MySQLDatabase

from mainspring.core.errors import BadEntry
from mainspring.core.line import find_field
from mainspring.core.line.fields import Quantity
from mainspring.core.procedure import Evidence, Held, StepState, StepStatus, judge_evidence
from mainspring.core.procedure.steps import StepTable
from mainspring.core.progress import HANDED_OVER
from mainspring.service.lines import BadRecord, Opened, check_name, open_line, refresh_summary
from mainspring.service.views import (
    CellView,
    ChangedView,
    Ledger,
    RowView,
    RunView,
    StepView,
    TableView,
    evidence_view,
    phase_label,
)
from mainspring.store import repository
from mainspring.store.database import transact
from mainspring.store.repository import KeptEvidence

OPEN = (StepState.NEXT, StepState.FAILED, StepState.STALE, StepState.DONE)


def run_view(opened: Opened) -> tuple[RunView, Ledger]:
    """The run sheet for the screen, and the ledger of its figures."""
    ledger = Ledger()
    return RunView(now=repository.now(), steps=[_step(ledger, s) for s in opened.sheet]), ledger


def _step(ledger: Ledger, status: StepStatus) -> StepView:
    step, key = status.step, f"step.{status.step.id}"
    return StepView(
        id=step.id,
        phase=step.phase,
        phase_label=phase_label(status),
        title=step.title,
        what=ledger.sentence(f"{key}.what", step.what),
        why=step.why,
        proof=step.proof,
        danger=step.danger,
        state=status.state.value,
        readings=[ledger.reading(key, r) for r in step.readings],
        choices=step.choices or {},
        right=step.right,
        seconds=None if step.seconds is None else ledger.figure(f"{key}.seconds", step.seconds),
        clock_ends=status.clock_ends,
        table=None if step.table is None else _table(ledger, key, step.table, status.evidence),
        evidence=[evidence_view(e) for e in status.evidence],
        changed=[_changed(c.field, c.was, c.now) for c in status.changed],
        held_by=list(status.held_by),
    )


def _changed(path: str, was: object, now: object) -> ChangedView:
    field = find_field(path.split("[")[0])
    dimension = field.dimension if isinstance(field, Quantity) else None
    return ChangedView(field=path, label=field.label, dimension=dimension, was=_plain(was), now=_plain(now))


def _plain(value: object) -> float | str | None:
    return value if value is None or isinstance(value, (float, str)) else str(value)


def _table(ledger: Ledger, key: str, table: StepTable, evidence: tuple[Evidence, ...]) -> TableView:
    kept = {e.data["reference"]: e for e in evidence}
    rows = []
    for i, reference in enumerate(table.references):
        expected = table.expected[i] if table.expected else {}
        mine = kept.get(float(reference))
        read = {}
        for column in table.columns:
            if mine is not None and column.id in mine.data:
                value, should = mine.data[column.id], expected.get(column.id)
                deviation = None if should is None or abs(should) < 1e-9 else value / should - 1
                fits = deviation is None or abs(deviation) <= (column.tolerance or 1.0)
                read[column.id] = CellView(value=value, deviation=deviation, fits=fits)
        rows.append(
            RowView(
                reference=float(reference),
                expected={c: ledger.figure(f"{key}.{i}.{c}", f) for c, f in expected.items()},
                read=read,
                by="" if mine is None else mine.by,
                at=None if mine is None else mine.at,
            )
        )
    return TableView(
        columns=[ledger.reading(key, c) for c in table.columns],
        rows=rows,
        missing=table.missing,
        pattern=_pattern(rows),
    )


def _pattern(rows: list[RowView]) -> str:
    """What the latest row that does not fit looks like, likeliest cause first (common practice)."""
    row = next((r for r in reversed(rows) if r.read and not all(c.fits for c in r.read.values())), None)
    if row is None:
        return ""

    def sign(name: str) -> int:
        cell = row.read.get(name)
        if cell is None or cell.fits or cell.deviation is None:
            return 0
        return 1 if cell.deviation > 0 else -1

    at = f"At {row.reference:g} Hz: "
    if sign("power") < 0 and sign("pressure") > 0:
        return at + "less power and more pressure than expected. Fits a valve that is not fully open."
    if sign("power") < 0 and sign("pressure") < 0:
        return at + "less power and less pressure. Fits air in the pump, or reversed rotation: prove rotation again."
    if sign("power") > 0 and sign("pressure") < 0:
        return at + "more power and less pressure. Fits a system more open than surveyed, or a burst."
    if sign("speed"):
        return at + "the speed is off. Check poles and rated speed on the plate and in the drive."
    if sign("current") and not sign("power"):
        return at + "amps are off while power fits. Check plate amps, power factor and the meter."
    return at + "a reading is off. Read it again, then look for the cause before going on."


def add_evidence(
    db: MySQLDatabase,
    line_id: str,
    evidence_id: str,
    step_id: str,
    kind: str,
    data: dict[str, Any],
    by: str,
    note: str = "",
) -> Opened:
    """Keep one piece of evidence; repeating the same id is harmless. Held when the step is not open yet."""
    check_name("by", by)
    opened = open_line(db, line_id)
    moment = repository.now()
    judged = _judge(opened, step_id, kind, data, by.strip(), note, moment)
    kept = KeptEvidence(
        evidence_id,
        judged.step,
        judged.kind,
        judged.data,
        judged.leaves,
        judged.passed,
        judged.by,
        judged.at,
        judged.note,
    )
    transact(db, lambda: repository.add_evidence(line_id, kept))
    return refresh_summary(db, line_id)


def _judge(
    opened: Opened, step_id: str, kind: str, data: dict[str, Any], by: str, note: str, moment: datetime
) -> Evidence:
    if len(note) > 2000:
        raise BadRecord({"note": BadEntry("note", note, "up to 2000 characters")})
    if step_id == HANDED_OVER:
        return Evidence(HANDED_OVER, "tick", {}, by, moment, note=note)
    status = next((s for s in opened.sheet if s.step.id == step_id), None)
    if status is None:
        raise BadRecord({"step": BadEntry("step", step_id, "a step of this line's run sheet")})
    if status.step.held_by:
        raise Held(f"held by an open stop: {'; '.join(status.step.held_by)}")
    if status.state not in OPEN:
        raise Held("; ".join(status.held_by) or "an earlier step comes first")
    try:
        return judge_evidence(status.step, kind, data, by, moment, opened.evidence, note)
    except BadEntry as problem:
        raise BadRecord({step_id: problem}) from None
