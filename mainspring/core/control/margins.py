"""How robust a loop is: gain and phase margin, greatest sensitivity, ultimate gain, and its answer to a step.

The loop is an ideal PI or PID controller on a first-order process with dead time, the delay exact. Checked against
python-control with the delay as frequency data, and its step response against a closed form (tests/core).
"""

import math
from typing import Annotated, NamedTuple

import numpy as np
from numpy.typing import NDArray

from mainspring.core.errors import NoSolution, check_range
from mainspring.core.method import DERIVED, In, method
from mainspring.core.quantity import Degree, Gain, Percent, Ratio, Second

_PER_DECADE = 4000
_STEPS_PER_DEAD_TIME = 400


class Margins(NamedTuple):
    """Gain margin, phase margin, and the greatest sensitivity Ms."""

    gain_margin: Ratio
    phase_margin: Degree
    sensitivity: Ratio


class Ultimate(NamedTuple):
    """Gain and period at which the loop swings and neither grows nor dies."""

    gain: Gain
    period: Second


class Step(NamedTuple):
    """Overshoot of a step of the setpoint, and the time from a tenth to nine tenths of it."""

    overshoot: Percent
    rise_time: Second


@method("K_u = θω + arctan(ωτ) = π; K_u = √(1 + (ωτ)²)/K; P_u = 2π/ω", DERIVED, words=True)
def ultimate_of_process(
    process_gain: Annotated[Ratio, In("percent of span per percent of output", above=0)],
    time_constant: Annotated[Second, In("", above=0)],
    dead_time: Annotated[Second, In("", above=0)],
) -> Ultimate:
    """Ultimate gain and period of a first-order process with dead time under proportional control.

    >>> [float(round(g, 5)) for g in ultimate_of_process(2, 10, 2)]
    [4.25121, 7.44152]
    """
    check_range("dead time over time constant", dead_time / time_constant, atleast=1e-4, upto=1e4)
    low, high = 0.5 * math.pi / dead_time * 1e-9, math.pi / dead_time
    for _ in range(200):
        middle = 0.5 * (low + high)
        if dead_time * middle + math.atan(middle * time_constant) < math.pi:
            low = middle
        else:
            high = middle
    omega = 0.5 * (low + high)
    return Ultimate(math.hypot(1.0, omega * time_constant) / process_gain, 2 * math.pi / omega)


@method("GM = L(iω) = K_c (1 + 1/(iωT_i) + iωT_d) K e^(-iωθ)/(1 + iωτ)", DERIVED, words=True)
def loop_margins(
    process_gain: Annotated[Ratio, In("percent of span per percent of output", above=0)],
    time_constant: Annotated[Second, In("", above=0)],
    dead_time: Annotated[Second, In("", above=0)],
    gain: Annotated[Gain, In("of the controller", above=0)],
    integral_time: Annotated[Second, In("", above=0)],
    derivative_time: Annotated[Second, In("0 for PI")] = 0.0,
) -> Margins:
    """Margins of an ideal PI or PID loop on a first-order process with dead time.

    A sound pumping loop has a gain margin of 2.5, a phase margin of 45° and Ms of 1.7 at most (common practice).

    Raises
    ------
    NoSolution : the loop is not stable

    >>> [float(round(m, 2)) for m in loop_margins(2, 10, 2, 1.25, 10)]
    [3.14, 61.35, 1.59]
    """
    check_range("derivative time", derivative_time, atleast=0, upto=integral_time)
    for name, ratio in (("dead time", dead_time), ("integral time", integral_time)):
        check_range(f"{name} over time constant", ratio / time_constant, atleast=1e-4, upto=1e4)
    check_range("loop gain", gain * process_gain, atleast=1e-6, upto=1e6)
    return _margins(process_gain, time_constant, dead_time, gain, integral_time, derivative_time, _PER_DECADE)


