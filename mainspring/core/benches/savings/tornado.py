"""What the answer hangs on: one thing after the other a fifth less and a fifth more."""

from collections.abc import Callable
from dataclasses import dataclass

from mainspring.core.benches.savings.bench import Savings, savings_of
from mainspring.core.benches.savings.duty import HOUR, YEAR
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError
from mainspring.core.line import Line

BY = 0.20
MOST_EFFICIENT = 0.92  # a pump or fan can be at all; common practice, no source
LEAP_YEAR = 8784 * HOUR
STILL = 1e-3  # of the answer, below which nothing moved it


@dataclass(frozen=True)
class Bar:
    """One thing moved, and what came of it each way: saved a year [J], money a year, payback [years]."""

    id: str
    label: str
    low: float  # what it was moved to, as a factor
    high: float
    saved: tuple[float, float]
    money: tuple[float | None, float | None]
    payback: tuple[float | None, float | None]

    @property
    def width(self) -> float:
        """How far the energy saved moves between both ends."""
        return abs(self.saved[1] - self.saved[0])


Move = Callable[[Line, float], Line | None]


def _scaled(*paths: str) -> Move:
    """The entries at some paths times a factor; None where none is there."""

    def move(line: Line, factor: float) -> Line | None:
        changes: dict[str, dict[str, float]] = {}
        for path in paths:
            value = line.value(path)
            if value:
                group, _, name = path.partition(".")
                changes.setdefault(group, {})[name] = value * factor
        return line.with_values(**changes) if changes else None

    return move


def _hours(line: Line, factor: float) -> Line | None:
    name = "air_profile" if "fan" in line.traits else "profile"
    rows = line.value(f"duty.{name}")
    if rows is None or line.has("duty.air_week" if "fan" in line.traits else "duty.week"):
        return None
    whole = sum(h for _, h in rows) * factor
    if whole > LEAP_YEAR:
        factor *= YEAR / whole
    return line.with_values(duty={name: [[q, h * factor] for q, h in rows]})


def _flows(line: Line, factor: float) -> Line | None:
    name = "air_profile" if "fan" in line.traits else "profile"
    rows = line.value(f"duty.{name}")
    if not rows:
        return None
    most = max(q for q, _ in rows)
    return line.with_values(duty={name: [[min(q * factor, most), h] for q, h in rows]})


def _prices(line: Line, factor: float) -> Line | None:
    moved = _scaled("site.energy_price", "site.demand_price")(line, factor)
    if moved is None:
        return None
    for name in ("price_bands", "price_tiers"):
        rows = line.value(f"site.{name}")
        if rows:
            moved = moved.with_values(site={name: [[*row[:-1], row[-1] * factor] for row in rows]})
    return moved


def _efficiency(line: Line, factor: float) -> Line | None:
    best = line.value("machine.best_efficiency")
    return line.with_values(machine={"best_efficiency": min(best * factor, MOST_EFFICIENT)}) if best else None


_MOVES: tuple[tuple[str, str, Move], ...] = (
    ("hours", "Hours a year", _hours),
    ("flows", "Flows below the largest", _flows),
    ("price", "Price of energy", _prices),
    ("static", "Static head, or level", _scaled("system.static_head", "system.pumping_level")),
    ("setpoint", "What is held", _scaled("control.setpoint", "control.air_setpoint")),
    ("efficiency", "Efficiency of the machine", _efficiency),
    ("cost", "What was spent", _scaled("duty.cost", "duty.capital")),
)


def tornado_of(line: Line) -> list[Bar]:
    """What moves the answer, the most first; what cannot be moved, or leads nowhere, is left out."""
    found = []
    for id, label, move in _MOVES:
        try:
            low, high = (_tried(line, move, factor) for factor in (1 - BY, 1 + BY))
        except MainspringError:
            continue
        if low is None or high is None:
            continue
        found.append(
            Bar(
                id,
                label,
                1 - BY,
                1 + BY,
                (float(low.saved), float(high.saved)),
                (_plain(low.worth.yearly), _plain(high.worth.yearly)),
                (_plain(low.worth.payback), _plain(high.worth.payback)),
            )
        )
    return sorted((b for b in found if _moves(b)), key=_by_payback, reverse=True)


def _moves(bar: Bar) -> bool:
    pairs = (bar.saved, bar.money, bar.payback)
    return any(a is not None and b is not None and abs(a - b) > STILL * max(abs(a), abs(b)) for a, b in pairs)


def _tried(line: Line, move: Move, factor: float) -> Savings | None:
    moved = move(line, factor)
    return None if moved is None else savings_of(moved, Derived(moved))


def _plain(figure: float | None) -> float | None:
    return None if figure is None else float(figure)


def _by_payback(bar: Bar) -> float:
    low, high = bar.payback
    return bar.width if low is None or high is None else abs(high - low) * 1e12
