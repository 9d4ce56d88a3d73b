"""The whole walk: one pump from its nameplate to a saving that can be defended, with a power cut in the middle."""

import json
import re
from pathlib import Path

import pytest
from playwright.sync_api import BrowserContext, Page, expect

from mainspring.core.assess import assess
from tests.conftest import line_of
from tests.ui.conftest import Application, Watched
from tests.ui.technician import Technician

pytestmark = pytest.mark.browser


def survey_with_mistakes(tech: Technician) -> None:
    """The booster's plates as they were typed in a hurry."""
    tech.enters(Nominal_voltage="400", Frequency="50 Hz", Phases="Three-phase")
    tech.enters(Volts_L1_to_L2="399", Volts_L2_to_L3="402", Volts_L3_to_L1="400", Fault_level_at_the_drive="8 kA")
    tech.stands_at("drive")
    tech.enters(
        Output_current="15",
        Rated_power="7,5 kW",
        Input_voltage_from="380",
        Input_voltage_to="480",
        Input_phases="Three-phase",
        Duty="Normal, 110 % for 60 s",
        Ambient_rating="40",
        Capacitor_discharge_time="2 s",
    )
    tech.enters(
        Hottest_air_at_the_drive="93.2 °F",
        It_hangs="In its own case in the room",
        Motor_lead="8",
        Drive_family="Calder (made up)",
    )
    tech.ticks("Nothing: clean, dry, cool, upright")
    tech.stands_at("motor")
    tech.enters(
        Power="5.5",
        Connection_in_use="400",
        Speed_at_full_load="1500",
        Frequency="50",
        Power_factor="0.82",
        Efficiency="89.6",
        Cooled_by="Its own shaft fan",
        **{"Full-load_current": "18.9"},
    )
    tech.enters(Service_factor="1", Efficiency_class="IE3 premium")
    tech.stands_at("pump")
    tech.enters(
        Number_of_machines="1",
        Duty_flow="9.2",
        Duty_head="38",
        Speed_of_the_curve="1455",
        Flow_at_best_efficiency="9.5",
        Best_efficiency="72",
    )
    tech.stands_at("pump", "On demand")
    tech.enters_points("Flow", "Head", [("0", "52"), ("4", "49.5"), ("9.2", "38"), ("12", "28")])
    tech.stands_at("system")
    tech.enters(
        Pressure_at_the_pump_inlet="0.5",
        Static_head="12",
        Lowest_pressure_rating="10",
        Relief_valve="There is one",
    )
    tech.enters(Flow_at_one_known_point="9.2", Head_at_that_point="38")
    tech.enters(**{"Tank,_total_volume": "180", "Tank_precharge": "2.6", "Smallest_demand_or_leak": "0.02"})
    tech.stands_at("sensor")
    tech.enters(
        Lower_range_on_the_label="0",
        Upper_range_on_the_label="16",
        Upper_range_on_box_or_drawing="10",
        Signal="4–20 mA, two-wire",
        Input_switch_of_the_drive="Current",
        Height_above_the_pump_inlet="0",
    )
    tech.ticks("Nothing: straight run, moving water, electrical end up")
    tech.enters(Signal_cable="18")
    tech.enters(Gauge_beside_the_sensor="3", Loop_current_at_that_moment="8.8")
    tech.enters(Setpoint="4")


