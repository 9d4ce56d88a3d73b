"""Every input proven before it is trusted, every output before somebody relies on it."""

from mainspring.core import practice
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError
from mainspring.core.held import ZERO_VOLTS, signal_at_setpoint
from mainspring.core.limits import highest_in_force, lowest_in_force
from mainspring.core.line import Line
from mainspring.core.method import Figure, given
from mainspring.core.procedure.isolate import defeated
from mainspring.core.procedure.step import Reading, School, Step, StepTable, known
from mainspring.core.sentence import in_prose, say
from mainspring.core.settings.orders import relay
from mainspring.core.signal.calibration import FIVE_POINTS, GROSS, PASS
from mainspring.core.signal.loop import (
    between_limits,
    frequency_of_reference,
    signal_of_share,
    value_of_share,
    volts_of_share,
)


def signal_steps(line: Line, derived: Derived) -> list[Step]:
    """Digital inputs, relays, the sensor's place, its five points, its setpoint; the reference; the output."""
    steps = [_digital(line)]
    if any(relay(line, n)[0] != "none" for n in (1, 2)):
        steps.append(_relays(line))
    if "loop" in line.traits or not line.has("line.application"):
        if {"tank", "holds:pressure"} <= line.traits:
            steps.append(_place())
        steps += [_input(line), _sensor(line)]
    elif line.value("control.speed_from") not in ("presets", "keypad", "link"):
        steps.append(_reference(line, derived))
    if line.value("control.analog_output") not in (None, "none"):
        steps.append(_output(line))
    return steps


_START = {
    "two_wire": "Start contact made: the drive shows it; broken: it stops",
    "three_wire": "Start button: it runs and goes on; stop button: it stops",
    "keypad": "Start and stop on the keypad; no contact starts it",
    "link": "Start and stop over the link; no contact starts it",
    "pressure": "Enable contact made: it waits for what it holds; broken: it stops",
}


def _digital(line: Line) -> Step:
    items = {"start": _START[line.value("control.start_from") or "two_wire"]}
    if not defeated(line):
        items["interlock"] = "Safety contact opened while running slowly: it stops at once"
    if line.value("motor.thermal") not in (None, "none"):
        items["thermal"] = "Thermal contact of the motor opened: it trips"
    if "wet_well" in line.traits:
        items["high"] = "High-level float lifted: alarm, and the standby pump"
        items["dry"] = "Low-level float or stop level: it stops"
    if line.value("control.local_orders") == "contact":
        items["hand"] = "Hand, off, auto: each position does what it says, and off stops it from both"
    if line.value("control.setpoints") == "two":
        items["setpoint"] = "Setpoint contact made: the display shows the second; open: the first"
    for number in (1, 2, 3):
        if "presets" in line.traits and line.has(f"control.preset_{number}"):
            speed = in_prose(line.figure(f"control.preset_{number}"))
            contacts = "both preset contacts" if number == 3 else f"preset contact {number}"
            items[f"preset_{number}"] = f"With {contacts} made the display shows {speed}, within the limits in force"
    if line.value("control.link") in ("start_stop", "speed"):
        items["automation"] = "Start and stop from the automation"
    return Step(
        "signals.digital",
        "Contacts in",
        say("Make and break each at the far end of its wire, watch the drive's display."),
        "A contact that was never opened has never been proven.",
        "list",
        danger="It may start when a contact closes. Reference at its lowest, people clear.",
        after=("turn.rotation", "many.units"),
        items=items,
        wrong="Find the wire: terminal, common, contact, logic of the input.",
    )


# how a relay's condition is made, or simulated where making it would do harm
_MAKES = {
    "running": "it turns",
    "fault": "the drive trips or loses power",
    "level_high": "the level is too high: lift the float or raise the signal",
    "level_low": "the level is too low: lower the float or the signal",
    "pressure_high": "the pressure is too high: by a source at the sensor input",
    "pressure_low": "the pressure is too low: by a source at the sensor input",
    "underload": "it runs dry: raise the threshold for the test, never run it dry",
}


