"""What is decided on one sheet is in force on all: a fan told its speed from outside, and a defeated interlock."""

import json
import re
import urllib.request
import uuid
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from mainspring.demo.sites import demo_id
from tests.ui.conftest import Application
from tests.ui.start_up import StartUp
from tests.ui.technician import Technician
from tests.ui.test_survey import SURVEYS

pytestmark = pytest.mark.browser


@pytest.fixture
def fan_from_outside(application: Application, records: dict[str, dict[str, Any]]) -> str:
    """The supply fan without a sensor: its speed comes by 2–10 V from the building's automation."""
    record = {g: f for g, f in records["supply_fan"].items() if g not in ("site", "sensor")}
    record["line"] = {**record["line"], "holds": {"value": "reference"}}
    record["control"] = {"speed_signal": {"value": "2-10V"}}
    key = str(uuid.uuid4())
    body = {
        "id": key,
        "site_id": demo_id("orrendale"),
        "tag": f"IF-{key[:4]}",
        "title": "",
        "record": record,
        "by": "Ana",
    }
    request = urllib.request.Request(
        f"{application.url}/api/lines", json.dumps(body).encode(), {"Content-Type": "application/json"}, method="POST"
    )
    with urllib.request.urlopen(request) as answer:
        assert answer.status == 201
    return key


def decides(page: Page, setting: str, value: str, why: str) -> None:
    page.get_by_label(f"Decide {setting.lower()}", exact=True).click()
    page.get_by_label(f"{setting} decided", exact=True).fill(value)
    page.get_by_label(f"Why {setting} is decided", exact=True).fill(why)
    page.get_by_role("button", name="Decide", exact=True).click()
    expect(page.get_by_role("row").filter(has_text=why)).to_be_visible()


def test_limits_decided_on_the_sheet_are_what_the_run_sheet_expects(page: Page, fan_from_outside: str) -> None:
    page.goto(f"/line/{fan_from_outside}/settings")
    decides(page, "Lowest speed", "20", "Balance of the two floors.")
    decides(page, "Highest speed", "45", "Noise in the library.")
    row = page.get_by_role("row").filter(has_text="Noise in the library.")
    expect(row).to_contain_text("As decided")
    expect(row).to_contain_text("the machine could take")
    tech = Technician(page)
    tech.goes_to("Run sheet")
    page.get_by_label("Steps").get_by_role("button", name="Speed signal at five points").click()
    expect(page.get_by_text("It runs between")).to_contain_text(re.compile(r"20.?Hz and 45.?Hz"))
    table = page.get_by_role("table")
    expect(table.get_by_role("row").nth(1)).to_contain_text("20")  # told nothing, it gives its lowest
    expect(table.get_by_role("row").nth(1)).to_contain_text("2")  # volts at the signal's zero
    expect(table.get_by_role("row").last).to_contain_text("45")
    page.get_by_label("Steps").get_by_role("button", name="Step up to full speed").click()
    expect(page.get_by_role("row").filter(has_text="10 Hz").first).to_contain_text("below the lowest speed in force")
    expect(page.get_by_role("row").last).to_contain_text("45")
    tech.goes_to("Survey")
    tech.stands_at("system")
    expect(page.get_by_role("region", name="Limits")).to_contain_text("as decided by")


def test_a_stop_stays_whatever_is_decided_and_the_interlock_is_said_once(page: Page, fan_from_outside: str) -> None:
    page.goto(f"/line/{fan_from_outside}/settings")
    page.get_by_label("Safety interlock as left").select_option("disabled")
    expect(page.get_by_role("row").filter(has_text="Safety interlock")).to_contain_text("Defeated interlock")
    Technician(page).goes_to("Run sheet")
    page.get_by_label("Steps").get_by_role("button", name="Wiring").click()
    expect(page.get_by_text("no safety contact: its input is disabled")).to_be_visible()
    page.goto("/")
    expect(page.get_by_role("link").filter(has_text=f"IF-{fan_from_outside[:4]}")).to_contain_text("interlock")


