"""Fault calls, replacements, sets of drives, what must be put back, and who signs: at the screen."""

import re
from collections.abc import Callable

import pytest
from playwright.sync_api import Browser, Page, expect

from mainspring.demo.sites import demo_id
from tests.ui.conftest import Application
from tests.ui.start_up import Records, StartUp
from tests.ui.technician import Technician

pytestmark = pytest.mark.browser
Starts = Callable[..., StartUp]


def at_the_sheet(page: Page, line: StartUp) -> Technician:
    page.goto(f"/line/{line.id}/run")
    expect(page.get_by_role("heading", name=line.tag)).to_be_visible()
    return Technician(page)


def comes_for(page: Page, purpose: str) -> None:
    page.get_by_label("Steps").get_by_role("button", name=re.compile("Start a visit|,")).first.click()
    page.get_by_role("button", name=purpose, exact=True).click()
    expect(page.get_by_role("heading", name=re.compile(f"^{purpose}, since"))).to_be_visible()
    page.get_by_role("button", name="Back to the step").click()


def test_a_booster_of_two_in_cascade_each_with_its_own_evidence(page: Page, starts: Starts, records: Records) -> None:
    records["set"]["machine"]["count"] = 2.0
    line = starts("set")
    tech = at_the_sheet(page, line)
    for step in line.upto("isolate.absence"):
        tech.proves(step)
    tech.waits_until_sent()
    assert [e["data"]["unit"] for e in line.kept("isolate.lock_out")] == [1, 2]
    assert [e["data"]["reference"] for e in line.kept("isolate.absence")] == [1, 2]
    done = ("isolate.lock_out", "isolate.capacitors", "isolate.absence")
    line.does_upto("many.copy", without=done)
    page.reload()
    tech.is_at_step("Rotation at 6 Hz, drive 1")
    tech.presses("Turns the right way")
    tech.is_at_step("Rotation at 6 Hz, drive 2")
    tech.presses("Turns the wrong way")
    tech.turns_it_round(line.steps, "V and W swapped")
    tech.is_at_step("Rotation at 6 Hz, drive 2")
    tech.presses("Turns the right way")
    tech.proves(line.steps["turn.fill"])
    tech.is_at_step("Step up to full speed, drive 1")
    tech.waits_until_sent()
    assert [line.kept(f"turn.rotation{n}")[-1]["passed"] for n in ("", ".2")] == [True, True]
    page.goto(f"/line/{line.id}/settings")
    row = page.get_by_role("row").filter(has_text="Number of this drive")
    expect(row).to_contain_text("each: 1, 2")
    expect(page.get_by_role("row").filter(has_text="The last one goes at")).to_contain_text("come and go")


def test_the_drive_of_a_twin_with_bypass_is_replaced(page: Page, starts: Starts, records: Records) -> None:
    records["booster"]["control"]["bypass"] = {"value": "contactor"}
    model = starts("booster")
    tech = Technician(page)
    tech.opens_the_round()
    page.get_by_role("button", name="New line").click()
    page.locator("[data-application=twin]").click()
    page.get_by_label("Like which").select_option(model.id)
    page.get_by_label("Tag").fill(f"{model.tag}-T")
    page.get_by_role("button", name="Make it").click()
    expect(page.get_by_role("heading", name=f"{model.tag}-T")).to_be_visible()
    twin = page.url.split("/")[-2]
    assert twin != model.id

    line = model.at(twin)  # what was proven at the model is not proven here
    line.does_upto("turn.bypass")
    line.leaves(limits__current=11.5)
    page.goto(f"/line/{twin}/run")
    comes_for(page, "Replacement")
    tech.is_at_step("What is replaced")
    tech.ticks_off("The drive itself")
    tech.presses("That is all of it")
    tech.is_at_step("Lock out, tag, try")
    steps = page.get_by_label("Steps")
    expect(steps.get_by_role("button", name="Rotation in bypass")).to_contain_text("later")
    tech.goes_to("Settings")
    row = page.get_by_role("row").filter(has_text="Current limit").first
    expect(row).to_contain_text(re.compile(r"former drive: 11.5.?A"))
    expect(page.get_by_label("Current limit as left")).to_have_value("")
    page.goto(f"/line/{twin}/story")
    expect(page.get_by_role("heading", name="Replacement")).to_be_visible()
    expect(page.get_by_role("listitem").filter(has_text="What is replaced")).to_contain_text("drive itself")


