"""One way in: what happens at the same moment, and what is said when an answer is lost."""

import io
import uuid
from functools import partial
from typing import Any

import pytest
from peewee import MySQLDatabase, OperationalError
from PIL import Image

from mainspring.service.errors import InUse, KeptBetween, SetBetween
from mainspring.service.opened import Opened, read_line
from mainspring.service.run import run_json
from mainspring.service.service import Service
from mainspring.service.summary import summary_of
from mainspring.store import repository
from mainspring.store.database import transact
from mainspring.store.errors import StoreUnavailable
from mainspring.store.repository import Conflict, IdTaken
from tests.service.conftest import LOCK, WAIT, a_line, entry
from tests.threads import at_once


def fresh(db: MySQLDatabase, line_id: str) -> Opened:
    """The line as the store has it, whatever processes hold."""
    return transact(db, lambda: read_line(line_id, None))


def kinds(found: list[object]) -> list[str]:
    return sorted("kept" if isinstance(f, bytes) else type(f).__name__ for f in found)


def test_of_two_ticks_at_the_same_moment_one_is_kept_and_one_visit_opened(
    service: Service, other: Service, line_id: str, db: MySQLDatabase
) -> None:
    def tick(process: Service, by: str, seen: tuple[str, ...]) -> object:
        return process.run.keep(line_id, entry(LOCK, by=by, seen=seen))

    for one, two in ((service, other), (service, service)):
        seen = tuple(e.id for e in fresh(db, line_id).evidence)
        found = at_once(partial(tick, one, "Ana", seen), partial(tick, two, "Ben", seen))
        assert kinds(found) == ["KeptBetween", "kept"]
    opened = fresh(db, line_id)
    assert len(opened.evidence) == 2
    assert len(opened.visits) == 1


def test_one_entry_sent_four_times_at_once_is_kept_once(
    service: Service, other: Service, line_id: str, db: MySQLDatabase
) -> None:
    one = entry(LOCK, seen=())
    found = at_once(*[lambda s=s: s.run.keep(line_id, one) for s in (service, other, service, other)])  # type: ignore[misc]
    assert kinds(found) == ["kept"] * 4
    assert [e.id for e in fresh(db, line_id).evidence] == [one.id]


def test_of_first_values_of_a_setting_one_wins_and_the_others_are_told_whose(
    service: Service, other: Service, line_id: str, db: MySQLDatabase
) -> None:
    def put(n: int) -> object:
        return (service, other)[n % 2].sheets.put(line_id, "ramps.up", "left", 10.0 + n, f"P{n}", None)

    found = at_once(*[lambda n=n: put(n) for n in range(6)])  # type: ignore[misc]
    lost = [f for f in found if isinstance(f, SetBetween)]
    assert len(lost) == 5
    (kept,) = fresh(db, line_id).settings
    assert {f.by for f in lost} == {kept.by}
    assert {f.value for f in lost} == {kept.value}
    with pytest.raises(SetBetween, match="entered Ramp up, 0 to full speed in between"):
        service.sheets.put(line_id, "ramps.up", "left", 99.0, "Zoe", 98.0)
    service.sheets.put(line_id, "ramps.up", "left", 99.0, "Zoe", kept.value)
    assert fresh(db, line_id).settings[0].value == 99.0


def test_of_two_saves_of_a_record_one_wins(service: Service, other: Service, line_id: str, db: MySQLDatabase) -> None:
    record = fresh(db, line_id).kept.record

    def save(who: Service, speed: float) -> object:
        mine = {**record, "motor": {**record["motor"], "rated_speed": {"value": speed}}}
        return who.lines.save(line_id, 1, "P-1", "pump", mine, "Ana")

    found = at_once(lambda: save(service, 1450.0), lambda: save(other, 1452.0), lambda: save(service, 1454.0))
    assert sum(isinstance(f, Opened) for f in found) == 1
    assert sum(isinstance(f, Conflict) for f in found) == 2
    assert fresh(db, line_id).head.revision == 2


