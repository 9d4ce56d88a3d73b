"""Motor – machine: shaft power, run-out, torque and inertia, speed limits, cooling at low speed."""

from mainspring.core import practice
from mainspring.core.air.fan import fan_efficiency_at, fan_shaft_power
from mainspring.core.checks.finding import Fix, Verdict, caution, check, clear, stop
from mainspring.core.derived import FULL_SPEED, Derived
from mainspring.core.errors import MainspringError, NoSolution
from mainspring.core.hydraulics.power import pump_shaft_power
from mainspring.core.hydraulics.pump_curve import pump_efficiency
from mainspring.core.limits import (
    frequency_of_rpm,
    highest_rules,
    lowest_in_force,
    lowest_reasons,
    run_down_time,
    run_up_time,
    strictest,
    told_speed,
    torque_frequency,
    unloaded_speed,
)
from mainspring.core.line import Line
from mainspring.core.line.on_site import SAME
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Figure, Source, given
from mainspring.core.motor.cooling import (
    annulus_velocity,
    least_cooling_velocity,
    sleeve_bore,
    square_law_torque,
    torque_limit_self_ventilated,
)
from mainspring.core.ratios import multiple_of, share_of
from mainspring.core.sentence import say

_PUMP = ("motor.rated_power", "machine.duty_flow", "machine.duty_head", "machine.best_flow", "machine.best_efficiency")
_FAN = ("motor.rated_power", "machine.air_flow", "machine.air_pressure", "machine.best_efficiency")


@check(
    place="motor-machine",
    about="shaft power at the duty point",
    needs=_PUMP,
    holds="turn",
    source=DERIVED,
    only=("pump",),
    answers=("machine.duty_flow", "machine.duty_head", "motor.rated_power"),
    meant="motor.rated_power",
)
def motor_drives_pump(line: Line, derived: Derived) -> Verdict:
    """Shaft power at the plate's duty point against the motor."""
    machine, rated = line.machine, line.motor.rated_power
    eta = pump_efficiency(machine.duty_flow, FULL_SPEED, machine.best_flow, machine.best_efficiency)
    power = pump_shaft_power(machine.duty_flow, machine.duty_head, eta)
    numbers = {"power": power, "rated": rated, "load": share_of(power, rated)}
    if power > rated * practice.motor.POWER_ROUNDING:
        return stop(
            "Pump needs more than the motor gives",
            say("{power} at the duty point, the motor is rated {rated}.", **numbers),
            say("Check flow, head and efficiency of the pump; on a drive a service factor does not count."),
        )
    if power < practice.motor.LIGHT_PUMP * rated:
        return caution(
            "Motor much too large for this duty",
            say("{power} of {rated}: {load} load.", **numbers),
            say("Check the pump's plate for a wrong unit. If right, the motor will run below its best efficiency."),
        )
    return clear("Motor drives the pump", say("{power} at the duty point, {load} of {rated}.", **numbers))


@check(
    place="motor-machine",
    about="shaft power at the duty point",
    needs=_FAN,
    holds="turn",
    source=DERIVED,
    only=("fan",),
    answers=("machine.air_flow", "machine.air_pressure", "motor.rated_power"),
    meant="motor.rated_power",
)
def motor_drives_fan(line: Line, derived: Derived) -> Verdict:
    """Shaft power at the plate's duty point, in the air of this place, against the motor."""
    machine, rated = line.machine, line.motor.rated_power
    share = given("share_of_best", 1.0, "ratio", "the duty point taken as the best point")
    power = fan_shaft_power(machine.air_flow, machine.air_pressure, fan_efficiency_at(share, machine.best_efficiency))
    numbers = {"power": power, "rated": rated, "load": share_of(power, rated)}
    if power > rated * practice.motor.POWER_ROUNDING:
        return stop(
            "Fan needs more than the motor gives",
            say("{power} at the duty point, the motor is rated {rated}.", **numbers),
            say("Check flow, pressure and efficiency of the fan: static and total must not be mixed."),
        )
    if power < practice.motor.LIGHT_FAN * rated:
        return caution(
            "Motor much too large for this duty",
            say("{power} of {rated}: {load} load.", **numbers),
            say("Check the fan's plate for a wrong unit. If right, the motor will run below its best efficiency."),
        )
    return clear("Motor drives the fan", say("{power} at the duty point, {load} of {rated}.", **numbers))


