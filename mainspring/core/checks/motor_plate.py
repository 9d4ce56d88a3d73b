"""The second pair of eyes at the motor's plate."""

from collections.abc import Iterator
from dataclasses import replace

from mainspring.core import practice
from mainspring.core.checks.finding import Fix, Verdict, caution, check, clear, stop
from mainspring.core.derived import Derived
from mainspring.core.drive.cooling import motor_ambient_at_altitude
from mainspring.core.errors import OutOfRange
from mainspring.core.line import Line, find_field
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Figure, Source, given
from mainspring.core.motor.cooling import RISE_LIMIT
from mainspring.core.motor.current import (
    implied_power_factor,
    power_from_plate,
    single_phase_current,
    single_phase_power_from_plate,
    usual_full_load_current,
)
from mainspring.core.motor.efficiency import class_efficiency
from mainspring.core.motor.speed import synchronous_speed
from mainspring.core.quantity import HORSEPOWER
from mainspring.core.ratios import multiple_of, share_of
from mainspring.core.sentence import Sentence, say

_SLIPS = ("induction", "single_phase")
_SLIP = Source("IEC 60034-1 / NEMA MG-1", "slip of an induction motor at full load", "standard")


def _largest_slip(power: float) -> Figure:
    return practice.motor.SLIP_MOST_SMALL if power < practice.motor.SMALL else practice.motor.SLIP_MOST


def _usual_slip(power: float) -> float:
    """Slip to expect at full load: falls with size; only used to propose a reading, never to compute."""
    return next(usual for limit, usual in practice.motor.USUAL_SLIP if power < limit)


@check(
    place="motor",
    about="slip at full load",
    needs=("motor.rated_frequency", "motor.rated_speed", "motor.rated_power"),
    holds="data",
    source=_SLIP,
    only=_SLIPS,
    doubts="motor.rated_speed",
    answers=("motor.rated_speed", "motor.rated_frequency"),
)
def speed_leaves_slip(line: Line, derived: Derived) -> Verdict:
    """Full-load speed lies below synchronous speed by a slip that motors of this size have."""
    motor = line.motor
    speed, frequency = motor.rated_speed, motor.rated_frequency
    for poles in (2, 4, 6, 8, 10, 12):
        synchronous = synchronous_speed(frequency, given("poles", poles, "count"))
        if abs(speed - synchronous) < practice.motor.SYNCHRONOUS * synchronous:
            usual = round(synchronous * (1 - _usual_slip(motor.rated_power)) / 5) * 5.0
            likely = given("usual_speed", usual, "speed", "usual slip of this size, to be read from the plate")
            return stop(
                "Speed is the synchronous speed",
                say(
                    "{speed} leaves no slip at {frequency} and {poles} poles. Load estimate and slip compensation"
                    " would be wrong.",
                    speed=speed,
                    frequency=frequency,
                    poles=given("poles", poles, "count"),
                ),
                say("Read the full-load speed on the plate again; about {likely} is usual.", likely=likely),
                Fix("motor.rated_speed", usual, say("{likely}?", likely=likely)),
            )
    found = derived.rated_slip
    largest = _largest_slip(motor.rated_power)
    if found > largest or derived.poles > practice.motor.POLES_MOST:
        lost = next(_lost_digit(float(speed), float(frequency), largest), None)
        proposal = None if lost is None else given("likely_speed", lost, "speed", "the digit that was lost")
        return stop(
            "Speed belongs to no number of poles",
            say(
                "{speed} would be a slip of {slip} from {sync}; a motor of {power} has at most {largest}.",
                speed=speed,
                slip=found,
                sync=derived.synchronous_rpm,
                power=motor.rated_power,
                largest=largest,
            ),
            say("Read the full-load speed again; a digit may be missing."),
            None if proposal is None else Fix("motor.rated_speed", float(proposal), say("{p}?", p=proposal)),
        )
    if found < practice.motor.SLIP_LEAST:
        return caution(
            "Very little slip",
            say("{speed} is only {slip} below {sync}.", speed=speed, slip=found, sync=derived.synchronous_rpm),
            say("Check that the plate shows full-load speed, not no-load speed."),
        )
    return clear(
        "Speed and slip fit",
        say("{speed} is {slip} below {sync}.", speed=speed, slip=found, sync=derived.synchronous_rpm),
    )


