"""The loop kernel on the booster: the laws it keeps, the story it tells, the same numbers uncompiled and in C."""

import hashlib
import json
import os
import subprocess
import sys
from pathlib import Path
from typing import Any

import numpy as np
import pytest
from hypothesis import HealthCheck, given, settings
from hypothesis import strategies as st

from benchmarks import loop as in_c
from mainspring.core.derived import Derived
from mainspring.core.errors import BadEntry, NoSolution, NotKnown, OutOfRange
from mainspring.core.hydraulics.tank import tank_drawdown
from mainspring.core.line import Line
from mainspring.core.method import given as figure
from mainspring.core.simulation import Trial, kernel, try_line
from mainspring.core.simulation.demand import Profile
from mainspring.core.simulation.judge import judge
from mainspring.core.simulation.plants import Happens
from mainspring.core.simulation.trial import ready, run_trial, why
from mainspring.core.told import told
from tests.conftest import line_of


def trial(
    line: Line, duration: float = 600.0, steps: Any = None, happens: Happens | None = None, **moved: float
) -> Trial:
    """The booster tried; demand in m³/s from each time on."""
    full = float(line.machine.duty_flow)
    own = None if steps is None else [(t, q / full) for t, q in steps]
    return try_line(line, moved, own=own, duration=duration, happens=happens)


def titles(line: Line, ran: Trial) -> set[str]:
    return {m.verdict.title for m in judge(line, Derived(line), ran)}


def test_at_steady_demand_it_settles_where_algebra_says(booster: Line) -> None:
    derived = Derived(booster)
    ran = trial(booster, 200.0, [(0, 0.007)])
    flow = figure("flow", 0.007, "flow")
    expected = derived.machine.speed_for(flow, derived.pump.setpoint_head) * 50
    assert ran.frequency[-50:].mean() == pytest.approx(expected, rel=2e-3)
    assert ran.value[-50:].mean() == pytest.approx(4e5, rel=2e-3)
    assert ran.flow[-50:].mean() == pytest.approx(0.007, rel=5e-3)


def test_the_story_holds_sleeps_and_wakes(booster: Line) -> None:
    ran = trial(booster)
    assert [e.name for e in ran.events][:3] == ["boost", "sleep", "wake"]
    sleep = next(e.time for e in ran.events if e.name == "sleep")
    ends = next(t for t, q in ran.profile.steps if q < 0.01)
    assert ends + 20 <= sleep <= ends + 60
    assert {"It holds", "It rests"} <= titles(booster, ran)


def test_all_three_conditions_are_needed_to_sleep(booster: Line) -> None:
    def slept(ran: Trial) -> bool:
        return any(e.name == "sleep" for e in ran.events)

    assert slept(trial(booster, 300.0, [(0, 0.006), (30, 1e-5)]))
    assert not slept(trial(booster, 300.0, [(0, 0.006), (30, 1e-5)], sleep_delay=600.0))
    assert not slept(trial(booster, 300.0, [(0, 0.006), (30, 1e-5)], sleep_below=30.0))
    assert not slept(trial(booster, 300.0, [(0, 0.0075)]))  # above the sleep frequency while water is drawn


def test_with_the_low_limit_below_hold_sleep_is_called_chance(booster: Line) -> None:
    hold = float(Derived(booster).hold_frequency)
    moved = {"low_limit": hold - 6, "lowest": 15.0, "sleep_below": hold - 5.5}
    assert {"It cannot sleep", "Sleep is left to chance"} & titles(booster, trial(booster, **moved))


def test_a_wild_gain_hunts_and_is_called_so_with_its_period(booster: Line) -> None:
    ran = trial(booster, gain=400.0, integral_time=0.05)
    said = next(m for m in judge(booster, Derived(booster), ran) if m.verdict.title == "It hunts")
    assert "pid.gain" in said.settings
    assert 0.1 < said.verdict.because.figures["period"] < 60


def test_a_setpoint_above_the_pump_is_refused_and_one_at_its_end_is_not_reached(booster: Line) -> None:
    with pytest.raises(NoSolution, match="never hold the setpoint"):
        trial(booster, setpoint=9e5)
    ran = trial(booster, 600.0, [(0, 0.012)], setpoint=5.2e5)
    assert "It cannot reach the setpoint" in titles(booster, ran)


@pytest.mark.parametrize(
    ("moved", "match"),
    [
        ({"integral_time": 0.0}, "integral time in s is 0"),
        ({"gain": float("nan")}, "gain"),
        ({"tempo": 1.0}, "knob is tempo"),
    ],
)
def test_a_knob_that_cannot_be_names_itself(booster: Line, moved: dict[str, float], match: str) -> None:
    with pytest.raises(BadEntry, match=match):
        try_line(booster, moved)


