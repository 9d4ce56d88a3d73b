"""System – sensor: range, place, and the proof of the range."""

import re

from mainspring.core import practice
from mainspring.core.checks.finding import Fix, Verdict, caution, check, clear, stop
from mainspring.core.derived import Derived
from mainspring.core.held import held_figures
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Figure, Source, assume_practice, given
from mainspring.core.sentence import in_prose, say
from mainspring.core.signal.calibration import SPAN
from mainspring.core.signal.loop import (
    implied_span,
    input_resolution,
    pressure_at_height,
    share_of_range,
    signal_of_pressure,
)

_PRESSURE = ("holds:pressure", "holds:differential")


@check(
    place="system-sensor",
    about="sensor range against box or drawing",
    needs=("sensor.range_high",),
    holds="loop",
    source=COMMON_PRACTICE,
    only=_PRESSURE,
    once=("sensor.range_ordered",),
    answers=("sensor.range_high", "sensor.range_ordered"),
)
def label_is_what_was_ordered(line: Line, derived: Derived) -> Verdict:
    """The label on the transducer decides, not the box."""
    label, ordered = line.sensor.range_high, line.sensor.range_ordered
    if abs(label / ordered - 1) < practice.sensor.LABEL_WITHIN:
        return clear("Sensor is the one ordered", say("Label and box both say {label}.", label=label))
    return stop(
        "Sensor range differs from the box",
        say(
            "The label says {label}, the box {ordered}: every pressure would be wrong by that ratio.",
            label=label,
            ordered=ordered,
        ),
        say("Read the label on the transducer itself, set the drive by it, and prove it with a gauge."),
    )


@check(
    place="system-sensor",
    about="proof of the sensor range",
    needs=("sensor.range_low", "sensor.range_high", "sensor.check_pressure", "sensor.check_signal"),
    holds="loop",
    source=DERIVED,
    only=_PRESSURE,
    answers=("sensor.range_high", "sensor.check_pressure", "sensor.check_signal"),
)
def range_agrees_with_gauge(line: Line, derived: Derived) -> Verdict:
    """A gauge and the loop current at the same moment give the span away."""
    sensor = line.sensor
    if sensor.check_signal < practice.sensor.BROKEN:
        return stop(
            "Broken wire",
            say(
                "{signal} is below {least}: no live transmitter sends that.",
                signal=sensor.check_signal,
                least=practice.sensor.BROKEN,
            ),
            say("Check polarity, supply and wire of the loop; in pressure control a lost signal drives to full speed."),
        )
    expected = signal_of_pressure(sensor.check_pressure, sensor.range_low, sensor.range_high)
    if abs(expected - sensor.check_signal) <= practice.sensor.PROOF_WITHIN * SPAN:
        return clear(
            "Range proven by the gauge",
            say(
                "{p} should read {expected}, reads {signal}.",
                p=sensor.check_pressure,
                expected=expected,
                signal=sensor.check_signal,
            ),
        )
    numbers = {
        "p": sensor.check_pressure,
        "expected": expected,
        "signal": sensor.check_signal,
        "range": sensor.range_high,
    }
    if sensor.check_signal <= practice.sensor.AT_ZERO:
        return stop(
            "Signal stands at its zero",
            say("{p} on the gauge should read {expected}, the loop shows {signal}.", **numbers),
            say("Open the sensor's isolating valve; then check the input and the transducer."),
        )
    if sensor.check_pressure <= sensor.range_low:  # which tells of no span
        return stop(
            "Signal and gauge disagree",
            say("{p} on the gauge should read {expected}, the loop shows {signal}.", **numbers),
            say("Read both again at a moment with pressure on; then check the zero of the transducer."),
        )
    span = implied_span(sensor.check_pressure, sensor.range_low, sensor.check_signal)
    likely = min(practice.sensor.STANDARD_RANGES, key=lambda r: abs(r / span - 1))
    proposal = None
    if abs(likely / span - 1) < practice.sensor.STANDARD_WITHIN and abs(likely - sensor.range_high) > 1:
        proposal = Fix("sensor.range_high", float(likely), say("{r}?", r=likely))
    return stop(
        "Sensor range is not what was entered",
        say(
            "{p} on the gauge should read {expected} with a range to {range}; the loop shows {signal}:"
            " a span of {span}.",
            span=span,
            **numbers,
        ),
        say("Read the label again; was the range on the box entered?"),
        proposal,
    )


