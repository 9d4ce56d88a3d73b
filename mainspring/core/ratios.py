"""Plain arithmetic as methods, so that a sum, a share or a margin in a sentence opens to its numbers.

Figures add and subtract by the first two (`Figure.__add__`).
"""

from collections.abc import Sequence
from typing import Annotated

from mainspring.core.errors import check_range
from mainspring.core.method import DERIVED, In, method
from mainspring.core.quantity import Percent, Ratio, Volt


@method("s = a + b", DERIVED, id="sum", like="first")
def sum_of(
    first: Annotated[float, In("any quantity", "a")], second: Annotated[float, In("the same kind of quantity", "b")]
) -> float:
    """The sum of two figures.

    >>> float(sum_of(2.0, 0.5))
    2.5
    """
    return float(first) + float(second)


@method("d = a - b", DERIVED, id="difference", like="first")
def difference_of(
    first: Annotated[float, In("any quantity", "a")], less: Annotated[float, In("the same kind of quantity", "b")]
) -> float:
    """What one figure is more than another.

    >>> float(difference_of(3.0, 1.0))
    2.0
    """
    return float(first) - float(less)


@method("m = (a + b) / 2", DERIVED, id="mean", like="first")
def mean_of(
    first: Annotated[float, In("any quantity", "a")], second: Annotated[float, In("the same kind of quantity", "b")]
) -> float:
    """Half-way between two figures.

    >>> float(mean_of(38.0, 42.0))
    40.0
    """
    return (float(first) + float(second)) / 2


@method("e = a / n", DERIVED, id="split", like="whole")
def split_between(
    whole: Annotated[float, In("any quantity", "a")], parts: Annotated[float, In("how many share it", "n", above=0)]
) -> float:
    """What each of several carries of a whole.

    >>> float(split_between(9.0, 2.0))
    4.5
    """
    return float(whole) / parts


@method("p = a * x", DERIVED, like="whole")
def part_of(
    whole: Annotated[float, In("any quantity", "a")], share: Annotated[Percent, In("of it", "x", atleast=0)]
) -> float:
    """A share of a whole, as a quantity: a tenth of the duty flow.

    >>> float(part_of(40.0, 0.1))
    4.0
    """
    return float(whole) * share


@method("x = a / b", DERIVED)
def share_of(
    value: Annotated[float, In("any quantity", "a")],
    whole: Annotated[float, In("the same kind of quantity", "b", above=0)],
) -> Percent:
    """A value as a share of another: motor load, part of a range.

    >>> float(share_of(5.5, 11))
    0.5
    """
    return value / whole


@method("k = a / b", DERIVED)
def multiple_of(
    value: Annotated[float, In("any quantity", "a")],
    unit_value: Annotated[float, In("the same kind of quantity", "b", above=0)],
) -> Ratio:
    """How many times one value goes into another.

    >>> round(multiple_of(13, 10), 3)
    1.3
    """
    return value / unit_value


@method("m = a / b - 1", DERIVED)
def margin(
    available: Annotated[float, In("any quantity", "a")],
    needed: Annotated[float, In("the same kind of quantity", "b", above=0)],
) -> Percent:
    """What is in hand over what is needed; negative where it is short.

    >>> round(margin(14.4, 11.1), 3)
    0.297
    """
    return available / needed - 1


@method("V_mean = Σ Vᵢ / n", DERIVED, words=True)
def mean_voltage(readings: Annotated[Sequence[Volt], In("at least one")]) -> Volt:
    """Mean of the line voltages.

    >>> float(mean_voltage([399, 400, 401]))
    400.0
    """
    check_range("number of readings", len(readings), atleast=1)
    return sum(readings) / len(readings)
