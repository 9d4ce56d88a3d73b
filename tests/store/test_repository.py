"""What is kept is kept once, in order, with its event; nobody overwrites anybody."""

from dataclasses import replace
from datetime import UTC, date, datetime, timedelta, timezone
from typing import Any

import pytest
from peewee import MySQLDatabase

from mainspring.core.procedure import Clock, Evidence, Instrument, Visit
from mainspring.core.settings.kept import KeptSetting
from mainspring.store import database, repository
from mainspring.store.database import MIGRATIONS, migrate, pooled_database, transact
from mainspring.store.errors import NotFound, StoreUnavailable
from mainspring.store.models import TABLES, Event
from mainspring.store.repository import Before, Change, IdTaken, KeptLine, Overtaken
from tests.threads import at_once

MOMENT = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)


def site(db: MySQLDatabase, key: str = "s1") -> Any:
    return transact(db, lambda: repository.create_site(key, "Site", "si", {}, "Ana"))


def line(db: MySQLDatabase, key: str = "l1", record: dict[str, Any] | None = None, at: str = "s1") -> bool:
    kept = KeptLine(key, at, "P-1", "pump", record or {}, 1, 1, MOMENT)
    return transact(db, lambda: repository.create_line(kept, {}, "Ana"))


def before(db: MySQLDatabase, key: str = "l1") -> Before:
    """The line as it is now, to write over."""

    def read() -> Before:
        visits = {v.id: v for v in repository.visits(key)}
        settings = {(s.setting, s.moment): s for s in repository.settings(key)}
        return Before(repository.head(key), repository.line(key), visits, settings)

    return transact(db, read)


def write(db: MySQLDatabase, change: Change, over: Before | None = None) -> None:
    known = over or before(db)
    transact(db, lambda: repository.write(known, change, {}))


def saved(over: Before, record: dict[str, Any], who: str = "Ana") -> Change:
    return Change(who, line=replace(over.line, record=record))


def setting(value: Any, name: str = "ramps.up") -> Change:
    return Change("Ben", settings=(KeptSetting(name, "left", value, "Ben", MOMENT),))


def evidence(key: str = "e1", at: datetime = MOMENT, **more: Any) -> Evidence:
    leaves = {"motor.rated_speed": 1445.0}
    return Evidence("isolate.lock_out", "tick", {}, "Ana", at, leaves, id=key, **more)


def keep(db: MySQLDatabase, *pieces: Evidence, over: Before | None = None) -> None:
    write(db, Change("Ana", evidence=pieces), over)


def test_a_repeated_create_is_harmless_and_another_of_its_id_refused(db: MySQLDatabase) -> None:
    site(db)
    assert line(db, record={"motor": {}})
    assert not line(db, record={"motor": {}})
    with pytest.raises(IdTaken, match="belongs to the line P-1"):
        line(db, record={"other": {}})
    assert [e.what for e in transact(db, lambda: repository.events("l1"))] == ["line created"]


def test_an_id_of_another_site_is_refused(db: MySQLDatabase) -> None:
    site(db)
    site(db, "s2")
    line(db)
    with pytest.raises(IdTaken, match="belongs to the line P-1"):
        line(db, at="s2")
    with pytest.raises(IdTaken, match="belongs to the site Site"):
        transact(db, lambda: repository.create_site("s1", "Other", "si", {}, "Ana"))


