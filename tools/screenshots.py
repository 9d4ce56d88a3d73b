"""Remake docs/screenshots from the demo: .venv/bin/python -m tools.screenshots"""

import re
import tempfile
from pathlib import Path

from playwright.sync_api import Page, sync_playwright

from mainspring.demo.sites import demo_id
from tests.ui.conftest import ARGUMENTS, CHROMIUM, SIGNED, Application

TARGET = Path(__file__).parents[1] / "docs" / "screenshots"
BOOSTER, FILTER, PLANTED, FAN, WELL = (
    f"/line/{demo_id(tag)}" for tag in ("CW-BST-2", "PF-1", "CW-BST-1", "AHU-1/SF", "GSB-1")
)


def open_working(page: Page) -> None:
    """Touch the largest figure."""
    page.get_by_title("Show the working").first.click()
    page.get_by_label("Working", exact=True).locator("section").first.wait_for()


def to_motor(page: Page) -> None:
    """Stand at the motor."""
    page.keyboard.press("3")
    page.wait_for_load_state("networkidle")


def to_curves(page: Page) -> None:
    """Stand at the machine with its curves in view, the duty point moved a little."""
    page.keyboard.press("4")
    page.get_by_role("slider", name="Duty point").focus()
    for key in ("Shift+ArrowLeft",) * 6 + ("Shift+ArrowDown",) * 3:
        page.keyboard.press(key)
    page.get_by_text("would take").wait_for()
    page.locator(".bench").evaluate("e => e.scrollTo(0, 320)")
    page.wait_for_load_state("networkidle")


def to_limits(page: Page) -> None:
    """Stand at the system of the borehole with its limits in view."""
    page.keyboard.press("5")
    page.get_by_role("region", name="Limits").get_by_text("water past the motor").scroll_into_view_if_needed()
    page.wait_for_load_state("networkidle")


def to_fault_call(page: Page) -> None:
    """A fault call, as found first; what was read is kept and its causes stand ranked."""
    page.get_by_role("button", name="Start a visit").click()
    page.get_by_role("button", name="Fault call", exact=True).click()
    page.get_by_role("button", name="Back to the step").click()
    page.get_by_label("Code on the display").fill("F 012")
    for words in ("Overvoltage", "Ramping down", "Keep it as found"):
        page.get_by_role("button", name=words, exact=True).click()
    page.get_by_role("heading", name="What it was", level=2).wait_for()


def new_line(page: Page) -> None:
    """A line begun by what it does."""
    page.get_by_role("button", name="New line").click()
    page.locator("[data-application=borehole]").click()


def to_ramp(page: Page) -> None:
    """A ramp at the keypad, dialled in tenths."""
    page.get_by_label("Parameters of this drive").get_by_role("button", name="Climb").first.click()


def to_many_plants(page: Page) -> None:
    """A cascade on 200 plants: the band on its trace."""
    page.get_by_role("button", name="Try on 200 plants").click()
    page.get_by_text("Holds in").wait_for(timeout=60_000)
    page.get_by_role("slider", name=re.compile("^Trial")).scroll_into_view_if_needed()


def to_logs(page: Page) -> None:
    """Before and now as they were logged."""
    page.locator(".plot canvas").wait_for()
    page.wait_for_load_state("networkidle")


# name, path, dark, size, what to do first
SHOTS = [
    ("round", "/", False, (1280, 800), None),
    ("survey", f"{PLANTED}/survey", False, (1280, 800), to_motor),
    ("curves-fan", f"{FAN}/survey", False, (1280, 800), to_curves),
    ("limits-well", f"{WELL}/survey", False, (1280, 800), to_limits),
    ("settings-dark", f"{BOOSTER}/settings", True, (1280, 800), None),
    ("keypad", f"{PLANTED}/keypad", False, (1280, 800), to_ramp),
    ("family", f"/families/tern?line={demo_id('IRR-P1')}", False, (1280, 800), None),
    ("run", f"{BOOSTER}/run", False, (1280, 800), None),
    ("fault-call", f"{FAN}/run", False, (1280, 800), to_fault_call),
    ("new-line", "/", False, (1280, 800), new_line),
    ("story", f"{FILTER}/story", False, (1280, 800), None),
    ("loop", f"{BOOSTER}/loop", False, (1280, 800), to_many_plants),
    ("proof", f"{FILTER}/proof", False, (1280, 800), None),
    ("measured", f"{FILTER}/proof#measured", False, (1280, 800), to_logs),
    ("savings", f"{FILTER}/savings", False, (1280, 800), None),
    ("working", f"{FILTER}/savings", False, (1280, 800), open_working),
    ("handover", f"{FILTER}/handover", False, (1280, 800), None),
    ("site", f"/site/{demo_id('orrendale')}", False, (1280, 800), None),
    ("phone", f"{BOOSTER}/run", False, (390, 844), None),
]


def main() -> None:
    """Every shot from a fresh demo."""
    TARGET.mkdir(parents=True, exist_ok=True)
    with tempfile.TemporaryDirectory(prefix="ms-shots-") as folder, sync_playwright() as playwright:
        application = Application(Path(folder))
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        for name, path, dark, (width, height), first in SHOTS:
            context = browser.new_context(
                viewport={"width": width, "height": height},
                color_scheme="dark" if dark else "light",
                base_url=application.url,
                has_touch=width < 1000,
                is_mobile=width < 1000,
            )
            context.add_init_script(SIGNED)
            page = context.new_page()
            page.goto(path)
            page.wait_for_load_state("networkidle")
            if first is not None:
                first(page)
            page.screenshot(path=str(TARGET / f"{name}.png"))
            context.close()
        browser.close()
        application.stop()


if __name__ == "__main__":
    main()
