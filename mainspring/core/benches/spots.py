"""The saving by spot readings: power read at a few duties before and now, over hours that were not measured.

Option A of the guidelines of measurement and verification: what was read is known, the hours are stipulated, and a
level at whose flow nothing was read is not claimed.
"""

import math
from dataclasses import dataclass
from typing import Annotated

from mainspring.core.benches.savings.duty import Asked, asked_of
from mainspring.core.energy.annual import energy_of_profile, energy_saved, saving_fraction
from mainspring.core.errors import NoSolution, NotKnown, OutOfRange
from mainspring.core.line import Line
from mainspring.core.measured.guideline import bin_saving
from mainspring.core.measured.saving import uncertainty_share
from mainspring.core.method import Figure, In, Leaf, assume, given, method
from mainspring.core.quantity import DIMENSIONS, CubicMetrePerSecond, InputWatt, Joule, Percent
from mainspring.core.uncertainty.propagate import GUM, coverage_factor, of_difference, rectangular_uncertainty

REACH = 0.05  # of the span of flows read, beyond which nothing is claimed
METER, FLOW_METER, HOURS = 0.01, 0.02, 0.10  # largest errors where none was entered


@method("P = P_1 + (P_2 - P_1) * (Q - Q_1) / (Q_2 - Q_1)", GUM)
def power_between(
    first: Annotated[InputWatt, In("power read at the first flow", "P_1")],
    second: Annotated[InputWatt, In("power read at the second flow", "P_2")],
    flow: Annotated[CubicMetrePerSecond, In("asked for", "Q")],
    flow_1: Annotated[CubicMetrePerSecond, In("of the first reading", "Q_1")],
    flow_2: Annotated[CubicMetrePerSecond, In("of the second, another one", "Q_2")],
) -> InputWatt:
    """Power at a flow, on the straight line through two readings.

    >>> float(power_between(8000, 10000, 0.015, 0.01, 0.02))
    9000.0
    """
    if flow_1 == flow_2:
        raise OutOfRange("flow 2", flow_2, "another than the first")
    return first + (second - first) * (flow - flow_1) / (flow_2 - flow_1)


@method("U = k * sqrt(u_P**2 + u_Q**2 + u_t**2)", GUM)
def spot_uncertainty(
    factor: Annotated[float, In("normal quantile of the confidence", "k", above=0)],
    power_meter: Annotated[Joule, In("standard uncertainty by the power meters", "u_P", atleast=0)],
    flow_meter: Annotated[Joule, In("by the flow meter", "u_Q", atleast=0)],
    hours: Annotated[Joule, In("by the hours that were not measured", "u_t", atleast=0)],
) -> Joule:
    """Half the interval of a saving by spot readings.

    >>> round(spot_uncertainty(2.0, 3.0, 0.0, 4.0), 6)
    10.0
    """
    return factor * math.sqrt(power_meter**2 + flow_meter**2 + hours**2)


@method("u_t = u * E", GUM)
def uncertainty_by_hours(
    relative: Annotated[Percent, In("standard uncertainty of the hours", "u", atleast=0)],
    saved: Annotated[Joule, In("", "E")],
) -> Joule:
    """What hours that were not measured make uncertain.

    >>> float(uncertainty_by_hours(0.05, 100.0))
    5.0
    """
    return relative * abs(saved)


@dataclass(frozen=True)
class SpotLevel:
    """One level of the year: power before and now as read, or why none is claimed."""

    flow: Figure
    hours: Figure
    before: Figure | None
    now: Figure | None
    why: str


@dataclass(frozen=True)
class Spots:
    """What spot readings carry."""

    levels: tuple[SpotLevel, ...]
    saved: Figure
    fraction: Figure
    half: Figure
    share: Figure | None
    parts: tuple[tuple[str, Figure], ...]
    confidence: float
    seconds: float
    seconds_all: float
    instruments: str