def _lost_digit(speed: float, frequency: float, largest: float) -> Iterator[float]:
    """Speeds that the digits typed would make with one more, near a synchronous speed (185 for 1785)."""
    digits = f"{speed:.0f}"
    candidates = {
        int(digits[:i] + d + digits[i:]) for i in range(len(digits) + 1) for d in "0123456789" if digits[:i] + d != "0"
    }
    fits = []
    for rank, poles in enumerate((4, 2, 6, 8)):  # commonest first
        synchronous = 120 * frequency / poles
        near = [c for c in candidates if practice.motor.SLIP_LEAST < 1 - c / synchronous < largest]
        fits += [(rank, abs(1 - c / synchronous - 0.02), c) for c in near]
    yield from (float(c) for *_, c in sorted(fits))


@check(
    place="motor",
    about="whether the plate agrees with itself",
    needs=("motor.rated_power", "motor.rated_voltage", "motor.rated_current", "motor.power_factor", "motor.efficiency"),
    holds="data",
    source=DERIVED,
    only=_SLIPS,
    doubts="motor.rated_current",
    answers=(
        "motor.rated_current",
        "motor.rated_power",
        "motor.rated_voltage",
        "motor.power_factor",
        "motor.efficiency",
    ),
)
def plate_agrees_with_itself(line: Line, derived: Derived) -> Verdict:
    """√3·V·I·pf·η against the rated power, and what the mistake would be if they differ."""
    motor = line.motor
    plate = (motor.rated_voltage, motor.rated_current, motor.power_factor, motor.efficiency)
    if "single_phase" in line.traits:
        power = single_phase_power_from_plate(*plate)
        amps = single_phase_current(motor.rated_power, motor.rated_voltage, motor.power_factor, motor.efficiency)
    else:
        power, amps = power_from_plate(*plate), derived.computed_amps
    ratio = power / motor.rated_power
    numbers = {"computed": power, "plate": motor.rated_power, "amps": motor.rated_current, "expected": amps}
    if practice.motor.PLATE.holds(ratio):
        return clear(
            "Plate agrees with itself",
            say("{computed} from volts and amps, {plate} on the plate.", **numbers),
        )
    evidence = "{amps} at {volts} would be {computed}; the plate says {plate}, which needs {expected}."
    numbers["volts"] = motor.rated_voltage
    fix = Fix("motor.rated_current", round(float(amps), 3), say("{expected}?", expected=amps))
    for factor, other in _OTHER_VOLTAGES:
        if abs(ratio * factor - 1) < practice.motor.OTHER_VOLTS:
            volts = given("other_voltage", float(motor.rated_voltage) * factor, "voltage", other)
            numbers["other"] = volts
            return stop(
                "Amps of the other voltage",
                say(evidence + " It fits {other}: the other connection of the plate.", **numbers),
                say("Read the amps printed beside {volts}; about {expected}.", **numbers),
                fix,
            )
    for decade in (0.01, 0.1, 10.0, 100.0):
        if abs(ratio / decade - 1) < practice.motor.DECADE:
            return stop(
                "Amps are a decade off",
                say(evidence, **numbers),
                say("Look for the decimal mark; about {expected}.", **numbers),
                fix,
            )
    if (slip := _other_unit(line, ratio, say(evidence, **numbers))) is not None:
        return slip
    judge = caution if practice.motor.PLATE_DOUBTED.holds(ratio) else stop
    return judge(
        "Plate disagrees with itself",
        say(evidence, **numbers),
        say("Read power, volts, amps, power factor and efficiency again, all at the connection in use."),
    )


def _other_unit(line: Line, ratio: float, evidence: Sentence) -> Verdict | None:
    """Horsepower entered as kilowatts, or the other way round."""
    rated, in_kilowatt = float(line.motor.rated_power), HORSEPOWER / 1000
    for factor, title in (
        (in_kilowatt, "Power may be horsepower entered as kilowatts"),
        (1 / in_kilowatt, "Power may be kilowatts entered as horsepower"),
    ):
        if abs(ratio / factor - 1) < practice.motor.OTHER_UNIT:
            likely = given("likely_power", rated * factor, "power", "the same number in the other unit")
            return stop(
                title,
                evidence,
                say("Read the unit of the power on the plate; {likely} would agree.", likely=likely),
                Fix("motor.rated_power", float(likely), say("{likely}?", likely=likely)),
            )
    return None


_OTHER_VOLTAGES = (
    (1 / 3**0.5, "volts of the delta connection"),
    (3**0.5, "volts of the star connection"),
    (0.5, "half the volts"),
    (2.0, "twice the volts"),
)


