"""Reference, feedback, controller and rest at no demand."""

from mainspring.core.control.process import gains_from_model
from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Figure, Source, as_figure, given
from mainspring.core.sentence import say
from mainspring.core.settings.setting import Planned, fixed, plate, setting

_BOOSTER = ("booster",)


@setting(
    "reference.source",
    "Speed reference",
    choices={"pid": "Controller in the drive", "analogue": "Analogue input", "keypad": "Keypad", "bus": "Bus"},
    wrong="Runs at lowest speed.",
)
def reference_source(line: Line, derived: Derived) -> Planned:
    """The drive's own controller for a booster, an analogue reference otherwise."""
    if line.line.application == "booster":
        return fixed("pid", "The drive holds the pressure itself.")
    return fixed("analogue", "Speed comes from outside.")


@setting(
    "reference.loss_action",
    "When the reference is lost",
    choices={"stop": "Stop", "last": "Last speed", "minimum": "Lowest speed"},
    wrong="Runaway, or stop.",
)
def reference_loss(line: Line, derived: Derived) -> Planned:
    """Stop is safe for a pump; the process may ask otherwise."""
    return fixed("stop", "Stop and alarm, unless the process needs a speed.")


@setting(
    "feedback.signal",
    "Feedback signal",
    choices={"4-20mA": "4–20 mA", "0-10V": "0–10 V", "2-10V": "2–10 V"},
    wrong="Reads half, or nothing.",
    only=_BOOSTER,
)
def feedback_signal(line: Line, derived: Derived) -> Planned:
    """From the sensor's label."""
    return fixed(line.sensor.signal, "From the sensor's label; the input switch must agree.", DERIVED)


@setting("feedback.range_low", "Feedback at 4 mA", dimension="pressure", wrong="Setpoint wrong.", only=_BOOSTER)
def range_low(line: Line, derived: Derived) -> Planned:
    """From the label."""
    return plate(line.sensor.range_low, "From the label on the transducer.")


@setting(
    "feedback.range_high",
    "Feedback at 20 mA",
    dimension="pressure",
    wrong="Setpoint wrong by the ratio.",
    only=_BOOSTER,
)
def range_high(line: Line, derived: Derived) -> Planned:
    """From the label."""
    return plate(line.sensor.range_high, "From the label on the transducer, not from the box.")


@setting(
    "feedback.loss_action",
    "When the feedback is lost",
    choices={"stop": "Stop and alarm", "last": "Last speed and alarm"},
    wrong="Full speed, burst.",
    only=_BOOSTER,
)
def feedback_loss(line: Line, derived: Derived) -> Planned:
    """A lost signal reads low and would drive to full speed."""
    return fixed("stop", "A broken wire reads low and would drive to full speed.")


@setting("pid.setpoint_1", "Setpoint", dimension="pressure", wrong="Comfort, burst.", only=_BOOSTER)
def setpoint(line: Line, derived: Derived) -> Planned:
    """What is wanted at the sensor."""
    return plate(line.control.setpoint, "What is wanted at the sensor.")


@setting(
    "pid.action",
    "Direction of action",
    choices={"falls_faster": "Falls → faster", "rises_faster": "Rises → faster"},
    wrong="Runs to full speed, or stops.",
    only=_BOOSTER,
)
def action(line: Line, derived: Derived) -> Planned:
    """Pressure falls, the drive goes faster."""
    return fixed("falls_faster", "Pressure falls → faster: more speed raises the pressure.", DERIVED)


_SIMC = Source(
    "Skogestad, J. Process Control 13 (2003)", "SIMC rule on the model of this line, from memory", "handbook"
)


@setting("pid.gain", "Gain", dimension="ratio", wrong="Hunting, or sluggish.", only=_BOOSTER)
def gain(line: Line, derived: Derived) -> Planned:
    """By the SIMC rule from the modelled process, unless tried on the bench."""
    if line.control.has("gain"):
        return Planned(line.control.gain, say("As tried on the loop bench."), DERIVED)
    gains = gains_from_model(line, derived)
    return Planned(as_figure(gains.gain), say("From the model of this line, closed loop three dead times."), _SIMC)


@setting("pid.integral_time", "Integral time", dimension="time", wrong="Hunting, or sluggish.", only=_BOOSTER)
def integral_time(line: Line, derived: Derived) -> Planned:
    """By the SIMC rule from the modelled process, unless tried on the bench."""
    if line.control.has("integral_time"):
        return Planned(line.control.integral_time, say("As tried on the loop bench."), DERIVED)
    gains = gains_from_model(line, derived)
    return Planned(as_figure(gains.integral_time), say("From the model of this line."), _SIMC)


def _entered_or(line: Line, name: str, derived: Figure, why: str) -> Planned:
    if line.control.has(name):
        return Planned(getattr(line.control, name), say("As tried on the loop bench, or found by hand."), DERIVED)
    return Planned(derived, say(why, hold=derived) if "{hold}" in why else say(why), COMMON_PRACTICE)


@setting("pid.output_low", "Controller low limit", dimension="frequency", wrong="Does not sleep.", only=_BOOSTER)
def output_low(line: Line, derived: Derived) -> Planned:
    """Hold frequency and one hertz."""
    return _entered_or(line, "low_limit", derived.low_limit, "1 Hz above the frequency that holds at no demand.")


@setting("sleep.frequency", "Sleep below", dimension="frequency", wrong="Never sleeps, or too soon.", only=_BOOSTER)
def sleep_below(line: Line, derived: Derived) -> Planned:
    """Low limit and half a hertz."""
    return _entered_or(line, "sleep_below", derived.sleep_below, "0.5 Hz above the low limit.")


@setting("sleep.delay", "Sleep delay", dimension="time", wrong="Short cycles.", only=_BOOSTER)
def sleep_delay(line: Line, derived: Derived) -> Planned:
    """Twenty seconds."""
    return _entered_or(line, "sleep_delay", given("sleep_delay", 20.0, "time", "common practice"), "20 s is usual.")


@setting("sleep.boost", "Boost before sleep", dimension="pressure", wrong="Wakes on leaks.", only=_BOOSTER)
def boost(line: Line, derived: Derived) -> Planned:
    """Three psi."""
    usual = given("boost", 20_684.27, "pressure", "3 psi, common practice")
    return _entered_or(line, "boost", usual, "Fills the tank so that a small leak does not wake it.")


@setting("sleep.wake_level", "Wake at", dimension="pressure", wrong="Cycling, dips.", only=_BOOSTER)
def wake_level(line: Line, derived: Derived) -> Planned:
    """A share of the range below the setpoint."""
    return Planned(derived.wake_at, say("Setpoint less the wake drop of the sensor's range."), COMMON_PRACTICE)
