"""Logs through the door: looked at, read with progress, kept once, judged, put aside, claimed and given out."""

import io
import json
import threading
import uuid
from typing import Any

import numpy as np
import polars as pl
import pypdf
import pytest
from fastapi.testclient import TestClient

from mainspring.demo.load import load_demo
from mainspring.standins.meter import as_csv, measured_year
from tests.api.test_loop import events

YEAR = measured_year(3, interval=1800.0, days=60, change_day=30)


def file_of(side: str) -> bytes:
    rows = slice(None, YEAR.change) if side == "before" else slice(YEAR.change, None)
    return as_csv(YEAR, rows, "%Y-%m-%d %H:%M")


def look(client: TestClient, line: str, content: bytes, whole: bool = True) -> dict[str, Any]:
    answer = client.post(f"/api/lines/{line}/logs/look?whole={str(whole).lower()}", content=content)
    assert answer.status_code == 200, answer.text
    found: dict[str, Any] = answer.json()
    return found


def read(client: TestClient, line: str, side: str, content: bytes, key: str | None = None) -> list[tuple[str, Any]]:
    seen = look(client, line, content)
    query = {"side": side, "by": "Ana", "name": f"{side}.csv"}
    answer = client.post(
        f"/api/lines/{line}/logs/{key or uuid.uuid4()}",
        params={**query, "layout": json.dumps(seen["layout"])},
        content=content,
    )
    assert answer.status_code == 200, answer.text
    return list(events(answer.text))


@pytest.fixture
def line(client: TestClient, demo: dict[str, str]) -> str:
    return demo["CW-BST-2"]


def test_a_log_is_looked_at_and_nothing_kept(client: TestClient, line: str) -> None:
    seen = look(client, line, file_of("before")[:20_000], whole=False)
    assert {c["quantity"] for c in seen["layout"]["columns"]} >= {"power", "flow", "temperature"}
    assert len(seen["rows"]) == 6
    assert not seen["remembered"]
    assert client.get(f"/api/lines/{line}/logs").json() == []


def test_two_logs_carry_a_saving_that_is_claimed_and_told(client: TestClient, line: str) -> None:
    for side in ("before", "after"):
        told = read(client, line, side, file_of(side))
        assert told[-1][0] == "found", told
        assert told[-1][1]["days"] == pytest.approx(30, abs=0.1)
    assert look(client, line, file_of("after"))["remembered"]
    found = client.get(f"/api/lines/{line}/measured").json()
    claim = found["claim"]
    assert claim["holds"], claim["refused"]
    assert found["way"] == "flow"
    assert claim["figures"]["saved"]["value"] == pytest.approx(YEAR.true_saving, rel=0.15)
    assert len(claim["fits"][0]["cloud"]) <= 1000
    working = client.get(f"/api/lines/{line}/working/measured.saved").json()
    assert working["method_id"] == "bin_saving"
    key = str(uuid.uuid4())
    kept = client.post(f"/api/lines/{line}/measured/claim", json={"id": key, "by": "Ana"}).json()["kept"]
    assert kept["by"] == "Ana"
    assert kept["same"]
    again = client.post(f"/api/lines/{line}/measured/claim", json={"id": key, "by": "Ana"})
    assert again.status_code == 200
    row = next(r for s in client.get("/api/round").json()["sites"] for r in s["lines"] if r["id"] == line)
    assert row["measured"] == pytest.approx(claim["figures"]["saved"]["value"], rel=1e-9)
    story = client.get(f"/api/lines/{line}/story").json()
    titles = [e["title"] for c in story["chapters"] for e in c["entries"]]
    assert titles.count("Measured saving claimed") == 1
    assert titles.count("Log read") == 2
    words = client.get(f"/api/lines/{line}/owner").json()
    assert words["headline"].startswith("Measured: the pump now takes")
    page = client.get(f"/api/lines/{line}/owner.pdf?units=us&paper=Letter")
    reader = pypdf.PdfReader(io.BytesIO(page.content))
    assert len(reader.pages) == 1
    text = reader.pages[0].extract_text().replace("\n", " ")
    assert "Claimed by Ana" in text
    assert "gpm" in text
    assert "L/s" not in text
    handover = client.get(f"/api/lines/{line}/handover.pdf").content
    assert "by Ana" in pypdf.PdfReader(io.BytesIO(handover)).pages[0].extract_text()


