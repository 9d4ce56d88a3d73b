"""Each visit's full-speed row against the baseline, and what a drift that way usually means."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime

from mainspring.core.benches.proof.machine import deviation
from mainspring.core.method import Figure, Leaf
from mainspring.core.practice import proof as usual

LABELS = {
    "speed": ("Speed", "speed"),
    "current": ("Current", "current"),
    "power": ("Power", "input_power"),
    "pressure": ("Pressure", "pressure"),
}
Signs = Mapping[str, int]
# what readings at the same opening that drift together usually mean; common practice, no source
_PUMP: tuple[tuple[Signs, str], ...] = (
    ({"pressure": -1, "power": -1}, "Worn ring or wheel, or air in it: it moves less. Look at the suction first."),
    ({"pressure": -1, "power": 1}, "More flow than then: something open or leaking; else rubbing, worn bearings."),
    ({"pressure": 1, "power": -1}, "Less flow than then: a valve, a filter or the pipe closes up."),
    ({"pressure": 1, "power": 1}, "Faster, or heavier: check the frequency, the reference and the liquid."),
    ({"pressure": -1}, "It moves less at the same work: worn ring, recirculation; check the gauge."),
    ({"pressure": 1}, "More is in its way: valve, filter, pipe; check the gauge."),
    ({"power": 1}, "More work for the same: bearings, seal, alignment, something in the wheel."),
    ({"power": -1}, "Less work at the same pressure: check the meter."),
)
_FAN: tuple[tuple[Signs, str], ...] = (
    ({"pressure": 1, "power": -1}, "Less air than then: filter, coil or damper closes up."),
    ({"pressure": -1, "power": 1}, "More air than then: a door or filter is open, a duct has come apart."),
    ({"pressure": -1, "power": -1}, "The wheel turns slower or is dirty: belt slips, blades coated."),
    ({"pressure": 1, "power": 1}, "Faster, or colder air: check frequency, pulleys, season."),
    ({"pressure": -1}, "Dirty wheel or slack belt; check the tubes."),
    ({"pressure": 1}, "Something closes up: filter, coil, damper; check the tubes."),
    ({"power": 1}, "More work for the same: bearings, belt too tight, wheel rubs."),
    ({"power": -1}, "Less work at the same pressure: check the meter."),
)
_ANY: tuple[tuple[Signs, str], ...] = (
    ({"current": 1}, "More amps alone: volts low or uneven, or the motor's winding."),
    ({"current": -1}, "Fewer amps alone: check the display."),
    ({"speed": -1}, "Slower at the same frequency: more slip, so more load or lower volts."),
    ({"speed": 1}, "Faster at the same frequency: less slip, so less load."),
)


@dataclass(frozen=True)
class Row:
    """One visit's full-speed row."""

    at: datetime
    by: str
    purpose: str
    readings: Mapping[str, float]
    visit: str | None = None


@dataclass(frozen=True)
class Drifted:
    """A later visit against the baseline."""

    row: Row
    off: dict[str, Figure]  # by reading
    means: str


@dataclass(frozen=True)
class Drift:
    """The baseline and every visit after it."""

    baseline: Row
    visits: tuple[Drifted, ...]


def drift_of(rows: Sequence[Row], *, fan: bool) -> Drift | None:
    """Later rows against the first; None where there is none."""
    if not rows:
        return None
    ordered = sorted(rows, key=lambda r: r.at)
    first = ordered[0]
    return Drift(first, tuple(_drifted(first, row, fan=fan) for row in ordered[1:]))


def _drifted(first: Row, row: Row, *, fan: bool) -> Drifted:
    off = {}
    for name, (label, dimension) in LABELS.items():
        if name in row.readings and first.readings.get(name):
            then = Figure(first.readings[name], Leaf(f"baseline.{name}", f"{label}, baseline", dimension, "measured"))
            now = Figure(
                row.readings[name], Leaf(f"visit.{name}", f"{label}, {row.at:%Y-%m-%d}", dimension, "measured")
            )
            off[name] = deviation(now, then)
    return Drifted(row, off, meaning(off, fan=fan))


def meaning(off: Mapping[str, float], *, fan: bool) -> str:
    """What a drift that way usually means; nothing to say where all lies within what readings scatter."""
    signs = {name: (1 if v > 0 else -1) for name, v in off.items() if abs(v) > _noted(name)}
    if not signs:
        return ""
    for pattern, words in _FAN if fan else _PUMP:
        if all(signs.get(name) == sign for name, sign in pattern.items()):
            return words
    return next((words for pattern, words in _ANY if all(signs.get(n) == s for n, s in pattern.items())), "")


def _noted(name: str) -> float:
    """A speed hardly moves: a fifth of what the others may."""
    return float(usual.SHIFTED) / (5 if name == "speed" else 1)
