"""The Round with two thousand lines of forty sites: first paint, bytes on the wire, search and filter."""

import tempfile
import time
import uuid
from pathlib import Path

from playwright.sync_api import sync_playwright

from mainspring.demo import pumps
from mainspring.demo.load import family_of
from mainspring.service.lines import make_line
from mainspring.store import repository
from mainspring.store.database import open_database, transact
from mainspring.store.server import attach
from tests.ui.conftest import ARGUMENTS, CHROMIUM, Application

FILTER = """(text) => new Promise((done) => {
  const field = document.querySelector('input.find');
  const begin = performance.now();
  field.value = text; field.dispatchEvent(new InputEvent('input', { bubbles: true }));
  requestAnimationFrame(() => requestAnimationFrame(() => done(performance.now() - begin)));
})"""


def measure(lines: float = 2000, sites: float = 40) -> dict[str, float]:
    """First paint [s], kilobytes of the Round, nodes, and milliseconds of a search."""
    with tempfile.TemporaryDirectory(prefix="ms-round-") as folder, sync_playwright() as playwright:
        application = Application(Path(folder), "--empty")
        database = open_database(attach(Path(folder)) or "")
        for n in range(int(sites)):
            transact(database, lambda n=n: _site(n, int(lines / sites)))  # type: ignore[misc]
        database.close_all()
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        page = browser.new_context(base_url=application.url, viewport={"width": 1280, "height": 800}).new_page()
        size: list[int] = []
        page.on("requestfinished", lambda r: size.append(r.sizes()["responseBodySize"]) if "round" in r.url else None)
        page.goto("/")
        page.get_by_role("listitem").first.wait_for()
        begin = time.perf_counter()
        page.reload()
        page.get_by_role("listitem").first.wait_for()
        first = time.perf_counter() - begin
        nodes = page.evaluate("document.querySelectorAll('*').length")
        searches = [page.evaluate(FILTER, text) for text in ("p-17", "site 3", "nothing", "", "pump")]
        browser.close()
        application.stop()
    return {"first_paint_s": first, "round_kb": max(size) / 1e3, "nodes": nodes, "search_ms": max(searches)}


def _site(number: int, lines: int) -> None:
    site = str(uuid.uuid4())
    repository.create_site(site, f"Site {number}", "si", {}, "Ana")
    for n in range(lines):
        make_line(str(uuid.uuid4()), site, f"P-{number}-{n}", "pump", pumps.BOOSTER, "Ana", family_of)
