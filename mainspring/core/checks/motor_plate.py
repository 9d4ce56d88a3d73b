"""The second pair of eyes at the motor's plate."""

from collections.abc import Iterator

from mainspring.core.checks.finding import Fix, Verdict, caution, check, clear, stop
from mainspring.core.derived import Derived
from mainspring.core.errors import OutOfRange
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Source, given
from mainspring.core.motor.current import implied_power_factor, power_from_plate
from mainspring.core.motor.efficiency import class_efficiency
from mainspring.core.motor.speed import synchronous_speed
from mainspring.core.quantity import HORSEPOWER
from mainspring.core.sentence import say

_SLIP = Source("IEC 60034-1 / NEMA MG-1", "slip of an induction motor at full load", "standard")
SMALL_MOTOR = 1000.0  # W; below it a plate may show up to 12 % slip (common practice)


def _largest_slip(power: float) -> float:
    return 0.12 if power < SMALL_MOTOR else 0.06


def _usual_slip(power: float) -> float:
    """Slip to expect at full load: falls with size; only used to propose a reading, never to compute."""
    for limit, usual in ((1.5e3, 0.05), (4e3, 0.04), (11e3, 0.033), (45e3, 0.02)):
        if power < limit:
            return usual
    return 0.012


@check(
    place="motor",
    about="slip at full load",
    needs=("motor.rated_frequency", "motor.rated_speed", "motor.rated_power"),
    source=_SLIP,
)
def speed_leaves_slip(line: Line, derived: Derived) -> Verdict:
    """Full-load speed lies below synchronous speed by a slip that motors of this size have."""
    motor = line.motor
    speed, frequency = motor.rated_speed, motor.rated_frequency
    for poles in (2, 4, 6, 8, 10, 12):
        synchronous = synchronous_speed(frequency, given("poles", poles, "count"))
        if abs(speed - synchronous) < 0.002 * synchronous:
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
    if found > largest or derived.poles > 12:
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
                largest=given("largest_slip", largest, "percent", "common practice"),
            ),
            say("Read the full-load speed again; a digit may be missing."),
            None if proposal is None else Fix("motor.rated_speed", float(proposal), say("{p}?", p=proposal)),
        )
    if found < 0.004:
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
        near = [c for c in candidates if 0.004 < 1 - c / synchronous < largest]
        fits += [(rank, abs(1 - c / synchronous - 0.02), c) for c in near]
    yield from (float(c) for *_, c in sorted(fits))


@check(
    place="motor",
    about="whether the plate agrees with itself",
    needs=("motor.rated_power", "motor.rated_voltage", "motor.rated_current", "motor.power_factor", "motor.efficiency"),
    source=DERIVED,
)
def plate_agrees_with_itself(line: Line, derived: Derived) -> Verdict:
    """√3·V·I·pf·η against the rated power, and what the mistake would be if they differ."""
    motor = line.motor
    power = power_from_plate(motor.rated_voltage, motor.rated_current, motor.power_factor, motor.efficiency)
    ratio = power / motor.rated_power
    amps = derived.computed_amps
    numbers = {"computed": power, "plate": motor.rated_power, "amps": motor.rated_current, "expected": amps}
    if 0.9 <= ratio <= 1.12:
        return clear(
            "Plate agrees with itself",
            say("{computed} from volts and amps, {plate} on the plate.", **numbers),
        )
    evidence = "{amps} at {volts} would be {computed}; the plate says {plate}, which needs {expected}."
    numbers["volts"] = motor.rated_voltage
    fix = Fix("motor.rated_current", round(float(amps), 3), say("{expected}?", expected=amps))
    for factor, other in _OTHER_VOLTAGES:
        if abs(ratio * factor - 1) < 0.08:
            volts = given("other_voltage", float(motor.rated_voltage) * factor, "voltage", other)
            numbers["other"] = volts
            return stop(
                "Amps of the other voltage",
                say(evidence + " It fits {other}: the other connection of the plate.", **numbers),
                say("Read the amps printed beside {volts}; about {expected}.", **numbers),
                fix,
            )
    for decade in (0.01, 0.1, 10.0, 100.0):
        if abs(ratio / decade - 1) < 0.12:
            return stop(
                "Amps are a decade off",
                say(evidence, **numbers),
                say("Look for the decimal mark; about {expected}.", **numbers),
                fix,
            )
    for factor, title, value in (
        (
            HORSEPOWER / 1000,
            "Power may be horsepower entered as kilowatts",
            float(motor.rated_power) * HORSEPOWER / 1e3,
        ),
        (
            1000 / HORSEPOWER,
            "Power may be kilowatts entered as horsepower",
            float(motor.rated_power) * 1e3 / HORSEPOWER,
        ),
    ):
        if abs(ratio / factor - 1) < 0.05:
            likely = given("likely_power", value, "power", "the same number in the other unit")
            return stop(
                title,
                say(evidence, **numbers),
                say("Read the unit of the power on the plate; {likely} would agree.", likely=likely),
                Fix("motor.rated_power", value, say("{likely}?", likely=likely)),
            )
    judge = stop if not 0.8 <= ratio <= 1.25 else caution
    return judge(
        "Plate disagrees with itself",
        say(evidence, **numbers),
        say("Read power, volts, amps, power factor and efficiency again, all at the connection in use."),
    )


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
    source=COMMON_PRACTICE,
)
def power_factor_is_possible(line: Line, derived: Derived) -> Verdict | None:
    """Without a plate power factor, the one implied must lie between 0.60 and 0.95."""
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
    if implied > 0.95:
        return stop(
            "Too few amps for this power",
            say("{amps} at {volts} would need a power factor of {implied} to make {power}.", **numbers),
            say("Read the amps at the connection in use, and the unit of the power."),
        )
    if implied < 0.60:
        return stop(
            "Too many amps for this power",
            say("{amps} at {volts} is a power factor of only {implied} for {power}.", **numbers),
            say("Read the amps at the connection in use: those of the lower voltage may have been taken."),
        )
    return clear("Amps fit the power", say("{amps} at {volts} imply a power factor of {implied}.", **numbers))


@check(
    place="motor",
    about="efficiency against its class",
    needs=("motor.efficiency", "motor.ie_class", "motor.rated_power", "motor.rated_speed", "motor.rated_frequency"),
    source=Source("IEC 60034-30-1 / NEMA MG-1 12-12", "from memory", "standard"),
)
def efficiency_fits_class(line: Line, derived: Derived) -> Verdict | None:
    """Plate efficiency close to what its class promises for the size."""
    motor = line.motor
    try:
        expected = class_efficiency(motor.rated_power, derived.poles, motor.ie_class, motor.rated_frequency)
    except OutOfRange:
        return None
    numbers = {"plate": motor.efficiency, "expected": expected, "power": motor.rated_power, "poles": derived.poles}
    if abs(motor.efficiency - expected) <= 0.02:
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
