"""The loop bench through the door: every line tried, long work told of as it goes, stopped, and never in the way."""

import json
import threading
from collections.abc import Iterator
from concurrent.futures import CancelledError
from typing import Any

import pytest
from fastapi.testclient import TestClient
from pydantic import BaseModel

from mainspring.core.line import parse_line
from mainspring.core.simulation.spread import Stopped, Tell
from mainspring.service.loop import Asked, search_view
from mainspring.service.workshop import Job, Workshop


def draft(client: TestClient, line_id: str, **asked: Any) -> dict[str, Any]:
    line = client.get(f"/api/lines/{line_id}").json()
    return {"record": line["record"], "site_id": line["site_id"], "line_id": line_id, **asked}


def events(text: str) -> Iterator[tuple[str, Any]]:
    for block in text.strip().split("\n\n"):
        name, _, data = block.partition("\n")
        yield name.removeprefix("event: "), json.loads(data.removeprefix("data: "))


def test_every_line_of_the_demo_has_a_bench_or_says_what_it_needs(client: TestClient, demo: dict[str, str]) -> None:
    tried = 0
    lines = [line for site in client.get("/api/round").json()["sites"] for line in site["lines"]]
    for line_id in (line["id"] for line in lines):
        found = client.post("/api/loop", json=draft(client, line_id)).json()
        assert bool(found["times"]) != bool(found["missing"])
        if found["times"]:
            tried += 1
            assert found["meaning"]
            assert len(found["value"]) == len(found["frequency"]) == len(found["times"])
            assert {k["group"] for k in found["knobs"]} >= {"Ramps and limits"}
    assert tried >= len(lines) - 1  # one of them lacks its sensor


def test_knobs_demand_and_mishaps_are_tried(client: TestClient, demo: dict[str, str]) -> None:
    booster = demo["CW-BST-2"]
    day = client.post("/api/loop", json=draft(client, booster, profile="day", rows=600)).json()
    assert day["duration"] == 86_400
    assert len(day["times"]) <= 600
    own = client.post("/api/loop", json=draft(client, booster, own=[[0, 0.2], [60, 0.9]], duration=120)).json()
    assert own["taken"][-1] > 3 * own["taken"][0]
    broken = client.post("/api/loop", json=draft(client, booster, lost_at=60)).json()
    assert {"name": "signal lost", "time": 60.05, "why": "the wire is broken"} in broken["events"]
    dry = client.post("/api/loop", json=draft(client, booster, dry_at=60)).json()
    assert "dry, trip" in [e["name"] for e in dry["events"]]


@pytest.mark.parametrize(
    ("asked", "field"),
    [
        ({"tried": {"tempo": 1}}, "knob"),
        ({"profile": "weekend"}, "profile"),
        ({"own": [[5, 0.2]]}, "first time"),
        ({"own": [[0, 0.2], [0, 0.3]]}, "demand"),
        ({"duration": 199_999}, "duration"),
    ],
)
def test_what_cannot_be_tried_is_refused_by_name(
    asked: dict[str, Any], field: str, client: TestClient, demo: dict[str, str]
) -> None:
    answer = client.post("/api/loop", json=draft(client, demo["CW-BST-2"], **asked))
    assert answer.status_code == 422
    assert field in answer.json()["detail"]


def test_the_spread_of_plants_is_told_as_it_goes(client: TestClient, demo: dict[str, str]) -> None:
    answer = client.post("/api/loop/spread", json=draft(client, demo["CW-BST-2"]))
    told = list(events(answer.text))
    assert {n for n, _ in told[:-1]} <= {"progress"}
    name, found = told[-1]
    assert name == "found"
    assert found["draws"] == 200
    assert 0 < found["holds"] <= 200
    assert len(found["low"]) == len(found["high"]) == len(found["times"])


def test_what_long_work_refuses_is_told_in_the_readers_units(client: TestClient, demo: dict[str, str]) -> None:
    body = draft(client, demo["PF-1"])
    told = list(events(client.post("/api/loop/search", json=body).text))
    assert told[-1][0] == "refused"
    assert "outside" in told[-1][1]["detail"]
    assert client.post("/api/loop/search", json={"record": {"motor": {"rated_speed": 1e9}}}).status_code == 422


def test_sleep_is_found_and_its_figures_open_their_working(client: TestClient, demo: dict[str, str]) -> None:
    body = draft(client, demo["CW-BST-2"], measured=43.0)
    found = client.post("/api/loop/sleep", json=body).json()
    assert found["moved"] == {"low_limit": 44.0, "sleep_below": 44.5}
    assert any("worn" in (p["text"] or "") for p in found["refit"])
    figures = [p["figure"] for p in found["refit"] + found["tank"] if p["figure"]] + [found["leaks"][0]["told"]]
    for figure in figures:
        sheet = client.post("/api/working", json={**body, "key": figure["key"]}).json()
        assert sheet["value"] == pytest.approx(figure["value"], rel=1e-9)
    assert client.post("/api/loop/sleep", json=draft(client, demo["PF-1"])).status_code == 422


