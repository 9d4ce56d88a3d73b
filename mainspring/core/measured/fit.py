"""A curve through what was measured, with how far it can be trusted: days, not readings, count as independent."""

import math
from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from mainspring.core.errors import NoSolution
from mainspring.core.measured.trend import Numbers

LEAST_DAYS = 7  # of a period: fewer cannot show a week
LEAST_HOURS = 24
MOST_ALIKE = 0.9  # correlation of days that follow one another, beyond which no number of days would do
KNOTS = 7  # places at which a bent line may bend
SLOTS = 48  # of a schedule: each hour of a working day and of a day at the weekend

Design = Callable[[Numbers], Numbers]  # x (n,) -> matrix (n, p)


@dataclass(frozen=True)
class Fit:
    """A curve of power over what it goes with.

    Its uncertainty is from sums over days, so that what lasts through a day counts once, and for days that follow one
    another: A. C. Cameron and D. L. Miller, A practitioner's guide to cluster-robust inference (2015); D. W. K. Andrews
    and J. C. Monahan, Econometrica 60 (1992), recolouring; M. G. Kendall, Biometrika 41 (1954), the bias of a short
    row's correlation; all from memory.
    """

    kind: str
    design: Design
    coefficients: Numbers
    parameters: int  # that cost a degree of freedom of the days: of a schedule working days and weekends
    influence: Numbers  # of each day on each coefficient
    low: float  # range of x that was measured, but for the outermost hundredths
    high: float
    hours: int
    days: int  # of the calendar that it has readings of
    mean: float
    variation: float  # CV(RMSE)
    bias: float  # of every second day by the others
    lag: float  # correlation of a residual with the next
    slope: float  # of the straight line through it

    @property
    def worth_days(self) -> int:
        """Its readings as whole days."""
        return max(1, round(self.hours / 24))

    def alike(self, weights: Numbers) -> float:
        """Correlation of what a day adds to a sum of the coefficients with what the next one does."""
        daily = self.influence @ weights
        squares = float(daily @ daily)
        if squares == 0:
            return 0.0
        lag = float(daily[1:] @ daily[:-1]) / squares
        return min(max(lag + (1 + 3 * lag) / len(daily), 0.0), MOST_ALIKE)

    def uncertainty_of(self, weights: Numbers) -> float:
        """Standard uncertainty of a sum of the coefficients."""
        alike, daily = self.alike(weights), self.influence @ weights
        return float(np.sqrt(daily @ daily * (1 + alike) / (1 - alike)))

    def freedom(self, weights: Numbers) -> float:
        """Degrees of freedom: the independent days that there are, less coefficients."""
        alike = self.alike(weights)
        return max(1.0, self.days * (1 - alike) / (1 + alike) - self.parameters)

    def at(self, x: Numbers) -> Numbers:
        """The curve."""
        return np.asarray(self.design(x) @ self.coefficients)


def polynomial(degree: int, low: float, high: float) -> Design:
    """Powers of x up to a degree, x brought to -1 … 1 so that they stay apart."""
    middle, half = (low + high) / 2, max((high - low) / 2, 1e-12)

    def design(x: Numbers) -> Numbers:
        return np.asarray(np.vander((x - middle) / half, degree + 1, increasing=True))

    return design


def bent(knot: float) -> Design:
    """Two straight lines that meet."""

    def design(x: Numbers) -> Numbers:
        return np.column_stack((np.ones(len(x)), x, np.maximum(x - knot, 0.0)))

    return design


def slots(x: Numbers) -> Numbers:
    """One mean for each slot of the schedule."""
    return np.asarray(x[:, None] == np.arange(SLOTS)[None, :], np.float64)


def slot_of(times: Numbers) -> Numbers:
    """The slot of the schedule in which each time lies: the hour, 24 later on Saturday and Sunday."""
    day = np.floor(times / 86400.0).astype(np.int64)
    weekend = (day + 3) % 7 >= 5  # 1 January 1970 was a Thursday
    return np.asarray(np.floor(times % 86400.0 / 3600.0) + 24.0 * weekend)


def fit_schedule(times: Numbers, power: Numbers, day: NDArray[np.int64]) -> Fit:
    """Mean power of each slot of the schedule."""
    return _fitted("schedule", slots, slot_of(times), power, day)


def fit_mean(power: Numbers, day: NDArray[np.int64]) -> Fit:
    """Mean power, whatever it goes with."""
    return _fitted("mean", lambda x: np.ones((len(x), 1)), np.zeros(len(power)), power, day)


