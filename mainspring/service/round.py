"""The Round: every line of every site, what needs attention first."""

import contextlib
from typing import Any

from mainspring.core.progress import STAGES
from mainspring.service.opened import OpenLines
from mainspring.service.summary import SUMMARY_VERSION, summary_of
from mainspring.service.views import RoundLine, RoundSite, RoundView
from mainspring.store import repository
from mainspring.store.errors import StoreUnavailable
from mainspring.store.repository import Summary


class Round:
    """Every site and line, from what is kept with the lines: a fixed number of queries."""

    def __init__(self, lines: OpenLines) -> None:
        self.lines = lines
        self._made: tuple[str, bytes] = ("", b"")

    def mark(self) -> str:
        """What moves with every write to any line or site."""
        return ".".join(str(n) for n in self.lines.transact(repository.state_of_everything))

    def json(self) -> bytes:
        """The Round as JSON, made once for as long as nothing is written."""
        mark = self.mark()
        if self._made[0] != mark:
            self._made = (mark, self.view().model_dump_json().encode())
        return self._made[1]

    def view(self) -> RoundView:
        """The Round for the screen."""

        def read() -> tuple[list[repository.KeptSite], list[Summary]]:
            return repository.sites(), repository.summaries()

        sites, lines = self.lines.transact(read)
        seqs = {site.id: site.seq for site in sites}
        by_site: dict[str, list[RoundLine]] = {site.id: [] for site in sites}
        for kept in lines:
            by_site[kept.site_id].append(_round_line(kept, self._summary(kept, seqs[kept.site_id])))
        return RoundView(
            stages=STAGES,
            sites=[
                RoundSite(
                    id=site.id,
                    name=site.name,
                    units=site.units,
                    stops=sum(line.stops for line in by_site[site.id]),
                    saved=sum(line.saved or 0.0 for line in by_site[site.id]),
                    measured=sum(line.measured or 0.0 for line in by_site[site.id]),
                    lines=sorted(by_site[site.id], key=_what_first),
                )
                for site in sorted(sites, key=lambda s: (not any(line.stops for line in by_site[s.id]), s.name))
            ],
        )

    def _summary(self, kept: Summary, site_seq: int) -> dict[str, Any]:
        """What is kept of a line, or made anew where its site has changed or an older application kept it."""
        if kept.summary.get("version") == SUMMARY_VERSION and kept.summary.get("site") == site_seq:
            return kept.summary
        opened = self.lines.open(kept.id)
        summary = summary_of(opened)
        with contextlib.suppress(StoreUnavailable):  # it only saves the next who asks the work
            self.lines.transact(lambda: repository.save_summary(kept.id, opened.head.seq, summary))
        return summary


def _what_first(line: RoundLine) -> tuple[int, bool, str]:
    return -line.stops, line.words.startswith("Handed over"), line.tag


def _round_line(kept: Summary, summary: dict[str, Any]) -> RoundLine:
    return RoundLine(
        id=kept.id,
        tag=kept.tag,
        title=kept.title,
        states=[summary["states"][s] for s in STAGES],
        words=summary["words"],
        severity=summary["severity"],
        headline=summary["headline"],
        stops=summary["stops"],
        power=summary["power"],
        wanted=summary["wanted"],
        wanted_dimension=summary["wanted_dimension"],
        saved=summary["saved"],
        measured=summary["measured"],
        behind=summary["behind"],
        updated_at=kept.updated_at,
    )
