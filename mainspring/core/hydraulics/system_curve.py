"""What the system asks of the pump, and where the two meet."""

import math

from mainspring.core.errors import NoSolution, check_range
from mainspring.core.method import DERIVED, method
from mainspring.core.quantity import (
    DIMENSIONS,
    WATER_20C,
    Acceleration,
    CubicMetrePerSecond,
    CurveSlope,
    G,
    KilogramPerCubicMetre,
    MetreHead,
    Pascal,
    PipeResistance,
    Ratio,
)


@method(
    id="system_resistance",
    symbol="K",
    formula="(H - H_s) / Q**2",
    symbols={"H": "head", "H_s": "static_head", "Q": "flow"},
    source=DERIVED,
)
def system_resistance(head: MetreHead, static_head: MetreHead, flow: CubicMetrePerSecond) -> PipeResistance:
    """Resistance of the system from one known point.

    Parameters
    ----------
    head : needed at that flow, not below the static head [m]
    static_head : at no flow [m]
    flow : > 0 [m³/s]

    Raises
    ------
    OutOfRange : head below the static head, flow not above 0

    Examples
    --------
    >>> float(system_resistance(40, 15, 0.02))
    62500.0
    """
    check_range("head", head, atleast=static_head)
    return (head - static_head) / flow**2


@method(
    id="system_head",
    symbol="H_sys",
    formula="H_s + K * Q**2",
    symbols={"H_s": "static_head", "K": "resistance", "Q": "flow"},
    source=DERIVED,
)
def system_head(static_head: MetreHead, resistance: PipeResistance, flow: CubicMetrePerSecond) -> MetreHead:
    """Head that the system needs at a flow.

    Parameters
    ----------
    static_head : at no flow [m]
    resistance : of the pipework [m/(m³/s)²]
    flow : volume flow [m³/s]

    Examples
    --------
    >>> float(system_head(15, 62500, 0.015))
    29.0625
    """
    return static_head + resistance * flow**2


@method(
    id="duty_flow",
    symbol="Q",
    formula="(c1 * s + sqrt((c1 * s)**2 + 4 * (K - c2) * (c0 * s**2 - H_s))) / (2 * (K - c2))",
    symbols={
        "s": "speed_ratio",
        "c0": "c0",
        "c1": "c1",
        "c2": "c2",
        "H_s": "static_head",
        "K": "resistance",
    },
    source=DERIVED,
)
def duty_flow(
    speed_ratio: Ratio,
    c0: MetreHead,
    c1: CurveSlope,
    c2: PipeResistance,
    static_head: MetreHead,
    resistance: PipeResistance,
) -> CubicMetrePerSecond:
    """Flow at which pump and system agree.

    Parameters
    ----------
    speed_ratio : of full speed [-]
    c0 : shut-off head at full speed [m]
    c1 : linear coefficient [m/(m³/s)]
    c2 : quadratic coefficient, < 0 [m/(m³/s)²]
    static_head : of the system [m]
    resistance : of the system, >= 0 [m/(m³/s)²]

    Raises
    ------
    NoSolution : the pump cannot lift against the static head at this speed

    Examples
    --------
    >>> round(duty_flow(0.9, 50, 0, -25000, 15, 62500), 8)
    0.01707128
    """
    shutoff = c0 * speed_ratio**2
    if shutoff < static_head:
        head = DIMENSIONS["head"].tellings
        raise NoSolution(
            f"at {speed_ratio * 100:.0f} % speed the pump reaches {head(shutoff)} and {head(static_head)} must be"
            " overcome: no water moves"
        )
    check_range("steepness of pump and system curve", resistance - c2, above=0)
    b = c1 * speed_ratio
    return (b + math.sqrt(b**2 + 4 * (resistance - c2) * (shutoff - static_head))) / (2 * (resistance - c2))


@method(
    id="head_of_pressure",
    symbol="H",
    formula="p / (rho * g)",
    symbols={"p": "pressure", "rho": "density", "g": "gravity"},
    source=DERIVED,
)
def head_of_pressure(
    pressure: Pascal, density: KilogramPerCubicMetre = WATER_20C, gravity: Acceleration = G
) -> MetreHead:
    """Height of liquid that makes a pressure.

    Parameters
    ----------
    pressure : [Pa]
    density : of the liquid, > 0 [kg/m³]
    gravity : standard gravity [m/s²]

    Examples
    --------
    >>> round(head_of_pressure(50_000, 998.2), 4)
    5.1078
    """
    return pressure / (density * gravity)


@method(
    id="pressure_of_head",
    symbol="p",
    formula="rho * g * H",
    symbols={"H": "head", "rho": "density", "g": "gravity"},
    source=DERIVED,
)
def pressure_of_head(head: MetreHead, density: KilogramPerCubicMetre = WATER_20C, gravity: Acceleration = G) -> Pascal:
    """Pressure of a height of liquid.

    Parameters
    ----------
    head : [m]
    density : of the liquid, > 0 [kg/m³]
    gravity : standard gravity [m/s²]

    Examples
    --------
    >>> round(pressure_of_head(40.86, 998.2) / 1000, 1)
    400.0
    """
    return density * gravity * head


@method(
    id="setpoint_head",
    symbol="H_set",
    formula="(p_set - p_s) / (rho * g) + z",
    symbols={"p_set": "setpoint", "p_s": "suction_pressure", "z": "sensor_height", "rho": "density", "g": "gravity"},
    source=DERIVED,
)
def setpoint_head(
    setpoint: Pascal,
    suction_pressure: Pascal,
    sensor_height: MetreHead = 0.0,
    density: KilogramPerCubicMetre = WATER_20C,
    gravity: Acceleration = G,
) -> MetreHead:
    """Head the pump must make to hold the setpoint at the sensor, friction before it neglected.

    Parameters
    ----------
    setpoint : gauge pressure wanted at the sensor [Pa]
    suction_pressure : gauge pressure at the pump inlet [Pa]
    sensor_height : of the sensor above the pump inlet [m]
    density : of the liquid [kg/m³]
    gravity : standard gravity [m/s²]

    Examples
    --------
    >>> round(setpoint_head(400_000, 100_000, 0), 2)
    30.65
    """
    return (setpoint - suction_pressure) / (density * gravity) + sensor_height


@method(
    id="outlet_pressure",
    symbol="p_out",
    formula="p_s + rho * g * H",
    symbols={"p_s": "suction_pressure", "rho": "density", "g": "gravity", "H": "head"},
    source=DERIVED,
)
def outlet_pressure(
    suction_pressure: Pascal, head: MetreHead, density: KilogramPerCubicMetre = WATER_20C, gravity: Acceleration = G
) -> Pascal:
    """Gauge pressure at the pump outlet, level with its inlet.

    Parameters
    ----------
    suction_pressure : gauge, at the inlet [Pa]
    head : across the pump [m]
    density : of the liquid [kg/m³]
    gravity : standard gravity [m/s²]

    Examples
    --------
    >>> round(outlet_pressure(100_000, 30.0) / 1000, 1)
    393.7
    """
    return suction_pressure + density * gravity * head
