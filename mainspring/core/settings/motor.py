"""Motor data, as the drive wants them."""

from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.settings.setting import Planned, fixed, plate, setting


@setting(
    "motor.type",
    "Motor type",
    choices={"induction": "Induction", "permanent_magnet": "Permanent magnet", "single_phase": "Single-phase"},
    wrong="Will not run, or burns.",
)
def motor_type(line: Line, derived: Derived) -> Planned:
    """Induction where the plate shows slip."""
    _ = derived.rated_slip
    return fixed("induction", "The plate shows slip.")


@setting("motor.rated_power", "Motor power", dimension="power", wrong="Wrong motor model.")
def rated_power(line: Line, derived: Derived) -> Planned:
    """Plate power."""
    return plate(line.motor.rated_power)


@setting("motor.rated_voltage", "Motor voltage", dimension="voltage", wrong="Saturation or weak torque.")
def rated_voltage(line: Line, derived: Derived) -> Planned:
    """Plate volts of the connection in use."""
    return plate(line.motor.rated_voltage, "Of the connection in use.")


@setting("motor.rated_frequency", "Motor frequency", dimension="frequency", wrong="Flux wrong.")
def rated_frequency(line: Line, derived: Derived) -> Planned:
    """Plate frequency."""
    return plate(line.motor.rated_frequency)


@setting("motor.rated_current", "Motor current", dimension="current", wrong="No overload protection.")
def rated_current(line: Line, derived: Derived) -> Planned:
    """Plate amps at that voltage."""
    return plate(line.motor.rated_current, "Of the plate, at the connection in use.")


@setting("motor.rated_speed", "Motor speed", dimension="speed", wrong="Slip compensation and load estimate.")
def rated_speed(line: Line, derived: Derived) -> Planned:
    """Plate full-load speed."""
    return plate(line.motor.rated_speed, "Full-load speed, below synchronous.")


@setting("motor.power_factor", "Motor power factor", dimension="ratio", wrong="Magnetising current.")
def power_factor(line: Line, derived: Derived) -> Planned:
    """Plate power factor."""
    return plate(line.motor.power_factor)


@setting("motor.poles", "Motor poles", dimension="count", wrong="Speed display.")
def poles(line: Line, derived: Derived) -> Planned:
    """From frequency and full-load speed."""
    return plate(derived.poles, "From frequency and full-load speed.")


@setting(
    "motor.identification",
    "Motor identification",
    choices={"standstill": "Standstill", "rotating": "Rotating", "off": "Off"},
    wrong="Poor torque, hunting.",
)
def identification(line: Line, derived: Derived) -> Planned:
    """Standstill on a coupled load, motor cold."""
    return fixed("standstill", "Coupled load: standstill variant, motor cold, 1 to 10 min; odd noises are normal.")


@setting(
    "motor.thermal_protection",
    "Motor thermal protection",
    choices={"model": "Thermal model", "thermistor": "Thermistor", "off": "Off"},
    wrong="Cooked winding.",
)
def thermal_protection(line: Line, derived: Derived) -> Planned:
    """The drive's thermal model, unless a thermistor is wired."""
    return fixed("model", "Thermal model on; thermistor where one is wired.")
