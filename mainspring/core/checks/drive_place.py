"""The drive where it hangs: heat, air, and everything that shortens its life."""

import re

from mainspring.core import practice
from mainspring.core.checks.finding import CheckFunction, Verdict, caution, check, clear, stop
from mainspring.core.derived import Derived
from mainspring.core.drive.cooling import (
    air_inside,
    flow_with_dirty_filter,
    life_factor,
    life_left,
    ventilation_flow,
)
from mainspring.core.errors import BadEntry, NoSolution
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, Figure, Source, given
from mainspring.core.motor.cooling import temperature_rise
from mainspring.core.motor.current import usual_full_load_current
from mainspring.core.ratios import multiple_of, share_of
from mainspring.core.sentence import in_prose, say

_HEAVY_LOADS = ("clogging", "high_inertia", "positive_displacement")

# what is wrong with a place: whether it stops, why, and what to do
PLACE: dict[str, tuple[bool, str, str]] = {
    "sun": (
        False,
        "Sun on the case can add {sun_low} to {sun_high} to the air inside.",
        "Shade it, or hang it elsewhere.",
    ),
    "hot_neighbour": (False, "A boiler, heater or another drive below it warms its air.", "Move it, or screen it."),
    "salt": (
        True,
        "Salt and chemical spray eat terminals and boards.",
        "A sealed box with clean air, or another room, before it is powered.",
    ),
    "dust": (False, "Dust and lint close the heat sink.", "Filter the air and plan the cleaning, or seal the box."),
    "condensation": (
        True,
        "Water on a board shorts it at power-up.",
        "Heat or dry the box, and let it dry before it is powered.",
    ),
    "freezing": (
        True,
        "Capacitors can burst when they are frozen hard.",
        "A thermostat heater, or a warmer place; warm it through before power.",
    ),
    "not_upright": (
        False,
        "Its heat sink draws air upwards only.",
        "Hang it upright. If its manual allows it so, derate by that and take the mark off.",
    ),
    "tight": (
        False,
        "Its own warm air comes back; makers ask up to {clearance}, take that if it is not known.",
        "Make room all round. If its manual asks for less and it has that, take the mark off.",
    ),
}


_GOES_BY = {
    "sun_low": practice.drive.SUN.low,
    "sun_high": practice.drive.SUN.high,
    "clearance": practice.drive.CLEARANCE,
}


def _place_check(condition: str, stops: bool, why: str, remedy: str) -> None:
    def judge(line: Line, derived: Derived) -> Verdict | None:
        if condition not in line.drive.place:
            return None
        title = f"Place of the drive: {line.drive.fields['place'].choices[condition].lower()}"  # type: ignore[attr-defined]
        return (stop if stops else caution)(title, say(why, **_GOES_BY), say(remedy))

    judge.__name__ = f"drive_place_{condition}"
    judge.__doc__ = re.sub(r"\{(\w+)\}", lambda m: in_prose(_GOES_BY[m[1]]), why)
    declared: CheckFunction = judge
    check(
        place="drive",
        about="the place of the drive",
        needs=(),
        once=("drive.place",),
        source=COMMON_PRACTICE,
        holds="power" if stops else "",
        answers=("drive.place",),
    )(declared)


for _condition, (_stops, _why, _remedy) in PLACE.items():
    _place_check(_condition, _stops, _why, _remedy)


@check(place="drive", about="the place of the drive", needs=("drive.place",), source=COMMON_PRACTICE)
def drive_place_is_good(line: Line, derived: Derived) -> Verdict | None:
    """Looked at, and nothing was wrong."""
    if line.drive.place:
        return None
    return clear("The drive hangs well", say("Clean, dry, cool, upright, with room around it."))


@check(
    place="drive",
    about="whether the drive's heat gets away",
    needs=("drive.enclosure", "drive.rated_power", "motor.rated_power", "motor.efficiency", "drive.ambient_rating",
           "drive.ambient"),
    holds="power",
    source=Source("IEC TR 60890; drive efficiency class of DOE tip sheet 11", "from memory", "standard"),
    answers=("drive.ambient", "drive.enclosure", "drive.box_width", "drive.box_height", "drive.box_depth",
             "drive.box_air", "drive.ambient_rating"),
    meant="drive.ambient",
)  # fmt: skip
def heat_gets_away(line: Line, derived: Derived) -> Verdict:
    """Loss at full load against what the room, the sealed box or the air through the box takes away."""
    drive, heat = line.drive, derived.drive_loss
    numbers = {"heat": heat, "air": drive.ambient, "rating": drive.ambient_rating}
    if drive.enclosure == "sealed":
        return _sealed(line, derived, numbers)
    if drive.enclosure == "vented":
        return _vented(line, derived, numbers)
    if drive.ambient > drive.ambient_rating:
        return _too_hot(line, drive.ambient, numbers, "Cool the room, or take the derating below by decision.")
    return clear("The room takes the heat", say("{heat} at full load into air of {air}, rated {rating}.", **numbers))


def _sealed(line: Line, derived: Derived, numbers: dict[str, Figure]) -> Verdict:
    drive = line.drive
    area, rise = derived.box_area, derived.box_rise
    inside = air_inside(drive.ambient, rise)
    numbers = {**numbers, "area": area, "rise": rise, "inside": inside}
    if inside > drive.ambient_rating:
        return _too_hot(
            line, inside, numbers, "Take a larger box, stir the air, mount the heat sink outside, or cool it."
        )
    return clear(
        "The sealed box sheds the heat",
        say("{heat} through {area} is a rise of {rise}: {inside} inside, rated {rating}.", **numbers),
    )


