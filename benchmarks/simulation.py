"""The compiled loop against the same file run as plain Python, a day of closed loop, and a search of 500 tunings."""

import os
import subprocess
import sys
import time

from benchmarks._common import booster
from mainspring.core.simulation import try_line
from mainspring.core.simulation.plants import STEP
from mainspring.core.simulation.search import seek
from mainspring.core.simulation.trial import ready


def seconds_for(simulated: float) -> float:
    """Seconds that a simulation of so many seconds takes, compiled before."""
    line = booster()
    try_line(line, duration=1.0)
    begin = time.perf_counter()
    try_line(line, duration=simulated)
    return time.perf_counter() - begin


def measure(day: float = 86_400.0, candidates: float = 500) -> dict[str, float]:
    """Seconds for a day, ten minutes and a search; how many times slower plain Python is for each step."""
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
    line, derived, setup = ready(booster(), {})
    begin = time.perf_counter()
    seek(line, derived, setup.knobs, candidates=int(candidates))
    return {
        "day_s": whole,
        "ten_minutes_ms": ten_minutes * 1e3,
        "step_ns": whole / day * STEP * 1e9,
        "plain_python_over_compiled": plain / (whole / day),
        "search_s": time.perf_counter() - begin,
    }
