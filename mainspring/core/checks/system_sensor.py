"""System – sensor: range, place, and the proof of the range."""

from mainspring.core.checks.finding import Fix, Verdict, caution, check, clear, stop
from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, given
from mainspring.core.sentence import say
from mainspring.core.signal.loop import implied_span, percent_of_span, signal_of_pressure

STANDARD_RANGES = (1e5, 1.6e5, 2.5e5, 4e5, 6e5, 1e6, 1.6e6, 2.5e6, 4e6)  # Pa, the usual steps of transmitter ranges


@check(
    place="system-sensor",
    about="sensor range against box or drawing",
    needs=("sensor.range_high", "sensor.range_ordered"),
    source=COMMON_PRACTICE,
)
def label_is_what_was_ordered(line: Line, derived: Derived) -> Verdict:
    """The label on the transducer decides, not the box."""
    label, ordered = line.sensor.range_high, line.sensor.range_ordered
    if abs(label / ordered - 1) < 0.01:
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
    source=DERIVED,
)
def range_agrees_with_gauge(line: Line, derived: Derived) -> Verdict:
    """A gauge and the loop current at the same moment give the span away."""
    sensor = line.sensor
    if sensor.check_signal < 0.0036:
        return stop(
            "Broken wire",
            say("{signal} is below 3.6 mA: no live transmitter sends that.", signal=sensor.check_signal),
            say("Check polarity, supply and wire of the loop; in pressure control a lost signal drives to full speed."),
        )
    expected = signal_of_pressure(sensor.check_pressure, sensor.range_low, sensor.range_high)
    if abs(expected - sensor.check_signal) <= 0.02 * 0.016:
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
    if sensor.check_signal <= 0.0042:
        return stop(
            "Signal stands at its zero",
            say("{p} on the gauge should read {expected}, the loop shows {signal}.", **numbers),
            say("Open the sensor's isolating valve; then check the input and the transducer."),
        )
    span = implied_span(sensor.check_pressure, sensor.range_low, sensor.check_signal)
    likely = min(STANDARD_RANGES, key=lambda r: abs(r / span - 1))
    proposal = None
    if abs(likely / span - 1) < 0.06 and abs(likely - sensor.range_high) > 1:
        figure = given("likely_range", likely, "pressure", "the standard range nearest to the span found")
        proposal = Fix("sensor.range_high", likely, say("{r}?", r=figure))
    return stop(
        "Sensor range is not what was entered",
        say(
            "{p} on the gauge should read {expected} with a range to {range}; the loop shows {signal}:"
            " a span of {span}.",
            span=span,
            **numbers,
        ),
        say("Read the label again; it may be the box's range that was entered."),
        proposal,
    )


@check(
    place="system-sensor",
    about="where the setpoint lies in the sensor's range",
    needs=("control.setpoint", "sensor.range_low", "sensor.range_high"),
    source=COMMON_PRACTICE,
)
def setpoint_within_range(line: Line, derived: Derived) -> Verdict:
    """Setpoint at 50 to 80 % of span is usual; outside the range it can never be reached."""
    share = percent_of_span(line.control.setpoint, line.sensor.range_low, line.sensor.range_high)
    numbers = {"share": share, "setpoint": line.control.setpoint, "range": line.sensor.range_high}
    if not 0 < share < 1:
        return stop(
            "Setpoint outside the sensor's range",
            say("{setpoint} on a sensor to {range}: the drive would never see it.", **numbers),
            say("Check the range on the label and the unit of the setpoint."),
        )
    if share > 0.9 or share < 0.2:
        return caution(
            "Setpoint at the end of the range",
            say("{setpoint} is {share} of the range; 50 to 80 % is usual.", **numbers),
            say("Check range and units. If right, resolution or headroom will be poor."),
        )
    return clear("Setpoint fits the range", say("{setpoint} is {share} of the range.", **numbers))


@check(
    place="system-sensor",
    about="shut-off pressure against the sensor's range",
    needs=("sensor.range_high", "system.suction_pressure", "machine.duty_head", "motor.rated_speed"),
    source=COMMON_PRACTICE,
)
def range_covers_shutoff(line: Line, derived: Derived) -> Verdict | None:
    """Twice the range is what a transmitter usually stands."""
    pressure, top = derived.shutoff_pressure, line.sensor.range_high
    if pressure > 2 * top:
        return stop(
            "Shut-off pressure can destroy the sensor",
            say("{p} with everything shut, the sensor ends at {top}.", p=pressure, top=top),
            say("Take a range that covers it, or check its overload rating."),
        )
    return None
