"""The run sheet: showing it, and keeping evidence."""

import uuid
from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

from peewee import MySQLDatabase

from mainspring.core.errors import BadEntry
from mainspring.core.line import find_field
from mainspring.core.line.fields import Choice, Quantity
from mainspring.core.procedure import (
    PROOFS,
    Evidence,
    Held,
    School,
    StepState,
    StepStatus,
    input_errors,
    judge_evidence,
    standing,
    table_pattern,
)
from mainspring.core.progress import HANDED_OVER
from mainspring.service.lines import BadRecord, Opened, check_name, open_line, refresh_summary
from mainspring.service.views import (
    CellView,
    ChangedView,
    EvidenceView,
    InstrumentView,
    Ledger,
    RowView,
    RunView,
    SchoolView,
    StandingView,
    StepView,
    TableView,
    VisitView,
    evidence_view,
    instrument_view,
    phase_label,
)
from mainspring.store import repository
from mainspring.store.database import transact
from mainspring.store.repository import KeptEvidence, KeptVisit

OPEN = (StepState.NEXT, StepState.FAILED, StepState.STALE, StepState.DONE, StepState.LEFT_OUT)
AHEAD = timedelta(seconds=30)  # how far a device's clock may run before the server's


class KeptBetween(RuntimeError):
    """Somebody else kept evidence for the same step, which this one's maker had not seen."""

    def __init__(self, title: str, theirs: list[EvidenceView]) -> None:
        self.theirs = theirs
        last = theirs[-1]
        super().__init__(f"{last.by} kept “{title}” at {last.at:%H:%M} UTC, which you had not seen")


def run_view(opened: Opened) -> tuple[RunView, Ledger]:
    """The run sheet for the screen, and the ledger of its figures."""
    ledger = Ledger()
    visit = open_visit(opened.visits)
    view = RunView(
        now=repository.now(),
        event=opened.event,
        steps=[_step(ledger, opened, s) for s in opened.sheet],
        standing=[StandingView.model_validate(s, from_attributes=True) for s in standing(opened.sheet)],
        visit=None if visit is None else visit_view(visit),
    )
    return view, ledger


def _step(ledger: Ledger, opened: Opened, status: StepStatus) -> StepView:
    step, key = status.step, f"step.{status.step.id}"
    return StepView(
        id=step.id,
        phase=step.phase,
        phase_label=phase_label(status),
        title=step.title,
        what=ledger.sentence(f"{key}.what", step.what),
        why=step.why,
        proof=step.proof,
        proven=PROOFS[step.proof],
        danger=step.danger,
        state=status.state.value,
        after=list(step.after),
        gates=list(step.gates),
        safety=step.safety,
        skip=step.skip,
        readings=[ledger.reading(key, r) for r in step.readings],
        choices=dict(step.choices or {}),
        right=step.right,
        wrong=step.wrong,
        items=dict(step.items),
        units=step.units,
        schools={n: _school(ledger, f"{key}.school.{n}", s) for n, s in step.schools.items()},
        seconds=None if step.seconds is None else ledger.figure(f"{key}.seconds", step.seconds),
        clock_ends=status.clock_ends,
        table=None if step.table is None else _table(ledger, key, opened, status),
        evidence=[evidence_view(e) for e in status.evidence],
        changed=[_changed(c.field, c.was, c.now) for c in status.changed],
        held_by=list(status.held_by),
        stops=list(step.held_by),
        lacking=list(status.lacking),
        beside=[evidence_view(e) for e in status.beside],
    )


def _school(ledger: Ledger, key: str, school: School) -> SchoolView:
    return SchoolView(
        label=school.label,
        why=school.why,
        expected=None if school.expected is None else ledger.figure(key, school.expected),
        asks_why=school.asks_why,
    )


def _changed(path: str, was: object, now: object) -> ChangedView:
    field = find_field(path.split("[")[0])
    dimension = field.dimension if isinstance(field, Quantity) else None
    if isinstance(field, Choice):
        was, now = (field.choices.get(str(v), v) for v in (was, now))
    return ChangedView(field=path, label=field.label, dimension=dimension, was=_plain(was), now=_plain(now))


def _plain(value: object) -> float | str | None:
    return value if value is None or isinstance(value, (float, str)) else str(value)


def _table(ledger: Ledger, key: str, opened: Opened, status: StepStatus) -> TableView:
    step, table = status.step, status.step.table
    assert table is not None
    kept = {e.data["reference"]: e for e in status.evidence if "reference" in e.data}
    rows = []
    spans = {
        c.id: abs(float(table.expected[-1][c.id]) - float(table.expected[0][c.id]))
        for c in table.columns
        if c.band is not None and table.expected and c.id in table.expected[0]
    }
    for i, reference in enumerate(table.references):
        expected = table.expected[i] if table.expected else {}
        mine = kept.get(float(reference))
        read = {}
        for column in table.columns:
            if mine is not None and column.id in mine.data:
                value, should = mine.data[column.id], expected.get(column.id)
                scale = None if should is None else spans.get(column.id, abs(float(should)))
                deviation = None if should is None or not scale else (value - should) / scale
                read[column.id] = CellView(value=value, deviation=deviation, fits=column.id not in mine.out)
        rows.append(
            RowView(
                reference=float(reference),
                id="" if mine is None else mine.id,
                expected={c: ledger.figure(f"{key}.{i}.{c}", f) for c, f in expected.items()},
                read=read,
                by="" if mine is None else mine.by,
                at=None if mine is None else mine.at,
                passed=mine is None or mine.passed,
                note="" if mine is None else mine.note,
            )
        )
    errors = input_errors(step, status.evidence)
    return TableView(
        reference=table.references[0].dimension or "ratio",
        columns=[ledger.reading(key, c, spans.get(c.id)) for c in table.columns],
        rows=rows,
        missing=table.missing,
        pattern=ledger.pattern(key, table_pattern(step, status.evidence, opened.line)),
        errors={n: ledger.figure(f"{key}.{n}", f) for n, f in errors.items()},
    )


