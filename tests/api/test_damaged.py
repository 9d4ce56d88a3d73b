"""What is damaged, odd or endless in a file or a number: refused in words, never a server error."""

import io
import json
import random
import uuid
from collections.abc import Iterator
from typing import Any

import openpyxl
import polars as pl
import pytest
from fastapi.testclient import TestClient

ROWS = [f"2026-01-01 {i // 60:02d}:{i % 60:02d},{5 + i % 3}" for i in range(400)]
LOG = "time,power (kW)\n" + "\n".join(ROWS) + "\n"
TEXTS = ["a,b\r1,2\r", "x" * 140_000, "h1,h2\n" + "a" * 140_000 + ",2\n", "time;value;output\n1;2\r3;4\n\"", "\r",
         '"\r"', "a\rb\rc", LOG + "y" * 200_000 + "\n", LOG.replace(",", "\r"), "\ufeff" + LOG, "\x00", '"',
         '"' * 999]  # fmt: skip


def assert_answered(answer: Any) -> None:
    assert answer.status_code < 500, answer.text[:300]


@pytest.mark.parametrize(
    "path", ["/" + "a" * 256, "/line/" + "b" * 400, "/_app/" + "x" * 3000, "/api/lines/" + "é" * 300]
)
def test_a_name_too_long_for_a_file_is_not_there(path: str, client: TestClient) -> None:
    assert client.get(path).status_code in (200, 404, 422)


@pytest.mark.parametrize("text", TEXTS, ids=range(len(TEXTS)))
def test_odd_text_is_answered_wherever_a_table_is_read(text: str, client: TestClient, demo: dict[str, str]) -> None:
    line = demo["CW-BST-2"]
    record = client.get(f"/api/lines/{line}").json()["record"]
    draft = {"record": record, "moved": {}, "text": text, "output": "Hz", "fit": []}
    assert_answered(client.post("/api/families/paste", json={"text": text, "roles": {}}))
    assert_answered(client.post("/api/families/paste", json={"text": text}))
    assert_answered(client.post("/api/families/file", content=text.encode()))
    assert_answered(client.post("/api/curves/file", content=text.encode()))
    assert_answered(client.post("/api/loop/demand", json={"text": text}))
    assert_answered(client.post("/api/loop/fit", json=draft))
    assert_answered(client.post(f"/api/lines/{line}/step-test", json={"text": text, "output": "Hz"}))
    assert_answered(client.post(f"/api/lines/{line}/logs/look", content=text.encode()))
    assert_answered(client.post(f"/api/import?id={uuid.uuid4()}&by=Ana", content=text.encode()))


def workbook() -> bytes:
    book, out = openpyxl.Workbook(), io.BytesIO()
    for row in LOG.splitlines():
        book.active.append(row.split(","))
    book.save(out)
    return out.getvalue()


def parquet() -> bytes:
    out = io.BytesIO()
    pl.DataFrame({"time": [r[:16] for r in ROWS], "power": [5.0] * len(ROWS)}).write_parquet(out)
    return out.getvalue()


def damaged(whole: bytes, count: int, seed: int) -> Iterator[bytes]:
    rng = random.Random(seed)
    for i in range(count):
        made = bytearray(whole)
        for _ in range(rng.choice((1, 3, 20))):
            made[rng.randrange(4, len(made))] = rng.randrange(256)
        yield bytes(made[: rng.randrange(8, len(made))] if i % 4 == 0 else made)


@pytest.mark.parametrize("whole", [workbook(), parquet()], ids=["workbook", "parquet"])
def test_a_damaged_file_is_refused_in_words(whole: bytes, client: TestClient, demo: dict[str, str]) -> None:
    path = f"/api/lines/{demo['CW-BST-2']}/logs/look"
    assert client.post(path, content=whole).status_code == 200
    for made in damaged(whole, 40, 7):
        assert_answered(client.post(path, content=made))


READING = "<IntervalReading><timePeriod>{start}<duration>900</duration></timePeriod><value>5</value></IntervalReading>"


@pytest.mark.parametrize("xml", [
    "<a>" + READING.format(start="") * 20 + "</a>",
    "<a><IntervalReading/></a>",
    "<a><powerOfTenMultiplier>" + "9" * 5000 + "</powerOfTenMultiplier></a>",
    "<a>" + READING.format(start="<start>1e999</start>") * 20 + "</a>",
    "<a>" + READING.format(start="<start/>") * 20 + "</a>",
])  # fmt: skip
def test_meter_readings_without_a_start_are_refused(xml: str, client: TestClient, demo: dict[str, str]) -> None:
    refused = client.post(f"/api/lines/{demo['CW-BST-2']}/logs/look", content=xml.encode())
    assert refused.status_code == 422


