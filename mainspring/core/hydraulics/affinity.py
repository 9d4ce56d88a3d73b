"""The affinity laws: exact for the pump's own curve, not for the operating point against static head."""

from typing import Annotated

from mainspring.core.method import In, Source, method
from mainspring.core.quantity import CubicMetrePerSecond, MetreHead, Ratio, RevPerMin, Watt

_AFFINITY = Source("ANSI/HI 14.3, ISO 9906", "affinity laws, from memory", "standard")


@method("Q_2 = Q_1 * n_2 / n_1", _AFFINITY)
def affinity_flow(
    flow: Annotated[CubicMetrePerSecond, In("at the first speed", "Q_1")],
    speed_rpm: Annotated[RevPerMin, In("first speed", "n_1", above=0)],
    new_rpm: Annotated[RevPerMin, In("second speed", "n_2")],
) -> CubicMetrePerSecond:
    """Flow of a curve point carried to another speed.

    >>> round(affinity_flow(100, 1750, 1400), 6)
    80.0
    """
    return flow * new_rpm / speed_rpm


@method("H_2 = H_1 * (n_2 / n_1)**2", _AFFINITY)
def affinity_head(
    head: Annotated[MetreHead, In("at the first speed", "H_1")],
    speed_rpm: Annotated[RevPerMin, In("first speed", "n_1", above=0)],
    new_rpm: Annotated[RevPerMin, In("second speed", "n_2")],
) -> MetreHead:
    """Head of a curve point carried to another speed.

    >>> round(affinity_head(40, 1750, 1400), 6)
    25.6
    """
    return head * (new_rpm / speed_rpm) ** 2


@method("P_2 = P_1 * (n_2 / n_1)**3", _AFFINITY)
def affinity_power(
    power: Annotated[Watt, In("at the first speed", "P_1")],
    speed_rpm: Annotated[RevPerMin, In("first speed", "n_1", above=0)],
    new_rpm: Annotated[RevPerMin, In("second speed", "n_2")],
) -> Watt:
    """Shaft power of a curve point carried to another speed.

    >>> round(affinity_power(15000, 1750, 1400))
    7680
    """
    return power * (new_rpm / speed_rpm) ** 3


@method(
    "P_cube = P_0 * (Q / Q_0)**3",
    Source("the brochure's cube law; wrong wherever there is static head", kind="common practice"),
)
def cube_law_power(
    full_power: Annotated[Watt, In("at full flow", "P_0")],
    flow: Annotated[CubicMetrePerSecond, In("reduced flow", "Q", atleast=0)],
    full_flow: Annotated[CubicMetrePerSecond, In("full flow", "Q_0", above=0)],
) -> Watt:
    """Power that the cube law would promise at a reduced flow, shown beside the real figure.

    >>> round(cube_law_power(9870.6, 0.015, 0.020))
    4164
    """
    return full_power * (flow / full_flow) ** 3


@method("n = s * n_0", _AFFINITY)
def speed_in_rpm(
    speed_ratio: Annotated[Ratio, In("of full speed", "s")],
    full_rpm: Annotated[RevPerMin, In("speed of the curve", "n_0")],
) -> RevPerMin:
    """Shaft speed from a speed ratio.

    >>> round(speed_in_rpm(0.5477225575, 1750), 3)
    958.514
    """
    return speed_ratio * full_rpm
