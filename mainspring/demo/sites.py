"""The demo's records. Places, people, makes and readings are invented; the filter pump is the worked example that the
tests hold against published arithmetic."""

import uuid
from typing import Any

from mainspring.core.quantity import FOOT, GALLON, HORSEPOWER, PSI

HOUR = 3600.0
KWH = 3.6e6
GPM = GALLON / 60

_NAMESPACE = uuid.UUID("6f1d1f0e-2f63-4b2c-9d50-3a5f6c1b7e42")


def demo_id(name: str) -> str:
    """The fixed id of something in the demo."""
    return str(uuid.uuid5(_NAMESPACE, name))


ORRENDALE: dict[str, Any] = {
    "name": "Orrendale Baths",
    "units": "si",
    "entries": {
        "altitude": {"value": 140.0},
        "energy_price": {"value": 0.18 / KWH},
        "currency": {"value": "EUR"},
        "emission_factor": {"value": 0.25 / KWH, "note": "invented for the demo"},
    },
}
MARROW: dict[str, Any] = {
    "name": "Marrow Creek Nursery",
    "units": "us",
    "entries": {
        "altitude": {"value": 310.0},
        "energy_price": {"value": 0.14 / KWH},
        "currency": {"value": "USD"},
        "emission_factor": {"value": 0.38 / KWH, "note": "invented for the demo"},
    },
}

_SUPPLY_400 = {"voltage": 400.0, "frequency": 50.0, "phases": "3"}
_DRIVE_55 = {
    "rated_current": 15.0,
    "rated_power": 7500.0,
    "input_voltage_low": 380.0,
    "input_voltage_high": 480.0,
    "input_phases": "3",
    "duty": "normal",
    "ambient_rating": 40.0,
    "discharge_time": 300.0,
    "ambient": 34.0,
    "lead_length": 12.0,
    "family": "calder",
}
_MOTOR_55 = {
    "rated_power": 5500.0,
    "rated_voltage": 400.0,
    "rated_current": 10.9,
    "rated_speed": 1455.0,
    "rated_frequency": 50.0,
    "power_factor": 0.82,
    "efficiency": 0.896,
    "service_factor": 1.0,
    "ie_class": "IE3",
    "insulation": "F",
}
_PUMP_55 = {
    "duty_flow": 0.0092,
    "duty_head": 38.0,
    "curve_speed": 1455.0,
    "best_flow": 0.0095,
    "best_efficiency": 0.72,
    "curve": [[0.0, 52.0], [0.004, 49.5], [0.0092, 38.0], [0.012, 28.0]],
}
_SYSTEM_55 = {
    "suction_pressure": 50e3,
    "static_head": 12.0,
    "known_flow": 0.0092,
    "known_head": 38.0,
    "pressure_rating": 1e6,
    "tank_volume": 0.18,
    "tank_precharge": 2.6e5,
    "leak": 1e-5,
}

PLANTED: dict[str, Any] = {
    "line": {"application": "booster", "drive_state": "new"},
    "supply": {**_SUPPLY_400, "reading_12": 397.0, "reading_23": 402.0, "reading_31": 400.0},
    "drive": _DRIVE_55,
    # planted: the synchronous speed, the amps of the other connection
    "motor": {**_MOTOR_55, "rated_speed": 1500.0, "rated_current": 18.9},
    "machine": _PUMP_55,
    "system": _SYSTEM_55,
    # planted: the range on the box, where the label says 10 bar; a gauge reading gives it away
    "sensor": {
        "range_low": 0.0,
        "range_high": 1.6e6,
        "range_ordered": 1.6e6,
        "signal": "4-20mA",
        "input_switch": "current",
        "height": 0.0,
        "check_pressure": 3.0e5,
        "check_signal": 0.0088,
    },
    "control": {"setpoint": 4.0e5},
}

BOOSTER: dict[str, Any] = {
    "line": {"application": "booster", "drive_state": "new"},
    "supply": {**_SUPPLY_400, "reading_12": 399.0, "reading_23": 402.0, "reading_31": 400.0},
    "drive": {**_DRIVE_55, "lead_length": 8.0, "family": "calder"},
    "motor": _MOTOR_55,
    "machine": _PUMP_55,
    "system": {**_SYSTEM_55, "leak": 2e-5},
    "sensor": {
        "range_low": 0.0,
        "range_high": 1.0e6,
        "range_ordered": 1.0e6,
        "signal": "4-20mA",
        "input_switch": "current",
        "height": 0.0,
        "check_pressure": 3.0e5,
        "check_signal": 0.0088,
    },
    "control": {"setpoint": 4.0e5},
}

