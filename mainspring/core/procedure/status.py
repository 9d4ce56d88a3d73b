"""Where the run sheet stands: done, next, waiting, held, stale, and why."""

from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from mainspring.core.line import Line
from mainspring.core.line.record import leaf_value
from mainspring.core.procedure.evidence import Evidence, clock_end
from mainspring.core.procedure.steps import Step


class StepState(StrEnum):
    """State of one step."""

    DONE = "done"
    STALE = "stale"
    FAILED = "failed"
    NEXT = "next"
    HELD = "held"
    LATER = "later"


@dataclass(frozen=True)
class Changed:
    """A value that evidence rested on and that is another now."""

    field: str
    was: object
    now: object


@dataclass(frozen=True)
class StepStatus:
    """A step with its state and the evidence in force."""

    step: Step
    state: StepState
    evidence: tuple[Evidence, ...]
    changed: tuple[Changed, ...] = ()
    held_by: tuple[str, ...] = ()
    clock_ends: datetime | None = None


def sheet_status(steps: list[Step], evidence: list[Evidence], line: Line) -> list[StepStatus]:
    """State of every step from the evidence kept and the record as it is now."""
    titles = {s.id: s.title for s in steps}
    proven: set[str] = set()
    found: list[StepStatus] = []
    next_given = False
    for step in steps:
        mine = in_force(step, evidence)
        changed = tuple(c for e in mine for c in _changed(e, line))
        complete = _complete(step, mine)
        holds = step.held_by + tuple(
            f"“{titles[s]}” comes first" for s in step.after if s in titles and s not in proven
        )
        if complete and changed:
            state = StepState.STALE
        elif complete:
            state = StepState.DONE
        elif mine and not all(e.passed for e in mine) and mine[-1].kind != "start":
            state = StepState.FAILED
        elif holds:
            state = StepState.HELD if step.held_by and not next_given else StepState.LATER
        else:
            state = StepState.NEXT
        if complete:
            proven.add(step.id)
        elif state in (StepState.NEXT, StepState.HELD, StepState.FAILED):
            next_given = True
        found.append(StepStatus(step, state, tuple(mine), _once(changed), holds, clock_end(step, evidence)))
    return found


def in_force(step: Step, evidence: list[Evidence]) -> list[Evidence]:
    """The latest evidence of a step; for a table the latest of each row."""
    mine = [e for e in evidence if e.step == step.id]
    if step.proof == "table":
        rows = {e.data["reference"]: e for e in sorted(mine, key=lambda e: e.at)}
        return [rows[r] for r in sorted(rows)]
    if step.proof == "countdown":
        ticks = [e for e in mine if e.kind == "tick"]
        starts = [e for e in mine if e.kind == "start"]
        if ticks and starts and max(t.at for t in ticks) >= max(s.at for s in starts):
            return [max(ticks, key=lambda e: e.at)]
        return starts[-1:]
    return [max(mine, key=lambda e: e.at)] if mine else []


def _complete(step: Step, mine: list[Evidence]) -> bool:
    if not mine or not all(e.passed for e in mine):
        return False
    if step.proof == "table":
        assert step.table is not None
        return any(e.data["reference"] == float(step.table.references[-1]) for e in mine)
    return True


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
