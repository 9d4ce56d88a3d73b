"""Classical and later tuning rules beside SIMC and lambda: open loop, ultimate, AMIGO, and a level that integrates.

All give the ideal form; `forms` turns them into what a drive calls its own. The model is a gain [% of span per % of
output], a time constant and a dead time.
"""

from typing import Annotated, NamedTuple

from mainspring.core.control.tuning import PiGains
from mainspring.core.errors import check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import CubicMetrePerSecond, Gain, Metre, PerSecond, Ratio, Second, SquareMetre

_ZN = Source(
    "Ziegler and Nichols, Trans. ASME 64 (1942) 759-768", "open-loop and ultimate rules, from memory", "handbook"
)
_AMIGO = Source("Åström and Hägglund, Advanced PID Control (2006)", "AMIGO rules, from memory", "handbook")
_SIMC = Source("Skogestad, J. Process Control 13 (2003) 291-309", "integrating process, from memory", "handbook")


class PidGains(NamedTuple):
    """Proportional gain (percent of output per percent of span), integral and derivative time; ideal form."""

    gain: Gain
    integral_time: Second
    derivative_time: Second


def _check(process_gain: float, time_constant: float, dead_time: float) -> None:
    check_range("process gain", process_gain, above=0)
    check_range("time constant", time_constant, above=0)
    check_range("dead time", dead_time, above=0)
    # beyond this the rules give numbers of no use, and nothing that a drive could hold
    check_range("dead time over time constant", dead_time / time_constant, atleast=1e-4, upto=1e4)


@method("K_c = K_c = 0.9 τ / (K θ); T_i = θ / 0.3", _ZN, words=True)
def open_loop_pi(
    process_gain: Annotated[Ratio, In("percent of span per percent of output", above=0)],
    time_constant: Annotated[Second, In("of the process", above=0)],
    dead_time: Annotated[Second, In("", above=0)],
) -> PiGains:
    """PI gains by the classical open-loop rule: a quarter of each swing is left, too tight for most pumping.

    >>> [float(round(g, 4)) for g in open_loop_pi(2, 10, 2)]
    [2.25, 6.6667]
    """
    _check(process_gain, time_constant, dead_time)
    return PiGains(0.9 * time_constant / (process_gain * dead_time), dead_time / 0.3)


@method("K_c = K_c = 1.2 τ / (K θ); T_i = 2 θ; T_d = θ / 2", _ZN, words=True)
def open_loop_pid(
    process_gain: Annotated[Ratio, In("percent of span per percent of output", above=0)],
    time_constant: Annotated[Second, In("of the process", above=0)],
    dead_time: Annotated[Second, In("", above=0)],
) -> PidGains:
    """PID gains by the classical open-loop rule.

    >>> [float(round(g, 4)) for g in open_loop_pid(2, 10, 2)]
    [3.0, 4.0, 1.0]
    """
    _check(process_gain, time_constant, dead_time)
    return PidGains(1.2 * time_constant / (process_gain * dead_time), 2.0 * dead_time, 0.5 * dead_time)


@method("K_c = K_c = 0.15/K + (0.35 - θτ/(θ+τ)²) τ/(Kθ); T_i = 0.35θ + 13θτ²/(τ²+12θτ+7θ²)", _AMIGO, words=True)
def amigo_pi(
    process_gain: Annotated[Ratio, In("percent of span per percent of output", above=0)],
    time_constant: Annotated[Second, In("of the process", above=0)],
    dead_time: Annotated[Second, In("", above=0)],
) -> PiGains:
    """PI gains by the AMIGO rule, which keeps the loop's sensitivity near 1.4.

    >>> [float(round(g, 5)) for g in amigo_pi(2, 10, 2)]
    [0.60278, 7.76522]
    """
    _check(process_gain, time_constant, dead_time)
    k, t, d = process_gain, time_constant, dead_time
    gain = 0.15 / k + (0.35 - d * t / (d + t) ** 2) * t / (k * d)
    return PiGains(gain, 0.35 * d + 13 * d * t**2 / (t**2 + 12 * d * t + 7 * d**2))


