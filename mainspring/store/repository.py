"""Reads and writes, as plain values. Each write appends its event in the same transaction.

Callers run these inside `transact`; none opens a connection of its own.
"""

from dataclasses import dataclass
from datetime import UTC, datetime
from typing import Any

from peewee import IntegrityError, fn

from mainspring.store.models import DriveLine, Event, EvidenceRow, Photo, SettingEntry, Site, Visit


class NotFound(LookupError):
    """No site or line of that id."""


class Conflict(RuntimeError):
    """Somebody saved another version in between; `current` is theirs."""

    def __init__(self, current: "KeptLine") -> None:
        self.current = current
        super().__init__(f"{current.tag} was changed by somebody else (revision {current.revision})")


class IdTaken(ValueError):
    """The id belongs to something else."""


@dataclass(frozen=True)
class KeptSite:
    """A site as kept."""

    id: str
    name: str
    units: str
    entries: dict[str, Any]
    revision: int


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
    summary: dict[str, Any] | None
    updated_at: datetime


@dataclass(frozen=True)
class KeptEvidence:
    """A piece of evidence as kept."""

    id: str
    step: str
    kind: str
    data: dict[str, Any]
    leaves: dict[str, Any]
    passed: bool
    by: str
    at: datetime
    note: str
    visit: str | None = None
    instrument: dict[str, Any] | None = None
    received: datetime | None = None


@dataclass(frozen=True)
class KeptVisit:
    """A visit as kept."""

    id: str
    purpose: str
    by: str
    at: datetime
    instruments: list[dict[str, Any]]
    note: str
    closed: datetime | None


@dataclass(frozen=True)
class KeptSetting:
    """A setting as found or left."""

    setting: str
    moment: str
    value: Any
    by: str
    at: datetime


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


def now() -> datetime:
    """The server's time; the only one that counts."""
    return datetime.now(UTC)


def _log(
    who: str,
    what: str,
    *,
    site: str | None = None,
    line: str | None = None,
    subject: str = "",
    before: Any = None,
    after: Any = None,
) -> None:
    Event.create(at=now(), who=who, what=what, site_id=site, line_id=line, subject=subject, before=before, after=after)


def _site(row: Site) -> KeptSite:
    return KeptSite(row.id, row.name, row.units, row.entries, row.revision)


def _line(row: DriveLine) -> KeptLine:
    return KeptLine(
        row.id,
        row.site_id,
        row.tag,
        row.title,
        row.record,
        row.schema_version,
        row.revision,
        row.summary,
        row.updated_at,
    )


def sites() -> list[KeptSite]:
    """Every site, by name."""
    return [_site(r) for r in Site.select().order_by(Site.name, Site.id)]


def site(site_id: str) -> KeptSite:
    """One site, or NotFound."""
    row = Site.get_or_none(Site.id == site_id)
    if row is None:
        raise NotFound("no such site")
    return _site(row)


def lines() -> list[KeptLine]:
    """Every line, by tag."""
    return [_line(r) for r in DriveLine.select().order_by(DriveLine.tag, DriveLine.id)]


def lines_of_site(site_id: str) -> list[KeptLine]:
    """The lines of a site, by tag."""
    return [_line(r) for r in DriveLine.select().where(DriveLine.site == site_id).order_by(DriveLine.tag)]


def line(line_id: str) -> KeptLine:
    """One line, or NotFound."""
    row = DriveLine.get_or_none(DriveLine.id == line_id)
    if row is None:
        raise NotFound("no such line")
    return _line(row)


def create_site(site_id: str, name: str, units: str, entries: dict[str, Any], who: str) -> KeptSite:
    """A new site; the same create again gives the one that is there."""
    found = Site.get_or_none(Site.id == site_id)
    if found is not None:
        return _site(found)
    row = Site.create(id=site_id, name=name, units=units, entries=entries, revision=1, created_at=now())
    _log(who, "site created", site=site_id, subject=name, after={"name": name, "entries": entries})
    return _site(row)


