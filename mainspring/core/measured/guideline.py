"""The measures of a fitted baseline and of a saving that the guidelines of measurement and verification name."""

import itertools
import math
from collections.abc import Sequence
from typing import Annotated, NamedTuple

from mainspring.core.errors import OutOfRange, check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import Count, CubicMetre, EnergySlope, HourSecond, InputWatt, Joule, Percent, Ratio

GUIDELINE_14 = Source("ASHRAE Guideline 14 (2002, 2014)", "from memory", "guideline")
IPMVP = Source("IPMVP", "core concepts, from memory", "guideline")
_LEAST_SQUARES = Source("C. F. Gauss, Theoria combinationis (1821)", "ordinary least squares", "handbook")


class Straight(NamedTuple):
    """A straight line through energies: what is taken for each cubic metre, and at none."""

    slope: EnergySlope
    intercept: Joule
    determination: Ratio


def _alike(**columns: Sequence[float]) -> int:
    counts = {len(values) for values in columns.values()}
    if len(counts) != 1 or min(counts) < 3:
        raise OutOfRange(" and ".join(columns), sorted(counts), "as many of one as of the other, at least three")
    for name, values in columns.items():
        if not all(math.isfinite(v) for v in values):
            raise OutOfRange(name, "a number without end", "finite numbers")
    return counts.pop()


@method("b = the line of least squares through energy over volume", _LEAST_SQUARES, words=True)
def baseline_line(
    volumes: Annotated[Sequence[CubicMetre], In("moved in each period")],
    energies: Annotated[Sequence[Joule], In("taken in each period")],
) -> Straight:
    """A baseline of energy against what was moved.

    >>> [round(v, 6) for v in baseline_line([1, 2, 3], [10, 12, 14])]
    [2.0, 8.0, 1.0]
    """
    _alike(volumes=volumes, energies=energies)
    if not max(volumes) - min(volumes) > 1e-9 * max(map(abs, volumes)):
        raise OutOfRange("volumes", volumes[0], "volumes that differ")
    from scipy.stats import linregress  # takes a second to load

    found = linregress(volumes, energies)
    return Straight(float(found.slope), float(found.intercept), float(found.rvalue**2))


@method("CV = √(Σ(y - ŷ)² / (n - p)) / ȳ", GUIDELINE_14, words=True)
def fit_variation(
    measured: Annotated[Sequence[Joule], In("energies, or powers alike")],
    fitted: Annotated[Sequence[Joule], In("the same by the model")],
    parameters: Annotated[Count, In("fitted; 1 for a calibrated simulation", atleast=0)] = 2.0,
) -> Percent:
    """Coefficient of variation of the root mean square error, CV(RMSE).

    >>> round(fit_variation([10, 12, 14, 12], [10, 12, 13, 13], 2), 4)
    0.0833
    """
    n = _alike(measured=measured, fitted=fitted)
    check_range("parameters", parameters, below=n)
    squares = sum((y - f) ** 2 for y, f in zip(measured, fitted, strict=True))
    return math.sqrt(squares / (n - parameters)) / (sum(measured) / n)


@method("NMBE = Σ(y - ŷ) / ((n - p)·ȳ)", GUIDELINE_14, words=True)
def fit_bias(
    measured: Annotated[Sequence[Joule], In("energies, or powers alike")],
    fitted: Annotated[Sequence[Joule], In("the same by the model")],
    parameters: Annotated[Count, In("fitted; 1 for a calibrated simulation", atleast=0)] = 1.0,
) -> Percent:
    """Normalised mean bias error, measured less fitted; nought by construction where the fit has a constant.

    >>> round(fit_bias([10, 12, 14, 12], [10, 12, 13, 12], 1), 4)
    0.0278
    """
    n = _alike(measured=measured, fitted=fitted)
    check_range("parameters", parameters, below=n)
    return sum(y - f for y, f in zip(measured, fitted, strict=True)) / ((n - parameters) * (sum(measured) / n))


@method("rho = Σ eₜ·eₜ₋₁ / Σ eₜ²", GUIDELINE_14, words=True)
def lag_one(residuals: Annotated[Sequence[Joule], In("of energies, or of powers alike, in order of time")]) -> Ratio:
    """How much a residual says of the next one.

    >>> round(lag_one([1, 1, -1, -1]), 2)
    0.25
    """
    squares = sum(e * e for e in residuals)
    if squares == 0:
        return 0.0
    return sum(a * b for a, b in itertools.pairwise(residuals)) / squares


@method("n_1 = n * (1 - rho) / (1 + rho)", GUIDELINE_14)
def effective_points(
    points: Annotated[Count, In("", "n", above=0)], correlation: Annotated[Ratio, In("lag-1", "rho", above=-1, below=1)]
) -> Count:
    """How many independent points correlated ones are worth.

    >>> round(effective_points(365, 0.4), 3)
    156.429
    """
    return points * (1 - correlation) / (1 + correlation)


