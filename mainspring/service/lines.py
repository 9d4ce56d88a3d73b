"""Lines and sites: the Round, opening, saving, verdicts while typing, and the working of any figure."""

from dataclasses import dataclass, replace
from typing import Any

from peewee import MySQLDatabase

from mainspring.core.assess import Assessment, assess, key_figures
from mainspring.core.energy.savings import savings_of
from mainspring.core.errors import BadEntry, MainspringError
from mainspring.core.limits import highest_reasons, lowest_reasons, ramp_down_reasons, ramp_up_reasons
from mainspring.core.line import Line, parse_line
from mainspring.core.line.record import SCHEMA_VERSION
from mainspring.core.method import Figure
from mainspring.core.procedure import Evidence, StepStatus, sheet_status
from mainspring.core.progress import HANDED_OVER, STAGES, Progress, progress_of
from mainspring.core.sentence import in_sentence
from mainspring.core.site import clashes
from mainspring.core.working import working_of
from mainspring.service.views import (
    AssessmentView,
    EntryView,
    JointView,
    Ledger,
    LineView,
    RoundLine,
    RoundSite,
    RoundView,
    StageView,
    StationView,
    StripView,
    WorkingView,
    problem_view,
    working_view,
    worst,
)
from mainspring.store import repository
from mainspring.store.database import transact
from mainspring.store.repository import KeptEvidence, KeptLine, KeptSite

SUMMARY_VERSION = 3
NAME_LIMIT = 200


class BadRecord(ValueError):
    """Entries of a record that cannot be taken, by path; nothing of the record was kept."""

    def __init__(self, problems: dict[str, BadEntry]) -> None:
        self.problems = problems
        super().__init__("; ".join(str(p) for p in problems.values()))


class UnknownFigure(LookupError):
    """No figure of that key in this assessment."""


@dataclass(frozen=True)
class Opened:
    """A line with everything that hangs on it."""

    kept: KeptLine
    site: KeptSite
    line: Line
    assessment: Assessment
    evidence: list[Evidence]
    sheet: list[StepStatus]
    settings: list[repository.KeptSetting]
    visits: list[repository.KeptVisit]
    event: int  # the newest event of the line, by which others see that something was kept
    progress: Progress
    saved: float | None  # J a year, modelled; None while it is not known


def as_evidence(kept: KeptEvidence) -> Evidence:
    """Kept evidence as core knows it."""
    return Evidence(
        kept.step,
        kept.kind,
        kept.data,
        kept.by,
        kept.at,
        kept.leaves,
        kept.passed,
        kept.note,
        kept.id,
        kept.instrument,
        kept.received,
    )


def with_site(record: dict[str, Any], site: KeptSite | None) -> dict[str, Any]:
    """The record with its site's values, which the line does not keep itself."""
    own = {group: fields for group, fields in record.items() if group != "site"}
    return {**own, "site": site.entries} if site is not None and site.entries else own


def open_line(db: MySQLDatabase, line_id: str) -> Opened:
    """A line with verdicts, run sheet and progress."""

    def read() -> Read:
        kept = repository.line(line_id)
        control = kept.record.get("control", {})
        shares = control.get("device_instance") or control.get("bus_address")
        return Read(
            kept,
            repository.site(kept.site_id),
            repository.lines_of_site(kept.site_id) if shares else [],
            repository.evidence(line_id),
            repository.settings(line_id),
            repository.visits(line_id),
            repository.latest_event_of(line_id),
        )

    return _opened(transact(db, read))


@dataclass(frozen=True)
class Read:
    """What the store holds of a line."""

    kept: KeptLine
    site: KeptSite
    beside: list[KeptLine]  # the lines of its site, where they can clash
    evidence: list[KeptEvidence]
    settings: list[repository.KeptSetting]
    visits: list[repository.KeptVisit]
    event: int


def _opened(read: Read) -> Opened:
    kept, site, settings = read.kept, read.site, read.settings
    line, _ = parse_line(with_site(kept.record, site))
    others = {other.tag: parse_line(other.record)[0] for other in read.beside if other.id != kept.id}
    assessment = assess(line, clashes(line, others))
    known = [as_evidence(e) for e in read.evidence]
    sheet = sheet_status(assessment.steps, known, line)
    left = {s.setting for s in settings if s.moment == "left"}
    planned = {r.setting.id for r in assessment.settings if r.planned is not None}
    saved = _saved(assessment)
    progress = progress_of(
        assessment,
        sheet,
        len(left & planned),
        saved is not None,
        any(e.step == HANDED_OVER for e in known),
    )
    return Opened(kept, site, line, assessment, known, sheet, settings, read.visits, read.event, progress, saved)


def _saved(assessment: Assessment) -> float | None:
    try:
        return float(savings_of(assessment.line, assessment.derived).saved)
    except MainspringError:
        return None


