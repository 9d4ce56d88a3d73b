"""The run sheet of a record: which steps, in safe order, and what each holds."""

from collections.abc import Iterable
from dataclasses import dataclass, replace

from mainspring.core.checks.finding import Finding
from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.procedure.isolate import isolate_steps
from mainspring.core.procedure.loop import loop_steps
from mainspring.core.procedure.many import by_unit, many_steps, numbering_steps
from mainspring.core.procedure.power import data_steps, link_step, power_steps
from mainspring.core.procedure.put_back import put_back_step
from mainspring.core.procedure.signals import signal_steps
from mainspring.core.procedure.stay import asleep_steps, of_stay, of_unit, proven_anew, steps_of_visits
from mainspring.core.procedure.step import Step
from mainspring.core.procedure.turn import turn_steps
from mainspring.core.sentence import say

# Choices of the record that say what a step asks for: what proved it proves nothing once another is chosen.
CHOICES = {
    "isolate.absence": ("supply.phases",),
    "isolate.wiring": (
        "supply.phases",
        "drive.output_filter",
        "motor.thermal",
        "sensor.signal",
        "control.bypass",
        "control.speed_from",
        "control.setpoints",
        "control.local_orders",
    ),
    "isolate.ends": ("control.link",),
    "power.line_volts": ("supply.phases",),
    "data.motor": ("motor.type",),
    "data.identification": ("motor.type",),
    "many.link": ("control.link", "control.link_lost"),
    "turn.bypass": ("control.bypass",),
    "signals.input": ("sensor.signal", "sensor.input_switch"),
    "signals.sensor": ("sensor.signal",),
    "signals.digital": (
        "control.start_from",
        "control.local_orders",
        "control.setpoints",
        "control.preset_1",
        "control.preset_2",
        "control.preset_3",
    ),
    "signals.relays": (
        "control.relay_1",
        "control.relay_1_contact",
        "control.relay_2",
        "control.relay_2_contact",
    ),
    "signals.reference": ("control.speed_signal",),
    "signals.output": ("control.analog_output",),
    "loop.action": ("line.holds", "control.effect"),
}


@dataclass(frozen=True)
class Plan:
    """The steps of a record: those of the visit in hand, the whole sheet, and all that any visit may have asked.

    `asleep` are those that a wrong answer on this sheet would add to it.
    """

    steps: list[Step]
    whole: list[Step]
    every: dict[str, Step]
    asleep: list[Step]


def plan_steps(line: Line, derived: Derived, findings: list[Finding], clashes: Iterable[str] = ()) -> list[Step]:
    """The run sheet of a record, in safe order: a step never before what guards it.

    `clashes` name other lines whose device instance or address is this one's.
    """
    return make_plan(line, derived, findings, clashes).steps


def make_plan(line: Line, derived: Derived, findings: list[Finding], clashes: Iterable[str] = ()) -> Plan:
    """The run sheets of a record; see `plan_steps`."""
    whole = _whole(line, derived, findings, clashes)
    steps, anew = of_stay(whole, line, derived), proven_anew(whole, line)
    every = {s.id: s for s in (*steps_of_visits(line, derived), *anew, *steps)}
    return Plan(_joined(steps, line), _joined(anew, line), every, asleep_steps(steps, line))


def _whole(line: Line, derived: Derived, findings: list[Finding], clashes: Iterable[str]) -> list[Step]:
    steps = [
        *isolate_steps(line),
        *power_steps(line),
        *numbering_steps(line),
        *data_steps(line, derived),
        *many_steps(line),
        *((link_step(line, tuple(clashes)),) if line.value("control.link") not in (None, "none") else ()),
        *turn_steps(line, derived),
        *signal_steps(line, derived),
        *loop_steps(line, derived),
        _automatic(line),
        _warning(line),
    ]
    steps = _held(by_unit(steps, line), findings)
    return [*steps, put_back_step(steps), _record()]


# the steps at which a stop bites, by what it holds: the first of each that a line has, else the end of the sheet
FIRST = {
    "power": ("power.energise",),
    "data": ("data.motor",),
    "turn": ("many.units", "turn.waste", "turn.rotation"),
    "loop": ("loop.action",),
}
_LAST_CHANCE = "finish.automatic"


def _held(steps: list[Step], findings: list[Finding]) -> list[Step]:
    """The steps with the findings that hold them: every stop, and what could not be judged where it may be one."""
    ids = {s.id for s in steps}
    by: dict[str, list[str]] = {}
    for finding in findings:
        if finding.holds:
            at = next((id for id in FIRST[finding.holds] if id in ids), _LAST_CHANCE)
            by.setdefault(at, []).append(finding.title)
    return [replace(s, held_by=(*s.held_by, *by[s.id])) if s.id in by else s for s in steps]


def _chosen(line: Line, step_id: str) -> dict[str, str | None]:
    return {path: line.value(path) for path in CHOICES.get(step_id, ())}


def _joined(steps: list[Step], line: Line) -> list[Step]:
    """Phases written as `phase.` spelt out, those this line does not have left out, gates and choices filled in."""
    ids = [s.id for s in steps]
    groups: dict[str, list[str]] = {}  # a whole phase, and a step with what other units have of it
    for id in ids:
        groups.setdefault(id.partition(".")[0] + ".", []).append(id)
        groups.setdefault(of_unit(id)[0], []).append(id)
    after: dict[str, tuple[str, ...]] = {}
    gates: dict[str, list[str]] = {id: [] for id in ids}
    for step in steps:
        wanted = (id for name in step.after for id in ([name] if of_unit(name)[1] > 1 else groups.get(name, ())))
        after[step.id] = tuple(dict.fromkeys(id for id in wanted if id != step.id))
        for earlier in after[step.id]:
            gates[earlier].append(step.id)
    return [replace(s, after=after[s.id], gates=tuple(gates[s.id]), chosen=_chosen(line, s.id)) for s in steps]


def _warning(line: Line) -> Step:
    items = {"warning": "“Starts by itself” on the machine", "cover": "Covers, guards and labels back"}
    if "pump" in line.traits and "closed" not in line.traits and "wet_well" not in line.traits:
        items["water"] = "Drinking water: flushed and sampled as the local rule asks"
    if line.value("control.bypass") == "contactor":
        items["bypass"] = "Bypass back on the drive"
    return Step(
        "finish.site",
        "As somebody else will find it",
        say("Go round once more."),
        "The next one at this machine does not know what you know.",
        "list",
        after=("turn.baseline",),
        items=items,
    )


def _automatic(line: Line) -> Step:
    held = line.held
    outside = held is not None and held.id == "reference"
    follows = "Speed follows the signal from outside" if outside else f"It holds the {held.noun}" if held else "It runs"
    return Step(
        "finish.automatic",
        "Local off, automatic on",
        say("Leave local, set automatic: what starts it in service starts it now."),
        "A drive that was left in local stands still on the day it is wanted.",
        "list",
        danger="It starts by itself. People clear of the machine.",
        after=("turn.baseline", "signals.", "loop."),
        items={
            "local": "Local off, automatic on",
            "starts": "What commands it in service started it, and stopped it",
            "follows": follows,
        },
        safety=False,
        skip="Nobody has seen it start as it will in service.",
    )


def _record() -> Step:
    return Step(
        "finish.record",
        "As left, and password",
        say("Enter the as-left settings, set the password last and keep it with the site."),
        "What was it set to? The sheet answers in a year.",
        "tick",
        after=("turn.", "signals.", "loop.", "many.", "finish.automatic", "finish.site", "finish.put_back"),
        safety=False,
    )
