"""Power in the water and at the shaft."""

import math

from mainspring.core.errors import check_range
from mainspring.core.method import DERIVED, Source, method
from mainspring.core.quantity import (
    WATER_20C,
    Acceleration,
    CubicMetrePerSecond,
    G,
    KilogramPerCubicMetre,
    MetreHead,
    Percent,
    Ratio,
    RevPerMin,
    SpecificSpeed,
    Watt,
)


@method(
    id="hydraulic_power",
    symbol="P_h",
    formula="rho * g * Q * H",
    symbols={"rho": "density", "g": "gravity", "Q": "flow", "H": "head"},
    source=DERIVED,
)
def hydraulic_power(
    flow: CubicMetrePerSecond, head: MetreHead, density: KilogramPerCubicMetre = WATER_20C, gravity: Acceleration = G
) -> Watt:
    """Power that the water receives.

    Parameters
    ----------
    flow : volume flow [m³/s], >= 0
    head : total head [m]
    density : of the liquid [kg/m³]
    gravity : standard gravity [m/s²]

    Examples
    --------
    >>> round(hydraulic_power(0.02, 40, 998.2), 2)
    7831.2
    """
    return density * gravity * flow * head


@method(
    id="pump_shaft_power",
    symbol="P_2",
    formula="rho * g * Q * H / eta",
    symbols={"rho": "density", "g": "gravity", "Q": "flow", "H": "head", "eta": "efficiency"},
    source=Source("Pump Handbook, 4th ed.", "eq. 2.14, from memory", "handbook"),
)
def pump_shaft_power(
    flow: CubicMetrePerSecond,
    head: MetreHead,
    efficiency: Percent,
    density: KilogramPerCubicMetre = WATER_20C,
    gravity: Acceleration = G,
) -> Watt:
    """Power the motor must deliver to the pump shaft.

    Parameters
    ----------
    flow : volume flow [m³/s], >= 0
    head : total head across the pump [m]
    efficiency : pump efficiency, 0 < η <= 1 [-]
    density : of the liquid [kg/m³]; default water at 20 °C
    gravity : standard gravity [m/s²]

    Raises
    ------
    OutOfRange : efficiency outside (0, 1], flow negative

    Examples
    --------
    >>> round(pump_shaft_power(flow=0.05, head=20.0, efficiency=0.80, density=1000.0))
    12258
    """
    return density * gravity * flow * head / efficiency  # eq. 2.14


@method(
    id="specific_speed",
    symbol="n_q",
    formula="n * sqrt(Q) / H**0.75",
    symbols={"n": "speed_rpm", "Q": "flow", "H": "head"},
    source=DERIVED,
)
def specific_speed(speed_rpm: RevPerMin, flow: CubicMetrePerSecond, head: MetreHead) -> SpecificSpeed:
    """Specific speed of a pump at its best point, metric (r/min, m³/s, m); times 51.645 for US units.

    Parameters
    ----------
    speed_rpm : [r/min]
    flow : at best efficiency, one impeller eye [m³/s]
    head : of one stage, > 0 [m]

    Examples
    --------
    >>> round(specific_speed(3550, 0.0402, 100), 3)
    22.508
    """
    check_range("flow", flow, above=0)
    return speed_rpm * math.sqrt(flow) / math.pow(head, 0.75)


@method(
    id="no_flow_power",
    symbol="P_0",
    formula="rho * g * H_0 * s**3 * Q_b / (2 * eta_b)",
    symbols={
        "rho": "density",
        "g": "gravity",
        "H_0": "shutoff_head",
        "s": "speed_ratio",
        "Q_b": "best_flow",
        "eta_b": "best_efficiency",
    },
    source=Source("limit of the efficiency parabola at no flow", kind="derived"),
)
def no_flow_power(
    shutoff_head: MetreHead,
    speed_ratio: Ratio,
    best_flow: CubicMetrePerSecond,
    best_efficiency: Percent,
    density: KilogramPerCubicMetre = WATER_20C,
    gravity: Acceleration = G,
) -> Watt:
    """Shaft power against a shut valve: what heats the water in the casing.

    Parameters
    ----------
    shutoff_head : at full speed [m]
    speed_ratio : of full speed [-]
    best_flow : at best efficiency and full speed [m³/s]
    best_efficiency : 0 < η <= 1 [-]
    density : of the liquid [kg/m³]
    gravity : standard gravity [m/s²]

    Examples
    --------
    >>> round(no_flow_power(50, 1.0, 0.022, 0.80))
    6730
    """
    return density * gravity * shutoff_head * speed_ratio**3 * best_flow / (2 * best_efficiency)


LEAST_CORRECTED = 0.4  # of the best efficiency, below which the speed correction is held: the trade's, no source


@method(
    id="pump_power_to_no_flow",
    symbol="P_2",
    formula="ρ g H s Q_b / (η_b (2 - x)) · η_c / (1 - (1 - η_c)(1/s)^0.1); x = Q/(s Q_b), η_c = η_b·max(2x - x², 0.4)",
    words=True,
    source=Source(
        "efficiency parabola; speed correction of Sarbu & Borza 1998, held at 40 % of the best and below",
        kind="derived",
    ),
)
def pump_power_to_no_flow(
    flow: CubicMetrePerSecond,
    head: MetreHead,
    speed_ratio: Ratio,
    best_flow: CubicMetrePerSecond,
    best_efficiency: Percent,
    density: KilogramPerCubicMetre = WATER_20C,
    gravity: Acceleration = G,
) -> Watt:
    """Shaft power of a pump at any flow, none included: no division by a flow, and no jump where it just lifts.

    The same as by the efficiency corrected for speed wherever that is above 40 % of the best.

    Parameters
    ----------
    flow : >= 0, below twice the best flow at that speed [m³/s]
    head : >= 0 [m]
    speed_ratio : of full speed, > 0 [-]
    best_flow : at best efficiency and full speed, > 0 [m³/s]
    best_efficiency : 0 < η <= 1 [-]
    density : of the liquid [kg/m³]
    gravity : standard gravity [m/s²]

    Raises
    ------
    OutOfRange : a flow at which the efficiency parabola has ended

    Examples
    --------
    >>> round(pump_power_to_no_flow(0.0, 50, 1.0, 0.022, 0.80))
    6730
    """
    x = flow / (speed_ratio * best_flow)
    check_range("flow over best flow", x, atleast=0, below=2)
    by_affinity = density * gravity * head * speed_ratio * best_flow / (best_efficiency * (2 - x))
    held = best_efficiency * max(2 * x - x * x, LEAST_CORRECTED)
    return by_affinity * held / (1 - (1 - held) * math.pow(1 / speed_ratio, 0.1))


@method(
    id="specific_speed_us",
    symbol="N_s",
    formula="n_q * 51.6452",
    symbols={"n_q": "metric"},
    source=Source("ANSI/HI 1.3", "gpm and ft for m³/s and m; √(15850.3)/3.28084^0.75", "standard"),
)
def specific_speed_us(metric: SpecificSpeed) -> SpecificSpeed:
    """Specific speed with gpm and feet from that with m³/s and metres.

    Parameters
    ----------
    metric : n·√Q/H^0.75 in r/min, m³/s and m, >= 0 [-]

    Examples
    --------
    >>> round(specific_speed_us(22.5082), 1)
    1162.4
    """
    return metric * 51.6452
