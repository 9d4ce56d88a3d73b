"""Voltage and current unbalance."""

import math
from collections.abc import Sequence
from typing import Annotated

from mainspring.core.errors import OutOfRange, check_range
from mainspring.core.method import In, Source, method
from mainspring.core.quantity import Percent, Ratio, Volt
from mainspring.core.tables import interpolate, table


@method(
    "U = largest deviation from the mean, over the mean",
    Source("NEMA MG-1", "14.36 definition, from memory", "standard"),
    words=True,
)
def unbalance(readings: Annotated[Sequence[Volt], In("the three line values, all", above=0)]) -> Percent:
    """Unbalance of three line voltages (or three currents) by the deviation from their mean.

    Raises
    ------
    OutOfRange : not three readings, or one not above 0

    >>> round(unbalance([460, 467, 450]) * 100, 3)
    1.961
    """
    if len(readings) != 3:
        raise OutOfRange("number of readings", len(readings), "three, one for each pair of lines")
    for reading in readings:
        check_range("reading", reading, above=0)
    mean = sum(readings) / 3
    return max(abs(r - mean) for r in readings) / mean


@method(
    "VUF = sqrt((1 - √(3 - 6β)) / (1 + √(3 - 6β))) with β = ΣV⁴ / (ΣV²)²",
    Source(
        "IEC 61000-4-30", "5.7.1, negative over positive sequence from three line voltages, from memory", "standard"
    ),
    words=True,
)
def negative_sequence_unbalance(readings: Annotated[Sequence[Volt], In("the three line voltages")]) -> Percent:
    """Negative-sequence voltage unbalance factor from three line voltages.

    >>> round(negative_sequence_unbalance([460, 467, 450]) * 100, 4)
    2.1465
    """
    if len(readings) != 3:
        raise OutOfRange("number of readings", len(readings), "three, one for each pair of lines")
    beta = sum(v**4 for v in readings) / sum(v**2 for v in readings) ** 2
    if 3 - 6 * beta < 0:
        raise OutOfRange("readings", str(list(readings)), "three voltages that close a triangle")
    root = math.sqrt(3 - 6 * beta)
    return math.sqrt(max(0.0, 1 - root) / (1 + root))


@method(
    "k_U = curve reading, linear between 0, 1, 2, 3, 4 and 5 %",
    Source("NEMA MG-1", "figure 14-1, read from memory to ±0.015", "standard"),
    words=True,
)
def unbalance_derating(unbalance_ratio: Annotated[Percent, In("by deviation from the mean, 0 to 0.05")]) -> Ratio:
    """Derating of a motor running straight from an unbalanced supply.

    Raises
    ------
    OutOfRange : above 5 %, where a motor must not run

    >>> round(unbalance_derating(0.035), 3)
    0.85
    """
    check_range("voltage unbalance", unbalance_ratio, atleast=0, upto=0.05 + 1e-9)
    points = table("unbalance_derating")["points"]
    return interpolate(unbalance_ratio * 100, [p[0] for p in points], [p[1] for p in points])


@method(
    "dT = 2 * (100 * U)**2 / 100",
    Source("US DOE, motor tip sheet 7", "twice the square of the percent unbalance, from memory", "guideline"),
)
def unbalance_heating(
    unbalance_ratio: Annotated[Percent, In("by deviation from the mean", "U", atleast=0, upto=0.05)],
) -> Percent:
    """How much more a winding warms by voltage unbalance, as a share of its rise.

    >>> round(unbalance_heating(0.035), 4)
    0.245
    """
    return 2 * (100 * unbalance_ratio) ** 2 / 100


@method(
    "eta = look-up, linear between 0, 1 and 2.5 % unbalance and between 50, 75 and 100 % load",
    Source("US DOE, motor tip sheet 7", "table of one 100 hp, 1800 r/min motor, from memory", "guideline"),
    words=True,
)
def efficiency_under_unbalance(
    unbalance_ratio: Annotated[Percent, In("by deviation from the mean", atleast=0, upto=0.025)],
    load: Annotated[Percent, In("share of rated power", atleast=0.5, upto=1)],
) -> Percent:
    """Efficiency that one motor of 100 hp showed on an unbalanced supply: an example, not this motor.

    >>> round(efficiency_under_unbalance(0.025, 0.75), 3)
    0.939
    """
    seen = table("unbalance_efficiency")
    across = [interpolate(unbalance_ratio * 100, seen["unbalance"], row) for row in seen["efficiency"]]
    return interpolate(load * 100, seen["load"], across) / 100
