"""One period of a comparison: its logs joined hour by hour, each hour once, and what the joining showed.

Power and flow may stand in files of their own, each by its own logger: an hour counts where all that is asked for was
read in it, whoever read it.
"""

from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np

from mainspring.core.errors import NoSolution
from mainspring.core.measured.trend import HOUR, Means, Numbers, Trend, means_of, with_power
from mainspring.core.sentence import in_percent

ALIKE = 0.02  # of the readings, within which two logs of one hour say the same
MADE_OF = {"power": ("power", "energy")}  # columns that give a quantity
WITNESSES = ("level",)  # what moves the power at the same flow and is not the drive's doing


@dataclass(frozen=True)
class Side:
    """A period: means of what is compared, what was read of a witness besides, and what to say of the joining."""

    means: Means
    witness: Means | None = None
    told: tuple[str, ...] = ()


def ways_in(sides: Sequence[Sequence[set[str]]], ways: Sequence[str], always: Sequence[str]) -> list[str]:
    """What periods can be compared at: what was read in each, in whichever of its logs, and what needs power alone.

    Nothing where a period has no power.
    """
    read = [set[str]().union(*logs) for logs in sides]
    if not read or not all(columns & set(MADE_OF["power"]) for columns in read):
        return []
    return [*(w for w in ways if all(w in columns for columns in read)), *always]


def side_of(logs: Sequence[tuple[str, Trend]], quantities: tuple[str, ...], *, leave_out: bool = True) -> Side:
    """A period from its logs, by name; of an hour that two hold the first one counts.

    Raises NoSolution where no hour has all that is asked for.
    """
    means, told = _joined(logs, quantities, leave_out)
    if not len(means.times) and len(logs) > 1:
        raise NoSolution(f"no hour in which all of {', '.join(quantities)} was read")
    beside = next((w for w in WITNESSES if w not in quantities and _holds(logs, w)), None)
    witness = _joined(logs, (*quantities, beside), leave_out)[0] if beside else None
    return Side(means, witness, tuple(told))


def _holds(logs: Sequence[tuple[str, Trend]], quantity: str) -> bool:
    return any(quantity in trend.columns for _, trend in logs)


def _joined(logs: Sequence[tuple[str, Trend]], quantities: tuple[str, ...], leave_out: bool) -> tuple[Means, list[str]]:
    span = max([HOUR, *(trend.interval for _, trend in logs)])
    parts: list[tuple[str, Means]] = []
    for name, trend in logs:
        mine = tuple(q for q in quantities if set(MADE_OF.get(q, (q,))) & set(trend.columns))
        if mine:
            whole = with_power(trend) if "power" in mine else trend
            parts.append((name, means_of(whole, mine, span, leave_out=leave_out)))
    told: list[str] = []
    read: dict[str, tuple[Numbers, Numbers]] = {}
    for quantity in quantities:
        having = [(name, m.times, m.columns[quantity]) for name, m in parts if quantity in m.columns]
        read[quantity] = _each_once(having, told)
    common = read[quantities[0]][0]
    for times, _ in read.values():
        common = np.intersect1d(common, times)
    columns = {q: values[np.searchsorted(times, common)] for q, (times, values) in read.items()}
    return Means(common, span, columns), told


def _each_once(having: Sequence[tuple[str, Numbers, Numbers]], told: list[str]) -> tuple[Numbers, Numbers]:
    """All hours of several logs in order, of one that several hold the first; what they share is told once."""
    times, values = having[0][1:]
    for name, more_times, more_values in having[1:]:
        _, mine, theirs = np.intersect1d(times, more_times, return_indices=True)
        if len(mine):
            words = _shared(name, len(mine), values[mine], more_values[theirs])
            if words not in told:
                told.append(words)
        new = ~np.isin(more_times, times)
        times, values = np.concatenate((times, more_times[new])), np.concatenate((values, more_values[new]))
        order = np.argsort(times, kind="stable")
        times, values = times[order], values[order]
    return times, values


def _shared(name: str, hours: int, kept: Numbers, other: Numbers) -> str:
    words = f"{hours} hours of “{name}” are in another log of this period too: each counts once"
    usual = float(np.mean(np.abs(kept)))
    off = float(np.mean(np.abs(other - kept))) / usual if usual > 0 else 0.0
    if off <= ALIKE:
        return f"{words}."
    return f"{words}, and they differ there by {in_percent(off)}: another meter, unit or clock? Put one aside."


def shared_hours(before: Means, after: Means) -> int:
    """Hours that count before and after the change alike."""
    return len(np.intersect1d(before.times, after.times))


def later_first(before: Means, after: Means) -> bool:
    """Whether what is called before was read later than what is called after."""
    return bool(len(before.times) and len(after.times) and before.times[0] > after.times[-1])


def moved(before: Means, after: Means, way: str, witness: str) -> float | None:
    """By how much a witness stood otherwise after the change, at the same value of what is compared; None unread."""
    old, new = before.columns, after.columns
    if witness not in old or witness not in new or not len(before.times) or not len(after.times):
        return None
    low, high = np.quantile(old[way], (0.01, 0.99))
    inside = (new[way] >= low) & (new[way] <= high)
    if not inside.any():
        return None
    line = np.polyfit(old[way], old[witness], 1) if high > low else np.array([0.0, float(np.mean(old[witness]))])
    return float(np.mean(new[witness][inside] - np.polyval(line, new[way][inside])))
