"""The six stations, and the groups beside them: the line as a whole, the site, the loop, the duty."""

from typing import ClassVar

from mainspring.core import practice
from mainspring.core.line.applications import APPLICATIONS, HELD, Labels
from mainspring.core.line.fields import Choice, Column, Field, Flags, Group, Named, Points, Quantity, Text
from mainspring.core.line.proof import Duty, Proof
from mainspring.core.line.tariffs import TARIFFS
from mainspring.core.practice import PRACTICE
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.sentence import in_prose, show
from mainspring.core.told import tellings

PLATE = "From the plate"
PUMP, FAN = ("pump",), ("fan",)
INDUCTION, MAGNET = ("induction",), ("permanent_magnet",)
BOXED = ("enclosure:vented", "enclosure:sealed")
PRESSURE, DUCT, LEVEL = ("holds:pressure", "holds:differential"), ("holds:duct",), ("holds:level",)
TEMPERATURE, FLOW = ("holds:temperature",), ("holds:flow",)
AWG = ("14", "12", "10", "8", "6", "4", "3", "2", "1", "1/0", "2/0", "3/0", "4/0", "250", "300", "350", "400", "500")
METRIC = ("1.5", "2.5", "4", "6", "10", "16", "25", "35", "50", "70", "95", "120", "150", "185", "240")
CONDUCTORS = {f"mm{a}": f"{a} mm²" for a in METRIC} | {
    f"awg{a}": f"{a} AWG" if len(a) < 3 or "/" in a else f"{a} kcmil" for a in AWG
}


class LineGroup(Group):
    """What the line is for."""

    id = "line"
    label = "Line"
    fields: ClassVar[dict[str, Field]] = {}

    application = Choice(
        "Application",
        Labels(APPLICATIONS),
        help="Decides what is asked, checked and proposed.",
    )
    holds = Choice(
        "It holds",
        Labels(HELD),
        when=("may_hold",),
        help="Left empty: what the application usually holds.",
    )
    load = Choice(
        "Load",
        {
            "centrifugal": "Centrifugal pump or fan",
            "clogging": "Clogging or fibrous",
            "high_inertia": "High inertia",
            "positive_displacement": "Piston, screw or progressing cavity",
        },
        help="All but the first ask for heavy duty.",
    )
    drive_state = Choice(
        "Drive is",
        {"new": "New from the box", "used": "Used before"},
        help="A used drive is reset to factory values, after its settings have been saved.",
    )


MONEY = "Tariff and money"


class Site(Group):
    """What every line of a site shares."""

    id = "site"
    label = "Site"
    fields: ClassVar[dict[str, Field]] = {}

    altitude = Quantity("length", "Altitude", atleast=-400, upto=4000)
    energy_price = Quantity(
        "energy_price", "Energy price", above=0, upto=10 / 3.6e6, help="Marginal price: the last block, not the mean."
    )
    currency = Text("Currency")
    emission_factor = Quantity("emission", "Emission factor", atleast=0, upto=3 / 3.6e6, help="With year and source.")
    tariff = Choice(
        "Tariff",
        TARIFFS,
        tab=MONEY,
        more=True,
        help="Left empty: one price.",
    )
    price_bands = Points(
        "Prices by time of use",
        (
            Column("from_month", "From month", "count", 1, 12),
            Column("to_month", "to month", "count", 1, 12),
            Column("from_day", "From day, Monday 1", "count", 1, 7),
            Column("to_day", "to day", "count", 1, 7),
            Column("from_hour", "From hour", "count", 0, 24),
            Column("to_hour", "to hour", "count", 0, 24),
            Column("price", "Price", "energy_price", 0, 10 / 3.6e6),
        ),
        tab=MONEY,
        more=True,
        goes_with=("tariff", "bands"),
        help="The first row that fits an hour counts; where none fits, the energy price.",
    )
    price_tiers = Points(
        "Prices in blocks",
        (
            Column("upto", "Up to, a month", "energy", 1, 1e16),
            Column("price", "Price", "energy_price", 0, 10 / 3.6e6),
        ),
        tab=MONEY,
        more=True,
        goes_with=("tariff", "tiers"),
        help="Rising; beyond the last the last price goes on.",
    )
    other_use = Quantity(
        "energy", "Other use of the site, a month", atleast=0, upto=1e16, tab=MONEY, more=True,
        goes_with=("tariff", "tiers"), help="It fills the cheap blocks first: a saving is worth the last one.",
    )  # fmt: skip
    demand_price = Quantity("demand_price", "Demand charge, a month", atleast=0, upto=1.0, tab=MONEY, more=True)
    demand_ratchet = Quantity(
        "percent", "Share of the highest month billed all year", atleast=0, upto=1, tab=MONEY, more=True,
        help="Left empty: each month's own.",
    )  # fmt: skip
    discount = Quantity(
        "percent", "Discount rate, nominal", above=-0.5, upto=1, tab=MONEY, more=True, help="Left empty: 6 %."
    )
    escalation = Quantity(
        "percent", "Energy price rises a year, nominal", above=-0.5, upto=1, tab=MONEY, more=True,
        help="Left empty: 0 %. The first year's saving is not escalated.",
    )  # fmt: skip
    inflation = Quantity("percent", "Inflation", above=-0.5, upto=1, tab=MONEY, more=True)
    years = Quantity("years", "Years counted", atleast=1, upto=60, tab=MONEY, more=True, help="Left empty: 10.")


OWN_PRACTICE = "Own practice"


def _own_values() -> None:
    """A field of the site for every practice value that people differ on; what is entered goes before the trade's."""
    for value in PRACTICE.values():
        if value.own is not None:
            low, high = value.own
            field = Quantity(
                value.dimension, value.label, atleast=low, upto=high, tab=OWN_PRACTICE, help=str(value.source),
                more=True, usual=float(value.figure),
            )  # fmt: skip
            setattr(Site, value.id, field)
            field.__set_name__(Site, value.id)


