"""Hand-over: what is missing, and the files that leave the house."""

import uuid
from dataclasses import dataclass
from typing import Any

from peewee import MySQLDatabase

from mainspring.core.checks import Severity
from mainspring.core.errors import BadEntry
from mainspring.core.line import parse_line
from mainspring.core.line.record import SCHEMA_VERSION
from mainspring.core.procedure import PHASES, PROOFS, StepState, StepStatus, standing
from mainspring.core.quantity import DIMENSIONS, round_significant
from mainspring.core.sentence import show
from mainspring.core.settings import SETTINGS
from mainspring.exchange import line_json, settings_csv
from mainspring.exchange.handover_pdf import HandoverPage, render_pdf
from mainspring.exchange.run_sheet_pdf import PaperStep, RunSheetPages, render_run_sheet
from mainspring.service.bench import baseline_row, proof_view, savings_view
from mainspring.service.lines import BadRecord, Opened, check_name, check_record, refresh_summary
from mainspring.service.run import PURPOSES, open_visit, run_view
from mainspring.service.sheet import sheet_view
from mainspring.service.views import FigureView, InstrumentView, SettingView
from mainspring.store import repository
from mainspring.store.database import transact
from mainspring.store.repository import KeptEvidence, KeptVisit


@dataclass(frozen=True)
class Ready:
    """Whether a line can be handed over, and what stands against it."""

    missing: list[str]


def readiness(opened: Opened) -> Ready:
    """What is still missing before hand-over."""
    stops = [f"Stop open: {f.title}" for f in opened.assessment.findings if f.severity is Severity.STOP]
    steps = [f"Run sheet: {s.step.title} is {_state(s.state)}" for s in opened.sheet if not s.done_or_left_out]
    sheet, _ = sheet_view(opened)
    still_open = sum(r.verdict == "open" for r in sheet.rows)
    settings = [f"Settings: {still_open} without an as-left value"] if still_open else []
    differs = [f"Setting differs from the plan: {r.label}" for r in sheet.rows if r.verdict == "differs"]
    baseline = [] if baseline_row(opened.sheet) else ["No baseline at full speed"]
    return Ready([*stops, *steps, *settings, *differs, *baseline])


def settings_table(opened: Opened, system: str) -> str:
    """The settings sheet as CSV."""
    sheet, _ = sheet_view(opened)
    return settings_csv.write_csv(_csv_row(row, system) for row in sheet.rows)


def _csv_row(row: SettingView, system: str) -> tuple[str, ...]:
    unit = "" if row.dimension is None else _unit(row.dimension, system)
    return (
        row.id,
        row.label,
        row.family.number if row.family else "",
        row.family.label if row.family else "",
        _number(row.planned.value, row.dimension, system) if row.planned else (row.planned_choice or row.missing),
        unit,
        _number(row.found, row.dimension, system),
        _number(row.left, row.dimension, system),
        row.verdict,
        "".join(p.text or _said(p.figure, system) for p in row.reason),
        row.source,
    )


def _unit(dimension: str, system: str) -> str:
    known = DIMENSIONS[dimension]
    return known.us if system == "us" else known.si


def _number(value: float | str | None, dimension: str | None, system: str, digits: int = 6) -> str:
    if value is None or isinstance(value, str) or dimension is None:
        return "" if value is None else str(value)
    known = DIMENSIONS[dimension]
    return round_significant(known.unit(_unit(dimension, system)).from_si(value), digits)


def _said(figure: FigureView | None, system: str) -> str:
    if figure is None:
        return ""
    return DIMENSIONS[figure.dimension].show(figure.value, system) if figure.dimension else f"{figure.value:g}"


def _value(value: float | str | None, dimension: str | None, choices: dict[str, str], system: str) -> str:
    if value is None:
        return "–"
    if isinstance(value, str):
        return choices.get(value, value)
    return DIMENSIONS[dimension].show(value, system) if dimension else f"{value:g}"


