"""What the settings sheet and the run sheet tell of a line: decided, left and read values, each said once."""

from collections.abc import Iterable, Mapping, Sequence
from datetime import datetime
from typing import Any, Protocol

from mainspring.core.line import HOLD, OF_READING, OnSite, Stay, Taken, Told, shown_alike
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.stay import (
    ROTATION,
    ROWS,
    STEP_UP,
    VISIT_STEPS,
    baseline_reading,
    of_unit,
    stay_of,
)
from mainspring.core.procedure.visit import Visit

INTERLOCK, INTERLOCK_STEP = "protection.interlock", "isolate.interlock"
DATA_STEPS = ("data.motor", "data.limits")  # whose readings are settings, by their id
# readings of other steps that say what a setting was left at
LEFT_BY = {"loop.low_limit": {"limit": "pid.output_low"}, "loop.sleep_below": {"below": "sleep.frequency"}}
_STEPS = frozenset({step for step, _ in OF_READING} | {HOLD.rpartition(".")[0], INTERLOCK_STEP})


class Entered(Protocol):
    """A setting as somebody entered it."""

    @property
    def setting(self) -> str: ...
    @property
    def moment(self) -> str: ...
    @property
    def value(self) -> Any: ...
    @property
    def by(self) -> str: ...
    @property
    def at(self) -> datetime: ...
    @property
    def why(self) -> str: ...
    @property
    def taken(self) -> bool: ...


def told_on_site(
    settings: Iterable[Entered], steps: Mapping[str, tuple[Evidence, ...]], visits: Sequence[Visit] = ()
) -> OnSite:
    """Everything told of a line: settings as left, else as decided; readings that the record or the model goes by;
    and what its visits are for."""
    stay = stay_of(steps, visits)
    steps = _of_this_drive(steps, stay)
    found: dict[str, Told] = {}
    reasons = {s.setting: s.why for s in settings if s.moment == "decided"}
    for moment in ("decided", "left"):
        for s in settings:
            if s.moment == moment and s.value is not None:
                why = reasons.get(s.setting, "") if moment == "left" and _as_decided(s, settings) else s.why
                found[s.setting] = Told(s.value, moment, s.by, s.at, why, taken=s.taken)
    decided = {s.setting: Told(s.value, "decided", s.by, s.at, s.why) for s in settings if s.moment == "decided"}
    for step in DATA_STEPS:
        _read_back(found, steps.get(step, ()))
    for step, called in LEFT_BY.items():
        _read_back(found, steps.get(step, ()), called)
    seen = _latest(steps, INTERLOCK_STEP)
    before = found.get(INTERLOCK)
    if seen is not None and (before is None or before.at is None or before.at <= seen.at):
        found[INTERLOCK] = Told(str(seen.data.get("choice")), "left", seen.by, seen.at, seen.note, seen.step)
    readings = _readings(steps)
    if stay.purpose == "re-check":
        readings |= _baseline(steps.get(STEP_UP, ()))
    return OnSite(found, readings, decided, stay, taken_of(steps, latest_visit(steps)))


def _of_this_drive(steps: Mapping[str, tuple[Evidence, ...]], stay: Stay) -> Mapping[str, tuple[Evidence, ...]]:
    """The evidence without what was read back from a drive that is replaced by now."""
    since = stay.touched.get("drive")
    if since is None:
        return steps
    of_drive = (*DATA_STEPS, INTERLOCK_STEP, *LEFT_BY)
    return {s: tuple(e for e in mine if s not in of_drive or e.at > since) for s, mine in steps.items()}


def taken_of(steps: Mapping[str, tuple[Evidence, ...]], visit: str | None) -> tuple[Taken, ...]:
    """Readings of the machine of one visit.

    A worn pump of today is not the pump of the first start: readings of different visits are not mixed.
    """
    return readings_in(e for s in _TAKEN for e in steps.get(s, ()) if e.visit == visit)


def latest_visit(steps: Mapping[str, tuple[Evidence, ...]]) -> str | None:
    """The latest visit that took a row; None for the start-up."""
    rows = [e for s in (STEP_UP, ROWS) for e in steps.get(s, ()) if e.kind == "row"]
    last = max(rows, key=lambda e: e.at, default=None)
    return None if last is None else last.visit


