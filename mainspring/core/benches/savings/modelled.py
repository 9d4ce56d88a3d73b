"""The saving by the line as known: the plates corrected by what was read, and how far that leaves it uncertain."""

from collections.abc import Iterator
from dataclasses import dataclass, replace

import numpy as np

from mainspring.core.benches.savings.bench import Savings, savings_of
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError
from mainspring.core.known import NORMAL_95, Estimate, corrected, places
from mainspring.core.method import Figure, given

# what of the estimate moves the record; the motor and the displays stay as they are
MOVES = ("head_scale", "flow_scale", "shape", "speed_scale", "density", "static", "resistance", "suction", "efficiency")
DIRECTIONS = 6  # of the doubt, the widest first: what is left out is less than a hundredth of it


@dataclass(frozen=True)
class Modelled:
    """The model's saving of a year, and half of its 95 % interval by what was read; None where nothing was."""

    savings: Savings
    half: Figure | None = None
    by_plate: Figure | None = None  # what is saved a year if plates and survey are right


def modelled_of(derived: Derived) -> Modelled:
    """Both ways of running from one estimate, so that what is uncertain in both falls out of their difference.

    Raises NotKnown for a missing input and NoSolution where no level can be met at full speed.
    """
    now = derived.known
    savings = savings_of(now.line, now)
    known = derived.trusted
    if known is None:
        return Modelled(savings)
    try:
        variance = sum(((one - other) / 2) ** 2 for one, other in _moved(derived, known))
        by_plate = savings_of(derived.line, derived).saved
    except MainspringError:
        return Modelled(savings)
    why = f"95 %, by {len(known.readings)} readings and what the plates leave open"
    return Modelled(savings, given("modelled_half", NORMAL_95 * variance**0.5, "energy", why), by_plate)


def _moved(derived: Derived, known: Estimate) -> Iterator[tuple[float, float]]:
    """The saving one standard uncertainty to either side, along each direction of the doubt."""
    at = [i for name, i in places(known.facts.air).items() if name in MOVES]
    sizes, ways = np.linalg.eigh(known.covariance[np.ix_(at, at)])
    for size, way in list(zip(sizes, ways.T, strict=True))[: -DIRECTIONS - 1 : -1]:
        ends = []
        for side in (1.0, -1.0):
            z = known.z.copy()
            z[at] += side * np.sqrt(max(float(size), 0.0)) * way
            line = corrected(derived.line, replace(known, z=z))
            ends.append(float(savings_of(line, Derived(line)).saved))
        yield ends[0], ends[1]
