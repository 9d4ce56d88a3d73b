"""The compiled loop: a plant, its sensor, the controller in the drive, ramps and limits, rest, and a set in cascade.

All in this one file, since the compiler's cache does not see a change in another module. One door, `run`: a `Config`
of floats only (`config_of` sees to that) and float64 arrays. Run with NUMBA_DISABLE_JIT=1 it is plain Python and must
give the same numbers.

What is stored (water in a tank, in a pit, heat in a room) is the state, and flows over a step are what changes it: a
balance drawn from the totals closes to rounding. The pressure step is linearly implicit: an explicit one invents
oscillation where the pipework is stiff. Speeds are shares of full speed, slip neglected as the drive's display does.
"""

import math
import threading
from collections.abc import Callable, Mapping
from typing import Any, NamedTuple

import numpy as np

ATMOSPHERE = 101_325.0  # Pa
NEVER = 1e18  # s

# plants
HEADER, FLOW, LEVEL, HEAT, OPEN, ROOM = 0.0, 1.0, 2.0, 3.0, 4.0, 5.0
# what it rests by
NO_REST, BY_SPEED, BY_LEVEL = 0.0, 1.0, 2.0
# what the drive does when the sensor's signal is lost
STOP, LAST, LOWEST = 0.0, 1.0, 2.0

AWAKE, BOOSTING, ASLEEP, FILLING, TRIPPED, LOCKED = 0, 1, 2, 3, 4, 5

BOOST, SLEEP, WAKE, LIMITED, TRIP, RETRY, LOCKOUT, ANOTHER, FEWER, HIGH, LOST, FILLED, TOP, CAUGHT, SLAMMED, TURN = (
    1.0, 2.0, 3.0, 4.0, 5.0, 6.0, 7.0, 8.0, 9.0, 10.0, 11.0, 12.0, 13.0, 14.0, 15.0, 16.0,
)  # fmt: skip
BOOST_LIMIT = 30.0  # s; a boost that cannot be reached ends in sleep all the same, as drives do
IDLE_TORQUE = 0.02  # of rated: bearings and seals, which bring a coasting machine to rest at last
DERIVATIVE_FILTER = 10.0  # derivative time over its filter's, usual

TRACE = ("value", "speed", "flow", "taken", "power", "running", "drawdown")
TOTALS = ("highest", "lowest", "energy", "pumped", "taken", "starts", "awake", "at_top", "error", "movement", "stored")
MOST_MACHINES = 24


_waiting: dict[str, tuple[Callable[..., Any], bool]] = {}  # by name: a function still to be compiled, and inlined
_compiling = threading.Lock()


class Waiting:
    """A function of the kernel that is not compiled yet: the compiler takes half a second to load, and few need it."""

    def __init__(self, function: Callable[..., Any], *, inline: bool) -> None:
        self.name = function.__name__
        _waiting[self.name] = function, inline

    def __call__(self, *given: Any) -> Any:
        return _compiled(self.name)(*given)

    def __getattr__(self, name: str) -> Any:
        return getattr(_compiled(self.name), name)


def _compiled(name: str) -> Any:
    """The function, all of them put in their places by the compiler: they find each other by name."""
    with _compiling:
        if _waiting:
            from numba import njit

            for each, (function, inline) in _waiting.items():
                made = njit(nogil=True, error_model="numpy", cache=True, forceinline=inline)
                globals()[each] = made(function)
            _waiting.clear()
    return globals()[name]


def inlined(function: Callable[..., Any]) -> Waiting:
    """Inlined where it is called: the compiler would pass a config field by field else, 90 numbers a call."""
    return Waiting(function, inline=True)


def called(function: Callable[..., Any]) -> Waiting:
    """Called from without."""
    return Waiting(function, inline=False)


