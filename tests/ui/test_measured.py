"""A saving measured at the screen: logs read as confirmed, what they carry, a zoom, a claim, the owner's words."""

import re
from collections.abc import Callable
from pathlib import Path

import pytest
from playwright.sync_api import Page, expect

from mainspring.standins.meter import as_csv, measured_year
from tests.ui.start_up import StartUp

pytestmark = pytest.mark.browser
Starts = Callable[..., StartUp]
YEAR = measured_year(5, interval=1800.0, days=56, change_day=28)


def file_of(side: str, folder: Path) -> Path:
    rows = slice(None, YEAR.change) if side == "before" else slice(YEAR.change, None)
    path = folder / f"{side}.csv"
    path.write_bytes(as_csv(YEAR, rows, "%d.%m.%Y %H:%M", ";", comma=True))
    return path


def reads(page: Page, path: Path, side: str) -> None:
    page.locator("input[type=file]").set_input_files(path)
    asked = page.get_by_role("region", name="Read a log")
    expect(asked.get_by_label("Pump power (kW) is read as")).to_have_value("power")
    asked.get_by_role("button", name=side, exact=True).click()
    asked.get_by_role("button", name="Read it and keep it").click()
    expect(asked).to_have_count(0)


def test_two_logs_are_read_compared_and_claimed(page: Page, starts: Starts, tmp_path: Path) -> None:
    line = starts("filter")
    page.goto(f"/line/{line.id}/proof#measured")
    expect(page.get_by_text("Not known yet: needs a log of before the change and a log of now.")).to_be_visible()
    reads(page, file_of("before", tmp_path), "Before the change")
    expect(page.get_by_text("Not known yet: needs a log of now.")).to_be_visible()
    page.locator("input[type=file]").set_input_files(file_of("after", tmp_path))
    expect(page.get_by_text("Laid out as one that was confirmed before.")).to_be_visible()
    page.get_by_role("button", name="Read it and keep it").click()
    expect(page.get_by_text("kWh a year saved, measured")).to_be_visible()
    expect(page.get_by_role("img", name="Power before and now, at the same flows")).to_be_visible()
    expect(page.get_by_text("Nothing wrong was found.")).to_have_count(2)
    expect(page.get_by_role("img", name=re.compile("^Power over time")).locator("canvas")).to_be_visible()
    page.get_by_role("button", name="Claim it in my name").click()
    expect(page.get_by_role("button", name="Claimed")).to_be_disabled()
    expect(page.get_by_text(re.compile("Ana Reyes claimed"))).to_be_visible()
    page.goto(f"/line/{line.id}/savings#owner")
    expect(page.get_by_text(re.compile("Measured: the pump now takes"))).to_be_visible()
    expect(page.get_by_role("link", name="Print it: one page")).to_be_visible()
    page.goto("/")
    expect(page.get_by_role("link", name=re.compile(line.tag))).to_contain_text("measured")


def test_what_was_recognised_is_put_right_before_anything_is_kept(page: Page, starts: Starts, tmp_path: Path) -> None:
    line = starts("filter")
    page.goto(f"/line/{line.id}/proof#measured")
    page.locator("input[type=file]").set_input_files(file_of("before", tmp_path))
    asked = page.get_by_role("region", name="Read a log")
    asked.get_by_label("Outside (°C) is read as").select_option("")
    asked.get_by_label("Unit of Flow (L/s)").select_option("m³/h")
    asked.get_by_role("button", name="Leave it").click()
    assert line.asks("/logs") == []
    page.locator("input[type=file]").set_input_files(file_of("before", tmp_path))
    asked.get_by_label("Unit of Flow (L/s)").select_option("m³/h")
    asked.get_by_label("Outside (°C) is read as").select_option("")
    asked.get_by_role("button", name="Read it and keep it").click()
    expect(asked).to_have_count(0)
    (log,) = line.asks("/logs")
    assert "temperature" not in {c["quantity"] for c in log["columns"]}
    series = line.asks(f"/logs/{log['id']}/series?quantity=flow&points=100")
    most = max(v for v in series["values"] if v is not None)
    assert most == pytest.approx(float(YEAR.flow[: YEAR.change].max()) / 3.6, rel=0.01)  # as it was said to be


def test_a_log_is_zoomed_by_button_and_key_and_put_aside(page: Page) -> None:
    from mainspring.demo.sites import demo_id

    page.goto(f"/line/{demo_id('PF-1')}/proof#measured")
    plot = page.get_by_role("img", name=re.compile("^Power over time"))
    expect(plot.locator("canvas")).to_be_visible()

    def spans() -> list[float]:
        """Of what was asked for, the last first, each once."""
        asked = page.evaluate("performance.getEntriesByType('resource').map(e => e.name)")
        found = [re.search(r"/series\?.*start=([\d.]+)&end=([\d.]+)", url) for url in asked]
        lengths = [float(m[2]) - float(m[1]) for m in found if m]
        return list(dict.fromkeys(lengths[::-1]))

    page.wait_for_load_state("networkidle")
    whole = spans()[0]
    page.get_by_role("button", name="Closer").click()
    page.wait_for_load_state("networkidle")
    expect(page.get_by_role("button", name="All", exact=True)).to_be_enabled()
    plot.focus()
    page.keyboard.press("ArrowUp")
    with page.expect_response(re.compile(r"/series\?quantity=flow")):
        page.get_by_label("Shown").select_option("flow")
    assert [round(whole / length) for length in spans()] == [4, 2, 1]
    expect(page.get_by_role("img", name=re.compile("^Flow over time"))).to_be_visible()


def test_the_savings_screen_has_its_five_views(page: Page, starts: Starts) -> None:
    line = starts("filter")
    page.goto(f"/line/{line.id}/savings")
    expect(page.get_by_text(re.compile("The valve took"))).to_be_visible()
    page.get_by_role("tab", name="The year").focus()
    page.keyboard.press("ArrowRight")
    expect(page.get_by_text("Internal rate of return")).to_be_visible()
    page.get_by_role("tab", name="What it hangs on").click()
    expect(page.get_by_role("img", name="What moves payback most")).to_contain_text("Hours a year")
    page.get_by_role("button", name="Energy a year").click()
    expect(page.get_by_role("img", name="What moves energy a year most")).to_be_visible()
    page.get_by_role("button", name="Duty and cost").click()
    page.get_by_label("What was there before").select_option("bypass")
    expect(page.get_by_text("0 years")).to_have_count(0)
    page.get_by_role("tab", name="The year").click()
    expect(page.get_by_text(re.compile("The bypass took"))).to_be_visible()
