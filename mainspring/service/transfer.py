"""A whole line out as a file, and in again: judged on the way in like any entry, all of it or nothing."""

import uuid
from collections import defaultdict
from collections.abc import Set
from dataclasses import replace
from typing import Any

from mainspring.core.assess import assess
from mainspring.core.errors import BadEntry, MainspringError
from mainspring.core.line import Line, OnSite, Told, find_field, in_force, parse_line
from mainspring.core.line.record import leaf_value
from mainspring.core.procedure import (
    Evidence,
    Instrument,
    Step,
    Visit,
    check_plain,
    check_text,
    check_visit,
    judge_evidence,
    kinds,
)
from mainspring.core.progress import HANDED_OVER, MEASURED
from mainspring.core.settings.kept import KeptSetting
from mainspring.core.settings.own import setting_of
from mainspring.core.settings.setting import told_label
from mainspring.exchange import line_file
from mainspring.exchange.line_file import EvidencePart, LineFile, LinePart, SettingPart, SitePart
from mainspring.service.errors import BadRecord
from mainspring.service.lines import check_name, check_record, check_site_entries, check_who, make_line, until_settled
from mainspring.service.measured import check_claim
from mainspring.service.opened import Opened, OpenLines, read_line, with_site
from mainspring.service.sheet import WHY_LIMIT
from mainspring.service.summary import summary_of
from mainspring.store import repository
from mainspring.store.repository import Change, KeptSite


def export_line(opened: Opened) -> str:
    """The whole line as open JSON."""
    entries = opened.line.to_data().get("site", {})
    visits = sorted(opened.visits, key=lambda v: (v.at, v.by, v.purpose, v.note))
    ids = [v.id for v in visits]
    evidence = sorted(opened.evidence, key=lambda e: (e.at, e.step, e.kind, repr(sorted(e.data.items(), key=str))))
    return line_file.dump(
        LineFile(
            site=SitePart(name=opened.site.name, units=opened.site.units, entries=entries),
            line=LinePart(tag=opened.kept.tag, title=opened.kept.title, record=opened.kept.record),
            visits=[line_file.part_of_visit(v) for v in visits],
            evidence=[line_file.part_of_evidence(e, ids) for e in evidence],
            settings=[
                SettingPart(
                    setting=s.setting,
                    moment=s.moment,  # type: ignore[arg-type]
                    value=s.value,
                    by=s.by,
                    at=s.at,
                    why=s.why,
                    taken=s.taken,
                )
                for s in opened.settings
            ],
        )
    )


class Transfers:
    """What is done with whole lines."""

    def __init__(self, lines: OpenLines) -> None:
        self.lines = lines

    def take_in(self, text: bytes | str, line_id: str, site_id: str | None, by: str) -> Opened:
        """A line from an export, whole or not at all; into a given site, or one of the file's site's name.

        Raises BadRecord naming what in the file cannot be taken, IdTaken for an id that another line has.
        """
        by = check_who(by)
        try:
            file = line_file.load(text)
            data = check_record(file.line.record).to_data()
            entries = check_site_entries(file.site.entries)
            visits = _visits(file, line_id)
            settings = tuple(_setting(row) for row in file.settings)
            site = KeptSite("", file.site.name, file.site.units, entries, 1)
            evidence = _evidence(file, line_id, data, site, visits)
        except BadEntry as problem:
            raise BadRecord({problem.field: problem}) from None
        change = Change(by, evidence=evidence, visits=visits, settings=settings)
        tag, title = check_name("tag", file.line.tag), check_name("title", file.line.title, least=0)
        name = check_name("site name", file.site.name)
        family = self.lines.family_of(data)

        def write() -> None:
            target = site_id or next((s.id for s in repository.sites() if s.name == name), None)
            if target is None:
                target = repository.create_site(str(uuid.uuid4()), name, file.site.units, entries, by).id
            if make_line(line_id, target, tag, title, data, by, family) and change:
                before = read_line(line_id, None, family)
                repository.write(before.before(), change, summary_of(before.after(change)))

        until_settled(self.lines, write)
        return self.lines.open(line_id)


def _visits(file: LineFile, line_id: str) -> tuple[Visit, ...]:
    now = repository.now()
    found = []
    for i, part in enumerate(file.visits):
        visit = check_visit(line_file.visit_of(part, str(uuid.uuid5(uuid.NAMESPACE_OID, f"{line_id}/visit/{i}"))))
        line_file.check_moment("visits.at", visit.at, now)
        if visit.closed is not None:
            line_file.check_moment("visits.closed", visit.closed, now)
            if visit.closed < visit.at:
                ended, begun = (m.isoformat(timespec="seconds") for m in (visit.closed, visit.at))
                raise BadEntry(f"visits.{i}.closed", ended, f"not before {begun}, when it began")
        found.append(visit)
    if (count := sum(v.closed is None for v in found)) > 1:
        raise BadEntry("visits", f"{count} that are not closed", "one at most: nobody is at a machine twice at once")
    return tuple(found)


def _setting(part: SettingPart) -> KeptSetting:
    known = setting_of(part.setting)
    if known is None:
        raise BadEntry("settings.setting", part.setting, "an id of the settings sheet")
    at = line_file.check_moment("settings.at", part.at, repository.now())
    value = known.check(part.value)
    by = check_text("settings.by", part.by, 120, least=1)
    why = check_text("settings.why", part.why, WHY_LIMIT, least=1 if part.moment == "decided" else 0)
    return KeptSetting(part.setting, part.moment, value, by, at, why, part.taken)


