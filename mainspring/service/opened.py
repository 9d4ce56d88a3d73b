"""Open lines: a line with all that hangs on it, as an immutable snapshot, and the ones that this process holds.

What is in a process's memory is only a copy, which the line's counter brings up to date; several processes and several
machines therefore give the same answers.
"""

import threading
from collections import OrderedDict
from collections.abc import Callable
from dataclasses import dataclass, field, replace
from functools import cached_property
from typing import Any, TypeVar

from peewee import MySQLDatabase

from mainspring.core.assess import Assessment, assess
from mainspring.core.benches.savings import Modelled, modelled_of
from mainspring.core.errors import MainspringError
from mainspring.core.families import NEUTRAL, Family
from mainspring.core.line import NOTHING, Line, OnSite, in_force, parse_line
from mainspring.core.procedure import Evidence, StepStatus, Visit, by_step, open_visit, sheet_status
from mainspring.core.procedure.telling import feeds_back, told_on_site
from mainspring.core.progress import HANDED_OVER, MEASURED, Progress, progress_of
from mainspring.core.settings.kept import KeptSetting
from mainspring.core.site import clashes
from mainspring.store import repository
from mainspring.store.database import transact
from mainspring.store.repository import Before, Change, Head, KeptLine, KeptSite

T = TypeVar("T")
KEPT_OPEN = 256  # lines held in memory, the least recently used given up first
STRIPES = 64


FindFamily = Callable[[str], Family]


def neutral_family(_id: str) -> Family:
    """The family of a line that nothing is known of."""
    return NEUTRAL


def with_site(record: dict[str, Any], site: KeptSite | None) -> dict[str, Any]:
    """The record with its site's values, which the line does not keep itself."""
    own = {group: fields for group, fields in record.items() if group != "site"}
    return {**own, "site": site.entries} if site is not None and site.entries else own


@dataclass(frozen=True)
class Judged:
    """What follows from a line's record, its site and what was told of it: the same until one of them changes."""

    assessment: Assessment
    on_site: OnSite = NOTHING
    memory: dict[str, Any] = field(default_factory=dict)  # of the run sheet's states, step by step
    made: dict[str, Any] = field(default_factory=dict)  # what was made of it for the screens

    @cached_property
    def modelled(self) -> Modelled | None:
        """The saving of a year by the line as known; None while too little is."""
        try:
            return modelled_of(self.assessment.derived)
        except MainspringError:
            return None

    @property
    def saved(self) -> float | None:
        """Energy saved a year as modelled [J]; None while it is not known."""
        return None if self.modelled is None else float(self.modelled.savings.saved)


