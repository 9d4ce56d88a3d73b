"""Drive – motor: amps before power."""

from mainspring.core import practice
from mainspring.core.checks.finding import Fix, Verdict, caution, check, clear, stop
from mainspring.core.derived import Derived
from mainspring.core.drive.motor_lead import critical_lead_length, motor_peak_voltage
from mainspring.core.drive.rating import altitude_derating, ambient_derating
from mainspring.core.electrical.cables import (
    CABLE_REACTANCE,
    awg_ampacity,
    conductor_resistance,
    drop_share,
    metric_ampacity,
    motor_branch_ampacity,
    smallest_awg,
    three_phase_drop,
)
from mainspring.core.electrical.harmonics import bus_voltage_peak
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, Figure, Source, assume_practice, given
from mainspring.core.motor.cooling import motor_peak_withstand
from mainspring.core.ratios import margin, multiple_of
from mainspring.core.sentence import in_sentence, say
from mainspring.core.tables import table


@check(
    place="drive-motor",
    about="whether the drive carries the motor's amps",
    needs=("drive.rated_current", "motor.rated_current", "drive.ambient", "drive.ambient_rating"),
    holds="power",
    source=COMMON_PRACTICE,
    answers=("drive.rated_current", "motor.rated_current"),
    meant="drive.rated_current",
)
def drive_carries_motor_amps(line: Line, derived: Derived) -> Verdict:
    """The drive is sized on amps, not on power."""
    needed, available = derived.motor_amps, derived.drive_amps
    numbers = {"needed": needed, "available": available, "rated": derived.rated_amps}
    if available < needed:
        factors = {
            "kz": altitude_derating(derived.altitude),
            "kt": ambient_derating(derived.drive_air, line.drive.ambient_rating),
            "kc": derived.carrier_factor,
            "k1": derived.phase_factor,
        }
        return stop(
            "Drive too small for this motor",
            say(
                "The motor draws {needed} at full load, the drive gives {available} here ({rated} rated × {kz} altitude"
                " × {kt} air × {kc} carrier × {k1} phases).",
                **numbers,
                **factors,
            ),
            say("Choose a drive rated at least for the motor's amps at this altitude and temperature."),
        )
    spare = margin(available, needed)
    if available > practice.drive.OVERSIZE * needed:
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
    holds="data",
    source=COMMON_PRACTICE,
    only=("induction", "single_phase"),  # the volts of a permanent-magnet plate are its back-EMF,
    answers=("motor.rated_voltage", "supply.voltage"),
)
def drive_makes_motor_volts(line: Line, derived: Derived) -> Verdict:
    """A drive gives no more volts than it gets; a motor in delta may be run past its hertz on the volts of star."""
    supply, motor = line.supply.voltage, line.motor.rated_voltage
    numbers = {"supply": supply, "motor": motor}
    if supply < motor * (1 - practice.supply.VOLTS_OFF):
        return stop(
            "Motor connected for more volts than there are",
            say("The connection in use needs {motor}, the supply gives {supply}.", **numbers),
            say("Reconnect the motor for the supply's volts, and read the amps that belong to them."),
        )
    if supply > motor * (1 + practice.supply.VOLTS_OFF):
        delta = practice.motor.DELTA.holds(supply / motor)
        if delta and line.has_any("drive.rated_current") and line.drive.rated_current >= derived.motor_amps:
            top = line.motor.rated_frequency * (supply / motor)
            numbers["top"] = given("top", round(top, 1), "frequency", "volts over hertz kept up to the supply's volts")
            return clear(
                "In delta, its volts last beyond the plate's hertz",
                say(
                    "Connected for {motor} on {supply}, by a drive for its amps: full torque up to {top}. Set plate"
                    " volts and hertz as they stand; bearings and machine must be made for the speed.",
                    **numbers,
                ),
            )
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
    answers=("drive.rated_power", "motor.rated_power"),
    meant="drive.rated_power",
)
def drive_power_covers_motor(line: Line, derived: Derived) -> Verdict | None:
    """Motor power not above the drive's; said after the amps, which decide."""
    drive, motor = line.drive.rated_power, line.motor.rated_power
    if motor > drive * practice.drive.POWER_OVER:
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
    holds="data",
    source=Source("NEMA MG-1 part 30", "service factor does not hold on a drive, from memory", "standard"),
    answers=("drive.current_limit",),
    meant="drive.current_limit",
)
def current_limit_fits(line: Line, derived: Derived) -> Verdict:
    """Plate amps by default; 1.15 × plate only with that service factor; never above the drive."""
    plate, drive = derived.motor_amps, line.drive.rated_current
    if not line.drive.has("current_limit"):
        planned = derived.current_limit
        if planned < plate:
            return clear(
                "Current limit follows the drive",
                say("It will be set to {planned}, all that the drive gives here; the plate has {plate}.",
                    planned=planned, plate=plate),
            )  # fmt: skip
        return clear(
            "Current limit follows the plate",
            say("It will be set to {plate}; a service factor is stated for sine supply.", plate=plate),
        )
    limit = line.drive.current_limit
    ratio = multiple_of(limit, plate)
    over, by_service = practice.drive.LIMIT_OVER, practice.drive.SERVICE_LIMIT
    numbers = {"limit": limit, "plate": plate, "drive": drive, "ratio": ratio, "most": by_service}
    fix = Fix("drive.current_limit", float(plate), say("{plate}?", plate=plate))
    if limit > drive:
        return stop(
            "Current limit above the drive's rating",
            say("{limit} wanted, the drive gives {drive}.", **numbers),
            say("Set it to {plate}, the motor's amps.", **numbers),
            fix,
        )
    service = line.motor.service_factor if line.motor.has("service_factor") else None
    serves = service is not None and service >= by_service
    if ratio > by_service * over or (ratio > over and not serves):
        return stop(
            "Current limit does not protect the motor",
            say("{limit} is {ratio} × the plate's {plate}.", **numbers)
            if service is None or serves
            else say("{limit} is {ratio} × the plate's {plate}, and the plate has no service factor.", **numbers),
            say("Set it to {plate}; {most} × plate only where the plate has that service factor.", **numbers),
            fix,
        )
    if ratio > over:
        return caution(
            "Current limit uses the service factor",
            say("{limit} is {ratio} × {plate}. On a drive the motor runs hotter than on sine supply.", **numbers),
            say("Keep it only by decision; {plate} is the default.", **numbers),
            fix,
        )
    if ratio < practice.drive.LIMIT_UNDER:
        return caution(
            "Current limit far below the plate",
            say("{limit} is {ratio} × {plate}: the drive may not reach full speed.", **numbers),
            say("Check the arithmetic, or note the reason."),
            fix,
        )
    return clear("Current limit protects the motor", say("{limit} against {plate} on the plate.", **numbers))


