"""The estimate: plates and curves as beliefs, all readings as evidence, one damped Gauss-Newton search for both.

Each quantity is its mean and z standard uncertainties; residuals are z itself and (read − model)/noise. Weighted least
squares with prior knowledge, as in C. D. Rodgers, Inverse Methods for Atmospheric Sounding, 2000, ch. 2 and 5 (from
memory); the leverage and leave-one-out residual of a reading as in R. D. Cook & S. Weisberg, Residuals and Influence in
Regression, 1982 (from memory).
"""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import cached_property, lru_cache

import numpy as np

from mainspring.core.known.facts import Facts
from mainspring.core.known.kinds import KINDS
from mainspring.core.known.model import Array, Key, Model
from mainspring.core.known.unknowns import beliefs, places, promises, unknowns_of
from mainspring.core.line import Taken

NORMAL_95 = 1.959964
STEP = 0.02  # of a standard uncertainty, for slopes on the way
WIDE = 0.3  # at the end: a corner must not look like certainty
SEARCHES = 10
SETTLED = 1e-2  # of the misfit: a step that gains less is the last
SURE = 2.326348  # 99 %, one side
ODD = 3.0  # standard uncertainties off what is usual, the quantity's own pull left out

Function = Callable[[Array], Array]


def noises(facts: Facts, keys: Sequence[Key], values: Sequence[float] | Array) -> Array:
    """Standard deviation of each reading."""
    return np.array([KINDS[kind].noise(facts, float(v)) for (kind, _), v in zip(keys, values, strict=True)])


@dataclass(frozen=True)
class Bands:
    """Values with their standard uncertainties."""

    values: Array
    uncertainties: Array
    slopes: Array  # [unknowns, values]


@dataclass(frozen=True, eq=False)  # one is itself: it is made once for its readings, and keys what is made of it
class Estimate:
    """A line as known: its quantities, how sure each is, and how well they explain what was read.

    `z` are standard uncertainties from the mean of the beliefs, `covariance` theirs; `misfit` is the sum of squares
    that is left, beliefs included.
    """

    facts: Facts
    readings: tuple[Taken, ...]
    z: Array
    covariance: Array
    misfit: float
    off: Array  # read − model, in noises
    slopes: Array  # of each reading [readings, unknowns], in noises

    @cached_property
    def model(self) -> Model:
        """The forward model."""
        return Model(self.facts)

    @cached_property
    def theta(self) -> Array:
        """Values of the quantities."""
        mean, sd = beliefs(self.facts)
        return mean + sd * self.z

    @cached_property
    def fits(self) -> bool:
        """Whether what is left over is no more than readings scatter, and no belief had to be bent out of the usual."""
        return not (self.too_far or self.odd)

    @property
    def limit(self) -> float:
        """Misfit that one right line in a hundred exceeds."""
        n = len(self.readings)
        return float(n + SURE * np.sqrt(2 * n))

    @property
    def too_far(self) -> bool:
        """Whether more is left over than readings scatter."""
        return bool(self.readings) and self.misfit > self.limit

    @cached_property
    def pulls(self) -> Array:
        """How far the readings pull each quantity from what is usual, in uncertainties of that."""
        return self.z / np.sqrt(np.maximum(1 - np.diag(self.covariance), 1e-6))

    @cached_property
    def odd(self) -> tuple[str, ...]:
        """Quantities that the readings pull farther from what is usual than chance does, the farthest first."""
        told = np.diag(self.covariance) < 0.97  # nothing was learnt of the others: their pull is noise over nothing
        found = [(abs(p), u.id) for p, u, t in zip(self.pulls, unknowns_of(self.facts.air), told, strict=True) if t]
        return tuple(name for pull, name in sorted(found, reverse=True) if pull > ODD)

    @cached_property
    def widened(self) -> float:
        """Factor on every band while the readings do not fit."""
        if self.fits:
            return 1.0
        return float(max(1.5, np.sqrt(self.misfit / max(len(self.readings), 1))))

    @cached_property
    def apart(self) -> Array:
        """Each reading against all the others, in uncertainties of both: what it would be without itself."""
        leverage = np.einsum("ij,jk,ik->i", self.slopes, self.covariance, self.slopes)
        apart: Array = self.off / np.sqrt(np.maximum(1 - leverage, 1e-9))
        return apart

    def of(self, function: Function) -> Bands:
        """Any figures of the quantities, with their uncertainty; `function` takes [sets, unknowns]."""
        values, slopes, curvature = _secants(self.facts, function, self.z)
        variance = np.einsum("ij,ik,jk->k", self.covariance, slopes, slopes) + _bent(curvature, self.covariance)
        return Bands(values, np.sqrt(variance) * self.widened, slopes)

    def shown(self, keys: Sequence[Key]) -> Bands:
        """What an instrument would show, without the scatter of a reading."""
        return self.of(lambda theta: self.model.forward(theta, keys))

    def expected(self, keys: Sequence[Key]) -> Bands:
        """What is going to be read, scatter of the reading itself included."""
        found = self.shown(keys)
        scatter = noises(self.facts, keys, found.values)
        return Bands(found.values, np.hypot(found.uncertainties, scatter), found.slopes)

    def promised(self, keys: Sequence[Key]) -> list[float]:
        """What would be read if plates and survey were right."""
        return [float(v) for v in self.model.forward(promises(self.facts.air)[None], keys)[0]]

    def quantity(self, name: str) -> tuple[float, float]:
        """Value and standard uncertainty of one quantity."""
        place = places(self.facts.air)[name]
        sd = beliefs(self.facts)[1][place]
        return float(self.theta[place]), float(sd * np.sqrt(self.covariance[place, place]) * self.widened)


