"""The loop kernel: the laws it must keep, the story it must tell, and the same numbers without the compiler."""

import hashlib
import json
import os
import subprocess
import sys
from typing import Any

import numpy as np
import pytest

from mainspring.core.derived import Derived
from mainspring.core.errors import NoSolution, NotKnown, OutOfRange
from mainspring.core.line import Line
from mainspring.core.method import given
from mainspring.core.simulation import kernel, simulate_loop, tuning_for
from mainspring.core.simulation.run import _config, demand_story
from tests.conftest import line_of


def trial(line: Line, duration: float = 600.0, demand: Any = None, **tried: float) -> Any:
    derived = Derived(line)
    return simulate_loop(line, derived, tuning_for(line, derived, **tried), demand, duration)


def test_at_steady_demand_it_settles_where_algebra_says(booster: Line) -> None:
    derived = Derived(booster)
    flow = 0.007
    run = trial(booster, 200.0, [(0, flow)])
    expected = derived.machine.speed_for(given("flow", flow, "flow"), derived.pump.setpoint_head) * 50
    assert run.frequency[-50:].mean() == pytest.approx(expected, rel=2e-3)
    assert run.pressure[-50:].mean() == pytest.approx(4e5, rel=2e-3)
    assert run.flow[-50:].mean() == pytest.approx(flow, rel=5e-3)


def test_at_no_demand_it_settles_at_the_hold_frequency_when_it_may(booster: Line) -> None:
    derived = Derived(booster)
    # no sleep, and a low limit under the hold frequency: the loop itself finds the frequency that only holds
    run = trial(booster, 900.0, [(0, 0.004), (30, 0.0)], low_limit=20.0, sleep_below=0.0)
    assert run.frequency[-1] <= float(derived.hold_frequency) + 0.3


def test_the_story_holds_sleeps_and_wakes(booster: Line) -> None:
    run = trial(booster)
    names = [e.name for e in run.events]
    assert names == ["boost", "sleep", "wake"]
    sleep = next(e.time for e in run.events if e.name == "sleep")
    ends = next(t for t, q in demand_story(booster) if q < 1e-3)
    assert ends + 20 <= sleep <= ends + 60
    words = {m.title for m in run.meaning}
    assert {"It holds", "It rests"} <= words


def test_all_three_conditions_are_needed_to_sleep(booster: Line) -> None:
    assert not trial(booster, 300.0, [(0, 0.006), (30, 0.0)], sleep_delay=600.0).events
    assert not trial(booster, 300.0, [(0, 0.006), (30, 0.0)], sleep_below=30.0).events
    assert not trial(booster, 300.0, [(0, 0.0075)]).events  # above the sleep frequency while water is drawn


def test_with_the_low_limit_below_hold_sleep_is_called_chance(booster: Line) -> None:
    hold = float(Derived(booster).hold_frequency)
    run = trial(booster, low_limit=hold - 6, sleep_below=hold - 5.5)
    assert {"It cannot sleep", "Sleep is left to chance"} & {m.title for m in run.meaning}


def test_a_wild_gain_hunts_and_is_called_so(booster: Line) -> None:
    run = trial(booster, gain=400.0, integral_time=0.05)
    assert "It hunts" in {m.title for m in run.meaning}


def test_water_is_conserved(booster: Line) -> None:
    run = trial(booster, 400.0, [(0, 0.006), (100, 0.002)], sleep_below=0.0)
    step = run.times[1] - run.times[0]
    taken = float(np.sum(run.demand) * step)
    pumped = float(np.sum(run.flow) * step)
    in_tank = 0.18 * (2.6e5 + 101325) * (1 / (run.pressure[0] + 101325) - 1 / (run.pressure[-1] + 101325))
    assert pumped - taken == pytest.approx(in_tank, abs=0.004)


def test_pressure_never_falls_below_nothing_and_ramps_are_kept(booster: Line) -> None:
    run = trial(booster, ramp_up=5.0, ramp_down=7.0)
    assert run.pressure.min() >= 0
    step = run.times[1] - run.times[0]
    rates = np.diff(run.frequency) / step
    assert rates.max() <= 50 / 5.0 + 1e-6
    assert rates.min() >= -50 / 7.0 - 1e-6


def test_a_setpoint_out_of_reach_is_refused_in_words(booster: Line) -> None:
    with pytest.raises(NoSolution, match="never hold the setpoint"):
        trial(booster.with_values(control={"setpoint": 9e5}))


def test_tuning_out_of_range_names_the_value(booster: Line) -> None:
    with pytest.raises(OutOfRange, match="integral time in s is 0"):
        trial(booster, integral_time=0.0)


def test_a_record_without_sensor_says_what_it_needs(records: dict[str, Any]) -> None:
    del records["booster"]["sensor"]
    with pytest.raises(NotKnown, match="range"):
        trial(line_of(records["booster"]))


def test_compiled_once_for_the_one_typed_door(booster: Line) -> None:
    trial(booster, 10.0)
    trial(booster, 20.0, [(0, 0.001)])
    if hasattr(kernel.run, "signatures"):
        assert len(kernel.run.signatures) == 1


def test_config_row_holds_every_field_in_order(booster: Line) -> None:
    derived = Derived(booster)
    row = _config(booster, derived, tuning_for(booster, derived))
    assert len(row) == len(kernel.CONFIG_FIELDS)
    assert kernel.Config(*row).setpoint == 4e5


def _hash_of_trial(line: Line) -> str:
    run = trial(line, 60.0, [(0, 0.006), (20, 0.001)])
    return hashlib.sha256(run.pressure.tobytes() + run.frequency.tobytes()).hexdigest()


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
