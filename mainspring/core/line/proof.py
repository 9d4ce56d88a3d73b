"""How the machine is used over a year, what was there before, what was read on it, and what the change cost."""

from typing import ClassVar

from mainspring.core.line.fields import Choice, Column, Field, Group, Points, Quantity, Text

PUMP, FAN = ("pump",), ("fan",)
YEAR_SECONDS = 8784 * 3600.0
BEFORE, AFTER, SPOTS = "What was there before", "Control now", "Spot readings"
METERS, COMPARED = "Meters", "Compared"
MOTOR, DRIVE, MACHINE = "Motor", "Drive", "Machine"
TELLS = "Readings that tell more"

ALTERNATIVES = {
    "throttle": "Throttled by a valve or damper",
    "vanes": "Inlet guide vanes",
    "bypass": "Bypass back to the inlet",
    "on_off": "Switched on and off",
    "nothing": "Nothing: full flow always",
}


def _hours(flow: str, most: float, when: tuple[str, ...]) -> Points:
    return Points(
        "Hours at each flow",
        (Column("flow", "Flow", flow, 0, most), Column("hours", "Hours a year", "hours", 0, YEAR_SECONDS)),
        tab="Duty",
        when=when,
        help="Five levels are enough; hours in all at most 8 760.",
    )


def _week(flow: str, most: float, when: tuple[str, ...]) -> Points:
    return Points(
        "A typical week",
        (
            Column("from_day", "From day, Monday 1", "count", 1, 7),
            Column("to_day", "to day", "count", 1, 7),
            Column("from_hour", "From hour", "count", 0, 24),
            Column("to_hour", "to hour", "count", 0, 24),
            Column("flow", "Flow", flow, 0, most),
        ),
        tab="Duty",
        when=when,
        more=True,
        help="In place of hours at each flow, so that time-of-use prices meet the right one. The first row that fits.",
    )


def _spots(label: str, flow: str, most: float, when: tuple[str, ...]) -> Points:
    return Points(
        label,
        (Column("flow", "Flow", flow, 0, most), Column("power", "Power taken", "input_power", 0, 2e6)),
        tab=SPOTS,
        when=when,
        more=True,
        help="At the supply, one row a duty.",
    )


class Duty(Group):
    """How the machine is used over a year, and what the change cost."""

    id = "duty"
    label = "Duty and money"
    fields: ClassVar[dict[str, Field]] = {}

    profile = _hours("flow", 10, PUMP)
    air_profile = _hours("air_flow", 200, FAN)
    week = _week("flow", 10, PUMP)
    air_week = _week("air_flow", 200, FAN)
    cost = Quantity("money", "Spent, after grants", atleast=0, upto=1e9, tab="Money")
    capital = Quantity(
        "money", "Spent, before grants", atleast=0, upto=1e9, tab="Money", more=True,
        help="In place of what was spent after grants, together with the grant.",
    )  # fmt: skip
    rebate = Quantity("money", "Grant or rebate", atleast=0, upto=1e9, tab="Money", more=True)
    upkeep = Quantity(
        "money", "Upkeep more than before, a year", atleast=-1e8, upto=1e8, tab="Money", more=True,
        help="Negative where there is less to keep up.",
    )  # fmt: skip


