"""The survey of every application from blank to clear, by keyboard alone; and what helps at the plate."""

import copy
import io
import re
from typing import Any

import pytest
from PIL import Image
from playwright.sync_api import Page, expect

from mainspring.core.line import Choice, Flags, Points, Quantity, find_field
from mainspring.core.line.fields import Field
from mainspring.core.quantity import DIMENSIONS
from mainspring.demo import fans, pumps
from mainspring.demo.sites import demo_id
from tests.ui.technician import STATIONS, Technician

pytestmark = pytest.mark.browser

Record = dict[str, dict[str, Any]]
NEXT = "Next:"


def without_mistakes(record: Record, **changes: dict[str, Any]) -> Record:
    """A demo record with what was planted in it put right, and without its duty profile."""
    right = copy.deepcopy(record)
    right.pop("duty", None)
    for group, values in changes.items():
        right[group].update(values)
    return right


OPEN = {"enclosure": "open", "place": []}
SURVEYS: dict[str, Record] = {
    "booster": without_mistakes(pumps.BOOSTER),
    "borehole": without_mistakes(pumps.BOREHOLE),
    "transfer": without_mistakes(
        pumps.FILTER,
        motor={"rated_power": 15_000.0, "rated_current": 27.7, "efficiency": 0.921},
        drive={"rated_current": 32.0, "rated_power": 15_000.0},
    ),
    "circulator": without_mistakes(pumps.CIRCULATOR, supply={"fault_current": 6e3}),
    "wet_well": without_mistakes(pumps.WET_WELL),
    "supply_fan": without_mistakes(fans.SUPPLY_FAN, system={"windmills": "no"}),
    "return_fan": without_mistakes(fans.POOL_EXHAUST, drive=OPEN),
    "tower_fan": without_mistakes(
        fans.TOWER_FAN,
        drive=OPEN,
        system={"windmills": "no"},
        machine={"air_pressure": 110.0},
        supply={"fault_current": 6e3},
    ),
    "fan_array": without_mistakes(fans.FAN_WALL, motor={"inductance_q_again": 0.0336}, system={"windmills": "no"}),
}  # fmt: skip


def typed(field: Field, value: Any) -> str:
    """What a technician types for a value: number and unit."""
    assert isinstance(field, Quantity)
    dimension = DIMENSIONS[field.dimension]
    unit = dimension.unit(dimension.si)
    return f"{unit.from_si(value):.9g} {unit.symbol}".removesuffix(" –")


def value_of(record: Record, path: str) -> Any:
    group, name = path.split(".")
    return record.get(group, {}).get(name)


