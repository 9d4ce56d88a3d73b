"""The line as known, on the screen: grey figures that move with the rows, a misread value named, what to read next."""

from collections.abc import Callable

import pytest
from playwright.sync_api import Page, expect

from tests.ui.start_up import StartUp

pytestmark = pytest.mark.browser
ROWS = (20.0, 30.0, 40.0)


def _reads_rows(line: StartUp, **factors: float) -> None:
    """Rows as the plate has them, each reading times a factor."""
    table = line.steps["turn.step_up"].table
    assert table is not None
    for reference, expected in zip(table.references, table.expected, strict=True):
        if float(reference) in ROWS:
            row = {name: round(float(value) * factors.get(name, 1.0), 3) for name, value in expected.items()}
            line.keeps("turn.step_up", "row", reference=float(reference), **row)


def test_rows_move_what_is_expected_and_a_misread_one_is_named(page: Page, starts: Callable[..., StartUp]) -> None:
    line = starts("booster")
    line.does_upto("turn.step_up", without=("turn.step_up",))
    table = line.steps["turn.step_up"].table
    assert table is not None
    by_plate = float(table.expected[-1]["current"])
    _reads_rows(line, current=1.08)
    page.goto(f"/line/{line.id}/run#turn.step_up")
    full = page.get_by_role("row").filter(has_text="50 Hz")
    expect(full).to_contain_text("±")
    known = page.get_by_role("region", name="By what was read")
    expect(known).to_contain_text("12 readings")
    expect(known).to_contain_text("by the plate")
    expect(known).to_contain_text("To read next")
    moved = line.asks("/run")["steps"]
    row = next(s for s in moved if s["id"] == "turn.step_up")["table"]["rows"][-1]
    assert row["expected"]["current"]["value"] > 1.03 * by_plate
    # four times what it takes: the other rows know better
    page.get_by_label("Power at 45 Hz").fill("16")
    page.get_by_role("button", name="Keep the 45 Hz row").click()
    page.get_by_role("alertdialog", name="Out of band").get_by_role("button", name="Keep as read").click()
    box = page.locator("aside")
    expect(box).to_contain_text("does not fit")
    expect(box).to_contain_text("Read it again")


def test_a_reading_of_another_kind_is_entered_at_the_proof(page: Page, starts: Callable[..., StartUp]) -> None:
    line = starts("booster")
    line.does_upto("turn.step_up", without=("turn.step_up",))
    _reads_rows(line)
    page.goto(f"/line/{line.id}/proof#known")
    known = page.get_by_role("region", name="By what was read")
    expect(known).to_contain_text("12 readings")
    page.get_by_role("button", name="Enter readings").click()
    field = page.get_by_label("Flow at full speed, all open")
    field.fill("8")
    field.press("Tab")
    expect(known).to_contain_text("13 readings")
