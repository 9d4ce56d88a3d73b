"""Cooling of the motor: shaft fan at low speed, water past a submersible, winding temperature."""

import math

from mainspring.core.errors import OutOfRange, check_range
from mainspring.core.method import DERIVED, Source, method
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


@method(
    id="annulus_velocity", symbol="v", formula="4 * Q / (pi * (D**2 - d**2))",
    symbols={"Q": "flow", "D": "bore", "d": "motor_diameter"}, source=DERIVED,
)  # fmt: skip
def annulus_velocity(flow: CubicMetrePerSecond, bore: Diameter, motor_diameter: Diameter) -> MetrePerSecond:
    """Speed of the water past a submersible motor in a casing or sleeve.

    Parameters
    ----------
    flow : all of it passing the motor [m³/s]
    bore : inside diameter of casing or sleeve, above the motor's [m]
    motor_diameter : outside, > 0 [m]

    Examples
    --------
    >>> round(annulus_velocity(10 / 3600, 0.15408, 0.095), 4)
    0.2403
    """
    check_range("bore of casing or sleeve", bore, above=motor_diameter)
    return 4 * flow / (math.pi * (bore**2 - motor_diameter**2))


@method(
    id="flow_for_velocity", symbol="Q", formula="v * pi * (D**2 - d**2) / 4",
    symbols={"v": "velocity", "D": "bore", "d": "motor_diameter"}, source=DERIVED,
)  # fmt: skip
def flow_for_velocity(velocity: MetrePerSecond, bore: Diameter, motor_diameter: Diameter) -> CubicMetrePerSecond:
    """Flow that passes a submersible motor at a velocity.

    Parameters
    ----------
    velocity : wanted [m/s]
    bore : inside diameter of casing or sleeve, above the motor's [m]
    motor_diameter : outside, > 0 [m]

    Examples
    --------
    >>> round(flow_for_velocity(0.15, 0.20274, 0.137) * 3600, 2)
    9.47
    """
    check_range("bore of casing or sleeve", bore, above=motor_diameter)
    return velocity * math.pi * (bore**2 - motor_diameter**2) / 4


@method(
    id="sleeve_bore", symbol="D", formula="sqrt(d**2 + 4 * Q / (pi * v))",
    symbols={"v": "velocity", "Q": "flow", "d": "motor_diameter"}, source=DERIVED,
)  # fmt: skip
def sleeve_bore(flow: CubicMetrePerSecond, motor_diameter: Diameter, velocity: MetrePerSecond) -> Diameter:
    """Largest inside diameter of a flow sleeve that keeps a velocity past the motor.

    Parameters
    ----------
    flow : at the lowest speed [m³/s]
    motor_diameter : outside [m]
    velocity : needed, > 0 [m/s]

    Examples
    --------
    >>> round(sleeve_bore(0.003, 0.137, 0.15), 4)
    0.2103
    """
    return math.sqrt(motor_diameter**2 + 4 * flow / (math.pi * velocity))


@method(
    id="least_cooling_velocity", symbol="v_min", formula="0.08 m/s to 110 mm diameter, 0.15 m/s beyond", words=True,
    source=Source("NEMA MG-1 part 18 class; 0.25 and 0.5 ft/s", "the maker's figure governs, from memory", "guideline"),
)  # fmt: skip
def least_cooling_velocity(motor_diameter: Diameter) -> MetrePerSecond:
    """Velocity a water-cooled submersible motor needs in cool water.

    Parameters
    ----------
    motor_diameter : outside, > 0 [m]

    Examples
    --------
    >>> round(least_cooling_velocity(0.137), 2)
    0.15
    """
    return 0.0762 if motor_diameter < 0.110 else 0.1524


@method(
    id="square_law_torque", symbol="T", formula="s**2", symbols={"s": "speed_ratio"},
    source=Source("affinity laws", kind="law"),
)  # fmt: skip
def square_law_torque(speed_ratio: Ratio) -> Percent:
    """Torque of a centrifugal machine at a speed, as a share of full.

    Parameters
    ----------
    speed_ratio : of full speed [-]

    Examples
    --------
    >>> float(square_law_torque(0.5))
    0.25
    """
    return speed_ratio**2


@method(
    id="torque_limit_self_ventilated", symbol="T_max", formula="look-up by speed, linear between", words=True,
    source=Source("class of IEC TS 60034-25 figures; the maker's curve governs", "low confidence, from memory", "from memory"),  # noqa: E501
)  # fmt: skip
def torque_limit_self_ventilated(speed_ratio: Ratio) -> Percent:
    """Torque a motor with its own shaft fan may give for ever at a speed, as a share of rated.

    Parameters
    ----------
    speed_ratio : of rated speed, above 0 [-]

    Examples
    --------
    >>> float(torque_limit_self_ventilated(0.5))
    0.82
    """
    check_range("speed ratio", speed_ratio, above=0, upto=2)
    return interpolate(speed_ratio, [s for s, _ in SELF_VENTILATED], [t for _, t in SELF_VENTILATED])


@method(
    id="square_law_copper_loss", symbol="P_cu", formula="i_0**2 + (1 - i_0**2) * s**4",
    symbols={"i_0": "magnetising_share", "s": "speed_ratio"}, source=DERIVED,
)  # fmt: skip
def square_law_copper_loss(speed_ratio: Ratio, magnetising_share: Ratio) -> Percent:
    """Winding loss on a square-law load at a speed, as a share of rated.

    Parameters
    ----------
    speed_ratio : of rated speed [-]
    magnetising_share : no-load current over rated current [-]

    Examples
    --------
    >>> round(square_law_copper_loss(0.5, 0.35), 3)
    0.177
    """
    return magnetising_share**2 + (1 - magnetising_share**2) * speed_ratio**4