def create_line(
    line_id: str,
    site_id: str,
    tag: str,
    title: str,
    record: dict[str, Any],
    schema_version: int,
    summary: dict[str, Any],
    who: str,
) -> KeptLine:
    """A new line; the same create again gives the one that is there."""
    found = DriveLine.get_or_none(DriveLine.id == line_id)
    if found is not None:
        if found.site_id != site_id:
            raise IdTaken("this id belongs to a line of another site")
        return _line(found)
    if Site.get_or_none(Site.id == site_id) is None:
        raise NotFound("no such site")
    moment = now()
    try:
        row = DriveLine.create(
            id=line_id,
            site=site_id,
            tag=tag,
            title=title,
            record=record,
            schema_version=schema_version,
            revision=1,
            summary=summary,
            created_at=moment,
            updated_at=moment,
        )
    except IntegrityError:  # the same create at the same moment from another tab
        return line(line_id)
    _log(who, "line created", site=site_id, line=line_id, subject=tag, after=record)
    return _line(row)


def save_record(
    line_id: str,
    revision: int,
    tag: str,
    title: str,
    record: dict[str, Any],
    schema_version: int,
    summary: dict[str, Any],
    who: str,
) -> KeptLine:
    """Replace a line's record if nobody else has in between; Conflict carries the other version."""
    current = line(line_id)
    changed = {"tag": tag, "title": title, "record": record}
    if (current.tag, current.title, current.record) == (tag, title, record):
        return current  # the same save again, or nothing changed
    updated = (
        DriveLine.update(
            tag=tag,
            title=title,
            record=record,
            schema_version=schema_version,
            revision=revision + 1,
            summary=summary,
            updated_at=now(),
        )
        .where((DriveLine.id == line_id) & (DriveLine.revision == revision))
        .execute()
    )
    if not updated:
        raise Conflict(line(line_id))
    _log(
        who,
        "record saved",
        site=current.site_id,
        line=line_id,
        subject=tag,
        before={"tag": current.tag, "title": current.title, "record": current.record},
        after=changed,
    )
    return line(line_id)


def save_summary(line_id: str, summary: dict[str, Any]) -> None:
    """Refresh what the Round shows; derived, so no event."""
    DriveLine.update(summary=summary).where(DriveLine.id == line_id).execute()


def evidence(line_id: str) -> list[KeptEvidence]:
    """All evidence of a line, oldest first."""
    rows = EvidenceRow.select().where(EvidenceRow.line == line_id).order_by(EvidenceRow.done_at, EvidenceRow.id)
    return [
        KeptEvidence(
            r.id,
            r.step,
            r.kind,
            r.data,
            r.leaves,
            r.passed,
            r.done_by,
            r.done_at,
            r.note,
            r.visit_id,
            r.instrument,
            r.received_at,
        )
        for r in rows
    ]


def add_evidence(line_id: str, kept: KeptEvidence) -> bool:
    """Keep a piece of evidence; False when this very id is already kept."""
    if EvidenceRow.get_or_none(EvidenceRow.id == kept.id) is not None:
        return False
    EvidenceRow.create(
        id=kept.id,
        line=line_id,
        visit=kept.visit,
        step=kept.step,
        kind=kept.kind,
        data=kept.data,
        leaves=kept.leaves,
        passed=kept.passed,
        done_by=kept.by,
        done_at=kept.at,
        note=kept.note,
        instrument=kept.instrument,
        received_at=kept.received,
    )
    DriveLine.update(updated_at=now()).where(DriveLine.id == line_id).execute()
    _log(
        kept.by,
        "evidence kept",
        line=line_id,
        subject=kept.step,
        after={"id": kept.id, "kind": kept.kind, "data": kept.data},
    )
    return True


def visits(line_id: str) -> list[KeptVisit]:
    """The visits to a line, oldest first."""
    rows = Visit.select().where(Visit.line == line_id).order_by(Visit.opened_at, Visit.id)
    return [KeptVisit(r.id, r.purpose, r.opened_by, r.opened_at, r.instruments, r.note, r.closed_at) for r in rows]


