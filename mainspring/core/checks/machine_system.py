"""Machine – system: can the pump do what is wanted, and can it rest."""

from mainspring.core import practice
from mainspring.core.air.density import pressure_at_altitude
from mainspring.core.checks.finding import Fix, Verdict, asking, caution, check, clear, stop
from mainspring.core.derived import FULL_SPEED, Derived
from mainspring.core.errors import MainspringError, NoSolution
from mainspring.core.hydraulics.power import specific_speed, specific_speed_us
from mainspring.core.hydraulics.pump_curve import pump_efficiency, share_of_best_flow, shutoff_rise
from mainspring.core.hydraulics.suction import (
    low_flow_rise,
    npsh_available,
    npsh_wanted,
    preferred_region,
    sump_volume,
)
from mainspring.core.hydraulics.surge import pipe_velocity, surge_peak
from mainspring.core.hydraulics.tank import (
    ATMOSPHERE,
    pit_volume,
    precharge_below_setpoint,
    precharge_share_of_setpoint,
    tank_share_of_minute,
    tank_volume_for_run,
)
from mainspring.core.hydraulics.water import vapour_pressure, water_density
from mainspring.core.limits import full_stop_surge, ramp_down_reasons, strictest, surge_ramp, told_speed, wave_speed_of
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Figure, Source, as_figure, assume, given
from mainspring.core.ratios import multiple_of, share_of
from mainspring.core.sentence import say


@check(
    place="machine-system",
    about="whether the pump reaches the setpoint",
    needs=(
        "control.setpoint",
        "machine.duty_flow",
        "machine.duty_head",
        "motor.rated_speed",
    ),
    holds="loop",
    source=DERIVED,
    only=("rests",),
    answers=(
        "control.setpoint",
        "system.suction_pressure",
    ),
    meant="control.setpoint",
)
def pump_reaches_setpoint(line: Line, derived: Derived) -> Verdict:
    """Head at duty flow and at shut-off against the head that the setpoint needs."""
    wanted, shutoff = derived.pump.setpoint_head, as_figure(derived.pump.curve.c0)
    at_duty = derived.machine.head_at(line.machine.duty_flow, FULL_SPEED)
    numbers = {"wanted": wanted, "shutoff": shutoff, "at_duty": at_duty, "flow": line.machine.duty_flow}
    if shutoff <= wanted:
        return stop(
            "Pump can never reach the setpoint",
            say("{wanted} of head wanted, {shutoff} at no flow and full speed.", **numbers),
            say("Check setpoint, inlet pressure and pump; the drive would stay at full speed for ever."),
        )
    if at_duty < wanted * practice.pump.SETPOINT_SHORT:
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
    about="whether the pump lifts the static head",
    needs=("machine.duty_head", "motor.rated_speed"),
    holds="turn",
    source=DERIVED,
    only=("pump",),
    answers=("system.static_head", "system.pumping_level", "machine.duty_head"),
)
def pump_lifts_static_head(line: Line, derived: Derived) -> Verdict | None:
    """Static head against what the pump makes at no flow, and against its duty head."""
    static, duty = derived.pump.static_head, line.machine.duty_head
    if static <= 0:
        return None
    shutoff = as_figure(derived.pump.curve.c0)
    numbers = {"static": static, "shutoff": shutoff, "duty": duty}
    if static >= shutoff:
        return stop(
            "No speed lifts this static head",
            say("{static} stand against it, {shutoff} is what it makes at no flow and full speed.", **numbers),
            say("Check the level, the unit of the head, and whether this is the right pump."),
        )
    if static >= duty:
        return stop(
            "Duty head is below the static head",
            say("{static} stand against it without any flow, its duty head is {duty}.", **numbers),
            say("The duty head holds the static head and the friction: check both and their units."),
        )
    return clear("Pump lifts the static head", say("{static} of {duty} at duty, {shutoff} at no flow.", **numbers))


