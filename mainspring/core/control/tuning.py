"""PI gains from a first-order process with dead time."""

from typing import Annotated, NamedTuple

from mainspring.core.errors import check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import Gain, Hertz, Ratio, Second

_SIMC = Source("Skogestad, J. Process Control 13 (2003) 291-309", "equations 23 and 24, SIMC rules, from memory")


class PiGains(NamedTuple):
    """Proportional gain (percent of output per percent of span) and integral time."""

    gain: Gain
    integral_time: Second


@method("K_c = K_c = τ / (K (τ_c + θ)); T_i = min(τ, 4 (τ_c + θ))", _SIMC, words=True)
def simc_pi(
    process_gain: Annotated[Ratio, In("percent of span per percent of output", above=0)],
    time_constant: Annotated[Second, In("of the process", above=0)],
    dead_time: Annotated[Second, In("", atleast=0)],
    closed_loop_time: Annotated[Second, In("wanted", atleast=0)],
) -> PiGains:
    """PI gains by the SIMC rule; for pumps take a closed-loop time of two to three dead times.

    Raises
    ------
    OutOfRange : a gain or time not allowed

    >>> [float(round(g, 4)) for g in simc_pi(2, 10, 2, 2)]
    [1.25, 10.0]
    """
    check_range("closed-loop time plus dead time", closed_loop_time + dead_time, above=0)
    total = closed_loop_time + dead_time
    return PiGains(time_constant / (process_gain * total), min(time_constant, 4 * total))  # eq. 23 and 24


@method("K_c = K_c = τ / (K (λ + θ)); T_i = τ", Source("lambda tuning (Dahlin 1968), from memory"), words=True)
def lambda_pi(
    process_gain: Annotated[Ratio, In("percent of span per percent of output", above=0)],
    time_constant: Annotated[Second, In("of the process", above=0)],
    dead_time: Annotated[Second, In("", atleast=0)],
    closed_loop_time: Annotated[Second, In("λ", above=0)],
) -> PiGains:
    """PI gains by lambda tuning.

    >>> [float(round(g, 5)) for g in lambda_pi(2, 10, 2, 30)]
    [0.15625, 10.0]
    """
    return PiGains(time_constant / (process_gain * (closed_loop_time + dead_time)), float(time_constant))


@method("K = (dPV / PV_span) / (dOut / Out_span)", DERIVED)
def process_gain(
    change: Annotated[float, In("of the measured value", "dPV")],
    span: Annotated[float, In("of the sensor, same unit", "PV_span", above=0)],
    output_change: Annotated[Hertz, In("not 0", "dOut")],
    output_span: Annotated[Hertz, In("full output", "Out_span")],
) -> Ratio:
    """Process gain from a bump test, percent of span per percent of output.

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
    "tau = τ = 1.5 (t63 - t28); θ = t63 - τ",
    Source("Smith, C. L., Digital Computer Process Control (1972)", "two-point method, from memory"),
    words=True,
)
def two_point_identification(
    time_28: Annotated[Second, In("to 28.3 % of the final change")],
    time_63: Annotated[Second, In("to 63.2 % of the final change, later")],
) -> FirstOrder:
    """Time constant and dead time from a step response, times counted from the step.

    >>> [float(round(t, 3)) for t in two_point_identification(5.3268, 11.9967)]
    [10.005, 1.992]
    """
    check_range("time to 63 %", time_63, above=time_28)
    time_constant = 1.5 * (time_63 - time_28)
    return FirstOrder(time_constant, time_63 - time_constant)


@method("PB = 1 / K_c", DERIVED)
def proportional_band(gain: Annotated[Gain, In("percent of output per percent of span", "K_c", above=0)]) -> Ratio:
    """Proportional band of a gain, as a ratio.

    >>> float(proportional_band(2.5))
    0.4
    """
    return 1 / gain


@method("K_i = K_c / T_i", DERIVED)
def parallel_integral_gain(
    gain: Annotated[Gain, In("of the ideal form", "K_c")], integral_time: Annotated[Second, In("", "T_i", above=0)]
) -> float:
    """Integral gain of the parallel form [1/s].

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