def margins_at_a_glance(
    process_gain: float, time_constant: float, dead_time: float, gain: float, integral_time: float
) -> Margins:
    """The same margins on a tenth of the frequencies, for what follows a slider; good to a hundredth.

    Raises
    ------
    NoSolution : the loop is not stable
    """
    return _margins(process_gain, time_constant, dead_time, gain, integral_time, 0.0, _PER_DECADE // 10)


def _margins(
    process_gain: float,
    time_constant: float,
    dead_time: float,
    gain: float,
    integral_time: float,
    derivative_time: float,
    per_decade: int,
) -> Margins:
    slowest, fastest = 1e-4 / max(time_constant, integral_time), 10.0 * math.pi / dead_time
    omega = np.geomspace(slowest, fastest, int(per_decade * math.log10(fastest / slowest)))
    s = 1j * omega
    loop = gain * (1 + 1 / (s * integral_time) + s * derivative_time) * process_gain / (1 + s * time_constant)
    loop = loop * np.exp(-s * dead_time)
    size, phase = np.abs(loop), np.unwrap(np.angle(loop))
    phase = phase - 2 * math.pi * round((phase[0] + math.pi / 2) / (2 * math.pi))  # it begins near -90° or -180°
    crossings = _crossings(phase, omega, -math.pi)
    gain_margin = min((1.0 / _at(omega, size, w) for w in crossings), default=math.inf)
    passes = _crossings(np.log(size), omega, 0.0)
    phase_margin = min((math.degrees(_at(omega, phase, w)) + 180.0 for w in passes), default=180.0)
    if gain_margin <= 1.0 or phase_margin <= 0.0:
        raise NoSolution("the loop is not stable with these gains: less gain, or a longer integral time")
    sensitivity = float(np.max(1.0 / np.abs(1.0 + loop)))
    return Margins(float(min(gain_margin, 1e6)), float(phase_margin), sensitivity)


def _crossings(values: NDArray[np.float64], omega: NDArray[np.float64], level: float) -> list[float]:
    """Where a curve falls through a level, by straight lines over the logarithm of the frequency."""
    at = np.nonzero((values[:-1] > level) & (values[1:] <= level))[0]
    share = (values[at] - level) / (values[at] - values[at + 1])
    return [float(w) for w in np.exp(np.log(omega[at]) + share * (np.log(omega[at + 1]) - np.log(omega[at])))]


def _at(omega: NDArray[np.float64], values: NDArray[np.float64], where: float) -> float:
    return float(np.interp(math.log(where), np.log(omega), values))


@method("O = response of the closed loop to a step of the setpoint, the delay exact", DERIVED, words=True)
def loop_step(
    process_gain: Annotated[Ratio, In("percent of span per percent of output", above=0)],
    time_constant: Annotated[Second, In("", above=0)],
    dead_time: Annotated[Second, In("", above=0)],
    gain: Annotated[Gain, In("of the controller", above=0)],
    integral_time: Annotated[Second, In("", above=0)],
) -> Step:
    """Overshoot and rise time of a PI loop after a step of its setpoint.

    Raises
    ------
    NoSolution : the loop is not stable, or it takes more than 2000 dead times

    >>> [float(round(x, 2)) for x in loop_step(2, 10, 2, 1.25, 10)]
    [0.04, 3.81]
    """
    # says what is allowed, and whether it is stable
    loop_margins(process_gain, time_constant, dead_time, gain, integral_time)
    step = dead_time / _STEPS_PER_DEAD_TIME
    delayed = [0.0] * _STEPS_PER_DEAD_TIME
    keep = math.exp(-step / time_constant)
    value = integral = 0.0
    peak, tenth, ninth = 0.0, -1.0, -1.0
    for n in range(2000 * _STEPS_PER_DEAD_TIME):
        error = 1.0 - value
        slot = n % _STEPS_PER_DEAD_TIME
        acting, delayed[slot] = delayed[slot], gain * (error + integral + 0.5 * error * step / integral_time)
        integral += error * step / integral_time
        before = value
        value = value * keep + process_gain * acting * (1.0 - keep)
        for level in (0.1, 0.9):
            if before < level <= value:
                at = (n + (level - before) / (value - before)) * step
                tenth, ninth = (at, ninth) if level == 0.1 and tenth < 0 else (tenth, at if ninth < 0 else ninth)
        peak = max(peak, value)
        settled = ninth > 0 and n * step > 4 * ninth and abs(error) < 1e-3
        if settled and n * step > ninth + 6 * (dead_time + min(integral_time, time_constant)):
            return Step(max(peak - 1.0, 0.0), ninth - tenth)
    raise NoSolution("it does not come to rest within 2000 dead times")
