"""A second setpoint, taken by a contact: judged wherever the first one is, by the same checks."""

from collections.abc import Callable

from mainspring.core.checks.finding import Severity, Verdict, caution, check, clear
from mainspring.core.checks.machine_system import (
    circulator_makes_difference,
    fan_makes_duct_pressure,
    pump_reaches_setpoint,
)
from mainspring.core.checks.system_sensor import setpoint_within_range
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED
from mainspring.core.sentence import in_sentence, say

_SECOND = ("second:pressure", "second:differential", "second:duct", "second:level", "second:temperature", "second:flow")
# checks on the setpoint, with the traits of the lines that they are for
_JUDGES: tuple[tuple[tuple[str, ...], Callable[[Line, Derived], Verdict | None]], ...] = (
    (("loop",), setpoint_within_range),
    (("rests",), pump_reaches_setpoint),
    (("holds:differential",), circulator_makes_difference),
    (("supply_fan", "fan_array"), fan_makes_duct_pressure),
)


@check(
    place="system-sensor",
    about="the second setpoint",
    needs=("line.application",),
    holds="loop",
    source=DERIVED,
    only=_SECOND,
    answers=("@second", "@range_high"),
    meant="@second",
)
def second_setpoint_works(line: Line, derived: Derived) -> Verdict | None:
    """The checks of the first setpoint on the second: in the sensor's range, and within what the machine makes."""
    second = line.at_second_setpoint()
    of_second = Derived(second)
    verdicts = [v for only, judge in _JUDGES if second.applies(only) and (v := judge(second, of_second)) is not None]
    worst = min(verdicts, key=lambda v: v.severity)
    if worst.severity >= Severity.UNKNOWN:
        return clear("Second setpoint can be held", say(worst.because.template, **worst.because.figures))
    return Verdict(
        worst.severity, f"Second setpoint: {in_sentence(worst.title)}", worst.because, worst.do
    )  # no correction at a touch: it would be one of the first


@check(
    place="motor-machine",
    about="rest at the second setpoint",
    needs=("control.setpoint", "motor.rated_frequency"),
    source=COMMON_PRACTICE,
    only=("second:pressure",),
    answers=(
        "control.setpoint_2",
        "control.low_limit",
    ),
    meant="control.setpoint_2",
)
def rests_at_second_setpoint(line: Line, derived: Derived) -> Verdict | None:
    """Low limit and sleep are one for both setpoints: at the other one it may never sleep, or creep far up."""
    if "rests" not in line.traits or derived.sleep_below <= 0:
        return None
    second = line.at_second_setpoint()
    try:
        other = Derived(second).hold_model
    except MainspringError:
        return None  # it cannot be held at all: said of the setpoint
    low, sleep, first = derived.low_limit, derived.sleep_below, derived.hold_model
    numbers = {"second": line.second_setpoint(), "other": other, "low": low, "sleep": sleep, "first": first}
    if other >= sleep:
        return caution(
            "It does not sleep at the second setpoint",
            say("{second} holds at {other}, and it sleeps below {sleep}: with its contact made it runs on.", **numbers),
            say("Rest only at the first setpoint, or give the contact a time in which somebody draws."),
        )
    if other >= low:
        return caution(
            "Sleep at the second setpoint is left to chance",
            say("{second} holds at {other}, the low limit is {low}: nothing creeps up there.", **numbers),
            say("A low limit above {other}, seen that the first setpoint does not creep too far.", **numbers),
        )
    creeps = derived.creeps_to
    if other < first and creeps > numbers["second"] * (1 + CREEP):
        return caution(
            "It creeps far above the second setpoint",
            say("The low limit {low} builds up {creeps} at no demand, {second} is wanted.", creeps=creeps, **numbers),
            say("See that what hangs on the second setpoint stands that, or sleep by the lower one."),
        )
    return clear("It rests at both setpoints", say("{second} holds at {other}, the low limit is {low}.", **numbers))


CREEP = 0.2  # of the setpoint, over it, that is said