@method("K_c = K_c = (0.2 + 0.45 τ/θ)/K; T_i = (0.4θ + 0.8τ) θ/(θ + 0.1τ); T_d = 0.5θτ/(0.3θ + τ)", _AMIGO, words=True)
def amigo_pid(
    process_gain: Annotated[Ratio, In("percent of span per percent of output", above=0)],
    time_constant: Annotated[Second, In("of the process", above=0)],
    dead_time: Annotated[Second, In("", above=0)],
) -> PidGains:
    """PID gains by the AMIGO rule.

    >>> [float(round(g, 5)) for g in amigo_pid(2, 10, 2)]
    [1.225, 5.86667, 0.9434]
    """
    _check(process_gain, time_constant, dead_time)
    k, t, d = process_gain, time_constant, dead_time
    return PidGains((0.2 + 0.45 * t / d) / k, (0.4 * d + 0.8 * t) * d / (d + 0.1 * t), 0.5 * d * t / (0.3 * d + t))


@method("K_c = K_c = 0.45 K_u; T_i = P_u / 1.2", _ZN, words=True)
def ultimate_pi(
    ultimate_gain: Annotated[Gain, In("", above=0)], ultimate_period: Annotated[Second, In("of the swing", above=0)]
) -> PiGains:
    """PI gains from the gain and period at which the loop swings and neither grows nor dies.

    >>> [float(round(g, 4)) for g in ultimate_pi(4.25121, 7.44152)]
    [1.913, 6.2013]
    """
    return PiGains(0.45 * ultimate_gain, ultimate_period / 1.2)


@method("K_c = K_c = 0.6 K_u; T_i = P_u / 2; T_d = P_u / 8", _ZN, words=True)
def ultimate_pid(
    ultimate_gain: Annotated[Gain, In("", above=0)], ultimate_period: Annotated[Second, In("of the swing", above=0)]
) -> PidGains:
    """PID gains from the ultimate gain and period.

    >>> [float(round(g, 4)) for g in ultimate_pid(4.25121, 7.44152)]
    [2.5507, 3.7208, 0.9302]
    """
    return PidGains(0.6 * ultimate_gain, ultimate_period / 2, ultimate_period / 8)


@method("k = Q / (A * L)", DERIVED)
def level_slope_gain(
    full_flow: Annotated[CubicMetrePerSecond, In("of the pump at full output", "Q", above=0)],
    pit_area: Annotated[SquareMetre, In("", "A", above=0)],
    span: Annotated[Metre, In("of the level sensor", "L", above=0)],
) -> PerSecond:
    """How fast a level runs away, in percent of span per second for each percent of output: a mass balance.

    >>> float(round(level_slope_gain(0.020, 4, 5), 6))
    0.001
    """
    return full_flow / (pit_area * span)


@method("K_c = K_c = 1 / (k (τ_c + θ)); T_i = 4 (τ_c + θ)", _SIMC, words=True)
def simc_integrating(
    slope_gain: Annotated[PerSecond, In("percent of span per second per percent of output", above=0)],
    dead_time: Annotated[Second, In("", atleast=0)],
    closed_loop_time: Annotated[Second, In("wanted", above=0)],
) -> PiGains:
    """Tight PI gains of a level that integrates, by the SIMC rule.

    >>> [float(round(g, 4)) for g in simc_integrating(0.001, 5, 60)]
    [15.3846, 260.0]
    """
    total = closed_loop_time + dead_time
    return PiGains(1.0 / (slope_gain * total), 4.0 * total)


@method("K_c = dOut / dLevel", DERIVED)
def averaging_gain(
    output_change: Annotated[Ratio, In("that may be used, as a share of full output", "dOut", above=0)],
    level_change: Annotated[Ratio, In("that the pit may take for it, as a share of span", "dLevel", above=0)],
) -> Gain:
    """Gain of averaging control, proportional alone: the pit takes the waves, the flow stays quiet.

    >>> float(averaging_gain(0.5, 0.2))
    2.5
    """
    return output_change / level_change
