"""A log in SI and in order of time, and what was wrong with its clock and its readings.

Nothing is repaired here: what is wrong is found, named and marked, and whoever uses the log says what it leaves out.
"""

from collections.abc import Mapping
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, field, replace

import numpy as np
from numpy.typing import NDArray

from mainspring.core.errors import BadEntry

Numbers = NDArray[np.float64]
Marks = NDArray[np.bool_]

HOUR, DAY = 3600.0, 86400.0
QUANTITIES: dict[str, tuple[str, str]] = {  # what a log may hold: what it is called, and its dimension
    "power": ("Power", "input_power"),
    "energy": ("Energy counter", "energy"),
    "flow": ("Flow", "flow"),
    "air_flow": ("Air flow", "air_flow"),
    "pressure": ("Pressure", "pressure"),
    "air_pressure": ("Air pressure", "air_pressure"),
    "level": ("Level or head", "head"),
    "temperature": ("Temperature", "temperature"),
    "frequency": ("Drive frequency", "frequency"),
    "speed": ("Speed", "speed"),
    "current": ("Current", "current"),
    "voltage": ("Voltage", "voltage"),
    "running": ("Running", "ratio"),
}
NEVER_BELOW_ZERO = ("power", "flow", "air_flow", "frequency", "speed", "current", "voltage")
AT_REST = 0.02  # of the most that was read, below which it is at rest
STANDBY = 0.06  # of the most power that was read, up to which it may rest: a small drive takes that while it waits
LEAST_ROWS = 8
GAP = 1.5  # intervals between two rows from which it is a gap
STUCK_FOR, STUCK_ROWS = HOUR, 12  # no reading stands still so long and so often
RESTLESS = 3.0  # rows that a reading usually stands still, at most, to be called stuck when it does for long
LONGER = 6.0  # times as long as nearly all its other rests
SPIKE = 12.0  # times the usual step from one row to the next
CLOCK_STEP = HOUR
MANY = 20_000  # rows from which two threads are the faster
ENOUGH = 50_000  # steps from which a usual one is told


@dataclass(frozen=True)
class Found:
    """Something that is wrong with a log: what, of which quantity, from when and how long, and how often."""

    kind: str  # a key of what service.logs tells: gap, stuck, spike, clock, newest, doubled, words and the like
    quantity: str
    start: float  # seconds of the log's clock; of the first
    length: float  # seconds, of all together
    count: int
    value: float = 0.0  # at which it was stuck, or how far the clock moved


@dataclass(frozen=True)
class Trend:
    """A log: times that only rise, and a reading of each quantity or not a number; one row each interval."""

    times: Numbers  # s since 1970 by the log's own clock, steady over a clock change
    columns: Mapping[str, Numbers]
    interval: float  # s
    found: tuple[Found, ...] = ()
    marked: Mapping[str, Marks] = field(default_factory=dict)  # readings that are stuck, spikes or impossible

    @property
    def days(self) -> float:
        """Days of which it has readings."""
        return len(self.times) * self.interval / DAY

    def sound(self, quantity: str, leave_out: bool = True) -> Numbers:
        """A column, with the marked readings as not a number where they are to be left out."""
        values = self.columns[quantity]
        marks = self.marked.get(quantity)
        if not leave_out or marks is None or not marks.any():
            return values
        return np.where(marks, np.nan, values)


def trend_of(times: Numbers, columns: Mapping[str, Numbers]) -> Trend:
    """A log from what a file held: put in order, its clock made steady, and looked through.

    Raises BadEntry for fewer than eight rows with a time, or times that do not move.
    """
    known = np.isfinite(times)
    found: list[Found] = []
    if not known.all():
        found.append(Found("empty", "time", 0.0, 0.0, int((~known).sum())))
        times, columns = times[known], {name: c[known] for name, c in columns.items()}
    if len(times) < LEAST_ROWS:
        raise BadEntry("log", f"{len(times)} rows with a time", f"at least {LEAST_ROWS}")
    columns = {name: np.where(np.isinf(c), np.nan, c) if np.isinf(c).any() else c for name, c in columns.items()}
    times, columns, turned = _turned(times, columns)
    found += turned
    interval = _interval(times)
    if not any(f.kind == "shuffled" for f in turned):
        times, clock = _steady(times, interval)  # of rows in disorder nothing tells a clock that was put back
        found += clock
    times, columns, order = _ordered(times, columns)
    found += order
    if (even := _evened(times, columns)) is not None:
        times, columns, interval, told = even
        found.append(told)
    found += _gaps(times, interval)
    marked, wrong = marked_of(times, columns, interval)
    return Trend(times, columns, interval, (*found, *wrong), marked)