@check(
    place="machine-system",
    about="the lowest useful speed",
    needs=("machine.duty_flow", "machine.duty_head", "motor.rated_speed", "motor.rated_frequency"),
    holds="turn",
    source=DERIVED,
    only=("pump",),
    answers=("system.static_head", "control.setpoint"),
    meant="machine.duty_head",
)
def speed_range_is_useful(line: Line, derived: Derived) -> Verdict:
    """Between the speed that moves nothing and full speed there must be room to control."""
    full = line.motor.rated_frequency
    try:
        hold = derived.hold_frequency
    except NoSolution:
        held, shutoff = derived.pump.held, as_figure(derived.pump.curve.c0)
        return stop(
            "No speed moves water against this head",
            say("{held} to be held, {shutoff} at no flow and full speed.", held=held, shutoff=shutoff),
            say("Check static head, setpoint and their units against the pump's curve."),
        )
    numbers = {"hold": hold, "full": full}
    if hold >= full:
        return stop(
            "No speed moves water against this head",
            say("{hold} would be needed only to hold it, full speed is {full}.", **numbers),
            say("Check static head or setpoint against the pump's curve."),
        )
    if hold > practice.pump.CONTROL_ROOM * full:
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
    only=("pump",),
    needs=("machine.best_flow", "machine.duty_flow", "machine.duty_head", "motor.rated_speed"),
    source=Source("ANSI/HI 9.6.3", "preferred operating region, from memory", "standard"),
    answers=(
        "machine.best_flow",
        "system.known_flow",
        "system.known_head",
    ),
    meant="machine.best_flow",
)
def duty_near_best_efficiency(line: Line, derived: Derived) -> Verdict | None:
    """Full-speed duty within the preferred region of best flow, narrower for high specific speeds."""
    if derived.pump.static_head >= line.machine.duty_head:
        return None  # there is no duty: said of the static head
    flow, best = derived.full_flow, derived.machine.best_flow
    share = share_of_best_flow(flow, FULL_SPEED, best)
    speed = specific_speed(line.motor.rated_speed, best, derived.machine.head_at(best, FULL_SPEED))
    region = preferred_region(specific_speed_us(speed))
    numbers = {"flow": flow, "share": share, "best": best, "low": region.low, "high": region.high}
    if region.holds(share):
        return clear("Near best efficiency", say("{flow} at full speed is {share} of the best {best}.", **numbers))
    return caution(
        "Away from best efficiency",
        say("{flow} at full speed is {share} of the best {best}; preferred is {low} to {high}.", **numbers),
        say("Expect poor efficiency and wear there; check the known point of the system and the pump's curve."),
    )


@check(
    place="machine-system",
    about="shut-off pressure against the rating",
    needs=("system.pressure_rating", "machine.duty_head", "motor.rated_speed"),
    holds="turn",
    source=DERIVED,
    only=("pump",),
    answers=("system.relief", "settings.limits.maximum_speed", "system.pressure_rating"),
    meant="system.pressure_rating",
)
def shutoff_within_rating(line: Line, derived: Derived) -> Verdict:
    """Everything shut at full speed must not burst the weakest part."""
    pressure, rating = derived.shutoff_pressure, line.system.pressure_rating
    numbers = {"pressure": pressure, "rating": rating}
    top = told_speed(line, "limits.maximum_speed")
    if pressure > rating and top is not None:
        there = derived.shutoff_pressure_at(share_of(top, line.motor.rated_frequency))
        if there <= rating:
            return _capped(line, numbers | {"top": top, "there": there})
    if pressure > rating and line.value("system.relief") == "yes":
        return caution(
            "Only the relief valve guards the rating",
            say("{pressure} with everything shut at full speed, the weakest part is rated {rating}.", **numbers),
            say("Prove that the relief valve opens below the rating, and cap the highest speed as well."),
        )
    if pressure > rating:
        return stop(
            "Shut-off pressure exceeds the rating",
            say("{pressure} with everything shut at full speed, the weakest part is rated {rating}.", **numbers),
            say("Fit a relief valve and limit the maximum speed, or strengthen the part, before it runs."),
        )
    return clear("Shut-off pressure is safe", say("{pressure} at most, rated {rating}.", **numbers))


