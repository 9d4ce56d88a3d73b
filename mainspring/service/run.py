"""The run sheet: showing it, keeping evidence, and the visits it is kept in."""

import hashlib
import json
import uuid
from collections.abc import Callable
from dataclasses import dataclass, replace
from datetime import datetime, timedelta
from functools import lru_cache
from pathlib import Path
from time import CLOCK_BOOTTIME, clock_gettime
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.known import NORMAL_95
from mainspring.core.line import find_field, in_force, parse_line
from mainspring.core.line.fields import Choice, Quantity
from mainspring.core.line.record import leaf_value
from mainspring.core.procedure import (
    OLDEST,
    PROOFS,
    Clock,
    Evidence,
    Instrument,
    School,
    StepStatus,
    Visit,
    admit,
    check_plain,
    check_visit,
    in_order,
    input_errors,
    judge_evidence,
    standing,
    table_pattern,
    unseen,
)
from mainspring.core.procedure.stay import STEP_UP, TOUCHED
from mainspring.core.progress import HANDED_OVER
from mainspring.core.settings.kept import KeptSetting
from mainspring.core.settings.setting import told_label
from mainspring.service.commands import carry_out
from mainspring.service.errors import BadRecord, KeptBetween
from mainspring.service.keys import Key, Of
from mainspring.service.known import known_view
from mainspring.service.lines import check_who
from mainspring.service.opened import Opened, OpenLines, with_site
from mainspring.service.present import present
from mainspring.service.sheet import set_rows
from mainspring.service.views import (
    CellView,
    ChangedView,
    Ledger,
    RowView,
    RunView,
    SchoolView,
    StandingView,
    StepsView,
    StepView,
    TableView,
    VisitView,
    evidence_view,
    instrument_view,
    phase_label,
)
from mainspring.store import repository
from mainspring.store.repository import Change, IdTaken

AHEAD = timedelta(seconds=30)  # how far a device's clock may run before the server's
BEHIND = timedelta(seconds=15)  # how late the server may have dated the entry before, while it was tried again
LEAST = timedelta(microseconds=1)
NOBODY = ("technician", "somebody", "user")  # what stands where nobody has given a name
_BOOT = Path("/proc/sys/kernel/random/boot_id")


def this_moment() -> Clock:
    """Now, by the wall's clock and by one that cannot jump."""
    return Clock(repository.now(), _this_boot(), clock_gettime(CLOCK_BOOTTIME))


@lru_cache(1)
def _this_boot() -> str:
    """What names the machine's present boot; it cannot change while a process lives."""
    return _BOOT.read_text().strip() if _BOOT.exists() else ""


@dataclass(frozen=True)
class Entry:
    """What somebody sends as evidence.

    `at` is when it was made, of an entry made without a link or on `paper`; the server's own time otherwise, and never
    a time to come. `seen` are the ids of what its maker knew to be in force; None: whatever it is.
    `sheet` is the line's count at which its maker saw the run sheet; None: as it is now.
    """

    id: str
    step: str
    kind: str
    data: dict[str, Any]
    by: str
    note: str = ""
    at: datetime | None = None
    paper: bool = False
    instrument: Instrument | None = None
    seen: tuple[str, ...] | None = None
    sheet: int | None = None
    device: str = ""  # one run of the application on the device that made it, and the seconds since that began
    ran: float = 0.0

    @property
    def digest(self) -> str:
        """The same for the same content; when it was made may be told only at the second try."""
        tool = None if self.instrument is None else self.instrument.to_data()
        sent = {"step": self.step, "kind": self.kind, "data": self.data, "by": self.by, "note": self.note, "tool": tool}
        return hashlib.sha256(json.dumps(sent, sort_keys=True, separators=(",", ":")).encode()).hexdigest()


