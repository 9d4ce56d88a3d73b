"""From a key pressed in the browser to the verdict on the screen, and the share that the server takes."""

import statistics
import tempfile
from pathlib import Path

from playwright.sync_api import sync_playwright

from benchmarks._common import p95
from tests.ui.conftest import ARGUMENTS, CHROMIUM, Application
from tests.ui.technician import Technician

WATCH = """(wanted) => new Promise((done) => {
  const field = document.getElementById('motor.rated_speed');
  const sheet = document.querySelector('aside[aria-label=Findings]');
  const begin = performance.now();
  new MutationObserver((_, watcher) => {
    if (sheet.textContent.includes(wanted)) { watcher.disconnect(); done(performance.now() - begin); }
  }).observe(sheet, { childList: true, subtree: true, characterData: true });
  field.value = wanted; field.dispatchEvent(new InputEvent('input', { bubbles: true }));
})"""


def measure(keys: float = 60) -> dict[str, float]:
    """Milliseconds from keystroke to the finding that carries the new number: median, p95, and the server's part."""
    with tempfile.TemporaryDirectory(prefix="ms-bench-") as folder, sync_playwright() as playwright:
        application = Application(Path(folder))
        browser = playwright.chromium.launch(executable_path=CHROMIUM, args=ARGUMENTS)
        page = browser.new_context(base_url=application.url, viewport={"width": 1280, "height": 800}).new_page()
        server: list[float] = []
        page.on(
            "requestfinished",
            lambda r: server.append(r.timing["responseEnd"] - r.timing["requestStart"]) if "assess" in r.url else None,
        )
        technician = Technician(page)
        technician.opens_line("CW-BST-2")
        technician.goes_to("Survey")
        technician.stands_at("motor")
        found = [page.evaluate(WATCH, str(1440 + i % 20)) for i in range(int(keys) + 5)][5:]
        browser.close()
        application.stop()
    return {
        "keystroke_ms": statistics.median(found),
        "keystroke_p95_ms": p95(found),
        "server_ms": statistics.median(server),
        "server_share": statistics.median(server) / statistics.median(found),
    }
