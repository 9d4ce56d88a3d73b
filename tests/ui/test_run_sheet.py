"""The run sheet at the pump: whole start-ups, clocks, two people, no link, power cuts."""

import uuid
from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import Browser, BrowserContext, Page, expect

from tests.ui.conftest import Application, Tablet, a_device
from tests.ui.start_up import Records, StartUp
from tests.ui.technician import Technician

pytestmark = pytest.mark.browser


def at_the_sheet(page: Page, line: StartUp) -> Technician:
    page.goto(f"/line/{line.id}/run")
    expect(page.get_by_role("heading", name=line.tag)).to_be_visible()
    expect(page.get_by_role("heading", level=2).first).to_be_visible()  # its steps are there, also without a link
    return Technician(page)


# whole start-ups


def test_a_borehole_line_from_lock_out_to_hand_over(page: Page, starts: Callable[..., StartUp]) -> None:
    line = starts("borehole")
    tech = at_the_sheet(page, line)
    for step in line.steps.values():
        if step.id == "turn.waste":
            tech.is_at_step(step.title)
            expect(page.get_by_text("Never unattended")).to_be_visible()
        if step.id == "turn.rotation":  # nobody sees the shaft: two directions compared
            tech.is_at_step("Rotation by comparing")
            tech.reads(**{"As wired: pressure": "3.9 bar", "Swapped: pressure": "30 psi"})
            tech.presses("Left turned round")
            tech.turns_it_round(line.steps)
            expect(page.get_by_label("Steps").get_by_role("button", name="Step up to full speed")).to_contain_text(
                "later"
            )
            tech.reads(**{"As wired: pressure": "3.9 bar", "Swapped: pressure": "30 psi"})
            tech.presses("Left as it was wired")
            continue
        tech.proves(step)
    tech.has_done(len(line.steps) + 1, len(line.steps) + 1)  # and which leads were swapped
    tech.waits_until_sent()
    states = {s["id"]: s["state"] for s in line.asks("/run")["steps"]}
    assert set(states.values()) == {"done"}
    page.get_by_role("link", name="Story").click()
    expect(page.get_by_role("heading", name="Start-up")).to_be_visible()
    told = page.get_by_role("listitem").filter(has_text="Rotation by comparing")
    expect(told).to_have_count(2)  # the refused one too
    expect(told.first).to_contain_text("not proven")


def test_a_fan_array_unit_by_unit(page: Page, starts: Callable[..., StartUp]) -> None:
    line = starts("fan_wall")
    tech = at_the_sheet(page, line)
    for step in line.steps.values():
        if step.id == "many.units":
            tech.is_at_step(step.title)
            first, *_ = step.items.values()
            tech.page.get_by_label("Serial number of unit 1").fill("HALF")
            tech.ticks_off(first)
            tech.presses("Keep unit 1")  # half seen: the unit is not done
            expect(page.get_by_role("group", name="Units").get_by_role("button").first).to_contain_text("not yet")
        tech.proves(step)
    tech.has_done(len(line.steps), len(line.steps))
    tech.waits_until_sent()
    kept = line.kept("many.units")
    assert [e["data"]["serial"] for e in kept] == [f"MF-{4100 + n}" for n in range(1, 7)]


def test_a_used_drive_with_bypass_link_and_output(
    page: Page, application: Application, records: Records, starts: Callable[..., StartUp]
) -> None:
    instance = 1000 + uuid.uuid4().int % 100_000
    more = {"bypass": "contactor", "link": "monitor", "device_instance": instance, "analog_output": "speed"}
    records["booster"]["control"] |= more
    records["booster"].setdefault("line", {})["drive_state"] = "used"
    line = starts("booster")
    asked = {"power.saved", "power.reset", "many.link", "turn.bypass", "signals.output"}
    assert asked <= set(line.steps)
    tech = at_the_sheet(page, line)
    for step in line.steps.values():
        if step.id == "turn.bypass":  # right on the drive, wrong in bypass
            tech.is_at_step(step.title)
            tech.presses("Turns the wrong way")
            expect(page.get_by_text("swap two leads of the supply to the bypass, not of the motor")).to_be_visible()
        tech.proves(step)
    tech.has_done(len(line.steps), len(line.steps))
    tech.waits_until_sent()
    starts("booster")  # another line of the site takes the same device instance
    page.reload()
    tech.goes_to_step(line.steps["many.link"].title)
    expect(page.get_by_text(str(instance)).first).to_be_visible()
    expect(page.get_by_text("Held.")).to_be_visible()


# holds, bands, what is left out


