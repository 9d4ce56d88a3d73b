"""Reference, feedback, controller and rest at no demand."""

from typing import Any

from mainspring.core import practice
from mainspring.core.benches.process import gains_from_model
from mainspring.core.control.sleep import sleep_frequency, sleep_low_limit
from mainspring.core.derived import Derived
from mainspring.core.held import action_words, check_direction, rises_with_speed
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Figure, Source, as_figure, given
from mainspring.core.ratios import share_of
from mainspring.core.sentence import say
from mainspring.core.settings import held
from mainspring.core.settings.does import doubt, fine
from mainspring.core.settings.effect import NEAR, Deviation, Effect, judged
from mainspring.core.settings.limits import judge_lowest_speed
from mainspring.core.settings.setting import Planned, fixed, setting

_RESTS = ("rests",)
_LOOP = ("loop",)


@setting(
    "reference.source",
    "Speed reference",
    choices={
        "pid": "Controller in the drive",
        "analogue": "Analogue input",
        "potentiometer": "Potentiometer",
        "presets": "Preset speeds",
        "keypad": "Keypad",
        "bus": "Bus",
    },
    wrong="Runs at lowest speed.",
    means="Where the wanted speed comes from.",
    also="speed source; reference source; frequency source; sollwertquelle; reference 1; speed from; set source",
    does={
        "pid": doubt("Its own controller sets the speed", "The speed from “{proposed}” is not followed."),
        "analogue": doubt("The analogue input sets the speed", "With nothing wired there it runs at its lowest speed."),
        "potentiometer": doubt("A potentiometer sets the speed", "It stays where somebody turned it to."),
        "presets": doubt("Contacts set the speed", "With no contact made it runs at its lowest speed, or stands."),
        "keypad": doubt(
            "The keypad sets the speed", "It stays at the speed last keyed, whatever is asked from outside."
        ),
        "bus": doubt("The link sets the speed", "Without orders over the link it runs at its lowest speed, or stands."),
    },
)
def reference_source(line: Line, derived: Derived) -> Planned:
    """The drive's own controller where the line holds something, an analogue reference otherwise."""
    _ = line.application
    held = line.held
    told = line.value("control.speed_from")
    if told is not None:
        return fixed({"own": "pid", "link": "bus"}.get(told, told), "As it takes its orders.", DERIVED)
    if held is not None and held.id != "reference":
        return fixed("pid", f"The drive holds the {held.noun} itself.")
    return fixed("analogue", "Speed comes from outside.")


@setting(
    "reference.signal",
    "Reference signal",
    choices={
        "0-10V": "0–10 V",
        "2-10V": "2–10 V",
        "4-20mA": "4–20 mA",
        "0-20mA": "0–20 mA",
        "10-0V": "10–0 V",
        "20-4mA": "20–4 mA",
    },
    wrong="Offset at zero.",
    only=("holds:reference",),
    means="What signal carries the wanted speed.",
    also="reference signal; analogue input 1; ai1 type; speed signal; sollwertsignal",
)
def reference_signal(line: Line, derived: Derived) -> Planned:
    """From the controller; a 2–10 V signal on an unscaled input reads 12 Hz at its zero."""
    if line.control.has("speed_signal"):
        return fixed(line.control.speed_signal, "As the controller sends it.", DERIVED)
    return fixed("0-10V", "Usual of controllers; a live zero (2–10 V, 4–20 mA) tells a broken wire.")


def _reference_end(end: str, label: str, why: str, **more: Any) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        rated = line.motor.rated_frequency
        at_zero = given("reference_zero", 0.0, "frequency", "the signal's zero; the lowest speed holds all the same")
        return Planned(at_zero if end == "low" else rated, say(why), COMMON_PRACTICE)

    only, wrong = ("holds:reference",), "Wrong span of the speed signal."
    setting(f"reference.{end}", label, dimension="frequency", wrong=wrong, only=only, **more)(plan)


_reference_end(
    "low",
    "Speed at the signal's low end",
    "Nothing: the lowest speed in force holds below it.",
    means="Speed at the low end of that signal.",
    also="reference low; low reference; min reference; speed at zero; sollwert minimum",
    between=(0, 400),
    below=doubt("Starts lower", "{value} at the signal's low end: all speeds between are lower than meant."),
    above=doubt("Starts higher", "{value} at the signal's low end: all speeds between are higher than meant."),
)
_reference_end(
    "high",
    "Speed at the signal's high end",
    "Full speed: half a signal is half the speed.",
    means="Speed at its high end.",
    also="reference high; high reference; max reference; speed at full; sollwert maximum",
    between=(5, 600),
    below=doubt("Ends lower", "{value} at the full signal: it never gets the speed asked for."),
    above=doubt("Ends higher", "{value} at the full signal: it runs faster than asked for."),
)


