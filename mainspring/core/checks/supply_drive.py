"""Supply – drive: volts, phases, balance."""

from mainspring.core import practice
from mainspring.core.checks.finding import Verdict, caution, check, clear, stop
from mainspring.core.derived import Derived
from mainspring.core.drive.cooling import single_phase_input_current
from mainspring.core.electrical.harmonics import demand_distortion, demand_distortion_limit, short_circuit_ratio
from mainspring.core.electrical.unbalance import unbalance, unbalance_derating
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, Source
from mainspring.core.ratios import mean_voltage
from mainspring.core.sentence import say

_READINGS = ("supply.reading_12", "supply.reading_23", "supply.reading_31")

EVENS, LARGEST = ("line3", "line5"), "line5"  # reactors that even the amps of a rectifier, and the largest of them


@check(
    place="supply-drive",
    about="whether the supply suits the drive",
    needs=("supply.voltage", "drive.input_voltage_low", "drive.input_voltage_high"),
    holds="power",
    source=Source("NEMA MG-1 12.44 / IEC 60038", "±10 % of the rated voltage, from memory", "standard"),
    answers=("supply.voltage", "drive.input_voltage_low", "drive.input_voltage_high"),
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
    if volts > high * (1 + practice.supply.VOLTS_OFF):
        tap = "the other tap of the transformer" if practice.supply.OTHER_TAP.holds(volts / high) else "another supply"
        return stop(
            "Supply is too high for this drive",
            say("{volts} on a drive for {low} to {high}: it would be destroyed at first power.", **numbers),
            say(f"It looks like {tap}: check the tap and the drive's plate before anything is energised."),
        )
    if volts < low * (1 - practice.supply.VOLTS_OFF):
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
    holds="power",
    source=COMMON_PRACTICE,
    answers=("supply.phases", "drive.input_phases"),
    meant="drive.input_phases",
)
def phases_suit_drive(line: Line, derived: Derived) -> Verdict:
    """A three-phase drive on one phase must be derated; a single-phase drive does not go on three."""
    supply, drive = line.supply.phases, line.drive.input_phases
    if supply == drive:
        word = "three phases" if supply == "3" else "one phase"
        return clear("Phases agree", say(f"Supply and drive both have {word}."))
    if supply == "1":
        half = practice.drive.SINGLE_PHASE_SHARE
        if line.applies(("induction", "permanent_magnet")) and derived.drive_amps >= derived.motor_amps:
            taken = single_phase_input_current(derived.motor_amps)
            return caution(
                "Three-phase drive on one phase, derated",
                say(
                    "It keeps about {half}: {left} against the motor's {needed}. The feed carries about {taken}.",
                    half=half,
                    left=derived.drive_amps,
                    needed=derived.motor_amps,
                    taken=taken,
                ),
                say(
                    "Only if its manual allows it: input reactor, fuses and cable for the real current, phase-loss off."
                ),
            )
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
    only=("induction", "single_phase"),
    answers=("supply.frequency", "motor.rated_frequency"),
    meant="motor.rated_frequency",
)
def frequency_of_region(line: Line, derived: Derived) -> Verdict:
    """Motor frequency differing from the supply's is allowed on a drive, and often a slip of the pen."""
    supply, motor = line.supply.frequency, line.motor.rated_frequency
    if abs(supply - motor) < practice.supply.FREQUENCY_APART:
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
    only=("supply:3",),
    holds="power",
    source=Source("NEMA MG-1", "14.36, from memory", "standard"),
    answers=("supply.reactor", "supply.reading_12", "supply.reading_23", "supply.reading_31"),
)
def supply_is_balanced(line: Line, derived: Derived) -> Verdict:
    """Unbalance of the three line voltages: small at the volts is large in a rectifier's amps."""
    supply = line.supply
    found = unbalance((supply.reading_12, supply.reading_23, supply.reading_31))
    mean = mean_voltage((supply.reading_12, supply.reading_23, supply.reading_31))
    numbers = {
        "u": found,
        "limit": line.own(practice.supply.UNBALANCE),
        "worst": practice.supply.UNBALANCE_STOP,
        "off": practice.supply.VOLTS_OFF,
        "mean": mean,
    }
    if supply.has("voltage") and abs(mean / supply.voltage - 1) > practice.supply.VOLTS_OFF:
        return stop(
            "Measured volts are not the nominal volts",
            say("{mean} measured, {nominal} nominal: more than {off} apart.", nominal=supply.voltage, **numbers),
            say("Do not energise. Check the tap, the supply and the meter."),
        )
    if found > numbers["worst"]:
        return stop(
            "Supply is badly unbalanced",
            say("{u} between the lines; above {worst} nothing should run.", **numbers),
            say("Find the loose joint, blown fuse or single-phase load before going on."),
        )
    if found > numbers["limit"] and line.value("supply.reactor") in EVENS:
        return clear(
            "Unbalance is evened by the reactor",
            say("{u} between the lines, above {limit}: with a reactor the drive's amps stay near to even.", **numbers),
        )
    if found > numbers["limit"]:
        return caution(
            "Supply is unbalanced",
            say(
                "{u} between the lines, {limit} is the limit without a line reactor. Straight on the line the motor"
                " would keep {left} of its power.",
                left=unbalance_derating(found),
                **numbers,
            ),
            say("Fit a line reactor, or find the cause; the drive's input current will look like a lost phase."),
        )
    return clear("Supply is balanced", say("{u} between the lines, {mean} on average.", **numbers))


