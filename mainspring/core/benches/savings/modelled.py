"""The saving by the line as known: the plates corrected by what was read, and how far that leaves it uncertain."""

from collections.abc import Iterator
from dataclasses import dataclass, replace
from functools import cached_property

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
    """The model's saving of a year by the line as known; its interval is worked out when it is asked for."""

    savings: Savings
    derived: Derived | None = None

    @cached_property
    def half(self) -> Figure | None:
        """Half of its 95 % interval by what was read; None where nothing was.

        Both ways of running come from one estimate: what is uncertain in both falls out of their difference.
        """
        derived, known = self.derived, None if self.derived is None else self.derived.trusted
        if derived is None or known is None:
            return None
        try:
            variance = sum(((one - other) / 2) ** 2 for one, other in _moved(derived, known))
        except MainspringError:
            return None
        why = f"95 %, by {len(known.readings)} readings and what the plates leave open"
        return given("modelled_half", NORMAL_95 * variance**0.5, "energy", why)

    @cached_property
    def by_plate(self) -> Figure | None:
        """What is saved a year if plates and survey are right; None where nothing was read."""
        derived = self.derived
        if derived is None or derived.trusted is None:
            return None
        try:
            return savings_of(derived.line, derived).saved
        except MainspringError:
            return None


def modelled_of(derived: Derived) -> Modelled:
    """The saving by the line as known.

    Raises NotKnown for a missing input and NoSolution where no level can be met at full speed.
    """
    return Modelled(savings_of(derived.known.line, derived.known), derived)


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
