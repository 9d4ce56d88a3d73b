"""What a yearly saving is worth over the years: cash flows, rates and paybacks.

All rates are nominal: a nominal discount goes with a nominal escalation, a real one with a real one; they are not
mixed. The first year's saving is not escalated, except in `escalated_present_value`, which says so.
"""

import math
from collections.abc import Callable
from typing import Annotated

from mainspring.core.errors import NoSolution, check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import Money, Percent, Ratio, Year

_HANDBOOK_135 = Source("NIST Handbook 135", "life-cycle costing, from memory", "handbook")
_FISHER = Source("I. Fisher, The Theory of Interest (1930)", "real and nominal rates, from memory", "handbook")
_LEAST_RATE, _MOST_RATE = -0.99, 1e4


def savings_by_year(yearly_saving: float, escalation: float, years: float, upkeep: float = 0.0) -> list[float]:
    """What comes in at the end of each year [money]."""
    check_range("years", years, atleast=1, upto=60)
    return [yearly_saving * math.pow(1 + escalation, t - 1) - upkeep for t in range(1, int(years) + 1)]


def _present(flows: list[float], discount: float) -> float:
    return sum(flow / math.pow(1 + discount, t) for t, flow in enumerate(flows, 1))


@method("PV = Σ (S·(1 + e)^(t-1) - M) / (1 + d)^t for t = 1 to n", _HANDBOOK_135, words=True)
def present_value_of_savings(
    yearly_saving: Annotated[Money, In("of the first year")],
    discount: Annotated[Ratio, In("nominal rate a year", above=-1)],
    escalation: Annotated[Ratio, In("of the energy price a year", above=-1)],
    years: Annotated[Year, In("whole years counted", atleast=1)],
    upkeep: Annotated[Money, In("more a year than before, not escalated")] = 0.0,
) -> Money:
    """Present value of the savings of all years, upkeep taken off.

    >>> round(present_value_of_savings(5156, 0.08, 0.03, 10), 2)
    38928.49
    """
    return _present(savings_by_year(yearly_saving, escalation, years, upkeep), discount)


@method("SIR = PV / C", _HANDBOOK_135)
def savings_to_investment(
    present_value: Annotated[Money, In("of the savings", "PV")], net_cost: Annotated[Money, In("spent", "C", above=0)]
) -> Ratio:
    """Savings to investment: above 1 it pays within the years counted.

    >>> round(savings_to_investment(38928.489, 21000), 5)
    1.85374
    """
    return present_value / net_cost


def _root(of: Callable[[float], float]) -> float:
    if of(_LEAST_RATE) * of(_MOST_RATE) > 0:
        raise NoSolution("no rate of return: the savings never pay the cost, or nothing was spent")
    from scipy.optimize import brentq  # takes half a second to load, and few ask for a rate

    return float(brentq(of, _LEAST_RATE, _MOST_RATE, xtol=1e-12))


@method("IRR = the d at which C = Σ (S·(1 + e)^(t-1) - M) / (1 + d)^t", _HANDBOOK_135, words=True)
def internal_rate_of_return(
    net_cost: Annotated[Money, In("spent at the start", above=0)],
    yearly_saving: Annotated[Money, In("of the first year")],
    escalation: Annotated[Ratio, In("of the energy price a year", above=-1)],
    years: Annotated[Year, In("whole years counted", atleast=1)],
    upkeep: Annotated[Money, In("more a year than before")] = 0.0,
) -> Percent:
    """Rate at which the savings are just worth the cost.

    Raises
    ------
    NoSolution : the savings never pay the cost

    >>> round(internal_rate_of_return(21000, 5156, 0.03, 10), 6)
    0.235809
    """
    flows = savings_by_year(yearly_saving, escalation, years, upkeep)
    return _root(lambda rate: _present(flows, rate) - net_cost)


@method("MIRR = (FV / C)^(1/n) - 1 with FV = Σ (S·(1 + e)^(t-1) - M)·(1 + r)^(n-t)", _HANDBOOK_135, words=True)
def modified_rate_of_return(
    net_cost: Annotated[Money, In("spent at the start", above=0)],
    yearly_saving: Annotated[Money, In("of the first year")],
    reinvest: Annotated[Ratio, In("rate at which savings are put by", above=-1)],
    escalation: Annotated[Ratio, In("of the energy price a year", above=-1)],
    years: Annotated[Year, In("whole years counted", atleast=1)],
    upkeep: Annotated[Money, In("more a year than before")] = 0.0,
) -> Percent:
    """Rate of return when what comes in is put by at a rate of its own.

    Raises
    ------
    NoSolution : nothing comes in

    >>> round(modified_rate_of_return(21000, 5156, 0.08, 0.03, 10), 6)
    0.148758
    """
    flows = savings_by_year(yearly_saving, escalation, years, upkeep)
    last = len(flows)
    future = sum(flow * math.pow(1 + reinvest, last - t) for t, flow in enumerate(flows, 1))
    if future <= 0:
        raise NoSolution("no rate of return: nothing comes in")
    return math.pow(future / net_cost, 1 / last) - 1