_own_values()


class Supply(Group):
    """The electrical supply at the drive."""

    id = "supply"
    label = "Supply"
    fields: ClassVar[dict[str, Field]] = {}

    voltage = Quantity(
        "voltage", "Nominal voltage", above=0, upto=1000, tab="Supply", help="Line to line. Low voltage only."
    )
    frequency = Quantity("frequency", "Frequency", atleast=40, upto=70, tab="Supply")
    phases = Choice("Phases", {"3": "Three-phase", "1": "Single-phase"}, tab="Supply")
    reading_12 = Quantity(
        "voltage", "Volts L1 to L2", above=0, upto=1000, tab="Readings", provenance="measured", when=("supply:3",)
    )
    reading_23 = Quantity(
        "voltage", "Volts L2 to L3", above=0, upto=1000, tab="Readings", provenance="measured", when=("supply:3",)
    )
    reading_31 = Quantity(
        "voltage", "Volts L3 to L1", above=0, upto=1000, tab="Readings", provenance="measured", when=("supply:3",)
    )
    fault_current = Quantity(
        "fault_current", "Fault level at the drive", above=0, upto=200e3, tab="Fault level",
        help="Prospective short-circuit current; from the design, or from the transformer below.",
    )  # fmt: skip
    transformer_rating = Quantity(
        "apparent_power",
        "Transformer",
        above=0,
        upto=5e6,
        tab="Transformer and harmonics",
        provenance="plate",
        more=True,
    )
    transformer_impedance = Quantity(
        "percent", "Its impedance", above=0.01, upto=0.2, tab="Transformer and harmonics", provenance="plate", more=True
    )
    demand_current = Quantity(
        "current", "Maximum demand of the site", above=0, upto=10_000, tab="Transformer and harmonics", more=True,
        help="At the point of common coupling; harmonics are judged against it.",
    )  # fmt: skip
    reactor = Choice(
        "Reactor before the drive",
        {
            "none": "None",
            "line3": "Line reactor, 3 %",
            "line5": "Line reactor, 5 %",
            "dc": "Choke built into the drive",
        },
        tab="Transformer and harmonics",
        more=True,
    )


class Drive(Group):
    """The variable speed drive, from its plate, and where it hangs."""

    id = "drive"
    label = "Drive"
    fields: ClassVar[dict[str, Field]] = {}

    make = Text("Make", tab=PLATE, provenance="plate", more=True)
    model = Text("Model", tab=PLATE, provenance="plate", more=True)
    serial = Text("Serial number", tab=PLATE, provenance="plate", more=True)

    rated_current = Quantity(
        "current",
        "Output current",
        above=0,
        upto=3000,
        tab=PLATE,
        provenance="plate",
        help="Continuous, normal duty.",
    )
    heavy_current = Quantity(
        "current", "Output current, heavy duty", above=0, upto=3000, tab=PLATE, provenance="plate", when=("duty:heavy",)
    )
    rated_power = Quantity("power", "Rated power", above=0, upto=2e6, tab=PLATE, provenance="plate", twin="hp")
    input_voltage_low = Quantity("voltage", "Input voltage from", above=0, upto=1000, tab=PLATE, provenance="plate")
    input_voltage_high = Quantity("voltage", "Input voltage to", above=0, upto=1000, tab=PLATE, provenance="plate")
    input_phases = Choice("Input phases", {"3": "Three-phase", "1": "Single-phase"}, tab=PLATE, provenance="plate")
    duty = Choice(
        "Duty",
        {"normal": "Normal, 110 % for 60 s", "heavy": "Heavy, 150 % for 60 s"},
        tab=PLATE,
        help="Centrifugal pumps and fans are normal duty.",
    )
    input_current = Quantity(
        "current", "Rated input current", above=0, upto=3000, tab=PLATE, provenance="plate", more=True,
        help="The supply cable is sized on it.",
    )  # fmt: skip
    short_circuit_rating = Quantity(
        "fault_current", "Short-circuit rating", above=0, upto=200e3, tab=PLATE, provenance="plate", more=True,
        help="Of the drive with the protection its manual names.",
    )  # fmt: skip
    ambient_rating = Quantity(
        "temperature",
        "Ambient rating",
        atleast=20,
        upto=70,
        tab=PLATE,
        provenance="plate",
        help="Often " + tellings("40 or 50 °C", "104 or 122 °F") + ".",
    )
    discharge_time = Quantity(
        "time",
        "Capacitor discharge time",
        above=0,
        upto=3600,
        tab=PLATE,
        provenance="plate",
        help="From the drive's own label. Unknown: ten minutes are kept.",
    )
    ambient = Quantity(
        "temperature", "Hottest air at the drive", atleast=-20, upto=70, tab="Place", provenance="measured"
    )
    enclosure = Choice(
        "It hangs",
        {"open": "In its own case in the room", "vented": "In a ventilated box", "sealed": "In a sealed box"},
        tab="Place",
    )
    place = Flags(
        "What is wrong with the place",
        {
            "sun": "Direct sun",
            "hot_neighbour": "Hot neighbour",
            "salt": "Salt or chemical spray",
            "dust": "Dust or lint",
            "condensation": "Condensation",
            "freezing": "Can freeze",
            "not_upright": "Not upright",
            "tight": f"Less than {in_prose(practice.drive.CLEARANCE)} free",
        },
        none="Nothing: clean, dry, cool, upright",
        tab="Place",
    )
    box_width = Quantity("length", "Box width", above=0.05, upto=5, tab="Place", provenance="measured", when=BOXED)
    box_height = Quantity("length", "Box height", above=0.05, upto=5, tab="Place", provenance="measured", when=BOXED)
    box_depth = Quantity("length", "Box depth", above=0.05, upto=5, tab="Place", provenance="measured", when=BOXED)
    box_stands = Choice(
        "Box stands",
        {
            "free": "Free all round",
            "wall": "Against a wall",
            "row_end": "At the end of a row",
            "row_mid": "In the middle of a row",
            "row_mid_wall": "In a row against a wall",
        },
        tab="Place",
        when=("enclosure:sealed",),
    )
    box_wall = Choice(
        "Box wall",
        {"stirred": "Painted steel, air stirred", "still": "Painted steel, still air", "plastic": "Plastic"},
        tab="Place",
        when=("enclosure:sealed",),
    )
    box_air = Quantity(
        "air_flow", "Air through the box", atleast=0, upto=5, tab="Place", when=("enclosure:vented",),
        help="Of the fan, with its filter.",
    )  # fmt: skip
    lead_length = Quantity("length", "Motor lead", atleast=0, upto=1000, tab="Lead", provenance="measured")
    lead_size = Choice("Conductor of the lead", CONDUCTORS, tab="Lead", provenance="measured", more=True)
    output_filter = Choice(
        "Filter at the output",
        {"none": "None", "dvdt": "dV/dt filter", "sine": "Sine filter"},
        tab="Lead",
        more=True,
    )
    carrier = Quantity(
        "carrier",
        "Carrier wanted",
        atleast=1000,
        upto=16_000,
        tab="Lead",
        help=f"Left empty: low for leads over {in_prose(practice.drive.LEAD_PLAIN)},"
        f" {show(practice.drive.RATED_CARRIER)} otherwise.",
    )
    current_limit = Quantity(
        "current",
        "Current limit wanted",
        above=0,
        upto=3000,
        tab="Limit and family",
        more=True,
        help="Leave empty to let the plate decide.",
    )
    family = Named(
        "Drive family",
        tab="Limit and family",
        help="Gives the settings their labels on that make.",
    )


