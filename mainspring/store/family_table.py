"""Reads and writes of families of drives, as plain values; run inside `transact`, as those of `repository`."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any

from peewee import IntegrityError

from mainspring.store import repository
from mainspring.store.models import DriveLine, FamilyRow, FamilyVersion, Site
from mainspring.store.repository import Overtaken
from mainspring.store.rows import Rows


@dataclass(frozen=True)
class KeptFamily:
    """A family as kept: which version is in force, and who put it there."""

    id: str
    digest: str
    revision: int
    summary: dict[str, Any]
    by: str
    at: datetime


FAMILIES = Rows(FamilyRow, KeptFamily)


def families() -> list[KeptFamily]:
    """Every family that somebody made or changed, by id."""
    return FAMILIES.all(FAMILIES.select().order_by(FamilyRow.id))


def family(family_id: str) -> KeptFamily | None:
    """One family; None where nobody kept one of that id."""
    return FAMILIES.first(FAMILIES.select().where(FamilyRow.id == family_id))


def body(digest: str) -> dict[str, Any] | None:
    """The content of a version."""
    row = FamilyVersion.get_or_none(FamilyVersion.digest == digest)
    return None if row is None else row.body


def keep_version(family_id: str, digest: str, content: dict[str, Any], who: str) -> None:
    """Keep the content of a version; harmless where it is kept. Raises Overtaken where another does so right now."""
    if body(digest) is not None:
        return
    try:
        FamilyVersion.create(digest=digest, family=family_id, body=content, by=who, at=repository.now())
    except IntegrityError:
        raise Overtaken from None


def put_family(
    family_id: str, revision: int, digest: str, summary: dict[str, Any], content: dict[str, Any], who: str
) -> KeptFamily:
    """Keep a version and make it the one in force, over the revision that its maker saw; 0 for a new family.

    Counts as a change of every line, since any may use it. Raises Overtaken where another revision is there.
    """
    moment = repository.now()
    keep_version(family_id, digest, content, who)
    kept = KeptFamily(family_id, digest, revision + 1, summary, who, moment)
    if revision == 0:
        try:
            FamilyRow.create(**FAMILIES.values(kept))
        except IntegrityError:
            raise Overtaken from None
    else:
        unmoved = (FamilyRow.id == family_id) & (FamilyRow.revision == revision)
        if not FamilyRow.update(**FAMILIES.values(kept)).where(unmoved).execute():
            raise Overtaken
    Site.update(seq=Site.seq + 1).execute()
    repository.log_event(who, "family saved", family_id, after={"digest": digest})
    return kept


def lines_using(family_id: str) -> list[str]:
    """Tags of the lines whose drive is of a family."""
    likely = DriveLine.select(DriveLine.tag, DriveLine.record).where(DriveLine.record.contains(f'"{family_id}"'))
    return sorted(d.tag for d in likely if d.record.get("drive", {}).get("family", {}).get("value") == family_id)
