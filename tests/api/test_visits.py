"""Visits with a sheet of their own, a replaced drive, and a twin: as the server keeps them."""

import json
import uuid
from typing import Any

from fastapi.testclient import TestClient

Line = dict[str, Any]


def keep(client: TestClient, line_id: str, step: str, kind: str, data: Any = None, by: str = "Ana") -> Any:
    body = {"id": str(uuid.uuid4()), "step": step, "kind": kind, "data": data or {}, "by": by}
    return client.post(f"/api/lines/{line_id}/evidence", json=body)


def comes(client: TestClient, line_id: str, purpose: str) -> Any:
    url = f"/api/lines/{line_id}/visits/{uuid.uuid4()}"
    answer = client.put(url, json={"by": "Ana", "purpose": purpose})
    assert answer.status_code == 200, answer.text
    return answer.json()


def put(client: TestClient, line_id: str, setting: str, moment: str, value: Any, why: str = "") -> None:
    url = f"/api/lines/{line_id}/settings/{setting}/{moment}"
    assert client.put(url, json={"value": value, "by": "Ana", "why": why}).status_code == 200


def setting(client: TestClient, line_id: str, id: str) -> Any:
    return next(r for r in client.get(f"/api/lines/{line_id}/settings").json()["rows"] if r["id"] == id)


def test_nobody_signs_for_nobody(client: TestClient, new_line: Line) -> None:
    answer = keep(client, new_line["id"], "isolate.lock_out", "tick", by="Technician")
    assert answer.status_code == 422
    assert "the name of whoever signs it" in answer.text
    assert keep(client, new_line["id"], "isolate.lock_out", "tick", by="T. Nician").status_code == 201


def test_another_purpose_has_another_sheet_to_be_read_anew(client: TestClient, new_line: Line) -> None:
    kept = comes(client, new_line["id"], "fault call")
    assert kept["before"] == 0  # none of what is shown stands any more
    sheet = client.get(f"/api/lines/{new_line['id']}/run").json()
    assert [s["id"] for s in sheet["steps"]][:2] == ["visit.found", "visit.touched"]
    assert client.get(f"/api/lines/{new_line['id']}").json()["words"] == "Fault call: step 1 of 5"
    assert keep(client, new_line["id"], "isolate.wiring", "list").status_code == 422  # not asked on this visit


def test_the_story_tells_of_visits_that_are_over(client: TestClient, new_line: Line) -> None:
    line = new_line["id"]
    comes(client, line, "fault call")
    found = {"trip": "overcurrent", "when": "starting", "code": "F 7", "frequency": 11.0}
    assert keep(client, line, "visit.found", "log", found).status_code == 201
    assert keep(client, line, "visit.cause", "choice", {"choice": "other"}).status_code == 201
    assert keep(client, line, "visit.touched", "picked", {"nothing": True}).status_code == 201
    comes(client, line, "start-up")
    entries = client.get(f"/api/lines/{line}/story").json()["chapters"][1]["entries"]
    told = {e["title"]: "".join(p["text"] or "" for p in e["told"]) for e in entries}
    assert "Overcurrent while starting" in told["As found, before any reset"]
    assert "F 7" in told["As found, before any reset"]
    assert "something else" in told["What it was"]
    exported = client.get(f"/api/lines/{line}/export.json").text
    again = client.post(f"/api/import?id={uuid.uuid4()}&by=Cy", content=exported)
    assert again.status_code == 201, again.text
    assert next(e["step"] for e in json.loads(exported)["evidence"]) == "visit.found"


def test_a_replaced_drive_leaves_what_it_was_set_to_beside_the_new_one(client: TestClient, new_line: Line) -> None:
    line = new_line["id"]
    put(client, line, "limits.current", "left", 11.2)
    put(client, line, "limits.current", "found", 12.0)
    put(client, line, "limits.maximum_speed", "decided", 45.0, "Noise at night.")
    comes(client, line, "replacement")
    assert keep(client, line, "visit.touched", "picked", {"drive": True}).status_code == 201
    row = setting(client, line, "limits.current")
    assert (row["former"], row["left"], row["found"]) == (11.2, None, None)
    assert setting(client, line, "limits.maximum_speed")["decided"] == 45.0  # wanted of the line, whatever the drive
    put(client, line, "limits.current", "left", 10.9)
    row = setting(client, line, "limits.current")
    assert (row["former"], row["left"]) == (11.2, 10.9)
    exported = client.get(f"/api/lines/{line}/export.json").text
    assert "former" in {s["moment"] for s in json.loads(exported)["settings"]}
    other = client.post(f"/api/import?id={uuid.uuid4()}&by=Cy", content=exported).json()["id"]
    assert setting(client, other, "limits.current")["former"] == 11.2


def test_a_new_drive_is_not_ready_before_its_settings_are_read_back(client: TestClient, new_line: Line) -> None:
    line = new_line["id"]
    still_open = lambda: [  # noqa: E731
        m for m in client.get(f"/api/lines/{line}/readiness").json()["missing"] if "as-left" in m
    ]
    put(client, line, "limits.current", "left", 11.2)
    comes(client, line, "replacement")
    assert still_open() == []  # a sensor or a pump moves no setting
    keep(client, line, "visit.touched", "picked", {"drive": True})
    (before,) = still_open()
    put(client, line, "limits.current", "left", 10.9)
    (after,) = still_open()
    assert int(before.split()[1]) == int(after.split()[1]) + 1
    client.post(f"/api/lines/{line}/settings/take-plan", json={"by": "Ana"})
    assert still_open() == []


