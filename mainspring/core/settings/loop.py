"""Reference, feedback, controller and rest at no demand."""

from mainspring.core import practice
from mainspring.core.benches.process import gains_from_model
from mainspring.core.control.sleep import sleep_frequency, sleep_low_limit
from mainspring.core.derived import Derived
from mainspring.core.held import action_words, check_direction, rises_with_speed
from mainspring.core.line import Line
from mainspring.core.line.applications import HELD
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Figure, Source, as_figure, given
from mainspring.core.sentence import say
from mainspring.core.settings.setting import Planned, fixed, plate, setting

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
)
def reference_signal(line: Line, derived: Derived) -> Planned:
    """From the controller; a 2–10 V signal on an unscaled input reads 12 Hz at its zero."""
    if line.control.has("speed_signal"):
        return fixed(line.control.speed_signal, "As the controller sends it.", DERIVED)
    return fixed("0-10V", "Usual of controllers; a live zero (2–10 V, 4–20 mA) tells a broken wire.")


def _reference_end(end: str, label: str, why: str) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        rated = line.motor.rated_frequency
        at_zero = given("reference_zero", 0.0, "frequency", "the signal's zero; the lowest speed holds all the same")
        return Planned(at_zero if end == "low" else rated, say(why), COMMON_PRACTICE)

    only, wrong = ("holds:reference",), "Wrong span of the speed signal."
    setting(f"reference.{end}", label, dimension="frequency", wrong=wrong, only=only)(plan)


_reference_end("low", "Speed at the signal's low end", "Nothing: the lowest speed in force holds below it.")
_reference_end("high", "Speed at the signal's high end", "Full speed: half a signal is half the speed.")


@setting(
    "reference.loss_action",
    "When the reference is lost",
    choices={"stop": "Stop", "last": "Last speed", "minimum": "Lowest speed"},
    wrong="Runaway, or stop.",
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
)
def feedback_signal(line: Line, derived: Derived) -> Planned:
    """From the sensor's label."""
    return fixed(line.sensor.signal, "From the sensor's label; the input switch must agree.", DERIVED)


def _of_held(kind: str, prefix: str) -> None:
    """Range and setpoint of one kind of held quantity: its unit differs, so each has settings of its own."""
    held, only = HELD[kind], _WHEN[kind]

    def low(line: Line, derived: Derived) -> Planned:
        return plate(line.figure(held.range_low), "From the label on the sensor.")

    def high(line: Line, derived: Derived) -> Planned:
        return plate(line.figure(held.range_high), "From the label on the sensor, not from the box.")

    def wanted(line: Line, derived: Derived) -> Planned:
        return plate(line.figure(held.setpoint), "What is wanted at the sensor.")

    dimension, wrong = held.dimension, "Setpoint wrong by the ratio."
    setting(f"feedback.{prefix}range_low", "Feedback at the low end", dimension=dimension, wrong=wrong, only=only)(low)
    setting(f"feedback.{prefix}range_high", "Feedback at the high end", dimension=dimension, wrong=wrong, only=only)(
        high
    )
    setting(f"pid.{prefix}setpoint_1", "Setpoint", dimension=dimension, wrong="Comfort, burst.", only=only)(wanted)


_WHEN = {
    "pressure": ("holds:pressure", "holds:differential"),
    "duct": ("holds:duct",),
    "level": ("holds:level",),
    "temperature": ("holds:temperature",),
    "flow": ("holds:flow",),
}
for _kind in _WHEN:
    _of_held(_kind, "" if _kind == "pressure" else f"{_kind}_")


@setting(
    "feedback.loss_action",
    "When the feedback is lost",
    choices={"stop": "Stop and alarm", "last": "Last speed and alarm"},
    wrong="Full speed, burst.",
    only=_LOOP,
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


@setting("pid.gain", "Gain", dimension="gain", wrong="Hunting, or sluggish.", only=_LOOP)
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


@setting("pid.integral_time", "Integral time", dimension="time", wrong="Hunting, or sluggish.", only=_LOOP)
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


@setting("pid.output_low", "Controller low limit", dimension="frequency", wrong="Does not sleep.", only=_RESTS)
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


@setting("sleep.frequency", "Sleep below", dimension="frequency", wrong="Never sleeps, or too soon.", only=_RESTS)
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


@setting("sleep.delay", "Sleep delay", dimension="time", wrong="Short cycles.", only=_RESTS)
def sleep_delay(line: Line, derived: Derived) -> Planned:
    """As the house has it."""
    usual = line.own(practice.loop.SLEEP_DELAY)
    return _entered_or(line, "sleep_delay", usual, "{usual} is usual.", usual=usual)


@setting("sleep.boost", "Boost before sleep", dimension="pressure", wrong="Wakes on leaks.", only=_RESTS)
def boost(line: Line, derived: Derived) -> Planned:
    """As the house has it."""
    usual = line.own(practice.loop.BOOST)
    return _entered_or(line, "boost", usual, "Fills the tank so that a small leak does not wake it.")


@setting("sleep.wake_level", "Wake at", dimension="pressure", wrong="Cycling, dips.", only=_RESTS)
def wake_level(line: Line, derived: Derived) -> Planned:
    """A share of the range below the setpoint."""
    return Planned(derived.wake_at, say("Setpoint less the wake drop of the sensor's range."), COMMON_PRACTICE)
