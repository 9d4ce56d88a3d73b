"""Fans: their laws, their curve at a speed and density, and the duct they work on."""

import math
from collections.abc import Sequence
from typing import Annotated, NamedTuple

from mainspring.core.air.density import STANDARD_AIR
from mainspring.core.errors import NoSolution, OutOfRange, check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.parabola import falling_parabola
from mainspring.core.quantity import (
    AirFlow,
    AirPascal,
    AirResistance,
    AirSlope,
    HeatCapacity,
    Kelvin,
    KilogramPerCubicMetre,
    Percent,
    Ratio,
    RevPerMin,
    Watt,
)

FAN_LAWS = Source(
    "ASHRAE HVAC Systems and Equipment", "chapter on fans, table of fan laws; AMCA 201, from memory", "standard"
)


class FanCurve(NamedTuple):
    """Pressure of a fan at full speed and the density of its curve: p = c0 + c1·Q + c2·Q²."""

    c0: AirPascal
    c1: AirSlope
    c2: AirResistance


@method("Q_2 = Q_1 * n_2 / n_1", FAN_LAWS)
def fan_law_flow(
    flow: Annotated[AirFlow, In("at the first speed", "Q_1")],
    speed_rpm: Annotated[RevPerMin, In("first speed", "n_1", above=0)],
    new_rpm: Annotated[RevPerMin, In("second speed", "n_2")],
) -> AirFlow:
    """Volume flow of a fan at another speed; density does not enter.

    >>> float(fan_law_flow(10_000, 800, 1000))
    12500.0
    """
    return flow * new_rpm / speed_rpm


@method("p_2 = p_1 * (n_2 / n_1)**2 * rho_2 / rho_1", FAN_LAWS)
def fan_law_pressure(
    pressure: Annotated[AirPascal, In("at the first speed and density", "p_1")],
    speed_rpm: Annotated[RevPerMin, In("first speed", "n_1", above=0)],
    new_rpm: Annotated[RevPerMin, In("second speed", "n_2")],
    density: Annotated[KilogramPerCubicMetre, In("first", "rho_1", above=0)] = STANDARD_AIR,
    new_density: Annotated[KilogramPerCubicMetre, In("second", "rho_2")] = STANDARD_AIR,
) -> AirPascal:
    """Pressure of a fan at another speed and density.

    >>> float(fan_law_pressure(2, 800, 1000))
    3.125
    """
    return pressure * (new_rpm / speed_rpm) ** 2 * new_density / density


@method("P_2 = P_1 * (n_2 / n_1)**3 * rho_2 / rho_1", FAN_LAWS)
def fan_law_power(
    power: Annotated[Watt, In("at the first speed and density", "P_1")],
    speed_rpm: Annotated[RevPerMin, In("first speed", "n_1", above=0)],
    new_rpm: Annotated[RevPerMin, In("second speed", "n_2")],
    density: Annotated[KilogramPerCubicMetre, In("first", "rho_1", above=0)] = STANDARD_AIR,
    new_density: Annotated[KilogramPerCubicMetre, In("second", "rho_2")] = STANDARD_AIR,
) -> Watt:
    """Shaft power of a fan at another speed and density.

    >>> float(fan_law_power(5, 800, 1000))
    9.765625
    """
    return power * (new_rpm / speed_rpm) ** 3 * new_density / density


@method("p(Q) = least squares through the points, p = c0 + c1·Q + c2·Q²", DERIVED, words=True)
def fan_curve_fit(
    flows: Annotated[Sequence[AirFlow], In("three or more")],
    pressures: Annotated[Sequence[AirPascal], In("at those flows, static or total but all alike")],
) -> FanCurve:
    """Fan curve from points at one speed and density.

    Raises
    ------
    OutOfRange : fewer than three points, or unequal numbers
    NoSolution : no falling parabola passes near the points

    >>> [round(c, 1) + 0.0 for c in fan_curve_fit([0, 2, 4], [900, 800, 500])]
    [900.0, 0.0, -25.0]
    """
    return FanCurve(*falling_parabola(flows, pressures, largest_hump=0.10))


@method(
    "p(Q) = shut-off at 1.25 of duty pressure, parabola through the duty point",
    Source("an assumed shape between flat and steep; enter the curve's points for better", kind="derived"),
    words=True,
)
def fan_curve_from_duty(
    flow: Annotated[AirFlow, In("at duty", above=0)], pressure: Annotated[AirPascal, In("at duty", above=0)]
) -> FanCurve:
    """Fan curve assumed from the duty point alone.

    >>> [round(c, 2) for c in fan_curve_from_duty(4, 800)]
    [1000.0, 0.0, -12.5]
    """
    return FanCurve(1.25 * float(pressure), 0.0, -0.25 * float(pressure) / float(flow) ** 2)