@pytest.mark.parametrize(("tag", "by"), [("PF-1", "logs"), ("IRR-P1", "spots")])
def test_one_figure_is_told_on_every_page(client: TestClient, demo: dict[str, str], tag: str, by: str) -> None:
    line = demo[tag]
    savings = client.get(f"/api/lines/{line}/savings").json()
    figures = {name: f["value"] for name, f in savings["figures"].items()}
    assert savings["told_by"] == by
    assert savings["modelled"] is not None
    assert figures["told"] != figures["saved"]  # the model stays beside
    if by == "logs":
        claim = client.get(f"/api/lines/{line}/measured").json()["claim"]["figures"]
        same = {"told": "saved", "told_half": "half", "told_fraction": "fraction", "money": "money"}
        assert {n: claim[c]["value"] for n, c in same.items()} == {n: figures[n] for n in same}
        assert claim["payback_short"]["value"] < figures["payback"] < claim["payback_long"]["value"]
    else:
        assert figures["told"] == savings["spots"]["figures"]["saved"]["value"]
    for key in ("savings.told", "savings.money", "savings.payback"):
        assert client.get(f"/api/lines/{line}/working/{key}").status_code == 200, key
    words = client.get(f"/api/lines/{line}/owner").json()["headline"].replace("\u00a0", "").replace(",", "")
    money = float(f"{figures['money']:.2g}")
    assert f"worth about {money:.0f}" in words
    client.post(f"/api/lines/{line}/measured/claim", json={"id": str(uuid.uuid4()), "by": "Ana"})
    page = pypdf.PdfReader(io.BytesIO(client.get(f"/api/lines/{line}/handover.pdf").content))
    text = " ".join(p.extract_text() for p in page.pages).replace("\n", " ")
    assert ("Money a year, of what was measured" in text) is (by == "logs")


def test_power_and_flow_may_come_in_files_of_their_own(client: TestClient, line: str) -> None:
    for side in ("before", "after"):
        rows = [row.split(",") for row in file_of(side).decode().splitlines()]
        for column in (1, 2):
            read(client, line, side, "\n".join(f"{row[0]},{row[column]}" for row in rows).encode())
    split = client.get(f"/api/lines/{line}/measured").json()
    assert (split["way"], split["told"]) == ("flow", [])
    assert split["claim"]["holds"]
    for side in ("before", "after"):
        read(client, line, side, file_of(side))
    whole = client.get(f"/api/lines/{line}/measured").json()
    assert [t for t in whole["told"] if "each counts once" in t]
    saved = [view["claim"]["figures"]["saved"]["value"] for view in (split, whole)]
    assert saved[0] == pytest.approx(saved[1], rel=1e-6)


def test_how_they_are_compared_follows_the_record(client: TestClient, line: str) -> None:
    for side in ("before", "after"):
        read(client, line, side, file_of(side))

    def asked(**proof: Any) -> dict[str, Any]:
        now = client.get(f"/api/lines/{line}").json()
        record = {g: f for g, f in now["record"].items() if g != "site"}
        body = {k: now[k] for k in ("revision", "tag", "title")} | {"record": {**record, "proof": proof}, "by": "Ana"}
        assert client.put(f"/api/lines/{line}", json=body).status_code == 200
        found: dict[str, Any] = client.get(f"/api/lines/{line}/measured").json()
        return found

    usual = asked()["claim"]["figures"]
    surer = asked(confidence="95")["claim"]["figures"]
    assert surer["half"]["value"] > usual["half"]["value"]
    assert surer["saved"]["value"] == usual["saved"]["value"]
    coarse = asked(meter_before=0.05, meter_after=0.05, same_meters="no")["claim"]["figures"]
    assert coarse["half"]["value"] > 2 * usual["half"]["value"]
    assert asked(compared="schedule")["claim"]["words"] == "at the same hours of the week"


def test_a_log_put_aside_is_not_counted_and_stays(client: TestClient, line: str) -> None:
    keys = {side: str(uuid.uuid4()) for side in ("before", "after")}
    for side, key in keys.items():
        read(client, line, side, file_of(side), key)
    aside = client.post(f"/api/lines/{line}/logs/{keys['after']}/side", json={"aside": True, "by": "Ben"}).json()
    assert [log["aside"] for log in aside if log["id"] == keys["after"]] == [True]
    found = client.get(f"/api/lines/{line}/measured").json()
    assert found["claim"] is None
    assert "a log of now" in found["missing"]
    refused = client.post(f"/api/lines/{line}/measured/claim", json={"id": str(uuid.uuid4()), "by": "Ben"})
    assert refused.status_code == 422
    client.post(f"/api/lines/{line}/logs/{keys['after']}/side", json={"aside": False, "by": "Ben"})
    assert client.get(f"/api/lines/{line}/measured").json()["claim"] is not None
    assert (
        client.post(f"/api/lines/{line}/logs/{uuid.uuid4()}/side", json={"aside": True, "by": "B"}).status_code == 404
    )


