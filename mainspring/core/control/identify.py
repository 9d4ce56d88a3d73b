"""From a response to a model: times to shares of the change, two points of it, two lags made one."""

import math
from typing import Annotated

from mainspring.core.control.tuning import FirstOrder
from mainspring.core.errors import check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import Gain, Ratio, Second

_SKOGESTAD = Source("Skogestad, J. Process Control 13 (2003) 291-309", "half rule, from memory", "handbook")
_SK = Source("Sundaresan and Krishnaswamy, Ind. Eng. Chem. Process Des. Dev. 17 (1978)", "from memory", "handbook")
_STEPS = 200  # of the bisection, which ends long before


@method("t = theta - tau * log(1 - x)", DERIVED)
def time_to_share(
    time_constant: Annotated[Second, In("", "tau", above=0)],
    dead_time: Annotated[Second, In("", "theta", atleast=0)],
    share: Annotated[Ratio, In("of the whole change, 0 <= share below 1", "x")],
) -> Second:
    """Time after a step at which a first-order process with dead time has made a share of its change.

    >>> round(time_to_share(10, 2, 0.632), 3)
    11.997
    """
    check_range("share", share, atleast=0, below=1)
    return dead_time - time_constant * math.log(1.0 - share)


@method("t = 1 - (τ_1 e^(-(t-θ)/τ_1) - τ_2 e^(-(t-θ)/τ_2)) / (τ_1 - τ_2) = x", DERIVED, words=True)
def time_to_share_of_two(
    first_lag: Annotated[Second, In("", above=0)],
    second_lag: Annotated[Second, In("", above=0)],
    dead_time: Annotated[Second, In("", atleast=0)],
    share: Annotated[Ratio, In("of the whole change, 0 <= share below 1")],
) -> Second:
    """The same of a process with two lags; solved by halving.

    >>> round(time_to_share_of_two(8, 3, 1, 0.632), 3)
    12.478
    """
    check_range("share", share, atleast=0, below=1)
    low, high = 0.0, (first_lag + second_lag) * (1.0 - math.log(1.0 - share)) * 2.0
    for _ in range(_STEPS):
        middle = 0.5 * (low + high)
        if _made(middle, first_lag, second_lag) < share:
            low = middle
        else:
            high = middle
    return dead_time + 0.5 * (low + high)


def _made(time: float, first: float, second: float) -> float:
    """Share of the change that two lags have made."""
    if math.isclose(first, second, rel_tol=1e-6):
        lag = 0.5 * (first + second)
        return 1.0 - (1.0 + time / lag) * math.exp(-time / lag)
    return 1.0 - (first * math.exp(-time / first) - second * math.exp(-time / second)) / (first - second)


@method("tau = τ = 0.67 (t85 - t35); θ = 1.3 t35 - 0.29 t85", _SK, words=True)
def late_points_identification(
    time_35: Annotated[Second, In("to 35.3 % of the final change", above=0)],
    time_85: Annotated[Second, In("to 85.3 % of the final change, later")],
) -> FirstOrder:
    """Time constant and dead time from a step response with a noisy start, times counted from the step.

    >>> [float(round(t, 3)) for t in late_points_identification(6.3541, 21.1732)]
    [9.929, 2.12]
    """
    check_range("time to 85 %", time_85, above=time_35)
    return FirstOrder(0.67 * (time_85 - time_35), max(1.3 * time_35 - 0.29 * time_85, 0.0))


@method("tau = τ = τ_1 + τ_2/2; θ' = θ + τ_2/2", _SKOGESTAD, words=True)
def half_rule(
    first_lag: Annotated[Second, In("", above=0)],
    second_lag: Annotated[Second, In("", above=0)],
    dead_time: Annotated[Second, In("", atleast=0)],
) -> FirstOrder:
    """Two lags as one: half of the smaller to the larger, half to the dead time.

    >>> [float(t) for t in half_rule(8, 3, 1)]
    [9.5, 2.5]
    """
    large, small = max(first_lag, second_lag), min(first_lag, second_lag)
    return FirstOrder(large + 0.5 * small, dead_time + 0.5 * small)


@method(
    "tau = τ = e A_1 / Δy; θ = A_0 / Δy - τ",
    Source("Åström and Hägglund, PID Controllers (1995)", "method of areas, from memory", "handbook"),
    words=True,
)
def area_identification(
    residence_area: Annotated[float, In("between the final value and the response, over all of the test", above=0)],
    early_area: Annotated[float, In("under the response up to the average residence time", above=0)],
    change: Annotated[float, In("final of the value", above=0)],
) -> FirstOrder:
    """Time constant and dead time from areas, which noise hardly moves.

    >>> [float(round(t, 3)) for t in area_identification(12.0, 3.67879, 1.0)]
    [10.0, 2.0]
    """
    time_constant = math.e * early_area / change
    return FirstOrder(time_constant, max(residence_area / change - time_constant, 0.0))


@method(
    "K_u = 4 * d / (pi * (a**2 - h**2) ** 0.5)",
    Source("Åström and Hägglund, Automatica 20 (1984)", "relay experiment, from memory", "handbook"),
)
def relay_gain(
    relay: Annotated[Ratio, In("half of what the output jumps by, as a share of full output", "d", above=0)],
    swing: Annotated[Ratio, In("half of what the value swings by, as a share of span", "a", above=0)],
    hysteresis: Annotated[Ratio, In("of the relay, as a share of span", "h")] = 0.0,
) -> Gain:
    """Ultimate gain from a loop that a relay, or a limit cycle, keeps swinging.

    >>> round(relay_gain(0.05, 0.015), 3)
    4.244
    """
    check_range("hysteresis", hysteresis, atleast=0, below=swing)
    return 4.0 * relay / (math.pi * math.sqrt(swing**2 - hysteresis**2))
