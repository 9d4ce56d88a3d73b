"""Motor – machine: shaft power, and at run-out."""

from mainspring.core.checks.finding import Verdict, caution, check, clear, stop
from mainspring.core.derived import FULL_SPEED, Derived
from mainspring.core.hydraulics.power import pump_shaft_power
from mainspring.core.hydraulics.pump_curve import pump_efficiency
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, given
from mainspring.core.ratios import share_of
from mainspring.core.sentence import say

_PUMP = ("motor.rated_power", "machine.duty_flow", "machine.duty_head", "machine.best_flow", "machine.best_efficiency")


@check(place="motor-machine", about="shaft power at the duty point", needs=_PUMP, source=DERIVED)
def motor_drives_pump(line: Line, derived: Derived) -> Verdict:
    """Shaft power at the plate's duty point against the motor."""
    machine, rated = line.machine, line.motor.rated_power
    eta = pump_efficiency(machine.duty_flow, FULL_SPEED, machine.best_flow, machine.best_efficiency)
    power = pump_shaft_power(machine.duty_flow, machine.duty_head, eta)
    numbers = {"power": power, "rated": rated, "load": share_of(power, rated)}
    if power > rated * 1.0001:
        return stop(
            "Pump needs more than the motor gives",
            say("{power} at the duty point, the motor is rated {rated}.", **numbers),
            say("Check flow, head and efficiency of the pump; on a drive a service factor does not count."),
        )
    if power < 0.4 * rated:
        return caution(
            "Motor much too large for this duty",
            say("{power} of {rated}: {load} load.", **numbers),
            say("Check the pump's plate for a wrong unit. If right, the motor will run below its best efficiency."),
        )
    return clear("Motor drives the pump", say("{power} at the duty point, {load} of {rated}.", **numbers))


@check(
    place="motor-machine",
    about="whether the pump overloads the motor when it runs out",
    needs=("motor.rated_power", "motor.rated_speed", "machine.best_flow", "machine.best_efficiency"),
    source=COMMON_PRACTICE,
)
def run_out_within_motor(line: Line, derived: Derived) -> Verdict:
    """Largest shaft power over the curve at full speed up to 1.4 times best flow."""
    best = derived.best_flow
    highest = max(
        (
            derived.shaft_power(flow, head, FULL_SPEED)
            for share in (0.6, 0.8, 1.0, 1.2, 1.3, 1.4)
            if (head := derived.head_at(flow := given("flow", share * best, "flow"), FULL_SPEED)) > 0
        ),
    )
    rated = line.motor.rated_power
    numbers = {"highest": highest, "rated": rated}
    if highest > rated * 1.0001:
        return caution(
            "Pump can overload the motor at run-out",
            say("Up to {highest} with little back-pressure, the motor is rated {rated}.", **numbers),
            say("Never fill an empty line at full speed; let the current limit or a lower maximum speed protect it."),
        )
    return clear("No overload at run-out", say("At most {highest} along the curve, rated {rated}.", **numbers))
