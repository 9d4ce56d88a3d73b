"""The run sheet over the interface: visits, several people, entries made without a link, photos, paper, export."""

import io
import json
import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

import pypdf
import pytest
from PIL import Image
from starlette.testclient import TestClient

Line = dict[str, Any]
METER = {"name": "Meter 7", "due": "2020-01-31"}
CLAMP = {"name": "Clamp"}


def step(client: TestClient, line_id: str, step_id: str) -> dict[str, Any]:
    run = client.get(f"/api/lines/{line_id}/run").json()
    return next(s for s in run["steps"] if s["id"] == step_id)


def keep(client: TestClient, line: Line, step_id: str, kind: str = "tick", by: str = "Ana", **more: Any) -> Any:
    body = {"id": str(uuid.uuid4()), "step": step_id, "kind": kind, "by": by, **more}
    return client.post(f"/api/lines/{line['id']}/evidence", json=body)


RUN = str(uuid.uuid4())  # of the application on one device


def ago(seconds: float) -> str:
    return (datetime.now(UTC) - timedelta(seconds=seconds)).isoformat()


def visit(client: TestClient, line: Line, key: str, by: str = "Ana", **more: Any) -> Any:
    url = f"/api/lines/{line['id']}/visits/{key}"
    return client.put(url, json={"by": by, "purpose": "start-up", **more})


@pytest.fixture
def isolated(client: TestClient, new_line: Line) -> Line:
    """A line whose wait is over: both ends of it told later, by one device's running clock."""
    assert keep(client, new_line, "isolate.lock_out", at=ago(4000)).status_code == 201
    start, end = ({"running": {"device": RUN, "ran": ran}} for ran in (100.0, 3900.0))
    assert keep(client, new_line, "isolate.capacitors", "start", at=ago(3900), **start).status_code == 201
    assert keep(client, new_line, "isolate.capacitors", at=ago(100), **end).status_code == 201
    return new_line


def absence(client: TestClient, line: Line, volts: float = 0.2) -> dict[str, float]:
    return {r["id"]: volts for r in step(client, line["id"], "isolate.absence")["readings"]}


# visits


def test_the_first_entry_opens_a_visit_and_the_next_after_its_end_another(client: TestClient, new_line: Line) -> None:
    run = keep(client, new_line, "isolate.lock_out").json()
    assert (run["visit"]["purpose"], run["visit"]["by"]) == ("start-up", "Ana")
    ended = visit(client, new_line, run["visit"]["id"], closed=True).json()
    assert ended["visit"] is None
    again = keep(client, new_line, "isolate.lock_out", by="Ben").json()
    assert (again["visit"]["purpose"], again["visit"]["by"]) == ("start-up", "Ben")
    chapters = client.get(f"/api/lines/{new_line['id']}/story").json()["chapters"]
    assert [c["visit"]["purpose"] for c in chapters if c["visit"]] == ["start-up", "start-up"]  # the latest first
    assert [e["title"] for e in chapters[0]["entries"]] == ["Lock out, tag, try"]


def test_a_second_visit_closes_the_first(client: TestClient, new_line: Line) -> None:
    first, second = str(uuid.uuid4()), str(uuid.uuid4())
    visit(client, new_line, first)
    run = visit(client, new_line, second, "Ben", purpose="fault call").json()
    assert run["visit"]["id"] == second
    chapters = client.get(f"/api/lines/{new_line['id']}/story").json()["chapters"]
    assert chapters[1]["visit"]["closed"]


def test_instruments_of_two_people_are_both_kept(client: TestClient, new_line: Line) -> None:
    key = str(uuid.uuid4())
    visit(client, new_line, key, instruments=[METER], seen=[])
    visit(client, new_line, key, "Ben", instruments=[CLAMP], seen=[])  # had not seen Ana's
    tools = step_visit(client, new_line)["instruments"]
    assert [t["name"] for t in tools] == ["Meter 7", "Clamp"]
    visit(client, new_line, key, instruments=[], seen=[METER])  # had not seen Ben's: takes hers off
    tools = step_visit(client, new_line)["instruments"]
    assert [t["name"] for t in tools] == ["Clamp"]


def step_visit(client: TestClient, line: Line) -> dict[str, Any]:
    found: dict[str, Any] = client.get(f"/api/lines/{line['id']}/run").json()["visit"]
    return found


@pytest.mark.parametrize(
    ("more", "words"),
    [
        ({"purpose": "tea"}, "start-up"),
        ({"instruments": [{"name": ""}]}, "instrument"),
        ({"instruments": [{"name": "Meter", "due": "soon"}]}, "date"),
        ({"note": "x" * 2001}, "2000 characters"),
    ],
)
def test_a_bad_visit_is_refused_in_words(more: dict[str, Any], words: str, client: TestClient, new_line: Line) -> None:
    answer = visit(client, new_line, str(uuid.uuid4()), **more)
    assert answer.status_code == 422
    assert words in answer.text
    assert step_visit(client, new_line) is None


