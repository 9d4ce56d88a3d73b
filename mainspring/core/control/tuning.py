"""PI gains from a first-order process with dead time."""

from typing import NamedTuple

from mainspring.core.errors import check_range
from mainspring.core.method import DERIVED, Source, method
from mainspring.core.quantity import Gain, Hertz, Ratio, Second

_SIMC = Source("Skogestad, J. Process Control 13 (2003) 291-309", "equations 23 and 24, SIMC rules, from memory")


class PiGains(NamedTuple):
    """Proportional gain (percent of output per percent of span) and integral time."""

    gain: Gain
    integral_time: Second


@method(
    id="simc_pi",
    symbol="K_c",
    formula="K_c = τ / (K (τ_c + θ)); T_i = min(τ, 4 (τ_c + θ))",
    words=True,
    source=_SIMC,
)
def simc_pi(process_gain: Ratio, time_constant: Second, dead_time: Second, closed_loop_time: Second) -> PiGains:
    """PI gains by the SIMC rule; for pumps take a closed-loop time of two to three dead times.

    Parameters
    ----------
    process_gain : percent of span per percent of output, > 0 [-]
    time_constant : of the process, > 0 [s]
    dead_time : >= 0 [s]
    closed_loop_time : wanted, >= 0 [s]

    Raises
    ------
    OutOfRange : a gain or time not allowed

    Examples
    --------
    >>> [float(round(g, 4)) for g in simc_pi(2, 10, 2, 2)]
    [1.25, 10.0]
    """
    check_range("closed-loop time plus dead time", closed_loop_time + dead_time, above=0)
    total = closed_loop_time + dead_time
    return PiGains(time_constant / (process_gain * total), min(time_constant, 4 * total))  # eq. 23 and 24


@method(
    id="lambda_pi",
    symbol="K_c",
    formula="K_c = τ / (K (λ + θ)); T_i = τ",
    words=True,
    source=Source("lambda tuning (Dahlin 1968), from memory"),
)
def lambda_pi(process_gain: Ratio, time_constant: Second, dead_time: Second, closed_loop_time: Second) -> PiGains:
    """PI gains by lambda tuning.

    Parameters
    ----------
    process_gain : percent of span per percent of output, > 0 [-]
    time_constant : of the process, > 0 [s]
    dead_time : >= 0 [s]
    closed_loop_time : λ, > 0 [s]

    Examples
    --------
    >>> [float(round(g, 5)) for g in lambda_pi(2, 10, 2, 30)]
    [0.15625, 10.0]
    """
    return PiGains(time_constant / (process_gain * (closed_loop_time + dead_time)), float(time_constant))


@method(
    id="process_gain",
    symbol="K",
    formula="(dPV / PV_span) / (dOut / Out_span)",
    symbols={"dPV": "change", "PV_span": "span", "dOut": "output_change", "Out_span": "output_span"},
    source=DERIVED,
)
def process_gain(change: float, span: float, output_change: Hertz, output_span: Hertz) -> Ratio:
    """Process gain from a bump test, percent of span per percent of output.

    Parameters
    ----------
    change : of the measured value
    span : of the sensor, same unit, > 0
    output_change : not 0 [Hz]
    output_span : full output [Hz]

    Examples
    --------
    >>> round(process_gain(12, 100, 5, 60), 3)
    1.44
    """
    check_range("size of the output change", abs(output_change), above=0)
    return (change / span) / (output_change / output_span)


class FirstOrder(NamedTuple):
    """A first-order process with dead time."""

    time_constant: Second
    dead_time: Second


@method(
    id="two_point_identification",
    symbol="tau",
    formula="τ = 1.5 (t63 - t28); θ = t63 - τ",
    words=True,
    source=Source("Smith, C. L., Digital Computer Process Control (1972)", "two-point method, from memory"),
)
def two_point_identification(time_28: Second, time_63: Second) -> FirstOrder:
    """Time constant and dead time from a step response, times counted from the step.

    Parameters
    ----------
    time_28 : to 28.3 % of the final change [s]
    time_63 : to 63.2 % of the final change, later [s]

    Examples
    --------
    >>> [float(round(t, 3)) for t in two_point_identification(5.3268, 11.9967)]
    [10.005, 1.992]
    """
    check_range("time to 63 %", time_63, above=time_28)
    time_constant = 1.5 * (time_63 - time_28)
    return FirstOrder(time_constant, time_63 - time_constant)


@method(
    id="proportional_band",
    symbol="PB",
    formula="1 / K_c",
    symbols={"K_c": "gain"},
    source=DERIVED,
)
def proportional_band(gain: Gain) -> Ratio:
    """Proportional band of a gain, as a ratio.

    Parameters
    ----------
    gain : percent of output per percent of span, > 0 [-]

    Examples
    --------
    >>> float(proportional_band(2.5))
    0.4
    """
    return 1 / gain


@method(
    id="parallel_integral_gain",
    symbol="K_i",
    formula="K_c / T_i",
    symbols={"K_c": "gain", "T_i": "integral_time"},
    source=DERIVED,
)
def parallel_integral_gain(gain: Gain, integral_time: Second) -> float:
    """Integral gain of the parallel form [1/s].

    Parameters
    ----------
    gain : of the ideal form [-]
    integral_time : > 0 [s]

    Examples
    --------
    >>> float(parallel_integral_gain(2, 8))
    0.25
    """
    return gain / integral_time


def controller_action(process_gain_sign: float) -> str:
    """ "reverse" where more speed raises the measured value (pressure), "direct" where it lowers it (emptying a pit).

    Parameters
    ----------
    process_gain_sign : sign of the change of the measured value per change of speed [-]

    Examples
    --------
    >>> controller_action(+1)
    'reverse'
    """
    check_range("size of the process gain", abs(process_gain_sign), above=0)
    return "reverse" if process_gain_sign > 0 else "direct"
