"""Which reading would tell most of what is asked, among those that can be taken now.

The share of the variance of a figure that a reading takes: gᵀS⁻¹g/v, with g the covariance of the two and S what is
expected to scatter in the reading (the Kalman gain of one more measurement; derived).
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mainspring.core.known.estimate import Estimate, Function, noises
from mainspring.core.known.facts import Facts
from mainspring.core.known.model import Key, answers
from mainspring.core.known.unknowns import places

LEAST = 0.25  # of the variance: less than that is not worth a walk


@dataclass(frozen=True)
class Next:
    """A reading, what it would tell of, and the share of its variance that it takes."""

    key: Key
    of: str
    share: float


ONE_OFF = ("vented_gauge", "suction", "tape", "rest_sensor", "hold")  # of no frequency
AT_FULL_SPEED = ("flow", "clamp", "shut_pressure")


def candidates(known: Estimate) -> list[Key]:
    """Readings that have not been taken and that this line can give."""
    facts, full = known.facts, known.facts.frequency
    kinds = [*ONE_OFF, *AT_FULL_SPEED, *(("wheel",) if facts.belt else ())]
    possible = answers(facts, kinds) - (frozenset({"hold"}) if facts.air else frozenset())
    taken = {r.kind for r in known.readings}
    return [(k, 0.0 if k in ONE_OFF else full) for k in kinds if k in possible and k not in taken]


def asked_of(facts: Facts) -> dict[str, str]:
    """Figures that somebody wants to know, by id, in words."""
    asked = {"flow": "the flow at full speed", "head_scale": "whether the machine is worn"}
    return {**asked, "static": "the static head"} if not (facts.air or facts.closed) else asked


def best_next(known: Estimate, of: str) -> Next | None:
    """The reading that would tell most of one of the figures asked; None where none tells much."""
    found = worth(known, candidates(known), of)
    best = max(found, key=lambda n: n.share, default=None)
    return best if best is not None and best.share >= LEAST else None


def worth(known: Estimate, keys: Sequence[Key], of: str) -> list[Next]:
    """What each reading would take of the variance of a figure."""
    if not keys:
        return []
    wanted = known.of(_function(known, of)).slopes[:, 0]
    before = float(wanted @ known.covariance @ wanted)
    bands = known.shown(keys)
    scatter = noises(known.facts, keys, bands.values) ** 2
    shared = bands.slopes.T @ known.covariance @ wanted
    whole = np.einsum("ij,ik,jk->k", known.covariance, bands.slopes, bands.slopes) + scatter
    return [Next(key, of, float(g * g / s / before)) for key, g, s in zip(keys, shared, whole, strict=True)]


def _function(known: Estimate, of: str) -> Function:
    if of == "flow":
        return known.model.full_flow
    place = places(known.facts.air)[of]
    return lambda theta: theta[:, [place]]
