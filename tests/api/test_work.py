"""Settings, run sheet, benches, hand-over and methods over the interface."""

import csv
import io
import json
import re
import uuid
from typing import Any

import pypdf
import pytest
from starlette.testclient import TestClient

Line = dict[str, Any]


def step(client: TestClient, line_id: str, step_id: str) -> dict[str, Any]:
    run = client.get(f"/api/lines/{line_id}/run").json()
    return next(s for s in run["steps"] if s["id"] == step_id)


def prove(client: TestClient, line_id: str, step_id: str, kind: str = "tick", **data: Any) -> Any:
    body = {"id": str(uuid.uuid4()), "step": step_id, "kind": kind, "data": data, "by": "Ana"}
    return client.post(f"/api/lines/{line_id}/evidence", json=body)


def test_settings_planned_left_and_differing(client: TestClient, new_line: Line) -> None:
    url = f"/api/lines/{new_line['id']}/settings"
    sheet = client.get(url).json()
    assert len(sheet["rows"]) >= 24
    assert client.put(f"{url}/limits.current/left", json={"value": 12.5, "by": "Ana"}).status_code == 200
    rows = {r["id"]: r for r in client.get(url).json()["rows"]}
    assert rows["limits.current"]["verdict"] == "differs"
    filled = client.post(f"{url}/take-plan", json={"by": "Ana"}).json()
    # nothing was read back but the one, and what the family has no parameter for is neither taken nor open
    assert {r["verdict"] for r in filled["rows"]} == {"taken", "differs", "absent"}
    assert (filled["set_count"] - filled["read_count"], filled["to_take"]) == (filled["set_count"] - 1, 0)
    assert next(r for r in filled["rows"] if r["id"] == "limits.current")["left"] == 12.5  # never overwritten
    assert filled["family_name"] == "Calder"
    assert rows["pid.action"]["family"]["words"]["falls_faster"] == "Normal"


def test_what_the_drive_does_not_have_is_not_open(client: TestClient, new_line: Line) -> None:
    """By a family of one parameter only that one is to be read back; by none, every setting is."""
    url, one = f"/api/lines/{new_line['id']}", "limits.current"
    amps = {"number": "1", "label": {"en": "Amps"}, "setting": one, "unit": "A"}
    tiny = {"id": "tiny", "name": "Tiny", "parameters": [amps]}
    kept = client.put("/api/families/tiny", json={"revision": 0, "family": tiny, "by": "Ana"})
    assert kept.status_code == 200, kept.text

    def on(id: str) -> Line:
        line = client.get(url).json()
        record = {g: f for g, f in line["record"].items() if g != "site"}
        record["drive"]["family"] = {"value": id}
        body = {"revision": line["revision"], "tag": "P-1", "title": "pump", "record": record, "by": "Ana"}
        assert client.put(url, json=body).status_code == 200
        found: Line = client.get(f"{url}/settings").json()
        return found

    def missing() -> list[str]:
        return [m for m in client.get(f"{url}/readiness").json()["missing"] if m.startswith("Settings")]

    every = len(on("neutral")["rows"])
    assert missing() == [f"Settings: {every} without an as-left value"]
    sheet = on("tiny")
    assert sheet["absent_count"] == every - 1
    assert [r["id"] for r in sheet["rows"] if r["verdict"] == "open"] == [one]
    assert missing() == ["Settings: 1 without an as-left value"]
    assert client.put(f"{url}/settings/{one}/left", json={"value": 10.9, "by": "Ana"}).status_code == 200
    assert missing() == []
    states = client.get(url).json()["stages"]
    assert next(s["state"] for s in states if s["id"] == "settings") == "done"


