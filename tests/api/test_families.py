"""Families and keypads over HTTP: kept in versions, told to every line, read back as the display has it."""

import uuid
from typing import Any

import pytest
from fastapi.testclient import TestClient

from mainspring.core.families.keypad import CLOSES, LEADS
from tests.core.test_families import TABLE


def keypad(client: TestClient, line_id: str) -> Any:
    return client.get(f"/api/lines/{line_id}/keypad").json()


def at(view: Any, setting: str) -> Any:
    return next(s for s in view["steps"] if s["setting"] == setting)


def own(client: TestClient, base: str = "calder") -> dict[str, Any]:
    """A family of our own, begun from a shipped one."""
    family = client.get(f"/api/families/{base}").json()["family"]
    return {**family, "id": f"own-{uuid.uuid4().hex[:8]}", "name": "Own"}


def put(client: TestClient, family: dict[str, Any], revision: int = 0, by: str = "Ana") -> Any:
    return client.put(f"/api/families/{family['id']}", json={"revision": revision, "family": family, "by": by})


def uses(client: TestClient, line_id: str, family: str) -> None:
    line = client.get(f"/api/lines/{line_id}").json()
    line["record"]["drive"]["family"] = {"value": family}
    body = {k: line[k] for k in ("revision", "tag", "title", "record")} | {"by": "Ana"}
    assert client.put(f"/api/lines/{line_id}", json=body).status_code == 200


def test_the_sheet_in_the_drives_own_order_and_words(client: TestClient, demo: dict[str, str]) -> None:
    view = keypad(client, demo["CW-BST-1"])
    assert view["family_name"] == "Calder"
    numbers = [s["number"] for s in view["steps"] if s["setting"] not in (*LEADS, *CLOSES)]
    assert numbers == sorted(numbers)
    ramp = at(view, "ramps.up")
    assert (ramp["text"], ramp["says"]) == ("100", "tenths of s: 10.0 s")
    assert "E Ramps" in ramp["way"]
    assert ramp["reason"]
    assert at(view, "pid.action")["says"] == "Normal"
    assert "Access code" not in view["without"]


def test_what_stands_on_the_display_is_kept_as_left(client: TestClient, demo: dict[str, str]) -> None:
    line = demo["CW-BST-1"]

    def reads(setting: str, text: str, seen: Any = None) -> Any:
        body = {"text": text, "seen": seen, "by": "Ana"}
        return client.put(f"/api/lines/{line}/keypad/{setting}", json=body)

    said = reads("ramps.up", "100")
    assert said.status_code == 200, said.text
    assert (at(said.json(), "ramps.up")["left"], at(said.json(), "ramps.up")["verdict"]) == (10.0, "same")
    assert at(reads("stop.mode", "slope").json(), "stop.mode")["left"] == "ramp"
    refused = reads("ramps.down", "fast")
    assert refused.status_code == 422
    assert "a number as the display has it" in refused.json()["detail"]
    between = reads("ramps.up", "200", seen=5.0)
    assert between.status_code == 409
    assert reads("motor.back_emf", "1").status_code == 200  # mapped, though not asked of this motor
    assert reads("nothing.such", "1").status_code == 422


def test_what_was_found_is_read_at_the_keypad_too_and_in_its_own_language(
    client: TestClient, demo: dict[str, str]
) -> None:
    line = demo["CW-BST-1"]
    body = {"text": "Frei", "moment": "found", "language": "de", "by": "Ana"}
    refused = client.put(f"/api/lines/{line}/keypad/stop.mode", json=body)
    assert refused.status_code == 422  # the family has no German word for it
    body["text"] = "Free"
    step = at(client.put(f"/api/lines/{line}/keypad/stop.mode", json=body).json(), "stop.mode")
    assert (step["found"], step["left"], step["called"]) == ("coast", None, "Halt durch")
    torque = at(client.get(f"/api/lines/{line}/keypad", params={"language": "de"}).json(), "application.load_torque")
    assert torque["says"] == "Quadratisch"


def test_a_drive_that_holds_it_only_roughly_holds_it_all_the_same(client: TestClient, demo: dict[str, str]) -> None:
    line, family = demo["CW-BST-2"], own(client)
    for p in family["parameters"]:
        if p["setting"] == "sleep.boost":
            p.update(decimals=1)
    assert put(client, family).status_code == 200
    uses(client, line, family["id"])
    client.put(f"/api/lines/{line}/settings/sleep.boost/left", json={"value": None, "by": "Ana"})
    step = at(keypad(client, line), "sleep.boost")
    assert step["rounded"]
    body = {"text": step["text"], "by": "Ana"}
    kept = at(client.put(f"/api/lines/{line}/keypad/sleep.boost", json=body).json(), "sleep.boost")
    assert kept["left"] != step["wanted"]
    assert kept["verdict"] == "same"