@lru_cache(512)
def estimate(facts: Facts, readings: tuple[Taken, ...]) -> Estimate:
    """The estimate of a line from its readings; the same for the same facts and readings, on every machine."""
    return search(facts, readings)


def search(
    facts: Facts,
    readings: tuple[Taken, ...],
    weights: Array | None = None,
    start: Array | None = None,
    model: Model | None = None,
) -> Estimate:
    """One search, with weights on the readings where some are doubted."""
    mean, sd = beliefs(facts)
    count = len(mean)
    z = np.zeros(count) if start is None else start.copy()
    if not readings:
        return Estimate(facts, (), z, np.eye(count), 0.0, np.zeros(0), np.zeros((0, count)))
    model = model or Model(facts)
    keys = [r.key for r in readings]
    read = np.array([r.value for r in readings])
    promised = model.forward(mean[None], keys)[0]
    # of the larger: a value misread as too small must not count for more than it would have, read rightly
    w = 1 / noises(facts, keys, np.maximum(np.abs(read), np.abs(promised)))
    if weights is not None:
        w = w * weights

    def straight(z: Array) -> tuple[Array, Array]:
        found = model.forward(mean + sd * np.vstack([z, z + STEP * np.eye(count)]), keys)
        return found[0], ((found[1:] - found[0]) / STEP).T

    def misfit(z: Array, shown: Array) -> float:
        return float(z @ z + (((read - shown) * w) ** 2).sum())

    shown, slopes = straight(z)
    left = misfit(z, shown)
    for _ in range(SEARCHES):
        g = slopes * w[:, None]
        step = np.linalg.solve(np.eye(count) + g.T @ g, g.T @ ((read - shown) * w) - z)
        damped = 1.0
        while True:
            tried = z + damped * step
            shown_then, slopes_then = straight(tried)
            then = misfit(tried, shown_then)
            if then <= left + 1e-9 or damped < 0.05:
                break
            damped *= 0.5
        gained = left - then
        if then <= left + 1e-9:
            z, shown, slopes, left = tried, shown_then, slopes_then, then
        if gained < SETTLED:
            break
    shown, wide, curvature = _secants(facts, lambda theta: model.forward(theta, keys), z)
    slopes, covariance = wide.T, np.asarray(np.eye(count))
    for _ in range(3):
        sure = 1 / np.sqrt(1 / w**2 + _bent(curvature, covariance))
        g = slopes * sure[:, None]
        covariance = np.asarray(np.linalg.inv(np.eye(count) + g.T @ g), float)
    sure = 1 / np.sqrt(1 / w**2 + _bent(curvature, covariance))
    return Estimate(facts, readings, z, covariance, left, (read - shown) * sure, slopes * sure[:, None])


def _secants(facts: Facts, function: Function, z: Array) -> tuple[Array, Array, Array]:
    """Values, slopes and curvature by differences a third of an uncertainty wide."""
    mean, sd = beliefs(facts)
    count = len(z)
    found = function(mean + sd * np.vstack([z, z + WIDE * np.eye(count), z - WIDE * np.eye(count)]))
    up, down = found[1 : count + 1], found[count + 1 :]
    return found[0], (up - down) / (2 * WIDE), (up + down - 2 * found[0]) / WIDE**2


def _bent(curvature: Array, covariance: Array) -> Array:
    """Variance that curvature adds: what a straight line cannot say."""
    bent: Array = 0.5 * ((curvature * np.diag(covariance)[:, None]) ** 2).sum(0)
    return bent