_COLUMNS = '"columns":[{"at":1,"name":"p","quantity":"power","unit":"kW"}]'
LAYOUTS = [
    "[" * 5000, '{"skip":1e400}', '{"skip":' + "9" * 5000 + "}", '{"delimiter":[],"columns":5,"times":5}',
    '{"delimiter":",","decimal_comma":false,"skip":1e999,"times":[0],"time_format":"%d",' + _COLUMNS + "}",
    '{"delimiter":",","skip":"x","times":[0],"time_format":"%d","columns":[{"at":0,"name":1,"quantity":[],"unit":{}}]}',
    '{"delimiter":",","decimal_comma":0,"skip":1,"times":[1e300],"time_format":"%Y-%m-%d %H:%M",' + _COLUMNS + "}",
    '{"delimiter":",","decimal_comma":0,"skip":1,"times":[0],"time_format":"%Y-%m-%d %H:%M",'
    '"columns":[{"at":1,"name":"p","quantity":{},"unit":"kW"}]}',
]  # fmt: skip


@pytest.mark.parametrize("layout", LAYOUTS, ids=range(len(LAYOUTS)))
def test_a_layout_that_is_none_is_refused_and_nothing_breaks_off(
    layout: str, client: TestClient, demo: dict[str, str]
) -> None:
    path = f"/api/lines/{demo['CW-BST-2']}/logs/{uuid.uuid4()}"
    answer = client.post(path, params={"side": "before", "by": "Ana", "layout": layout}, content=LOG.encode())
    assert answer.status_code == 422 or (answer.status_code == 200 and "event: refused" in answer.text), answer.text


@pytest.mark.parametrize("number", ["9" * 400, "1" + "0" * 5000, "-" + "9" * 400])
def test_a_whole_number_without_end_is_refused(number: str, client: TestClient, demo: dict[str, str]) -> None:
    line, headers = demo["CW-BST-2"], {"Content-Type": "application/json"}
    key, lock = str(uuid.uuid4()), '"step":"isolate.lock_out","kind":"tick","by":"Ana"'
    bodies = {
        "/api/methods/pump_shaft_power": f'{{"arguments":{{"flow":{number},"head":1,"efficiency":0.5}}}}',
        f"/api/lines/{line}/evidence": f'{{"id":"{key}",{lock},"data":{{"x":{number}}}}}',
        "/api/assess": f'{{"record":{{"motor":{{"rated_speed":{{"value":{number}}}}}}}}}',
        f"/api/import?id={key}&by=Ana": f'{{"version":{number}}}',
    }
    for path, body in bodies.items():
        assert_answered(client.post(path, content=body, headers=headers))
    put = f"/api/lines/{line}/settings/ramps.up/left"
    assert_answered(client.put(put, content=f'{{"value":{number},"by":"Ana"}}', headers=headers))


@pytest.mark.parametrize("school", [[], {}, 5, [[]], None])
def test_a_school_that_is_no_word_is_refused_in_an_import(
    school: Any, client: TestClient, demo: dict[str, str]
) -> None:
    file = client.get(f"/api/lines/{demo['CW-BST-2']}/export.json").json()
    for piece in file["evidence"]:
        piece["data"]["school"] = school
    assert_answered(client.post(f"/api/import?id={uuid.uuid4()}&by=Ana", content=json.dumps(file)))


@pytest.mark.parametrize("year", ["0001", "1066", "2101", "9999"])
def test_a_log_of_a_year_that_no_logger_saw_is_asked(year: str, client: TestClient, demo: dict[str, str]) -> None:
    path = f"/api/lines/{demo['CW-BST-2']}/logs"
    content = "\n".join(["Time,Power (kW)", *(row.replace("2026", year) for row in ROWS)]).encode()
    seen = client.post(f"{path}/look", content=content)
    assert_answered(seen)
    if seen.status_code == 200:
        query = {"side": "before", "by": "Ana", "layout": json.dumps(seen.json()["layout"])}
        told = client.post(f"{path}/{uuid.uuid4()}", params=query, content=content).text
        assert "another format of dates" in told
    assert client.get(path).json() == []


@pytest.mark.parametrize(("closed", "says"), [
    (["2001-01-01T00:00:00+00:00"], "when it began"),
    ([None, None, None], "3 that are not closed"),
])  # fmt: skip
def test_visits_that_cannot_have_been_are_refused(
    closed: list[str | None], says: str, client: TestClient, demo: dict[str, str]
) -> None:
    file = client.get(f"/api/lines/{demo['CW-BST-2']}/export.json").json()
    (visit,) = file["visits"]
    file["visits"] = [{**visit, "closed": c} for c in closed]
    key = str(uuid.uuid4())
    refused = client.post(f"/api/import?id={key}&by=Ben", content=json.dumps(file))
    assert refused.status_code == 422
    assert says in refused.text
    assert client.get(f"/api/lines/{key}").status_code == 404
