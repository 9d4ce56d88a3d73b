"""What the survey asks of the server: curves, points dragged, files of curves, photos, upheld plates."""

import io
import uuid
from typing import Any

import pytest
from PIL import Image
from starlette.testclient import TestClient

from mainspring.core.diagnosis.trips import PUMPS_ALONE
from mainspring.demo.sites import demo_id
from mainspring.exchange.curve_file import read_epanet
from mainspring.service.photo import FILE_LIMIT, reencode

Record = dict[str, dict[str, Any]]


def picture(width: int = 640, height: int = 480, kind: str = "JPEG", orientation: int | None = None) -> bytes:
    """A picture, red on its left half and grey on its right, with a place and a maker in its metadata."""
    made = Image.new("RGB", (width, height), "grey")
    made.paste((200, 30, 30), (0, 0, width // 2, height))
    exif = Image.Exif()
    exif[0x010F] = "SECRET MAKER"
    exif.get_ifd(0x8825)[2] = (51.0, 30.0, 0.0)
    if orientation is not None:
        exif[0x0112] = orientation
    out = io.BytesIO()
    made.save(out, kind, exif=exif)
    return out.getvalue()


# curves


@pytest.mark.parametrize("name", ["booster", "borehole", "circulator", "wet_well", "filter", "supply_fan", "tower"])
def test_curves_have_true_shapes(name: str, client: TestClient, records: dict[str, Record]) -> None:
    found = client.post("/api/curves", json={"record": records[name]}).json()
    assert found["missing"] == ""
    full, slower = found["machine"][0], found["machine"][1]
    assert all(a > b for a, b in zip(full["rises"], full["rises"][1:], strict=False) if a < full["rises"][0] * 0.95)
    # affinity: at nine tenths of the speed the same point of the curve has 0.9 of the flow and 0.81 of the head
    assert slower["flows"][20] == pytest.approx(0.9 * full["flows"][20], rel=1e-9)
    assert slower["rises"][20] == pytest.approx(0.81 * full["rises"][20], rel=1e-9)
    assert all(region["words"] and len(region["flows"]) == len(region["rises"]) for region in found["regions"])
    kind = "air_flow" if name in ("supply_fan", "tower") else "flow"
    assert found["flow_dimension"] == kind


def test_curves_of_nothing_say_what_they_need(client: TestClient) -> None:
    found = client.post("/api/curves", json={"record": {"line": {"application": "booster"}}}).json()
    assert found["machine"] == []
    assert "needs" in found["missing"]


def test_a_point_on_the_full_curve_takes_full_speed(client: TestClient, records: dict[str, Record]) -> None:
    record = records["booster"]
    body = {"record": record, "flow": 0.0092, "rise": 38.0}
    found = client.post("/api/curves/point", json=body).json()
    assert found["frequency"] == pytest.approx(50.0, abs=0.3)
    half = client.post("/api/curves/point", json={**body, "flow": 0.0046, "rise": 9.5}).json()
    assert half["frequency"] == pytest.approx(found["frequency"] / 2, rel=1e-9)
    assert half["shaft_power"] < found["shaft_power"] / 7  # near the cube, less the smaller pump's losses
    assert any("lowest speed" in w for w in half["warnings"])
    beyond = client.post("/api/curves/point", json={**body, "flow": 0.012, "rise": 60.0}).json()
    assert not beyond["reachable"]
    assert any("more shaft power" in w for w in beyond["warnings"])


# files of curves


def test_a_table_is_read_in_the_units_of_its_heading(client: TestClient) -> None:
    text = "Q [m3/h];H [ft]\n0;170\n36;150\n\n72;100\n"
    found = client.post("/api/curves/file", content=text.encode()).json()
    assert found == [
        {
            "name": "",
            "points": [
                [0.0, pytest.approx(51.816, rel=1e-6)],
                [pytest.approx(0.01, rel=1e-6), pytest.approx(45.72, rel=1e-6)],
                [0.02, pytest.approx(30.48, rel=1e-6)],
            ],
        }
    ]  # fmt: skip


def test_a_table_without_heading_is_in_the_units_of_the_page(client: TestClient) -> None:
    found = client.post("/api/curves/file?units=us", content=b"0,170\n100 gpm,150\n200,40 m\n").json()
    points = found[0]["points"]
    assert points[1][0] == pytest.approx(100 * 3.785411784e-3 / 60, rel=1e-6)
    assert points[1][1] == pytest.approx(150 * 0.3048, rel=1e-6)
    assert points[2][1] == pytest.approx(40.0, rel=1e-6)


NETWORK = """[TITLE]
 a made-up network
[PUMPS]
;ID  Node1 Node2 Parameters
 9   9     10    HEAD 1 ;
[CURVES]
;ID  X-Value Y-Value
;PUMP: the usual one
 1   1500    250
 2   0       100
 2   500     80
[OPTIONS]
 Units GPM
"""


def test_the_curve_of_a_networks_pump_is_found(client: TestClient) -> None:
    # the one-point curve of EPANET 2.2's example network Net1: 1500 gpm at 250 ft (users manual, chapter 2 units)
    found = client.post("/api/curves/file", content=NETWORK.encode()).json()
    assert [c["name"] for c in found] == ["1"]
    assert found[0]["points"][0][0] == pytest.approx(0.0946353, rel=1e-6)
    assert found[0]["points"][0][1] == pytest.approx(76.2, rel=1e-6)


def test_without_pumps_every_curve_is_offered() -> None:
    text = NETWORK.replace("[PUMPS]", "[PIPES]").replace("Units GPM", "UNITS CMH")
    assert [(c.name, len(c.points)) for c in read_epanet(text)] == [("1", 1), ("2", 2)]


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "1 to 60 points"),
        (b"\xff\xfe\x00bad", "a text file"),
        (b"0,50\nten,40", "line 2"),
        (b"0,50\n5", "line 2"),
        (b"0 kW,50", "a unit of"),
        (b"[CURVES]\n1 0", "a name, a flow and a head"),
        (b"[CURVES]\n1 0 x", "a name and two numbers"),
        (b"[CURVES]\n[OPTIONS]\nUNITS FURLONGS\n", "FURLONGS"),
        (b"[CURVES]\n", "at least one curve"),
    ],
)
def test_a_spoilt_file_of_curves_is_refused_in_words(content: bytes, words: str, client: TestClient) -> None:
    answer = client.post("/api/curves/file", content=content)
    assert answer.status_code == 422
    assert words in answer.json()["detail"]


