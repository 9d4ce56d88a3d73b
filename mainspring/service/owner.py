"""What the owner is told: the sentence on the screen, and the page."""

import contextlib

from pydantic import BaseModel

from mainspring.core.benches.owner import Owner, owner_words
from mainspring.core.benches.savings import Modelled
from mainspring.core.benches.spots import Spots, spots_of
from mainspring.core.errors import MainspringError, NoSolution
from mainspring.core.measured.claimed import Claim
from mainspring.exchange.owner_pdf import OwnerPage, render_owner
from mainspring.service.measured import Measured
from mainspring.service.opened import Opened, OpenLines
from mainspring.store import repository


class OwnerView(BaseModel):
    """The saving in plain words; empty where nothing is known."""

    headline: str
    saved: str
    sure: str
    rests: str
    surer: str
    not_counted: list[str]
    measured: bool


class Owners:
    """What the owner is told."""

    def __init__(self, lines: OpenLines, measured: Measured) -> None:
        self.lines, self.measured = lines, measured

    def view(self, line_id: str) -> OwnerView:
        """The words for the screen."""
        found = self._words(self.lines.open(line_id))
        if found is None:
            return OwnerView(headline="", saved="", sure="", rests="", surer="", not_counted=[], measured=False)
        return OwnerView.model_validate(found, from_attributes=True)

    def pdf(self, line_id: str, units: str, paper: str) -> tuple[str, bytes]:
        """The tag, and the page. Raises NoSolution where nothing is known of a saving."""
        opened = self.lines.open(line_id)
        found = self._words(opened)
        if found is None:
            raise NoSolution("nothing is known of a saving yet: enter the hours at each flow, or read a log")
        claimed = opened.claimed
        page = OwnerPage(
            site=opened.site.name,
            tag=opened.kept.tag,
            title=opened.kept.title,
            words=found,
            share=round(100 * (1 - found.fraction)) if 0 <= found.fraction <= 1 else None,
            by=f"{claimed.by}, {claimed.at:%Y-%m-%d}" if claimed is not None and found.measured else "",
            printed=f"{repository.now():%Y-%m-%d}",
            paper=paper,
            units=units,
        )
        return opened.kept.tag, render_owner(page)

    def _words(self, opened: Opened) -> Owner | None:
        return owner_words(opened.line, *_known_of(opened, self.measured.claim_of(opened)))


def _known_of(opened: Opened, claim: Claim | None) -> tuple[Modelled | None, Claim | None, Spots | None]:
    """All that is known of a line's saving: by the model, by its logs, by spot readings."""
    spots: Spots | None = None
    with contextlib.suppress(MainspringError):
        spots = spots_of(opened.line)
    return opened.judged.modelled, claim, spots
