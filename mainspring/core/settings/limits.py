"""Current, speed, ramps, start and stop."""

from mainspring.core import practice
from mainspring.core.derived import Derived
from mainspring.core.errors import NoSolution
from mainspring.core.limits import (
    Reason,
    highest_in_force,
    highest_reasons,
    lowest_reasons,
    ramp_down_reasons,
    ramp_up_reasons,
    strictest,
)
from mainspring.core.line import Line
from mainspring.core.line.reversal import reversal_of
from mainspring.core.method import DERIVED, Source, given
from mainspring.core.sentence import in_sentence, say, show
from mainspring.core.settings.setting import Planned, PlannedNumber, fixed, setting


@setting("limits.current", "Current limit", dimension="current", wrong="Trips, or damage.")
def current_limit(line: Line, derived: Derived) -> Planned:
    """The smaller of the plate's amps (or what was decided) and the drive's."""
    return Planned(
        derived.current_limit,
        say(
            "Plate × 1.0: a service factor is stated for sine supply. Motor {motor}, drive {drive}.",
            motor=derived.motor_amps,
            drive=line.drive.rated_current,
        ),
        Source("NEMA MG-1 part 30", "from memory", "standard"),
    )


def _ruled(reasons: list[Reason], *, highest: bool) -> PlannedNumber:
    """The reason that rules, with every reason and its figure named."""
    ruling = strictest(reasons, highest=highest)
    figures = {f"r{i}": r.figure for i, r in enumerate(reasons)}
    listed = "; ".join(f"{in_sentence(r.words).rstrip('.')}: {{r{i}}}" for i, r in enumerate(reasons))
    which = "Highest" if highest else "Lowest"
    words = (
        f"{ruling.words[0].upper()}{ruling.words[1:].rstrip('.')}." if len(reasons) == 1 else f"{which} of: {listed}."
    )
    return PlannedNumber(ruling.figure, say(words, **(figures if len(reasons) > 1 else {})), ruling.source)


@setting("limits.minimum_speed", "Lowest speed", dimension="frequency", wrong="Churning, heat.")
def minimum_speed(line: Line, derived: Derived) -> Planned:
    """The highest of the reasons; none while that is not below the highest speed."""
    planned = _ruled(lowest_reasons(line, derived), highest=True)
    top = highest_in_force(line, derived)
    if planned.value >= top:
        raise NoSolution(
            f"{show(planned.value)} would be needed and {show(top)} is the highest speed: nothing is left to control"
            " with; setpoint, curve or machine first"
        )
    return planned


@setting("limits.maximum_speed", "Highest speed", dimension="frequency", wrong="Overload, burst.")
def maximum_speed(line: Line, derived: Derived) -> Planned:
    """The lowest of the reasons: base frequency, the machine, its power, the weakest part."""
    return _ruled(highest_reasons(line, derived), highest=False)


def _skip_band(number: int) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        half = show(practice.loop.SKIP_HALF)
        return fixed("none", f"None until a resonance is found on the step-up: then {half} either side of it.")

    choices = {"none": "None found", "set": "Set as found"}
    setting(f"limits.skip_band_{number}", f"Skip band {number}", choices=choices, wrong="Shaking.")(plan)


for _number in (1, 2, 3):
    _skip_band(_number)


@setting(
    "limits.direction",
    "Direction",
    choices={"forward": "Forward only", "both": "Both"},
    wrong="It may run backwards.",
)
def direction(line: Line, derived: Derived) -> Planned:
    """Forward only, but for the anti-clog cycle of a pump with fibre."""
    cure = reversal_of(line).cure
    if line.value("line.load") == "clogging":
        return fixed("both", f"Fibre: the anti-clog cycle turns it back; the wrong way is still cured by {cure}.")
    return fixed("forward", f"A {line.application.machine}; the wrong way is cured by {cure}, not in the drive.")


def _ramp(line: Line, name: str, reasons: list[Reason]) -> Planned:
    if line.control.has(name):
        return Planned(getattr(line.control, name), say("As tried on the loop bench, or entered."), DERIVED)
    return _ruled(reasons, highest=True)


@setting("ramps.up", "Ramp up, 0 to full speed", dimension="time", wrong="Current limit.")
def ramp_up(line: Line, derived: Derived) -> Planned:
    """Practice, or what the inertia needs."""
    return _ramp(line, "ramp_up", ramp_up_reasons(line, derived))