class Motor(Group):
    """The motor, from its plate, at the connection in use."""

    id = "motor"
    label = "Motor"
    fields: ClassVar[dict[str, Field]] = {}

    make = Text("Make", tab=PLATE, provenance="plate", more=True)
    model = Text("Model", tab=PLATE, provenance="plate", more=True)
    serial = Text("Serial number", tab=PLATE, provenance="plate", more=True)

    type = Choice(
        "Motor",
        {
            "induction": "Three-phase induction",
            "permanent_magnet": "Permanent magnet or EC",
            "single_phase": "Single-phase",
        },
        tab=PLATE,
        provenance="plate",
        help="Left empty: three-phase induction.",
    )
    runs = Choice(
        "The drive's manual says it runs",
        {
            "induction": "Induction motors only",
            "magnet": "Permanent-magnet motors too",
            "single_phase": "Single-phase motors",
        },
        tab=PLATE,
        when=("permanent_magnet", "single_phase"),
    )
    starting = Choice(
        "Way it starts",
        {
            "switch": "A start switch or relay, with a start capacitor",
            "capacitor": "A capacitor that stays in",
            "shaded": "Shaded poles",
        },
        tab=PLATE,
        provenance="plate",
        when=("single_phase",),
        help="A start switch opens at three quarters of full speed: below, its winding burns on a drive.",
    )
    rated_power = Quantity("power", "Power", above=0, upto=2e6, tab=PLATE, provenance="plate", twin="hp")
    rated_voltage = Quantity(
        "voltage",
        "Connection in use",
        above=0,
        upto=1000,
        tab=PLATE,
        provenance="plate",
        help="Volts of the connection.",
    )
    rated_current = Quantity(
        "current",
        "Full-load current",
        above=0,
        upto=3000,
        tab=PLATE,
        provenance="plate",
        help="At the voltage of the connection in use.",
    )
    rated_speed = Quantity(
        "speed",
        "Speed at full load",
        above=0,
        upto=12_000,
        tab=PLATE,
        provenance="plate",
        help="Below synchronous speed for an induction motor.",
    )
    rated_frequency = Quantity("frequency", "Frequency", atleast=40, upto=400, tab=PLATE, provenance="plate")
    service_factor_current = Quantity(
        "current", "Service-factor current", above=0, upto=3000, tab=PLATE, provenance="plate", when=("submersible",),
        help="Submersibles are loaded into it: drive and cable are sized on it.",
    )  # fmt: skip
    power_factor = Quantity(
        "ratio", "Power factor", above=0.2, upto=1, tab=PLATE, provenance="plate", when=("induction", "single_phase")
    )
    efficiency = Quantity("percent", "Efficiency", above=0.2, upto=0.995, tab=PLATE, provenance="plate")
    service_factor = Quantity("ratio", "Service factor", atleast=1, upto=1.5, tab=PLATE, provenance="plate", more=True)
    poles = Quantity(
        "count", "Poles", atleast=2, upto=80, tab=PLATE, provenance="plate", more=True,
        help="Where the plate prints them; otherwise they follow from Hz and r/min.",
    )  # fmt: skip
    other_voltage = Quantity(
        "voltage", "Other connection, volts", above=0, upto=1000, tab=PLATE, provenance="plate", more=True
    )
    other_current = Quantity(
        "current", "Other connection, amps", above=0, upto=3000, tab=PLATE, provenance="plate", more=True
    )
    back_emf_at = Choice(
        "Back-EMF is given",
        {"1000": "At 1000 r/min", "rated": "At rated speed"},
        tab="Exact, typed twice",
        provenance="plate",
        when=MAGNET,
        help="Left empty: at 1000 r/min. Some plates print it as the motor's volts.",
    )
    back_emf = Quantity(
        "voltage", "Back-EMF", above=0, upto=2000, tab="Exact, typed twice", provenance="plate",
        when=MAGNET, help="Line to line. To the last digit: a wrong one makes starting unreliable.",
    )  # fmt: skip
    stator_resistance = Quantity(
        "resistance", "Stator resistance", above=0, upto=200, tab="Exact, typed twice", provenance="plate", when=MAGNET
    )
    inductance_d = Quantity(
        "inductance", "Inductance Ld", above=0, upto=5, tab="Exact, typed twice", provenance="plate", when=MAGNET
    )
    inductance_q = Quantity(
        "inductance", "Inductance Lq", above=0, upto=5, tab="Exact, typed twice", provenance="plate", when=MAGNET
    )
    magnet_poles = Quantity(
        "count", "Poles of the rotor", atleast=2, upto=80, tab="Exact, typed twice", provenance="plate", when=MAGNET
    )
    back_emf_again = Quantity(
        "voltage", "Back-EMF, again", above=0, upto=2000, tab="Exact, typed twice", provenance="plate", when=MAGNET
    )
    stator_resistance_again = Quantity(
        "resistance", "Stator resistance, again", above=0, upto=200, tab="Exact, typed twice", provenance="plate",
        when=MAGNET,
    )  # fmt: skip
    inductance_d_again = Quantity(
        "inductance", "Ld, again", above=0, upto=5, tab="Exact, typed twice", provenance="plate", when=MAGNET
    )
    inductance_q_again = Quantity(
        "inductance", "Lq, again", above=0, upto=5, tab="Exact, typed twice", provenance="plate", when=MAGNET
    )
    magnet_poles_again = Quantity(
        "count", "Poles, again", atleast=2, upto=80, tab="Exact, typed twice", provenance="plate", when=MAGNET
    )
    ie_class = Choice(
        "Efficiency class",
        {"IE1": "IE1 standard", "IE2": "IE2 high", "IE3": "IE3 premium", "IE4": "IE4 super premium"},
        tab="Class and cooling",
        provenance="plate",
        when=INDUCTION,
        more=True,
    )
    efficiency_75 = Quantity(
        "percent",
        "Efficiency at 75 % load",
        above=0.2,
        upto=0.995,
        tab="Class and cooling",
        provenance="plate",
        more=True,
        help="From the data sheet; unknown: taken as at full load.",
    )
    insulation = Choice(
        "Insulation class", {"B": "B", "F": "F", "H": "H"}, tab="Class and cooling", provenance="plate", more=True
    )
    cooling = Choice(
        "Cooled by",
        {
            "own_fan": "Its own shaft fan",
            "separate_fan": "A separate fan",
            "water": "The water it stands in",
            "air_stream": "The air stream it stands in",
        },
        tab="Class and cooling",
        provenance="plate",
    )
    diameter = Quantity(
        "diameter", "Outside diameter of the motor", above=0.02, upto=1, tab="Class and cooling", provenance="plate",
        when=("submersible",),
    )  # fmt: skip
    ambient = Quantity(
        "temperature", "Hottest air at the motor", atleast=-20, upto=80, tab="Class and cooling",
        provenance="measured", more=True,
    )  # fmt: skip
    thermal = Choice(
        "Sensor in the winding",
        {"none": "None", "switch": "Thermal switch", "thermistor": "Thermistor"},
        tab="Class and cooling",
        provenance="plate",
        more=True,
    )
    inverter_duty = Choice(
        "Made for a drive",
        {"yes": "Yes, inverter duty", "no": "No, general purpose"},
        tab="Class and cooling",
        provenance="plate",
        more=True,
    )
    inertia = Quantity(
        "inertia", "Rotor inertia", above=0, upto=500, tab="Class and cooling", provenance="plate", more=True
    )


