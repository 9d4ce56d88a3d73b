"""The one-page hand-over as PDF."""

from dataclasses import dataclass

from mainspring.exchange.pdf import one_sheet

TYPE_SIZES = (8.0, 7.4, 6.8, 6.2)  # points


@dataclass(frozen=True)
class HandoverPage:
    """What the page shows, as text in the reader's units."""

    site: str
    tag: str
    title: str
    printed: str
    stations: list[tuple[str, str, str, str]]  # label, key figure, second line, severity
    findings: list[tuple[str, str, str]]  # severity, title, because
    baseline: list[tuple[str, str, str]]  # label, read, expected
    proof: list[tuple[str, str, str]]  # method, load, bounds
    savings: list[tuple[str, str]]
    settings: list[tuple[str, str, str, str]]  # label, planned, left, verdict
    steps_done: str
    steps: list[tuple[str, str]]  # of those not done: title, state
    standing: list[tuple[str, str]]  # what was left out or defeated: title, who and why
    missing: list[str]
    units: str


def render_pdf(page: HandoverPage) -> bytes:
    """The page as PDF bytes: one sheet, set smaller when there is much to say."""
    return one_sheet("handover.html", page.units, TYPE_SIZES, page=page)
