"""Lines over the interface: creating, saving, conflicts, verdicts, working, bad input."""

import json
import re
import uuid
from typing import Any

import pytest
from peewee import MySQLDatabase
from starlette.testclient import TestClient

from mainspring.store import database, repository
from mainspring.store.database import transact
from mainspring.store.models import database_proxy

Line = dict[str, Any]


def put(client: TestClient, line: Line, **changes: Any) -> Any:
    body = {"revision": line["revision"], "tag": line["tag"], "title": line["title"], "record": own(line), "by": "Ana"}
    return client.put(f"/api/lines/{line['id']}", json={**body, **changes})


def own(line: Line) -> dict[str, Any]:
    return {g: f for g, f in line["record"].items() if g != "site"}


def with_speed(line: Line, speed: float) -> dict[str, Any]:
    record = own(line)
    return {**record, "motor": {**record["motor"], "rated_speed": {"value": speed, "provenance": "plate"}}}


def test_create_open_save(client: TestClient, new_line: Line) -> None:
    assert new_line["revision"] == 1
    saved = put(client, new_line, record=with_speed(new_line, 1450.0))
    assert saved.status_code == 200
    assert saved.json()["revision"] == 2
    again = client.get(f"/api/lines/{new_line['id']}").json()
    assert again["record"]["motor"]["rated_speed"] == {
        "value": 1450.0,
        "provenance": "plate",
        "note": "",
        "upheld": "",
    }


def test_a_repeated_create_is_harmless(client: TestClient, new_line: Line, site_id: str) -> None:
    own = {g: f for g, f in new_line["record"].items() if g != "site"}
    body = {"id": new_line["id"], "site_id": site_id, "tag": "P-1", "title": "pump", "record": own, "by": "Ana"}
    again = client.post("/api/lines", json=body)
    assert again.status_code == 201
    assert again.json() == new_line
    other = client.post("/api/lines", json={**body, "record": {}})
    assert other.status_code == 409
    assert "belongs to the line P-1" in other.json()["detail"]


def test_two_browsers_on_one_line(client: TestClient, new_line: Line) -> None:
    assert put(client, new_line, record=with_speed(new_line, 1450.0), by="Ben").status_code == 200
    late = put(client, new_line, record=with_speed(new_line, 1445.0))
    assert late.status_code == 409
    problem = late.json()
    assert problem["current"]["revision"] == 2
    assert problem["current"]["record"]["motor"]["rated_speed"]["value"] == 1450.0
    kept = client.get(f"/api/lines/{new_line['id']}").json()
    assert kept["record"]["motor"]["rated_speed"]["value"] == 1450.0


BAD_VALUES = [
    ("supply", "voltage", 5000, "up to 1000 V"),
    ("motor", "rated_speed", 1e9, "up to 12000 r/min"),
    ("motor", "rated_current", -1, "above 0 A"),
    ("motor", "rated_current", "eleven", "a number"),
    ("motor", "rated_current", None, "a number"),
    ("motor", "colour", 1, "a field of the record"),
    ("motors", "rated_current", 1, "line, site, supply"),
]


@pytest.mark.parametrize(("group", "name", "value", "allowed"), BAD_VALUES)
def test_a_bad_record_is_refused_whole_and_in_words(
    group: str, name: str, value: Any, allowed: str, client: TestClient, new_line: Line
) -> None:
    record = own(new_line)
    record = {**record, group: {**record.get(group, {}), name: {"value": value}}}
    answer = put(client, new_line, record=record)
    assert answer.status_code == 422
    assert answer.headers["content-type"] == "application/problem+json"
    assert allowed in json.dumps(answer.json()["errors"], ensure_ascii=False)
    assert client.get(f"/api/lines/{new_line['id']}").json()["revision"] == 1


@pytest.mark.parametrize("text", ["NaN", "Infinity", "1e999"])
def test_numbers_that_are_none_are_refused(text: str, client: TestClient, new_line: Line) -> None:
    body = json.dumps(
        {"revision": 1, "tag": "P-1", "title": "", "record": {"motor": {"rated_speed": {"value": "X"}}}, "by": "A"}
    )
    answer = client.put(
        f"/api/lines/{new_line['id']}", content=body.replace('"X"', text), headers={"Content-Type": "application/json"}
    )
    assert answer.status_code == 422


