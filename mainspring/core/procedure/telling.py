"""What the settings sheet and the run sheet tell of a line: decided, left and read values, each said once."""

from collections.abc import Iterable, Mapping
from datetime import datetime
from typing import Any, Protocol

from mainspring.core.line import HOLD, OF_READING, OnSite, Told
from mainspring.core.procedure.evidence import Evidence

INTERLOCK, INTERLOCK_STEP = "protection.interlock", "isolate.interlock"
DATA_STEPS = ("data.motor", "data.limits")  # whose readings are settings, by their id
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


def told_on_site(settings: Iterable[Entered], steps: Mapping[str, tuple[Evidence, ...]]) -> OnSite:
    """Everything told of a line: settings as left, else as decided; readings that the record or the model goes by."""
    found: dict[str, Told] = {}
    reasons = {s.setting: s.why for s in settings if s.moment == "decided"}
    for moment in ("decided", "left"):
        for s in settings:
            if s.moment == moment and s.value is not None:
                why = reasons.get(s.setting, "") if moment == "left" and _as_decided(s, settings) else s.why
                found[s.setting] = Told(s.value, moment, s.by, s.at, why)
    decided = {s.setting: Told(s.value, "decided", s.by, s.at, s.why) for s in settings if s.moment == "decided"}
    for step in DATA_STEPS:
        _read_back(found, steps.get(step, ()))
    seen = _latest(steps, INTERLOCK_STEP)
    before = found.get(INTERLOCK)
    if seen is not None and (before is None or before.at is None or before.at <= seen.at):
        found[INTERLOCK] = Told(str(seen.data.get("choice")), "left", seen.by, seen.at, seen.note)
    return OnSite(found, _readings(steps), decided)


def _read_back(found: dict[str, Told], evidence: tuple[Evidence, ...]) -> None:
    """What the run sheet says was read back from the drive, where nothing later was entered on the settings sheet."""
    for e in evidence:
        if e.kind != "readings" or not e.passed:
            continue
        for setting, value in e.data.items():
            before = found.get(setting)
            if isinstance(value, float) and (before is None or before.at is None or before.at <= e.at):
                why = before.why if before is not None and before.value == value else ""
                found[setting] = Told(value, "left", e.by, e.at, why)


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
                found[f"{step}.{name}"] = Told(value, "read", last.by, last.at, last.note)
        if step == "signals.sensor" and isinstance(held := last.leaves.get("control.setpoint"), float):
            found[f"{step}.pressure"] = Told(held, "read", last.by, last.at)
    return found


def _latest(steps: Mapping[str, tuple[Evidence, ...]], step: str) -> Evidence | None:
    """The last entry that says what was read or seen; notes, photos and what was left out say nothing."""
    kinds = ("readings", "choice")
    return next((e for e in reversed(steps.get(step, ())) if e.kind in kinds and e.passed), None)


def feeds_back(step: str) -> bool:
    """Whether evidence of a step tells something that other things are derived from."""
    return step in _STEPS or step in DATA_STEPS
