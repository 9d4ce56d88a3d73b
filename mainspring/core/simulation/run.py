"""A trial of the loop: from the record to a trace, its events and what they mean."""

from collections.abc import Sequence
from dataclasses import dataclass, field

import numpy as np
import numpy.typing as npt

from mainspring.core import practice
from mainspring.core.benches.process import PIPE_COMPLIANCE, gains_from_model
from mainspring.core.checks.finding import Verdict, caution, clear
from mainspring.core.derived import Derived
from mainspring.core.errors import NoSolution, check_range
from mainspring.core.line import Line
from mainspring.core.method import Figure, given
from mainspring.core.quantity import WATER_20C
from mainspring.core.sentence import say
from mainspring.core.simulation import kernel

STEP = 0.05  # s, the controller's own period
SETTLED_BAND = 0.03  # of the setpoint
HUNTING_SWING = 0.02  # of full speed, peak to peak at steady demand
USUAL_STARTS = 20 / 3600  # 1/s
EVENT_NAMES = {kernel.EVENT_BOOST: "boost", kernel.EVENT_SLEEP: "sleep", kernel.EVENT_WAKE: "wake"}


@dataclass(frozen=True)
class LoopTuning:
    """What the loop bench lets one move; SI, frequencies in Hz."""

    setpoint: float
    gain: float
    integral_time: float
    low_limit: float
    sleep_below: float
    sleep_delay: float
    boost: float
    wake_at: float
    ramp_up: float
    ramp_down: float


@dataclass(frozen=True)
class Event:
    """Something that happened at a moment of the trial."""

    time: float
    name: str


@dataclass(frozen=True)
class LoopTrial:
    """The trial: the trace in columns and what it means."""

    times: npt.NDArray[np.float64]
    pressure: npt.NDArray[np.float64]
    frequency: npt.NDArray[np.float64]
    flow: npt.NDArray[np.float64]
    demand: npt.NDArray[np.float64]
    power: npt.NDArray[np.float64]
    events: list[Event]
    highest_pressure: float
    shaft_energy: float
    meaning: list[Verdict] = field(default_factory=list)


def tuning_for(line: Line, derived: Derived, **tried: float) -> LoopTuning:
    """The tuning of a record: what was tried, else what was entered, else what the model proposes."""
    if line.held is not None and "rests" not in line.traits:
        raise NoSolution(
            f"the loop bench tries pumps that hold a pressure; this line holds {line.held.label.lower()}: its settings"
            " stand on the sheet"
        )
    control = line.control

    def value(name: str, proposed: float) -> float:
        return float(getattr(control, name)) if control.has(name) else proposed

    if "setpoint" in tried:
        line = line.with_values(control={"setpoint": tried["setpoint"]})
        derived = Derived(line)
        control = line.control
    gains = gains_from_model(line, derived)
    proposed = {
        "setpoint": float(control.setpoint),
        "gain": value("gain", float(gains.gain)),
        "integral_time": value("integral_time", float(gains.integral_time)),
        "low_limit": value("low_limit", float(derived.low_limit)),
        "sleep_below": value("sleep_below", float(derived.sleep_below)),
        "sleep_delay": value("sleep_delay", 20.0),
        "boost": value("boost", 20_684.27),
        "wake_at": float(derived.wake_at),
        "ramp_up": value("ramp_up", 10.0),
        "ramp_down": value("ramp_down", 20.0),
    }
    chosen = {**proposed, **tried}
    check_range("gain", chosen["gain"], above=0, upto=1000)
    check_range("integral time in s", chosen["integral_time"], above=0, upto=3600)
    check_range("ramp up in s", chosen["ramp_up"], atleast=0.1, upto=3600)
    check_range("ramp down in s", chosen["ramp_down"], atleast=0.1, upto=3600)
    check_range("low limit in Hz", chosen["low_limit"], atleast=0, upto=float(line.motor.rated_frequency))
    return LoopTuning(**chosen)


def _config(line: Line, derived: Derived, tuning: LoopTuning) -> npt.NDArray[np.float64]:
    base = float(line.motor.rated_frequency)
    system, sensor = line.system, line.sensor
    has_tank = system.has("tank_volume") and system.has("tank_precharge")
    span = float(sensor.range_high - sensor.range_low)
    if not 0 < tuning.setpoint < float(sensor.range_high):
        raise NoSolution("the setpoint lies outside the sensor's range: the controller could never see it reached")
    c0, c1, c2 = derived.pump.curve.parabola
    config = kernel.Config(
        step=STEP,
        density=WATER_20C,
        c0=c0,
        c1=c1,
        c2=c2,
        best_flow=float(derived.machine.best_flow),
        best_efficiency=float(line.machine.best_efficiency),
        suction=float(derived.pump.suction_pressure),
        sensor_height=float(derived.pump.sensor_height),
        tank_volume=float(system.tank_volume) if has_tank else 0.0,
        precharge=float(system.tank_precharge) if has_tank else 0.0,
        pipe_compliance=PIPE_COMPLIANCE,
        setpoint=tuning.setpoint,
        range_low=float(sensor.range_low),
        range_high=float(sensor.range_high),
        filter_time=0.2,
        resolution=span / 4095 * 20 / 16,
        gain=tuning.gain,
        integral_time=tuning.integral_time,
        low_limit=tuning.low_limit / base,
        high_limit=1.0,
        ramp_up=tuning.ramp_up,
        ramp_down=tuning.ramp_down,
        sleep_below=tuning.sleep_below / base,
        sleep_delay=tuning.sleep_delay,
        boost=tuning.boost,
        wake_at=tuning.wake_at,
    )
    return np.array(config, dtype=np.float64)


