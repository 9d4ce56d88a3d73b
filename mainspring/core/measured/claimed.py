"""What two logs say of a year: the claim, its points, the parts of its uncertainty, and what is refused."""

from dataclasses import dataclass

from mainspring.core.measured.fit import Fit
from mainspring.core.measured.trend import Numbers
from mainspring.core.method import Figure
from mainspring.core.quantity import DIMENSIONS

WAYS: dict[str, str] = {  # what two periods are compared at, and in words
    "flow": "at the same flows",
    "air_flow": "at the same air flows",
    "temperature": "at the same temperatures",
    "pressure": "at the same pressures",
    "frequency": "at the same speeds",
    "schedule": "at the same hours of the week",
    "hours": "hour by hour",
}
NEAR_HOURS, NEAR_DAYS = 3, 2  # readings within a bin, below which nothing is said of it


@dataclass(frozen=True)
class Accuracy:
    """What the meters of a period promise, as the largest relative error."""

    power: float
    flow: float


@dataclass(frozen=True)
class Plate:
    """What the machine itself says of its power: the most that its motors take, and what each m³/s needs at least."""

    most: float | None = None  # W
    rise: float = 0.0  # W for each m³/s, of what is lifted or held whatever the flow
    curve: tuple[tuple[float, float], ...] = ()  # flow and power at full speed by its curve, of all machines [m³/s, W]


@dataclass(frozen=True)
class YearOf:
    """What a year asks for: values of what the periods are compared at, and the time at each [s]."""

    at: Numbers
    seconds: Numbers
    told: str  # where this is from
    entered: bool = False  # and not told by the logs themselves
    within: float = 0.0  # hours that were entered are off by at most such a share


@dataclass(frozen=True)
class Point:
    """One value of what the periods are compared at."""

    at: float
    seconds: float
    before: float
    after: float
    covered: bool
    why: str = ""  # it is not

    @property
    def saved(self) -> float:
        """Energy saved there in a year [J]."""
        return self.seconds * (self.before - self.after) if self.covered else 0.0


@dataclass(frozen=True)
class Part:
    """One part of the uncertainty: what it is from, and its standard uncertainty [J]."""

    id: str
    energy: Figure


@dataclass(frozen=True)
class Refused:
    """What may not be claimed, why, and what would carry it."""

    what: str
    why: str
    need: str


@dataclass(frozen=True)
class Claim:
    """What two logs say of a year."""

    way: str
    dimension: str | None
    year: str
    confidence: float
    before: Fit
    after: Fit
    points: tuple[Point, ...]
    saved: Figure
    taken_before: Figure
    fraction: Figure
    half: Figure
    share: Figure | None
    parts: tuple[Part, ...]
    short_formula: Figure | None  # share of the saving by the guideline's formula
    refused: tuple[Refused, ...]
    sharpen: str
    seconds: float  # of the year that it covers
    seconds_all: float
    plate: Plate = Plate()
    highest: tuple[float, float] = (0.0, 0.0)  # W, nearly the most that was read before and after
    rest: Point | None = None  # the hours at rest, which count though nothing flows
    shared: int = 0  # hours that count before and after alike
    later_first: bool = False  # what is called before was read later
    moved: float | None = None  # m, by how much the level stood otherwise at the same flow
    service: str = ""  # what shows that the service was the same, where nothing measured does

    @property
    def holds(self) -> bool:
        """Whether a figure may be claimed at all."""
        return not any(r.what == "everything" for r in self.refused)


def way_dimension(way: str) -> str | None:
    """The dimension of what the periods are compared at."""
    return way if way in DIMENSIONS else None