def test_a_duration_out_of_range_is_refused(booster: Line) -> None:
    with pytest.raises(OutOfRange, match="duration"):
        trial(booster, 0.0)


def test_a_record_without_sensor_says_what_it_needs(records: dict[str, Any]) -> None:
    del records["booster"]["sensor"]
    with pytest.raises(NotKnown, match="range"):
        try_line(line_of(records["booster"]))


# laws


@settings(max_examples=40, deadline=None, suppress_health_check=[HealthCheck.function_scoped_fixture])
@given(
    gain=st.floats(0.05, 60),
    integral=st.floats(0.1, 60),
    tank=st.sampled_from([0.0, 0.02, 0.2, 1.0]),
    lost=st.floats(0, 10),
    shares=st.lists(st.floats(0, 1.4), min_size=1, max_size=5),
    noise=st.floats(0, 0.02),
)
def test_laws_of_any_loop(
    booster: Line, gain: float, integral: float, tank: float, lost: float, shares: list[float], noise: float
) -> None:
    moved = {"gain": gain, "integral_time": integral, "tank_volume": tank, "lost_before": lost, "noise": noise}
    _, derived, setup = ready(booster, moved)
    steps = tuple((30.0 * i, q) for i, q in enumerate(shares))
    rows = 30 * 20 * len(shares)
    ran = run_trial(setup, Profile("any", "Any", steps, 30.0 * len(shares)), rows=rows)
    totals, plant = ran.totals, setup.config.plant
    # no water from nothing: what was pumped less what was taken stands in tank and pipe
    begun = kernel.stored_at(plant, setup.config.control.setpoint)
    assert totals["pumped"] - totals["taken"] == pytest.approx(
        totals["stored"] - begun, abs=1e-6 * max(totals["pumped"], 1e-3)
    )
    assert ran.value[-1] == pytest.approx(kernel.pressure_at(plant, totals["stored"]), rel=1e-9, abs=1e-6)
    # pressure stays between nothing and the most that the pump makes, at the top of its curve; the linearised step may
    # pass it by a hair where stiff pipes shut at once
    most = (plant.c0 - max(plant.c1, 0.0) ** 2 / (4 * plant.c2) - plant.lift) * plant.weight
    assert ran.value.min() >= 0
    assert totals["highest"] <= max(most, setup.config.control.setpoint) * 1.005
    # energy is the integral of power, and power is never less than what the water carries off
    assert totals["energy"] == pytest.approx(float(ran.power.sum()) * 0.05, rel=1e-9, abs=1e-6)
    assert (ran.flow >= 0).all()
    rates = np.diff(ran.frequency) / 0.05 / setup.base
    assert rates.max(initial=0) <= 1 / setup.knobs["ramp_up"] + 1e-9
    assert rates.min(initial=0) >= -1 / setup.knobs["ramp_down"] - 1e-9
    # it does not sleep while more is asked than it can bring
    short = float(derived.flow_holding(setup.config.control.setpoint, setup.base)) / setup.full
    if min(shares) > 1.05 * short:
        assert not any(e.name == "sleep" for e in ran.events)


@pytest.mark.published("Boyle's law, isothermal")
def test_a_tank_gives_what_boyle_says_before_the_drive_wakes(booster: Line) -> None:
    ran = trial(booster, 20_000.0, [(0, 2e-5)])
    begin = next(e.time for e in ran.events if e.name == "sleep") + 60.0  # run down, the check valve shut
    end = next(e.time for e in ran.events if e.name == "wake") - 60.0
    still = (ran.times >= begin) & (ran.times <= end)
    high, low = ran.value[still][0], ran.value[still][-1]
    taken = float(np.trapezoid(ran.taken[still], ran.times[still]))
    given_by_pipe = ran.setup.config.plant.elastic * (high - low)
    tank = 0.18 * float(tank_drawdown(2.6e5, low, high))
    assert taken == pytest.approx(tank + given_by_pipe, rel=1e-3)
    assert ran.flow[still].max() == 0


# the drive


def test_a_broken_wire_stops_it_or_goes_unseen_without_a_live_zero(booster: Line, records: dict[str, Any]) -> None:
    broken = Happens(lost_from=100.0)
    ran = trial(booster, happens=broken)
    assert [e.name for e in ran.events] == ["signal lost"]
    assert ran.frequency[-1] == 0
    records["booster"]["sensor"]["signal"] = "0-10V"
    blind = line_of(records["booster"])
    ran = trial(blind, 300.0, [(0, 0.006)], happens=broken)
    assert ran.frequency[-1] == pytest.approx(50.0, abs=0.1)  # it reads nothing, and drives to full speed
    assert "A broken wire is not seen" in titles(blind, ran)


def test_events_say_why_with_their_numbers(booster: Line) -> None:
    ran = trial(booster)
    words = {e.name: told(why(e, ran), "si") for e in ran.events}
    assert words["boost"] == f"held, and below {ran.setup.knobs['sleep_below']:.3g} Hz for 20 s"


