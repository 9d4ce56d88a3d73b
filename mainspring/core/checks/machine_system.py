"""Machine – system: can the pump do what is wanted, and can it rest."""

from mainspring.core.checks.finding import Verdict, caution, check, clear, stop
from mainspring.core.derived import FULL_SPEED, Derived
from mainspring.core.hydraulics.pump_curve import share_of_best_flow
from mainspring.core.hydraulics.tank import precharge_below_setpoint, precharge_share_of_setpoint
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Source, as_figure, given
from mainspring.core.sentence import say


@check(
    place="machine-system",
    about="whether the pump reaches the setpoint",
    needs=(
        "control.setpoint",
        "system.suction_pressure",
        "machine.duty_flow",
        "machine.duty_head",
        "motor.rated_speed",
    ),
    source=DERIVED,
    only=("booster",),
)
def pump_reaches_setpoint(line: Line, derived: Derived) -> Verdict:
    """Head at duty flow and at shut-off against the head that the setpoint needs."""
    wanted, shutoff = derived.setpoint_head, as_figure(derived.curve.c0)
    at_duty = derived.head_at(line.machine.duty_flow, FULL_SPEED)
    numbers = {"wanted": wanted, "shutoff": shutoff, "at_duty": at_duty, "flow": line.machine.duty_flow}
    if shutoff <= wanted:
        return stop(
            "Pump can never reach the setpoint",
            say("{wanted} of head wanted, {shutoff} at no flow and full speed.", **numbers),
            say("Check setpoint, inlet pressure and pump; the drive would stay at full speed for ever."),
        )
    if at_duty < wanted * 0.995:
        return caution(
            "Setpoint not held at full demand",
            say("At {flow} and full speed the pump makes {at_duty}, the setpoint needs {wanted}.", **numbers),
            say("Lower the setpoint, or accept that pressure falls at full demand."),
        )
    return clear(
        "Pump reaches the setpoint",
        say("{at_duty} at {flow} and {shutoff} at no flow, {wanted} needed.", **numbers),
    )


@check(
    place="machine-system",
    about="the lowest useful speed",
    needs=("machine.duty_flow", "machine.duty_head", "motor.rated_speed", "motor.rated_frequency"),
    source=DERIVED,
)
def speed_range_is_useful(line: Line, derived: Derived) -> Verdict:
    """Between the speed that moves nothing and full speed there must be room to control."""
    hold, full = derived.hold_frequency, line.motor.rated_frequency
    numbers = {"hold": hold, "full": full}
    if hold >= full:
        return stop(
            "No speed moves water against this head",
            say("{hold} would be needed only to hold it, full speed is {full}.", **numbers),
            say("Check static head or setpoint against the pump's curve."),
        )
    if hold > 0.95 * full:
        return caution(
            "Little room to control",
            say(
                "Below {hold} no water moves; full speed is {full}. Small changes of speed are large in flow.",
                **numbers,
            ),
            say("Expect a touchy loop: low gain, and check whether the pump suits this head."),
        )
    return clear("Speed range is useful", say("Water moves from {hold} up to {full}.", **numbers))


@check(
    place="machine-system",
    about="the duty point against best efficiency",
    needs=("system.static_head", "machine.best_flow", "machine.duty_flow", "machine.duty_head", "motor.rated_speed"),
    source=Source("ANSI/HI 9.6.3", "preferred operating region, from memory", "standard"),
)
def duty_near_best_efficiency(line: Line, derived: Derived) -> Verdict:
    """Full-speed duty within 70 to 120 % of best flow."""
    flow = derived.full_flow
    share = share_of_best_flow(flow, FULL_SPEED, derived.best_flow)
    numbers = {"flow": flow, "share": share, "best": derived.best_flow}
    if 0.7 <= share <= 1.2:
        return clear("Near best efficiency", say("{flow} at full speed is {share} of the best {best}.", **numbers))
    return caution(
        "Away from best efficiency",
        say("{flow} at full speed is {share} of the best {best}; preferred is 70 to 120 %.", **numbers),
        say("Expect poor efficiency and wear there; check the known point of the system and the pump's curve."),
    )


@check(
    place="machine-system",
    about="shut-off pressure against the rating",
    needs=("system.pressure_rating", "system.suction_pressure", "machine.duty_head", "motor.rated_speed"),
    source=DERIVED,
)
def shutoff_within_rating(line: Line, derived: Derived) -> Verdict:
    """Everything shut at full speed must not burst the weakest part."""
    pressure, rating = derived.shutoff_pressure, line.system.pressure_rating
    numbers = {"pressure": pressure, "rating": rating}
    if pressure > rating:
        return stop(
            "Shut-off pressure exceeds the rating",
            say("{pressure} with everything shut at full speed, the weakest part is rated {rating}.", **numbers),
            say("Fit a relief valve and limit the maximum speed, or strengthen the part, before it runs."),
        )
    return clear("Shut-off pressure is safe", say("{pressure} at most, rated {rating}.", **numbers))


@check(
    place="machine-system",
    about="how often a leak wakes the drive",
    needs=(
        "system.tank_volume",
        "system.tank_precharge",
        "system.leak",
        "control.setpoint",
        "sensor.range_high",
        "sensor.range_low",
    ),
    source=COMMON_PRACTICE,
    only=("booster",),
)
def leak_does_not_cycle(line: Line, derived: Derived) -> Verdict:
    """Tank drawdown against the smallest demand: starts per hour."""
    system = line.system
    if system.tank_precharge > derived.wake_at:
        return caution(
            "Precharge above the wake pressure",
            say(
                "{pre} in the tank, the drive wakes at {wake}: the tank gives no water.",
                pre=system.tank_precharge,
                wake=derived.wake_at,
            ),
            say(
                "Set it with the system drained: {a} (20 psi below setpoint) or {b} (70 % of setpoint).",
                a=precharge_below_setpoint(line.control.setpoint),
                b=precharge_share_of_setpoint(line.control.setpoint),
            ),
        )
    starts = derived.starts_on_leak
    allowed = (
        line.control.starts_allowed
        if line.control.has("starts_allowed")
        else given("starts_allowed", 20 / 3600, "rate", "usual for motors of this size, common practice")
    )
    numbers = {"starts": starts, "allowed": allowed, "leak": system.leak}
    if starts > allowed:
        return caution(
            "A leak wakes the drive too often",
            say("{leak} empties the tank {starts}; {allowed} are allowed.", **numbers),
            say("Find the leak, boost before sleep, or fit a larger tank."),
        )
    return clear("Rests on a small leak", say("{leak} wakes it {starts}, {allowed} allowed.", **numbers))