@check(
    place="motor",
    about="the power factor that volts and amps imply",
    needs=("motor.rated_power", "motor.rated_voltage", "motor.rated_current", "motor.efficiency"),
    holds="data",
    source=COMMON_PRACTICE,
    only=("induction",),
    doubts="motor.rated_current",
    answers=("motor.rated_current", "motor.rated_power", "motor.rated_voltage"),
)
def power_factor_is_possible(line: Line, derived: Derived) -> Verdict | None:
    """Without a plate power factor, the one implied must be one that motors have."""
    motor = line.motor
    if motor.has("power_factor"):
        return None
    implied = implied_power_factor(motor.rated_power, motor.rated_voltage, motor.rated_current, motor.efficiency)
    numbers = {
        "implied": implied,
        "amps": motor.rated_current,
        "volts": motor.rated_voltage,
        "power": motor.rated_power,
    }
    if implied > practice.motor.POWER_FACTOR.high:
        return stop(
            "Too few amps for this power",
            say("{amps} at {volts} would need a power factor of {implied} to make {power}.", **numbers),
            say("Read the amps at the connection in use, and the unit of the power."),
        )
    if implied < practice.motor.POWER_FACTOR.low:
        return stop(
            "Too many amps for this power",
            say("{amps} at {volts} is a power factor of only {implied} for {power}.", **numbers),
            say("Read the amps at the connection in use: those of the lower voltage may have been taken."),
        )
    return clear("Amps fit the power", say("{amps} at {volts} imply a power factor of {implied}.", **numbers))


@check(
    place="motor",
    about="efficiency against its class",
    needs=("motor.efficiency", "motor.rated_power", "motor.rated_speed", "motor.rated_frequency"),
    source=Source("IEC 60034-30-1 / NEMA MG-1 12-12", "from memory", "standard"),
    only=("induction",),
    once=("motor.ie_class",),
    doubts="motor.efficiency",
    answers=("motor.efficiency", "motor.ie_class"),
)
def efficiency_fits_class(line: Line, derived: Derived) -> Verdict | None:
    """Plate efficiency close to what its class promises for the size."""
    motor = line.motor
    try:
        poles = derived.poles
    except OutOfRange:
        return None  # said of the speed
    try:
        expected = class_efficiency(motor.rated_power, poles, motor.ie_class, motor.rated_frequency)
    except OutOfRange as reason:
        return clear(
            "Class has no limit for this motor",
            say("{power}, {poles} poles at {hz}: " + f"no limit of {motor.ie_class} in the tables. "
                + reason.tellings.replace("{", "(").replace("}", ")"),
                power=motor.rated_power, poles=poles, hz=motor.rated_frequency),
        )  # fmt: skip
    numbers = {"plate": motor.efficiency, "expected": expected, "power": motor.rated_power, "poles": poles}
    if abs(motor.efficiency - expected) <= practice.motor.CLASS_WITHIN:
        return clear(
            "Efficiency fits its class",
            say(f"{{plate}} on the plate, {motor.ie_class} at {{power}} and {{poles}} poles: {{expected}}.", **numbers),
        )
    return caution(
        "Efficiency does not fit its class",
        say(f"{{plate}} entered; {motor.ie_class} at {{power}} and {{poles}} poles is {{expected}}.", **numbers),
        say("Read efficiency and class again; the standard value is {expected}.", **numbers),
        Fix("motor.efficiency", round(float(expected), 3), say("{expected}?", expected=expected)),
    )


