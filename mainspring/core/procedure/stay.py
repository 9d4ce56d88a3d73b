"""The right sheet for the visit: what a fault call, a re-check or a replacement asks, and what is proven anew."""

from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from datetime import datetime

from mainspring.core.derived import Derived, figures_of
from mainspring.core.diagnosis.trips import CAUSES, MOMENTS, Cause, Moment, rank_causes, trips_of
from mainspring.core.errors import MainspringError
from mainspring.core.line import Line, Stay
from mainspring.core.line.reversal import reversal_of
from mainspring.core.method import Figure
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.step import Reading, School, Step, StepTable
from mainspring.core.procedure.turn import columns_of, step_references, top_row
from mainspring.core.procedure.visit import Visit, open_visit
from mainspring.core.sentence import in_sentence, say
from mainspring.core.systems import SYSTEMS
from mainspring.core.told import tellings

FOUND, CAUSE, TOUCHED, ROWS = "visit.found", "visit.cause", "visit.touched", "visit.rows"
VISIT_STEPS = {
    FOUND: "As found, before any reset",
    CAUSE: "What it was",
    TOUCHED: "What was touched",
    ROWS: "Baseline against today",
}
ROTATION, STEP_UP, SWAP = "turn.rotation", "turn.step_up", "isolate.swap"

PARTS = {
    "drive": "The drive itself",
    "motor": "The motor",
    "motor_cable": "Motor cable, output filter, contactor behind the drive",
    "supply": "Supply, fuses, breaker, supply cable",
    "machine": "Pump or fan, coupling, belt, valves, filters",
    "sensor": "Sensor, its place or its cable",
    "contacts": "Start and safety contacts, relays, speed signal, link",
    "settings": "Settings in the drive",
    "nothing": "Nothing: reset, and watched",
}
_OPENED = ("isolate.lock_out", "isolate.capacitors", "isolate.absence", "isolate.wiring", "isolate.cover")
_POWERED = ("power.energise",)
# which steps prove anew what was touched, by part; a name with a dot at its end is a whole phase.
# Common practice, no source: what a repair cannot have moved is not asked again.
TOUCHES: Mapping[str, tuple[str, ...]] = {
    "drive": ("isolate.", "power.", "data.", "many.", "turn.", "signals.", "loop.", "finish."),
    "motor": (*_OPENED, "isolate.insulation", *_POWERED, "data.motor", "data.identification", "turn."),
    "motor_cable": (*_OPENED, "isolate.insulation", *_POWERED, "turn.rotation", "turn.bypass"),
    "supply": (*_OPENED, "power.line_volts", *_POWERED, "turn.bypass"),
    "machine": ("isolate.lock_out", *_POWERED, "turn."),
    "sensor": (*_OPENED, *_POWERED, "signals.place", "signals.input", "signals.sensor", "loop."),
    "contacts": (
        *_OPENED,
        *_POWERED,
        "isolate.interlock",
        "many.link",
        "signals.digital",
        "signals.relays",
        "signals.reference",
        "signals.output",
    ),
    "settings": ("data.motor", "data.limits", "turn.limits", "loop."),
    "nothing": (),
}
# after a wrong direction nobody reaches for a lead before all of this has been done once more
_REOPENED = ("isolate.lock_out", "isolate.capacitors", "isolate.absence", SWAP, "power.energise")
_CLOSING = ("finish.automatic", "finish.put_back", "finish.record")
OTHER = "other"


# telling


def stay_of(steps: Mapping[str, tuple[Evidence, ...]], visits: Sequence[Visit]) -> Stay:
    """What the visit in hand is for, what repairs touched, and whether the machine was seen turning the wrong way."""
    visit = open_visit(list(visits))
    if visit is not None and visit.purpose not in SHEETS:
        visit = None
    purposes = {v.id: v.purpose for v in visits}
    touched: dict[str, datetime] = {}
    for visit_id in {e.visit for e in steps.get(TOUCHED, ())}:
        mine = [e for e in steps[TOUCHED] if e.visit == visit_id and e.kind == "picked"]
        if mine and purposes.get(visit_id or "") in SHEETS:
            for part in mine[-1].data:
                first = min(e.at for e in mine if part in e.data)
                touched[part] = max(touched.get(part, first), first)
    found, picked = _last(steps, FOUND, visit), _last(steps, TOUCHED, visit)
    return Stay(
        purpose="start-up" if visit is None else visit.purpose,
        visit="" if visit is None else visit.id,
        since=None if visit is None else visit.at,
        parts=() if picked is None else tuple(picked.data),
        touched=touched,
        wrong_way=_wrong_way(steps),
        trip=str(found.data.get("trip", "")) if found else "",
        when=str(found.data.get("when", "")) if found else "",
    )


def _last(steps: Mapping[str, tuple[Evidence, ...]], step: str, visit: Visit | None) -> Evidence | None:
    if visit is None:
        return None
    return next((e for e in reversed(steps.get(step, ())) if e.visit == visit.id and e.kind in ("log", "picked")), None)


