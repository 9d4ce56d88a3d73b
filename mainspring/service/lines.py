"""Lines and sites: opening, saving, verdicts while typing, and what the screens are shown of them."""

from dataclasses import replace
from typing import Any

from mainspring.core.assess import Assessment, assess, key_figures
from mainspring.core.errors import BadEntry
from mainspring.core.limits import highest_reasons, lowest_reasons, ramp_down_reasons, ramp_up_reasons
from mainspring.core.line import Line, in_force, parse_line
from mainspring.core.line.record import SCHEMA_VERSION
from mainspring.core.method import Figure
from mainspring.core.procedure import check_text
from mainspring.core.progress import STAGES, Progress
from mainspring.core.working import working_of
from mainspring.service.commands import carry_out
from mainspring.service.errors import BadRecord, UnknownFigure
from mainspring.service.keys import Key, Of
from mainspring.service.opened import FindFamily, Opened, OpenLines, judge, shares, with_site
from mainspring.service.present import present
from mainspring.service.summary import summary_of
from mainspring.service.views import (
    AssessmentView,
    EntryView,
    JointView,
    Ledger,
    LineView,
    SiteView,
    StageView,
    StationView,
    StripView,
    problem_view,
)
from mainspring.service.working import WorkingView, working_view
from mainspring.store import repository
from mainspring.store.errors import NotFound
from mainspring.store.repository import Change, Conflict, Head, KeptLine, KeptSite, Overtaken

NAME_LIMIT = 200
WHO_LIMIT = 120
# fields that no two lines share, or that were read at one of them
ONLY_ONE_HAS = (
    *(f"{station}.serial" for station in ("drive", "motor", "machine", "sensor")),
    *(f"supply.reading_{pair}" for pair in ("12", "23", "31")),
    "sensor.check_signal",
    "sensor.check_pressure",
    "control.bus_address",
    "control.device_instance",
)


class Lines:
    """What is done with lines and sites as such."""

    def __init__(self, lines: OpenLines) -> None:
        self.lines = lines

    def find(self, name: str) -> Opened:
        """A line by id, or by its tag where only one has it."""
        found = self.lines.transact(lambda: repository.ids_named(name))
        if len(found) != 1:
            raise NotFound(f"{len(found) or 'no'} lines are called {name[:80]}")
        return self.lines.open(found[0])

    def create(self, line_id: str, site_id: str, tag: str, title: str, record: dict[str, Any], by: str) -> Opened:
        """A new line; repeating the same create is harmless."""
        tag, title, by = check_name("tag", tag), check_name("title", title, least=0), check_who(by)
        data = check_record(record).to_data()

        family = self.lines.family_of(data)
        until_settled(self.lines, lambda: make_line(line_id, site_id, tag, title, data, by, family))
        return self.lines.open(line_id)

    def save(self, line_id: str, revision: int, tag: str, title: str, record: dict[str, Any], by: str) -> Opened:
        """Keep a changed record; Conflict when somebody else saved in between."""
        tag, title, by = check_name("tag", tag), check_name("title", title, least=0), check_who(by)
        data = check_record(record).to_data()

        def decide(opened: Opened) -> Change:
            kept = opened.kept
            if (kept.tag, kept.title, kept.record) == (tag, title, data):
                return Change(by)  # the same save again, or nothing changed
            if kept.revision != revision:
                raise Conflict(kept)
            made = replace(kept, tag=tag, title=title, record=data, schema_version=SCHEMA_VERSION)
            return Change(by, line=made)

        return carry_out(self.lines, line_id, decide)[1]

    def copy(self, line_id: str, twin_id: str, tag: str, title: str, by: str) -> Opened:
        """A twin of a line on the same site: its record and what was decided; evidence stays behind.

        What only one of the two can have is left out: numbers and addresses, and what was read there. Repeating the
        same copy is harmless.
        """
        tag, title, by = check_name("tag", tag), check_name("title", title, least=0), check_who(by)
        model = self.lines.open(line_id)
        data = _without(model.kept.record, ONLY_ONE_HAS)
        family = self.lines.family_of(data)
        until_settled(self.lines, lambda: make_line(twin_id, model.kept.site_id, tag, title, data, by, family))

        def decide(opened: Opened) -> Change:
            moment, there = repository.now(), {s.setting for s in opened.settings}
            decided = [s for s in model.settings if s.moment == "decided" and s.setting not in there]
            return Change(by, settings=tuple(replace(s, by=by, at=moment) for s in decided))

        return carry_out(self.lines, twin_id, decide)[1]

    def create_site(self, site_id: str, name: str, units: str, entries: dict[str, Any], by: str) -> KeptSite:
        """A new site; repeating the same create is harmless."""
        name, by = check_name("name", name), check_who(by)
        kept = check_site_entries(entries)
        made: KeptSite = until_settled(self.lines, lambda: repository.create_site(site_id, name, units, kept, by))
        return made

    def site(self, site_id: str) -> KeptSite:
        """One site."""
        found: KeptSite = self.lines.transact(lambda: repository.site(site_id))
        return found

    def save_site(
        self, site_id: str, revision: int, name: str, units: str, entries: dict[str, Any], by: str
    ) -> KeptSite:
        """Keep a changed site; SiteConflict when somebody else saved in between. The same save again is harmless."""
        name, by = check_name("name", name), check_who(by)
        kept = check_site_entries(entries)

        def write() -> KeptSite:
            before = repository.site(site_id)
            if (before.name, before.units, before.entries) == (name, units, kept):
                return before
            if before.revision != revision:
                raise repository.SiteConflict(before)
            repository.save_site(before, replace(before, name=name, units=units, entries=kept), by)
            return repository.site(site_id)

        made: KeptSite = self.lines.transact(write)
        return made

    def history(self, line_id: str) -> list[repository.KeptEvent]:
        """What happened on a line, newest first, steps and settings by their names."""
        opened = self.lines.open(line_id)
        names = {id: step.title for id, step in opened.assessment.plan.every.items()}
        names |= {r.setting.id: r.setting.label for r in opened.assessment.settings}
        found = self.lines.look(lambda: repository.events(line_id))
        return [replace(e, subject=names.get(e.subject, e.subject)) for e in found]


