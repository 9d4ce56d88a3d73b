"""What the readings of a line say together: that they fit, that one was misread, or that it is not this line.

A reading is judged by all the others; the limits are those at which, on lines of known truth, none was named wrongly.
"""

from collections.abc import Sequence
from dataclasses import dataclass, replace
from functools import lru_cache
from itertools import pairwise

import numpy as np

from mainspring.core.known.causes import Cause, causes_of
from mainspring.core.known.estimate import Estimate, estimate, search
from mainspring.core.known.kinds import KINDS
from mainspring.core.known.model import Array
from mainspring.core.line import Taken
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.systems import SYSTEMS

LOOK = 10.0  # square of the leave-one-out residual from which a reading is looked at
NAMED, ASKED = 16.0, 10.0  # of misfit: what leaving it out must gain
AHEAD = 6.0  # of the next: then it is that one
STILL = 4.5  # uncertainties: something else stands out besides
EXCHANGED = 3.0  # of misfit: what a plain exchange of digits adds to the suspicion
STUDENT = 4.0  # degrees of freedom of the scatter that forgives
SUSPECTS, FARTHEST = 3, 6
GROSS = 2.0  # times the limit of the misfit


@dataclass(frozen=True)
class Doubted:
    """A reading that the others contradict: what they would have it be, and how sure that is."""

    reading: Taken
    expected: float
    uncertainty: float
    exchanged: float | None = None  # the same digits in another order would fit


@dataclass(frozen=True)
class Verdict:
    """What the readings say together. `misread` are one reading, or several of which it is one; `more` says there is
    another besides. `causes` explain what no misreading does; `not_this` is set where nothing does."""

    misread: tuple[Doubted, ...] = ()
    more: bool = False
    row: float = 0.0  # drive frequency of a row of which all that does not fit is part
    causes: tuple[Cause, ...] = ()
    not_this: bool = False

    @property
    def one_misread(self) -> bool:
        """Whether it is one reading, known by name, and nothing else."""
        return len(self.misread) == 1 and not (self.more or self.causes)

    @property
    def left_out(self) -> tuple[Taken, ...]:
        """Readings without which all else fits: the one misread, or those of the row that stands apart."""
        return tuple(d.reading for d in self.misread) if self.one_misread or self.row else ()

    @property
    def fits(self) -> bool:
        """Whether there is nothing to say."""
        return not (self.misread or self.causes or self.not_this)


@lru_cache(512)
def judge(known: Estimate) -> Verdict:
    """The verdict on an estimate: what explains the readings best, and what does so nearly as well."""
    if not known.readings:
        return Verdict()
    found, left = _misread(known) if (known.apart**2).max() > LOOK else (Verdict(), known.misfit)
    if known.fits and not found.more:
        return found
    causes = causes_of(known)
    best = min((misfit for misfit, _ in causes), default=np.inf)
    near = tuple(cause for misfit, cause in causes if misfit < best + AHEAD)
    if found.more or not found.misread:
        row, without_row = _row_apart(known)
        if row.row and without_row < best + AHEAD:
            return row
    if found.misread and not found.more and left < best + AHEAD:
        return replace(found, causes=near if best < left + AHEAD else ())
    if near:
        return Verdict(causes=near)
    return found if found.misread else Verdict(not_this=True)


def without(known: Estimate, left_out: Sequence[Taken]) -> Estimate:
    """The same line without some of its readings."""
    kept = tuple(r for r in known.readings if r not in left_out)
    return estimate(known.facts, kept)


def trusted(known: Estimate) -> Estimate | None:
    """The estimate without what the others name as misread; None while nothing was read, or it is not this line."""
    verdict = judge(known)
    found = without(known, verdict.left_out) if verdict.left_out else known
    return found if found.readings and found.fits and not verdict.causes else None


def _misread(known: Estimate) -> tuple[Verdict, float]:
    """Which reading was misread, and the misfit that is left without it; first those without which all else fits."""
    tried = []
    for reading in _suspects(known):
        rest = without(known, (reading,))
        doubted = _doubted(rest, reading)
        gain = known.misfit - rest.misfit + (EXCHANGED if doubted.exchanged is not None else 0.0)
        still = bool(len(rest.apart) and np.abs(rest.apart).max() > STILL)
        if gain > ASKED:
            tried.append((still, -gain, rest.misfit, doubted))
    if not tried:
        return Verdict(), known.misfit
    tried.sort(key=lambda t: t[:2])
    still, less, left, first = tried[0]
    near = tuple(doubted for s, g, _, doubted in tried if s == still and g < less + AHEAD)
    return Verdict((first,) if -less > NAMED and len(near) == 1 else near, more=still), left


def _row_apart(known: Estimate) -> tuple[Verdict, float]:
    """A row of which several readings do not fit, where all else does: something was otherwise while it was read."""
    rows = {r.at for r in known.readings if r.at}
    found, left = Verdict(), known.misfit
    for at in rows if len(rows) > 2 else ():
        mine = [r for r in known.readings if r.at == at]
        rest = without(known, mine)
        without_row = rest.misfit + len(mine)
        gained = known.misfit - without_row > NAMED
        if rest.fits and gained and (not found.row or without_row < left):
            doubted = [_doubted(rest, r) for r in mine]
            doubted.sort(key=lambda d: abs(d.reading.value - d.expected) / d.uncertainty, reverse=True)
            found, left = Verdict(tuple(doubted), row=at), without_row
    return found, left


def _suspects(known: Estimate) -> list[Taken]:
    """Those that a search which forgives large scatter trusts least; where something gross bends even that, also those
    that lie farthest from what the plates promise.
    """
    gross: list[int] = []
    if known.misfit > GROSS * known.limit:
        promised = estimate(known.facts, ()).expected([r.key for r in known.readings])
        read = np.array([r.value for r in known.readings])
        gross = list(np.argsort(-np.abs(read - promised.values) / promised.uncertainties)[:FARTHEST])
    weights: Array = np.ones(len(known.readings))
    start = None
    for _ in range(4):
        tried = search(known.facts, known.readings, weights, start, known.model)
        off = tried.off / weights
        weights = np.sqrt((STUDENT + 1) / (STUDENT + off**2))
        start = tried.z
    return [known.readings[i] for i in dict.fromkeys([*gross, *np.argsort(weights)[:SUSPECTS]])]


def _doubted(rest: Estimate, reading: Taken) -> Doubted:
    bands = rest.expected([reading.key])
    expected, uncertainty = float(bands.values[0]), float(bands.uncertainties[0])
    dimension = KINDS[reading.kind].dimension(rest.facts)
    fitting = [v for v in exchanged(reading.value, dimension) if abs(v - expected) < 2 * uncertainty]
    nearest = min(fitting, key=lambda v: abs(v - expected), default=None)
    return Doubted(reading, expected, uncertainty, nearest)


def exchanged(value: float, dimension: str) -> list[float]:
    """What a value becomes when two neighbouring digits are exchanged as it is shown, in any unit system [SI].

    >>> exchanged(4800.0, "input_power")
    [8400.0]
    """
    found: dict[float, None] = {}
    for system in SYSTEMS:
        unit = DIMENSIONS[dimension].shown(system)
        text = f"{unit.from_si(value):.4g}"
        digits = [i for i, c in enumerate(text) if c.isdigit()]
        for i, j in pairwise(digits):
            if text[i] != text[j]:
                other = list(text)
                other[i], other[j] = other[j], other[i]
                found[round(unit.to_si(float("".join(other))), 9)] = None
    return list(found)