def test_what_is_decided_is_in_force_and_a_stop_stays_a_stop(client: TestClient, new_line: Line) -> None:
    url = f"/api/lines/{new_line['id']}"
    put = lambda setting, moment, **body: client.put(f"{url}/settings/{setting}/{moment}", json={"by": "Ana", **body})  # noqa: E731
    assert put("limits.minimum_speed", "decided", value=45.0).status_code == 422  # a reason is asked
    kept = put("limits.minimum_speed", "decided", value=45.0, why="Hums in the riser below 45.")
    row = next(r for r in kept.json()["rows"] if r["id"] == "limits.minimum_speed")
    assert (row["decided"], row["decided_why"], row["effect"]["severity"]) == (
        45.0,
        "Hums in the riser below 45.",
        "clear",
    )
    limits = client.get(url).json()["assessment"]["limits"]
    assert next(x for x in limits if x["id"] == "lowest")["in_force"]["value"] == 45.0
    # the right value to leave is the decided one
    assert put("limits.minimum_speed", "left", value=45.0).json()["rows"]
    row = next(r for r in client.get(f"{url}/settings").json()["rows"] if r["id"] == "limits.minimum_speed")
    assert row["verdict"] == "decided"
    # a stop holds whatever anybody says
    stop = put("limits.current", "decided", value=16.0, why="It trips.")
    row = next(r for r in stop.json()["rows"] if r["id"] == "limits.current")
    assert row["effect"]["severity"] == "stop"
    assert "setting_limits_current" in {f["id"] for f in client.get(url).json()["assessment"]["findings"]}
    assert any("Current limit" in m for m in client.get(f"{url}/readiness").json()["missing"])
    # what is found is judged from the first entry, and the plan does not overwrite what speaks against it
    found = put("ramps.up", "found", value=0.4).json()
    row = next(r for r in found["rows"] if r["id"] == "ramps.up")
    assert row["effect"] is not None
    client.post(f"{url}/settings/take-plan", json={"by": "Ana"})
    row = next(r for r in client.get(f"{url}/settings").json()["rows"] if r["id"] == "ramps.up")
    assert row["left"] is None
    story = client.get(f"{url}/story").text
    assert "Hums in the riser below 45." in story


@pytest.mark.parametrize(
    ("setting", "value", "words"),
    [
        ("nothing", 1, "an id of the settings sheet"),
        ("limits.current", "much", "a number in A"),
        ("stop.mode", "jump", "coast, ramp"),
    ],
)
def test_bad_settings_are_refused(setting: str, value: Any, words: str, client: TestClient, new_line: Line) -> None:
    answer = client.put(f"/api/lines/{new_line['id']}/settings/{setting}/left", json={"value": value, "by": "Ana"})
    assert answer.status_code == 422
    assert words in answer.text


def test_the_csv_opens_in_a_spreadsheet_and_runs_nothing(client: TestClient, new_line: Line) -> None:
    client.post(f"/api/lines/{new_line['id']}/settings/take-plan", json={"by": "Ana"})
    text = client.get(f"/api/lines/{new_line['id']}/settings.csv?units=us").text
    rows = list(csv.DictReader(io.StringIO(text)))
    setpoint = next(r for r in rows if r["setting"] == "pid.setpoint_1")
    assert float(setpoint["planned"]) == pytest.approx(58.0151, rel=1e-4)
    assert setpoint["unit"] == "psi"
    assert not [c for r in rows for c in r.values() if c and c[0] in "=+@"]


def test_the_clock_of_the_server_rules(client: TestClient, new_line: Line) -> None:
    line_id = new_line["id"]
    assert prove(client, line_id, "isolate.capacitors", "start").status_code == 409  # the lock comes first
    assert prove(client, line_id, "isolate.lock_out").status_code == 201
    assert prove(client, line_id, "isolate.capacitors", "start").status_code == 201
    early = prove(client, line_id, "isolate.capacitors")
    assert early.status_code == 409
    assert "left on the clock" in early.json()["detail"]
    assert step(client, line_id, "isolate.capacitors")["clock_ends"]
    assert step(client, line_id, "isolate.capacitors")["state"] == "next"


def test_evidence_sent_twice_is_kept_once(client: TestClient, new_line: Line) -> None:
    body = {"id": str(uuid.uuid4()), "step": "isolate.lock_out", "kind": "tick", "by": "Ana"}
    url = f"/api/lines/{new_line['id']}"
    assert client.post(f"{url}/evidence", json=body).status_code == 201
    assert client.post(f"{url}/evidence", json=body).status_code == 201
    events = [e for e in client.get(f"{url}/events").json() if e["what"] == "evidence kept"]
    assert [e["subject"] for e in events] == ["Lock out, tag, try"]


def test_a_stop_at_supply_and_drive_holds_energising(client: TestClient, demo: dict[str, str]) -> None:
    line = client.get(f"/api/lines/{demo['IRR-P1']}").json()
    record = {g: f for g, f in line["record"].items() if g != "site"}
    record["drive"]["input_voltage_high"]["value"] = 240.0
    record["drive"]["input_voltage_low"]["value"] = 200.0
    body = {"revision": line["revision"], "tag": line["tag"], "title": line["title"], "record": record, "by": "Ana"}
    assert client.put(f"/api/lines/{line['id']}", json=body).status_code == 200
    held = prove(client, line["id"], "power.energise")
    assert held.status_code == 409
    assert "Supply is too high for this drive" in held.json()["detail"]


