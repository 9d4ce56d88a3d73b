"""Power in the water and at the shaft."""

import math
from typing import Annotated

from mainspring.core.errors import check_range
from mainspring.core.method import DERIVED, In, Source, method
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


@method("P_h = rho * g * Q * H", DERIVED)
def hydraulic_power(
    flow: Annotated[CubicMetrePerSecond, In("volume flow", "Q", atleast=0)],
    head: Annotated[MetreHead, In("total head", "H")],
    density: Annotated[KilogramPerCubicMetre, In("of the liquid", "rho")] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> Watt:
    """Power that the water receives.

    >>> round(hydraulic_power(0.02, 40, 998.2), 2)
    7831.2
    """
    return density * gravity * flow * head


@method("P_2 = rho * g * Q * H / eta", Source("Pump Handbook, 4th ed.", "eq. 2.14, from memory", "handbook"))
def pump_shaft_power(
    flow: Annotated[CubicMetrePerSecond, In("volume flow", "Q", atleast=0)],
    head: Annotated[MetreHead, In("total head across the pump", "H")],
    efficiency: Annotated[Percent, In("pump efficiency", "eta", above=0, upto=1)],
    density: Annotated[KilogramPerCubicMetre, In("of the liquid; default water at 20 °C", "rho")] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> Watt:
    """Power the motor must deliver to the pump shaft.

    Raises
    ------
    OutOfRange : efficiency outside (0, 1], flow negative

    >>> round(pump_shaft_power(flow=0.05, head=20.0, efficiency=0.80, density=1000.0))
    12258
    """
    return density * gravity * flow * head / efficiency  # eq. 2.14


@method("n_q = n * sqrt(Q) / H**0.75", DERIVED)
def specific_speed(
    speed_rpm: Annotated[RevPerMin, In("", "n")],
    flow: Annotated[CubicMetrePerSecond, In("at best efficiency, one impeller eye", "Q")],
    head: Annotated[MetreHead, In("of one stage", "H", above=0)],
) -> SpecificSpeed:
    """Specific speed of a pump at its best point, metric (r/min, m³/s, m); times 51.645 for US units.

    >>> round(specific_speed(3550, 0.0402, 100), 3)
    22.508
    """
    check_range("flow", flow, above=0)
    return speed_rpm * math.sqrt(flow) / math.pow(head, 0.75)


@method(
    "P_0 = rho * g * H_0 * s**3 * Q_b / (2 * eta_b)",
    Source("limit of the efficiency parabola at no flow", kind="derived"),
)
def no_flow_power(
    shutoff_head: Annotated[MetreHead, In("at full speed", "H_0")],
    speed_ratio: Annotated[Ratio, In("of full speed", "s")],
    best_flow: Annotated[CubicMetrePerSecond, In("at best efficiency and full speed", "Q_b")],
    best_efficiency: Annotated[Percent, In("", "eta_b", above=0, upto=1)],
    density: Annotated[KilogramPerCubicMetre, In("of the liquid", "rho")] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> Watt:
    """Shaft power against a shut valve: what heats the water in the casing.

    >>> round(no_flow_power(50, 1.0, 0.022, 0.80))
    6730
    """
    return density * gravity * shutoff_head * speed_ratio**3 * best_flow / (2 * best_efficiency)


LEAST_CORRECTED = 0.4  # of the best efficiency, below which the speed correction is held: the trade's, no source


@method(
    "P_2 = ρ g H s Q_b / (η_b (2 - x)) · η_c / (1 - (1 - η_c)(1/s)^0.1); x = Q/(s Q_b), η_c = η_b·max(2x - x², 0.4)",
    Source(
        "efficiency parabola; speed correction of Sarbu & Borza 1998, held at 40 % of the best and below",
        kind="derived",
    ),
    words=True,
)
def pump_power_to_no_flow(
    flow: Annotated[CubicMetrePerSecond, In("below twice the best flow at that speed", atleast=0)],
    head: Annotated[MetreHead, In("", atleast=0)],
    speed_ratio: Annotated[Ratio, In("of full speed", above=0)],
    best_flow: Annotated[CubicMetrePerSecond, In("at best efficiency and full speed", above=0)],
    best_efficiency: Annotated[Percent, In("", above=0, upto=1)],
    density: Annotated[KilogramPerCubicMetre, In("of the liquid")] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity")] = G,
) -> Watt:
    """Shaft power of a pump at any flow, none included: no division by a flow, and no jump where it just lifts.

    The same as by the efficiency corrected for speed wherever that is above 40 % of the best.

    Raises
    ------
    OutOfRange : a flow at which the efficiency parabola has ended

    >>> round(pump_power_to_no_flow(0.0, 50, 1.0, 0.022, 0.80))
    6730
    """
    x = flow / (speed_ratio * best_flow)
    check_range("flow over best flow", x, atleast=0, below=2)
    by_affinity = density * gravity * head * speed_ratio * best_flow / (best_efficiency * (2 - x))
    held = best_efficiency * max(2 * x - x * x, LEAST_CORRECTED)
    return by_affinity * held / (1 - (1 - held) * math.pow(1 / speed_ratio, 0.1))


@method("N_s = n_q * 51.6452", Source("ANSI/HI 1.3", "gpm and ft for m³/s and m; √(15850.3)/3.28084^0.75", "standard"))
def specific_speed_us(
    metric: Annotated[SpecificSpeed, In("n·√Q/H^0.75 in r/min, m³/s and m", "n_q", atleast=0)],
) -> SpecificSpeed:
    """Specific speed with gpm and feet from that with m³/s and metres.

    >>> round(specific_speed_us(22.5082), 1)
    1162.4
    """
    return metric * 51.6452