def test_families_are_kept_in_versions_and_one_writer_wins(client: TestClient) -> None:
    family = own(client)
    first = put(client, family)
    assert (first.status_code, first.json()["revision"]) == (200, 1)
    assert put(client, family).json()["revision"] == 1  # the same again is harmless
    assert put(client, {**family, "fits": "up to 90 kW"}, 1, "Ben").json()["revision"] == 2
    late = put(client, {**family, "fits": "other"}, 1)
    assert late.status_code == 409
    assert "Ben saved Own" in late.json()["detail"]
    listed = {f["id"]: f for f in client.get("/api/families").json()}
    assert (listed[family["id"]]["by"], listed[family["id"]]["shipped"]) == ("Ben", False)
    assert listed["oriel"]["shipped"]
    told = client.get(f"/api/families/{family['id']}/differences", params={"other": first.json()["digest"]}).json()
    assert told == []  # its parameters are the same
    bad = put(client, {**family, "parameters": [{"number": "", "label": {}}]}, 2)
    assert bad.status_code == 422
    assert put(client, {**family, "id": "neutral"}).status_code == 422


def test_a_line_remembers_by_which_version_it_was_set(client: TestClient, demo: dict[str, str]) -> None:
    line, family = demo["PF-1"], own(client)
    old = put(client, family).json()["digest"]
    uses(client, line, family["id"])
    step = at(keypad(client, line), "retry.count")
    body = {"text": step["text"], "seen": step["left"], "by": "Ana"}
    assert client.put(f"/api/lines/{line}/keypad/retry.count", json=body).status_code == 200
    assert keypad(client, line)["older"] == []
    for p in family["parameters"]:
        if p["setting"] in ("retry.count", "ramps.up"):
            p["scale"] = 100.0
    assert put(client, family, 1).status_code == 200
    view = keypad(client, line)  # told at once, though nothing of the line has changed
    assert at(view, "retry.count")["text"] != step["text"]
    (older,) = view["older"]
    assert (older["digest"], older["settings"]) == (old, 1)
    assert [c["number"] for c in older["changes"]] == [step["number"]]  # and not the ramp, which nobody read back


def test_a_draft_is_tried_on_a_real_line(client: TestClient, demo: dict[str, str]) -> None:
    family = {"id": "draft", "name": "Draft", "parameters": [
        {"number": "1", "label": {"en": "Climb"}, "setting": "ramps.up", "unit": "s", "high": 5},
        {"number": "2", "label": {"en": "?"}},
    ]}  # fmt: skip
    tried = client.post("/api/families/try", json={"family": family, "line_id": demo["CW-BST-1"]}).json()
    assert [(d["at"], d["text"]) for d in tried["dials"]] == [(0, "10")]
    assert {(p["at"], p["grave"]) for p in tried["problems"]} == {(0, True), (1, False)}
    assert "motor.rated_current" in tried["without"]
    bad = {**family, "parameters": [{"number": "1", "label": {}, "scale": 0}]}
    assert client.post("/api/families/try", json={"family": bad}).status_code == 422


def test_files_go_out_and_come_in(client: TestClient) -> None:
    text = client.get("/api/families/wren/file").content
    plain = client.post("/api/families/file", content=text).json()
    assert plain == client.get("/api/families/wren").json()["family"]
    table = client.get("/api/families/wren/file", params={"kind": "csv"})
    assert "text/csv" in table.headers["content-type"]
    again = client.post("/api/families/file", params={"into": "wren"}, content=table.content).json()
    assert again["parameters"] == plain["parameters"]
    assert client.post("/api/families/file", content=b"{}").status_code == 422
    assert client.get("/api/families/nobody/file").status_code == 404


def test_a_pasted_table_is_shown_before_it_is_taken(client: TestClient) -> None:
    seen = client.post("/api/families/paste", json={"text": TABLE}).json()
    assert seen["roles"] == ["number", "label", "range", "unit", "default"]
    assert len(seen["parameters"]) == len(seen["cells"]) == 9
    assert len(seen["parameters"]) - 1 in seen["unsure"]
    assert client.post("/api/families/paste", json={"text": "x"}).status_code == 422


@pytest.mark.parametrize("text", ["nennleistung", "sleep", "wake"])
def test_the_dictionary_is_searched_by_any_word(text: str, client: TestClient) -> None:
    words = {w["id"]: w for w in client.get("/api/dictionary").json()["settings"]}
    assert len(words) >= 110
    found = client.get("/api/dictionary/search", params={"text": text}).json()
    assert found
    assert set(found) <= set(words)
