"""Curves through points: the shape is kept, the ends are said, the machine's figures follow."""

import itertools
import math

import numpy as np
import pytest
from scipy.interpolate import PchipInterpolator

from mainspring.core.air.fan_points import fan_duty_on_points, fan_pressure_on_points, fan_speed_on_points
from mainspring.core.assess import assess
from mainspring.core.checks import Severity
from mainspring.core.derived import Derived
from mainspring.core.errors import NoSolution, OutOfRange
from mainspring.core.hydraulics.pump_points import duty_flow_on_points, head_on_points, speed_on_points
from mainspring.core.machine.rise import ParabolaPump, PumpPoints
from mainspring.core.points import cubics, meets, root
from tests.conftest import line_of
from tests.second_eye.lines import right_lines

# typical of catalogues, from memory, no maker's own [m³/h, m]
FLAT = ((0, 53.7), (10, 54.0), (20, 52.8), (30, 50.5), (40, 46.9), (50, 42.0), (60, 35.5), (70, 27.0))
STEEP = ((0, 152.0), (6, 148.0), (12, 131.0), (17, 105.0), (20, 84.0))
FLATTEST = ((0, 40.0), (20, 39.8), (40, 39.2), (60, 37.5), (80, 33.0))
ALL = (FLAT, STEEP, FLATTEST)


def of(points: tuple[tuple[float, float], ...]) -> tuple[tuple[float, ...], tuple[float, ...]]:
    return tuple(q / 3600 for q, _ in points), tuple(h for _, h in points)


@pytest.mark.parametrize("points", ALL)
def test_it_is_the_monotone_cubic_of_scipy(points: tuple[tuple[float, float], ...]) -> None:
    flows, heads = of(points)
    curve, known = cubics(flows, heads), PchipInterpolator(flows, heads)
    along = np.linspace(0.0, flows[-2], 300)  # the last piece may be bent to fall on beyond its end
    assert [curve.at(q) for q in along] == pytest.approx(list(known(along)), rel=1e-12)
    assert [curve.at(q) for q in flows] == pytest.approx(list(heads), rel=1e-12)


@pytest.mark.parametrize("points", ALL)
def test_it_never_swings_beyond_two_neighbours_and_falls_on_beyond_the_last(
    points: tuple[tuple[float, float], ...],
) -> None:
    flows, heads = of(points)
    curve = cubics(flows, heads)
    for (q1, h1), (q2, h2) in itertools.pairwise(zip(flows, heads, strict=True)):
        between = [curve.at(q1 + (q2 - q1) * i / 20) for i in range(21)]
        assert min(between) >= min(h1, h2) - 1e-9
        assert max(between) <= max(h1, h2) + 1e-9
    assert curve.at(1.1 * flows[-1]) < heads[-1]
    assert curve.at(curve.run_out) == pytest.approx(0.0, abs=1e-9)


def test_points_in_any_order_or_without_shut_off_are_one_curve() -> None:
    flows, heads = of(STEEP)
    assert cubics(flows[::-1], heads[::-1]) == cubics(flows, heads)
    late = cubics(flows[1:], heads[1:])
    assert late.flows[0] == 0.0
    assert heads[1] <= late.rises[0] <= 1.1 * heads[0]


@pytest.mark.parametrize(
    ("flows", "heads", "why"),
    [
        ((0.0, 1.0), (10.0, 9.0), "at least three points"),
        ((0.0, 1.0, 1.0000001), (10.0, 9.0, 8.0), "at least three points"),
        ((0.0, 1.0, 2.0), (10.0, 11.0, 12.0), "do not make a curve that falls"),
        ((0.0, 1.0, 2.0), (10.0, 9.0, 13.0), "do not make a curve that falls"),
        ((0.0, 1.0, 2.0), (0.0, 0.0, 0.0), "do not make a curve that falls"),
        ((-1.0, 1.0, 2.0), (10.0, 9.0, 8.0), "flows from zero up"),
        ((0.0, 1.0, math.nan), (10.0, 9.0, 8.0), "flows from zero up"),
        ((0.0, 1.0, 2.0), (10.0, 9.0), "a value for every flow"),
    ],
)
def test_what_is_no_curve_is_refused_with_why(flows: tuple[float, ...], heads: tuple[float, ...], why: str) -> None:
    with pytest.raises((OutOfRange, NoSolution), match=why):
        cubics(flows, heads)


