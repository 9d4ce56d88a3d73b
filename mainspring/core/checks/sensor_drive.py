"""Sensor – drive: signal, switch, direction."""

from mainspring.core import practice
from mainspring.core.checks.finding import Fix, Verdict, caution, check, clear, stop
from mainspring.core.control.tuning import controller_action
from mainspring.core.derived import Derived
from mainspring.core.held import (
    action_words,
    check_direction,
    has_one_way,
    held_figures,
    rises_with_speed,
    signal_at_setpoint,
)
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Source, assume_practice
from mainspring.core.sentence import say
from mainspring.core.signal.loop import (
    loop_load_limit,
    loop_resistance,
    loop_wire_resistance,
)

NEEDED_SWITCH = {"4-20mA": "current", "0-10V": "voltage", "2-10V": "voltage"}


@check(
    place="sensor-drive",
    about="signal type and input switch",
    needs=("sensor.signal", "sensor.input_switch"),
    holds="loop",
    source=COMMON_PRACTICE,
    only=("loop",),
    answers=("sensor.input_switch", "sensor.signal"),
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
    about="direction of action, and what the input reads at the setpoint",
    needs=("line.application",),
    holds="loop",
    source=DERIVED,
    only=("loop",),
    answers=("control.effect",),
)
def action_is_known(line: Line, derived: Derived) -> Verdict | None:
    """Direction of action in plain words, derived from what running faster does, and the signal at the setpoint."""
    held = line.held
    if held is None or not held.setpoint:
        return None
    check_direction(line)
    rises = rises_with_speed(line)
    moves, way = ("raises", "rise") if rises else ("lowers", "fall")
    if has_one_way(line) and line.value("control.effect") not in (None, way):
        return stop(
            "Direction is the wrong way round",
            say(f"{line.application.label}: more speed {moves} the {held.noun}, and the opposite was entered. So set,"
                " the loop runs to full speed or stops."),
            say("Correct it. If the loop did the opposite on site, the machine turns backwards, or two leads of the"
                " sensor are crossed: find which before it runs."),
            Fix("control.effect", way, say(f"{way.capitalize()}?")),
        )  # fmt: skip
    setpoint, low, high = held_figures(line)
    if not low <= setpoint <= high:
        return None
    acts = controller_action(+1 if rises else -1)
    return clear(
        action_words(line),
        say(
            f"More speed {moves} the {held.noun}, so the controller is {acts}-acting; {{setpoint}} reads {{signal}}.",
            setpoint=setpoint,
            signal=signal_at_setpoint(line),
        ),
    )


@check(
    place="sensor-drive",
    about="volts left for the sensor",
    needs=("sensor.signal", "sensor.cable_length"),
    holds="loop",
    source=Source("NAMUR NE 43", "alarm current 21.5 mA, from memory", "standard"),
    only=("loop",),
    answers=("sensor.cable_length", "sensor.cable_area", "sensor.loop_supply", "sensor.input_resistance"),
    meant="sensor.cable_length",
)
def loop_has_volts_left(line: Line, derived: Derived) -> Verdict | None:
    """Resistance of cable and input against what a two-wire sensor leaves at its alarm current."""
    sensor = line.sensor
    if sensor.signal != "4-20mA":
        return _voltage_signal(line)
    area = (
        sensor.cable_area
        if sensor.has("cable_area")
        else assume_practice("sensor.cable_area", practice.sensor.CABLE_AREA)
    )
    supply = (
        sensor.loop_supply
        if sensor.has("loop_supply")
        else assume_practice("sensor.loop_supply", practice.sensor.LOOP_SUPPLY)
    )
    least = (
        sensor.transmitter_minimum
        if sensor.has("transmitter_minimum")
        else assume_practice("sensor.transmitter_minimum", practice.sensor.TRANSMITTER_LEAST)
    )
    shunt = (
        sensor.input_resistance
        if sensor.has("input_resistance")
        else assume_practice("sensor.input_resistance", practice.sensor.INPUT_RESISTANCE)
    )
    wire = loop_wire_resistance(sensor.cable_length, area)
    total, limit = loop_resistance(wire, shunt), loop_load_limit(supply, least)
    numbers = {"length": sensor.cable_length, "total": total, "limit": limit, "wire": wire}
    numbers |= {"longest": line.own(practice.sensor.LOOP_CABLE), "apart": line.own(practice.sensor.APART)}
    if total > limit:
        return stop(
            "Too much resistance in the loop",
            say("{length} of cable and the input make {total}; the sensor drives at most {limit}.", **numbers),
            say("Thicker cable, a higher loop supply, or a lower input resistance."),
        )
    if sensor.cable_length > numbers["longest"]:
        return caution(
            "Signal cable is long",
            say("{length}; up to about {longest} is common practice. {total} of {limit} are used.", **numbers),
            say("Screen it, keep it {apart} from power cables, earth the shield at the drive end only.", **numbers),
        )
    return clear("Loop has volts left", say("{total} with {length} of cable, {limit} allowed.", **numbers))


def _voltage_signal(line: Line) -> Verdict:
    length = line.sensor.cable_length
    if length > line.own(practice.sensor.VOLTS_CABLE):
        return caution(
            "Voltage signal on a long cable",
            say("{length} with a voltage signal: it picks up noise and loses volts.", length=length),
            say("Take a 4–20 mA sensor, or keep the cable short."),
        )
    return clear("Cable is short enough", say("{length} with a voltage signal.", length=length))