@check(
    place="system-sensor",
    about="where the setpoint lies in the sensor's range",
    needs=("line.application",),
    holds="loop",
    source=COMMON_PRACTICE,
    only=("loop",),
    answers=("@setpoint", "@range_high"),
    meant="@setpoint",
)
def setpoint_within_range(line: Line, derived: Derived) -> Verdict:
    """Setpoint well inside the span is usual; outside the range it can never be reached."""
    setpoint, low, high = held_figures(line)
    share = share_of_range(setpoint, low, high)
    usual = practice.sensor.SETPOINT_USUAL
    numbers = {"share": share, "setpoint": setpoint, "range": high, "low": usual.low, "high": usual.high}
    if not 0 < share < 1:
        return stop(
            "Setpoint outside the sensor's range",
            say("{setpoint} on a sensor to {range}: the drive would never see it.", **numbers),
            say("Check the range on the label and the unit of the setpoint."),
        )
    if not practice.sensor.SETPOINT.holds(share):
        return caution(
            "Setpoint at the end of the range",
            say("{setpoint} is {share} of the range; {low} to {high} is usual.", **numbers),
            say("Check range and units. If right, resolution or headroom will be poor."),
        )
    if not usual.holds(share):
        words = "{setpoint} is {share} of the range; {low} to {high} is usual."
        return clear("Setpoint lies inside the range", say(words, **numbers))
    return clear("Setpoint fits the range", say("{setpoint} is {share} of the range.", **numbers))


@check(
    place="system-sensor",
    about="how finely the input tells the setpoint",
    needs=("line.application",),
    source=DERIVED,
    only=("loop",),
    answers=("@range_high", "@setpoint", "sensor.bits"),
    meant="@range_high",
)
def input_tells_finely(line: Line, derived: Derived) -> Verdict:
    """Smallest step of the input against the setpoint's distance from the low end: below half a percent."""
    setpoint, low, high = held_figures(line)
    bits = line.sensor.bits if line.sensor.has("bits") else assume_practice("sensor.bits", practice.sensor.BITS)
    step = input_resolution(low, high, bits)
    held = line.held
    assert held is not None
    numbers = {"step": Figure(step, step.origin), "bits": bits, "set": setpoint, "range": high}
    share = abs(step / (setpoint - low)) if setpoint != low else 1.0
    numbers["share"] = given("step_share", share, "percent", "one step over the setpoint")
    if share > practice.sensor.STEP:
        return caution(
            "Input is coarse at this setpoint",
            say("One step of {bits} bits is {share} of {set} on a range to {range}.", **numbers),
            say("Take a sensor with a range nearer to the setpoint."),
        )
    return clear("Input tells it finely", say("One step of {bits} bits is {share} of {set}.", **numbers))


@check(
    place="system-sensor",
    about="height of the sensor",
    needs=("sensor.height", "control.setpoint"),
    source=Source("hydrostatics: ρ·g·Δz", kind="law"),
    only=("sensor:height",),
)
def height_is_allowed_for(line: Line, derived: Derived) -> Verdict | None:
    """A gauge at another height reads another pressure than the sensor."""
    if float(line.sensor.height) == 0.0:
        return None
    height, setpoint = line.sensor.height, line.control.setpoint
    at_pump = pressure_at_height(setpoint, given("down", -float(height), "head", "down to the pump"))
    return clear(
        "Height of the sensor is allowed for",
        say(
            f"{{z}} {'above' if height > 0 else 'below'} the pump: a gauge at the pump reads {{p}} while the sensor"
            " reads {set}.",
            z=given("height", abs(height), "head", "sensor to pump"),
            p=at_pump,
            set=setpoint,
        ),
    )


# what is wrong with a sensor's place: whether it stops, why, what to do
SENSOR_PLACE: dict[str, tuple[bool, str, str]] = {
    "branch": (
        True,
        "With a branch or valve between, it does not see the pressure that the tank keeps; both schools refuse it.",
        "Move it next to the tank, before the first branch.",
    ),
    "before_tank": (
        False,
        "Between pump and tank it sees every pulse of the pump; one school refuses it outright.",
        "Best of both: just after the tank, within {near}, before the first tee.",
    ),
    "far": (
        False,
        "More than {near} from the tank the pipe between swings; one school allows it up to the first branch.",
        "Best of both: just after the tank, within {near}, before the first tee.",
    ),
    "turbulent": (
        False,
        "At an elbow or the pump it reads the swirl, not the pressure.",
        "A straight run, ten bores on.",
    ),
    "head_down": (False, "Water and dirt run into the electrical end.", "Electrical end up or level."),
    "freezes": (True, "A frozen sensor bursts, or holds an old pressure for ever.", "Heat or move it before winter."),
    "coiled": (False, "A coil picks up noise and transients.", "Cut the cable to length."),
    "beside_power": (
        False,
        "Power cables couple into the signal; 8 and 11 in are both taught, take {apart}.",
        "{apart} apart where they run together, 90° where they cross, shield earthed at the drive end only.",
    ),
}
AIR_PLACE: dict[str, tuple[bool, str, str]] = {
    "swapped": (
        True,
        "Swapped tubes read the wrong way: the fan runs to full speed.",
        "Blow at the high side: it must rise.",
    ),
    "near_fan": (
        False,
        "Near the fan it holds a pressure that the far end does not need, or misses.",
        "About two thirds down the main duct, common practice.",
    ),
    "turbulent": (
        False,
        "In turbulence it reads the stream, not the pressure.",
        "A static tip, away from elbows and dampers.",
    ),
    "kinked": (
        False,
        "A kink, a long tube or water in it damps and delays.",
        "Short, dry tubes, falling back to the duct.",
    ),
    "coiled": SENSOR_PLACE["coiled"],
    "beside_power": SENSOR_PLACE["beside_power"],
}