class Machine(Group):
    """The pump or fan."""

    id = "machine"
    label = "Machine"
    fields: ClassVar[dict[str, Field]] = {}

    make = Text("Make", tab=PLATE, provenance="plate", more=True)
    model = Text("Model", tab=PLATE, provenance="plate", more=True)
    serial = Text("Serial number", tab=PLATE, provenance="plate", more=True)

    count = Quantity(
        "count", "Number of machines", atleast=1, upto=24, tab=PLATE, provenance="plate", when=("several",),
        help="All alike; the figures below are those of one.",
    )  # fmt: skip
    duty_flow = Quantity("flow", "Duty flow", above=0, upto=10, tab=PLATE, provenance="plate", when=PUMP)
    duty_head = Quantity("head", "Duty head", above=0, upto=1000, tab=PLATE, provenance="plate", when=PUMP)
    air_flow = Quantity("air_flow", "Duty flow", above=0, upto=200, tab=PLATE, provenance="plate", when=FAN)
    air_pressure = Quantity(
        "air_pressure", "Duty pressure", above=0, upto=20e3, tab=PLATE, provenance="plate", when=FAN,
        help="Static or total, but the efficiency must be of the same kind.",
    )  # fmt: skip
    condition = Choice(
        "Condition",
        {"new": "New", "used": "Has run for years"},
        tab=PLATE,
        more=True,
        help="A used one is believed to be a little worn before anything is read of it.",
    )
    curve_speed = Quantity(
        "speed",
        "Speed of the curve",
        above=0,
        upto=12_000,
        tab=PLATE,
        provenance="plate",
        help="On plate or curve sheet; of the machine's own shaft.",
    )
    best_flow = Quantity("flow", "Flow at best efficiency", above=0, upto=10, tab=PLATE, provenance="plate", when=PUMP)
    best_efficiency = Quantity("percent", "Best efficiency", above=0.05, upto=0.95, tab=PLATE, provenance="plate")
    best_air_flow = Quantity(
        "air_flow", "Flow at best efficiency", above=0, upto=200, tab=PLATE, provenance="plate", when=FAN, more=True,
        help="Left empty: the duty flow.",
    )  # fmt: skip
    pulley_ratio = Quantity(
        "ratio", "Pulley ratio", above=0.1, upto=5, tab="Turning", provenance="measured", when=FAN,
        more=True, help="The machine's speed over the motor's. Left empty: direct on the shaft, 1.",
    )  # fmt: skip
    inertia = Quantity("inertia", "Inertia", above=0, upto=5000, tab="Turning", provenance="plate", more=True)
    highest_speed = Quantity(
        "speed", "Highest speed allowed", above=0, upto=12_000, tab="Turning", provenance="plate", more=True,
        help="By the maker: class of the fan, shaft and seal of the pump.",
    )  # fmt: skip
    npsh_required = Quantity(
        "head", "NPSH required at duty", above=0, upto=50, tab="Limits of the pump", provenance="plate", when=PUMP,
        more=True,
    )  # fmt: skip
    least_flow = Quantity(
        "flow", "Least continuous flow", above=0, upto=10, tab="Limits of the pump", provenance="plate", when=PUMP,
        more=True,
    )  # fmt: skip
    curve_density = Quantity(
        "density", "Air density of the curve", above=0.3, upto=2, tab="Curve", provenance="plate", when=FAN, more=True,
        help="Left empty: " + DIMENSIONS["density"].tellings(1.2) + ".",
    )  # fmt: skip
    curve = Points(
        "Curve points",
        (
            Column("flow", "Flow", "flow", 0, 10),
            Column("head", "Head", "head", 0, 2000),
        ),
        tab="Curve",
        when=PUMP,
        more=True,
        help="Three or more points at full speed. With none, a shape is assumed from the duty point.",
    )
    air_curve = Points(
        "Curve points",
        (
            Column("flow", "Flow", "air_flow", 0, 200),
            Column("pressure", "Pressure", "air_pressure", 0, 20e3),
        ),
        tab="Curve",
        when=FAN,
        more=True,
        help="Three or more points at full speed. With none, a shape is assumed from the duty point.",
    )