def put_visit(line_id: str, visit: KeptVisit, who: str) -> bool:
    """Keep a visit, new or changed; False when nothing changed. Raises IdTaken for another line's visit."""
    row = Visit.get_or_none(Visit.id == visit.id)
    values = {"purpose": visit.purpose, "instruments": visit.instruments, "note": visit.note, "closed_at": visit.closed}
    if row is None:
        Visit.create(id=visit.id, line=line_id, opened_by=visit.by, opened_at=visit.at, **values)
    elif row.line_id != line_id:
        raise IdTaken("this id belongs to a visit of another line")
    elif all(getattr(row, name) == value for name, value in values.items()):
        return False
    else:
        Visit.update(**values).where(Visit.id == visit.id).execute()
    _log(
        who,
        "visit opened" if row is None else "visit closed" if visit.closed and not row.closed_at else "visit changed",
        line=line_id,
        subject=visit.purpose,
        after={"id": visit.id, "instruments": visit.instruments, "note": visit.note},
    )
    return True


def settings(line_id: str) -> list[KeptSetting]:
    """As-found and as-left settings of a line."""
    rows = SettingEntry.select().where(SettingEntry.line == line_id).order_by(SettingEntry.setting, SettingEntry.moment)
    return [KeptSetting(r.setting, r.moment, r.value, r.done_by, r.done_at) for r in rows]


def put_setting(line_id: str, setting: str, moment: str, value: Any, who: str) -> None:
    """Keep a setting as found or as left; None takes it away."""
    key = (SettingEntry.line == line_id) & (SettingEntry.setting == setting) & (SettingEntry.moment == moment)
    found = SettingEntry.get_or_none(key)
    before = None if found is None else found.value
    if before == value:
        return
    if value is None:
        SettingEntry.delete().where(key).execute()
    elif found is None:
        SettingEntry.create(line=line_id, setting=setting, moment=moment, value=value, done_by=who, done_at=now())
    else:
        SettingEntry.update(value=value, done_by=who, done_at=now()).where(key).execute()
    DriveLine.update(updated_at=now()).where(DriveLine.id == line_id).execute()
    _log(who, f"setting as {moment}", line=line_id, subject=setting, before=before, after=value)


def add_photo(line_id: str, photo: KeptPhoto, picture: bytes) -> None:
    """Keep a photo; a repeated id is the same photo."""
    if Photo.get_or_none(Photo.id == photo.id) is not None:
        return
    Photo.create(
        id=photo.id,
        line=line_id,
        station=photo.station,
        width=photo.width,
        height=photo.height,
        picture=picture,
        done_by=photo.by,
        done_at=photo.at,
    )
    _log(photo.by, "photo", line=line_id, subject=photo.station, after={"id": photo.id})


def photos(line_id: str) -> list[KeptPhoto]:
    """The photos of a line, oldest first, without their pictures."""
    columns = (Photo.id, Photo.station, Photo.width, Photo.height, Photo.done_by, Photo.done_at)
    rows = Photo.select(*columns).where(Photo.line == line_id).order_by(Photo.done_at)
    return [KeptPhoto(r.id, r.station, r.width, r.height, r.done_by, r.done_at) for r in rows]


def picture(line_id: str, photo_id: str) -> bytes:
    """The picture of a photo. Raises NotFound."""
    row = Photo.get_or_none((Photo.line == line_id) & (Photo.id == photo_id))
    if row is None:
        raise NotFound("no such photo")
    return bytes(row.picture)


def remove_photo(line_id: str, photo_id: str, who: str) -> None:
    """Take a photo away; that it was there stays in the events."""
    if Photo.delete().where((Photo.line == line_id) & (Photo.id == photo_id)).execute():
        _log(who, "photo removed", line=line_id, subject=photo_id)


def latest_event_of(line_id: str) -> int:
    """Id of the newest event of a line; 0 when there is none."""
    return int(Event.select(fn.MAX(Event.id)).where(Event.line_id == line_id).scalar() or 0)


def events(line_id: str, limit: int = 200) -> list[KeptEvent]:
    """The latest events of a line, newest first."""
    rows = Event.select().where(Event.line_id == line_id).order_by(Event.id.desc()).limit(limit)
    return [KeptEvent(r.at, r.who, r.what, r.subject, r.before, r.after) for r in rows]


def remove_everything() -> None:
    """Empty every table, for restoring the demo and between tests."""
    for table in (Event, Photo, SettingEntry, EvidenceRow, Visit, DriveLine, Site):
        table.delete().execute()


def latest_event_id() -> int:
    """Id of the newest event; 0 when there is none."""
    row = Event.select(Event.id).order_by(Event.id.desc()).first()
    return 0 if row is None else int(row.id)
