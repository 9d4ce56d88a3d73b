"""A machine's curve through its points: falling pieces of cubics that keep the shape of the points, and its end.

Between the points the monotone cubic of Fritsch and Butland (SIAM J. Sci. Stat. Comput. 5, 1984), from memory, as
`scipy.interpolate.PchipInterpolator` has it, against which the tests hold it; it never swings beyond two neighbours. To
no flow a parabola through the first two points, beyond the last point its end slope; both are extrapolation and said.
"""

import itertools
import math
from bisect import bisect_right
from collections.abc import Callable, Sequence
from functools import lru_cache
from typing import NamedTuple

from mainspring.core.errors import NoSolution, OutOfRange

LEAST_GAP = 1e-3  # of the largest flow; points closer together are one point
LATE_PEAK = 0.6  # of the largest flow; a curve that rises longer is none
STEPS = 48  # looked at from run-out down, to find where a curve is met
CLOSE = 1e-12  # of a root, relative


class Cubics(NamedTuple):
    """Points with slopes between which cubics run; the first is at no flow."""

    flows: tuple[float, ...]
    rises: tuple[float, ...]
    slopes: tuple[float, ...]

    def at(self, flow: float) -> float:
        """Rise at a flow at full speed; beyond the last point along its end slope."""
        if flow >= self.flows[-1]:
            return self.rises[-1] + self.slopes[-1] * (flow - self.flows[-1])
        i = max(0, bisect_right(self.flows, flow) - 1)
        h = self.flows[i + 1] - self.flows[i]
        t = (flow - self.flows[i]) / h
        y0, y1, d0, d1 = self.rises[i], self.rises[i + 1], self.slopes[i] * h, self.slopes[i + 1] * h
        return y0 + t * (d0 + t * (3 * (y1 - y0) - 2 * d0 - d1 + t * (2 * (y0 - y1) + d0 + d1)))

    @property
    def run_out(self) -> float:
        """Flow at which nothing is left of the rise."""
        if self.rises[-1] <= 0:
            return self.flows[-1]
        return self.flows[-1] - self.rises[-1] / self.slopes[-1]

    @property
    def peak(self) -> tuple[float, float]:
        """Flow and rise at the highest point; at no flow where the curve only falls."""
        return max(zip(self.flows, self.rises, strict=True), key=lambda p: (p[1], -p[0]))


@lru_cache(512)
def cubics(flows: tuple[float, ...], rises: tuple[float, ...]) -> Cubics:
    """The curve through points at one speed, in any order.

    Raises OutOfRange for fewer than three flows that differ, NoSolution where the points rise for most of the way.
    """
    if len(flows) != len(rises):
        raise OutOfRange("curve points", f"{len(flows)} flows, {len(rises)} values", "a value for every flow")
    if not all(math.isfinite(v) for v in (*flows, *rises)) or min(flows, default=0.0) < 0:
        raise OutOfRange("curve points", "a flow below zero or no number", "flows from zero up")
    points = _apart(sorted(zip(map(float, flows), map(float, rises), strict=True)))
    top, last = max(y for _, y in points), points[-1]
    highest = max(points, key=lambda p: p[1])[0]
    if top <= 0 or last[1] >= top * (1 - LEAST_GAP) or highest > LATE_PEAK * last[0]:
        raise NoSolution("these points do not make a curve that falls with flow; check for swapped or mistyped values")
    if points[0][0] > 0:
        (q1, y1), (q2, y2) = points[0], points[1]
        bend = max(0.0, (y1 - y2) / (q2 * q2 - q1 * q1))
        points = [(0.0, y1 + bend * q1 * q1), *points]
    xs, ys = zip(*points, strict=True)
    slopes = _slopes(xs, ys)
    steepest = -(top - last[1]) / last[0]
    end = min(slopes[-1], steepest)  # beyond the last point it falls at least as it did on the whole
    return Cubics(xs, ys, (*slopes[:-1], end) if last[1] > 0 else slopes)


