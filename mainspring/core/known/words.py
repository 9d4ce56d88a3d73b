"""What the readings of a line taught, in words with both ends, and what could be read next."""

import math
from collections.abc import Iterator

from mainspring.core.known.estimate import NORMAL_95, Estimate
from mainspring.core.known.next_reading import Next
from mainspring.core.known.unknowns import Unknown, unknowns_of
from mainspring.core.method import given
from mainspring.core.sentence import Sentence, say

LEARNT = 0.8  # of the belief's uncertainty: what is left, at most, where something was learnt


def learnt(known: Estimate) -> list[Sentence]:
    """What is otherwise than promised, each with both ends of its 95 % band; nothing while the readings do not fit."""
    return list(_learnt(known)) if known.readings and known.fits else []


def _learnt(known: Estimate) -> Iterator[Sentence]:
    for unknown in unknowns_of(known.facts.air):
        if not unknown.more:
            continue
        believed = unknown.belief(known.facts)[1]
        value, sd = known.quantity(unknown.id)
        if believed == 0 or sd > LEARNT * believed:
            continue
        low, high = value - NORMAL_95 * sd, value + NORMAL_95 * sd
        if low * high <= 0:  # both more and less are possible: nothing is told
            continue
        yield _both_ends(unknown, low, high)


def _both_ends(unknown: Unknown, low: float, high: float) -> Sentence:
    if unknown.told == "share":
        low, high = math.expm1(low), math.expm1(high)
    nearer, farther = sorted((abs(low), abs(high)))
    dimension = "percent" if unknown.told == "share" else unknown.told
    why = f"95 % band by all readings; believed before: {unknown.source}"
    return say(
        unknown.more if low > 0 else unknown.less,
        low=given(f"{unknown.id}_low", nearer, dimension, why),
        high=given(f"{unknown.id}_high", farther, dimension, why),
    )


def worth_reading(found: Next, what: str, asked: str) -> Sentence:
    """The reading that would tell most of something."""
    share = given("share", round(found.share, 2), "percent", "of the variance, as expected before the reading")
    return say(f"{what}: takes away about {{share}} of the doubt about {asked}.", share=share)