def fit_curve(x: Numbers, power: Numbers, day: NDArray[np.int64]) -> Fit:
    """The curve among straight, square, cubic and bent that says most for its coefficients (Schwarz's criterion).

    Raises NoSolution for fewer than a day of hours, or an x that does not move.
    """
    if len(x) < LEAST_HOURS:
        raise NoSolution(f"{len(x)} whole hours of readings: at least {LEAST_HOURS} are needed for a curve")
    low, high = float(x.min()), float(x.max())
    if high - low <= 1e-9 * max(abs(high), 1e-12):
        return fit_mean(power, day)
    worth = float(len(np.unique(day))) * 4  # four independent readings a day, so that a curve is not bent for nothing
    candidates: list[tuple[float, str, Design]] = []
    for degree, kind in ((1, "straight"), (2, "square"), (3, "cubic")):
        design = polynomial(degree, low, high)
        candidates.append((_criterion(design(x), power, degree + 1, worth), kind, design))
    for knot in np.quantile(x, np.linspace(0.15, 0.85, KNOTS)):
        if low < knot < high:
            design = bent(float(knot))
            candidates.append((_criterion(design(x), power, 4, worth), "bent", design))
    _, kind, design = min(candidates, key=lambda c: c[0])
    return _fitted(kind, design, x, power, day)


def _criterion(matrix: Numbers, y: Numbers, parameters: int, worth: float) -> float:
    beta = np.linalg.lstsq(matrix, y, rcond=None)[0]
    squares = float(np.mean((y - matrix @ beta) ** 2))
    return worth * math.log(max(squares, 1e-300)) + parameters * math.log(worth)


def _fitted(kind: str, design: Design, x: Numbers, y: Numbers, day: NDArray[np.int64]) -> Fit:
    matrix = design(x)
    used = np.flatnonzero(np.any(matrix != 0, axis=0))
    beta = np.zeros(matrix.shape[1])
    beta[used] = np.linalg.lstsq(matrix[:, used], y, rcond=None)[0]
    residual = y - matrix @ beta
    n, p = len(y), len(used)
    if n <= p:
        raise NoSolution(f"{n} hours of readings are too few for a curve of {p} coefficients")
    mean = float(np.mean(y))
    influence = np.zeros((len(np.unique(day)), matrix.shape[1]))
    parameters = 2 if kind == "schedule" else p
    influence[:, used] = _influence(matrix[:, used], residual, day, parameters)
    straight = np.polyfit(x, y, 1)[0] if np.ptp(x) > 0 else 0.0
    low, high = np.quantile(x, (0.01, 0.99))
    squares = float(residual @ residual)
    return Fit(
        kind=kind,
        design=design,
        coefficients=beta,
        parameters=parameters,
        influence=influence,
        low=float(low),
        high=float(high),
        hours=n,
        days=len(np.unique(day)),
        mean=mean,
        variation=float(np.sqrt(squares / (n - p)) / mean) if mean > 0 else float("inf"),
        bias=_bias(matrix[:, used], y, day, mean),
        lag=float(residual[1:] @ residual[:-1] / squares) if squares > 0 else 0.0,
        slope=float(straight),
    )


def _influence(matrix: Numbers, residual: Numbers, day: NDArray[np.int64], parameters: int) -> Numbers:
    """What each day has moved each coefficient by: its scores through the inverse, one row a day."""
    inverse = np.linalg.pinv(matrix.T @ matrix)
    _, which = np.unique(day, return_inverse=True)
    scores = np.zeros((which.max() + 1, matrix.shape[1]))
    np.add.at(scores, which, matrix * residual[:, None])
    count, (n, p) = len(scores), matrix.shape
    few = count / max(1, count - parameters) * (n - 1) / (n - p)  # what few days make too small
    return np.asarray(scores @ inverse * np.sqrt(few))


def _bias(matrix: Numbers, y: Numbers, day: NDArray[np.int64], mean: float) -> float:
    """Mean error over every second day by a curve through the other days, over the mean."""
    test = day % 2 == 0
    if not 2 * matrix.shape[1] < (~test).sum() or not test.any() or mean <= 0:
        return 0.0
    beta = np.linalg.lstsq(matrix[~test], y[~test], rcond=None)[0]
    return float(np.mean(y[test] - matrix[test] @ beta) / mean)
