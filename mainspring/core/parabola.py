"""The one fit that pump and fan curves share: a parabola that falls over the points."""

from collections.abc import Sequence

import numpy as np

from mainspring.core.errors import NoSolution, OutOfRange


def falling_parabola(
    flows: Sequence[float], values: Sequence[float], *, largest_hump: float = 0.02
) -> tuple[float, float, float]:
    """Coefficients c0, c1, c2 of y = c0 + c1·x + c2·x² by least squares.

    `largest_hump` is how much of c0 the curve may gain over the first fifth of the flow before it falls. Raises
    OutOfRange for fewer than three different flows, NoSolution when the parabola does not fall over the points.
    """
    if len(flows) != len(values):
        raise OutOfRange("curve points", f"{len(flows)} flows, {len(values)} values", "a value for every flow")
    if len(set(map(float, flows))) < 3:
        raise OutOfRange("curve points", len(set(flows)), "at least three points of different flow")
    q = np.asarray(flows, dtype=float)
    y = np.asarray(values, dtype=float)
    scale = float(q.max()) or 1.0
    c2, c1, c0 = np.polyfit(q / scale, y, 2)
    c1, c2 = c1 / scale, c2 / scale**2
    if c0 <= 0 or c2 >= 0 or c1 + 2 * c2 * scale >= 0 or c1 * 0.2 * scale > largest_hump * c0:
        raise NoSolution("these points do not make a curve that falls with flow; check for swapped or mistyped values")
    return float(c0), float(c1), float(c2)
