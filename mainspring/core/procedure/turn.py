"""First turn: rotation, filling, the step up to full speed, the baseline."""

import math
from dataclasses import replace

from mainspring.core import practice
from mainspring.core.control.sleep import frequency_of_speed
from mainspring.core.derived import Derived, figures_of
from mainspring.core.errors import MainspringError
from mainspring.core.limits import highest_in_force, lowest_in_force, told_speed
from mainspring.core.line import Line
from mainspring.core.line.record import told_figure
from mainspring.core.line.reversal import reversal_of, wrong_way
from mainspring.core.method import Figure, given
from mainspring.core.procedure.many import seen_one_by_one
from mainspring.core.procedure.step import Reading, School, Step, StepTable, first_known
from mainspring.core.sentence import say, show


def turn_steps(line: Line, derived: Derived) -> list[Step]:
    """Rotation by the shaft or by comparing, then what must come before full speed, then full speed."""
    hidden = "submersible" in line.traits
    steps = []
    if not seen_one_by_one(line):
        # nobody sees its shaft: it is judged by the pressure of a full line, at no more speed than that takes
        steps = [_waste(), _fill(line), _compare_turns(line, derived)] if hidden else [_rotation(line)]
    if line.value("control.bypass") == "contactor":
        steps.append(_bypass())
    if {"booster", "transfer"} & line.traits:
        steps.append(_fill(line))
    steps.append(_step_up(line, derived))
    if any(f"limits.{end}" in line.on_site.decided for end in ("minimum_speed", "maximum_speed")):
        steps.append(_limits_by_hand(line, derived))
    return [*steps, _baseline()]


def _rotation(line: Line) -> Step:
    jog = _jog(line)
    return Step(
        "turn.rotation",
        f"Rotation at {show(jog)}",
        say("Local control, jog about {jog}, look at the shaft.", jog=jog),
        "A fan running backwards still moves some air, the right way, and fools who feels for it."
        if "fan" in line.traits
        else "A pump running backwards still makes some pressure and fools the gauge.",
        "choice",
        danger="The machine is about to turn. People, tools and sleeves clear of the coupling; stop button in reach.",
        choices={"right": "Turns the right way", "wrong": "Turns the wrong way"},
        right="right",
        wrong=wrong_way(line),
        schools=_reversal_schools() if reversal_of(line).at_the_drive else {},
        after=("data.", "many.units"),
    )


def _jog(line: Line) -> Figure:
    """Speed at which the shaft is looked at: not below the lowest that somebody decided, which the drive holds."""
    decided = line.on_site.decided.get("limits.minimum_speed")
    if decided is None or not isinstance(decided.value, float) or decided.value <= float(practice.safety.JOG):
        return practice.safety.JOG
    lowest = told_figure("settings.limits.minimum_speed", decided, "frequency", "Lowest speed")
    assert isinstance(lowest, Figure)
    return lowest


def _reversal_schools() -> dict[str, School]:
    return {
        "leads": School(
            "By two motor leads", "Right with and without a bypass. Taken unless somebody decides otherwise."
        ),
        "drive": School(
            "By the drive's setting", "Wrong with a bypass; lost with the next factory reset.", asks_why=True
        ),
    }


def _waste() -> Step:
    return Step(
        "turn.waste",
        "Pump to waste until clear",
        say(
            "Outlet open to waste, about {f}. Stay with it until the water runs clear.",
            f=practice.pump.WASTE_FREQUENCY,
        ),
        "Sand kills pump and valves; an empty rising main lets the pump lift off its thrust bearing.",
        "choice",
        danger="Never unattended: sleep and dry-run protection do not watch now. Know where the water goes and that"
        " nobody stands there.",
        choices={"clear": "Stayed with it; it runs clear", "sand": "Still sand or colour"},
        right="clear",
        behind="Outlet back from waste to the system",
        wrong="Go on pumping, stay with it. If it does not clear within the hour, stop and ask who drilled it.",
        after=("data.",),
    )


