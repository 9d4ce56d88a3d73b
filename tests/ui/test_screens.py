"""Each screen: accessible, silent, usable by keyboard, safe against two people, hostile names, a lost database."""

import re
import socket
from collections.abc import Callable
from pathlib import Path

import pytest
from axe_playwright_python.sync_playwright import Axe
from playwright.sync_api import Browser, BrowserContext, Page, Route, expect

from mainspring.demo.sites import demo_id
from tests.core.test_step_test import made
from tests.ui.conftest import Application, a_device
from tests.ui.start_up import StartUp
from tests.ui.technician import Technician

pytestmark = pytest.mark.browser

BOOSTER, FILTER, PLANTED = (f"/line/{demo_id(tag)}" for tag in ("CW-BST-2", "PF-1", "CW-BST-1"))
SCREENS = [
    "/",
    "/methods",
    f"{PLANTED}/survey",
    f"{BOOSTER}/settings",
    f"{BOOSTER}/run",
    f"{FILTER}/story",
    f"{BOOSTER}/loop",
    f"{FILTER}/proof",
    f"{FILTER}/proof#machine",
    f"{FILTER}/proof#measured",
    f"{FILTER}/savings",
    f"{FILTER}/savings#money",
    f"{FILTER}/savings#owner",
    f"{FILTER}/handover",
    f"{BOOSTER}/trip",
    f"/site/{demo_id('orrendale')}",
]


@pytest.mark.parametrize("path", SCREENS)
def test_a_screen_fits_its_window_and_has_no_serious_accessibility_violation(path: str, page: Page) -> None:
    page.emulate_media(color_scheme="light")
    page.goto(path)
    page.wait_for_load_state("networkidle")
    for width, height in ((800, 1100), (1280, 800)):
        page.set_viewport_size({"width": width, "height": height})
        assert page.evaluate("document.documentElement.scrollWidth") <= width
        assert page.evaluate("document.documentElement.scrollTop") == 0
        assert page.evaluate("document.querySelector('.frame').getBoundingClientRect().top") == 0
    for mode in ("light", "dark"):
        if mode == "dark":
            page.get_by_role("button", name="Dark theme").click()
            expect(page.locator("html")).to_have_attribute("data-mode", "dark")
        found = [v for v in Axe().run(page).response["violations"] if v["impact"] in ("serious", "critical")]
        assert [(mode, v["id"], v["nodes"][0]["html"][:160]) for v in found] == []


def test_keyboard_palette_digits_and_findings(page: Page) -> None:
    page.goto(f"{PLANTED}/survey")
    expect(page.get_by_role("heading", name="CW-BST-1")).to_be_visible()
    page.keyboard.press("3")
    expect(page.get_by_role("heading", name="Motor plate")).to_be_visible()
    page.keyboard.press("j")
    expect(page.locator("article[data-current=true]")).to_contain_text("synchronous")
    page.keyboard.press("j")
    expect(page.locator("article[data-current=true]")).to_contain_text("other voltage")
    page.keyboard.press("Control+k")
    page.get_by_role("textbox", name="Go to").fill("PF-1")
    page.keyboard.press("Enter")
    expect(page.get_by_role("heading", name="PF-1")).to_be_visible()


def test_the_practice_of_the_house_goes_before_the_trades(context: BrowserContext) -> None:
    page = context.new_page()  # a refusal is a complaint on the console
    tech = Technician(page)
    tech.opens_the_round()
    tech.makes_a_line("HOUSE-1", "own practice", site="A house of its own")
    tech.stands_at("drive")
    page.get_by_role("tab", name="On demand").click()
    tech.enters(Motor_lead="45")
    finding = page.locator("#finding-motor_lead_is_short")
    expect(finding).to_contain_text("45m, over 30m")
    tech.waits_until_saved()
    page.get_by_role("link", name="A house of its own").click()  # from any page of a line to its site's facts
    page.get_by_label("Motor lead without a filter, longest").fill("60 m")
    page.get_by_label("Energy price", exact=True).fill("0.2")
    expect(page.get_by_role("button", name="Kept")).to_be_visible()  # by itself
    page.get_by_label("Motor lead without a filter, longest").fill("600 m")
    page.get_by_label("Currency").fill("EUR")
    expect(page.get_by_text("allowed: from 5 m up to 150 m").first).to_be_visible()
    expect(page.get_by_role("button", name="1 not kept, all else is")).to_be_visible()
    page.get_by_label("Currency").fill("USD")  # and left at once, before anything is kept
    page.get_by_role("link", name="Round", exact=True).first.click()
    page.get_by_role("link", name="HOUSE-1").click()
    tech.stands_at("drive")
    expect(page.locator("#finding-motor_lead_is_short")).to_contain_text("Clear: motor lead needs no filter")
    page.get_by_role("link", name="A house of its own").click()
    expect(page.get_by_label("Currency")).to_have_value("USD")


