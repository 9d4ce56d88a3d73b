"""Judging an entry: may it be made now, can it be taken, and does it prove its step."""

from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.procedure.clock import Clock
from mainspring.core.procedure.evaluate import judge
from mainspring.core.procedure.evidence import ANY_TIME, NOTE_LIMIT, Evidence, Held, check_name, check_text
from mainspring.core.procedure.proofs import BESIDE, rules_of
from mainspring.core.procedure.status import StepState, StepStatus
from mainspring.core.procedure.step import Step

OPEN = (StepState.NEXT, StepState.FAILED, StepState.STALE, StepState.DONE, StepState.LEFT_OUT)
SLACK = timedelta(seconds=2)  # how far a device's clock may differ from the server's


def judge_evidence(
    step: Step,
    kind: str,
    data: Mapping[str, Any],
    by: str,
    now: datetime,
    earlier: list[Evidence],
    note: str = "",
    *,
    received: datetime | None = None,
    paper: bool = False,
    clock: Clock | None = None,
) -> Evidence:
    """The evidence as it will be kept; `now` is when it was made, `earlier` what is kept of its step, in order.

    Raises BadEntry for what cannot be taken and Held for what is too early. Whether gates are open is for `admit`;
    this judges the entry itself.
    """
    made = Evidence(
        step.id,
        kind,
        {},
        check_name(by),
        now,
        note=check_text("note", note, NOTE_LIMIT),
        received=received,
        paper=paper,
        clock=clock,
    )
    judged = judge(rules_of(step), data, made, earlier)
    if kind in BESIDE:
        return judged
    return replace(judged, leaves=_leaves(step, judged))


def _leaves(step: Step, judged: Evidence) -> dict[str, Any]:
    """What a piece rests on: a row on its own predictions, all else on what the step rests on; and the choices."""
    table = step.table
    if judged.kind == "row" and table is not None and table.expected:
        return {**table.leaves(judged.data["reference"]), **step.chosen}
    return dict(step.leaves)


def admit(status: StepStatus, kind: str, *, paper: bool = False) -> None:
    """Raise Held while a step may not be proven: a stop is open, an earlier step comes first, a wait was not seen."""
    form = status.rules.forms.get(kind)
    if form is not None and (form.beside or form.any_time or form.leaves_out):
        return
    if status.step.held_by:
        raise Held(f"held: {'; '.join(status.step.held_by)}")
    if status.state not in OPEN:
        raise Held("; ".join(status.held_by) or "an earlier step comes first")
    if status.wait_on_paper and not paper:
        raise Held(f"{status.wait_on_paper} was entered from paper, which opens nothing that is done now: wait again")


def in_order(status: StepStatus, made_at: datetime, earlier: list[Evidence]) -> None:
    """An entry told afterwards follows the order of the steps: not before what had to come first. Raises BadEntry."""
    before = [e for e in earlier if e.step in status.step.after and e.kind not in BESIDE]
    latest = max(before, key=lambda e: e.at, default=None)
    if latest is not None and made_at < latest.at - SLACK:
        raise BadEntry(
            "at", made_at.isoformat(timespec="seconds"), f"not before {latest.at.isoformat(timespec='seconds')}, when"
            " what comes first was done",
        )  # fmt: skip


def unseen(status: StepStatus, judged: Evidence, seen: list[str]) -> list[Evidence]:
    """What is in force for the same part of the step and was not known to whoever made the entry."""
    if judged.kind in (*BESIDE, *ANY_TIME):
        return []
    part = status.rules.part
    return [e for e in status.evidence if e.id not in seen and e.data.get(part) == judged.data.get(part)]
