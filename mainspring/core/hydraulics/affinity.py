"""The affinity laws: exact for the pump's own curve, not for the operating point against static head."""

from mainspring.core.method import Source, method
from mainspring.core.quantity import CubicMetrePerSecond, MetreHead, Ratio, RevPerMin, Watt

_AFFINITY = Source("ANSI/HI 14.3, ISO 9906", "affinity laws, from memory", "standard")


@method(
    id="affinity_flow",
    symbol="Q_2",
    formula="Q_1 * n_2 / n_1",
    symbols={"Q_1": "flow", "n_1": "speed_rpm", "n_2": "new_rpm"},
    source=_AFFINITY,
)
def affinity_flow(flow: CubicMetrePerSecond, speed_rpm: RevPerMin, new_rpm: RevPerMin) -> CubicMetrePerSecond:
    """Flow of a curve point carried to another speed.

    Parameters
    ----------
    flow : at the first speed [m³/s]
    speed_rpm : first speed, > 0 [r/min]
    new_rpm : second speed [r/min]

    Examples
    --------
    >>> round(affinity_flow(100, 1750, 1400), 6)
    80.0
    """
    return flow * new_rpm / speed_rpm


@method(
    id="affinity_head",
    symbol="H_2",
    formula="H_1 * (n_2 / n_1)**2",
    symbols={"H_1": "head", "n_1": "speed_rpm", "n_2": "new_rpm"},
    source=_AFFINITY,
)
def affinity_head(head: MetreHead, speed_rpm: RevPerMin, new_rpm: RevPerMin) -> MetreHead:
    """Head of a curve point carried to another speed.

    Parameters
    ----------
    head : at the first speed [m]
    speed_rpm : first speed, > 0 [r/min]
    new_rpm : second speed [r/min]

    Examples
    --------
    >>> round(affinity_head(40, 1750, 1400), 6)
    25.6
    """
    return head * (new_rpm / speed_rpm) ** 2


@method(
    id="affinity_power",
    symbol="P_2",
    formula="P_1 * (n_2 / n_1)**3",
    symbols={"P_1": "power", "n_1": "speed_rpm", "n_2": "new_rpm"},
    source=_AFFINITY,
)
def affinity_power(power: Watt, speed_rpm: RevPerMin, new_rpm: RevPerMin) -> Watt:
    """Shaft power of a curve point carried to another speed.

    Parameters
    ----------
    power : at the first speed [W]
    speed_rpm : first speed, > 0 [r/min]
    new_rpm : second speed [r/min]

    Examples
    --------
    >>> round(affinity_power(15000, 1750, 1400))
    7680
    """
    return power * (new_rpm / speed_rpm) ** 3


@method(
    id="cube_law_power",
    symbol="P_cube",
    formula="P_0 * (Q / Q_0)**3",
    symbols={"P_0": "full_power", "Q": "flow", "Q_0": "full_flow"},
    source=Source("the brochure's cube law; wrong wherever there is static head", kind="common practice"),
)
def cube_law_power(full_power: Watt, flow: CubicMetrePerSecond, full_flow: CubicMetrePerSecond) -> Watt:
    """Power that the cube law would promise at a reduced flow, shown beside the real figure.

    Parameters
    ----------
    full_power : at full flow [W]
    flow : reduced flow [m³/s], >= 0
    full_flow : full flow, > 0 [m³/s]

    Examples
    --------
    >>> round(cube_law_power(9870.6, 0.015, 0.020))
    4164
    """
    return full_power * (flow / full_flow) ** 3


@method(
    id="speed_in_rpm",
    symbol="n",
    formula="s * n_0",
    symbols={"s": "speed_ratio", "n_0": "full_rpm"},
    source=_AFFINITY,
)
def speed_in_rpm(speed_ratio: Ratio, full_rpm: RevPerMin) -> RevPerMin:
    """Shaft speed from a speed ratio.

    Parameters
    ----------
    speed_ratio : of full speed [-]
    full_rpm : speed of the curve [r/min]

    Examples
    --------
    >>> round(speed_in_rpm(0.5477225575, 1750), 3)
    958.514
    """
    return speed_ratio * full_rpm
