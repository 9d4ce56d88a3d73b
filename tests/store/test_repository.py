"""What is kept is kept once, in order, with its event; nobody overwrites anybody."""

import threading
from datetime import UTC, datetime, timedelta, timezone
from typing import Any

import pytest
from peewee import MySQLDatabase

from mainspring.store import database, repository
from mainspring.store.database import MIGRATIONS, StoreUnavailable, migrate, pooled_database, transact
from mainspring.store.models import TABLES, Event
from mainspring.store.repository import Conflict, IdTaken, KeptEvidence, NotFound


def site(db: MySQLDatabase, key: str = "s1") -> Any:
    return transact(db, lambda: repository.create_site(key, "Site", "si", {}, "Ana"))


def line(db: MySQLDatabase, key: str = "l1", record: dict[str, Any] | None = None) -> Any:
    return transact(db, lambda: repository.create_line(key, "s1", "P-1", "pump", record or {}, 1, {}, "Ana"))


def save(db: MySQLDatabase, revision: int, record: dict[str, Any], who: str = "Ana") -> Any:
    return transact(db, lambda: repository.save_record("l1", revision, "P-1", "pump", record, 1, {}, who))


def evidence(key: str = "e1", at: datetime | None = None) -> KeptEvidence:
    moment = at or datetime.now(UTC)
    return KeptEvidence(key, "isolate.lock_out", "tick", {}, {"motor.rated_speed": 1445.0}, True, "Ana", moment, "")


def test_a_repeated_create_is_harmless(db: MySQLDatabase) -> None:
    site(db)
    first = line(db, record={"motor": {}})
    again = line(db, record={"other": {}})
    assert again == first
    assert len(transact(db, repository.lines)) == 1
    assert [e.what for e in transact(db, lambda: repository.events("l1"))] == ["line created"]


def test_an_id_of_another_site_is_refused(db: MySQLDatabase) -> None:
    site(db)
    site(db, "s2")
    line(db)
    with pytest.raises(IdTaken):
        transact(db, lambda: repository.create_line("l1", "s2", "P-1", "", {}, 1, {}, "Ana"))


def test_a_save_from_an_old_revision_is_a_conflict_with_the_other_version(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    theirs = save(db, 1, {"motor": {"rated_speed": {"value": 1450.0}}}, "Ben")
    assert theirs.revision == 2
    with pytest.raises(Conflict) as caught:
        save(db, 1, {"motor": {"rated_speed": {"value": 1445.0}}})
    assert caught.value.current.record == theirs.record
    assert transact(db, lambda: repository.line("l1")).record == theirs.record


def test_the_same_save_again_is_harmless(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    record = {"motor": {"rated_speed": {"value": 1450.0}}}
    assert save(db, 1, record).revision == 2
    assert save(db, 1, record).revision == 2


def test_every_write_leaves_its_event_with_before_and_after(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    save(db, 1, {"motor": {}})
    transact(db, lambda: repository.put_setting("l1", "ramps.up", "left", 10.0, "Ben"))
    transact(db, lambda: repository.put_setting("l1", "ramps.up", "left", 12.0, "Ben"))
    transact(db, lambda: repository.add_evidence("l1", evidence()))
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
    with pytest.raises(NotFound):
        transact(db, lambda: repository.site("s9"))
    with db.connection_context():
        assert Event.select().count() == 0


def test_evidence_is_kept_once_and_never_changed(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    assert transact(db, lambda: repository.add_evidence("l1", evidence()))
    assert not transact(db, lambda: repository.add_evidence("l1", evidence()))
    kept = transact(db, lambda: repository.evidence("l1"))
    assert len(kept) == 1
    assert kept[0].leaves == {"motor.rated_speed": 1445.0}


def test_moments_keep_their_instant_and_microseconds(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    moment = datetime(2026, 3, 29, 1, 30, 0, 123456, tzinfo=timezone(timedelta(hours=2)))
    transact(db, lambda: repository.add_evidence("l1", evidence(at=moment)))
    assert transact(db, lambda: repository.evidence("l1"))[0].at == moment


def test_a_setting_can_be_taken_away(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    transact(db, lambda: repository.put_setting("l1", "ramps.up", "found", 10.0, "Ana"))
    transact(db, lambda: repository.put_setting("l1", "ramps.up", "found", None, "Ana"))
    assert transact(db, lambda: repository.settings("l1")) == []


@pytest.mark.parametrize("name", ["'; DROP TABLE site; --", "<script>alert(1)</script>", "水泵 №7 😀", "a" * 200])
def test_hostile_names_are_kept_as_text(name: str, db: MySQLDatabase) -> None:
    transact(db, lambda: repository.create_site("s1", name, "si", {}, "Ana"))
    assert transact(db, lambda: repository.site("s1")).name == name


def test_many_at_once_lose_nothing(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    failures: list[BaseException] = []

    def work(number: int) -> None:
        try:
            for i in range(10):
                transact(db, lambda i=i: repository.add_evidence("l1", evidence(f"{number}-{i}")))  # type: ignore[misc]
        except BaseException as error:
            failures.append(error)

    threads = [threading.Thread(target=work, args=(n,)) for n in range(8)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert failures == []
    assert len(transact(db, lambda: repository.evidence("l1"))) == 80


def test_two_saves_at_once_give_one_winner(db: MySQLDatabase) -> None:
    site(db)
    line(db)
    results: list[str] = []

    def work(speed: float) -> None:
        try:
            save(db, 1, {"motor": {"rated_speed": {"value": speed}}})
            results.append("saved")
        except Conflict:
            results.append("conflict")

    threads = [threading.Thread(target=work, args=(1400.0 + n,)) for n in range(6)]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert sorted(results) == ["conflict"] * 5 + ["saved"]


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