@check(
    place="motor",
    about="amps against the standard table",
    needs=("motor.rated_power", "motor.rated_voltage", "motor.rated_current", "motor.rated_frequency"),
    holds="data",
    source=Source("IEC 60947-4-1 annex G (50 Hz), NEC table 430.250 (60 Hz)", "from memory", "standard"),
    only=("induction",),
    doubts="motor.rated_current",
    answers=("motor.rated_current", "motor.rated_power", "motor.rated_voltage"),
)
def amps_near_table(line: Line, derived: Derived) -> Verdict | None:
    """Plate amps within a third of what the tables give for the size; the likeliest slip if not."""
    motor = line.motor
    try:
        usual = usual_full_load_current(motor.rated_power, motor.rated_voltage, motor.rated_frequency)
    except OutOfRange:
        return None
    if motor.has("power_factor") and motor.has("efficiency") and not practice.motor.PLATE.holds(_own_ratio(line)):
        return None  # the plate's own arithmetic says it better
    ratio = multiple_of(motor.rated_current, usual)
    numbers = {"amps": motor.rated_current, "usual": usual, "power": motor.rated_power, "volts": motor.rated_voltage}
    usual_ratio = practice.motor.TABLE
    small = motor.rated_power < practice.motor.TABLE_SMALL_BELOW  # small motors differ more
    if usual_ratio.low <= ratio <= (practice.motor.TABLE_SMALL if small else usual_ratio.high):
        return clear(
            "Amps near the table", say("{amps} on the plate, {usual} usual for {power} at {volts}.", **numbers)
        )
    evidence = say("{amps} entered; {usual} is usual for {power} at {volts}.", **numbers)
    for decade in (10.0, 100.0, 0.1, 0.01):
        if practice.motor.TABLE_MOVED.holds(ratio * decade):
            moved = given("moved_point", round(float(motor.rated_current) * decade, 3), "current", "decimal mark moved")
            return stop(
                "Amps are far from the table",
                evidence,
                say("Look for the decimal mark; {moved} would fit.", moved=moved),
                Fix("motor.rated_current", float(moved), say("{moved}?", moved=moved)),
            )
    for factor, name in ((1.732, "delta or star volts"), (2.0, "half or double volts")):
        if practice.motor.TABLE_OTHER.holds(ratio / factor) or practice.motor.TABLE_OTHER.holds(ratio * factor):
            return stop(
                "Amps may belong to the other connection",
                evidence,
                say(f"Read the amps beside the volts in use: these fit the {name}; about {{usual}}.", usual=usual),
                Fix("motor.rated_current", round(float(usual), 2), say("{usual}?", usual=usual)),
            )
    judge = caution if practice.motor.TABLE_STOP.holds(ratio) else stop
    return judge(
        "Amps are far from the table",
        evidence,
        say("Read power with its unit, volts and amps again, all at the connection in use."),
    )


def _own_ratio(line: Line) -> float:
    motor = line.motor
    plate = (motor.rated_voltage, motor.rated_current, motor.power_factor, motor.efficiency)
    return power_from_plate(*plate) / motor.rated_power


@check(
    place="motor",
    about="poles against r/min",
    needs=("motor.rated_speed", "motor.rated_frequency"),
    holds="data",
    source=Source("any text on AC machines: n = 120 f / p", kind="law"),
    only=_SLIPS,
    once=("motor.poles",),
    doubts="motor.poles",
    answers=("motor.poles", "motor.rated_speed"),
)
def poles_agree_with_speed(line: Line, derived: Derived) -> Verdict:
    """The poles printed are those that Hz and r/min give."""
    printed, found = line.motor.poles, derived.poles
    numbers = {"printed": printed, "found": found, "speed": line.motor.rated_speed, "hz": line.motor.rated_frequency}
    if printed == found:
        return clear("Poles agree with speed", say("{printed} poles and {speed} at {hz}.", **numbers))
    return stop(
        "Poles and speed disagree",
        say("{printed} poles entered; {speed} at {hz} belongs to {found}.", **numbers),
        say("Read both again; {found} poles fit the speed.", **numbers),
        Fix("motor.poles", float(found), say("{found}?", found=found)),
    )


@check(
    place="motor",
    about="the two voltages of the plate",
    needs=("motor.rated_voltage", "motor.rated_current"),
    holds="data",
    source=COMMON_PRACTICE,
    once=("motor.other_voltage", "motor.other_current"),
    doubts="motor.rated_current",
    answers=("motor.rated_current", "motor.other_current", "motor.rated_voltage", "motor.other_voltage"),
)
def voltage_pair_agrees(line: Line, derived: Derived) -> Verdict:
    """Volts times amps is the same at both connections."""
    motor = line.motor
    used, other = motor.rated_voltage * motor.rated_current, motor.other_voltage * motor.other_current
    numbers = {
        "v1": motor.rated_voltage,
        "a1": motor.rated_current,
        "v2": motor.other_voltage,
        "a2": motor.other_current,
    }
    if abs(used / other - 1) <= practice.motor.PAIR_WITHIN:
        return clear("Both connections agree", say("{a1} at {v1} is as much as {a2} at {v2}.", **numbers))
    swapped = motor.rated_voltage * motor.other_current / (motor.other_voltage * motor.rated_current)
    crossed = abs(swapped - 1) <= practice.motor.PAIR_WITHIN
    likely = given("likely_amps", round(other / motor.rated_voltage, 2), "current", "volts times amps alike")
    if crossed:
        likely = given("likely_amps", float(motor.other_current), "current", "the amps of the other pair")
    return stop(
        "Amps of the two connections are crossed" if crossed else "The two connections disagree",
        say("{a1} at {v1} and {a2} at {v2} are not the same power.", **numbers),
        say("The higher volts have the lower amps; {likely} at {v1} would agree.", likely=likely, **numbers),
        Fix("motor.rated_current", float(likely), say("{likely}?", likely=likely)),
    )


