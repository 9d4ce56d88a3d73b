"""One page for the owner as PDF: the sentence that matters, and how sure it is."""

from dataclasses import dataclass

from mainspring.core.benches.owner import Owner
from mainspring.exchange.pdf import laid_out


@dataclass(frozen=True)
class OwnerPage:
    """What the page shows."""

    site: str
    tag: str
    title: str
    words: Owner
    share: int | None  # of a hundred units before that are still taken
    by: str
    printed: str
    paper: str
    units: str


def render_owner(page: OwnerPage) -> bytes:
    """The page as PDF bytes."""
    pdf: bytes = laid_out("owner.html", page.units, page=page).write_pdf()
    return pdf
