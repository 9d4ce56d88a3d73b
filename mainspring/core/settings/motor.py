"""Motor data, as the drive wants them."""

from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.ratios import share_of
from mainspring.core.settings.does import bad, doubt, fine
from mainspring.core.settings.effect import Deviation, Effect, judged
from mainspring.core.settings.setting import Planned, fixed, plate, setting

_SLIPS = ("induction", "single_phase")


@setting(
    "motor.type",
    "Motor type",
    choices={"induction": "Induction", "permanent_magnet": "Permanent magnet", "single_phase": "Single-phase"},
    wrong="Will not run, or burns.",
    means="How the motor is built.",
    also="machine type; motor construction; asynchronous; pm; motorart; control mode",
)
def motor_type(line: Line, derived: Derived) -> Planned:
    """As entered; induction where the plate shows slip."""
    if line.motor.has("type"):
        return fixed(line.motor.type, "From the plate.")
    _ = derived.rated_slip
    return fixed("induction", "The plate shows slip.")


@setting(
    "motor.rated_power",
    "Motor power",
    dimension="power",
    wrong="Wrong motor model.",
    means="Shaft power on the motor's plate.",
    also="motor output; nameplate power; motor kw; motor hp; nennleistung; motorleistung; motor nominal power",
    between=(10, 2e6),
)
def rated_power(line: Line, derived: Derived) -> Planned:
    """Plate power."""
    return plate(line.motor.rated_power)


@setting(
    "motor.rated_voltage",
    "Motor voltage",
    dimension="voltage",
    wrong="Saturation or weak torque.",
    means="Volts on the plate at the connection in use.",
    also="motor volts; nameplate volts; nennspannung; motorspannung; motor nominal voltage; base voltage",
    between=(50, 1000),
)
def rated_voltage(line: Line, derived: Derived) -> Planned:
    """Plate volts of the connection in use."""
    return plate(line.motor.rated_voltage, "Of the connection in use.")


@setting(
    "motor.rated_frequency",
    "Motor frequency",
    dimension="frequency",
    wrong="Flux wrong.",
    means="Frequency on the motor's plate.",
    also="motor hertz; nameplate frequency; nennfrequenz; motorfrequenz; base frequency; motor nominal frequency",
    between=(10, 600),
)
def rated_frequency(line: Line, derived: Derived) -> Planned:
    """Plate frequency."""
    return plate(line.motor.rated_frequency)


@setting(
    "motor.rated_current",
    "Motor current",
    dimension="current",
    wrong="No overload protection.",
    means="Amps on the plate at that voltage.",
    also="motor amps; nameplate amps; nennstrom; motorstrom; flc; full load; motor nominal current",
    between=(0.1, 3000),
)
def rated_current(line: Line, derived: Derived) -> Planned:
    """Plate amps at that voltage; service-factor amps of a submersible."""
    if "submersible" in line.traits:
        return plate(derived.motor_amps, "Service-factor amps: a submersible is loaded into them.")
    return plate(line.motor.rated_current, "Of the plate, at the connection in use.")


@setting(
    "motor.rated_speed",
    "Motor speed",
    dimension="speed",
    wrong="Slip compensation and load estimate.",
    means="Full-load speed on the plate.",
    also="motor rpm; nameplate speed; nenndrehzahl; motordrehzahl; motor nominal speed; base speed",
    between=(50, 20000),
)
def rated_speed(line: Line, derived: Derived) -> Planned:
    """Plate full-load speed."""
    return plate(line.motor.rated_speed, "Full-load speed, below synchronous.")


@setting(
    "motor.power_factor",
    "Motor power factor",
    dimension="ratio",
    wrong="Magnetising current.",
    only=_SLIPS,
    means="Power factor on the plate.",
    also="cos phi; cosphi; cos; leistungsfaktor",
    between=(0.2, 1),
    either=doubt("Magnetising current is off", "{value}, the plate has {proposed}: the motor model starts wrong."),
)
def power_factor(line: Line, derived: Derived) -> Planned:
    """Plate power factor."""
    return plate(line.motor.power_factor)


@setting(
    "motor.poles",
    "Motor poles",
    dimension="count",
    wrong="Speed display.",
    means="Number of poles.",
    also="pole number; pole count; polzahl; pole pairs; polpaare",
    between=(2, 80),
    either=bad("Another speed", "{value} poles, the motor has {proposed}: the speed shown is wrong."),
)
def poles(line: Line, derived: Derived) -> Planned:
    """From frequency and full-load speed; of the plate for a permanent-magnet rotor."""
    if "permanent_magnet" in line.traits:
        return plate(line.motor.magnet_poles)
    return plate(derived.poles, "From frequency and full-load speed.")