@dataclass(frozen=True)
class Opened:
    """A line with everything that hangs on it, at one count of its changes."""

    head: Head
    kept: KeptLine
    site: KeptSite
    beside: tuple[KeptLine, ...]  # the other lines of its site, where they can clash
    judged: Judged
    steps: dict[str, tuple[Evidence, ...]]  # evidence by step
    settings: tuple[KeptSetting, ...]
    visits: tuple[Visit, ...]
    made: dict[str, bytes] = field(default_factory=dict)  # what was made of this snapshot for the screens
    find_family: FindFamily = neutral_family

    @cached_property
    def family(self) -> Family:
        """The drive's family; saving one counts as a change of every line, so that this stays true."""
        return self.find_family(self.record.value("drive.family") or "")

    @property
    def assessment(self) -> Assessment:
        """Verdicts on the record."""
        return self.judged.assessment

    @property
    def line(self) -> Line:
        """The record as it is in force, with what was decided, left and read on site."""
        return self.judged.assessment.line

    @property
    def record(self) -> Line:
        """The record as it was entered."""
        return self.line.record

    @property
    def saved(self) -> float | None:
        """Energy saved a year as modelled [J]."""
        return self.judged.saved

    @cached_property
    def evidence(self) -> list[Evidence]:
        """All evidence, in order of when it was made."""
        return sorted((e for mine in self.steps.values() for e in mine), key=lambda e: e.at)

    @cached_property
    def ids(self) -> dict[str, Evidence]:
        """All evidence by id."""
        return {e.id: e for mine in self.steps.values() for e in mine}

    @cached_property
    def sheet(self) -> list[StepStatus]:
        """The run sheet: state of every step."""
        return sheet_status(self.assessment.steps, self.steps, self.line, self.judged.memory)

    @cached_property
    def whole(self) -> list[StepStatus]:
        """The whole run sheet, whatever the visit in hand asks of it."""
        if not self.short:
            return self.sheet
        return sheet_status(self.assessment.plan.whole, self.steps, self.line)

    @cached_property
    def asleep(self) -> list[StepStatus]:
        """Steps that a wrong answer would add to the sheet."""
        return sheet_status(self.assessment.plan.asleep, {}, self.line)

    @property
    def short(self) -> bool:
        """Whether the visit in hand has a sheet of its own."""
        return bool(self.judged.on_site.stay.visit)

    @cached_property
    def progress(self) -> Progress:
        """The seven stages."""
        left = {s.setting for s in self.settings if s.moment == "left"}
        planned = {r.setting.id for r in self.assessment.settings if r.planned is not None}
        planned -= {id for id in planned - left if self.family.lacks(id)}
        handed_over = HANDED_OVER in self.steps
        known = self.saved is not None
        progress = progress_of(self.assessment, self.whole, len(planned), len(left & planned), known, handed_over)
        if not self.short:
            return progress
        done = sum(s.done_or_left_out for s in self.sheet)
        purpose = self.judged.on_site.stay.purpose.capitalize()
        return replace(progress, words=f"{purpose}: step {min(done + 1, len(self.sheet))} of {len(self.sheet)}")

    @property
    def claimed(self) -> Evidence | None:
        """The measured saving that somebody stands up for, the last of them."""
        return next(iter(self.steps.get(MEASURED, ())[-1:]), None)

    @cached_property
    def visit(self) -> Visit | None:
        """The visit in hand."""
        return open_visit(self.visits)

    def status(self, step_id: str) -> StepStatus | None:
        """A step of the run sheet."""
        return next((s for s in self.sheet if s.step.id == step_id), None)

    def setting(self, setting: str, moment: str) -> KeptSetting | None:
        """A setting as found or as left."""
        return next((s for s in self.settings if (s.setting, s.moment) == (setting, moment)), None)

    def before(self) -> Before:
        """What a change decided on this snapshot is written over."""
        return Before(
            self.head,
            self.kept,
            {v.id: v for v in self.visits},
            {(s.setting, s.moment): s for s in self.settings},
        )

    def after(self, change: Change) -> "Opened":
        """The line as it stands once a change is kept."""
        seq = self.head.seq + 1
        head = replace(
            self.head,
            seq=seq,
            settings_seq=seq if change.settings else self.head.settings_seq,
            visits_seq=seq if change.visits else self.head.visits_seq,
        )
        kept = replace(self.kept, updated_at=repository.now())
        if change.line is not None:
            head = replace(head, revision=head.revision + 1)
            kept = replace(change.line, revision=head.revision, updated_at=kept.updated_at)
        visits = {v.id: v for v in self.visits} | {v.id: v for v in change.visits}
        settings = {(s.setting, s.moment): s for s in self.settings}
        settings |= {(s.setting, s.moment): s for s in change.settings}
        entered = tuple(s for _, s in sorted(settings.items()) if s.value is not None)
        steps = _with(self.steps, change.evidence)
        judged, on_site = self.judged, self.judged.on_site
        stays = tuple(sorted(visits.values(), key=lambda v: (v.at, v.id)))
        if change.settings or change.visits or any(feeds_back(e.step) for e in change.evidence):
            on_site = told_on_site(entered, steps, stays)
        if change.line is not None or on_site != judged.on_site:
            judged = judge(kept, self.site, self.beside, on_site)
        return Opened(
            head,
            kept,
            self.site,
            self.beside,
            judged,
            steps,
            entered,
            stays,
            find_family=self.find_family,
        )


def _with(steps: dict[str, tuple[Evidence, ...]], new: tuple[Evidence, ...] | list[Evidence]) -> dict[str, Any]:
    """Evidence by step with more of it; a step that nothing came to keeps its very tuple."""
    more = by_step(new)
    return {**steps, **{step: tuple(sorted(steps.get(step, ()) + e, key=lambda e: e.at)) for step, e in more.items()}}


def judge(kept: KeptLine, site: KeptSite, beside: tuple[KeptLine, ...], on_site: OnSite = NOTHING) -> Judged:
    """What follows from a record, its site, the lines beside it, and what was told of it there."""
    line = in_force(parse_line(with_site(kept.record, site))[0], on_site)
    others = {other.tag: parse_line(other.record)[0] for other in beside if other.id != kept.id}
    return Judged(assess(line, clashes(line, others)), on_site)