class System(Group):
    """What the machine works on."""

    id = "system"
    label = "System"
    fields: ClassVar[dict[str, Field]] = {}

    suction_pressure = Quantity(
        "pressure", "Pressure at the pump inlet", atleast=-1e5, upto=2.5e6, tab="System", provenance="measured",
        when=("booster", "transfer", "circulator"), help="Gauge, running.",
    )  # fmt: skip
    pumping_level = Quantity(
        "head", "Sensor above the pumped water", atleast=0, upto=500, tab="System", provenance="measured",
        when=("submersible",), help="From the water in the well, while it pumps, up to the sensor.",
    )  # fmt: skip
    static_head = Quantity(
        "head", "Static head", atleast=0, upto=1000, tab="System", when=("booster", "transfer", "wet_well"),
        help="What must be overcome before anything moves.",
    )  # fmt: skip
    known_flow = Quantity(
        "flow", "Flow at one known point", above=0, upto=10, tab="System", provenance="measured", when=PUMP, more=True,
        help="With the head below; left empty: the pump's duty point.",
    )  # fmt: skip
    known_head = Quantity(
        "head", "Head at that point", above=0, upto=1000, tab="System", provenance="measured", when=PUMP, more=True
    )
    pressure_rating = Quantity(
        "pressure", "Lowest pressure rating", above=0, upto=1e7, tab="System", when=PUMP,
        help="Of pipe, tank and fittings.",
    )  # fmt: skip
    relief = Choice(
        "Relief valve", {"yes": "There is one", "no": "None"}, tab="System", provenance="measured", when=PRESSURE
    )
    air_degc = Quantity(
        "temperature", "Air through the fan", atleast=-40, upto=150, tab="System", provenance="measured", when=FAN
    )
    known_air_flow = Quantity(
        "air_flow", "Flow at one known point", above=0, upto=200, tab="System", provenance="measured", when=FAN,
        more=True, help="With the pressure below; left empty: the fan's duty point.",
    )  # fmt: skip
    known_air_pressure = Quantity(
        "air_pressure", "Pressure at that point", above=0, upto=20e3, tab="System", provenance="measured", when=FAN,
        more=True,
    )  # fmt: skip
    windmills = Choice(
        "It may turn by itself",
        {"no": "No", "yes": "Yes, by draught or the other fans"},
        tab="System",
        provenance="measured",
        when=FAN,
    )
    tank_volume = Quantity("volume", "Tank, total volume", above=0, upto=100, tab="Tank and leaks", when=("tank",))
    tank_precharge = Quantity(
        "pressure", "Tank precharge", atleast=0, upto=2.5e6, tab="Tank and leaks", provenance="measured",
        when=("tank",), help="With the system drained.",
    )  # fmt: skip
    leak = Quantity(
        "flow", "Smallest demand or leak", atleast=0, upto=1, tab="Tank and leaks", when=("rests",),
        help="What wakes the drive when nobody draws water.",
    )  # fmt: skip
    well_bore = Quantity(
        "diameter", "Well or casing bore", above=0.05, upto=3, tab="Well", provenance="measured",
        when=("submersible",),
    )  # fmt: skip
    sleeve_bore = Quantity(
        "diameter", "Flow sleeve, inside", above=0.05, upto=1, tab="Well", provenance="measured",
        when=("submersible",), more=True, help="Left empty: no sleeve, the water passes in the well itself.",
    )  # fmt: skip
    pit_area = Quantity(
        "area", "Area of the pit", above=0.05, upto=500, tab="Pit", provenance="measured", when=("wet_well",)
    )
    stop_level = Quantity("head", "Stop level", atleast=0, upto=50, tab="Pit", when=("wet_well",))
    start_level = Quantity("head", "Start level", above=0, upto=50, tab="Pit", when=("wet_well",))
    high_level = Quantity("head", "High-level alarm", above=0, upto=50, tab="Pit", when=("wet_well",))
    pipe_length = Quantity(
        "length", "Length of the pipeline", above=0, upto=50_000, tab="Pipeline", provenance="measured", when=PUMP,
        more=True,
    )  # fmt: skip
    pipe_bore = Quantity(
        "diameter", "Pipe, inside", above=0.005, upto=3, tab="Pipeline", provenance="measured", when=PUMP, more=True
    )
    pipe_wall = Quantity(
        "diameter", "Pipe wall", above=0.0003, upto=0.1, tab="Pipeline", provenance="measured", when=PUMP, more=True
    )
    pipe_material = Choice(
        "Pipe material",
        {"steel": "Steel", "ductile": "Ductile iron", "copper": "Copper", "pvc": "PVC", "pe": "Polyethylene"},
        tab="Pipeline",
        provenance="measured",
        when=PUMP,
        more=True,
    )
    check_valve = Choice(
        "Check valve",
        {"none": "None", "swing": "Swing, slams", "quiet": "Spring or nozzle, quiet"},
        tab="Pipeline",
        provenance="measured",
        when=PUMP,
        more=True,
    )
    surge_protection = Choice(
        "Surge protection",
        {"none": "None", "vessel": "Vessel that takes the surge", "valve": "Valve that opens ahead of it"},
        tab="Pipeline",
        provenance="measured",
        when=PUMP,
        more=True,
    )
    water_above_inlet = Quantity(
        "head", "Water above the pump inlet", atleast=-10, upto=100, tab="Suction", provenance="measured", when=PUMP,
        more=True, help="Negative when it lifts.",
    )  # fmt: skip
    suction_friction = Quantity(
        "head", "Lost in the suction pipe", atleast=0, upto=20, tab="Suction", when=PUMP, more=True
    )
    water_degc = Quantity(
        "temperature", "Water", atleast=0, upto=150, tab="Suction", provenance="measured", when=PUMP, more=True
    )