def _capped(line: Line, numbers: dict[str, Figure]) -> Verdict:
    """A speed set in the drive guards the rating; without a relief valve that alone does, and it is soon changed."""
    words = (
        "The drive goes no faster than {top}: {there} with everything shut, rated {rating}; {pressure} at full speed."
    )
    if line.value("system.relief") == "yes":
        return clear("Highest speed and relief valve guard the rating", say(words, **numbers))
    return caution(
        "Only a setting guards the rating",
        say(words, **numbers),
        say("Fit a relief valve as well: another drive, or a bypass, knows nothing of that setting."),
    )


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
    only=("tank",),
    answers=("system.leak", "system.tank_volume", "system.tank_precharge"),
    meant="system.leak",
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
                "Set it with the system drained: {a} ({d} below setpoint) or {b} ({s} of setpoint).",
                a=precharge_below_setpoint(line.control.setpoint),
                b=precharge_share_of_setpoint(line.control.setpoint),
                d=practice.pump.PRECHARGE_BELOW,
                s=practice.pump.PRECHARGE_SHARE,
            ),
        )
    starts = derived.starts_on_leak
    allowed = line.control.starts_allowed if line.control.has("starts_allowed") else line.own(practice.pump.STARTS)
    numbers = {"starts": starts, "allowed": allowed, "leak": system.leak}
    if starts > allowed:
        return caution(
            "A leak wakes the drive too often",
            say("{leak} empties the tank {starts}; {allowed} are allowed.", **numbers),
            say("Find the leak, boost before sleep, or fit a larger tank."),
        )
    return clear("Rests on a small leak", say("{leak} wakes it {starts}, {allowed} allowed.", **numbers))


@check(
    place="machine-system",
    about="precharge of the tank",
    needs=("system.tank_precharge", "control.setpoint"),
    source=COMMON_PRACTICE,
    only=("tank",),
    doubts="system.tank_precharge",
    answers=("system.tank_precharge", "control.setpoint"),
)
def precharge_suits_setpoint(line: Line, derived: Derived) -> Verdict:
    """Precharge near what one of the two schools asks: 20 psi below the setpoint, or 70 % of it."""
    found, setpoint = line.system.tank_precharge, line.control.setpoint
    share = precharge_share_of_setpoint(setpoint)
    below = precharge_below_setpoint(setpoint) if setpoint > practice.pump.PRECHARGE_SCHOOLS else share
    low, high = min(below, share), max(below, share)
    numbers = {"pre": found, "below": below, "share": share, "set": setpoint}
    numbers |= {"d": practice.pump.PRECHARGE_BELOW, "s": practice.pump.PRECHARGE_SHARE}
    off = practice.pump.PRECHARGE_OFF
    if (1 - off) * low <= found <= (1 + off) * high:
        return clear(
            "Precharge suits the setpoint", say("{pre}; the two usual rules give {below} and {share}.", **numbers)
        )
    if found < low and _suits_less_an_atmosphere(found, setpoint):
        return asking(
            "Precharge and setpoint do not suit each other",
            say("{pre} for {set}: {d} below it would be {below}, {s} of it {share}.", **numbers),
            say("Is the setpoint by the gauge, not absolute? If it is, set the precharge, with the system drained."),
        )
    return caution(
        "Precharge does not suit the setpoint",
        say("{pre} for {set}: {d} below it would be {below}, {s} of it {share}.", **numbers),
        say("Set it with the system drained, anywhere between the two."),
        Fix("system.tank_precharge", round(float(share), -3), say("{share}?", share=share)),
    )


def _suits_less_an_atmosphere(found: Figure, setpoint: Figure) -> bool:
    """Whether the precharge would suit a setpoint that was typed absolute: then either may be the slip."""
    meant = float(setpoint) - ATMOSPHERE
    if meant <= 0:
        return False
    off = float(practice.pump.PRECHARGE_OFF)
    share = float(precharge_share_of_setpoint(meant))
    below = float(precharge_below_setpoint(meant)) if meant > practice.pump.PRECHARGE_SCHOOLS else share
    return (1 - off) * min(share, below) <= found <= (1 + off) * max(share, below)


@check(
    place="machine-system",
    about="size of the tank",
    needs=("system.tank_volume", "machine.duty_flow"),
    source=COMMON_PRACTICE,
    only=("tank",),
    answers=("system.tank_volume",),
    meant="system.tank_volume",
)
def tank_is_large_enough(line: Line, derived: Derived) -> Verdict:
    """A fifth of the pump's minute, or what the drawdown at sleep needs for a minute of leak."""
    volume, flow = line.system.tank_volume, line.machine.duty_flow
    share, rest = line.own(practice.pump.TANK_SHARE), line.own(practice.pump.TANK_REST)
    usual = tank_share_of_minute(flow, share)
    numbers = {"volume": volume, "usual": usual, "flow": flow, "share": share, "rest": rest}
    words = "{volume}; {share} of one minute of {flow} is {usual}"
    try:
        for_leak = tank_volume_for_run(line.system.leak, rest, derived.drawdown)
        numbers |= {"leak": for_leak, "draw": derived.drawdown}
        words += "; {rest} of leak at a drawdown of {draw} need {leak}"
        enough = volume >= for_leak
    except MainspringError:
        enough = volume >= usual
    if enough and volume >= practice.pump.TANK_SMALL * usual:
        return clear("Tank is large enough", say(words + ".", **numbers))
    if enough:
        return caution(
            "Tank smaller than practice",
            say(words + ".", **numbers),
            say("It covers the leak; see on the loop bench that it does not wake too often."),
        )
    return caution(
        "Tank is too small",
        say(words + ".", **numbers),
        say("A larger tank, a tighter system, or expect it to start often."),
    )