def handover_pdf(opened: Opened, system: str) -> bytes:
    """The one-page hand-over."""
    sheet, _ = sheet_view(opened)
    proof, _ = proof_view(opened)
    return render_pdf(
        HandoverPage(
            site=opened.site.name,
            tag=opened.kept.tag,
            title=opened.kept.title,
            printed=f"{repository.now():%Y-%m-%d %H:%M} UTC",
            stations=[
                (s.label, s.key.text(system), s.second.text(system), s.severity.word)
                for s in opened.assessment.strip.stations
            ],
            findings=[
                (f.severity.word, f.title, f.because.text(system))
                for f in opened.assessment.findings
                if f.severity is not Severity.CLEAR
            ][:12],
            baseline=_baseline(opened, system),
            proof=[
                (
                    e.title,
                    _said(e.load, system) or e.missing,
                    f"{_said(e.low, system)} to {_said(e.high, system)}" if e.load else "",
                )
                for e in proof.estimates
            ],
            savings=_savings(opened, system),
            settings=[
                (
                    r.label,
                    _value(r.planned.value if r.planned else r.planned_choice, r.dimension, r.choices, system),
                    _value(r.left, r.dimension, r.choices, system),
                    r.verdict,
                )
                for r in sheet.rows
            ],
            steps_done=f"{sum(s.done_or_left_out for s in opened.sheet)} of {len(opened.sheet)} done",
            steps=[(s.step.title, _state(s.state)) for s in opened.sheet if not s.done_or_left_out][:14],
            standing=[(s.title, f"{s.words} {s.by}, {s.at:%Y-%m-%d}: {s.why}") for s in standing(opened.sheet)][:8],
            missing=readiness(opened).missing[:6],
        )
    )


def _state(state: StepState) -> str:
    return state.value.replace("_", " ")


def run_sheet_pdf(opened: Opened, system: str, paper: str) -> bytes:
    """The run sheet on paper."""
    visit = open_visit(opened.visits)
    steps = []
    before = ""
    for number, status in enumerate(opened.sheet, 1):
        phase = PHASES[status.step.phase]
        steps.append(_paper_step(number, "" if phase == before else phase, status, system))
        before = phase
    return render_run_sheet(
        RunSheetPages(
            site=opened.site.name,
            tag=opened.kept.tag,
            title=opened.kept.title,
            printed=f"{repository.now():%Y-%m-%d %H:%M} UTC",
            paper=paper,
            instruments=[] if visit is None else [i["name"] for i in visit.instruments],
            steps=steps,
        )
    )


def _paper_step(number: int, phase: str, status: StepStatus, system: str) -> PaperStep:
    step, last = status.step, status.evidence[-1] if status.evidence else None
    done = status.done_or_left_out and last is not None
    blanks = [
        (f"{r.label}, {_unit(r.dimension, system)}", "" if r.expected is None else f"expect {show(r.expected, system)}")
        for r in step.readings
    ]
    if step.proof == "countdown" and step.seconds is not None:
        blanks = [("From", ""), (f"To, at least {show(step.seconds, system)} later", "")]
    boxes = list(step.items.values()) + list((step.choices or {}).values())
    if step.choices is None or not set(step.schools) & set(step.choices):
        boxes += [
            f"{school.label}{'' if school.expected is None else f', expect {show(school.expected, system)}'}"
            for school in step.schools.values()
        ]
    heads, rows = [], []
    if step.table is not None:
        dimension = step.table.references[0].dimension or "ratio"
        heads = [_unit(dimension, system), *(f"{c.label}, {_unit(c.dimension, system)}" for c in step.table.columns)]
        for i, reference in enumerate(step.table.references):
            expected = step.table.expected[i] if step.table.expected else {}
            rows.append(
                [
                    _number(float(reference), dimension, system),
                    *(
                        _number(float(expected[c.id]), c.dimension, system, 4) if c.id in expected else ""
                        for c in step.table.columns
                    ),
                ]
            )
    if step.units:
        heads = ["Unit", "Serial number", *step.items.values()]
        rows = [[str(n + 1)] + [""] * (len(heads) - 1) for n in range(step.units)]
        boxes = []
    return PaperStep(
        number=number,
        phase=phase,
        title=step.title,
        what=step.what.text(system),
        danger=step.danger,
        proof=PROOFS[step.proof],
        kept=f"{_state(status.state)}, {last.by}, {last.at:%Y-%m-%d %H:%M}" if done and last else "",
        blanks=blanks,
        boxes=boxes,
        heads=heads,
        rows=rows,
    )