def test_a_fault_call_at_a_fan_that_nobody_here_has_started_up(page: Page, starts: Starts, records: Records) -> None:
    records["fan_wall"]["machine"]["count"] = 1.0  # one of its fans, alone: a permanent magnet
    records["fan_wall"]["drive"]["family"] = {"value": "wren"}
    line = starts("fan_wall")
    tech = at_the_sheet(page, line)
    comes_for(page, "Fault call")
    tech.is_at_step("As found, before any reset")
    expect(page.get_by_role("complementary")).to_contain_text("Do not reset yet")
    page.get_by_label("Code on the display").fill("0x1")
    expect(page.get_by_text("0x01 Current")).to_be_visible()  # by the map of its make
    expect(page.get_by_role("button", name="Overcurrent")).to_have_attribute("aria-pressed", "true")
    tech.presses("Ramping up")
    tech.reads(**{"Frequency then": "12", "Current then": "7.9"})
    tech.presses("Keep it as found")
    tech.is_at_step("What it was")
    expect(page.get_by_text("The likeliest here first")).to_be_visible()
    tech.goes_to("Settings")
    page.get_by_label("Current limit as found").fill("10")
    page.get_by_label("Current limit as found").press("Tab")
    expect(page.get_by_role("row").filter(has_text="Current limit").first).to_contain_text(re.compile("above", re.I))
    tech.goes_to("Run sheet")
    tech.presses("Something else")
    tech.is_at_step("What was touched")
    tech.ticks_off("Settings in the drive")
    tech.presses("That is all of it")
    for step in ("data.motor", "data.limits"):
        tech.proves(line.steps[step])
    steps = page.get_by_label("Steps")
    expect(steps.get_by_role("button", name="Lock out, tag, try")).to_have_count(0)
    for step in line.steps.values():
        if step.phase == "loop" or step.id in ("finish.automatic", "finish.put_back", "finish.record"):
            tech.proves(step)
    expect(page.get_by_label("Steps").get_by_text(re.compile(r"^(\d+) of \1 done$"))).to_be_visible()
    tech.waits_until_sent()
    sheet = line.asks("/run")["steps"]
    assert {s["id"]: s["state"] for s in sheet if s["state"] != "done"} == {}
    assert len(sheet) < len(line.steps) / 2


def test_an_interlock_decided_away_and_put_back(page: Page, starts: Starts) -> None:
    line = starts("booster")
    page.goto(f"/line/{line.id}/settings")
    page.get_by_label("Decide safety interlock", exact=True).click()
    page.get_by_label("Safety interlock decided").select_option("disabled")
    page.get_by_label("Why Safety interlock is decided").fill("No safety contact on site until Friday.")
    page.get_by_role("button", name="Decide", exact=True).click()
    expect(page.get_by_role("row").filter(has_text="until Friday")).to_be_visible()
    tech = at_the_sheet(page, line)
    tech.goes_to_step("Wiring")
    expect(page.get_by_text("no safety contact: its input is disabled")).to_be_visible()
    page.goto("/")
    row = page.get_by_role("link").filter(has_text=line.tag)
    expect(row).to_contain_text("interlock")
    page.goto(f"/line/{line.id}/settings")
    page.get_by_label("Safety interlock as left").select_option("wired")
    tech = at_the_sheet(page, line)
    tech.goes_to_step("Wiring")
    expect(page.get_by_text("safety contact normally closed")).to_be_visible()
    page.goto("/")
    expect(row).not_to_contain_text("interlock")


