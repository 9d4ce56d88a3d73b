"""Where the run sheet stands: done, next, waiting, held, stale, left out, and why."""

from collections.abc import Mapping, MutableMapping, Sequence, Set
from dataclasses import dataclass
from datetime import datetime
from enum import StrEnum

from mainspring.core.line import Line
from mainspring.core.line.record import leaf_value
from mainspring.core.procedure.counting import in_force, lacking
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs import BESIDE, rules_of
from mainspring.core.procedure.proofs.countdown import clock_end
from mainspring.core.procedure.rules import Rules
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
    rules: Rules
    state: StepState
    evidence: tuple[Evidence, ...]
    changed: tuple[Changed, ...] = ()
    held_by: tuple[str, ...] = ()
    clock_ends: datetime | None = None
    beside: tuple[Evidence, ...] = ()
    lacking: tuple[str, ...] = ()  # what of a list, table or set of units is still to be seen
    wait_on_paper: str = ""  # title of a wait before it that nobody saw

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


@dataclass(frozen=True)
class _Facts:
    """What a step's own evidence says, whatever the other steps do."""

    rules: Rules
    mine: tuple[Evidence, ...]
    beside: tuple[Evidence, ...]
    changed: tuple[Changed, ...]
    lacking: tuple[str, ...]
    clock_ends: datetime | None
    left_out: bool
    complete: bool
    failed: bool


# by step: the evidence looked at and what it said, and the last status; for one list of steps on one record
Memory = MutableMapping[str, tuple[tuple[Evidence, ...], _Facts, StepStatus]]
By = Mapping[str, tuple[Evidence, ...]]


def by_step(evidence: Sequence[Evidence]) -> dict[str, tuple[Evidence, ...]]:
    """Evidence of each step, in order of when it was made."""
    found: dict[str, list[Evidence]] = {}
    for e in sorted(evidence, key=lambda e: e.at):
        found.setdefault(e.step, []).append(e)
    return {step: tuple(mine) for step, mine in found.items()}


def sheet_status(
    steps: Sequence[Step], evidence: Sequence[Evidence] | By, line: Line, memory: Memory | None = None
) -> list[StepStatus]:
    """State of every step from the evidence kept and the record as it is now.

    With a `memory`, which is good for these steps on this record only, what nothing new has come to is not looked at
    again, and a status that stays the same stays the same object.
    """
    of_step = evidence if isinstance(evidence, Mapping) else by_step(evidence)
    memory = {} if memory is None else memory
    titles = {s.id: s.title for s in steps}
    unseen_waits: dict[str, str] = {}
    proven: set[str] = set()
    ahead = set(titles)  # this step and those after it
    found: list[StepStatus] = []
    next_given = False
    for step in steps:
        mine = of_step.get(step.id, ())
        before = memory.get(step.id)
        facts = before[1] if before is not None and before[0] is mine else _facts(step, mine, line, ahead)
        ahead.discard(step.id)
        first = tuple(f"“{titles[s]}” comes first" for s in step.after if s in titles and s not in proven)
        state = _state(step, facts, first, next_given)
        if facts.complete or facts.left_out:
            proven.add(step.id)
        elif state in (StepState.NEXT, StepState.HELD, StepState.FAILED):
            next_given = True
        if facts.rules.waits and any(e.paper for e in facts.mine):
            unseen_waits[step.id] = step.title
        status = StepStatus(
            step,
            facts.rules,
            state,
            facts.mine,
            facts.changed,
            step.held_by + first,
            facts.clock_ends,
            facts.beside,
            facts.lacking,
            next((unseen_waits[s] for s in step.after if s in unseen_waits), ""),
        )
        if before is not None and before[1] is facts and _same(before[2], status):
            status = before[2]
        memory[step.id] = (mine, facts, status)
        found.append(status)
    return found


def _same(one: StepStatus, other: StepStatus) -> bool:
    """Whether two statuses of one step with the same evidence say the same."""
    return (
        one.step is other.step
        and one.state is other.state
        and one.held_by == other.held_by
        and one.wait_on_paper == other.wait_on_paper
    )


def _facts(step: Step, everything: tuple[Evidence, ...], line: Line, ahead: Set[str]) -> _Facts:
    """What the evidence of a step says; `ahead` are this step and those after it."""
    evidence = tuple(e for e in everything if step.counts(e))
    rules = rules_of(step)
    mine = in_force(rules, evidence)
    left_out = bool(mine) and rules.forms[mine[-1].kind].leaves_out
    open_ = () if left_out else lacking(rules, mine)
    return _Facts(
        rules=rules,
        mine=tuple(mine),
        beside=tuple(e for e in everything if e.kind in BESIDE and e not in mine),
        changed=_once([c for e in mine for c in _changed(e, line, ahead)]),
        lacking=open_,
        clock_ends=clock_end(step, list(evidence)),
        left_out=left_out,
        complete=bool(mine) and not open_ and all(e.passed for e in mine),
        failed=any(not e.passed and not rules.forms[e.kind].begins for e in mine),
    )


def _state(step: Step, facts: _Facts, first: tuple[str, ...], next_given: bool) -> StepState:
    if facts.left_out:
        return StepState.LEFT_OUT
    if facts.complete:
        return StepState.STALE if facts.changed else StepState.DONE
    if facts.failed and not first:
        return StepState.FAILED
    if step.held_by and (not first or not next_given):
        return StepState.HELD
    return StepState.LATER if step.held_by or first else StepState.NEXT


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


def _changed(evidence: Evidence, line: Line, ahead: Set[str]) -> list[Changed]:
    """What it rested on and is another now; what the step itself, or one after it, read since undoes nothing."""
    changes = []
    for path, was in evidence.leaves.items():
        now = leaf_value(line, path)
        if now != was:
            told = line.on_site.behind(path)
            if told is None or told.step not in ahead:
                changes.append(Changed(path, was, now))
    return changes


def _once(changes: list[Changed]) -> tuple[Changed, ...]:
    seen: dict[str, Changed] = {}
    for change in changes:
        seen.setdefault(change.field, change)
    return tuple(seen.values())