@method(
    "t_dpb = the t at which Σ (S·(1 + e)^(t-1) - M) / (1 + d)^t = C, linear within the year", _HANDBOOK_135, words=True
)
def discounted_payback(
    net_cost: Annotated[Money, In("spent at the start", atleast=0)],
    yearly_saving: Annotated[Money, In("of the first year")],
    discount: Annotated[Ratio, In("nominal rate a year", above=-1)],
    escalation: Annotated[Ratio, In("of the energy price a year", above=-1)],
    years: Annotated[Year, In("whole years counted", atleast=1)],
    upkeep: Annotated[Money, In("more a year than before")] = 0.0,
) -> Year:
    """Years until the discounted savings have paid the cost.

    Raises
    ------
    NoSolution : not within the years counted

    >>> round(discounted_payback(21000, 5156, 0.08, 0.03, 10), 4)
    4.8075
    """
    left = net_cost
    for t, flow in enumerate(savings_by_year(yearly_saving, escalation, years, upkeep), 1):
        worth = flow / math.pow(1 + discount, t)
        if worth >= left:
            return t - 1 + (left / worth if worth > 0 else 0.0)
        left -= worth
    raise NoSolution(f"not paid back within {years:.0f} years at this discount")


@method("UPV* = Σ ((1 + e) / (1 + d))^t for t = 1 to n", _HANDBOOK_135, words=True)
def escalated_present_value(
    discount: Annotated[Ratio, In("rate a year", above=-1)],
    escalation: Annotated[Ratio, In("rate a year", above=-1)],
    years: Annotated[Year, In("whole years", atleast=1)],
) -> Ratio:
    """Present value of one unit of money a year that escalates, the first year's escalated already.

    >>> round(escalated_present_value(0.08, 0.03, 10), 5)
    7.77664
    """
    return (1 + escalation) * rising_present_value(discount, escalation, years)


@method("UPV_e = Σ (1 + e)^(t-1) / (1 + d)^t for t = 1 to n", _HANDBOOK_135, words=True)
def rising_present_value(
    discount: Annotated[Ratio, In("rate a year", above=-1)],
    escalation: Annotated[Ratio, In("rate a year", above=-1)],
    years: Annotated[Year, In("whole years", atleast=1)],
) -> Ratio:
    """Present value of one unit of money a year that escalates from the second year on, as all worth here counts.

    >>> round(rising_present_value(0.08, 0.03, 10), 5)
    7.55013
    """
    return _present(savings_by_year(1.0, escalation, years), discount)


@method("CRF = d * (1 + d)**n / ((1 + d)**n - 1)", _HANDBOOK_135)
def capital_recovery(
    discount: Annotated[Ratio, In("rate a year", "d", above=0)], years: Annotated[Year, In("", "n", above=0)]
) -> Ratio:
    """What of a sum is due every year so that it is paid with interest.

    >>> round(capital_recovery(0.08, 10), 6)
    0.149029
    """
    growth = math.pow(1 + discount, years)
    return discount * growth / (growth - 1)


@method("d_r = (1 + d) / (1 + i) - 1", _FISHER)
def real_rate(
    nominal: Annotated[Ratio, In("a year", "d", above=-1)], inflation: Annotated[Ratio, In("a year", "i", above=-1)]
) -> Percent:
    """Rate with inflation taken out.

    >>> round(real_rate(0.08, 0.025), 6)
    0.053659
    """
    return (1 + nominal) / (1 + inflation) - 1


@method("x = C / PV", DERIVED)
def break_even_share(
    net_cost: Annotated[Money, In("spent", "C", atleast=0)],
    present_value: Annotated[Money, In("of the savings at the hours entered", "PV", above=0)],
) -> Ratio:
    """Share of the hours, all levels alike, at which the savings just pay the cost in the years counted.

    >>> round(break_even_share(21000, 38928.49), 4)
    0.5395
    """
    return net_cost / present_value