def telling_frequency(line: Line, derived: Derived) -> Figure:
    """Lowest frequency at which two directions can be told apart where nobody sees the shaft.

    Enough above the one that just lifts the water for the right direction to deliver, and never below the lowest that
    the machine stands or somebody decided; that of the first flow to waste, which it has run at, while it is not known
    what is lifted.
    """
    rated = line.motor.rated_frequency
    least = given("practice_minimum", line.application.lowest, "frequency", line.application.lowest_why)
    told = told_speed(line, "limits.minimum_speed")
    floor = least if told is None else max(least, told)
    lifts = first_known(lambda: frequency_of_speed(practice.pump.TELLING, derived.lifting_frequency))
    return min(max(floor, practice.pump.WASTE_FREQUENCY if lifts is None else lifts), rated)


def _compare_turns(line: Line, derived: Derived) -> Step:
    at = first_known(lambda: telling_frequency(line, derived)) or practice.pump.WASTE_FREQUENCY
    foretold = first_known(lambda: derived.foretold_at([at])[0]["pressure"].figure)
    if foretold is not None and foretold <= 0:
        foretold = None  # it does not show at the well head: nothing is foretold by that
    turned = reversal_of(line)
    other = (
        "Else swap two leads and read again at the same opening and speed."
        if turned.at_the_drive
        else "Else turn it round as its kind of motor asks, and read again at the same opening and speed."
    )
    how = f"As foretold: right as wired. {other}" if foretold is not None else other.removeprefix("Else ").capitalize()
    return Step(
        "turn.rotation",
        f"Rotation by comparing, at {show(at)}",
        say("Line full, open to the system, {at} and no faster: read pressure and flow. " + how, at=at),
        "Nobody sees the shaft. The direction that gives more is the right one.",
        "turns",
        danger="To turn it round: power off, lock, wait for the capacitors, measure. An overload at once points to the"
        " wrong direction: stop.",
        readings=(
            Reading("first_pressure", "As wired: pressure", "pressure", foretold, tolerance=0.08, least=5e3),
            Reading("first_flow", "As wired: flow", "flow", low=0.0, optional=True),
            Reading("second_pressure", f"{turned.turned}: pressure", "pressure", optional=foretold is not None),
            Reading("second_flow", f"{turned.turned}: flow", "flow", low=0.0, optional=True),
        ),
        choices={"second": "Left turned round", "first": "Left as it was wired"},
        rests_on=(at,) if foretold is None else (at, foretold),
        wrong=f"It was left in the direction that gives less. {wrong_way(line)}",
        after=("turn.waste", "turn.fill"),
    )


def _bypass() -> Step:
    return Step(
        "turn.bypass",
        "Rotation in bypass",
        say("Drive isolated, a short run in bypass: look at the shaft, or at the pressure."),
        "The drive makes its own phase order; the bypass has the supply's.",
        "choice",
        danger="Full voltage, full speed at once. People clear, system open.",
        choices={"right": "Turns the right way", "wrong": "Turns the wrong way"},
        right="right",
        wrong="Right on the drive and wrong in bypass: swap two leads of the supply to the bypass, not of the motor.",
        after=("turn.rotation", "many.units"),
    )


def _fill(line: Line) -> Step:
    hidden = "submersible" in line.traits
    slow = (
        given("practice_minimum", line.application.lowest, "frequency", line.application.lowest_why) if hidden else None
    )
    wrong = "Stop. Suction shut, pump not primed, a valve open, a burst: find it before the next try."
    pressure, time = line.own(practice.pump.FILL_PRESSURE), line.own(practice.pump.FILL_TIME)
    return Step(
        "turn.fill",
        "Fill the line",
        say(
            "Far valves open to let the air out, run slowly"
            + (", near {slow}" if slow is not None else "")
            + ". {p} must come within {t}; if not, stop.",
            p=pressure,
            t=time,
            **({} if slow is None else {"slow": slow}),
        ),
        "Water that rushes into an empty line hammers where it stops.",
        "readings",
        danger="Water hammer. Potable water: flush and take samples by the local rule before anybody drinks.",
        readings=(
            Reading("pressure", "Pressure reached", "pressure", low=float(pressure)),
            Reading("time", "Time it took", "time", low=0.0, high=float(time) + 0.5),
        ),
        rests_on=(pressure, time),
        behind="Far valves that let the air out are shut again",
        wrong=f"{wrong} It may turn the wrong way too: {wrong_way(line)}" if hidden else wrong,
        after=("turn.waste",) if hidden else ("turn.rotation",),
    )