@check(
    place="motor-machine",
    about="whether the pump overloads the motor when it runs out",
    needs=("motor.rated_power", "motor.rated_speed", "machine.best_flow", "machine.best_efficiency"),
    source=COMMON_PRACTICE,
    only=("pump",),
    answers=("settings.limits.maximum_speed", "drive.current_limit", "machine.best_flow"),
    meant="machine.best_flow",
)
def run_out_within_motor(line: Line, derived: Derived) -> Verdict:
    """Largest shaft power over the curve at full speed up to 1.4 times best flow, unless the drive keeps it below."""
    highest, rated = derived.run_out_power, line.motor.rated_power
    numbers = {"highest": highest, "rated": rated}
    if highest > rated * practice.motor.RUN_OUT:
        if (guarded := _run_out_guarded(line, derived)) is not None:
            return guarded
        return caution(
            "Pump can overload the motor at run-out",
            say("Up to {highest} with little back-pressure, the motor is rated {rated}.", **numbers),
            say("Never fill an empty line at full speed; let the current limit or a lower maximum speed protect it."),
        )
    return clear("No overload at run-out", say("At most {highest} along the curve, rated {rated}.", **numbers))


def _run_out_guarded(line: Line, derived: Derived) -> Verdict | None:
    """What was set in the drive so that the machine cannot overload the motor; None where nothing was."""
    rated = line.motor.rated_power
    top = told_speed(line, "limits.maximum_speed")
    if top is not None:
        highest = derived.run_out_power_at(share_of(top, line.motor.rated_frequency))
        if highest <= rated * practice.motor.RUN_OUT:
            words = "The drive goes no faster than {top}: at most {highest} there, rated {rated}."
            return clear(
                "Highest speed keeps run-out within the motor", say(words, top=top, highest=highest, rated=rated)
            )
    if line.has("drive.current_limit") and line.drive.current_limit <= derived.motor_amps * (1 + SAME):
        words = "Up to {highest} along the curve, and the drive gives no more than {limit}, the motor's {plate}."
        return clear(
            "Current limit keeps run-out within the motor",
            say(words, highest=derived.run_out_power, limit=line.drive.current_limit, plate=derived.motor_amps),
        )
    return None


def _allowed(line: Line, derived: Derived) -> Figure:
    """Frequency at which the machine turns as fast as its maker allows, unloaded."""
    fastest = derived.machine.rpm
    if "permanent_magnet" not in line.traits:
        fastest = unloaded_speed(fastest, derived.synchronous_rpm, line.motor.rated_speed)
    return frequency_of_rpm(line.machine.highest_speed, fastest, line.motor.rated_frequency)


@check(
    place="motor-machine",
    about="whether the fan overloads the motor with doors open",
    needs=("motor.rated_power", "motor.rated_speed", "machine.best_efficiency", "system.air_degc"),
    source=COMMON_PRACTICE,
    only=("fan",),
    answers=("settings.limits.maximum_speed", "drive.current_limit", "machine.best_efficiency"),
    meant="machine.best_efficiency",
)
def fan_run_out_within_motor(line: Line, derived: Derived) -> Verdict:
    """Largest shaft power along the fan's curve in the air of this place."""
    fan = derived.fan
    highest, rated = derived.run_out_power, line.motor.rated_power
    numbers = {"highest": highest, "rated": rated, "rho": fan.density}
    if highest > rated * practice.motor.RUN_OUT:
        if (guarded := _run_out_guarded(line, derived)) is not None:
            return guarded
        return caution(
            "Fan can overload the motor with the system open",
            say("Up to {highest} in air of {rho}, the motor is rated {rated}.", **numbers),
            say("Keep access doors shut when it runs; let the current limit or a lower maximum speed protect it."),
        )
    return clear(
        "No overload with the system open", say("At most {highest} in air of {rho}, rated {rated}.", **numbers)
    )