@check(
    place="motor",
    about="service-factor amps",
    needs=("motor.service_factor_current", "motor.rated_current"),
    holds="data",
    source=COMMON_PRACTICE,
    only=("submersible",),
    doubts="motor.service_factor_current",
    answers=("motor.service_factor_current", "motor.rated_current"),
)
def service_factor_amps_fit(line: Line, derived: Derived) -> Verdict:
    """Service-factor amps lie a little above the full-load amps."""
    full, service = line.motor.rated_current, line.motor.service_factor_current
    ratio = multiple_of(service, full)
    possible = practice.motor.SERVICE_AMPS
    numbers = {"service": service, "full": full, "ratio": ratio, "low": possible.low, "high": possible.high}
    if possible.holds(ratio):
        return clear("Service-factor amps fit", say("{service} is {ratio} × the full-load {full}.", **numbers))
    usual = given(
        "usual_service_amps", round(practice.motor.SERVICE_USUAL * full, 2), "current", "usual over full-load"
    )
    return stop(
        "Service-factor amps do not fit",
        say("{service} is {ratio} × the full-load {full}; {low} to {high} is possible.", **numbers),
        say("Read both on the plate; the drive, the cable and the limit are sized on the service-factor amps."),
        Fix("motor.service_factor_current", float(usual), say("{usual}?", usual=usual)),
    )


_TWICE = ("back_emf", "stator_resistance", "inductance_d", "inductance_q", "magnet_poles")


@check(
    place="motor",
    about="the five exact values, typed twice",
    needs=tuple(f"motor.{name}{again}" for name in _TWICE for again in ("", "_again")),
    holds="data",
    source=COMMON_PRACTICE,
    only=("permanent_magnet",),
    partial=True,
    answers=tuple(f"motor.{name}{again}" for name in _TWICE for again in ("", "_again")),
)
def exact_values_agree(line: Line, derived: Derived) -> Verdict:
    """Each of the five is the same both times, to the last digit; two that differ are told before the rest is there."""
    for name in sorted(_TWICE, key=lambda name: not line.has(f"motor.{name}") or not line.has(f"motor.{name}_again")):
        first, again = line.figure(f"motor.{name}"), line.figure(f"motor.{name}_again")
        if first != again:
            twice = (f"motor.{name}", f"motor.{name}_again")
            differs = stop(
                "Typed twice, not the same",
                say(
                    f"{find_field(f'motor.{name}').label}: {{first}} the first time, {{again}} the second.",
                    first=first,
                    again=again,
                ),
                say("Read the plate once more and correct the one that is wrong. Do not start it on a guess."),
            )
            return replace(differs, answers=twice)
    return clear(
        "Five exact values, twice the same",
        say("Back-EMF {emf}, resistance {r}.", emf=line.motor.back_emf, r=line.motor.stator_resistance),
    )


@check(
    place="motor",
    about="back-EMF against the volts",
    needs=("motor.back_emf", "motor.rated_speed", "motor.rated_voltage"),
    holds="data",
    source=COMMON_PRACTICE,
    only=("permanent_magnet",),
    doubts="motor.back_emf",
    answers=("motor.back_emf", "motor.back_emf_at", "motor.rated_voltage"),
)
def back_emf_is_possible(line: Line, derived: Derived) -> Verdict:
    """Back-EMF at rated speed is a possible share of the rated volts."""
    motor = line.motor
    at_speed = derived.emf_at_rated_speed
    share = share_of(at_speed, motor.rated_voltage)
    numbers = {"emf": at_speed, "share": share, "volts": motor.rated_voltage, "speed": motor.rated_speed}
    numbers |= {"low": practice.motor.EMF.low, "high": practice.motor.EMF.high}
    if practice.motor.EMF.holds(share):
        return clear("Back-EMF fits the volts", say("{emf} at {speed}, {share} of {volts}.", **numbers))
    return stop(
        "Back-EMF does not fit the volts",
        say("It would be {emf} at {speed}, {share} of {volts}; {low} to {high} is possible.", **numbers),
        say("Read its unit: volts at 1000 r/min, line to line, root mean square. Peak values are 1.41 times as large."),
    )


