"""Right lines drawn by seed: each designed from its duty outwards, as an engineer would, with what plates then print.

Shares nothing with the core but the names of fields. Sizes, shares and roundings are of the trade, from memory.
"""

import math
import random
from typing import Any

Record = dict[str, dict[str, Any]]
RHO_G = 998.2 * 9.80665
KW = (0.37, 0.55, 0.75, 1.1, 1.5, 2.2, 3, 4, 5.5, 7.5, 11, 15, 18.5, 22, 30, 37, 45, 55, 75, 90, 110, 132)
RANGES = (1e5, 1.6e5, 2.5e5, 4e5, 6e5, 1e6, 1.6e6, 2.5e6, 4e6)
TANKS = (0.008, 0.012, 0.018, 0.024, 0.05, 0.08, 0.1, 0.15, 0.2, 0.3, 0.5, 0.75, 1.0, 1.5, 2.0)
APPLICATIONS = ("booster", "borehole", "transfer", "circulator", "wet_well", "supply_fan", "return_fan", "tower_fan",
                "fan_array")  # fmt: skip


def drawn(seed: int, application: str | None = None) -> Record:
    """One right line, the same for a seed."""
    rng = random.Random(f"right line {seed}")
    kind = application or rng.choice(APPLICATIONS)
    hertz = rng.choice((50.0, 60.0))
    fan = kind.endswith("fan") or kind == "fan_array"
    power = {"borehole": (1.1, 45), "wet_well": (2.2, 55), "fan_array": (0.75, 4), "tower_fan": (2.2, 30)}.get(
        kind, (0.37, 90)
    )
    rated = 1e3 * rng.choice([k for k in KW if power[0] <= k <= power[1]])
    load = rng.uniform(0.6, 0.82)
    record: Record = {"line": {"application": kind, "load": "centrifugal"}}
    record |= _electrical(rng, kind, rated, hertz)
    motor_rpm = record["motor"]["rated_speed"]
    machine, more = (_fan if fan else _pump)(rng, kind, load * rated, motor_rpm)
    if kind == "borehole":  # a bore or sleeve through which enough water passes the motor
        diameter = record["motor"]["diameter"]
        gap = machine["duty_flow"] / rng.uniform(0.45, 1.2)
        more["system"]["well_bore"] = _near(max(math.sqrt(diameter**2 + gap * 4 / math.pi), diameter + 0.004), 3)
    return {**record, "machine": machine, **more, "site": {"altitude": round(rng.uniform(0, 900))}}


def _near(value: float, digits: int = 3) -> float:
    """As a plate or catalogue prints it."""
    return float(f"{value:.{digits}g}")


def _least(values: tuple[float, ...], least: float) -> float:
    return next((v for v in values if v >= least), values[-1])


