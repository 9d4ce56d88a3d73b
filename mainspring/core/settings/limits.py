"""Current, speed, ramps, start and stop."""

from mainspring.core import practice
from mainspring.core.derived import Derived
from mainspring.core.errors import NoSolution
from mainspring.core.limits import (
    Reason,
    highest_in_force,
    highest_reasons,
    lowest_in_force,
    lowest_reasons,
    ramp_down_reasons,
    ramp_up_reasons,
    run_down_time,
    run_up_time,
    strictest,
    surge_ramp,
    torque_frequency,
)
from mainspring.core.line import Line
from mainspring.core.line.reversal import reversal_of
from mainspring.core.method import DERIVED, Figure, Source, given
from mainspring.core.ratios import share_of
from mainspring.core.sentence import in_sentence, say, show
from mainspring.core.settings.does import doubt, fine
from mainspring.core.settings.effect import NEAR, Deviation, Effect, judged
from mainspring.core.settings.setting import Planned, PlannedNumber, fixed, setting


@setting(
    "limits.current",
    "Current limit",
    dimension="current",
    wrong="Trips, or damage.",
    means="Amps that it does not exceed.",
    also="current limit; ceiling amps; amps allowed; max current; stromgrenze; torque limit; imax",
    between=(0.1, 3000),
    field="drive.current_limit",
)
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


@setting(
    "limits.minimum_speed",
    "Lowest speed",
    dimension="frequency",
    wrong="Churning, heat.",
    means="The slowest that it runs.",
    also="floor hertz; speed lowest; low limit; minimum frequency; lower limit; fmin; mindestfrequenz; min speed",
    between=(0, 400),
    leads=True,
)
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


@setting(
    "limits.maximum_speed",
    "Highest speed",
    dimension="frequency",
    wrong="Overload, burst.",
    means="The fastest that it runs.",
    also="ceiling hertz; speed highest; high limit; maximum frequency; upper limit; fmax; höchstfrequenz; "
    "max output frequency; max speed",
    between=(5, 600),
    leads=True,
)
def maximum_speed(line: Line, derived: Derived) -> Planned:
    """The lowest of the reasons: base frequency, the machine, its power, the weakest part."""
    return _ruled(highest_reasons(line, derived), highest=False)


_SKIP = {
    "set": fine("A band is skipped", "It passes these speeds and does not stay; the loop may jump across them."),
    "none": doubt("A resonance is not skipped", "It may stay at a speed at which something shakes."),
}
_NTH = {
    1: "Speeds that it passes and does not stay at, first band.",
    2: "The second such band.",
    3: "The third such band.",
}


def _skip_band(number: int) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        half = show(practice.loop.SKIP_HALF)
        return fixed("none", f"None until a resonance is found on the step-up: then {half} either side of it.")

    choices = {"none": "None found", "set": "Set as found"}
    words = ("skip frequency", "bypass speed", "jump frequency", "ausblendfrequenz", "critical speed")
    setting(
        f"limits.skip_band_{number}",
        f"Skip band {number}",
        choices=choices,
        wrong="Shaking.",
        means=_NTH[number],
        also="; ".join(f"{word} {number}" for word in words),
        does=_SKIP,
    )(plan)


for _number in (1, 2, 3):
    _skip_band(_number)