@check(
    place="motor",
    about="poles, frequency and speed of the rotor",
    needs=("motor.magnet_poles", "motor.rated_frequency", "motor.rated_speed"),
    holds="data",
    source=Source("any text on AC machines: n = 120 f / p", kind="law"),
    only=("permanent_magnet",),
    doubts="motor.rated_speed",
    answers=("motor.rated_speed", "motor.magnet_poles", "motor.rated_frequency"),
)
def magnet_speed_is_synchronous(line: Line, derived: Derived) -> Verdict:
    """A permanent-magnet rotor has no slip."""
    motor = line.motor
    synchronous = synchronous_speed(motor.rated_frequency, motor.magnet_poles)
    numbers = {
        "speed": motor.rated_speed,
        "sync": synchronous,
        "poles": motor.magnet_poles,
        "hz": motor.rated_frequency,
    }
    if abs(motor.rated_speed / synchronous - 1) <= practice.motor.MAGNET_WITHIN:
        return clear("Speed is synchronous", say("{speed} at {hz} and {poles} poles.", **numbers))
    return stop(
        "Speed, poles and frequency disagree",
        say("{poles} poles at {hz} turn at {sync}, the plate says {speed}.", **numbers),
        say("A permanent-magnet rotor has no slip: one of the three is misread."),
        Fix("motor.rated_speed", round(float(synchronous), 1), say("{sync}?", sync=synchronous)),
    )


@check(
    place="motor",
    about="whether a drive may feed this motor",
    needs=("motor.rated_power", "motor.starting"),
    holds="power",
    source=COMMON_PRACTICE,
    only=("single_phase",),
    answers=("motor.runs", "motor.starting", "motor.type"),
)
def single_phase_motor_on_drive(line: Line, derived: Derived) -> Verdict:
    """A capacitor motor does not run on an ordinary drive, and one with a start switch on none."""
    if line.motor.starting == "switch":
        return stop(
            "A start switch does not stand a drive",
            say(
                "{power}: below three quarters of its speed the switch puts the start winding back, which then burns.",
                power=line.motor.rated_power,
            ),
            say("Use a three-phase motor; or one with a capacitor that stays in, on a drive whose manual says so."),
        )
    if line.value("motor.runs") == "single_phase":
        return clear("Drive is made for single-phase motors", say("Two or three wires as its manual shows."))
    return stop(
        "Single-phase motor on an ordinary drive",
        say("{power}: its capacitor and start switch burn on a drive's output.", power=line.motor.rated_power),
        say("Use a three-phase motor, or a drive whose manual says that it runs single-phase motors."),
    )


@check(
    place="motor",
    about="whether a drive may feed this motor",
    needs=("motor.runs",),
    holds="power",
    source=COMMON_PRACTICE,
    only=("permanent_magnet",),
    answers=("motor.runs",),
)
def drive_runs_magnet_motor(line: Line, derived: Derived) -> Verdict:
    """A permanent-magnet motor needs a drive that can."""
    if line.motor.runs == "magnet":
        return clear("Drive runs permanent-magnet motors", say("As its manual says."))
    return stop(
        "Drive is not made for this motor",
        say("A permanent-magnet rotor needs its own control in the drive."),
        say(
            "Check the manual; take a drive that runs permanent-magnet motors. A turning rotor makes volts: isolate it."
        ),
    )


@check(
    place="motor",
    about="air at the motor",
    needs=(),
    source=Source("IEC 60034-1", "40 °C, less 1 % of the rise limit per 100 m over 1000 m, from memory", "standard"),
    once=("motor.ambient", "motor.insulation"),
    answers=("motor.ambient",),
    meant="motor.ambient",
)
def air_at_motor(line: Line, derived: Derived) -> Verdict:
    """Hottest air at the motor against what its class allows at this altitude."""
    motor = line.motor
    rise = given("rise_limit", RISE_LIMIT[motor.insulation], "temperature_difference", f"class {motor.insulation}")
    limit = motor_ambient_at_altitude(rise, derived.altitude)
    numbers = {"air": motor.ambient, "limit": limit, "altitude": derived.altitude}
    if motor.ambient <= limit:
        return clear("Air at the motor is cool enough", say("{air}, up to {limit} at {altitude}.", **numbers))
    return caution(
        "Air at the motor is too hot for its rating",
        say("{air}; at {altitude} its class allows {limit} at full load.", **numbers),
        say("Cool the place, load it less, or take a motor that is rated for this air."),
    )