def _electrical(rng: random.Random, kind: str, rated: float, hertz: float) -> Record:
    wet = kind == "borehole"
    volts = rng.choice((400.0, 400.0, 415.0, 380.0) if hertz == 50 else (480.0, 460.0, 480.0, 380.0))
    connected = {480.0: 460.0, 415.0: 415.0}.get(volts, volts)
    poles = (
        2 if wet else rng.choice((2, 4) if kind in ("booster", "transfer") else (4, 6) if kind == "wet_well" else (4,))
    )
    kw = rated / 1e3
    slip = (0.045 if kw < 2 else 0.03 if kw < 8 else 0.018 if kw < 40 else 0.011) * rng.uniform(0.8, 1.2)
    slip *= 1.1 if wet else 1.0
    efficiency = min(0.955, (0.775 + 0.048 * math.log(kw + 0.3)) if kw < 5 else 0.845 + 0.024 * math.log(kw)) - (
        0.075 if wet else 0.0
    )
    factor = min(0.89, 0.74 + 0.04 * math.log(kw + 0.6)) - 0.02 * (poles / 2 - 1)
    amps = _near(rated / (math.sqrt(3) * connected * factor * efficiency))
    motor: dict[str, Any] = {
        "rated_power": rated,
        "rated_voltage": connected,
        "rated_current": amps,
        "rated_speed": round(120 * hertz / poles * (1 - slip) / 5) * 5.0,
        "rated_frequency": hertz,
        "power_factor": round(factor, 2),
        "efficiency": round(efficiency, 3),
        "cooling": "water" if wet or kind == "wet_well" else "own_fan",
    }
    if wet:
        motor |= {"service_factor_current": _near(amps * 1.12), "service_factor": 1.15,
                  "diameter": 0.095 if kw < 5 else 0.14 if kw < 25 else 0.19}  # fmt: skip
    drawn_amps = motor.get("service_factor_current", amps)
    next_up = rng.random() < 0.2
    index = KW.index(kw)
    drive_kw = KW[min(index + (1 if next_up or wet else 0), len(KW) - 1)]
    usual = drive_kw * 1e3 / (math.sqrt(3) * (400.0 if volts < 440 else 470.0) * (0.77 if drive_kw > 3 else 0.58))
    return {
        "supply": {"voltage": volts, "frequency": hertz, "phases": "3", "fault_current": 9e3},
        "drive": {
            "rated_current": _near(max(usual, drawn_amps * rng.uniform(1.02, 1.2))), "rated_power": drive_kw * 1e3,
            "input_voltage_low": 380.0, "input_voltage_high": 480.0, "input_phases": "3", "duty": "normal",
            "ambient_rating": 40.0, "ambient": round(rng.uniform(15, 38)), "discharge_time": 300.0,
            "enclosure": "open", "short_circuit_rating": 5e4, "lead_length": round(rng.uniform(3, 29)), "place": [],
        },
        "motor": motor,
    }  # fmt: skip


def _pump(rng: random.Random, kind: str, shaft: float, rpm: float) -> tuple[dict[str, Any], Record]:
    efficiency = min(0.82, 0.5 + 0.055 * math.log(shaft / 300)) * rng.uniform(0.92, 1.0)
    head = {"wet_well": rng.uniform(7, 22), "circulator": rng.uniform(8, 24), "borehole": rng.uniform(55, 170),
            "booster": rng.uniform(30, 75)}.get(kind, rng.uniform(18, 60))  # fmt: skip
    flow = shaft * efficiency / (RHO_G * head)
    if kind == "borehole":  # enough water past the motor is part of its choice
        head = max(head, shaft * efficiency / (RHO_G * 0.03))
        flow = shaft * efficiency / (RHO_G * head)
    rise = rng.uniform(1.15, 1.45) if kind != "borehole" else rng.uniform(1.2, 1.55)
    machine: dict[str, Any] = {
        "duty_flow": _near(flow),
        "duty_head": _near(head),
        "best_flow": _near(flow * rng.uniform(0.95, 1.12)),
        "best_efficiency": round(efficiency, 2),
    }
    if rng.random() < 0.7:
        power = rng.uniform(1.7, 2.3)
        points = [(s, head * (rise - (rise - 1) * s**power)) for s in (0.0, 0.4, 0.7, 1.0, 1.2)]
        machine |= {"curve": [[_near(s * flow), _near(h)] for s, h in points], "curve_speed": rpm}
    top = rise * head
    if kind == "wet_well":
        return machine, _pit(rng, flow, head)
    suction = _near(rng.uniform(0.3e5, 2e5), 2)
    if kind == "circulator":
        difference = _near(RHO_G * head * rng.uniform(0.35, 0.6), 2)
        return machine, {
            "system": {"suction_pressure": suction, "pressure_rating": _least(RANGES, 1.3 * (suction + RHO_G * top))},
            "sensor": {"range_low": 0.0, "range_high": _least(RANGES, 1.5 * difference), **_LOOP_WIRES},
            "control": {"setpoint": difference, "dp_place": "far"},
        }
    return machine, _held_pressure(rng, kind, flow, head, top, suction)


_LOOP_WIRES = {"signal": "4-20mA", "input_switch": "current", "cable_length": 15.0, "place": []}