class RunSheets:
    """What is done with run sheets."""

    def __init__(self, lines: OpenLines, moment: Callable[[], Clock] = this_moment) -> None:
        self.lines = lines
        self.moment = moment

    def keep(self, line_id: str, entry: Entry) -> bytes:
        """Keep one piece of evidence; repeating it is harmless. Returns what changed on the sheet, as JSON.

        Raises Held while the step is not open, KeptBetween when somebody else was there, IdTaken for an id that
        something else has, BadRecord for what cannot be taken.
        """
        by = check_who(entry.by)
        if by.casefold() in NOBODY:
            raise BadRecord({"by": BadEntry("name", by, "the name of whoever signs it")})
        try:
            check_plain("data", entry.data)
        except BadEntry as problem:
            raise BadRecord({entry.step[:80]: problem}) from None
        entry = replace(entry, by=by)
        digest = entry.digest

        def decide(opened: Opened) -> Change:
            known = opened.ids.get(entry.id)
            if known is not None:
                _same_again(opened, known, entry, digest)
                return Change(by)
            return self._decide(opened, entry, digest)

        before, after = carry_out(self.lines, line_id, decide)
        return changed_json(before, after)

    def _decide(self, opened: Opened, entry: Entry, digest: str) -> Change:
        clock = replace(self.moment(), device=entry.device, ran=entry.ran)
        made_at = _made_at(opened, entry, clock)
        received = None if entry.at is None else clock.wall
        judged = self._as_seen(opened, entry, self._judge(opened, entry, made_at, received, clock))
        visit, new = _visit_for(opened, entry, made_at)
        judged = replace(
            judged,
            id=entry.id,
            instrument=entry.instrument,
            digest=digest,
            visit=None if visit is None else visit.id,
        )
        visits = () if not new or visit is None else (visit,)
        return Change(entry.by, evidence=(judged,), visits=visits, settings=_of_former_drive(opened, judged))

    def _judge(
        self, opened: Opened, entry: Entry, made_at: datetime, received: datetime | None, clock: Clock
    ) -> Evidence:
        if entry.step == HANDED_OVER:
            if entry.kind != "tick":
                raise BadRecord({"kind": BadEntry("kind", entry.kind, "tick")})
            return Evidence(HANDED_OVER, "tick", {}, entry.by, made_at, note=entry.note[:2000], received=received)
        status = opened.status(entry.step)
        if status is None:
            raise BadRecord({"step": BadEntry("step", entry.step, "a step of this line's run sheet")})
        admit(status, entry.kind, paper=entry.paper)
        try:
            if entry.at is not None:
                in_order(status, made_at, [e for s in status.step.after for e in opened.steps.get(s, ())])
            judged = judge_evidence(
                status.step,
                entry.kind,
                entry.data,
                entry.by,
                made_at,
                [e for e in opened.steps.get(entry.step, ()) if status.step.counts(e)],
                entry.note,
                received=received,
                paper=entry.paper,
                clock=clock,
            )
        except BadEntry as problem:
            raise BadRecord({entry.step: problem}) from None
        theirs = [] if entry.seen is None else unseen(status, judged, list(entry.seen))
        if theirs:
            raise KeptBetween(status.step.title, [evidence_view(e) for e in theirs])
        if entry.kind == "photo":
            photos = self.lines.look(lambda: repository.photos(opened.kept.id))
            if judged.data["photo"] not in {p.id for p in photos}:
                raise BadRecord({"photo": BadEntry("photo", judged.data["photo"], "the id of a photo of this line")})
        return judged

    def _as_seen(self, opened: Opened, entry: Entry, judged: Evidence) -> Evidence:
        """Let evidence rest on the values that its maker saw, which somebody may have changed before it was sent."""
        if entry.sheet is None or entry.sheet >= opened.head.seq or not judged.leaves:
            return judged
        seen = entry.sheet
        record, site = self.lines.look(lambda: repository.values_since(opened.kept.id, seen))
        if record is None and site is None:
            return judged
        then = with_site(
            opened.kept.record if record is None else record,
            opened.site if site is None else replace(opened.site, entries=site),
        )
        line = in_force(parse_line(then)[0], opened.judged.on_site)
        return replace(judged, leaves={path: leaf_value(line, path) for path in judged.leaves})

    def put_visit(
        self,
        line_id: str,
        visit_id: str,
        by: str,
        purpose: str,
        instruments: list[Instrument],
        seen: list[Instrument],
        note: str,
        closed: bool,
    ) -> bytes:
        """Open, change or close a visit; the same id is the same visit. One visit of a line is open at a time.

        Against the instruments its sender had seen, those added are added and those taken off are taken off: what
        somebody else changed in between stays. Returns what changed on the sheet, as JSON.
        """
        by = check_who(by)
        moment = self.moment().wall

        def decide(opened: Opened) -> Change:
            known = next((v for v in opened.visits if v.id == visit_id), None)
            if known is not None and purpose != known.purpose:
                allowed = f"{known.purpose}, as this visit began; another purpose begins a visit of its own"
                raise BadRecord({"purpose": BadEntry("purpose", purpose, allowed)})
            ended = () if known else tuple(v for v in opened.visits if v.closed is None and not v.paper)
            was = known or Visit(visit_id, purpose, by, moment, tuple(seen))
            tools = [t for t in was.instruments if t in instruments or t not in seen]
            tools += [t for t in instruments if t not in tools and t not in seen]
            visit = check_visit(
                replace(
                    was,
                    purpose=purpose,
                    instruments=tuple(tools),
                    note=note,
                    closed=(was.closed or moment) if closed else None,
                )
            )
            if visit == known:
                return Change(by)
            return Change(by, visits=(*(replace(v, closed=moment) for v in ended), visit))

        before, after = carry_out(self.lines, line_id, decide)
        return changed_json(before, after)


