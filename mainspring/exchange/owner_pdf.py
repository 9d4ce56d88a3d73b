"""One page for the owner as PDF: the sentence that matters, and how sure it is."""

from dataclasses import dataclass

from mainspring.core.benches.owner import Owner
from mainspring.exchange.pdf import one_sheet

TYPE_SIZES = (11.5, 10.5, 9.5, 8.5, 7.5)  # points


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
    """The page as PDF bytes: one sheet, set smaller when there is much to say."""
    return one_sheet("owner.html", page.units, TYPE_SIZES, page=page)
