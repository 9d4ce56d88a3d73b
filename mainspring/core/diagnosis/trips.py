"""Trips and their usual causes, each weighed by the record and by the moment it happened.

The causes are common practice; what moves them up or down is what the record says of this line. A weight is no
probability: it only orders.
"""

from collections.abc import Callable
from dataclasses import dataclass

from mainspring.core import practice
from mainspring.core.derived import Derived
from mainspring.core.errors import BadEntry, MainspringError, check_range
from mainspring.core.limits import run_down_time, run_up_time, torque_frequency
from mainspring.core.line import Line
from mainspring.core.method import Figure, given
from mainspring.core.motor.load import current_at_load
from mainspring.core.ratios import multiple_of, share_of
from mainspring.core.sentence import Sentence, say

TRIPS: dict[str, str] = {
    "overcurrent": "Overcurrent",
    "overvoltage": "Overvoltage",
    "undervoltage": "Undervoltage",
    "earth_fault": "Earth fault",
    "phase_out": "Output phase lost",
    "motor_overload": "Motor overload",
    "drive_hot": "Drive too hot",
    "underload": "Underload, no load",
    "sensor_lost": "Sensor lost",
    "link_lost": "Communication lost",
    "interlock": "External interlock open",
    "no_fill": "No flow, line fill failed",
    "restarts": "Automatic restarts used up",
}
PUMPS_ALONE = ("no_fill",)  # classes that only what pumps has
MOMENTS: dict[str, str] = {
    "starting": "Starting",
    "ramping_up": "Ramping up",
    "steady": "Running steadily",
    "ramping_down": "Ramping down",
    "standing": "Standing still",
}


@dataclass(frozen=True)
class Moment:
    """What the drive showed when it tripped; what is not known is left out."""

    when: str = "steady"
    frequency: float | None = None  # Hz
    current: float | None = None  # A
    bus_voltage: float | None = None  # V, direct current

    def check(self) -> None:
        """Raise BadEntry naming what cannot be."""
        if self.when not in MOMENTS:
            raise BadEntry("moment", self.when, ", ".join(MOMENTS))
        for name, value, upto in (
            ("frequency in Hz", self.frequency, 400),
            ("current in A", self.current, 5000),
            ("bus voltage in V", self.bus_voltage, 2000),
        ):
            if value is not None:
                check_range(name, value, atleast=0, upto=upto)


@dataclass(frozen=True)
class Cause:
    """A possible cause: how it stands on this line, and the next measurement that would tell it from the others."""

    id: str
    title: str
    weight: float
    because: Sentence
    measure: str


Weighed = tuple[float, Sentence] | None
CauseFunction = Callable[[Line, Derived, Moment], Weighed]


@dataclass(frozen=True)
class Declared:
    """A declared cause of some classes of trip."""

    id: str
    trips: tuple[str, ...]
    title: str
    measure: str
    function: CauseFunction


CAUSES: list[Declared] = []


def cause(*trips: str, title: str, measure: str) -> Callable[[CauseFunction], CauseFunction]:
    """Declare a cause. The function gives its weight (usually 0 to 1) and why, or None where it cannot be."""

    def declare(function: CauseFunction) -> CauseFunction:
        CAUSES.append(Declared(function.__name__, trips, title, measure, function))
        return function

    return declare


def rank_causes(kind: str, line: Line, derived: Derived, moment: Moment) -> list[Cause]:
    """The causes of a class of trip, the likeliest on this line first. Raises BadEntry for an unknown class."""
    if kind not in TRIPS:
        raise BadEntry("trip", kind, ", ".join(TRIPS))
    moment.check()
    found = []
    for declared in CAUSES:
        if kind not in declared.trips:
            continue
        try:
            weighed = declared.function(line, derived, moment)
        except MainspringError as gap:
            weighed = (0.2, say(_plain(f"Cannot be weighed: {gap}.")))
        if weighed is not None:
            found.append(Cause(declared.id, declared.title, weighed[0], weighed[1], declared.measure))
    return sorted(found, key=lambda c: -c.weight)