SHUFFLED = 0.02  # of the steps that go back, from which rows stand in no order


def _turned(times: Numbers, columns: Mapping[str, Numbers]) -> tuple[Numbers, Mapping[str, Numbers], list[Found]]:
    """Rows the oldest first: a file that has the newest first is turned round, one in no order is put in order."""
    back = float((np.diff(times) < 0).mean())
    if back <= SHUFFLED:
        return times, columns, []
    if back >= 1 - SHUFFLED:
        turned = {name: values[::-1] for name, values in columns.items()}
        return times[::-1], turned, [Found("newest", "time", float(times[-1]), 0.0, len(times))]
    order = np.argsort(times, kind="stable")
    told = Found("shuffled", "time", float(times[order[0]]), 0.0, int((np.diff(times) < 0).sum()))
    return times[order], {name: values[order] for name, values in columns.items()}, [told]


def marked_of(times: Numbers, columns: Mapping[str, Numbers], interval: float) -> tuple[dict[str, Marks], list[Found]]:
    """Which readings of a log in order cannot be believed, by quantity, and what is wrong with them."""

    def look(column: tuple[str, Numbers]) -> tuple[Marks, list[Found]]:
        return _looked(*column, times, interval, columns.get("power"))

    marked, found = {}, []
    with ThreadPoolExecutor(2) as pool:  # the arrays are let go of while they are worked on
        looked = list(pool.map(look, columns.items())) if len(times) > MANY else list(map(look, columns.items()))
    for name, (marks, wrong) in zip(columns, looked, strict=True):
        found += wrong
        if marks.any():
            marked[name] = marks
    return marked, found


def _interval(times: Numbers) -> float:
    steps = np.diff(times)
    steps = steps[steps > 0][:ENOUGH]
    if not len(steps):
        raise BadEntry("log", "every row at the same time", "times that move")
    return float(np.median(steps))


def _steady(times: Numbers, interval: float) -> tuple[Numbers, list[Found]]:
    """Times without the hours that a clock was put on or back for summer time, and when that was."""
    steps = np.diff(times)
    back = np.flatnonzero((np.abs(steps - (interval - CLOCK_STEP)) <= interval / 2) & (interval < CLOCK_STEP))
    forward = np.flatnonzero(np.abs(steps - (interval + CLOCK_STEP)) <= interval / 2)
    found, shift = [], np.zeros(len(times))
    for i in back:
        if _sunday_night(times[i + 1], ((9, 31), (11, 8))) and _overlaps(times, int(i)):
            shift[i + 1 :] += CLOCK_STEP
            found.append(Found("clock", "time", float(times[i]), CLOCK_STEP, 1, -CLOCK_STEP))
    for i in forward:
        if _sunday_night(times[i], ((3, 1), (4, 8))):
            shift[i + 1 :] -= CLOCK_STEP
            found.append(Found("clock", "time", float(times[i]), CLOCK_STEP, 1, CLOCK_STEP))
    return times + shift, found


def _overlaps(times: Numbers, at: int) -> bool:
    """Whether a step back is an hour told twice: what follows goes on from there, and does not jump on again."""
    after = times[at + 1 : at + 4]
    return bool(np.all(np.diff(after) > 0))


def _sunday_night(time: float, between: tuple[tuple[int, int], tuple[int, int]]) -> bool:
    moment = np.datetime64(int(time), "s").astype(object)
    low, high = between
    return bool(low <= (moment.month, moment.day) <= high and moment.weekday() == 6 and moment.hour <= 4)


def _ordered(times: Numbers, columns: Mapping[str, Numbers]) -> tuple[Numbers, dict[str, Numbers], list[Found]]:
    """Rows in order of time, of several at one time the first."""
    found = []
    late = np.diff(times) < 0
    if late.any():
        found.append(Found("order", "time", float(times[1:][late][0]), 0.0, int(late.sum())))
    first = np.diff(times, prepend=-np.inf) > 0
    if late.any() or not first.all():
        order = np.argsort(times, kind="stable")
        times = times[order]
        columns = {name: values[order] for name, values in columns.items()}
        first = np.diff(times, prepend=-np.inf) > 0
    if not first.all():
        found.append(Found("doubled", "time", float(times[~first][0]), 0.0, int((~first).sum())))
        times, columns = times[first], {name: values[first] for name, values in columns.items()}
    return times, dict(columns), found