def _step_up(line: Line, derived: Derived) -> Step:
    try:
        top = top_row(line)
        references = with_lowest(line, step_references(top, lowest_row(line)))
        foretold = derived.foretold_at(references)
        bounds = (top,) if top < line.motor.rated_frequency else ()
        table = StepTable(
            references,
            columns_of(line),
            tuple(figures_of(row) for row in foretold),
            bounds=bounds,
            not_asked=unreachable(line, references),
            uncertain=tuple(
                {n: f.uncertainty for n, f in row.items() if f.uncertainty is not None} for row in foretold
            ),
        )
        rests = tuple(f.figure for row in foretold for f in row.values())
    except MainspringError as gap:
        base = line.value("motor.rated_frequency") or 50.0
        references = step_references(given("base", base, "frequency"), lowest_row(line))
        speeds = _speeds_alone(derived, references)
        columns = _by_slip(columns_of(line), derived) if speeds else columns_of(line)
        table = StepTable(references, columns, speeds, gap.tellings, not_asked=unreachable(line, references))
        rests = tuple(row["speed"] for row in speeds)
    return Step(
        "turn.step_up",
        "Step up to full speed",
        say("Open to the system. Raise the reference step by step, let it settle, read display and gauge."),
        "The grey figure is what this machine should show. The full-speed row becomes the baseline.",
        "table",
        danger="The machine is turning. Stop button in reach."
        + ("" if "fan" in line.traits else " Never leave a pump running against a shut valve."),
        after=("turn.rotation", "many.units", "turn.fill", "turn.bypass", "turn.waste"),
        table=table,
        rests_on=rests,
    )


def _speeds_alone(derived: Derived, references: tuple[Figure, ...]) -> tuple[dict[str, Figure], ...]:
    """Speeds by the motor alone; nothing where not even its plate is known."""
    try:
        return tuple({"speed": derived.speed_alone_at(f)} for f in references)
    except MainspringError:
        return ()


def _by_slip(columns: tuple[Reading, ...], derived: Derived) -> tuple[Reading, ...]:
    """The columns with a speed that may be off by half the motor's slip: nobody knows how much it is loaded."""
    most = max(0.02, 0.5 * float(derived.rated_slip)) if "permanent_magnet" not in derived.line.traits else 0.02
    return tuple(replace(c, tolerance=most) if c.id == "speed" else c for c in columns)


# least: a few steps of the last digit that displays and dial gauges usually show; common practice, no source
STEP_COLUMNS = (
    Reading("speed", "Speed", "speed", low=0.0, tolerance=0.02, least=3.0, optional=True),
    Reading("current", "Current", "current", low=0.0, tolerance=0.10, least=0.2, optional=True),
    Reading("power", "Power", "input_power", low=0.0, tolerance=0.10, least=30.0, optional=True),
    Reading("pressure", "Outlet", "pressure", tolerance=0.08, least=5e3, optional=True),
)
_ACROSS = Reading("pressure", "Across fan", "air_pressure", tolerance=0.12, least=10.0, optional=True)


def columns_of(line: Line) -> tuple[Reading, ...]:
    """Columns of the step-up: a fan's pressure is read across it, in air; power as the display has it, kW or hp."""
    columns = STEP_COLUMNS if "fan" not in line.traits else (*STEP_COLUMNS[:-1], _ACROSS)
    if not shows_horsepower(line):
        return columns
    return tuple(replace(c, dimension="power") if c.id == "power" else c for c in columns)