@check(
    place="machine-system",
    about="the relief valve",
    needs=("system.relief",),
    source=COMMON_PRACTICE,
    only=("holds:pressure",),
    answers=("system.relief",),
    meant="system.relief",
)
def relief_is_there(line: Line, derived: Derived) -> Verdict:
    """A pump that holds pressure has a relief valve behind it."""
    if line.system.relief == "yes":
        return clear("Relief valve is there", say("Set below the weakest part; prove it."))
    return caution(
        "No relief valve",
        say("A stuck signal drives the pump to full speed against a shut system."),
        say("Fit one below the rating of the weakest part, or show why none is needed."),
    )


@check(
    place="machine-system",
    about="whether the circulator makes the difference",
    needs=("control.setpoint", "machine.duty_flow", "machine.duty_head", "motor.rated_speed", "control.dp_place"),
    holds="loop",
    source=DERIVED,
    only=("holds:differential",),
    answers=("control.setpoint", "machine.duty_head"),
    meant="control.setpoint",
)
def circulator_makes_difference(line: Line, derived: Derived) -> Verdict:
    """The differential pressure wanted lies below the duty head, with room for the friction before it."""
    wanted, duty = derived.pump.setpoint_head, line.machine.duty_head
    share = share_of(wanted, duty)
    numbers = {"wanted": wanted, "duty": duty, "share": share}
    if wanted > derived.pump.curve.c0:
        return stop(
            "Pump can never make this difference",
            say("{wanted} wanted, {top} at no flow and full speed.", top=as_figure(derived.pump.curve.c0), **numbers),
            say("Check the setpoint and its unit."),
        )
    at_pump = line.control.dp_place == "pump"
    if wanted > duty * (practice.pump.DIFFERENCE_AT_PUMP if at_pump else practice.pump.DIFFERENCE_FAR):
        return caution(
            "Differential pressure set too high",
            say("{wanted} is {share} of the duty head {duty}: the pump will hardly slow down.", **numbers),
            say("At the far end a third to a half of it is usual; lower it until the last room just has flow."),
        )
    return clear("Circulator makes the difference", say("{wanted} held of {duty} at duty, {share}.", **numbers))


@check(
    place="machine-system",
    about="whether the fan makes the duct pressure",
    needs=("control.air_setpoint", "machine.air_flow", "machine.air_pressure", "system.air_degc", "motor.rated_speed"),
    holds="loop",
    source=DERIVED,
    only=("supply_fan", "fan_array"),
    answers=("control.air_setpoint",),
    meant="control.air_setpoint",
)
def fan_makes_duct_pressure(line: Line, derived: Derived) -> Verdict | None:
    """The held duct pressure lies well below what the fan makes at its duty flow in this air."""
    if not line.applies(("holds:duct",)):
        return None
    fan = derived.fan
    wanted = line.control.air_setpoint
    at_duty = fan.head_at(line.machine.air_flow, FULL_SPEED)
    share = share_of(wanted, at_duty) if at_duty > 0 else given("share", 9.9, "percent")
    numbers = {"wanted": wanted, "duty": at_duty, "share": share, "rho": fan.density}
    if wanted >= at_duty:
        return stop(
            "Fan cannot hold this pressure at its duty flow",
            say("{wanted} wanted, {duty} made at duty flow in air of {rho}.", **numbers),
            say("Check the setpoint and its unit; the fan would stay at full speed for ever."),
        )
    if share > practice.fan.DUCT_SHARE:
        return caution(
            "Little of the fan's pressure is left for the ducts",
            say("{wanted} is {share} of the {duty} made at duty flow.", **numbers),
            say("A third is usual, two thirds down the main duct. Lower it until the farthest box just has its flow."),
        )
    return clear("Fan holds the duct pressure", say("{wanted} of {duty} at duty flow, {share}.", **numbers))