def readings_in(evidence: Iterable[Evidence]) -> tuple[Taken, ...]:
    """What evidence tells of the machine; of several readings of one thing the last."""
    found = {
        (kind, at): Taken(kind, at, value, e.id)
        for e in sorted(evidence, key=lambda e: e.at)
        for kind, at, value in _TAKEN[of_unit(e.step)[0]](e)
    }
    return tuple(found.values())


def _of_row(e: Evidence) -> Iterable[tuple[str, float, float]]:
    at = e.data.get("reference")
    if e.kind == "row" and isinstance(at, float):
        yield from ((c, at, v) for c, v in e.data.items() if c in ROW_KINDS and isinstance(v, float))


def _of_hold(e: Evidence) -> Iterable[tuple[str, float, float]]:
    if e.kind == "readings" and isinstance(value := e.data.get("hold"), float):
        yield "hold", 0.0, value


def _of_creep(e: Evidence) -> Iterable[tuple[str, float, float]]:
    at, value = e.data.get("limit"), e.data.get("pressure")
    if e.kind == "readings" and isinstance(at, float) and isinstance(value, float):
        yield "shut_pressure", at, value


ROW_KINDS = ("speed", "current", "power", "pressure")
_TAKEN = {
    STEP_UP: _of_row,
    ROWS: _of_row,
    HOLD.rpartition(".")[0]: _of_hold,
    "loop.low_limit": _of_creep,
}


def _baseline(evidence: tuple[Evidence, ...]) -> dict[str, Told]:
    """The rows of the step-up as kept, which a re-check is read against."""
    return {
        baseline_reading(e.data["reference"], column): Told(value, "read", e.by, e.at, step=e.step)
        for e in evidence
        if e.kind == "row"
        for column, value in e.data.items()
        if column != "reference" and isinstance(value, float)
    }


def _read_back(found: dict[str, Told], evidence: tuple[Evidence, ...], called: Mapping[str, str] | None = None) -> None:
    """What the run sheet says was read back from the drive, where nothing later was entered on the settings sheet.

    `called` names the settings where the readings of a step have names of their own.
    """
    for e in evidence:
        if e.kind != "readings" or not e.passed:
            continue
        for reading, value in e.data.items():
            setting = reading if called is None else called.get(reading, "")
            if not setting or not isinstance(value, float):
                continue
            before = found.get(setting)
            if before is not None and before.how == "left" and shown_alike(value, before.value):
                continue
            if before is None or before.at is None or before.at <= e.at:
                why = before.why if before is not None and before.value == value else ""
                found[setting] = Told(value, "left", e.by, e.at, why, e.step)


def _as_decided(left: Entered, settings: Iterable[Entered]) -> bool:
    return any(s.setting == left.setting and s.moment == "decided" and s.value == left.value for s in settings)


def _readings(steps: Mapping[str, tuple[Evidence, ...]]) -> dict[str, Told]:
    found: dict[str, Told] = {}
    for step in _STEPS - {INTERLOCK_STEP}:
        last = _latest(steps, step)
        if last is None:
            continue
        for name, value in last.data.items():
            if isinstance(value, float):
                found[f"{step}.{name}"] = Told(value, "read", last.by, last.at, last.note, step)
        if step == "signals.sensor" and isinstance(held := last.leaves.get("control.setpoint"), float):
            found[f"{step}.pressure"] = Told(held, "read", last.by, last.at, step=step)
    return found


def _latest(steps: Mapping[str, tuple[Evidence, ...]], step: str) -> Evidence | None:
    """The last entry that says what was read or seen; notes, photos and what was left out say nothing.

    Where each drive of a set has a row, the first one's speaks for the supply of all.
    """
    return next((e for e in reversed(steps.get(step, ())) if e.passed and _says(e)), None)


def _says(evidence: Evidence) -> bool:
    return evidence.kind in ("readings", "choice") or (evidence.kind == "row" and evidence.data.get("reference") == 1)


def feeds_back(step: str) -> bool:
    """Whether evidence of a step tells something that other things are derived from."""
    telling = {*_STEPS, *_TAKEN, *DATA_STEPS, *VISIT_STEPS, *LEFT_BY}
    return step in telling or of_unit(step)[0] in (ROTATION, STEP_UP)
