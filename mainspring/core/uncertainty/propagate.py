"""Uncertainty by propagation, and several estimates of one thing made into one."""

import math
from collections.abc import Callable, Sequence
from typing import Annotated, NamedTuple

from mainspring.core.errors import MainspringError, OutOfRange, check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import Count, InputWatt, Percent, Ratio

GUM = Source("JCGM 100:2008", "guide to the expression of uncertainty in measurement, from memory", "standard")
STEP = 1e-4  # of a value, by which it is moved to see what follows


@method("u = √(Σ uᵢ²)", GUM, words=True)
def root_sum_of_squares(parts: Annotated[Sequence[Ratio], In("each", atleast=0)]) -> Percent:
    """Uncertainty from independent parts that add up, all of one kind and at one level.

    >>> round(root_sum_of_squares([0.0636590067, 0.05]), 7)
    0.0809473
    """
    return math.sqrt(sum(part * part for part in parts))


@method("u = u_P * sqrt(P_1**2 + P_2**2) / (P_1 - P_2)", GUM)
def uncertainty_of_difference(
    before: Annotated[InputWatt, In("power before", "P_1")],
    after: Annotated[InputWatt, In("power after, below the one before", "P_2")],
    relative: Annotated[Percent, In("uncertainty of each reading", "u_P", atleast=0)],
) -> Percent:
    """Relative uncertainty of a power saved, from that of each reading; the readings independent.

    Raises
    ------
    OutOfRange : nothing saved

    >>> round(uncertainty_of_difference(9700, 6100, 0.02), 7)
    0.063659
    """
    check_range("power after", after, below=before)
    return relative * math.hypot(before, after) / (before - after)


@method("u = a / 3**0.5", GUM)
def rectangular_uncertainty(limit: Annotated[Percent, In("largest error promised", "a", atleast=0)]) -> Percent:
    """Standard uncertainty of a reading whose maker promises no more than a limit of error.

    >>> round(rectangular_uncertainty(0.02), 5)
    0.01155
    """
    return limit / math.sqrt(3)


@method(
    "t = two-sided quantile of Student's distribution",
    Source("W. S. Gosset (Student), Biometrika 6 (1908)", "by scipy.stats.t", "handbook"),
    words=True,
)
def student_t(
    confidence: Annotated[Percent, In("two-sided", above=0, below=1)],
    freedom: Annotated[Count, In("degrees of freedom", above=0)],
) -> Ratio:
    """How many standard uncertainties an interval is wide on each side.

    >>> round(student_t(0.9, 10), 5)
    1.81246
    """
    from scipy.special import stdtrit  # the quantile alone: the whole of statistics takes a second to load

    return float(stdtrit(freedom, (1 + confidence) / 2))


@method("k = two-sided quantile of the normal distribution", GUM, words=True)
def coverage_factor(confidence: Annotated[Percent, In("two-sided", above=0, below=1)]) -> Ratio:
    """How many standard uncertainties an interval is wide where they are well known.

    >>> round(coverage_factor(0.95), 3)
    1.96
    """
    from scipy.special import ndtri

    return float(ndtri((1 + confidence) / 2))


class Combined(NamedTuple):
    """Several estimates of one thing made into one."""

    value: Percent
    uncertainty: Percent
    disagreement: Ratio  # of the estimates, against what their uncertainties allow; above 1 they contradict


@method(
    "x = Σ xᵢ/uᵢ² / Σ 1/uᵢ², widened by √(Σ((xᵢ - x)/uᵢ)² / (n - 1)) where that is above 1",
    Source("R. T. Birge, Physical Review 40 (1932)", "weighted mean and its external consistency", "handbook"),
    words=True,
)
def combined_estimate(
    values: Annotated[Sequence[Percent], In("of the one thing, one or more")],
    uncertainties: Annotated[Sequence[Percent], In("standard, of each", above=0)],
) -> Combined:
    """The mean of several estimates, each weighed by its standard uncertainty.

    >>> [round(v, 4) for v in combined_estimate([0.80, 0.86], [0.02, 0.06])]
    [0.806, 0.019, 0.9487]
    """
    if len(values) != len(uncertainties) or not values:
        raise OutOfRange("estimates", len(values), f"as many as uncertainties ({len(uncertainties)}), at least one")
    for u in uncertainties:
        check_range("uncertainty", u, above=0)
    weights = [1 / u**2 for u in uncertainties]
    mean = sum(w * x for w, x in zip(weights, values, strict=True)) / sum(weights)
    inner = math.sqrt(1 / sum(weights))
    if len(values) == 1:
        return Combined(mean, inner, 0.0)
    ratio = math.sqrt(sum(w * (x - mean) ** 2 for w, x in zip(weights, values, strict=True)) / (len(values) - 1))
    return Combined(mean, inner * max(1.0, ratio), ratio)