class Plant(NamedTuple):
    """A machine on its system. Rises are heads [m] of a pump, pressures [Pa] of a fan."""

    kind: float
    weight: float  # Pa for each unit of rise: rho g of a pump, 1 of a fan
    c0: float  # rise at no flow, full speed
    c1: float
    c2: float
    best_flow: float  # m³/s
    best_efficiency: float
    size_exponent: float  # by which efficiency falls with speed: 0.1 of a pump, 0 of a fan
    lift: float  # rise needed at no flow while what is held stands at 0, or at the setpoint for a level
    friction: float  # rise/(m³/s)², between the machine and what is held
    tank_volume: float  # m³
    precharge: float  # Pa
    elastic: float  # m³/Pa, of pipe or duct
    nominal: float  # of what is held, at which outlets let the demand through
    inertia: float  # rise/(m³/s²), of the column that a flow has to move
    area: float  # m², of a pit
    direction: float  # +1 fills or heats up, -1 empties
    standby: float  # m³/s, of the pump that the high-level relay starts; its power is not counted
    high: float  # m, at which it does; NEVER without
    high_off: float  # m
    drawdown: float  # m for each m³/s, of a well
    well_area: float  # m²
    capacity: float  # J/K, of what is heated or cooled
    exchange: float  # W/K at full flow
    stream: float  # °C, of what the machine brings
    full_flow: float  # m³/s at full speed
    leak: float  # m³/s through the cracks of a room at the nominal pressure
    dry_from: float  # s, the well or the suction runs dry
    dry_until: float
    substeps: float


class Sensor(NamedTuple):
    """From the plant to the number in the drive."""

    low: float
    high: float
    follow: float  # share of the way to the true value in a step: 1 without lag
    noise: float  # standard deviation, in the unit of what is held
    resolution: float
    least: float  # where the input clips
    most: float
    lost_from: float  # s, wire broken
    lost_until: float
    told: float  # 1: the drive sees that it is broken
    on_loss: float


class Controller(NamedTuple):
    """PI(D) in ideal form on shares of span and of full speed."""

    setpoint: float
    second: float
    second_from: float  # s, the contact closes; NEVER without
    action: float  # +1 where more speed raises what is held
    gain: float
    integral_time: float  # s
    derivative_time: float
    low: float  # speed
    high: float
    hand_until: float  # s, led by hand until then, at the speeds that `run` is given


class Drive(NamedTuple):
    """Ramps, limits, protection."""

    up: float  # s, 0 to full
    down: float
    torque_limit: float  # of rated
    rated_power: float  # W
    run_up: float  # s, inertia: J w²/P at full speed
    dry_power: float  # of rated, below which it is taken as dry; 0 without
    dry_scaled: float  # 1: scaled with the cube of speed
    dry_delay: float
    retries: float
    retry_after: float
    fill_speed: float  # while the line fills; 0 without
    fill_until: float  # of what is held
    fill_time: float
    coast: float  # 1: coasts when told to stop
    catches: float  # 1: catches a turning machine


class Rest(NamedTuple):
    """When it stops by itself, and starts again."""

    by: float
    below: float  # speed
    delay: float
    boost: float
    wake: float  # of what is held
    stop: float  # m, level


class Set(NamedTuple):
    """Alike machines on one header, each with its own drive, all at one speed."""

    machines: float
    on: float  # speed at which another comes
    off: float
    delay: float
    join: float  # s to come in
    turn: float  # s between turns


class Config(NamedTuple):
    """Everything constant during a run; SI, gauge pressures."""

    step: float
    plant: Plant
    sensor: Sensor
    control: Controller
    drive: Drive
    rest: Rest
    set: Set


class State(NamedTuple):
    """What the loop remembers from step to step."""

    value: float  # what is held
    stored: float  # m³ in a header
    flow: float  # through the machines
    taken: float  # by the outlets
    power: float  # W, all machines
    well: float  # m of drawdown
    measured: float  # after the lag
    reading: float
    speed: float
    rotor: float
    integral: float
    slope: float  # filtered derivative
    mode: int
    clock: float
    dry_clock: float
    trips: float
    running: float
    wanted: float
    stage_clock: float
    lead: float
    turn_clock: float
    limited: float
    top: float
    high: float
    helped: float  # m³/s, of the standby pump


