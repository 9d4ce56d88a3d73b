"""The sleep settings as they are found by hand at no demand (JOB.md 3.8), from the model or from the reading."""

from typing import Annotated

from mainspring.core.errors import check_range
from mainspring.core.method import COMMON_PRACTICE, DERIVED, In, method
from mainspring.core.practice.loop import LOW_LIMIT_ABOVE, SLEEP_ABOVE
from mainspring.core.quantity import Hertz, Pascal, Percent, Ratio


@method("f = s * f_r", DERIVED)
def frequency_of_speed(
    speed_ratio: Annotated[Ratio, In("of full speed", "s")],
    rated_frequency: Annotated[Hertz, In("at full speed", "f_r")],
) -> Hertz:
    """Drive frequency for a speed ratio, slip neglected as the drive's own display does.

    >>> round(frequency_of_speed(0.8, 50), 2)
    40.0
    """
    return speed_ratio * rated_frequency


@method("f_low = f_hold + d", COMMON_PRACTICE)
def sleep_low_limit(
    hold_frequency: Annotated[Hertz, In("settled at no demand", "f_hold", above=0)],
    margin: Annotated[Hertz, In("0.2 to 5", "d")] = LOW_LIMIT_ABOVE,
) -> Hertz:
    """Low limit of the controller: 1 Hz above the frequency that holds the setpoint at no demand.

    >>> float(sleep_low_limit(40))
    41.0
    """
    check_range("margin in Hz", margin, atleast=0.2, upto=5)
    return hold_frequency + margin


@method("f_sleep = f_low + d", COMMON_PRACTICE)
def sleep_frequency(
    low_limit: Annotated[Hertz, In("of the controller", "f_low")],
    margin: Annotated[Hertz, In("0.5 to 1", "d")] = SLEEP_ABOVE,
) -> Hertz:
    """Frequency below which the drive may go to sleep: 0.5 to 1 Hz above the low limit.

    >>> float(sleep_frequency(41, 1))
    42.0
    """
    check_range("margin in Hz", margin, atleast=0.1, upto=3)
    return low_limit + margin


@method("p_wake = p_set - w * (hi - lo)", COMMON_PRACTICE)
def wake_pressure(
    setpoint: Annotated[Pascal, In("", "p_set")],
    range_low: Annotated[Pascal, In("of the sensor", "lo")],
    range_high: Annotated[Pascal, In("of the sensor", "hi")],
    share: Annotated[Percent, In("of the span, 8 % is usual", "w")] = 0.08,
) -> Pascal:
    """Pressure at which a sleeping drive wakes: a share of the sensor's range below the setpoint.

    >>> float(wake_pressure(50, 0, 100))
    42.0
    """
    check_range("wake drop", share, above=0, below=1)
    return setpoint - share * (range_high - range_low)
