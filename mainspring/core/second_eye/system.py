"""Relations of the system, the sensor and what is wanted of the loop, with each other and with the machine."""

import math
from collections.abc import Callable

from mainspring.core.quantity import WATER_20C, G
from mainspring.core.second_eye.machine import CURVE, RISE, H, Q, Rows
from mainspring.core.second_eye.relation import Facts, Relations, near

SET, LOW, HIGH = "control.setpoint", "sensor.range_low", "sensor.range_high"
PRECHARGE, TANK, LEAK = "system.tank_precharge", "system.tank_volume", "system.leak"
SUCTION, STATIC, LEVEL, HEIGHT = (
    "system.suction_pressure",
    "system.static_head",
    "system.pumping_level",
    "sensor.height",
)
RATING = "system.pressure_rating"
WEIGHT = WATER_20C * G  # Pa/m
LN = math.log
RANGES = (0.6e5, 1e5, 1.6e5, 2e5, 2.5e5, 4e5, 6e5, 1e6, 1.6e6, 2e6, 2.5e6, 4e6,
          *(6894.757 * psi for psi in (15, 20, 25, 30, 50, 60, 100, 150, 200, 250, 300, 500)))  # fmt: skip


def relate(to: Relations, facts: Facts) -> None:
    """By what the line holds."""
    traits = facts.traits
    if "pump" in traits:
        _pressures(to, facts)
    if "holds:pressure" in traits:
        _held_pressure(to, facts)
    if "holds:differential" in traits:
        lost = (-2.4, 0.06)  # what is held at the far end is the smaller part
        to.add("the duty head", (SET, H), lost, 0.1, lambda p, h: LN(p / WEIGHT / h), H)
        _range(to, SET, LOW, HIGH)
        to.add("ranges that are made", (HIGH,), (0.0, 0.02), 0.06, lambda r: near(r, RANGES))
    if facts.line.applies(("holds:pressure", "holds:differential")):
        _gauge(to)
    if "holds:level" in traits:
        _levels(to)
    if "holds:duct" in traits:
        _duct(to)
    if "holds:temperature" in traits:
        _range(to, "control.temperature_setpoint", "sensor.temperature_low", "sensor.temperature_high")
    if "holds:flow" in traits:
        to.ratio("the duty flow", "control.flow_setpoint", Q, (-1.4, 0.05), 0.1)
        to.ratio("the duty flow", "sensor.flow_high", Q, (-0.15, 1.2), 0.15)
    to.ratio("the well", "motor.diameter", "system.well_bore", (-1.2, -0.04), 0.08)


def _pressures(to: Relations, facts: Facts) -> None:
    """Head that is needed, head that there is, and what the pipes stand."""
    if "holds:pressure" not in facts.traits:
        to.ratio("the duty head", STATIC, H, (-3.5, -0.03), 0.1)
    if LEVEL in facts.values:
        to.add("the pressure with everything shut", (RATING, CURVE, LEVEL), (-0.1, 2.4), 0.15, _over_shut_in_well)
    else:
        inlet = facts.values.get(SUCTION, 0.0)
        to.add("the pressure with everything shut", (RATING, CURVE), (-0.1, 2.4), 0.15, _over_shut(inlet))
        to.add("the pressure at the duty point", (RATING, H), (0.05, 2.6), 0.2, lambda r, h: LN(r / (WEIGHT * h)))
    to.add("where pipes reach", (STATIC, H), (-20.0, 0.98), 0.05, lambda s, h: s / h)


def _over_shut(inlet: float) -> Callable[[float, Rows], float]:
    return lambda rating, curve: LN(rating / max(1e4, inlet + WEIGHT * max(y for _, y in curve)))


def _over_shut_in_well(rating: float, curve: Rows, level: float) -> float:
    """A level that the pump cannot lift to is said by the duty head."""
    left = WEIGHT * (max(y for _, y in curve) - level)
    return LN(rating / left) if left > rating / 10 else 0.0