def _relays(line: Line) -> Step:
    told = {n: relay(line, n) for n in (1, 2)}
    items: dict[str, str] = {}
    for n, (function, contact) in told.items():
        if function != "none":
            acts = "opens" if contact == "closed" else "made"
            key = f"{function}_{n}" if function in items else function
            items[key] = f"Relay {n}, normally {contact}: {acts} while {_MAKES[function]}"
    simulated = any(function not in ("running", "fault", "none") for function, _ in told.values())
    return Step(
        "signals.relays",
        "Relays out",
        say("Make the condition, or simulate it. Look at each where it ends, not at the drive's terminal."),
        "An alarm that nobody gets is none.",
        "list",
        after=("turn.rotation", "many.units"),
        items=items,
        behind="Thresholds and signals that were moved for the relays are as on the sheet" if simulated else "",
        safety=False,
        skip="Nobody is told when this drive stops.",
    )


def _place() -> Step:
    return Step(
        "signals.place",
        "Where the sensor sits",
        say("Look at the pipe from the tank to the sensor."),
        "On the far side of a branch or valve from the tank it feels another pressure than the tank holds.",
        "choice",
        after=("turn.rotation", "many.units"),
        choices={"fits": "There", "other": "Elsewhere"},
        right="fits",
        wrong="Both schools agree: never beyond a branch or valve from the tank. Move it, or say why it stays.",
        schools={
            "near_tank": School(
                f"Within {in_prose(practice.sensor.NEAR_TANK)} of the tank",
                "Same straight run; it feels what the tank holds.",
            ),
            "after_tank": School("After the tank, before the first branch", "Never between pump and tank."),
        },
        rests_on=(),
        safety=False,
        skip="It may hunt, or start and stop on another branch's demand.",
    )


def _zero(line: Line) -> tuple[float, str]:
    """Signal at the low end of the range, and its kind."""
    volts = ZERO_VOLTS.get(line.value("sensor.signal") or "")
    return (0.004, "signal") if volts is None else (volts, "voltage")


# a speed signal at 0 and at 100 %, in volts or amperes, and its kind
SPEED_SIGNALS = {
    "0-10V": (0.0, 10.0, "voltage"), "2-10V": (2.0, 10.0, "voltage"), "10-0V": (10.0, 0.0, "voltage"),
    "4-20mA": (0.004, 0.02, "signal"), "0-20mA": (0.0, 0.02, "signal"), "20-4mA": (0.02, 0.004, "signal"),
}  # fmt: skip


def _input(line: Line) -> Step:
    zero, kind = _zero(line)
    span = 0.016 if kind == "signal" else 10.0 - zero
    held = line.held
    shares = tuple(given(f"point_{100 * s:g}", s, "percent", "point of the range") for s in FIVE_POINTS)

    def signal(share: Figure) -> Figure:
        if kind == "signal":
            return signal_of_share(share)
        return volts_of_share(share, given("zero_volts", zero, "voltage", "the signal's zero"))

    columns = [
        Reading("up", "Signal, rising", kind, low=0.0, band=PASS * span, gross=GROSS * span),
        Reading("down", "Signal, falling", kind, low=0.0, band=PASS * span, gross=GROSS * span, optional=True),
    ]
    expected: list[dict[str, Figure]] = [{"up": signal(s), "down": signal(s)} for s in shares]
    missing = ""
    try:
        assert held is not None
        low, high = line.figure(held.range_low), line.figure(held.range_high)
        width = abs(float(high) - float(low))
        columns.append(
            Reading("shown", "Display", held.dimension or "ratio", band=2 * PASS * width, gross=GROSS * width)
        )
        for row, share in zip(expected, shares, strict=True):
            row["shown"] = value_of_share(share, low, high)
    except AssertionError:
        missing = "the range of the sensor is not known"
    except MainspringError as gap:
        missing = gap.tellings
    return Step(
        "signals.input",
        "Sensor input at five points",
        say("Give 0, 25, 50, 75 and 100 % of the range, up and down: by hand pump and gauge, or a source instead."),
        "A wrong range, switch or zero shows its own pattern over five points and hides at one.",
        "table",
        danger="Vent the sensor's line slowly. Loop disconnected at the drive while a source feeds the input.",
        after=("turn.rotation", "many.units"),
        table=StepTable(shares, tuple(columns), tuple(expected), missing, all_rows=True),
        rests_on=tuple(row["shown"] for row in expected if "shown" in row),
        behind="Source off the sensor input, the sensor's own wires back",
        wrong="Correct what the pattern names, then read all five again.",
    )


_AT_ZERO = {  # how a sensor is brought to the low end of what it reads, by what it reads
    "pressure": "Isolate and vent the sensor, read the signal;",
    "temperature": "Hold a second thermometer beside the probe, as cold as it gets, and read the signal;",
    "flow": "Stop all flow, read the signal;",
    "head": "Lift or vent the sensor to its zero, read the signal;",
}