class Proof(Group):
    """What was there before and is there now, and what was read to prove it."""

    id = "proof"
    label = "Before and after"
    fields: ClassVar[dict[str, Field]] = {}

    before = Choice("What was there before", ALTERNATIVES, tab=BEFORE, more=True, help="Left empty: throttled.")
    setpoint_way = Choice(
        "Setpoint now",
        {
            "constant": "Held at one value",
            "proportional": "Falls as the flow falls",
            "reset": "Follows what the system needs",
        },
        tab=AFTER,
        more=True,
        help="Left empty: held as the line is set up.",
    )
    setpoint_least = Quantity(
        "percent", "Setpoint at no flow, of that at full", atleast=0, upto=1, tab=AFTER, more=True,
        help="Of a setpoint that falls as the flow falls; left empty: 50 %.",
    )  # fmt: skip

    spots_before = _spots("Spot readings before", "flow", 10, PUMP)
    spots_after = _spots("Spot readings now", "flow", 10, PUMP)
    air_spots_before = _spots("Spot readings before", "air_flow", 200, FAN)
    air_spots_after = _spots("Spot readings now", "air_flow", 200, FAN)
    meter_before = Quantity(
        "percent", "Power before, largest error", atleast=0, upto=0.5, tab=METERS, provenance="plate", more=True,
        help="Of the reading, meter and transformers together.",
    )  # fmt: skip
    meter_after = Quantity(
        "percent", "Power now, largest error", atleast=0, upto=0.5, tab=METERS, provenance="plate", more=True
    )
    flow_meter = Quantity(
        "percent", "Flow, largest error", atleast=0, upto=0.5, tab=METERS, provenance="plate", more=True
    )
    same_meters = Choice(
        "The same meters both times", {"yes": "Yes", "no": "No"}, tab=METERS, more=True,
        help="Then what they show wrong they show wrong twice, and most of it falls out.",
    )  # fmt: skip
    instruments = Text("Instruments", tab=METERS, more=True, help="What was read with what, as it is to be printed.")
    hours_accuracy = Quantity(
        "percent", "Hours of the year, uncertain by", atleast=0, upto=1, tab=METERS, more=True,
        help="Where the hours at each flow were entered and not measured; left empty: 10 %.",
    )  # fmt: skip

    compared = Choice(
        "Logs compared",
        {
            "flow": "At the same flows",
            "temperature": "At the same temperatures",
            "pressure": "At the same pressures",
            "frequency": "At the same speeds",
            "schedule": "At the same hours of the week",
            "hours": "Hour by hour",
        },
        tab=COMPARED,
        more=True,
    )
    same_service = Text(
        "What shows that the service was the same", tab=COMPARED, more=True,
        help="Where logs are compared hour by hour or by the week: rooms, production, weather, the same schedule.",
    )  # fmt: skip
    confidence = Choice(
        "Confidence", {"68": "68 %", "80": "80 %", "90": "90 %", "95": "95 %"}, tab=COMPARED, more=True,
        help="Left empty: 90 %.",
    )  # fmt: skip
    year_from = Choice(
        "The year asks for",
        {"duty": "The hours at each flow of the duty", "log": "What the logs show, all year"},
        tab=COMPARED,
        more=True,
    )
    doubtful = Choice(
        "Readings that were found wrong",
        {"out": "Left out", "in": "Counted all the same"},
        tab=COMPARED,
        more=True,
        help="Left empty: left out. Nothing is ever put in their place.",
    )

    volts_ab = Quantity(
        "voltage", "Volts, line 1 to 2", above=10, upto=1000, tab=MOTOR, provenance="measured", more=True
    )
    volts_bc = Quantity(
        "voltage", "Volts, line 2 to 3", above=10, upto=1000, tab=MOTOR, provenance="measured", more=True
    )
    volts_ca = Quantity(
        "voltage", "Volts, line 3 to 1", above=10, upto=1000, tab=MOTOR, provenance="measured", more=True
    )
    motor_volts = Quantity(
        "voltage", "Motor volts at full speed", above=10, upto=1000, tab=MOTOR, provenance="measured", more=True,
        help="By the drive's display or a true-rms meter: the slip of a motor goes with its flux.",
    )  # fmt: skip
    amps_a = Quantity("current", "Motor amps, line 1", above=0, upto=3000, tab=MOTOR, provenance="measured", more=True)
    amps_b = Quantity("current", "Motor amps, line 2", above=0, upto=3000, tab=MOTOR, provenance="measured", more=True)
    amps_c = Quantity("current", "Motor amps, line 3", above=0, upto=3000, tab=MOTOR, provenance="measured", more=True)
    cold_resistance = Quantity(
        "resistance", "Winding, cold", above=1e-5, upto=1e4, tab=MOTOR, provenance="measured", more=True,
        help="Between the same two leads as hot, the motor as cold as the room. Isolated, locked and proven dead.",
    )  # fmt: skip
    cold_degc = Quantity(
        "temperature", "Motor when it was cold", atleast=-40, upto=80, tab=MOTOR, provenance="measured", more=True
    )
    hot_resistance = Quantity(
        "resistance", "Winding, hot", above=1e-5, upto=1e4, tab=MOTOR, provenance="measured", more=True,
        help="At once after stopping from a steady load. Isolated, locked and proven dead, capacitors discharged.",
    )  # fmt: skip
    coolant_degc = Quantity(
        "temperature", "Air or water that cools the motor", atleast=-40, upto=100, tab=MOTOR, provenance="measured",
        more=True,
    )  # fmt: skip

    box_degc = Quantity(
        "temperature", "Air at the drive", atleast=-40, upto=100, tab=DRIVE, provenance="measured", more=True,
        help="In its box where it has one, after an hour at load.",
    )  # fmt: skip
    heatsink_degc = Quantity(
        "temperature", "Heatsink, by the drive's display", atleast=-40, upto=150, tab=DRIVE, provenance="measured",
        more=True,
    )  # fmt: skip

    flow = Quantity("flow", "Flow", above=0, upto=10, tab=MACHINE, provenance="measured", when=PUMP, more=True)
    head = Quantity(
        "head", "Head over the pump", above=0, upto=1000, tab=MACHINE, provenance="measured", when=PUMP, more=True,
        help="Outlet less inlet gauge, with the height between them.",
    )  # fmt: skip
    air_flow = Quantity("air_flow", "Flow", above=0, upto=200, tab=MACHINE, provenance="measured", when=FAN, more=True)
    air_pressure = Quantity(
        "air_pressure", "Pressure over the fan", above=0, upto=20e3, tab=MACHINE, provenance="measured", when=FAN,
        more=True,
    )  # fmt: skip
    open_flow = Quantity(
        "flow", "Flow at full speed, all open", above=0, upto=10, tab=TELLS, provenance="measured", when=PUMP,
        more=True, help="By a meter, clamp-on or fixed.",
    )  # fmt: skip
    open_air_flow = Quantity(
        "air_flow", "Flow at full speed, all open", above=0, upto=200, tab=TELLS, provenance="measured", when=FAN,
        more=True, help="By a traverse or a measuring cross.",
    )  # fmt: skip
    clamp_power = Quantity(
        "input_power", "Power to the motor at full speed, by a clamp", above=0, upto=2e6, tab=TELLS,
        provenance="measured", more=True, help="Behind the drive, all open.",
    )  # fmt: skip
    wheel_speed = Quantity(
        "speed", "Speed of the wheel at full speed", above=0, upto=20e3, tab=TELLS, provenance="measured", when=FAN,
        more=True, help="By a tachometer on the fan's own shaft: tells a slipping belt.",
    )  # fmt: skip
    shut_pressure = Quantity(
        "pressure", "Outlet at full speed, valve shut", atleast=-1e5, upto=100e5, tab=TELLS, provenance="measured",
        when=PUMP, more=True, help="Seconds only: a pump against a shut valve heats its water.",
    )  # fmt: skip
    gauge_zero = Quantity(
        "pressure", "Outlet gauge, open to air", atleast=-2e5, upto=2e5, tab=TELLS, provenance="measured", when=PUMP,
        more=True, help="Its cock shut and its pressure let go: what it shows is its error.",
    )  # fmt: skip
    suction = Quantity(
        "pressure", "Suction at rest, by a good gauge", atleast=-1e5, upto=50e5, tab=TELLS, provenance="measured",
        when=PUMP, more=True,
    )  # fmt: skip
    tape = Quantity(
        "head", "Static head, by tape", atleast=0, upto=1000, tab=TELLS, provenance="measured", when=PUMP, more=True,
        help="From the water to where it flows out.",
    )  # fmt: skip
    rest_sensor = Quantity(
        "pressure", "Sensor's display at rest, all open", atleast=-1e5, upto=100e5, tab=TELLS, provenance="measured",
        when=PUMP, more=True,
    )  # fmt: skip
    power = Quantity(
        "input_power", "Power taken from the supply", above=0, upto=2e6, tab=MACHINE, provenance="measured", more=True
    )
    frequency = Quantity(
        "frequency", "Drive frequency then", above=0, upto=120, tab=MACHINE, provenance="measured", more=True
    )