@check(
    place="motor-machine",
    about="speed of the curve against the motor's",
    needs=("machine.curve_speed", "motor.rated_speed"),
    source=COMMON_PRACTICE,
    doubts="machine.curve_speed",
    answers=("machine.curve_speed", "motor.rated_speed"),
)
def curve_speed_fits(line: Line, derived: Derived) -> Verdict:
    """The curve is drawn for the speed the machine will have."""
    curve = line.machine.curve_speed
    runs = derived.machine.rpm
    ratio = multiple_of(curve, runs)
    numbers = {"curve": curve, "runs": runs, "ratio": ratio}
    if practice.motor.CURVE_SPEED.holds(ratio):
        return clear("Curve is for this speed", say("Drawn at {curve}, it runs at {runs}.", **numbers))
    return caution(
        "Curve is for another speed",
        say("Drawn at {curve}, the machine runs at {runs}: {ratio} ×.", **numbers),
        say(derived.machine.words.other_speed),
    )


@check(
    place="motor-machine",
    about="highest speed of the machine",
    needs=("motor.rated_speed", "motor.rated_frequency"),
    holds="turn",
    source=COMMON_PRACTICE,
    once=("machine.highest_speed",),
    answers=("settings.limits.maximum_speed", "machine.highest_speed"),
)
def speed_within_machine(line: Line, derived: Derived) -> Verdict:
    """Base frequency must not drive the machine past what its maker allows."""
    ceiling = highest_rules(line, derived)
    runs = derived.machine.rpm
    numbers = {"runs": runs, "allowed": line.machine.highest_speed, "cap": ceiling.figure}
    told = told_speed(line, "limits.maximum_speed")
    if runs > line.machine.highest_speed and told is not None and told <= _allowed(line, derived) * (1 + SAME):
        words = (
            "At full frequency it would turn at {runs}, {allowed} are allowed; the drive goes no faster than {told}."
        )
        return clear("Highest speed keeps the machine within its maker's", say(words, told=told, **numbers))
    if runs > line.machine.highest_speed:
        return stop(
            "Base frequency is too fast for the machine",
            say("It would turn at {runs}; {allowed} are allowed.", **numbers),
            say(
                "Set the highest speed to {cap} before it turns"
                + (", or change the pulleys." if line.machine.has("pulley_ratio") else "."),
                **numbers,
            ),
        )
    return clear("Machine may run at base frequency", say("{runs}, {allowed} allowed.", **numbers))


@check(
    place="motor-machine",
    about="ramps against the inertia",
    needs=("motor.rated_power", "motor.rated_speed", "motor.rated_frequency"),
    holds="turn",
    source=Source("J·Δω = T·t", kind="law"),
    once=("machine.inertia",),
    answers=("control.ramp_up", "control.ramp_down"),
    meant="control.ramp_up",
)
def ramps_suit_inertia(line: Line, derived: Derived) -> Verdict:
    """Shortest ramps that the torque up and the losses down allow, against those planned."""
    try:
        up, down = run_up_time(line, derived), run_down_time(line, derived)
    except NoSolution as never:
        return stop(
            "It never reaches full speed",
            say("At {power} on the shaft, the motor gives {rated}: " + never.tellings + ".",
                power=derived.duty_power, rated=line.motor.rated_power),
            say("Check duty, speed and motor; run it slower, or take a larger motor."),
        )  # fmt: skip
    application = line.application
    planned_up = line.control.ramp_up if line.control.has("ramp_up") else given("ramp_up", application.ramp_up, "time")
    planned_down = (
        line.control.ramp_down if line.control.has("ramp_down") else given("ramp_down", application.ramp_down, "time")
    )
    numbers = {"up": up, "down": down, "pu": planned_up, "pd": planned_down}
    up_short, down_short = planned_up < up * (1 - SAME), planned_down < down * (1 - SAME)
    if up_short or (down_short and line.value("control.ramp_down") is not None):
        return caution(
            "Ramp is too short for the inertia",
            say("{pu} up and {pd} down wanted; it takes at least {up} up and {down} down.", **numbers),
            say("Too short up runs into the current limit, too short down into overvoltage: lengthen it, or coast."),
        )
    return clear("Ramps suit the inertia", say("At least {up} up and {down} down.", **numbers))


