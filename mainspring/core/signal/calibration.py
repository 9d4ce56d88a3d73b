"""Proving an analogue input: five points up and down, and what the pattern of their errors says."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import NamedTuple

import numpy as np

from mainspring.core.errors import OutOfRange, check_range
from mainspring.core.method import Figure, Source, given, method
from mainspring.core.quantity import WATER_20C, G, Percent, SignalAmpere
from mainspring.core.sentence import Sentence, say

FIVE_POINTS = (0.0, 0.25, 0.5, 0.75, 1.0)
PASS = 0.005  # of span; half a percent is what a loop of this class holds (common practice)
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
    id="calibrate",
    symbol="e",
    formula="errors (I − I_ideal) / 16 mA at each point, up and down; zero and span by their means",
    words=True,
    source=_DEFINITIONS,
)
def calibrate(applied: Sequence[Percent], up: Sequence[SignalAmpere], down: Sequence[SignalAmpere]) -> Calibration:
    """Largest error, hysteresis, zero, span and conformity of a 4–20 mA input.

    Parameters
    ----------
    applied : shares of the range at which it was read, rising [-]
    up : loop currents going up, one a point [A]
    down : loop currents going down, in the order of the points [A]

    Raises
    ------
    OutOfRange : fewer than two points, or unequal numbers

    Examples
    --------
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


@method(
    id="height_of_offset",
    symbol="z",
    formula="e_0 * (hi - lo) / (rho * g)",
    symbols={"e_0": "offset", "lo": "range_low", "hi": "range_high", "rho": "density", "g": "gravity"},
    source=Source("hydrostatics: ρ·g·z", kind="law"),
)
def height_of_offset(
    offset: Percent, range_low: float, range_high: float, density: float = WATER_20C, gravity: float = G
) -> float:
    """Column of water that an offset of a pressure input stands for [m].

    Parameters
    ----------
    offset : constant error as a share of span [-]
    range_low : pressure at the low end [Pa]
    range_high : pressure at the high end [Pa]
    density : of the liquid [kg/m³]
    gravity : standard gravity [m/s²]

    Examples
    --------
    >>> round(height_of_offset(0.05, 0, 1e6), 2)
    5.11
    """
    check_range("upper end of the range", range_high, above=range_low)
    return offset * (range_high - range_low) / (density * gravity)


@dataclass(frozen=True)
class Pattern:
    """What the readings of an input look like, with the numbers that say so, and what to do."""

    id: str
    title: str
    because: Sentence
    do: str


def pattern_of(applied: Sequence[float], read: Sequence[float], span_pressure: float | None = None) -> Pattern:
    """The pattern in displayed shares of span against applied ones: right, or the usual mistake that it fits.

    `read` are shares of span as displayed, negative where the loop is dead; `span_pressure` [Pa] turns an offset into
    a height. Raises OutOfRange for fewer than three points or unequal numbers.
    """
    if len(applied) < 3 or len(applied) != len(read):
        raise OutOfRange("points", f"{len(applied)} applied, {len(read)} read", "three or more, a reading for each")
    x, y = np.asarray(applied, dtype=float), np.asarray(read, dtype=float)
    slope, offset = (float(c) for c in np.polyfit(x, y, 1))
    worst = float(np.abs(y - x).max())
    bent = float(np.abs(y - (slope * x + offset)).max())
    numbers = {
        "worst": _share("largest_error", worst),
        "slope": given("slope", slope, "ratio", "display over applied"),
        "offset": _share("offset", offset),
        "top": _share("top", float(y.max())),
    }
    if float(y.max()) < -0.02:
        return Pattern(
            "broken_wire", "Broken wire", say("It never leaves {top}: below 3.6 mA all along.", **numbers), _BROKEN
        )
    if worst <= 2 * PASS:
        return Pattern("right", "Reads right", say("At most {worst} off.", **numbers), "Nothing to do.")
    if abs(slope) < 0.05:
        return Pattern("dead", "Does not follow", say("It stands at {offset} whatever is applied.", **numbers), _DEAD)
    if bent > 0.02:
        return Pattern(
            "bent", "Errors follow no straight line", say("At most {worst} off, not in line.", **numbers), _BENT
        )
    if abs(slope + 1) < 0.08 and abs(offset - 1) < 0.08:
        return Pattern(
            "reversed", "Reversed", say("It falls from full to nothing: slope {slope}.", **numbers), _REVERSED
        )
    if slope < -0.5:
        return Pattern(
            "swapped", "Tubes or signs swapped", say("It falls as it should rise: slope {slope}.", **numbers), _SWAPPED
        )
    if abs(slope - 0.8) < 0.03 and abs(offset - 0.2) < 0.03:
        return Pattern(
            "live_zero", "Live zero not scaled", say("Zero reads {offset}, slope {slope}.", **numbers), _LIVE_ZERO
        )
    if abs(slope - 1.25) < 0.04 and abs(offset + 0.25) < 0.04:
        return Pattern(
            "no_live_zero", "Scaled for a live zero that is not there", say("Slope {slope}.", **numbers), _NO_LIVE_ZERO
        )
    if abs(slope - 0.5) < 0.03 and abs(offset) < 0.02:
        return Pattern("half", "Reads half", say("Slope {slope} from zero.", **numbers), _HALF)
    if abs(slope - 1) < 0.02:
        words = "Every point is {offset} off"
        if span_pressure is not None:
            numbers["z"] = given("z", float(height_of_offset(offset, 0.0, span_pressure)), "head", "column of water")
            words += ": as much as {z} of water"
        return Pattern("offset", "Zero is off", say(words + ".", **numbers), _OFFSET)
    if abs(offset) < 0.02:
        return Pattern("span", "Range is another", say("Right at zero, {slope} × beyond.", **numbers), _RANGE)
    return Pattern("zero_and_span", "Zero and range are off", say("Zero {offset}, slope {slope}.", **numbers), _RANGE)


def _share(name: str, value: float) -> Figure:
    return given(name, value, "percent", "from the readings")


_BROKEN = "Check polarity, supply and wire of the loop; nothing live sends less than 3.6 mA."
_DEAD = "Open the isolating valve; check that the input is the one wired, and its switch."
_BENT = "Read the points again, slowly; then look for a damaged sensor or a blocked tube."
_REVERSED = "Range ends are crossed in the drive, or the sensor is set to fall: turn one of them round."
_SWAPPED = "High and low tubes are swapped: blow at the high side, it must rise."
_LIVE_ZERO = (
    "The signal begins at 2 V or 4 mA and the input at nothing: set the input's low end. 0 Hz would be 12 Hz of 60."
)
_NO_LIVE_ZERO = "The input expects 2 V or 4 mA at zero and the signal begins at nothing: set its low end to 0."
_HALF = "Voltage and current are confused at the input's switch, or two inputs share the loop."
_OFFSET = "Correct for the height of the sensor, or set the zero with it vented."
_RANGE = "Set the range in the drive by the label on the sensor itself."
