"""What energy costs: by time of use, by blocks, by the highest demand; methods on the sums of a bill."""

from collections.abc import Sequence

from mainspring.core.errors import OutOfRange, check_range
from mainspring.core.method import DERIVED, Source, method
from mainspring.core.quantity import InputWatt, Joule, Money, MoneyPerJoule, MoneyPerWatt, Percent

_BILL = Source("arithmetic of a supplier's bill", kind="common practice")


@method(
    id="time_of_use_cost",
    symbol="C",
    formula="Σ Eᵢ·rᵢ",
    symbols={"E": "energies", "r": "prices"},
    words=True,
    source=_BILL,
)
def time_of_use_cost(energies: Sequence[Joule], prices: Sequence[MoneyPerJoule]) -> Money:
    """Cost of energy taken in several bands of the day, week and year.

    Parameters
    ----------
    energies : in each band [J]
    prices : of each band [1/J]

    Examples
    --------
    >>> round(time_of_use_cost([9000 * 3.6e6, 15000 * 3.6e6], [0.18 / 3.6e6, 0.11 / 3.6e6]), 6)
    3270.0
    """
    if len(energies) != len(prices):
        raise OutOfRange("bands", len(energies), f"as many energies as prices ({len(prices)})")
    return sum(e * p for e, p in zip(energies, prices, strict=True))


@method(
    id="tiered_cost",
    symbol="C",
    formula="each block at its own price, the last without end",
    words=True,
    source=_BILL,
)
def tiered_cost(energy: Joule, limits: Sequence[Joule], prices: Sequence[MoneyPerJoule]) -> Money:
    """Cost of a month's energy in blocks: up to each limit at that block's price, beyond the last at the last price.

    Parameters
    ----------
    energy : taken in the month, >= 0 [J]
    limits : upper end of each block, rising [J]
    prices : of each block [1/J]

    Raises
    ------
    OutOfRange : limits that do not rise, or not as many as prices

    Examples
    --------
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


@method(
    id="cost_between",
    symbol="C",
    formula="C_with - C_without",
    symbols={"C_with": "with_it", "C_without": "without_it"},
    source=DERIVED,
)
def cost_between(with_it: Money, without_it: Money) -> Money:
    """What something adds to a bill.

    Parameters
    ----------
    with_it : [money]
    without_it : [money]

    Examples
    --------
    >>> float(cost_between(250, 100))
    150.0
    """
    return with_it - without_it


@method(
    id="demand_cost",
    symbol="C_D",
    formula="r · Σ Pᵢ over the months billed",
    symbols={"P": "peaks", "r": "price"},
    words=True,
    source=_BILL,
)
def demand_cost(peaks: Sequence[InputWatt], price: MoneyPerWatt) -> Money:
    """Demand charge of a year; of differences between two bills what is saved, which may be negative.

    Parameters
    ----------
    peaks : billed demand of each month [W]
    price : of a watt of it, a month [1/W]

    Examples
    --------
    >>> round(demand_cost([4e3, 4e3, 3e3, 2e3, 0, -400, -400, -400, 0, 2e3, 3e3, 4e3], 12e-3), 6)
    249.6
    """
    return sum(peaks) * price


@method(
    id="ratcheted_demand",
    symbol="P_b",
    formula="max(P, r * P_max)",
    symbols={"P": "peak", "P_max": "highest", "r": "ratchet"},
    source=_BILL,
)
def ratcheted_demand(peak: InputWatt, highest: InputWatt, ratchet: Percent) -> InputWatt:
    """Demand that is billed where a share of the highest of the months before holds.

    Parameters
    ----------
    peak : of the month, >= 0 [W]
    highest : of the eleven months before, >= 0 [W]
    ratchet : share of it that is billed at least, 0 <= r <= 1 [-]

    Examples
    --------
    >>> float(ratcheted_demand(60e3, 100e3, 0.8))
    80000.0
    """
    return max(peak, ratchet * highest)


@method(
    id="blended_price",
    symbol="r",
    formula="C / E",
    symbols={"C": "cost", "E": "energy"},
    source=_BILL,
)
def blended_price(cost: Money, energy: Joule) -> MoneyPerJoule:
    """Mean price of all that a bill names: not what a saved kilowatt-hour is worth.

    Parameters
    ----------
    cost : of the year [money]
    energy : of the year, > 0 [J]

    Examples
    --------
    >>> round(blended_price(4110, 36000 * 3.6e6) * 3.6e6, 5)
    0.11417
    """
    return cost / energy
