"""Simple payback and present value."""

import math
from typing import Annotated

from mainspring.core.errors import NoSolution, check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import Joule, Money, MoneyPerJoule, Ratio, Year

_HANDBOOK_135 = Source("NIST Handbook 135", "life-cycle costing, from memory", "handbook")


@method("S = E * r", DERIVED)
def yearly_money(
    energy: Annotated[Joule, In("saved in a year", "E")],
    price: Annotated[MoneyPerJoule, In("of energy, the last block and not the blended price", "r")],
) -> Money:
    """Worth of a year's saved energy at the marginal price.

    >>> round(yearly_money(26000 * 3.6e6, 0.18 / 3.6e6))
    4680
    """
    return energy * price


@method("t_pb = C / S", _HANDBOOK_135)
def simple_payback(
    net_cost: Annotated[Money, In("spent, after grants", "C", atleast=0)],
    yearly_saving: Annotated[Money, In("of the first year", "S")],
) -> Year:
    """Years until the saving has paid the cost, interest neglected.

    Raises
    ------
    NoSolution : no saving

    >>> round(simple_payback(21000, 5156), 4)
    4.0729
    """
    if yearly_saving <= 0:
        raise NoSolution("it saves nothing in a year, or costs more than before: it never pays back")
    return net_cost / yearly_saving


@method("NPV = -C + Σ S·(1 + e)^(t-1) / (1 + d)^t for t = 1 to n", _HANDBOOK_135, words=True)
def net_present_value(
    net_cost: Annotated[Money, In("spent at the start")],
    yearly_saving: Annotated[Money, In("of the first year")],
    discount: Annotated[Ratio, In("nominal rate a year", above=-1)],
    escalation: Annotated[Ratio, In("of the energy price a year")],
    years: Annotated[Year, In("whole years counted")],
) -> Money:
    """Present value of the savings less the cost; the first year's saving is not escalated.

    >>> round(net_present_value(21000, 5156, 0.08, 0.03, 10), 2)
    17928.49
    """
    check_range("years", years, atleast=1, upto=60)
    present = sum(
        yearly_saving * math.pow(1 + escalation, t - 1) / math.pow(1 + discount, t) for t in range(1, int(years) + 1)
    )
    return present - net_cost


@method("UPV = ((1 + d)**n - 1) / (d * (1 + d)**n)", _HANDBOOK_135)
def uniform_present_value(
    discount: Annotated[Ratio, In("rate a year", "d", above=0)], years: Annotated[Year, In("", "n")]
) -> Ratio:
    """Present value of one unit of money a year.

    >>> round(uniform_present_value(0.08, 10), 5)
    6.71008
    """
    growth = math.pow(1 + discount, years)
    return (growth - 1) / (discount * growth)