def test_a_changed_plate_makes_evidence_stale_and_names_the_change(client: TestClient, demo: dict[str, str]) -> None:
    line = client.get(f"/api/lines/{demo['CW-BST-2']}").json()
    record = {g: f for g, f in line["record"].items() if g != "site"}
    record["motor"]["rated_speed"]["value"] = 1450.0
    body = {"revision": line["revision"], "tag": line["tag"], "title": line["title"], "record": record, "by": "Ana"}
    assert client.put(f"/api/lines/{line['id']}", json=body).status_code == 200
    stale = step(client, line["id"], "data.motor")
    assert stale["state"] == "stale"
    assert stale["changed"] == [
        {
            "field": "motor.rated_speed",
            "label": "Speed at full load",
            "dimension": "speed",
            "was": 1455.0,
            "now": 1450.0,
        }
    ]
    assert step(client, line["id"], "isolate.lock_out")["state"] == "done"


def test_the_step_up_shows_prediction_deviation_and_what_a_pattern_fits(
    client: TestClient, demo: dict[str, str]
) -> None:
    line_id = demo["CW-BST-2"]
    table = step(client, line_id, "turn.step_up")["table"]
    expected = {k: v["value"] for k, v in table["rows"][4]["expected"].items()}
    throttled = {
        **expected,
        "power": expected["power"] * 0.7,
        "current": expected["current"] * 0.8,
        "pressure": expected["pressure"] * 1.2,
    }
    assert prove(client, line_id, "turn.step_up", "row", reference=45.0, **throttled).status_code == 201
    after = step(client, line_id, "turn.step_up")["table"]
    assert after["rows"][4]["read"]["power"]["deviation"] == pytest.approx(-0.3, abs=0.02)
    assert not after["rows"][4]["read"]["power"]["fits"]
    assert after["pattern"]["id"] == "row"  # four rows before it fit: something was otherwise while it was read
    assert "All other rows fit each other" in "".join(p["text"] or "" for p in after["pattern"]["because"])
    assert "Was a valve" in after["pattern"]["do"]
    assert after["known"]["readings"] == 20
    assert after["rows"][5]["half"].keys() == after["rows"][5]["expected"].keys()


def test_the_loop_is_tried_and_redrawn_with_the_setpoint(client: TestClient, demo: dict[str, str]) -> None:
    line = client.get(f"/api/lines/{demo['CW-BST-2']}").json()
    body = {"record": line["record"], "site_id": line["site_id"], "tried": {}}
    first = client.post("/api/loop", json=body).json()
    assert len(first["times"]) == len(first["value"]) == 1200
    assert [e["name"] for e in first["events"] if e["name"] in ("boost", "sleep", "wake")] == ["boost", "sleep", "wake"]
    moved = client.post("/api/loop", json={**body, "tried": {"setpoint": 3.5e5}}).json()
    assert moved["figures"]["hold_frequency"]["value"] < first["figures"]["hold_frequency"]["value"]
    low = next(k for k in moved["knobs"] if k["id"] == "low_limit")
    assert low["value"] == pytest.approx(moved["figures"]["hold_frequency"]["value"] + 1, rel=1e-6)
    assert moved["curves"]["held"]["value"] < first["curves"]["held"]["value"]


@pytest.mark.parametrize(
    "tried", [{"setpoint": -1}, {"gain": 0}, {"ramp_up": 0}, {"low_limit": 900}, {"tempo": 1}, {"setpoint": 1e8}]
)
def test_a_loop_that_cannot_be_tried_says_why(
    tried: dict[str, float], client: TestClient, demo: dict[str, str]
) -> None:
    line = client.get(f"/api/lines/{demo['CW-BST-2']}").json()
    answer = client.post("/api/loop", json={"record": line["record"], "tried": tried})
    assert answer.status_code == 422
    assert answer.json()["detail"]


def test_a_loop_of_an_unfinished_line_names_what_it_needs(client: TestClient) -> None:
    found = client.post("/api/loop", json={"record": {"line": {"application": "booster"}}}).json()
    assert found["missing"].startswith("not known yet: needs")


