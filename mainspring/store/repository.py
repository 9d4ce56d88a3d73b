"""Reads and writes, as plain values. Callers run these inside `transact`; none opens a connection of its own.

Every write of a line goes through `write`: the line's counter first, by compare-and-set, then what changed, its events
and the summary. A writer that finds the counter moved has lost the race (`Overtaken`) and is to decide anew. A counter
and not a row lock, since row locks do not hold across a cluster.
"""

from collections.abc import Iterable, Mapping
from dataclasses import dataclass
from datetime import UTC, datetime
from functools import lru_cache
from typing import Any

from peewee import IntegrityError, fn

from mainspring.core.procedure import Evidence, Visit
from mainspring.core.settings.kept import KeptSetting
from mainspring.store.errors import NotFound
from mainspring.store.models import (
    AccessCode,
    DriveLine,
    Event,
    EvidenceRow,
    FamilyRow,
    FamilyVersion,
    Photo,
    SettingEntry,
    Site,
    Table,
    TrendPart,
    TrendRow,
)
from mainspring.store.models import Visit as VisitRow
from mainspring.store.rows import Rows


class Conflict(RuntimeError):
    """Somebody saved another version in between; `current` is theirs."""

    def __init__(self, current: "KeptLine") -> None:
        self.current = current
        super().__init__(f"{current.tag} was changed by somebody else (revision {current.revision})")


class SiteConflict(RuntimeError):
    """Somebody saved another version of the site in between; `current` is theirs."""

    def __init__(self, current: "KeptSite") -> None:
        self.current = current
        super().__init__(f"{current.name} was changed by somebody else (revision {current.revision})")


class IdTaken(ValueError):
    """The id belongs to something else; the text says to what."""


class Overtaken(RuntimeError):
    """The line changed after it was read: read, decide and write again."""

    def __init__(self) -> None:
        super().__init__("it changed after it was read")


@dataclass(frozen=True)
class KeptSite:
    """A site as kept."""

    id: str
    name: str
    units: str
    entries: dict[str, Any]
    revision: int
    seq: int = 1


@dataclass(frozen=True)
class KeptLine:
    """A line as kept."""

    id: str
    site_id: str
    tag: str
    title: str
    record: dict[str, Any]
    schema_version: int
    revision: int
    updated_at: datetime


@dataclass(frozen=True)
class Head:
    """How far a line, and what its site's lines share, have come; all that hangs on it is as old as this says."""

    seq: int
    revision: int
    settings_seq: int
    visits_seq: int
    site_seq: int
    made: datetime  # when the line was made: another line of the same id is another line

    @property
    def mark(self) -> str:
        """What moves with every change of what is shown of the line."""
        return f"{self.seq}.{self.site_seq}.{self.made:%y%m%d%H%M%S}"


@dataclass(frozen=True)
class KeptEvent:
    """An event as kept."""

    at: datetime
    who: str
    what: str
    subject: str
    before: Any
    after: Any


@dataclass(frozen=True)
class KeptPhoto:
    """A photo as kept, without the picture itself."""

    id: str
    station: str
    width: int
    height: int
    by: str
    at: datetime


@dataclass(frozen=True)
class KeptCode:
    """An access code as kept, encrypted; an empty secret takes it away."""

    secret: str
    by: str
    at: datetime


@dataclass(frozen=True)
class KeptTrend:
    """A log of a line, without its readings."""

    id: str
    side: str
    name: str
    layout: dict[str, Any]
    signature: str
    digest: str
    summary: dict[str, Any]
    aside: bool
    by: str
    at: datetime


Piece = tuple[str, int, bytes]  # quantity, number of the piece, Parquet