@pytest.mark.parametrize(
    ("tag", "status"),
    [
        ("", 422),
        ("   ", 422),
        ("x" * 10_000, 422),
        ("x" * 200, 201),
        ("<img src=x onerror=alert(1)>", 201),
        ("№7 泵", 201),
    ],
)
def test_names(tag: str, status: int, client: TestClient, site_id: str) -> None:
    answer = client.post("/api/lines", json={"id": str(uuid.uuid4()), "site_id": site_id, "tag": tag, "by": "Ana"})
    assert answer.status_code == status
    if status == 201:
        assert answer.json()["tag"] == tag
    elif len(tag) > 200:
        assert "up to 200 characters, not 10000" in answer.text


def test_a_body_that_is_no_json_or_not_understood(client: TestClient) -> None:
    broken = client.post("/api/lines", content="{", headers={"Content-Type": "application/json"})
    assert broken.status_code == 422
    unknown = client.post("/api/lines", json={"id": "7", "site_id": "s", "tag": "t", "by": "A", "extra": 1})
    assert unknown.status_code == 422
    assert {"id", "extra"} <= {e["field"] for e in unknown.json()["errors"]}


def test_no_such_line_and_no_such_address(client: TestClient) -> None:
    assert client.get("/api/lines/none").status_code == 404
    assert client.get("/api/nothing").status_code == 404


@pytest.mark.parametrize(
    ("headers", "status"),
    [
        ({}, 200),
        ({"Host": "localhost:8765"}, 200),
        ({"Host": "[::1]:8765"}, 200),
        ({"Host": "mainspring.example:8765"}, 421),
        ({"Origin": "http://127.0.0.1"}, 200),
        ({"Origin": "https://elsewhere.example"}, 403),
        ({"Origin": "null"}, 403),
        ({"Content-Length": "99999999999"}, 413),
    ],
)
def test_only_this_machines_own_pages_are_answered(headers: dict[str, str], status: int, client: TestClient) -> None:
    assert client.get("/api/round", headers=headers).status_code == status


def test_a_draft_is_judged_and_not_kept(client: TestClient, new_line: Line, db: MySQLDatabase) -> None:
    before = transact(db, repository.latest_event_id)
    draft = with_speed(new_line, 1500.0)
    draft["supply"] = {**draft["supply"], "voltage": {"value": 5000}}
    found = client.post("/api/assess", json={"record": draft, "site_id": new_line["site_id"]}).json()
    assert found["findings"][0]["title"] == "Speed is the synchronous speed"
    assert found["findings"][0]["fix"]["field"] == "motor.rated_speed"
    assert found["problems"][0]["field"] == "supply.voltage"
    assert transact(db, repository.latest_event_id) == before


def _keys(data: Any) -> set[str]:
    if isinstance(data, dict):
        own_key = {data["key"]} if {"key", "value", "dimension", "assumed"} <= set(data) else set()
        return own_key.union(*(_keys(v) for v in data.values()))
    return set().union(*(_keys(v) for v in data)) if isinstance(data, list) else set()


@pytest.mark.parametrize("tag", ["CW-BST-1", "CW-BST-2", "PF-1", "IRR-P1"])
def test_every_number_shown_opens_its_working(tag: str, client: TestClient, demo: dict[str, str]) -> None:
    line_id = demo[tag]
    count = 0
    for page in ("", "/settings", "/run", "/proof", "/savings"):
        keys = _keys(client.get(f"/api/lines/{line_id}{page}").json())
        for key in {re.sub(r"\d+", "#", key): key for key in sorted(keys)}.values():  # one of each row of a table
            sheet = client.get(f"/api/lines/{line_id}/working/{key}")
            assert sheet.status_code == 200, key
            assert sheet.json()["source"] or sheet.json()["provenance"], key
            count += 1
    assert count > 60


def test_the_working_of_a_draft_and_of_no_figure(client: TestClient, new_line: Line) -> None:
    body = {"record": own(new_line), "site_id": new_line["site_id"], "key": "line.low_limit"}
    sheet = client.post("/api/working", json=body).json()
    assert sheet["formula"] == "f_hold + d"
    assert sheet["inputs"][0]["step"]["inputs"][0]["step"]["method_id"] == "no_flow_speed"
    assert client.post("/api/working", json={**body, "key": "line.nothing"}).status_code == 404