def test_the_same_log_sent_twice_is_kept_once_and_another_under_its_id_refused(client: TestClient, line: str) -> None:
    key = str(uuid.uuid4())
    for _ in range(2):
        assert read(client, line, "before", file_of("before"), key)[-1][0] == "found"
    assert len(client.get(f"/api/lines/{line}/logs").json()) == 1
    name, data = read(client, line, "before", file_of("after"), key)[-1]
    assert name == "refused"
    assert "another log" in data["detail"]


def test_the_same_log_read_by_another_layout_is_another(client: TestClient, line: str) -> None:
    key, content = str(uuid.uuid4()), file_of("before")
    read(client, line, "before", content, key)
    kept = client.get(f"/api/lines/{line}/logs/{key}/series?quantity=power").json()
    layout = look(client, line, content)["layout"]
    for column in layout["columns"]:
        column["unit"] = {"W": "kW", "kW": "W"}.get(column["unit"], column["unit"])
    query = {"side": "before", "by": "Ana", "layout": json.dumps(layout)}
    answer = client.post(f"/api/lines/{line}/logs/{key}", params=query, content=content)
    name, data = list(events(answer.text))[-1]
    assert (name, "read otherwise" in data["detail"]) == ("refused", True)
    assert client.get(f"/api/lines/{line}/logs/{key}/series?quantity=power").json() == kept


PLAIN = "Time;Power;Flow (L/s)\n" + "".join(
    f"2026-03-{1 + i // 24:02d} {i % 24:02d}:00;{5200 + i};{10 + i % 5}\n" for i in range(60)
)


def test_a_unit_that_is_not_told_or_not_known_is_asked(client: TestClient, line: str) -> None:
    doubts = " ".join(look(client, line, PLAIN.encode())["doubts"])
    assert "“Power” names no unit" in doubts
    assert "“Flow (L/s)” names no unit" not in doubts
    odd = look(client, line, PLAIN.replace("Power", "Power (kVA)").replace("L/s", "kgpm").encode())
    assert [c["quantity"] for c in odd["layout"]["columns"]] == ["", ""]
    assert "kVA is no unit that is known here" in " ".join(odd["doubts"])
    for unit in ("L/h", "MGD", "m3/d"):
        known = look(client, line, PLAIN.replace("L/s", unit).encode())["layout"]["columns"][1]
        assert known["quantity"] == "flow", unit


def test_a_layout_is_remembered_by_its_line_and_silences_nothing(
    client: TestClient, demo: dict[str, str], line: str
) -> None:
    first = look(client, line, PLAIN.encode())
    layout = first["layout"]
    layout["columns"][0]["unit"] = "W"
    query = {"side": "before", "by": "Ana", "layout": json.dumps(layout)}
    client.post(f"/api/lines/{line}/logs/{uuid.uuid4()}", params=query, content=PLAIN.encode())
    again = look(client, line, PLAIN.encode())
    assert again["remembered"]
    assert again["layout"]["columns"][0]["unit"] == "W"
    assert "names no unit" in " ".join(again["doubts"])
    assert "was confirmed as power in W" in " ".join(again["doubts"])
    assert not look(client, demo["PF-1"], PLAIN.encode())["remembered"]  # another line has other meters
    # and held against the motor: 5,200 of them cannot be kW here
    layout["columns"][0]["unit"] = "kW"
    client.post(
        f"/api/lines/{line}/logs/{uuid.uuid4()}", params={**query, "layout": json.dumps(layout)}, content=PLAIN.encode()
    )
    assert "is it another unit?" in " ".join(look(client, line, PLAIN.encode())["doubts"])


def test_logs_sent_at_the_same_moment_are_all_kept(client: TestClient, line: str) -> None:
    ends: list[str] = []
    threads = [
        threading.Thread(target=lambda s=side: ends.append(read(client, line, s, file_of(s))[-1][0]))
        for side in ("before", "after", "before", "after")
    ]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    assert ends == ["found"] * 4
    assert len(client.get(f"/api/lines/{line}/logs").json()) == 4


