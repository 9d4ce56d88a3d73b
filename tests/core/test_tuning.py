"""Tuning against python-control, and against what must hold of any model: forms there and back, order of the rules."""

import math

import control
import numpy as np
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mainspring.core.benches.tuned import in_drive_forms, level_proposals, swing_proposals
from mainspring.core.control import forms, identify, margins, rules, tuning
from mainspring.core.errors import MainspringError, NoSolution, OutOfRange

Model = tuple[float, float, float]
MODELS = st.tuples(st.floats(0.2, 5.0), st.floats(0.5, 200.0), st.floats(0.05, 2.0)).map(
    lambda m: (m[0], m[1], m[1] * m[2])  # gain, time constant, dead time as a share of it
)


def of_library(model: Model, gain: float, integral: float, derivative: float = 0.0) -> tuple[float, float]:
    """Gain and phase margin by python-control, the delay as frequency data."""
    k, tau, theta = model
    omega = np.geomspace(1e-4 / max(tau, integral), 10 * math.pi / theta, 1500)
    s = 1j * omega
    loop = gain * (1 + 1 / (s * integral) + s * derivative) * k * np.exp(-s * theta) / (1 + s * tau)
    gm, pm, _, _ = control.margin(control.FRD(loop, omega, smooth=True))
    return float(gm), float(pm)


@pytest.mark.parametrize("model", [(2.0, 10.0, 2.0), (0.5, 3.0, 3.0), (1.4, 60.0, 4.0), (3.0, 1.0, 1.8)])
def test_margins_are_those_of_the_library(model: Model) -> None:
    for gains in (tuning.simc_pi(*model, model[2]), rules.amigo_pi(*model), rules.amigo_pid(*model)):
        found = margins.loop_margins(*model, *gains)
        gm, pm = of_library(model, *(float(g) for g in gains))
        assert found.gain_margin == pytest.approx(gm, rel=2e-3)
        assert found.phase_margin == pytest.approx(pm, abs=0.3)


@settings(max_examples=60, deadline=None, derandomize=True)
@given(MODELS)
def test_at_the_ultimate_gain_the_margin_is_one(model: Model) -> None:
    ultimate = margins.ultimate_of_process(*model)
    # proportional alone: an integral so slow that it takes no part
    held = margins.loop_margins(*model, 0.5 * ultimate.gain, min(1e3 * ultimate.period, 1e4 * model[1]))
    assert held.gain_margin == pytest.approx(2.0, rel=0.02)
    with pytest.raises(NoSolution, match="not stable"):
        margins.loop_margins(*model, 1.05 * ultimate.gain, min(1e3 * ultimate.period, 1e4 * model[1]))


@settings(max_examples=60, deadline=None, derandomize=True)
@given(MODELS, st.floats(1.0, 3.0), st.floats(1.5, 4.0))
def test_the_slower_the_loop_is_asked_for_the_more_robust(model: Model, wanted: float, slower: float) -> None:
    one = margins.loop_margins(*model, *tuning.simc_pi(*model, wanted * model[2]))
    two = margins.loop_margins(*model, *tuning.simc_pi(*model, wanted * slower * model[2]))
    assert two.gain_margin > one.gain_margin
    assert two.sensitivity <= one.sensitivity * 1.001
    assert one.sensitivity < 1.75  # SIMC at a closed-loop time of one dead time prints 1.59 to 1.70 (2003, table 1)


@given(st.floats(0.01, 50), st.floats(0.1, 500), st.floats(0.0, 0.25))
def test_series_and_ideal_form_are_one_there_and_back(gain: float, integral: float, share: float) -> None:
    ideal = (gain, integral, integral * share)
    series = forms.series_of_ideal(*ideal)
    assert tuple(forms.ideal_of_series(*series)) == pytest.approx(ideal, rel=1e-7, abs=1e-7 * integral)


@given(MODELS)
def test_two_points_of_an_exact_response_give_its_model_back(model: Model) -> None:
    _, tau, theta = model
    early = [identify.time_to_share(tau, theta, x) for x in (0.283, 0.632)]
    late = [identify.time_to_share(tau, theta, x) for x in (0.353, 0.853)]
    # the published coefficients are rounded: 0.05 % and 0.7 % of the time constant (Smith; Sundaresan)
    assert tuning.two_point_identification(*early).time_constant == pytest.approx(tau, rel=1e-3)
    assert identify.late_points_identification(*late).time_constant == pytest.approx(tau, rel=0.01)
    assert identify.late_points_identification(*late).dead_time == pytest.approx(theta, abs=0.013 * tau + 0.02 * theta)


@given(st.floats(0.5, 50), st.floats(0.5, 50), st.floats(0, 20), st.floats(0.01, 0.99))
def test_two_lags_are_slower_than_the_larger_and_faster_than_both_in_one(
    one: float, two: float, dead: float, share: float
) -> None:
    found = identify.time_to_share_of_two(one, two, dead, share)
    assert identify.time_to_share(max(one, two), dead, share) <= found * (1 + 1e-9)
    assert found >= dead
    half = identify.half_rule(one, two, dead)
    assert half.time_constant + half.dead_time == pytest.approx(one + two + dead, rel=1e-12)