def test_a_dry_pump_is_tripped_tried_again_and_locked_out(booster: Line) -> None:
    ran = trial(booster, 3600.0, [(0, 0.006)], happens=Happens(dry_from=60.0))
    assert [e.name for e in ran.events if "dry" in e.name or "lock" in e.name] == ["dry, trip"] * 3 + ["locked out"]
    assert [e.name for e in ran.events].count("retry") == 3
    assert "Dry running is seen" in titles(booster, ran)
    recovered = trial(booster, 3600.0, [(0, 0.006)], happens=Happens(dry_from=60.0, dry_until=300.0))
    assert [e.name for e in recovered.events].count("dry, trip") == 1
    assert recovered.value[-1] == pytest.approx(4e5, rel=0.01)


def test_an_empty_line_is_filled_before_it_is_controlled(booster: Line) -> None:
    ran = trial(booster, 400.0, [(0, 0.007)], happens=Happens(filling=True))
    assert ran.value[0] < 2e5
    assert ran.events[0].name == "filled"
    assert ran.value[-1] == pytest.approx(4e5, rel=0.01)


def test_the_second_setpoint_is_held_while_its_contact_is_closed(booster: Line) -> None:
    ran = trial(booster, 300.0, [(0, 0.007)], happens=Happens(second_from=150.0, second=3.5e5))
    assert ran.value[ran.times < 150].mean() == pytest.approx(4e5, rel=0.01)
    assert ran.value[-50:].mean() == pytest.approx(3.5e5, rel=0.01)


def test_from_hand_to_automatic_there_is_no_bump(booster: Line) -> None:
    _, _, setup = ready(booster, {})
    control = setup.config.control._replace(hand_until=100.0)
    led = run_trial(setup.but(control=control), Profile("p", "P", ((0, 0.6),), 101.0), rows=2020)
    hands = run_trial(setup, Profile("p", "P", ((0, 0.6),), 60.0), rows=1200, hands=((0.0, 0.9), (30.0, 0.92)))
    assert hands.frequency[-1] == pytest.approx(46.0, abs=1e-6)
    at = int(100.0 / 0.05)
    assert abs(led.frequency[at] - led.frequency[at - 1]) < 0.3


def test_a_ramp_beyond_the_torque_runs_into_the_current_limit(booster: Line) -> None:
    _, _, setup = ready(booster, {"ramp_up": 0.5})
    heavy = setup.but(drive=setup.config.drive._replace(run_up=2.0))
    ran = run_trial(heavy, Profile("p", "P", ((0, 0.2), (20, 0.9)), 60.0), rows=1200)
    assert "current limit" in [e.name for e in ran.events]
    assert np.diff(ran.frequency).max() / 0.05 < 50 / 0.5


# one source, three ways of running it


def test_compiled_once_for_the_one_typed_door(booster: Line) -> None:
    trial(booster, 10.0)
    trial(booster, 20.0, [(0, 0.001)], dead_time=2.0)
    if hasattr(kernel.run, "signatures"):
        assert len(kernel.run.signatures) == 1


def _hash_of_trial(line: Line) -> str:
    ran = trial(line, 60.0, [(0, 0.006), (20, 0.001)], noise=0.002, lag=0.7)
    return hashlib.sha256(ran.value.tobytes() + ran.frequency.tobytes()).hexdigest()


def test_plain_python_gives_the_same_numbers_bit_for_bit(booster: Line, records: dict[str, Any]) -> None:
    code = (
        "import json,sys\nfrom tests.conftest import line_of\nfrom tests.core.test_simulation import _hash_of_trial\n"
        "print(_hash_of_trial(line_of(json.loads(sys.stdin.read()))))"
    )
    done = subprocess.run(
        [sys.executable, "-c", code],
        input=json.dumps(records["booster"]),
        capture_output=True,
        text=True,
        check=True,
        env={**os.environ, "NUMBA_DISABLE_JIT": "1"},
    )
    assert done.stdout.strip() == _hash_of_trial(booster)


@pytest.mark.parametrize(
    "name", ["booster", "set", "borehole", "circulator", "supply_fan", "tower", "wet_well", "filter"]
)
def test_the_same_loop_in_c_gives_the_same_numbers(name: str, records: dict[str, Any], tmp_path: Path) -> None:
    library = in_c.built(tmp_path)
    if library is None:
        pytest.skip("no C compiler on this machine")
    _, _, setup = ready(line_of(records[name]), {})
    ours, theirs = in_c.arrays(setup, 7200.0), in_c.arrays(setup, 7200.0)
    happened = kernel.run(setup.config, *ours)
    assert in_c.run_in_c(library, setup.config, theirs) == happened
    assert in_c.apart(ours, theirs) <= 1e-9