@setting(
    "reference.loss_action",
    "When the reference is lost",
    choices={"stop": "Stop", "last": "Last speed", "minimum": "Lowest speed"},
    wrong="Runaway, or stop.",
    means="What it does without its speed signal.",
    also="live zero; signal loss; reference loss; 4 ma loss; sollwertausfall; timeout function",
    does={
        "stop": doubt("Stops without its signal", "A broken wire stops it; the process wants “{proposed}”."),
        "last": doubt(
            "Runs on without its signal", "A broken wire leaves it at the last speed, and nobody can slow it."
        ),
        "minimum": doubt("Runs slowly without its signal", "A broken wire takes it to its lowest speed, unseen."),
    },
)
def reference_loss(line: Line, derived: Derived) -> Planned:
    """Stop is safe for a pump; a fan that clears the air keeps its last speed; the process may ask otherwise."""
    told = line.value("control.signal_lost")
    if told is not None:
        return fixed(told, "As the process asks.", DERIVED)
    if line.value("line.application") in ("return_fan", "tower_fan"):
        return fixed("last", "It carries heat or foul air away: keep the last speed and raise the alarm.")
    return fixed("stop", "Stop and alarm, unless the process needs a speed.")


@setting(
    "feedback.signal",
    "Feedback signal",
    choices={"4-20mA": "4–20 mA", "0-10V": "0–10 V", "2-10V": "2–10 V"},
    wrong="Reads half, or nothing.",
    only=_LOOP,
    means="What signal the sensor gives.",
    also="sensor signal; feedback type; analogue input 2; ai2 type; transducer type; istwertsignal",
)
def feedback_signal(line: Line, derived: Derived) -> Planned:
    """From the sensor's label."""
    return fixed(line.sensor.signal, "From the sensor's label; the input switch must agree.", DERIVED)


for _kind in held.KINDS:
    held.range_and_setpoint(_kind)


@setting(
    "feedback.loss_action",
    "When the feedback is lost",
    choices={"stop": "Stop and alarm", "last": "Last speed and alarm"},
    wrong="Full speed, burst.",
    only=_LOOP,
    means="What it does without its sensor.",
    also="feedback loss; sensor lost; istwertausfall; transducer fault; feedback fault",
    does={
        "stop": doubt("Stops without its sensor", "A broken wire stops what must not stop unseen."),
        "last": doubt(
            "Runs on without its sensor", "At the last speed with every valve shut it may burst the weakest part."
        ),
    },
)
def feedback_loss(line: Line, derived: Derived) -> Planned:
    """A lost signal reads low and would drive a rising loop to full speed; foul air must still be carried away."""
    if line.value("line.application") in ("return_fan", "tower_fan", "wet_well"):
        return fixed("last", "It must not stop unseen: keep the last speed, raise the alarm.")
    return fixed("stop", "A broken wire reads low and would drive to full speed.")


@setting(
    "pid.action",
    "Direction of action",
    choices={"falls_faster": "Falls → faster", "rises_faster": "Rises → faster"},
    wrong="Runs to full speed, or stops.",
    only=_LOOP,
    means="Whether it runs faster when the reading falls or when it rises.",
    also="sense; response; direct; inverse; normal; reverse; pid inversion; error inversion; regelsinn; "
    "control direction",
)
def action(line: Line, derived: Derived) -> Planned:
    """From what running faster does to the held quantity."""
    _ = line.application
    check_direction(line)
    rises = rises_with_speed(line)
    moves = "raises" if rises else "lowers"
    held = line.held
    assert held is not None
    return fixed("falls_faster" if rises else "rises_faster", f"{action_words(line)}: more speed {moves} it.", DERIVED)


_SIMC = Source(
    "Skogestad, J. Process Control 13 (2003)", "SIMC rule on the model of this line, from memory", "handbook"
)


@setting(
    "pid.gain",
    "Gain",
    dimension="gain",
    wrong="Hunting, or sluggish.",
    only=_LOOP,
    means="How hard the controller answers an error.",
    also="proportional; gain; p gain; kp; p-verstärkung; pid proportional",
    between=(0, 1000),
    field="control.gain",
)
def gain(line: Line, derived: Derived) -> Planned:
    """By the SIMC rule from the modelled process, unless tried on the bench."""
    if line.control.has("gain"):
        return Planned(line.control.gain, say("As tried on the loop bench."), DERIVED)
    if "rests" not in line.traits:
        start = _starting_gain(line)
        return Planned(start, say("To begin with: change one thing at a time, from a step test."), COMMON_PRACTICE)
    gains = gains_from_model(line, derived)
    return Planned(as_figure(gains.gain), say("From the model of this line, closed loop three dead times."), _SIMC)