def test_a_set_is_staged_by_energy(client: TestClient, demo: dict[str, str]) -> None:
    body = draft(client, demo["CW-BST-2"])
    body["record"]["machine"]["count"] = {"value": 3.0}
    found = client.post("/api/loop/stages", json=body).json()
    assert [c["count"] for c in found["changes"]] == [2, 3]
    assert all(c["moved"]["stage_off"] < c["moved"]["stage_on"] for c in found["changes"])
    key = next(p["figure"]["key"] for p in found["changes"][0]["words"] if p["figure"])
    assert client.post("/api/working", json={**body, "key": key}).status_code == 200


def test_the_model_is_stepped_and_every_rule_told(client: TestClient, demo: dict[str, str]) -> None:
    small, large = client.post("/api/loop/model", json=draft(client, demo["CW-BST-2"])).json()
    assert small["process_gain"] > large["process_gain"]
    assert len(small["rules"]) == 7
    outside = client.post("/api/loop/model", json=draft(client, demo["PF-1"])).json()
    assert "from outside" in outside[0]["missing"]


def test_a_log_is_fitted_in_the_readers_unit(client: TestClient, demo: dict[str, str]) -> None:
    body = draft(client, demo["CW-BST-2"], own=[[0, 0.6], [40, 0.8]], duration=120, rows=240)
    ran = client.post("/api/loop", json=body).json()
    rows = [f"{t},{v / 1e5:.4f},{f:.2f}" for t, v, f in zip(ran["times"], ran["value"], ran["frequency"], strict=True)]
    log = {**draft(client, demo["CW-BST-2"]), "text": "\n".join(rows), "fit": ["demand"]}
    found = client.post("/api/loop/fit", json=log).json()
    assert found["moved"][0]["id"] == "demand"
    assert found["error_after"] <= found["error_before"] + 1e-6
    psi = client.post("/api/loop/fit", json=log, headers={"X-Units": "us"}).json()
    assert psi["measured"][0] == pytest.approx(found["measured"][0] / 1e5 * 6894.757, rel=1e-6)
    assert client.post("/api/loop/fit", json={**log, "fit": ["colour"]}).status_code == 422


# the workshop


class Done(BaseModel):
    """What a piece of work in these tests comes to."""

    number: int


def ended(job: Job) -> BaseException | None:
    try:
        return job.future.exception(60)
    except CancelledError as cancelled:
        return cancelled


def test_jobs_go_one_after_the_other_and_a_stopped_one_lets_the_next_go_on() -> None:
    shop, order, first_runs, go_on = Workshop(), list[int](), threading.Event(), threading.Event()

    def long(tell: Tell) -> Done:
        first_runs.set()
        go_on.wait(20)
        if not tell(1, 2):
            raise Stopped("nobody wants it")
        return Done(number=0)

    def short(number: int) -> Any:
        def work(tell: Tell) -> Done:
            order.append(number)
            return Done(number=number)

        return work

    first = shop.start(long)
    assert first_runs.wait(20)
    others = [shop.start(short(n)) for n in range(1, 5)]
    assert [shop.before(j) for j in others] == [1, 2, 3, 4]
    shop.stop(others[1])
    assert [shop.before(j) for j in (others[0], others[2], others[3])] == [1, 2, 3]
    shop.stop(first)
    go_on.set()
    with pytest.raises(Stopped, match="nobody"):
        first.future.result(20)
    assert others[3].future.result(20) == Done(number=4)
    assert order == [1, 3, 4]
    assert others[1].future.cancelled()
    shop.end()


def test_the_end_of_the_application_stops_what_runs_and_what_waits() -> None:
    shop, runs, told = Workshop(), threading.Event(), threading.Event()

    def work(tell: Tell) -> Done:
        runs.set()
        while tell(1, 2):
            told.wait(0.01)
        raise Stopped("nobody wants it")

    running, waiting = shop.start(work), shop.start(work)
    assert runs.wait(20)
    shop.end()
    assert isinstance(ended(running), Stopped)
    assert isinstance(ended(waiting), CancelledError)


def test_ten_searches_at_once_do_not_keep_a_screen_waiting(client: TestClient, demo: dict[str, str]) -> None:
    record = draft(client, demo["CW-BST-2"])["record"]
    line, _ = parse_line(record)
    shop = Workshop()
    jobs = [shop.start(lambda tell: search_view(line, Asked({}), tell)) for _ in range(10)]
    for _ in range(10):
        assert client.post("/api/assess", json={"record": record}).status_code == 200
    assert sum(not job.future.done() for job in jobs) >= 5  # ten answers while most of the work still waits
    for job in jobs:
        shop.stop(job)
    for job in jobs:
        assert isinstance(ended(job), Stopped | CancelledError)
    shop.end()