def _without(record: dict[str, Any], paths: tuple[str, ...]) -> dict[str, Any]:
    kept = {g: {n: e for n, e in fields.items() if f"{g}.{n}" not in paths} for g, fields in record.items()}
    return {g: fields for g, fields in kept.items() if fields}


def until_settled(lines: OpenLines, write: Any) -> Any:
    """A create in one transaction; once more where the very same came at the same moment."""
    for _ in range(5):
        try:
            return lines.transact(write)
        except Overtaken:
            continue
    raise Overtaken


def make_line(
    line_id: str, site_id: str, tag: str, title: str, data: dict[str, Any], by: str, find_family: FindFamily
) -> bool:
    """Keep a new line with its summary, inside a transaction; False when the very same one is there."""
    moment = repository.now()
    kept = KeptLine(line_id, site_id, tag, title, data, SCHEMA_VERSION, 1, moment)
    site = repository.site(site_id)
    beside = tuple(repository.lines_of_site(site_id)) if any(shares(data)) else ()
    judged = judge(kept, site, beside)
    opened = Opened(Head(1, 1, 1, 1, site.seq, moment), kept, site, beside, judged, {}, (), (), find_family=find_family)
    made = repository.create_line(kept, summary_of(opened), by)
    if made and any(shares(data)):
        repository.touch_site(site_id)
    return made


def site_view(site: KeptSite) -> SiteView:
    """A site for the screen."""
    kept = parse_line({"site": site.entries})[0].to_data().get("site", {})
    entries = {name: EntryView(**entry) for name, entry in kept.items()}
    return present(None, SiteView, site, entries=entries)


def stages_view(progress: Progress) -> list[StageView]:
    """The seven stages."""
    return [StageView(id=s, label=label, state=progress.states[s]) for s, label in STAGES.items()]


def line_view(opened: Opened, assessment: AssessmentView) -> LineView:
    """A line for the screen."""
    kept = opened.kept
    return present(
        None,
        LineView,
        kept,
        site_name=opened.site.name,
        site_units=opened.site.units,
        seq=opened.head.seq,
        record={g: {n: EntryView(**e) for n, e in f.items()} for g, f in opened.record.to_data().items()},
        stages=stages_view(opened.progress),
        words=opened.progress.words,
        assessment=assessment,
    )


