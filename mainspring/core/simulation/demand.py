"""What is asked of a plant while it is tried: a few minutes told in steps, a day, a leak, or a table from outside.

A profile is a list of (time [s], share of full demand) steps; what full is depends on the plant (`Setup.full`).
"""

import itertools
import math
from collections.abc import Sequence
from dataclasses import dataclass

from mainspring.core.errors import BadEntry, check_range
from mainspring.core.simulation import kernel

Steps = tuple[tuple[float, float], ...]
DAY = 86_400.0

# shares of the busiest hour, hour by hour, of a building where people live; common practice, no source
_HOURS = (0.08, 0.05, 0.04, 0.04, 0.06, 0.2, 0.65, 1.0, 0.85, 0.6, 0.5, 0.48, 0.55, 0.5, 0.42, 0.42, 0.5, 0.66, 0.82,
          0.9, 0.7, 0.5, 0.3, 0.15)  # fmt: skip
MOST_ROWS = 20_000
STROKE = 60.0  # s, of the drive of a damper or valve; common practice, no source


@dataclass(frozen=True)
class Profile:
    """A named demand."""

    id: str
    label: str
    steps: Steps
    duration: float  # s, as it is usually tried


def profiles_for(kind: float, leak: float | None, count: float = 1.0) -> list[Profile]:
    """The profiles that a plant can be tried with, the usual one first.

    `leak` is the smallest demand of a line that rests, as a share of full demand; None for one that runs on. Of
    `count` machines the first wakes to what one can bring.
    """
    if kind == kernel.HEADER and leak is None:
        return [
            Profile("minutes", "Ten minutes", _moved(((0, 0.85), (60, 0.6), (240, 0.35), (420, 0.75)), STROKE), 600.0),
            Profile("steps", "Steps up and down", ((0, 0.4), (120, 0.55), (240, 0.7), (360, 0.85), (480, 0.4)), 600.0),
            Profile("day", "A day", _day(0.3), DAY),
        ]
    if kind == kernel.HEADER and leak is not None:
        falling = ((0, 0.65), (120, 0.5), (210, leak), (500, 0.25 / count), (520, 0.75 / count))
        return [
            Profile("minutes", "Ten minutes", falling, 600.0),
            Profile("steps", "Steps up and down", ((0, 0.2), (120, 0.4), (240, 0.6), (360, 0.8), (480, 0.3)), 600.0),
            Profile("leak", "Only the leak, an hour", ((0, leak),), 3600.0),
            Profile("day", "A day", _day(leak), DAY),
        ]
    if kind == kernel.LEVEL:
        return [
            Profile("minutes", "An hour", ((0, 0.3), (900, 0.7), (1800, 0.1), (2700, 0.5)), 3600.0),
            Profile("storm", "A storm", ((0, 0.2), (600, 1.3), (2400, 0.4)), 3600.0),
            Profile("day", "A day", _day(0.02), DAY),
        ]
    if kind == kernel.HEAT:
        return [
            Profile("minutes", "Two hours", _moved(((0, 0.5), (600, 0.75), (2700, 0.3), (4800, 0.6)), 600.0), 7200.0),
            Profile("day", "A day", _day(0.1), DAY),
        ]
    if kind == kernel.FLOW:
        return [Profile("minutes", "Ten minutes", _moved(((0, 1.0), (120, 0.75), (360, 1.0)), STROKE), 600.0)]
    if kind == kernel.OPEN:
        return [
            Profile("minutes", "Five minutes", ((0, 0.6), (60, 1.0), (120, 0.3), (180, -1.0), (190, 0.8)), 300.0),
        ]
    return [Profile("minutes", "Ten minutes", _moved(((0, 0.6), (60, 0.75), (300, 0.45)), STROKE), 600.0)]


def _moved(steps: Steps, lasts: float) -> Steps:
    """Steps whose changes take their time, as dampers, valves and the weather do; six small ones for each."""
    found = [steps[0]]
    for (_, was), (time, to) in itertools.pairwise(steps):
        found += [(time + lasts * k / 5, was + (to - was) * (k + 1) / 6) for k in range(6)]
    return tuple(found)


def _day(least: float) -> Steps:
    """A day by its hours, each hour in six steps that come and go by a fifth, so that nothing stands still."""
    found = []
    for i in range(144):
        hour, part = divmod(i, 6)
        sway = 1.0 + 0.2 * math.sin(2.4 * part + 1.7 * hour)
        found.append((i * 600.0, max(least, 0.9 * _HOURS[hour] * sway)))
    return tuple(found)


def own_steps(rows: Sequence[tuple[float, float]]) -> Steps:
    """A profile as given: times in s from 0, rising; shares of full demand.

    Raises BadEntry.
    """
    if not 1 <= len(rows) <= MOST_ROWS:
        raise BadEntry("demand", f"{len(rows)} rows", f"1 to {MOST_ROWS} rows of time and demand")
    for i, (time, share) in enumerate(rows):
        if not (math.isfinite(time) and math.isfinite(share)):
            raise BadEntry("demand", f"row {i + 1}", "numbers")
        check_range(f"demand in row {i + 1}, share of full", share, atleast=-1, upto=3)
        if i and time <= rows[i - 1][0]:
            raise BadEntry("demand", f"the time in row {i + 1}", "later than the row before")
    check_range("first time of the demand in s", rows[0][0], atleast=0, upto=0)
    return tuple((float(t), float(q)) for t, q in rows)