@check(
    place="drive-motor",
    about="the motor lead",
    needs=("drive.lead_length",),
    source=COMMON_PRACTICE,
    answers=("drive.output_filter", "drive.lead_length"),
    meant="drive.lead_length",
)
def motor_lead_is_short(line: Line, derived: Derived) -> Verdict:
    """Lead length against the critical length of reflected waves and the advice ladder."""
    length = line.drive.lead_length
    critical = critical_lead_length(assume_practice("drive.rise_time", practice.drive.RISE_TIME))
    plain, behind = line.own(practice.drive.LEAD_PLAIN), line.own(practice.drive.LEAD_FILTERED)
    numbers = {"length": length, "critical": critical, "plain": plain, "behind": behind}
    filtered = line.value("drive.output_filter") in ("dvdt", "sine")
    if filtered and (length <= behind or line.value("drive.output_filter") == "sine"):
        kind = line.drive.fields["output_filter"].choices[line.drive.output_filter]  # type: ignore[attr-defined]
        return clear("Motor lead is filtered", say(f"{{length}} behind a {in_sentence(kind)}.", **numbers))
    if length <= plain:
        if length <= critical:
            return clear("Motor lead is short", say("{length}, below the critical {critical}.", **numbers))
        return clear(
            "Motor lead needs no filter",
            say(
                "{length}: beyond {critical} the reflected peak is full, which an inverter-rated motor stands up to"
                " {plain}.",
                **numbers,
            ),
        )
    if length <= behind:
        return caution(
            "Motor lead needs a filter",
            say("{length}, over {plain}; beyond {critical} the reflected peak is full.", **numbers),
            say("Fit a dV/dt filter, keep the carrier low, and check the motor's peak-voltage rating."),
        )
    return caution(
        "Motor lead needs a sine filter",
        say("{length}, over {behind}; beyond {critical} the reflected peak is full.", **numbers),
        say("Fit a sine filter by the drive's manual; count its 2 to 5 % volt drop."),
    )


@check(
    place="drive-motor",
    about="peak volts at the motor",
    needs=("drive.lead_length", "supply.voltage"),
    source=Source("NEMA MG-1", "part 30: 1000 V; part 31: 3.1 × rated volts, from memory", "standard"),
    once=("motor.inverter_duty",),
    answers=("drive.output_filter", "drive.lead_length", "motor.inverter_duty"),
    meant="motor.inverter_duty",
)
def motor_stands_the_peaks(line: Line, derived: Derived) -> Verdict:
    """Reflected peaks against what the insulation stands."""
    critical = critical_lead_length(assume_practice("drive.rise_time", practice.drive.RISE_TIME))
    peak = motor_peak_voltage(bus_voltage_peak(line.supply.voltage), line.drive.lead_length, critical)
    general = line.motor.inverter_duty == "no"
    if general:
        stands = given("general_withstand", 1000.0, "voltage", "general-purpose motor, MG-1 part 30")
    else:
        stands = motor_peak_withstand(line.supply.voltage)
    numbers = {"peak": peak, "stands": stands, "length": line.drive.lead_length}
    filtered = line.value("drive.output_filter") in ("dvdt", "sine")
    if peak <= stands or filtered:
        return clear("Insulation stands the peaks", say("Up to {peak} at {length}, {stands} allowed.", **numbers))
    return caution(
        "Peaks above what the motor stands",
        say("Up to {peak} at {length}; {stands} allowed for this insulation.", **numbers),
        say("Fit a dV/dt filter, shorten the lead, or take an inverter-duty motor."),
    )


