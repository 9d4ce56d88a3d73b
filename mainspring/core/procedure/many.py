"""More than one drive: the set on one pipe, and the wall of small fans."""

from mainspring.core.line import Line
from mainspring.core.procedure.step import Step, known
from mainspring.core.sentence import say


def many_steps(line: Line) -> list[Step]:
    """Roles and addresses of a cascade, or the units of an array one at a time."""
    count = int(line.value("machine.count") or 1)
    if "several" not in line.traits or count < 2:
        return []
    return _array(line, count) if seen_one_by_one(line) else [_cascade(line, count)]


def seen_one_by_one(line: Line) -> bool:
    """Whether each unit is started, and seen turning, by itself."""
    return "fan_array" in line.traits and (line.value("machine.count") or 1) >= 2


def _cascade(line: Line, count: int) -> Step:
    return Step(
        "many.roles",
        "Numbers and roles",
        say("Each drive its own number, 1 leads; link terminals like to like; the number of pumps in each."),
        "Two with one number fight; one with none stands still when it is wanted.",
        "units",
        after=("data.limits",),
        items={
            "number": "Number set and shown",
            "linked": "Link seen by the leader",
            "plan": "Stage-on, stage-off, delays and alternation as on the settings sheet",
        },
        units=count,
        rests_on=known(lambda: line.machine.count),
        safety=False,
        skip="The set does not take turns or stage: pumps run alone, as they were left.",
    )


def _array(line: Line, count: int) -> list[Step]:
    rests = known(lambda: line.machine.count)
    return [
        Step(
            "many.units",
            "One unit after the other",
            say("Power one unit. Wait until its fault lamp stands steady: it has the next number. Then the next unit."),
            "Two that are powered together may take the same number.",
            "units",
            danger="A unit whose neighbours run windmills: it turns with its power off.",
            after=("data.limits", "isolate.ends"),
            items={"number": "Has the next number", "lamp": "Fault lamp steady", "turns": "Blows the right way"},
            units=count,
            wrong="Is the unit powered? Does its motor stand still? Are its switches right?",
            rests_on=rests,
        ),
        Step(
            "many.copy",
            "Copy the first unit to all",
            say("Copy the settings of unit 1 to all the others. Then read the list: every serial number, every copy."),
            "A unit that missed the copy runs on factory values and nobody sees it.",
            "units",
            after=("many.units",),
            items={"listed": "Serial number is in the list", "copied": "Copy succeeded"},
            units=count,
            wrong="Is the unit powered? Does its motor stand still? Are its switches right? Then copy again.",
            rests_on=rests,
            safety=False,
            skip="Units may differ in limits and ramps.",
        ),
    ]
