"""Evidence: what was read or done, judged against the step as it stood, with the values it rested on."""

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field
from datetime import datetime, timedelta
from typing import Any

from mainspring.core.errors import BadEntry, MainspringError, shown
from mainspring.core.method import Figure
from mainspring.core.procedure.steps import Reading, Step
from mainspring.core.quantity import DIMENSIONS

NAME_LIMIT = 120


class Held(MainspringError, PermissionError):
    """A step cannot be proven now; the text says what holds it and for how long."""


@dataclass(frozen=True)
class Evidence:
    """One piece of evidence, never changed once kept."""

    step: str
    kind: str  # start, tick, choice, readings, row
    data: dict[str, Any]
    by: str
    at: datetime
    leaves: dict[str, Any] = field(default_factory=dict)
    passed: bool = True
    note: str = ""


def leaves_of(figures: Iterable[Figure]) -> dict[str, Any]:
    """The record values that figures rest on, by field path; constants and assumptions of rules left out."""
    return {
        leaf.field: value
        for figure in figures
        for leaf, value in figure.leaves()
        if "." in leaf.field and leaf.provenance != "assumed"
    }


def judge_evidence(
    step: Step, kind: str, data: Mapping[str, Any], by: str, now: datetime, earlier: list[Evidence], note: str = ""
) -> Evidence:
    """The evidence as it will be kept.

    Raises BadEntry for what cannot be taken and Held for what is too early. Whether gates are open is for
    `sheet_status`; this judges the entry itself.
    """
    if not by.strip() or len(by) > NAME_LIMIT:
        raise BadEntry("name", by, f"who did it, up to {NAME_LIMIT} characters")
    leaves = leaves_of(step.rests_on)
    if step.proof == "countdown":
        return _countdown(step, kind, by, now, earlier, leaves, note)
    expected_kind = {"tick": "tick", "choice": "choice", "readings": "readings", "table": "row"}[step.proof]
    if kind != expected_kind:
        raise BadEntry("kind of evidence", kind, expected_kind)
    if step.proof == "tick":
        return Evidence(step.id, kind, {}, by, now, leaves, note=note)
    if step.proof == "choice":
        choices = step.choices or {}
        chosen = data.get("choice")
        if chosen not in choices:
            raise BadEntry(step.title, chosen, ", ".join(choices))
        return Evidence(step.id, kind, {"choice": chosen}, by, now, leaves, step.right in ("*", chosen), note)
    if step.proof == "readings":
        values = {r.id: _number(r, data.get(r.id)) for r in step.readings}
        passed = all(within(r, values[r.id]) for r in step.readings)
        return Evidence(step.id, kind, values, by, now, leaves, passed, note)
    return _row(step, data, by, now, leaves, note)


def _countdown(
    step: Step, kind: str, by: str, now: datetime, earlier: list[Evidence], leaves: dict[str, Any], note: str
) -> Evidence:
    if kind == "start":
        return Evidence(step.id, "start", {}, by, now, leaves, passed=False, note=note)
    if kind != "tick":
        raise BadEntry("kind of evidence", kind, "start, tick")
    ends = clock_end(step, earlier)
    if ends is None:
        raise Held("the clock has not been started")
    if now < ends:
        left = math.ceil((ends - now).total_seconds())
        raise Held(f"{left // 60} min {left % 60:02d} s left on the clock; the wait cannot be cut short")
    return Evidence(step.id, "tick", {}, by, now, leaves, note=note)


def clock_end(step: Step, evidence: list[Evidence]) -> datetime | None:
    """When a started countdown ends; the latest start counts."""
    starts = [e.at for e in evidence if e.step == step.id and e.kind == "start"]
    if not starts or step.seconds is None:
        return None
    return max(starts) + timedelta(seconds=float(step.seconds))


def _row(step: Step, data: Mapping[str, Any], by: str, now: datetime, leaves: dict[str, Any], note: str) -> Evidence:
    table = step.table
    assert table is not None
    reference = data.get("reference")
    index = next((i for i, f in enumerate(table.references) if f == reference), None)
    if index is None:
        raise BadEntry("reference", reference, ", ".join(f"{float(f):g} Hz" for f in table.references))
    given = {c.id: data.get(c.id) for c in table.columns if data.get(c.id) is not None}
    if not given:
        raise BadEntry("row", "empty", "at least one reading")
    values = {c.id: _number(c, given[c.id]) for c in table.columns if c.id in given}
    if table.expected:
        leaves = leaves_of(table.expected[index].values())
    return Evidence(step.id, "row", {"reference": float(table.references[index]), **values}, by, now, leaves, note=note)


def _number(reading: Reading, value: object) -> float:
    if isinstance(value, bool) or not isinstance(value, (int, float)) or not abs(value) < 1e9:
        raise BadEntry(reading.label, value, f"a reading in {DIMENSIONS[reading.dimension].si}")
    if value < 0 and reading.dimension in ("voltage", "current", "speed", "input_power", "frequency"):
        raise BadEntry(reading.label, shown(float(value)), "not below 0")
    return float(value)


def within(reading: Reading, value: float) -> bool:
    """Whether a reading passes: inside its limits, or close enough to what is expected."""
    if reading.low is not None and value < reading.low:
        return False
    if reading.high is not None and value >= reading.high:
        return False
    if reading.expected is None or reading.tolerance is None:
        return True
    return abs(value - reading.expected) <= reading.tolerance * abs(reading.expected)