def test_proof_and_savings_of_the_worked_example(client: TestClient, demo: dict[str, str]) -> None:
    proof = client.get(f"/api/lines/{demo['PF-1']}/proof").json()
    assert [e["id"] for e in proof["estimates"]] == ["power", "slip", "amps"]
    assert all(e["low"]["value"] < e["load"]["value"] < e["high"]["value"] for e in proof["estimates"])
    savings = client.get(f"/api/lines/{demo['PF-1']}/savings").json()
    assert savings["figures"]["by_plate"]["value"] / 3.6e6 == pytest.approx(26_000.1, rel=1e-4)
    # what was read last has worn it a little: told by that, and not by the plate
    assert savings["figures"]["saved"]["value"] / 3.6e6 == pytest.approx(24_500, rel=0.03)
    told, modelled = (
        savings["figures"]["told"]["value"],
        savings["figures"]["saved"]["value"],
    )  # money is of what was read
    worked = savings["figures"]["payback"]["value"] * told / savings["figures"]["by_plate"]["value"]
    assert worked == pytest.approx(4.06, abs=0.01)
    assert modelled < savings["figures"]["by_plate"]["value"]
    not_yet = client.get(f"/api/lines/{demo['CW-BST-2']}/proof").json()
    assert "full-speed row" in not_yet["missing"]


@pytest.mark.parametrize(("tag", "units"), [("CW-BST-1", "si"), ("CW-BST-2", "us"), ("PF-1", "si"), ("IRR-P1", "us")])
def test_the_hand_over_is_one_page(tag: str, units: str, client: TestClient, demo: dict[str, str]) -> None:
    answer = client.get(f"/api/lines/{demo[tag]}/handover.pdf?units={units}")
    assert answer.status_code == 200
    reader = pypdf.PdfReader(io.BytesIO(answer.content))
    assert len(reader.pages) == 1
    text = reader.pages[0].extract_text()
    assert tag in text
    if tag == "PF-1":
        figures = client.get(f"/api/lines/{demo[tag]}/savings").json()["figures"]
        saved = figures["saved"]["value"] / 3.6e6  # the same figure as on the savings page
        told = [float(n) for n in re.findall(r"(\d+) ?kWh", text.replace("\u202f", "").replace("\xa0", " "))]
        assert any(abs(n - saved) < 10 for n in told), told


def test_the_whole_line_goes_out_and_comes_back_equal(client: TestClient, demo: dict[str, str]) -> None:
    exported = client.get(f"/api/lines/{demo['CW-BST-2']}/export.json").text
    key = str(uuid.uuid4())
    back = client.post(f"/api/import?id={key}&by=Ben", content=exported)
    assert back.status_code == 201, back.text
    assert client.get(f"/api/lines/{key}/export.json").text == exported.replace(
        *_times(exported, client.get(f"/api/lines/{key}/export.json").text)
    )
    first, second = (client.get(f"/api/lines/{k}").json() for k in (demo["CW-BST-2"], key))
    assert first["record"] == second["record"]
    assert first["stages"] == second["stages"]


def _times(exported: str, again: str) -> tuple[str, str]:
    """The moments and names of settings are those of the import; everything else must be equal."""
    one, two = json.loads(exported), json.loads(again)
    for a, b in zip(one["settings"], two["settings"], strict=True):
        a["at"], a["by"] = b["at"], b["by"]
    assert one == two
    return exported, again


