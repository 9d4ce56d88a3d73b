"""The one-page hand-over as PDF, from a template that ships with the package; no network, no foreign files."""

from dataclasses import dataclass
from pathlib import Path

from jinja2 import Environment, FileSystemLoader, select_autoescape

_TEMPLATES = Environment(
    loader=FileSystemLoader(Path(__file__).parent), autoescape=select_autoescape(["html"]), trim_blocks=True
)


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
    steps: list[tuple[str, str]]  # title, state
    missing: list[str]


def render_pdf(page: HandoverPage) -> bytes:
    """The page as PDF bytes: one sheet, set smaller when there is much to say."""
    from weasyprint import HTML  # takes a second to load, which opening the application must not wait for

    template = _TEMPLATES.get_template("handover.html")
    for points in TYPE_SIZES:
        document = HTML(string=template.render(page=page, points=points), url_fetcher=_refuse).render()
        if len(document.pages) == 1:
            break
    pdf: bytes = document.write_pdf()
    return pdf


def _refuse(url: str, *_: object, **__: object) -> dict[str, object]:
    raise ValueError(f"the hand-over page loads nothing from outside, not even {url[:80]}")