def _starting_gain(line: Line) -> Figure:
    """As the house has it, else by what is held: temperature is read on a wide range and moves little by a hertz."""
    house = line.own(practice.loop.STARTING_GAIN)
    if "holds:temperature" in line.traits and house is practice.loop.STARTING_GAIN:
        return practice.loop.STARTING_GAIN_TEMPERATURE
    return house


@setting(
    "pid.integral_time",
    "Integral time",
    dimension="time",
    wrong="Hunting, or sluggish.",
    only=_LOOP,
    means="In how much time it repeats that answer.",
    also="integral; reset time; ti; i time; nachstellzeit; integration time",
    between=(0, 36000),
    field="control.integral_time",
)
def integral_time(line: Line, derived: Derived) -> Planned:
    """By the SIMC rule from the modelled process, unless tried on the bench."""
    if line.control.has("integral_time"):
        return Planned(line.control.integral_time, say("As tried on the loop bench."), DERIVED)
    if "rests" not in line.traits:
        assert line.held is not None  # a line with a loop holds something, and one that holds a pressure rests
        start = practice.loop.INTEGRAL_TIME[line.held.id]
        return Planned(start, say("To begin with, by how slow the plant is; then from a step test."), COMMON_PRACTICE)
    gains = gains_from_model(line, derived)
    return Planned(as_figure(gains.integral_time), say("From the model of this line."), _SIMC)


def _entered_or(line: Line, name: str, derived: Figure, why: str, **figures: Figure) -> Planned:
    if line.control.has(name):
        return Planned(getattr(line.control, name), say("As tried on the loop bench, or found by hand."), DERIVED)
    return Planned(derived, say(why, **figures), COMMON_PRACTICE)


@setting(
    "pid.output_low",
    "Controller low limit",
    dimension="frequency",
    wrong="Does not sleep.",
    only=_RESTS,
    means="The slowest that the controller asks for.",
    also="loop floor; output lowest; pid low limit; output minimum; pid output limit",
    between=(0, 400),
    field="control.low_limit",
)
def output_low(line: Line, derived: Derived) -> Planned:
    """Above the hold frequency; less far above it where the curve is flat."""
    wanted, above = derived.low_limit_wanted, line.own(practice.loop.LOW_LIMIT_ABOVE)
    usual = sleep_low_limit(derived.hold_frequency, above)
    if wanted < usual:
        return _entered_or(
            line,
            "low_limit",
            wanted,
            "Half-way from {hold}, which holds at no demand, to {small}, which carries {share} of the duty flow: the"
            " curve is flat, and the usual {above} above would carry more.",
            hold=derived.hold_frequency,
            small=derived.flat_curve(derived.hold_frequency) or wanted,
            share=practice.loop.SLEEP_MOST,
            above=above,
        )
    return _entered_or(line, "low_limit", wanted, "{above} above the frequency that holds at no demand.", above=above)


@setting(
    "sleep.frequency",
    "Sleep below",
    dimension="frequency",
    wrong="Never sleeps, or too soon.",
    only=_RESTS,
    means="Below which speed it goes to rest.",
    also="rest below; idle speed; sleep frequency; sleep level; sleep speed; schlaffrequenz",
    between=(0, 400),
    field="control.sleep_below",
)
def sleep_below(line: Line, derived: Derived) -> Planned:
    """Above the low limit; not where a small demand is carried; off where no tank keeps the pressure."""
    wanted, above = derived.sleep_wanted, line.own(practice.loop.SLEEP_ABOVE)
    if wanted <= 0:
        words = "Off: no tank keeps the pressure while it sleeps, it would start and stop. It stops at lowest flow."
        return _entered_or(line, "sleep_below", wanted, words)
    by_limit, floor = derived.sleep_above_low_limit, derived.rest_floor
    if floor > derived.low_limit:
        return _entered_or(
            line,
            "sleep_below",
            wanted,
            "{above} above {floor}, the slowest it may run; above the low limit alone it would be {by_limit}.",
            above=above,
            floor=floor,
            by_limit=by_limit,
        )
    if by_limit < sleep_frequency(derived.low_limit, above):
        return _entered_or(
            line,
            "sleep_below",
            wanted,
            "{small} carries {share} of the duty flow: the curve is flat, and the usual {above} above the low limit"
            " would sleep while somebody draws.",
            small=derived.flat_curve(derived.hold_frequency) or wanted,
            share=practice.loop.SLEEP_MOST,
            above=above,
        )
    return _entered_or(line, "sleep_below", wanted, "{above} above the low limit.", above=above)


