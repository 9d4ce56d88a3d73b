"""Any make of drive: its keypad walked by keyboard alone, and a map of it made from its manual's table."""

import json
import re
import urllib.request
import uuid
from collections.abc import Callable
from typing import Any

import pytest
from playwright.sync_api import BrowserContext, Page, expect

from mainspring.core.settings import SETTINGS
from mainspring.exchange.family_file import read_family
from tests.conftest import ROOT
from tests.ui.start_up import Records, StartUp

Starts = Callable[..., StartUp]


@pytest.mark.parametrize(
    ("family", "name"), [("calder", "booster"), ("tern", "irrigation"), ("oriel", "set"), ("wren", "supply_fan")]
)
def test_a_line_is_set_at_its_keypad_by_keyboard_alone(
    family: str, name: str, page: Page, starts: Starts, records: Records
) -> None:
    records[name]["drive"]["family"] = {"value": family}
    line = starts(name)
    page.goto(f"/line/{line.id}/keypad")
    steps = line.asks("/keypad")["steps"]
    assert len(steps) >= 40
    field = page.get_by_label("Read back from the display")
    done = page.locator("main header")
    for count, step in enumerate(steps):
        expect(done).to_contain_text(f"{count} of {len(steps)} read back")
        in_hand = page.locator("[aria-current=step]")
        expect(in_hand).to_contain_text(step["called"])
        expect(field).to_be_focused()
        if count % 10 == 3:  # typed as it stands on the display, where it is a number
            page.keyboard.type(step["text"])
        page.keyboard.press("Enter")
    expect(done).to_contain_text(f"{len(steps)} of {len(steps)} read back")
    assert {s["verdict"] for s in line.asks("/keypad")["steps"]} == {"same"}
    page.keyboard.press("ArrowLeft")
    expect(page.locator("[aria-current=step]")).to_contain_text(steps[-2]["called"])


def test_what_reads_otherwise_is_kept_and_shown(context: BrowserContext, starts: Starts) -> None:
    page = context.new_page()  # a refusal is a complaint on the console
    line = starts("booster")
    page.goto(f"/line/{line.id}/keypad")
    page.get_by_label("Parameters of this drive").get_by_role("button", name="Climb").first.click()
    expect(page.locator(".dial")).to_contain_text("100")
    expect(page.locator(".dial")).to_contain_text("tenths of s: 10.0 s")
    field = page.get_by_label("Read back from the display")
    field.fill("much")
    page.keyboard.press("Enter")
    expect(page.get_by_role("alert")).to_contain_text("a number as the display has it")
    field.fill("20")  # tenths: two seconds
    page.get_by_role("button", name="It reads 20: next").click()
    expect(page.locator("main header")).to_contain_text("1 left that differ")
    page.get_by_role("button", name="Only what is open or differs").click()
    page.get_by_label("Parameters of this drive").get_by_role("button", name="Climb").first.click()
    expect(page.get_by_text("As left:")).to_contain_text("2 s")
    page.get_by_role("link", name="The whole sheet").click()
    expect(page.get_by_label("Ramp up, 0 to full speed as left")).to_have_value("2")