def test_what_was_typed_is_understood_or_refused_at_the_field(page: Page) -> None:
    tech = Technician(page)
    tech.opens_the_round()
    tech.makes_a_line("TYPE-1", "typing")
    tech.stands_at("motor")
    tech.enters(Power="7.5 hp")
    expect(page.get_by_text("understood = 5.59 kW")).to_be_visible()
    tech.enters(Power="11,1")
    tech.enters(Speed_at_full_load="1000000000")
    expect(page.get_by_text("allowed: above 0 r/min up to 12000 r/min")).to_be_visible()
    tech.enters(Speed_at_full_load="fast")
    expect(page.get_by_text("Not read: not a number.")).to_be_visible()
    tech.enters(Speed_at_full_load="1455")
    tech.waits_until_saved()
    page.reload()
    tech.stands_at("motor")
    expect(tech.field("Power")).to_have_value("11.1")


def test_going_from_stage_to_stage_keeps_the_line_open(page: Page) -> None:
    tech = Technician(page)
    tech.opens_line("CW-BST-2")
    tech.stands_at("motor")
    expect(page.get_by_role("heading", name="Motor plate")).to_be_visible()
    asked: list[str] = []
    page.on("request", lambda r: asked.append(r.url) if re.search(r"/api/lines/[^/]+$", r.url) else None)
    for stage in ("Settings", "Loop", "Savings", "Survey"):
        tech.goes_to(stage)
    expect(page.get_by_role("heading", name="Motor plate")).to_be_visible()
    assert asked == []


def test_a_trip_gets_its_causes_ranked_by_this_line(page: Page) -> None:
    tech = Technician(page)
    tech.opens_line("CW-BST-2")
    tech.goes_to("Run sheet")
    page.get_by_role("link", name="It tripped: why?").click()
    page.get_by_role("radio", name="Underload, no load").click()
    causes = page.get_by_role("main").get_by_role("listitem")
    expect(causes.first).to_contain_text("No water at the inlet")
    page.get_by_label("Frequency").fill("38")
    expect(causes.first).to_contain_text("Threshold too high for this speed")
    expect(causes.first).to_contain_text("76")
    page.get_by_label("Frequency").fill("49")
    page.get_by_label("Current").fill("4,9")
    expect(causes.first).to_contain_text("Coupling or belt broken")
    expect(page.get_by_text("Lock out, wait for the capacitors")).to_be_visible()


def test_two_browsers_on_one_line_overwrite_nothing(browser: Browser, application: Application) -> None:
    first, second = (Technician(a_device(browser, application).new_page()) for _ in range(2))
    first.opens_the_round()
    first.makes_a_line("TWO-1", "shared")
    second.page.goto(first.page.url)
    for tech in (first, second):
        tech.stands_at("motor")
    first.enters(Speed_at_full_load="1455")
    expect(second.field("Speed at full load")).to_have_value("1455")  # without a reload
    second.page.context.set_offline(True)
    second.enters(Speed_at_full_load="1440")
    first.enters(Speed_at_full_load="1450")
    first.waits_until_saved()
    second.page.context.set_offline(False)
    expect(second.page.get_by_role("alert")).to_contain_text("They differ in Speed at full load")
    second.presses("Take theirs")
    expect(second.field("Speed at full load")).to_have_value("1450")
    first.page.context.set_offline(True)
    first.enters(Power="5.5")
    second.enters(Speed_at_full_load="1441")
    second.waits_until_saved()
    first.page.context.set_offline(False)
    expect(first.page.get_by_role("alert")).to_be_visible()
    first.presses("Keep what I typed")
    first.waits_until_saved()
    expect(second.field("Power")).to_have_value("5.5")
    for tech in (first, second):
        tech.page.context.close()