def config_of(step: float, parts: Mapping[str, Mapping[str, float]]) -> Config:
    """A config of floats only: an int among them would compile the kernel once more inside a request.

    Raises TypeError for a part or field that is missing or not known.
    """
    made = {
        name: kind(**{field: float(value) for field, value in parts[name].items()})
        for name, kind in Config.__annotations__.items()
        if name != "step"
    }
    return Config(step=float(step), **made)


@inlined
def machine_flow(p, speed, need, running):
    """Flow of the running machines at a speed against a rise that is needed at no flow; never backwards."""
    spare = p.c0 * speed * speed - need
    if spare <= 0.0 or running <= 0.0:
        return 0.0
    a = p.c2 - p.friction * running * running
    b = p.c1 * speed
    return max(0.0, running * (-b - math.sqrt(max(b * b - 4.0 * a * spare, 0.0))) / (2.0 * a))


@inlined
def flow_slope(p, speed, flow, running):
    """dQ/dp of the running machines at that flow (not positive)."""
    if flow <= 0.0:
        return 0.0
    slope = p.c1 * speed + 2.0 * (p.c2 - p.friction * running * running) * flow / running
    if slope >= 0.0:
        return 0.0
    return running / (slope * p.weight)


@inlined
def stored_at(p, pressure):
    """Water in tank and pipe at a pressure: isothermal above the precharge."""
    stored = p.elastic * pressure
    if p.tank_volume > 0.0 and pressure > p.precharge:
        stored += p.tank_volume * (1.0 - (p.precharge + ATMOSPHERE) / (pressure + ATMOSPHERE))
    return stored


@inlined
def pressure_at(p, stored):
    """Pressure of tank and pipe that hold so much."""
    if p.tank_volume <= 0.0 or stored <= p.elastic * p.precharge:
        return stored / p.elastic
    b = p.tank_volume - p.elastic * ATMOSPHERE - stored
    air = p.tank_volume * (p.precharge + ATMOSPHERE)
    return (-b + math.sqrt(b * b + 4.0 * p.elastic * air)) / (2.0 * p.elastic) - ATMOSPHERE


@inlined
def compliance(p, pressure):
    """Water taken for each pascal."""
    if p.tank_volume <= 0.0 or pressure <= p.precharge:
        return p.elastic
    absolute = pressure + ATMOSPHERE
    return p.elastic + p.tank_volume * (p.precharge + ATMOSPHERE) / (absolute * absolute)


@inlined
def header(c, s, speed, demand, lift):
    """A header with a tank, or a duct: pressure, stored, pumped and taken over one step."""
    p = c.plant
    dt = c.step / p.substeps
    pressure, stored, pumped, taken = s.value, s.stored, 0.0, 0.0
    for _ in range(int(p.substeps)):
        flow = machine_flow(p, speed, pressure / p.weight + lift, s.running)
        out = demand * math.sqrt(pressure / p.nominal) if pressure > 0.0 else 0.0
        slope = flow_slope(p, speed, flow, s.running)
        out_slope = out / (2.0 * max(pressure, 0.01 * p.nominal))
        moved = dt * (flow - out) / (compliance(p, pressure) - dt * (slope - out_slope))
        flow = max(0.0, flow + slope * moved)
        out = max(0.0, out + out_slope * moved)
        out = min(out, flow + stored / dt)  # no water from nothing
        stored = max(0.0, stored + dt * (flow - out))
        pressure = pressure_at(p, stored)
        pumped += flow
        taken += out
    return pressure, stored, pumped / p.substeps, taken / p.substeps