def manual_table() -> tuple[str, dict[str, str]]:
    """Sixty rows as a manual may print them, with other numbers and words, and which setting each is."""
    tern = read_family((ROOT / "mainspring/families/tern.json").read_text())
    words = {
        "motor.rated_power": "Motor nominal power", "motor.rated_voltage": "Motor nominal voltage",
        "motor.rated_frequency": "Motor nominal frequency", "motor.rated_current": "Motor nominal current",
        "motor.rated_speed": "Motor nominal speed", "motor.power_factor": "Motor cos phi",
        "limits.minimum_speed": "Minimum frequency", "limits.maximum_speed": "Maximum frequency",
        "ramps.up": "Acceleration time", "ramps.down": "Deceleration time", "stop.mode": "Stop function",
        "sleep.frequency": "Sleep frequency", "sleep.delay": "Sleep delay", "sleep.wake_level": "Wake-up level",
        "pid.gain": "PID proportional gain", "pid.integral_time": "PID integral time",
    }  # fmt: skip
    rows, means = ["Par.\tDesignation\tRange\tUnit\tFactory"], {}
    for n, p in enumerate(tern.parameters[:60], 100):
        setting = SETTINGS[p.setting]
        label = words.get(p.setting, setting.label)
        if setting.dimension is None:
            told = "  ".join(f"{w.code}: {setting.choices[c]}" for c, w in p.choices.items())
            rows.append(f"Q{n}\t{label}\t{told}\t\t0")
        else:
            low, high = (0 if p.low is None else p.low), (1000 if p.high is None else p.high)
            unit = "" if p.of else p.unit
            rows.append(f"Q{n}\t{label}\t{low:.{p.decimals}f} - {high:.{p.decimals}f}\t{unit}\t{low:g}")
        means[f"Q{n}"] = p.setting
    return "\n".join(rows), means


def test_a_map_is_made_from_the_manuals_table(page: Page, starts: Starts) -> None:
    text, means = manual_table()
    line = starts("irrigation")
    name = f"Maker {uuid.uuid4().hex[:6]}"
    page.goto("/families")
    page.get_by_label("Name of a new family").fill(name)
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name=name)).to_be_visible()
    page.get_by_role("button", name="Paste a table").click()
    page.get_by_label(re.compile("Copy the parameter table")).fill(text)
    expect(page.get_by_text("60 parameters,")).to_be_visible()
    page.get_by_role("button", name="Take 60 over").click()
    rows = page.get_by_role("listbox", name="Parameters").get_by_role("option")
    expect(rows).to_have_count(60)
    page.get_by_role("group", name="Show").get_by_role("button", name="Unmapped").click()
    for _ in range(60):  # what was not recognised, by keyboard: a word for it, Enter
        if rows.count() == 0:
            break
        row = rows.first
        number = row.locator("b").inner_text()
        row.click()
        search = page.get_by_role("combobox", name="Which setting it is")
        search.fill(SETTINGS[means[number]].label)
        expect(page.get_by_role("listbox").last).to_contain_text(SETTINGS[means[number]].label)
        search.press("Enter")
        expect(rows.filter(has_text=number)).to_have_count(0)
    page.get_by_role("button", name="All").click()
    page.get_by_label("Try it on").select_option(label=line.tag)
    expect(rows.filter(has_text="Q103").locator("em")).not_to_have_text("")
    page.get_by_role("button", name="The family").click()
    page.get_by_role("button", name="Add a fault code").click()
    page.get_by_label("Fault code").fill("E-07")
    page.get_by_label("What it means").select_option(label="Earth fault")
    page.get_by_label("Lock", exact=True).fill("Q190, then 5 s")
    page.get_by_label("Fits: sizes, firmware").fill("4 to 22 kW")
    page.get_by_role("button", name="Save").click()
    expect(page.get_by_role("button", name="Save")).to_be_disabled()
    kept = next(f for f in asks(line, "/api/families") if f["name"] == name)
    assert kept["parameters"] == kept["mapped"] == 60
    assert kept["fits"] == "4 to 22 kW"
    family = asks(line, f"/api/families/{kept['id']}")["family"]
    assert family["faults"] == [{"code": "E-07", "label": {}, "trip": "earth_fault"}]
    assert family["keys"] == {"lock": "Q190, then 5 s"}
    made = family["parameters"]
    right = [p["number"] for p in made if p["setting"] == means[p["number"]]]
    assert len(right) >= 54, sorted(set(means) - set(right))  # nine in ten without a look
    page.get_by_role("button", name="Duplicate").click()
    expect(page.get_by_text("Nothing differs from")).to_be_visible()


def asks(line: StartUp, path: str) -> Any:
    """An answer of the server."""
    with urllib.request.urlopen(line.application.url + path) as answer:
        return json.load(answer)