def trips_of(line: Line) -> dict[str, str]:
    """The classes of trip that a line can have."""
    return {id: name for id, name in TRIPS.items() if "fan" not in line.traits or id not in PUMPS_ALONE}


def _plain(text: str) -> str:
    return text.replace("{", "(").replace("}", ")")


def _seconds(line: Line, name: str) -> Figure:
    if line.control.has(name):
        return line.figure(f"control.{name}")
    usual = getattr(line.application, name)
    return given(name, usual, "time", "as planned for the application")


# overcurrent


@cause(
    "overcurrent",
    title="Ramp up too short for what turns",
    measure="Double the ramp and start again; note the amps while it climbs.",
)
def ramp_up_too_short(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Planned ramp against what the inertia needs."""
    if moment.when not in ("starting", "ramping_up"):
        return None
    planned = _seconds(line, "ramp_up")
    if not line.has("machine.inertia"):
        return 0.6, say("It happened on the way up, in a ramp of {planned}.", planned=planned)
    needed = run_up_time(line, derived)
    numbers = {"planned": planned, "needed": needed}
    if planned < needed:
        return 0.95, say("The ramp is {planned}, the inertia needs {needed}.", **numbers)
    return 0.25, say("The ramp of {planned} is longer than the {needed} that the inertia needs.", **numbers)


@cause(
    "overcurrent",
    "motor_overload",
    title="Something jams, or the machine drags",
    measure="Lock out, turn the shaft by hand; then read the amps at a low, steady speed.",
)
def jam(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Clogging loads jam; a high current at low speed is a jam anywhere."""
    weight = 0.4 + (0.3 if line.value("line.load") == "clogging" or "wet_well" in line.traits else 0.0)
    base = line.value("motor.rated_frequency") or 50.0
    if moment.frequency is not None and moment.current is not None and moment.frequency < 0.5 * base:
        rated = line.motor.rated_current
        amps = given("current", moment.current, "current", "when it tripped")
        if amps > 0.9 * rated:
            hz = given("frequency", moment.frequency, "frequency", "when it tripped")
            return 0.9, say("{amps} at {hz}: far too much so low. Plate {rated}.", amps=amps, hz=hz, rated=rated)
    return weight, say("Fibre, ice, a seized bearing or a rubbing wheel ask for torque at any speed.")


@cause(
    "overcurrent",
    "earth_fault",
    "phase_out",
    title="Motor lead or winding damaged",
    measure="Lock out, take the lead off the drive, then measure insulation of lead and motor, never through it.",
)
def damaged_lead(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """A trip at the very start, and a long lead, speak for it."""
    weight = 0.45 + (0.25 if moment.when in ("starting", "standing") else 0.0)
    if line.has("drive.lead_length"):
        length = line.drive.lead_length
        if length > 50:
            weight += 0.15
        return weight, say("{length} of lead; a fault shows at once when it starts.", length=length)
    return weight, say("A fault shows at once when it starts; a trip long after speaks against it.")


@cause(
    "overcurrent",
    title="One of the five exact values is wrong",
    measure="Read back from the drive, to the last digit: back-EMF, stator resistance, Ld, Lq and the rotor's poles.",
)
def exact_values_wrong(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """A magnet motor is run by its values: one wrong digit, and it draws current without turning as it should."""
    if "permanent_magnet" not in line.traits:
        return None
    early = moment.when in ("starting", "ramping_up")
    words = "A magnet motor runs by back-EMF, resistance, Ld, Lq and poles, all five exact."
    return (0.9 if early else 0.6), say(words)


@cause(
    "overcurrent",
    "motor_overload",
    title="Motor data in the drive are not the plate's",
    measure="Read volts, amps, Hz and r/min in the drive against the plate; see the settings sheet as left.",
)
def wrong_motor_data(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """A limit above or below the plate, or the wrong connection."""
    plate = derived.motor_amps
    if line.drive.has("current_limit"):
        limit = line.drive.current_limit
        ratio = multiple_of(limit, plate)
        numbers = {"limit": limit, "plate": plate, "ratio": ratio}
        if not 0.95 <= ratio <= 1.05:
            return 0.8, say("The limit is {limit}, {ratio} × the plate's {plate}.", **numbers)
        return 0.3, say("The limit of {limit} agrees with the plate's {plate}.", **numbers)
    if "permanent_magnet" in line.traits:
        return 0.4, say("Plate {plate}; whether amps are of the winding or of the line, its sheet says.", plate=plate)
    return 0.4, say("Plate {plate}; star and delta differ by 1.73.", plate=plate)


@cause(
    "overcurrent",
    title="Started into a turning machine",
    measure="Look whether it turns before the start; set flying start and try again.",
)
def windmilling(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Fans that turn by themselves."""
    if "fan" not in line.traits or moment.when not in ("starting", "ramping_up"):
        return None
    if line.value("system.windmills") == "yes":
        return 0.85, say("This fan may turn by itself, and it tripped as it started.")
    return 0.2, say("Nothing turns it while the drive is off, says the survey.")


# overvoltage


@cause(
    "overvoltage",
    title="Ramp down too short: energy comes back",
    measure="Double the ramp down, or coast; read the bus volts while it slows.",
)
def ramp_down_too_short(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Planned ramp against what the losses can burn."""
    if moment.when == "ramping_up":
        return None
    slowing = moment.when == "ramping_down"
    planned = _seconds(line, "ramp_down")
    if not line.has("machine.inertia"):
        return (0.8 if slowing else 0.2), say("The ramp down is {planned}.", planned=planned)
    needed = run_down_time(line, derived)
    numbers = {"planned": planned, "needed": needed}
    if planned < needed:
        return (0.95 if slowing else 0.4), say(
            "The ramp down is {planned}; without brake it takes {needed}.", **numbers
        )
    return 0.2, say("The ramp down of {planned} is longer than the {needed} it takes.", **numbers)


@cause(
    "overvoltage",
    title="Supply too high",
    measure="Read the three line volts and the bus volts with the drive standing still, through a whole day.",
)
def supply_high(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Nominal and measured volts against the drive's range."""
    high = line.drive.input_voltage_high
    volts = max((line.figure(f"supply.{n}") for n in _READINGS if line.has(f"supply.{n}")), default=line.supply.voltage)
    if volts <= high and moment.when == "ramping_down":
        return None  # within the drive's range it is no cause of what only comes as it slows
    share = share_of(volts, high)
    weight = 0.3 + max(0.0, float(share) - 0.95) * 6 + (0.2 if moment.when in ("steady", "standing") else 0.0)
    return min(weight, 0.95), say("{volts} at most on a drive up to {high}.", volts=volts, high=high)


_READINGS = ("reading_12", "reading_23", "reading_31")


@cause(
    "overvoltage",
    title="Driven by what it drives",
    measure="Watch bus volts and speed with the reference low: does the machine push?",
)
def overhauled(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """A fan in a draught, or a pump run backwards by a column of water, gives energy back."""
    if "fan" in line.traits:
        turns = line.value("system.windmills") == "yes"
        return (0.55 if turns else 0.15), say("Draught or other fans can drive the wheel.")
    if line.value("system.check_valve") == "none":
        return 0.5, say("No check valve: the column of water turns the pump backwards.")
    return 0.15, say("A check valve that leaks lets the column turn the pump backwards.")


# undervoltage


@cause(
    "undervoltage",
    title="The isolator was just opened: normal",
    measure="Was it opened, or did the supply go, a moment before? Then reset it; nothing is wrong.",
)
def switched_off(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Every drive says so as its bus runs down."""
    if moment.when not in ("standing", "ramping_down"):
        return None
    weight = 0.75 if moment.when == "standing" else 0.5
    return weight, say("A drive that loses its supply says so as its bus runs down.")


@cause(
    "undervoltage",
    title="Dip or lost phase of the supply",
    measure="Read the three line volts under load; look for a blown fuse or a loose terminal.",
)
def supply_dip(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Unbalance seen at the survey speaks for it."""
    readings = [line.figure(f"supply.{n}") for n in _READINGS if line.has(f"supply.{n}")]
    if len(readings) == 3:
        low, high = min(readings), max(readings)
        weight = 0.9 if high / low > 1.03 else 0.5
        return weight, say("Between the lines {low} to {high} at the survey.", low=low, high=high)
    return 0.6, say("The three line volts are not on record.")


@cause(
    "undervoltage",
    title="Supply too soft for the load",
    measure="Read the volts at the drive at standstill and at full load: how far do they fall?",
)
def soft_supply(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Fault level against the drive's amps."""
    ratio = multiple_of(derived.fault_current, derived.motor_amps)
    numbers = {"fault": derived.fault_current, "ratio": ratio}
    weight = 0.7 if ratio < 30 else 0.2
    return weight + (0.15 if moment.when == "ramping_up" else 0.0), say(
        "{fault} at most, {ratio} × the motor.", **numbers
    )


# earth fault, output phase


@cause(
    "earth_fault",
    title="Water or condensation in motor or box",
    measure="Lock out, open the terminal box, measure insulation of motor alone; dry it and measure again.",
)
def moisture(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """What the survey said of the place."""
    wet = set(line.value("drive.place") or ()) & {"condensation", "salt"}
    if wet or "submersible" in line.traits or "wet_well" in line.traits:
        return 0.75, say("It stands in water, or the survey saw condensation.")
    return 0.35, say("Nothing wet on record.")


@cause(
    "earth_fault",
    title="Leakage of a long lead at a high carrier",
    measure="Lower the carrier to 2 kHz and see whether it still trips.",
)
def leakage(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Long leads leak at every pulse."""
    length = line.drive.lead_length
    carrier = line.drive.carrier if line.drive.has("carrier") else given("carrier", 4000.0, "carrier", "as planned")
    weight = 0.2 + (0.35 if length > 50 else 0.0) + (0.2 if carrier > 4000 else 0.0)
    return weight, say("{length} of lead at {carrier}.", length=length, carrier=carrier)


@cause(
    "phase_out",
    title="Loose terminal or open contactor at the output",
    measure="Lock out, wait, measure; then check the torque of all motor terminals and any contactor or isolator.",
)
def loose_terminal(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """The commonest of all."""
    return 0.7, say("A local isolator opened while running does the same.")


@cause(
    "phase_out",
    title="Motor far too small for the drive",
    measure="Read the three output amps: all alike and tiny?",
)
def tiny_motor(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Below a tenth or so of its rating a drive sees no phase."""
    share = share_of(derived.motor_amps, derived.rated_amps)
    weight = 0.8 if share < 0.25 else 0.1
    numbers = {"motor": derived.motor_amps, "drive": derived.rated_amps, "share": share}
    return weight, say("{motor} on a drive of {drive}: {share}.", **numbers)


# overload, heat


@cause(
    "motor_overload",
    title="Machine takes more than the motor gives",
    measure="Read kW or A at full speed against the baseline; then flow and pressure: which has moved?",
)
def overloaded(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Run-out power, and amps at the trip against what this speed should take."""
    highest, rated = derived.known.run_out_power, line.motor.rated_power
    numbers = {"highest": highest, "rated": rated}
    weight = 0.8 if highest > rated else 0.35
    words = "Up to {highest} along its curve, the motor gives {rated}."
    if moment.current is not None and moment.frequency:
        hz = given("frequency", moment.frequency, "frequency", "when it tripped")
        expected = derived.foretold_at([hz])[0]["current"].figure
        amps = given("current", moment.current, "current", "when it tripped")
        numbers |= {"amps": amps, "expected": expected}
        words += " {amps} were read where {expected} are expected."
        weight += 0.15 if amps > 1.1 * expected else -0.15
    return weight, say(words, **numbers)


@cause(
    "motor_overload",
    title="Too little cooling at low speed",
    measure="Note how long it runs below half speed, and feel (or measure) the frame after it.",
)
def low_speed_cooling(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Constant torque on a shaft fan."""
    if line.value("motor.cooling") != "own_fan":
        return None
    try:
        low = torque_frequency(derived)
    except MainspringError:
        return 0.1, say("A square-law load needs little torque at low speed.")
    slow = moment.frequency is not None and moment.frequency < low
    return (0.9 if slow else 0.5), say("Below {low} its own fan does not cool it at this torque.", low=low)


@cause(
    "drive_hot",
    title="Air at the drive too hot, or too little of it",
    measure="Measure the air going in and coming out of the drive; clean filter and heat sink, check the fan turns.",
)
def hot_air(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Ambient against the rating, and what the survey said of the place."""
    bad = set(line.value("drive.place") or ()) & {"sun", "hot_neighbour", "dust", "tight"}
    air, rating = line.drive.ambient, line.drive.ambient_rating
    numbers = {"air": air, "rating": rating, "heat": derived.drive_loss}
    weight = 0.5 + (0.3 if air >= rating - 5 else 0.0) + (0.15 if bad else 0.0)
    return min(weight, 0.95), say("{air} at the survey, rated {rating}; it sheds {heat}.", **numbers)


@cause(
    "drive_hot",
    title="Carrier too high",
    measure="Lower the carrier to 2 to 4 kHz and watch the heat-sink temperature.",
)
def hot_carrier(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """What the carrier costs."""
    if not line.drive.has("carrier"):
        return 0.15, say("The plan is 4 kHz or lower; read what is set.")
    left = derived.carrier_factor
    return (0.75 if left < 0.9 else 0.15), say("{c} leaves {left} of its amps.", c=line.drive.carrier, left=left)


# process


@cause(
    "underload",
    "no_fill",
    title="No water at the inlet",
    measure="Read the pressure at the inlet while it runs; look at level, strainer and foot valve.",
)
def no_water(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Always the first to look at."""
    if "fan" in line.traits:
        return None
    return 0.75, say("Level, strainer, foot valve, air in the line.")


@cause(
    "underload",
    title="Threshold too high for this speed",
    measure="Read the power at this speed with normal flow; no-flow power falls with the cube of speed.",
)
def threshold_at_low_speed(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """A fixed threshold is right only near full speed."""
    base = line.value("motor.rated_frequency") or 50.0
    if moment.frequency is None:
        return 0.5, say("At what frequency did it trip? A fixed threshold is right only near full speed.")
    hz = given("frequency", moment.frequency, "frequency", "when it tripped")
    share = share_of(hz, given("base", base, "frequency"))
    numbers = {"hz": hz, "share": share}
    if share < 0.85:
        return 0.85, say("It tripped at {hz}, {share} of full speed.", **numbers)
    return 0.3, say("It tripped at {hz}, {share} of full speed: near where a threshold is set.", **numbers)


@cause(
    "underload",
    title="Coupling or belt broken, wheel loose",
    measure="Lock out, look: does the machine turn with the motor? Amps near no load say no.",
)
def broken_coupling(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Amps close to the motor's no-load current."""
    weight = 0.35 + (0.3 if line.has("machine.pulley_ratio") else 0.0)
    if moment.current is not None:
        idle = current_at_load(derived.no_load_amps, line.motor.rated_current, given("torque", 0.05, "ratio"))
        amps = given("current", moment.current, "current", "when it tripped")
        if amps < 1.15 * idle:
            return 0.9, say("{amps} were read; turning alone takes {idle}.", amps=amps, idle=idle)
        return 0.1, say("{amps} were read; turning alone takes only {idle}.", amps=amps, idle=idle)
    return weight, say("Its amps at the trip would tell.")


@cause(
    "sensor_lost",
    title="Broken wire or wrong polarity in the loop",
    measure="Measure the loop current in series at the drive: below 3.6 mA nothing live is talking.",
)
def loop_broken(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """The commonest; a coiled or crossing cable adds noise."""
    bad = {*(line.value("sensor.place") or ()), *(line.value("sensor.air_place") or ())} & {"coiled", "beside_power"}
    return (0.85 if bad else 0.7), say(
        "A cable beside power or coiled up was seen." if bad else "Nothing against the cable."
    )


@cause(
    "sensor_lost",
    title="Frozen, blocked or drowned sensor",
    measure="Isolate and vent it: does the signal go to its zero and come back?",
)
def sensor_blocked(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """What the survey said of its place."""
    bad = set(line.value("sensor.place") or ()) & {"freezes", "head_down"}
    return (0.8 if bad else 0.3), say(
        "Its place was doubted at the survey." if bad else "Its place was right at the survey."
    )


@cause(
    "link_lost",
    title="Address, rate or termination of the bus",
    measure="Count terminations (two), read address and rate at both ends; 60 Ω between the wires, power off.",
)
def bus_wiring(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Whenever it never ran."""
    return (0.7 if moment.when in ("standing", "starting") else 0.45), say("If it never ran, look here first.")


@cause(
    "link_lost",
    title="Noise from the motor lead on the bus",
    measure="See whether it fails only while running: separate the cables, earth the shield at one end.",
)
def bus_noise(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Fails while running."""
    return (0.7 if moment.when in ("steady", "ramping_up") else 0.2), say("It fails while running, or does it?")


@cause(
    "interlock",
    title="A safety contact opened, as it should",
    measure="Walk the chain: isolator, door, pressure switch, fire panel, motor thermal switch. Do not bridge it.",
)
def interlock_open(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """A normally-closed chain."""
    if line.told("protection.interlock") == "disabled":
        return 0.1, say("The input is disabled on this line: look whether it still is.")
    return 0.8, say("A broken wire in the chain looks the same: that is its purpose.")


@cause(
    "interlock",
    title="Input closed by default and never wired",
    measure="At first power: is a real normally-closed contact wired to this input?",
)
def interlock_not_wired(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """A first alarm of a new drive."""
    new = line.value("line.drive_state") == "new"
    return (0.7 if new and moment.when == "standing" else 0.2), say("Many drives expect it closed from the factory.")


@cause(
    "no_fill",
    title="Burst or an open end",
    measure="Walk the line: where does the water go? Shut it in sections and try each.",
)
def burst(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """The pressure never came."""
    if "fan" in line.traits:
        return None
    usual = {"p": line.own(practice.pump.FILL_PRESSURE), "t": line.own(practice.pump.FILL_TIME)}
    return 0.6, say("{p} did not come within {t}.", **usual)


@cause(
    "no_fill",
    "underload",
    title="It turns backwards",
    measure="Run it both ways with full demand open: the way with more flow and pressure is right.",
)
def backwards(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """A shaft out of sight."""
    hidden = "submersible" in line.traits
    return (0.6 if hidden else 0.25), say("Its shaft is out of sight." if hidden else "Its shaft can be seen.")


@cause(
    "restarts",
    title="The first trip keeps coming back",
    measure="Read the trip log before the lock-out: its first entry is the one to find.",
)
def underlying(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """A lock-out is never the cause."""
    return 0.9, say("A lock-out is a consequence: it has tried as often as it may.")


@cause(
    "restarts",
    "underload",
    title="Source recovers too slowly",
    measure="Time how long the level takes to come back; lengthen the restart delay to it.",
)
def slow_source(line: Line, derived: Derived, moment: Moment) -> Weighed:
    """Wells and pits recover in their own time."""
    if "fan" in line.traits:
        return None
    slow = line.applies(("submersible", "wet_well"))
    return (0.6 if slow else 0.3), say("A well needs its time." if slow else "A tank or main recovers at once.")
