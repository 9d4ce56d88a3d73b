"""The six stations, and the groups beside them: the line as a whole, the site, the loop, the duty."""

from typing import ClassVar

from mainspring.core.line.fields import Choice, Column, Field, Group, Points, Quantity, Text

PLATE = "From the plate"


class LineGroup(Group):
    """What the line is for."""

    id = "line"
    label = "Line"
    fields: ClassVar[dict[str, Field]] = {}

    application = Choice(
        "Application",
        {
            "booster": "Constant-pressure booster pump",
            "transfer": "Transfer or circulating pump, was throttled",
        },
        help="Decides what is asked, checked and proposed.",
    )
    drive_state = Choice(
        "Drive is",
        {"new": "New from the box", "used": "Used before"},
        help="A used drive is reset to factory values, after its settings have been saved.",
    )


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
    reading_12 = Quantity("voltage", "Reading L1 to L2", above=0, upto=1000, tab="Readings", provenance="measured")
    reading_23 = Quantity("voltage", "Reading L2 to L3", above=0, upto=1000, tab="Readings", provenance="measured")
    reading_31 = Quantity("voltage", "Reading L3 to L1", above=0, upto=1000, tab="Readings", provenance="measured")


class Drive(Group):
    """The variable speed drive, from its plate, and where it hangs."""

    id = "drive"
    label = "Drive"
    fields: ClassVar[dict[str, Field]] = {}

    rated_current = Quantity(
        "current",
        "Output current",
        above=0,
        upto=3000,
        tab=PLATE,
        provenance="plate",
        help="Continuous, for the duty in use.",
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
    ambient_rating = Quantity(
        "temperature", "Ambient rating", atleast=20, upto=70, tab=PLATE, provenance="plate", help="Often 40 or 50 °C."
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
        "temperature", "Hottest air at the drive", atleast=-20, upto=70, tab="Place and lead", provenance="measured"
    )
    lead_length = Quantity("length", "Motor lead", atleast=0, upto=1000, tab="Place and lead", provenance="measured")
    current_limit = Quantity(
        "current",
        "Current limit wanted",
        above=0,
        upto=3000,
        tab="Place and lead",
        help="Leave empty to let the plate decide.",
    )
    family = Choice(
        "Drive family",
        {"calder": "Calder (made up)", "tern": "Tern (made up)", "neutral": "Any other"},
        tab="Place and lead",
        help="Gives the settings their labels on that make.",
    )


class Motor(Group):
    """The motor, from its plate, at the connection in use."""

    id = "motor"
    label = "Motor"
    fields: ClassVar[dict[str, Field]] = {}

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
    power_factor = Quantity("ratio", "Power factor", above=0.2, upto=1, tab=PLATE, provenance="plate")
    efficiency = Quantity("percent", "Efficiency", above=0.2, upto=0.995, tab=PLATE, provenance="plate")
    service_factor = Quantity("ratio", "Service factor", atleast=1, upto=1.5, tab=PLATE, provenance="plate")
    ie_class = Choice(
        "Efficiency class",
        {"IE1": "IE1 standard", "IE2": "IE2 high", "IE3": "IE3 premium", "IE4": "IE4 super premium"},
        tab="Cooling and use",
        provenance="plate",
    )
    efficiency_75 = Quantity(
        "percent",
        "Efficiency at 75 % load",
        above=0.2,
        upto=0.995,
        tab="Cooling and use",
        provenance="plate",
        help="From the data sheet; unknown: taken as at full load.",
    )
    insulation = Choice("Insulation class", {"B": "B", "F": "F", "H": "H"}, tab="Cooling and use", provenance="plate")


class Machine(Group):
    """The pump."""

    id = "machine"
    label = "Pump"
    fields: ClassVar[dict[str, Field]] = {}

    duty_flow = Quantity("flow", "Duty flow", above=0, upto=10, tab=PLATE, provenance="plate")
    duty_head = Quantity("head", "Duty head", above=0, upto=1000, tab=PLATE, provenance="plate")
    curve_speed = Quantity(
        "speed",
        "Speed of the curve",
        above=0,
        upto=12_000,
        tab=PLATE,
        provenance="plate",
        help="On plate or curve sheet.",
    )
    best_flow = Quantity("flow", "Flow at best efficiency", above=0, upto=10, tab=PLATE, provenance="plate")
    best_efficiency = Quantity("percent", "Best efficiency", above=0.05, upto=0.95, tab=PLATE, provenance="plate")
    curve = Points(
        "Curve points",
        (
            Column("flow", "Flow", "flow", 0, 10),
            Column("head", "Head", "head", 0, 2000),
        ),
        tab="Curve",
        help="Three or more points at full speed. With none, a shape is assumed from the duty point.",
    )


class System(Group):
    """What the pump works on."""

    id = "system"
    label = "System"
    fields: ClassVar[dict[str, Field]] = {}

    suction_pressure = Quantity(
        "pressure",
        "Pressure at the pump inlet",
        atleast=-1e5,
        upto=2.5e6,
        tab="System",
        provenance="measured",
        help="Gauge, running.",
    )
    static_head = Quantity(
        "head", "Static head", atleast=0, upto=1000, tab="System", help="What must be overcome before anything moves."
    )
    known_flow = Quantity("flow", "Flow at one known point", above=0, upto=10, tab="System", provenance="measured")
    known_head = Quantity("head", "Head at that point", above=0, upto=1000, tab="System", provenance="measured")
    pressure_rating = Quantity(
        "pressure", "Lowest pressure rating", above=0, upto=1e7, tab="System", help="Of pipe, tank and fittings."
    )
    tank_volume = Quantity("volume", "Tank, total volume", above=0, upto=100, tab="Tank and leaks")
    tank_precharge = Quantity(
        "pressure",
        "Tank precharge",
        atleast=0,
        upto=2.5e6,
        tab="Tank and leaks",
        provenance="measured",
        help="With the system drained.",
    )
    leak = Quantity(
        "flow",
        "Smallest demand or leak",
        atleast=0,
        upto=1,
        tab="Tank and leaks",
        help="What wakes the drive when nobody draws water.",
    )


class Sensor(Group):
    """The transducer that closes the loop."""

    id = "sensor"
    label = "Sensor"
    fields: ClassVar[dict[str, Field]] = {}

    range_low = Quantity(
        "pressure", "Range from, on the label", atleast=-1e5, upto=4e7, tab="From the label", provenance="plate"
    )
    range_high = Quantity(
        "pressure",
        "Range to, on the label",
        above=0,
        upto=4e7,
        tab="From the label",
        provenance="plate",
        help="The label on the transducer, not the box.",
    )
    range_ordered = Quantity(
        "pressure",
        "Range to, on box or drawing",
        above=0,
        upto=4e7,
        tab="From the label",
        help="Checked against the label.",
    )
    signal = Choice(
        "Signal",
        {"4-20mA": "4–20 mA, two-wire", "0-10V": "0–10 V", "2-10V": "2–10 V"},
        tab="From the label",
        provenance="plate",
    )
    input_switch = Choice(
        "Input switch of the drive", {"current": "Current", "voltage": "Voltage"}, tab="From the label"
    )
    height = Quantity(
        "head",
        "Height above the pump inlet",
        atleast=-50,
        upto=200,
        tab="From the label",
        provenance="measured",
    )
    check_pressure = Quantity(
        "pressure",
        "Gauge beside it reads",
        atleast=-1e5,
        upto=4e7,
        tab="One reading",
        provenance="measured",
        help="A gauge and the loop current at the same moment prove the range.",
    )
    check_signal = Quantity(
        "signal", "Loop current at that moment", atleast=0, upto=0.025, tab="One reading", provenance="measured"
    )


class Control(Group):
    """What is wanted of the loop."""

    id = "control"
    label = "Setpoint and loop"
    fields: ClassVar[dict[str, Field]] = {}

    setpoint = Quantity("pressure", "Setpoint", above=0, upto=4e6, tab="Wanted", help="Gauge pressure at the sensor.")
    wake_drop = Quantity(
        "percent",
        "Wake drop",
        above=0,
        upto=0.5,
        tab="Rest at no demand",
        help="Share of the sensor's range; 8 % is usual.",
    )
    low_limit = Quantity("frequency", "Low limit", above=0, upto=400, tab="Rest at no demand")
    sleep_below = Quantity("frequency", "Sleep below", above=0, upto=400, tab="Rest at no demand")
    sleep_delay = Quantity("time", "Sleep delay", atleast=0, upto=600, tab="Rest at no demand")
    boost = Quantity("pressure", "Boost before sleep", atleast=0, upto=5e5, tab="Rest at no demand")
    gain = Quantity("ratio", "Gain", above=0, upto=100, tab="Controller", help="Percent of speed per percent of range.")
    integral_time = Quantity("time", "Integral time", above=0, upto=3600, tab="Controller")
    ramp_up = Quantity("time", "Ramp up, 0 to full speed", above=0, upto=3600, tab="Ramps")
    ramp_down = Quantity("time", "Ramp down, full speed to 0", above=0, upto=3600, tab="Ramps")
    starts_allowed = Quantity("rate", "Starts allowed", above=0, upto=1 / 36, tab="Rest at no demand")


class Duty(Group):
    """How the machine is used over a year, and what the change cost."""

    id = "duty"
    label = "Duty and money"
    fields: ClassVar[dict[str, Field]] = {}

    profile = Points(
        "Hours at each flow",
        (
            Column("flow", "Flow", "flow", 0, 10),
            Column("hours", "Hours a year", "hours", 0, 8784 * 3600.0),
        ),
        tab="Duty",
        help="Five levels are enough; hours in all at most 8 760.",
    )
    cost = Quantity("money", "Spent, after grants", atleast=0, upto=1e9, tab="Money")


STATIONS: tuple[type[Group], ...] = (Supply, Drive, Motor, Machine, System, Sensor)
_ALL: tuple[type[Group], ...] = (LineGroup, Site, *STATIONS, Control, Duty)
GROUPS: dict[str, type[Group]] = {g.id: g for g in _ALL}
JOINTS: tuple[str, ...] = (
    "supply-drive",
    "drive-motor",
    "motor-machine",
    "machine-system",
    "system-sensor",
    "sensor-drive",
)
