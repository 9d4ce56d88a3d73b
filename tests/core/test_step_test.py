"""Step tests: the model that made them comes back within its own confidence; what is no use is refused, and why."""

import math
import random

import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mainspring.core.benches.tuned import BEGIN_WITH, proposals
from mainspring.core.control.step_test import fit_step, second_opinions
from mainspring.core.errors import BadEntry
from mainspring.exchange.step_file import read_step_test

Test = tuple[list[float], list[float], list[float]]


def made(gain: float, tau: float, theta: float, noise: float = 0.0, step: float = 0.1, sample: float = 0.0) -> Test:
    """A test on an exact process: three tenths of it before the step, then till it has settled."""
    sample = sample or (tau + theta) / 40
    before = 20 * sample
    length = before + theta + 6 * tau
    draw = random.Random(7)
    t = [n * sample for n in range(int(length / sample) + 1)]
    u = [0.5 + (step if x >= before else 0.0) for x in t]
    y = [0.4 + gain * step * (1 - math.exp(-max(x - before - theta, 0.0) / tau)) + draw.gauss(0, noise) for x in t]
    return t, y, u


@settings(max_examples=25, deadline=None, derandomize=True)
@given(st.floats(0.3, 3.0), st.floats(1.0, 120.0), st.floats(0.1, 1.5))
def test_the_process_that_made_it_comes_back(gain: float, tau: float, share: float) -> None:
    fit = fit_step(*made(gain, tau, share * tau))
    assert fit.process_gain == pytest.approx(gain, rel=0.01)
    assert fit.time_constant == pytest.approx(tau, rel=0.03)
    assert fit.dead_time == pytest.approx(share * tau, abs=0.04 * tau)
    assert fit.explained > 0.999


@pytest.mark.parametrize("seed", range(6))
def test_with_noise_the_truth_lies_within_its_confidence(seed: int) -> None:
    t, y, u = made(1.2, 10.0, 2.0, 0.0)
    draw = random.Random(seed)
    fit = fit_step(t, [v + draw.gauss(0, 0.003) for v in y], u)
    for found, within, truth in (
        (fit.process_gain, fit.gain_within, 1.2),
        (fit.time_constant, fit.time_constant_within, 10.0),
        (fit.dead_time, fit.dead_time_within, 2.0),
    ):
        assert abs(found - truth) < 2.5 * within + 0.02 * truth
    assert 0.001 < fit.noise < 0.006


@pytest.mark.parametrize("gain", [1.2, -0.8])
def test_points_and_areas_read_the_same_process_off_as_the_dossier_has_them(gain: float) -> None:
    t, y, u = made(gain, 10.0, 2.0)
    seen = second_opinions(t, y, fit_step(t, y, u))
    points, areas = seen["two points, 35 and 85 %"], seen["areas"]
    assert (points.time_constant, points.dead_time) == (pytest.approx(9.929, abs=0.05), pytest.approx(2.12, abs=0.05))
    assert (areas.time_constant, areas.dead_time) == (pytest.approx(10.0, abs=0.2), pytest.approx(2.0, abs=0.2))


def test_a_falling_answer_has_a_negative_gain() -> None:
    assert fit_step(*made(-0.8, 20.0, 4.0)).process_gain == pytest.approx(-0.8, rel=0.01)


def changed(test: Test, **columns: list[float]) -> Test:
    t, y, u = test
    return columns.get("t", t), columns.get("y", y), columns.get("u", u)


GOOD = made(1.0, 10.0, 2.0, 0.001)


@pytest.mark.parametrize(
    ("test", "words"),
    [
        (changed(GOOD, u=[0.5] * len(GOOD[2])), "a step of 2% at least"),
        (changed(GOOD, u=[0.5 + 0.1 * (n % 7) / 7 for n in range(len(GOOD[2]))]), "step"),
        (made(1.0, 10.0, 2.0, 0.05), "five times the noise"),
        (changed(GOOD, y=[min(v, 0.45) / 0.45 for v in GOOD[1]]), "smaller step"),
        (tuple(c[: len(c) // 3] for c in GOOD), "settled"),
        (changed(GOOD, y=[v + (0.05 if 150 < n < 190 else 0.0) for n, v in enumerate(GOOD[1])]), "nothing else moves"),
        (changed(GOOD, t=[*GOOD[0][:5], *GOOD[0][4:-1]]), "rising times"),
        (tuple(c[:8] for c in GOOD), "12 at least"),
        (changed(GOOD, y=[math.nan, *GOOD[1][1:]]), "numbers"),
    ],
)
def test_a_test_that_is_no_use_is_refused_and_why(test: Test, words: str) -> None:
    with pytest.raises(BadEntry, match=words):
        fit_step(*test)


def test_rules_stand_side_by_side_and_the_one_to_begin_with_is_sound() -> None:
    found = {p.id: p for p in proposals(1.2, 10.0, 2.0)}
    assert len(found) == 7
    begin = found[BEGIN_WITH]
    assert begin.sound
    assert begin.margins is not None
    assert begin.margins.sensitivity < 1.3
    assert not found["open_loop_pi"].sound
    assert found["simc"].gain > begin.gain


@pytest.mark.parametrize(
    "text",
    [
        "time,pressure,Hz\n0,3.0,40\n1,3.1,40\n2,3.2,45\n",
        "t [s];Hz;bar\n0;40;3,0\n1;40;3,1\n2;45;3,2\n",
        "10:15:00\t3.0\t40\n10:15:01\t3.1\t40\n10:15:02\t3.2\t45\n",
        "0 3.0 40\n1 3.1 40\n2 3.2 45",
    ],
)
def test_a_table_is_read_however_it_is_laid_out(text: str) -> None:
    assert read_step_test(text) == ([0.0, 1.0, 2.0], [3.0, 3.1, 3.2], [40.0, 40.0, 45.0])


@pytest.mark.parametrize(("text", "words"), [("", "three columns"), ("0,1,2\n1,x,2", "row 2"), ("0,1,2\n1,2", "row 2")])
def test_a_table_that_is_none_names_its_row(text: str, words: str) -> None:
    with pytest.raises(BadEntry, match=words):
        read_step_test(text)
