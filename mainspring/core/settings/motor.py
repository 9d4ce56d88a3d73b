"""Motor data, as the drive wants them."""

from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.settings.setting import Planned, fixed, plate, setting

_SLIPS = ("induction", "single_phase")


@setting(
    "motor.type",
    "Motor type",
    choices={"induction": "Induction", "permanent_magnet": "Permanent magnet", "single_phase": "Single-phase"},
    wrong="Will not run, or burns.",
)
def motor_type(line: Line, derived: Derived) -> Planned:
    """As entered; induction where the plate shows slip."""
    if line.motor.has("type"):
        return fixed(line.motor.type, "From the plate.")
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
    """Plate amps at that voltage; service-factor amps of a submersible."""
    if "submersible" in line.traits:
        return plate(derived.motor_amps, "Service-factor amps: a submersible is loaded into them.")
    return plate(line.motor.rated_current, "Of the plate, at the connection in use.")


@setting("motor.rated_speed", "Motor speed", dimension="speed", wrong="Slip compensation and load estimate.")
def rated_speed(line: Line, derived: Derived) -> Planned:
    """Plate full-load speed."""
    return plate(line.motor.rated_speed, "Full-load speed, below synchronous.")


@setting("motor.power_factor", "Motor power factor", dimension="ratio", wrong="Magnetising current.", only=_SLIPS)
def power_factor(line: Line, derived: Derived) -> Planned:
    """Plate power factor."""
    return plate(line.motor.power_factor)


@setting("motor.poles", "Motor poles", dimension="count", wrong="Speed display.")
def poles(line: Line, derived: Derived) -> Planned:
    """From frequency and full-load speed; of the plate for a permanent-magnet rotor."""
    if "permanent_magnet" in line.traits:
        return plate(line.motor.magnet_poles)
    return plate(derived.poles, "From frequency and full-load speed.")


def _exact(name: str, label: str, dimension: str) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        return plate(line.figure(f"motor.{name}"), "From the plate, typed twice: to the last digit.")

    wrong = "Unreliable start."
    setting(f"motor.{name}", label, dimension=dimension, wrong=wrong, only=("permanent_magnet",), exact=True)(plan)


_exact("back_emf", "Back-EMF, as the plate gives it", "voltage")
_exact("stator_resistance", "Stator resistance", "resistance")
_exact("inductance_d", "Inductance Ld", "inductance")
_exact("inductance_q", "Inductance Lq", "inductance")


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
    """The drive's thermal model, and the thermistor where the winding has one."""
    if line.value("motor.thermal") == "thermistor":
        return fixed("thermistor", "The winding has one: wire it to the drive; the thermal model stays on as well.")
    return fixed("model", "Thermal model on; thermistor where one is wired.")