@pytest.mark.parametrize(
    ("change", "words"),
    [
        (lambda t: t[: len(t) // 2], "it ends or breaks at character"),
        (lambda t: re.sub(r'"version": \d+', '"version": 99', t, count=1), "from a newer Mainspring"),
        (lambda t: t.replace("mainspring-line", "else"), "mainspring-line"),
        (lambda t: t.replace('"value": 1455.0', '"value": 1e12', 1), "up to 12000 r/min"),
        (lambda t: t.replace('"moment": "left"', '"moment": "later"', 1), "'left' or 'former'"),
        (lambda t: t.replace("+00:00", "", 1), "should have timezone info"),
        (lambda t: t.replace('"tag": "CW-BST-2"', '"tag": "\\ud800"'), "a complete Mainspring export"),
        (lambda _: "[1]", "mainspring-line"),
        (lambda _: "", "a complete Mainspring export"),
        (lambda _: "[" * 100_000, "a complete Mainspring export"),
    ],
)
def test_a_spoilt_import_is_refused_whole(change: Any, words: str, client: TestClient, demo: dict[str, str]) -> None:
    exported = client.get(f"/api/lines/{demo['CW-BST-2']}/export.json").text
    key = str(uuid.uuid4())
    answer = client.post(f"/api/import?id={key}&by=Ben", content=change(exported))
    assert answer.status_code == 422, answer.text
    assert words in answer.text
    assert client.get(f"/api/lines/{key}").status_code == 404


def test_methods_are_listed_and_run(client: TestClient) -> None:
    methods = client.get("/api/methods").json()
    assert len(methods) > 60
    found = client.post(
        "/api/methods/pump_shaft_power", json={"inputs": {"flow": "50 L/s", "head": "20 m", "efficiency": "80 %"}}
    )
    assert found.json()["values"]["pump_shaft_power"] == pytest.approx(12_236.2, rel=1e-4)
    fit = client.post(
        "/api/methods/pump_curve_fit", json={"inputs": {"flows": "0; 10 L/s; 20 L/s", "heads": "50 m; 47.5; 40"}}
    )
    assert fit.json()["values"]["c2"] == pytest.approx(-25_000, rel=1e-6)
    inputs = {"flows": "0; 10; 20 L/s", "heads": "50; 47.5; 40"}  # a unit in a list is that of all
    assert client.post("/api/methods/pump_curve_fit", json={"inputs": inputs}).json() == fit.json()
    twice = client.post("/api/methods/pump_shaft_power", json={"inputs": {"flow": "1", "Q": "2", "head": "20"}})
    assert twice.status_code == 422
    assert "flow once, not twice" in twice.text


@pytest.mark.parametrize(
    ("method", "inputs", "status"),
    [
        ("pump_shaft_power", {"flow": "x"}, 422),
        ("pump_shaft_power", {"flow": "1"}, 422),
        ("pump_shaft_power", {"flow": "1", "head": "20", "efficiency": "80"}, 422),
        ("pump_shaft_power", {"speed": "1"}, 422),
        ("nothing", {}, 404),
        ("unbalance", {"readings": "400; 401"}, 422),
        ("ie_efficiency", {"power": "7.5 kW", "poles": "4", "ie_class": "IE9"}, 422),
    ],
)
def test_methods_refuse_bad_inputs_in_words(
    method: str, inputs: dict[str, str], status: int, client: TestClient
) -> None:
    answer = client.post(f"/api/methods/{method}", json={"inputs": inputs})
    assert answer.status_code == status
    assert answer.json()["detail"]


def test_what_the_loop_says_opens_its_working_too(client: TestClient, demo: dict[str, str]) -> None:
    line = client.get(f"/api/lines/{demo['CW-BST-2']}").json()
    body = {"record": line["record"], "site_id": line["site_id"], "tried": {"setpoint": 3.5e5}}
    loop = client.post("/api/loop", json=body).json()
    said = [p["figure"] for m in loop["meaning"] for p in m["because"] + m["do"] if p["figure"]]
    assert len(said) >= 8
    for figure in said:
        sheet = client.post("/api/working", json={**body, "key": figure["key"]}).json()
        assert sheet["value"] == pytest.approx(figure["value"], rel=1e-6)
        assert sheet["source"] or sheet["provenance"]


def test_an_import_never_touches_a_line_that_is_there(client: TestClient, demo: dict[str, str]) -> None:
    exported = client.get(f"/api/lines/{demo['CW-BST-2']}/export.json").text
    before = client.get(f"/api/lines/{demo['PF-1']}/export.json").text
    answer = client.post(f"/api/import?id={demo['PF-1']}&by=Ben", content=exported)
    assert answer.status_code == 409
    assert client.get(f"/api/lines/{demo['PF-1']}/export.json").text == before


# units that belong to one system alone, where a number stands before them; kW and mA belong to both
OF_US = re.compile(r"\d[ \u00a0\u202f](?:psi|gpm|°F|hp|ft|in w\.g\.|cfm|gal)\b")
OF_SI = re.compile(r"\d[ \u00a0\u202f](?:L/s|L/min|m³/h|m³/s|bar|kPa|Pa|°C|m|mm|km|L)\b")
# not the page for the keypad: a drive shows its own units whatever the reader likes
NAMED_SO = ("0–16 bar",)  # a gauge is called by what stands on its dial


@pytest.mark.parametrize("units", ["si", "us"])
@pytest.mark.parametrize("page", ["handover.pdf", "owner.pdf", "run.pdf"])
def test_a_page_has_one_system_of_units(page: str, units: str, client: TestClient, demo: dict[str, str]) -> None:
    other, seen = OF_US if units == "si" else OF_SI, 0
    for line in demo.values():
        answer = client.get(f"/api/lines/{line}/{page}?units={units}")
        if answer.status_code != 200:  # of one nothing is known of a saving
            continue
        text = " ".join(p.extract_text() for p in pypdf.PdfReader(io.BytesIO(answer.content)).pages)
        for name in NAMED_SO:
            text = text.replace(name, "")
        assert other.findall(text) == [], line
        seen += 1
    assert seen
