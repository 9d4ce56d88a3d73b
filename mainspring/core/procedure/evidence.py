"""Evidence: what was read or done, judged against the step as it stood, with the values it rested on."""

import math
from collections.abc import Iterable, Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime, timedelta
from typing import Any

from mainspring.core.errors import BadEntry, MainspringError, shown
from mainspring.core.method import Figure
from mainspring.core.procedure.step import YES, Reading, School, Step
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.sentence import in_sentence, show

NAME_LIMIT = 120
NOTE_LIMIT = 2000
KIND_OF_PROOF = {
    "tick": "tick",
    "choice": "choice",
    "readings": "readings",
    "table": "row",
    "list": "list",
    "units": "unit",
    "turns": "turns",
    "photo": "photo",
}
BESIDE = ("note", "photo")  # kinds that any step takes, beside what proves it
_NEVER_BELOW_ZERO = ("voltage", "current", "speed", "input_power", "frequency", "signal", "flow", "time", "count")


class Held(MainspringError, PermissionError):
    """A step cannot be proven now; the text says what holds it and for how long."""


@dataclass(frozen=True)
class Evidence:
    """One piece of evidence, never changed once kept.

    `out` are the readings outside their band; with a `note` that explains them the piece may have passed all the same.
    `received` is when the server took it, where that is another moment than `at`: entered without a link or from paper.
    """

    step: str
    kind: str  # start, tick, choice, readings, row, list, unit, turns, photo, note, override
    data: dict[str, Any]
    by: str
    at: datetime
    leaves: dict[str, Any] = field(default_factory=dict)
    passed: bool = True
    note: str = ""
    id: str = ""
    instrument: dict[str, Any] | None = None
    received: datetime | None = None

    @property
    def out(self) -> tuple[str, ...]:
        """Ids of the readings outside their band."""
        return tuple(self.data.get("out", ()))


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
    """The evidence as it will be kept; `now` is when it was made.

    Raises BadEntry for what cannot be taken and Held for what is too early. Whether gates are open is for
    `sheet_status`; this judges the entry itself.
    """
    if not by.strip() or len(by) > NAME_LIMIT:
        raise BadEntry("name", by, f"who did it, up to {NAME_LIMIT} characters")
    if len(note) > NOTE_LIMIT:
        raise BadEntry("note", note, f"up to {NOTE_LIMIT} characters")
    made = Evidence(step.id, kind, {}, by, now, {**leaves_of(step.rests_on), **step.chosen}, note=note.strip())
    if kind == "override":
        return _override(step, made)
    if kind == "note":
        if not made.note:
            raise BadEntry("note", "empty", "some words")
        return replace(made, leaves={})
    if kind == "photo":
        return replace(made, data={"photo": _photo_id(data)}, leaves={})
    if step.proof == "countdown":
        return _countdown(step, made, earlier)
    if kind != KIND_OF_PROOF[step.proof]:
        raise BadEntry("kind of evidence", kind, KIND_OF_PROOF[step.proof])
    return made if kind == "tick" else _JUDGES[kind](step, data, made)


def _override(step: Step, made: Evidence) -> Evidence:
    if step.safety or not step.skip:
        raise Held(f"“{step.title}” guards people or machine: it cannot be overridden")
    if not made.note:
        raise BadEntry("reason", "empty", "why it is left out; it stays on the sheet with your name")
    return made


def _photo_id(data: Mapping[str, Any]) -> str:
    photo = data.get("photo")
    if not isinstance(photo, str) or not 1 <= len(photo) <= 36:
        raise BadEntry("photo", photo, "the id of a photo of this line")
    return photo


def _countdown(step: Step, made: Evidence, earlier: list[Evidence]) -> Evidence:
    if made.kind == "start":
        return replace(made, passed=False)
    if made.kind != "tick":
        raise BadEntry("kind of evidence", made.kind, "start, tick")
    ends = clock_end(step, [e for e in earlier if e.at <= made.at])
    if ends is None:
        raise Held("the clock has not been started")
    if made.at < ends:
        left = math.ceil((ends - made.at).total_seconds())
        raise Held(f"{left // 60} min {left % 60:02d} s left on the clock; the wait cannot be cut short")
    return made


def clock_end(step: Step, evidence: list[Evidence]) -> datetime | None:
    """When a started countdown ends; the latest start counts."""
    starts = [e.at for e in evidence if e.step == step.id and e.kind == "start"]
    if not starts or step.seconds is None:
        return None
    return max(starts) + timedelta(seconds=float(step.seconds))


def _choice(step: Step, data: Mapping[str, Any], made: Evidence) -> Evidence:
    choices = step.choices or {}
    chosen = data.get("choice")
    if chosen not in choices:
        raise BadEntry(step.title, chosen, ", ".join(choices))
    kept: dict[str, Any] = {"choice": chosen}
    if step.schools and set(step.schools) == set(choices):  # the choice is the school
        _explained(step.schools[str(chosen)], made)
    elif step.schools:
        kept["school"] = _school(step, data, made)
    return replace(made, data=kept, passed=step.right in ("*", chosen))


def _school(step: Step, data: Mapping[str, Any], made: Evidence) -> str:
    school = data.get("school", next(iter(step.schools)))
    if school not in step.schools:
        raise BadEntry("way of doing it", school, ", ".join(step.schools))
    _explained(step.schools[school], made)
    return str(school)


def _explained(school: School, made: Evidence) -> None:
    if school.asks_why and not made.note:
        raise BadEntry("reason", "empty", f"why “{in_sentence(school.label)}”; it stays on the sheet with your name")