@check(
    place="motor-machine",
    about="cooling of the motor at low speed",
    needs=("motor.cooling", "line.application", "motor.rated_frequency"),
    source=Source("class of IEC TS 60034-25 figures", "the maker's curve governs, from memory", "from memory"),
    answers=("settings.limits.minimum_speed", "motor.cooling"),
    meant="motor.cooling",
)
def motor_cooled_at_low_speed(line: Line, derived: Derived) -> Verdict | None:
    """Torque at the lowest speed against what the motor's own fan still cools."""
    cooling = line.motor.cooling
    if "submersible" in line.traits or cooling == "water":
        return None
    if cooling in ("separate_fan", "air_stream"):
        return clear("Cooled at any speed", say("Its cooling does not depend on its own speed."))
    try:
        lowest = torque_frequency(derived)
    except MainspringError:
        if "pump" in line.traits and derived.pump.out_of_reach:
            return None  # no speed does: said of the head
        reasons = lowest_reasons(line, derived)
        rules = strictest(reasons, highest=True).figure
        ratio = share_of(rules, line.motor.rated_frequency)
        needed, allowed = square_law_torque(ratio), torque_limit_self_ventilated(ratio)
        return clear(
            "Cooled at the lowest speed",
            say(
                "At {low} the load needs {needed} of the torque, {allowed} is what its own fan cools continuously.",
                low=rules,
                needed=needed,
                allowed=allowed,
            ),
        )
    least = told_speed(line, "limits.minimum_speed")
    if least is not None and least >= lowest * (1 - SAME):
        words = "At constant torque its own fan cools it above {low}; the drive runs no slower than {least}."
        return clear("Cooled down to the lowest speed", say(words, low=lowest, least=least))
    return caution(
        "Constant torque: not cooled below a speed",
        say("Below {low} its own fan does not cool it at this torque.", low=lowest),
        say("Set the lowest speed to {low}, or fit a separate fan.", low=lowest),
    )


@check(
    place="motor-machine",
    about="water past the submersible motor",
    needs=("motor.diameter", "system.well_bore", "machine.duty_flow"),
    holds="turn",
    source=Source("NEMA MG-1 part 18 class", "0.25 and 0.5 ft/s; the maker's figure governs, from memory", "guideline"),
    only=("submersible",),
    answers=("system.sleeve_bore", "motor.diameter"),
)
def water_cools_submersible(line: Line, derived: Derived) -> Verdict:
    """Velocity past the motor at duty flow, and the frequency below which it is too low."""
    system, motor = line.system, line.motor
    bore = system.sleeve_bore if system.has("sleeve_bore") else system.well_bore
    speed = annulus_velocity(line.machine.duty_flow, bore, motor.diameter)
    least = least_cooling_velocity(motor.diameter)
    numbers = {"v": speed, "least": least, "bore": bore, "flow": derived.cooling_flow, "d": motor.diameter}
    if speed < least:
        widest = sleeve_bore(line.machine.duty_flow, motor.diameter, least)
        return stop(
            "Too little water past the motor",
            say("{v} past {d} in {bore} at duty flow; {least} are needed.", **numbers),
            say("Fit a flow sleeve of at most {widest} inside, or the motor overheats.", widest=widest),
        )
    words = "{v} at duty flow, {least} needed: that is {flow}"
    try:
        numbers["low"] = derived.cooling_frequency
        words += ", at {low} while it holds the pressure. Sleep must come above it"
    except MainspringError:
        words += " at the least"
    return clear("Water cools the motor", say(words + ".", **numbers))


