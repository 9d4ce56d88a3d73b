"""Drive – motor: amps before power."""

from mainspring.core.checks.finding import Fix, Verdict, caution, check, clear, stop
from mainspring.core.derived import Derived
from mainspring.core.drive.motor_lead import critical_lead_length
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, Source, assume
from mainspring.core.ratios import margin, multiple_of
from mainspring.core.sentence import say


@check(
    place="drive-motor",
    about="whether the drive carries the motor's amps",
    needs=("drive.rated_current", "motor.rated_current", "drive.ambient", "drive.ambient_rating"),
    source=COMMON_PRACTICE,
)
def drive_carries_motor_amps(line: Line, derived: Derived) -> Verdict:
    """The drive is sized on amps, not on power."""
    needed, available = line.motor.rated_current, derived.drive_amps
    numbers = {"needed": needed, "available": available, "rated": line.drive.rated_current}
    if available < needed:
        return stop(
            "Drive too small for this motor",
            say("The motor draws {needed} at full load, the drive gives {available} here ({rated} rated).", **numbers),
            say("Choose a drive rated at least for the motor's amps at this altitude and temperature."),
        )
    spare = margin(available, needed)
    if available > 2 * needed:
        return caution(
            "Drive much larger than the motor",
            say("It gives {available}, the motor draws {needed}.", **numbers),
            say("Check the amps for a slip. If meant, note the reason: it measures small currents badly."),
        )
    return clear(
        "Drive carries the motor",
        say("It gives {available} here against {needed}: {spare} in hand.", spare=spare, **numbers),
    )


@check(
    place="drive-motor",
    about="whether the drive can make the motor's volts",
    needs=("supply.voltage", "motor.rated_voltage"),
    source=COMMON_PRACTICE,
)
def drive_makes_motor_volts(line: Line, derived: Derived) -> Verdict:
    """A drive gives no more volts than it gets."""
    supply, motor = line.supply.voltage, line.motor.rated_voltage
    numbers = {"supply": supply, "motor": motor}
    if motor > supply * 1.1:
        return stop(
            "Motor connected for more volts than there are",
            say("The connection in use needs {motor}, the supply gives {supply}.", **numbers),
            say("Reconnect the motor for the supply's volts, and read the amps that belong to them."),
        )
    if motor < supply * 0.9:
        return stop(
            "Motor connected for fewer volts than the supply",
            say("The connection in use is for {motor}, the supply gives {supply}.", **numbers),
            say("Check star and delta at the terminal box; set the motor volts in the drive by the connection."),
        )
    return clear("Volts agree", say("Motor connected for {motor} on {supply}.", **numbers))


@check(
    place="drive-motor",
    about="power of drive and motor",
    needs=("drive.rated_power", "motor.rated_power"),
    source=COMMON_PRACTICE,
)
def drive_power_covers_motor(line: Line, derived: Derived) -> Verdict | None:
    """Motor power not above the drive's; said after the amps, which decide."""
    drive, motor = line.drive.rated_power, line.motor.rated_power
    if motor > drive * 1.03:
        return caution(
            "Motor power above the drive's",
            say("{motor} on a drive of {drive}.", motor=motor, drive=drive),
            say("The amps decide; check both plates and the duty in use."),
        )
    return None


@check(
    place="drive-motor",
    about="the current limit",
    needs=("motor.rated_current", "drive.rated_current"),
    source=Source("NEMA MG-1 part 30", "service factor does not hold on a drive, from memory", "standard"),
)
def current_limit_fits(line: Line, derived: Derived) -> Verdict:
    """Plate amps by default; 1.15 × plate only with that service factor; never above the drive."""
    plate, drive = line.motor.rated_current, line.drive.rated_current
    if not line.drive.has("current_limit"):
        return clear(
            "Current limit follows the plate",
            say("It will be set to {plate}, since a service factor is stated for sine supply.", plate=plate),
        )
    limit = line.drive.current_limit
    ratio = multiple_of(limit, plate)
    numbers = {"limit": limit, "plate": plate, "drive": drive, "ratio": ratio}
    fix = Fix("drive.current_limit", float(plate), say("{plate}?", plate=plate))
    if limit > drive:
        return stop(
            "Current limit above the drive's rating",
            say("{limit} wanted, the drive gives {drive}.", **numbers),
            say("Set it to {plate}, the motor's amps.", **numbers),
            fix,
        )
    service = line.motor.service_factor if line.motor.has("service_factor") else None
    if ratio > 1.155 or (ratio > 1.01 and (service is None or service < 1.149)):
        return stop(
            "Current limit does not protect the motor",
            say("{limit} is {ratio} × the plate's {plate}.", **numbers)
            if service is None or service >= 1.149
            else say("{limit} is {ratio} × the plate's {plate}, and the plate has no service factor.", **numbers),
            say("Set it to {plate}; 1.15 × plate only where the plate has that service factor.", **numbers),
            fix,
        )
    if ratio > 1.01:
        return caution(
            "Current limit uses the service factor",
            say("{limit} is {ratio} × {plate}. On a drive the motor runs hotter than on sine supply.", **numbers),
            say("Keep it only by decision; {plate} is the default.", **numbers),
            fix,
        )
    if ratio < 0.7:
        return caution(
            "Current limit far below the plate",
            say("{limit} is {ratio} × {plate}: the drive may not reach full speed.", **numbers),
            say("Check the arithmetic, or note the reason."),
            fix,
        )
    return clear("Current limit protects the motor", say("{limit} against {plate} on the plate.", **numbers))


@check(place="drive-motor", about="the motor lead", needs=("drive.lead_length",), source=COMMON_PRACTICE)
def motor_lead_is_short(line: Line, derived: Derived) -> Verdict:
    """Lead length against the critical length of reflected waves and the advice ladder."""
    length = line.drive.lead_length
    critical = critical_lead_length(assume("drive.rise_time", 0.2e-6, "time", "0.2 µs, usual of modern drives"))
    numbers = {"length": length, "critical": critical}
    if length <= 30:
        where = "below" if length <= critical else "beyond"
        return clear(
            "Motor lead is short",
            say(f"{{length}}, {where} the critical {{critical}}; an inverter-rated motor stands it.", **numbers),
        )
    if length <= 150:
        return caution(
            "Motor lead needs a filter",
            say("{length}; beyond {critical} the reflected peak is full.", **numbers),
            say("Fit a dV/dt filter, keep the carrier low, and check the motor's peak-voltage rating."),
        )
    return caution(
        "Motor lead needs a sine filter",
        say("{length}; beyond {critical} the reflected peak is full.", **numbers),
        say("Fit a sine filter by the drive's manual; count its 2 to 5 % volt drop."),
    )
