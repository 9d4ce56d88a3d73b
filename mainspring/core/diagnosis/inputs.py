"""What the pattern of an input's errors over its range says: the usual mistakes, each by its numbers."""

from collections.abc import Sequence

import numpy as np

from mainspring.core.diagnosis.pattern import Pattern
from mainspring.core.errors import OutOfRange
from mainspring.core.method import Figure, given
from mainspring.core.sentence import say
from mainspring.core.signal.calibration import PASS, height_of_offset


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
_BENT = "Read the points again, slowly; then look for a damaged sensor, or a blocked tube where pressure comes by one."
_REVERSED = "Range ends are crossed in the drive, or the sensor is set to fall: turn one of them round."
_SWAPPED = "High and low tubes are swapped: blow at the high side, it must rise."
_LIVE_ZERO = (
    "The signal begins at 2 V or 4 mA and the input at nothing: set the input's low end. 0 Hz would be 12 Hz of 60."
)
_NO_LIVE_ZERO = "The input expects 2 V or 4 mA at zero and the signal begins at nothing: set its low end to 0."
_HALF = "Voltage and current are confused at the input's switch, or two inputs share the loop."
_OFFSET = "Correct for the height of the sensor, or set the zero with it vented."
_RANGE = "Set the range in the drive by the label on the sensor itself."