def test_a_network_is_no_fan(client: TestClient) -> None:
    answer = client.post("/api/curves/file?fan=true", content=NETWORK.encode())
    assert answer.status_code == 422


# photos


def keep(client: TestClient, line: str, content: bytes, key: str | None = None, station: str = "motor") -> Any:
    key = key or str(uuid.uuid4())
    return client.put(f"/api/lines/{line}/photos/{key}?station={station}&by=Ana", content=content)


@pytest.mark.parametrize("kind", ["JPEG", "PNG", "WEBP"])
def test_a_photo_is_kept_small_and_without_metadata(kind: str, client: TestClient, new_line: dict[str, Any]) -> None:
    kept = keep(client, new_line["id"], picture(4000, 3000, kind))
    assert kept.status_code == 201, kept.text
    photo = kept.json()[0]
    assert (photo["width"], photo["height"], photo["station"], photo["by"]) == (2000, 1500, "motor", "Ana")
    answer = client.get(f"/api/lines/{new_line['id']}/photos/{photo['id']}")
    assert answer.headers["content-type"] == "image/jpeg"
    assert b"SECRET" not in answer.content
    with Image.open(io.BytesIO(answer.content)) as shown:
        assert shown.format == "JPEG"
        assert len(shown.getexif()) == 0
        assert not shown.info.get("exif")


def test_a_photo_taken_sideways_stands_upright() -> None:
    # EXIF orientation 6: the camera's top is on the right; the red left half of the sensor is the top of the picture
    width, height, jpeg = reencode(picture(640, 480, orientation=6))
    assert (width, height) == (480, 640)
    with Image.open(io.BytesIO(jpeg)) as shown:
        top, bottom = shown.getpixel((240, 60)), shown.getpixel((240, 600))
    assert isinstance(top, tuple)
    assert isinstance(bottom, tuple)
    assert top[0] > 150 > top[1]
    assert abs(bottom[0] - bottom[1]) < 12


def test_transparent_pictures_get_white_paper() -> None:
    out = io.BytesIO()
    Image.new("RGBA", (50, 50), (0, 0, 0, 0)).save(out, "PNG")
    with Image.open(io.BytesIO(reencode(out.getvalue())[2])) as shown:
        assert shown.getpixel((25, 25)) == (255, 255, 255)


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "a JPEG, PNG or WebP picture"),
        (b"<svg onload=alert(1)>", "a JPEG, PNG or WebP picture"),
        (b"GIF89a" + bytes(40), "a JPEG, PNG or WebP picture"),
        (picture()[:3000], "damaged"),
        (bytes(FILE_LIMIT + 1), "up to 15 MB"),
    ],
    ids=["empty", "svg", "gif", "cut off", "too large"],
)
def test_what_is_no_photo_is_refused_in_words(
    content: bytes, words: str, client: TestClient, new_line: dict[str, Any]
) -> None:
    answer = keep(client, new_line["id"], content)
    assert answer.status_code == 422
    assert words in answer.json()["detail"]
    assert client.get(f"/api/lines/{new_line['id']}/photos").json() == []


def test_a_cut_off_photo_is_refused_after_a_page_was_laid_out(client: TestClient, new_line: dict[str, Any]) -> None:
    assert client.get(f"/api/lines/{new_line['id']}/run.pdf").status_code == 200
    assert keep(client, new_line["id"], picture()[:3000]).status_code == 422