@setting(
    "sleep.delay",
    "Sleep delay",
    dimension="time",
    wrong="Short cycles.",
    only=_RESTS,
    means="How long it stays below before it rests.",
    also="rest after; idle wait; sleep delay; sleep time; schlafverzögerung",
    between=(0, 36000),
    field="control.sleep_delay",
    below=doubt("Sleeps too soon", "{value}: it may sleep in a pause of a moment, and start again at once."),
    above=fine("Sleeps later", "{value}: it runs that much longer against shut valves."),
)
def sleep_delay(line: Line, derived: Derived) -> Planned:
    """As the house has it."""
    usual = line.own(practice.loop.SLEEP_DELAY)
    return _entered_or(line, "sleep_delay", usual, "{usual} is usual.", usual=usual)


@setting(
    "sleep.boost",
    "Boost before sleep",
    dimension="pressure",
    wrong="Wakes on leaks.",
    only=_RESTS,
    means="How much it raises the pressure before it rests.",
    also="top-up; idle lift; boost; sleep boost; setpoint boost; schlafboost",
    between=(0, 1e7),
    field="control.boost",
    below=doubt("Less in the tank", "{value}: small leaks wake it sooner."),
    above=doubt("More before it sleeps", "{value} more than is held: see that the weakest part stands it."),
)
def boost(line: Line, derived: Derived) -> Planned:
    """As the house has it."""
    usual = line.own(practice.loop.BOOST)
    return _entered_or(line, "boost", usual, "Fills the tank so that a small leak does not wake it.")


@setting(
    "sleep.wake_level",
    "Wake at",
    dimension="pressure",
    wrong="Cycling, dips.",
    only=_RESTS,
    means="At which pressure it starts again.",
    also="rise at; idle end; wake; wake-up; restart level; aufwachpegel; wake-up level",
    between=(0, 1e8),
    leads=True,
)
def wake_level(line: Line, derived: Derived) -> Planned:
    """A share of the range below the setpoint."""
    return Planned(derived.wake_at, say("Setpoint less the wake drop of the sensor's range."), COMMON_PRACTICE)


# what a value does


@judged("feedback.signal", "reference.signal")
def _signal(d: Deviation) -> Effect:
    return d.bad("Reads another signal", "{value} in the drive, {proposed} comes in.")


@judged("pid.action")
def _action(d: Deviation) -> Effect:
    return d.bad("Runs away", "The wrong way round it drives to full speed, or stops.")


@judged("pid.gain", "pid.integral_time")
def _tuning(d: Deviation) -> Effect | None:
    ratio = share_of(d.number, d.wanted)
    fast = ratio > 3 if d.setting.id == "pid.gain" else ratio < 1 / 3
    if fast:
        return d.doubt("May hunt", "{value}; {proposed} by the model.")
    return None if 1 / 3 <= ratio <= 3 else d.doubt("Sluggish", "{value}; {proposed} by the model.")


@judged("pid.output_low")
def _low_limit(d: Deviation) -> Effect | None:
    if "submersible" in d.line.traits and d.number * NEAR < d.line.application.lowest:
        return judge_lowest_speed(d)
    hold = d.known(lambda: d.derived.hold_frequency)
    if hold is not None and d.number <= hold:
        return d.doubt(
            "It will not rest", "{value} does not creep above the setpoint: {hold} only holds it.", hold=hold
        )
    return None


@judged("sleep.frequency")
def _sleep(d: Deviation) -> Effect | None:
    low = d.known(lambda: d.derived.low_limit)
    if d.number <= 0:
        return d.doubt("It does not sleep", "Off: at no demand it runs on against shut valves.")
    if d.wanted <= 0:
        words = "{value}: no tank keeps the pressure while it sleeps, it may start and stop all the time."
        return d.doubt("Sleeps without a tank", words)
    if low is not None and d.number <= low:
        return d.doubt("It can never sleep", "{value}, and it never runs below {low}.", low=low)
    if d.number > d.wanted + 5:
        return d.doubt("Sleeps while somebody draws", "{value}; {proposed} is enough.")
    return None


@judged("sleep.wake_level")
def _wake(d: Deviation) -> Effect | None:
    held, air = d.line.value("control.setpoint"), d.line.value("system.tank_precharge")
    if held is not None and d.number >= held:
        return d.doubt("Starts at once again", "{value}, the setpoint is {held}.", held=d.line.control.setpoint)
    if air is not None and d.number <= air:
        words = "{value}, the tank's air has {air}: it gives no water before the drive wakes."
        return d.doubt("Wakes on an empty tank", words, air=d.line.system.tank_precharge)
    return None