@inlined
def room(c, s, speed, supply):
    """A room that a fan draws from: supplied, and leaking through its cracks by the root of its pressure."""
    p = c.plant
    dt = c.step / p.substeps
    pressure, drawn, come = s.value, 0.0, 0.0
    for _ in range(int(p.substeps)):
        flow = machine_flow(p, speed, -pressure / p.weight, s.running)
        slope = -flow_slope(p, speed, flow, s.running)
        size = max(abs(pressure), 0.01 * p.nominal)
        leak_slope = -p.leak / math.sqrt(p.nominal * size)
        leak = leak_slope * pressure
        moved = dt * (supply + leak - flow) / (p.elastic - dt * (0.5 * leak_slope - slope))
        pressure += moved
        drawn += flow + slope * moved
        come += supply + leak + 0.5 * leak_slope * moved
    return pressure, p.elastic * pressure, drawn / p.substeps, come / p.substeps


@inlined
def pipeline(c, s, speed, opening):
    """A pipe through a valve: its water column has to be moved. Flow after the step."""
    p = c.plant
    k = p.friction / max(opening * opening, 1e-4)
    rise = p.c0 * speed * speed + p.c1 * speed * s.flow + (p.c2 - k) * s.flow * s.flow - p.lift
    slope = p.c1 * speed + 2.0 * (p.c2 - k) * s.flow
    return max(0.0, s.flow + c.step * rise / (p.inertia - c.step * min(slope, 0.0)))


@inlined
def pit(c, s, speed, demand):
    """A pit that is emptied, or a tank that is filled: level, stored, pumped, other flow, relay, standby's flow."""
    p = c.plant
    need = p.lift + p.direction * (s.value - p.nominal)
    flow = machine_flow(p, speed, need, s.running)
    high = s.high
    if s.value >= p.high:
        high = 1.0
    elif s.value <= p.high_off:
        high = 0.0
    water, taken, helped = s.value * p.area, demand, 0.0
    if p.direction < 0.0:
        flow = min(flow, demand + water / c.step)
        helped = min(p.standby * high, demand + water / c.step - flow)
        water += c.step * (demand - flow - helped)
    else:
        taken = min(demand, flow + water / c.step)
        water += c.step * (flow - taken)
    return max(0.0, water) / p.area, water, flow, taken, high, helped


@inlined
def heated(c, s, speed, load):
    """A room or a basin: what comes in as a share of what full flow carries at the setpoint, and what is carried."""
    p = c.plant
    flow = machine_flow(p, speed, p.lift, s.running)
    carries = p.exchange * flow / p.full_flow
    gained = load * p.exchange * (p.nominal - p.stream)
    moved = c.step * (gained - carries * (s.value - p.stream)) / (p.capacity + c.step * carries)
    return s.value + moved, flow


@inlined
def shaft_power(p, speed, flow, running):
    """Shaft power of all that run, on the efficiency parabola, finite at no flow."""
    if speed <= 0.01 or running <= 0.0:
        return 0.0
    each = flow / running
    rise = p.c0 * speed * speed + p.c1 * speed * each + p.c2 * each * each
    x = min(each / (speed * p.best_flow), 1.9)
    by_affinity = p.weight * max(rise, 0.0) * speed * p.best_flow / (p.best_efficiency * (2.0 - x))
    eta = p.best_efficiency * (2.0 * x - x * x)
    if eta > 0.05 and p.size_exponent > 0.0 and speed < 1.0:
        corrected = 1.0 - (1.0 - eta) * math.exp(-p.size_exponent * math.log(speed))
        by_affinity *= eta / max(corrected, 0.05)
    return running * by_affinity


@inlined
def sensed(c, s, value, noise, t):
    """The drive's reading after noise, lag, the steps of its input and its ends; and whether the wire is broken."""
    n = c.sensor
    measured = s.measured + n.follow * (value + n.noise * noise - s.measured)
    reading = measured
    if n.resolution > 0.0:
        reading = math.floor(reading / n.resolution + 0.5) * n.resolution
    reading = min(max(reading, n.least), n.most)
    lost = n.lost_from <= t < n.lost_until
    if lost:
        reading = n.least
    return measured, reading, lost


