"""What a year asks for: the flows, how long each, and in which months, days and hours, so that prices meet them."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from mainspring.core.errors import BadEntry, NotKnown
from mainspring.core.line import Line
from mainspring.core.method import DERIVED, Figure, In, Leaf, method
from mainspring.core.quantity import HourSecond

MONTHS, DAYS, HOURS = 12, 7, 24
HOUR = 3600.0
YEAR = 8760 * HOUR
_LENGTHS = (31, 28, 31, 30, 31, 30, 31, 31, 30, 31, 30, 31)
Slots = NDArray[np.float64]  # (month, day of the week, hour): seconds


def calendar() -> Slots:
    """Seconds of each month, day of the week and hour in a year of 365 days that begins on a Monday."""
    months = np.repeat(np.arange(MONTHS), _LENGTHS)
    found = np.zeros((MONTHS, DAYS, HOURS))
    np.add.at(found, (months, np.arange(365) % DAYS), HOUR)
    return found


CALENDAR = calendar()


@method("t = Σ tᵢ", DERIVED, words=True)
def year_hours(hours: Annotated[Sequence[HourSecond], In("at each flow")]) -> HourSecond:
    """Hours of a year that a duty covers.

    >>> float(year_hours([3600.0, 7200.0]))
    10800.0
    """
    return sum(hours)


@dataclass(frozen=True)
class Asked:
    """One flow that the year asks for."""

    flow: Figure
    hours: Figure
    slots: Slots  # seconds there in each month, day and hour

    def within(self, where: NDArray[np.bool_]) -> Figure:
        """The time at this flow in some of the slots."""
        part = float((self.slots * where).sum())
        return Figure(part, Leaf(self._field, "Time at this flow in the band", "hours", self._kind, self._why))

    @property
    def _field(self) -> str:
        origin = self.hours.origin
        return origin.field if isinstance(origin, Leaf) else "duty.hours"

    @property
    def _kind(self) -> str:
        return "assumed" if self.spread else "given"

    @property
    def _why(self) -> str:
        return "spread evenly over the year, since only hours are known" if self.spread else "by the typical week"

    @property
    def spread(self) -> bool:
        """Whether nothing is known of when it flows."""
        ratio = self.slots / CALENDAR
        return bool(np.ptp(ratio) < 1e-12)


def asked_of(line: Line) -> list[Asked]:
    """The flows of a year, the largest first: of a typical week, else of the hours at each flow.

    Raises NotKnown where there is neither, BadEntry for more hours than a year has.
    """
    air = "fan" in line.traits
    if line.has("duty.air_week" if air else "duty.week"):
        return _of_week(line, air=air)
    profile = line.duty.air_profile if air else line.duty.profile
    whole = sum(hours for _, hours in profile)
    if whole > YEAR * 1.003:
        raise BadEntry("hours at each flow", f"{whole / HOUR:.0f} hours in all", "at most the 8760 of a year")
    rows = [(flow, hours) for flow, hours in sorted(profile, key=lambda row: -row[0]) if hours > 0]
    if not rows:
        raise NotKnown("duty.air_profile" if air else "duty.profile", "hours at each flow")
    return [Asked(flow, hours, CALENDAR * (float(hours) / YEAR)) for flow, hours in rows]


def _of_week(line: Line, *, air: bool) -> list[Asked]:
    rows = line.duty.air_week if air else line.duty.week
    taken = np.zeros((DAYS, HOURS), bool)
    by_flow: dict[float, tuple[Figure, NDArray[np.bool_]]] = {}
    for from_day, to_day, from_hour, to_hour, flow in rows:
        here = within(DAYS, from_day - 1, to_day)[:, None] & within(HOURS, from_hour, to_hour)[None, :] & ~taken
        taken |= here
        if flow > 0:
            figure, places = by_flow.get(float(flow), (flow, np.zeros_like(here)))
            by_flow[float(flow)] = figure, places | here
    if not by_flow:
        raise NotKnown("duty.week", "a flow in the typical week")
    found = []
    for figure, places in sorted(by_flow.values(), key=lambda kv: -kv[0]):
        slots = CALENDAR * places[None, :, :]
        field = figure.origin.field if isinstance(figure.origin, Leaf) else "duty.week"
        why = "days and hours of the typical week over 365 days"
        hours = Figure(float(slots.sum()), Leaf(f"{field}.hours", "Time at this flow", "hours", "given", why))
        found.append(Asked(figure, hours, slots))
    return found


def within(count: int, start: float, end: float) -> NDArray[np.bool_]:
    """Which of so many whole places lie from start up to end; over the end and on from nought where end is smaller."""
    places = np.arange(count)
    low, high = round(float(start)), round(float(end))
    return (places >= low) & (places < high) if low < high else (places >= low) | (places < high)