@setting(
    "limits.direction",
    "Direction",
    choices={"forward": "Forward only", "both": "Both"},
    wrong="It may run backwards.",
    means="Whether it may turn both ways.",
    also="turn; reverse; direction; rotation; drehrichtung; operation direction; forward only",
    does={
        "both": doubt("May run backwards", "Both directions are allowed: a signal can turn it the wrong way."),
        "forward": doubt("Cannot turn back", "The cycle that clears its throat needs to turn it back a moment."),
    },
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


@setting(
    "ramps.up",
    "Ramp up, 0 to full speed",
    dimension="time",
    wrong="Current limit.",
    means="Time from standstill to base frequency.",
    also="rise time; accelerate; acceleration time; ramp up; hochlaufzeit; accel; climb",
    between=(0.1, 3600),
    field="control.ramp_up",
)
def ramp_up(line: Line, derived: Derived) -> Planned:
    """Practice, or what the inertia needs."""
    return _ramp(line, "ramp_up", ramp_up_reasons(line, derived))


@setting(
    "ramps.down",
    "Ramp down, full speed to 0",
    dimension="time",
    wrong="Overvoltage; in pipes water hammer.",
    means="Time from base frequency to standstill.",
    also="fall time; decelerate; deceleration time; ramp down; auslaufzeit; decel; rücklaufzeit",
    between=(0.1, 3600),
    field="control.ramp_down",
)
def ramp_down(line: Line, derived: Derived) -> Planned:
    """Practice, or what inertia and pipeline need."""
    return _ramp(line, "ramp_down", ramp_down_reasons(line, derived))


@setting(
    "ramps.initial_to_minimum",
    "Ramp to the lowest speed",
    dimension="time",
    wrong="Bearing wear.",
    only=("submersible",),
    means="Time in which it reaches the lowest speed at a start.",
    also="initial ramp; start ramp; first ramp; anfangsrampe",
    between=(0.1, 60),
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


@setting(
    "start.mode",
    "Start",
    choices={"ramp": "Ramp", "flying": "Flying start"},
    wrong="Trip on a turning machine.",
    means="Whether it catches a machine that turns already.",
    also="flying start; catch; start mode; fangschaltung; start function; speed search",
    does={
        "ramp": doubt("May trip on a turning machine", "Started into a wheel that turns by itself, it trips."),
        "flying": fine("Catches a turning machine", "It looks for a machine that turns; at rest this takes a moment."),
    },
)
def start_mode(line: Line, derived: Derived) -> Planned:
    """Flying start for a fan that may turn by itself, a ramp otherwise."""
    if line.application.machine == "fan":
        if line.value("system.windmills") == "no":
            return fixed("ramp", "Nothing turns it while the drive is off.")
        return fixed("flying", "A fan may be turning: catch it instead of tripping on it.")
    return fixed("ramp", "A pump with a check valve stands still at start.")


@setting(
    "stop.mode",
    "Stop",
    choices={"coast": "Coast", "ramp": "Ramp"},
    wrong="Hammer, overvoltage.",
    means="Whether it ramps or coasts when stopped.",
    also="stop by; stop mode; coast; stop function; stoppmodus; halt",
    leads=True,
)
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
    means="Where the start comes from.",
    also="run command; start from; start source; command source; control site; startquelle; start/stop",
    does={
        "terminal": doubt(
            "Waits for its contacts", "“{proposed}” does not start it; what is wired to its contacts does."
        ),
        "keypad": doubt("Waits for its keypad", "“{proposed}” does not start it; somebody has to press the key."),
        "bus": doubt("Waits for the link", "“{proposed}” does not start it; the automation does, with nobody there."),
    },
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
    means="With which contacts it is started.",
    also="two wire; three wire; 2-wire; 3-wire; run wiring",
    does={
        "two_wire": doubt("Starts again by itself", "After a power failure it starts with the contact still closed."),
        "three_wire": doubt("Waits for its button", "After a power failure it stands until somebody presses start."),
        "none": doubt("No contact starts it", "What is wired to start it does nothing."),
    },
)
def start_wiring(line: Line, derived: Derived) -> Planned:
    """Two-wire starts again when power returns; three-wire waits for the button."""
    told = line.value("control.start_from")
    if told == "three_wire":
        return fixed("three_wire", "Two buttons: after a power failure it waits to be started.", DERIVED)
    if told in ("keypad", "link"):
        return fixed("none", "No contact starts it.", DERIVED)
    return fixed("two_wire", "A contact held closed: it starts again by itself when power returns.")


@setting(
    "carrier.frequency",
    "Carrier frequency",
    dimension="carrier",
    wrong="Heat, noise, insulation.",
    means="How often its output switches in a second.",
    also="switching frequency; switching khz; carrier; pwm; taktfrequenz",
    between=(500, 20000),
    field="drive.carrier",
)
def carrier(line: Line, derived: Derived) -> Planned:
    """Low for long leads, 4 kHz otherwise."""
    long_lead = line.drive.has("lead_length") and line.drive.lead_length > line.own(practice.drive.LEAD_PLAIN)
    if line.drive.has("carrier"):
        return Planned(line.drive.carrier, say("As wanted; see what it costs at the joint of drive and motor."))
    value = practice.drive.LONG_LEAD_SET if long_lead else practice.drive.RATED_CARRIER
    why = "Long motor lead: low carrier." if long_lead else "Cooler drive and little noise; higher needs derating."
    return Planned(value, say(why))


# what a value does


@judged("limits.current")
def _current_limit(d: Deviation) -> Effect | None:
    drive, plate = d.known(lambda: d.derived.drive_amps), d.derived.motor_amps
    ratio = share_of(d.number, plate)
    if drive is not None and d.number > drive * NEAR:
        return d.bad("Above what the drive gives", "{value}, the drive gives {drive} at its place.", drive=drive)
    if ratio > NEAR:
        service = d.line.value("motor.service_factor") or 1.0
        words = "{value} is {ratio} of the plate's {plate}"
        if "submersible" not in d.line.traits and ratio <= min(service, practice.drive.SERVICE_LIMIT) * NEAR:
            words += "; a service factor is stated for sine supply, on a drive the motor runs hotter."
            return d.doubt("Uses the service factor", words, ratio=ratio, plate=plate)
        words += ", for as long as it likes."
        return d.bad("Does not protect the motor", words, ratio=ratio, plate=plate)
    if ratio < practice.drive.LIMIT_UNDER:
        words = "{value} is {ratio} of the plate's {plate}: it may not reach full speed."
        return d.doubt("Holds the motor back", words, ratio=ratio, plate=plate)
    return d.fine("Protects the motor", "{value} of {plate} on the plate.", plate=plate)


@judged("limits.minimum_speed")
def judge_lowest_speed(d: Deviation) -> Effect | None:
    """Also of the controller's low limit, which is the lowest speed in automatic."""
    line, derived = d.line, d.derived
    usual = given("practice_minimum", line.application.lowest, "frequency", line.application.lowest_why)
    top = d.known(lambda: highest_in_force(line, derived))
    if top is not None and d.number >= top:
        return d.bad("Above the highest speed", "{value}, the highest speed is {top}.", top=top)
    if "submersible" in line.traits and d.number * NEAR < usual:
        words = "{value}: the thrust bearing has no film below {usual}."
        return d.bad("Under the bearing's limit", words, usual=usual)
    rules = d.known(lambda: derived.low_limit) if "rests" in line.traits else None
    for cooled in (lambda: derived.cooling_frequency, lambda: torque_frequency(derived)):
        least = d.known(cooled)
        if rules is not None and least is not None and least <= rules * NEAR:
            continue  # in automatic the controller's low limit holds it above that
        if least is not None and d.number * NEAR < least:
            return d.bad("The motor is not cooled", "{value}: it is cooled above {least}.", least=least)
    hold = d.known(lambda: derived.hold_frequency) if "pump" in line.traits else None
    if hold is not None and d.number * NEAR < hold:
        words = "{value}: below {hold} no water moves and the pump heats what is in it."
        return d.doubt("It may churn", words, hold=hold)
    if d.number * NEAR < usual:
        return d.doubt("Lower than practice", "{value}; " + line.application.lowest_why + ".")
    return d.fine("It never runs slower", "{value}; {proposed} would do.") if d.number > d.wanted else None


@judged("limits.maximum_speed")
def _highest_speed(d: Deviation) -> Effect | None:
    line, derived = d.line, d.derived
    low = d.known(lambda: lowest_in_force(line, derived))
    if low is not None and d.number <= low:
        return d.bad("Under the lowest speed", "{value}, the lowest speed is {low}.", low=low)
    reasons = highest_reasons(line, derived)
    for reason in reasons[1:]:
        if d.number > reason.figure * NEAR:
            return d.bad("Too fast", f"{{value}}: at {{limit}}, {reason.words}.", limit=reason.figure)
    base = reasons[0].figure
    if d.number > base * NEAR:
        return d.doubt("Above base frequency", "{value}: above {base} shaft power grows with the cube.", base=base)
    return d.fine("It never runs faster", "{value}; the machine could take {proposed}.")


@judged("ramps.up")
def _ramp_up(d: Deviation) -> Effect | None:
    if too_slow := _through_the_film(d):
        return too_slow
    least = d.known(lambda: run_up_time(d.line, d.derived))
    if least is not None and d.number * NEAR < least:
        return d.doubt("Current limit reached", "{value}; the inertia asks for {least}.", least=least)
    return d.fine("Time enough", "{value}; {proposed} is proposed.")


def _through_the_film(d: Deviation) -> Effect | None:
    """A submersible must be through what its thrust bearing does not stand within a second."""
    if "submersible" not in d.line.traits or d.line.told("ramps.initial_to_minimum") is not None:
        return None
    lowest = given("practice_minimum", d.line.application.lowest, "frequency", d.line.application.lowest_why)
    takes = given("time_to_lowest", d.number * share_of(lowest, d.line.motor.rated_frequency), "time", "of the ramp")
    if takes <= practice.pump.INITIAL_RAMP * NEAR:
        return None
    words = "{value} takes {takes} to {lowest}; the bearing stands {most}. Set a first ramp to the lowest speed."
    return d.bad("Too slow through the bearing's film", words, takes=takes, lowest=lowest,
                most=practice.pump.INITIAL_RAMP)  # fmt: skip


@judged("ramps.down")
def _ramp_down(d: Deviation) -> Effect | None:
    surge = d.known(lambda: surge_ramp(d.line, d.derived))
    if surge is not None and d.number * NEAR < surge:
        return d.doubt("Water hammer", "{value}; the pipeline asks for {surge}.", surge=surge)
    least = d.known(lambda: run_down_time(d.line, d.derived))
    if least is not None and d.number * NEAR < least:
        return d.doubt("Overvoltage", "{value}; the energy of the inertia needs {least} to go.", least=least)
    return _through_the_film(d) or d.fine("Time enough", "{value}; {proposed} is proposed.")


@judged("ramps.initial_to_minimum")
def _initial_ramp(d: Deviation) -> Effect | None:
    if d.number > practice.pump.INITIAL_RAMP * NEAR:
        return d.bad("Too slow through the bearing's film", "{value}; the bearing stands {proposed}.")
    return None


@judged("stop.mode")
def _way(d: Deviation) -> Effect | None:
    if d.value == "coast":
        return d.doubt("The check valve may slam", "It stops at once: look and listen at the valve.")
    down = d.line.told("ramps.down", "time", "Ramp down")
    least = d.known(lambda: run_down_time(d.line, d.derived))
    if least is None or not isinstance(down, Figure) or down * NEAR >= least:
        return None
    return d.doubt(
        "Overvoltage", "It brakes in {down}; the energy of the inertia needs {least}.", down=down, least=least
    )


@judged("carrier.frequency")
def _carrier(d: Deviation) -> Effect | None:
    drive, motor = d.known(lambda: d.derived.drive_amps), d.known(lambda: d.derived.motor_amps)
    if d.number > practice.drive.RATED_CARRIER and drive is not None and motor is not None and drive < motor:
        words = "{value}: the drive then gives {drive}, the motor draws {motor}."
        return d.bad("The drive gives too few amps", words, drive=drive, motor=motor)
    lead = d.line.value("drive.lead_length")
    if lead is not None and d.number > d.wanted * NEAR and lead > d.line.own(practice.drive.LEAD_PLAIN):
        return d.doubt("Hard on a long lead", "{value} on {lead} of motor lead.", lead=d.line.drive.lead_length)
    return None
