"""What each contact input does: the functions that the line's orders ask for, in a fixed order."""

from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.settings.does import doubt
from mainspring.core.settings.setting import Planned, fixed, setting

INPUTS = 6  # of a usual drive's terminals; common practice, no source
FUNCTIONS = {
    "none": "Nothing",
    "start": "Start",
    "stop": "Stop, normally closed",
    "enable": "Enable, normally closed",
    "hand": "Hand/auto",
    "preset_1": "Preset speed 1",
    "preset_2": "Preset speed 2",
    "preset_3": "Preset speed 3",
    "setpoint_2": "Second setpoint",
    "thermal": "Motor's thermal switch",
    "reset": "Fault reset",
}


def wanted_functions(line: Line) -> list[str]:
    """Functions that some contact of the line is to have, in the order of the inputs."""
    start = line.value("control.start_from")
    interlock = line.told("protection.interlock")
    asked = {
        "start": start in (None, "two_wire", "three_wire"),
        "stop": start == "three_wire",
        "enable": interlock != "disabled",
        "hand": line.value("control.local_orders") == "contact",
        **{f"preset_{n}": "presets" in line.traits and line.has(f"control.preset_{n}") for n in (1, 2, 3)},
        "setpoint_2": line.value("control.setpoints") == "two",
        "thermal": line.value("motor.thermal") == "switch",
    }
    return [function for function, wanted in asked.items() if wanted]


_INPUT_FREE = doubt("Nothing reads this contact", "What is wired to it for “{proposed}” does nothing.")
_INPUT = doubt("Another thing happens", "The contact that is labelled “{proposed}” does “{value}”.")
_INPUTS = {
    "none": _INPUT_FREE,
    **dict.fromkeys(
        ("start", "stop", "enable", "hand", "preset_1", "preset_2", "preset_3", "setpoint_2", "thermal", "reset"),
        _INPUT,
    ),
}


def _input(number: int) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        wanted = wanted_functions(line)
        if number > len(wanted):
            return fixed("none", "No other contact is asked for.")
        return fixed(wanted[number - 1], "In the order of the contacts that the line's orders ask for.")

    plan.__doc__ = "The contacts that the line's orders ask for, in a fixed order; the rest do nothing."
    setting(
        f"io.digital_{number}",
        f"Contact input {number}",
        choices=FUNCTIONS,
        wrong="Another thing happens than the one it is labelled with.",
        means=f"What contact input {number} does.",
        also=f"digital input {number}; di{number}; input {number}; terminal {number}; binary input {number};"
        f" digitaleingang {number}",
        does=_INPUTS,
    )(plan)


for _number in range(1, INPUTS + 1):
    _input(_number)