def _baseline(opened: Opened, system: str) -> list[tuple[str, str, str]]:
    row = baseline_row(opened.sheet)
    if row is None:
        return []
    view, _ = run_view(opened)
    table = next(s.table for s in view.steps if s.id == "turn.step_up")
    if table is None:
        return []
    last = table.rows[-1]
    return [
        (
            c.label,
            DIMENSIONS[c.dimension].show(last.read[c.id].value, system) if c.id in last.read else "–",
            _said(last.expected.get(c.id), system),
        )
        for c in table.columns
    ]


def _savings(opened: Opened, system: str) -> list[tuple[str, str]]:
    view, _ = savings_view(opened.line, opened.assessment.derived)
    wanted = (
        ("throttled", "Throttled, a year"),
        ("slowed", "Slowed, a year"),
        ("saved", "Saved, a year"),
        ("fraction", "Share saved"),
        ("money", "Money a year"),
        ("payback", "Simple payback, years"),
        ("cube_saved", "The cube law would promise"),
    )
    return [(label, _said(view.figures[name], system)) for name, label in wanted if name in view.figures]


def export_line(opened: Opened) -> str:
    """The whole line as open JSON."""
    record = {g: f for g, f in opened.line.to_data().items() if g != "site"}
    return line_json.dump(
        line_json.LineFile(
            site={"name": opened.site.name, "units": opened.site.units, "entries": opened.site.entries},
            tag=opened.kept.tag,
            title=opened.kept.title,
            record=record,
            evidence=[
                {
                    "step": e.step,
                    "kind": e.kind,
                    "data": e.data,
                    "leaves": e.leaves,
                    "passed": e.passed,
                    "by": e.by,
                    "at": e.at.isoformat(),
                    "note": e.note,
                    **({"instrument": e.instrument} if e.instrument else {}),
                    **({"received": e.received.isoformat()} if e.received else {}),
                }
                for e in opened.evidence
            ],
            visits=[
                {
                    "purpose": v.purpose,
                    "by": v.by,
                    "at": v.at.isoformat(),
                    "instruments": v.instruments,
                    "note": v.note,
                    "closed": None if v.closed is None else v.closed.isoformat(),
                }
                for v in opened.visits
            ],
            settings=[
                {"setting": s.setting, "moment": s.moment, "value": s.value, "by": s.by, "at": s.at.isoformat()}
                for s in opened.settings
            ],
        )
    )


def import_line(db: MySQLDatabase, text: bytes | str, line_id: str, site_id: str | None, by: str) -> Opened:
    """A line from an export, whole or not at all; into a given site, or one of the file's site's name."""
    by = check_name("by", by)
    try:
        file = line_json.load(text)
        visits = [_visit(line_id, i, row) for i, row in enumerate(file.visits)]
        evidence = [_evidence(line_id, i, row, visits) for i, row in enumerate(file.evidence)]
        settings = [_setting(row) for row in file.settings]
        name = file.site.get("name")
        if not isinstance(name, str):
            raise BadEntry("site.name", name, "text")
    except BadEntry as problem:
        raise BadRecord({problem.field: problem}) from None
    tag, title, name = (
        check_name("tag", file.tag),
        check_name("title", file.title, empty_allowed=True),
        check_name("site name", name),
    )
    data = check_record(file.record).to_data()
    units = "us" if file.site.get("units") == "us" else "si"
    entries = check_site_entries(file.site.get("entries"))

    def write() -> None:
        target = site_id or next((s.id for s in repository.sites() if s.name == name), None)
        if target is None:
            target = repository.create_site(str(uuid.uuid4()), name, units, entries, by).id
        made = repository.create_line(line_id, target, tag, title, data, SCHEMA_VERSION, {}, by)
        if (made.tag, made.record) != (tag, data):
            raise repository.IdTaken("this id belongs to another line; nothing was imported")
        for visit in visits:
            repository.put_visit(line_id, visit, by)
        for kept in evidence:
            repository.add_evidence(line_id, kept)
        for setting, moment, value, who in settings:
            repository.put_setting(line_id, setting, moment, value, who)

    transact(db, write)
    return refresh_summary(db, line_id)


