"""Plain arithmetic as methods, so that a sum, a share or a margin in a sentence opens to its numbers.

Figures add and subtract by the first two (`Figure.__add__`).
"""

from collections.abc import Sequence

from mainspring.core.errors import check_range
from mainspring.core.method import DERIVED, method
from mainspring.core.quantity import Percent, Ratio, Volt


@method(id="sum", symbol="s", formula="a + b", symbols={"a": "first", "b": "second"}, source=DERIVED, like="first")
def sum_of(first: float, second: float) -> float:
    """The sum of two figures.

    Parameters
    ----------
    first : any quantity
    second : the same kind of quantity

    Examples
    --------
    >>> float(sum_of(2.0, 0.5))
    2.5
    """
    return float(first) + float(second)


@method(id="difference", symbol="d", formula="a - b", symbols={"a": "first", "b": "less"}, source=DERIVED, like="first")
def difference_of(first: float, less: float) -> float:
    """What one figure is more than another.

    Parameters
    ----------
    first : any quantity
    less : the same kind of quantity

    Examples
    --------
    >>> float(difference_of(3.0, 1.0))
    2.0
    """
    return float(first) - float(less)


@method(
    id="mean", symbol="m", formula="(a + b) / 2", symbols={"a": "first", "b": "second"}, source=DERIVED, like="first"
)
def mean_of(first: float, second: float) -> float:
    """Half-way between two figures.

    Parameters
    ----------
    first : any quantity
    second : the same kind of quantity

    Examples
    --------
    >>> float(mean_of(38.0, 42.0))
    40.0
    """
    return (float(first) + float(second)) / 2


@method(id="split", symbol="e", formula="a / n", symbols={"a": "whole", "n": "parts"}, source=DERIVED, like="whole")
def split_between(whole: float, parts: float) -> float:
    """What each of several carries of a whole.

    Parameters
    ----------
    whole : any quantity
    parts : how many share it, > 0

    Examples
    --------
    >>> float(split_between(9.0, 2.0))
    4.5
    """
    return float(whole) / parts


@method(id="part_of", symbol="p", formula="a * x", symbols={"a": "whole", "x": "share"}, source=DERIVED, like="whole")
def part_of(whole: float, share: Percent) -> float:
    """A share of a whole, as a quantity: a tenth of the duty flow.

    Parameters
    ----------
    whole : any quantity
    share : of it, >= 0 [-]

    Examples
    --------
    >>> float(part_of(40.0, 0.1))
    4.0
    """
    return float(whole) * share


@method(id="share_of", symbol="x", formula="a / b", symbols={"a": "value", "b": "whole"}, source=DERIVED)
def share_of(value: float, whole: float) -> Percent:
    """A value as a share of another: motor load, part of a range.

    Parameters
    ----------
    value : any quantity
    whole : the same kind of quantity, > 0

    Examples
    --------
    >>> float(share_of(5.5, 11))
    0.5
    """
    return value / whole


@method(id="multiple_of", symbol="k", formula="a / b", symbols={"a": "value", "b": "unit_value"}, source=DERIVED)
def multiple_of(value: float, unit_value: float) -> Ratio:
    """How many times one value goes into another.

    Parameters
    ----------
    value : any quantity
    unit_value : the same kind of quantity, > 0

    Examples
    --------
    >>> round(multiple_of(13, 10), 3)
    1.3
    """
    return value / unit_value


@method(id="margin", symbol="m", formula="a / b - 1", symbols={"a": "available", "b": "needed"}, source=DERIVED)
def margin(available: float, needed: float) -> Percent:
    """What is in hand over what is needed; negative where it is short.

    Parameters
    ----------
    available : any quantity
    needed : the same kind of quantity, > 0

    Examples
    --------
    >>> round(margin(14.4, 11.1), 3)
    0.297
    """
    return available / needed - 1


@method(id="mean_voltage", symbol="V_mean", formula="Σ Vᵢ / n", words=True, source=DERIVED)
def mean_voltage(readings: Sequence[Volt]) -> Volt:
    """Mean of the line voltages.

    Parameters
    ----------
    readings : at least one [V]

    Examples
    --------
    >>> float(mean_voltage([399, 400, 401]))
    400.0
    """
    check_range("number of readings", len(readings), atleast=1)
    return sum(readings) / len(readings)
