"""What energy costs: by time of use, by blocks, by the highest demand; methods on the sums of a bill."""

from collections.abc import Sequence
from typing import Annotated

from mainspring.core.errors import OutOfRange, check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import InputWatt, Joule, Money, MoneyPerJoule, MoneyPerWatt, Percent

_BILL = Source("arithmetic of a supplier's bill", kind="common practice")


@method("C = Σ Eᵢ·rᵢ", _BILL, words=True)
def time_of_use_cost(
    energies: Annotated[Sequence[Joule], In("in each band", "E")],
    prices: Annotated[Sequence[MoneyPerJoule], In("of each band", "r")],
) -> Money:
    """Cost of energy taken in several bands of the day, week and year.

    >>> round(time_of_use_cost([9000 * 3.6e6, 15000 * 3.6e6], [0.18 / 3.6e6, 0.11 / 3.6e6]), 6)
    3270.0
    """
    if len(energies) != len(prices):
        raise OutOfRange("bands", len(energies), f"as many energies as prices ({len(prices)})")
    return sum(e * p for e, p in zip(energies, prices, strict=True))


@method("C = each block at its own price, the last without end", _BILL, words=True)
def tiered_cost(
    energy: Annotated[Joule, In("taken in the month", atleast=0)],
    limits: Annotated[Sequence[Joule], In("upper end of each block, rising")],
    prices: Annotated[Sequence[MoneyPerJoule], In("of each block")],
) -> Money:
    """Cost of a month's energy in blocks: up to each limit at that block's price, beyond the last at the last price.

    Raises
    ------
    OutOfRange : limits that do not rise, or not as many as prices

    >>> round(tiered_cost(5.4e9, [1.8e9, 3.6e9], [0.10 / 3.6e6, 0.20 / 3.6e6]), 6)
    250.0
    """
    if len(limits) != len(prices) or not prices:
        raise OutOfRange("blocks", len(limits), f"as many limits as prices ({len(prices)}), at least one")
    cost, low = 0.0, 0.0
    for limit, price in zip(limits, prices, strict=True):
        check_range("limit of a block", limit, above=low)
        cost += max(0.0, min(energy, limit) - low) * price
        low = limit
    return cost + max(0.0, energy - low) * prices[-1]


@method("C = C_with - C_without", DERIVED)
def cost_between(
    with_it: Annotated[Money, In("", "C_with")], without_it: Annotated[Money, In("", "C_without")]
) -> Money:
    """What something adds to a bill.

    >>> float(cost_between(250, 100))
    150.0
    """
    return with_it - without_it


@method("C_D = r · Σ Pᵢ over the months billed", _BILL, words=True)
def demand_cost(
    peaks: Annotated[Sequence[InputWatt], In("billed demand of each month", "P")],
    price: Annotated[MoneyPerWatt, In("of a watt of it, a month", "r")],
) -> Money:
    """Demand charge of a year; of differences between two bills what is saved, which may be negative.

    >>> round(demand_cost([4e3, 4e3, 3e3, 2e3, 0, -400, -400, -400, 0, 2e3, 3e3, 4e3], 12e-3), 6)
    249.6
    """
    return sum(peaks) * price


@method("P_b = max(P, r * P_max)", _BILL)
def ratcheted_demand(
    peak: Annotated[InputWatt, In("of the month", "P", atleast=0)],
    highest: Annotated[InputWatt, In("of the eleven months before", "P_max", atleast=0)],
    ratchet: Annotated[Percent, In("share of it that is billed at least", "r", atleast=0, upto=1)],
) -> InputWatt:
    """Demand that is billed where a share of the highest of the months before holds.

    >>> float(ratcheted_demand(60e3, 100e3, 0.8))
    80000.0
    """
    return max(peak, ratchet * highest)


@method("r = C / E", _BILL)
def blended_price(
    cost: Annotated[Money, In("of the year", "C")], energy: Annotated[Joule, In("of the year", "E", above=0)]
) -> MoneyPerJoule:
    """Mean price of all that a bill names: not what a saved kilowatt-hour is worth.

    >>> round(blended_price(4110, 36000 * 3.6e6) * 3.6e6, 5)
    0.11417
    """
    return cost / energy