def test_the_database_killed_under_the_app_loses_nothing(context: BrowserContext, application: Application) -> None:
    tech = Technician(context.new_page())
    tech.opens_the_round()
    tech.makes_a_line("DB-1", "database gone")
    tech.stands_at("motor")
    application.kill_database()
    tech.enters(Speed_at_full_load="1455", Power="5.5")
    tech.waits_until_saved()
    tech.page.reload()
    tech.stands_at("motor")
    expect(tech.field("Speed at full load")).to_have_value("1455")


def test_typed_without_a_link_it_waits_on_the_device_and_is_sent_once_back(
    context: BrowserContext, application: Application
) -> None:
    tech = Technician(context.new_page())
    tech.opens_the_round()
    tech.makes_a_line("OFF-1", "no signal")
    tech.stands_at("motor")
    context.set_offline(True)
    tech.enters(Speed_at_full_load="1455")
    expect(tech.page.get_by_text("Kept on this device")).to_be_visible()
    context.set_offline(False)
    tech.waits_until_saved()


@pytest.mark.parametrize("name", ["<img src=x onerror=alert(1)>", "{{7*7}} {a}", "№7 泵 😀", "W" * 200])
def test_hostile_names_are_shown_as_text(name: str, page: Page) -> None:
    tech = Technician(page)
    tech.opens_the_round()
    tech.makes_a_line(name, name)
    tech.opens_the_round()
    expect(page.get_by_text(name).first).to_be_visible()
    assert page.evaluate("document.documentElement.scrollWidth") <= 1280


def test_a_name_of_ten_thousand_characters_is_refused_in_words(context: BrowserContext) -> None:
    tech = Technician(context.new_page())
    tech.opens_the_round()
    tech.page.get_by_role("button", name="New line").click()
    tech.page.locator("[data-application=booster]").click()
    tech.page.get_by_label("Tag").fill("x" * 10_000)
    tech.presses("Make it")
    expect(tech.page.get_by_role("alert")).to_contain_text("up to 200 characters, not 10000")


def test_a_spoilt_import_is_refused_in_words(context: BrowserContext, tmp_path: Path) -> None:
    half = tmp_path / "half.json"
    half.write_text('{"format": "mainspring-line", "version": 1, "line": {"ta')
    tech = Technician(context.new_page())
    tech.opens_the_round()
    tech.page.get_by_label("Import").set_input_files(half)
    expect(tech.page.get_by_role("alert")).to_contain_text(re.compile("half.json: .*breaks at character"))


def test_a_line_that_is_not_there(context: BrowserContext) -> None:
    page = context.new_page()
    page.goto("/line/nothing/survey")
    expect(page.get_by_role("heading", name="This line cannot be opened")).to_be_visible()


def test_a_taken_port_and_a_clean_end(tmp_path: Path) -> None:
    with socket.socket() as taken:
        taken.bind(("127.0.0.1", 0))
        taken.listen()
        made = Application.__new__(Application)
        made.folder, made.arguments, made.port, made.process = (
            tmp_path / "d",
            ("--empty",),
            taken.getsockname()[1],
            None,
        )
        made.start()
        assert made.port != taken.getsockname()[1]
        assert made.database_pids()
        assert made.stop() == 0
        assert made.database_pids() == []


def test_a_step_test_on_site_becomes_decided_gains(page: Page, starts: Callable[..., StartUp]) -> None:
    line = starts("supply_fan")
    high = float(line.record["sensor"]["air_high"])
    rows = zip(*made(0.9, 12.0, 3.0, 0.0005), strict=True)
    page.goto(f"/line/{line.id}/loop")
    page.get_by_text("Step test on site").click()
    page.get_by_label(re.compile("Time, measured value in Pa")).fill(
        "\n".join(f"{t:g}\t{y * high:.3f}\t{50 * u:.2f}" for t, y, u in rows)
    )
    page.get_by_role("button", name="Read it").click()
    begin = page.get_by_role("row").filter(has_text="SIMC, three dead times")
    expect(begin).to_contain_text(re.compile(r"1\.1\d"))  # 12 s / (0.9 · (9 + 3) s) = 1.11
    begin.get_by_role("button", name="Take it").click()
    dialog = page.get_by_role("alertdialog", name="Decide these gains")
    expect(dialog).to_contain_text("→")
    dialog.get_by_role("button", name="Decide these").click()
    expect(page.get_by_text("Set them in the drive, and read them back.")).to_be_visible()
    kept = {r["id"]: r for r in line.asks("/settings")["rows"]}
    assert abs(kept["pid.gain"]["decided"] - 1.11) < 0.06
    assert "SIMC" in kept["pid.gain"]["decided_why"]


