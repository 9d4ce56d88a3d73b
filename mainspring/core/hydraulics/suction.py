"""The pump's inlet and its limits: NPSH, minimum flow, preferred region."""

from mainspring.core.errors import check_range
from mainspring.core.method import DERIVED, Source, method
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


@method(
    id="npsh_available", symbol="NPSH_a", formula="(p_a - p_v) / (rho * g) + z - h_f",
    symbols={"p_a": "surface_pressure", "p_v": "vapour_pressure", "z": "water_above_inlet", "h_f": "friction",
             "rho": "density", "g": "gravity"},
    source=Source("ANSI/HI 1.3", "definition, from memory", "standard"),
)  # fmt: skip
def npsh_available(
    surface_pressure: Pascal,
    vapour_pressure: Pascal,
    water_above_inlet: MetreHead,
    friction: MetreHead,
    density: KilogramPerCubicMetre = WATER_20C,
    gravity: Acceleration = G,
) -> MetreHead:
    """Net positive suction head that the system offers.

    Parameters
    ----------
    surface_pressure : absolute, on the water it draws from [Pa]
    vapour_pressure : absolute, of the water [Pa]
    water_above_inlet : level above the impeller; negative when it lifts [m]
    friction : lost in the suction pipe [m]
    density : of the water [kg/m³]
    gravity : standard gravity [m/s²]

    Examples
    --------
    >>> round(npsh_available(89_876.3, 3169.75, -3, 0.8, 997.047), 3)
    5.068
    """
    check_range("pressure on the water", surface_pressure, above=0)
    return (surface_pressure - vapour_pressure) / (density * gravity) + water_above_inlet - friction


@method(
    id="npsh_wanted", symbol="NPSH_w", formula="max(1.2 * NPSH_r, NPSH_r + 0.6)", symbols={"NPSH_r": "required"},
    source=Source("ANSI/HI 9.6.1 class", "margin of 1.1 to 1.3 or 0.6 m, from memory", "guideline"),
)  # fmt: skip
def npsh_wanted(required: MetreHead) -> MetreHead:
    """NPSH to have, with the usual margin over what the pump's curve asks.

    Parameters
    ----------
    required : from the pump's curve at that flow, > 0 [m]

    Examples
    --------
    >>> float(npsh_wanted(2.0))
    2.6
    """
    return max(1.2 * required, required + 0.6)


@method(
    id="low_flow_rise", symbol="dT", formula="g * H * (1 / eta - 1) / c_p",
    symbols={"H": "head", "eta": "efficiency", "g": "gravity", "c_p": "heat_capacity"}, source=DERIVED,
)  # fmt: skip
def low_flow_rise(
    head: MetreHead, efficiency: Percent, heat_capacity: HeatCapacity = 4184.0, gravity: Acceleration = G
) -> Kelvin:
    """How much the water warms through a pump at low flow; keep it below 8 K.

    Parameters
    ----------
    head : of the pump there [m]
    efficiency : there, 0 < η <= 1 [-]
    heat_capacity : of water [J/(kg·K)]
    gravity : standard gravity [m/s²]

    Examples
    --------
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
    id="sump_volume", symbol="V", formula="T * Q / 4", symbols={"T": "cycle_time", "Q": "pump_flow"},
    source=Source("ANSI/HI 9.8", "appendix B, worst inflow is half the pump's flow, from memory", "standard"),
)  # fmt: skip
def sump_volume(pump_flow: CubicMetrePerSecond, cycle_time: Second) -> CubicMetre:
    """Pit volume between start and stop level that keeps starts apart at the worst inflow.

    Parameters
    ----------
    pump_flow : of one pump [m³/s]
    cycle_time : least time between starts [s]

    Examples
    --------
    >>> float(sump_volume(0.02, 600))
    3.0
    """
    return cycle_time * pump_flow / 4


@method(
    id="least_flow_share", symbol="x", formula="Q / Q_b", symbols={"Q": "flow", "Q_b": "best_flow"}, source=DERIVED,
)  # fmt: skip
def least_flow_share(flow: CubicMetrePerSecond, best_flow: CubicMetrePerSecond) -> Ratio:
    """Minimum continuous flow as a share of best flow; 20 to 40 % is typical, the maker's figure governs.

    Parameters
    ----------
    flow : minimum continuous flow [m³/s]
    best_flow : > 0 [m³/s]

    Examples
    --------
    >>> float(least_flow_share(0.002, 0.01))
    0.2
    """
    return flow / best_flow