def _wrong_way(steps: Mapping[str, tuple[Evidence, ...]]) -> datetime | None:
    """When a machine of the line was last seen turning the wrong way, to be put right at its leads."""
    wrong = [
        e.at
        for step, mine in steps.items()
        if step == ROTATION or step.startswith(f"{ROTATION}.")
        for e in mine
        if not e.passed and e.kind in ("choice", "turns") and e.data.get("school") != "drive"
    ]
    return max(wrong, default=None)


# planning


def of_stay(whole: list[Step], line: Line, derived: Derived) -> list[Step]:
    """Of the whole sheet what this visit asks, with what only it asks, and what is to be proven anew."""
    stay = line.on_site.stay
    steps = proven_anew(whole, line)
    sheet = SHEETS.get(stay.purpose)
    if sheet is None:
        return steps
    mine, asked = sheet(line, derived, stay)
    wanted = {s.id for s in steps if any(_touches(part, s.id) for part in stay.parts)}
    if stay.wrong_way is not None and stay.since is not None and stay.wrong_way >= stay.since:
        wanted |= {s.id for s in steps if s.id in _REOPENED or of_unit(s.id)[0] == ROTATION}
    own = [replace(s, visit=stay.visit) for s in mine]
    first = tuple(s.id for s in own)
    kept: list[Step] = []
    for step in steps:
        if step.id in _CLOSING:
            before = tuple(s.id for s in kept if s.id not in _CLOSING or step.id == _CLOSING[-1])
            kept.append(replace(step, visit=stay.visit, after=(*step.after, *first, *before)))
        elif step.id in asked:
            kept.append(replace(step, visit=stay.visit))
        elif step.id in wanted:
            kept.append(replace(step, after=(*step.after, *first)))
    return own + kept


def proven_anew(whole: list[Step], line: Line) -> list[Step]:
    """The whole sheet, each step with the moment up to which its evidence counts no more."""
    stay = line.on_site.stay
    there = {s.id for s in whole}
    reopens = tuple(id for id in _REOPENED if id in there or id == SWAP)
    whole = [replace(s, reopens=reopens) if of_unit(s.id)[0] == ROTATION else s for s in whole]
    return [_anew(s, stay) for s in (_with_swap(whole, line) if stay.wrong_way is not None else whole)]


def asleep_steps(whole: list[Step], line: Line) -> list[Step]:
    """What a wrong answer would add to the sheet: a device without a link asks it at once, before the server can."""
    turns = any(of_unit(s.id)[0] == ROTATION for s in whole)
    return [_swap(line)] if turns and line.on_site.stay.wrong_way is None else []


def steps_of_visits(line: Line, derived: Derived) -> list[Step]:
    """What any visit may have asked beside the whole sheet, to tell what was answered."""
    rows = _rows(line, derived)
    titles = {c.id: c.title for c in CAUSES} | {OTHER: "Something else"}
    cause = replace(_cause(line, derived, Stay()), choices=titles)
    return [_found(line), cause, _touched("", PARTS), *([] if rows is None else [rows]), _swap(line)]


def of_unit(step: str) -> tuple[str, int]:
    """A step's id without its unit, and the unit: `turn.rotation.2` is `turn.rotation` of unit 2."""
    name, _, unit = step.rpartition(".")
    return (name, int(unit)) if unit.isdigit() else (step, 1)


def _touches(part: str, step: str) -> bool:
    name, _ = of_unit(step)
    return any(t == name or (t.endswith(".") and name.startswith(t)) for t in TOUCHES.get(part, ()))


def _anew(step: Step, stay: Stay) -> Step:
    """The step, with the moment up to which its evidence counts no more."""
    moments = [at for part, at in stay.touched.items() if _touches(part, step.id)]
    if stay.wrong_way is not None and step.id in _REOPENED:
        moments.append(stay.wrong_way)
    return replace(step, since=max(moments)) if moments else step


def _with_swap(steps: list[Step], line: Line) -> list[Step]:
    """The sheet with the step that says which leads were swapped, before power comes back and it is turned again."""
    swap = _swap(line)
    found: list[Step] = []
    for step in steps:
        if step.id == "power.energise":
            step = replace(step, after=(*step.after, SWAP))
        if of_unit(step.id)[0] == ROTATION:
            step = replace(step, after=(*step.after, SWAP, "power.energise"))
        found.append(step)
        if step.id == "isolate.absence":
            found.append(swap)
    return found


def _swap(line: Line) -> Step:
    turned = reversal_of(line)
    return Step(
        SWAP,
        "Turn it round",
        say(f"Locked, waited and measured once more: {turned.asked}"),
        "Who comes next finds it otherwise than on the drawing, and must know it was meant.",
        "choice",
        danger="The capacitors are charged again since it ran. The lock, the wait and the measuring begin anew.",
        choices=turned.choices,
        right="*",
        after=("isolate.absence",),
    )


