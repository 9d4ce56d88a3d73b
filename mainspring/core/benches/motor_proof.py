"""Motor load three ways from one full-speed reading, with what each way is worth."""

from collections.abc import Callable
from dataclasses import dataclass

from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError
from mainspring.core.line import Line
from mainspring.core.method import DERIVED, Figure, Leaf, as_figure, method
from mainspring.core.motor.efficiency import part_load_efficiency
from mainspring.core.motor.load import (
    LoadBounds,
    load_by_current_less_no_load,
    load_by_power_and_losses,
    load_by_slip,
    slip_load_bounds,
)
from mainspring.core.motor.speed import synchronous_speed
from mainspring.core.quantity import Percent, Ratio, RevPerMin


@method(
    id="speed_at_rated_slip",
    symbol="n_rs",
    formula="n_sf - (n_s - n_r)",
    symbols={"n_sf": "synchronous_now", "n_s": "synchronous_rated", "n_r": "rated_rpm"},
    source=DERIVED,
)
def speed_at_rated_slip(synchronous_now: RevPerMin, synchronous_rated: RevPerMin, rated_rpm: RevPerMin) -> RevPerMin:
    """Speed that the motor would have at full load at the frequency of the moment.

    Parameters
    ----------
    synchronous_now : at the output frequency [r/min]
    synchronous_rated : at rated frequency [r/min]
    rated_rpm : full-load speed of the plate [r/min]

    Examples
    --------
    >>> float(speed_at_rated_slip(1500, 1500, 1445))
    1445.0
    """
    return synchronous_now - (synchronous_rated - rated_rpm)


@method(
    id="symmetric_bounds",
    symbol="L",
    formula="L·(1 - u) and L·(1 + u)",
    words=True,
    source=DERIVED,
)
def symmetric_bounds(load: Percent, relative: Ratio) -> LoadBounds:
    """Bounds of an estimate from its relative uncertainty.

    Parameters
    ----------
    load : the estimate [-]
    relative : uncertainty [-]

    Examples
    --------
    >>> [round(b, 3) for b in symmetric_bounds(0.8, 0.05)]
    [0.76, 0.84]
    """
    return LoadBounds(load * (1 - relative), load * (1 + relative))


@dataclass(frozen=True)
class Estimate:
    """Load by one method."""

    id: str
    title: str
    load: Figure | None
    low: Figure | None
    high: Figure | None
    worth: str
    missing: str = ""


@dataclass(frozen=True)
class Proof:
    """Load of the motor, three ways, and its efficiency there."""

    estimates: list[Estimate]
    best: Figure | None
    efficiency: Figure | None
    readings: dict[str, Figure]


READING_LABELS = {
    "reference": ("Drive frequency", "frequency"),
    "speed": ("Speed", "speed"),
    "current": ("Current", "current"),
    "power": ("Power to the motor", "input_power"),
    "pressure": ("Outlet pressure", "pressure"),
}


def readings_as_figures(row: dict[str, float]) -> dict[str, Figure]:
    """A kept row as figures that say they were measured."""
    return {
        name: Figure(row[name], Leaf(f"baseline.{name}", label, dimension, "measured", "full-speed row of the step-up"))
        for name, (label, dimension) in READING_LABELS.items()
        if name in row
    }


def proof_of(line: Line, derived: Derived, row: dict[str, float]) -> Proof:
    """Load by power, by slip and by amps from a full-speed row (SI, keys of READING_LABELS)."""
    read = readings_as_figures(row)
    estimates = [_by_power(line, derived, read), _by_slip(line, derived, read), _by_amps(line, derived, read)]
    best = next((e.load for e in estimates if e.load is not None), None)
    efficiency = None
    if best is not None:
        try:
            efficiency = part_load_efficiency(best, *derived.losses)
        except MainspringError:
            efficiency = None
    return Proof(estimates, best, efficiency, read)


def _estimate(id: str, title: str, worth: str, compute: Callable[[], tuple[Figure, LoadBounds]]) -> Estimate:
    try:
        load, bounds = compute()
    except (MainspringError, KeyError) as gap:
        missing = f"needs the reading of {gap}" if isinstance(gap, KeyError) else gap.both
        return Estimate(id, title, None, None, None, worth, missing)
    return Estimate(id, title, load, as_figure(bounds.low), as_figure(bounds.high), worth)


def _by_power(line: Line, derived: Derived, read: dict[str, Figure]) -> Estimate:
    def compute() -> tuple[Figure, LoadBounds]:
        load = load_by_power_and_losses(read["power"], line.motor.rated_power, *derived.losses)
        return load, symmetric_bounds(load, 0.05)

    return _estimate("power", "By power", "Best. 2 to 5 % with a true power reading; good at every load.", compute)


def _by_slip(line: Line, derived: Derived, read: dict[str, Figure]) -> Estimate:
    def compute() -> tuple[Figure, LoadBounds]:
        now = synchronous_speed(read["reference"], derived.poles)
        load = load_by_slip(
            now, read["speed"], speed_at_rated_slip(now, derived.synchronous_rpm, line.motor.rated_speed)
        )
        return load, slip_load_bounds(load)

    return _estimate(
        "slip",
        "By slip",
        "Fair. The plate's slip may be 20 % off, and 5 r/min of rounding is much of a small slip; 30 to 100 % load.",
        compute,
    )


def _by_amps(line: Line, derived: Derived, read: dict[str, Figure]) -> Estimate:
    def compute() -> tuple[Figure, LoadBounds]:
        load = load_by_current_less_no_load(read["current"], line.motor.rated_current, derived.no_load_amps)
        return load, symmetric_bounds(load, 0.10 if load > 0.5 else 0.25)

    return _estimate(
        "amps",
        "By amps",
        "Worst below half load, where amps are mostly magnetising. About 10 % above it.",
        compute,
    )
