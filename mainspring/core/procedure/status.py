"""Where the run sheet stands: done, next, waiting, held, stale, left out, and why."""

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from mainspring.core.line import Line
from mainspring.core.line.record import leaf_value
from mainspring.core.procedure.evidence import BESIDE, KIND_OF_PROOF, Evidence, clock_end
from mainspring.core.procedure.step import Step


class StepState(StrEnum):
    """State of one step."""

    DONE = "done"
    STALE = "stale"
    FAILED = "failed"
    NEXT = "next"
    HELD = "held"
    LATER = "later"
    LEFT_OUT = "left_out"


@dataclass(frozen=True)
class Changed:
    """A value that evidence rested on and that is another now."""

    field: str
    was: object
    now: object


@dataclass(frozen=True)
class StepStatus:
    """A step with its state, the evidence in force, and the notes and photos beside it."""

    step: Step
    state: StepState
    evidence: tuple[Evidence, ...]
    changed: tuple[Changed, ...] = ()
    held_by: tuple[str, ...] = ()
    clock_ends: datetime | None = None
    beside: tuple[Evidence, ...] = ()
    lacking: tuple[str, ...] = ()  # what of a list, table or set of units is still to be seen

    @property
    def done_or_left_out(self) -> bool:
        """Whether nothing is left to do here."""
        return self.state in (StepState.DONE, StepState.LEFT_OUT)


@dataclass(frozen=True)
class Standing:
    """What stays visible ever after: a step left out, a defeated interlock, a reading explained away."""

    step: str
    title: str
    words: str
    why: str
    by: str
    at: datetime


def sheet_status(steps: list[Step], evidence: list[Evidence], line: Line) -> list[StepStatus]:
    """State of every step from the evidence kept and the record as it is now."""
    titles = {s.id: s.title for s in steps}
    proven: set[str] = set()
    found: list[StepStatus] = []
    next_given = False
    for step in steps:
        mine = in_force(step, evidence)
        changed = _once(tuple(c for e in mine for c in _changed(e, line)))
        left_out = bool(mine) and mine[-1].kind == "override"
        lacking = () if left_out else _lacking(step, mine)
        complete = bool(mine) and not lacking and all(e.passed for e in mine)
        waits = tuple(f"“{titles[s]}” comes first" for s in step.after if s in titles and s not in proven)
        holds = step.held_by + waits
        if left_out:
            state = StepState.LEFT_OUT
        elif complete:
            state = StepState.STALE if changed else StepState.DONE
        elif any(not e.passed and e.kind != "start" for e in mine):
            state = StepState.FAILED
        elif holds:
            state = StepState.HELD if step.held_by and (not waits or not next_given) else StepState.LATER
        else:
            state = StepState.NEXT
        if complete or left_out:
            proven.add(step.id)
        elif state in (StepState.NEXT, StepState.HELD, StepState.FAILED):
            next_given = True
        beside = tuple(e for e in evidence if e.step == step.id and e.kind in BESIDE and e not in mine)
        found.append(StepStatus(step, state, tuple(mine), changed, holds, clock_end(step, evidence), beside, lacking))
    return found


def in_force(step: Step, evidence: list[Evidence]) -> list[Evidence]:
    """The latest evidence that proves a step; of a table the latest of each row, of units the latest of each."""
    kinds = {"start", "tick"} if step.proof == "countdown" else {KIND_OF_PROOF[step.proof]}
    mine = sorted((e for e in evidence if e.step == step.id and e.kind in kinds | {"override"}), key=lambda e: e.at)
    if not mine:
        return []
    if mine[-1].kind == "override":
        return mine[-1:]
    mine = [e for e in mine if e.kind != "override"]
    part = {"table": "reference", "units": "unit"}.get(step.proof)
    if part:
        latest = {e.data[part]: e for e in mine if isinstance(e.data.get(part), (int, float))}
        return [latest[r] for r in sorted(latest)]
    if step.proof == "countdown":
        starts = [e for e in mine if e.kind == "start"]
        return mine[-1:] if mine[-1].kind == "tick" and starts else starts[-1:]
    return mine[-1:]


def _lacking(step: Step, mine: list[Evidence]) -> tuple[str, ...]:
    """What is still to be proven of a step made of parts."""
    if step.table is not None:
        read = {e.data["reference"] for e in mine}
        wanted = step.table.references if step.table.all_rows else step.table.references[-1:]
        return tuple(f"{float(r):g}" for r in wanted if float(r) not in read)
    if step.proof == "units":
        seen = {e.data["unit"] for e in mine}
        serials = [s for e in mine if (s := e.data.get("serial"))]
        twice = sorted({s for s in serials if serials.count(s) > 1})
        absent = tuple(f"unit {n}" for n in range(1, step.units + 1) if n not in seen)
        return absent + tuple(f"serial number {s} stands at two units" for s in twice)
    if step.proof == "countdown" and mine and mine[-1].kind == "start":
        return ("the wait",)
    if step.items and mine:
        return tuple(name for key, name in step.items.items() if key not in mine[-1].data)
    return ()


def standing(sheet: list[StepStatus]) -> list[Standing]:
    """What was left out, defeated or explained, for the sheet's head and the hand-over."""
    found = []
    for status in sheet:
        step = status.step
        for e in status.evidence:
            if e.kind == "override":
                found.append(Standing(step.id, step.title, f"Left out. {step.skip}", e.note, e.by, e.at))
                continue
            school = step.schools.get(str(e.data.get("school") or e.data.get("choice")))
            if school is not None and school.asks_why:
                found.append(Standing(step.id, step.title, f"{school.label}. {school.why}", e.note, e.by, e.at))
            elif e.out and e.passed and e.note:
                found.append(Standing(step.id, step.title, "Out of band, explained.", e.note, e.by, e.at))
    return found


def _changed(evidence: Evidence, line: Line) -> list[Changed]:
    changes = []
    for path, was in evidence.leaves.items():
        now = leaf_value(line, path)
        if now != was:
            changes.append(Changed(path, was, now))
    return changes


def _once(changes: tuple[Changed, ...]) -> tuple[Changed, ...]:
    seen: dict[str, Changed] = {}
    for change in changes:
        seen.setdefault(change.field, change)
    return tuple(seen.values())
