"""Whole lines out and in again: what was proven stays proven, whatever was entered since."""

import json
import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from peewee import MySQLDatabase

from mainspring.core.assess import assess
from mainspring.core.procedure import judge_evidence
from mainspring.demo.load import load_demo
from mainspring.service import transfer
from mainspring.service.errors import BadRecord
from mainspring.service.opened import Opened
from mainspring.service.service import Service
from mainspring.store import repository
from mainspring.store.database import transact
from tests.conftest import line_of
from tests.service.conftest import a_line


def again(service: Service, opened: Opened) -> Opened:
    """A line as it comes back from its own file, on a site of its own."""
    return service.transfers.take_in(transfer.export_line(opened).encode(), str(uuid.uuid4()), None, "Cy")


def proven(opened: Opened) -> list[tuple[str, str, bool]]:
    return [(e.step, e.kind, e.passed) for e in opened.evidence]


def test_every_line_of_the_demo_comes_back_from_its_file(service: Service, db: MySQLDatabase) -> None:
    load_demo(db)
    for kept in transact(db, repository.summaries):
        opened = service.open_lines.open(kept.id)
        assert proven(again(service, opened)) == proven(opened), kept.tag


@pytest.mark.parametrize("noted", [True, False])  # files of before did not note what was assumed
def test_an_altitude_entered_afterwards_is_another_value_and_shuts_no_file_out(
    noted: bool, service: Service, records: dict[str, dict[str, Any]]
) -> None:
    """What was assumed while nobody had entered it was rested on like any other value."""
    record = records["supply_fan"]
    site = record["site"]
    high = {**site, "altitude": {"value": 1200.0}}
    low = {k: v for k, v in site.items() if k != "altitude"}
    step = next(s for s in assess(line_of({**record, "site": low})).steps if s.id == "data.limits")
    read = {r.id: float(r.expected) for r in step.readings if r.expected is not None}
    made = judge_evidence(step, "readings", read, "Ana", datetime.now(UTC) - timedelta(days=1), [])
    assert made.passed
    assert made.leaves["site.altitude"] is None
    opened = service.open_lines.open(a_line(service, {**record, "site": high}))
    file = json.loads(transfer.export_line(opened))
    leaves = {path: value for path, value in made.leaves.items() if noted or path != "site.altitude"}
    file["evidence"] = [
        {"step": step.id, "kind": "readings", "data": read, "by": "Ana", "at": made.at.isoformat(), "leaves": leaves,
         "passed": True}
    ]  # fmt: skip
    came = service.transfers.take_in(json.dumps(file), str(uuid.uuid4()), None, "Cy")
    status = came.status(step.id)
    assert status is not None
    assert status.evidence[0].passed
    assert [(c.field, c.was, c.now) for c in status.changed] == [("site.altitude", None, 1200.0)]
    file["evidence"][0]["data"] = {**read, "limits.minimum_speed": read["limits.minimum_speed"] + 5.0}
    with pytest.raises(BadRecord, match="what the readings themselves say"):
        service.transfers.take_in(json.dumps(file), str(uuid.uuid4()), None, "Cy")