@method("p = k * (c0 * s**2 + c1 * s * Q + c2 * Q**2)", FAN_LAWS)
def fan_pressure(
    flow: Annotated[AirFlow, In("volume flow", "Q")],
    speed_ratio: Annotated[Ratio, In("of the curve's speed", "s")],
    c0: Annotated[AirPascal, In("pressure at no flow and full speed", "c0")],
    c1: Annotated[AirSlope, In("linear coefficient", "c1")],
    c2: Annotated[AirResistance, In("quadratic coefficient", "c2")],
    density_ratio: Annotated[Ratio, In("air over the curve's density", "k")] = 1.0,
) -> AirPascal:
    """Pressure of a fan at a flow, speed and density.

    >>> float(fan_pressure(2, 0.5, 1000, 0, -12.5))
    200.0
    """
    return density_ratio * (c0 * speed_ratio**2 + c1 * speed_ratio * flow + c2 * flow**2)


@method("K = (p - p_h) / Q**2", DERIVED)
def duct_resistance(
    pressure: Annotated[AirPascal, In("needed at that flow, not below the held pressure", "p")],
    held_pressure: Annotated[AirPascal, In("held at the sensor, 0 in an open system", "p_h")],
    flow: Annotated[AirFlow, In("", "Q", above=0)],
) -> AirResistance:
    """Resistance of the ductwork from one known point.

    >>> float(duct_resistance(800, 300, 5))
    20.0
    """
    check_range("fan pressure", pressure, atleast=held_pressure)
    return (pressure - held_pressure) / flow**2


@method("p_sys = p_h + K * Q**2", DERIVED)
def duct_pressure(
    held_pressure: Annotated[AirPascal, In("held at the sensor, 0 in an open system", "p_h")],
    resistance: Annotated[AirResistance, In("of the ductwork before the sensor", "K")],
    flow: Annotated[AirFlow, In("volume flow", "Q")],
) -> AirPascal:
    """Pressure that the ductwork needs at a flow.

    >>> float(duct_pressure(300, 20, 5))
    800.0
    """
    return held_pressure + resistance * flow**2


@method("p_2 = p_1 * k", FAN_LAWS)
def pressure_at_density(
    pressure: Annotated[AirPascal, In("in the air of the plate", "p_1")],
    density_ratio: Annotated[Ratio, In("air of the place over it", "k", above=0)],
) -> AirPascal:
    """Pressure that fan and duct have at the same flow in other air: both go with its density, and so does the power.

    >>> float(pressure_at_density(1000, 0.9))
    900.0
    """
    return pressure * density_ratio


@method("p_2 = p_1 * (Q_2 / Q_1)**2", FAN_LAWS)
def duct_pressure_at_flow(
    pressure: Annotated[AirPascal, In("at the first flow", "p_1")],
    flow: Annotated[AirFlow, In("first", "Q_1", above=0)],
    new_flow: Annotated[AirFlow, In("second", "Q_2")],
) -> AirPascal:
    """Pressure of an open duct system at another flow.

    >>> round(duct_pressure_at_flow(2, 10_000, 8_000), 6)
    1.28
    """
    return pressure * (new_flow / flow) ** 2


@method(
    "Q = (c1 * s * k + sqrt((c1 * s * k)**2 + 4 * (K - c2 * k) * (c0 * s**2 * k - p_h))) / (2 * (K - c2 * k))", DERIVED
)
def fan_duty_flow(
    speed_ratio: Annotated[Ratio, In("of full speed", "s")],
    c0: Annotated[AirPascal, In("pressure at no flow and full speed", "c0")],
    c1: Annotated[AirSlope, In("linear coefficient", "c1")],
    c2: Annotated[AirResistance, In("quadratic coefficient", "c2")],
    held_pressure: Annotated[AirPascal, In("held at the sensor", "p_h")],
    resistance: Annotated[AirResistance, In("of the ductwork", "K", atleast=0)],
    density_ratio: Annotated[Ratio, In("air over the curve's density", "k")] = 1.0,
) -> AirFlow:
    """Flow at which fan and ductwork agree.

    Raises
    ------
    NoSolution : the fan cannot make the held pressure at this speed

    >>> round(fan_duty_flow(1.0, 1000, 0, -12.5, 0, 37.5), 3)
    4.472
    """
    shutoff = c0 * speed_ratio**2 * density_ratio
    if shutoff < held_pressure:
        raise NoSolution(
            f"at {speed_ratio * 100:.1f} % speed the fan makes {shutoff:.0f} Pa and {held_pressure:.0f} Pa are held:"
            " it moves no air"
        )
    slope = resistance - c2 * density_ratio
    if slope <= 0:
        raise NoSolution("the curve never falls: enter points of the fan's working side")
    b = c1 * speed_ratio * density_ratio
    return (b + math.sqrt(b**2 + 4 * slope * (shutoff - held_pressure))) / (2 * slope)