def _held_pressure(to: Relations, facts: Facts) -> None:
    height = facts.values.get(HEIGHT, 0.0)
    if LEVEL in facts.values:
        to.add(
            "the duty head",
            (SET, LEVEL, H),
            (-0.4, 0.08),
            0.06,
            lambda p, level, h: LN((p / WEIGHT + level) / h),
            H,
        )
    elif SUCTION in facts.values:
        to.add(
            "the duty head",
            (SET, SUCTION, H),
            (-0.75, 0.1),
            0.1,
            lambda p, suction, h: LN(max(1e-3, (p - suction) / WEIGHT + height) / h),
            H,
        )
    to.add("the setpoint", (STATIC, SET), (-3.0, 1.0), 0.1, lambda s, p: s * WEIGHT / p, SET)
    to.add("the head that is asked of the pump", (SUCTION, SET), (-0.35, 0.85), 0.1, lambda s, p: s / p)
    to.ratio("the setpoint", PRECHARGE, SET, (LN(0.58), LN(0.94)), 0.045)
    to.ratio("the setpoint", HIGH, SET, (0.09, 1.45), 0.1)
    to.ratio("box or drawing", "sensor.range_ordered", HIGH, (-0.008, 0.008), 0.02, names="sensor.range_ordered")
    to.add("ranges that are made", (HIGH,), (0.0, 0.02), 0.06, lambda r: near(r, RANGES))
    to.ratio("the setpoint", RATING, SET, (0.15, 2.2), 0.15)
    to.add("the duty flow", (TANK, Q), (-3.2, 1.9), 0.35, lambda v, q: LN(v / (q * 60)), Q)
    to.add("the duty flow", (LEAK, Q), (0.0, 0.12), 0.04, lambda leak, q: leak / q, Q)


def _gauge(to: Relations) -> None:
    to.add(
        "gauge and signal",
        ("sensor.check_pressure", "sensor.check_signal", LOW, HIGH),
        (-0.014, 0.014),
        0.008,
        lambda p, i, low, high: (i - 0.004) / 0.016 - (p - low) / (high - low),
    )
    to.add("gauge and signal", ("sensor.check_signal",), (3.6, 20.5), 0.4, lambda i: i * 1e3)


def _range(to: Relations, wanted: str, low: str, high: str, least: float = 0.12) -> None:
    """What is wanted lies well inside the sensor's range."""

    def share(x: float, a: float, b: float) -> float:
        return LN(max(1e-3, (x - a) / (b - a)))

    to.add("the sensor's range", (wanted, low, high), (LN(least), LN(0.95)), 0.12, share, high)


def _levels(to: Relations) -> None:
    stop, start, alarm, held = "system.stop_level", "system.start_level", "system.high_level", "control.level_setpoint"
    top = "sensor.level_high"
    to.ratio("the stop level", start, stop, (0.05, 2.5), 0.15)
    to.ratio("the start level", alarm, start, (0.05, 1.2), 0.12)
    to.ratio("the sensor's range", top, alarm, (-0.02, 1.6), 0.12, names=top)
    to.ratio("the stop level", held, stop, (-0.001, 2.5), 0.1)
    to.ratio("the start level", start, held, (-0.001, 1.8), 0.1, names=start)
    _range(to, held, "sensor.level_low", top, 0.06)
    to.add(
        "the duty flow",
        ("system.pit_area", start, stop, Q),
        (0.6, 7.0),
        0.3,
        lambda area, a, b, q: LN(max(1e-3, area * (a - b)) / q),
        Q,
    )


def _duct(to: Relations) -> None:
    held, low, high = "control.air_setpoint", "sensor.air_low", "sensor.air_high"
    to.add("the duty pressure", (held, RISE), (-3.6, 0.05), 0.15, lambda p, rise: LN(max(abs(p), 1e-3) / rise), RISE)
    _range(to, held, low, high)
    to.add("the duty pressure", (high, low, RISE), (-2.0, 1.2), 0.2, lambda b, a, rise: LN((b - a) / rise), RISE)
