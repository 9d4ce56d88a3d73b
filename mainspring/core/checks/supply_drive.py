"""Supply – drive: volts, phases, balance."""

from mainspring.core.checks.finding import Verdict, caution, check, clear, stop
from mainspring.core.derived import Derived
from mainspring.core.electrical.unbalance import unbalance
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, Source, given
from mainspring.core.ratios import mean_voltage
from mainspring.core.sentence import say

_READINGS = ("supply.reading_12", "supply.reading_23", "supply.reading_31")


@check(
    place="supply-drive",
    about="whether the supply suits the drive",
    needs=("supply.voltage", "drive.input_voltage_low", "drive.input_voltage_high"),
    source=Source("NEMA MG-1 12.44 / IEC 60038", "±10 % of the rated voltage, from memory", "standard"),
)
def supply_volts_suit_drive(line: Line, derived: Derived) -> Verdict:
    """Nominal supply within the drive's input range, ten percent allowed either side."""
    drive, volts = line.drive, line.supply.voltage
    low, high = drive.input_voltage_low, drive.input_voltage_high
    numbers = {"volts": volts, "low": low, "high": high}
    if low > high:
        return stop(
            "Drive's input range is the wrong way round",
            say("It starts at {low} and ends at {high}.", **numbers),
            say("Read the input volts on the drive's plate again."),
        )
    if volts > high * 1.1:
        return stop(
            "Supply is too high for this drive",
            say("{volts} on a drive for {low} to {high}: it would be destroyed at first power.", **numbers),
            say("Check the transformer tap and the drive's plate before anything is energised."),
        )
    if volts < low * 0.9:
        return stop(
            "Supply is too low for this drive",
            say("{volts} on a drive for {low} to {high}.", **numbers),
            say("Check the transformer tap, the supply and the drive's plate."),
        )
    return clear("Supply suits the drive", say("{volts} within {low} to {high}.", **numbers))


@check(
    place="supply-drive",
    about="whether the phases suit the drive",
    needs=("supply.phases", "drive.input_phases"),
    source=COMMON_PRACTICE,
)
def phases_suit_drive(line: Line, derived: Derived) -> Verdict:
    """A three-phase drive on one phase must be derated; a single-phase drive does not go on three."""
    supply, drive = line.supply.phases, line.drive.input_phases
    if supply == drive:
        word = "three phases" if supply == "3" else "one phase"
        return clear("Phases agree", say(f"Supply and drive both have {word}."))
    if supply == "1":
        half = given("single_phase_share", 0.5, "percent", "makers' figures run from 35 to 50 %")
        return stop(
            "Single-phase supply on a three-phase drive",
            say("It carries only about {half} of its amps so, with an input reactor.", half=half),
            say("Use a drive rated for it, about twice the size, by its manual; or a three-phase supply."),
        )
    return stop(
        "Three-phase supply on a single-phase drive",
        say("The drive takes one phase only."),
        say("Feed it from one phase at its own voltage, or take a three-phase drive."),
    )


@check(
    place="supply-drive",
    about="supply frequency",
    needs=("supply.frequency", "motor.rated_frequency"),
    source=COMMON_PRACTICE,
)
def frequency_of_region(line: Line, derived: Derived) -> Verdict:
    """Motor frequency differing from the supply's is allowed on a drive, and often a slip of the pen."""
    supply, motor = line.supply.frequency, line.motor.rated_frequency
    if abs(supply - motor) < 1:
        return clear("Frequencies agree", say("Supply and motor both {supply}.", supply=supply))
    return caution(
        "Motor plate is for another frequency",
        say("The supply has {supply}, the plate says {motor}.", supply=supply, motor=motor),
        say("Right on a drive if meant: set region and base frequency by the plate. Otherwise read it again."),
    )


@check(
    place="supply-drive",
    about="voltage unbalance",
    needs=_READINGS,
    source=Source("NEMA MG-1", "14.36, from memory", "standard"),
)
def supply_is_balanced(line: Line, derived: Derived) -> Verdict:
    """Unbalance of the three line voltages: small at the volts is large in a rectifier's amps."""
    supply = line.supply
    found = unbalance((supply.reading_12, supply.reading_23, supply.reading_31))
    mean = mean_voltage((supply.reading_12, supply.reading_23, supply.reading_31))
    numbers = {
        "u": found,
        "limit": given("limit", 0.02, "percent", "without a line reactor, common practice"),
        "mean": mean,
    }
    if supply.has("voltage") and abs(mean / supply.voltage - 1) > 0.10:
        return stop(
            "Measured volts are not the nominal volts",
            say("{mean} measured, {nominal} nominal: more than 10 % apart.", nominal=supply.voltage, **numbers),
            say("Do not energise. Check the tap, the supply and the meter."),
        )
    if found > 0.05:
        return stop(
            "Supply is badly unbalanced",
            say("{u} between the lines; above 5 % nothing should run.", **numbers),
            say("Find the loose joint, blown fuse or single-phase load before going on."),
        )
    if found > 0.02:
        return caution(
            "Supply is unbalanced",
            say("{u} between the lines, {limit} is the limit without a line reactor.", **numbers),
            say("Fit a line reactor, or find the cause; the drive's input current will look like a lost phase."),
        )
    return clear("Supply is balanced", say("{u} between the lines, {mean} on average.", **numbers))
