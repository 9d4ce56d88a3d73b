"""Robust, not lucky: the same tuning on many plants that differ in what nobody knows for sure."""

import contextlib
import os
import sys
import threading
from collections.abc import Callable, Iterator
from concurrent.futures import ThreadPoolExecutor
from dataclasses import dataclass, replace
from typing import TypeVar

import numpy as np

from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.simulation import kernel
from mainspring.core.simulation.demand import Profile
from mainspring.core.simulation.judge import faults_of
from mainspring.core.simulation.plants import Setup, follow_of
from mainspring.core.simulation.trial import Array, Trial, run_trial

A = TypeVar("A")
B = TypeVar("B")

DRAWS = 200
ROWS = 300
BAND = (5.0, 95.0)  # percentiles
AT_ONCE = 2
BEHIND = 10  # niceness
Tell = Callable[[int, int], bool]  # done, of all; False stops the work

# how far each may be from what the record says: factors, common practice, no source
FRICTION, CURVE, AIR, DEAD, LAG, LEAK = (0.6, 1.6), (0.95, 1.03), (0.6, 1.15), (0.5, 2.5), (0.5, 2.5), (0.3, 3.0)
NOISE = 0.002  # of span, at most
HEAT, AREA = (0.6, 1.6), (0.8, 1.2)


@dataclass(frozen=True)
class Spread:
    """A tuning over many plants: how many it holds, what went wrong in the others, and the band of the trace."""

    times: Array
    low: Array
    high: Array
    low_frequency: Array
    high_frequency: Array
    draws: int
    holds: int
    faults: dict[str, int]  # what went wrong, and in how many


def goes_on(done: int, of: int) -> bool:  # noqa: ARG001 nobody listens
    """Go on to the end."""
    return True


class Stopped(Exception):
    """Somebody asked for the work to stop."""


def drawn(setup: Setup, profile: Profile, rng: np.random.Generator) -> tuple[Setup, Profile, Array]:
    """One plant of the spread, its demand and its noise."""

    def factor(bounds: tuple[float, float]) -> float:
        return float(np.exp(rng.uniform(*np.log(bounds))))

    plant, sensor = setup.config.plant, setup.config.sensor
    shape = factor(CURVE)
    knobs = dict(setup.knobs) | {"dead_time": setup.knobs.get("dead_time", 0.0) * factor(DEAD)}
    plant = plant._replace(
        c0=plant.c0 * shape,
        friction=plant.friction * factor(FRICTION),
        precharge=plant.precharge * factor(AIR),
        elastic=plant.elastic * factor(AREA),
        capacity=plant.capacity * factor(HEAT),
        area=plant.area * factor(AREA),
        leak=plant.leak * factor(LEAK),
        substeps=4.0 if plant.kind in (kernel.HEADER, kernel.ROOM) else 1.0,
    )
    lag = setup.knobs.get("lag", 0.0) * factor(LAG)
    span = sensor.high - sensor.low
    sensor = sensor._replace(follow=follow_of(lag), noise=float(rng.uniform(0, NOISE)) * span)
    more = factor(LEAK)
    least = min(q for _, q in profile.steps)
    steps = tuple((t, q * more if q == least and 0 <= q < 0.1 else q) for t, q in profile.steps)
    return (
        replace(setup.but(plant=plant, sensor=sensor), knobs=knobs),
        replace(profile, steps=steps),
        rng.standard_normal(4099),
    )


def spread_of(
    line: Line,
    derived: Derived,
    setup: Setup,
    profile: Profile,
    draws: int = DRAWS,
    tell: Tell = goes_on,
    seed: int = 41,
) -> Spread:
    """Run a tuning over `draws` plants.

    Raises Stopped when `tell` says so.
    """
    rng = np.random.default_rng(seed)
    asked = [drawn(setup, profile, rng) for _ in range(draws)]

    def one(given: tuple[Setup, Profile, Array]) -> tuple[Trial, list[str]]:
        trial = run_trial(given[0], given[1], rows=ROWS, noise=given[2])
        return trial, faults_of(line, derived, trial)

    faults: dict[str, int] = {}
    trials: list[Trial] = []
    holds = 0
    for trial, wrong in told_of(one, asked, tell):
        trials.append(trial)
        holds += not wrong
        for title in wrong:
            faults[title] = faults.get(title, 0) + 1
    values = np.array([t.value for t in trials])
    speeds = np.array([t.frequency for t in trials])
    low, high = np.percentile(values, BAND, axis=0)
    slow, fast = np.percentile(speeds, BAND, axis=0)
    return Spread(trials[0].times, low, high, slow, fast, draws, holds, faults)


def told_of(work: Callable[[A], B], asked: list[A], tell: Tell) -> Iterator[B]:
    """Each done in turn on a few threads (the kernel lets go of the interpreter), told as it goes.

    Raises Stopped when `tell` says so.
    """
    with ThreadPoolExecutor(AT_ONCE, "bench", _stand_back) as pool:
        running = pool.map(work, asked)
        for i, found in enumerate(running):
            if not tell(i + 1, len(asked)):
                pool.shutdown(wait=False, cancel_futures=True)
                raise Stopped("nobody wants it any more")
            yield found


def _stand_back() -> None:
    """Let threads that answer somebody go first, where the system can tell threads apart."""
    if sys.platform == "linux":
        with contextlib.suppress(OSError):
            os.setpriority(os.PRIO_PROCESS, threading.get_native_id(), BEHIND)
