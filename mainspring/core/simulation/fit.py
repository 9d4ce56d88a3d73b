"""Fit the plant to what it really did: a log laid over the prediction, named parameters moved within bounds."""

import math
from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np

from mainspring.core.derived import Derived
from mainspring.core.errors import BadEntry, check_range
from mainspring.core.line import Line
from mainspring.core.simulation import kernel
from mainspring.core.simulation.demand import Profile
from mainspring.core.simulation.knobs import KNOBS, stands_at
from mainspring.core.simulation.plants import STEP, Setup, follow_of, set_up
from mainspring.core.simulation.trial import Array, run_trial

LEAST_ROWS, MOST_ROWS = 20, 20_000
LONGEST = 6 * 3600.0
OVER_NOISE, OF_SWING = 4.0, 0.05  # times the log's noise, and share of its swing; common practice, no source

# what may be moved, by plant, within which factors of where it stands (and from where, if it stands at nothing)
_BY_KIND: dict[float, tuple[str, ...]] = {
    kernel.HEADER: ("demand", "lost_before", "duct_loss", "tank_volume", "lag", "dead_time"),
    kernel.LEVEL: ("demand", "area", "lag"),
    kernel.HEAT: ("demand", "heat_time", "stream", "dead_time", "lag"),
    kernel.FLOW: ("lag", "dead_time"),
    kernel.ROOM: ("demand", "lag"),
}
_FACTORS = {"lost_before": (0.1, 5.0), "duct_loss": (0.2, 3.0), "tank_volume": (0.2, 5.0),
            "area": (0.3, 3.0), "heat_time": (0.1, 10.0), "lag": (0.1, 10.0), "dead_time": (0.1, 10.0)}  # fmt: skip
_FROM = {"lost_before": 1.0, "tank_volume": 0.05, "lag": 0.2, "dead_time": 0.2}
_LABELS = {"demand": "Demand, share of full"}


@dataclass(frozen=True)
class Moved:
    """One parameter: where it stood, where the log puts it, and within what (95 %, None where it cannot be told)."""

    id: str
    label: str
    was: float
    now: float
    within: float | None
    at_bound: bool


@dataclass(frozen=True)
class Fitted:
    """The log, the prediction before and after, and their errors (rms, of what is held)."""

    times: Array
    measured: Array
    before: Array
    after: Array
    error_before: float
    error_after: float
    noise: float
    moved: tuple[Moved, ...]

    @property
    def leaves_much(self) -> bool:
        """Whether more is left than noise: something moved that is not in the model, the demand most likely."""
        left = self.error_after
        return left > OVER_NOISE * self.noise and left > OF_SWING * float(np.ptp(self.measured))


def parameters_of(setup: Setup) -> list[str]:
    """What can be fitted on a line."""
    return [n for n in _BY_KIND.get(setup.kind, ()) if n == "demand" or n in setup.knobs]


def fit_log(
    line: Line,
    derived: Derived,
    moved: Mapping[str, float],
    rows: Sequence[tuple[float, float, float]],
    names: Sequence[str],
) -> Fitted:
    """Fit parameters to a log of time [s], what is held (SI) and output [Hz].

    The drive is led by hand at the logged speed, so that the plant alone is fitted, whatever controlled it.

    Raises
    ------
    BadEntry : a log that is no use, or a parameter that there is not
    NotKnown, NoSolution : the line cannot be tried
    """
    from scipy.optimize import least_squares  # a second to import, wanted by few

    times, measured, speeds = _checked(rows)
    knobs = stands_at(line, derived, moved)
    setup = set_up(line, derived, knobs)
    allowed = parameters_of(setup)
    chosen = list(dict.fromkeys(names))
    for name in chosen:
        if name not in allowed:
            raise BadEntry("parameter", name, ", ".join(allowed) or "none on this line")
    if not chosen:
        raise BadEntry("parameters", "none", ", ".join(allowed))
    standing = {"demand": _demand(setup, measured[0], speeds[0])}
    start = {n: standing["demand"] if n == "demand" else knobs[n] or _FROM[n] for n in chosen}
    low, high = zip(*(_bounds(n, start[n]) for n in chosen), strict=True)

    def predicted(values: Mapping[str, float]) -> Array:
        return _predict(line, derived, knobs, values, times, measured[0], speeds)

    def left(x: Array) -> Array:
        return predicted(dict(zip(chosen, x.tolist(), strict=True))) - measured

    before = predicted(standing)
    first = np.clip([start[n] for n in chosen], low, high)
    found = least_squares(left, first, bounds=(low, high), x_scale=np.maximum(np.abs(first), 1e-6), diff_step=0.02,
                          max_nfev=60)  # fmt: skip
    after = measured + found.fun
    within = _within(found.jac, found.fun, len(chosen))
    return Fitted(
        times=times,
        measured=measured,
        before=before,
        after=after,
        error_before=_rms(before - measured),
        error_after=_rms(found.fun),
        noise=float(np.std(np.diff(measured)) / np.sqrt(2)),
        moved=tuple(
            Moved(n, _LABELS.get(n) or KNOBS[n].label, float(standing.get(n, knobs.get(n, 0.0))), float(x), w, bool(b))
            for n, x, w, b in zip(chosen, found.x, within, found.active_mask != 0, strict=True)
        ),
    )