@dataclass(frozen=True)
class Change:
    """What one command does to a line: all of it is kept, or none."""

    who: str
    line: KeptLine | None = None  # with its new tag, title and record
    evidence: tuple[Evidence, ...] = ()
    visits: tuple[Visit, ...] = ()
    settings: tuple[KeptSetting, ...] = ()
    photo: KeptPhoto | None = None
    picture: bytes = b""
    photo_removed: str = ""
    trend: KeptTrend | None = None  # new, with its pieces; or known, and put aside, taken back, or on the other side
    pieces: tuple[Piece, ...] = ()
    code: KeptCode | None = None
    note: str = ""  # something that was done and changed nothing that is kept, or must not be told
    why: str = ""

    def __bool__(self) -> bool:
        kept = (self.line, self.evidence, self.visits, self.settings, self.photo, self.photo_removed, self.note)
        return any((*kept, self.trend))


@dataclass(frozen=True)
class Before:
    """What a change is written over: the counter it was decided on, and what the events tell of before."""

    head: Head
    line: KeptLine
    visits: Mapping[str, Visit]
    settings: Mapping[tuple[str, str], KeptSetting]


# how what is kept stands in its table
SITES, LINES, VISITS = Rows(Site, KeptSite), Rows(DriveLine, KeptLine), Rows(VisitRow, Visit)
EVIDENCE, SETTINGS, PHOTOS = Rows(EvidenceRow, Evidence), Rows(SettingEntry, KeptSetting), Rows(Photo, KeptPhoto)
TRENDS, CODES, EVENTS = Rows(TrendRow, KeptTrend), Rows(AccessCode, KeptCode), Rows(Event, KeptEvent)


def _rows(query: Any) -> list[tuple[Any, ...]]:
    """The rows of a query as tuples; for the type checker, which sees models."""
    return list(query.tuples())


def now() -> datetime:
    """The server's time; the only one that counts."""
    return datetime.now(UTC)


# sites


def sites() -> list[KeptSite]:
    """Every site, by name."""
    return SITES.all(SITES.select().order_by(Site.name, Site.id))


def site(site_id: str) -> KeptSite:
    """One site, or NotFound."""
    found = SITES.first(SITES.select().where(Site.id == site_id))
    if found is None:
        raise NotFound("no such site")
    return found


def create_site(site_id: str, name: str, units: str, entries: dict[str, Any], who: str) -> KeptSite:
    """A new site; the same create again gives the one that is there, another one of its id raises IdTaken."""
    found = SITES.first(SITES.select().where(Site.id == site_id))
    if found is None:
        made = KeptSite(site_id, name, units, entries, 1)
        try:
            Site.create(**SITES.values(made), created_at=now())
        except IntegrityError:
            raise Overtaken from None  # the same create at the same moment from another tab
        _log([_event(who, "site created", site=site_id, subject=name, after={"name": name, "entries": entries})])
        return made
    if (found.name, found.units, found.entries) != (name, units, entries):
        raise IdTaken(f"this id belongs to the site {found.name}; nothing was kept")
    return found


def save_site(before: KeptSite, after: KeptSite, who: str) -> None:
    """Keep a changed site, and count it as a change of each of its lines. Raises SiteConflict."""
    changed = Site.update(
        name=after.name, units=after.units, entries=after.entries, revision=Site.revision + 1, seq=Site.seq + 1
    ).where((Site.id == before.id) & (Site.revision == before.revision))
    if not changed.execute():
        raise SiteConflict(site(before.id))
    DriveLine.update(seq=DriveLine.seq + 1).where(DriveLine.site == before.id).execute()
    was, now_is = ({"name": s.name, "units": s.units, "entries": s.entries} for s in (before, after))
    told = _event(who, "site changed", site=before.id, subject=after.name, before=was, after=now_is)
    lines = _rows(DriveLine.select(DriveLine.id, DriveLine.seq).where(DriveLine.site == before.id))
    _log([told, *({**told, "line_id": line, "seq": seq} for line, seq in lines)])


def touch_site(site_id: str) -> None:
    """Count a change of what the lines of a site share."""
    Site.update(seq=Site.seq + 1).where(Site.id == site_id).execute()


# lines


