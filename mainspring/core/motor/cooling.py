"""Cooling of the motor: shaft fan at low speed, water past a submersible, winding temperature."""

import math
from typing import Annotated

from mainspring.core.errors import OutOfRange, check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import (
    CubicMetrePerSecond,
    DegC,
    Diameter,
    Kelvin,
    MetrePerSecond,
    Ohm,
    Percent,
    Ratio,
    Volt,
    Watt,
)
from mainspring.core.tables import interpolate

# torque that a self-ventilated motor may give for ever, by speed ratio; class of IEC TS 60034-25 figures
SELF_VENTILATED = ((0.1, 0.48), (0.2, 0.58), (0.3, 0.68), (0.5, 0.82), (0.6, 0.87), (0.75, 0.93), (1.0, 1.0))
RISE_LIMIT = {"B": 80.0, "F": 105.0, "H": 125.0}  # K, rise by resistance at service factor 1.0
HOT_SPOT = {"B": 10.0, "F": 10.0, "H": 15.0}  # K
RESISTANCE_CONSTANT = {"copper": 234.5, "aluminium": 225.0}  # °C


@method("v = 4 * Q / (pi * (D**2 - d**2))", DERIVED)
def annulus_velocity(
    flow: Annotated[CubicMetrePerSecond, In("all of it passing the motor", "Q")],
    bore: Annotated[Diameter, In("inside diameter of casing or sleeve, above the motor's", "D")],
    motor_diameter: Annotated[Diameter, In("outside", "d", above=0)],
) -> MetrePerSecond:
    """Speed of the water past a submersible motor in a casing or sleeve.

    >>> round(annulus_velocity(10 / 3600, 0.15408, 0.095), 4)
    0.2403
    """
    check_range("bore of casing or sleeve", bore, above=motor_diameter)
    return 4 * flow / (math.pi * (bore**2 - motor_diameter**2))


@method("Q = v * pi * (D**2 - d**2) / 4", DERIVED)
def flow_for_velocity(
    velocity: Annotated[MetrePerSecond, In("wanted", "v")],
    bore: Annotated[Diameter, In("inside diameter of casing or sleeve, above the motor's", "D")],
    motor_diameter: Annotated[Diameter, In("outside", "d", above=0)],
) -> CubicMetrePerSecond:
    """Flow that passes a submersible motor at a velocity.

    >>> round(flow_for_velocity(0.15, 0.20274, 0.137) * 3600, 2)
    9.47
    """
    check_range("bore of casing or sleeve", bore, above=motor_diameter)
    return velocity * math.pi * (bore**2 - motor_diameter**2) / 4


@method("D = sqrt(d**2 + 4 * Q / (pi * v))", DERIVED)
def sleeve_bore(
    flow: Annotated[CubicMetrePerSecond, In("at the lowest speed", "Q")],
    motor_diameter: Annotated[Diameter, In("outside", "d")],
    velocity: Annotated[MetrePerSecond, In("needed", "v", above=0)],
) -> Diameter:
    """Largest inside diameter of a flow sleeve that keeps a velocity past the motor.

    >>> round(sleeve_bore(0.003, 0.137, 0.15), 4)
    0.2103
    """
    return math.sqrt(motor_diameter**2 + 4 * flow / (math.pi * velocity))


@method(
    "v_min = 0.08 m/s to 110 mm diameter, 0.15 m/s beyond",
    Source("NEMA MG-1 part 18 class; 0.25 and 0.5 ft/s", "the maker's figure governs, from memory", "guideline"),
    words=True,
)
def least_cooling_velocity(motor_diameter: Annotated[Diameter, In("outside", above=0)]) -> MetrePerSecond:
    """Velocity a water-cooled submersible motor needs in cool water.

    >>> round(least_cooling_velocity(0.137), 2)
    0.15
    """
    return 0.0762 if motor_diameter < 0.110 else 0.1524


@method("T = s**2", Source("affinity laws", kind="law"))
def square_law_torque(speed_ratio: Annotated[Ratio, In("of full speed", "s")]) -> Percent:
    """Torque of a centrifugal machine at a speed, as a share of full.

    >>> float(square_law_torque(0.5))
    0.25
    """
    return speed_ratio**2


@method(
    "T_max = look-up by speed, linear between",
    Source("class of IEC TS 60034-25 figures; the maker's curve governs", "low confidence, from memory", "from memory"),
    words=True,
)
def torque_limit_self_ventilated(speed_ratio: Annotated[Ratio, In("of rated speed, above 0")]) -> Percent:
    """Torque a motor with its own shaft fan may give for ever at a speed, as a share of rated.

    >>> float(torque_limit_self_ventilated(0.5))
    0.82
    """
    check_range("speed ratio", speed_ratio, above=0, upto=2)
    return interpolate(speed_ratio, [s for s, _ in SELF_VENTILATED], [t for _, t in SELF_VENTILATED])


