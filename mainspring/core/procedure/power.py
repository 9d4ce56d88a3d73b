"""First power, and what is entered into the drive before anything turns."""

from typing import Any

from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.line.on_site import SAME
from mainspring.core.line.record import told_figure
from mainspring.core.method import Figure, given
from mainspring.core.procedure.isolate import two_hot_wires
from mainspring.core.procedure.many import seen_one_by_one
from mainspring.core.procedure.step import Reading, Step, known, planned
from mainspring.core.sentence import Sentence, say
from mainspring.core.settings import Setting, plan_settings

_THREE = (("l1_l2", "L1 to L2"), ("l2_l3", "L2 to L3"), ("l3_l1", "L3 to L1"))


def power_steps(line: Line) -> list[Step]:
    """Line volts, energise, region."""
    used = line.value("line.drive_state") == "used"
    return [_line_volts(line), _energise(line), *((_saved(), _reset()) if used else ()), _region(line)]


def data_steps(line: Line, derived: Derived) -> list[Step]:
    """Motor data, limits, identification."""
    return [
        _motor_data(line, derived),
        _limits(line, derived),
        _identification(line, derived),
    ]


def _line_volts(line: Line) -> Step:
    expected = known(lambda: line.supply.voltage)
    pairs = (("l_n", "L to N"),) if line.value("supply.phases") == "1" else _THREE
    if two_hot_wires(line):
        pairs = (("l1_l2", "L1 to L2"),)
    return Step(
        "power.line_volts",
        "Line volts" if len(pairs) == 1 else "Three line voltages",
        say("Measure at the line side of the open isolator, before the drive sees it."),
        "A wrong transformer tap destroys a drive at first power.",
        "readings",
        danger="Live work: only by a competent person, with the protection the local rule asks for.",
        after=("isolate.",),
        readings=tuple(
            Reading(i, label, "voltage", expected[0] if expected else None, low=0.0, tolerance=0.10)
            for i, label in pairs
        ),
        rests_on=expected,
        wrong="Do not energise. Find the tap or the phase that is wrong.",
    )


def _energise(line: Line) -> Step:
    return Step(
        "power.energise",
        "Energise",
        say("Covers on, lock off by its owner, stand to the side, close the isolator." + _only_one(line)),
        "If something fails, it fails now and outwards.",
        "tick",
        danger="Arc flash. Nobody in front of the drive; door closed.",
        after=("power.line_volts",),
        rests_on=known(
            lambda: line.supply.voltage, lambda: line.drive.input_voltage_low, lambda: line.drive.input_voltage_high
        ),
    )


def _only_one(line: Line) -> str:
    """Of an array only the first gets power now: two that get it together may take one number."""
    return " Unit 1 only; each other one when it takes its number." if seen_one_by_one(line) else ""


def _saved() -> Step:
    return Step(
        "power.saved",
        "Save what is in it",
        say("Copy the settings of this used drive out, or photograph every one that differs from factory."),
        "What it was set to is lost with the reset.",
        "tick",
        after=("power.energise",),
        safety=False,
        skip="What this drive was set to before cannot be restored.",
    )


def _reset() -> Step:
    return Step(
        "power.reset",
        "Reset to factory values",
        say("A used drive only; a new one is as it left the factory."),
        "Somebody's old setting is the slowest fault to find.",
        "tick",
        danger="Some drives start by themselves after a reset when the start contact is closed: open it.",
        after=("power.energise", "power.saved"),
        safety=False,
        skip="Settings of the drive's former life may still act.",
    )


def _region(line: Line) -> Step:
    return Step(
        "power.region",
        "Region and clock",
        say("Region first, it changes other defaults; then date and time, language, display lines."),
        "50 or 60 Hz and kW or hp stand behind every other default; faults need a date.",
        "tick",
        after=("power.energise", "power.reset"),
        rests_on=known(lambda: line.supply.frequency),
    )


def _motor_data(line: Line, derived: Derived) -> Step:
    return Step(
        "data.motor",
        "Motor data entered",
        say("Enter the motor's values from the settings sheet, then read each back from the display."),
        "They protect the motor and feed the drive's model of it.",
        **_read_back(line, derived, "motor"),
        after=("power.region", "power.number"),
    )


def _limits(line: Line, derived: Derived) -> Step:
    dry = " dry run," if "pump" in line.traits else ""
    return Step(
        "data.limits",
        "Limits, ramps, protections",
        say(f"Current limit, lowest and highest speed, ramps,{dry} restart: from the settings sheet."),
        "Before anything turns, the drive must know where to stop.",
        **_read_back(line, derived, "limits", "ramps"),
        danger="Automatic restart means the machine starts by itself: put the warning on it.",
        after=("data.motor",),
    )