@inlined
def controller(c, s, setpoint, reading, integral):
    """Output, integral and filtered derivative; the integral held within the limits."""
    k = c.control
    span = c.sensor.high - c.sensor.low
    error = k.action * (setpoint - reading) / span
    slope = 0.0
    if k.derivative_time > 0.0:
        filter_time = k.derivative_time / DERIVATIVE_FILTER
        moved = k.action * (s.reading - reading) / span / c.step
        slope = s.slope + c.step / (filter_time + c.step) * (moved - s.slope)
    integral = min(max(integral + k.gain * error * c.step / k.integral_time, k.low), k.high)
    output = integral + k.gain * (error + k.derivative_time * slope)
    return min(max(output, k.low), k.high), integral, slope


@inlined
def setpoint_at(c, t):
    """The first setpoint, or the second while its contact is closed."""
    return c.control.second if t >= c.control.second_from else c.control.setpoint


@inlined
def has_slept_enough(c, reading):
    """Whether what is held calls for it again."""
    if c.rest.by == BY_LEVEL:
        return c.plant.direction * (c.rest.wake - reading) >= 0.0
    return c.control.action * (c.rest.wake - reading) > 0.0


@inlined
def may_rest(c, s, reading, setpoint):
    """Whether nothing is asked of it: held at the lowest speeds, or the level is where it stops."""
    if c.rest.by == BY_SPEED:
        beyond = c.control.action * (reading - setpoint) >= -c.sensor.resolution
        return beyond and s.speed <= c.rest.below
    if c.rest.by == BY_LEVEL:
        return c.plant.direction * (reading - c.rest.stop) >= 0.0
    return False


@inlined
def decided(c, s, reading, setpoint):
    """The loop's own decision: mode, clock, target, integral, derivative and what happened."""
    mode, clock, integral, slope, target, event = s.mode, s.clock + c.step, s.integral, 0.0, 0.0, 0.0
    if mode == ASLEEP:
        if has_slept_enough(c, reading):
            mode, clock, integral, target, event = AWAKE, 0.0, c.control.low, c.control.low, WAKE
    elif mode == FILLING:
        target = c.drive.fill_speed
        if reading >= c.drive.fill_until or clock >= c.drive.fill_time:
            mode, clock, integral, event = AWAKE, 0.0, s.speed, FILLED
    elif mode == BOOSTING:
        aim = setpoint + c.control.action * c.rest.boost
        target, integral, slope = controller(c, s, aim, reading, integral)
        if c.control.action * (reading - aim) >= -c.sensor.resolution or clock >= BOOST_LIMIT:
            mode, clock, target, event = ASLEEP, 0.0, 0.0, SLEEP
        elif has_slept_enough(c, reading):
            mode, clock, event = AWAKE, 0.0, WAKE
    else:
        target, integral, slope = controller(c, s, setpoint, reading, integral)
        if not may_rest(c, s, reading, setpoint):
            clock = 0.0
        elif clock >= c.rest.delay:
            clock = 0.0
            if c.rest.by == BY_SPEED and c.rest.boost > 0.0:
                mode, event = BOOSTING, BOOST
            else:
                mode, target, event = ASLEEP, 0.0, SLEEP
    return mode, clock, target, integral, slope, event


@inlined
def ordered(c, s, reading, reference, hand, t, lost):
    """What the drive wants: as `decided`, but for a hand, an outside reference, a lost signal or a trip."""
    mode, clock, integral, slope, event = s.mode, s.clock + c.step, s.integral, 0.0, 0.0
    k = c.control
    if mode == LOCKED:
        return mode, clock, 0.0, integral, slope, event
    if mode == TRIPPED:
        if clock < c.drive.retry_after:
            return mode, clock, 0.0, integral, slope, event
        return AWAKE, 0.0, k.low, k.low, slope, RETRY
    if c.plant.kind == OPEN:
        target = 0.0 if reference < 0.0 else min(max(reference, k.low), k.high)
        return mode, clock, target, integral, slope, event
    if t < k.hand_until:
        error = k.action * (setpoint_at(c, t) - reading) / (c.sensor.high - c.sensor.low)
        return mode, 0.0, hand, min(max(hand - k.gain * error, k.low), k.high), slope, event
    if lost and c.sensor.told > 0.0 and mode != ASLEEP:
        if c.sensor.on_loss == STOP:
            return LOCKED, 0.0, 0.0, integral, slope, LOST
        target = s.speed if c.sensor.on_loss == LAST else k.low
        return mode, 0.0, target, min(max(target, k.low), k.high), slope, LOST if s.reading > c.sensor.least else 0.0
    return decided(c, s, reading, setpoint_at(c, t))