def test_many_at_one_line_lose_nothing_and_leave_the_summary_right(
    service: Service, other: Service, line_id: str, db: MySQLDatabase
) -> None:
    def work(n: int) -> object:
        mine = (service, other)[n % 2]
        for i in range(6):
            mine.run.keep(line_id, entry(LOCK, "note", f"P{n}", note=f"{n}.{i}"))
            if i == 3:
                mine.sheets.put(line_id, "ramps.up", "found", float(n), f"P{n}")
        return b""

    found = at_once(*[lambda n=n: work(n) for n in range(12)])  # type: ignore[misc]
    assert kinds(found) == ["kept"] * 12
    opened = transact(db, lambda: read_line(line_id, None, service.families.of))
    assert sorted(e.note for e in opened.evidence) == sorted(f"{n}.{i}" for n in range(12) for i in range(6))
    assert opened.head.seq == 1 + 12 * 7
    (summary,) = transact(db, repository.summaries)
    assert summary.summary == summary_of(opened)
    for process in (service, other):
        assert run_json(process.open_lines.open(line_id)) == run_json(Service(db).open_lines.open(line_id))


def test_an_id_of_another_line_is_refused_and_says_whose_it_is(
    service: Service, line_id: str, records: dict[str, Any]
) -> None:
    second = a_line(service, records["filter"], "P-2")
    one = entry(LOCK)
    service.run.keep(line_id, one)
    with pytest.raises(IdTaken, match="belongs to the line P-1"):
        service.run.keep(second, one)
    visit = str(uuid.uuid4())
    service.run.put_visit(line_id, visit, "Ana", "start-up", [], [], "", False)
    with pytest.raises(IdTaken, match="belongs to the line P-1"):
        service.run.put_visit(second, visit, "Ana", "start-up", [], [], "", False)


OTHERWISE: list[dict[str, Any]] = [
    {"note": "else"},
    {"by": "Ben"},
    {"kind": "note", "note": "x"},
    {"step": "isolate.wiring"},
]


@pytest.mark.parametrize("more", OTHERWISE)
def test_an_id_that_comes_back_otherwise_is_refused(more: dict[str, Any], service: Service, line_id: str) -> None:
    one = entry(LOCK)
    service.run.keep(line_id, one)
    with pytest.raises(IdTaken, match="belongs to what Ana kept of “Lock out, tag, try”"):
        service.run.keep(line_id, entry(**{"step": LOCK, "id": one.id, **more}))
    assert service.run.keep(line_id, one)  # the same again is the same


class Lost:
    """A link that breaks as the database is told to keep: its answer never comes, though it heard."""

    def __init__(self, db: MySQLDatabase, times: int) -> None:
        self.times = times
        self.commit = db.commit
        db.commit = self  # type: ignore[method-assign]

    def __call__(self) -> object:
        done = self.commit()
        if self.times > 0:
            self.times -= 1
            raise OperationalError(2013, "Lost connection to server during query")
        return done


def test_what_was_kept_though_its_answer_was_lost_is_answered_as_kept(
    service: Service, line_id: str, db: MySQLDatabase, monkeypatch: pytest.MonkeyPatch
) -> None:
    service.open_lines.open(line_id)
    one = entry(LOCK)
    monkeypatch.setattr(db, "commit", db.commit)
    Lost(db, 1)
    assert service.run.keep(line_id, one)
    assert [e.id for e in fresh(db, line_id).evidence] == [one.id]


def test_when_nobody_can_know_whether_it_was_kept_it_is_said_so(
    service: Service, line_id: str, db: MySQLDatabase, monkeypatch: pytest.MonkeyPatch
) -> None:
    service.open_lines.open(line_id)
    one = entry(LOCK)
    monkeypatch.setattr("mainspring.store.database.TRY_FOR", 0.2)
    monkeypatch.setattr(db, "commit", db.commit)
    lost = Lost(db, 1000)
    with pytest.raises(StoreUnavailable, match="whether this was kept is not known: send it again, that is safe"):
        service.run.keep(line_id, one)
    lost.times = 0
    assert service.run.keep(line_id, one)  # and so it is
    assert [e.id for e in fresh(db, line_id).evidence] == [one.id]