@check(
    place="machine-system",
    about="where the fan works on its curve",
    needs=("machine.air_flow", "machine.air_pressure", "system.air_degc", "motor.rated_speed"),
    source=Source("AMCA 201", "selection away from the stall side, from memory", "standard"),
    only=("fan",),
    answers=("machine.best_air_flow", "machine.air_flow"),
    meant="machine.air_flow",
)
def fan_near_best(line: Line, derived: Derived) -> Verdict:
    """Full-speed flow with the dampers as they stand, within the region that suits it."""
    fan = derived.fan
    flow = derived.full_flow
    share = multiple_of(flow, fan.best_flow)
    numbers = {"flow": flow, "share": share_of(flow, fan.best_flow), "best": fan.best_flow}
    if practice.fan.BEST_FLOW.holds(share):
        return clear("Fan works near its best", say("{flow} at full speed is {share} of the best {best}.", **numbers))
    if share < practice.fan.BEST_FLOW.low:
        return caution(
            "Fan works on its stall side",
            say("{flow} at full speed is only {share} of the best {best}.", **numbers),
            say("Expect rumble and hunting; look for shut dampers, clogged filters or a wrong curve."),
        )
    return caution(
        "Fan works far out on its curve",
        say("{flow} at full speed is {share} of the best {best}.", **numbers),
        say("Look for open doors or missing filters; slow it by the highest speed rather than by dampers."),
    )


@check(
    place="machine-system",
    about="whether the fan may turn by itself",
    needs=("system.windmills",),
    source=COMMON_PRACTICE,
    only=("fan",),
    answers=("system.windmills",),
    meant="system.windmills",
)
def fan_stands_at_start(line: Line, derived: Derived) -> Verdict:
    """A turning fan trips a drive that starts at zero, and is no safe thing to touch."""
    if line.system.windmills == "no":
        return clear("Fan stands at start", say("Nothing turns it while the drive is off."))
    return caution(
        "Fan may turn by itself",
        say("Draught or the other fans turn it while the drive is off; a turning motor makes volts."),
        say("Set flying start, fit a backdraught damper; block the wheel before hands go near it."),
    )


GUARDS = ("vessel", "valve")  # surge protections that a power failure does not take away


@check(
    place="machine-system",
    about="water hammer",
    needs=("machine.duty_flow", "machine.duty_head", "system.pressure_rating", "motor.rated_speed",
           "system.pipe_wall", "system.pipe_material"),
    source=Source("Joukowsky; Michaud; Wylie and Streeter", "Fluid Transients, from memory", "handbook"),
    only=("pump",),
    once=("system.pipe_length", "system.pipe_bore"),
    answers=("system.surge_protection", "control.ramp_down", "system.pressure_rating"), meant="system.pressure_rating",
)  # fmt: skip
def surge_within_rating(line: Line, derived: Derived) -> Verdict:
    """Full stop at once against the rating, and the ramp that keeps the surge within its share of the head."""
    surge = full_stop_surge(line)
    working = derived.pump.pressure_at_gauge(line.machine.duty_head)
    peak = surge_peak(working, surge)
    ramp = surge_ramp(line, derived)
    ruling = strictest(ramp_down_reasons(line, derived), highest=True).figure
    planned = line.control.ramp_down if line.control.has("ramp_down") else ruling
    numbers = {"surge": surge, "peak": peak, "rating": line.system.pressure_rating, "ramp": ramp, "planned": planned}
    numbers |= {"share": line.own(practice.pump.SURGE_SHARE)}
    numbers |= {"a": wave_speed_of(line), "v": pipe_velocity(line.machine.duty_flow, line.system.pipe_bore)}
    slams = line.value("system.check_valve") == "swing"
    if peak > line.system.pressure_rating and line.value("system.surge_protection") not in GUARDS:
        return caution(
            "A sudden stop would exceed the rating",
            say("{v} stopped at once adds {surge}: {peak} in a pipe rated {rating}.", **numbers),
            say(
                "Ramp down in at least {ramp} with flow; a power failure ignores the ramp, so fit surge protection"
                + (" and a quiet check valve." if slams else "."),
                **numbers,
            ),
        )
    if planned < ramp:
        return caution(
            "Ramp down is short for this pipeline",
            say("{planned} planned; {ramp} keeps the surge within {share} of the head and the rating.", **numbers),
            say("Lengthen the ramp down to {ramp}.", **numbers),
        )
    if peak > line.system.pressure_rating:
        words = "{v} stopped at once would add {surge}; surge protection takes it. Ramp down of {ramp} or longer."
        return clear("Surge protection guards the rating", say(words, **numbers))
    return clear(
        "Water hammer stays small",
        say("At most {peak} even at a sudden stop, rated {rating}; ramp down of {ramp} or longer.", **numbers),
    )


