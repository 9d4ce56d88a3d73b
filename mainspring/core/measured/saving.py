"""The saving that two logs carry: at the same flows, temperatures or hours, how sure it is, and what it may not say.

The energy of a year is the sum over what the year asks for of hours times the difference of two measured curves, each
used only where both periods have readings. Its uncertainty has three parts: the scatter about the curves, counted by
days; the power meters; the flow meter.
"""

import math
from dataclasses import replace
from typing import Annotated

import numpy as np

from mainspring.core.energy.annual import energy_saved, saving_fraction
from mainspring.core.errors import BadEntry, MainspringError, NoSolution
from mainspring.core.measured.claimed import (
    NEAR_DAYS,
    NEAR_HOURS,
    WAYS,
    Accuracy,
    Claim,
    Part,
    Plate,
    Point,
    YearOf,
    way_dimension,
)
from mainspring.core.measured.fit import Fit, fit_curve, fit_mean, fit_schedule, slot_of
from mainspring.core.measured.guideline import (
    bin_saving,
    effective_points,
    guideline_uncertainty,
)
from mainspring.core.measured.refused import refused_of, sharpen_of
from mainspring.core.measured.side import later_first, shared_hours
from mainspring.core.measured.trend import AT_REST, HOUR, STANDBY, Marks, Means, Numbers
from mainspring.core.method import DERIVED, Figure, In, Leaf, given, method
from mainspring.core.quantity import DIMENSIONS, Joule
from mainspring.core.sentence import in_percent
from mainspring.core.uncertainty.propagate import (
    GUM,
    coverage_factor,
    of_difference,
    rectangular_uncertainty,
    student_t,
)

BINS = 12
NO_PLATE = Plate()
YEAR = 8760 * HOUR


@method("U = sqrt((t * u_s)**2 + (k * u_P)**2 + (k * u_Q)**2 + (k * u_t)**2)", GUM)
def saving_uncertainty(
    t_value: Annotated[float, In("Student's t of the confidence at the days that there are", "t", above=0)],
    scatter: Annotated[Joule, In("standard uncertainty by the scatter about the curves", "u_s", atleast=0)],
    factor: Annotated[float, In("normal quantile of the confidence", "k", above=0)],
    power_meter: Annotated[Joule, In("standard uncertainty by the power meters", "u_P", atleast=0)],
    flow_meter: Annotated[Joule, In("standard uncertainty by the flow meter", "u_Q", atleast=0)],
    hours: Annotated[
        Joule, In("standard uncertainty by hours that were entered and not measured", "u_t", atleast=0)
    ] = 0.0,
) -> Joule:
    """Half the interval in which a measured saving lies.

    >>> round(saving_uncertainty(2.0, 3.0, 2.0, 4.0, 0.0), 6)
    10.0
    """
    meters = power_meter**2 + flow_meter**2 + hours**2
    return math.sqrt((t_value * scatter) ** 2 + factor**2 * meters)


@method("U_F = U / E", DERIVED)
def uncertainty_share(
    half: Annotated[Joule, In("of the interval", "U")], saved: Annotated[Joule, In("", "E", above=0)]
) -> float:
    """Half the interval as a share of the saving [-].

    >>> float(uncertainty_share(1.0, 4.0))
    0.25
    """
    return half / saved


def runs(means: Means, way: str) -> Marks:
    """In which spans it ran: at rest there is no flow to compare at, and a curve must not be bent to reach it."""
    if way not in ("flow", "air_flow") or not len(means.times):
        return np.ones(len(means.times), bool)
    told = [(way, AT_REST), ("power", STANDBY)]
    above = [means.columns[n] > least * float(means.columns[n].max()) for n, least in told if n in means.columns]
    return np.asarray(np.any(above, axis=0), np.bool_)


def at_work(means: Means, way: str) -> Means:
    """The spans in which it ran."""
    return means.where(runs(means, way))


