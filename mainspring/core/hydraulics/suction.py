"""The pump's inlet and its limits: NPSH, minimum flow, preferred region."""

from typing import Annotated

from mainspring.core.errors import check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.practice import Band, pump
from mainspring.core.quantity import (
    WATER_20C,
    Acceleration,
    CubicMetre,
    CubicMetrePerSecond,
    G,
    HeatCapacity,
    Kelvin,
    KilogramPerCubicMetre,
    MetreHead,
    Pascal,
    Percent,
    Ratio,
    Second,
)


@method("NPSH_a = (p_a - p_v) / (rho * g) + z - h_f", Source("ANSI/HI 1.3", "definition, from memory", "standard"))
def npsh_available(
    surface_pressure: Annotated[Pascal, In("absolute, on the water it draws from", "p_a")],
    vapour_pressure: Annotated[Pascal, In("absolute, of the water", "p_v")],
    water_above_inlet: Annotated[MetreHead, In("level above the impeller; negative when it lifts", "z")],
    friction: Annotated[MetreHead, In("lost in the suction pipe", "h_f")],
    density: Annotated[KilogramPerCubicMetre, In("of the water", "rho")] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> MetreHead:
    """Net positive suction head that the system offers.

    >>> round(npsh_available(89_876.3, 3169.75, -3, 0.8, 997.047), 3)
    5.068
    """
    check_range("pressure on the water", surface_pressure, above=0)
    return (surface_pressure - vapour_pressure) / (density * gravity) + water_above_inlet - friction


@method(
    "NPSH_w = max(1.2 * NPSH_r, NPSH_r + 0.6)",
    Source("ANSI/HI 9.6.1 class", "margin of 1.1 to 1.3 or 0.6 m, from memory", "guideline"),
)
def npsh_wanted(
    required: Annotated[MetreHead, In("from the pump's curve at that flow", "NPSH_r", above=0)],
) -> MetreHead:
    """NPSH to have, with the usual margin over what the pump's curve asks.

    >>> float(npsh_wanted(2.0))
    2.6
    """
    return max(1.2 * required, required + 0.6)


@method("dT = g * H * (1 / eta - 1) / c_p", DERIVED)
def low_flow_rise(
    head: Annotated[MetreHead, In("of the pump there", "H")],
    efficiency: Annotated[Percent, In("there", "eta", above=0, upto=1)],
    heat_capacity: Annotated[HeatCapacity, In("of water", "c_p")] = 4184.0,
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> Kelvin:
    """How much the water warms through a pump at low flow; keep it below 8 K.

    >>> round(low_flow_rise(50, 0.15), 3)
    0.664
    """
    return gravity * head * (1 / efficiency - 1) / heat_capacity


def preferred_region(specific_speed_us: float) -> Band:
    """The preferred region as shares of best flow: 70 to 120 %, 80 to 115 % above N_s 4500 (US).

    ANSI/HI 9.6.3, from memory.

    >>> preferred_region(1160).holds(0.014 / 0.022)
    False
    """
    return pump.BEST_FLOW if specific_speed_us < pump.FAST_ABOVE else pump.BEST_FLOW_FAST


@method(
    "V = T * Q / 4", Source("ANSI/HI 9.8", "appendix B, worst inflow is half the pump's flow, from memory", "standard")
)
def sump_volume(
    pump_flow: Annotated[CubicMetrePerSecond, In("of one pump", "Q")],
    cycle_time: Annotated[Second, In("least time between starts", "T")],
) -> CubicMetre:
    """Pit volume between start and stop level that keeps starts apart at the worst inflow.

    >>> float(sump_volume(0.02, 600))
    3.0
    """
    return cycle_time * pump_flow / 4


@method("x = Q / Q_b", DERIVED)
def least_flow_share(
    flow: Annotated[CubicMetrePerSecond, In("minimum continuous flow", "Q")],
    best_flow: Annotated[CubicMetrePerSecond, In("", "Q_b", above=0)],
) -> Ratio:
    """Minimum continuous flow as a share of best flow; 20 to 40 % is typical, the maker's figure governs.

    >>> float(least_flow_share(0.002, 0.01))
    0.2
    """
    return flow / best_flow
