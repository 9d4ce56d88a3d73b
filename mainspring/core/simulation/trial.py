"""A trial of the loop: from a record and where the knobs stand to a trace, its events and its totals."""

from collections.abc import Mapping, Sequence
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from mainspring.core.derived import Derived
from mainspring.core.errors import NoSolution, check_range
from mainspring.core.line import Line
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.simulation import kernel
from mainspring.core.simulation.demand import Profile, own_steps, profiles_for
from mainspring.core.simulation.knobs import stands_at
from mainspring.core.simulation.plants import STEP, Happens, Setup, set_up, steady_speed, taken_at

Array = npt.NDArray[np.float64]
MOST_EVENTS = 4000
LONGEST = 2 * 86_400.0
EVENTS = {
    kernel.BOOST: "boost",
    kernel.SLEEP: "sleep",
    kernel.WAKE: "wake",
    kernel.LIMITED: "current limit",
    kernel.TRIP: "dry, trip",
    kernel.RETRY: "retry",
    kernel.LOCKOUT: "locked out",
    kernel.ANOTHER: "another",
    kernel.FEWER: "one less",
    kernel.HIGH: "high level",
    kernel.LOST: "signal lost",
    kernel.FILLED: "filled",
    kernel.TOP: "full speed",
    kernel.CAUGHT: "caught",
    kernel.SLAMMED: "overcurrent",
    kernel.TURN: "turn",
}
_WHY = {
    "boost": "held, and below {sleep_below} for {sleep_delay}",
    "sleep": "nothing is asked of it",
    "wake": "what is held called for it",
    "current limit": "more torque than the drive gives",
    "dry, trip": "less power than a pump with water takes",
    "retry": "tried again after its pause",
    "locked out": "no retries left: somebody must look",
    "another": "at {stage_on} or above for {stage_delay}",
    "one less": "at {stage_off} or below for {stage_delay}",
    "high level": "the relay at {high_level} calls the standby pump",
    "signal lost": "the wire is broken",
    "filled": "the line is full enough to be controlled",
    "full speed": "at {highest}: it has nothing more",
    "caught": "started into the turning machine, at its speed",
    "overcurrent": "started into the turning machine from standstill",
    "turn": "another leads now",
}
# a setting in the drive for another setpoint: what would be proposed for this one
FOLLOW_SETPOINT = ("pid.output_low", "sleep.frequency", "sleep.wake_level", "pid.gain", "pid.integral_time")
_NOISE: Array = np.random.default_rng(20_17).standard_normal(65_537)


@dataclass(frozen=True)
class Event:
    """Something that happened at a moment of the trial."""

    time: float
    name: str


@dataclass(frozen=True)
class Trial:
    """The trace in columns, what happened, and what it came to; SI, frequency in Hz."""

    setup: Setup
    profile: Profile
    times: Array
    value: Array
    frequency: Array
    flow: Array
    taken: Array
    power: Array
    running: Array
    drawdown: Array
    events: list[Event]
    happened: int
    totals: Mapping[str, float]
    hours: Array  # s, of each machine
    duration: float

    @property
    def starts_an_hour(self) -> float:
        """Starts in an hour, over the whole trial."""
        return float(self.totals["starts"]) * 3600.0 / self.duration


def why(event: Event, trial: Trial) -> str:
    """Why it happened, with its numbers in both unit systems."""
    knobs, kinds = trial.setup.knobs, {"sleep_delay": "time", "stage_delay": "time", "high_level": "head"}
    told = {
        n: DIMENSIONS[kinds.get(n, "frequency")].tellings(v) for n, v in knobs.items() if f"{{{n}}}" in _WHY[event.name]
    }
    return _WHY[event.name].format(**told)


def with_setpoint(line: Line, moved: Mapping[str, float]) -> Line:
    """The line with a setpoint that was moved, and what follows from it open to the model again. Raises BadEntry."""
    if "setpoint" not in moved or line.held is None or not line.held.setpoint:
        return line
    for setting in FOLLOW_SETPOINT:
        line = line.but(setting)
    group, _, name = line.held.setpoint.partition(".") if line.held is not None else ("", "", "")
    made = line.with_values(**{group: {name: moved["setpoint"]}})
    made.surveyed = line.surveyed
    return made


def ready(line: Line, moved: Mapping[str, float], happens: Happens | None = None) -> tuple[Line, Derived, Setup]:
    """The line with what was moved, what follows from it, and its setup.

    Raises
    ------
    NotKnown, NoSolution, BadEntry
    """
    line = with_setpoint(line, moved)
    derived = Derived(line)
    return line, derived, set_up(line, derived, stands_at(line, derived, moved), happens)


def leak_share(line: Line, setup: Setup) -> float | None:
    """The smallest demand as a share of full: there is always a little, or an overshoot would be trapped for ever.

    None for a line that does not rest.
    """
    if setup.config.rest.by != kernel.BY_SPEED and "rests" not in line.traits:
        return None
    leak = float(line.system.leak) if line.has("system.leak") else 0.0
    return max(leak / setup.full, 0.001)