def _sensor(line: Line) -> Step:
    expected = known(lambda: signal_at_setpoint(line))
    value, kind = _zero(line)
    zero = given("zero_signal", value, kind, "the signal's zero")
    air = "holds:duct" in line.traits
    held = "pressure" if line.held is None else line.held.dimension or "pressure"
    vents = air or held not in _AT_ZERO or held == "pressure"
    return Step(
        "signals.sensor",
        "Sensor at zero and at the setpoint",
        say(_AT_ZERO["pressure" if vents else held] + " then at the setpoint by a gauge or a second instrument."),
        "The input may be right and the sensor wrong: this is the sensor itself, in its place.",
        "readings",
        danger="Up on ladder or roof: both hands for yourself, tools on a line."
        if air
        else "Guards stay on: nobody reaches past the wheel."
        if "fan" in line.traits
        else "Trapped pressure: vent slowly, and know where the water goes.",
        after=("turn.baseline", "signals.input"),
        readings=(
            Reading("zero", "Vented" if vents else "At its low end", kind, zero, low=0.0, tolerance=0.02)
            if zero > 0
            else Reading("zero", "Vented", kind, low=0.0, high=0.1),
            Reading("setpoint", "At the setpoint", kind, expected[0] if expected else None, low=0.0, tolerance=0.03),
        ),
        rests_on=expected,
        wrong="Read again. If it stays: range, height of the sensor, or its zero.",
    )


def _reference(line: Line, derived: Derived) -> Step:
    shares = tuple(given(f"point_{100 * s:g}", s, "percent", "of the speed signal") for s in FIVE_POINTS)
    chosen = line.value("control.speed_signal")
    at_zero, at_full, kind = SPEED_SIGNALS[chosen or "0-10V"]
    span = abs(at_full - at_zero)
    expected: list[dict[str, Figure]] = [
        {"signal": given(f"signal_{100 * s:g}", at_zero + float(s) * (at_full - at_zero), kind, "of the speed signal")}
        if chosen
        else {}
        for s in shares
    ]
    missing = ""
    between: tuple[Figure, ...] = ()
    try:
        base = line.motor.rated_frequency
        between = (lowest_in_force(line, derived), highest_in_force(line, derived))
        for row, share in zip(expected, shares, strict=True):
            row["shown"] = between_limits(frequency_of_reference(share, base), *between)
    except MainspringError as gap:
        missing = gap.tellings
    limits = dict(zip(("low", "high"), between, strict=True)) if between else {}
    runs = " It runs between {low} and {high}, whatever it is told." if between else ""
    return Step(
        "signals.reference",
        "Speed signal at five points",
        say(
            "From the far end: 0, 25, 50, 75, 100 %. Started without a signal it runs at its lowest speed: expected."
            + runs,
            **limits,
        ),
        "A 2–10 V signal on an unscaled input reads 12 Hz of 60 at its zero.",
        "table",
        danger="The machine follows the signal. People clear, stop button in reach.",
        after=("turn.baseline",),
        table=StepTable(
            shares,
            (
                Reading("signal", "Signal", kind, low=0.0, band=PASS * span, gross=GROSS * span, optional=True),
                Reading("shown", "Speed", "frequency", low=0.0, band=0.5, gross=5.0),
            ),
            tuple(expected),
            missing,
            all_rows=True,
        ),
        rests_on=tuple(row["shown"] for row in expected if "shown" in row),
        behind="Source off the speed input, the building's own wires back",
        wrong="Signal type at both ends, low and high end of the input's scale.",
    )


def _output(line: Line) -> Step:
    shares = tuple(given(f"point_{100 * s:g}", s, "percent", "of what the output tells") for s in (0.0, 0.5, 1.0))
    return Step(
        "signals.output",
        "Output signal at three points",
        say("Meter in series at the far end: standing, half, full. The last shows whether the drive can push 20 mA."),
        "A load above what the output can drive looks right until half way.",
        "table",
        after=("turn.baseline",),
        table=StepTable(
            shares,
            (Reading("read", "Signal", "signal", low=0.0, band=2 * PASS * 0.016, gross=0.002),),
            tuple({"read": signal_of_share(s)} for s in shares),
            all_rows=True,
        ),
        rests_on=known(lambda: line.control.output_load),
        safety=False,
        behind="Meter out of the output, its wires back",
        skip="Whoever reads this output is not told that it was never checked.",
        wrong="Scale at both ends; then the resistance of all that the loop passes through.",
    )
