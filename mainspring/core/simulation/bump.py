"""A step test on the model: led by hand, one step of the speed, and the process that a controller would see."""

from collections.abc import Mapping

import numpy as np

from mainspring.core.control.identify import half_rule
from mainspring.core.control.step_test import StepFit, fit_step
from mainspring.core.derived import Derived
from mainspring.core.errors import BadEntry, NoSolution
from mainspring.core.line import Line
from mainspring.core.simulation import kernel
from mainspring.core.simulation.demand import Profile
from mainspring.core.simulation.knobs import stands_at
from mainspring.core.simulation.plants import Setup, set_up, steady_speed
from mainspring.core.simulation.trial import LONGEST, Trial, run_trial

SIZE = 0.03  # of full speed
LASTS = {kernel.HEADER: 20.0, kernel.FLOW: 20.0, kernel.ROOM: 20.0, kernel.HEAT: 1800.0}  # s, at first
BEFORE = 0.15  # of the test, held before the step
ROWS = 240
SETTLED = 0.02  # of the change, in the last fifth of a test that is long enough
DEMANDS = (0.3, 0.7)  # shares of full: where the process gain is high, and where it is low


def bump(line: Line, derived: Derived, moved: Mapping[str, float], demand: float) -> tuple[Trial, StepFit]:
    """Step the speed at a demand, and fit it.

    Raises
    ------
    NoSolution : speed from outside, or a level, which never settles by itself
    BadEntry : the simulated test is no use, and why
    """
    return step_of(set_up(line, derived, stands_at(line, derived, moved)), demand)


def step_of(setup: Setup, demand: float) -> tuple[Trial, StepFit]:
    """Step the speed of a plant that is set up, at a demand, and fit it; raises as `bump`."""
    if setup.kind not in LASTS:
        raise NoSolution(
            "only what settles by itself can be stepped: a level runs away, a speed from outside has no loop"
        )
    free, demand, speed, size = _freed(setup, demand)
    lasts = LASTS[setup.kind]
    for longer in (1.0, 3.0, 9.0, 27.0):
        try:
            return _stepped(free, demand, speed, size, longer * lasts)
        except BadEntry:
            if longer * lasts * 3 > LONGEST or longer > 9:
                raise
    raise AssertionError


def _freed(setup: Setup, demand: float) -> tuple[Setup, float, float, float]:
    """The plant led by hand, quiet and never at rest; demand, speed and size of its step."""
    demand *= 1.0 / setup.config.set.machines  # one machine of a set that comes and goes
    speed = steady_speed(setup, demand * setup.full, setup.machines)
    size = SIZE if speed + SIZE < setup.config.control.high else -SIZE
    free = setup.but(
        rest=setup.config.rest._replace(by=kernel.NO_REST),
        sensor=setup.config.sensor._replace(resolution=0.0, noise=0.0),
        drive=setup.config.drive._replace(dry_power=0.0),
    )
    return free, demand, speed, size


def glance(setup: Setup, demand: float) -> tuple[float, float, float]:
    """Process gain, time constant and dead time at a demand, read off a step of the plant itself without noise.

    Dead time and lag of the sensor are known and join by the half rule (Skogestad 2003). Raises NoSolution as `bump`,
    and where a step moves nothing.
    """
    if setup.kind not in LASTS:
        raise NoSolution("only what settles by itself can be stepped")
    free, demand, speed, size = _freed(setup, demand)
    lasts = LASTS[setup.kind]
    for _ in range(5):
        profile = Profile("step", "Step", ((0.0, demand),), lasts)
        hands = ((0.0, speed), (BEFORE * lasts, speed + size))
        trial = run_trial(free, profile, rows=ROWS, hands=hands, running=free.machines)
        after = trial.times >= BEFORE * lasts
        value, times = trial.value[after], trial.times[after] - BEFORE * lasts
        change = float(value[-1] - trial.value[0])
        if abs(float(value[-1] - value[-len(value) // 5])) <= SETTLED * abs(change) or lasts * 3 > LONGEST:
            break
        lasts *= 3.0
    span = setup.config.sensor.high - setup.config.sensor.low
    if change == 0.0:
        raise NoSolution("a step of the speed moves nothing here")
    reached = np.abs(value - trial.value[0]) >= 0.632 * abs(change)
    constant = max(float(times[int(np.argmax(reached))]), setup.config.step)
    lag = setup.knobs.get("lag", 0.0)
    dead = setup.knobs.get("dead_time", 0.0) + setup.config.step
    time_constant, dead_time = half_rule(max(constant, lag), min(constant, lag), dead)
    return abs(change / span / size), float(time_constant), float(dead_time)


def _stepped(setup: Setup, demand: float, speed: float, size: float, lasts: float) -> tuple[Trial, StepFit]:
    profile = Profile("step", "Step", ((0.0, demand),), lasts)
    hands = ((0.0, speed), (BEFORE * lasts, speed + size))
    trial = run_trial(setup, profile, rows=ROWS, hands=hands, running=setup.machines)
    sensor = setup.config.sensor
    span = sensor.high - sensor.low
    values = [(v - sensor.low) / span for v in _through_sensor(trial, setup)]
    outputs = [speed if t < BEFORE * lasts else speed + size for t in trial.times]
    return trial, fit_step(trial.times.tolist(), values, outputs)


def _through_sensor(trial: Trial, setup: Setup) -> list[float]:
    """What the drive would read: behind the dead time and the lag."""
    lag, dead = setup.knobs.get("lag", 0.0), setup.knobs.get("dead_time", 0.0)
    step = float(trial.times[1] - trial.times[0])
    behind = round(dead / step)
    share = 1.0 if lag <= 0 else step / (lag + step)
    seen, value = [], float(trial.value[0])
    for i in range(len(trial.value)):
        value += share * (float(trial.value[max(0, i - behind)]) - value)
        seen.append(value)
    return seen


__all__ = ["DEMANDS", "bump"]
