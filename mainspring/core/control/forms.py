"""The forms in which drives want their gains: ideal, series, parallel; gain or band; time or repeats a minute.

Ideal: u = K_c (e + 1/T_i ∫e + T_d de/dt). For PI alone ideal and series are the same.
"""

from typing import Annotated

from mainspring.core.control.rules import PidGains
from mainspring.core.errors import check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import Gain, Second

_BOOK = Source("Åström and Hägglund, PID Controllers (1995)", "forms of the controller, from memory", "handbook")


@method("K_s = K_s = K_c/2 (1 + √(1 - 4 T_d/T_i)); T_is = T_i/2 (1 + √…); T_ds = T_i/2 (1 - √…)", _BOOK, words=True)
def series_of_ideal(
    gain: Annotated[Gain, In("of the ideal form", above=0)],
    integral_time: Annotated[Second, In("", above=0)],
    derivative_time: Annotated[Second, In("", atleast=0)],
) -> PidGains:
    """Gains of the series form from those of the ideal one; there are none where T_d is above a quarter of T_i.

    Raises
    ------
    OutOfRange : a derivative time above a quarter of the integral time

    >>> [float(round(g, 5)) for g in series_of_ideal(2, 8, 1)]
    [1.70711, 6.82843, 1.17157]
    """
    check_range("derivative time", derivative_time, atleast=0, upto=integral_time / 4)
    root = (1.0 - 4.0 * derivative_time / integral_time) ** 0.5
    return PidGains(0.5 * gain * (1 + root), 0.5 * integral_time * (1 + root), 0.5 * integral_time * (1 - root))


@method("K_c = K_c = K_s (1 + T_ds/T_is); T_i = T_is + T_ds; T_d = T_is T_ds/(T_is + T_ds)", _BOOK, words=True)
def ideal_of_series(
    gain: Annotated[Gain, In("of the series form", above=0)],
    integral_time: Annotated[Second, In("", above=0)],
    derivative_time: Annotated[Second, In("", atleast=0)],
) -> PidGains:
    """Gains of the ideal form from those of the series one.

    >>> [float(round(g, 5)) for g in ideal_of_series(1.7071068, 6.8284271, 1.1715729)]
    [2.0, 8.0, 1.0]
    """
    total = integral_time + derivative_time
    return PidGains(gain * (1 + derivative_time / integral_time), total, integral_time * derivative_time / total)


@method("K_d = K_c * T_d", DERIVED)
def parallel_derivative_gain(
    gain: Annotated[Gain, In("of the ideal form", "K_c")], derivative_time: Annotated[Second, In("", "T_d", atleast=0)]
) -> Second:
    """Derivative gain of the parallel form.

    >>> float(parallel_derivative_gain(2, 1))
    2.0
    """
    return gain * derivative_time


@method("R = 60 / T_i", DERIVED)
def repeats_per_minute(integral_time: Annotated[Second, In("", "T_i", above=0)]) -> float:
    """How often a minute the integral repeats the proportional answer, as some drives ask it [1/min].

    >>> float(repeats_per_minute(8))
    7.5
    """
    return 60.0 / integral_time
