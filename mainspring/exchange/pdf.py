"""Pages as PDF, from templates that ship with the package; no network, no foreign files."""

from collections.abc import Sequence
from pathlib import Path
from typing import Any

from jinja2 import Environment, FileSystemLoader, select_autoescape
from PIL import ImageFile

from mainspring.core.told import told

_TEMPLATES = Environment(
    loader=FileSystemLoader(Path(__file__).parent), autoescape=select_autoescape(["html"]), trim_blocks=True
)


def laid_out(template: str, units: str, **context: Any) -> Any:
    """A template laid out on its pages, its plain texts in a unit system; it can tell its pages and be written."""
    from weasyprint import HTML  # takes a second to load, which opening the application must not wait for

    ImageFile.LOAD_TRUNCATED_IMAGES = False  # its import lets cut-off pictures pass, also those of plates

    html = told(_TEMPLATES.get_template(template).render(**context), units)
    return HTML(string=html, url_fetcher=_refuse).render()


def one_sheet(template: str, units: str, sizes: Sequence[float], **context: Any) -> bytes:
    """A template as PDF bytes, in the first of some type sizes [points] at which it fits one sheet, else the last."""
    for points in sizes:
        document = laid_out(template, units, points=points, **context)
        if len(document.pages) == 1:
            break
    pdf: bytes = document.write_pdf()
    return pdf


def _refuse(url: str, *_: object, **__: object) -> dict[str, object]:
    raise ValueError(f"the page loads nothing from outside, not even {url[:80]}")