def line_json(opened: Opened) -> bytes:
    """A line for the screen, as JSON; made once for a snapshot, its verdicts once for a record."""
    made = opened.made.get("line")
    if made is None:
        shared = opened.judged.made
        if "assessment" not in shared:
            shared["assessment"] = assessment_view(opened.assessment, {})[0]
        made = opened.made["line"] = line_view(opened, shared["assessment"]).model_dump_json().encode()
    return made


def assessment_view(assessment: Assessment, problems: dict[str, BadEntry]) -> tuple[AssessmentView, Ledger]:
    """Verdicts for the screen, and the ledger of their figures."""
    ledger = Ledger()
    strip = assessment.strip
    figures = key_figures(assessment.derived)
    line, derived = assessment.line, assessment.derived
    view = AssessmentView(
        traits=sorted(line.traits),
        limits=[
            ledger.limit("lowest", "limits.minimum_speed", line, lambda: lowest_reasons(line, derived), highest=True),
            ledger.limit(
                "highest", "limits.maximum_speed", line, lambda: highest_reasons(line, derived), highest=False
            ),
            ledger.limit("ramp_up", "ramps.up", line, lambda: ramp_up_reasons(line, derived), highest=True),
            ledger.limit("ramp_down", "ramps.down", line, lambda: ramp_down_reasons(line, derived), highest=True),
        ],
        findings=[ledger.finding(f) for f in assessment.findings],
        strip=StripView(
            stations=[ledger.show(StationView, s, Of.STRIP / s.id, severity=s.severity.word) for s in strip.stations],
            joints=[JointView(id=j.id, severity=j.severity.word) for j in strip.joints],
            back=ledger.sentence(Of.STRIP / "back", strip.back),
        ),
        problems=[problem_view(path, p) for path, p in problems.items()],
        figures={n: ledger.figure(Of.LINE / n, f) for n, f in figures.items() if isinstance(f, Figure)},
        unknown={n: f for n, f in figures.items() if isinstance(f, str)},
    )
    return view, ledger


class Drafts:
    """Records being typed: nothing of them is kept."""

    def __init__(self, lines: OpenLines) -> None:
        self.lines = lines

    def line(
        self, record: dict[str, Any], site_id: str | None, line_id: str | None = None
    ) -> tuple[Line, dict[str, BadEntry]]:
        """The record with its site's values and what was told of its line, and what of it cannot be taken."""
        if site_id and not record.get("site"):
            record = with_site(record, self.lines.look(lambda: repository.site(site_id)))
        line, problems = parse_line(record)
        return (line if line_id is None else in_force(line, self.lines.open(line_id).judged.on_site)), problems

    def assess(self, record: dict[str, Any], site_id: str | None, line_id: str | None = None) -> AssessmentView:
        """Verdicts on a record being typed."""
        line, problems = self.line(record, site_id, line_id)
        return assessment_view(assess(line), problems)[0]


def working_for(figures: dict[Key, Figure], key: Key) -> WorkingView:
    """The calculation sheet of one figure."""
    try:
        return working_view(working_of(figures[key]))
    except KeyError:
        raise UnknownFigure(f"no figure is called {str(key)[:120]}") from None


def check_name(field: str, text: str, *, least: int = 1) -> str:
    """A tag, title or name as kept: trimmed, not too long. Raises BadRecord."""
    return _checked(field, text, NAME_LIMIT, least)


def check_who(by: str) -> str:
    """Who does it. Raises BadRecord."""
    return _checked("by", by, WHO_LIMIT, 1)


def _checked(field: str, text: str, limit: int, least: int) -> str:
    try:
        return check_text(field, text, limit, least=least)
    except BadEntry as problem:
        raise BadRecord({field: problem}) from None


def check_site_entries(entries: Any) -> dict[str, Any]:
    """Entries of a site as kept. Raises BadRecord."""
    line, problems = parse_line({"site": entries or {}})
    if problems:
        raise BadRecord(problems)
    return line.to_data().get("site", {})


def check_record(record: dict[str, Any]) -> Line:
    """A record fit to be kept, or BadRecord with every problem."""
    line, problems = parse_line({group: fields for group, fields in record.items() if group != "site"})
    if problems:
        raise BadRecord(problems)
    return line
