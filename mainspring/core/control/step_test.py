"""A step test read: first order with dead time by least squares, with its quality, or why the test is no use.

The output was held, stepped once, and held again; the measured value was written down all the while. Shares of span
and of full output, so that the gain is what a controller wants.
"""

import contextlib
import math
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mainspring.core.control.identify import area_identification, late_points_identification
from mainspring.core.control.tuning import FirstOrder
from mainspring.core.errors import BadEntry

Array = NDArray[np.float64]

# what makes a test no use; common practice, no source, but for the first (dossier: change below five times the noise)
LEAST_OVER_NOISE = 5.0
LEAST_STEP = 0.02  # of full output
LEAST_POINTS = 12
LEAST_BEFORE = 3  # points before the step
SETTLED = 0.95  # share of its change that a test has to show
AT_THE_END = 0.005  # of span: a value that stands at an end of the range
UNEXPLAINED = 0.08  # of the change: what the model leaves, beyond which something else moved too
_T95 = 1.96
_GRID = 28
_ZOOMS = 9


@dataclass(frozen=True)
class StepFit:
    """The model, half widths of 95 % confidence, and how well it follows; `warnings` are only said."""

    process_gain: float  # share of span per share of output
    time_constant: float
    dead_time: float
    gain_within: float
    time_constant_within: float
    dead_time_within: float
    explained: float  # share of the variance
    noise: float  # share of span
    change: float
    output_change: float
    step_at: float
    fitted: tuple[float, ...]
    warnings: tuple[str, ...] = ()


