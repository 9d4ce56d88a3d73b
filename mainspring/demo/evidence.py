"""Readings as a technician would have taken them: invented, close to what the model expects."""

from datetime import date
from functools import partial
from typing import Any

from mainspring.core.method import Figure
from mainspring.core.procedure import PROOFS, Instrument, Reading, Step

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
METER = Instrument("Multimeter, true RMS", date(2027, 3, 31))
GAUGE = Instrument("Test gauge 0–16 bar, class 0.6", date(2027, 1, 31))


def answers(step: Step, rows: int = 99) -> list[tuple[str, dict[str, Any], float]]:
    """Evidence that proves a step: its kind, its data, and the seconds to wait before it; none for a photo."""
    return PROOFS[step.proof].sample(step, partial(_read, step))[: rows if step.table is not None else None]


def _read(step: Step, reading: Reading, expected: Figure | None, index: int) -> float:
    """What an instrument shows, a little off what is expected."""
    if step.table is not None and expected is not None:
        scatter = 1.0 if step.table.all_rows else _SCATTER[reading.id]
        return _instrument(reading, float(expected) * scatter)
    if expected is not None:
        if reading.dimension == "count" or step.id.startswith("data."):  # a display repeats what was set
            return float(expected)
        return round(float(expected) * (1 + 0.002 * (index - 1)), 6)
    if reading.low is None:
        return 3e5 if reading.dimension == "pressure" else 0.2
    value = reading.low + 0.2 + 0.1 * index if reading.dimension != "pressure" else reading.low * 1.4
    return value if reading.high is None or value < reading.high else (reading.low + reading.high) / 2


def _instrument(reading: Reading, value: float) -> float:
    """A value as a display or gauge would give it."""
    step = _RESOLUTION.get(reading.dimension, 0.0)
    return round(round(value / step) * step, 6) if step else value
