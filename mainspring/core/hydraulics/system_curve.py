"""What the system asks of the pump, and where the two meet."""

import math
from typing import Annotated

from mainspring.core.errors import NoSolution, check_range
from mainspring.core.method import DERIVED, In, method
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


@method("K = (H - H_s) / Q**2", DERIVED)
def system_resistance(
    head: Annotated[MetreHead, In("needed at that flow, not below the static head", "H")],
    static_head: Annotated[MetreHead, In("at no flow", "H_s")],
    flow: Annotated[CubicMetrePerSecond, In("", "Q", above=0)],
) -> PipeResistance:
    """Resistance of the system from one known point.

    Raises
    ------
    OutOfRange : head below the static head, flow not above 0

    >>> float(system_resistance(40, 15, 0.02))
    62500.0
    """
    check_range("head", head, atleast=static_head)
    return (head - static_head) / flow**2


@method("H_sys = H_s + K * Q**2", DERIVED)
def system_head(
    static_head: Annotated[MetreHead, In("at no flow", "H_s")],
    resistance: Annotated[PipeResistance, In("of the pipework", "K")],
    flow: Annotated[CubicMetrePerSecond, In("volume flow", "Q")],
) -> MetreHead:
    """Head that the system needs at a flow.

    >>> float(system_head(15, 62500, 0.015))
    29.0625
    """
    return static_head + resistance * flow**2


@method("Q = (c1 * s + sqrt((c1 * s)**2 + 4 * (K - c2) * (c0 * s**2 - H_s))) / (2 * (K - c2))", DERIVED)
def duty_flow(
    speed_ratio: Annotated[Ratio, In("of full speed", "s")],
    c0: Annotated[MetreHead, In("shut-off head at full speed", "c0")],
    c1: Annotated[CurveSlope, In("linear coefficient", "c1")],
    c2: Annotated[PipeResistance, In("quadratic coefficient, < 0", "c2")],
    static_head: Annotated[MetreHead, In("of the system", "H_s")],
    resistance: Annotated[PipeResistance, In("of the system", "K", atleast=0)],
) -> CubicMetrePerSecond:
    """Flow at which pump and system agree.

    Raises
    ------
    NoSolution : the pump cannot lift against the static head at this speed

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


@method("H = p / (rho * g)", DERIVED)
def head_of_pressure(
    pressure: Annotated[Pascal, In("", "p")],
    density: Annotated[KilogramPerCubicMetre, In("of the liquid", "rho", above=0)] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> MetreHead:
    """Height of liquid that makes a pressure.

    >>> round(head_of_pressure(50_000, 998.2), 4)
    5.1078
    """
    return pressure / (density * gravity)


@method("p = rho * g * H", DERIVED)
def pressure_of_head(
    head: Annotated[MetreHead, In("", "H")],
    density: Annotated[KilogramPerCubicMetre, In("of the liquid", "rho", above=0)] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> Pascal:
    """Pressure of a height of liquid.

    >>> round(pressure_of_head(40.86, 998.2) / 1000, 1)
    400.0
    """
    return density * gravity * head


@method("H_set = (p_set - p_s) / (rho * g) + z", DERIVED)
def setpoint_head(
    setpoint: Annotated[Pascal, In("gauge pressure wanted at the sensor", "p_set")],
    suction_pressure: Annotated[Pascal, In("gauge pressure at the pump inlet", "p_s")],
    sensor_height: Annotated[MetreHead, In("of the sensor above the pump inlet", "z")] = 0.0,
    density: Annotated[KilogramPerCubicMetre, In("of the liquid", "rho")] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> MetreHead:
    """Head the pump must make to hold the setpoint at the sensor, friction before it neglected.

    >>> round(setpoint_head(400_000, 100_000, 0), 2)
    30.65
    """
    return (setpoint - suction_pressure) / (density * gravity) + sensor_height


@method("p_out = p_s + rho * g * H", DERIVED)
def outlet_pressure(
    suction_pressure: Annotated[Pascal, In("gauge, at the inlet", "p_s")],
    head: Annotated[MetreHead, In("across the pump", "H")],
    density: Annotated[KilogramPerCubicMetre, In("of the liquid", "rho")] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> Pascal:
    """Gauge pressure at the pump outlet, level with its inlet.

    >>> round(outlet_pressure(100_000, 30.0) / 1000, 1)
    393.7
    """
    return suction_pressure + density * gravity * head