@inlined
def ramped(c, s, speed, target, stopped):
    """Speed after one step: no faster than ramps and torque allow; whether the torque held it; the rotor's own."""
    d = c.drive
    was, limited = speed, 0.0
    if stopped and d.coast > 0.0:
        torque = IDLE_TORQUE
        if s.rotor > 0.01:
            torque += s.power / (s.rotor * d.rated_power)
        return 0.0, limited, max(0.0, s.rotor - c.step * torque / max(d.run_up, c.step))
    steady = s.power / (was * d.rated_power * s.running) if was > 0.05 else 0.0
    if target > speed:
        rate = 1.0 / d.up
        spare = d.torque_limit - steady
        if d.run_up * rate > spare:
            limited = 1.0
            rate = spare / d.run_up if spare > 0.0 and d.run_up > 0.0 else 0.0
        speed = min(target, speed + c.step * rate)
    else:
        speed = max(target, speed - c.step / d.down)
    if steady > d.torque_limit:
        limited = 1.0
        speed = min(speed, max(0.0, was - c.step / d.down))
    return speed, limited, speed


@inlined
def staged(c, s, speed, mode):
    """How many run and are wanted, the clock, and what happened."""
    g = c.set
    wanted, clock, event = s.wanted, s.stage_clock, 0.0
    if g.machines <= 1.0:
        return s.running, wanted, clock, event
    if mode != AWAKE:
        wanted, clock = 1.0, 0.0
    elif speed >= g.on and wanted < g.machines:
        clock = max(clock, 0.0) + c.step
        if clock >= g.delay:
            wanted, clock, event = wanted + 1.0, 0.0, ANOTHER
    elif speed <= g.off and wanted > 1.0:
        clock = min(clock, 0.0) - c.step
        if -clock >= g.delay:
            wanted, clock, event = wanted - 1.0, 0.0, FEWER
    else:
        clock = 0.0
    moved = c.step / g.join
    running = min(wanted, s.running + moved) if wanted > s.running else max(wanted, s.running - moved)
    return running, wanted, clock, event


@inlined
def moved_on(c, s, speed, demand, t):
    """The plant after one step: value, stored, flow, taken, drawdown of the well, high level, standby's flow."""
    p = c.plant
    dry = p.dry_from <= t < p.dry_until
    push = 0.0 if dry else speed
    if p.kind == HEADER:
        value, stored, flow, taken = header(c, s, push, demand, p.lift + s.well)
        well = s.well
        if p.drawdown > 0.0:
            well = max(0.0, s.well + c.step * (flow - s.well / p.drawdown) / p.well_area)
        return value, stored, flow, taken, well, 0.0, 0.0
    if p.kind == FLOW:
        flow = pipeline(c, s, push, demand)
        return flow, 0.0, flow, flow, 0.0, 0.0, 0.0
    if p.kind == LEVEL:
        value, stored, flow, taken, high, helped = pit(c, s, push, demand)
        return value, stored, flow, taken, 0.0, high, helped
    if p.kind == HEAT:
        value, flow = heated(c, s, push, demand)
        return value, 0.0, flow, flow, 0.0, 0.0, 0.0
    if p.kind == ROOM:
        value, stored, flow, taken = room(c, s, push, demand)
        return value, stored, flow, taken, 0.0, 0.0, 0.0
    flow = machine_flow(p, push, p.lift, s.running)
    return flow, 0.0, flow, flow, 0.0, 0.0, 0.0