def test_the_round_costs_a_fixed_number_of_queries(
    client: TestClient, demo: dict[str, str], site_id: str, monkeypatch: pytest.MonkeyPatch
) -> None:
    client.get("/api/round")
    counts = []
    run = database_proxy.obj.execute_sql
    monkeypatch.setattr(database_proxy.obj, "execute_sql", lambda *a, **k: counts.append(a[0]) or run(*a, **k))

    def queries() -> int:
        counts.clear()
        assert client.get("/api/round").status_code == 200
        return sum("SELECT" in c for c in counts)

    client.post("/api/lines", json={"id": str(uuid.uuid4()), "site_id": site_id, "tag": "X", "by": "Ana"})
    few = queries()
    for i in range(12):
        body = {"id": str(uuid.uuid4()), "site_id": site_id, "tag": f"X-{i}", "by": "Ana"}
        assert client.post("/api/lines", json=body).status_code == 201
    assert queries() == few


def test_the_round_shows_stages_stops_and_what_matters(client: TestClient, demo: dict[str, str]) -> None:
    sites = {s["name"]: s for s in client.get("/api/round").json()["sites"]}
    lines = {x["tag"]: x for s in sites.values() for x in s["lines"]}
    assert len(sites) == 2
    assert lines["CW-BST-1"]["severity"] == "stop"
    assert lines["CW-BST-1"]["headline"] == "Speed is the synchronous speed"
    assert lines["PF-1"]["words"].startswith("Hand-over")
    assert lines["CW-BST-2"]["states"][:3] == ["done", "done", "now"]
    assert sites["Orrendale Baths"]["stops"] == 6  # four planted at the booster, one each at two fans


def test_the_database_gone_is_a_503_and_back_is_well_again(
    client: TestClient, new_line: Line, db: MySQLDatabase, monkeypatch: pytest.MonkeyPatch
) -> None:
    monkeypatch.setattr(database, "TRY_FOR", 0.3)
    good = db.connect_params["port"]
    db.close_all()
    db.connect_params["port"] = 1
    try:
        answer = put(client, new_line, record=with_speed(new_line, 1450.0))
        assert answer.status_code == 503
        assert "nothing was kept" in answer.json()["detail"]
    finally:
        db.connect_params["port"] = good
    assert put(client, new_line, record=with_speed(new_line, 1450.0)).status_code == 200


# sites


def test_a_site_is_changed_and_its_lines_follow(client: TestClient, new_line: Line, site_id: str) -> None:
    line = f"/api/lines/{new_line['id']}"
    before = client.get(line).json()
    entries = {"lead_plain": {"value": 60.0}, "energy_price": {"value": 0.2 / 3.6e6}}
    body = {"revision": 1, "name": "North works", "units": "us", "entries": entries, "by": "Ana"}
    saved = client.put(f"/api/sites/{site_id}", json=body)
    assert saved.status_code == 200, saved.text
    assert client.get(f"/api/sites/{site_id}").json() == saved.json()
    after = client.get(line).json()
    assert (after["site_name"], after["site_units"]) == ("North works", "us")
    assert after["record"]["site"]["lead_plain"]["value"] == 60.0
    assert after["seq"] > before["seq"]  # those who look at the line are told
    again = client.put(f"/api/sites/{site_id}", json=body)
    assert (again.status_code, again.json()["revision"]) == (200, 2)  # the answer was lost: sent again
    other = client.put(f"/api/sites/{site_id}", json={**body, "name": "South works", "by": "Ben"})
    assert other.status_code == 409
    assert other.json()["current"]["name"] == "North works"
    wrong = {**body, "revision": 2, "entries": {"lead_plain": {"value": 400.0}}}
    refused = client.put(f"/api/sites/{site_id}", json=wrong)
    assert refused.status_code == 422
    assert "up to 150" in refused.text
    assert client.put(f"/api/sites/{uuid.uuid4()}", json=body).status_code == 404


def test_the_round_says_what_a_changed_site_makes_of_its_lines(
    client: TestClient, new_line: Line, site_id: str
) -> None:
    record = own(new_line)
    record["drive"] = {**record["drive"], "lead_length": {"value": 45.0}, "output_filter": {"value": "none"}}
    put(client, new_line, record=record)

    def shown() -> str:
        sites = client.get("/api/round").json()["sites"]
        return next(str(x["headline"]) for s in sites if s["id"] == site_id for x in s["lines"])

    assert shown() == "Motor lead needs a filter"
    body = {"revision": 1, "name": "Test site", "units": "si", "entries": {"lead_plain": {"value": 60.0}}, "by": "Ana"}
    assert client.put(f"/api/sites/{site_id}", json=body).status_code == 200
    assert shown() != "Motor lead needs a filter"