@check(
    place="drive-motor",
    about="carrier against lead and heat",
    needs=("drive.lead_length",),
    source=COMMON_PRACTICE,
    once=("drive.carrier",),
    answers=("drive.carrier", "drive.output_filter"),
    meant="drive.carrier",
)
def carrier_suits_lead(line: Line, derived: Derived) -> Verdict:
    """High carriers cost amps and multiply the reflections of a long lead."""
    drive = line.drive
    numbers = {"carrier": drive.carrier, "length": drive.lead_length, "left": derived.carrier_factor}
    long = drive.lead_length > line.own(practice.drive.LEAD_PLAIN) and line.value("drive.output_filter") != "sine"
    if long and drive.carrier > practice.drive.LONG_LEAD_CARRIER:
        return caution(
            "High carrier on a long lead",
            say("{carrier} on {length} of lead: more reflections and more leakage to earth.", **numbers),
            say("Take 2 to 4 kHz, or a sine filter made for the carrier."),
        )
    if derived.carrier_factor < practice.drive.CARRIER_AMPS:
        return caution(
            "High carrier costs amps",
            say("{carrier} leaves {left} of the drive's amps.", **numbers),
            say("Take 2 to 4 kHz unless the noise is heard; the drive's manual gives its own curve."),
        )
    return clear("Carrier suits lead and heat", say("{carrier} on {length}, {left} of the amps left.", **numbers))


@check(
    place="drive-motor",
    about="the conductors of the lead",
    needs=("drive.lead_length", "motor.rated_current", "motor.rated_voltage"),
    holds="power",
    source=Source("NEC 430.22 and table 310.16; IEC 60364-5-52; the local code governs", "from memory", "standard"),
    once=("drive.lead_size",),
    answers=("drive.lead_size", "drive.lead_length"),
    meant="drive.lead_size",
)
def lead_is_thick_enough(line: Line, derived: Derived) -> Verdict:
    """Ampacity at 125 % of the motor's amps, and the volt drop over the length."""
    drive, amps = line.drive, derived.motor_amps
    size = drive.lead_size
    least = motor_branch_ampacity(amps)
    carries = awg_ampacity(size[3:]) if size.startswith("awg") else metric_ampacity(float(size[2:]) * 1e-6)
    area = conductor_area(size)
    power_factor = line.motor.power_factor if line.motor.has("power_factor") else given("power_factor", 0.85, "ratio")
    reactance = given("reactance", CABLE_REACTANCE, "wire_resistance", "0.08 mΩ/m, IEC 60364-5-52 annex G")
    drop = three_phase_drop(amps, drive.lead_length, conductor_resistance(area), reactance, power_factor)
    share = drop_share(drop, line.motor.rated_voltage)
    label = drive.fields["lead_size"].choices[size]  # type: ignore[attr-defined]
    numbers = {
        "carries": carries,
        "least": least,
        "amps": amps,
        "drop": drop,
        "share": share,
        "length": drive.lead_length,
        "most": line.own(practice.drive.LEAD_DROP),
    }
    if carries < least:
        return stop(
            "Lead is too thin",
            say(f"{label} carries {{carries}}; 125 % of {{amps}} is {{least}}.", **numbers),
            say(f"Take at least {smallest_awg(least)} AWG or its metric equal, by the local code."),
        )
    if share > numbers["most"]:
        return caution(
            "Volt drop in the lead is large",
            say(f"{{length}} of {label} drop {{drop}}, {{share}}; {{most}} is the target.", **numbers),
            say("Take the next size, or allow for it: the motor gets less volts at full speed."),
        )
    return clear(
        "Lead is thick enough",
        say(f"{label} carries {{carries}}, {{least}} needed; {{drop}} dropped, {{share}}.", **numbers),
    )


def conductor_area(size: str) -> Figure:
    """Area of a conductor of the choice list, mm2.5 or awg8, as a figure."""
    if size.startswith("mm"):
        return given("conductor_area", float(size[2:]) * 1e-6, "conductor_area", "as entered")
    square = float(table("conductors")["awg"][size[3:]]["area"]) * 1e-6
    return given("conductor_area", square, "conductor_area", "NEC chapter 9 table 8")
