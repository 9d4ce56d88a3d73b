"""Water hammer: the pressure wave of a change of flow, and the shortest safe ramp."""

import math
from typing import Annotated

from mainspring.core.errors import check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import (
    WATER_20C,
    Acceleration,
    CubicMetrePerSecond,
    Diameter,
    G,
    KilogramPerCubicMetre,
    Metre,
    MetreHead,
    MetrePerSecond,
    Modulus,
    Pascal,
    Ratio,
    Second,
)

BULK = 2.19885e9  # Pa, water at 20 °C, IAPWS-95 sound speed
# Pa: Young's modulus of the wall (handbook; plastics at short time)
WALL_MODULUS = {"steel": 207e9, "ductile": 165e9, "copper": 120e9, "pvc": 3.0e9, "pe": 0.9e9}
_JOUKOWSKY = Source("Joukowsky; Wylie and Streeter, Fluid Transients", kind="handbook")


@method("v = 4 * Q / (pi * D**2)", DERIVED)
def pipe_velocity(
    flow: Annotated[CubicMetrePerSecond, In("volume flow", "Q")],
    bore: Annotated[Diameter, In("inside diameter", "D", above=0)],
) -> MetrePerSecond:
    """Mean speed of the water in a pipe.

    >>> round(pipe_velocity(0.015, 0.15408), 3)
    0.804
    """
    return 4 * flow / (math.pi * bore**2)


@method("a = sqrt(K / rho) / sqrt(1 + K * D / (E * e))", _JOUKOWSKY)
def wave_speed(
    bore: Annotated[Diameter, In("inside diameter", "D")],
    wall: Annotated[Diameter, In("thickness", "e", above=0)],
    wall_modulus: Annotated[Modulus, In("of the pipe's material", "E", above=0)],
    bulk_modulus: Annotated[Modulus, In("of the water", "K")] = BULK,
    density: Annotated[KilogramPerCubicMetre, In("of the water", "rho")] = WATER_20C,
) -> MetrePerSecond:
    """Speed of a pressure wave in a pipe with expansion joints.

    >>> round(wave_speed(0.20274, 0.00818, 207e9, 2.198853e9, 998.388))
    1320
    """
    return math.sqrt(bulk_modulus / density) / math.sqrt(1 + bulk_modulus * bore / (wall_modulus * wall))


@method("dp = rho * a * dv", _JOUKOWSKY)
def joukowsky_pressure(
    velocity_change: Annotated[MetrePerSecond, In("stopped", "dv")],
    wave_speed: Annotated[MetrePerSecond, In("in the pipe", "a")],
    density: Annotated[KilogramPerCubicMetre, In("of the water", "rho")] = WATER_20C,
) -> Pascal:
    """Pressure rise when the flow stops at once.

    >>> round(joukowsky_pressure(1.5, 1320.38, 998.388) / 1000, 1)
    1977.4
    """
    return density * wave_speed * velocity_change


@method("t_c = 2 * L / a", _JOUKOWSKY)
def critical_stop_time(
    length: Annotated[Metre, In("of the pipeline", "L")], wave_speed: Annotated[MetrePerSecond, In("", "a", above=0)]
) -> Second:
    """Time for the wave to return: a stop within it has the full effect.

    >>> round(critical_stop_time(1000, 1320.38), 3)
    1.515
    """
    return 2 * length / wave_speed


