"""The steps of a start-up, generated from the record."""

from collections.abc import Callable
from dataclasses import dataclass

from mainspring.core.checks.finding import Finding, Severity
from mainspring.core.control.held import ZERO_VOLTS, rises_with_speed, signal_at_setpoint
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError, NotKnown
from mainspring.core.line import Line
from mainspring.core.line.applications import HELD
from mainspring.core.method import Figure, assume, given
from mainspring.core.sentence import Sentence, say
from mainspring.core.settings.setting import SETTINGS

SAFE_VOLTS = 50.0  # V; below it conductors may be touched (NFPA 70E, OSHA 1910.333, from memory)
DEFAULT_DISCHARGE = 600.0  # s; 5 and 10 min are both on labels, the longer is taken (common practice)
PHASES = {
    "isolate": "Isolate and wait",
    "power": "First power",
    "data": "Set the drive",
    "turn": "First turn",
    "signals": "Signals",
    "loop": "Close the loop",
    "finish": "Hand over",
}


@dataclass(frozen=True)
class Reading:
    """One number to read: its kind, what is expected, and between what it passes."""

    id: str
    label: str
    dimension: str
    expected: Figure | None = None
    low: float | None = None
    high: float | None = None
    tolerance: float | None = None  # share of the expected value


@dataclass(frozen=True)
class StepTable:
    """Rows to read at several references, each cell with its prediction."""

    references: tuple[Figure, ...]
    columns: tuple[Reading, ...]
    expected: tuple[dict[str, Figure], ...]
    missing: str = ""


@dataclass(frozen=True)
class Step:
    """One step of the run sheet."""

    id: str
    phase: str
    title: str
    what: Sentence
    why: str
    proof: str  # tick, countdown, readings, choice, table
    danger: str = ""
    after: tuple[str, ...] = ()
    readings: tuple[Reading, ...] = ()
    choices: dict[str, str] | None = None
    right: str = ""  # the choice that proves the step
    seconds: Figure | None = None
    table: StepTable | None = None
    rests_on: tuple[Figure, ...] = ()
    held_by: tuple[str, ...] = ()  # open stop findings that gate this step


def plan_steps(line: Line, derived: Derived, findings: list[Finding]) -> list[Step]:
    """The run sheet of a record, in safe order: a step never before what guards it."""
    makers: list[Callable[[Line, Derived, list[Finding]], Step]] = [
        _lock_out,
        _capacitors,
        _absence,
        _wiring,
        _line_volts,
        _energise,
        _region,
        _motor_data,
        _limits,
        _identification,
        _rotation,
        _step_up,
        _baseline,
    ]
    if "loop" in line.traits or not line.has("line.application"):
        makers += [_sensor, _action]
    if "rests" in line.traits or not line.has("line.application"):
        makers += [_hold, _sleep]
    makers += [_record]
    return [make(line, derived, findings) for make in makers]


def _known(*getters: Callable[[], Figure]) -> tuple[Figure, ...]:
    """The figures that can be told now."""
    found = []
    for get in getters:
        try:
            found.append(get())
        except MainspringError:
            continue
    return tuple(found)


def _planned(line: Line, derived: Derived, *groups: str) -> tuple[Figure, ...]:
    """Figures of the settings of some groups: evidence that they were entered rests on these."""

    def getter(plan: Callable[..., object]) -> Callable[[], Figure]:
        def get() -> Figure:
            value = plan(line, derived).value  # type: ignore[attr-defined]
            if not isinstance(value, Figure):
                raise NotKnown("choice", "a number")
            return value

        return get

    return _known(*(getter(s.plan) for s in SETTINGS.values() if s.group in groups))