def head(line_id: str) -> Head:
    """How far a line has come; NotFound when there is none. One look by primary key."""
    sql = (
        "SELECT l.seq, l.revision, l.settings_seq, l.visits_seq, s.seq, l.created_at FROM drive_line l"
        " JOIN site s ON s.id = l.site_id WHERE l.id = %s"
    )
    row = DriveLine._meta.database.execute_sql(sql, (line_id,)).fetchone()
    if row is None:
        raise NotFound("no such line")
    return Head(*row)


def heads(line_ids: Iterable[str]) -> dict[str, int]:
    """The counter of each of several lines."""
    query = DriveLine.select(DriveLine.id, DriveLine.seq).where(DriveLine.id.in_(list(line_ids)))
    return dict(_rows(query))


def line(line_id: str) -> KeptLine:
    """One line, or NotFound."""
    found = LINES.first(LINES.select().where(DriveLine.id == line_id))
    if found is None:
        raise NotFound("no such line")
    return found


def lines_of_site(site_id: str) -> list[KeptLine]:
    """The lines of a site, by tag."""
    return LINES.all(LINES.select().where(DriveLine.site == site_id).order_by(DriveLine.tag))


def ids_named(name: str) -> list[str]:
    """Ids of the lines that have this id or tag."""
    query = DriveLine.select(DriveLine.id).where((DriveLine.id == name) | (DriveLine.tag == name))
    return [row[0] for row in _rows(query)]


@dataclass(frozen=True)
class Summary:
    """What the Round shows of a line."""

    id: str
    site_id: str
    tag: str
    title: str
    summary: dict[str, Any]
    updated_at: datetime


def summaries() -> list[Summary]:
    """What the Round shows of every line, by tag."""
    columns = (DriveLine.id, DriveLine.site, DriveLine.tag, DriveLine.title, DriveLine.summary, DriveLine.updated_at)
    rows = _rows(DriveLine.select(*columns).order_by(DriveLine.tag, DriveLine.id))
    return [Summary(a, b, c, d, e or {}, f) for a, b, c, d, e, f in rows]


def state_of_everything() -> tuple[int, ...]:
    """A mark that moves with every write to any line or site."""
    lines = _rows(DriveLine.select(fn.COUNT(DriveLine.seq), fn.SUM(DriveLine.seq)))
    of_sites = _rows(Site.select(fn.COUNT(Site.id), fn.SUM(Site.revision), fn.SUM(Site.seq)))
    return tuple(int(n or 0) for n in (*lines[0], *of_sites[0]))


def create_line(kept: KeptLine, summary: dict[str, Any], who: str) -> bool:
    """Keep a new line; False when the very same line is there already. Raises IdTaken, Overtaken."""
    found = DriveLine.get_or_none(DriveLine.id == kept.id)
    if found is not None:
        created = Event.select(Event.subject, Event.after, Event.site_id).where(
            (Event.line_id == kept.id) & (Event.what == "line created")
        )
        if created.tuples().first() != (kept.tag[:200], kept.record, kept.site_id):
            raise IdTaken(f"this id belongs to the line {found.tag}, which was made otherwise; nothing was kept")
        return False
    try:
        DriveLine.create(**LINES.values(kept), summary=summary, created_at=kept.updated_at)
    except IntegrityError:  # the same create at the same moment from another tab
        raise Overtaken from None
    _log([_event(who, "line created", kept.tag, after=kept.record, site=kept.site_id, line=kept.id, seq=1)])
    return True


def save_summary(line_id: str, seq: int, summary: dict[str, Any]) -> None:
    """Refresh what the Round shows of a line as it stood at a count; derived, so no event."""
    DriveLine.update(summary=summary).where((DriveLine.id == line_id) & (DriveLine.seq == seq)).execute()