class Keys:
    """Types a survey without touching anything but the keyboard, and counts what was pressed."""

    def __init__(self, page: Page, record: Record) -> None:
        self.page, self.record, self.pressed = page, record, 0

    def press(self, key: str) -> None:
        self.page.keyboard.press(key)
        self.pressed += 1

    def focused(self) -> tuple[str, str, str]:
        """Id, kind and text of what has the focus."""
        found = self.page.evaluate(
            "() => { const e = document.activeElement; return [e.id, e.type || e.tagName, e.textContent || ''] }"
        )
        return found[0], found[1], found[2].strip()

    def along_the_line(self) -> None:
        """From the first field of the supply to the last of the sensor, Tab by Tab."""
        self.page.locator(".fields select").first.focus()
        while True:
            path, _kind, text = self.focused()
            if text.startswith(NEXT):
                self.press("Enter")
                if self.page.get_by_text("Nothing is asked here").count():
                    return  # the speed comes from outside
                expect(self.page.locator(".fields :focus")).to_have_count(1)
            elif path and self.page.locator(f'.fields [id="{path}"]').count():
                self.answer(path)
                if isinstance(find_field(path), Choice):
                    # it may bring or take away the fields after it: a person sees that before the next key
                    expect(self.page.get_by_role("tabpanel")).to_have_attribute("aria-busy", "false")
                self.press("Tab")
            else:
                return  # past the last field of the sensor

    def answer(self, path: str) -> None:
        """Type the value of the field that has the focus."""
        field, value = find_field(path), value_of(self.record, path)
        if isinstance(field, Flags):
            if value == []:
                self.press("Space")
            for _ in field.choices:  # past the conditions, none of which holds
                self.press("Tab")
        elif value is None:
            return
        elif isinstance(field, Choice):
            there, here = self.page.evaluate(
                "wanted => { const e = document.activeElement;"
                " return [[...e.options].findIndex(o => o.value === wanted), e.selectedIndex] }",
                value,
            )
            for _ in range(abs(there - here)):
                self.press("ArrowDown" if there > here else "ArrowUp")
        elif isinstance(field, Quantity):
            text = typed(field, value)
            self.page.keyboard.insert_text(text)
            self.pressed += len(text)

    def on_demand(self) -> None:
        """What the record has beyond what is asked first."""
        for station in STATIONS:
            Technician(self.page).stands_at(station)
            tab = self.page.get_by_role("tab", name="On demand")
            if tab.is_disabled():
                continue
            tab.click()
            for path in self.page.locator(".fields [id]").evaluate_all("all => all.map(e => e.id)"):
                if "." not in path or path.endswith("-say"):
                    continue
                field, value = find_field(path), value_of(self.record, path)
                if value is None or isinstance(field, Points):  # a curve is typed row by row
                    continue
                entry = self.page.locator(f'[id="{path}"]')
                entry.select_option(value) if isinstance(field, Choice) else entry.fill(typed(field, value))
            if station == "pump":
                self.curve()

    def curve(self) -> None:
        """The curve's points, where the record has them."""
        field = find_field("machine.air_curve" if "air_curve" in self.record["machine"] else "machine.curve")
        assert isinstance(field, Points)
        for i, row in enumerate(value_of(self.record, field.path) or [], 1):
            for column, number in zip(field.columns, row, strict=True):
                dimension = DIMENSIONS[column.dimension]
                text = f"{dimension.unit(dimension.si).from_si(number):.6g} {dimension.si}"
                self.page.get_by_label(f"{column.label}, row {i}", exact=True).fill(text)


@pytest.mark.parametrize("purpose", sorted(SURVEYS))
def test_survey_from_blank_to_clear_by_keyboard(purpose: str, page: Page) -> None:
    record = SURVEYS[purpose]
    tech = Technician(page)
    tech.opens_the_round()
    tech.makes_a_line(f"KEY-{purpose}", purpose, purpose)
    tech.stands_at("supply")
    keys = Keys(page, record)
    keys.along_the_line()
    assert keys.pressed < 450  # at two keys a second, with the plates to read, under five minutes
    keys.on_demand()
    tech.waits_until_saved()
    line = page.request.get(f"/api/lines/{page.url.split('/')[4]}").json()
    left = {(f["severity"], f["title"]) for f in line["assessment"]["findings"] if f["severity"] != "clear"}
    assert left == set()
    assert line["stages"][0] == {"id": "survey", "label": "Survey", "state": "done"}
    for joint in ("supply and drive", "drive and motor", "motor and machine", "machine and system"):
        tech.sees_joint(joint, "clear")


def test_a_doubted_plate_is_upheld_with_a_reason_and_doubted_again_when_it_changes(page: Page) -> None:
    tech = Technician(page)
    tech.opens_the_round()
    tech.makes_a_line("UP-1", "odd plate")
    tech.stands_at("motor")
    tech.enters(Power="5.5", Speed_at_full_load="1500", Frequency="50")
    finding = tech.sees_finding("stop: speed is the synchronous speed")
    finding.get_by_role("button", name="This is what the plate says").click()
    page.get_by_label("Why the plate value stands").fill("read twice, photo taken")
    page.keyboard.press("Enter")
    tech.sees_finding("clear: speed is the synchronous speed: upheld", "read twice, photo taken")
    tech.waits_until_saved()
    page.reload()
    tech.stands_at("motor")
    tech.sees_finding("upheld", "read twice, photo taken")
    tech.enters(Speed_at_full_load="3000")
    tech.sees_finding("stop: speed is the synchronous speed", "3000")