UNEVEN = 0.3  # of the steps that differ from the usual one by more than a quarter, from which rows are on change
EVEN_STEP, HELD_FOR = 60.0, 20.0  # s of the even rows; times the usual long step that a reading holds


def _evened(times: Numbers, columns: Mapping[str, Numbers]) -> tuple[Numbers, dict[str, Numbers], float, Found] | None:
    """Rows written on change as even ones, each reading held until the next: so that each counts by its time.

    None for a log whose rows are even. What is longer than a reading can have held is a gap.
    """
    steps = np.diff(times)
    usual = float(np.median(steps))
    if len(steps) < LEAST_ROWS or float((np.abs(steps - usual) > 0.25 * usual).mean()) < UNEVEN:
        return None
    long = max(float(np.quantile(steps, 0.95)) * HELD_FOR, HOUR)
    step = EVEN_STEP if usual < HOUR else usual
    if (times[-1] - times[0]) / step > MOST_EVEN:
        step = (times[-1] - times[0]) / MOST_EVEN
    grid = np.arange(times[0], times[-1] + step / 2, step)
    at = np.searchsorted(times, grid + 1e-6, "right") - 1
    kept = grid - times[at] <= long
    told = Found("uneven", "time", float(times[0]), float(times[-1] - times[0]), len(times))
    return grid[kept], {name: values[at[kept]] for name, values in columns.items()}, step, told


MOST_EVEN = 2_000_000  # rows


def _gaps(times: Numbers, interval: float) -> list[Found]:
    steps = np.diff(times)
    at = np.flatnonzero(steps > GAP * interval)
    return [Found("gap", "time", float(times[i] + interval), float(steps[i] - interval), 1) for i in at]


def _looked(
    name: str, values: Numbers, times: Numbers, interval: float, power: Numbers | None
) -> tuple[Marks, list[Found]]:
    """Which readings of a column cannot be believed, and why."""
    found = []
    missing = ~np.isfinite(values)
    if missing.any():
        found.append(_told("empty", name, times, missing, interval))
    marks = np.zeros(len(values), bool)
    if name == "running" or missing.all():
        return marks, found
    if name == "energy":
        resets = np.flatnonzero(np.diff(values) < 0)
        if len(resets):
            found.append(Found("reset", name, float(times[resets[0] + 1]), 0.0, len(resets)))
        return marks, found
    if name in NEVER_BELOW_ZERO:
        below = values < -1e-9 - 0.01 * np.nanmax(np.abs(values))
        if below.any():
            marks |= below
            found.append(_told("reversed" if name == "power" else "negative", name, times, below, interval))
    steps = np.diff(values)
    spikes = _spikes(values, steps)
    if spikes.any():
        marks |= spikes
        found.append(_told("spike", name, times, spikes, interval))
    for start, end in _stuck(name, values, steps, interval, power if name != "power" else None):
        marks[start:end] = True
        found.append(Found("stuck", name, float(times[start]), (end - start) * interval, 1, float(values[start])))
    return marks, found


def _told(kind: str, name: str, times: Numbers, marks: Marks, interval: float) -> Found:
    count = int(marks.sum())
    return Found(kind, name, float(times[marks][0]), count * interval, count)


