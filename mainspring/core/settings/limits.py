"""Current, speed, ramps, start and stop."""

from mainspring.core.derived import Derived
from mainspring.core.errors import NotKnown
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Figure, Source, given
from mainspring.core.sentence import say
from mainspring.core.settings.setting import Planned, fixed, setting

SURFACE_PUMP_MINIMUM = given("surface_pump_minimum", 15.0, "frequency", "surface pumps 15 to 30 Hz, common practice")


@setting("limits.current", "Current limit", dimension="current", wrong="Trips, or damage.")
def current_limit(line: Line, derived: Derived) -> Planned:
    """The smaller of the plate's amps (or what was decided) and the drive's."""
    wanted = line.drive.current_limit if line.drive.has("current_limit") else line.motor.rated_current
    limit = min(wanted, line.drive.rated_current)
    return Planned(
        limit,
        say(
            "Plate × 1.0: a service factor is stated for sine supply. Motor {motor}, drive {drive}.",
            motor=line.motor.rated_current,
            drive=line.drive.rated_current,
        ),
        Source("NEMA MG-1 part 30", "from memory", "standard"),
    )


def minimum_reasons(line: Line, derived: Derived) -> list[tuple[str, Figure]]:
    """Every reason for a lowest speed that can be told now, with its own figure."""
    reasons: list[tuple[str, Figure]] = [("practice for a surface pump", SURFACE_PUMP_MINIMUM)]
    application = line.value("line.application")
    try:
        if application == "booster":
            reasons.append(
                (
                    "controller's low limit at no demand",
                    line.control.low_limit if line.control.has("low_limit") else derived.low_limit,
                )
            )
        else:
            reasons.append(("speed that just lifts the static head", derived.hold_frequency))
    except NotKnown:
        if application is not None:
            raise
    return reasons


@setting("limits.minimum_speed", "Lowest speed", dimension="frequency", wrong="Churning, heat.")
def minimum_speed(line: Line, derived: Derived) -> Planned:
    """The highest of the reasons."""
    _ = line.line.application
    rules, highest = max(minimum_reasons(line, derived), key=lambda r: r[1])
    return Planned(highest, say(f"Highest of the reasons: {rules}."), DERIVED)


@setting("limits.maximum_speed", "Highest speed", dimension="frequency", wrong="Overload, burst.")
def maximum_speed(line: Line, derived: Derived) -> Planned:
    """Base frequency."""
    return Planned(
        line.motor.rated_frequency, say("Base frequency; above it shaft power grows with the cube."), COMMON_PRACTICE
    )


@setting(
    "limits.direction",
    "Direction",
    choices={"forward": "Forward only", "both": "Both"},
    wrong="Unscrewed impeller.",
)
def direction(line: Line, derived: Derived) -> Planned:
    """Pumps run forward only."""
    return fixed("forward", "A pump; the wrong way is cured by swapping two motor leads, not in the drive.")


def _ramp(line: Line, name: str, usual: float, why: str) -> Planned:
    if line.control.has(name):
        return Planned(getattr(line.control, name), say("As tried on the loop bench."), DERIVED)
    return Planned(given(name, usual, "time", "surface pump, common practice"), say(why))


@setting("ramps.up", "Ramp up, 0 to full speed", dimension="time", wrong="Current limit.")
def ramp_up(line: Line, derived: Derived) -> Planned:
    """10 s to begin with."""
    return _ramp(line, "ramp_up", 10.0, "Surface pump: start from 10 s. Too short runs into the current limit.")


@setting("ramps.down", "Ramp down, full speed to 0", dimension="time", wrong="Overvoltage, water hammer.")
def ramp_down(line: Line, derived: Derived) -> Planned:
    """20 s to begin with."""
    return _ramp(line, "ramp_down", 20.0, "Surface pump: start from 20 s. Too short: overvoltage and water hammer.")


@setting("start.mode", "Start", choices={"ramp": "Ramp", "flying": "Flying start"}, wrong="Trip on a turning machine.")
def start_mode(line: Line, derived: Derived) -> Planned:
    """Normal ramp for a pump."""
    return fixed("ramp", "A pump with a check valve stands still at start.")


@setting("stop.mode", "Stop", choices={"coast": "Coast", "ramp": "Ramp"}, wrong="Hammer, overvoltage.")
def stop_mode(line: Line, derived: Derived) -> Planned:
    """Ramp where a check valve would slam."""
    return fixed("ramp", "Ramp down so that the check valve closes softly.")


@setting(
    "start.source",
    "Start command",
    choices={"terminal": "Terminal", "keypad": "Keypad", "bus": "Bus"},
    wrong="Does not start, or starts alone.",
)
def start_source(line: Line, derived: Derived) -> Planned:
    """A normally-open contact."""
    return fixed("terminal", "Normally-open start contact.")


@setting("carrier.frequency", "Carrier frequency", dimension="carrier", wrong="Heat, noise, insulation.")
def carrier(line: Line, derived: Derived) -> Planned:
    """Low for long leads, 4 kHz otherwise."""
    long_lead = line.drive.has("lead_length") and line.drive.lead_length > 30
    value = 2000.0 if long_lead else 4000.0
    why = "Long motor lead: low carrier." if long_lead else "Cooler drive and little noise; higher needs derating."
    return Planned(given("carrier", value, "carrier", "common practice"), say(why))