@check(
    place="supply-drive",
    about="the fault level",
    needs=(),
    holds="power",
    source=COMMON_PRACTICE,
    answers=("supply.fault_current", "supply.transformer_rating", "drive.short_circuit_rating"),
)
def fault_level_is_known(line: Line, derived: Derived) -> Verdict | None:
    """The prospective fault current has to be known before a protective device is chosen."""
    supply, drive = line.supply, line.drive
    if not supply.has("fault_current") and not supply.has("transformer_rating"):
        if not line.has("supply.voltage"):
            return None
        return caution(
            "Fault level not known",
            say("Neither the fault level nor the transformer has been entered."),
            say("Ask for it, or enter transformer and impedance: drive and fuses must stand it."),
        )
    fault = derived.fault_current
    if not drive.has("short_circuit_rating"):
        return clear("Fault level known", say("{fault} at most.", fault=fault))
    numbers = {"fault": fault, "rating": drive.short_circuit_rating}
    if fault > drive.short_circuit_rating:
        return stop(
            "Fault level above the drive's rating",
            say("{fault} can flow, the drive with its protection is rated {rating}.", **numbers),
            say(
                "Fit the current-limiting fuses or the reactor that the drive's manual lists for this level, and enter"
                " the rating that it gives with them."
            ),
        )
    return clear("Drive stands the fault level", say("{fault} at most, rated {rating}.", **numbers))


@check(
    place="supply-drive",
    about="harmonics",
    needs=("supply.voltage", "motor.rated_current"),
    source=Source("IEEE 519-2014; six-pulse table", "an estimate, ±3 points, from memory", "standard"),
    once=("supply.reactor",),
    answers=("supply.reactor", "supply.fault_current"),
    meant="supply.reactor",
)
def harmonics_are_bearable(line: Line, derived: Derived) -> Verdict:
    """Current distortion by the impedance before the drive, and demand distortion where the demand is known."""
    supply = line.supply
    distortion = derived.current_distortion
    numbers = {"thd": distortion, "z": derived.line_impedance, "amps": line.motor.rated_current}
    advice = say("A 3 % line reactor or a built-in choke brings it to about 44 %, 5 % to about 34 %.")
    if line.value("supply.reactor") == LARGEST:
        advice = say("More than reactors do: a filter or a drive with an active front end, by the supplier's rules.")
    if supply.has("demand_current"):
        ratio = short_circuit_ratio(derived.fault_current, supply.demand_current)
        limit, found = (
            demand_distortion_limit(ratio),
            demand_distortion(distortion, line.motor.rated_current, supply.demand_current),
        )
        numbers |= {"tdd": found, "limit": limit, "ratio": ratio, "demand": supply.demand_current}
        words = (
            "{thd} of the drive's current is {tdd} of the demand of {demand}; at ratio {ratio} the limit is {limit}."
        )
        if found > limit:
            return caution("Harmonics above the limit", say(words, **numbers), advice)
        return clear("Harmonics within the limit", say(words, **numbers))
    words = "About {thd} of the drive's current with {z} before it."
    if distortion > practice.supply.STIFF_DISTORTION:
        return caution("No reactor on a stiff supply", say(words, **numbers), advice)
    return clear("Reactor keeps harmonics down", say(words, **numbers))