def spots_of(line: Line) -> Spots:
    """The saving by the line's spot readings.

    Raises NotKnown where readings of a side or the hours are missing, NoSolution where no level was read both times.
    """
    air = "fan" in line.traits
    proof = line.proof
    before = proof.air_spots_before if air else proof.spots_before
    now = proof.air_spots_after if air else proof.spots_after
    asked = asked_of(line)
    levels = tuple(_level(one, before, now, "air_flow" if air else "flow") for one in asked)
    used = [level for level in levels if level.before is not None and level.now is not None]
    if not used:
        raise NoSolution(f"no flow of the year was read both times: {levels[0].why}")
    hours = [level.hours for level in used]
    first, second = [level.before for level in used if level.before], [level.now for level in used if level.now]
    saved = bin_saving(hours, first, second)
    taken = energy_of_profile(first, hours)
    confidence = float(line.value("proof.confidence") or "90") / 100
    parts = _parts(line, used, saved, before, now)
    factor = coverage_factor(given("confidence", confidence, "percent"))
    half = spot_uncertainty(factor, *(figure for _, figure in parts))
    return Spots(
        levels=levels,
        saved=saved,
        fraction=saving_fraction(taken, energy_saved(taken, saved)),
        half=half,
        share=uncertainty_share(half, saved) if saved > 0 else None,
        parts=parts,
        confidence=confidence,
        seconds=sum(hours),
        seconds_all=sum(float(one.hours) for one in asked),
        instruments=str(line.value("proof.instruments") or ""),
    )


Rows = tuple[tuple[Figure, ...], ...]


def _level(asked: Asked, before: Rows, now: Rows, dimension: str) -> SpotLevel:
    powers, whys = [], []
    for name, rows in (("before", before), ("now", now)):
        try:
            powers.append(_read_at(rows, asked.flow, name, dimension))
        except NoSolution as gap:
            whys.append(gap.tellings)
    if whys:
        return SpotLevel(asked.flow, asked.hours, None, None, "; ".join(whys))
    return SpotLevel(asked.flow, asked.hours, powers[0], powers[1], "")


def _read_at(rows: Rows, flow: Figure, name: str, dimension: str) -> Figure:
    """Power by the readings about a flow. Raises NoSolution where they do not reach it."""
    if not rows:
        raise NotKnown("proof.spots", f"spot readings {name}")
    by_flow = sorted(rows, key=lambda row: row[0])
    low, high = by_flow[0][0], by_flow[-1][0]
    reach = max(REACH * (high - low), REACH * float(flow))
    if not low - reach <= flow <= high + reach:
        show = DIMENSIONS[dimension].tellings
        raise NoSolution(f"{name} was read from {show(float(low))} to {show(float(high))} only")
    if len(by_flow) == 1:
        return by_flow[0][1]
    above = next((i for i, row in enumerate(by_flow) if row[0] >= flow), len(by_flow) - 1)
    a, b = by_flow[max(0, above - 1)], by_flow[max(1, above)]
    if a[0] == b[0]:
        return a[1]
    return power_between(a[1], b[1], flow, a[0], b[0])


def _entered(line: Line, name: str, usual: float, why: str) -> Figure:
    if line.has(f"proof.{name}"):
        return line.figure(f"proof.{name}")
    return assume(f"proof.{name}", usual, "percent", why)


def _parts(line: Line, used: list[SpotLevel], saved: Figure, before: Rows, now: Rows) -> tuple[tuple[str, Figure], ...]:
    limits = [
        rectangular_uncertainty(_entered(line, name, METER, "a class 1 meter"))
        for name in ("meter_before", "meter_after")
    ]
    seconds = [float(level.hours) for level in used]
    taken = [
        sum(t * float(p) for t, p in zip(seconds, powers, strict=True))
        for powers in ([x.before or 0.0 for x in used], [x.now or 0.0 for x in used])
    ]
    alike = line.value("proof.same_meters") != "no"
    meter = of_difference([float(limit) for limit in limits], taken, alike=alike)
    how = (
        "the same meters both times: what they show wrong is wrong alike"
        if alike
        else "two meters, wrong independently"
    )
    flow = rectangular_uncertainty(_entered(line, "flow_meter", FLOW_METER, "a good ultrasonic meter"))
    moved = float(flow) * abs(sum(t * float(x.flow) * _slope(before, now) for t, x in zip(seconds, used, strict=True)))
    hours = rectangular_uncertainty(_entered(line, "hours_accuracy", HOURS, "hours that nobody measured"))

    def figure(name: str, label: str, value: float, why: str) -> Figure:
        return Figure(value, Leaf(f"proof.{name}", label, "energy", "measured", why))

    return (
        ("By the power meters", figure("by_power", "By the power meters", meter, how)),
        ("By the flow meter", figure("by_flow", "By the flow meter", moved, "along both rows of readings")),
        ("By the hours", uncertainty_by_hours(hours, saved)),
    )


def _slope(before: Rows, now: Rows) -> float:
    """How the difference of both powers goes with the flow [W/(m³/s)]."""

    def of(rows: Rows) -> float:
        low, high = min(rows, key=lambda r: r[0]), max(rows, key=lambda r: r[0])
        return float((high[1] - low[1]) / (high[0] - low[0])) if high[0] > low[0] else 0.0

    return of(before) - of(now)