def test_a_finding_leads_to_what_answers_it_and_a_caution_stays_for_a_reason(page: Page) -> None:
    tech = Technician(page)
    page.goto(f"/line/{demo_id('AHU-1/SF')}/survey")
    tech.stands_at("system")
    finding = tech.sees_finding("caution: fan may turn by itself")
    finding.locator(".answers button").click()
    expect(page.locator('[id="system.windmills"]')).to_be_focused()
    finding.get_by_role("button", name="It stays so, with a reason").click()
    page.get_by_label("Why it stays so").fill("damper ordered, blocked by hand until then")
    page.keyboard.press("Enter")
    tech.sees_finding("fan may turn by itself: meant so", "blocked by hand")
    page.locator('[id="system.windmills"]').select_option("no")
    tech.sees_finding("clear: fan stands at start")


def test_the_duty_point_is_dragged_and_says_what_it_takes(page: Page) -> None:
    page.goto(f"/line/{demo_id('CW-BST-2')}/survey")
    tech = Technician(page)
    tech.stands_at("system")
    curves = page.get_by_role("region", name="Curves")
    handle = curves.get_by_role("slider", name="Duty point")
    handle.scroll_into_view_if_needed()
    box = handle.bounding_box()
    assert box is not None
    middle = (box["x"] + box["width"] / 2, box["y"] + box["height"] / 2)
    page.mouse.move(*middle)
    page.mouse.down()
    page.mouse.move(middle[0] - 200, middle[1] + 90, steps=6)
    page.mouse.up()
    expect(curves).to_contain_text(re.compile(r"would take\s+\d+(\.\d)? Hz"))
    expect(curves).to_contain_text("Below the lowest speed")
    curves.get_by_role("button", name="Back to the duty point").click()
    expect(curves).to_contain_text("Drag the point")
    # every region names its reason, and its number opens its working
    expect(curves).to_contain_text("no water moves")
    tech.opens_working(curves.get_by_role("listitem").first.get_by_role("button"))


def test_limits_name_every_reason(page: Page) -> None:
    page.goto(f"/line/{demo_id('GSB-1')}/survey")
    Technician(page).stands_at("pump")
    limits = page.get_by_role("region", name="Limits")
    for words in ("low limit", "never below 30 Hz", "water past the motor", "base frequency"):
        expect(limits).to_contain_text(words)


def test_a_photo_of_the_plate_stands_beside_the_fields(page: Page) -> None:
    picture = io.BytesIO()
    Image.new("RGB", (600, 400), "silver").save(picture, "PNG")
    tech = Technician(page)
    tech.opens_the_round()
    tech.makes_a_line("PIC-1", "with a photo")
    tech.stands_at("motor")
    panel = page.get_by_role("region", name="Photo of the plate")
    panel.locator("input[type=file]").set_input_files(
        {"name": "plate.png", "mimeType": "image/png", "buffer": picture.getvalue()}
    )
    shown = panel.get_by_role("img", name="Plate of the motor")
    expect(shown).to_be_visible()
    assert shown.evaluate("e => e.decode().then(() => e.naturalWidth)") == 600
    expect(tech.field("Power")).to_be_visible()
    page.reload()
    tech.stands_at("drive")
    expect(shown).to_have_count(0)
    tech.stands_at("motor")
    expect(shown).to_be_visible()
    panel.get_by_role("button", name="Remove").click()
    expect(shown).to_have_count(0)


def test_a_curve_comes_out_of_a_network_file(page: Page) -> None:
    network = "[CURVES]\n P1 0 50\n P1 20 40\n P1 40 10\n[OPTIONS]\n UNITS LPS\n"
    tech = Technician(page)
    tech.opens_the_round()
    tech.makes_a_line("INP-1", "curve from a file")
    tech.stands_at("pump", "On demand")
    page.locator("input[type=file][accept*=inp]").set_input_files(
        {"name": "net.inp", "mimeType": "text/plain", "buffer": network.encode()}
    )
    expect(page.get_by_label("Flow, row 2", exact=True)).to_have_value("20")
    expect(page.get_by_label("Head, row 3", exact=True)).to_have_value("10")