def _exact(name: str, label: str, dimension: str, means: str, also: str, between: tuple[float, float]) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        return plate(line.figure(f"motor.{name}"), "From the plate, typed twice: to the last digit.")

    wrong = "Unreliable start."
    setting(
        f"motor.{name}",
        label,
        dimension=dimension,
        wrong=wrong,
        only=("permanent_magnet",),
        exact=True,
        means=means,
        also=also,
        between=between,
    )(plan)


_exact(
    "back_emf",
    "Back-EMF, as the plate gives it",
    "voltage",
    "Volts that the turning magnets make.",
    "back emf; bemf; ke; emk; induced voltage",
    (1, 2000),
)
_exact(
    "stator_resistance",
    "Stator resistance",
    "resistance",
    "Resistance of one winding.",
    "stator resistance; rs; ständerwiderstand; winding resistance",
    (1e-4, 500),
)
_exact(
    "inductance_d",
    "Inductance Ld",
    "inductance",
    "Inductance along the magnets.",
    "d-axis inductance; ld; induktivität d",
    (1e-6, 10),
)
_exact(
    "inductance_q",
    "Inductance Lq",
    "inductance",
    "Inductance across the magnets.",
    "q-axis inductance; lq; induktivität q",
    (1e-6, 10),
)


@setting(
    "motor.identification",
    "Motor identification",
    choices={"standstill": "Standstill", "rotating": "Rotating", "off": "Off"},
    wrong="Poor torque, hunting.",
    means="How the drive measures the motor.",
    also="learn motor; auto tune; autotuning; id run; identification; motoridentifikation; tuning",
    does={
        "off": fine("Motor not measured", "It goes by the plate alone: less sure torque at low speed."),
        "rotating": fine("Measured while it turns", "Better known than at rest; only done uncoupled."),
        "standstill": fine("Measured at rest", "Known well enough for a pump or fan."),
    },
)
def identification(line: Line, derived: Derived) -> Planned:
    """Standstill on a coupled load, motor cold."""
    return fixed("standstill", "Coupled load: standstill variant, motor cold, 1 to 10 min; odd noises are normal.")


@setting(
    "motor.thermal_protection",
    "Motor thermal protection",
    choices={"model": "Thermal model", "thermistor": "Thermistor", "off": "Off"},
    wrong="Cooked winding.",
    means="What watches the motor's heat.",
    also="motor overload; thermistor; ptc; thermal model; motorschutz; electronic thermal",
    does={
        "off": bad("Nothing watches the winding", "An overload is only stopped when the winding is cooked."),
        "model": doubt("The winding's own sensor is not read", "The model does not know a blocked fan or hot air."),
        "thermistor": doubt(
            "Trips without a thermistor",
            "It waits for a sensor in the winding: with none wired it trips or does not watch.",
        ),
    },
)
def thermal_protection(line: Line, derived: Derived) -> Planned:
    """The drive's thermal model, and the thermistor where the winding has one."""
    if line.value("motor.thermal") == "thermistor":
        return fixed("thermistor", "The winding has one: wire it to the drive; the thermal model stays on as well.")
    return fixed("model", "Thermal model on; thermistor where one is wired.")


# what a value does


@judged("motor.rated_current")
def _motor_amps(d: Deviation) -> Effect | None:
    ratio = share_of(d.number, d.wanted)
    if ratio > 1.05:
        return d.bad("Does not protect the motor", "{value} is {ratio} of the plate's {proposed}.", ratio=ratio)
    if ratio < 0.9:
        return d.doubt("Trips below full load", "{value} is {ratio} of the plate's {proposed}.", ratio=ratio)
    return None


@judged("motor.rated_voltage", "motor.rated_frequency")
def _flux(d: Deviation) -> Effect | None:
    if abs(share_of(d.number, d.wanted) - 1) <= 0.02:
        return None
    return d.bad("Wrong flux in the motor", "{value}, the plate has {proposed}: saturated, or weak.")


@judged("motor.rated_power")
def _motor_power(d: Deviation) -> Effect | None:
    ratio = share_of(d.number, d.wanted)
    if not 0.5 < ratio < 2:
        return d.bad("Another motor's power", "{value}, the plate has {proposed}.")
    return None if 0.9 < ratio < 1.1 else d.doubt("Motor model is off", "{value}, the plate has {proposed}.")


@judged("motor.rated_speed")
def _motor_speed(d: Deviation) -> Effect | None:
    if "permanent_magnet" not in d.line.traits and d.number >= d.derived.synchronous_rpm * 0.999:
        return d.doubt("No slip", "{value} is the synchronous speed: slip compensation and load estimate go wrong.")
    return None if abs(share_of(d.number, d.wanted) - 1) < 0.01 else d.doubt(
        "Slip is off", "{value}, the plate has {proposed}: slip compensation and load estimate go wrong."
    )  # fmt: skip


@judged("motor.type")
def _motor_type(d: Deviation) -> Effect:
    return d.bad("Set for another kind of motor", "{value}, this is {proposed}: it will not run, or burns.")
