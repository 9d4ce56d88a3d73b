"""What a year of both alternatives costs by the site's tariff, and what the difference is worth over the years."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Annotated

from mainspring.core.benches.savings.duty import MONTHS, Asked
from mainspring.core.benches.savings.tariffs import tariff_of, total_cost
from mainspring.core.energy.annual import energy_of_profile
from mainspring.core.errors import MainspringError, NoSolution, NotKnown
from mainspring.core.line import Line
from mainspring.core.method import DERIVED, Figure, In, assume, given, method
from mainspring.core.money.payback import net_present_value, simple_payback, uniform_present_value, yearly_money
from mainspring.core.money.tariff import (
    blended_price,
    cost_between,
    demand_cost,
    ratcheted_demand,
)
from mainspring.core.money.worth import (
    break_even_share,
    discounted_payback,
    internal_rate_of_return,
    modified_rate_of_return,
    present_value_of_savings,
    real_rate,
    rising_present_value,
    savings_to_investment,
)
from mainspring.core.quantity import HourSecond, Money, Percent

YEARS, DISCOUNT, ESCALATION = 10.0, 0.06, 0.0


@method("C = max(0, C_0 - G)", DERIVED)
def cost_after_grant(
    capital: Annotated[Money, In("spent", "C_0", atleast=0)], grant: Annotated[Money, In("or rebate", "G", atleast=0)]
) -> Money:
    """What was spent, less what was granted.

    >>> float(cost_after_grant(21000, 1000))
    20000.0
    """
    return max(0.0, capital - grant)


@method("t = x * t_a", DERIVED)
def share_of_hours(
    hours: Annotated[HourSecond, In("of the duty", "t_a", atleast=0)], share: Annotated[Percent, In("", "x", atleast=0)]
) -> HourSecond:
    """A share of the hours of a year.

    >>> float(share_of_hours(7200.0, 0.5))
    3600.0
    """
    return share * hours


@dataclass(frozen=True)
class Bill:
    """A year's bill for one alternative."""

    energy: Figure
    demand: Figure | None
    total: Figure


@dataclass(frozen=True)
class Worth:
    """What the saving is worth; None, with what is missing, where it cannot be told."""

    before: Bill | None
    now: Bill | None
    yearly: Figure | None  # saved on the bill
    marginal: Figure | None  # price of what is saved
    blended: Figure | None  # mean price of the bill before
    demand: Figure | None  # saved on the demand charge; may be negative
    cost: Figure | None
    upkeep: Figure
    years: Figure
    discount: Figure
    escalation: Figure
    real: Figure | None
    payback: Figure | None
    discounted: Figure | None
    present_value: Figure | None
    rate_of_return: Figure | None
    modified_return: Figure | None
    to_investment: Figure | None
    uniform: Figure | None
    escalated: Figure | None
    break_even: Figure | None  # hours a year
    missing: tuple[str, ...]


def bill_of(line: Line, asked: list[Asked], powers: list[Figure]) -> Bill:
    """A year's bill for powers at the flows asked for."""
    energy = tariff_of(line).energy(line, asked, powers)
    demand = _demand(line, asked, powers)
    return Bill(energy, demand, total_cost([energy] if demand is None else [energy, demand]))


def _demand(line: Line, asked: list[Asked], powers: list[Figure]) -> Figure | None:
    site = line.site
    if not site.has("demand_price"):
        return None
    none = given("none", 0.0, "input_power", "it stands still all month")
    peaks = [
        max((p for a, p in zip(asked, powers, strict=True) if a.slots[m].any()), default=none) for m in range(MONTHS)
    ]
    if site.has("demand_ratchet"):
        highest = max(peaks)
        peaks = [ratcheted_demand(p, highest, site.demand_ratchet) for p in peaks]
    return demand_cost(peaks, site.demand_price)


class _Asking:
    """Computes what can be, and remembers what was missing for the rest."""

    def __init__(self) -> None:
        self.missing: list[str] = []

    def __call__(self, compute: Callable[[], Figure]) -> Figure | None:
        try:
            return compute()
        except MainspringError as gap:
            self.missing.append(gap.tellings)
            return None


def net_cost(line: Line) -> Figure:
    """Spent after grants; NotKnown where nothing was entered."""
    duty = line.duty
    if duty.has("capital"):
        grant = duty.rebate if duty.has("rebate") else given("grant", 0.0, "money", "none entered")
        return cost_after_grant(duty.capital, grant)
    return duty.cost


