"""The one figure of a year that is told everywhere: by what was read where that carries it, else by the model."""

from contextlib import suppress
from dataclasses import dataclass

from mainspring.core.benches.savings import Modelled, Savings, Worth, worth_as_read
from mainspring.core.benches.spots import Spots
from mainspring.core.energy.annual import avoided_emission
from mainspring.core.errors import MainspringError
from mainspring.core.line import Line
from mainspring.core.measured.claimed import Claim
from mainspring.core.method import Figure, given
from mainspring.core.money.payback import yearly_money
from mainspring.core.money.tariff import blended_price, cost_between


@dataclass(frozen=True)
class Headline:
    """The saving as it is told, what it is worth, and the model beside it."""

    by: str  # logs, spots, model
    saved: Figure
    fraction: Figure
    half: Figure | None
    worth: Worth
    emission: Figure | None
    modelled: float | None  # J, over the same hours


def money_ends(told: Headline) -> tuple[Figure, Figure] | None:
    """What is left of the yearly money after upkeep, at the lower and the upper end of the interval; None unknown."""
    worth = told.worth
    if worth.yearly is None or told.half is None:
        return None
    price = blended_price(worth.yearly, told.saved)
    ends = (told.saved - told.half, told.saved + told.half)
    least, most = (cost_between(yearly_money(end, price), worth.upkeep) for end in ends)
    return least, most


def _read(claim: Claim | None, spots: Spots | None) -> Claim | Spots | None:
    """The surest saving that was read; None where nothing that was read carries one."""
    if claim is not None and claim.holds and claim.saved > 0:
        return claim
    return spots if spots is not None and spots.saved > 0 else None


def headline_of(
    line: Line, by_model: Modelled | None, claim: Claim | None = None, spots: Spots | None = None
) -> Headline | None:
    """The saving as it is told; None where nothing is known of one."""
    read = _read(claim, spots)
    model = None if by_model is None else by_model.savings
    if read is None:
        if by_model is None or model is None:
            return None
        return Headline("model", model.saved, model.fraction, by_model.half, model.worth, model.emission, None)
    hours = given("hours", read.seconds, "hours", "of the year that was read")
    worth = worth_as_read(line, None if model is None else model.worth, read.saved, hours)
    emission = None
    with suppress(MainspringError):
        emission = avoided_emission(read.saved, line.site.emission_factor)
    if isinstance(read, Claim):
        by, beside = "logs", None if model is None else modelled_over(model, read)
    else:
        by, beside = "spots", None if model is None else _modelled_at(model, read)
    return Headline(by, read.saved, read.fraction, read.half, worth, emission, beside)


def modelled_over(model: Savings, claim: Claim) -> float:
    """What the model saves at the flows that are claimed [J]; of a year told by its log the same share of all."""
    covered = {p.at for p in claim.points if p.covered}
    mine = [float(level.saved) for level in model.levels if float(level.flow) in covered]
    if len(mine) == len(covered):
        return sum(mine)
    return float(model.saved) * claim.seconds / claim.seconds_all


def _modelled_at(model: Savings, spots: Spots) -> float:
    """What the model saves at the levels that were read both times [J]."""
    used = {float(level.flow) for level in spots.levels if level.before is not None and level.now is not None}
    return sum(float(level.saved) for level in model.levels if float(level.flow) in used)