@method("P_2 = Q * p / eta", DERIVED)
def fan_shaft_power(
    flow: Annotated[AirFlow, In("volume flow", "Q", atleast=0)],
    pressure: Annotated[AirPascal, In("of the fan", "p")],
    efficiency: Annotated[Percent, In("of the same kind as the pressure", "eta", above=0, upto=1)],
) -> Watt:
    """Shaft power of a fan; pressure and efficiency both static or both total.

    >>> round(fan_shaft_power(4.72, 1000, 0.7), 1)
    6742.9
    """
    return flow * pressure / efficiency


@method("eta = Q * p / P", DERIVED)
def fan_efficiency(
    flow: Annotated[AirFlow, In("volume flow", "Q", atleast=0)],
    pressure: Annotated[AirPascal, In("static or total", "p", atleast=0)],
    power: Annotated[Watt, In("at the shaft", "P", above=0)],
) -> Percent:
    """Efficiency of a fan from flow, pressure and shaft power: static with static pressure, total with total.

    >>> round(fan_efficiency(4.719474, 996.356, 6636.73), 3)
    0.709
    """
    return flow * pressure / power


@method(
    "eta = eta_b * x * (2 - x)",
    Source("parabola through the origin and the best point; the usual first approximation", kind="derived"),
)
def fan_efficiency_at(
    share_of_best: Annotated[Ratio, In("flow over the best flow at that speed, above 0 and below 2", "x")],
    best_efficiency: Annotated[Percent, In("", "eta_b", above=0, upto=1)],
) -> Percent:
    """Efficiency of a fan away from its best flow.

    >>> round(fan_efficiency_at(0.5, 0.7), 3)
    0.525
    """
    check_range("flow over best flow", share_of_best, above=0, below=2)
    return best_efficiency * share_of_best * (2 - share_of_best)


@method("dT = p / (eta * rho * c_p)", DERIVED)
def fan_temperature_rise(
    pressure: Annotated[AirPascal, In("total", "p")],
    efficiency: Annotated[Percent, In("total, motor and all", "eta", above=0, upto=1)],
    density: Annotated[KilogramPerCubicMetre, In("of the air", "rho")] = STANDARD_AIR,
    heat_capacity: Annotated[HeatCapacity, In("of air at constant pressure", "c_p")] = 1006.0,
) -> Kelvin:
    """How much a fan warms the air, motor in the stream.

    >>> round(fan_temperature_rise(1000, 0.6), 3)
    1.381
    """
    return pressure / (efficiency * density * heat_capacity)


@method("x_P = (c + (1 - c) * q**2) * q", DERIVED)
def held_pressure_power(
    flow_share: Annotated[Ratio, In("of full flow", "q")],
    held_share: Annotated[Ratio, In("held pressure over full fan pressure", "c")],
) -> Percent:
    """Air power at part flow with a held duct pressure, as a share of full: why the cube law fails.

    >>> round(held_pressure_power(0.5, 1 / 3), 3)
    0.25
    """
    return (held_share + (1 - held_share) * flow_share**2) * flow_share


@method(
    "P_ref = (Q + 250 cfm) · (p_s + 0.40 in w.g. · ρ/ρ0) / (6343 × 0.60)",
    Source("AMCA 208", "fan energy index, static basis, from memory", "standard"),
    words=True,
)
def reference_fan_power(
    flow: Annotated[AirFlow, In("volume flow", above=0)],
    pressure: Annotated[AirPascal, In("static")],
    density_ratio: Annotated[Ratio, In("over standard air")] = 1.0,
) -> Watt:
    """Shaft power of the reference fan of the fan energy index, static basis.

    >>> round(reference_fan_power(4.719474, 747.27) / 745.7, 2)
    9.16
    """
    cfm, inches = flow / (0.3048**3 / 60), pressure / 249.08891
    return (cfm + 250) * (inches + 0.40 * density_ratio) / (6343 * 0.60) * 745.69987158227022


