"""A line as a file: by its published schema, out and in and out again the same, and judged on the way in."""

import json
import uuid
from collections.abc import Callable
from datetime import timedelta
from typing import Any

import jsonschema_rs
import pytest
from peewee import MySQLDatabase

from mainspring.demo.load import load_demo
from mainspring.demo.sites import demo_id
from mainspring.exchange.line_file import schema_text
from mainspring.service.errors import BadRecord
from mainspring.service.run import RunSheets
from mainspring.service.service import Service
from mainspring.service.transfer import export_line
from mainspring.store import repository
from mainspring.store.database import transact
from tests.conftest import ROOT
from tests.service.conftest import LOCK, WAIT, Clocks, entry

SCHEMA = (ROOT / "docs/line-file.schema.json").read_text()
FINISHED = "PF-1"


@pytest.fixture
def service(db: MySQLDatabase) -> Service:
    """The demo, and on one of its lines also what came from paper."""
    load_demo(db)
    made = Service(db)
    clocks = Clocks()
    clocks.wall = repository.now()
    made.run = RunSheets(made.open_lines, clocks)
    line = demo_id("LIB-FW")
    ago = clocks.wall - timedelta(days=2)
    for unit in range(1, 7):
        seen = {"unit": unit, "locked": True, "serial": f"LW-{unit}"}
        made.run.keep(line, entry(LOCK, "unit", data=seen, at=ago, paper=True, note="from the pad, №7 泵"))
    made.run.keep(line, entry(WAIT, "start", at=ago + timedelta(seconds=20), paper=True))
    made.run.keep(line, entry("isolate.wiring", "note", note="damp"))
    made.sheets.put(line, "ramps.up", "found", 12.0, "Ben")
    return made


def text_of(service: Service, tag: str) -> str:
    return export_line(service.open_lines.open(demo_id(tag)))


def test_the_published_schema_is_that_of_the_code() -> None:
    assert schema_text() == SCHEMA, "run: .venv/bin/python -m mainspring.exchange.line_file docs/line-file.schema.json"


@pytest.mark.parametrize("tag", [FINISHED, "CW-BST-1", "LIB-FW", "IRR-P1"])
def test_every_export_fits_the_schema(tag: str, service: Service) -> None:
    jsonschema_rs.validator_for(json.loads(SCHEMA)).validate(json.loads(text_of(service, tag)))


@pytest.mark.parametrize("tag", [FINISHED, "CW-BST-2", "GSB-1", "BW-1", "LIB-FW", "IRR-P1"])
def test_out_and_in_and_out_again_is_the_same_to_the_byte(tag: str, service: Service, db: MySQLDatabase) -> None:
    first = text_of(service, tag)
    transact(db, repository.remove_everything)  # another machine
    again = Service(db).transfers.take_in(first, str(uuid.uuid4()), None, "Ana")
    assert export_line(again) == first


def test_the_same_import_again_is_the_same_line(service: Service) -> None:
    text, key = text_of(service, FINISHED), str(uuid.uuid4())
    first = service.transfers.take_in(text, key, None, "Ana")
    again = service.transfers.take_in(text, key, None, "Ana")
    assert again.head == first.head


def piece(file: dict[str, Any], step: str, kind: str) -> dict[str, Any]:
    found: dict[str, Any] = next(e for e in file["evidence"] if (e["step"], e["kind"]) == (step, kind))
    return found


Spoil = Callable[[dict[str, Any]], object]
BACK_DOORS: list[tuple[Spoil, str]] = [
    (lambda f: piece(f, "isolate.absence", "readings")["data"].update(l1_l2=230.0), "what the readings themselves say"),
    (lambda f: piece(f, "isolate.absence", "readings")["data"].pop("l1_l2"), "a reading in V"),
    (lambda f: piece(f, "isolate.absence", "readings")["data"].update(l1_l2=1e300), "a finite number"),
    (lambda f: piece(f, "turn.rotation", "choice")["data"].update(choice="sideways"), "right, wrong"),
    (lambda f: piece(f, "turn.step_up", "row")["data"].update(reference=33.0), "reference is 33"),
    (lambda f: piece(f, "isolate.capacitors", "tick").update(at=piece(f, "isolate.capacitors", "start")["at"]), "left"),
    (lambda f: piece(f, "isolate.lock_out", "tick").update(at="1999-12-31T00:00:00+00:00"), "from 2000 to now"),
    (lambda f: piece(f, "isolate.lock_out", "tick").update(at="2999-12-31T00:00:00+00:00"), "from 2000 to now"),
    (lambda f: piece(f, "isolate.lock_out", "tick").update(leaves={"motor.nothing": 1}), "a field of the record"),
    (lambda f: piece(f, "isolate.lock_out", "tick").update(kind="wish"), "override"),
    (lambda f: piece(f, "isolate.lock_out", "tick").update(kind="override", note="no time"), "cannot be overridden"),
    (lambda f: piece(f, "isolate.lock_out", "tick").update(visit=7), "the visits of the file"),
    (lambda f: piece(f, "isolate.lock_out", "tick").update(by="x" * 121), "120 characters"),
    (lambda f: piece(f, "isolate.lock_out", "tick").update(note="x" * 2001), "2000 characters"),
    (lambda f: piece(f, "isolate.lock_out", "tick").update(extra=1), "not permitted"),
    (lambda f: f["visits"][0].update(purpose="tea"), "start-up"),
    (lambda f: f["visits"][0].update(at="2999-12-31T00:00:00+00:00"), "from 2000 to now"),
    (lambda f: f["settings"][0].update(at="1999-12-31T00:00:00+00:00"), "from 2000 to now"),
    (lambda f: f["settings"][0].update(setting="nothing"), "an id of the settings sheet"),
    (lambda f: f["site"]["entries"].update(altitude={"value": 1e9}), "up to"),
]


@pytest.mark.parametrize(("spoil", "words"), BACK_DOORS)
def test_import_is_no_back_door(spoil: Spoil, words: str, service: Service, db: MySQLDatabase) -> None:
    file = json.loads(text_of(service, FINISHED))
    before = transact(db, repository.state_of_everything)
    spoil(file)
    with pytest.raises(BadRecord, match=words):
        service.transfers.take_in(json.dumps(file), str(uuid.uuid4()), None, "Ana")
    assert transact(db, repository.state_of_everything) == before


def test_what_was_right_when_it_was_made_is_taken_though_the_record_has_changed_since(service: Service) -> None:
    file = json.loads(text_of(service, FINISHED))
    file["line"]["record"]["motor"]["rated_frequency"]["value"] = 60.0  # every row of the step-up is another now
    file["line"]["record"]["motor"]["rated_speed"]["value"] = 1745.0
    taken = service.transfers.take_in(json.dumps(file), str(uuid.uuid4()), None, "Ana")
    assert sum(bool(s.changed) for s in taken.sheet) >= 2
    assert len(taken.evidence) == len(file["evidence"])