def test_a_reading_keeps_its_instrument_and_that_its_calibration_is_over(client: TestClient, isolated: Line) -> None:
    answer = keep(
        client, isolated, "isolate.absence", "readings", data=absence(client, isolated), instrument=METER, by="Ben"
    )
    assert answer.status_code == 201, answer.text
    (kept,) = step(client, isolated["id"], "isolate.absence")["evidence"]
    assert kept["instrument"] == {**METER, "overdue": True}


# when it was made


def test_a_time_to_come_is_refused_and_a_clock_a_little_fast_is_not(client: TestClient, new_line: Line) -> None:
    late = keep(client, new_line, "isolate.lock_out", at=ago(-3600))
    assert late.status_code == 422
    assert "not later than now" in late.text
    assert keep(client, new_line, "isolate.lock_out", at=ago(-5)).status_code == 201
    (kept,) = step(client, new_line["id"], "isolate.lock_out")["evidence"]
    assert datetime.fromisoformat(kept["at"]) <= datetime.now(UTC)


def test_a_wait_made_without_a_link_must_have_been_long_enough(client: TestClient, new_line: Line) -> None:
    keep(client, new_line, "isolate.lock_out", at=ago(4000))
    wait = step(client, new_line["id"], "isolate.capacitors")["seconds"]["value"]
    keep(client, new_line, "isolate.capacitors", "start", at=ago(3900), running={"device": RUN, "ran": 10.0})
    ends = [{"running": {"device": RUN, "ran": 10.0 + wait + more}} for more in (-1, 1)]
    early = keep(client, new_line, "isolate.capacitors", at=ago(3900 - wait - 60), **ends[0])
    assert early.status_code == 409
    assert "left on the clock" in early.json()["detail"]
    late = keep(client, new_line, "isolate.capacitors", at=ago(3900 - wait - 61), **ends[1])
    assert late.status_code == 201
    assert step(client, new_line["id"], "isolate.capacitors")["evidence"][0]["received"]


@pytest.mark.parametrize("purpose", ["fault call", "re-check", "replacement"])
def test_a_visit_is_never_made_another(client: TestClient, new_line: Line, purpose: str) -> None:
    begun = keep(client, new_line, "isolate.lock_out").json()["visit"]
    refused = visit(client, new_line, begun["id"], purpose=purpose)
    assert (refused.status_code, "begins a visit of its own" in refused.json()["detail"]) == (422, True)
    fresh = visit(client, new_line, str(uuid.uuid4()), purpose=purpose).json()["visit"]
    assert fresh["purpose"] == purpose
    chapters = client.get(f"/api/lines/{new_line['id']}/story").json()["chapters"]
    assert [c["visit"]["purpose"] for c in chapters if c["visit"]] == [purpose, "start-up"]


# several people


def test_an_entry_is_answered_with_what_it_changed(client: TestClient, new_line: Line) -> None:
    url = f"/api/lines/{new_line['id']}/run"
    before = client.get(url).json()
    kept = keep(client, new_line, "isolate.lock_out").json()
    assert (kept["before"], kept["seq"]) == (before["seq"], before["seq"] + 1)
    assert {s["id"]: s["state"] for s in kept["steps"]}["isolate.lock_out"] == "done"
    after = client.get(url).json()
    patched = {s["id"]: s for s in before["steps"]} | {s["id"]: s for s in kept["steps"]}
    assert list(patched.values()) == after["steps"]
    assert len(kept["steps"]) < 8
    assert after["visit"] == kept["visit"]


def test_an_unchanged_sheet_is_answered_in_a_word(client: TestClient, new_line: Line) -> None:
    for page in ("", "/run", "/settings", "/story", "/savings", "/proof", "/readiness", "/photos"):
        url = f"/api/lines/{new_line['id']}{page}"
        first = client.get(url)
        again = client.get(url, headers={"If-None-Match": first.headers["etag"]})
        assert (again.status_code, again.content) == (304, b"")
    keep(client, new_line, "isolate.lock_out")
    assert client.get(url, headers={"If-None-Match": first.headers["etag"]}).status_code == 200


def test_what_was_not_seen_is_shown_and_both_are_kept_when_told_so(client: TestClient, isolated: Line) -> None:
    first = keep(client, isolated, "isolate.absence", "readings", data=absence(client, isolated, 0.3), seen=[])
    assert first.status_code == 201
    mine = {"data": absence(client, isolated, 0.4), "by": "Ben"}
    refused = keep(client, isolated, "isolate.absence", "readings", seen=[], **mine)
    assert refused.status_code == 409
    (theirs,) = refused.json()["current"]["evidence"]
    assert (theirs["by"], theirs["data"]["l1_l2"]) == ("Ana", 0.3)
    taken = keep(client, isolated, "isolate.absence", "readings", seen=[theirs["id"]], **mine)
    assert taken.status_code == 201
    story = client.get(f"/api/lines/{isolated['id']}/story").json()["chapters"][0]["entries"]
    assert [e["by"] for e in story if "absence" in e["title"]] == ["Ana", "Ben"]