def _of_former_drive(opened: Opened, judged: Evidence) -> tuple[KeptSetting, ...]:
    """Settings as they move when somebody says that the drive is replaced, or takes that back.

    What the old drive was left at stays, as the former one's; the new one has been found and left at nothing yet.
    """
    stay = opened.judged.on_site.stay
    if judged.step != TOUCHED or judged.kind != "picked" or stay.purpose != "replacement":
        return ()
    was, now = "drive" in stay.parts, "drive" in judged.data
    if now and not was:
        rows = [r for r in set_rows(opened) if r.left is not None]
        former = [replace(r.left, moment="former") for r in rows if r.left is not None]
        gone = [replace(s, value=None) for s in opened.settings if s.moment in ("found", "left")]
        return (*former, *gone)
    if was and not now:
        former = [s for s in opened.settings if s.moment == "former"]
        back = [replace(s, moment="left") for s in former if opened.setting(s.setting, "left") is None]
        return (*back, *(replace(s, value=None) for s in former))
    return ()


def _same_again(opened: Opened, known: Evidence, entry: Entry, digest: str) -> None:
    """Raise IdTaken when an id comes back with other content."""
    same = known.digest == digest if known.digest else (known.step, known.kind) == (entry.step, entry.kind)
    if not same:
        status = opened.status(known.step)
        title = known.step if status is None else status.step.title
        raise IdTaken(f"this id belongs to what {known.by} kept of “{title}”; nothing was kept")


def _made_at(opened: Opened, entry: Entry, clock: Clock) -> datetime:
    """When an entry was made: as told, or now; of what the server saw itself the later is always the later."""
    if entry.at is not None:
        if not OLDEST <= entry.at <= clock.wall + AHEAD:
            allowed = f"from {OLDEST:%Y}, and not later than now, {clock.wall.isoformat(timespec='seconds')}"
            raise BadRecord({"at": BadEntry("at", entry.at.isoformat(), allowed)})
        told = min(entry.at, clock.wall)
        mine = max((e.at for e in opened.ids.values() if e.by == entry.by and not e.paper), default=told)
        # a device sends in the order in which it was done: one that the server dated itself, late, stays before it
        return mine + LEAST if not entry.paper and told < mine <= told + BEHIND else told
    last = max((e.at for e in opened.ids.values() if e.received is None), default=None)
    return clock.wall if last is None else max(clock.wall, last + LEAST)


def _visit_for(opened: Opened, entry: Entry, made_at: datetime) -> tuple[Visit | None, bool]:
    """The visit an entry belongs to, and whether it is new or changed: from paper, one for each day."""
    if entry.step == HANDED_OVER:
        return opened.visit, False
    if opened.short:  # its steps are of this visit, also what was noted on paper in it
        return opened.visit, False
    purpose = "start-up"  # the whole sheet; a short one is asked for
    if entry.paper:
        key = str(uuid.uuid5(uuid.UUID(opened.kept.id), f"paper {made_at:%Y-%m-%d}"))
        known = next((v for v in opened.visits if v.id == key), None)
        if known is None:
            return Visit(key, purpose, entry.by, made_at, closed=made_at, paper=True), True
        wider = replace(known, at=min(known.at, made_at), closed=max(known.closed or made_at, made_at))
        return wider, wider != known
    if opened.visit is not None:
        return opened.visit, False
    return Visit(str(uuid.uuid5(uuid.UUID(entry.id), "visit")), purpose, entry.by, made_at), True


# showing


def run_json(opened: Opened) -> bytes:
    """The run sheet as JSON; each step is made once for as long as nothing new has come to it."""
    made = opened.made.get("run")
    if made is None:
        asleep = b",".join(_step_json(opened, s) for s in opened.asleep)
        made = opened.made["run"] = _json(opened, opened.sheet, b'"asleep":[%b],' % asleep)
    return made


def changed_json(before: Opened, after: Opened) -> bytes:
    """What a command changed on the sheet, and from which count to which; nothing, where it was kept before.

    From count 0 where the sheet has other steps now: whoever shows it reads it anew.
    """
    known = {s.step.id: s for s in before.sheet}
    steps = [s for s in after.sheet if known.get(s.step.id) is not s]
    same = [s.step.id for s in after.sheet] == list(known)
    return _json(after, steps, b'"before":%d,' % (before.head.seq if same else 0))