def test_said_by_mistake_the_old_settings_come_back(client: TestClient, new_line: Line) -> None:
    line = new_line["id"]
    put(client, line, "limits.current", "left", 11.2)
    comes(client, line, "replacement")
    keep(client, line, "visit.touched", "picked", {"drive": True})
    keep(client, line, "visit.touched", "picked", {"sensor": True})
    row = setting(client, line, "limits.current")
    assert (row["former"], row["left"]) == (None, 11.2)
    keep(client, line, "visit.touched", "picked", {"sensor": True})  # said twice, it moves nothing
    assert setting(client, line, "limits.current")["left"] == 11.2


def test_a_fault_call_moves_no_settings(client: TestClient, new_line: Line) -> None:
    line = new_line["id"]
    put(client, line, "limits.current", "left", 11.2)
    comes(client, line, "fault call")
    keep(client, line, "visit.found", "log", {"trip": "overcurrent", "when": "starting"})
    keep(client, line, "visit.touched", "picked", {"drive": True})
    assert setting(client, line, "limits.current")["left"] == 11.2


def test_a_twin_has_plates_and_decisions_and_nothing_that_was_proven(client: TestClient, new_line: Line) -> None:
    line = new_line["id"]
    record = new_line["record"]
    record["control"] |= {"bus_address": {"value": 17}, "link": {"value": "monitor"}}
    record["drive"]["serial"] = {"value": "D-4711"}
    body = {
        "revision": 1,
        "tag": "P-1",
        "title": "pump",
        "by": "Ana",
        "record": {k: v for k, v in record.items() if k != "site"},
    }
    assert client.put(f"/api/lines/{line}", json=body).status_code == 200
    put(client, line, "limits.maximum_speed", "decided", 45.0, "Noise at night.")
    put(client, line, "limits.current", "left", 11.2)
    keep(client, line, "isolate.lock_out", "tick")
    twin = str(uuid.uuid4())
    made = {"id": twin, "tag": "P-2", "title": "its twin", "by": "Ben"}
    for _ in range(2):  # sent again, as the answer was lost
        answer = client.post(f"/api/lines/{line}/copy", json=made)
        assert answer.status_code == 201, answer.text
    found = answer.json()
    assert found["tag"] == "P-2"
    assert found["record"]["motor"] == client.get(f"/api/lines/{line}").json()["record"]["motor"]
    assert "bus_address" not in found["record"]["control"]
    assert "serial" not in found["record"]["drive"]
    row = setting(client, twin, "limits.maximum_speed")
    assert (row["decided"], row["decided_why"], row["decided_by"]) == (45.0, "Noise at night.", "Ben")
    assert setting(client, twin, "limits.current")["left"] is None
    assert not [s for s in client.get(f"/api/lines/{twin}/run").json()["steps"] if s["evidence"]]
    other = client.post(f"/api/lines/{line}/copy", json={**made, "tag": "P-3"})
    assert other.status_code == 409  # the id is taken


def test_what_is_to_be_put_back_stands_on_the_round(client: TestClient, new_line: Line) -> None:
    def row() -> Any:
        sites = client.get("/api/round").json()["sites"]
        return next(r for s in sites for r in s["lines"] if r["id"] == new_line["id"])

    answer = keep(client, new_line["id"], "finish.put_back", "temporary", {"what": "Ramp at 0 s for the tuning"})
    assert answer.status_code == 201, answer.text
    assert (row()["behind"], row()["headline"]) == (1, "To be put back: ramp at 0 s for the tuning")
    step = next(s for s in answer.json()["steps"] if s["id"] == "finish.put_back")
    back = keep(client, new_line["id"], "finish.put_back", "back", {"of": step["evidence"][0]["id"]})
    assert back.status_code == 201
    assert row()["behind"] == 0


def test_a_file_of_before_keeps_what_was_proven_otherwise_as_it_was(
    client: TestClient, site_id: str, records: dict[str, Any]
) -> None:
    """A set's lock-out was one tick once; now it is one for each drive. Nothing is lost, and it is asked again."""
    record = {g: f for g, f in records["set"].items() if g != "site"}
    body = {"id": str(uuid.uuid4()), "site_id": site_id, "tag": "S-1", "title": "", "record": record, "by": "Ana"}
    line = client.post("/api/lines", json=body).json()
    file = json.loads(client.get(f"/api/lines/{line['id']}/export.json").text)
    file["evidence"] = [
        {"step": "isolate.lock_out", "kind": "tick", "data": {}, "by": "Ana", "at": "2026-03-02T09:00:00+00:00"}
    ]
    for version, status in ((4, 201), (file["version"], 422)):
        answer = client.post(f"/api/import?id={uuid.uuid4()}&by=Cy", content=json.dumps({**file, "version": version}))
        assert answer.status_code == status, answer.text
        if status == 201:
            other = answer.json()["id"]
            steps = {s["id"]: s for s in client.get(f"/api/lines/{other}/run").json()["steps"]}
            assert steps["isolate.lock_out"]["state"] == "next"
            chapters = client.get(f"/api/lines/{other}/story").json()["chapters"]
            assert "Lock out, tag, try" in [e["title"] for c in chapters for e in c["entries"]]


def test_what_was_noted_on_paper_in_a_fault_call_belongs_to_it(client: TestClient, new_line: Line) -> None:
    comes(client, new_line["id"], "fault call")
    body = {
        "id": str(uuid.uuid4()),
        "step": "visit.found",
        "kind": "log",
        "data": {"trip": "overcurrent", "when": "starting"},
        "by": "Ana",
        "at": "2026-03-02T09:00:00+00:00",
        "paper": True,
    }
    answer = client.post(f"/api/lines/{new_line['id']}/evidence", json=body)
    assert answer.status_code == 201, answer.text
    sheet = client.get(f"/api/lines/{new_line['id']}/run").json()
    assert [s["state"] for s in sheet["steps"] if s["id"] == "visit.found"] == ["done"]
