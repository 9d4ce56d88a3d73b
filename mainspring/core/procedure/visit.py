"""A visit, one dated stay at a line, and the instruments of it: the one shape of both, as kept, filed and judged."""

from dataclasses import dataclass
from datetime import datetime

from mainspring.core.errors import BadEntry
from mainspring.core.procedure.evidence import NAME_LIMIT, NOTE_LIMIT, Instrument, check_text

PURPOSES = ("start-up", "fault call", "re-check", "replacement")
INSTRUMENTS_LIMIT = 30


@dataclass(frozen=True)
class Visit:
    """One dated stay at a line; `paper` where all of it was typed in afterwards."""

    id: str
    purpose: str
    by: str
    at: datetime
    instruments: tuple[Instrument, ...] = ()
    note: str = ""
    closed: datetime | None = None
    paper: bool = False


def check_visit(visit: Visit) -> Visit:
    """The visit, if it can be kept. Raises BadEntry."""
    if visit.purpose not in PURPOSES:
        raise BadEntry("purpose", visit.purpose, ", ".join(PURPOSES))
    check_text("by", visit.by, NAME_LIMIT, least=1)
    check_text("note", visit.note, NOTE_LIMIT)
    if len(visit.instruments) > INSTRUMENTS_LIMIT:
        raise BadEntry("instruments", len(visit.instruments), f"up to {INSTRUMENTS_LIMIT}")
    return visit


def open_visit(visits: "list[Visit] | tuple[Visit, ...]") -> Visit | None:
    """The visit in hand: the latest that is not closed."""
    return next((v for v in reversed(visits) if v.closed is None and not v.paper), None)