# visits


PURPOSES = ("start-up", "re-check", "fault call")


def open_visit(visits: list[KeptVisit]) -> KeptVisit | None:
    """The visit in hand: the latest that is not closed."""
    return next((v for v in reversed(visits) if v.closed is None), None)


def visit_view(visit: KeptVisit) -> VisitView:
    """A visit for the screen."""
    return VisitView(
        id=visit.id,
        purpose=visit.purpose,
        by=visit.by,
        at=visit.at,
        instruments=[instrument_view(i, visit.at) for i in visit.instruments],
        note=visit.note,
        closed=visit.closed,
    )


def _tool(instrument: InstrumentView) -> dict[str, Any]:
    due = {"due": instrument.due.isoformat()} if instrument.due else {}
    return {"name": check_name("instrument", instrument.name), **due}


def put_visit(
    db: MySQLDatabase,
    line_id: str,
    visit_id: str,
    by: str,
    purpose: str,
    instruments: list[InstrumentView],
    seen: list[InstrumentView],
    note: str,
    closed: bool,
) -> Opened:
    """Open, change or close a visit; the same id is the same visit. One visit of a line is open at a time.

    Against the instruments its sender had seen, those added are added and those taken off are taken off: what
    somebody else changed in between stays.
    """
    by = check_name("by", by)
    if purpose not in PURPOSES:
        raise BadEntry("purpose", purpose, ", ".join(PURPOSES))
    if len(note) > 2000 or len(instruments) > 30:
        raise BadEntry("visit", "too long", "a note of up to 2000 characters, up to 30 instruments")
    mine, before = ([_tool(i) for i in some] for some in (instruments, seen))
    moment = repository.now()

    def write() -> None:
        repository.line(line_id)
        known = repository.visits(line_id)
        visit = next((v for v in known if v.id == visit_id), None)
        if visit is None:
            for other in known:
                if other.closed is None:
                    repository.put_visit(line_id, replace(other, closed=moment), by)
            visit = KeptVisit(visit_id, purpose, by, moment, before, note, None)
        tools = [t for t in visit.instruments if t in mine or t not in before]
        tools += [t for t in mine if t not in tools and t not in before]
        ended = (visit.closed or moment) if closed else None
        repository.put_visit(line_id, replace(visit, purpose=purpose, instruments=tools, note=note, closed=ended), by)

    transact(db, write)
    return open_line(db, line_id)


# keeping


def add_evidence(
    db: MySQLDatabase,
    line_id: str,
    evidence_id: str,
    step_id: str,
    kind: str,
    data: dict[str, Any],
    by: str,
    note: str = "",
    at: datetime | None = None,
    instrument: InstrumentView | None = None,
    seen: list[str] | None = None,
) -> Opened:
    """Keep one piece of evidence; repeating the same id is harmless. Held when the step is not open yet.

    `at` is when it was made, of an entry made without a link or on paper; the server's own time otherwise, and never a
    time to come. `seen` are the ids of what its maker knew to be in force: KeptBetween when there is something else.
    """
    check_name("by", by)
    opened = open_line(db, line_id)
    if any(e.id == evidence_id for e in opened.evidence):
        return opened
    moment = repository.now()
    if at is not None and at > moment + AHEAD:
        raise BadRecord({"at": BadEntry("at", at.isoformat(), f"not later than now, {moment.isoformat()}")})
    made_at = moment if at is None else min(at, moment)
    judged = _judge(opened, step_id, kind, data, by.strip(), note, made_at)
    if seen is not None:
        _check_seen(opened, judged, seen)
    if kind == "photo" and data.get("photo") not in {p.id for p in transact(db, lambda: repository.photos(line_id))}:
        raise BadRecord({"photo": BadEntry("photo", data.get("photo"), "the id of a photo of this line")})
    tool = None if instrument is None else _tool(instrument)
    visit = open_visit(opened.visits)
    first = None
    if visit is None and step_id != HANDED_OVER:
        purpose = "re-check" if opened.visits else "start-up"
        first = KeptVisit(str(uuid.uuid5(uuid.UUID(evidence_id), "visit")), purpose, by.strip(), made_at, [], "", None)
    here = visit or first
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
        None if here is None else here.id,
        tool,
        None if at is None else moment,
    )

    def write() -> None:
        if first is not None:
            repository.put_visit(line_id, first, first.by)
        repository.add_evidence(line_id, kept)

    transact(db, write)
    return refresh_summary(db, line_id)


def _check_seen(opened: Opened, judged: Evidence, seen: list[str]) -> None:
    """Raise KeptBetween when something in force for the same part of the step is not among what was seen."""
    status = next((s for s in opened.sheet if s.step.id == judged.step), None)
    if status is None or judged.kind in ("note", "photo"):
        return

    def part(e: Evidence) -> object:
        return e.data.get("reference", e.data.get("unit"))

    theirs = [e for e in status.evidence if e.id not in seen and part(e) == part(judged)]
    if theirs:
        raise KeptBetween(status.step.title, [evidence_view(e) for e in theirs])


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
    if kind not in ("note", "photo", "override") or (kind == "photo" and status.step.proof == "photo"):
        if status.step.held_by:
            raise Held(f"held: {'; '.join(status.step.held_by)}")
        if status.state not in OPEN:
            raise Held("; ".join(status.held_by) or "an earlier step comes first")
    try:
        return judge_evidence(status.step, kind, data, by, moment, opened.evidence, note)
    except BadEntry as problem:
        raise BadRecord({step_id: problem}) from None