def _distances(line: Line) -> dict[str, Figure]:
    return {"near": line.own(practice.sensor.NEAR_TANK), "apart": line.own(practice.sensor.APART)}


def _place_check(field: str, condition: str, stops: bool, why: str, remedy: str, only: tuple[str, ...]) -> None:
    def judge(line: Line, derived: Derived) -> Verdict | None:
        if condition not in getattr(line.sensor, field):
            return None
        choices = line.sensor.fields[field].choices  # type: ignore[attr-defined]
        judged = stop if stops else caution
        title = f"Place of the sensor: {choices[condition].lower()}"
        return judged(title, say(why, **_distances(line)), say(remedy, **_distances(line)))

    judge.__name__ = f"sensor_{field}_{condition}"
    judge.__doc__ = re.sub(r"\{(\w+)\}", lambda m: in_prose(_distances(Line())[m[1]]), why)
    once, about = (f"sensor.{field}",), "the place of the sensor"
    check(
        place="system-sensor", about=about, needs=(), once=once, source=COMMON_PRACTICE, only=only,
        holds="loop" if stops else "", answers=(f"sensor.{field}",),
    )(judge)  # fmt: skip


for _name, (_stops, _why, _remedy) in SENSOR_PLACE.items():
    _place_check("place", _name, _stops, _why, _remedy, ("holds:pressure",))
for _name, (_stops, _why, _remedy) in AIR_PLACE.items():
    _place_check("air_place", _name, _stops, _why, _remedy, ("holds:duct",))


@check(
    place="system-sensor",
    about="the place of the sensor",
    needs=("sensor.place",),
    source=COMMON_PRACTICE,
    only=("holds:pressure",),
)
def sensor_sits_well(line: Line, derived: Derived) -> Verdict | None:
    """Looked at, and nothing was wrong."""
    if line.sensor.place:
        return None
    school = line.value("sensor.school")
    words = {
        None: "Just after the tank, within {near}, before the first tee: what both schools accept.",
        "near_tank": "By the school of within {near} of the tank on the same straight run.",
        "after_tank": "By the school of after the tank and before the first branch.",
    }
    return clear("Sensor sits well", say(words[school], **_distances(line)))


@check(
    place="system-sensor",
    about="the place of the sensor",
    needs=("sensor.air_place",),
    source=COMMON_PRACTICE,
    only=("holds:duct",),
)
def air_sensor_sits_well(line: Line, derived: Derived) -> Verdict | None:
    """Looked at, and nothing was wrong."""
    if line.sensor.air_place:
        return None
    return clear("Sensor sits well", say("Two thirds down the main duct, tip still, high and low tubes proven."))


@check(
    place="system-sensor",
    about="shut-off pressure against the sensor's range",
    needs=("sensor.range_high", "machine.duty_head", "motor.rated_speed"),
    holds="loop",
    source=COMMON_PRACTICE,
    only=("holds:pressure",),
    answers=("sensor.range_high", "sensor.overload"),
)
def range_covers_shutoff(line: Line, derived: Derived) -> Verdict | None:
    """Its overload pressure, or twice the range, which is what a transmitter usually stands."""
    pressure, top = derived.shutoff_pressure, line.sensor.range_high
    known = line.sensor.has("overload")
    stands = line.sensor.overload if known else practice.sensor.OVERPRESSURE * top
    if pressure > stands:
        numbers = {"p": pressure, "top": top}
        return stop(
            "Shut-off pressure can destroy the sensor",
            say("{p} with everything shut, the sensor stands {most}.", most=line.sensor.overload, **numbers)
            if known
            else say("{p} with everything shut, the sensor ends at {top}.", **numbers),
            say("Take a range that covers it, or enter the overload pressure that its sheet gives."),
        )
    return None