def test_out_of_its_band_it_is_read_again_kept_or_explained(page: Page, starts: Callable[..., StartUp]) -> None:
    line = starts("booster")
    tech = at_the_sheet(page, line)
    for step in line.upto("isolate.cover"):
        if step.id != "isolate.cover":
            tech.proves(step)
    # a step that is no guard may be left out, with a reason that stays
    tech.is_at_step("Photograph it, cover on")
    tech.presses("Leave this step out")
    page.get_by_label("Why it is left out").fill("lens fogged")
    tech.presses("Leave it out")
    tech.is_at_step("Three line voltages")
    expect(page.get_by_text("“lens fogged”")).to_be_visible()
    # a guard may not
    expect(page.get_by_role("button", name="Leave this step out")).to_have_count(0)
    tech.reads(L1_to_L2="399", L2_to_L3="402", L3_to_L1="0.34 kV")
    tech.presses("Keep these readings")
    asked = page.get_by_role("alertdialog", name="Out of band")
    expect(asked).to_contain_text("L3 to L1")
    tech.presses("Read again")
    expect(page.get_by_label("L3 to L1", exact=True)).to_have_value("0.34 kV")
    tech.presses("Keep these readings")
    expect(asked.get_by_role("textbox")).to_have_count(0)  # nothing explains a guard away
    tech.presses("Keep as read")
    expect(page.get_by_text("Out of band.")).to_be_visible()
    tech.goes_to_step("Energise")
    expect(page.get_by_role("button", name="Done", exact=True)).to_be_disabled()
    tech.goes_to_step("Three line voltages")
    tech.reads(L3_to_L1="400 V")
    tech.presses("Keep these readings")
    for step in list(line.upto("turn.fill"))[9:]:
        tech.proves(step)
    # a row of the step-up: explained, and the explanation stays with it
    tech.is_at_step("Step up to full speed")
    page.get_by_label("Current at 50 Hz", exact=True).fill("13.9")
    page.get_by_label("Power at 50 Hz", exact=True).fill("5.3")
    tech.presses("Keep the 50 Hz row")
    asked.get_by_role("textbox").fill("second pump was running")
    tech.presses("Explained: go on")
    tech.goes_to_step("Step up to full speed")
    expect(page.get_by_text("“second pump was running”").first).to_be_visible()
    expect(page.get_by_role("row").filter(has_text="50 Hz")).to_contain_text("high")
    expect(page.get_by_text("One reading does not fit")).to_be_visible()


STALE = [  # a value that changes, the proofs that rested on it, and what is said
    ("motor.rated_speed", 1450.0, {"data.motor"}, "speed at full load was 1455 r/min, is 1450 r/min"),
    ("supply.voltage", 415.0, {"power.line_volts", "power.energise"}, "nominal voltage was 400 V, is 415 V"),
    ("supply.frequency", 60.0, {"power.region"}, "frequency was 50 Hz, is 60 Hz"),
    ("drive.discharge_time", 3.0, {"isolate.capacitors"}, "capacitor discharge time was 2 s, is 3 s"),
    ("control.setpoint", 3.5e5, {"isolate.precharge"}, "setpoint was 4 bar, is 3.5 bar"),
    ("sensor.signal", "0-10V", {"isolate.wiring"}, "signal was 4–20 mA, two-wire, is 0–10 V"),
]


def test_a_changed_value_makes_exactly_what_rested_on_it_stale(page: Page, starts: Callable[..., StartUp]) -> None:
    line = starts("booster")
    tech = at_the_sheet(page, line)
    for step in line.upto("data.motor"):
        tech.proves(step)
    tech.is_at_step("Limits, ramps, protections")
    steps = page.get_by_label("Steps").get_by_role("button")
    for field, value, stale, words in STALE:
        was = line.changes(field, value)
        expect(steps.filter(has_text="stale")).to_have_count(len(stale))  # without a reload
        for step in stale:
            expect(steps.filter(has_text=line.steps[step].title)).to_contain_text("stale")
        expect(page.get_by_text(words).first).to_be_visible()
        line.changes(field, was)  # nothing was deleted: as it was, the proof stands again
        expect(steps.filter(has_text="stale")).to_have_count(0)


# clocks


