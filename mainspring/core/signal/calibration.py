"""Proving an analogue input: its errors over five points, up and down."""

from collections.abc import Sequence
from typing import Annotated, NamedTuple

import numpy as np

from mainspring.core.errors import OutOfRange, check_range
from mainspring.core.method import In, Source, method
from mainspring.core.quantity import WATER_20C, Acceleration, G, Percent, SignalAmpere

FIVE_POINTS = (0.0, 0.25, 0.5, 0.75, 1.0)
PASS = 0.005  # of span; half a percent is what a loop of this class holds (common practice)
GROSS = 0.05  # of span; beyond it something is wired or set wrong (common practice)
SPAN, ZERO = 0.016, 0.004  # A
_DEFINITIONS = Source(
    "ISA-51.1 / IEC 61298-2", "error, hysteresis and conformity of a transmitter, from memory", "standard"
)


class Calibration(NamedTuple):
    """Errors of an input over its range, as shares of span."""

    largest_error: Percent
    hysteresis: Percent
    zero_error: Percent
    span_error: Percent
    nonconformity: Percent


@method(
    "e = errors (I − I_ideal) / 16 mA at each point, up and down; zero and span by their means",
    _DEFINITIONS,
    words=True,
)
def calibrate(
    applied: Annotated[Sequence[Percent], In("shares of the range at which it was read, rising")],
    up: Annotated[Sequence[SignalAmpere], In("loop currents going up, one a point")],
    down: Annotated[Sequence[SignalAmpere], In("loop currents going down, in the order of the points")],
) -> Calibration:
    """Largest error, hysteresis, zero, span and conformity of a 4–20 mA input.

    Raises
    ------
    OutOfRange : fewer than two points, or unequal numbers

    >>> up = (0.00402, 0.00801, 0.01199, 0.01598, 0.01999)
    >>> round(calibrate((0, 0.25, 0.5, 0.75, 1), up, up).largest_error * 100, 4)
    0.125
    """
    if len(applied) < 2 or len(up) != len(applied) or len(down) != len(applied):
        raise OutOfRange(
            "points", f"{len(applied)}, {len(up)} up, {len(down)} down", "as many readings as points, two or more"
        )
    share = np.asarray(applied, dtype=float)
    rising = (np.asarray(up, dtype=float) - ZERO) / SPAN - share
    falling = (np.asarray(down, dtype=float) - ZERO) / SPAN - share
    every, places = np.concatenate([rising, falling]), np.concatenate([share, share])
    slope, offset = np.polyfit(places, every, 1)
    zero = float(rising[0] + falling[0]) / 2
    return Calibration(
        largest_error=float(np.abs(every).max()),
        hysteresis=float(np.abs(falling - rising).max()),
        zero_error=zero,
        span_error=float(rising[-1] + falling[-1]) / 2 - zero,
        nonconformity=float(np.abs(every - (slope * places + offset)).max()),
    )


@method("z = e_0 * (hi - lo) / (rho * g)", Source("hydrostatics: ρ·g·z", kind="law"))
def height_of_offset(
    offset: Annotated[Percent, In("constant error as a share of span", "e_0")],
    range_low: Annotated[float, In("pressure at the low end", "lo")],
    range_high: Annotated[float, In("pressure at the high end", "hi")],
    density: Annotated[float, In("of the liquid", "rho")] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> float:
    """Column of water that an offset of a pressure input stands for [m].

    >>> round(height_of_offset(0.05, 0, 1e6), 2)
    5.11
    """
    check_range("upper end of the range", range_high, above=range_low)
    return offset * (range_high - range_low) / (density * gravity)
