"""What is kept comes back as it was: every field of every shape, by its name."""

from dataclasses import dataclass, fields, replace
from datetime import UTC, date, datetime, timedelta
from typing import Any

import pytest
from peewee import MySQLDatabase

from mainspring.core.procedure import Clock, Evidence, Instrument, Visit
from mainspring.store import family_table, repository
from mainspring.store.database import transact
from mainspring.store.models import DriveLine, Event, EvidenceRow, Site
from mainspring.store.models import Visit as VisitRow
from mainspring.store.rows import Rows

MOMENT = datetime(2026, 3, 1, 8, 30, 15, 123456, tzinfo=UTC)
METER = Instrument("clamp", date(2027, 1, 31))
CLOCK = Clock(MOMENT, "a boot", 12.5, "a device", 7.25)
# one of each shape, no field of which has its default
KEPT: list[tuple[Rows[Any], Any]] = [
    (repository.SITES, repository.KeptSite("s", "Hill", "us", {"altitude": {"value": 3.0}}, 4, 5)),
    (repository.LINES, repository.KeptLine("l", "s", "P-1", "pump", {"motor": {}}, 3, 2, MOMENT)),
    (
        repository.VISITS,
        Visit("v", "re-check", "Ana", MOMENT, (METER, Instrument("gauge")), "n", MOMENT + timedelta(1), True),
    ),
    (
        repository.EVIDENCE,
        Evidence("turn.step_up", "row", {"a": 1.0}, "Ana", MOMENT, {"motor.poles": None}, False, "why", "e", METER,
                 MOMENT + timedelta(1), "v", True, CLOCK, "d" * 64),
    ),
    (repository.SETTINGS, repository.KeptSetting("ramps.up", "left", 9.5, "Ana", MOMENT, "why", True, "f" * 64)),
    (repository.PHOTOS, repository.KeptPhoto("p", "motor", 640, 480, "Ana", MOMENT)),
    (
        repository.TRENDS,
        repository.KeptTrend("t", "after", "a", {"x": 1}, "s" * 64, "d" * 64, {"y": 2}, True, "Ana", MOMENT),
    ),
    (repository.CODES, repository.KeptCode("secret", "Ana", MOMENT)),
    (repository.EVENTS, repository.KeptEvent(MOMENT, "Ana", "photo", "motor", {"was": 1}, [2])),
    (family_table.FAMILIES, family_table.KeptFamily("f", "d" * 64, 2, {"rows": 3}, "Ana", MOMENT)),
]  # fmt: skip


def keep(rows: Rows[Any], made: Any) -> None:
    """Insert one, under the line that the others hang on."""
    owner = {"line": "l"} if "line" in rows.table._meta.fields else {}
    more: dict[str, Any] = {"picture": b"x"} if rows is repository.PHOTOS else {}
    if rows in (repository.SITES, repository.LINES):
        more["created_at"] = MOMENT
    rows.table.create(**owner, **more, **rows.values(made))


def test_every_field_of_every_shape_comes_back(db: MySQLDatabase) -> None:
    for rows, made in KEPT:
        transact(db, lambda r=rows, m=made: keep(r, m))  # type: ignore[misc]
        found = transact(db, lambda r=rows: (r.all(r.select()), r.first(r.select())))  # type: ignore[misc]
        assert found == ([made], made), rows.shape.__name__


def test_the_shapes_of_the_test_leave_no_default_in_place() -> None:
    for rows, made in KEPT:
        for f in fields(rows.shape):
            assert getattr(made, f.name) != f.default, (rows.shape.__name__, f.name)


def test_what_is_not_there_is_told_as_such(db: MySQLDatabase) -> None:
    for rows, made in KEPT[:2]:
        transact(db, lambda r=rows, m=made: keep(r, m))  # type: ignore[misc]
    bare = Evidence("isolate.lock_out", "tick", {}, "Ana", MOMENT, id="e2")
    ran = replace(bare, id="e3", clock=Clock(MOMENT))
    for made in (bare, ran):
        transact(db, lambda m=made: keep(repository.EVIDENCE, m))  # type: ignore[misc]
    query = repository.EVIDENCE.select().order_by(EvidenceRow.id)
    assert transact(db, lambda: repository.EVIDENCE.all(query)) == [bare, ran]


def test_a_field_without_a_column_is_named() -> None:
    @dataclass(frozen=True)
    class Wider(repository.KeptCode):
        colour: str = ""

    with pytest.raises(TypeError, match=r"Event has no column for Wider\.secret"):
        Rows(Event, Wider).select()

    @dataclass(frozen=True)
    class Clocked:
        id: str
        opened: Clock | None = None

    with pytest.raises(TypeError, match=r"Visit has no column for Clocked\.opened\.wall"):
        Rows(VisitRow, Clocked).select()
    assert Rows(DriveLine, repository.KeptLine).columns[1] is DriveLine.site
    assert set(Rows(Site, repository.KeptSite).values(KEPT[0][1])) <= set(Site._meta.fields)