@check(
    place="machine-system",
    about="NPSH",
    needs=("machine.duty_flow",),
    holds="turn",
    source=Source("ANSI/HI 9.6.1 class", "margin, from memory", "guideline"),
    only=("pump",),
    once=("machine.npsh_required", "system.water_above_inlet"),
    answers=("system.water_above_inlet", "machine.npsh_required", "system.suction_friction"),
    meant="machine.npsh_required",
)
def npsh_is_enough(line: Line, derived: Derived) -> Verdict:
    """NPSH available at this altitude and temperature against what the pump asks with margin."""
    system = line.system
    temperature = (
        system.water_degc
        if system.has("water_degc")
        else assume("system.water_degc", 20.0, "temperature", "cold water")
    )
    friction = (
        system.suction_friction
        if system.has("suction_friction")
        else assume("system.suction_friction", 0.5, "head", "a short, wide suction pipe")
    )
    surface = pressure_at_altitude(derived.altitude)
    found = npsh_available(
        surface, vapour_pressure(temperature), system.water_above_inlet, friction, _density(temperature)
    )
    required = line.machine.npsh_required
    wanted = npsh_wanted(required)
    numbers = {"found": found, "wanted": wanted, "required": required, "t": temperature, "z": system.water_above_inlet}
    if found < required:
        return stop(
            "The pump will cavitate",
            say("{found} available with {z} of water above it at {t}; the pump asks {required}.", **numbers),
            say("Lower the pump, raise the water, widen the suction, or cap the speed: what it asks falls with speed."),
        )
    if found < wanted:
        return caution(
            "Little NPSH in hand",
            say("{found} available, {wanted} wanted with margin ({required} asked).", **numbers),
            say("Listen for gravel at full speed; cap the speed if it is heard."),
        )
    return clear("NPSH is enough", say("{found} available, {wanted} wanted with margin.", **numbers))


def _density(temperature: Figure) -> Figure:
    return water_density(min(temperature, given("boiling", 100.0, "temperature")))


@check(
    place="machine-system",
    about="the least continuous flow",
    needs=("machine.duty_flow", "motor.rated_speed", "machine.best_efficiency"),
    source=COMMON_PRACTICE,
    only=("pump",),
    once=("machine.least_flow",),
    answers=("machine.least_flow",),
    meant="machine.least_flow",
)
def least_flow_is_kept(line: Line, derived: Derived) -> Verdict:
    """Least flow as a share of best flow, and how much the water warms there."""
    least, best = line.machine.least_flow, derived.machine.best_flow
    share = share_of(least, best)
    eta = pump_efficiency(least, FULL_SPEED, best, line.machine.best_efficiency)
    rise = low_flow_rise(derived.machine.head_at(least, FULL_SPEED), eta)
    numbers = {"least": least, "share": share, "rise": rise, "most": practice.pump.LEAST_FLOW_RISE}
    if share > practice.pump.LEAST_FLOW or rise > practice.pump.LEAST_FLOW_RISE:
        return caution(
            "Least flow is out of the ordinary",
            say("{least} is {share} of best flow, the water warms by {rise} there.", **numbers),
            say("Check it on the pump's sheet; 20 to 40 % and less than {most} are usual.", **numbers),
        )
    return clear("Least flow is ordinary", say("{least} is {share} of best flow, {rise} warmer there.", **numbers))


