"""Readings as a technician would have taken them: invented, close to what the model expects."""

from typing import Any

from mainspring.core.method import Figure
from mainspring.core.procedure import Reading, Step
from mainspring.core.procedure.step import YES

# invented: how far the readings of each step-up row lie from the model, in order speed, current, power, pressure
_SCATTER = {"speed": 1.001, "current": 1.03, "power": 1.02, "pressure": 0.985}
_RESOLUTION = {
    "speed": 1.0,
    "current": 0.1,
    "input_power": 10.0,
    "pressure": 1000.0,
    "air_pressure": 1.0,
    "signal": 1e-5,
}
METER = {"name": "Multimeter, true RMS", "due": "2027-03-31"}
GAUGE = {"name": "Test gauge 0–16 bar, class 0.6", "due": "2027-01-31"}


def answers(step: Step, rows: int = 99) -> list[tuple[str, dict[str, Any], float]]:
    """Evidence that proves a step: its kind, its data, and the seconds to wait before it; none for a photo."""
    if step.proof == "photo":
        return []
    if step.proof == "countdown":
        return [("start", {}, 0.0), ("tick", {}, float(step.seconds or 0) + 20)]
    if step.proof == "choice":
        choices = step.choices or {}
        return [("choice", {"choice": step.right if step.right in choices else next(iter(choices))}, 0.0)]
    if step.proof in ("readings", "turns"):
        read = {r.id: _read(r, step, i) for i, r in enumerate(step.readings) if not r.optional}
        seen = dict.fromkeys(step.items, YES)
        if step.proof == "turns":
            return [("turns", {"first_pressure": 2.1e5, "second_pressure": 3.9e5, "choice": "second"}, 0.0)]
        return [("readings", {**read, **seen}, 0.0)]
    if step.proof == "list":
        return [("list", dict.fromkeys(step.items, YES), 0.0)]
    if step.proof == "units":
        return [
            ("unit", {"unit": n, "serial": f"MF-{4100 + n}", **dict.fromkeys(step.items, YES)}, 60.0)
            for n in range(1, step.units + 1)
        ]
    if step.table is not None:
        return _rows(step, rows)
    return [("tick", {}, 0.0)]


def _rows(step: Step, rows: int) -> list[tuple[str, dict[str, Any], float]]:
    assert step.table is not None
    made = []
    for i, (reference, expected) in enumerate(zip(step.table.references, step.table.expected, strict=True)):
        if i >= rows:
            break
        data: dict[str, Any] = {}
        for column in step.table.columns:
            should = expected.get(column.id)
            if should is not None:
                scatter = 1.0 if step.table.all_rows else _SCATTER[column.id]
                data[column.id] = _instrument(column, float(should) * scatter)
        made.append(("row", {"reference": float(reference), **data}, 60.0))
    return made


def _instrument(reading: Reading, value: float) -> float:
    """A value as a display or gauge would give it."""
    step = _RESOLUTION.get(reading.dimension, 0.0)
    return round(round(value / step) * step, 6) if step else value


def _read(reading: Reading, step: Step, index: int) -> float:
    expected: Figure | None = reading.expected
    if expected is None and step.schools:
        expected = next(iter(step.schools.values())).expected
    if expected is not None and reading.dimension == "count":
        return float(expected)
    if expected is not None:
        return round(float(expected) * (1 + 0.002 * (index - 1)), 6)
    if reading.low is None:
        return 3e5 if reading.dimension == "pressure" else 0.2
    value = reading.low + 0.2 + 0.1 * index if reading.dimension != "pressure" else reading.low * 1.4
    return value if reading.high is None or value < reading.high else (reading.low + reading.high) / 2