@method(
    "dH = a * dv / g * min(1, 2 * L / (a * t))",
    Source("Michaud; equal to Joukowsky within the wave's return time", kind="handbook"),
)
def surge_head(
    length: Annotated[Metre, In("of the pipeline", "L")],
    velocity_change: Annotated[MetrePerSecond, In("stopped", "dv")],
    stop_time: Annotated[Second, In("", "t", above=0)],
    wave_speed: Annotated[MetrePerSecond, In("in the pipe", "a", above=0)],
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> MetreHead:
    """Head rise of an even stop within a time.

    >>> round(surge_head(1000, 1.5, 3.0, 1320.38), 2)
    101.97
    """
    return wave_speed * velocity_change / gravity * min(1.0, 2 * length / (wave_speed * stop_time))


@method("t = max(2 * L / a, 2 * L * dv / (g * dH))", Source("Michaud, solved for the time", kind="derived"))
def shortest_stop(
    length: Annotated[Metre, In("of the pipeline", "L")],
    velocity_change: Annotated[MetrePerSecond, In("stopped", "dv")],
    head_allowed: Annotated[MetreHead, In("rise that may be added", "dH", above=0)],
    wave_speed: Annotated[MetrePerSecond, In("in the pipe", "a", above=0)],
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> Second:
    """Shortest time in which the flow may be stopped for a head rise allowed.

    >>> round(shortest_stop(1000, 1.5, 50.986, 1320.38), 2)
    6.0
    """
    return max(2 * length / wave_speed, 2 * length * velocity_change / (gravity * head_allowed))


@method(
    "t_r = t / (1 - s_0)", Source("the flow is gone when the speed has fallen to where nothing moves", kind="derived")
)
def ramp_for_stop(
    stop_time: Annotated[Second, In("in which the flow may end", "t")],
    no_flow_ratio: Annotated[Ratio, In("speed ratio below which nothing moves, below 1", "s_0")],
) -> Second:
    """Ramp, full speed to zero, whose part with flow lasts a given time.

    >>> float(ramp_for_stop(6, 0.5))
    12.0
    """
    check_range("no-flow speed ratio", no_flow_ratio, atleast=0, below=1)
    return stop_time / (1 - no_flow_ratio)


@method("h_f = f * L / D * v**2 / (2 * g)", Source("Darcy-Weisbach", kind="handbook"))
def darcy_head(
    friction_factor: Annotated[Ratio, In("Darcy's", "f")],
    length: Annotated[Metre, In("of the pipe", "L")],
    bore: Annotated[Diameter, In("inside diameter", "D", above=0)],
    velocity: Annotated[MetrePerSecond, In("mean", "v")],
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> MetreHead:
    """Head lost to friction in a pipe.

    >>> round(darcy_head(0.018860, 100, 0.15408, 0.80447), 3)
    0.404
    """
    return friction_factor * length / bore * velocity**2 / (2 * gravity)


@method(
    "f = Swamee–Jain, then Colebrook by iteration",
    Source("Colebrook, J. Inst. Civil Eng. 11 (1939) 133-156", "from memory", "handbook"),
    words=True,
)
def friction_factor(
    reynolds: Annotated[Ratio, In("above 4000")], roughness: Annotated[Ratio, In("over the bore")]
) -> Ratio:
    """Darcy friction factor of turbulent flow in a pipe.

    >>> round(friction_factor(123_532, 2.985e-4), 5)
    0.01886
    """
    check_range("Reynolds number", reynolds, atleast=4000)
    x = -2 * math.log10(roughness / 3.7 + 5.74 / reynolds**0.9)
    for _ in range(30):
        x = -2 * math.log10(roughness / 3.7 + 2.51 * x / reynolds)
    return 1 / x**2


@method(
    "h_f = 10.67 * L * Q**1.852 / (C**1.852 * D**4.8704)", Source("Hazen-Williams, SI form", "from memory", "handbook")
)
def hazen_williams_head(
    flow: Annotated[CubicMetrePerSecond, In("volume flow", "Q", atleast=0)],
    length: Annotated[Metre, In("of the pipe", "L")],
    bore: Annotated[Diameter, In("inside diameter", "D", above=0)],
    smoothness: Annotated[Ratio, In("C, 150 plastic, 130 used steel, 100 old iron", "C")] = 130.0,
) -> MetreHead:
    """Head lost to friction by the waterworks formula.

    >>> round(hazen_williams_head(0.015, 100, 0.15408, 140), 3)
    0.428
    """
    check_range("Hazen-Williams C", smoothness, above=0)
    return float(10.67 * length * flow**1.852 / (smoothness**1.852 * bore**4.8704))


@method("p_max = p + dp", DERIVED)
def surge_peak(
    working: Annotated[Pascal, In("gauge pressure before", "p")], surge: Annotated[Pascal, In("rise", "dp")]
) -> Pascal:
    """Highest pressure of a surge.

    >>> float(surge_peak(4e5, 6e5))
    1000000.0
    """
    return working + surge
