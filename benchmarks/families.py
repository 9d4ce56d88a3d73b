"""Two hundred families of four hundred rows: list, one, search among its rows, switch to another; in the browser."""

import tempfile
from dataclasses import replace
from pathlib import Path

from playwright.sync_api import sync_playwright

from mainspring.core.families import Family, Parameter
from mainspring.exchange.family_file import family_json
from mainspring.service.families import shipped_families, summary_of
from mainspring.store import family_table
from mainspring.store.database import open_database, transact
from mainspring.store.server import attach
from tests.ui.conftest import ARGUMENTS, CHROMIUM, Application

FILTER = """(text) => new Promise((done) => {
  const field = document.querySelector('input[type=search]');
  const begin = performance.now();
  field.value = text; field.dispatchEvent(new InputEvent('input', { bubbles: true }));
  requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - begin)));
})"""

# from a touch on a link to the first frame in which what it leads to stands there
GOES = """([link, wanted, title]) => new Promise((done) => {
  const begin = performance.now();
  document.querySelector(link).click();
  const there = () => document.querySelector(wanted) && document.querySelector('h1')?.textContent.includes(title);
  const look = () => (there() ? done(performance.now() - begin) : requestAnimationFrame(look));
  requestAnimationFrame(() => requestAnimationFrame(look));
})"""
TOUCH = """() => new Promise((done) => {
  const begin = performance.now();
  document.querySelectorAll('[role=option]')[30].click();
  requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - begin)));
})"""


def measure(families: float = 200, rows: float = 400) -> dict[str, float]:
    """Milliseconds until the list, one family and another stand there, of a search in it, and of one key's answer."""
    with tempfile.TemporaryDirectory(prefix="ms-families-") as folder, sync_playwright() as playwright:
        application = Application(Path(folder))
        database = open_database(attach(Path(folder)) or "")
        for n in range(int(families)):
            made = _family(n, int(rows))
            transact(
                database,
                lambda m=made: family_table.put_family(m.id, 0, m.digest, summary_of(m), family_json(m), "Ana"),
            )
        database.close_all()
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        page = browser.new_context(base_url=application.url, viewport={"width": 1280, "height": 800}).new_page()
        page.goto("/methods")
        page.get_by_role("link", name="Drives").wait_for()
        # the code of a page comes with the first look at it
        page.evaluate(GOES, ["a[href='/families']", "main li", "Families"])
        page.evaluate(GOES, ["a[href='/methods']", "main", "Methods"])
        listed = page.evaluate(GOES, ["a[href='/families']", "main li", "Families"])
        first = page.evaluate(GOES, ["a[href='/families/own-9']", "[role=option]", "Own 9"])
        page.evaluate(GOES, ["a[href='/families']", "main li", "Families"])
        opened = page.evaluate(GOES, ["a[href='/families/own-7']", "[role=option]", "Own 7"])
        search = max(page.evaluate(FILTER, text) for text in ("7-12", "ramp", "nothing", ""))
        row = page.evaluate(TOUCH)
        page.evaluate(GOES, ["a[href='/families']", "main li", "Families"])
        switched = page.evaluate(GOES, ["a[href='/families/own-8']", "[role=option]", "Own 8"])
        browser.close()
        application.stop()
    return {
        "list_ms": listed,
        "first_ms": first,
        "open_ms": opened,
        "search_ms": search,
        "row_ms": row,
        "switch_ms": switched,
    }


def _family(number: int, rows: int) -> Family:
    """A shipped family and as many more rows as a real drive has that nobody mapped."""
    base = shipped_families()[("calder", "tern", "oriel", "wren")[number % 4]]
    more = tuple(Parameter(f"{number}-{n}", {"en": f"Something else {n}"}) for n in range(rows))
    return replace(base, id=f"own-{number}", name=f"Own {number} ", parameters=(*base.parameters, *more)[:rows])