def _vented(line: Line, derived: Derived, numbers: dict[str, Figure]) -> Verdict:
    drive = line.drive
    room = temperature_rise(drive.ambient_rating, drive.ambient)
    if room <= 0:
        return _too_hot(line, drive.ambient, numbers, "Cool the room first: no air through the box can help.")
    density = derived.air_density_at(drive.ambient)
    needed = ventilation_flow(numbers["heat"], min(room, line.own(practice.drive.VENT_RISE)), density)
    numbers = {**numbers, "needed": needed, "has": drive.box_air}
    dirty = flow_with_dirty_filter(needed)
    if drive.box_air < needed:
        return stop(
            "Too little air through the box",
            say("{heat} needs {needed}, the box has {has}.", **numbers),
            say("Fit a fan and filter for {dirty}, or clean them; in low, out high.", dirty=dirty),
        )
    if drive.box_air < dirty:
        return caution(
            "Little air in hand",
            say("{heat} needs {needed}, the box has {has}.", **numbers),
            say("With a dirty filter it would need {dirty}: clean it on every visit.", dirty=dirty),
        )
    return clear("Air carries the heat away", say("{heat} needs {needed}, the box has {has}.", **numbers))


def _too_hot(line: Line, inside: Figure, numbers: dict[str, Figure], remedy: str) -> Verdict:
    rating = numbers["rating"]
    over = temperature_rise(inside, rating)
    life = life_factor(over)
    design = line.own(practice.drive.DESIGN_LIFE)
    years = life_left(life, design)
    judge = stop if over > practice.drive.TOO_HOT else caution
    return judge(
        "The drive will run too hot",
        say(
            "{inside} round the drive, rated {rating}: {over} over. Life falls to {share}, about {years} of {design}.",
            inside=inside, rating=rating, over=over, share=share_of(life, given("one", 1.0, "ratio")), years=years,
            design=design,
        ),
        say(remedy),
    )  # fmt: skip


@check(
    place="drive",
    about="duty against the load",
    needs=("drive.duty",),
    holds="data",
    source=COMMON_PRACTICE,
    once=("line.load",),
    answers=("drive.duty", "line.load"),
    meant="drive.duty",
)
def duty_suits_load(line: Line, derived: Derived) -> Verdict:
    """Shock, inertia and clogging ask for heavy duty; centrifugal machines do not."""
    heavy = line.line.load in _HEAVY_LOADS
    label = line.line.fields["load"].choices[line.line.load].lower()  # type: ignore[attr-defined]
    numbers = {"normal": practice.drive.OVERLOAD_NORMAL, "heavy": practice.drive.OVERLOAD_HEAVY}
    if heavy and line.drive.duty == "normal":
        return stop(
            "Load needs heavy duty",
            say(
                f"{label.capitalize()}: high torque at start or in shocks; normal duty gives {{normal}} for 60 s.",
                **numbers,
            ),
            say("Size the drive on its heavy-duty amps: {heavy} for 60 s.", **numbers),
        )
    if not heavy and line.drive.duty == "heavy":
        return caution(
            "Heavy duty for an easy load",
            say(f"{label.capitalize()} needs {{normal}} at most.", **numbers),
            say("Oversize only for a stated reason; note it."),
        )
    return clear("Duty suits the load", say(f"{label.capitalize()} on {line.drive.duty} duty."))


@check(
    place="drive",
    about="the two ratings of the drive",
    needs=("drive.rated_current",),
    holds="data",
    source=COMMON_PRACTICE,
    once=("drive.heavy_current",),
    doubts="drive.heavy_current",
    answers=("drive.heavy_current", "drive.rated_current"),
)
def heavy_amps_below_normal(line: Line, derived: Derived) -> Verdict:
    """The same hardware gives fewer amps on heavy duty."""
    normal, heavy = line.drive.rated_current, line.drive.heavy_current
    numbers = {"normal": normal, "heavy": heavy}
    if heavy < normal:
        return clear("Both ratings fit", say("{normal} on normal duty, {heavy} on heavy.", **numbers))
    return stop(
        "Normal and heavy duty are crossed",
        say("{heavy} on heavy duty and {normal} on normal: heavy is always the lower.", **numbers),
        say("Read both amps on the drive's plate again."),
    )


@check(
    place="drive",
    about="the drive's amps against its power",
    needs=("drive.rated_current", "drive.rated_power", "drive.input_voltage_low", "supply.voltage"),
    source=COMMON_PRACTICE,
    doubts="drive.rated_current",
    answers=("drive.rated_current", "drive.rated_power"),
)
def drive_plate_agrees(line: Line, derived: Derived) -> Verdict | None:
    """Amps of a drive are near those of the motors of its size at these volts."""
    drive = line.drive
    try:
        usual = usual_full_load_current(drive.rated_power, line.supply.voltage, line.value("supply.frequency") or 50.0)
    except (BadEntry, NoSolution):
        return None  # smaller or larger than any table of motors: nothing tells
    ratio = multiple_of(drive.rated_current, usual)
    numbers = {"amps": drive.rated_current, "usual": usual, "power": drive.rated_power, "volts": line.supply.voltage}
    if practice.drive.PLATE.holds(ratio):
        return clear("Drive's plate agrees with itself", say("{amps} for {power} at {volts}.", **numbers))
    return caution(
        "Drive's amps do not fit its power",
        say("{amps} entered; {usual} is usual for {power} at {volts}.", **numbers),
        say("Read output amps, power and its unit again; take the output, not the input, amps."),
    )
