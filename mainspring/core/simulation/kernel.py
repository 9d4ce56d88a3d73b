"""The compiled loop: pump, check valve, tank, taps, sensor, PI controller, ramps, and rest at no demand.

All in this one file, since the compiler's cache does not see a change in another module. One door: a row of float64
(`CONFIG_FIELDS` says what stands where) and float64 arrays. Run with NUMBA_DISABLE_JIT=1 it is plain Python and must
give the same numbers. The pressure step is linearly implicit with SUBSTEPS sub-steps: an explicit one invents
oscillation where the pipework is stiff.
"""

import math
from typing import NamedTuple

import numpy as np
from numba import njit

SUBSTEPS = 4
G = 9.80665  # m/s²
ATMOSPHERE = 101_325.0  # Pa

AWAKE, BOOSTING, ASLEEP = 0, 1, 2
EVENT_BOOST, EVENT_SLEEP, EVENT_WAKE = 1.0, 2.0, 3.0
BOOST_LIMIT = 30.0  # s; a boost that cannot be reached ends in sleep all the same, as drives do


class Config(NamedTuple):
    """Everything constant during a run; SI, gauge pressures, speeds as a ratio of full speed."""

    step: float  # s
    density: float
    c0: float  # m
    c1: float
    c2: float
    best_flow: float  # m³/s
    best_efficiency: float
    suction: float  # Pa
    sensor_height: float  # m
    tank_volume: float  # m³
    precharge: float  # Pa
    pipe_compliance: float  # m³/Pa
    setpoint: float  # Pa
    range_low: float
    range_high: float
    filter_time: float  # s
    resolution: float  # Pa
    gain: float  # speed ratio per share of span
    integral_time: float  # s
    low_limit: float  # speed ratio
    high_limit: float
    ramp_up: float  # s, 0 to full
    ramp_down: float  # s, full to 0
    sleep_below: float  # speed ratio
    sleep_delay: float  # s
    boost: float  # Pa
    wake_at: float  # Pa


CONFIG_FIELDS = Config._fields


class State(NamedTuple):
    """What the loop remembers from step to step."""

    pressure: float  # Pa gauge, in the header
    speed: float
    integral: float
    measured: float  # Pa, after the filter
    mode: int
    clock: float  # s in the condition that is being waited for
    flow: float  # m³/s through the check valve


@njit(nogil=True, error_model="numpy", cache=True)
def pump_flow(c, speed, pressure):
    """Flow through the check valve at a speed against a header pressure; never backwards."""
    head = (pressure - c.suction) / (c.density * G) + c.sensor_height
    root = (c.c1 * speed) ** 2 - 4.0 * c.c2 * (c.c0 * speed * speed - head)
    if root <= 0.0 or c.c0 * speed * speed <= head:
        return 0.0
    return max(0.0, (-c.c1 * speed - math.sqrt(root)) / (2.0 * c.c2))


@njit(nogil=True, error_model="numpy", cache=True)
def flow_slope(c, speed, flow):
    """dQ/dp of the pump at that flow (negative)."""
    slope = c.c1 * speed + 2.0 * c.c2 * flow  # dH/dQ
    if flow <= 0.0 or slope >= -1.0:
        return 0.0
    return 1.0 / (slope * c.density * G)


@njit(nogil=True, error_model="numpy", cache=True)
def compliance(c, pressure):
    """Water taken for each pascal by tank (isothermal, above its precharge) and pipe."""
    if c.tank_volume <= 0.0 or pressure <= c.precharge:
        return c.pipe_compliance
    absolute = pressure + ATMOSPHERE
    return c.pipe_compliance + c.tank_volume * (c.precharge + ATMOSPHERE) / (absolute * absolute)


@njit(nogil=True, error_model="numpy", cache=True)
def tap_flow(c, demand, pressure):
    """What open taps let out: an orifice that gives the nominal demand at the setpoint."""
    return demand * math.sqrt(max(pressure, 0.0) / c.setpoint)


@njit(nogil=True, error_model="numpy", cache=True)
def next_pressure(c, speed, demand, pressure):
    """Header pressure after one step, linearly implicit in pump and taps."""
    dt = c.step / SUBSTEPS
    flow = 0.0
    for _ in range(SUBSTEPS):
        flow = pump_flow(c, speed, pressure)
        out = tap_flow(c, demand, pressure)
        out_slope = out / (2.0 * max(pressure, 1000.0))
        stiffness = compliance(c, pressure) - dt * (flow_slope(c, speed, flow) - out_slope)
        pressure = max(0.0, pressure + dt * (flow - out) / stiffness)
    return pressure, flow


@njit(nogil=True, error_model="numpy", cache=True)
def sensed(c, measured, pressure):
    """The drive's reading: first-order filter, then the steps of its input."""
    follow = 1.0 if c.filter_time <= 0.0 else 1.0 - math.exp(-c.step / c.filter_time)
    measured += follow * (pressure - measured)
    reading = measured
    if c.resolution > 0.0:
        reading = math.floor(measured / c.resolution + 0.5) * c.resolution
    return measured, min(max(reading, c.range_low), c.range_high)


