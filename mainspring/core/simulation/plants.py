"""From a record and where the knobs stand to the kernel's config: one small physical model for each kind of loop.

- header: pump or fan curve against what lies before a header, whose outlets pass by the root of its pressure (orifice);
  a diaphragm tank by Boyle's law (isothermal), pipes and ducts that give elastically; a check valve; a well that drops
  by its specific drawdown and refills. Booster, borehole, closed circuit (outlets are the two-way valves) and duct
  (outlets are the terminal dampers).
- room: air supplied and leaking through cracks by the root of the room's pressure, drawn out by the fan.
- flow: the water column's momentum in a pipe behind a valve.
- level: the balance of a pit or tank.
- heat: the balance of what is heated or cooled by the stream that the machine brings, behind a dead time.
- open: a machine on its system whose speed comes from outside, with the rotor's momentum.
"""

import math
from collections.abc import Mapping
from dataclasses import dataclass, replace
from typing import Any

from mainspring.core.benches.process import PIPE_COMPLIANCE
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError, NoSolution
from mainspring.core.held import rises_with_speed
from mainspring.core.limits import inertia_at_motor
from mainspring.core.line import Line
from mainspring.core.motor.inertia import acceleration_time
from mainspring.core.quantity import DIMENSIONS, WATER_20C, G
from mainspring.core.settings.setting import SETTINGS, plan_of
from mainspring.core.simulation import kernel
from mainspring.core.simulation.knobs import duty_flow

STEP = 0.05  # s, the controller's own period
POLYTROPIC = 1.4  # of air that is pressed too fast to give its heat away
DUCT_SECONDS = 4.0  # s of the duty flow that fill a duct, common practice (10 m/s, 40 m)
ROOM_SECONDS = 120.0  # s of the duty flow that fill a room: 30 changes an hour, common practice
COLUMN_VELOCITY = 2.0  # m/s in the pipe at duty flow, where the pipe is not known
COLUMN_LENGTH = 50.0  # m
LEAK_SHARE = 0.15  # of the duty flow through a room's cracks at the held pressure, common practice
INPUT_STEPS = 4095.0  # of a 12-bit input
OVER_RANGE = 0.031  # of span: 20.5 mA, NAMUR NE 43, from memory
UNDER_RANGE = 0.0125  # 3.8 mA
STIFF = 1.0  # s; below this time constant the plant takes four sub-steps
TORQUE_LEFT = 1.1  # of rated, what a drive for pumps and fans gives for a minute (common practice)

_KINDS = {
    "pressure": kernel.HEADER,
    "differential": kernel.HEADER,
    "duct": kernel.HEADER,
    "flow": kernel.FLOW,
    "level": kernel.LEVEL,
    "temperature": kernel.HEAT,
    "reference": kernel.OPEN,
}


@dataclass(frozen=True)
class Happens:
    """What goes wrong or is told during a trial; times in s."""

    lost_from: float = kernel.NEVER
    lost_until: float = kernel.NEVER
    dry_from: float = kernel.NEVER
    dry_until: float = kernel.NEVER
    second_from: float = kernel.NEVER
    second: float = 0.0
    filling: bool = False
    coasts: bool = False  # told to stop it lets go, whatever the setting says


@dataclass(frozen=True)
class Setup:
    """A line ready to be tried: the kernel's config, and what the bench needs to read its trace."""

    kind: float
    config: kernel.Config
    base: float  # Hz at full speed
    full: float  # demand that counts as full: m³/s, or 1 of an opening, a share of heat, a speed
    machines: float  # that run from the first: all of a wall of fans, one of a set that comes and goes
    knobs: Mapping[str, float]

    def but(self, **parts: Any) -> "Setup":
        """The same with some parts of the config in another's place."""
        return replace(self, config=self.config._replace(**parts))


def kind_of(line: Line) -> float:
    """Which plant a line is."""
    _ = line.application
    held = line.held
    assert held is not None
    if held.id == "duct" and not rises_with_speed(line):
        return kernel.ROOM
    return _KINDS[held.id]