@method("a = -0.00022 * M**2 + 0.03306 * M + 0.94054", GUIDELINE_14)
def monthly_factor(months: Annotated[Count, In("of the reporting period", "M", above=0)]) -> Ratio:
    """What takes the place of 1.26 where the data are monthly.

    >>> round(monthly_factor(12), 5)
    1.30558
    """
    return -0.00022 * months**2 + 0.03306 * months + 0.94054


@method("U_F = 1.26 * t * CV / F * sqrt(n / n_1 * (1 + 2 / n_1) / m)", GUIDELINE_14)
def guideline_uncertainty(
    t_value: Annotated[Ratio, In("of the confidence", "t", above=0)],
    variation: Annotated[Percent, In("CV(RMSE) of the baseline", "CV", atleast=0)],
    fraction: Annotated[Percent, In("of the baseline saved", "F", above=0)],
    points: Annotated[Count, In("of the baseline", "n", above=0)],
    effective: Annotated[Count, In("that they are worth", "n_1", above=0)],
    reporting: Annotated[Count, In("points after", "m", above=0)],
) -> Percent:
    """Fractional uncertainty of a saving by the guideline's short formula; effective = points where uncorrelated.

    >>> round(guideline_uncertainty(1.649, 0.15, 0.3, 365, 156.428571, 365), 5)
    0.08359
    """
    return 1.26 * t_value * variation / fraction * math.sqrt(points / effective * (1 + 2 / effective) / reporting)


@method("E = Σ(b_0 + b_1·xᵢ) - Σyᵢ", IPMVP, words=True)
def avoided_energy(
    slope: Annotated[EnergySlope, In("of the baseline")],
    intercept: Annotated[Joule, In("of the baseline")],
    volumes: Annotated[Sequence[CubicMetre], In("moved after")],
    energies: Annotated[Sequence[Joule], In("taken after")],
) -> Joule:
    """Energy avoided: what the baseline would have taken for what was moved after, less what was taken.

    >>> float(avoided_energy(2, 8, [1, 2, 3], [5, 5, 5]))
    21.0
    """
    n = _alike(volumes=volumes, energies=energies)
    return intercept * n + slope * sum(volumes) - sum(energies)


class Spread(NamedTuple):
    """How uncertain an avoided energy is."""

    standard: Joule
    fraction: Percent  # of it, at the confidence


@method("u_E = s·√(m + m²/n + (Σx_r - m·x̄)² / S_xx), and t of it over the energy avoided", _LEAST_SQUARES, words=True)
def avoided_energy_spread(
    volumes: Annotated[Sequence[CubicMetre], In("of the baseline")],
    energies: Annotated[Sequence[Joule], In("of the baseline")],
    reported: Annotated[Sequence[CubicMetre], In("volumes after")],
    avoided: Annotated[Joule, In("energy")],
    t_value: Annotated[Ratio, In("of the confidence at n - 2 degrees of freedom", above=0)],
) -> Spread:
    """Standard error of a summed saving, exactly by least squares, where residuals are independent.

    >>> round(avoided_energy_spread([1, 2, 3, 4], [10, 12.1, 14, 15.9], [2, 3], 10, 2.92).standard, 4)
    0.1342
    """
    n, m = len(volumes), len(reported)
    check_range("points of the baseline", n, atleast=3)
    line = baseline_line(volumes, energies)
    squares = sum((y - line.intercept - line.slope * x) ** 2 for x, y in zip(volumes, energies, strict=True))
    mean = sum(volumes) / n
    across = sum((x - mean) ** 2 for x in volumes)
    standard = math.sqrt(squares / (n - 2) * (m + m * m / n + (sum(reported) - m * mean) ** 2 / across))
    return Spread(standard, t_value * standard / abs(avoided))


@method(
    "E = (P_1 - P_2) * t",
    Source("IPMVP, option A", "key parameter measured, hours stipulated; from memory", "guideline"),
)
def spot_saving(
    before: Annotated[InputWatt, In("power read before", "P_1")],
    after: Annotated[InputWatt, In("power read after at the same duty", "P_2")],
    time: Annotated[HourSecond, In("stipulated, a year", "t", atleast=0)],
) -> Joule:
    """Energy saved at one duty by spot readings of power, over hours that were not measured.

    >>> round(spot_saving(9700, 6100, 6000 * 3600) / 3.6e6)
    21600
    """
    return (before - after) * time


@method("E = Σ tⱼ·(P₁ⱼ - P₂ⱼ)", DERIVED, words=True)
def bin_saving(
    hours: Annotated[Sequence[HourSecond], In("of the year at each")],
    before: Annotated[Sequence[InputWatt], In("power before at each")],
    after: Annotated[Sequence[InputWatt], In("power after at each")],
) -> Joule:
    """Energy saved in a year, sorted by what the power goes with.

    >>> float(bin_saving([3600.0], [2000.0], [1000.0]) / 3.6e6)
    1.0
    """
    if not len(hours) == len(before) == len(after):
        raise OutOfRange("bins", len(hours), "as many hours as powers before and after")
    return sum(t * (b - a) for t, b, a in zip(hours, before, after, strict=True))
