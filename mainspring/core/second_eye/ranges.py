"""What is plausible of an entry whatever the others say: it asks, with the reason, and accuses nobody."""

import math
from collections.abc import Callable
from dataclasses import dataclass

from mainspring.core.second_eye.relation import Facts, Relations


@dataclass(frozen=True)
class Plausible:
    """From where to where an entry needs no question (SI), and why one is asked beyond; common practice."""

    low: float
    high: float
    why: str


MINUTE, HOUR = 60.0, 3600.0
PLAUSIBLE: dict[str, Plausible] = {
    "drive.discharge_time": Plausible(1 * MINUTE, 60 * MINUTE, "it sets the clock before the cover comes off"),
    "site.altitude": Plausible(-50.0, 2500.0, "drive and motor lose amps by it"),
    "drive.ambient": Plausible(12.0, 55.0, "the drive's amps are counted by it"),
    "motor.ambient": Plausible(10.0, 60.0, "the motor's load is judged by it"),
    "system.air_degc": Plausible(-25.0, 90.0, "the weight of the air is counted by it"),
    "system.water_degc": Plausible(1.0, 130.0, "what the suction stands is counted by it"),
    "drive.lead_length": Plausible(0.5, 350.0, "peaks, filter and volt drop follow from it"),
    "sensor.cable_length": Plausible(0.3, 500.0, "the loop's volts are counted by it"),
    "sensor.height": Plausible(-20.0, 60.0, "it counts into the pressure held"),
    "supply.fault_current": Plausible(300.0, 100e3, "protection and harmonics are judged by it"),
    "drive.short_circuit_rating": Plausible(1e3, 200e3, "it is held against the fault level"),
    "system.tank_volume": Plausible(0.005, 10.0, "starts per hour follow from it"),
    "system.pit_area": Plausible(0.5, 100.0, "starts per hour follow from it"),
    "system.well_bore": Plausible(0.09, 0.6, "the water past the motor is counted by it"),
    "motor.diameter": Plausible(0.07, 0.4, "the water past it is counted by it"),
    "system.pipe_length": Plausible(5.0, 20e3, "water hammer and ramps follow from it"),
    "system.pipe_bore": Plausible(0.015, 1.5, "speed of the water and surge follow from it"),
    "system.pipe_wall": Plausible(0.0008, 0.06, "the surge follows from it"),
    "machine.npsh_required": Plausible(0.5, 20.0, "the suction is judged by it"),
    "machine.inertia": Plausible(1e-4, 1000.0, "the shortest ramp follows from it"),
    "motor.inertia": Plausible(1e-4, 50.0, "the shortest ramp follows from it"),
    "control.sleep_delay": Plausible(5.0, 300.0, "too short hunts, too long never rests"),
    "control.ramp_up": Plausible(0.5, 300.0, "the loop answers no faster"),
    "control.ramp_down": Plausible(0.5, 300.0, "check valves and bus volts follow from it"),
    "control.gain": Plausible(0.05, 20.0, "it decides whether the loop hunts"),
    "control.integral_time": Plausible(0.5, 900.0, "it decides whether the loop hunts"),
    "control.boost": Plausible(0.0, 1.5e5, "it is made before each rest"),
    "site.energy_price": Plausible(0.02 / 3.6e6, 2.0 / 3.6e6, "all money follows from it"),
    "site.emission_factor": Plausible(0.0, 1.3 / 3.6e6, "the carbon saved follows from it"),
}


def relate(to: Relations, facts: Facts) -> None:
    """A relation of one entry for each that has such a range."""
    for path, plausible in PLAUSIBLE.items():
        if path in facts.values:
            low, high = plausible.low, plausible.high
            spread = 0.25 if low <= 0 else 0.2
            to.add(plausible.why, (path,), (0.0, 1e-6), spread, _beyond(low, high))


def _beyond(low: float, high: float) -> Callable[[float], float]:
    """How far beyond its range a number lies: as a logarithm, or as a share of the range where it may be negative."""
    if low > 0:
        return lambda x: max(0.0, math.log(low / x), math.log(x / high))
    return lambda x: max(0.0, (low - x) / (high - low) * 2, (x - high) / (high - low) * 2)