@check(
    place="motor-machine",
    about="the ramp through what the thrust bearing does not stand",
    needs=("control.ramp_up", "motor.rated_frequency"),
    source=COMMON_PRACTICE,
    only=("submersible",),
    once=("control.ramp_up",),
    answers=("settings.ramps.initial_to_minimum", "control.ramp_up"),
    meant="control.ramp_up",
)
def bearing_stands_the_ramp(line: Line, derived: Derived) -> Verdict:
    """A submersible's bearing has no film below its lowest speed: through it in a second, whoever chose the ramp."""
    lowest, most = line.application.lowest, practice.pump.INITIAL_RAMP
    full = float(line.motor.rated_frequency)
    ramp = line.control.ramp_up
    takes = given("takes", ramp * lowest / full, "time", "share of the ramp up to the lowest speed")
    likely = given("likely", float(most) * full / lowest, "time", "full speed at the same slope")
    numbers = {"ramp": ramp, "takes": takes, "most": most, "likely": likely,
               "low": given("lowest", lowest, "frequency", line.application.lowest_why)}  # fmt: skip
    first = line.told("ramps.initial_to_minimum", "time", "Ramp to the lowest speed")
    if isinstance(first, Figure) and first <= most * (1 + SAME):
        words = "The drive's first ramp takes it to {low} in {first}."
        return clear("Ramp spares the thrust bearing", say(words, first=first, **numbers))
    if takes > most:
        return caution(
            "Ramp is too slow for the thrust bearing",
            say("{ramp} to full speed is {takes} up to {low}; {most} at most.", **numbers),
            say(
                "Set the drive's own ramp to the lowest speed to {most}; where it has none, {likely} to full speed.",
                **numbers,
            ),
            Fix("control.ramp_up", round(float(likely), 2), say("{likely}?", likely=likely)),
        )
    return clear("Ramp spares the thrust bearing", say("{takes} up to {low}, {most} at most.", **numbers))


@check(
    place="motor-machine",
    about="the order of hold, low limit, lowest speed and sleep",
    needs=("control.setpoint", "motor.rated_frequency"),
    holds="loop",
    source=COMMON_PRACTICE,
    only=("rests",),
    once=("control.sleep_below",),
    answers=("control.sleep_below", "settings.limits.minimum_speed"),
)
def it_can_sleep(line: Line, derived: Derived) -> Verdict | None:
    """The drive goes to sleep only below a frequency that it may run at."""
    if derived.pump.out_of_reach:
        return None  # said of the setpoint
    sleep, hold = line.control.sleep_below, derived.hold_frequency
    low = derived.low_limit
    lowest = lowest_in_force(line, derived)
    likely = derived.sleep_wanted
    numbers = {"hold": hold, "low": low, "lowest": lowest, "sleep": sleep, "likely": likely}
    if sleep <= lowest:
        return stop(
            "It can never sleep",
            say(
                "Sleep below {sleep}, and it runs no slower than {lowest} (holds at {hold}, low limit {low}).",
                **numbers,
            ),
            say("Upwards they read: hold, low limit, lowest speed, sleep. Sleep below {likely} would do.", **numbers),
            Fix("control.sleep_below", round(float(likely), 1), say("{likely}?", likely=likely)),
        )
    return clear(
        "It can sleep",
        say("Holds at {hold}, low limit {low}, lowest {lowest}, sleeps below {sleep}.", **numbers),
    )


@check(
    place="motor-machine",
    about="sleep against the cooling of the submersible",
    needs=("motor.diameter", "system.well_bore", "control.setpoint", "machine.duty_flow"),
    source=COMMON_PRACTICE,
    only=("submersible",),
    answers=("control.sleep_below", "system.sleeve_bore"),
    meant="control.sleep_below",
)
def sleeps_before_it_cooks(line: Line, derived: Derived) -> Verdict | None:
    """The drive must go to rest before too little water passes the motor."""
    if derived.pump.out_of_reach:
        return None  # it never gets there: said of the setpoint
    sleep = derived.sleep_below
    cooled = derived.cooling_frequency
    numbers = {"sleep": sleep, "cooled": cooled}
    if sleep < cooled:
        return caution(
            "It runs uncooled before it sleeps",
            say("It sleeps below {sleep}; the water cools the motor only above {cooled}.", **numbers),
            say("Raise the sleep frequency to {cooled}, or fit a flow sleeve.", **numbers),
            Fix("control.sleep_below", round(float(cooled), 1), say("{cooled}?", cooled=cooled)),
        )
    return clear("It sleeps while still cooled", say("Sleep below {sleep}, cooled above {cooled}.", **numbers))