def offered(line: Line, setup: Setup) -> list[Profile]:
    """The profiles that a line can be tried with, the usual one first."""
    return profiles_for(setup.kind, leak_share(line, setup), setup.config.set.machines)


def run_trial(
    setup: Setup,
    profile: Profile,
    duration: float | None = None,
    rows: int = 1200,
    noise: Array | None = None,
    running: float | None = None,
    hands: Sequence[tuple[float, float]] = (),
    held: float | None = None,
) -> Trial:
    """Run a setup through a profile.

    Parameters
    ----------
    duration : [s], up to two days; the profile's own where none is given
    rows : at most so many rows in the trace
    noise : standard normal, gone through in turn; always the same where none is given
    running : how many machines run at the start
    held : value to start from, the setpoint where none is given
    hands : (time [s], share of full speed), the speed by hand from each time on; the whole trial is led by hand then

    Raises
    ------
    OutOfRange : duration
    BadEntry : the profile
    """
    duration = _checked(profile.duration if duration is None else duration)
    told = own_steps(profile.steps)
    led = tuple(hands) or ((0.0, 0.0),)
    if hands:
        setup = setup.but(control=setup.config.control._replace(hand_until=kernel.NEVER))
    times = np.array([t for t, _ in told])
    demands = np.array([q * setup.full for _, q in told])
    steps = int(duration / STEP)
    every = max(1, -(-steps // rows))
    trace = np.zeros((-(-steps // every), len(kernel.TRACE)))
    events = np.zeros((MOST_EVENTS, 2))
    start = _start(setup, float(demands[0]), running, held, led[0][1] if hands else None)
    totals, hours = np.zeros(len(kernel.TOTALS)), np.zeros(kernel.MOST_MACHINES)
    happened = kernel.run(
        setup.config, steps, times, demands, np.array([t for t, _ in led]), np.array([v for _, v in led]),
        _NOISE if noise is None else noise, start, _ring(setup), every, trace, events, totals, hours,
    )  # fmt: skip
    return Trial(
        setup=setup,
        profile=profile,
        times=np.arange(len(trace), dtype=np.float64) * (every * STEP),
        value=trace[:, 0],
        frequency=trace[:, 1] * setup.base,
        flow=trace[:, 2],
        taken=trace[:, 3],
        power=trace[:, 4],
        running=trace[:, 5],
        drawdown=trace[:, 6],
        events=[Event(float(t), EVENTS[e]) for t, e in events[: min(happened, MOST_EVENTS)]],
        happened=int(happened),
        totals=dict(zip(kernel.TOTALS, totals.tolist(), strict=True)),
        hours=hours[: int(setup.config.set.machines)],
        duration=duration,
    )


def _checked(duration: float) -> float:
    check_range("duration in s", duration, atleast=STEP, upto=LONGEST)
    return duration


def _ring(setup: Setup) -> Array:
    return np.zeros(max(1, round(setup.knobs.get("dead_time", 0.0) / STEP)))


def _start(setup: Setup, demand: float, running: float | None, value: float | None, speed: float | None) -> Array:
    """At rest on the setpoint with the first demand; empty where the line is to fill first; or as told."""
    if setup.config.drive.fill_speed > 0:
        return np.array([0.0, 0.0, 1.0, 0.0])
    held = setup.config.control.setpoint if value is None else value
    if value is None and setup.kind == kernel.LEVEL and setup.config.rest.by == kernel.BY_LEVEL:
        held = min(held, setup.config.rest.wake) if setup.config.plant.direction < 0 else held
    count = running or _needed(setup, demand)
    at = steady_speed(setup, demand, count) if speed is None else speed
    return np.array([held, at, count, setup.config.plant.drawdown * max(taken_at(setup, demand), 0.0)])


def _needed(setup: Setup, demand: float) -> float:
    """How many machines it takes at their highest speed, or as many as always run."""
    if setup.config.set.machines <= 1:
        return setup.machines
    each = 1.0
    while each < setup.config.set.machines and steady_speed(setup, demand, each) >= 0.999 * setup.config.control.high:
        each += 1.0
    return each


def try_line(
    line: Line,
    moved: Mapping[str, float] | None = None,
    profile: str = "minutes",
    own: Sequence[tuple[float, float]] | None = None,
    duration: float | None = None,
    happens: Happens | None = None,
    rows: int = 1200,
) -> Trial:
    """Try a line: its knobs as moved, a profile by name or of its own (times [s] and shares of full demand).

    Raises
    ------
    NotKnown : the record lacks a value
    NoSolution : no such loop can run
    BadEntry : a knob, profile or duration that cannot be
    """
    line, _, setup = ready(line, moved or {}, happens)
    if own is not None:
        steps = own_steps(own)
        chosen = Profile("own", "As given", steps, max(600.0, steps[-1][0] + 60.0))
    else:
        known = {p.id: p for p in offered(line, setup)}
        if profile not in known:
            raise NoSolution(f"no profile is called {profile}: there are {', '.join(known)}")
        chosen = known[profile]
    return run_trial(setup, chosen, duration, rows)