def test_the_clock_is_right_after_a_restart_and_in_a_second_tab(
    context: BrowserContext, application: Application, starts: Callable[..., StartUp]
) -> None:
    line = starts("booster", wait=600.0)
    tech = at_the_sheet(context.new_page(), line)
    tech.presses("Done")
    tech.presses("Isolator open: start the clock")
    running = tech.page.locator(".clock[data-running=true]")
    expect(running).to_be_visible()
    tech.waits_until_sent()
    (kept,) = line.kept("isolate.capacitors")
    application.kill()
    application.start()
    tech.page.reload()
    expect(running).to_be_visible()
    other = at_the_sheet(context.new_page(), line)
    there = other.page.locator(".clock[data-running=true]")
    expect(there).to_be_visible()
    shown = [seconds(clock.inner_text()) for clock in (running, there)]
    assert 0 < shown[0] < 600
    assert abs(shown[0] - shown[1]) <= 5
    assert [e["at"] for e in line.kept("isolate.capacitors")] == [kept["at"]]
    for each in (tech, other):
        expect(each.page.get_by_role("button", name="The wait is over")).to_be_disabled()


def seconds(text: str) -> int:
    minutes, rest = text.strip().split(":")
    return int(minutes) * 60 + int(rest)


# two people


def test_two_people_see_each_other_and_overwrite_nothing(
    browser: Browser, application: Application, starts: Callable[..., StartUp]
) -> None:
    line = starts("booster")
    for step in ("isolate.lock_out",):
        line.keeps(step)
    ana, ben = (at_the_sheet(a_device(browser, application).new_page(), line) for _ in range(2))
    for tech, name in ((ana, "Ana"), (ben, "Ben")):
        tech.page.locator(".who input").fill(name)
        tech.page.keyboard.press("Tab")
    ana.presses("Isolator open: start the clock")
    expect(ben.page.get_by_role("button", name="Start the clock again")).to_be_visible()  # without a reload
    ben.presses("The wait is over")
    expect(ana.page.get_by_label("Steps").get_by_role("button", name="Wait for")).to_contain_text("done")
    ana.goes_to_step("Prove absence of voltage")
    # both read the same step, one of them without a link
    ben.is_at_step("Prove absence of voltage")
    ben.page.context.set_offline(True)
    for tech, volts in ((ben, "0.4"), (ana, "0.3")):
        for reading in line.steps["isolate.absence"].readings:
            tech.page.get_by_label(reading.label, exact=True).fill(volts)
        tech.presses("Keep these readings")
    expect(ben.page.get_by_text("1 waiting to be sent")).to_be_visible()
    ana.is_at_step("Wiring")
    ben.page.context.set_offline(False)
    refused = ben.page.get_by_role("alert").filter(has_text="Not taken: prove absence of voltage")
    expect(refused).to_contain_text("There, Ana")
    expect(refused).to_contain_text("0.3 V")
    expect(refused).to_contain_text("0.4 V")
    assert [e["by"] for e in line.kept("isolate.absence")] == ["Ana"]
    ben.presses("Keep mine too")
    expect(refused).to_have_count(0)
    ben.waits_until_sent()
    story = [e for c in line.asks("/story")["chapters"] for e in c["entries"] if "absence" in e["title"]]
    assert [e["by"] for e in story] == ["Ben", "Ana"]  # in the order they were made
    for tech in (ana, ben):
        tech.page.context.close()


# no link, and power cuts


def test_without_a_link_entries_wait_through_reload_and_dead_battery_and_are_sent_once(
    browser: Browser, application: Application, starts: Callable[..., StartUp], tmp_path: Path
) -> None:
    line = starts("borehole")
    tablet = Tablet(browser, application, tmp_path / "tablet")
    tech = at_the_sheet(tablet.context.new_page(), line)
    expect(tech.page.locator(".saved[data-kept=true]")).to_be_visible()
    tech.proves(line.steps["isolate.lock_out"])
    tech.is_at_step("Wait for the capacitors")
    tech.waits_until_sent()
    application.kill()
    tech.presses("Isolator open: start the clock")
    expect(tech.page.get_by_text("1 waiting to be sent")).to_be_visible()
    tech.page.reload()  # from what the device keeps
    tech.has_done(1, len(line.steps))
    expect(tech.page.get_by_text("1 waiting to be sent")).to_be_visible()
    tech.presses("The wait is over")  # of a wait through which no clock ran that cannot be set: not taken
    expect(tech.page.get_by_role("alert").filter(has_text="Start the wait anew")).to_be_visible()
    tech.presses("Start the clock again")
    tech.presses("The wait is over")
    tech.is_at_step("Prove absence of voltage")
    for reading in line.steps["isolate.absence"].readings:
        tech.page.get_by_label(reading.label, exact=True).fill("60 V")
    tech.presses("Keep these readings")  # the hold holds without a server
    expect(tech.page.get_by_role("alertdialog", name="Out of band")).to_be_visible()
    tech.presses("Read again")
    tech.proves(line.steps["isolate.absence"])
    tech.is_at_step("Wiring")
    tablet.dies()
    tech = Technician(tablet.starts().new_page())
    tech.page.goto(f"/line/{line.id}/run")
    expect(tech.page.get_by_text("4 waiting to be sent")).to_be_visible()
    tech.has_done(3, len(line.steps))
    application.start()
    tech.waits_until_sent()
    tech.proves(line.steps["isolate.wiring"])
    tech.is_at_step("Safety interlock")
    tech.waits_until_sent()
    tablet.context.close()
    entries = [e for c in line.asks("/story")["chapters"] for e in c["entries"]]
    told = [e["title"] for e in entries if e["state"] != "changed"]
    titles = [line.steps[s].title for s in ("isolate.lock_out", "isolate.capacitors", "isolate.absence")]
    assert told == [titles[0], titles[1], titles[1], titles[1], titles[2], "Wiring"]
    received = [bool(e["received"]) for e in entries if e["state"] != "changed"]
    assert (received[0], received[1], received[-1]) == (False, True, False)  # made without a link, it says so