@method("n = ⌈(z·cv / e)²⌉", Source("IPMVP, statistics and uncertainty", "from memory", "guideline"), words=True)
def sample_size(
    z: Annotated[Ratio, In("normal quantile of the confidence", above=0)],
    variation: Annotated[Percent, In("standard deviation over mean", atleast=0)],
    precision: Annotated[Percent, In("wanted", above=0)],
) -> Count:
    """How many of very many alike have to be measured.

    >>> float(sample_size(1.645, 0.5, 0.1))
    68.0
    """
    return math.ceil((z * variation / precision) ** 2 - 1e-9)


@method("n = ⌈n_0·N / (n_0 + N)⌉", Source("IPMVP, statistics and uncertainty", "from memory", "guideline"), words=True)
def finite_sample_size(
    unlimited: Annotated[Count, In("sample for very many", above=0)],
    population: Annotated[Count, In("how many there are", above=0)],
) -> Count:
    """How many of a few alike have to be measured.

    >>> float(finite_sample_size(68, 100))
    41.0
    """
    return math.ceil(unlimited * population / (unlimited + population) - 1e-9)


def propagated(compute: Callable[..., float], values: Sequence[float], uncertainties: Sequence[float]) -> float:
    """Standard uncertainty of a computed figure from those of independent inputs, by moving each a little.

    An input that may not be moved to one side is moved to the other.
    """
    middle = float(compute(*values))
    total = 0.0
    for i, (value, u) in enumerate(zip(values, uncertainties, strict=True)):
        if u == 0:
            continue
        total += (_slope(compute, values, i, max(abs(value) * STEP, u * STEP), middle) * u) ** 2
    return math.sqrt(total)


def _slope(compute: Callable[..., float], values: Sequence[float], at: int, step: float, middle: float) -> float:
    def moved(by: float) -> float:
        return float(compute(*(v + by if i == at else v for i, v in enumerate(values))))

    try:
        return (moved(step) - moved(-step)) / (2 * step)
    except MainspringError:
        try:
            return (moved(step) - middle) / step
        except MainspringError:
            return (middle - moved(-step)) / step


@method("u = √(Σ (∂f/∂xᵢ·uᵢ)²)", GUM, words=True)
def propagated_uncertainty(
    slopes: Annotated[Sequence[Ratio], In("of the figure with each input")],
    uncertainties: Annotated[Sequence[Ratio], In("standard, of each input", atleast=0)],
) -> Percent:
    """Standard uncertainty of a figure from how it moves with each input and how uncertain each is.

    >>> round(propagated_uncertainty([2.0, 1.0], [0.03, 0.08]), 4)
    0.1
    """
    return math.sqrt(sum((s * u) ** 2 for s, u in zip(slopes, uncertainties, strict=True)))


def of_difference(shares: Sequence[float], amounts: Sequence[float], *, alike: bool) -> float:
    """Standard uncertainty of the difference of two amounts, each uncertain by a share of itself.

    Read by the same meters they are wrong alike, and only the difference is; by others, each on its own.
    """
    if alike:
        return max(shares) * abs(amounts[0] - amounts[1])
    return math.hypot(*(share * amount for share, amount in zip(shares, amounts, strict=True)))


@method("U = k * u", DERIVED)
def half_width(
    standard: Annotated[Percent, In("uncertainty", "u", atleast=0)],
    factor: Annotated[Ratio, In("how many of it", "k", above=0)],
) -> Percent:
    """Half the width of an interval.

    >>> float(half_width(0.02, 2))
    0.04
    """
    return standard * factor