def stages_view(progress: Progress) -> list[StageView]:
    """The seven stages."""
    return [StageView(id=s, label=label, state=progress.states[s]) for s, label in STAGES.items()]


def line_view(opened: Opened) -> LineView:
    """A line for the screen."""
    kept = opened.kept
    return LineView(
        id=kept.id,
        site_id=kept.site_id,
        site_name=opened.site.name,
        site_units=opened.site.units,
        tag=kept.tag,
        title=kept.title,
        revision=kept.revision,
        record={g: {n: EntryView(**e) for n, e in f.items()} for g, f in opened.line.to_data().items()},
        updated_at=kept.updated_at,
        stages=stages_view(opened.progress),
        words=opened.progress.words,
        assessment=assessment_view(opened.assessment, {})[0],
    )


def assessment_view(assessment: Assessment, problems: dict[str, BadEntry]) -> tuple[AssessmentView, Ledger]:
    """Verdicts for the screen, and the ledger of their figures."""
    ledger = Ledger()
    strip = assessment.strip
    figures = key_figures(assessment.derived)
    line, derived = assessment.line, assessment.derived
    view = AssessmentView(
        traits=sorted(line.traits),
        limits=[
            ledger.limit("lowest", "Lowest speed", lambda: lowest_reasons(line, derived), highest=True),
            ledger.limit("highest", "Highest speed", lambda: highest_reasons(line, derived), highest=False),
            ledger.limit("ramp_up", "Ramp up", lambda: ramp_up_reasons(line, derived), highest=True),
            ledger.limit("ramp_down", "Ramp down", lambda: ramp_down_reasons(line, derived), highest=True),
        ],
        findings=[ledger.finding(f) for f in assessment.findings],
        strip=StripView(
            stations=[
                StationView(
                    id=s.id,
                    label=s.label,
                    key=ledger.sentence(f"strip.{s.id}.key", s.key),
                    second=ledger.sentence(f"strip.{s.id}.second", s.second),
                    severity=s.severity.word,
                )
                for s in strip.stations
            ],
            joints=[JointView(id=j.id, severity=j.severity.word) for j in strip.joints],
            back=ledger.sentence("strip.back", strip.back),
        ),
        problems=[problem_view(path, p) for path, p in problems.items()],
        figures={n: ledger.figure(f"line.{n}", f) for n, f in figures.items() if isinstance(f, Figure)},
        unknown={n: f for n, f in figures.items() if isinstance(f, str)},
    )
    return view, ledger


def assess_draft(db: MySQLDatabase, record: dict[str, Any], site_id: str | None) -> AssessmentView:
    """Verdicts on a record being typed; nothing is kept."""
    line, problems = parse_line(with_site_of(db, record, site_id))
    return assessment_view(assess(line), problems)[0]


def with_site_of(db: MySQLDatabase, record: dict[str, Any], site_id: str | None) -> dict[str, Any]:
    if not site_id or record.get("site"):
        return record
    return with_site(record, transact(db, lambda: repository.site(site_id)))


def working_for(figures: dict[str, Figure], key: str) -> WorkingView:
    """The calculation sheet of one figure."""
    try:
        return working_view(working_of(figures[key]))
    except KeyError:
        raise UnknownFigure(f"no figure is called {key[:120]}") from None


def round_view(db: MySQLDatabase) -> RoundView:
    """Every site and line; a fixed number of queries, since summaries are kept with the lines."""
    sites, lines = transact(db, lambda: (repository.sites(), repository.lines()))
    stale = [line.id for line in lines if (line.summary or {}).get("version") != SUMMARY_VERSION]
    if stale:
        for line_id in stale:
            refresh_summary(db, line_id)
        lines = transact(db, repository.lines)
    by_site: dict[str, list[RoundLine]] = {site.id: [] for site in sites}
    for kept in lines:
        by_site[kept.site_id].append(_round_line(kept))
    return RoundView(
        sites=[
            RoundSite(
                id=site.id,
                name=site.name,
                units=site.units,
                stops=sum(line.stops for line in by_site[site.id]),
                saved=sum(line.saved or 0.0 for line in by_site[site.id]),
                lines=sorted(by_site[site.id], key=lambda line: (-line.stops, line.words == "Handed over", line.tag)),
            )
            for site in sorted(sites, key=lambda s: (not any(line.stops for line in by_site[s.id]), s.name))
        ]
    )


def _round_line(kept: KeptLine) -> RoundLine:
    summary = kept.summary or {}
    return RoundLine(
        id=kept.id,
        tag=kept.tag,
        title=kept.title,
        stages=[StageView(id=s, label=label, state=summary["states"][s]) for s, label in STAGES.items()],
        words=summary["words"],
        severity=summary["severity"],
        headline=summary["headline"],
        stops=summary["stops"],
        power=summary["power"],
        wanted=summary["wanted"],
        wanted_dimension=summary["wanted_dimension"],
        saved=summary["saved"],
        updated_at=kept.updated_at,
    )