def test_one_refused_entry_holds_back_no_other(page: Page, fan_from_outside: str) -> None:
    page.goto(f"/line/{fan_from_outside}/survey")
    tech = Technician(page)
    tech.stands_at("motor")
    tech.enters(Speed_at_full_load="99999")  # more than any motor turns
    tech.enters(Power="18.5")
    expect(page.get_by_text("up to 12000 r/min")).to_be_visible()
    expect(page.get_by_role("status").first).to_contain_text("Saved")
    expect(tech.field("Speed at full load")).to_have_value(re.compile("99.?999"))
    page.reload()
    tech.stands_at("motor")
    expect(tech.field("Power")).to_have_value("18.5")


def test_a_60_hz_fan_told_by_2_to_10_volts_between_20_and_55_hz_to_hand_over(
    page: Page, application: Application, records: dict[str, dict[str, Any]]
) -> None:
    record = {**SURVEYS["tower_fan"], "site": records["tower"]["site"]}
    record.pop("sensor")
    record["line"] = {**record["line"], "holds": "reference"}
    record["control"] = {"speed_signal": "2-10V"}
    record["drive"] = {**record["drive"], "discharge_time": {"value": 1.0}}
    line = StartUp(application, record, f"TF-{uuid.uuid4().hex[:4]}")
    line.decides("Balance, and noise at the fence.", limits__minimum_speed=20.0, limits__maximum_speed=55.0)
    line.does_upto("turn.step_up")
    tech = Technician(page)
    page.goto(f"/line/{line.id}/run")
    tech.is_at_step("Lowest and highest speed, by hand")
    down, up = "Reference all the way down, it runs at", "Reference all the way up, it runs at"
    tech.reads(**{down: "20", up: "60"})  # the limit is not in the drive
    tech.presses("Keep these readings")
    page.get_by_role("alertdialog", name="Out of band").get_by_role("button", name="Read again").click()
    tech.reads(**{down: "20", up: "55"})
    tech.presses("Keep these readings")
    tech.proves(line.steps["turn.baseline"])
    for step in ("signals.digital", "signals.relays"):
        tech.proves(line.steps[step])
    tech.is_at_step("Speed signal at five points")
    table = page.get_by_role("table")
    for i, (volts, hertz) in enumerate((("2", "20"), ("4", "20"), ("6", "30"), ("8", "45"), ("10", "55")), 1):
        row = table.get_by_role("row").nth(i)
        expect(row).to_have_attribute("data-open", "true")
        row.get_by_role("textbox").nth(0).fill(volts)
        row.get_by_role("textbox").nth(1).fill(hertz)
        page.get_by_role("button", name=re.compile("^Keep the .* row$")).click()
    for step in line.steps.values():
        if step.phase == "finish":
            tech.proves(step)
    expect(page.get_by_label("Steps").get_by_text(re.compile(r"^(\d+) of \1 done$"))).to_be_visible()
    tech.waits_until_sent()
    line.takes_the_plan()
    tech.goes_to("Hand-over")
    expect(page.get_by_role("heading", name="Ready", exact=True)).to_be_visible()
    page.get_by_role("button", name="Hand over", exact=True).click()
    expect(page.get_by_role("heading", name="Handed over")).to_be_visible()


def test_a_borehole_goes_by_the_frequency_that_holds_on_site(
    page: Page, application: Application, records: dict[str, dict[str, Any]]
) -> None:
    record = records["borehole"]
    record["drive"]["discharge_time"] = {"value": 1.0}
    line = StartUp(application, record, f"BH-{uuid.uuid4().hex[:4]}")
    line.does_upto("loop.steady")
    model = line.steps["loop.hold"].readings[0].expected
    assert model is not None
    read = round(float(model)) + 3
    tech = Technician(page)
    page.goto(f"/line/{line.id}/run")
    tech.is_at_step("Hold at no demand")
    tech.reads(Settled_frequency=str(read))
    tech.presses("Keep these readings")
    page.get_by_role("alertdialog", name="Out of band").get_by_label("Why it is right as it stands").fill(
        "Water stands deeper today"
    )
    page.get_by_role("button", name="Explained: go on").click()
    tech.is_at_step("Low limit, and the creep")
    expect(page.locator(".cell").first).to_contain_text(str(read + 1))  # one above what was read, not above the model
    tech.goes_to("Settings")
    row = page.get_by_role("row").filter(has_text="Controller low limit")
    expect(row).to_contain_text(re.compile(rf"{read + 1}.?Hz"))