@inlined
def guarded(c, s, mode, speed, power):
    """Dry running: too little power for too long trips it; the retries over, it stays. Mode, clocks, trips, event."""
    d = c.drive
    if d.dry_power <= 0.0 or mode > BOOSTING or speed < 0.05:
        return mode, 0.0, s.trips, 0.0
    threshold = d.dry_power * d.rated_power * s.running
    if d.dry_scaled > 0.0:
        threshold *= speed * speed * speed
    if power >= threshold:
        return mode, 0.0, s.trips, 0.0
    clock = s.dry_clock + c.step
    if clock < d.dry_delay:
        return mode, clock, s.trips, 0.0
    if s.trips >= d.retries:
        return LOCKED, 0.0, s.trips + 1.0, LOCKOUT
    return TRIPPED, 0.0, s.trips + 1.0, TRIP


@inlined
def foremost(event, staging, s, made):
    """The one event of a step that is told: what the drive decided, else what began."""
    if event == 0.0:
        event = staging
    if event == 0.0 and made.high > s.high:
        event = HIGH
    if event == 0.0 and made.limited > s.limited:
        event = LIMITED
    if event == 0.0 and made.top > s.top:
        event = TOP
    return event


@inlined
def advance(c, s, demand, hand, noise, seen, t):
    """One step of the whole loop: the next state and the event that happened, or 0."""
    measured, reading, lost = sensed(c, s, seen, noise, t)
    mode, clock, target, integral, slope, event = ordered(c, s, reading, demand, hand, t, lost)
    stopped = mode == ASLEEP or mode >= TRIPPED or (c.plant.kind == OPEN and demand < 0.0)
    if stopped:
        target = 0.0
    speed = s.speed
    if c.plant.kind == OPEN and not stopped and s.speed == 0.0 and s.rotor > 0.05:
        if c.drive.catches > 0.0:
            speed, event = s.rotor, CAUGHT
        else:
            mode, clock, target, event = LOCKED, 0.0, 0.0, SLAMMED
    speed, limited, rotor = ramped(c, s, speed, target, stopped)
    running, wanted, stage_clock, staging = staged(c, s, speed, mode)
    value, stored, flow, taken, well, high, helped = moved_on(c, s, speed, demand, t)
    power = shaft_power(c.plant, max(speed, rotor), flow, s.running)
    if c.plant.dry_from <= t < c.plant.dry_until:
        power *= 0.3  # air in it: a third of what shut water would take, common practice
    guard, dry_clock, trips, tripped = guarded(c, s, mode, speed, power)
    if guard != mode:
        mode, clock, event = guard, 0.0, tripped
    top = 1.0 if mode == AWAKE and speed >= c.control.high and c.plant.kind != OPEN else 0.0
    turn_clock, lead = s.turn_clock + c.step, s.lead
    if turn_clock >= c.set.turn:
        turn_clock, lead, staging = 0.0, (lead + 1.0) % c.set.machines, TURN
    made = State(
        value, stored, flow, taken, power, well, measured, reading, speed, rotor, integral, slope, mode, clock,
        dry_clock, trips, running, wanted, stage_clock, lead, turn_clock, limited, top, high, helped,
    )  # fmt: skip
    return made, foremost(event, staging, s, made)


@inlined
def beginning(c, value, speed, running, well):
    """The state to start from: held, and turning at a speed; or filling a line that is empty."""
    stored = stored_at(c.plant, value) if c.plant.kind == HEADER else value * c.plant.area
    mode = FILLING if c.drive.fill_speed > 0.0 else AWAKE
    seen = min(max(value, c.sensor.least), c.sensor.most)
    flow = value if c.plant.kind == FLOW else 0.0
    made = State(
        value, stored, flow, 0.0, 0.0, well, value, seen, speed, speed, speed, 0.0, mode, 0.0, 0.0, 0.0, running,
        max(1.0, math.floor(running)), 0.0, 0.0, 0.0, 0.0, 0.0, 0.0, 0.0,
    )  # fmt: skip
    return made  # noqa: RET504 a formatter lets only a statement be