def shows_horsepower(line: Line) -> bool:
    """Whether the drive's display reads hp: as it is set, else as its region has it."""
    told = line.told("region.power_unit")
    if told is not None:
        return told == "hp"
    return bool(line.has("supply.frequency") and line.supply.frequency > practice.supply.BETWEEN_REGIONS)


NEAR, FAR = 1.0, 4.0  # Hz: rows nearer to the lowest speed say the same; one so far above does not speak for it


def lowest_row(line: Line) -> float:
    """Frequency below which no row is asked: a submersible's thrust bearing has no film there, not even to be read."""
    return line.application.lowest if "submersible" in line.traits else 0.0


def with_lowest(line: Line, references: tuple[Figure, ...]) -> tuple[Figure, ...]:
    """The references with the lowest speed that is in the drive or decided: it is there that cooling and flow tell."""
    told = told_speed(line, "limits.minimum_speed")
    if told is None or not lowest_row(line) <= told < references[-1]:
        return references
    if min(float(r) for r in references if r > told) - told < FAR:
        return references
    beside = [r for r in references if abs(r - told) > NEAR]
    return tuple(sorted((told, *beside)))


def unreachable(line: Line, references: tuple[Figure, ...]) -> frozenset[float]:
    """Rows below the lowest speed that is in the drive or decided: it does not run there, whatever it is told."""
    told = told_speed(line, "limits.minimum_speed")
    least = 0.0 if told is None else float(told)
    return frozenset(float(r) for r in references[:-1] if r < least * 0.999)


def _limits_by_hand(line: Line, derived: Derived) -> Step:
    """The limits that somebody decided, told less and told more: told 60, it gives 55."""
    low = first_known(lambda: lowest_in_force(line, derived))
    high = first_known(lambda: highest_in_force(line, derived))
    return Step(
        "turn.limits",
        "Lowest and highest speed, by hand",
        say("Local: turn the reference all the way down, then all the way up. Read what it gives."),
        "A limit that was decided and never tried is a wish.",
        "readings",
        danger="It runs to its highest speed. Stop button in reach; nothing shut that must be open.",
        after=("turn.step_up",),
        readings=(
            Reading("low", "Reference all the way down, it runs at", "frequency", low, low=0.0, band=0.5),
            Reading("high", "Reference all the way up, it runs at", "frequency", high, low=0.0, band=0.5),
        ),
        rests_on=tuple(f for f in (low, high) if f is not None),
        safety=False,
        skip="Nobody has seen that the limits hold.",
        wrong="Limits, and the scale of the reference, in the drive; is it the local reference that was turned?",
    )


def top_row(line: Line) -> Figure:
    """The last row: full speed, or the highest speed that somebody decided or left below it."""
    rated = line.motor.rated_frequency
    told = told_speed(line, "limits.maximum_speed")
    return rated if told is None else min(told, rated)


def step_references(base: Figure, lowest: float = 0.0) -> tuple[Figure, ...]:
    """References of the step-up: every 10 Hz, half a step before the end, full speed; none below the lowest."""
    below = [float(f) for f in range(10, int(base), 10)] + [float(base) - 5]
    kept = sorted({f for f in below if f >= lowest})
    if lowest and (not kept or kept[0] > lowest + 1):
        kept = [float(math.ceil(lowest)), *kept]
    references = [given(f"reference_{f:g}", f, "frequency", "reference of the step-up") for f in kept]
    return (*references, given("reference_full", float(base), "frequency", "full speed"))


def _baseline() -> Step:
    return Step(
        "turn.baseline",
        "Keep the baseline",
        say("Confirm the full-speed row: every later visit is read against it."),
        "In a year someone will ask whether it has changed.",
        "tick",
        after=("turn.step_up",),
        safety=False,
    )