def test_a_device_clock_set_forward_without_a_link_shortens_no_wait(
    browser: Browser, application: Application, starts: Callable[..., StartUp]
) -> None:
    line = starts("booster", wait=600.0)
    line.keeps("isolate.lock_out")
    tech = at_the_sheet(a_device(browser, application).new_page(), line)
    tech.page.context.set_offline(True)
    tech.presses("Isolator open: start the clock")
    expect(tech.page.get_by_text("1 waiting to be sent")).to_be_visible()
    tech.page.evaluate("() => { const now = Date.now; Date.now = () => now() + 3600e3; }")
    running = tech.page.locator(".clock[data-running=true]")
    expect(running).to_be_visible()
    assert seconds(running.inner_text()) > 500
    expect(tech.page.get_by_role("button", name="The wait is over")).to_be_disabled()
    tech.page.context.set_offline(False)
    tech.waits_until_sent()
    assert [e["kind"] for e in line.kept("isolate.capacitors")] == ["start"]
    tech.page.context.close()


def test_one_refusal_holds_back_no_other_entry(
    browser: Browser, application: Application, starts: Callable[..., StartUp]
) -> None:
    line = starts("booster")
    ben = at_the_sheet(a_device(browser, application).new_page(), line)
    ben.page.context.set_offline(True)
    ben.proves(line.steps["isolate.lock_out"])
    ben.is_at_step("Wait for the capacitors")
    line.keeps("isolate.lock_out")  # somebody else was there first, which Ben has not seen
    ben.page.get_by_role("button", name="Note").first.click()
    ben.page.get_by_label("Note").fill("Water on the floor")
    ben.presses("Keep the note")
    ben.page.context.set_offline(False)
    expect(ben.page.get_by_role("alert").filter(has_text="Not taken: lock out")).to_be_visible()
    expect(ben.page.get_by_text("1 waiting to be sent")).to_be_visible()  # the note has gone
    story = str(line.asks("/story"))
    assert "Water on the floor" in story
    ben.page.context.close()


def test_what_waits_is_sent_from_any_page_once_the_link_is_back(
    browser: Browser, application: Application, starts: Callable[..., StartUp]
) -> None:
    line = starts("booster")
    device = a_device(browser, application)
    tech = at_the_sheet(device.new_page(), line)
    tech.page.route("**/evidence", lambda route: route.abort())
    tech.presses("Done")
    expect(tech.page.get_by_text("1 waiting to be sent")).to_be_visible()
    tech.page.get_by_role("link", name="Round", exact=True).click()
    row = tech.page.get_by_role("link").filter(has_text=line.tag)
    expect(row).to_contain_text("1 waiting to be sent")
    assert not line.kept("isolate.lock_out")
    tech.page.unroute("**/evidence")
    expect(row).not_to_contain_text("waiting to be sent")
    assert len(line.kept("isolate.lock_out")) == 1
    device.close()


def test_killed_during_entry_nothing_acknowledged_is_lost(
    browser: Browser, application: Application, starts: Callable[..., StartUp]
) -> None:
    line = starts("borehole")
    device = a_device(browser, application)
    tech = at_the_sheet(device.new_page(), line)
    steps = list(line.upto("power.region"))
    for i, step in enumerate(steps):
        if i in (3, 7):
            application.kill_database()
        tech.proves(step)
        if i in (4, 8):
            application.kill()  # while it may be on its way
            application.start()
    tech.is_at_step("Motor data entered")
    tech.waits_until_sent()
    device.close()
    entries = [e for c in line.asks("/story")["chapters"] for e in c["entries"] if e["state"] != "changed"]
    assert [e["title"] for e in entries if e["title"] != "Wait for the capacitors"] == [
        s.title for s in steps if s.id != "isolate.capacitors"
    ]