def _lock_out(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    return Step(
        "isolate.lock_out",
        "isolate",
        "Lock out, tag, try",
        say("Open the isolator, put your own lock and tag on it, then try to start."),
        "The lock is yours and so is the key; trying proves that the right isolator was opened.",
        "tick",
        danger="Every source counts: control power, a bypass, a windmilling fan or a pump turning backwards. Follow the"
        " site's permit rules and local code.",
    )


def _capacitors(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    seconds = (
        line.drive.discharge_time
        if line.drive.has("discharge_time")
        else assume("drive.discharge_time", DEFAULT_DISCHARGE, "time", "not on record: the longer of the usual labels")
    )
    return Step(
        "isolate.capacitors",
        "isolate",
        "Wait for the capacitors",
        say("Start the clock when the isolator is open. Do not open the drive for {wait}.", wait=seconds),
        "The bus capacitors hold a deadly charge after the supply is gone. A dark display is a sign, not a proof.",
        "countdown",
        danger="Stored charge. The time on the drive's own label governs; a failed bleeder defeats any wait, so the"
        " next step measures.",
        after=("isolate.lock_out",),
        seconds=seconds,
        rests_on=(seconds,),
    )


def _absence(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    pairs = (
        ("l1_l2", "L1 to L2"),
        ("l2_l3", "L2 to L3"),
        ("l3_l1", "L3 to L1"),
        ("l1_pe", "L1 to earth"),
        ("dc", "DC+ to DC−"),
    )
    return Step(
        "isolate.absence",
        "isolate",
        "Measure for absence of voltage",
        say("Prove the meter on a known source, measure every pair, prove the meter again."),
        "Only a reading with a proven meter says that it is dead.",
        "readings",
        danger="Treat it as live until every reading is below 50 V. Gloves and shield to the local rule.",
        after=("isolate.capacitors",),
        readings=tuple(Reading(i, label, "voltage", low=0.0, high=SAFE_VOLTS) for i, label in pairs),
    )


def _wiring(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    return Step(
        "isolate.wiring",
        "isolate",
        "Wiring and covers",
        say(
            "Terminals to the label's torque; supply, motor and signal cables apart; shield earthed at the drive end"
            " only; input switch as the sensor needs; safety contact normally closed."
        ),
        "Loose and over-tightened both fail. A broken wire in a normally-closed contact stops the drive.",
        "tick",
        danger="Put the cover on before power returns: a misplaced cover can short a control board.",
        after=("isolate.absence",),
    )


def _line_volts(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    expected = _known(lambda: line.supply.voltage)
    volts = expected[0] if expected else None
    return Step(
        "power.line_volts",
        "power",
        "Three line voltages",
        say("Measure at the line side of the open isolator, before the drive sees it."),
        "A wrong transformer tap destroys a drive at first power.",
        "readings",
        danger="Live work: only by a competent person, with the protection the local rule asks for.",
        after=("isolate.wiring",),
        readings=tuple(
            Reading(i, label, "voltage", volts, tolerance=0.10)
            for i, label in (("l1_l2", "L1 to L2"), ("l2_l3", "L2 to L3"), ("l3_l1", "L3 to L1"))
        ),
        rests_on=expected,
    )


def _energise(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    stops = tuple(f.title for f in findings if f.place == "supply-drive" and f.severity is Severity.STOP)
    return Step(
        "power.energise",
        "power",
        "Energise",
        say("Covers on, lock off by its owner, stand to the side, close the isolator."),
        "If something fails, it fails now and outwards.",
        "tick",
        danger="Arc flash. Nobody in front of the drive; door closed.",
        after=("power.line_volts",),
        rests_on=_known(
            lambda: line.supply.voltage, lambda: line.drive.input_voltage_low, lambda: line.drive.input_voltage_high
        ),
        held_by=stops,
    )


def _region(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    used = line.value("line.drive_state") == "used"
    what = "Region first, it changes other defaults; then date and time, language, display lines."
    if used:
        what = "A used drive: save what is there, then reset to factory values. " + what
    return Step(
        "power.region",
        "power",
        "Region and clock",
        say(what),
        "50 or 60 Hz and kW or hp stand behind every other default; faults need a date.",
        "tick",
        after=("power.energise",),
        rests_on=_known(lambda: line.supply.frequency),
    )


def _motor_data(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    stops = tuple(f.title for f in findings if f.place in ("motor", "drive-motor") and f.severity is Severity.STOP)
    return Step(
        "data.motor",
        "data",
        "Motor data entered",
        say("Enter the motor's values from the settings sheet, read each back from the display."),
        "They protect the motor and feed the drive's model of it.",
        "tick",
        after=("power.region",),
        rests_on=_planned(line, derived, "motor"),
        held_by=stops,
    )


def _limits(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    return Step(
        "data.limits",
        "data",
        "Limits, ramps, protections",
        say("Current limit, lowest and highest speed, ramps, dry run, restart: from the settings sheet."),
        "Before anything turns, the drive must know where to stop.",
        "tick",
        danger="Automatic restart means the machine starts by itself: put the warning on it.",
        after=("data.motor",),
        rests_on=_planned(line, derived, "limits", "ramps"),
    )


def _identification(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    return Step(
        "data.identification",
        "data",
        "Motor identification",
        say("Motor cold and coupled: run the standstill variant. 1 to 10 min; odd noises are normal."),
        "The drive measures the winding and controls better for it.",
        "choice",
        choices={
            "standstill": "Run, standstill",
            "rotating": "Run, rotating (uncoupled)",
            "not_offered": "Not offered by this drive",
        },
        right="*",
        after=("data.limits",),
        rests_on=_planned(line, derived, "motor"),
    )


def _rotation(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    return Step(
        "turn.rotation",
        "turn",
        "Rotation at 6 Hz",
        say(
            "Local control, jog about {jog}, look at the shaft.", jog=given("jog", 6.0, "frequency", "common practice")
        ),
        "A pump running backwards still makes some pressure and fools the gauge.",
        "choice",
        danger="The machine is about to turn. People, tools and sleeves clear of the coupling; stop button in reach.",
        choices={"right": "Turns the right way", "wrong": "Turns the wrong way"},
        right="right",
        after=("data.identification",),
    )


def _step_up(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    try:
        references = step_references(line.motor.rated_frequency)
        expected = tuple(derived.expected_at(f) for f in references)
        table = StepTable(references, _columns(line), expected)
        rests = tuple(figure for row in expected for figure in row.values())
    except MainspringError as gap:
        base = line.value("motor.rated_frequency") or 50.0
        table = StepTable(step_references(given("base", base, "frequency")), _columns(line), (), str(gap))
        rests = ()
    return Step(
        "turn.step_up",
        "turn",
        "Step up to full speed",
        say("Open to the system. Raise the reference step by step, let it settle, read display and gauge."),
        "The grey figure is what this machine should show. The full-speed row becomes the baseline.",
        "table",
        danger="The machine is turning. Stop button in reach. Never leave a pump running against a shut valve.",
        after=("turn.rotation",),
        table=table,
        rests_on=rests,
    )


STEP_COLUMNS = (
    Reading("speed", "Speed", "speed", tolerance=0.02),
    Reading("current", "Current", "current", tolerance=0.10),
    Reading("power", "Power", "input_power", tolerance=0.10),
    Reading("pressure", "Outlet", "pressure", tolerance=0.08),
)


def _columns(line: Line) -> tuple[Reading, ...]:
    """Columns of the step-up: a fan's pressure is read across it, in air."""
    if "fan" not in line.traits:
        return STEP_COLUMNS
    return (*STEP_COLUMNS[:-1], Reading("pressure", "Across fan", "air_pressure", tolerance=0.12))


def step_references(base: Figure) -> tuple[Figure, ...]:
    """References of the step-up: every 10 Hz, half a step before the end, full speed."""
    below = [float(f) for f in range(10, int(base), 10)] + [float(base) - 5]
    references = [given(f"reference_{f:g}", f, "frequency", "reference of the step-up") for f in below]
    return (*references, given("reference_full", float(base), "frequency", "full speed"))


def _baseline(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    return Step(
        "turn.baseline",
        "turn",
        "Keep the baseline",
        say("Confirm the full-speed row: every later visit is read against it."),
        "In a year someone will ask whether it has changed.",
        "tick",
        after=("turn.step_up",),
    )


def _sensor(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    expected = _known(lambda: signal_at_setpoint(line))
    volts = ZERO_VOLTS.get(line.value("sensor.signal") or "")
    kind = "signal" if volts is None else "voltage"
    zero = given("zero_signal", 0.004 if volts is None else volts, kind, "the signal's zero")
    pressure = line.held is None or line.held.dimension == "pressure"
    air = "holds:duct" in line.traits
    return Step(
        "signals.sensor",
        "signals",
        "Sensor at zero and at the setpoint",
        say("Isolate and vent the sensor, read the signal; then at the setpoint by a gauge or a second instrument."),
        "Prove the input before it is trusted: a wrong range is wrong by its ratio at every value.",
        "readings",
        danger="Up on ladder or roof: both hands for yourself, tools on a line."
        if air
        else "Trapped pressure: vent slowly, and know where the water goes.",
        after=("turn.baseline",),
        readings=(
            Reading("zero", "Vented" if pressure or air else "At its low end", kind, zero, tolerance=0.02)
            if zero > 0
            else Reading("zero", "Vented", kind, low=0.0, high=0.1),
            Reading("setpoint", "At the setpoint", kind, expected[0] if expected else None, tolerance=0.03),
        ),
        rests_on=expected,
    )


def _action(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    held = line.held or HELD["pressure"]
    rises = line.held is None or rises_with_speed(line)
    moved = "fell" if rises else "rose"
    noun = held.noun.capitalize()
    what = {
        "pressure": "open a tap a little",
        "differential": "shut a branch a little",
        "level": "let some water in",
    }.get(held.id, "move the setpoint a little")
    return Step(
        "loop.action",
        "loop",
        "Direction of action",
        say(f"In automatic at low risk: {what}, watch the drive."),
        "The wrong direction drives to full speed or stops.",
        "choice",
        danger="Hand on the stop. It may run to full speed against a shut system.",
        choices={"faster": f"{noun} {moved}, it went faster", "slower": f"{noun} {moved}, it went slower"},
        right="faster",
        after=("signals.sensor",),
        rests_on=_known(lambda: line.figure(held.setpoint)),
    )


def _hold(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    expected = _known(lambda: derived.hold_frequency)
    return Step(
        "loop.hold",
        "loop",
        "Hold at no demand",
        say("Close the valve: no demand. Wait until the frequency settles. Note it."),
        "It is the least speed that holds the setpoint; low limit and sleep follow from it.",
        "readings",
        danger="A pump against a shut valve heats its water: only as long as the reading takes.",
        after=("loop.action",),
        readings=(
            Reading("hold", "Settled frequency", "frequency", expected[0] if expected else None, tolerance=0.05),
        ),
        rests_on=expected,
    )


def _sleep(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    figures = _known(lambda: derived.low_limit, lambda: derived.sleep_below, lambda: derived.wake_at)
    what = "Low limit 1 Hz above the hold frequency, sleep 0.5 to 1 Hz above that, delay 20 s. See it sleep and wake."
    return Step(
        "loop.sleep",
        "loop",
        "Sleep and wake seen",
        say(what),
        "It must rest when nobody draws water, and wake before anybody notices.",
        "tick",
        after=("loop.hold",),
        rests_on=figures,
    )


def _record(line: Line, derived: Derived, findings: list[Finding]) -> Step:
    last = "turn.baseline"
    if "loop" in line.traits or not line.has("line.application"):
        last = "loop.action"
    if "rests" in line.traits or not line.has("line.application"):
        last = "loop.sleep"
    return Step(
        "finish.record",
        "finish",
        "As left, and password",
        say("Enter the as-left settings, set the password last and keep it with the site."),
        "What was it set to? The sheet answers in a year.",
        "tick",
        after=(last,),
    )