def shares(record: dict[str, Any]) -> tuple[Any, ...]:
    """What of a record other lines of the site may not have too."""
    control = record.get("control", {})
    return tuple(control.get(name, {}).get("value") for name in ("device_instance", "bus_address"))


class OpenLines:
    """The lines that this process holds open, over one database."""

    def __init__(self, db: MySQLDatabase) -> None:
        self.db = db
        self._held: OrderedDict[str, Opened] = OrderedDict()
        self._stripes = [threading.RLock() for _ in range(STRIPES)]
        self._order = threading.Lock()
        self.family: FindFamily = neutral_family  # how the drive's family is found

    def family_of(self, record: dict[str, Any]) -> FindFamily:
        """The family of a record's drive, found now: inside a transaction nothing else may be asked."""
        family = self.family(record.get("drive", {}).get("family", {}).get("value") or "")
        return lambda _id: family

    def transact(self, work: Callable[[], T]) -> T:
        """Run work in one transaction."""
        return transact(self.db, work)

    def look(self, read: Callable[[], T]) -> T:
        """One reading statement, without a transaction round it."""
        return transact(self.db, read, one_look=True)

    def head(self, line_id: str) -> Head:
        """How far a line has come; NotFound when there is none."""
        return self.look(lambda: repository.head(line_id))

    def open(self, line_id: str, head: Head | None = None) -> Opened:
        """A line as it stands now, or at least as far as a head that was just looked at."""
        head = head or self.head(line_id)
        held = self.held(line_id)
        if held is not None and held.head == head:
            return held
        with self.alone(line_id):  # the second who asks finds what the first has read
            held = self.held(line_id)
            if held is not None and _reaches(held.head, head):
                return held
            fresh = self.transact(lambda: read_line(line_id, held, self.family))
            self.hold(fresh)
            return fresh

    def alone(self, line_id: str) -> threading.RLock:
        """A lock so that writers of this process do not race one another; nothing relies on it for being right."""
        return self._stripes[hash(line_id) % STRIPES]

    def held(self, line_id: str) -> Opened | None:
        """A line as this process last knew it."""
        with self._order:
            found = self._held.get(line_id)
            if found is not None:
                self._held.move_to_end(line_id)
            return found

    def hold(self, opened: Opened) -> None:
        """Keep a snapshot, unless a later one is here already."""
        with self._order:
            have = self._held.get(opened.kept.id)
            if have is None or have.head.made != opened.head.made or have.head.seq <= opened.head.seq:
                self._held[opened.kept.id] = opened
                self._held.move_to_end(opened.kept.id)
            while len(self._held) > KEPT_OPEN:
                self._held.popitem(last=False)


def _reaches(held: Head, wanted: Head) -> bool:
    return held.made == wanted.made and held.seq >= wanted.seq and held.site_seq >= wanted.site_seq


def read_line(line_id: str, held: Opened | None, find_family: FindFamily = neutral_family) -> Opened:
    """A line from the store, inside a transaction; of what is held already only what came after is read."""
    head = repository.head(line_id)
    same = held if held is not None and held.head.made == head.made and held.head.seq <= head.seq else None
    if same is None:
        steps = by_step(repository.evidence(line_id, upto=head.seq))
    else:
        steps = _with(same.steps, repository.evidence(line_id, same.head.seq, head.seq))
    unchanged = same is not None and (same.head.revision, same.head.site_seq) == (head.revision, head.site_seq)
    if same is not None and unchanged:
        kept, site, beside = same.kept, same.site, same.beside
        if same.head.seq != head.seq:
            kept = replace(kept, updated_at=repository.line(line_id).updated_at)
    else:
        kept = repository.line(line_id)
        site = repository.site(kept.site_id)
        beside = tuple(repository.lines_of_site(kept.site_id)) if any(shares(kept.record)) else ()
    settings = (
        same.settings
        if same is not None and same.head.settings_seq == head.settings_seq
        else tuple(repository.settings(line_id))
    )
    visits = (
        same.visits
        if same is not None and same.head.visits_seq == head.visits_seq
        else tuple(repository.visits(line_id))
    )
    on_site = told_on_site(settings, steps, visits)
    known = same.judged if same is not None and unchanged and same.judged.on_site == on_site else None
    judged = known or judge(kept, site, beside, on_site)
    return Opened(head, kept, site, beside, judged, steps, settings, visits, find_family=find_family)