@setting("ramps.down", "Ramp down, full speed to 0", dimension="time", wrong="Overvoltage; in pipes water hammer.")
def ramp_down(line: Line, derived: Derived) -> Planned:
    """Practice, or what inertia and pipeline need."""
    return _ramp(line, "ramp_down", ramp_down_reasons(line, derived))


@setting(
    "ramps.initial_to_minimum",
    "Ramp to the lowest speed",
    dimension="time",
    wrong="Bearing wear.",
    only=("submersible",),
)
def initial_ramp(line: Line, derived: Derived) -> Planned:
    """Fast through what the thrust bearing does not stand."""
    return Planned(
        practice.pump.INITIAL_RAMP,
        say(
            "The thrust bearing has no film below {low}: through it in at most {time}, up and down.",
            low=given("practice_minimum", line.application.lowest, "frequency", line.application.lowest_why),
            time=practice.pump.INITIAL_RAMP,
        ),
    )


@setting("start.mode", "Start", choices={"ramp": "Ramp", "flying": "Flying start"}, wrong="Trip on a turning machine.")
def start_mode(line: Line, derived: Derived) -> Planned:
    """Flying start for a fan that may turn by itself, a ramp otherwise."""
    if line.application.machine == "fan":
        if line.value("system.windmills") == "no":
            return fixed("ramp", "Nothing turns it while the drive is off.")
        return fixed("flying", "A fan may be turning: catch it instead of tripping on it.")
    return fixed("ramp", "A pump with a check valve stands still at start.")


@setting("stop.mode", "Stop", choices={"coast": "Coast", "ramp": "Ramp"}, wrong="Hammer, overvoltage.")
def stop_mode(line: Line, derived: Derived) -> Planned:
    """Fans coast; pumps ramp so that the check valve closes softly."""
    if line.application.machine == "fan":
        return fixed("coast", "A fan runs out by itself; braking it only feeds energy back.")
    return fixed("ramp", "Ramp down so that the check valve closes softly.")


@setting(
    "start.source",
    "Start command",
    choices={"terminal": "Terminal", "keypad": "Keypad", "bus": "Bus"},
    wrong="Does not start, or starts alone.",
)
def start_source(line: Line, derived: Derived) -> Planned:
    """A normally-open contact, unless it takes its orders otherwise."""
    told = line.value("control.start_from")
    if told in ("keypad", "link"):
        return fixed({"link": "bus"}.get(told, told), "As it takes its orders.", DERIVED)
    if told == "pressure":
        return fixed("terminal", "Enabled by a contact; it starts by itself on what it holds.", DERIVED)
    return fixed("terminal", "Normally-open start contact.")


@setting(
    "start.wiring",
    "Start wiring",
    choices={"two_wire": "Two-wire, held contact", "three_wire": "Three-wire, two buttons", "none": "No contact"},
    wrong="Restarts by itself after a power failure, or does not start.",
)
def start_wiring(line: Line, derived: Derived) -> Planned:
    """Two-wire starts again when power returns; three-wire waits for the button."""
    told = line.value("control.start_from")
    if told == "three_wire":
        return fixed("three_wire", "Two buttons: after a power failure it waits to be started.", DERIVED)
    if told in ("keypad", "link"):
        return fixed("none", "No contact starts it.", DERIVED)
    return fixed("two_wire", "A contact held closed: it starts again by itself when power returns.")


@setting("carrier.frequency", "Carrier frequency", dimension="carrier", wrong="Heat, noise, insulation.")
def carrier(line: Line, derived: Derived) -> Planned:
    """Low for long leads, 4 kHz otherwise."""
    long_lead = line.drive.has("lead_length") and line.drive.lead_length > line.own(practice.drive.LEAD_PLAIN)
    if line.drive.has("carrier"):
        return Planned(line.drive.carrier, say("As wanted; see what it costs at the joint of drive and motor."))
    value = practice.drive.LONG_LEAD_SET if long_lead else practice.drive.RATED_CARRIER
    why = "Long motor lead: low carrier." if long_lead else "Cooler drive and little noise; higher needs derating."
    return Planned(value, say(why))