def _readings(step: Step, data: Mapping[str, Any], made: Evidence) -> Evidence:
    wanted = step.readings
    kept: dict[str, Any] = {}
    if step.schools:
        kept["school"] = _school(step, data, made)
        expected = step.schools[kept["school"]].expected
        wanted = tuple(replace(r, expected=expected) for r in wanted)
    values = _numbers(wanted, data)
    seen = _seen(step, data)
    judged = _judged(step, wanted, values, replace(made, data=kept | values | seen))
    return replace(judged, passed=judged.passed and set(seen) == set(step.items))


def _judged(step: Step, wanted: tuple[Reading, ...], values: Mapping[str, float], made: Evidence) -> Evidence:
    """Passed inside the bands, or explained where an explanation is enough."""
    out = [r for r in wanted if r.id in values and not within(r, values[r.id])]
    if not out:
        return made
    may = (not step.safety or step.table is not None) and not any(hopeless(r, values[r.id]) for r in out)
    kept = {**made.data, "out": [r.id for r in out]}
    return replace(made, data=kept, passed=may and bool(made.note))


def _numbers(wanted: Iterable[Reading], data: Mapping[str, Any]) -> dict[str, float]:
    return {r.id: _number(r, data.get(r.id)) for r in wanted if not (r.optional and data.get(r.id) is None)}


def _row(step: Step, data: Mapping[str, Any], made: Evidence) -> Evidence:
    table = step.table
    assert table is not None
    reference = data.get("reference")
    index = next((i for i, f in enumerate(table.references) if f == reference), None)
    if index is None:
        raise BadEntry("reference", reference, ", ".join(show(f) for f in table.references))
    if all(data.get(c.id) is None for c in table.columns):
        raise BadEntry("row", "empty", "at least one reading")
    expected = table.expected[index] if table.expected else {}
    columns = tuple(replace(c, expected=expected.get(c.id)) for c in table.columns)
    if not table.expected:
        columns = tuple(replace(c, optional=True) for c in columns)
    values = _numbers(columns, data)
    leaves = {**leaves_of(expected.values()), **step.chosen} if expected else made.leaves
    kept = replace(made, data={"reference": float(table.references[index]), **values}, leaves=leaves)
    judged = _judged(step, columns, values, kept)
    return judged if table.all_rows else replace(judged, passed=True)  # a baseline is what it is


def _seen(step: Step, data: Mapping[str, Any]) -> dict[str, Any]:
    return {key: YES for key in step.items if data.get(key) in (True, YES)}


def _list(step: Step, data: Mapping[str, Any], made: Evidence) -> Evidence:
    unknown = sorted(set(data) - set(step.items))
    if unknown:
        raise BadEntry(step.title, unknown[0], ", ".join(step.items))
    seen = _seen(step, data)
    if not seen:
        raise BadEntry(step.title, "nothing", "at least one of the list seen")
    return replace(made, data=seen, passed=set(seen) == set(step.items))


def _unit(step: Step, data: Mapping[str, Any], made: Evidence) -> Evidence:
    number = data.get("unit")
    if isinstance(number, bool) or not isinstance(number, (int, float)) or number not in range(1, step.units + 1):
        raise BadEntry("unit", number, f"1 to {step.units}")
    serial = data.get("serial", "")
    if not isinstance(serial, str) or len(serial) > 60:
        raise BadEntry("serial number", serial, "up to 60 characters")
    seen = _seen(step, data)
    kept = {"unit": int(number), **({"serial": serial.strip()} if serial.strip() else {}), **seen}
    return replace(made, data=kept, passed=set(seen) == set(step.items))


def _turns(step: Step, data: Mapping[str, Any], made: Evidence) -> Evidence:
    values = _numbers(step.readings, data)
    left = data.get("choice")
    if left not in (step.choices or {}):
        raise BadEntry("direction left", left, ", ".join(step.choices or {}))
    better = better_turn(values)
    if better is None:
        raise BadEntry("the two directions", "the same", "readings that differ by more than 5 %: read both again")
    return replace(made, data={**values, "choice": left, "better": better}, passed=left == better)


def better_turn(values: Mapping[str, float]) -> str | None:
    """The direction of rotation that delivers more: by flow where both were read, else by pressure.

    None when they are within 5 %. More flow at the same opening is more pressure too; a centrifugal pump running
    backwards still gives some of both (common practice).
    """
    for name in ("flow", "pressure"):
        first, second = values.get(f"first_{name}"), values.get(f"second_{name}")
        if first is None or second is None:
            continue
        if abs(first - second) > 0.05 * max(abs(first), abs(second)):
            return "first" if first > second else "second"
    return None


def _number(reading: Reading, value: object) -> float:
    if isinstance(value, bool) or not isinstance(value, (int, float)) or not abs(value) < 1e9:
        raise BadEntry(reading.label, value, f"a reading in {DIMENSIONS[reading.dimension].si}")
    if value < 0 and (reading.low is not None or reading.dimension in _NEVER_BELOW_ZERO):
        raise BadEntry(reading.label, shown(float(value)), "not below 0")
    return float(value)


def within(reading: Reading, value: float) -> bool:
    """Whether a reading passes: inside its limits, or close enough to what is expected."""
    if reading.low is not None and value < reading.low:
        return False
    if reading.high is not None and value >= reading.high:
        return False
    if reading.expected is None:
        return True
    off = abs(value - reading.expected)
    if reading.band is not None:
        return off <= reading.band * (1 + 1e-9)
    return reading.tolerance is None or off <= max(reading.tolerance * abs(reading.expected), reading.least)


def hopeless(reading: Reading, value: float) -> bool:
    """Whether a reading is so far off that no explanation will do."""
    if reading.expected is None or reading.gross is None:
        return False
    return abs(value - reading.expected) > reading.gross


_JUDGES = {
    "choice": _choice,
    "readings": _readings,
    "row": _row,
    "list": _list,
    "unit": _unit,
    "turns": _turns,
}