def fit_step(times: Sequence[float], values: Sequence[float], outputs: Sequence[float]) -> StepFit:
    """The process from a step test.

    Parameters
    ----------
    times : of the readings, rising [s]
    values : measured, as shares of the sensor's span, 0 to 1
    outputs : of the controller in manual, as shares of full output

    Raises
    ------
    BadEntry : the test is no use, and why
    """
    t, y, u = (np.asarray(a, dtype=np.float64) for a in (times, values, outputs))
    _check_shape(t, y, u)
    at = _the_step(u)
    output_change = float(np.mean(u[at:]) - np.mean(u[:at]))
    start = float(t[at])
    before, after = y[:at], y[at:]
    base = float(np.mean(before))
    noise = _noise(before)
    change = float(np.mean(after[-max(3, len(after) // 10) :])) - base
    _check_answer(after, change, noise)
    tau, theta = _search(t - start, y, at)
    if theta > 0.9 * float(t[-1] - start):
        raise _no_use("nothing moves after the step", "the right column for output and value, or a longer test")
    gain, _, fitted = _linear(t - start, y, tau, theta, at)
    if tau > 0 and 1 - math.exp(-max(float(t[-1]) - start - theta, 0.0) / tau) < SETTLED:
        raise _no_use(
            f"it ended {float(t[-1]) - start:.4g} s after the step, on its way still",
            f"about {theta + 4 * tau:.2g} s after the step, till it has settled",
        )  # fmt: skip
    left = y - fitted
    unexplained = float(np.sqrt(np.mean(_smooth(left) ** 2))) / abs(gain)
    if unexplained > UNEXPLAINED:
        raise _no_use(
            f"{unexplained:.0%} of the change is not the step's", "a test in which nothing else moves: "
            "demand, another pump, a valve",
        )  # fmt: skip
    variance = float(np.var(y))
    within = _within(t - start, y, tau, theta, at, left)
    warnings = []
    sample = float(np.median(np.diff(t)))
    if theta < 2 * sample:
        warnings.append(f"The dead time is below two readings of {sample:.2g} s: taken as at least one.")
    return StepFit(
        process_gain=gain / output_change,
        time_constant=tau,
        dead_time=max(theta, sample),
        gain_within=within[0] / abs(output_change),
        time_constant_within=within[1],
        dead_time_within=within[2],
        explained=1.0 - float(np.var(left)) / variance if variance else 0.0,
        noise=noise,
        change=change,
        output_change=output_change,
        step_at=start,
        fitted=tuple(float(v) for v in fitted),
        warnings=tuple(warnings),
    )


def second_opinions(times: Sequence[float], values: Sequence[float], fit: StepFit) -> dict[str, FirstOrder]:
    """Time constant and dead time by two late points and by areas, as they are read off a chart by hand.

    Parameters
    ----------
    times, values : as given to `fit_step`
    fit : what it found

    Only the ways that the test allows are there: a noisy tail may cross a level twice, or leave no area.
    """
    t, y = np.asarray(times, dtype=np.float64), np.asarray(values, dtype=np.float64)
    after = t >= fit.step_at
    base, change = float(np.mean(y[~after])), fit.process_gain * fit.output_change
    late, share = t[after] - fit.step_at, (y[after] - base) / change
    found: dict[str, FirstOrder] = {}
    with contextlib.suppress(BadEntry, IndexError):
        found["two points, 35 and 85 %"] = late_points_identification(_reaches(late, share, 0.353),
                                                                      _reaches(late, share, 0.853))  # fmt: skip
    with contextlib.suppress(BadEntry):
        residence = float(np.trapezoid(1.0 - share, late))
        early = np.append(late[late < residence], residence)
        area = float(np.trapezoid(np.interp(early, late, share), early))
        found["areas"] = area_identification(residence, area, 1.0)
    return found


def _reaches(late: Array, share: Array, level: float) -> float:
    """When a response first reaches a level, between two readings. IndexError where it never does."""
    at = int(np.flatnonzero(share >= level)[0])
    if at == 0:
        return float(late[0])
    before, now = float(share[at - 1]), float(share[at])
    return float(late[at - 1] + (level - before) / (now - before) * (late[at] - late[at - 1]))


def _no_use(what: str, wanted: str) -> BadEntry:
    return BadEntry("step test", what, wanted)


def _check_shape(t: Array, y: Array, u: Array) -> None:
    if not (len(t) == len(y) == len(u)) or len(t) < LEAST_POINTS:
        raise _no_use(f"{len(t)} readings", f"{LEAST_POINTS} at least, each with time, value and output")
    if not (np.all(np.isfinite(t)) and np.all(np.isfinite(y)) and np.all(np.isfinite(u))):
        raise _no_use("a reading that is no number", "numbers")
    if np.any(np.diff(t) <= 0):
        first = int(np.argmax(np.diff(t) <= 0)) + 2
        raise _no_use(f"reading {first} is not later than the one before", "rising times")


def _check_answer(after: Array, change: float, noise: float) -> None:
    """The value moved, visibly, and not to an end of the sensor's range."""
    if abs(change) < LEAST_OVER_NOISE * max(noise, 1e-6):
        raise _no_use(
            f"a change of {abs(change):.2%} of span in noise of {noise:.2%}",
            "a change of five times the noise at least: a larger step, or a filter that is counted as dead time",
        )  # fmt: skip
    stuck = (after >= 1 - AT_THE_END) | (after <= AT_THE_END)
    if np.count_nonzero(stuck) > max(2, len(after) // 20):
        raise _no_use("the value stands at an end of the sensor's range", "a smaller step, or from elsewhere")


def _the_step(u: Array) -> int:
    """The first reading after the step: there is one jump, and the output is held before and after it."""
    jumps = np.abs(np.diff(u))
    at = int(np.argmax(jumps)) + 1
    height = float(np.mean(u[at:]) - np.mean(u[:at]))
    if abs(height) < LEAST_STEP:
        raise _no_use(f"an output that moves by {abs(height):.1%}", f"a step of {LEAST_STEP:.0%} at least")
    if at < LEAST_BEFORE or len(u) - at < LEAST_POINTS // 2:
        raise _no_use("a step at the edge of the test", f"{LEAST_BEFORE} readings before it, and till it settles")
    if max(float(np.std(u[:at])), float(np.std(u[at:]))) > 0.1 * abs(height):
        raise _no_use("an output that was not held", "manual control: one step, and nothing else")
    return at


def _noise(before: Array) -> float:
    """Noise of the value before the step, whatever slow drift lies under it: from differences of neighbours."""
    return float(np.std(np.diff(before)) / math.sqrt(2)) if len(before) > 2 else 0.0


def _shape(t: Array, tau: float, theta: float) -> Array:
    late = np.maximum(t - theta, 0.0)
    shape: Array = 1.0 - np.exp(-late / max(tau, 1e-9))
    return shape


def _linear(t: Array, y: Array, tau: float, theta: float, at: int) -> tuple[float, float, Array]:
    """Gain and start by least squares for a time constant and a dead time; and the fitted values."""
    shape = _shape(t, tau, theta)
    shape[:at] = 0.0
    columns = np.column_stack((shape, np.ones_like(shape)))
    (gain, offset), *_ = np.linalg.lstsq(columns, y, rcond=None)
    return float(gain), float(offset), columns @ np.array([gain, offset])


def _search(t: Array, y: Array, at: int) -> tuple[float, float]:
    """Time constant and dead time with the least squares, by a grid that closes in on the best."""
    span = float(t[-1])
    sample = float(np.median(np.diff(t)))
    taus = np.geomspace(max(sample / 4, span * 1e-4), span * 2, _GRID)
    thetas = np.linspace(0.0, span * 0.95, _GRID)
    best = (math.inf, taus[0], 0.0)
    for _ in range(_ZOOMS):
        for tau in taus:
            for theta in thetas:
                _, _, fitted = _linear(t, y, float(tau), float(theta), at)
                squares = float(np.sum((y - fitted) ** 2))
                if squares < best[0]:
                    best = (squares, float(tau), float(theta))
        _, tau, theta = best
        ratio = (taus[-1] / taus[0]) ** (2.0 / _GRID)
        taus = np.geomspace(tau / ratio, tau * ratio, 9)
        width = (thetas[-1] - thetas[0]) * 2.0 / len(thetas)
        thetas = np.linspace(max(theta - width, 0.0), theta + width, 9)
    return best[1], best[2]


def _within(t: Array, y: Array, tau: float, theta: float, at: int, left: Array) -> tuple[float, float, float]:
    """Half widths of 95 % confidence of gain, time constant and dead time, by the model's slopes."""
    gain, offset, _ = _linear(t, y, tau, theta, at)

    def model(k: float, a: float, b: float) -> Array:
        shape = _shape(t, a, b)
        shape[:at] = 0.0
        return offset + k * shape

    small = max(tau, theta, float(np.median(np.diff(t)))) * 1e-3
    slopes = np.column_stack(
        (
            (model(gain * 1.001, tau, theta) - model(gain, tau, theta)) / (gain * 0.001),
            (model(gain, tau + small, theta) - model(gain, tau - small, theta)) / (2 * small),
            (model(gain, tau, theta + small) - model(gain, tau, max(theta - small, 0.0))) / (small + min(small, theta)),
        )
    )
    try:
        spread = np.linalg.inv(slopes.T @ slopes) * float(np.sum(left**2)) / max(len(y) - 4, 1)
    except np.linalg.LinAlgError:
        return math.inf, math.inf, math.inf
    one, two, three = (float(_T95 * math.sqrt(max(v, 0.0))) for v in np.diag(spread))
    return one, two, three


def _smooth(left: Array) -> Array:
    """What is left without the noise: a running mean, so that noise alone never looks like a disturbance."""
    width = max(3, len(left) // 25)
    smoothed: Array = np.convolve(left, np.ones(width) / width, mode="valid")
    return smoothed