def _checked(rows: Sequence[tuple[float, float, float]]) -> tuple[Array, Array, Array]:
    if not LEAST_ROWS <= len(rows) <= MOST_ROWS:
        raise BadEntry("log", f"{len(rows)} rows", f"{LEAST_ROWS} to {MOST_ROWS} rows of time, value and output in Hz")
    table = np.array(rows, dtype=np.float64)
    if not np.isfinite(table).all():
        raise BadEntry("log", "a value that is no number", "numbers")
    late = np.diff(table[:, 0]) <= 0
    if late.any():
        raise BadEntry("log", f"row {int(np.argmax(late)) + 2}", "a time later than the row before")
    times = table[:, 0] - table[0, 0]
    check_range("length of the log in s", float(times[-1]), atleast=10, upto=LONGEST)
    if float(np.ptp(table[:, 2])) < 1.0:
        raise BadEntry(
            "log", "an output that stands still", "one that moves by 1 Hz at least: nothing can be told else"
        )
    return times, table[:, 1], table[:, 2]


def _bounds(name: str, start: float) -> tuple[float, float]:
    if name == "demand":
        return 0.01, 3.0
    if name == "stream":
        return start - 15.0, start + 15.0
    least, most = _FACTORS[name]
    return least * start, most * start


def _demand(setup: Setup, value: float, frequency: float) -> float:
    """The demand, as a share of full, that would hold the first value at the first speed."""
    c, speed = setup.config, frequency / setup.base
    p = c.plant
    if setup.kind == kernel.HEAT:
        away = (p.nominal - p.stream) or 1.0
        share = kernel.machine_flow(p, speed, p.lift, setup.machines) / p.full_flow
        return max(float(share * (value - p.stream) / away), 0.02)
    if setup.kind == kernel.LEVEL:
        flow = kernel.machine_flow(p, speed, p.lift + p.direction * (value - p.nominal), setup.machines)
        return max(float(flow) / setup.full, 0.02)
    if setup.kind == kernel.ROOM:
        return max(float(kernel.machine_flow(p, speed, -value, setup.machines)) / setup.full, 0.02)
    if setup.kind == kernel.FLOW:
        return 1.0
    flow = kernel.machine_flow(p, speed, value / p.weight + p.lift, setup.machines)
    return max(float(flow) / setup.full / math.sqrt(max(value / p.nominal, 0.05)), 0.02)


def _predict(
    line: Line,
    derived: Derived,
    knobs: Mapping[str, float],
    values: Mapping[str, float],
    times: Array,
    first: float,
    frequencies: Array,
) -> Array:
    moved = {**knobs, **{n: v for n, v in values.items() if n in knobs}}
    setup = set_up(line, derived, moved)
    c = setup.config
    quick = setup.but(
        drive=c.drive._replace(up=1e-3, down=1e-3, torque_limit=kernel.NEVER, dry_power=0.0, fill_speed=0.0)
    )
    share = values.get("demand", 1.0)
    duration = float(times[-1]) + STEP
    hands = tuple(zip(times.tolist(), (frequencies / setup.base).tolist(), strict=True))
    profile, rows = Profile("log", "Log", ((0.0, share),), duration), int(duration / STEP) + 1
    trial = run_trial(quick, profile, rows=rows, hands=hands, held=first)
    late = max(0, round(moved.get("dead_time", 0.0) / STEP))
    value = np.concatenate((np.full(late, trial.value[0]), trial.value[: len(trial.value) - late]))
    return np.interp(times, trial.times, _through_lag(value, moved.get("lag", 0.0)))


def _through_lag(values: Array, lag: float) -> Array:
    """What a first-order sensor makes of a trace of one row each step."""
    from scipy.signal import lfilter

    if lag <= 0:
        return values
    share = follow_of(lag)
    found, _ = lfilter([share], [1.0, share - 1.0], values, zi=[(1.0 - share) * values[0]])
    return np.asarray(found, dtype=np.float64)


def _rms(left: Array) -> float:
    return float(np.sqrt(np.mean(left**2)))


def _within(jacobian: Array, left: Array, count: int) -> list[float | None]:
    """Half widths of 95 % confidence; None where the log does not tell a parameter."""
    spread = float(np.sum(left**2)) / max(len(left) - count, 1)
    try:
        inverse = np.linalg.inv(jacobian.T @ jacobian)
    except np.linalg.LinAlgError:
        return [None] * count
    return [float(1.96 * np.sqrt(v * spread)) if v > 0 else None for v in np.diag(inverse)]
