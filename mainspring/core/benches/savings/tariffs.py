"""The ways a site is billed for its energy: what a year of powers costs, and the prices that it shows."""

from collections.abc import Callable, Sequence
from dataclasses import dataclass
from functools import partial
from typing import Annotated

import numpy as np
from numpy.typing import NDArray

from mainspring.core.benches.savings.duty import CALENDAR, DAYS, HOURS, MONTHS, Asked, within
from mainspring.core.energy.annual import energy_of_profile
from mainspring.core.line import Line
from mainspring.core.method import DERIVED, Figure, In, given, method
from mainspring.core.money.payback import yearly_money
from mainspring.core.money.tariff import cost_between, tiered_cost, time_of_use_cost
from mainspring.core.quantity import Money

Where = NDArray[np.bool_]


@method("C = Σ Cᵢ", DERIVED, words=True)
def total_cost(parts: Annotated[Sequence[Money], In("")]) -> Money:
    """A bill from its parts.

    >>> float(total_cost([100, 20]))
    120.0
    """
    return sum(parts)


@dataclass(frozen=True)
class Band:
    """Prices that hold in some of the months, days and hours."""

    name: str
    price: Figure
    where: Where


@dataclass(frozen=True)
class Tariff:
    """One way of being billed: the cost of a year, the prices to show, and what to know of them."""

    energy: Callable[[Line, list[Asked], list[Figure]], Figure]
    bands: Callable[[Line], list[Band]]
    says: str = ""


def _bands(line: Line, *, by_time: bool) -> list[Band]:
    """The prices by time of use, in the order of the rows; what no row names has the energy price."""
    taken = np.zeros((MONTHS, DAYS, HOURS), bool)
    found = []
    if by_time:
        for from_month, to_month, from_day, to_day, from_hour, to_hour, price in line.site.price_bands:
            here = (
                within(MONTHS, from_month - 1, to_month)[:, None, None]
                & within(DAYS, from_day - 1, to_day)[None, :, None]
                & within(HOURS, from_hour, to_hour)[None, None, :]
                & ~taken
            )
            taken |= here
            found.append(Band(_named(from_hour, to_hour), price, here))
    if not taken.all():
        found.append(Band("other hours" if found else "all hours", line.site.energy_price, ~taken))
    return found


def _named(start: Figure, end: Figure) -> str:
    return f"{start:02.0f}–{end:02.0f} h"


def _by_bands(line: Line, asked: list[Asked], powers: list[Figure]) -> Figure:
    bands = tariff_of(line).bands(line)
    if len(bands) == 1:
        return yearly_money(energy_of_profile(powers, [a.hours for a in asked]), bands[0].price)
    energies = [energy_of_profile(powers, [a.within(band.where) for a in asked]) for band in bands]
    return time_of_use_cost(energies, [band.price for band in bands])


def _by_blocks(line: Line, asked: list[Asked], powers: list[Figure]) -> Figure:
    site = line.site
    limits, prices = ([row[i] for row in site.price_tiers] for i in (0, 1))
    other = site.other_use if site.has("other_use") else given("other_use", 0.0, "energy", "nothing else entered")
    months = []
    for month in range(MONTHS):
        where = np.zeros_like(CALENDAR, bool)
        where[month] = True
        mine = energy_of_profile(powers, [a.within(where) for a in asked])
        months.append(cost_between(tiered_cost(other + mine, limits, prices), tiered_cost(other, limits, prices)))
    return total_cost(months)


COSTS: dict[str, Tariff] = {
    "flat": Tariff(_by_bands, partial(_bands, by_time=False)),
    "bands": Tariff(_by_bands, partial(_bands, by_time=True)),
    "tiers": Tariff(
        _by_blocks,
        partial(_bands, by_time=False),
        "In blocks by the month; the site's other use fills the first ones.",
    ),
}


def tariff_of(line: Line) -> Tariff:
    """How the line's site is billed; at one price where nothing is entered."""
    return COSTS[line.value("site.tariff") or "flat"]
