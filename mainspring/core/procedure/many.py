"""More than one drive: the set on one pipe, and the wall of small fans. What each unit proves by itself."""

from dataclasses import replace

from mainspring.core.line import Line
from mainspring.core.line.reversal import wrong_way
from mainspring.core.method import Figure, given
from mainspring.core.procedure.step import Step, StepTable, known
from mainspring.core.sentence import say

# steps of a cascade that each drive has by itself, as a step of its own
_OWN_STEP = ("turn.rotation", "turn.bypass", "turn.step_up")
_OWN_ROW = ("isolate.absence", "isolate.insulation", "power.line_volts")
# and those that hold a piece for each drive: what was done to it
_OWN_PIECE = {
    "isolate.lock_out": {"locked": "Its isolator open, locked and tagged; tried"},
    "power.energise": {"energised": "Energised, door closed, nobody in front"},
}


def units_of(line: Line) -> int:
    """How many drives the line has: one for each machine where there are several."""
    return int(line.value("machine.count") or 1) if "several" in line.traits else 1


def seen_one_by_one(line: Line) -> bool:
    """Whether each unit is started, and seen turning, by itself."""
    return {"fan_array", "many_drives"} <= line.traits


def is_cascade(line: Line) -> bool:
    """Whether several drives share one pipe and take turns."""
    return "cascade" in line.traits


def numbering_steps(line: Line) -> list[Step]:
    """Numbers that units take as they get power, before anything else is entered."""
    return [_numbers(line)] if seen_one_by_one(line) else []


def many_steps(line: Line) -> list[Step]:
    """Roles and addresses of a cascade, or the units of an array one at a time."""
    if seen_one_by_one(line):
        return _array(line)
    return [_cascade(line), _copies(line)] if is_cascade(line) else []


def _cascade(line: Line) -> Step:
    return Step(
        "many.roles",
        "Numbers and roles",
        say("Each drive its own number, 1 leads; link terminals like to like; the number of pumps in each."),
        "Two with one number fight; one with none stands still when it is wanted.",
        "units",
        after=("data.limits",),
        items={
            "alone": "No other had power while it took its number",
            "number": "Number set and shown",
            "linked": "Link terminals like to like, seen by the leader",
            "plan": "Stage-on, stage-off, delays and alternation as on the settings sheet",
        },
        units=units_of(line),
        rests_on=known(lambda: line.machine.count),
        safety=False,
        skip="The set does not take turns or stage: pumps run alone, as they were left.",
    )


def _copies(line: Line) -> Step:
    return Step(
        "many.copy",
        "The first drive's sheet in all",
        say("Copy or enter the settings of drive 1 into each of the others; then what is each one's own, once more."),
        "A copy brings drive 1's number and address along: two that answer to one name.",
        "units",
        after=("data.limits", "many.roles"),
        items={
            "copied": "Settings of drive 1 in it; motor data read back at its own display",
            "own": "Its own number, role and address read back after the copy",
        },
        units=units_of(line),
        rests_on=known(lambda: line.machine.count),
        safety=False,
        skip="Drives may differ in limits, ramps and setpoint.",
    )


def _numbers(line: Line) -> Step:
    return Step(
        "power.number",
        "One unit after the other",
        say("Power one unit. Wait until its fault lamp stands steady: it has the next number. Then the next unit."),
        "Two that are powered together may take the same number.",
        "units",
        danger="A unit whose neighbours run windmills: it turns with its power off.",
        after=("power.region", "isolate.ends"),
        items={
            "alone": "No other was powered at the same moment",
            "number": "Has the next number",
            "lamp": "Fault lamp steady",
        },
        units=units_of(line),
        wrong="Is the unit powered? Does its motor stand still? Are its switches right?",
        rests_on=known(lambda: line.machine.count),
    )


