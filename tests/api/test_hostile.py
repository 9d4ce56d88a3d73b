"""What is sent to hurt: too large, too deep, too long, cut off; refused in words, at once, with little memory."""

import io
import json
import resource
import struct
import time
import uuid
import zlib
from collections.abc import Iterator
from typing import Any

import pytest
from starlette.testclient import TestClient

from mainspring.api.guard import BODY_LIMIT, FILE_LIMIT
from mainspring.api.settings import AppSettings
from tests.api.conftest import Line

ODD = ["/%00", "/api/%00", "/" + "x" * 5000, "/%0d%0a", "/api/lines/%ff%fe", "/../../etc/passwd"]


@pytest.mark.parametrize("path", ODD)
def test_an_odd_address_is_an_address_that_is_not_there(path: str, client: TestClient) -> None:
    answer = client.get(path)
    assert answer.status_code in (200, 404)
    assert "root:" not in answer.text


def test_no_body_takes_a_name_that_it_does_not_know(client: TestClient) -> None:
    told = client.get("/api/openapi.json").json()
    bodies = [
        media["schema"]["$ref"].rpartition("/")[2]
        for path in told["paths"].values()
        for way in path.values()
        for kind, media in way.get("requestBody", {}).get("content", {}).items()
        if kind == "application/json" and "$ref" in media["schema"]
    ]
    assert len(bodies) > 20
    assert [b for b in bodies if told["components"]["schemas"][b].get("additionalProperties") is not False] == []


def test_a_body_is_counted_while_it_is_read(client: TestClient) -> None:
    sent = 0

    def endless() -> Iterator[bytes]:  # chunked: no header tells its length
        nonlocal sent
        while sent < 40 * BODY_LIMIT:
            sent += 65536
            yield b"x" * 65536

    answer = client.post("/api/assess", content=endless(), headers={"Content-Type": "application/json"})
    assert answer.status_code == 413
    assert f"up to {BODY_LIMIT} bytes" in answer.json()["detail"]
    small = client.post("/api/assess", content=b"x" * (BODY_LIMIT + 1))
    assert small.status_code == 413
    large = client.post(f"/api/import?id={uuid.uuid4()}&by=A", content=b"x" * (FILE_LIMIT + 1))
    assert large.status_code == 413


@pytest.mark.parametrize(
    "text",
    [
        "[" * 100_000,
        '{"record":' * 5000,
        '{"record": {"motor": {"rated_speed": {"value": 1e999}}}}',
        '{"record": {"motor": {"rated_speed": {"value": NaN}}}}',
        json.dumps({"record": {f"g{i}": {} for i in range(20_000)}}),
        json.dumps({"record": {"motor": {f"f{i}": {"value": 1} for i in range(20_000)}}}),
    ],
)
def test_a_body_too_deep_or_too_wide_is_answered(text: str, client: TestClient) -> None:
    answer = client.post("/api/assess", content=text, headers={"Content-Type": "application/json"})
    assert answer.status_code in (200, 400, 422)
    assert answer.status_code == 200 or answer.json()["detail"]


@pytest.mark.parametrize("words", ["\ud800", "a\udfffb"])
def test_half_a_character_is_refused(words: str, client: TestClient, new_line: Line) -> None:
    url = f"/api/lines/{new_line['id']}/evidence"
    for more in ({"note": words}, {"by": words}, {"data": {words: 1}}, {"step": words}, {"seen": [words]}):
        body = {"id": str(uuid.uuid4()), "step": "isolate.lock_out", "kind": "tick", "by": "Ana", **more}
        answer = client.post(url, content=json.dumps(body), headers={"Content-Type": "application/json"})
        assert answer.status_code in (201, 422), answer.text
        assert ("seen" in more) == (answer.status_code == 201)


HOSTILE = [
    b"1," + b"9" * 200_000,
    b"1,2\r3,4\r",
    b"\r" * 100_000,
    b"[" * 9_000,
    b"(" * 9_000 + b",1",
    b" " * 9_000 + b"[CURVES",
    b"in " * 3_000,
    b"1 " * 4_500 + b",2",
    b'"1,2\n' * 2_000,
    b"1,nan",
    b"inf,1",
    b"[CURVES]\nA 1 nan\n",
    b"[CURVES]\nA 1e999 1\n",
    b"".join(b"C%d 1 2\n" % i for i in range(9_000)).join([b"[CURVES]\n", b""]),
    b"\n".join(b"%d,%d" % (i, i) for i in range(9_000)),
    b"\xff\xfe1,2",
]