def set_up(line: Line, derived: Derived, knobs: Mapping[str, float], happens: Happens | None = None) -> Setup:
    """The config of a line with its knobs where they stand.

    Raises
    ------
    NotKnown : the record lacks a value
    NoSolution : the setpoint cannot be seen, or no speed holds it
    """
    kind, happens = kind_of(line), happens or Happens()
    base = float(line.motor.rated_frequency)
    count = float(line.value("machine.count") or 1.0) if "many_drives" in line.traits else 1.0
    flow = duty_flow(line) * count
    plant = _plant(line, derived.known, kind, knobs, flow)
    plant.update(dry_from=happens.dry_from, dry_until=happens.dry_until)
    sensor = _sensor(line, knobs, happens)
    if kind == kernel.HEADER:
        _check_reach(kernel.Plant(**plant), knobs["setpoint"], knobs["highest"] / base)
    parts = {
        "plant": plant,
        "sensor": sensor,
        "control": _controller(line, kind, knobs, base, happens),
        "drive": _drive(line, derived, kind, knobs, happens),
        "rest": _rest(line, kind, knobs, base),
        "set": _set(count, knobs, base),
    }
    staged = parts["set"]["machines"] > 1
    full = flow if kind in (kernel.HEADER, kernel.LEVEL, kernel.ROOM) else 1.0  # what is asked, reached or not
    return Setup(kind, kernel.config_of(STEP, parts), base, full, 1.0 if staged else count, dict(knobs))


def capacity(setup: "Setup") -> float:
    """The most that all machines bring at the setpoint, at the highest speed [m³/s]."""
    c = setup.config
    machines = max(c.set.machines, setup.machines)
    return float(kernel.machine_flow(c.plant, c.control.high, _needed_rise(c.plant, c.control.setpoint), machines))


def _needed_rise(plant: kernel.Plant, setpoint: float) -> float:
    """Rise that the machine has to make for a setpoint at no flow."""
    return setpoint / plant.weight + plant.lift


def _check_reach(plant: kernel.Plant, setpoint: float, highest: float) -> None:
    """NoSolution where the highest speed does not make the setpoint even at no flow, with what is missing."""
    made, need = plant.c0 * highest**2, _needed_rise(plant, setpoint)
    if made <= need:
        kind = "air_pressure" if plant.weight == 1.0 else "head"
        told = {n: DIMENSIONS[kind].tellings(v) for n, v in (("made", made), ("need", need))}
        raise NoSolution(
            f"it cannot be held: at its highest speed it makes {told['made']} with everything shut, and"
            f" {told['need']} are needed; a lower setpoint, a higher limit, or another machine"
        )


def _machine(line: Line, derived: Derived) -> dict[str, float]:
    machine = derived.machine
    c0, c1, c2 = (machine.shape_factor * c for c in machine.curve.parabola)
    if c2 >= 0:
        raise NoSolution("the curve does not fall: check its points")
    return {
        "weight": 1.0 if "fan" in line.traits else WATER_20C * float(G),
        "c0": c0,
        "c1": c1,
        "c2": c2,
        "best_flow": float(machine.best_flow),
        "best_efficiency": float(line.machine.best_efficiency),
        "size_exponent": 0.0 if "fan" in line.traits else 0.1,
    }


_STILL: dict[str, float] = dict.fromkeys(kernel.Plant._fields, 0.0) | {
    "elastic": 1e-9,
    "nominal": 1.0,
    "inertia": 1.0,
    "area": 1.0,
    "direction": 1.0,
    "high": kernel.NEVER,
    "high_off": -kernel.NEVER,
    "well_area": 1.0,
    "capacity": 1.0,
    "full_flow": 1.0,
    "dry_from": kernel.NEVER,
    "dry_until": kernel.NEVER,
    "substeps": 1.0,
}


def _plant(line: Line, derived: Derived, kind: float, knobs: Mapping[str, float], flow: float) -> dict[str, float]:
    plant = _STILL | {"kind": kind} | _machine(line, derived)
    if kind == kernel.HEADER:
        return plant | _header(line, derived, knobs, flow, plant["weight"])
    if kind == kernel.ROOM:
        return plant | _room(line, derived, flow)
    if kind == kernel.LEVEL:
        return plant | _level(line, derived, knobs)
    system = {"lift": float(derived.machine.held), "friction": _friction(derived, line)}
    if kind == kernel.FLOW:
        return plant | system | {"inertia": _column(line, flow)}
    full = _full_flow(plant | system)
    if kind == kernel.HEAT:
        return plant | system | _heat(line, knobs, full)
    return plant | system | {"full_flow": full}


