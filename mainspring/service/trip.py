"""Why a drive tripped: the causes ranked for one line."""

from pydantic import BaseModel

from mainspring.core.derived import Derived
from mainspring.core.diagnosis import MOMENTS, Moment, rank_causes, trips_of
from mainspring.core.line import Line
from mainspring.service.keys import Of
from mainspring.service.present import present
from mainspring.service.views import Ledger, Part


class CauseView(BaseModel):
    """One possible cause: how it stands on this line, and what would tell it apart."""

    id: str
    title: str
    weight: float
    because: list[Part]
    measure: str


class TripView(BaseModel):
    """Causes of a trip, the likeliest first."""

    causes: list[CauseView]


class TripWords(BaseModel):
    """The classes of trip that a line can have, and the moments to choose from."""

    trips: list[list[str]]
    moments: list[list[str]]


def trip_words(line: Line) -> TripWords:
    """What may be chosen on a line."""
    return TripWords(trips=[list(t) for t in trips_of(line).items()], moments=[list(m) for m in MOMENTS.items()])


def trip_view(line: Line, kind: str, moment: Moment) -> tuple[TripView, Ledger]:
    """Causes of a trip on a record, with the ledger of their figures. Raises BadEntry."""
    ledger = Ledger()
    causes = [
        present(None, CauseView, c, weight=round(c.weight, 2), because=ledger.sentence(Of.CAUSE / c.id, c.because))
        for c in rank_causes(kind, line, Derived(line), moment)
    ]
    return TripView(causes=causes), ledger