def summary_of(opened: Opened) -> dict[str, Any]:
    """What the Round shows of a line, kept with it."""
    line, findings = opened.line, opened.assessment.findings
    first = worst(findings)
    stale = next((s for s in opened.sheet if s.changed), None)
    severity, headline = ("unknown", "Nothing known yet") if first is None else (first.severity.word, first.title)
    if severity in ("clear", "unknown") and stale is not None:
        severity, headline = "caution", f"Stale: {in_sentence(stale.step.title)}"
    elif severity == "clear":
        headline = "Everything checked is clear"
    held = line.held
    wanted = held if held is not None and held.setpoint else None
    flow = ("machine.air_flow", "air_flow") if "fan" in line.traits else ("machine.duty_flow", "flow")
    return {
        "version": SUMMARY_VERSION,
        "states": opened.progress.states,
        "words": opened.progress.words,
        "severity": severity,
        "headline": headline,
        "stops": sum(f.severity.word == "stop" for f in findings),
        "power": line.value("motor.rated_power"),
        "wanted": line.value(wanted.setpoint if wanted else flow[0]),
        "wanted_dimension": wanted.dimension if wanted else flow[1],
        "saved": opened.saved,
    }


def refresh_summary(db: MySQLDatabase, line_id: str) -> Opened:
    """Bring a line's summary up to date after a write."""
    opened = open_line(db, line_id)
    transact(db, lambda: repository.save_summary(line_id, summary_of(opened)))
    return opened


def check_name(field: str, text: str, *, empty_allowed: bool = False) -> str:
    """A tag, title or name as kept: trimmed, not too long."""
    cleaned = text.strip()
    if len(cleaned) > NAME_LIMIT:
        raise BadRecord({field: BadEntry(field, cleaned, f"up to {NAME_LIMIT} characters, not {len(cleaned)}")})
    if not cleaned and not empty_allowed:
        raise BadRecord({field: BadEntry(field, "", "at least one character")})
    return cleaned


def check_record(record: dict[str, Any]) -> Line:
    """A record fit to be kept, or BadRecord with every problem."""
    line, problems = parse_line({group: fields for group, fields in record.items() if group != "site"})
    if problems:
        raise BadRecord(problems)
    return line


def create_line(
    db: MySQLDatabase, line_id: str, site_id: str, tag: str, title: str, record: dict[str, Any], by: str
) -> Opened:
    """A new line; repeating the same create is harmless."""
    tag, title, by = check_name("tag", tag), check_name("title", title, empty_allowed=True), check_name("by", by)
    data = check_record(record).to_data()
    transact(db, lambda: repository.create_line(line_id, site_id, tag, title, data, SCHEMA_VERSION, {}, by))
    return refresh_summary(db, line_id)


def save_line(
    db: MySQLDatabase, line_id: str, revision: int, tag: str, title: str, record: dict[str, Any], by: str
) -> Opened:
    """Keep a changed record; Conflict when somebody else saved in between."""
    tag, title, by = check_name("tag", tag), check_name("title", title, empty_allowed=True), check_name("by", by)
    data = check_record(record).to_data()
    transact(
        db,
        lambda: repository.save_record(line_id, revision, tag, title, data, SCHEMA_VERSION, {}, by),
    )
    return refresh_summary(db, line_id)


def create_site(db: MySQLDatabase, site_id: str, name: str, units: str, entries: dict[str, Any], by: str) -> KeptSite:
    """A new site; repeating the same create is harmless."""
    name, by = check_name("name", name), check_name("by", by)
    line, problems = parse_line({"site": entries})
    if problems:
        raise BadRecord(problems)
    kept = line.to_data().get("site", {})
    return transact(db, lambda: repository.create_site(site_id, name, units, kept, by))


def find_line(db: MySQLDatabase, name: str) -> Opened:
    """A line by id, or by its tag where only one has it."""

    def look() -> str:
        found = [kept.id for kept in repository.lines() if name in (kept.id, kept.tag)]
        if len(found) == 1:
            return found[0]
        raise repository.NotFound(f"{len(found) or 'no'} lines are called {name[:80]}")

    return open_line(db, transact(db, look))


def history(db: MySQLDatabase, line_id: str) -> list[repository.KeptEvent]:
    """What happened on a line, newest first, steps and settings by their names."""
    opened = open_line(db, line_id)
    names = {s.step.id: s.step.title for s in opened.sheet}
    names |= {r.setting.id: r.setting.label for r in opened.assessment.settings}
    found = transact(db, lambda: repository.events(line_id))
    return [replace(e, subject=names.get(e.subject, e.subject)) for e in found]