def _friction(derived: Derived, line: Line) -> float:
    return float(derived.fan.open_resistance if "fan" in line.traits else derived.pump.resistance)


def _full_flow(plant: Mapping[str, float]) -> float:
    """Flow at full speed, where the machine meets its system."""
    found = kernel.machine_flow(kernel.Plant(**plant), 1.0, plant["lift"], 1.0)
    if found <= 0:
        raise NoSolution("the machine moves nothing at full speed: check curve, static head and resistance")
    return float(found)


def _header(line: Line, derived: Derived, knobs: Mapping[str, float], flow: float, weight: float) -> dict[str, float]:
    setpoint, nominal = knobs["setpoint"], float(line.plant_setpoint())
    if "holds:duct" in line.traits:
        return {
            "friction": knobs["duct_loss"] / flow**2,
            "elastic": DUCT_SECONDS * flow / (POLYTROPIC * kernel.ATMOSPHERE),
            "nominal": nominal,
            "substeps": 4.0,
        }
    drop = knobs.get("drop", 0.0)
    if "holds:differential" in line.traits:
        lift = 0.0
    else:
        lift = float(derived.pump.sensor_height) - float(derived.pump.suction_pressure) / weight - drop
    tank = knobs.get("tank_volume", 0.0)
    bore = float(line.system.well_bore) if line.has("system.well_bore") else 0.15
    return {
        "lift": lift,
        "friction": knobs["lost_before"] / flow**2,
        "tank_volume": tank,
        "precharge": knobs.get("tank_precharge", 0.0),
        "elastic": PIPE_COMPLIANCE,
        "nominal": nominal,
        "drawdown": drop / flow,
        "well_area": 0.785398 * bore**2,
        "substeps": 1.0 if _slowest(setpoint, tank, knobs, derived, flow, weight) > STIFF else 4.0,
    }


def _slowest(
    setpoint: float, tank: float, knobs: Mapping[str, float], derived: Derived, flow: float, weight: float
) -> float:
    """Time constant of the tank against the pump's curve near its duty flow, shortest where the tank is empty."""
    if tank <= 0 or knobs["tank_precharge"] >= knobs.get("wake_at", setpoint):
        return 0.0
    absolute = setpoint + kernel.ATMOSPHERE
    gives = tank * (knobs["tank_precharge"] + kernel.ATMOSPHERE) / absolute**2
    _, c1, c2 = derived.machine.curve.parabola
    return gives * weight * abs(c1 + 2 * c2 * flow / 2)


def _room(line: Line, derived: Derived, flow: float) -> dict[str, float]:
    return {
        "friction": float(derived.fan.resistance_beyond(line.plant_setpoint())),
        "elastic": ROOM_SECONDS * flow / (POLYTROPIC * kernel.ATMOSPHERE),
        "nominal": max(abs(float(line.plant_setpoint())), 1.0),
        "leak": LEAK_SHARE * flow,
        "substeps": 4.0,
    }


def _level(line: Line, derived: Derived, knobs: Mapping[str, float]) -> dict[str, float]:
    fills = rises_with_speed(line)
    plant = {
        "lift": float(derived.pump.static_head),
        "friction": float(derived.pump.resistance),
        "nominal": float(line.plant_setpoint()),
        "area": knobs["area"],
        "direction": 1.0 if fills else -1.0,
    }
    if "high_level" in knobs:
        plant |= {
            "high": knobs["high_level"],
            "high_off": knobs["start_level"],
            "standby": duty_flow(line),
        }
    return plant


def _column(line: Line, flow: float) -> float:
    """Rise for each m³/s² of the water in the pipe: L/(g A)."""
    length = float(line.system.pipe_length) if line.has("system.pipe_length") else COLUMN_LENGTH
    bore = line.value("system.pipe_bore")
    area = 0.785398 * float(bore) ** 2 if bore else flow / COLUMN_VELOCITY
    return length / (float(G) * area)


