"""A technician at the screen: tests read like the job."""

import io
import re
from collections.abc import Mapping
from pathlib import Path
from typing import Any

from PIL import Image
from playwright.sync_api import Locator, Page, expect

from mainspring.core.procedure import Reading, Step
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.told import told
from mainspring.demo.evidence import answers

STATIONS = {"supply": "1", "drive": "2", "motor": "3", "pump": "4", "system": "5", "sensor": "6"}


class Technician:
    """Drives one page."""

    def __init__(self, page: Page) -> None:
        self.page = page

    # going places

    def opens_the_round(self) -> None:
        self.page.goto("/")
        expect(self.page.get_by_role("heading", name="The round")).to_be_visible()

    def makes_a_line(self, tag: str, title: str, application: str = "booster", site: str = "Orrendale Baths") -> None:
        self.page.get_by_role("button", name="New line").click()
        self.page.locator(f"[data-application={application}]").click()
        sites = self.page.get_by_label("Site").first
        if site in sites.inner_text():
            sites.select_option(site)
        else:
            sites.select_option("A new site …")
            self.page.get_by_label("Name of the site").fill(site)
        self.page.get_by_label("Tag").fill(tag)
        self.page.get_by_label("What it is").fill(title)
        self.page.get_by_role("button", name="Make it").click()
        expect(self.page.get_by_role("heading", name=tag)).to_be_visible()

    def opens_line(self, tag: str) -> None:
        self.opens_the_round()
        self.page.get_by_role("link").filter(has_text=tag).click()
        expect(self.page.get_by_role("heading", name=tag)).to_be_visible()

    def goes_to(self, stage: str) -> None:
        self.page.get_by_label("Stages of this line").get_by_role("link", name=stage).click()

    def stands_at(self, station: str, tab: str = "") -> None:
        # by its digit, as on a keyboard, once the line is open and no field has the focus
        expect(self.page.get_by_label("Drive line")).to_be_visible()
        self.page.evaluate("document.activeElement && document.activeElement.blur()")
        self.page.keyboard.press(STATIONS[station])
        here = self.page.locator(".station").nth(int(STATIONS[station]) - 1)
        expect(here).to_have_attribute("aria-pressed", "true")
        if tab:
            self.page.get_by_role("tab", name=tab).click()

    # entering

    def enters(self, **fields: str) -> None:
        """Fields by their label, spaces as underscores; choices by the label of the choice."""
        for label, value in fields.items():
            field = self.finds(label.replace("_", " "))
            if field.evaluate("e => e.tagName") == "SELECT":
                field.select_option(label=value)
            else:
                field.fill(value)

    def finds(self, label: str) -> Locator:
        """The field on the bench, among those asked first or on demand."""
        for tab in ("", "On demand", "Asked first"):
            if tab and self.page.get_by_role("tab", name=tab).count():
                self.page.get_by_role("tab", name=tab).click()
            if self.field(label).count():
                break
        return self.field(label)

    def ticks(self, *conditions: str) -> None:
        """Conditions of a place, asked first."""
        self.page.get_by_role("tab", name="Asked first").click()
        for condition in conditions:
            self.page.get_by_role("checkbox", name=condition).check()

    def field(self, label: str) -> Locator:
        return self.page.get_by_label(re.compile(f"^{re.escape(label)}$", re.IGNORECASE))

    def enters_points(self, first: str, second: str, rows: list[tuple[str, str]]) -> None:
        for i, (one, two) in enumerate(rows, 1):
            self.page.get_by_label(f"{first}, row {i}", exact=True).fill(one)
            self.page.get_by_label(f"{second}, row {i}", exact=True).fill(two)

    def chooses_units(self, system: str) -> None:
        self.page.get_by_text(system, exact=True).click()

    def waits_until_saved(self) -> None:
        expect(self.page.get_by_role("status").filter(has_text="Saved")).to_be_visible()

    # seeing

    def sees_finding(self, title: str, words: str = "") -> Locator:
        found = self.page.locator("article").filter(has_text=re.compile(re.escape(title), re.IGNORECASE))
        expect(found.first).to_be_attached()
        if not found.first.is_visible():
            self.unfolds_what_is_clear()
        expect(found.first).to_be_visible()
        if words:
            expect(found.first).to_contain_text(words)
        return found.first

    def unfolds_what_is_clear(self) -> None:
        fold = self.page.locator("aside details:not([open]) > summary")
        if fold.count():
            fold.first.click()

    def sees_no_finding(self, title: str) -> None:
        expect(self.page.get_by_role("article").filter(has_text=re.compile(re.escape(title), re.I))).to_have_count(0)

    def takes_the_correction(self, title: str) -> None:
        self.sees_finding(title).get_by_role("button", name=re.compile(r"\?$")).click()

    def sees_joint(self, joint: str, severity: str) -> None:
        expect(self.page.get_by_label(f"Joint {joint}: {severity}")).to_be_visible()

    def opens_working(self, number: Locator) -> Locator:
        number.click()
        sheet = self.page.get_by_label("Working", exact=True)
        expect(sheet.locator("section").first).to_be_visible()
        return sheet

    # the run sheet

    def is_at_step(self, title: str) -> None:
        expect(self.page.get_by_role("heading", name=title, level=2)).to_be_visible()

    def presses(self, name: str) -> None:
        self.page.get_by_role("button", name=name, exact=True).click()

    def reads(self, **readings: str) -> None:
        for label, value in readings.items():
            self.page.get_by_label(label.replace("_", " "), exact=True).fill(value)

    def ticks_off(self, *items: str) -> None:
        for item in items:
            self.page.get_by_role("checkbox", name=told(item), exact=True).check()

    def proves(self, step: Step) -> None:
        """The step in hand, with readings as the model expects them, the way its proof is entered."""
        self.is_at_step(step.title)
        for kind, data, _ in answers(step):
            match kind:
                case "start":
                    self.presses("Isolator open: start the clock")
                case "tick" if step.proof == "put_back":
                    self.ticks_off(*step.items.values())
                    self.presses("Nothing is left behind")
                case "tick":
                    self.presses("The wait is over" if step.seconds else "Done")
                case "choice":
                    self.presses((step.choices or {})[data["choice"]])
                case "list":
                    self.ticks_off(*step.items.values())
                    self.presses("All seen")
                case "picked":
                    self.ticks_off(*(step.items[i] for i in data))
                    self.presses("That is all of it")
                case "readings":
                    self._fills(step.readings, data)
                    self.ticks_off(*step.items.values())
                    self.presses("Keep these readings")
                case "turns":
                    self._fills(step.readings, data)
                    self.presses((step.choices or {})[data["choice"]])
                case "unit":
                    self.page.get_by_label(f"Serial number of unit {data['unit']}").fill(data["serial"])
                    self.ticks_off(*step.items.values())
                    self.presses(f"Keep unit {data['unit']}")
                case "row":
                    if self._is_not_asked(step, data):
                        continue
                    self.fills_the_row(step, data)
                    self.page.get_by_role("button", name=re.compile("^Keep the .* row$")).click()
        if step.proof == "photo":
            self.takes_a_photo()

    def turns_it_round(self, steps: Mapping[str, Step], leads: str = "U and V swapped") -> None:
        """After a wrong direction: lock, wait and measure once more, two leads swapped, power again."""
        # the server's sheet is here: what was ticked before is open again
        expect(self.page.get_by_label("Steps").get_by_role("button", name="Turn it round")).to_be_visible()
        for step in ("isolate.lock_out", "isolate.capacitors", "isolate.absence"):
            self.proves(steps[step])
        self.is_at_step("Turn it round")
        self.presses(leads)
        self.proves(steps["power.energise"])

    def _fills(self, readings: tuple[Reading, ...], data: dict[str, Any]) -> None:
        for reading in readings:
            if reading.id in data:
                exact = reading.tolerance is not None and reading.tolerance < 1e-6
                text = DIMENSIONS[reading.dimension].show(data[reading.id], digits=9 if exact else None)
                self.page.get_by_label(reading.label, exact=True).fill(text)
                if reading.twice:
                    self.page.get_by_label(f"{reading.label}, read again", exact=True).fill(text)

    def _row(self, step: Step, data: dict[str, Any]) -> Locator:
        """The row at a reference; rows that only the server knows of stand between."""
        assert step.table is not None
        dimension = step.table.references[0].dimension or "ratio"
        shown = DIMENSIONS[dimension].show(data["reference"])
        named = self.page.get_by_role("button", name=shown, exact=True)
        found = self.page.get_by_role("row").filter(has=named)
        if found.count() == 1:
            return found
        at = next(i for i, r in enumerate(step.table.references) if float(r) == data["reference"])
        return self.page.get_by_role("table").get_by_role("row").nth(at + 1)

    def _is_not_asked(self, step: Step, data: dict[str, Any]) -> bool:
        """Whether the limits in force keep the drive from running at that row."""
        return "below the lowest speed" in self._row(step, data).inner_text()

    def fills_the_row(self, step: Step, data: dict[str, Any]) -> None:
        assert step.table is not None
        row = self._row(step, data)
        for i, column in enumerate(step.table.columns):
            if column.id in data:
                text = DIMENSIONS[column.dimension].show(data[column.id])
                row.get_by_role("textbox").nth(i).fill(text)

    def takes_a_photo(self) -> None:
        image = io.BytesIO()
        Image.new("RGB", (640, 480), "steelblue").save(image, "JPEG")
        photo = {"name": "wiring.jpg", "mimeType": "image/jpeg", "buffer": image.getvalue()}
        self.page.get_by_label("Take the photo").set_input_files(photo)  # type: ignore[arg-type]

    def waits_until_sent(self) -> None:
        expect(self.page.get_by_text("waiting to be sent")).to_have_count(0)

    def has_done(self, done: int, steps: int) -> None:
        expect(self.page.get_by_text(f"{done} of {steps} done")).to_be_visible()

    def goes_to_step(self, title: str) -> None:
        self.page.get_by_label("Steps").get_by_role("button", name=re.compile(f"^{re.escape(title)}")).click()
        self.is_at_step(title)

    def downloads(self, name: str, folder: Path) -> Path:
        with self.page.expect_download() as waiting:
            self.page.get_by_role("link", name=name).click()
        target = folder / waiting.value.suggested_filename
        waiting.value.save_as(target)
        return target