def at_rest(before: Means, after: Means, way: str, year: YearOf) -> Point | None:
    """What both periods took at rest, where the drive waits under power; None where it never rests.

    A machine that never rested before the change is taken to have taken nothing then: that claims least.
    """
    if way not in ("flow", "air_flow"):
        return None
    still = [means.where(~runs(means, way)).columns["power"] for means in (before, after)]
    if year.entered:
        seconds = YEAR - float(year.seconds.sum())
    else:
        seconds = sum(map(len, still)) / max(1, len(before.times) + len(after.times)) * YEAR
    if seconds < HOUR or len(still[1]) < NEAR_HOURS:
        return None
    first = float(still[0].mean()) if len(still[0]) else 0.0
    return Point(0.0, seconds, first, float(still[1].mean()), True)


def year_of_log(before: Means, after: Means, way: str) -> YearOf:
    """The year as if all of it were like the days of the two logs, each day counted once."""
    if way == "schedule":
        working = 261 / 365
        at = np.arange(48.0)
        days = np.where(at < 24, working, 1 - working)
        return YearOf(at, days / 24 * YEAR, "all weeks of the year alike")
    if way == "hours":
        return YearOf(np.zeros(1), np.full(1, YEAR), "all hours of the year")
    running = [at_work(means, way) for means in (before, after)]
    x = np.concatenate([means.columns[way] for means in running])
    if not len(x):
        raise NoSolution("it never ran while it was logged")
    share = len(x) / (len(before.times) + len(after.times))
    edges = np.linspace(float(x.min()), float(x.max()), BINS + 1)
    which = np.clip(np.digitize(x, edges) - 1, 0, BINS - 1)
    counts = np.bincount(which, minlength=BINS)
    used = counts > 0
    at = np.bincount(which, weights=x, minlength=BINS)[used] / counts[used]
    seconds = counts[used] / len(x) * share * YEAR
    return YearOf(at, seconds, "the rest of the year like the days measured")


def claim(
    before: Means,
    after: Means,
    way: str,
    year: YearOf | None,
    accuracies: tuple[Accuracy, Accuracy],
    *,
    same_meters: bool,
    confidence: float = 0.90,
    plate: Plate = NO_PLATE,
    service: str = "",
    moved: float | None = None,
) -> Claim:
    """What two periods say of a year, and what not; `moved` is how far the level stood otherwise at the same flow [m].

    Raises BadEntry for a way that the logs cannot be compared by, NoSolution where a period has too little for a
    curve.
    """
    if way not in WAYS:
        raise BadEntry("compared", way, ", ".join(WAYS))
    asked = year or year_of_log(before, after, way)
    rest = at_rest(before, after, way, asked)
    before, after = at_work(before, way), at_work(after, way)
    fits = _fit(before, way), _fit(after, way)
    points = _points(before, after, fits, way, asked)
    seconds, everything = sum(p.seconds for p in points if p.covered), sum(p.seconds for p in points)
    saved, taken = _saved_and_taken(points, rest, way, fits)
    parts = _parts(before, after, fits, way, points, accuracies, same_meters, asked, rest)
    freedom = min(fit.freedom(_weights(fit, points)) for fit in fits)
    scatter, *others = (part.energy for part in parts)
    half = saving_uncertainty(student_t(confidence, freedom), scatter, coverage_factor(confidence), *others)
    made = Claim(
        way=way,
        dimension=way_dimension(way),
        year=asked.told,
        confidence=confidence,
        before=fits[0],
        after=fits[1],
        points=tuple(points),
        saved=saved,
        taken_before=taken,
        fraction=saving_fraction(taken, energy_saved(taken, saved)) if taken > 0 else given("none", 0.0, "percent"),
        half=half,
        share=uncertainty_share(half, saved) if saved > 0 else None,
        parts=parts,
        short_formula=_short_formula(fits, saved, taken, confidence),
        refused=(),
        sharpen="",
        seconds=seconds,
        seconds_all=everything,
        plate=plate,
        highest=(_highest(before), _highest(after)),
        rest=rest,
        shared=shared_hours(before, after),
        later_first=later_first(before, after),
        moved=moved,
        service=service,
    )
    return replace(made, refused=refused_of(made), sharpen=sharpen_of(made, accuracies, freedom))