class Sensor(Group):
    """The transducer that closes the loop."""

    id = "sensor"
    label = "Sensor"
    fields: ClassVar[dict[str, Field]] = {}

    make = Text("Make", tab="From the label", provenance="plate", more=True)
    model = Text("Model", tab="From the label", provenance="plate", more=True)
    serial = Text("Serial number", tab="From the label", provenance="plate", more=True)

    range_low = Quantity(
        "pressure", "Lower range on the label", atleast=-1e5, upto=4e7, tab="From the label", provenance="plate",
        when=PRESSURE,
    )  # fmt: skip
    range_high = Quantity(
        "pressure",
        "Upper range on the label",
        above=0,
        upto=4e7,
        tab="From the label",
        provenance="plate",
        when=PRESSURE,
        help="The label on the transducer, not the box.",
    )
    air_low = Quantity(
        "air_pressure", "Lower range on the label", atleast=-10e3, upto=20e3, tab="From the label",
        provenance="plate", when=DUCT,
    )  # fmt: skip
    air_high = Quantity(
        "air_pressure", "Upper range on the label", atleast=-10e3, upto=20e3, tab="From the label", provenance="plate",
        when=DUCT,
    )  # fmt: skip
    level_low = Quantity(
        "head", "Level at the low end", atleast=-5, upto=100, tab="From the label", provenance="plate", when=LEVEL,
        help="Above the floor of the pit: the height of the sensor's own zero.",
    )  # fmt: skip
    level_high = Quantity(
        "head", "Level at the high end", above=0, upto=100, tab="From the label", provenance="plate", when=LEVEL
    )
    temperature_low = Quantity(
        "temperature", "Lower range on the label", atleast=-100, upto=500, tab="From the label", provenance="plate",
        when=TEMPERATURE,
    )  # fmt: skip
    temperature_high = Quantity(
        "temperature", "Upper range on the label", atleast=-100, upto=500, tab="From the label", provenance="plate",
        when=TEMPERATURE,
    )  # fmt: skip
    flow_low = Quantity(
        "flow", "Lower range on the label", atleast=0, upto=10, tab="From the label", provenance="plate", when=FLOW
    )
    flow_high = Quantity(
        "flow", "Upper range on the label", above=0, upto=10, tab="From the label", provenance="plate", when=FLOW
    )
    range_ordered = Quantity(
        "pressure",
        "Upper range on box or drawing",
        above=0,
        upto=4e7,
        tab="From the label",
        when=PRESSURE,
        more=True,
        help="Checked against the label.",
    )
    overload = Quantity(
        "pressure",
        "Overload pressure",
        above=0,
        upto=1e8,
        tab="From the label",
        provenance="plate",
        when=PRESSURE,
        more=True,
        help="That its sheet allows without damage; not given: twice the range.",
    )
    signal = Choice(
        "Signal",
        {"4-20mA": "4–20 mA, two-wire", "0-10V": "0–10 V", "2-10V": "2–10 V"},
        tab="From the label",
        provenance="plate",
        when=("loop",),
    )
    input_switch = Choice(
        "Input switch of the drive", {"current": "Current", "voltage": "Voltage"}, tab="From the label", when=("loop",)
    )
    height = Quantity(
        "head",
        "Height above the pump inlet",
        atleast=-50,
        upto=200,
        tab="Where it sits",
        provenance="measured",
        when=("sensor:height",),
    )
    place = Flags(
        "What is wrong with its place",
        {
            "branch": "A branch or valve lies between it and the tank",
            "before_tank": "Between pump and tank",
            "far": f"More than {in_prose(practice.sensor.NEAR_TANK)} from the tank",
            "turbulent": "At an elbow or in the pump's turbulence",
            "head_down": "Electrical end points down",
            "freezes": "Can freeze",
            "coiled": "Cable coiled, not cut to length",
            "beside_power": f"Cable within {in_prose(practice.sensor.APART)} of power cables",
        },
        none="Nothing: straight run, moving water, electrical end up",
        tab="Where it sits",
        when=("holds:pressure",),
    )
    school = Choice(
        "Where a pressure sensor belongs",
        {
            "near_tank": f"Within {in_prose(practice.sensor.NEAR_TANK)} of the tank, same straight run",
            "after_tank": "After the tank, before the first branch",
        },
        tab="Where it sits",
        when=("tank",),
        more=True,
        help="Two schools. They agree: never on the far side of a branch or valve. Left empty: both at once.",
    )
    air_place = Flags(
        "What is wrong with its place",
        {
            "swapped": "High and low tubes not proven",
            "near_fan": "Less than two thirds down the main duct",
            "turbulent": "Tip in turbulence or facing the stream",
            "kinked": "Tube kinked, long or wet",
            "coiled": "Cable coiled, not cut to length",
            "beside_power": f"Cable within {in_prose(practice.sensor.APART)} of power cables",
        },
        none="Nothing: two thirds down, tip still, tubes proven",
        tab="Where it sits",
        when=DUCT,
    )
    cable_length = Quantity(
        "length", "Signal cable", atleast=0, upto=2000, tab="Cable and loop", provenance="measured", when=("loop",)
    )
    cable_area = Quantity(
        "conductor_area", "Conductor of the cable", above=1e-7, upto=1e-5, tab="Cable and loop",
        provenance="measured", when=("loop",), more=True,
    )  # fmt: skip
    loop_supply = Quantity(
        "voltage", "Loop supply of the drive", above=5, upto=60, tab="Cable and loop", when=("loop",), more=True,
        help="Left empty: 24 V.",
    )  # fmt: skip
    transmitter_minimum = Quantity(
        "voltage", "Least volts at the sensor", above=2, upto=40, tab="Cable and loop", provenance="plate",
        when=("loop",), more=True, help="Left empty: 10 V.",
    )  # fmt: skip
    input_resistance = Quantity(
        "resistance", "Resistance of the input", atleast=0, upto=2000, tab="Cable and loop", when=("loop",),
        more=True, help="Left empty: 250 Ω.",
    )  # fmt: skip
    bits = Quantity(
        "count", "Bits of the input", atleast=8, upto=16, tab="Cable and loop", when=("loop",), more=True,
        help="Left empty: 12.",
    )  # fmt: skip
    check_pressure = Quantity(
        "pressure",
        "Gauge beside the sensor",
        atleast=-1e5,
        upto=4e7,
        tab="One reading",
        provenance="measured",
        when=PRESSURE,
        help="A gauge and the loop current at the same moment prove the range.",
    )
    check_signal = Quantity(
        "signal", "Loop current at that moment", atleast=0, upto=0.025, tab="One reading", provenance="measured",
        when=PRESSURE,
    )  # fmt: skip