def _heat(line: Line, knobs: Mapping[str, float], full: float) -> dict[str, float]:
    # for each 1 W/K at full flow; only the time constant is of account
    return {
        "exchange": 1.0,
        "capacity": knobs["heat_time"],
        "stream": knobs["stream"],
        "nominal": float(line.plant_setpoint()),
        "full_flow": full,
    }


def _sensor(line: Line, knobs: Mapping[str, float], happens: Happens) -> dict[str, float]:
    held = line.held
    assert held is not None
    if not held.setpoint:
        low, high = 0.0, 1.0
    else:
        low, high = float(line.figure(held.range_low)), float(line.figure(held.range_high))
        if not low < high:
            raise NoSolution("the sensor's range ends where it begins: check both ends on its label")
        if not low < knobs["setpoint"] < high:
            raise NoSolution("the setpoint lies outside the sensor's range: the controller could never see it reached")
    span = high - low
    live = line.value("sensor.signal") in (None, "4-20mA", "2-10V")
    lag = knobs.get("lag", 0.0)
    return {
        "low": low,
        "high": high,
        "follow": follow_of(lag),
        "noise": knobs.get("noise", 0.0) * span,
        "resolution": span / INPUT_STEPS * (20 / 16 if live else 1.0),
        "least": low - UNDER_RANGE * span if live else low,
        "most": high + OVER_RANGE * span,
        "lost_from": happens.lost_from,
        "lost_until": happens.lost_until,
        "told": 1.0 if live else 0.0,
        "on_loss": kernel.LAST if _on_loss(line) == "last" else kernel.STOP,
    }


def follow_of(lag: float) -> float:
    """Share of the way to the true value that a first-order sensor goes in a step."""
    return 1.0 if lag <= 0 else 1.0 - math.exp(-STEP / lag)


def _on_loss(line: Line) -> str:
    told = line.told("feedback.loss_action")
    if isinstance(told, str):
        return told
    return "last" if line.value("line.application") in ("return_fan", "tower_fan", "wet_well") else "stop"


def _controller(line: Line, kind: float, knobs: Mapping[str, float], base: float, happens: Happens) -> dict[str, float]:
    low = max(knobs.get("low_limit", 0.0), knobs["lowest"]) / base
    high = knobs["highest"] / base
    if low >= high:
        raise NoSolution("the lowest speed is not below the highest: nothing is left to control with")
    return {
        "setpoint": knobs.get("setpoint", 0.0),
        "second": happens.second,
        "second_from": happens.second_from,
        "action": 1.0 if kind == kernel.OPEN else action_set(line),
        "gain": knobs.get("gain", 1.0),
        "integral_time": knobs.get("integral_time", 1.0),
        "derivative_time": knobs.get("derivative_time", 0.0),
        "low": low,
        "high": high,
        "hand_until": -1.0,
    }


def action_set(line: Line) -> float:
    """+1 where a falling value makes it faster, -1 where a rising one does: as left or decided, else as proposed."""
    told = line.told("pid.action")
    if told is None:
        return 1.0 if rises_with_speed(line) else -1.0
    return 1.0 if told == "falls_faster" else -1.0


def _drive(line: Line, derived: Derived, kind: float, knobs: Mapping[str, float], happens: Happens) -> dict[str, float]:
    fills = happens.filling and kind == kernel.HEADER and "pump" in line.traits
    return {
        "up": knobs["ramp_up"],
        "down": knobs["ramp_down"],
        "torque_limit": TORQUE_LEFT,
        "rated_power": float(line.motor.rated_power) if line.has("motor.rated_power") else 1e12,
        "run_up": _run_up(line, derived),
        "dry_power": knobs.get("underload", 0.0),
        "dry_scaled": 0.0 if "rests" in line.traits else 1.0,  # as the sheet proposes it
        "dry_delay": 10.0,
        "retries": 3.0,
        "retry_after": 600.0,
        "fill_speed": knobs["lowest"] / knobs["highest"] if fills else 0.0,
        "fill_until": 0.5 * knobs["setpoint"] if fills else 0.0,
        "fill_time": 300.0,
        "coast": 1.0 if happens.coasts or _choice(line, derived, "stop.mode") == "coast" else 0.0,
        "catches": 1.0 if _choice(line, derived, "start.mode") == "flying" else 0.0,
    }