READS = [
    ("/", "/api/round", "CW-BST-2"),
    (f"{FILTER}/savings", "/savings", "years to pay back"),
    (f"{FILTER}/proof", "/proof", "How hard the motor works"),
    (f"{FILTER}/proof#measured", "/measured", "What may be claimed"),
    (f"{FILTER}/story", "/story", "Photograph it"),
    (f"{BOOSTER}/handover", "/readiness", "Not ready yet"),
    (f"{BOOSTER}/settings", "/settings", "Motor power"),
    ("/methods", "/api/methods", "Power the motor must deliver"),
    ("/families", "/api/families", "Calder"),
    (f"/site/{demo_id('orrendale')}", "/api/sites/", "Tariff and money"),
]


@pytest.mark.parametrize(("path", "asks", "shows"), READS)
def test_a_page_shows_that_it_works_and_comes_by_itself_once_it_is_answered(
    path: str, asks: str, shows: str, browser: Browser, application: Application
) -> None:
    page = a_device(browser, application).new_page()  # its console says that it was not answered
    held: list[Route] = []
    wanted = re.compile(re.escape(asks) + r"[^/]*$")

    def first_not(route: Route) -> None:
        if route.request.resource_type != "fetch" or held:
            route.continue_()
        else:
            held.append(route)

    page.route(wanted, first_not)
    page.goto(path)
    expect(page.get_by_role("status").filter(has_text="Working")).to_be_visible()
    expect(page.get_by_text(shows).first).to_have_count(0)
    held[0].fulfill(status=503, json={"title": "x", "status": 503, "detail": "The database does not answer"})
    expect(page.get_by_text("The database does not answer").first).to_be_visible()
    expect(page.get_by_text(shows).first).to_be_visible()
    expect(page.get_by_text("The database does not answer")).to_have_count(0)
    expect(page.get_by_role("status").filter(has_text="Working")).to_have_count(0)
    page.context.close()


OF_SI = re.compile(r"\d[ \u00a0\u202f]?(?:L/s|L/min|m³/h|m³/s|bar|kPa|Pa|°C|mm|km)\b")


@pytest.mark.parametrize("path", [
    f"{BOOSTER}/survey", f"{BOOSTER}/settings", f"{BOOSTER}/loop", f"{BOOSTER}/run", f"{FILTER}/proof",
    f"{FILTER}/proof#machine", f"{FILTER}/savings", f"{FILTER}/savings#owner", f"{FILTER}/handover",
])  # fmt: skip
def test_a_screen_has_one_system_of_units(path: str, page: Page) -> None:
    page.goto(path)
    page.get_by_role("radio", name="US").check(force=True)
    page.wait_for_load_state("networkidle")
    expect(page.get_by_role("radio", name="US")).to_be_checked()
    shown = page.evaluate("document.body.innerText")
    assert OF_SI.findall(shown) == []


def test_the_units_chosen_at_one_site_are_not_those_of_the_next(page: Page) -> None:
    page.goto(f"{BOOSTER}/survey")
    page.get_by_role("radio", name="US").check(force=True)
    page.reload()
    expect(page.get_by_role("radio", name="US")).to_be_checked()
    page.goto("/")
    expect(page.get_by_role("radio", name="SI")).to_be_checked()
    page.goto(f"/line/{demo_id('IRR-P1')}/survey")
    expect(page.get_by_role("radio", name="US")).to_be_checked()  # it stands at a site with US units
    page.goto(f"{FILTER}/survey")
    expect(page.get_by_role("radio", name="US")).to_be_checked()  # the same site as the booster's
