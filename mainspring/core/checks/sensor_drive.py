"""Sensor – drive: signal, switch, direction."""

from mainspring.core.checks.finding import Fix, Verdict, check, clear, stop
from mainspring.core.control.tuning import controller_action
from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED
from mainspring.core.sentence import say
from mainspring.core.signal.loop import signal_of_pressure

NEEDED_SWITCH = {"4-20mA": "current", "0-10V": "voltage", "2-10V": "voltage"}


@check(
    place="sensor-drive",
    about="signal type and input switch",
    needs=("sensor.signal", "sensor.input_switch"),
    source=COMMON_PRACTICE,
)
def switch_suits_signal(line: Line, derived: Derived) -> Verdict:
    """A 4–20 mA loop needs the input in its current position."""
    signal, switch = line.sensor.signal, line.sensor.input_switch
    needed = NEEDED_SWITCH[signal]
    if switch == needed:
        return clear("Input switch suits the signal", say(f"{signal.replace('-', '–')} on the {switch} position."))
    return stop(
        "Input switch in the wrong position",
        say(f"The sensor sends {signal.replace('-', '–')}, the switch stands on {switch}: it would read nonsense."),
        say(f"Power off, wait, measure; then set the switch to {needed}."),
        Fix("sensor.input_switch", needed, say(f"{needed}?")),
    )


@check(
    place="sensor-drive",
    about="what the input should read at the setpoint",
    needs=("control.setpoint", "sensor.range_low", "sensor.range_high"),
    source=DERIVED,
)
def action_is_known(line: Line, derived: Derived) -> Verdict | None:
    """Direction of action in plain words, and the signal at the setpoint."""
    signal = signal_of_pressure(line.control.setpoint, line.sensor.range_low, line.sensor.range_high)
    if not 0.004 <= signal <= 0.020:
        return None
    action = controller_action(+1)
    return clear(
        "Pressure falls, the drive goes faster",
        say(
            "More speed raises the pressure, so the controller is " + action + "-acting; {setpoint} reads {signal}.",
            setpoint=line.control.setpoint,
            signal=signal,
        ),
    )
