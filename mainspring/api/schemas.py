"""Bodies of requests."""

from typing import Annotated, Any, Literal
from uuid import UUID

from pydantic import AfterValidator, AwareDatetime, BaseModel, ConfigDict, Field, Strict

from mainspring.core.systems import USUAL
from mainspring.exchange.units import Units
from mainspring.service.views import InstrumentView


def _canonical(text: str) -> str:
    """An id as kept: in small letters with hyphens, however it was written; what is no id is found nowhere."""
    try:
        return str(UUID(text))
    except ValueError:
        return text[:80]


Id = Annotated[str, AfterValidator(_canonical), Field(max_length=200)]
Language = Annotated[str, Field(pattern=r"^[A-Za-z-]{0,20}$")]
FamilyId = Annotated[str, Field(pattern=r"^[a-z0-9][a-z0-9_-]{0,39}$")]
By = Annotated[str, Field(min_length=1, max_length=120, description="Who does this")]


class Body(BaseModel):
    """Base of the bodies: nothing unknown, no NaN or infinity."""

    model_config = ConfigDict(extra="forbid", allow_inf_nan=False)


Number = Annotated[float, Strict()]  # true is no number
EntryValue = Number | str | list[str] | list[list[Number]] | None


class EntryBody(Body):
    """One value of a record: SI number, choice or text, or rows of numbers, where it was read, and as it was typed."""

    value: EntryValue = None
    provenance: Literal["plate", "measured", "given", "assumed"] | None = None
    note: str | None = None
    upheld: str | None = None
    typed: str | None = None


Entries = dict[str, EntryBody | EntryValue]
Record = Annotated[
    dict[str, Entries],
    Field(description="Groups of fields: {motor: {rated_speed: {value, provenance}}}; see catalogue"),
]


def plain(record: dict[str, Entries]) -> dict[str, dict[str, Any]]:
    """A record's body as the plain data that core reads."""
    return {group: plain_entries(entries) for group, entries in record.items()}


def plain_entries(entries: Entries) -> dict[str, Any]:
    """One group's entries as plain data."""
    return {n: e.model_dump(exclude_none=True) if isinstance(e, EntryBody) else e for n, e in entries.items()}


class NewSite(Body):
    """A site to be made."""

    id: UUID
    name: str
    units: Units = USUAL
    entries: Entries = {}
    by: By


class SavedSite(Body):
    """A changed site, and the revision that it was changed from."""

    revision: int
    name: str
    units: Units = USUAL
    entries: Entries = {}
    by: By


class NewLine(Body):
    """A line to be made; the client makes the id."""

    id: UUID
    site_id: Id
    tag: str
    title: str = ""
    record: Record = {}
    by: By


class Twin(Body):
    """A twin of a line to be made on the same site; the client makes the id."""

    id: UUID
    tag: str
    title: str = ""
    by: By


class SavedLine(Body):
    """A line's record to be kept, and the revision it was made from."""

    revision: int
    tag: str
    title: str = ""
    record: Record
    by: By


class Draft(Body):
    """A record being typed."""

    record: Record
    site_id: Id | None = None
    line_id: Id | None = None  # whose decided, left and read values are in force


class DraftPoint(Draft):
    """A point dragged on the curves: flow [m³/s] and head [m], or fan pressure [Pa]."""

    flow: Annotated[Number, Field(ge=0, le=1000)]
    rise: Annotated[Number, Field(ge=0, le=1e6)]


class TripDraft(Draft):
    """A trip and its moment, on a record."""

    kind: str
    when: str = "steady"
    frequency: Annotated[Number, Field(ge=0, le=400)] | None = None
    current: Annotated[Number, Field(ge=0, le=5000)] | None = None
    bus_voltage: Annotated[Number, Field(ge=0, le=2000)] | None = None


Seconds = Annotated[Number, Field(ge=0, le=200_000)]


class LoopDraft(Draft):
    """A loop to be tried: knobs moved (SI, frequencies in Hz), what is asked of it, and what happens meanwhile.

    `own` is a demand as (time [s], share of full); `lost_at` and `dry_at` break the sensor's wire and let it run dry,
    `second_at` closes the contact of the second setpoint; `measured` is the frequency that held at no demand, as read.
    """

    tried: Annotated[dict[str, Number], Field(max_length=60)] = {}
    profile: Annotated[str, Field(max_length=40)] | None = None
    own: Annotated[list[tuple[Number, Number]], Field(max_length=20_000)] | None = None
    duration: Seconds | None = None
    lost_at: Seconds | None = None
    dry_at: Seconds | None = None
    filling: bool | None = None
    coasts: bool | None = None
    second_at: Seconds | None = None
    measured: Annotated[Number, Field(ge=0, le=400)] | None = None
    rows: Annotated[int, Field(ge=50, le=4000)] | None = None


class SwingBody(Body):
    """A swing kept up by a relay or a limit cycle: halves of both swings as shares, and the period [s]."""

    relay: Number
    swing: Number
    hysteresis: Number = 0.0
    period: Number


class FormsBody(Body):
    """A controller in the ideal form, and what the drive counts as 100 % of output and feedback."""

    gain: Number
    integral_time: Number
    derivative_time: Number
    output_share: Number
    feedback_share: Number


class DemandBody(Body):
    """A demand as a table of time in s and % of full."""

    text: Annotated[str, Field(max_length=900_000)]


class LogDraft(LoopDraft):
    """A log of the plant as a table, and the parameters to fit."""

    text: Annotated[str, Field(max_length=900_000)]
    output: Literal["Hz", "%"] = "Hz"
    fit: Annotated[list[str], Field(max_length=10)]


class DraftFigure(LoopDraft):
    """A figure of a record being typed, or of a loop being tried."""

    key: str


Kind = Literal[
    "start",
    "tick",
    "choice",
    "readings",
    "row",
    "list",
    "picked",
    "log",
    "unit",
    "turns",
    "temporary",
    "back",
    "photo",
    "note",
    "override",
]


class RunningClock(Body):
    """The clock of a device that cannot be set: one run of its application, and the seconds since that began."""

    device: UUID
    ran: Annotated[float, Field(ge=0, le=1e9, allow_inf_nan=False)]


class NewEvidence(Body):
    """Evidence for a step; the client makes the id.

    `at` is when it was made, where that is not now, without a link or, with `paper`, by hand and typed in afterwards;
    `seen` are the ids of what was known to be in force, `sheet` the count at which the run sheet was seen. `running`
    is the device's own clock, by which a wait without a link is told.
    """

    id: UUID
    step: str
    kind: Kind
    data: dict[str, Any] = {}
    by: By
    note: str = ""
    at: AwareDatetime | None = None
    paper: bool = False
    instrument: InstrumentView | None = None
    seen: list[str] | None = None
    sheet: Annotated[int, Field(ge=0, le=2**31 - 1)] | None = None
    running: RunningClock | None = None


class VisitEntry(Body):
    """A visit opened, changed or closed; `seen` are the instruments as its sender saw them before the change."""

    by: By
    purpose: Literal["start-up", "fault call", "re-check", "replacement"]
    instruments: list[InstrumentView] = []
    seen: list[InstrumentView] = []
    note: str = ""
    closed: bool = False


class SettingValue(Body):
    """A setting as found, decided or left; null takes it away. `seen` is what stood there when it was made."""

    value: Number | str | None
    why: Annotated[str, Field(max_length=500)] = ""  # asked of what is decided
    seen: Number | str | None = None
    by: By


class Who(Body):
    """Who does this."""

    by: By


class Calculation(Body):
    """Inputs of a method as typed, with or without unit."""

    inputs: dict[str, str]