def demand_story(line: Line) -> list[tuple[float, float]]:
    """Ten minutes at the tap as (time, demand): falling, then only what leaks, then much again.

    There is always a little leak: with none at all the check valve would trap an overshoot for ever.
    """
    full = float(line.machine.duty_flow)
    return [(0, 0.65 * full), (120, 0.5 * full), (210, _leak(line)), (500, 0.75 * full)]


def _leak(line: Line) -> float:
    full = float(line.machine.duty_flow)
    return max(float(line.system.leak) if line.system.has("leak") else 0.0, 0.001 * full)


def simulate_loop(
    line: Line,
    derived: Derived,
    tuning: LoopTuning,
    demand: Sequence[tuple[float, float]] | None = None,
    duration: float = 600.0,
    rows: int = 1200,
) -> LoopTrial:
    """Run the loop of a record over a demand.

    Parameters
    ----------
    demand : (time [s], nominal demand [m³/s]) steps, times rising; default ten minutes at the tap
    duration : [s], up to a day
    rows : at most so many rows in the trace

    Raises
    ------
    NotKnown : the record lacks a value
    NoSolution : the setpoint cannot be reached or seen
    OutOfRange : duration not within a day
    """
    check_range("duration in s", duration, above=0, upto=86_400)
    story = list(demand) if demand is not None else demand_story(line)
    steps = int(duration / STEP)
    clock = np.arange(steps) * STEP
    level = np.zeros(steps)
    for at, amount in story:
        level[clock >= at] = amount
    every = max(1, steps // rows)
    trace = np.zeros((-(-steps // every), 5))
    events = np.zeros((2000, 2))
    speed = min(1.0, float(derived.machine.speed_for(given("demand", story[0][1], "flow"), derived.pump.setpoint_head)))
    start = np.array([tuning.setpoint, speed, speed])
    happened, highest, energy = kernel.run(_config(line, derived, tuning), level, start, every, trace, events)
    base = float(line.motor.rated_frequency)
    trial = LoopTrial(
        times=clock[::every][: len(trace)].astype(np.float64),
        pressure=trace[:, 0],
        frequency=trace[:, 1] * base,
        flow=trace[:, 2],
        demand=trace[:, 3],
        power=trace[:, 4],
        events=[Event(float(t), EVENT_NAMES[e]) for t, e in events[:happened]],
        highest_pressure=float(highest),
        shaft_energy=float(energy),
    )
    trial.meaning.extend(_meaning(line, derived, tuning, trial, story))
    return trial


def _fig(name: str, value: float, dimension: str) -> Figure:
    return given(name, float(value), dimension, "read off the simulated trace")


def _meaning(
    line: Line, derived: Derived, tuning: LoopTuning, trial: LoopTrial, story: Sequence[tuple[float, float]]
) -> list[Verdict]:
    found = [
        _holding(float(line.motor.rated_frequency), tuning, trial, story),
        _resting(line, derived, tuning, trial, story),
        _dipping(tuning, trial),
    ]
    if line.system.has("tank_volume") and line.system.has("leak"):
        found.append(_starting(line, derived))
    if line.system.has("pressure_rating"):
        found.append(_peak(line, trial))
    return found


def _holding(base: float, tuning: LoopTuning, trial: LoopTrial, story: Sequence[tuple[float, float]]) -> Verdict:
    """How far pressure leaves the setpoint at steady demand, and how soon it is back after a change."""
    first = story[1][0] if len(story) > 1 else trial.times[-1]
    steady = (trial.times > 0.5 * first) & (trial.times < first)
    if not steady.any():  # a trial shorter than its story
        steady = trial.times >= 0.5 * trial.times[-1]
    after = (trial.times >= first) & (trial.times < first + 60)
    off = float(np.max(np.abs(trial.pressure[steady] - tuning.setpoint)))
    after = after if after.any() else steady
    swing = trial.pressure[after]
    settle = trial.times[after][np.abs(swing - tuning.setpoint) > SETTLED_BAND * tuning.setpoint] - first
    numbers = {
        "setpoint": _fig("setpoint", tuning.setpoint, "pressure"),
        "off": _fig("deviation", max(off, 1000.0), "pressure"),
        "settle": _fig("settling_time", float(settle[-1]) if settle.size else 0.0, "time"),
        "peak": _fig("peak", float(np.max(swing)), "pressure"),
    }
    swing_hz = float(np.ptp(trial.frequency[steady]))
    if swing_hz > HUNTING_SWING * base:
        return caution(
            "It hunts",
            say(
                "Speed swings by {swing} at steady demand, pressure by {off}.",
                swing=_fig("speed_swing", swing_hz, "frequency"),
                **numbers,
            ),
            say("Lower the gain, or lengthen the integral time."),
        )
    if off > SETTLED_BAND * tuning.setpoint:
        return caution(
            "It does not hold the setpoint",
            say("{off} away from {setpoint} at steady demand.", **numbers),
            say("The pump is too small for this demand, or the loop too slow."),
        )
    return clear(
        "It holds", say("Holds {setpoint} within {off}; settles {settle} after the taps close, peak {peak}.", **numbers)
    )


def _resting(
    line: Line, derived: Derived, tuning: LoopTuning, trial: LoopTrial, story: Sequence[tuple[float, float]]
) -> Verdict:
    """Whether it goes to sleep once nobody draws water, and how soon."""
    none_from = next((t for t, q in story if q <= _leak(line)), None)
    hold = derived.hold_frequency
    numbers = {
        "hold": hold,
        "below": _fig("sleep_below", tuning.sleep_below, "frequency"),
        "low": _fig("low_limit", tuning.low_limit, "frequency"),
        "above": line.own(practice.loop.LOW_LIMIT_ABOVE),
        "more": line.own(practice.loop.SLEEP_ABOVE),
    }
    asleep = next((e.time for e in trial.events if e.name == "sleep"), None)
    if asleep is None:
        if tuning.low_limit <= float(hold):
            return caution(
                "It cannot sleep",
                say("The low limit {low} is not above {hold}, which holds the pressure: nothing creeps up.", **numbers),
                say("Set the low limit {above} above {hold}.", **numbers),
            )
        return caution(
            "It never sleeps",
            say("Demand ends, and it goes on: hold at {hold}, sleep below {below}.", **numbers),
            say("Raise the sleep frequency to {more} or a little more above the low limit.", **numbers),
        )
    if none_from is not None and asleep < none_from:
        return caution(
            "It sleeps while water is drawn",
            say("Asleep after {t}, before demand ends.", t=_fig("asleep", asleep, "time")),
            say("Lower the sleep frequency, or lengthen the delay."),
        )
    if tuning.low_limit <= float(hold):
        return caution(
            "Sleep is left to chance",
            say("The low limit {low} is not above {hold}: only a trapped overshoot let it rest.", **numbers),
            say("Set the low limit {above} above {hold}, so that pressure creeps up by itself.", **numbers),
        )
    after = _fig("sleep_after", asleep - (none_from or 0.0), "time")
    numbers["least"] = derived.flow_holding(tuning.setpoint, tuning.sleep_below)
    return clear(
        "It rests",
        say(
            "Sleeps {after} after demand ends: holds at {hold}, sleeps below {below}."
            " Less than {least} counts as none.",
            after=after,
            **numbers,
        ),
    )


def _dipping(tuning: LoopTuning, trial: LoopTrial) -> Verdict:
    """How far pressure falls when much is drawn while the drive sleeps."""
    lowest = float(np.min(trial.pressure))
    numbers = {"lowest": _fig("lowest", lowest, "pressure"), "setpoint": _fig("setpoint", tuning.setpoint, "pressure")}
    if lowest < 0.6 * tuning.setpoint:
        return caution(
            "Pressure collapses on waking",
            say("Down to {lowest} when much is drawn while it sleeps; {setpoint} wanted.", **numbers),
            say("Shorten the ramp up, raise the wake level, or fit a larger tank."),
        )
    return clear("It wakes in time", say("Down to {lowest} at most.", **numbers))


def _starting(line: Line, derived: Derived) -> Verdict:
    starts = derived.starts_on_leak
    allowed = (
        line.control.starts_allowed
        if line.control.has("starts_allowed")
        else given("starts_allowed", USUAL_STARTS, "rate", "common practice")
    )
    numbers = {"leak": line.system.leak, "starts": starts, "allowed": allowed}
    if starts > allowed:
        return caution(
            "A leak wakes it too often",
            say("{leak} wakes it {starts}, {allowed} allowed.", **numbers),
            say("More boost, a lower wake level, or a larger tank."),
        )
    return clear("Rests on a leak", say("A leak of {leak} wakes it {starts}, {allowed} allowed.", **numbers))


def _peak(line: Line, trial: LoopTrial) -> Verdict:
    numbers = {
        "peak": _fig("highest_pressure", trial.highest_pressure, "pressure"),
        "rating": line.system.pressure_rating,
    }
    if trial.highest_pressure > line.system.pressure_rating:
        return caution(
            "Pressure passes the rating",
            say("Up to {peak}, rated {rating}.", **numbers),
            say("Slower ramps, a lower setpoint or boost, and a relief valve."),
        )
    return clear("Pressure stays safe", say("At most {peak}, rated {rating}.", **numbers))