def _json(opened: Opened, steps: list[StepStatus], more: bytes) -> bytes:
    head = StepsView(
        seq=opened.head.seq,
        steps=[],
        standing=standing_views(opened),
        visit=None if opened.visit is None else visit_view(opened.visit),
    )
    listed = b",".join(_step_json(opened, s) for s in steps)
    text = head.model_dump_json(exclude={"steps"}).encode()
    return b'{%b"steps":[%b],%b' % (more, listed, text[1:])


def standing_views(opened: Opened) -> list[StandingView]:
    """What stays visible ever after."""
    return [StandingView.model_validate(s, from_attributes=True) for s in standing(opened.sheet)]


def _step_json(opened: Opened, status: StepStatus) -> bytes:
    made = opened.judged.made
    kept = made.get(status.step.id)
    if kept is None or kept[0] is not status:
        kept = made[status.step.id] = (status, _step(Ledger(), opened, status).model_dump_json().encode())
    text: bytes = kept[1]
    return text


def run_view(opened: Opened) -> tuple[RunView, Ledger]:
    """The run sheet for the screen, and the ledger of its figures."""
    ledger = Ledger()
    view = RunView(
        seq=opened.head.seq,
        steps=[_step(ledger, opened, s) for s in opened.sheet],
        standing=standing_views(opened),
        visit=None if opened.visit is None else visit_view(opened.visit),
        asleep=[_step(ledger, opened, s) for s in opened.asleep],
    )
    return view, ledger


def _step(ledger: Ledger, opened: Opened, status: StepStatus) -> StepView:
    step, key = status.step, Of.STEP / status.step.id
    return ledger.show(
        StepView,
        step,
        key,
        phase_label=phase_label(status),
        proven=PROOFS[step.proof].words,
        state=status.state.value,
        readings=[ledger.reading(key, r) for r in step.readings],
        choices=dict(step.choices or {}),
        schools={n: _school(ledger, key / "school" / n, s) for n, s in step.schools.items()},
        clock_ends=status.clock_ends,
        table=None if step.table is None else _table(ledger, key, opened, status),
        evidence=[evidence_view(e) for e in status.evidence],
        changed=[_changed(c.field, c.was, c.now) for c in status.changed],
        held_by=list(status.held_by),
        stops=list(step.held_by),
        wait_on_paper=status.wait_on_paper,
        rules=status.rules,
        lacking=list(status.lacking),
        beside=[evidence_view(e) for e in status.beside],
    )


def _school(ledger: Ledger, key: Key, school: School) -> SchoolView:
    return present(
        None, SchoolView, school, expected=None if school.expected is None else ledger.figure(key, school.expected)
    )


def _changed(path: str, was: object, now: object) -> ChangedView:
    if path.startswith(("settings.", "readings.")):
        label, dimension = told_label(path)
        return ChangedView(field=path, label=label, dimension=dimension, was=_plain(was), now=_plain(now))
    field = find_field(path.split("[")[0])
    dimension = field.dimension if isinstance(field, Quantity) else None
    if isinstance(field, Choice):
        was, now = (field.choices.get(str(v), v) for v in (was, now))
    return ChangedView(field=path, label=field.label, dimension=dimension, was=_plain(was), now=_plain(now))


def _plain(value: object) -> float | str | None:
    return value if value is None or isinstance(value, (float, str)) else str(value)


def _table(ledger: Ledger, key: Key, opened: Opened, status: StepStatus) -> TableView:
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
                asked=float(reference) not in table.not_asked,
                id="" if mine is None else mine.id,
                expected={c: ledger.figure(key / i / c, f) for c, f in expected.items()},
                half={c: NORMAL_95 * u for c, u in (table.uncertain[i] if table.uncertain else {}).items()},
                within={c.id: w for c in table.columns if (w := table.within(i, c)) is not None},
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
        pattern=ledger.pattern(key, table_pattern(step, status.evidence, opened.line, opened.assessment.derived)),
        errors={n: ledger.figure(key / n, f) for n, f in errors.items()},
        known=known_view(ledger, key / "known", opened.assessment.derived) if step.id == STEP_UP else None,
    )


def visit_view(visit: Visit) -> VisitView:
    """A visit for the screen."""
    return present(None, VisitView, visit, instruments=[instrument_view(i, visit.at) for i in visit.instruments])