def _saved_and_taken(points: list[Point], rest: Point | None, way: str, fits: tuple[Fit, Fit]) -> tuple[Figure, Figure]:
    """Energy saved in a year, and taken before, where something may be said; with the hours at rest."""
    figures = [_figures(p, way, _told_of(fits)) for p in points if p.covered]
    if figures and rest is not None:
        figures.append(_figures(rest, way, ("mean of the hours at rest",) * 2, "rest_"))
    if not figures:
        still = given("nothing", 0.0, "input_power")
        figures = [(given("nothing", 0.0, "hours"), still, still)]
    hours, before, after = (list(column) for column in zip(*figures, strict=True))
    nothing = [given("none", 0.0, "input_power")] * len(hours)
    return bin_saving(hours, before, after), bin_saving(hours, before, nothing)


def _highest(means: Means) -> float:
    """Nearly the most power that was read, a few odd hours aside."""
    power = means.columns["power"]
    return float(np.quantile(power, 0.98)) if len(power) else 0.0


def _fit(means: Means, way: str) -> Fit:
    power = means.columns["power"]
    if not len(power):
        raise NoSolution(
            "not one whole hour of readings is left: see what was found wrong with the logs,"
            " a clamp the wrong way round?"
        )
    if way == "schedule":
        return fit_schedule(means.times, power, means.day)
    if way == "hours":
        return fit_mean(power, means.day)
    return fit_curve(means.columns[way], power, means.day)


def _axis(means: Means, way: str) -> Numbers:
    if way == "schedule":
        return slot_of(means.times)
    return np.zeros(len(means.times)) if way == "hours" else means.columns[way]


def _points(before: Means, after: Means, fits: tuple[Fit, Fit], way: str, year: YearOf) -> list[Point]:
    order = np.argsort(year.at)
    at, seconds = year.at[order], year.seconds[order]
    near = _reach(at, way)
    powers = fits[0].at(at), fits[1].at(at)
    points = []
    for i, x in enumerate(at):
        why = ""
        for name, means in (("before", before), ("after", after)):
            close = np.abs(_axis(means, way) - x) <= near[i]
            if close.sum() < NEAR_HOURS or len(np.unique(means.day[close])) < NEAR_DAYS:
                why = f"no reading {name} the change" if not close.any() else f"too few readings {name} the change"
                break
        points.append(Point(float(x), float(seconds[i]), float(powers[0][i]), float(powers[1][i]), not why, why))
    return points


def _reach(at: Numbers, way: str) -> Numbers:
    """How far from each value a reading still speaks for it: half way to its neighbours."""
    if way in ("schedule", "hours") or len(at) == 1:
        return np.full(len(at), 0.5 if way in ("schedule", "hours") else 0.1 * abs(at[0]))
    half = np.diff(at) / 2
    return np.maximum(np.concatenate(([half[0]], half)), np.concatenate((half, [half[-1]])))


def _told_of(fits: tuple[Fit, Fit]) -> tuple[str, str]:
    first, second = (
        f"curve through {fit.hours} hours of {fit.days} days, CV {in_percent(fit.variation, 1)}" for fit in fits
    )
    return first, second


def _figures(point: Point, way: str, told: tuple[str, str], prefix: str = "") -> tuple[Figure, Figure, Figure]:
    dimension = way_dimension(way)
    where = " at rest" if prefix else f" at {DIMENSIONS[dimension].tellings(point.at)}" if dimension else ""

    def leaf(name: str, label: str, kind: str, value: float, why: str) -> Figure:
        return Figure(value, Leaf(f"measured.{prefix}{name}", f"{label}{where}", kind, "measured", why))

    return (
        leaf("hours", "Time a year", "hours", point.seconds, "what the year asks for"),
        leaf("before", "Power before", "input_power", point.before, told[0]),
        leaf("after", "Power after", "input_power", point.after, told[1]),
    )


def _covered(points: list[Point]) -> tuple[Numbers, Numbers]:
    """Where something may be said: the values, and the time at each."""
    use = [p for p in points if p.covered]
    return np.array([p.at for p in use]), np.array([p.seconds for p in use])


def _energy(fits: tuple[Fit, Fit], points: list[Point]) -> float:
    at, seconds = _covered(points)
    return float(seconds @ (fits[0].at(at) - fits[1].at(at))) if len(at) else 0.0