@pytest.mark.parametrize("points", ALL)
@pytest.mark.parametrize("ratio", [0.5, 0.83, 1.0, 1.2])
def test_the_affinity_laws_hold_and_turn_round(points: tuple[tuple[float, float], ...], ratio: float) -> None:
    flows, heads = of(points)
    curve = cubics(flows, heads)
    for share in (0.0, 0.3, 0.7, 1.0):
        flow = share * flows[-1] * ratio
        head = head_on_points(flow, ratio, flows, heads)
        assert head == pytest.approx(ratio**2 * curve.at(flow / ratio), rel=1e-12)  # ANSI/HI 14.3, affinity
        assert speed_on_points(flow, head, flows, heads) == pytest.approx(ratio, rel=1e-9)
    duty = duty_flow_on_points(ratio, flows, heads, 0.3 * heads[0] * ratio**2, 2e5)
    assert head_on_points(duty, ratio, flows, heads) == pytest.approx(
        0.3 * heads[0] * ratio**2 + 2e5 * duty**2, rel=1e-9
    )
    assert fan_pressure_on_points(duty, ratio, flows, heads, 0.9) == pytest.approx(
        0.9 * head_on_points(duty, ratio, flows, heads), rel=1e-12
    )
    assert fan_speed_on_points(
        duty, 0.9 * head_on_points(duty, ratio, flows, heads), flows, heads, 0.9
    ) == pytest.approx(ratio, rel=1e-9)


def test_of_two_flows_of_a_drooping_curve_the_stable_one_is_taken() -> None:
    flows, heads = of(FLAT)
    duty = duty_flow_on_points(1.0, flows, heads, 53.7, 0.0)
    assert duty > flows[1]
    with pytest.raises(NoSolution, match="no water moves"):
        duty_flow_on_points(1.0, flows, heads, 53.8, 0.0)
    with pytest.raises(NoSolution, match="it moves no air"):
        fan_duty_on_points(1.0, flows, heads, 60.0, 0.0)


def test_a_root_is_found_and_none_where_there_is_none() -> None:
    assert root(lambda x: 2.0 - x * x, 2.0, 0.0) == pytest.approx(math.sqrt(2), rel=1e-10)
    assert meets(lambda x: 1.0 - x, 4.0) == pytest.approx(1.0, rel=1e-10)
    assert meets(lambda x: -1.0 - x, 4.0) is None


def test_a_parabola_is_kept_where_it_is_the_curve_and_cubics_elsewhere() -> None:
    kinds = {name: type(Derived(line_of(r)).machine.curve) for name, r in right_lines().items()}
    assert kinds["drooping_curve_booster"] is PumpPoints
    flows, heads = of(STEEP)
    assert kinds["borehole_7.5kW"] in (PumpPoints, ParabolaPump)
    record = right_lines()["borehole_7.5kW"]
    exact = [[q, 150.0 - 2.1e6 * q * q] for q in flows]
    record["machine"]["curve"] = {"value": exact}
    assert type(Derived(line_of(record)).machine.curve) is ParabolaPump
    assert heads[0] == 152.0


def test_an_ordinary_catalogue_curve_is_judged_by_every_check() -> None:
    for name, record in right_lines().items():
        findings = assess(line_of(record)).findings
        assert [
            f.because.text() for f in findings if "curve" in f.because.text() and "make" in f.because.text()
        ] == [], name


def test_a_drooping_curve_that_would_hunt_is_said_and_a_flat_one_is_not() -> None:
    record = right_lines()["drooping_curve_booster"]

    def droops() -> bool:
        cautions = [f.title for f in assess(line_of(record)).findings if f.severity is Severity.CAUTION]
        return "The curve droops towards no flow" in cautions

    assert not droops()
    record["machine"]["curve"]["value"][0][1] = 52.5
    assert not droops()
    record["machine"]["curve"]["value"][0][1] = 52.3
    assert droops()


def test_a_curve_that_only_falls_is_not_drawn_as_drooping() -> None:
    for name, record in right_lines().items():
        line = line_of(record)
        if not (line.has("machine.curve") or line.has("machine.air_curve")):
            continue
        curve = Derived(line).machine.curve
        rows = sorted(record["machine"].get("curve", record["machine"].get("air_curve"))["value"])
        falls = rows[0][1] == max(y for _, y in rows)
        assert (curve.peak[1] <= float(curve.c0) * 1.0006) or not falls, name