def write(before: Before, change: Change, summary: dict[str, Any], *, shares: bool = False) -> None:
    """Keep a change of a line that was decided on `before`. Raises Overtaken when the line has moved since.

    `shares` says that other lines of the site are touched by it. Raises IdTaken for an id that something else has.
    """
    line_id, seq = before.line.id, before.head.seq + 1
    values: dict[str, Any] = {"seq": seq, "summary": summary, "updated_at": now()}
    if change.settings:
        values["settings_seq"] = seq
    if change.visits:
        values["visits_seq"] = seq
    if change.line is not None:
        made = change.line
        values |= {"tag": made.tag, "title": made.title, "record": made.record, "revision": before.head.revision + 1}
        values["schema_version"] = made.schema_version
    unmoved = (
        (DriveLine.id == line_id) & (DriveLine.seq == before.head.seq) & (DriveLine.revision == before.head.revision)
    )
    if not DriveLine.update(**values).where(unmoved).execute():
        raise Overtaken
    if shares:
        touch_site(before.line.site_id)
    for visit in change.visits:
        _put_visit(line_id, visit, new=visit.id not in before.visits)
    try:
        if change.evidence:
            _insert(EvidenceRow, [{"line": line_id, "seq": seq, **EVIDENCE.values(e)} for e in change.evidence])
    except IntegrityError:
        raise _taken(EvidenceRow, line_id, [e.id for e in change.evidence]) from None
    for setting in change.settings:
        _put_setting(line_id, setting)
    if change.photo is not None:
        _put_photo(line_id, change.photo, change.picture)
    if change.photo_removed:
        Photo.delete().where((Photo.line == line_id) & (Photo.id == change.photo_removed)).execute()
    if change.trend is not None:
        _put_trend(line_id, change.trend, change.pieces)
    if change.code is not None:
        _put_code(line_id, change.code)
    _log([{**e, "line_id": line_id, "seq": seq} for e in _events(before, change)])


def _taken(table: Any, line_id: str, ids: list[str]) -> Exception:
    """Why an id could not be kept: it stands at another line. At this one, somebody was first: Overtaken."""
    rows = table.select(DriveLine.tag, table.line).join(DriveLine).where(table.id.in_(ids)).tuples()
    for tag, owner in rows:
        if owner != line_id:
            return IdTaken(f"this id belongs to the line {tag}; nothing was kept")
    return Overtaken()


# what hangs on a line


def evidence(line_id: str, after: int = 0, upto: int | None = None) -> list[Evidence]:
    """Evidence of a line kept after one count and up to another, in order of when it was made."""
    wanted = (EvidenceRow.line == line_id) & (EvidenceRow.seq > after)
    if upto is not None:
        wanted &= EvidenceRow.seq <= upto
    return EVIDENCE.all(EVIDENCE.select().where(wanted).order_by(EvidenceRow.at, EvidenceRow.seq, EvidenceRow.id))


def visits(line_id: str) -> list[Visit]:
    """The visits to a line, oldest first."""
    return VISITS.all(VISITS.select().where(VisitRow.line == line_id).order_by(VisitRow.at, VisitRow.id))


def _put_visit(line_id: str, visit: Visit, *, new: bool) -> None:
    values = VISITS.values(visit)
    if not new:
        kept = {name: values[name] for name in values.keys() - {"id", "by", "at"}}  # who began it, and when, stays
        VisitRow.update(**kept).where(VisitRow.id == visit.id).execute()
        return
    try:
        VisitRow.create(line=line_id, **values)
    except IntegrityError:
        raise _taken(VisitRow, line_id, [visit.id]) from None


def settings(line_id: str) -> list[KeptSetting]:
    """Settings of a line as found, decided and left."""
    wanted = SETTINGS.select().where(SettingEntry.line == line_id)
    return SETTINGS.all(wanted.order_by(SettingEntry.setting, SettingEntry.moment))


def _put_setting(line_id: str, entry: KeptSetting) -> None:
    key = (
        (SettingEntry.line == line_id) & (SettingEntry.setting == entry.setting) & (SettingEntry.moment == entry.moment)
    )
    SettingEntry.delete().where(key).execute()
    if entry.value is not None:
        SettingEntry.create(line=line_id, **SETTINGS.values(entry))