def test_a_picture_that_unpacks_to_too_much_is_refused(client: TestClient, new_line: dict[str, Any]) -> None:
    out = io.BytesIO()
    Image.new("1", (12_000, 12_000)).save(out, "PNG")
    assert len(out.getvalue()) < 100_000
    assert keep(client, new_line["id"], out.getvalue()).status_code == 422


def test_sent_twice_it_is_one_photo_and_taken_away_it_is_gone(client: TestClient, new_line: dict[str, Any]) -> None:
    line, key = new_line["id"], str(uuid.uuid4())
    assert len(keep(client, line, picture(), key).json()) == 1
    assert len(keep(client, line, picture(), key).json()) == 1
    assert client.delete(f"/api/lines/{line}/photos/{key}?by=Bo").json() == []
    assert client.get(f"/api/lines/{line}/photos/{key}").status_code == 404
    events = [(e["who"], e["what"]) for e in client.get(f"/api/lines/{line}/events").json()]
    assert events[:2] == [("Bo", "photo removed"), ("Ana", "photo")]


def test_photos_have_a_station_a_line_and_a_number(client: TestClient, new_line: dict[str, Any]) -> None:
    assert keep(client, new_line["id"], picture(60, 60), station="moon").status_code == 422
    assert keep(client, str(uuid.uuid4()), picture(60, 60)).status_code == 404
    for _ in range(8):
        assert keep(client, new_line["id"], picture(60, 60)).status_code == 201
    assert "take one away first" in keep(client, new_line["id"], picture(60, 60)).json()["detail"]
    assert keep(client, new_line["id"], picture(60, 60), station="drive").status_code == 201


# upheld plates, traits, limits


def test_an_upheld_plate_is_kept_with_its_reason_and_its_event(client: TestClient, new_line: dict[str, Any]) -> None:
    record = {g: f for g, f in new_line["record"].items() if g != "site"}
    record["motor"]["rated_speed"] = {"value": 1500.0, "provenance": "plate", "upheld": "read twice"}
    body = {"revision": new_line["revision"], "tag": "P-1", "title": "pump", "record": record, "by": "Ana"}
    saved = client.put(f"/api/lines/{new_line['id']}", json=body).json()
    assert saved["record"]["motor"]["rated_speed"]["upheld"] == "read twice"
    found = next(f for f in saved["assessment"]["findings"] if f["id"] == "speed_leaves_slip")
    assert (found["severity"], found["upheld"]) == ("clear", "read twice")
    assert "1500" in str(found["because"])
    assert client.get(f"/api/lines/{new_line['id']}").json()["record"]["motor"]["rated_speed"]["upheld"] == "read twice"
    exported = client.get(f"/api/lines/{new_line['id']}/export.json").text
    assert "read twice" in exported


def test_only_a_doubted_plate_value_can_be_upheld(client: TestClient, records: dict[str, Record]) -> None:
    record = records["booster"]
    record["supply"]["voltage"] = {"value": 690.0, "upheld": "trust me"}
    found = client.post("/api/assess", json={"record": record}).json()["findings"]
    assert next(f for f in found if f["id"] == "supply_volts_suit_drive")["severity"] == "stop"


def test_traits_and_limits_come_with_the_verdicts(client: TestClient, records: dict[str, Record]) -> None:
    found = client.post("/api/assess", json={"record": records["borehole"]}).json()
    assert {"pump", "submersible", "rests", "holds:pressure", "induction"} <= set(found["traits"])
    lowest = next(limit for limit in found["limits"] if limit["id"] == "lowest")
    ruling = [r for r in lowest["reasons"] if r["rules"]]
    assert len(ruling) == 1
    assert ruling[0]["figure"]["value"] == max(r["figure"]["value"] for r in lowest["reasons"])
    key = ruling[0]["figure"]["key"]
    sheet = client.post("/api/working", json={"record": records["borehole"], "key": key})
    assert sheet.status_code == 200
    assert sheet.json()["value"] == ruling[0]["figure"]["value"]
    unknown = client.post("/api/assess", json={"record": {}}).json()["limits"]
    assert all(limit["missing"] and not limit["reasons"] for limit in unknown)


# trips


def test_a_line_is_offered_the_trips_that_it_can_have(client: TestClient, demo: dict[str, str]) -> None:
    lines = (demo["CW-BST-1"], demo_id("AHU-1/SF"))
    pump, fan = (client.get(f"/api/lines/{line}/trips").json()["trips"] for line in lines)
    assert len(pump) == 13
    assert {id for id, _ in pump} - {id for id, _ in fan} == set(PUMPS_ALONE)


def test_a_trip_is_explained_and_a_gremlin_refused(client: TestClient, records: dict[str, Record]) -> None:
    body = {"record": records["borehole"], "kind": "earth_fault", "when": "steady"}
    found = client.post("/api/trips", json=body).json()["causes"]
    assert found[0]["id"] == "moisture"
    assert all(c["measure"] and c["because"] for c in found)
    assert client.post("/api/trips", json={**body, "kind": "gremlins"}).status_code == 422
    assert client.post("/api/trips", json={**body, "when": "yesterday"}).status_code == 422