def test_rows_of_one_table_do_not_stand_in_each_other_s_way(client: TestClient, demo: dict[str, str]) -> None:
    line = {"id": demo["CW-BST-2"]}
    for hertz, by in ((45.0, "Ana"), (50.0, "Ben")):
        answer = keep(
            client, line, "turn.step_up", "row", by=by, data={"reference": hertz, "speed": 29.2 * hertz}, seen=[]
        )
        assert answer.status_code == 201, answer.text
    again = keep(client, line, "turn.step_up", "row", data={"reference": 45.0, "speed": 1310.0}, seen=[])
    assert again.status_code == 409


# photos as proof


def test_a_photo_proves_a_step_and_must_be_one_of_this_line(client: TestClient, isolated: Line) -> None:
    line_id = isolated["id"]
    for name in ("absence", "wiring", "interlock"):
        found = step(client, line_id, f"isolate.{name}")
        data = absence(client, isolated) if name == "absence" else dict.fromkeys(found["items"], True)
        if name == "interlock":
            data = {"choice": "wired"}
        kind = {"readings": "readings", "list": "list", "choice": "choice"}[found["proof"]]
        assert keep(client, isolated, found["id"], kind, data=data).status_code == 201
    nothing = keep(client, isolated, "isolate.cover", "photo", data={"photo": str(uuid.uuid4())})
    assert nothing.status_code == 422
    key, image = str(uuid.uuid4()), io.BytesIO()
    Image.new("RGB", (60, 40), "white").save(image, "PNG")
    put = client.put(f"/api/lines/{line_id}/photos/{key}?station=run&by=Ana", content=image.getvalue())
    assert put.status_code == 201, put.text
    assert keep(client, isolated, "isolate.cover", "photo", data={"photo": key}).status_code == 201
    assert step(client, line_id, "isolate.cover")["state"] == "done"


# paper


@pytest.mark.parametrize(("paper", "width"), [("A4", 595.3), ("Letter", 612.0)])
def test_the_sheet_on_paper_has_every_step_and_what_is_expected(
    paper: str, width: float, client: TestClient, demo: dict[str, str]
) -> None:
    line_id = demo["CW-BST-2"]
    answer = client.get(f"/api/lines/{line_id}/run.pdf?paper={paper}&units={'us' if paper == 'Letter' else 'si'}")
    assert answer.headers["content-type"] == "application/pdf"
    pages = pypdf.PdfReader(io.BytesIO(answer.content)).pages
    assert float(pages[0].mediabox.width) == pytest.approx(width, abs=0.5)
    text = " ".join(" ".join(p.extract_text() for p in pages).split())
    for each in client.get(f"/api/lines/{line_id}/run").json()["steps"]:
        assert each["title"] in text
        assert not each["danger"] or each["danger"][:30] in text
    assert "left out, R. Tally" in text
    assert ("psi" if paper == "Letter" else "bar") in text
    assert "70 % of the setpoint, expect" in text


# export


def test_visits_instruments_and_times_survive_export_and_import(client: TestClient, isolated: Line) -> None:
    key = step_visit(client, isolated)["id"]
    visit(client, isolated, key, instruments=[METER, CLAMP], note="rain", purpose="start-up")
    keep(client, isolated, "isolate.absence", "readings", data=absence(client, isolated), instrument=METER)
    keep(client, isolated, "isolate.wiring", "note", note="damp")
    text = client.get(f"/api/lines/{isolated['id']}/export.json").text
    imported = client.post(f"/api/import?id={uuid.uuid4()}&by=Cy", content=text)
    assert imported.status_code == 201, imported.text
    other = imported.json()["id"]
    stories = [client.get(f"/api/lines/{i}/story").json()["chapters"][0] for i in (isolated["id"], other)]
    for story in stories:
        del story["visit"]["id"], story["people"]  # another line, and who took it in
        story["entries"] = [e for e in story["entries"] if e["state"] != "changed"]
    assert stories[0] == stories[1]
    assert stories[0]["visit"]["instruments"][0]["name"] == "Meter 7"
    first, second = (json.loads(client.get(f"/api/lines/{i}/export.json").text) for i in (isolated["id"], other))
    assert (first["evidence"], first["visits"]) == (second["evidence"], second["visits"])


def test_the_screen_of_the_hand_over_lists_what_its_page_lists(client: TestClient, isolated: Line) -> None:
    url = f"/api/lines/{isolated['id']}"
    keep(client, isolated, "isolate.absence", "readings", data=absence(client, isolated), instrument=METER)
    assert client.get(f"{url}/readiness").json()["standing"] == []
    keep(client, isolated, "isolate.interlock", "choice", data={"choice": "disabled"}, note="Bridged to start.")
    (shown,) = client.get(f"{url}/readiness").json()["standing"]
    assert (shown["step"], shown["why"]) == ("isolate.interlock", "Bridged to start.")