def photos(line_id: str) -> list[KeptPhoto]:
    """The photos of a line, oldest first, without their pictures."""
    return PHOTOS.all(PHOTOS.select().where(Photo.line == line_id).order_by(Photo.at))


def _put_photo(line_id: str, photo: KeptPhoto, picture: bytes) -> None:
    try:
        Photo.create(line=line_id, picture=picture, **PHOTOS.values(photo))
    except IntegrityError:
        raise _taken(Photo, line_id, [photo.id]) from None


def trends(line_id: str) -> list[KeptTrend]:
    """The logs of a line, oldest first, without their readings."""
    return TRENDS.all(TRENDS.select().where(TrendRow.line == line_id).order_by(TrendRow.at, TrendRow.id))


def layout_of(line_id: str, signature: str) -> dict[str, Any] | None:
    """How the last log of this signature was confirmed to be laid out on this line: another has other meters."""
    mine = (TrendRow.signature == signature) & (TrendRow.line == line_id)
    row = TrendRow.select(TrendRow.layout).where(mine).order_by(TrendRow.at.desc())
    found = row.first()
    return None if found is None else dict(found.layout)


def pieces(trend_id: str) -> list[Piece]:
    """The pieces of a log's columns, of each quantity in order."""
    query = TrendPart.select(TrendPart.quantity, TrendPart.part, TrendPart.piece).where(TrendPart.trend == trend_id)
    return [(q, n, bytes(b)) for q, n, b in _rows(query.order_by(TrendPart.quantity, TrendPart.part))]


def _put_trend(line_id: str, trend: KeptTrend, parts: tuple[Piece, ...]) -> None:
    if not parts:
        values = {"side": trend.side, "aside": trend.aside}
        TrendRow.update(**values).where((TrendRow.line == line_id) & (TrendRow.id == trend.id)).execute()
        return
    try:
        TrendRow.create(line=line_id, **TRENDS.values(trend))
    except IntegrityError:
        raise _taken(TrendRow, line_id, [trend.id]) from None
    for quantity, number, piece in parts:  # each a statement of its own: together they may be larger than a packet
        _insert(TrendPart, [{"trend": trend.id, "quantity": quantity, "part": number, "piece": piece}])


def code(line_id: str) -> KeptCode | None:
    """The access code of a line's drive, encrypted; None where none is kept."""
    return CODES.first(CODES.select().where(AccessCode.line == line_id))


def _put_code(line_id: str, kept: KeptCode) -> None:
    AccessCode.delete().where(AccessCode.line == line_id).execute()
    if kept.secret:
        AccessCode.create(line=line_id, **CODES.values(kept))


def picture(line_id: str, photo_id: str) -> bytes:
    """The picture of a photo. Raises NotFound."""
    row = Photo.get_or_none((Photo.line == line_id) & (Photo.id == photo_id))
    if row is None:
        raise NotFound("no such photo")
    return bytes(row.picture)


# events


def _event(
    who: str,
    what: str,
    subject: str = "",
    before: Any = None,
    after: Any = None,
    site: str | None = None,
    line: str | None = None,
    seq: int | None = None,
) -> dict[str, Any]:
    return {
        "at": now(),
        "who": who,
        "what": what,
        "site_id": site,
        "line_id": line,
        "seq": seq,
        "subject": subject[:200],
        "before": before,
        "after": after,
    }