def _read_back(line: Line, derived: Derived, *groups: str) -> dict[str, Any]:
    """Values of the sheet to be read back one by one; a tick where none can be told yet.

    What is to be there is what was decided, else what is proposed; to the last digit where that decides.
    """
    wanted: dict[str, tuple[Setting, Figure]] = {}
    for row in plan_settings(line, derived):
        setting = row.setting
        if setting.group not in groups or setting.dimension is None:
            continue
        decided = line.on_site.decided.get(setting.id)
        value = None if row.planned is None else row.planned.value
        if decided is not None:
            value = told_figure(f"settings.{setting.id}", decided, setting.dimension, setting.label)
        if isinstance(value, Figure):
            wanted[setting.id] = (setting, value)
    figures = tuple(figure for _, figure in wanted.values())
    if not figures:
        return {"proof": "tick", "rests_on": ()}
    readings = tuple(
        Reading(
            id,
            setting.label,
            setting.dimension or "",
            figure,
            tolerance=1e-9 if setting.exact else SAME,
            twice=setting.exact,
            **_read_already(line, setting),
        )
        for id, (setting, figure) in wanted.items()
    )
    wrong = "Set it right and read it again; another value that is meant is decided on the settings sheet, with why."
    return {"proof": "readings", "readings": readings, "rests_on": figures, "wrong": wrong}


def _read_already(line: Line, setting: Setting) -> dict[str, Any]:
    """What was read back of a setting at the keypad or on its sheet: nobody reads it twice, unless it must be exact.

    What was read before the drive was replaced, or opened, says nothing of it now.
    """
    told = line.on_site.settings.get(setting.id)
    since = max(line.on_site.stay.touched.values(), default=None)
    if setting.exact or told is None or told.how != "left" or told.taken or told.step or told.at is None:
        return {}
    if not isinstance(told.value, float) or (since is not None and told.at <= since):
        return {}
    return {"read": told.value, "read_by": told.by}


def _identification(line: Line, derived: Derived) -> Step:
    return Step(
        "data.identification",
        "Motor identification",
        say("Motor cold and coupled: run the standstill variant. 1 to 10 min; odd noises are normal."),
        "The drive measures the winding and controls better for it.",
        "choice",
        danger="The rotating variant turns the machine: only uncoupled, people clear.",
        choices={
            "standstill": "Run, standstill",
            "rotating": "Run, rotating (uncoupled)",
            "not_offered": "Not offered by this drive",
        },
        right="*",
        after=("data.limits",),
        rests_on=planned(line, derived, "motor"),
        safety=False,
        skip="The drive works with the plate's values alone; torque at low speed is less sure.",
    )


def link_step(line: Line, clashes: tuple[str, ...]) -> Step:
    """The link to the building's automation; `clashes` are other lines that answer to the same name."""
    address, instance = known(lambda: line.control.bus_address), known(lambda: line.control.device_instance)
    readings = []
    if address:
        readings.append(Reading("address", "Address shown", "count", address[0], band=0.4))
    if instance:
        readings.append(Reading("instance", "Device instance shown", "count", instance[0], band=0.4))
    what = "Read address and instance back from the display"
    if instance and instance[0] > 999:
        thousands, rest = divmod(int(instance[0]), 1000)
        what += ", entered in some drives as {a} thousands and {b}"
        return _link(
            say(
                what + ".",
                a=given("thousands", float(thousands), "count", "of the instance"),
                b=given("rest", float(rest), "count", "of the instance"),
            ),
            tuple(readings),
            clashes,
        )
    return _link(say(what + "."), tuple(readings), clashes)


def _link(what: Sentence, readings: tuple[Reading, ...], clashes: tuple[str, ...]) -> Step:
    items = {
        "may": "What the automation may do is as agreed: watch, start and stop, or set the speed",
        "lost": "Link pulled: the drive does what was agreed",
        "ends": "Termination on the two ends of the line only",
    }
    return Step(
        "many.link",
        "Link to the automation",
        what,
        "Two devices that answer to one name bring both down, somewhere else.",
        "readings" if readings else "list",
        after=("data.limits",),
        readings=readings,
        items=items,
        rests_on=tuple(r.expected for r in readings if r.expected is not None),
        held_by=clashes,
        safety=False,
        skip="The automation does not see or steer this drive, or sees the wrong one.",
    )
