"""A visit, one dated stay at a line, and the instruments of it: the one shape of both, as kept, filed and judged."""

from collections.abc import Mapping
from dataclasses import dataclass
from datetime import date, datetime

from mainspring.core.errors import BadEntry
from mainspring.core.procedure.evidence import NAME_LIMIT, NOTE_LIMIT, check_text

PURPOSES = ("start-up", "fault call", "re-check", "replacement")
INSTRUMENTS_LIMIT = 30
INSTRUMENT_NAME_LIMIT = 200


@dataclass(frozen=True)
class Instrument:
    """What was measured with, and the last day on which its calibration holds."""

    name: str
    due: date | None = None

    def to_data(self) -> dict[str, str]:
        """As kept and filed."""
        return {"name": self.name, **({"due": self.due.isoformat()} if self.due else {})}

    @classmethod
    def from_data(cls, data: object) -> "Instrument":
        """From kept or filed data. Raises BadEntry."""
        if not isinstance(data, Mapping):
            raise BadEntry("instrument", data, "a name, and the date its calibration ends")
        name = check_text("instrument", data.get("name"), INSTRUMENT_NAME_LIMIT, least=1)
        due = data.get("due")
        if due is None:
            return cls(name)
        try:
            return cls(name, date.fromisoformat(due))
        except (TypeError, ValueError):
            raise BadEntry("instrument.due", due, "a date such as 2027-03-31") from None

    def overdue(self, at: datetime) -> bool:
        """Whether its calibration was over at a moment."""
        return self.due is not None and at.date() > self.due


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