def _events(before: Before, change: Change) -> list[dict[str, Any]]:
    """What a change did, for the history."""
    found = []
    if change.line is not None:
        old, new = ({"tag": x.tag, "title": x.title, "record": x.record} for x in (before.line, change.line))
        found.append(_event(change.who, "record saved", change.line.tag, old, new, before.line.site_id))
    for visit in change.visits:
        known = before.visits.get(visit.id)
        closes = known is not None and visit.closed and not known.closed
        what = "visit opened" if known is None else "visit closed" if closes else "visit changed"
        told = {"id": visit.id, "instruments": [i.to_data() for i in visit.instruments], "note": visit.note}
        found.append(_event(change.who, what, visit.purpose, after=told))
    found += [
        _event(e.by, "evidence kept", e.step, after={"id": e.id, "kind": e.kind, "data": e.data})
        for e in change.evidence
    ]
    for s in change.settings:
        old_value = before.settings.get((s.setting, s.moment))
        was = None if old_value is None else old_value.value
        now_is = {"value": s.value, "why": s.why} if s.why else s.value
        found.append(_event(s.by, f"setting as {s.moment}", s.setting, was, now_is))
    if change.photo is not None:
        found.append(_event(change.who, "photo", change.photo.station, after={"id": change.photo.id}))
    if change.trend is not None:
        what = "log read" if change.pieces else "log put aside" if change.trend.aside else "log counted"
        told = {"id": change.trend.id, "side": change.trend.side, "digest": change.trend.digest}
        found.append(_event(change.who, what, change.trend.name, after=told))
    if change.note:
        found.append(_event(change.who, change.note, change.why))
    if change.photo_removed:
        found.append(_event(change.who, "photo removed", change.photo_removed))
    return found


def log_event(who: str, what: str, subject: str, after: Any = None) -> None:
    """One event that is of no line and no site."""
    _log([_event(who, what, subject, after=after)])


def _log(events: list[dict[str, Any]]) -> None:
    if events:
        _insert(Event, events)


@lru_cache(8)
def _columns(table: type[Table], names: tuple[str, ...]) -> tuple[str, list[Any]]:
    fields = [table._meta.fields[name] for name in names]
    listed = ", ".join(f"`{f.column_name}`" for f in fields)
    return f"INSERT INTO `{table._meta.table_name}` ({listed}) VALUES ", fields


AT_A_TIME = 500  # rows; of the longest notes and tables they stay far below the 16 MB of one packet


def _insert(table: type[Table], rows: list[dict[str, Any]]) -> None:
    """Rows of one shape, as many in a statement as the server takes at a time and answers in good time.

    By hand, since the query builder takes 1 ms for what every entry does.
    """
    start, fields = _columns(table, tuple(rows[0]))
    marks = "(" + ", ".join(["%s"] * len(fields)) + ")"
    for at in range(0, len(rows), AT_A_TIME):
        some = rows[at : at + AT_A_TIME]
        values = [f.db_value(v) for row in some for f, v in zip(fields, row.values(), strict=True)]
        table._meta.database.execute_sql(start + ", ".join([marks] * len(some)), values)


def events(line_id: str, limit: int = 200) -> list[KeptEvent]:
    """The latest events of a line, newest first."""
    return EVENTS.all(EVENTS.select().where(Event.line_id == line_id).order_by(Event.id.desc()).limit(limit))


def values_since(line_id: str, seq: int) -> tuple[dict[str, Any] | None, dict[str, Any] | None]:
    """The record, and the entries of the site, as they were at a count; None where they have not changed since."""
    query = Event.select(Event.what, Event.before).where((Event.line_id == line_id) & (Event.seq > seq))
    first: dict[str, Any] = {}
    for what, before in _rows(query.where(Event.what.in_(("record saved", "site changed"))).order_by(Event.id)):
        first.setdefault(what, before)
    record, site = first.get("record saved"), first.get("site changed")
    return None if record is None else record["record"], None if site is None else site["entries"]


def remove_everything() -> None:
    """Empty every table, for restoring the demo and between tests."""
    hanging = (Event, Photo, TrendPart, TrendRow, AccessCode, SettingEntry, FamilyRow, FamilyVersion, EvidenceRow)
    for table in (*hanging, VisitRow, DriveLine, Site):
        table.delete().execute()


def latest_event_id() -> int:
    """Id of the newest event; 0 when there is none."""
    row = Event.select(Event.id).order_by(Event.id.desc()).first()
    return 0 if row is None else int(row.id)