def _spikes(values: Numbers, steps: Numbers) -> Marks:
    """Single readings that stand off from both neighbours by far more than it ever moves, to one side."""
    marks = np.zeros(len(values), bool)
    sample = np.abs(steps[:: max(1, len(steps) // ENOUGH)])
    sample = sample[np.isfinite(sample)]
    if len(values) < LEAST_ROWS or not len(sample):
        return marks
    largest = max(float(np.nanmax(values)), -float(np.nanmin(values))) or 1.0
    usual = max(float(np.quantile(sample, 0.99)), 0.02 * largest / SPIKE)
    far = max(SPIKE / 3 * usual, SPIKE * float(np.median(sample)))
    large = np.abs(steps) > far
    at = np.flatnonzero(large[:-1] & large[1:]) + 1  # far from the reading before and from the one after
    away = np.minimum(np.abs(steps[at - 1]), np.abs(steps[at]))
    one_sided = steps[at - 1] * steps[at] < 0
    mates = np.abs(values[at - 1] - values[at + 1]) < 0.5 * away
    marks[at[one_sided & mates]] = True
    return marks


def _stuck(name: str, values: Numbers, steps: Numbers, interval: float, power: Numbers | None) -> list[tuple[int, int]]:
    """Runs in which a restless reading stands still for long, while the machine works."""
    same = steps == 0
    edges = np.flatnonzero(np.diff(np.concatenate(([0], same.view(np.int8), [0]))))
    starts, ends = edges[::2], edges[1::2] + 1
    lengths = ends - starts
    runs = len(values) - int((lengths - 1).sum())
    if not len(lengths) or len(values) / runs > RESTLESS:
        return []
    all_lengths = np.concatenate((np.ones(runs - len(lengths)), lengths))
    usual = LONGER * float(np.quantile(all_lengths, 0.95))  # what moves slowly stands still for a while by itself
    long = lengths >= max(STUCK_ROWS, STUCK_FOR / interval, usual)
    found = []
    least = STANDBY if name == "power" else AT_REST if name in NEVER_BELOW_ZERO else 0.0
    rest = least * float(np.nanmax(np.abs(values)))
    for start, end in zip(starts[long], ends[long], strict=True):
        if abs(values[start]) <= rest:
            continue  # at rest, where a reading may stand still
        if power is not None and not np.ptp(power[start:end]) > 0:
            continue  # everything stands still: it may
        found.append((int(start), int(end)))
    return found


def with_power(trend: Trend) -> Trend:
    """The log with mean power from its energy counter where it has no power; a reset gives no reading.

    Raises BadEntry where it has neither.
    """
    if "power" in trend.columns:
        return trend
    if "energy" not in trend.columns:
        raise BadEntry("log", "no column of power and none of an energy counter", "one of the two")
    counter = trend.columns["energy"]
    steps = np.diff(trend.times, append=trend.times[-1] + trend.interval)
    gained = np.diff(counter, append=np.nan)
    power = np.where((gained >= 0) & (steps <= GAP * trend.interval), gained / steps, np.nan)
    return replace(trend, columns={**trend.columns, "power": power})


@dataclass(frozen=True)
class Means:
    """Means over equal spans: when each began, the span, and each quantity's mean."""

    times: Numbers
    span: float
    columns: Mapping[str, Numbers]

    def where(self, marks: Marks) -> "Means":
        """Those of the spans that are marked."""
        return Means(self.times[marks], self.span, {name: values[marks] for name, values in self.columns.items()})

    @property
    def day(self) -> NDArray[np.int64]:
        """Which day each lies in."""
        return np.floor(self.times / DAY).astype(np.int64)


FULL_ENOUGH = 0.75  # of a span's rows that it must have to count


def means_of(trend: Trend, quantities: tuple[str, ...], span: float = HOUR, *, leave_out: bool = True) -> Means:
    """Means over spans, of those that have at least three quarters of their rows, each quantity alike."""
    span = max(span, trend.interval)
    slot = np.floor(trend.times / span).astype(np.int64)
    slot -= slot[0]
    columns = {name: trend.sound(name, leave_out) for name in quantities}
    good = np.isfinite(np.array(list(columns.values()))).all(axis=0)
    slot, kept = slot[good], {name: values[good] for name, values in columns.items()}
    if not len(slot):
        return Means(np.empty(0), span, {name: np.empty(0) for name in quantities})
    counts = np.bincount(slot)
    full = counts >= FULL_ENOUGH * span / trend.interval
    first = np.floor(trend.times[0] / span) * span
    sums = {name: np.bincount(slot, weights=values) for name, values in kept.items()}
    return Means(
        first + np.flatnonzero(full) * span,
        span,
        {name: total[full] / counts[full] for name, total in sums.items()},
    )


def thinned(times: Numbers, values: Numbers, points: int) -> tuple[Numbers, Numbers]:
    """At most about so many points, of every bucket its lowest and its highest: no extreme is lost, gaps stay gaps."""
    if len(times) <= points:
        return times, values
    buckets = max(1, points // 2)
    size = -(-len(times) // buckets)
    whole = len(times) // size * size
    blocks = values[:whole].reshape(-1, size)
    filled = np.where(np.isfinite(blocks), blocks, 0.0)
    empty = ~np.isfinite(blocks)
    low = np.argmin(np.where(empty, np.inf, filled), axis=1)
    high = np.argmax(np.where(empty, -np.inf, filled), axis=1)
    base = np.arange(len(blocks)) * size
    keep = np.unique(np.concatenate((base + low, base + high, np.arange(whole, len(times)))))
    if empty.any():  # a bucket with a hole keeps one, so that the line is broken there
        holes = base[empty.any(axis=1)] + np.argmax(empty[empty.any(axis=1)], axis=1)
        keep = np.unique(np.concatenate((keep, holes)))
    return times[keep], values[keep]