def _usual(line: Line, name: str, value: float, dimension: str) -> Figure:
    if line.site.has(name):
        return line.figure(f"site.{name}")
    return assume(f"site.{name}", value, dimension, "not entered for the site")


def worth_of(
    line: Line, asked: list[Asked], before: list[Figure], now: list[Figure], hours: Figure, saved: Figure
) -> Worth:
    """Both bills and the worth of their difference."""
    ask = _Asking()
    bills = _bills(line, asked, before, now, ask)
    yearly = cost_between(bills[0].total, bills[1].total) if bills else None
    demand = None
    if bills and bills[0].demand is not None and bills[1].demand is not None:
        demand = cost_between(bills[0].demand, bills[1].demand)
    made = _valued(line, yearly, hours, ask)
    return replace(
        made,
        before=bills[0] if bills else None,
        now=bills[1] if bills else None,
        marginal=ask(lambda: blended_price(_need(yearly), saved)) if yearly is not None and saved > 0 else None,
        blended=_mean_price(bills, before, asked, ask),
        demand=demand,
        missing=tuple(dict.fromkeys(ask.missing)),
    )


def worth_as_read(line: Line, model: Worth | None, saved: Figure, hours: Figure) -> Worth:
    """What a saving that was read is worth: at what a saved kWh is worth on the modelled bill, else at the price."""
    ask = _Asking()
    price = model.marginal if model is not None and model.marginal is not None else None
    yearly = ask(lambda: yearly_money(saved, line.site.energy_price if price is None else price))
    made = _valued(line, yearly, hours, ask)
    if model is None:
        return made
    return replace(
        made, before=model.before, now=model.now, marginal=model.marginal, blended=model.blended, demand=model.demand
    )


def _need(figure: Figure | None) -> Figure:
    if figure is None:
        raise NoSolution("the yearly saving is not known")
    return figure


def _valued(line: Line, yearly: Figure | None, hours: Figure, ask: _Asking) -> Worth:
    """What so much a year is worth over the years."""
    years, discount = _usual(line, "years", YEARS, "years"), _usual(line, "discount", DISCOUNT, "percent")
    rising = _usual(line, "escalation", ESCALATION, "percent")
    upkeep = line.duty.upkeep if line.duty.has("upkeep") else given("upkeep", 0.0, "money", "none entered")
    cost = ask(lambda: net_cost(line))

    def of(compute: Callable[[Figure, Figure], Figure]) -> Figure | None:
        return None if yearly is None or cost is None else ask(lambda: compute(cost, yearly))

    present = None
    if yearly is not None:
        present = ask(lambda: present_value_of_savings(yearly, discount, rising, years, upkeep))
    return Worth(
        before=None,
        now=None,
        yearly=yearly,
        marginal=None,
        blended=None,
        demand=None,
        cost=cost,
        upkeep=upkeep,
        years=years,
        discount=discount,
        escalation=rising,
        real=real_rate(discount, line.site.inflation) if line.site.has("inflation") else None,
        payback=of(lambda c, s: simple_payback(c, cost_between(s, upkeep))),
        discounted=of(lambda c, s: discounted_payback(c, s, discount, rising, years, upkeep)),
        present_value=of(lambda c, s: cost_between(present_value_of_savings(s, discount, rising, years, upkeep), c))
        if upkeep
        else of(lambda c, s: net_present_value(c, s, discount, rising, years)),
        rate_of_return=of(lambda c, s: internal_rate_of_return(c, s, rising, years, upkeep)),
        modified_return=of(lambda c, s: modified_rate_of_return(c, s, discount, rising, years, upkeep)),
        to_investment=of(lambda c, _: savings_to_investment(_need(present), c)),
        uniform=ask(lambda: uniform_present_value(discount, years)) if discount > 0 else None,
        escalated=ask(lambda: rising_present_value(discount, rising, years)),
        break_even=of(lambda c, _: share_of_hours(hours, break_even_share(c, _need(present)))),
        missing=tuple(dict.fromkeys(ask.missing)),
    )


def _bills(
    line: Line, asked: list[Asked], before: list[Figure], now: list[Figure], ask: _Asking
) -> tuple[Bill, Bill] | None:
    try:
        return bill_of(line, asked, before), bill_of(line, asked, now)
    except NotKnown as gap:
        ask.missing.append(gap.tellings)
        return None


def _mean_price(
    bills: tuple[Bill, Bill] | None, before: list[Figure], asked: list[Asked], ask: _Asking
) -> Figure | None:
    if bills is None:
        return None
    first = bills[0]
    return ask(lambda: blended_price(first.total, energy_of_profile(before, [a.hours for a in asked])))