@inlined
def summed(c, before, s, t, totals, hours):
    """Add a step to `TOTALS` and to the hours of each machine."""
    totals[0], totals[1] = max(totals[0], s.value), min(totals[1], s.value)
    totals[2] += s.power * c.step
    totals[3] += (s.flow + s.helped) * c.step
    totals[4] += s.taken * c.step
    totals[9] += abs(s.speed - before.speed)
    if s.speed > 0.0:
        totals[6] += c.step
        if c.set.machines <= 1.0:
            hours[0] += c.step
        else:
            for j in range(int(s.wanted)):
                hours[int(s.lead + j) % int(c.set.machines)] += c.step
        if before.speed == 0.0:
            totals[5] += 1.0
    if s.top > 0.0:
        totals[7] += c.step
    if s.mode == AWAKE:
        totals[8] += abs(s.value - setpoint_at(c, t)) * c.step


@inlined
def traced(s, row):
    """One row of the trace."""
    row[0] = s.value
    row[1] = s.speed if s.rotor == s.speed else s.rotor
    row[2] = s.flow + s.helped
    row[3] = s.taken
    row[4] = s.power
    row[5] = s.running
    row[6] = s.well


@called
def run(c, steps, times, demands, hand_times, hands, noise, start, ring, every, trace, events, totals, hours):
    """Run the loop over a demand told by steps.

    Parameters
    ----------
    c : Config
    steps : how many steps of the controller
    times, demands : float64 (k,), each demand from its time [s] on; the first time is 0. Demand in m³/s; the opening
        of the valve of a flow; the share of full heat; the speed ordered from outside, negative for stop
    hand_times, hands : float64 (h,), each speed by hand from its time on, while `hand_until` lasts
    noise : float64 (n,), standard normal, gone through in turn
    start : float64 (4,), what is held, speed, how many run, drawdown of the well
    ring : float64 (d,), of the size of the dead time in steps, at least 1
    every : steps between two rows of the trace
    trace : float64 (rows, 7), filled with `TRACE`
    events : float64 (m, 2), filled with time and event
    totals : float64 (11,), filled with `TOTALS`
    hours : float64 (24,), filled with seconds that each machine ran

    Returns the number of events, of which only the first m are kept.
    """
    s = beginning(c, start[0], start[1], start[2], start[3])
    ring[:] = start[0]
    totals[:] = 0.0
    totals[0] = totals[1] = s.value
    happened, row, k, h, late, hiss, until_row = 0, 0, 0, 0, 0, 0, 0
    for i in range(steps):
        t = i * c.step
        while k + 1 < times.size and times[k + 1] <= t:
            k += 1
        while h + 1 < hand_times.size and hand_times[h + 1] <= t:
            h += 1
        before = s
        s, event = advance(c, s, demands[k], hands[h], noise[hiss], ring[late], t)
        ring[late] = s.value
        late = late + 1 if late + 1 < ring.size else 0
        hiss = hiss + 1 if hiss + 1 < noise.size else 0
        summed(c, before, s, t, totals, hours)
        if event > 0.0:
            if happened < events.shape[0]:
                events[happened, 0] = t + c.step
                events[happened, 1] = event
            happened += 1
        if until_row == 0 and row < trace.shape[0]:
            until_row = every
            traced(s, trace[row])
            row += 1
        until_row -= 1
    totals[10] = s.stored
    return happened


def compile_now() -> None:
    """Compile (or load from the cache) before a request needs it."""
    parts = {name: dict.fromkeys(kind._fields, 1.0) for name, kind in Config.__annotations__.items() if name != "step"}
    one = np.ones(1)
    run(
        config_of(1.0, parts), 2, np.zeros(1), one, np.zeros(1), one, one, np.ones(4), np.zeros(1), 1,
        np.zeros((2, len(TRACE))), np.zeros((1, 2)), np.zeros(len(TOTALS)), np.zeros(MOST_MACHINES),
    )  # fmt: skip