def check_site_entries(entries: Any) -> dict[str, Any]:
    """Site entries of a file as kept."""
    line, problems = parse_line({"site": entries or {}})
    if problems:
        raise BadRecord(problems)
    return line.to_data().get("site", {})


def _visit(line_id: str, index: int, row: dict[str, Any]) -> KeptVisit:
    if row.get("purpose") not in PURPOSES:
        raise BadEntry("visits.purpose", row.get("purpose"), ", ".join(PURPOSES))
    if len(row["by"]) > 120:
        raise BadEntry("visits.by", row["by"], "up to 120 characters")
    note, tools = row.get("note", ""), row.get("instruments", [])
    if not isinstance(note, str) or len(note) > 2000:
        raise BadEntry("visits.note", note, "text of up to 2000 characters")
    if not isinstance(tools, list):
        raise BadEntry("visits.instruments", type(tools).__name__, "a list")
    key = str(uuid.uuid5(uuid.NAMESPACE_OID, f"{line_id}/visit/{index}"))
    closed = None if row.get("closed") is None else line_json.moment(row["closed"])
    at = line_json.moment(row["at"])
    return KeptVisit(key, row["purpose"], row["by"], at, [_instrument(t) for t in tools], note, closed)


def _instrument(tool: Any) -> dict[str, Any]:
    """An instrument of a file, as kept."""
    try:
        known = InstrumentView.model_validate(tool)
    except ValueError:
        raise BadEntry("instrument", str(tool)[:80], "a name, and the date its calibration ends") from None
    if not 1 <= len(known.name) <= 200:
        raise BadEntry("instrument", known.name, "a name of up to 200 characters")
    return {"name": known.name, **({"due": known.due.isoformat()} if known.due else {})}


def _evidence(line_id: str, index: int, row: dict[str, Any], visits: list[KeptVisit]) -> KeptEvidence:
    data, leaves = row.get("data", {}), row.get("leaves", {})
    if not isinstance(data, dict) or not isinstance(leaves, dict):
        raise BadEntry("evidence.data", type(data).__name__, "an object")
    for name, limit in (("step", 80), ("kind", 20), ("by", 120)):
        if len(row[name]) > limit:
            raise BadEntry(f"evidence.{name}", row[name], f"up to {limit} characters")
    note = row.get("note", "")
    if not isinstance(note, str) or len(note) > 2000:
        raise BadEntry("evidence.note", note, "text of up to 2000 characters")
    key = str(uuid.uuid5(uuid.NAMESPACE_OID, f"{line_id}/{index}"))
    at = line_json.moment(row["at"])
    return KeptEvidence(
        key,
        row["step"],
        row["kind"],
        data,
        leaves,
        bool(row.get("passed", True)),
        row["by"],
        at,
        note,
        next((v.id for v in reversed(visits) if v.at <= at), None),
        None if row.get("instrument") is None else _instrument(row["instrument"]),
        None if row.get("received") is None else line_json.moment(row["received"]),
    )


def _setting(row: dict[str, Any]) -> tuple[str, str, float | str, str]:
    if row["setting"] not in SETTINGS or row["moment"] not in ("found", "left"):
        raise BadEntry("settings.setting", row["setting"], "an id of the settings sheet, found or left")
    value = SETTINGS[row["setting"]].check(row.get("value"))
    return row["setting"], row["moment"], value, row["by"][:120]