@check(
    place="machine-system",
    about="a drooping curve",
    needs=("control.setpoint",),
    source=COMMON_PRACTICE,
    only=("holds:pressure", "holds:differential"),
    once=("machine.curve",),
    answers=("machine.curve",),
    meant="machine.curve",
)
def curve_does_not_hunt(line: Line, derived: Derived) -> Verdict | None:
    """A curve that rises with flow has two flows for one held head, and jumps between them."""
    flow, top = derived.machine.curve.peak
    shut = derived.machine.curve.c0
    droop = given("droop", top / shut - 1, "percent", "of the highest head over that at no flow")
    if flow <= 0 or droop < practice.pump.DROOP:
        return None
    return caution(
        "The curve droops towards no flow",
        say(
            "Head rises by {droop} from no flow up to {flow}: for one head there are two flows, and it may hunt there.",
            droop=droop,
            flow=given("flow", flow, "flow", "highest point of the curve"),
        ),
        say("Keep it from standing in that part: sleep early, or keep a small flow through a bypass."),
    )


@check(
    place="machine-system",
    about="pumps side by side",
    needs=("machine.count", "machine.duty_head", "motor.rated_speed"),
    source=COMMON_PRACTICE,
    only=("booster",),
    answers=("machine.count", "machine.duty_head", "machine.curve"),
    meant="machine.count",
)
def pumps_share_the_flow(line: Line, derived: Derived) -> Verdict | None:
    """Pumps in parallel need a curve that rises to shut-off."""
    if line.machine.count < 2:
        return None
    rise = shutoff_rise(as_figure(derived.pump.curve.c0), line.machine.duty_head)
    numbers = {"rise": rise, "n": line.machine.count}
    if rise < practice.pump.SHUTOFF_RISE:
        return caution(
            "Flat curves do not share the flow",
            say(
                "{n} pumps whose head rises only {rise} from duty to shut-off: one may push the other shut.", **numbers
            ),
            say("Run them at equal speed, stage late, and watch that each one carries flow."),
        )
    return clear("Pumps share the flow", say("{n} pumps, head rises {rise} from duty to shut-off.", **numbers))


@check(
    place="machine-system",
    about="the levels of the pit",
    needs=("system.stop_level", "system.start_level", "system.high_level", "control.level_setpoint"),
    holds="loop",
    source=COMMON_PRACTICE,
    only=("wet_well",),
    answers=("system.stop_level", "control.level_setpoint", "system.start_level", "system.high_level"),
)
def pit_levels_in_order(line: Line, derived: Derived) -> Verdict:
    """Stop at or below the held level, which is at or below start, and start below alarm.

    To stop only below the held level, or at it, are two schools; neither is an error.
    """
    system, held = line.system, line.control.level_setpoint
    numbers = {"stop": system.stop_level, "held": held, "start": system.start_level, "high": system.high_level}
    if system.stop_level <= held <= system.start_level < system.high_level and system.stop_level < system.start_level:
        return clear("Levels are in order", say("Stop {stop}, hold {held}, start {start}, alarm {high}.", **numbers))
    return stop(
        "Levels are not in order",
        say("Stop {stop}, hold {held}, start {start}, alarm {high}.", **numbers),
        say("Upwards they read: stop, hold, start, alarm. Check which level was meant and from where it counts."),
    )


@check(
    place="machine-system",
    about="volume of the pit",
    needs=("system.pit_area", "system.stop_level", "system.start_level", "machine.duty_flow"),
    holds="loop",
    source=Source("ANSI/HI 9.8", "V = T·Q/4, worst inflow half the pump's flow, from memory", "standard"),
    only=("wet_well",),
    answers=("system.start_level", "system.stop_level", "system.pit_area"),
    meant="system.start_level",
)
def pit_is_large_enough(line: Line, derived: Derived) -> Verdict:
    """Volume between stop and start against the starts that the motor stands."""
    system = line.system
    if system.start_level <= system.stop_level:
        return stop(
            "Start level is not above stop level",
            say("Start {a}, stop {b}.", a=system.start_level, b=system.stop_level),
            say("Check both levels."),
        )
    volume = pit_volume(system.pit_area, system.start_level, system.stop_level)
    cycle = line.own(practice.pump.PIT_CYCLE)
    needed = sump_volume(line.machine.duty_flow, cycle)
    numbers = {"volume": volume, "needed": needed, "cycle": cycle}
    if volume < needed:
        return caution(
            "Pit is small for starts at full flow",
            say("{volume} between stop and start; {needed} keep starts {cycle} apart at the worst inflow.", **numbers),
            say("Hold the level by speed so that it seldom stops, or widen the band."),
        )
    return clear("Pit is large enough", say("{volume} between stop and start, {needed} needed.", **numbers))