def test_from_nameplate_to_a_proven_saving(
    page: Page, application: Application, context: BrowserContext, tmp_path: Path
) -> None:
    tech = Technician(page)
    tech.opens_the_round()
    for tag in ("CW-BST-1", "CW-BST-2", "PF-1", "IRR-P1"):
        expect(page.get_by_role("link").filter(has_text=tag)).to_be_visible()

    # survey: everything unknown, then typed with mistakes
    tech.makes_a_line("WALK-1", "cold-water booster, east wing")
    tech.sees_joint("supply and drive", "unknown")
    tech.sees_finding("Not known yet: whether the supply suits the drive", "Needs")
    survey_with_mistakes(tech)

    tech.stands_at("motor")
    tech.sees_finding("speed is the synchronous speed", "1500")
    tech.sees_finding("amps of the other voltage", "230.9")
    tech.sees_joint("drive and motor", "stop")
    tech.stands_at("sensor")
    tech.sees_finding("sensor range differs from the box", "16")
    tech.sees_finding("sensor range is not what was entered", "8.8")
    tech.sees_joint("system and sensor", "stop")

    # corrected, the joints turn clear
    tech.takes_the_correction("sensor range is not what was entered")
    tech.sees_joint("system and sensor", "clear")
    tech.stands_at("motor", "Asked first")
    tech.enters(**{"Speed_at_full_load": "1455", "Full-load_current": "10.9"})
    tech.sees_no_finding("synchronous speed")
    for joint in ("supply and drive", "drive and motor", "motor and machine", "machine and system", "sensor and drive"):
        tech.sees_joint(joint, "clear")

    # units at a touch
    tech.chooses_units("US")
    expect(tech.field("Power")).to_have_value("7.375621")
    tech.chooses_units("SI")
    expect(tech.field("Power")).to_have_value("5.5")
    tech.waits_until_saved()

    # settings
    tech.goes_to("Settings")
    expect(page.get_by_role("row").filter(has_text="Ceiling amps")).to_contain_text("10.9")
    tech.reads(Current_limit_as_left="12.5")
    page.keyboard.press("Tab")
    expect(page.get_by_role("row").filter(has_text="Ceiling amps")).to_contain_text("Does not protect the motor")
    tech.presses("Enter the rest as planned")
    page.get_by_role("alertdialog").get_by_role("button", name=re.compile("Enter .* as planned")).click()
    expect(page.get_by_text(re.compile(r"1 of \d+ read back, \d+ taken and not read back"))).to_be_visible()
    tech.reads(Current_limit_as_left="10.9")
    page.keyboard.press("Tab")
    expect(page.get_by_role("row").filter(has_text="Ceiling amps")).not_to_contain_text("Does not protect the motor")
    sheet = tech.downloads("CSV", tmp_path).read_text(encoding="utf-8")
    assert "limits.current" in sheet

    # run sheet: isolation
    line = context.request.get(f"/api/lines/{page.url.split('/')[-2]}").json()
    steps = {s.id: s for s in assess(line_of(line["record"])).steps}
    tech.goes_to("Run sheet")
    tech.proves(steps["isolate.lock_out"])
    tech.is_at_step("Wait for the capacitors")
    expect(page.get_by_role("button", name="The wait is over")).to_be_disabled()
    tech.presses("Isolator open: start the clock")
    page.reload()  # the clock survives a reload
    expect(page.get_by_role("button", name="Start the clock again")).to_be_visible()
    expect(page.get_by_role("button", name="The wait is over")).to_be_enabled()
    tech.presses("The wait is over")
    for name in ("absence", "wiring", "interlock", "precharge", "insulation", "cover"):
        tech.proves(steps[f"isolate.{name}"])
    tech.is_at_step("Three line voltages")
    tech.waits_until_sent()
    page.goto("about:blank")

    # the power goes out; nothing entered is missing
    application.kill()
    application.start()
    page = context.new_page()
    watched = Watched(page, application.url)
    tech = Technician(page)
    tech.opens_line("WALK-1")
    tech.goes_to("Run sheet")
    tech.has_done(8, len(steps))
    for step in list(steps.values())[8:]:
        if step.id == "turn.rotation":
            tech.is_at_step("Rotation at 6 Hz")
            tech.presses("Turns the wrong way")
            tech.turns_it_round(steps)
        if step.id == "turn.step_up":
            break
        tech.proves(step)

    # step up: the prediction stands beside each entry
    tech.is_at_step("Step up to full speed")
    expect(page.get_by_role("row").filter(has_text="40 Hz")).to_contain_text("below the lowest speed in force")
    rows = {
        "45": ("1316", "8.6", "3.75", "3.5"),
        "50": ("1462", "10.2", "5.4", "4.16"),
    }
    for hertz, values in rows.items():
        for column, value in zip(("Speed", "Current", "Power", "Outlet"), values, strict=True):
            page.get_by_label(f"{column} at {hertz} Hz", exact=True).fill(value)
        expect(page.get_by_role("row").filter(has_text=f"{hertz} Hz")).to_contain_text("%")
        tech.presses(f"Keep the {hertz} Hz row")
    for step in steps.values():
        if step.id == "turn.baseline" or step.phase in ("signals", "loop", "finish"):
            tech.proves(step)
    tech.has_done(len(steps) + 1, len(steps) + 1)  # and which leads were swapped

    # loop bench: moving the setpoint redraws
    tech.goes_to("Loop")
    happened = page.locator("#happened")  # what a reader of the screen is told of the picture
    expect(happened).to_contain_text("sleep at")
    expect(happened).to_contain_text("wake at")
    low = page.get_by_label("Low limit", exact=True)
    before = low.input_value()
    page.get_by_label("Setpoint", exact=True).fill("3.5")
    expect(low).not_to_have_value(before)
    page.get_by_label("Setpoint", exact=True).fill("4")
    expect(low).to_have_value(re.compile(r"^42\.4"))  # above what held on site
    working = tech.opens_working(page.locator("aside").get_by_title("Show the working").first)
    expect(working).to_contain_text("Head the pump must make to hold the setpoint")
    expect(working).to_contain_text("(p_set - p_s) / (ρ·g) + z".replace("_", ""))
    tech.presses("Close")
    tech.presses("Use these settings")
    tech.presses("Decide these")
    tech.waits_until_saved()

    # proof
    tech.goes_to("Proof")
    for way in ("By power", "By slip", "By amps"):
        expect(page.get_by_role("heading", name=way)).to_be_visible()
    working = tech.opens_working(page.get_by_role("article").first.get_by_role("button").first)
    expect(working).to_contain_text("Motor load from input power")
    expect(working).to_contain_text("two-loss model with the DOE input-power method")
    tech.presses("Close")

    # savings
    tech.goes_to("Savings")
    tech.enters_points(
        "Flow",
        "Hours a year",
        [("9.2", "500"), ("8", "1500"), ("6", "2500"), ("4", "2000"), ("2", "1500")],
    )
    tech.enters(**{"Spent,_after_grants": "6200"})
    tech.waits_until_saved()
    expect(page.get_by_text("kWh a year")).to_be_visible()
    expect(page.get_by_text("Why not the cube law")).to_be_visible()
    working = tech.opens_working(page.get_by_title(re.compile("Show the working")).first)
    expect(working).to_contain_text("Energy saved in a year")
    tech.presses("Close")

    # hand-over
    tech.goes_to("Hand-over")
    expect(page.get_by_role("link", name="Hand-over page")).to_be_visible()
    pdf = context.request.get(page.get_by_role("link", name="Hand-over page").get_attribute("href") or "")
    assert pdf.body()[:5] == b"%PDF-"
    exported = tech.downloads("Whole line", tmp_path)
    assert json.loads(exported.read_text(encoding="utf-8"))["line"]["tag"] == "WALK-1"
    tech.presses("Hand over")
    expect(page.get_by_role("heading", name="Handed over")).to_be_visible()

    # and in again, as an equal line
    tech.opens_the_round()
    page.get_by_label("Import").set_input_files(exported)
    expect(page.get_by_role("heading", name="WALK-1")).to_be_visible()
    for joint in ("supply and drive", "drive and motor", "system and sensor"):
        tech.sees_joint(joint, "clear")
    assert watched.complaints == []
    assert watched.foreign == []
