"""The compiled loop against the same loop in C at -O2, and against an off-the-shelf simulation of a control system."""

import ctypes
import shutil
import subprocess
import tempfile
import time
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import numpy as np

from benchmarks._common import booster
from mainspring.core.simulation import kernel
from mainspring.core.simulation.demand import profiles_for
from mainspring.core.simulation.plants import STEP, Setup
from mainspring.core.simulation.trial import ready

DAY = 86_400.0
PEER_SECONDS = 600.0


def _flat(found: Any) -> Iterator[float]:
    for part in found:
        if isinstance(part, tuple):
            yield from _flat(part)
        else:
            yield float(part)


def arrays(setup: Setup, seconds: float, rows: int = 1200) -> list[Any]:
    """What both are given, and fill."""
    profile = profiles_for(setup.kind, 0.001)[-1]
    steps = int(seconds / STEP)
    every = max(1, -(-steps // rows))
    return [
        steps,
        np.array([t for t, _ in profile.steps], dtype=np.float64),
        np.array([q * setup.full for _, q in profile.steps], dtype=np.float64),
        np.zeros(1),
        np.ones(1),
        np.random.default_rng(7).standard_normal(65_537),
        np.array([setup.config.control.setpoint, 0.9, 1.0, 0.0]),
        np.zeros(4),
        every,
        np.zeros((-(-steps // every), 7)),
        np.zeros((4000, 2)),
        np.zeros(11),
        np.zeros(24),
    ]


def run_in_c(library: ctypes.CDLL, config: kernel.Config, given: list[Any]) -> int:
    row = np.fromiter(_flat(config), dtype=np.float64)
    (steps, times, demands, hand_times, hands, noise, start, ring, every, trace, events, totals, hours) = given

    def at(array: Any) -> Any:
        return array.ctypes.data_as(ctypes.c_void_p)

    count = ctypes.c_long
    return int(
        library.run(
            at(row), count(steps), at(times), at(demands), count(times.size), at(hand_times), at(hands),
            count(hands.size), at(noise), count(noise.size), at(start),
            at(ring), count(ring.size), count(every), at(trace), count(len(trace)), at(events), count(len(events)),
            at(totals), at(hours),
        )
    )  # fmt: skip


def built(folder: Path) -> ctypes.CDLL | None:
    """The loop in C; None where there is no compiler."""
    compiler = shutil.which("cc") or shutil.which("gcc")
    if compiler is None:
        return None
    library = folder / "loop.so"
    source = Path(__file__).with_name("loop.c")
    subprocess.run([compiler, "-O2", "-shared", "-fPIC", "-o", library, source, "-lm"], check=True)
    loaded = ctypes.CDLL(str(library))
    loaded.run.restype = ctypes.c_long
    return loaded


def _best(work: Callable[[], object], times: int = 5) -> float:
    best = float("inf")
    for _ in range(times):
        begin = time.process_time()
        work()
        best = min(best, time.process_time() - begin)
    return best


def setup_of_booster() -> Setup:
    """The benchmarks' booster, ready to be tried."""
    line = booster()
    return ready(line, {"noise": 0.0005})[2]


def apart(one: list[Any], other: list[Any]) -> float:
    """Largest relative difference of traces and totals."""
    found = 0.0
    for a, b in zip(one[9:], other[9:], strict=True):
        scale = np.maximum(np.abs(a).max(axis=0), 1e-30)
        found = max(found, float((np.abs(a - b) / scale).max()))
    return found


def _peer(setup: Setup, seconds: float) -> Callable[[], object]:
    """The common subset by python-control: the plant's pressure, PI and sensor as one continuous nonlinear system."""
    import control

    c, p = setup.config, setup.config.plant
    k, span = c.control, c.sensor.high - c.sensor.low
    lag = -STEP / np.log(1 - c.sensor.follow)

    def moves(t: float, x: Any, u: Any, params: Any) -> Any:  # noqa: ARG001 the library's own signature
        pressure, measured, integral = x
        error = (k.setpoint - measured) / span
        speed = min(max(integral + k.gain * error, k.low), k.high)
        flow = kernel.machine_flow(p, speed, pressure / p.weight + p.lift, 1.0)
        taken = u[0] * np.sqrt(max(pressure, 0.0) / p.nominal)
        return np.array(
            [
                (flow - taken) / kernel.compliance(p, pressure),
                (pressure - measured) / lag,
                k.gain * error / k.integral_time if k.low < integral < k.high else 0.0,
            ]
        )

    system = control.NonlinearIOSystem(moves, None, inputs=1, outputs=3, states=3)
    times = np.arange(0.0, seconds, 1.0)
    demand = np.where(times < seconds / 2, 0.65, 0.5) * setup.full
    return lambda: control.input_output_response(system, times, demand, [k.setpoint, k.setpoint, 0.9])


def measure(day: float = DAY, peer: float = PEER_SECONDS) -> dict[str, float]:
    """Seconds for a day, the ratio to C, how far the two are apart, and the ratio to the peer for the same time."""
    setup = setup_of_booster()
    kernel.run(setup.config, *arrays(setup, 1.0))
    ours = arrays(setup, day)
    found = {"day_s": _best(lambda: kernel.run(setup.config, *ours))}
    with tempfile.TemporaryDirectory() as folder:
        library = built(Path(folder))
        if library is not None:
            theirs = arrays(setup, day)
            in_c = _best(lambda: run_in_c(library, setup.config, theirs))
            for given in (ours, theirs):
                for filled in given[9:]:
                    filled[:] = 0.0
            kernel.run(setup.config, *ours)
            run_in_c(library, setup.config, theirs)
            found |= {"in_c_s": in_c, "apart": apart(ours, theirs), "ratio_to_c": found["day_s"] / in_c}
    ten_minutes = arrays(setup, peer)
    own = _best(lambda: kernel.run(setup.config, *ten_minutes))
    begin = time.process_time()
    _peer(setup, peer)()
    return found | {"ratio_to_peer": own / (time.process_time() - begin)}