def test_a_photo_that_is_evidence_stays(service: Service, line_id: str) -> None:
    picture = io.BytesIO()
    Image.new("RGB", (40, 30), "grey").save(picture, "PNG")
    proof, plate = str(uuid.uuid4()), str(uuid.uuid4())
    for key, station in ((proof, "run"), (plate, "motor")):
        service.photos.add(line_id, key, station, picture.getvalue(), "Ana")
    service.run.keep(line_id, entry(LOCK, "photo", data={"photo": proof}))
    with pytest.raises(InUse, match="evidence of “Lock out, tag, try”"):
        service.photos.remove(line_id, proof, "Ana")
    assert [p.id for p in service.photos.remove(line_id, plate, "Ana")] == [proof]
    Image.new("RGB", (40, 30), "red").save(picture := io.BytesIO(), "PNG")
    with pytest.raises(IdTaken, match="another photo"):
        service.photos.add(line_id, proof, "run", picture.getvalue(), "Ana")


def test_a_refusal_is_told_only_after_a_fresh_look(service: Service, other: Service, line_id: str) -> None:
    service.open_lines.open(line_id)
    other.run.keep(line_id, entry(LOCK))  # which the first process has not heard of
    assert service.run.keep(line_id, entry("isolate.capacitors", "start"))
    with pytest.raises(KeptBetween, match="kept “Wait for the capacitors”"):
        other.run.keep(line_id, entry("isolate.capacitors", "start", seen=()))


def test_an_address_changed_elsewhere_is_seen_by_every_process(
    service: Service, other: Service, records: dict[str, Any]
) -> None:
    record = {**records["booster"], "control": {**records["booster"]["control"], "link": "monitor", "bus_address": 7.0}}
    first = a_line(service, record, "P-1")
    site = service.open_lines.open(first).kept.site_id
    own = {g: f for g, f in record.items() if g != "site"}
    assert other.open_lines.open(first).status("many.link").step.held_by == ()  # type: ignore[union-attr]
    service.lines.create(str(uuid.uuid4()), site, "P-2", "", own, "Ana")
    held = other.open_lines.open(first).status("many.link")
    assert held is not None
    assert held.step.held_by == ("Bus address 7 is also that of P-2",)


def test_what_was_entered_on_a_value_changed_before_it_was_sent_rests_on_the_value_that_was_seen(
    service: Service, other: Service, line_id: str, db: MySQLDatabase
) -> None:
    service.run.keep(line_id, entry(LOCK))
    opened = service.open_lines.open(line_id)
    seen, record, site = opened.head.seq, opened.kept.record, opened.site
    changed = {**record, "drive": {**record["drive"], "discharge_time": {"value": 1800.0}}}
    other.lines.save(line_id, opened.head.revision, "P-1", "pump", changed, "Ben")
    own = {**site.entries, "low_limit_above": {"value": 2.0}}
    other.lines.save_site(site.id, site.revision, site.name, site.units, own, "Ben")
    now = service.open_lines.open(line_id).head.seq

    def changed_under(sheet: int) -> list[tuple[str, object]]:
        service.run.keep(line_id, entry(WAIT, "start", sheet=sheet))
        status = service.open_lines.open(line_id).status(WAIT)
        assert status is not None
        return [(c.field, c.now) for c in status.changed]

    assert changed_under(seen) == [("drive.discharge_time", 1800.0)]
    assert changed_under(now) == []
    assert transact(db, lambda: repository.values_since(line_id, seen)) == (record, site.entries)
    assert transact(db, lambda: repository.values_since(line_id, now)) == (None, None)
    told = [e.title for c in service.stories.view(service.open_lines.open(line_id)).chapters for e in c.entries]
    assert {"Record changed", "Site changed"} <= set(told)


def test_on_a_full_disk_one_still_reads(service: Service, line_id: str, monkeypatch: pytest.MonkeyPatch) -> None:
    """What a read would keep for the next who asks is left, where nothing can be kept."""

    def full(*_: object, **__: object) -> None:
        raise OperationalError(3, 'Error writing file "./mainspring/line.ibd" (Errcode: 28 "No space left on device")')

    monkeypatch.setattr("mainspring.service.round.SUMMARY_VERSION", 0)  # so that every summary is made anew
    monkeypatch.setattr(repository, "save_summary", full)
    assert [line.id for site in service.round.view().sites for line in site.lines] == [line_id]
    monkeypatch.setattr(repository, "write", full)
    with pytest.raises(StoreUnavailable, match="the disk is full"):
        service.sheets.put(line_id, "ramps.up", "left", 9.0, "Ana")
    assert service.sheets.view(line_id).set_count == 0