def _choice(line: Line, derived: Derived, setting: str) -> str | None:
    """A choice as left or decided, else as planned; None where it cannot be told."""
    told = line.told(setting)
    if isinstance(told, str):
        return told
    planned = plan_of(SETTINGS[setting], line, derived).planned
    return planned.value if planned is not None and isinstance(planned.value, str) else None


def _run_up(line: Line, derived: Derived) -> float:
    """Time in which rated torque alone would bring the inertia to full speed; 0 where nothing is known of it."""
    try:
        return float(acceleration_time(inertia_at_motor(line, derived), line.motor.rated_speed, derived.rated_torque))
    except MainspringError:
        return 0.0


def _rest(line: Line, kind: float, knobs: Mapping[str, float], base: float) -> dict[str, float]:
    rest = {"by": kernel.NO_REST, "below": 0.0, "delay": 0.0, "boost": 0.0, "wake": 0.0, "stop": 0.0}
    if kind == kernel.HEADER and "rests" in line.traits and knobs["sleep_below"] > 0:
        return {
            "by": kernel.BY_SPEED,
            "below": knobs["sleep_below"] / base,
            "delay": knobs["sleep_delay"],
            "boost": knobs["boost"],
            "wake": knobs["wake_at"],
            "stop": 0.0,
        }
    if kind == kernel.LEVEL and "stop_level" in knobs:
        return rest | {
            "by": kernel.BY_LEVEL,
            "delay": knobs["stop_delay"],
            "wake": knobs["start_level"],
            "stop": knobs["stop_level"],
        }
    return rest


def _set(count: float, knobs: Mapping[str, float], base: float) -> dict[str, float]:
    if "stage_on" not in knobs:  # a wall of fans runs as one
        return {"machines": 1.0, "on": 2.0, "off": -1.0, "delay": 1.0, "join": 1.0, "turn": kernel.NEVER}
    return {
        "machines": count,
        "on": knobs["stage_on"] / base,
        "off": knobs["stage_off"] / base,
        "delay": knobs["stage_delay"],
        "join": knobs["ramp_up"],
        "turn": knobs["turns"],
    }


def steady_speed(setup: Setup, demand: float, running: float = 1.0) -> float:
    """Speed at which the plant is at rest on its setpoint with a demand, within the drive's limits, by bisection."""
    c = setup.config
    low, high = c.control.low, c.control.high
    if setup.kind == kernel.OPEN:
        return min(max(demand, 0.0), high)
    for _ in range(50):
        middle = 0.5 * (low + high)
        if balance(setup, middle, demand, running) < 0:
            low = middle
        else:
            high = middle
    return 0.5 * (low + high)


def balance(setup: Setup, speed: float, demand: float, running: float) -> float:
    """By how much the machine brings more than is asked at the setpoint; it rises with speed."""
    c, p = setup.config, setup.config.plant
    setpoint = c.control.setpoint
    if setup.kind == kernel.HEADER:
        taken = taken_at(setup, demand)
        return float(kernel.machine_flow(p, speed, _needed_rise(p, setpoint) + p.drawdown * taken, running)) - taken
    if setup.kind == kernel.ROOM:
        cracks = -p.leak * setpoint / (p.nominal * abs(setpoint) / p.nominal) ** 0.5 / p.nominal**0.5 if setpoint else 0
        return float(kernel.machine_flow(p, speed, -setpoint, running)) - demand - cracks
    if setup.kind == kernel.LEVEL:
        return float(kernel.machine_flow(p, speed, p.lift + p.direction * (setpoint - p.nominal), running)) - demand
    if setup.kind == kernel.HEAT:
        away = (setpoint - p.stream) / ((p.nominal - p.stream) or 1.0)
        return float(kernel.machine_flow(p, speed, p.lift, running)) / p.full_flow * away - demand
    behind = p._replace(friction=p.friction / max(demand * demand, 1e-4))
    return float(kernel.machine_flow(behind, speed, p.lift, running)) - setpoint


def taken_at(setup: Setup, demand: float) -> float:
    """What the outlets of a header let through at the setpoint, that let a demand through at the pressure surveyed."""
    return demand * math.sqrt(max(setup.config.control.setpoint, 0.0) / setup.config.plant.nominal)