@method(
    id="winding_temperature", symbol="T_2", formula="(R_2 / R_1) * (k + T_1) - k",
    symbols={"R_1": "cold_resistance", "T_1": "cold_degc", "R_2": "hot_resistance", "k": "constant"},
    source=Source("IEC 60034-1", "8.6.2, rise by resistance; 234.5 copper, 225 aluminium, from memory", "standard"),
)  # fmt: skip
def winding_temperature(cold_resistance: Ohm, cold_degc: DegC, hot_resistance: Ohm, constant: float = 234.5) -> DegC:
    """Mean temperature of a winding from its resistance.

    Parameters
    ----------
    cold_resistance : at the cold temperature, > 0 [Ω]
    cold_degc : of the cold winding [°C]
    hot_resistance : just after switching off [Ω]
    constant : of the metal [°C]

    Examples
    --------
    >>> round(winding_temperature(1.2, 22, 1.55), 2)
    96.81
    """
    return (hot_resistance / cold_resistance) * (constant + cold_degc) - constant


@method(
    id="temperature_rise", symbol="dT", formula="T - T_a", symbols={"T": "hot_degc", "T_a": "ambient_degc"},
    source=DERIVED,
)  # fmt: skip
def temperature_rise(hot_degc: DegC, ambient_degc: DegC) -> Kelvin:
    """Rise over the surroundings.

    Parameters
    ----------
    hot_degc : of the part [°C]
    ambient_degc : of the air at that time [°C]

    Examples
    --------
    >>> float(temperature_rise(96.8, 25))
    71.8
    """
    return hot_degc - ambient_degc


@method(
    id="insulation_limit", symbol="T_max", formula="40 + rise limit + hot-spot allowance of the class", words=True,
    source=Source("IEC 60085 / NEMA MG-1 12.43", "from memory", "standard"),
)  # fmt: skip
def insulation_limit(insulation: str) -> DegC:
    """Hottest spot that an insulation class allows.

    Parameters
    ----------
    insulation : B, F or H [-]

    Examples
    --------
    >>> float(insulation_limit("F"))
    155.0
    """
    if insulation not in RISE_LIMIT:
        raise OutOfRange("insulation class", insulation, ", ".join(RISE_LIMIT))
    return 40 + RISE_LIMIT[insulation] + HOT_SPOT[insulation]


@method(
    id="rise_at_load", symbol="dT", formula="dT_r * (x_f + (1 - x_f) * L**2)",
    symbols={"dT_r": "rated_rise", "L": "load", "x_f": "fixed_share"}, source=DERIVED,
)  # fmt: skip
def rise_at_load(rated_rise: Kelvin, load: Ratio, fixed_share: Ratio = 0.36) -> Kelvin:
    """Winding rise at part load, losses part fixed and part with the square of load.

    Parameters
    ----------
    rated_rise : at full load [K]
    load : [-]
    fixed_share : of the losses [-]

    Examples
    --------
    >>> round(rise_at_load(80, 0.9), 3)
    70.272
    """
    return rated_rise * (fixed_share + (1 - fixed_share) * load**2)


@method(
    id="service_factor_power", symbol="P", formula="SF * P_r",
    symbols={"SF": "service_factor", "P_r": "rated_power"},
    source=Source("NEMA MG-1", "1.42; on sine supply only, from memory", "standard"),
)  # fmt: skip
def service_factor_power(rated_power: Watt, service_factor: Ratio) -> Watt:
    """Power a service factor allows on sine supply; on a drive count 1.0.

    Parameters
    ----------
    rated_power : of the plate [W]
    service_factor : of the plate [-]

    Examples
    --------
    >>> round(service_factor_power(25, 1.15), 6)
    28.75
    """
    return service_factor * rated_power


@method(
    id="inverter_motor_loss", symbol="P_L", formula="P_s * (1 + r)",
    symbols={"P_s": "sine_loss", "r": "extra_share"},
    source=Source("IEC 61800-9-2", "r = 0.15, low confidence, from memory", "from memory"),
)  # fmt: skip
def inverter_motor_loss(sine_loss: Watt, extra_share: Ratio = 0.15) -> Watt:
    """Motor loss on a drive's output.

    Parameters
    ----------
    sine_loss : on sine supply [W]
    extra_share : added by the harmonics of the drive [-]

    Examples
    --------
    >>> round(inverter_motor_loss(2051.3), 1)
    2359.0
    """
    return sine_loss * (1 + extra_share)


@method(
    id="motor_peak_withstand", symbol="V_max", formula="3.1 * V", symbols={"V": "rated_voltage"},
    source=Source("NEMA MG-1", "31.4.4.2, inverter-duty motor up to 600 V, from memory", "standard"),
)  # fmt: skip
def motor_peak_withstand(rated_voltage: Volt) -> Volt:
    """Peak voltage an inverter-duty motor stands.

    Parameters
    ----------
    rated_voltage : up to 600 [V]

    Examples
    --------
    >>> round(motor_peak_withstand(460))
    1426
    """
    check_range("motor voltage", rated_voltage, above=0, upto=600)
    return 3.1 * rated_voltage