def test_a_refused_log_leaves_nothing_behind(client: TestClient, line: str) -> None:
    content = file_of("before")
    layout = look(client, line, content)["layout"] | {"time_format": "%d.%m.%Y %H:%M"}
    query = {"side": "before", "by": "Ana", "layout": json.dumps(layout)}
    seq = client.get(f"/api/lines/{line}").headers["etag"]
    answer = client.post(f"/api/lines/{line}/logs/{uuid.uuid4()}", params=query, content=content)
    name, data = list(events(answer.text))[-1]
    assert name == "refused"
    assert "times written as %d.%m.%Y" in data["detail"]
    assert client.get(f"/api/lines/{line}").headers["etag"] == seq
    for wrong in ("[]", "{", "null"):
        bad = client.post(f"/api/lines/{line}/logs/{uuid.uuid4()}", params={**query, "layout": wrong}, content=content)
        assert bad.status_code == 422
    assert client.post(f"/api/lines/{line}/logs/look", content=b"\x00\x01").status_code == 422


def test_a_column_is_shown_at_any_zoom(client: TestClient, line: str) -> None:
    key = str(uuid.uuid4())
    read(client, line, "before", file_of("before"), key)
    path = f"/api/lines/{line}/logs/{key}/series"
    whole = client.get(path, params={"quantity": "power", "points": 200}).json()
    power = np.round(YEAR.power[: YEAR.change] / 1000, 2) * 1000
    assert len(whole["times"]) <= 210
    assert max(v for v in whole["values"] if v is not None) == pytest.approx(power.max(), rel=1e-9)
    start, end = YEAR.times[100], YEAR.times[120]
    near = client.get(path, params={"quantity": "power", "start": start, "end": end}).json()
    assert near["values"] == pytest.approx(list(power[100:121]), rel=1e-9)
    assert client.get(path, params={"quantity": "moon"}).status_code == 422
    assert client.get(path, params={"quantity": "power", "points": 10**9}).status_code == 422


def test_a_log_goes_out_in_open_formats_and_gives_its_hours(client: TestClient, line: str) -> None:
    key = str(uuid.uuid4())
    read(client, line, "before", file_of("before"), key)
    csv = client.get(f"/api/lines/{line}/logs/{key}/table?form=csv&units=us")
    assert csv.text.splitlines()[0].startswith("time,power [kW],flow [gpm]")
    parquet = pl.read_parquet(io.BytesIO(client.get(f"/api/lines/{line}/logs/{key}/table?form=parquet").content))
    assert parquet.height == YEAR.change
    assert parquet["power [W]"][0] == pytest.approx(round(YEAR.power[0] / 1000, 2) * 1000, rel=1e-9)
    assert read(client, line, "after", csv.content)[-1][0] == "found"  # and comes back in
    duty = client.get(f"/api/lines/{line}/logs/{key}/duty").json()
    assert sum(s for _, s in duty) == pytest.approx(8760 * 3600, rel=1e-9)  # it never rests
    assert duty == sorted(duty, reverse=True)


def test_the_demo_has_two_logs_with_what_goes_wrong(client: TestClient, demo: dict[str, str]) -> None:
    found = client.get(f"/api/lines/{demo['PF-1']}/measured").json()
    after = next(log for log in found["logs"] if log["side"] == "after")
    assert {"gap", "stuck"} <= {f["kind"] for f in after["found"]}
    assert found["claim"]["holds"]
    assert found["agrees"]
    assert [r["what"].startswith("above") for r in found["claim"]["refused"]] == [True]
    proof = client.get(f"/api/lines/{demo['PF-1']}/proof").json()
    assert len(proof["drift"]["visits"]) == 2
    assert "Worn" in proof["drift"]["visits"][-1]["means"]
    assert {p["id"] for p in proof["places"]} == {"motor", "drive", "machine"}


def test_the_demo_is_loaded_once(client: TestClient, demo: dict[str, str], db: Any) -> None:
    load_demo(db)
    assert len(client.get(f"/api/lines/{demo['PF-1']}/logs").json()) == 2


def test_savings_tell_alternatives_money_and_what_they_hang_on(client: TestClient, demo: dict[str, str]) -> None:
    found = client.get(f"/api/lines/{demo['IRR-P1']}/savings").json()
    assert [b["name"] for b in found["bands"]] == ["12–18 h", "22–06 h", "other hours"]
    assert found["figures"]["demand_money"]["value"] < 0
    assert found["figures"]["marginal"]["value"] < found["figures"]["blended"]["value"]
    assert found["figures"]["rate_of_return"]["dimension"] == "percent"
    assert found["tornado"][0]["payback"]["low"] is not None
    assert found["spots"]["seconds"] < found["spots"]["seconds_all"]
    assert found["chains"][1]["efficiency"]["value"] > found["chains"][0]["efficiency"]["value"]
    empty = client.get(f"/api/lines/{demo['CW-BST-1']}/owner.pdf")
    assert empty.status_code == 422
    assert "nothing is known of a saving yet" in empty.json()["detail"]