def _array(line: Line) -> list[Step]:
    count, rests = units_of(line), known(lambda: line.machine.count)
    return [
        Step(
            "many.copy",
            "Copy the first unit to all",
            say("Copy the settings of unit 1 to all the others. Then read the list: every serial number, every copy."),
            "A unit that missed the copy runs on factory values and nobody sees it.",
            "units",
            after=("power.number", "data.limits"),
            items={"listed": "Serial number is in the list", "copied": "Copy succeeded"},
            units=count,
            wrong="Is the unit powered? Does its motor stand still? Are its switches right? Then copy again.",
            rests_on=rests,
            safety=False,
            skip="Units may differ in limits and ramps.",
        ),
        Step(
            "many.units",
            "Each unit turns",
            say("Each by itself, slowly: look at the wheel, feel which way it blows."),
            "One that blows backwards lets its neighbours' air through and looks like a weak wall.",
            "units",
            danger="A unit whose neighbours run windmills: it turns with its power off. Fingers and sleeves out.",
            after=("data.limits", "power.number"),
            items={"turns": "Blows the right way", "tubes": "Its pressure tubes on the right sides, none kinked"},
            units=count,
            wrong=f"That unit: {wrong_way(line)}",
            rests_on=rests,
        ),
    ]


def by_unit(steps: list[Step], line: Line) -> list[Step]:
    """The steps of a line of several drives with what each has by itself.

    In a cascade rotation and step-up are steps of their own; else a piece or a row for each. A wall of fans is turned
    and stepped up together, after each unit took its number, and then read unit by unit.
    """
    count = units_of(line)
    if "many_drives" not in line.traits:
        return steps
    cascade = is_cascade(line)
    found: list[Step] = []
    for step in steps:
        if step.id == "many.link":
            found.append(_link_each(step, line, count))
        elif step.id == "isolate.lock_out" or (cascade and step.id in _OWN_PIECE):
            found.append(replace(step, proof="units", units=count, items=_OWN_PIECE[step.id]))
        elif step.id in _OWN_ROW:
            found.append(_row_each(step, count))
        elif cascade and step.id in _OWN_STEP:
            found.append(replace(step, title=f"{step.title}, drive 1"))
        else:
            found.append(step)
        if step.id == "turn.step_up" and not cascade:
            found.append(_unit_by_unit(step, count))
    return _in_turn(found, count) if cascade else found


def _unit_by_unit(step_up: Step, count: int) -> Step:
    """The full-speed row of the step-up, read at every unit of a wall: what one hides in the mean of all shows here."""
    table = step_up.table
    assert table is not None
    full = dict(table.expected[-1]) if table.expected else {}
    columns = tuple(c for c in table.columns if c.id in ("speed", "current", "power"))
    rows = StepTable(
        _numbered(count), columns, ({c.id: full[c.id] for c in columns if c.id in full},) * count, all_rows=True
    )
    return Step(
        "turn.units",
        "Each unit at full speed",
        say("All running, full speed: read speed, current and power of each over the link or at its lamp."),
        "The one that reads otherwise than its neighbours has a blocked inlet, a bearing or another man's settings.",
        "table",
        danger="All turn. Never open the wall while they do.",
        after=("turn.step_up",),
        table=rows,
        rests_on=tuple(full[c.id] for c in columns if c.id in full),
        safety=False,
        skip="A weak unit hides behind its neighbours.",
    )


def _link_each(step: Step, line: Line, count: int) -> Step:
    """The link with each drive's own address and instance, which count on from the first."""
    names = {"bus_address": "Address", "device_instance": "Device instance"}
    shown = {
        name: f"{label} shown, drive by drive: {', '.join(str(int(first) + n) for n in range(count))}"
        for name, label in names.items()
        if (first := line.value(f"control.{name}")) is not None
    }
    return replace(step, proof="units", units=count, readings=(), items={**shown, **step.items})


def _row_each(step: Step, count: int) -> Step:
    """The step's readings as a table with a row for each drive; what guards people is still excused by nothing."""
    expected = {r.id: r.expected for r in step.readings if r.expected is not None}
    table = StepTable(_numbered(count), step.readings, (expected,) * count, all_rows=True, strict=step.safety)
    return replace(step, proof="table", readings=(), table=table)


def _numbered(count: int) -> tuple[Figure, ...]:
    return tuple(given(f"unit_{n}", float(n), "count", "of the set") for n in range(1, count + 1))


def _in_turn(steps: list[Step], count: int) -> list[Step]:
    """Where a step is each drive's own, that of the first drive and after it those of the others.

    What comes after a step waits for it at every drive: they stand on one pipe and behind one lock.
    """
    return [s for step in steps for s in (step, *(_of_drive(step, n) for n in _others(step, count)))]


def _others(step: Step, count: int) -> range:
    return range(2, count + 1) if step.id in _OWN_STEP else range(0)


def _of_drive(step: Step, number: int) -> Step:
    return replace(step, id=f"{step.id}.{number}", title=step.title.replace("drive 1", f"drive {number}"))