def _weights(fit: Fit, points: list[Point]) -> Numbers:
    """What each coefficient of a curve counts for in the energy of the year."""
    at, seconds = _covered(points)
    return np.asarray(seconds @ fit.design(at)) if len(at) else np.zeros(len(fit.coefficients))


def _parts(
    before: Means,
    after: Means,
    fits: tuple[Fit, Fit],
    way: str,
    points: list[Point],
    accuracies: tuple[Accuracy, Accuracy],
    same_meters: bool,
    year: YearOf,
    rest: Point | None,
) -> tuple[Part, ...]:
    use = [p for p in points if p.covered]
    scatter = math.hypot(*(fit.uncertainty_of(_weights(fit, points)) for fit in fits))
    counted = use if rest is None else [*use, rest]
    taken = [sum(p.seconds * p.before for p in counted), sum(p.seconds * p.after for p in counted)]
    limits = [float(rectangular_uncertainty(a.power)) for a in accuracies]
    power = of_difference(limits, taken, alike=same_meters)
    flow = _by_flow(before, after, fits, way, points, accuracies, same_meters, year) if use else 0.0
    hours = float(rectangular_uncertainty(year.within)) * abs(taken[0] - taken[1])

    def figure(name: str, label: str, value: float, why: str) -> Figure:
        return Figure(value, Leaf(f"measured.{name}", label, "energy", "measured", why))

    days = f"{fits[0].days} days before, {fits[1].days} after; sums of whole days taken as independent"
    powers, flows = (
        " and ".join(f"±{in_percent(getattr(a, name), 1)}" for a in accuracies) for name in ("power", "flow")
    )
    met = f"limits of error {powers}, evenly likely within"
    read = f"{flows}: the curves fitted again with it"
    return (
        Part("scatter", figure("scatter", "By the scatter about the curves", scatter, days)),
        Part("power", figure("power_meter", "By the power meter", power, met)),
        Part("flow", figure("flow_meter", "By the flow meter", flow, read)),
        Part(
            "hours", figure("hours_entered", "By hours that were entered", hours, f"±{in_percent(year.within)} of them")
        ),
    )


def _by_flow(
    before: Means,
    after: Means,
    fits: tuple[Fit, Fit],
    way: str,
    points: list[Point],
    accuracies: tuple[Accuracy, Accuracy],
    same_meters: bool,
    year: YearOf,
) -> float:
    """How the saving moves when the flow meter is off by its standard uncertainty."""
    if way not in ("flow", "air_flow"):
        return 0.0
    if same_meters and not year.entered:
        return 0.0  # it names the flows wrong, before and after alike, and the saving at each is the same
    u = [float(rectangular_uncertainty(a.flow)) for a in accuracies]
    plain = _energy(fits, points)

    def moved(means: Means, fit: Fit, by: float) -> Fit:
        columns = {**means.columns, way: means.columns[way] * (1 + by)}
        try:
            return _fit(replace(means, columns=columns), way)
        except MainspringError:
            return fit

    if same_meters:
        both = moved(before, fits[0], max(u)), moved(after, fits[1], max(u))
        return abs(_energy(both, points) - plain)
    first = _energy((moved(before, fits[0], u[0]), fits[1]), points) - plain
    second = _energy((fits[0], moved(after, fits[1], u[1])), points) - plain
    return math.hypot(first, second)


def _short_formula(fits: tuple[Fit, Fit], saved: Figure, taken: Figure, confidence: float) -> Figure | None:
    """The guideline's fractional uncertainty of the same data; None where it has no meaning."""
    if saved <= 0 or taken <= 0:
        return None
    try:
        n, lag = float(fits[0].hours), min(max(fits[0].lag, 0.0), 0.99)
        worth = effective_points(given("points", n, "count"), given("correlation", lag, "ratio"))
        return guideline_uncertainty(
            student_t(confidence, max(1.0, float(worth) - len(fits[0].coefficients))),
            given("variation", fits[0].variation, "percent", "of the curve before"),
            saving_fraction(taken, energy_saved(taken, saved)),
            given("points", n, "count", "hours before"),
            worth,
            given("reporting", float(fits[1].hours), "count", "hours after"),
        )
    except MainspringError:
        return None