@pytest.mark.parametrize("content", HOSTILE, ids=range(len(HOSTILE)))
def test_a_curve_file_costs_little_whatever_stands_in_it(content: bytes, client: TestClient) -> None:
    begin = time.process_time()
    answer = client.post("/api/curves/file", content=content)
    assert answer.status_code in (200, 422)
    assert time.process_time() - begin < 2  # of the processor: a bar a hundredfold over what it takes
    if answer.status_code == 200:
        assert all(p == p and abs(p) < 1e15 for c in answer.json() for point in c["points"] for p in point)


def test_a_decimal_comma_is_read_where_columns_stand_apart_otherwise(client: TestClient) -> None:
    semicolons, tabs = "Q [m3/h];H [m]\n0;32,5\n36,0;30\n", "Q [m3/h]\tH [m]\n0\t32.5\n36.0\t30\n"
    for text in (semicolons, tabs, "Q in m3/h,H in m\n0,32.5\n36,30\n"):
        (found,) = client.post("/api/curves/file", content=text).json()
        assert found["points"] == [[0.0, 32.5], [pytest.approx(0.01, abs=1e-12), 30.0]]


def png(width: int, height: int) -> bytes:
    """A picture that says it is large, made of next to nothing."""

    def chunk(kind: bytes, data: bytes) -> bytes:
        return struct.pack(">I", len(data)) + kind + data + struct.pack(">I", zlib.crc32(kind + data))

    rows = zlib.compress(b"\x00" * ((width + 7) // 8 + 1) * min(height, 20_000), 9)
    head = struct.pack(">IIBBBBB", width, height, 1, 0, 0, 0, 0)
    return b"\x89PNG\r\n\x1a\n" + chunk(b"IHDR", head) + chunk(b"IDAT", rows) + chunk(b"IEND", b"")


def test_a_pictures_pixels_are_counted_before_it_is_decoded(client: TestClient, new_line: Line) -> None:
    url = f"/api/lines/{new_line['id']}/photos/{uuid.uuid4()}?station=motor&by=Ana"
    before = resource.getrusage(resource.RUSAGE_SELF).ru_maxrss
    for width, height in ((20_000, 20_000), (60_000, 60_000), (1_000_000, 51)):
        answer = client.put(url, content=png(width, height))
        assert answer.status_code == 422
        assert "pixels" in answer.text or "JPEG, PNG or WebP" in answer.text
    assert client.put(url, content=png(7000, 7000)).status_code == 201  # 49 million: the largest taken
    assert resource.getrusage(resource.RUSAGE_SELF).ru_maxrss - before < 300_000  # kB


def test_every_answer_carries_the_policy_and_no_page_an_inline_script(client: TestClient, new_line: Line) -> None:
    page = client.get("/")
    for answer in (page, client.get("/api/round"), client.get("/api/nothing"), client.get("/api/lines/x")):
        policy = answer.headers["content-security-policy"]
        assert "frame-ancestors 'none'" in policy
        assert "script-src 'self';" in policy
        assert answer.headers["x-content-type-options"] == "nosniff"
    if (AppSettings().web / "index.html").exists():
        assert "<script>" not in page.text
        assert client.get("/_app/begin.js").status_code == 200


def test_the_schema_tells_of_every_refusal(client: TestClient) -> None:
    paths = client.get("/api/openapi.json").json()["paths"]
    for path, operations in paths.items():
        for method, operation in operations.items():
            told = operation["responses"]
            assert {"400", "403", "405", "413", "421", "422", "503"} <= set(told), f"{method} {path}"
            for status, answer in told.items():
                if status >= "4":
                    assert list(answer["content"]) == ["application/problem+json"], f"{method} {path} {status}"
    written = [o["responses"] for p in paths.values() for m, o in p.items() if m in ("put", "delete")]
    assert all({"404", "409"} <= set(w) for w in written)


def test_an_id_in_capitals_is_the_same_id(client: TestClient, site_id: str) -> None:
    body: dict[str, Any] = {"id": str(uuid.uuid4()).upper(), "site_id": site_id.upper(), "tag": "P-9", "by": "Ana"}
    made = client.post("/api/lines", json=body)
    assert made.status_code == 201
    assert made.json()["site_id"] == site_id
    assert client.get("/api/round").status_code == 200
    assert client.get(f"/api/lines/{body['id']}").json()["id"] == body["id"].lower()


def test_a_photo_cut_off_anywhere_is_refused(client: TestClient, new_line: Line) -> None:
    from PIL import Image

    out = io.BytesIO()
    Image.effect_noise((300, 200), 60).convert("RGB").save(out, "JPEG")
    whole = out.getvalue()
    for cut in (10, len(whole) // 2, len(whole) - 40):
        url = f"/api/lines/{new_line['id']}/photos/{uuid.uuid4()}?station=motor&by=Ana"
        assert client.put(url, content=whole[:cut]).status_code == 422
