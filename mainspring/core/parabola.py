"""The one fit that pump and fan curves share: a parabola that falls over the points."""

from collections.abc import Sequence

import numpy as np

from mainspring.core.errors import NoSolution, OutOfRange

LEAST_GAP = 1e-3  # of the largest flow; points closer together are one point, and no parabola can be told from them


def falling_parabola(
    flows: Sequence[float], values: Sequence[float], *, largest_hump: float = 0.02
) -> tuple[float, float, float]:
    """Coefficients c0, c1, c2 of y = c0 + c1·x + c2·x² by least squares.

    `largest_hump` is how much of c0 the curve may gain over the first fifth of the flow before it falls. Raises
    OutOfRange for fewer than three flows that differ, NoSolution when the parabola does not fall over the points.
    """
    if len(flows) != len(values):
        raise OutOfRange("curve points", f"{len(flows)} flows, {len(values)} values", "a value for every flow")
    q = np.asarray(flows, dtype=float)
    y = np.asarray(values, dtype=float)
    if not (np.isfinite(q).all() and np.isfinite(y).all()):
        raise OutOfRange("curve points", "no number", "a number for every flow and value")
    scale = float(np.abs(q).max(initial=0.0)) or 1.0
    apart = int(np.sum(np.diff(np.sort(q / scale)) > LEAST_GAP)) + 1
    if apart < 3:
        raise OutOfRange("curve points", min(apart, len(q)), "at least three points of different flow")
    c2, c1, c0 = np.polyfit(q / scale, y, 2)
    c1, c2 = c1 / scale, c2 / scale**2
    if c0 <= 0 or c2 >= 0 or c1 + 2 * c2 * scale >= 0 or c1 * 0.2 * scale > largest_hump * c0:
        raise NoSolution("these points do not make a curve that falls with flow; check for swapped or mistyped values")
    return float(c0), float(c1), float(c2)