@method("P_cu = i_0**2 + (1 - i_0**2) * s**4", DERIVED)
def square_law_copper_loss(
    speed_ratio: Annotated[Ratio, In("of rated speed", "s")],
    magnetising_share: Annotated[Ratio, In("no-load current over rated current", "i_0")],
) -> Percent:
    """Winding loss on a square-law load at a speed, as a share of rated.

    >>> round(square_law_copper_loss(0.5, 0.35), 3)
    0.177
    """
    return magnetising_share**2 + (1 - magnetising_share**2) * speed_ratio**4


@method(
    "T_2 = (R_2 / R_1) * (k + T_1) - k",
    Source("IEC 60034-1", "8.6.2, rise by resistance; 234.5 copper, 225 aluminium, from memory", "standard"),
)
def winding_temperature(
    cold_resistance: Annotated[Ohm, In("at the cold temperature", "R_1", above=0)],
    cold_degc: Annotated[DegC, In("of the cold winding", "T_1")],
    hot_resistance: Annotated[Ohm, In("just after switching off", "R_2")],
    constant: Annotated[float, In("of the metal", "k")] = 234.5,
) -> DegC:
    """Mean temperature of a winding from its resistance.

    >>> round(winding_temperature(1.2, 22, 1.55), 2)
    96.81
    """
    return (hot_resistance / cold_resistance) * (constant + cold_degc) - constant


@method("dT = T - T_a", DERIVED)
def temperature_rise(
    hot_degc: Annotated[DegC, In("of the part", "T")],
    ambient_degc: Annotated[DegC, In("of the air at that time", "T_a")],
) -> Kelvin:
    """Rise over the surroundings.

    >>> float(temperature_rise(96.8, 25))
    71.8
    """
    return hot_degc - ambient_degc


@method(
    "T_max = 40 + rise limit + hot-spot allowance of the class",
    Source("IEC 60085 / NEMA MG-1 12.43", "from memory", "standard"),
    words=True,
)
def insulation_limit(insulation: Annotated[str, In("B, F or H")]) -> DegC:
    """Hottest spot that an insulation class allows.

    >>> float(insulation_limit("F"))
    155.0
    """
    if insulation not in RISE_LIMIT:
        raise OutOfRange("insulation class", insulation, ", ".join(RISE_LIMIT))
    return 40 + RISE_LIMIT[insulation] + HOT_SPOT[insulation]


@method("dT = dT_r * (x_f + (1 - x_f) * L**2)", DERIVED)
def rise_at_load(
    rated_rise: Annotated[Kelvin, In("at full load", "dT_r")],
    load: Annotated[Ratio, In("", "L")],
    fixed_share: Annotated[Ratio, In("of the losses", "x_f")] = 0.36,
) -> Kelvin:
    """Winding rise at part load, losses part fixed and part with the square of load.

    >>> round(rise_at_load(80, 0.9), 3)
    70.272
    """
    return rated_rise * (fixed_share + (1 - fixed_share) * load**2)


@method("P = SF * P_r", Source("NEMA MG-1", "1.42; on sine supply only, from memory", "standard"))
def service_factor_power(
    rated_power: Annotated[Watt, In("of the plate", "P_r")], service_factor: Annotated[Ratio, In("of the plate", "SF")]
) -> Watt:
    """Power a service factor allows on sine supply; on a drive count 1.0.

    >>> round(service_factor_power(25, 1.15), 6)
    28.75
    """
    return service_factor * rated_power


@method("P_L = P_s * (1 + r)", Source("IEC 61800-9-2", "r = 0.15, low confidence, from memory", "from memory"))
def inverter_motor_loss(
    sine_loss: Annotated[Watt, In("on sine supply", "P_s")],
    extra_share: Annotated[Ratio, In("added by the harmonics of the drive", "r")] = 0.15,
) -> Watt:
    """Motor loss on a drive's output.

    >>> round(inverter_motor_loss(2051.3), 1)
    2359.0
    """
    return sine_loss * (1 + extra_share)


@method("V_max = 3.1 * V", Source("NEMA MG-1", "31.4.4.2, inverter-duty motor up to 600 V, from memory", "standard"))
def motor_peak_withstand(rated_voltage: Annotated[Volt, In("up to 600", "V")]) -> Volt:
    """Peak voltage an inverter-duty motor stands.

    >>> round(motor_peak_withstand(460))
    1426
    """
    check_range("motor voltage", rated_voltage, above=0, upto=600)
    return 3.1 * rated_voltage