def test_who_writes_over_what_has_moved_has_lost_the_race_and_leaves_nothing(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    old = before(db)
    write(db, saved(old, {"motor": {"rated_speed": {"value": 1450.0}}}, "Ben"))
    for change in (saved(old, {"motor": {}}), setting(10.0), Change("Ana", evidence=(evidence(),))):
        with pytest.raises(Overtaken, match="changed after it was read"):
            write(db, change, old)
    now = before(db)
    assert now.line.record == {"motor": {"rated_speed": {"value": 1450.0}}}
    assert (now.head.seq, now.head.revision, now.settings) == (2, 2, {})
    assert transact(db, lambda: repository.evidence("l1")) == []


def test_the_counters_tell_what_moved(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    first = before(db).head
    keep(db, evidence())
    write(db, setting(10.0))
    write(db, Change("Ana", visits=(Visit("v1", "start-up", "Ana", MOMENT, (Instrument("Meter"),)),)))
    head = before(db).head
    assert (head.seq, head.revision, head.settings_seq, head.visits_seq) == (4, first.revision, 3, 4)
    assert [e.id for e in transact(db, lambda: repository.evidence("l1", after=1, upto=2))] == ["e1"]
    assert transact(db, lambda: repository.evidence("l1", after=2)) == []


def test_every_write_leaves_its_event_with_before_and_after(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    write(db, saved(before(db), {"motor": {}}))
    write(db, setting(10.0))
    write(db, setting(12.0))
    keep(db, evidence())
    found = transact(db, lambda: repository.events("l1"))
    assert [e.what for e in found] == [
        "evidence kept",
        "setting as left",
        "setting as left",
        "record saved",
        "line created",
    ]
    assert (found[1].before, found[1].after, found[1].who) == (10.0, 12.0, "Ben")


def test_a_write_that_fails_leaves_nothing_behind(db: MySQLDatabase) -> None:
    def half() -> None:
        repository.create_site("s9", "Half", "si", {}, "Ana")
        raise RuntimeError("power cut")

    with pytest.raises(RuntimeError, match="power cut"):
        transact(db, half)
    with pytest.raises(NotFound, match="no such site"):
        transact(db, lambda: repository.site("s9"))
    with db.connection_context():
        assert Event.select().count() == 0


def test_evidence_comes_back_as_it_was_kept(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    moment = datetime(2026, 3, 29, 1, 30, 0, 123456, tzinfo=timezone(timedelta(hours=2)))
    piece = evidence(
        at=moment,
        note="№7 泵",
        instrument=Instrument("Meter", date(2027, 1, 31)),
        received=MOMENT,
        paper=True,
        clock=Clock(MOMENT, "boot", 12.5),
        digest="d" * 64,
    )
    keep(db, piece)
    assert transact(db, lambda: repository.evidence("l1")) == [piece]


def test_an_id_of_another_line_is_refused_and_one_of_this_line_is_a_lost_race(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    line(db, "l2")
    keep(db, evidence())
    with pytest.raises(IdTaken, match="belongs to the line P-1"):
        keep(db, evidence(), over=before(db, "l2"))
    with pytest.raises(Overtaken, match="changed after it was read"):
        keep(db, evidence())
    assert (before(db).head.seq, before(db, "l2").head.seq) == (2, 1)


def test_a_setting_can_be_taken_away(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    write(db, setting(10.0))
    write(db, setting(None))
    assert transact(db, lambda: repository.settings("l1")) == []


@pytest.mark.parametrize("name", ["'; DROP TABLE site; --", "<script>alert(1)</script>", "水泵 №7 😀", "a" * 200])
def test_hostile_names_are_kept_as_text(name: str, db: MySQLDatabase) -> None:
    transact(db, lambda: repository.create_site("s1", name, "si", {}, "Ana"))
    assert transact(db, lambda: repository.site("s1")).name == name


def test_of_writers_over_the_same_count_one_wins(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    old = before(db)
    found = at_once(*[lambda n=n: keep(db, evidence(str(n)), over=old) for n in range(8)])  # type: ignore[misc]
    assert sorted(type(e).__name__ for e in found) == ["NoneType", *["Overtaken"] * 7]
    assert len(transact(db, lambda: repository.evidence("l1"))) == 1
    assert len(transact(db, lambda: repository.events("l1"))) == 2


def test_creates_of_one_site_and_one_line_at_once_make_one(db: MySQLDatabase) -> None:
    at_once(*[lambda: site(db)] * 6)
    found = at_once(*[lambda: line(db)] * 6)
    assert {type(e) for e in found} <= {Overtaken, bool}
    assert found.count(True) == 1
    assert len(transact(db, repository.sites)) == 1
    assert [e.what for e in transact(db, lambda: repository.events("l1"))] == ["line created"]


def test_migrations_run_from_any_earlier_version_and_hold_every_model_column(db: MySQLDatabase) -> None:
    from playhouse.migrations import Runner

    with db.connection_context():
        for table in (t._meta.table_name for t in TABLES):
            columns = {c.name for c in db.get_columns(table)}
            model = next(t for t in TABLES if t._meta.table_name == table)
            assert columns == {f.column_name for f in model._meta.sorted_fields}
        names = [m.name for m in Runner(db, str(MIGRATIONS)).migrations()]
        for cut in range(len(names)):
            db.execute_sql("SET foreign_key_checks=0")
            for table in (*(t._meta.table_name for t in TABLES), "schema_migration"):
                db.execute_sql(f"DROP TABLE IF EXISTS {table}")
            db.execute_sql("SET foreign_key_checks=1")
            Runner(db, str(MIGRATIONS)).up(names[cut])
            assert Runner(db, str(MIGRATIONS)).up() == names[cut + 1 :]
    assert migrate(db) == []
    site(db)


def test_a_database_that_is_not_there_is_said_in_words(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(database, "TRY_FOR", 0.3)
    nowhere = pooled_database("mysql://nobody@127.0.0.1:1/none")
    with pytest.raises(StoreUnavailable, match="nothing was kept"):
        transact(nowhere, lambda: None)


@pytest.mark.parametrize("url", ["", "sqlite:///x", "mysql://host", "mysql://user@host:3306/"])
def test_a_database_address_is_checked(url: str) -> None:
    with pytest.raises(ValueError, match="mysql://"):
        pooled_database(url)
