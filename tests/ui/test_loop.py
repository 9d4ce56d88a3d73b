"""The loop bench at the screen: a loop tried, better gains sought and decided, long work stopped, sleep found."""

import re
from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import Page, expect

from tests.ui.start_up import StartUp

pytestmark = pytest.mark.browser
Starts = Callable[..., StartUp]
WHILE = 90_000  # ms; long work on a slow machine


def at_the_bench(page: Page, line: StartUp, heading: str) -> None:
    page.goto(f"/line/{line.id}/loop")
    expect(page.get_by_role("heading", name=heading)).to_be_visible()
    expect(page.get_by_role("slider", name=re.compile("^Trial"))).to_be_visible()


def opens(page: Page, tool: str) -> None:
    page.get_by_role("tab", name=tool).click()


def test_gains_are_sought_tried_and_decided(page: Page, starts: Starts) -> None:
    line = starts("tower")
    at_the_bench(page, line, "On its heat")
    expect(page.get_by_text("It holds.")).to_be_visible()
    page.get_by_label("Gain", exact=True).fill("0.5")  # as somebody left it
    expect(page.get_by_text("It does not come back in time")).to_be_visible()
    opens(page, "Seek gains")
    page.get_by_role("button", name="Seek among 500").click()
    expect(page.get_by_role("progressbar", name="Tunings tried")).to_be_visible()
    expect(page.get_by_text("less away from the setpoint")).to_be_visible(timeout=WHILE)
    page.get_by_role("row", name=re.compile("^Best")).get_by_role("button", name="Try it").click()
    expect(page.get_by_text("It holds.")).to_be_visible()
    expect(page.get_by_text("It does not come back in time.")).to_have_count(0)
    tried = page.get_by_label("Gain", exact=True).input_value()
    page.get_by_role("button", name="Use these settings").click()
    asked = page.get_by_role("alertdialog", name="Decide what was tried")
    expect(asked.get_by_role("row")).to_have_count(2)
    expect(asked.get_by_role("row", name=re.compile("^Gain"))).to_contain_text("4")
    asked.get_by_role("button", name="Decide these").click()
    expect(asked).to_have_count(0)
    row = next(r for r in line.asks("/settings")["rows"] if r["id"] == "pid.gain")
    assert row["decided"] == pytest.approx(float(tried), rel=1e-3)


def test_long_work_is_stopped_and_the_next_begins(page: Page, starts: Starts) -> None:
    line = starts("booster")
    at_the_bench(page, line, "On its plant")
    opens(page, "Seek gains")
    page.get_by_role("button", name="Seek among 500").click()
    page.get_by_role("button", name="Stop").click()
    expect(page.get_by_role("progressbar")).to_have_count(0)
    opens(page, "Many plants")
    page.get_by_role("button", name="Try on 200 plants").click()
    expect(page.get_by_text(re.compile(r"Holds in \d+ of 200 plants"))).to_be_visible(timeout=WHILE)


def test_a_run_is_kept_looked_at_and_played(page: Page, starts: Starts) -> None:
    line = starts("booster")
    at_the_bench(page, line, "On its plant")
    page.get_by_role("button", name="Keep to compare").click()
    expect(page.get_by_text("as planned")).to_be_visible()
    page.get_by_label("Setpoint", exact=True).fill("3.5")
    expect(page.get_by_role("button", name="Back to the plan")).to_be_visible()
    trace = page.get_by_role("slider", name=re.compile("^Trial"))
    trace.focus()
    page.keyboard.press("ArrowRight")
    expect(trace).to_have_attribute("aria-valuetext", re.compile("at 6 s, 3.5 bar"))
    page.get_by_role("button", name="600×").click()
    page.get_by_role("button", name="Play").click()
    expect(trace).to_have_attribute("aria-valuetext", re.compile("at 10 min"))
    page.get_by_role("button", name="Let go of as planned").click()
    expect(page.get_by_text("as planned")).to_have_count(0)


def test_sleep_is_found_from_the_frequency_read_on_site(page: Page, starts: Starts) -> None:
    line = starts("booster")
    at_the_bench(page, line, "On its plant")
    opens(page, "Find sleep")
    page.get_by_label("Frequency that held at no demand, read on site").fill("43")
    page.get_by_role("button", name="Go on from the reading").click()
    expect(page.get_by_text("worn, or another impeller")).to_be_visible(timeout=WHILE)
    page.get_by_role("button", name="Take low limit and sleep frequency").click()
    asked = page.get_by_role("alertdialog", name="Decide what was tried")
    expect(asked).to_contain_text("read on site, the valve shut")
    asked.get_by_role("button", name="Decide these").click()
    expect(asked).to_have_count(0)
    rows: dict[str, Any] = {r["id"]: r["decided"] for r in line.asks("/settings")["rows"]}
    assert (rows["pid.output_low"], rows["sleep.frequency"]) == (44.0, 44.5)


def test_a_wet_well_and_a_cascade_have_their_own_bench(page: Page, starts: Starts) -> None:
    well = starts("wet_well")
    at_the_bench(page, well, "In its pit")
    page.get_by_label("Asked of it").select_option("storm")
    expect(page.get_by_text("The high-level relay calls the standby pump")).to_be_visible()
    opens(page, "Tuning rules")
    page.get_by_role("button", name="Step the model").click()
    expect(page.get_by_role("row", name=re.compile("Averaging"))).to_be_visible()
    several = starts("set")
    at_the_bench(page, several, "On its plant")
    opens(page, "How many run")
    page.get_by_role("button", name="Work it out").click()
    page.get_by_role("button", name="Try these speeds").first.click()
    expect(page.get_by_label("The last goes at", exact=True)).not_to_have_value("")
    expect(page.get_by_role("button", name="Back to the plan")).to_be_visible()


def test_the_gains_are_told_in_the_drives_own_form(page: Page, starts: Starts) -> None:
    line = starts("booster")
    at_the_bench(page, line, "On its plant")
    page.get_by_label("Gain", exact=True).fill("2")
    page.get_by_label("Integral time", exact=True).fill("30")
    opens(page, "In the drive’s form")
    ideal = page.get_by_role("row", name=re.compile("^Ideal"))
    for words in ("50 %", "30 s", "0.5"):
        expect(ideal).to_contain_text(words)
    page.get_by_label("100 % output is").fill("100")  # hertz: twice full speed, so half as many per cent
    expect(ideal).to_contain_text("100 %")