def _held_pressure(rng: random.Random, kind: str, flow: float, head: float, top: float, suction: float) -> Record:
    if kind == "borehole":
        setpoint = _near(rng.uniform(2.2e5, 4.5e5), 2)
        level = _near(head * rng.uniform(0.93, 0.99) - setpoint / RHO_G, 3)
        system: dict[str, Any] = {"pumping_level": level, "well_bore": 0.0}
        shut = RHO_G * (top - level)
    else:
        setpoint = _near(suction + RHO_G * head * rng.uniform(0.88, 0.97), 2)
        system = {"suction_pressure": suction, "static_head": _near(head * rng.uniform(0.1, 0.5), 2)}
        shut = suction + RHO_G * top
    rating = _least((6e5, 1e6, 1.6e6, 2.5e6, 4e6), 1.08 * shut)
    tank = _least(TANKS, 0.2 * flow * 60)
    return {
        "system": {**system, "pressure_rating": rating, "relief": "yes",
                   **({} if kind == "transfer" else {"tank_volume": tank, "tank_precharge": _near(0.7 * setpoint, 2),
                                                     "leak": _near(flow * 0.004, 2)})},
        "sensor": {"range_low": 0.0, "range_high": _least(RANGES, max(1.45 * setpoint, 0.6 * shut)), **_LOOP_WIRES,
                   **({} if kind == "borehole" else {"height": 0.0})},
        "control": {"setpoint": setpoint},
        **({"line": {"application": kind, "load": "centrifugal", "holds": "pressure"}} if kind == "transfer" else {}),
    }  # fmt: skip


def _pit(rng: random.Random, flow: float, head: float) -> Record:
    stop, start = 0.5, round(rng.uniform(1.2, 1.8), 1)
    area = math.ceil(360 * flow / 4 / (start - stop) * 1.2 * 2) / 2
    return {
        "system": {"static_head": _near(head * rng.uniform(0.35, 0.6), 2), "pressure_rating": 6e5, "pit_area": area,
                   "stop_level": stop, "start_level": start, "high_level": start + 0.8},
        "sensor": {"level_low": 0.0, "level_high": _least((4.0, 5.0, 6.0), start + 1.5), **_LOOP_WIRES},
        "control": {"level_setpoint": round((stop + start) / 2, 1)},
    }  # fmt: skip


def _fan(rng: random.Random, kind: str, shaft: float, rpm: float) -> tuple[dict[str, Any], Record]:
    efficiency = min(0.78, 0.52 + 0.05 * math.log(shaft / 300)) * rng.uniform(0.93, 1.0)
    pressure = {"tower_fan": rng.uniform(110, 190), "fan_array": rng.uniform(500, 900)}.get(
        kind, rng.uniform(350, 1600)
    )
    machine: dict[str, Any] = {"air_flow": _near(shaft * efficiency / pressure), "air_pressure": _near(pressure),
                               "best_efficiency": round(efficiency, 2)}  # fmt: skip
    degc = float(rng.randrange(16, 28))
    if kind == "fan_array":
        machine["count"] = float(rng.choice((4, 6, 8)))
    if kind == "tower_fan":
        machine["pulley_ratio"] = round(rng.uniform(0.22, 0.3), 2)
    system = {"air_degc": degc, "windmills": "no"}
    wires = {"signal": "4-20mA", "input_switch": "current", "cable_length": 20.0}
    if kind == "tower_fan":
        sensor = {"temperature_low": 0.0, "temperature_high": 50.0, **wires, "place": []}
        return machine, {
            "system": system,
            "sensor": sensor,
            "control": {"temperature_setpoint": float(rng.randrange(22, 30))},
        }
    held = _near(pressure * rng.uniform(0.22, 0.4), 2) * (-1 if kind == "return_fan" else 1)
    top = _least((100.0, 250.0, 500.0, 1000.0, 2500.0), 1.6 * abs(held))
    exhaust = kind == "return_fan"
    ends = {"air_low": -top if exhaust else 0.0, "air_high": 0.0 if exhaust else top}
    return machine, {
        "system": system,
        "control": {"air_setpoint": held, **({"effect": "fall"} if exhaust else {})},
        "sensor": {**ends, **wires, "air_place": []},
    }
