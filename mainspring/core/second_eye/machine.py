"""Relations of pump and fan: with their curve, with the motor, and with what is usual of their size."""

import itertools
import math
from collections.abc import Callable, Sequence

from mainspring.core.quantity import WATER_20C, G
from mainspring.core.second_eye.motor import N, P, V
from mainspring.core.second_eye.relation import Facts, Relations
from mainspring.core.second_eye.usual import LN_ROOT3, runs_to_87, usual_fan_efficiency, usual_pump_efficiency

Q, H = "machine.duty_flow", "machine.duty_head"
BEST, ETA, SPEED = "machine.best_flow", "machine.best_efficiency", "machine.curve_speed"
AIR, RISE = "machine.air_flow", "machine.air_pressure"
CURVE, AIR_CURVE, PULLEY = "machine.curve", "machine.air_curve", "machine.pulley_ratio"
Rows = Sequence[Sequence[float]]


def relate(to: Relations, facts: Facts) -> None:
    """Those of the machine that the line has."""
    if "fan" in facts.traits:
        _fan(to)
    elif "pump" in facts.traits:
        _pump(to, facts)
    ratio = facts.values.get(PULLEY, 1.0)
    if PULLEY in facts.values:
        to.add("the motor's speed", (SPEED, N, PULLEY), (-0.05, 0.05), 0.02, lambda s, n, r: math.log(s / n / r), N)
        to.add("the pulleys that there are", (PULLEY,), (-1.7, 1.0), 0.3, math.log)
    else:
        volts, supply = facts.values.get(V, 1.0), facts.values.get("supply.voltage", 1.0)
        carried = (math.log(1.2), -math.log(1.2), *((LN_ROOT3,) if runs_to_87(volts, supply) else ()))
        to.add("the motor's speed", (SPEED, N), (-0.045, 0.045), 0.018, _curve_speed(carried), N)
    highest = "machine.highest_speed"
    to.add("the motor's speed", (highest, N), (-0.12, 0.9), 0.1, lambda top, n: math.log(top / n / ratio), N)


def _curve_speed(carried: tuple[float, ...]) -> Callable[[float, float], float]:
    """A curve printed for the other mains' hertz, or for 87 Hz, is carried over and no slip."""

    def measure(speed: float, motor: float) -> float:
        x = math.log(speed / motor)
        return 0.0 if min(abs(x - c) for c in carried) < 0.04 else x

    return measure


def _pump(to: Relations, facts: Facts) -> None:
    submersible = "submersible" in facts.traits
    over = math.log(max(1.0, facts.values.get("motor.service_factor", 1.15 if submersible else 1.0)))
    to.add(
        "the shaft power of the duty point",
        (Q, H, BEST, ETA, P),
        (math.log(0.44), max(0.0, over)),
        0.09,
        lambda q, h, best, eta, p: math.log(WATER_20C * G * q * h / _at_flow(q / best, eta) / p),
    )
    to.ratio("the flow at best efficiency", Q, BEST, (-0.35, 0.22), 0.07)
    to.add("the curve", (CURVE, Q, H), (-0.05, 0.05), 0.025, lambda c, q, h: math.log(_on(c, q) / h), names=CURVE)
    to.add("head at no flow", (CURVE, H), (0.02, 0.75), 0.12, lambda c, h: math.log(max(y for _, y in c) / h))
    to.add("the curve's flows", (CURVE, BEST), (-1.1, 0.06), 0.1, lambda c, q: math.log(q / max(x for x, _ in c)))
    to.add("its neighbours on the curve", (CURVE,), (0.0, 0.07), 0.012, _kink)
    to.add(
        "the efficiency usual of its size",
        (ETA, BEST),
        (-0.18, 0.12),
        0.05,
        lambda eta, q: eta - usual_pump_efficiency(q),
    )


def _fan(to: Relations) -> None:
    to.add(
        "the shaft power of the duty point",
        (AIR, RISE, ETA, P),
        (math.log(0.35), 0.0),
        0.10,
        lambda q, rise, eta, p: math.log(q * rise / eta / p),
    )
    to.ratio("the flow at best efficiency", AIR, "machine.best_air_flow", (-0.35, 0.3), 0.08)
    to.add(
        "the curve",
        (AIR_CURVE, AIR, RISE),
        (-0.05, 0.05),
        0.025,
        lambda c, q, h: math.log(_on(c, q) / h),
        names=AIR_CURVE,
    )
    to.add(
        "the curve's flows",
        (AIR_CURVE, AIR),
        (math.log(0.4), 0.02),
        0.08,
        lambda c, q: math.log(q / max(x for x, _ in c)),
        names=AIR_CURVE,
    )
    to.add("its neighbours on the curve", (AIR_CURVE,), (0.0, 0.09), 0.015, _kink)
    to.add(
        "the efficiency usual of its size",
        (ETA, AIR),
        (-0.2, 0.16),
        0.05,
        lambda eta, q: eta - usual_fan_efficiency(q),
    )


def _at_flow(share: float, best: float) -> float:
    """Efficiency at a share of the best flow; never a fifth of the best."""
    return max(0.2, 2 * share - share * share) * best


def _on(rows: Rows, flow: float) -> float:
    """A curve at a flow, straight between its points and beyond the last two; it ends at a fiftieth of its height."""
    points = sorted((x, y) for x, y in rows)
    least = max(y for _, y in points) / 50
    for (x1, y1), (x2, y2) in itertools.pairwise(points):
        if flow <= x2 or (x2, y2) == points[-1]:
            return max(least, y1 + (y2 - y1) * (flow - x1) / (x2 - x1))
    return points[0][1]


def _kink(rows: Rows) -> float:
    """How far the worst point lies off the straight line between its neighbours, as a share of the highest.

    A curve bends down, so a point well above that line is one thing and a point below it another.
    """
    points = [(x, y) for x, y in rows]
    top = max(y for _, y in points)
    worst = 0.0
    for (x1, y1), (x, y), (x2, y2) in zip(points, points[1:], points[2:], strict=False):
        if not x1 < x < x2:
            return 1.0
        off = (y - y1 - (y2 - y1) * (x - x1) / (x2 - x1)) / top
        worst = max(worst, -off, off - 0.06)
    return worst