FILTER: dict[str, Any] = {
    "line": {"application": "transfer", "drive_state": "new"},
    "supply": {**_SUPPLY_400, "reading_12": 401.0, "reading_23": 399.0, "reading_31": 400.0},
    "drive": {
        "rated_current": 24.0,
        "rated_power": 15 * HORSEPOWER,
        "input_voltage_low": 380.0,
        "input_voltage_high": 480.0,
        "input_phases": "3",
        "duty": "normal",
        "ambient_rating": 40.0,
        "discharge_time": 420.0,
        "ambient": 36.0,
        "lead_length": 18.0,
        "family": "tern",
    },
    "motor": {
        "rated_power": 11_000.0,
        "rated_voltage": 400.0,
        "rated_current": 20.7,
        "rated_speed": 1470.0,
        "rated_frequency": 50.0,
        "power_factor": 0.84,
        "efficiency": 0.914,
        "efficiency_75": 0.917,
        "service_factor": 1.0,
        "ie_class": "IE3",
        "insulation": "F",
    },
    "machine": {
        "duty_flow": 0.020,
        "duty_head": 40.0,
        "curve_speed": 1470.0,
        "best_flow": 0.022,
        "best_efficiency": 0.80,
        "curve": [[q / 1000, 50 - 25_000 * (q / 1000) ** 2] for q in (0, 5, 10, 15, 20, 25)],
    },
    "system": {
        "suction_pressure": 15e3,
        "static_head": 15.0,
        "known_flow": 0.020,
        "known_head": 40.0,
        "pressure_rating": 1.0e6,
    },
    "sensor": {
        "range_low": 0.0,
        "range_high": 6e5,
        "range_ordered": 6e5,
        "signal": "4-20mA",
        "input_switch": "current",
        "height": 0.0,
        "check_pressure": 2.4e5,
        "check_signal": 0.0104,
    },
    "control": {"setpoint": 2.6e5},
    "duty": {
        "profile": [
            [0.020, 1000 * HOUR],
            [0.017, 2000 * HOUR],
            [0.014, 2500 * HOUR],
            [0.010, 1500 * HOUR],
            [0.007, 760 * HOUR],
        ],
        "cost": 19_000.0,
    },
}

IRRIGATION: dict[str, Any] = {
    "line": {"application": "transfer", "drive_state": "used"},
    "supply": {
        "voltage": 480.0,
        "frequency": 60.0,
        "phases": "3",
        "reading_12": 478.0,
        "reading_23": 482.0,
        "reading_31": 481.0,
    },
    "drive": {
        "rated_current": 27.0,
        "rated_power": 20 * HORSEPOWER,
        "input_voltage_low": 380.0,
        "input_voltage_high": 480.0,
        "input_phases": "3",
        "duty": "normal",
        "ambient_rating": 50.0,
        "ambient": 43.0,
        "lead_length": 110 * FOOT,
        "family": "tern",
    },
    "motor": {
        "rated_power": 20 * HORSEPOWER,
        "rated_voltage": 460.0,
        "rated_current": 23.8,
        "rated_speed": 3540.0,
        "rated_frequency": 60.0,
        "power_factor": 0.865,
        "efficiency": 0.91,
        "service_factor": 1.15,
        "ie_class": "IE3",
    },
    "machine": {
        "duty_flow": 350 * GPM,
        "duty_head": 150 * FOOT,
        "curve_speed": 3540.0,
        "best_flow": 360 * GPM,
        "best_efficiency": 0.76,
        "curve": [
            [0.0, 192 * FOOT],
            [120 * GPM, 187 * FOOT],
            [240 * GPM, 173 * FOOT],
            [350 * GPM, 150 * FOOT],
            [420 * GPM, 132 * FOOT],
        ],
    },
    "system": {
        "suction_pressure": 3 * PSI,
        "static_head": 62 * FOOT,
        "known_flow": 350 * GPM,
        "known_head": 150 * FOOT,
        "pressure_rating": 150 * PSI,
    },
    "sensor": {
        "range_low": 0.0,
        "range_high": 100 * PSI,
        "range_ordered": 100 * PSI,
        "signal": "4-20mA",
        "input_switch": "current",
        "height": 0.0,
        "check_pressure": 50 * PSI,
        "check_signal": 0.012,
    },
    "control": {"setpoint": 58 * PSI},
    "duty": {
        "profile": [
            [350 * GPM, 600 * HOUR],
            [280 * GPM, 1400 * HOUR],
            [210 * GPM, 1500 * HOUR],
            [140 * GPM, 700 * HOUR],
        ],
        "cost": 9_800.0,
    },
}