PART_LOAD: dict[str, tuple[float, ...]] = {
    "inlet vanes": (0.35071223, 0.30850535, -0.54137364, 0.87198823),
    "discharge damper": (0.37073425, 0.97250253, -0.34240761),
    "variable speed": (0.0015302446, 0.0052080574, 1.1086242, -0.11635563),
    "variable speed, 90.1 G": (0.0013, 0.1470, 0.9506, -0.0998),
    "forward-curved riding its curve": (0.1224, 0.612, 0.5983, -0.3334),
    "vane-axial variable pitch": (0.1639, -0.4016, 1.9909, -0.7541),
    "variable speed with pressure reset": (0.0408, 0.088, -0.0729, 0.9437),
}


@method(
    "x_P = Σ cᵢ·qⁱ with the coefficients of the control",
    Source("ASHRAE HVAC 2 toolkit (1993), ASHRAE 90.1 appendix G; state energy code", "from memory", "guideline"),
    words=True,
)
def fan_part_load_power(
    flow_share: Annotated[Ratio, In("of full flow, 0 to 1")],
    control: Annotated[
        str, In('one of the published controls, e.g. "inlet vanes", "discharge damper", "variable speed"')
    ],
) -> Percent:
    """Fan power at part flow by the way of control, as a share of full; statistics, not this fan.

    Raises
    ------
    OutOfRange : a control that is not in the table

    >>> round(fan_part_load_power(0.5, "inlet vanes"), 4)
    0.4786
    """
    check_range("flow over full flow", flow_share, atleast=0, upto=1)
    if control not in PART_LOAD:
        raise OutOfRange("control", control, ", ".join(PART_LOAD))
    return sum(c * flow_share**i for i, c in enumerate(PART_LOAD[control]))


@method("P_a = Q * p", DERIVED)
def air_power(
    flow: Annotated[AirFlow, In("volume flow", "Q")],
    pressure: Annotated[AirPascal, In("of the fan, or of that part of the system", "p")],
) -> Watt:
    """Power that the air receives.

    >>> float(air_power(4, 500))
    2000.0
    """
    return flow * pressure


@method(
    "s = (-c1 * Q + sqrt((c1 * Q)**2 - 4 * c0 * (c2 * Q**2 - p / k))) / (2 * c0)",
    Source("fan laws, solved for the speed", kind="derived"),
)
def fan_speed_for(
    flow: Annotated[AirFlow, In("wanted", "Q", atleast=0)],
    pressure: Annotated[AirPascal, In("wanted", "p", atleast=0)],
    c0: Annotated[AirPascal, In("pressure at no flow and full speed", "c0", above=0)],
    c1: Annotated[AirSlope, In("linear coefficient", "c1")],
    c2: Annotated[AirResistance, In("quadratic coefficient", "c2")],
    density_ratio: Annotated[Ratio, In("air over the curve's density", "k")] = 1.0,
) -> Ratio:
    """Speed ratio at which a fan gives a pressure at a flow.

    >>> round(fan_speed_for(2, 200, 1000, 0, -12.5), 4)
    0.5
    """
    root = (c1 * flow) ** 2 - 4 * c0 * (c2 * flow**2 - pressure / density_ratio)
    return (-c1 * flow + math.sqrt(root)) / (2 * c0)


@method(
    "P_0 = k * c0 * s**3 * Q_b / (2 * eta_b)", Source("limit of the efficiency parabola at no flow", kind="derived")
)
def fan_no_flow_power(
    c0: Annotated[AirPascal, In("pressure at no flow and full speed", "c0")],
    speed_ratio: Annotated[Ratio, In("of full speed", "s")],
    best_flow: Annotated[AirFlow, In("at best efficiency and full speed", "Q_b")],
    best_efficiency: Annotated[Percent, In("", "eta_b", above=0, upto=1)],
    density_ratio: Annotated[Ratio, In("air over the curve's density", "k")] = 1.0,
) -> Watt:
    """Shaft power of a fan against closed dampers.

    >>> round(fan_no_flow_power(1000, 1.0, 4, 0.7))
    2857
    """
    return density_ratio * c0 * speed_ratio**3 * best_flow / (2 * best_efficiency)