def _apart(points: list[tuple[float, float]]) -> list[tuple[float, float]]:
    gap = LEAST_GAP * points[-1][0] if points else 0.0
    kept = points[:1]
    for point in points[1:]:
        if point[0] - kept[-1][0] > gap:
            kept.append(point)
    if len(kept) < 3:
        raise OutOfRange("curve points", len(kept), "at least three points of different flow")
    return kept


def _slopes(xs: Sequence[float], ys: Sequence[float]) -> tuple[float, ...]:
    """Slope at each point: none where the pieces on both sides run apart, else their weighted harmonic mean."""
    steps = [b - a for a, b in itertools.pairwise(xs)]
    pieces = [(b - a) / h for (a, b), h in zip(itertools.pairwise(ys), steps, strict=True)]
    inner = []
    for (h1, h2), (m1, m2) in zip(itertools.pairwise(steps), itertools.pairwise(pieces), strict=True):
        if m1 * m2 <= 0:
            inner.append(0.0)
        else:
            w1, w2 = 2 * h2 + h1, h2 + 2 * h1
            inner.append((w1 + w2) / (w1 / m1 + w2 / m2))
    first = _end_slope(steps[0], steps[1], pieces[0], pieces[1])
    return (first, *inner, _end_slope(steps[-1], steps[-2], pieces[-1], pieces[-2]))


def _end_slope(near: float, next_: float, piece: float, next_piece: float) -> float:
    """By three points, kept to the shape of the outer piece."""
    slope = ((2 * near + next_) * piece - near * next_piece) / (near + next_)
    if slope * piece <= 0:
        return 0.0
    if piece * next_piece < 0 and abs(slope) > 3 * abs(piece):
        return 3 * piece
    return slope


def meets(excess: Callable[[float], float], upto: float) -> float | None:
    """The largest flow at which an excess of rise over what is needed turns to nothing; None where there is none."""
    high = upto
    for i in range(STEPS - 1, -1, -1):
        low = upto * i / STEPS
        if excess(low) >= 0:
            return root(excess, high, low)
        high = low
    return None


def duty(curve: Cubics, speed: float, held: float, resistance: float, factor: float = 1.0) -> float | None:
    """Flow at which a curve at a speed meets what is held and a square-law resistance; None where it cannot."""
    scale = factor * speed * speed
    if curve.rises[0] * scale < held:
        return None
    return meets(lambda q: scale * curve.at(q / speed) - held - resistance * q * q, speed * curve.run_out)


def root(function: Callable[[float], float], below: float, above: float) -> float:
    """Where a function is nothing, between a place where it is negative and one where it is not; by false position."""
    f_below, f_above = function(below), function(above)
    side = 0
    for _ in range(200):
        if f_above == 0:
            return above
        middle = (above * f_below - below * f_above) / (f_below - f_above)
        value = function(middle)
        if abs(value) <= CLOSE * max(abs(f_below), abs(f_above)) or abs(above - below) <= CLOSE * abs(middle):
            return middle
        if value < 0:
            below, f_below = middle, value
            if side < 0:
                f_above /= 2
            side = -1
        else:
            above, f_above = middle, value
            if side > 0:
                f_below /= 2
            side = 1
    return middle


def speed_for(curve: Cubics, flow: float, rise: float, factor: float = 1.0) -> float | None:
    """Speed ratio at which a curve carried by the affinity laws gives a rise at a flow; None up to four times full."""
    if rise <= 0 and flow <= 0:
        return 0.0

    def short(speed: float) -> float:
        return factor * speed * speed * curve.at(flow / speed) - rise

    low = max(flow / curve.run_out, 1e-6) if flow > 0 else 1e-6
    high = max(1.0, 2 * low)
    while short(high) < 0:
        high *= 1.5
        if high > 4:
            return None
    return low if short(low) >= 0 else root(short, low, high)