@njit(nogil=True, error_model="numpy", cache=True)
def controller(c, setpoint, reading, integral):
    """PI in ideal form on the share of span, integrator held within the limits."""
    error = (setpoint - reading) / (c.range_high - c.range_low)
    moved = integral + c.gain * error * c.step / c.integral_time
    integral = min(max(moved, c.low_limit), c.high_limit)
    output = min(max(integral + c.gain * error, c.low_limit), c.high_limit)
    return output, integral


@njit(nogil=True, error_model="numpy", cache=True)
def ramped(c, speed, target):
    """Speed after one step, no faster than the ramps allow."""
    if target > speed:
        return min(target, speed + c.step / c.ramp_up)
    return max(target, speed - c.step / c.ramp_down)


@njit(nogil=True, error_model="numpy", cache=True)
def shaft_power(c, speed, flow):
    """Shaft power on the efficiency parabola, finite at no flow; efficiency corrected for speed."""
    if speed <= 0.01:
        return 0.0
    head = c.c0 * speed * speed + c.c1 * speed * flow + c.c2 * flow * flow
    x = min(flow / (speed * c.best_flow), 1.9)
    by_affinity = c.density * G * max(head, 0.0) * speed * c.best_flow / (c.best_efficiency * (2.0 - x))
    eta = c.best_efficiency * (2.0 * x - x * x)
    if eta <= 0.05:
        return by_affinity
    corrected = 1.0 - (1.0 - eta) * (1.0 / speed) ** 0.1
    return by_affinity * eta / max(corrected, 0.05)


@njit(nogil=True, error_model="numpy", cache=True)
def advance(c, s, demand):
    """One step of the whole loop: the next state and the event that happened, or 0."""
    measured, reading = sensed(c, s.measured, s.pressure)
    mode, clock, integral, event = s.mode, s.clock, s.integral, 0.0
    if mode == ASLEEP:
        target = 0.0
        if reading < c.wake_at:
            mode, clock, integral, event = AWAKE, 0.0, c.low_limit, EVENT_WAKE
    elif mode == BOOSTING:
        target, integral = controller(c, c.setpoint + c.boost, reading, integral)
        clock += c.step
        if reading >= c.setpoint + c.boost - c.resolution or clock >= BOOST_LIMIT:
            mode, clock, event = ASLEEP, 0.0, EVENT_SLEEP
        elif reading < c.wake_at:
            mode, clock, event = AWAKE, 0.0, EVENT_WAKE
    else:
        target, integral = controller(c, c.setpoint, reading, integral)
        resting = reading >= c.setpoint - c.resolution and s.speed <= c.sleep_below
        clock = clock + c.step if resting and c.sleep_below > 0.0 else 0.0
        if resting and clock >= c.sleep_delay:
            mode, clock, event = BOOSTING, 0.0, EVENT_BOOST
            if c.boost <= 0.0:
                mode, event = ASLEEP, EVENT_SLEEP
    if mode == ASLEEP:
        target = 0.0
    elif s.mode == ASLEEP:
        target = c.low_limit
    speed = ramped(c, s.speed, target)
    pressure, flow = next_pressure(c, speed, demand, s.pressure)
    return State(pressure, speed, integral, measured, mode, clock, flow), event


@njit(nogil=True, error_model="numpy", cache=True)
def run(row, demand, start, every, trace, events):
    """Run the loop over a demand given for every step.

    Parameters
    ----------
    row : float64, the fields of Config in order
    demand : float64, nominal demand at each step [m³/s]
    start : float64, pressure [Pa], speed ratio, integral at the start
    every : steps between two rows of the trace
    trace : float64 (n, 5), filled with pressure, speed ratio, flow, taps' flow, shaft power
    events : float64 (m, 2), filled with time and event

    Returns the number of events, the largest pressure, and the energy at the shaft [J].
    """
    c = Config(
        row[0], row[1], row[2], row[3], row[4], row[5], row[6], row[7], row[8], row[9], row[10], row[11], row[12],
        row[13], row[14], row[15], row[16], row[17], row[18], row[19], row[20], row[21], row[22], row[23], row[24],
        row[25], row[26],
    )  # fmt: skip
    s = State(start[0], start[1], start[2], start[0], AWAKE, 0.0, 0.0)
    happened, highest, energy = 0, s.pressure, 0.0
    for i in range(demand.size):
        s, event = advance(c, s, demand[i])
        power = shaft_power(c, s.speed, s.flow)
        energy += power * c.step
        highest = max(highest, s.pressure)
        if event > 0.0 and happened < events.shape[0]:
            events[happened, 0] = (i + 1) * c.step
            events[happened, 1] = event
            happened += 1
        if i % every == 0 and i // every < trace.shape[0]:
            k = i // every
            trace[k, 0] = s.pressure
            trace[k, 1] = s.speed
            trace[k, 2] = s.flow
            trace[k, 3] = tap_flow(c, demand[i], s.pressure)
            trace[k, 4] = power
    return happened, highest, energy


def compile_now() -> None:
    """Compile (or load from the cache) before a request needs it."""
    row = np.ones(len(CONFIG_FIELDS))
    run(row, np.zeros(2), np.zeros(3), 1, np.zeros((2, 5)), np.zeros((1, 2)))
