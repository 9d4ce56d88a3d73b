"""The sleep settings as they are found by hand at no demand (JOB.md 3.8), from the model or from the reading."""

from mainspring.core.errors import check_range
from mainspring.core.method import COMMON_PRACTICE, DERIVED, method
from mainspring.core.practice.loop import LOW_LIMIT_ABOVE, SLEEP_ABOVE
from mainspring.core.quantity import Hertz, Pascal, Percent, Ratio


@method(
    id="frequency_of_speed",
    symbol="f",
    formula="s * f_r",
    symbols={"s": "speed_ratio", "f_r": "rated_frequency"},
    source=DERIVED,
)
def frequency_of_speed(speed_ratio: Ratio, rated_frequency: Hertz) -> Hertz:
    """Drive frequency for a speed ratio, slip neglected as the drive's own display does.

    Parameters
    ----------
    speed_ratio : of full speed [-]
    rated_frequency : at full speed [Hz]

    Examples
    --------
    >>> round(frequency_of_speed(0.8, 50), 2)
    40.0
    """
    return speed_ratio * rated_frequency


@method(
    id="sleep_low_limit",
    symbol="f_low",
    formula="f_hold + d",
    symbols={"f_hold": "hold_frequency", "d": "margin"},
    source=COMMON_PRACTICE,
)
def sleep_low_limit(hold_frequency: Hertz, margin: Hertz = LOW_LIMIT_ABOVE) -> Hertz:
    """Low limit of the controller: 1 Hz above the frequency that holds the setpoint at no demand.

    Parameters
    ----------
    hold_frequency : settled at no demand, > 0 [Hz]
    margin : 0.2 to 5 [Hz]

    Examples
    --------
    >>> float(sleep_low_limit(40))
    41.0
    """
    check_range("margin in Hz", margin, atleast=0.2, upto=5)
    return hold_frequency + margin


@method(
    id="sleep_frequency",
    symbol="f_sleep",
    formula="f_low + d",
    symbols={"f_low": "low_limit", "d": "margin"},
    source=COMMON_PRACTICE,
)
def sleep_frequency(low_limit: Hertz, margin: Hertz = SLEEP_ABOVE) -> Hertz:
    """Frequency below which the drive may go to sleep: 0.5 to 1 Hz above the low limit.

    Parameters
    ----------
    low_limit : of the controller [Hz]
    margin : 0.5 to 1 [Hz]

    Examples
    --------
    >>> float(sleep_frequency(41, 1))
    42.0
    """
    check_range("margin in Hz", margin, atleast=0.1, upto=3)
    return low_limit + margin


@method(
    id="wake_pressure",
    symbol="p_wake",
    formula="p_set - w * (hi - lo)",
    symbols={"p_set": "setpoint", "w": "share", "hi": "range_high", "lo": "range_low"},
    source=COMMON_PRACTICE,
)
def wake_pressure(setpoint: Pascal, range_low: Pascal, range_high: Pascal, share: Percent = 0.08) -> Pascal:
    """Pressure at which a sleeping drive wakes: a share of the sensor's range below the setpoint.

    Parameters
    ----------
    setpoint : [Pa]
    range_low : of the sensor [Pa]
    range_high : of the sensor [Pa]
    share : of the span, 8 % is usual [-]

    Examples
    --------
    >>> float(wake_pressure(50, 0, 100))
    42.0
    """
    check_range("wake drop", share, above=0, below=1)
    return setpoint - share * (range_high - range_low)