RELAYS = {
    "fault": "Fault",
    "running": "Running",
    "level_high": "Level too high",
    "level_low": "Level too low",
    "pressure_high": "Pressure too high",
    "pressure_low": "Pressure too low",
    "underload": "Underload",
    "none": "Nothing",
}
CONTACTS = {"open": "Normally open", "closed": "Normally closed"}


class Control(Group):
    """What is wanted of the loop."""

    id = "control"
    label = "Setpoint and loop"
    fields: ClassVar[dict[str, Field]] = {}

    setpoint = Quantity(
        "pressure", "Setpoint", above=0, upto=4e6, tab="Wanted", when=PRESSURE, help="At the sensor, gauge."
    )
    air_setpoint = Quantity(
        "air_pressure", "Setpoint", atleast=-5e3, upto=10e3, tab="Wanted", when=DUCT, help="At the sensor's tip."
    )
    level_setpoint = Quantity("head", "Level to hold", above=0, upto=50, tab="Wanted", when=LEVEL)
    temperature_setpoint = Quantity("temperature", "Setpoint", atleast=-60, upto=400, tab="Wanted", when=TEMPERATURE)
    flow_setpoint = Quantity("flow", "Setpoint", above=0, upto=10, tab="Wanted", when=FLOW)
    setpoints = Choice(
        "Setpoints", {"one": "One", "two": "Two, chosen by a contact"}, tab="Wanted", when=("loop",), more=True
    )
    setpoint_2 = Quantity(
        "pressure", "Second setpoint", above=0, upto=4e6, tab="Wanted", when=("second:pressure", "second:differential"),
        help="While its contact is made.",
    )  # fmt: skip
    air_setpoint_2 = Quantity(
        "air_pressure", "Second setpoint", atleast=-5e3, upto=10e3, tab="Wanted", when=("second:duct",)
    )
    level_setpoint_2 = Quantity("head", "Second level", above=0, upto=50, tab="Wanted", when=("second:level",))
    temperature_setpoint_2 = Quantity(
        "temperature", "Second setpoint", atleast=-60, upto=400, tab="Wanted", when=("second:temperature",)
    )
    flow_setpoint_2 = Quantity("flow", "Second setpoint", above=0, upto=10, tab="Wanted", when=("second:flow",))
    effect = Choice(
        "What more speed does",
        {"rise": "Makes it rise", "fall": "Makes it fall"},
        tab="Wanted",
        when=("loop",),
        more=True,
        help="Left empty: as the application has it. Of a temperature it must be told: cooling falls, heating rises.",
    )
    dp_place = Choice(
        "Differential pressure is taken",
        {"far": "At the far end of the circuit", "pump": "Across the pump"},
        tab="Wanted",
        when=("holds:differential",),
    )
    wake_drop = Quantity(
        "percent",
        "Wake drop",
        above=0,
        upto=0.5,
        tab="Rest at no demand",
        when=("rests",),
        more=True,
        help="Share of the sensor's range; 8 % is usual.",
    )
    low_limit = Quantity(
        "frequency", "Low limit", above=0, upto=400, tab="Rest at no demand", when=("rests",), more=True
    )
    sleep_below = Quantity(
        "frequency", "Sleep below", above=0, upto=400, tab="Rest at no demand", when=("rests",), more=True
    )
    sleep_delay = Quantity(
        "time", "Sleep delay", atleast=0, upto=600, tab="Rest at no demand", when=("rests",), more=True
    )
    boost = Quantity(
        "pressure", "Boost before sleep", atleast=0, upto=5e5, tab="Rest at no demand", when=("rests",), more=True
    )
    gain = Quantity(
        "ratio",
        "Gain",
        above=0,
        upto=100,
        tab="Controller",
        when=("loop",),
        more=True,
        help="Percent of speed per percent of range.",
    )
    integral_time = Quantity("time", "Integral time", above=0, upto=3600, tab="Controller", when=("loop",), more=True)
    ramp_up = Quantity("time", "Ramp up, 0 to full speed", above=0, upto=3600, tab="Ramps", more=True)
    ramp_down = Quantity("time", "Ramp down, full speed to 0", above=0, upto=3600, tab="Ramps", more=True)
    starts_allowed = Quantity(
        "rate", "Starts allowed", above=0, upto=1 / 36, tab="Rest at no demand", when=("rests",), more=True
    )
    start_from = Choice(
        "Started by",
        {
            "two_wire": "A contact held closed (two-wire)",
            "three_wire": "Two buttons, start and stop (three-wire)",
            "keypad": "The keypad",
            "link": "The automation link",
            "pressure": "By itself, on pressure or level",
        },
        tab="Orders",
        more=True,
        help="Left empty: a contact held closed.",
    )
    speed_from = Choice(
        "Speed told by",
        {
            "own": "Its own controller",
            "analogue": "An analogue signal",
            "potentiometer": "A potentiometer",
            "presets": "Preset speeds by contacts",
            "keypad": "The keypad",
            "link": "The automation link",
        },
        tab="Orders",
        more=True,
        help="Left empty: its own controller where it holds something, else an analogue signal.",
    )
    preset_1 = Quantity("frequency", "Preset 1", atleast=0, upto=400, tab="Orders", when=("presets",))
    preset_2 = Quantity("frequency", "Preset 2", atleast=0, upto=400, tab="Orders", when=("presets",))
    preset_3 = Quantity(
        "frequency", "Preset 3", atleast=0, upto=400, tab="Orders", when=("presets",), more=True,
        help="With both contacts made.",
    )  # fmt: skip
    local_orders = Choice(
        "Local orders",
        {
            "keypad": "At the keypad",
            "contact": "By a hand/off/auto switch at its contacts",
            "none": "None: only from where it is told in service",
        },
        tab="Orders",
        more=True,
        help="Left empty: at the keypad.",
    )
    local_speed = Choice(
        "Local speed",
        {"keypad": "Set at the keypad", "potentiometer": "A potentiometer", "fixed": "A preset speed"},
        tab="Orders",
        more=True,
        help="Left empty: set at the keypad.",
    )
    speed_signal = Choice(
        "Speed signal",
        {
            "0-10V": "0–10 V",
            "2-10V": "2–10 V",
            "4-20mA": "4–20 mA",
            "0-20mA": "0–20 mA",
            "10-0V": "10–0 V, inverse",
            "20-4mA": "20–4 mA, inverse",
        },
        tab="Orders",
        when=("holds:reference",),
        help="Of the controller that tells the speed; both ends must be set for it.",
    )
    signal_lost = Choice(
        "When the speed signal is lost",
        {"stop": "Stop and alarm", "last": "Last speed and alarm", "minimum": "Lowest speed and alarm"},
        tab="Orders",
        when=("holds:reference",),
        more=True,
    )
    relay_1 = Choice("Relay 1 tells", RELAYS, tab="Relays", more=True, help="Left empty: fault.")
    relay_1_contact = Choice("Relay 1 used as", CONTACTS, tab="Relays", more=True)
    relay_2 = Choice("Relay 2 tells", RELAYS, tab="Relays", more=True, help="Left empty: running.")
    relay_2_contact = Choice("Relay 2 used as", CONTACTS, tab="Relays", more=True)
    bypass = Choice(
        "Bypass", {"none": "None", "contactor": "Contactor round the drive"}, tab="Link and bypass", more=True
    )
    link = Choice(
        "Automation link",
        {"none": "None", "monitor": "It watches", "start_stop": "It starts and stops", "speed": "It sets the speed"},
        tab="Link and bypass",
        more=True,
    )
    link_lost = Choice(
        "When the link is lost",
        {"stop": "Stop", "hold": "Go on as last told", "preset": "Run at a preset speed"},
        tab="Link and bypass",
        when=("linked",),
        more=True,
    )
    bus_address = Quantity(
        "count",
        "Address on the bus",
        atleast=0,
        upto=255,
        tab="Link and bypass",
        when=("linked",),
        more=True,
        help="Its own on this bus.",
    )
    device_instance = Quantity(
        "count",
        "Device instance",
        atleast=0,
        upto=4194302,
        tab="Link and bypass",
        when=("linked",),
        more=True,
        help="Its own in the whole internetwork.",
    )
    analog_output = Choice(
        "Output signal tells",
        {"none": "Nothing", "speed": "Speed", "current": "Current", "power": "Power"},
        tab="Link and bypass",
        more=True,
    )
    output_load = Quantity(
        "resistance", "Load on the output", above=0, upto=5e3, tab="Link and bypass", when=("analog_output",), more=True
    )


STATIONS: tuple[type[Group], ...] = (Supply, Drive, Motor, Machine, System, Sensor)
_ALL: tuple[type[Group], ...] = (LineGroup, Site, *STATIONS, Control, Duty, Proof)
GROUPS: dict[str, type[Group]] = {g.id: g for g in _ALL}
JOINTS: tuple[str, ...] = (
    "supply-drive",
    "drive-motor",
    "motor-machine",
    "machine-system",
    "system-sensor",
    "sensor-drive",
)
