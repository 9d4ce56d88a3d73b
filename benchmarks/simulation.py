"""The compiled loop against the same file run as plain Python, and a day of closed loop."""

import os
import subprocess
import sys
import time

from benchmarks._common import booster
from mainspring.core.derived import Derived
from mainspring.core.simulation import simulate_loop, tuning_for

STEPS_A_SECOND = 20


def seconds_for(simulated: float) -> float:
    """Seconds that a simulation of so many seconds takes, compiled before."""
    line = booster()
    derived = Derived(line)
    tuning = tuning_for(line, derived)
    simulate_loop(line, derived, tuning, duration=1.0)
    begin = time.perf_counter()
    simulate_loop(line, derived, tuning, duration=simulated)
    return time.perf_counter() - begin


def measure(day: float = 86_400.0) -> dict[str, float]:
    """Seconds for a day and ten minutes; how many times slower plain Python is for each step."""
    whole, ten_minutes = seconds_for(day), seconds_for(600.0)
    code = "from benchmarks.simulation import seconds_for; print(seconds_for(60.0))"
    done = subprocess.run(
        [sys.executable, "-c", code],
        capture_output=True,
        text=True,
        check=True,
        env={**os.environ, "NUMBA_DISABLE_JIT": "1"},
    )
    plain = float(done.stdout) / 60.0
    return {
        "day_s": whole,
        "ten_minutes_ms": ten_minutes * 1e3,
        "step_ns": whole / day / STEPS_A_SECOND * 1e9,
        "plain_python_over_compiled": plain / (whole / day),
    }