def _fault_call(line: Line, derived: Derived, stay: Stay) -> tuple[list[Step], tuple[str, ...]]:
    return [_found(line), *([_cause(line, derived, stay)] if stay.trip else []), _touched(FOUND, PARTS)], ()


def _re_check(line: Line, derived: Derived, _stay: Stay) -> tuple[list[Step], tuple[str, ...]]:
    rows = _rows(line, derived)
    return ([] if rows is None else [rows]), ("signals.sensor",)


def _replacement(_line: Line, _derived: Derived, _stay: Stay) -> tuple[list[Step], tuple[str, ...]]:
    parts = {p: label for p, label in PARTS.items() if p in ("drive", "motor", "machine", "sensor")}
    return [_touched("", parts)], ()


# purposes of visits whose sheet is not the whole one: the steps that only they ask, and ids of those they ask again
Sheet = tuple[list[Step], tuple[str, ...]]
SHEETS: dict[str, Callable[[Line, Derived, Stay], Sheet]] = {
    "fault call": _fault_call,
    "re-check": _re_check,
    "replacement": _replacement,
}


def _found(line: Line) -> Step:
    return Step(
        FOUND,
        VISIT_STEPS[FOUND],
        say("Read display and log as they stand: code, what it was doing, Hz, A, volts. Then the settings, as found."),
        "A reset wipes the only witness.",
        "log",
        danger="Do not reset yet: it may start by itself. People clear of the machine.",
        choices=trips_of(line),
        right="*",
        items=MOMENTS,
        readings=(
            Reading("frequency", "Frequency then", "frequency", low=0.0, optional=True),
            Reading("current", "Current then", "current", low=0.0, optional=True),
            Reading("bus_voltage", "Bus volts then", "voltage", low=0.0, optional=True),
        ),
    )


def _cause(line: Line, derived: Derived, stay: Stay) -> Step:
    causes = _ranked(line, derived, stay)
    ways = {c.id: School(c.title, tellings(*(c.because.text(s) for s in SYSTEMS))) for c in causes}
    ways[OTHER] = School("Something else", "Say what, in a note beside this step.")
    likeliest = f" The likeliest here first: {in_sentence(causes[0].measure)}" if causes else ""
    return Step(
        CAUSE,
        VISIT_STEPS[CAUSE],
        say("Measure before anything is changed." + likeliest.replace("{", "(").replace("}", ")")),
        "A reset without a cause is the next call.",
        "choice",
        choices={id: way.label for id, way in ways.items()},
        right="*",
        schools=ways,
        after=(FOUND,),
        safety=False,
        skip="Nobody knows why it tripped; it may again.",
    )


def _ranked(line: Line, derived: Derived, stay: Stay) -> list[Cause]:
    try:
        return rank_causes(stay.trip, line, derived, Moment(stay.when or "steady"))
    except MainspringError:
        return []


def _touched(after: str, parts: Mapping[str, str]) -> Step:
    replaced = "nothing" not in parts
    return Step(
        TOUCHED,
        "What is replaced" if replaced else VISIT_STEPS[TOUCHED],
        say("Name what is replaced. What it was set to stays beside the new one; what proved it is proven anew.")
        if replaced
        else say("Name everything that was repaired, opened or set. Only what that can have moved is proven anew."),
        "A repair is proven like a start-up, no more and no less.",
        "picked",
        items=parts,
        after=(after,) if after else (),
    )


def _rows(line: Line, derived: Derived) -> Step | None:
    """The baseline's rows with today's beside; the model's where no baseline was kept."""
    columns = columns_of(line)
    try:
        references = step_references(top_row(line))
    except MainspringError:
        return None
    kept: list[tuple[Figure, dict[str, Figure]]] = []
    for reference in references:
        row = {
            c.id: found
            for c in columns
            if (found := line.site_reading(baseline_reading(reference, c.id), c.dimension, f"Baseline {c.label}"))
        }
        if row:
            kept.append((reference, row))
    modelled = not kept
    if modelled:
        try:
            kept = [(references[-1], figures_of(derived.foretold_at(references[-1:])[0]))]
        except MainspringError:
            return None
    figures = tuple(f for _, row in kept for f in row.values())
    return Step(
        ROWS,
        VISIT_STEPS[ROWS],
        say(
            "No baseline was kept: read the full-speed row beside the model."
            if modelled
            else "Same opening, same references: read display and gauge. The grey figure is the baseline."
        ),
        "Wear, fouling and drift show as a row that has moved, long before anything trips.",
        "table",
        danger="The machine is turning. Stop button in reach. Never leave a pump running against a shut valve.",
        table=StepTable(tuple(r for r, _ in kept), columns, tuple(row for _, row in kept)),
        rests_on=figures,
        safety=False,
        skip="Nobody knows whether it has drifted.",
    )


def baseline_reading(reference: float, column: str) -> str:
    """What a cell of the baseline is called among the readings that other things are derived from."""
    return f"{STEP_UP}.{float(reference):g}.{column}"