SETS_SINCE = 6  # the version of files in which each drive of a set, and of a wall, has its own evidence
# steps that were proven in another way before
OTHERWISE_NOW = (
    "isolate.lock_out",
    "isolate.absence",
    "isolate.insulation",
    "isolate.ends",
    "power.line_volts",
    "power.energise",
    "many.units",
    "many.roles",
    "many.link",
    "turn.rotation",
    "signals.relays",
)


class _PlansThen:
    """The run sheet as it stood on the values that a piece of evidence rested on."""

    def __init__(self, data: dict[str, Any], site: KeptSite) -> None:
        self.now, _ = parse_line(with_site(data, site))
        self._known: dict[str, dict[str, Step]] = {}

    def step(self, part: EvidencePart, without: Set[str] = frozenset()) -> Step | None:
        """The step, on the record of then; None when there was no such step.

        `without` are values on which it would rest now and did not then: nobody had entered them.
        """
        then = {**part.leaves, **dict.fromkeys(without)}
        other = {path: value for path, value in then.items() if leaf_value(self.now, path) != value}
        key = repr(sorted(other.items(), key=str))
        if key not in self._known:
            self._known[key] = {s.id: s for s in assess(_put_back(self.now, other)).steps}
        return self._known[key].get(part.step)


def _put_back(line: Line, leaves: dict[str, Any]) -> Line:
    """The record with other values at the paths of leaves; rows of a table one by one."""
    data = line.to_data()
    told: dict[str, dict[str, Told]] = {"settings": {}, "readings": {}}
    for path, value in leaves.items():
        kind, _, of = path.partition(".")
        if kind in told:
            if value is not None:
                told[kind][of] = Told(value, "left" if kind == "settings" else "read")
            continue
        name, _, rest = path.partition("[")
        group, _, field_name = name.partition(".")
        entry = data.setdefault(group, {})
        if value is None:
            entry.pop(field_name, None)
        elif not rest:
            entry[field_name] = {"value": value}
        elif field_name in entry:
            index, _, column = rest.partition("].")
            columns = [c.name for c in find_field(name).columns]  # type: ignore[attr-defined]
            rows = [list(r) for r in entry[field_name]["value"]]
            if int(index) < len(rows):
                rows[int(index)][columns.index(column)] = value
                entry[field_name] = {**entry[field_name], "value": rows}
    return in_force(parse_line(data)[0], OnSite(told["settings"], told["readings"]))


def _evidence(
    file: LineFile, line_id: str, data: dict[str, Any], site: KeptSite, visits: tuple[Visit, ...]
) -> tuple[Evidence, ...]:
    now = repository.now()
    plans = _PlansThen(data, site)
    kept: list[Evidence] = []
    by_step: defaultdict[str, list[Evidence]] = defaultdict(list)
    for i, part in enumerate(sorted(file.evidence, key=lambda e: e.at)):
        try:
            judged = _judged(part, plans, by_step[part.step], now, old=file.version < SETS_SINCE)
        except MainspringError as problem:
            raise BadEntry(f"evidence of {part.step}", part.kind, str(problem)) from None
        visit = None
        if file.version < 3:  # which did not say in which visit it was made
            visit = next((v.id for v in reversed(visits) if v.at <= part.at), None)
        elif part.visit is not None:
            if part.visit >= len(visits):
                raise BadEntry("evidence.visit", part.visit, f"0 to {len(visits) - 1}, the visits of the file")
            visit = visits[part.visit].id
        key = str(uuid.uuid5(uuid.NAMESPACE_OID, f"{line_id}/{i}"))
        tool = None if part.instrument is None else Instrument(part.instrument.name, part.instrument.due)
        kept.append(replace(judged, id=key, visit=visit, instrument=tool))
        by_step[part.step].append(kept[-1])
    return tuple(kept)


def _judged(part: EvidencePart, plans: _PlansThen, earlier: list[Evidence], now: Any, *, old: bool = False) -> Evidence:
    """A piece of the file, judged as it would have been when it was made.

    In an `old` file a step may have been proven otherwise than it is now: such a piece stays in the story as it is.
    """
    at = line_file.check_moment("evidence.at", part.at, now)
    received = None if part.received is None else line_file.check_moment("evidence.received", part.received, now)
    if part.kind not in kinds():
        raise BadEntry("evidence.kind", part.kind, ", ".join(kinds()))
    check_plain("data", part.data)
    check_plain("leaves", part.leaves)
    for path in part.leaves:
        if path.startswith(("settings.", "readings.")):
            told_label(path)
        else:
            find_field(path.partition("[")[0])
    as_told = Evidence(
        part.step, part.kind, part.data, part.by, at, part.leaves, part.passed, part.note, "", None, received, None,
        part.paper,
    )  # fmt: skip
    if part.step == MEASURED:  # its logs stay behind: a claim as it was told
        check_claim(part.data)
        return as_told
    if part.step == HANDED_OVER:
        return Evidence(HANDED_OVER, "tick", {}, part.by, at, note=part.note, received=received, paper=part.paper)
    step = plans.step(part)
    if step is None:  # one that this line no longer has: it proves nothing, and stays in the story
        return as_told
    sent = {k: v for k, v in part.data.items() if k not in ("out", "better")}  # what judging adds

    def judge(step: Step) -> Evidence:
        return judge_evidence(
            step, part.kind, sent, part.by, at, earlier, part.note, received=received, paper=part.paper
        )

    try:
        judged = judge(step)
        if judged.passed != part.passed and (before := plans.step(part, without=set(judged.leaves) - set(part.leaves))):
            judged = judge(before)
    except MainspringError:
        if old and part.step in OTHERWISE_NOW:
            return as_told
        raise
    if judged.passed != part.passed:
        if old and part.step in OTHERWISE_NOW:
            return as_told
        raise BadEntry("passed", part.passed, "what the readings themselves say")
    return judged