def test_what_is_changed_for_now_is_on_the_round_until_it_is_back(page: Page, starts: Starts) -> None:
    line = starts("booster")
    tech = at_the_sheet(page, line)
    page.get_by_role("button", name="Changed for now").click()
    page.get_by_role("textbox", name="What is bridged").fill("Bridge on terminals 5 and 6")
    page.get_by_role("button", name="Put it on the list").click()
    expect(page.get_by_text("Bridge on terminals 5 and 6")).to_be_visible()
    tech.waits_until_sent()
    page.goto("/")
    row = page.get_by_role("link").filter(has_text=line.tag)
    expect(row).to_contain_text("put back")
    page.goto(f"/line/{line.id}/handover")
    expect(page.get_by_text("To be put back: Bridge on terminals 5 and 6")).to_be_visible()
    at_the_sheet(page, line)
    page.get_by_role("button", name="To the list").click()
    page.get_by_role("button", name="It is back").click()
    expect(page.get_by_text("Bridge on terminals 5 and 6")).to_have_count(0)
    tech.waits_until_sent()
    page.goto("/")
    expect(row).not_to_contain_text("put back")


def test_who_signs_is_asked_once(browser: Browser, application: Application, starts: Starts) -> None:
    line = starts("booster")
    context = browser.new_context(base_url=application.url, service_workers="block")
    page = context.new_page()
    tech = at_the_sheet(page, line)
    tech.presses("Done")
    dialog = page.get_by_role("dialog", name="Who signs?")
    dialog.get_by_role("button", name="Not now").click()
    assert line.kept("isolate.lock_out") == []
    tech.presses("Done")
    dialog.get_by_label("Name").fill("Ben Okoro")
    dialog.get_by_role("button", name="Sign with it").click()
    tech.is_at_step("Wait for the capacitors")
    tech.presses("Isolator open: start the clock")
    expect(page.get_by_role("button", name="The wait is over")).to_be_visible()
    expect(dialog).to_have_count(0)
    tech.waits_until_sent()
    assert [e["by"] for e in line.kept("isolate.lock_out")] == ["Ben Okoro"]
    context.close()


SMALL = """
() => [...document.querySelectorAll('button:not(.num), a[href], select, textarea, summary, input')]
    .filter((e) => !e.matches('.sr-only, .skip, p a, .say a, [type=hidden], [tabindex="-1"]') && e.checkVisibility())
    .map((e) => {
        const box = (e.matches('[type=checkbox], [type=radio], [type=file]') ? e.closest('label') ?? e : e)
            .getBoundingClientRect();
        return [e.outerHTML.slice(0, 110), Math.round(box.width), Math.round(box.height)];
    })
    .filter(([, width, height]) => width && height && (width < 44 || height < 44))
"""
FAN = f"/line/{demo_id('AHU-1/SF')}"
PLACES = [
    "/",
    "/methods",
    *(f"{FAN}/{p}" for p in ("survey", "settings", "run", "loop", "proof", "savings", "handover")),
]


@pytest.mark.parametrize("path", [*PLACES, f"{FAN}/trip", f"{FAN}/story", f"/site/{demo_id('orrendale')}"])
def test_a_finger_finds_every_target_and_a_phone_shows_it_whole(
    path: str, browser: Browser, application: Application
) -> None:
    context = browser.new_context(
        base_url=application.url, service_workers="block", has_touch=True, is_mobile=True,
        viewport={"width": 800, "height": 1200},
    )  # fmt: skip
    page = context.new_page()
    page.goto(path)
    page.wait_for_load_state("networkidle")
    assert page.evaluate(SMALL) == []
    page.set_viewport_size({"width": 390, "height": 844})
    expect(page.locator("html")).to_have_js_property("scrollWidth", 390)  # what a phone has instead comes by itself
    assert page.evaluate(SMALL) == []
    context.close()