def test_a_step_of_the_loop_is_that_of_its_delay_equation() -> None:
    """With T_i = tau the loop is y' = (1 - y(t - theta)) / (tau_c + theta): integrated here on its own."""
    theta, total, n = 2.0, 4.0, 2000
    step = theta / n
    y = [0.0] * (n + 1)
    while len(y) < 40 * n:
        y.append(y[-1] + step * (1.0 - 0.5 * (y[-n - 1] + y[-n])) / total)
    tenth, ninth = (next(i for i, v in enumerate(y) if v >= level) * step for level in (0.1, 0.9))
    found = margins.loop_step(2.0, 10.0, theta, 1.25, 10.0)
    assert found.overshoot == pytest.approx(max(y) - 1.0, rel=0.02)
    assert found.rise_time == pytest.approx(ninth - tenth, rel=0.005)


@pytest.mark.parametrize("gains", [(8.5, 10.0), (1.25, 0.05)])
def test_a_loop_that_swings_up_is_refused(gains: tuple[float, float]) -> None:
    with pytest.raises(MainspringError, match="not stable"):
        margins.loop_step(2.0, 10.0, 2.0, *gains)


@given(MODELS)
def test_areas_of_an_exact_response_give_its_model_back(model: Model) -> None:
    """Under a first-order response stand K (tau + theta) to the end, and K tau / e up to tau + theta."""
    k, tau, theta = model
    found = identify.area_identification(k * (tau + theta), k * tau / math.e, k)
    assert found.time_constant == pytest.approx(tau, rel=1e-9)
    assert found.dead_time == pytest.approx(theta, rel=1e-6, abs=1e-9 * tau)


def test_a_relay_tells_the_ultimate_gain_of_a_real_swing() -> None:
    """A relay on the process of the dossier, simulated here: the describing function is good to a fifth."""
    k, tau, theta, step = 2.0, 10.0, 2.0, 0.005
    delayed = [0.0] * int(theta / step)
    y, sign, values = 0.0, 1.0, []
    for n in range(int(120 / step)):
        sign = -1.0 if y > 0 else 1.0
        slot = n % len(delayed)
        acting, delayed[slot] = delayed[slot], 0.05 * sign
        y += step * (k * acting - y) / tau
        values.append(y)
    late = values[len(values) // 2 :]
    crossings = [i * step for i in range(1, len(late)) if late[i - 1] <= 0 < late[i]]
    period = (crossings[-1] - crossings[0]) / (len(crossings) - 1)
    exact = margins.ultimate_of_process(k, tau, theta)
    assert float(identify.relay_gain(0.05, max(late))) == pytest.approx(float(exact.gain), rel=0.2)
    assert period == pytest.approx(float(exact.period), rel=0.1)


def test_a_level_is_averaged_or_held_tight() -> None:
    # 20 L/s, 4 m², 5 m: k' = 0.001 (dossier 10.2); averaging uses 40 % of the span for all the output
    calm, tight = (p for p in level_proposals(0.001, 5.0, 0.2) if p.id != "averaging")
    average = next(p for p in level_proposals(0.001, 5.0, 0.2) if p.id == "averaging")
    assert average.gain == pytest.approx(2.5, rel=1e-9)
    assert (calm.gain, calm.integral_time) == (pytest.approx(8.0, rel=1e-9), pytest.approx(500.0, rel=1e-9))
    assert (tight.gain, tight.integral_time) == (pytest.approx(40.0, rel=1e-9), pytest.approx(100.0, rel=1e-9))


def test_a_swing_tells_the_limit_and_the_calm_half_is_to_begin_with() -> None:
    # the process of the dossier (2, 10 s, 2 s): 4.25 at 7.44 s; a relay of 5 % then swings the value by 1.5 %
    calm, pi, pid = swing_proposals(0.05, 0.015, 0.0, 7.44)
    assert pi.gain == pytest.approx(0.45 * 4.244, rel=1e-3)
    assert calm.gain == pytest.approx(pi.gain / 2, rel=1e-9)
    assert pid.derivative_time == pytest.approx(0.93, rel=1e-9)
    assert [p.sound for p in (calm, pi, pid)] == [True, False, False]


def test_the_gains_in_the_forms_that_drives_use() -> None:
    ideal, series, parallel = in_drive_forms(2.0, 8.0, 1.0)
    assert series.gain == pytest.approx(1.707107, abs=1e-6)  # dossier 10.3
    assert (ideal.proportional_band, ideal.repeats_per_minute) == (0.5, 7.5)
    assert (parallel.integral_gain, parallel.derivative_gain) == (0.25, 2.0)
    counted, *_ = in_drive_forms(2.0, 8.0, 0.0, output_share=2.0, feedback_share=0.5)
    assert counted.gain == pytest.approx(0.5, rel=1e-12)
    assert in_drive_forms(2.0, 3.0, 1.0)[1].gain is None  # no series form where the derivative is long
    with pytest.raises(OutOfRange, match="gain is 0"):
        in_drive_forms(0.0, 3.0, 1.0)
