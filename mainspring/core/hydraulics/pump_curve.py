"""A pump's curve: fitted from points, or shaped from a duty point alone."""

import math
from collections.abc import Sequence
from typing import Annotated, NamedTuple

from mainspring.core.errors import NoSolution, check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.parabola import falling_parabola
from mainspring.core.quantity import (
    CubicMetrePerSecond,
    CurveSlope,
    MetreHead,
    Percent,
    PipeResistance,
    Ratio,
)


class PumpCurve(NamedTuple):
    """H = c0·s² + c1·s·Q + c2·Q² at speed ratio s."""

    c0: MetreHead
    c1: CurveSlope
    c2: PipeResistance


@method(
    "c = least squares of H = c0 + c1·Q + c2·Q² through the points",
    Source("least squares (normal equations)", "as numpy.polyfit", "law"),
    words=True,
)
def pump_curve_fit(
    flows: Annotated[Sequence[CubicMetrePerSecond], In("of the points, at least three different")],
    heads: Annotated[Sequence[MetreHead], In("of the points")],
) -> PumpCurve:
    """Quadratic head curve through test points at one speed.

    Raises
    ------
    OutOfRange : fewer than three points, or lengths differ
    NoSolution : the fit does not fall over the range of the points (hooked or rising curve)

    >>> [round(float(c), 6) + 0.0 for c in pump_curve_fit((0.0, 0.01, 0.02), (50.0, 47.5, 40.0))]
    [50.0, 0.0, -25000.0]
    """
    return PumpCurve(*falling_parabola(flows, heads))


@method(
    "c = H0 = 4/3·H1, Qmax = 2·Q1: c0 = 4/3·H1, c1 = 0, c2 = -H1 / (3·Q1²)",
    Source("EPANET 2.2 user manual", "single-point pump curve", "handbook"),
    words=True,
)
def curve_from_duty_point(
    flow: Annotated[CubicMetrePerSecond, In("at the duty point", above=0)],
    head: Annotated[MetreHead, In("at the duty point", above=0)],
) -> PumpCurve:
    """Assumed curve of a centrifugal pump of which only the duty point is known.

    >>> round(curve_from_duty_point(0.1, 250.0).c0, 4)
    333.3333
    """
    return PumpCurve(4 / 3 * head, 0.0, -head / (3 * flow**2))


@method(
    "C = log((H_0 - H_2) / (H_0 - H_1)) / log(Q_2 / Q_1)",
    Source("EPANET 2.2 user manual", "three-point pump curve", "handbook"),
)
def epanet_exponent(
    shutoff_head: Annotated[MetreHead, In("at no flow", "H_0")],
    flow_1: Annotated[CubicMetrePerSecond, In("design flow", "Q_1")],
    head_1: Annotated[MetreHead, In("head at it", "H_1")],
    flow_2: Annotated[CubicMetrePerSecond, In("larger flow", "Q_2")],
    head_2: Annotated[MetreHead, In("head at it", "H_2")],
) -> float:
    """Exponent C of the pump curve H = A - B·Q^C through three points.

    >>> round(epanet_exponent(50, 0.02, 40, 0.04, 10), 9)
    2.0
    """
    check_range("head at the first flow", head_1, below=shutoff_head)
    check_range("head at the second flow", head_2, below=head_1)
    check_range("second flow", flow_2, above=flow_1)
    return float(math.log((shutoff_head - head_2) / (shutoff_head - head_1)) / math.log(flow_2 / flow_1))


@method(
    "H = c0 * s**2 + c1 * s * Q + c2 * Q**2",
    Source("ANSI/HI 14.3", "affinity laws applied to the fitted curve", "derived"),
)
def pump_head(
    flow: Annotated[CubicMetrePerSecond, In("volume flow", "Q")],
    speed_ratio: Annotated[Ratio, In("of the curve's speed", "s")],
    c0: Annotated[MetreHead, In("shut-off head at full speed", "c0")],
    c1: Annotated[CurveSlope, In("linear coefficient", "c1")],
    c2: Annotated[PipeResistance, In("quadratic coefficient", "c2")],
) -> MetreHead:
    """Head of the pump at a flow and speed.

    >>> round(pump_head(0.012, 0.8, 50.12619047619047, -22.14285714, -24333.33333), 4)
    28.3642
    """
    return c0 * speed_ratio**2 + c1 * speed_ratio * flow + c2 * flow**2


@method("s = (-c1 * Q + sqrt((c1 * Q)**2 - 4 * c0 * (c2 * Q**2 - H))) / (2 * c0)", DERIVED)
def speed_for_head(
    flow: Annotated[CubicMetrePerSecond, In("wanted", "Q", atleast=0)],
    head: Annotated[MetreHead, In("wanted", "H", atleast=0)],
    c0: Annotated[MetreHead, In("shut-off head at full speed", "c0", above=0)],
    c1: Annotated[CurveSlope, In("linear coefficient", "c1")],
    c2: Annotated[PipeResistance, In("quadratic coefficient", "c2")],
) -> Ratio:
    """Speed ratio at which the pump gives a head at a flow.

    Raises
    ------
    OutOfRange : flow or head negative

    >>> round(speed_for_head(0.015, 29.0625, 50, 0, -25000), 6)
    0.832917
    """
    root = (c1 * flow) ** 2 - 4 * c0 * (c2 * flow**2 - head)
    return (-c1 * flow + math.sqrt(root)) / (2 * c0)


@method("s_0 = sqrt(H / H_0)", Source("affinity law at no flow", kind="derived"))
def no_flow_speed(
    held_head: Annotated[MetreHead, In("static head or setpoint head", "H", atleast=0)],
    shutoff_head: Annotated[MetreHead, In("at full speed", "H_0", above=0)],
) -> Ratio:
    """Speed ratio at which the pump just holds a head and moves nothing.

    >>> round(no_flow_speed(35, 50), 5)
    0.83666
    """
    return math.sqrt(held_head / shutoff_head)


@method(
    "eta = eta_b * (2 * Q / (s * Q_b) - (Q / (s * Q_b))**2)",
    Source("parabola through no flow and the best-efficiency point", kind="common practice"),
)
def pump_efficiency(
    flow: Annotated[CubicMetrePerSecond, In("volume flow, and below twice the best flow at this speed", "Q", above=0)],
    speed_ratio: Annotated[Ratio, In("of full speed", "s", above=0)],
    best_flow: Annotated[CubicMetrePerSecond, In("at best efficiency and full speed", "Q_b", above=0)],
    best_efficiency: Annotated[Percent, In("", "eta_b", above=0, upto=1)],
) -> Percent:
    """Pump efficiency away from its best point, carried by the affinity law.

    Raises
    ------
    OutOfRange : outside the parabola

    >>> round(pump_efficiency(0.015, 1.0, 0.022, 0.80), 5)
    0.71901
    """
    check_range("flow over best flow", flow / (speed_ratio * best_flow), above=0, below=2)
    x = flow / (speed_ratio * best_flow)
    return best_efficiency * (2 * x - x**2)


@method(
    "eta_s = 1 - (1 - eta) * (1 / s)**0.1",
    Source("Sarbu & Borza 1998; EPANET 2.2", "speed correction of pump efficiency", "handbook"),
)
def efficiency_at_speed(
    efficiency: Annotated[Percent, In("by affinity", "eta", above=0, upto=1)],
    speed_ratio: Annotated[Ratio, In("of full speed; below 0.5 expect more loss than this", "s", above=0)],
) -> Percent:
    """Pump efficiency corrected for reduced speed.

    Raises
    ------
    NoSolution : nothing is left of the efficiency

    >>> round(efficiency_at_speed(0.80, 0.8), 6)
    0.795487
    """
    corrected = 1 - (1 - efficiency) * math.pow(1 / speed_ratio, 0.1)
    if corrected <= 0:
        raise NoSolution("at that speed the losses take all of so small an efficiency")
    return corrected


@method("r = (H_0 - H) / H", DERIVED)
def shutoff_rise(
    shutoff_head: Annotated[MetreHead, In("", "H_0")], duty_head: Annotated[MetreHead, In("", "H", above=0)]
) -> Percent:
    """Rise of head from duty to shut-off, over duty head.

    >>> float(shutoff_rise(50, 40))
    0.25
    """
    return (shutoff_head - duty_head) / duty_head


@method(
    "x = Q / (s * Q_b)",
    Source("ANSI/HI 9.6.3", "preferred region 70 to 120 % of best flow at that speed, from memory", "standard"),
)
def share_of_best_flow(
    flow: Annotated[CubicMetrePerSecond, In("volume flow", "Q")],
    speed_ratio: Annotated[Ratio, In("of full speed", "s", above=0)],
    best_flow: Annotated[CubicMetrePerSecond, In("at full speed", "Q_b", above=0)],
) -> Percent:
    """Flow as a share of the best-efficiency flow at the speed of the moment.

    >>> round(share_of_best_flow(0.014, 1, 0.022), 4)
    0.6364
    """
    return flow / (speed_ratio * best_flow)


@method(
    "R2 = 1 - Σ (Hᵢ - H(Qᵢ))² / Σ (Hᵢ - H_m)²",
    Source("least squares", "coefficient of determination", "law"),
    words=True,
)
def fit_quality(
    seen: Annotated[Sequence[MetreHead], In("heads of the points, not all the same")],
    fitted: Annotated[Sequence[MetreHead], In("of the curve at their flows")],
) -> Ratio:
    """How much of what the points do the curve tells: 1 where it passes through all of them.

    >>> round(fit_quality((50.0, 40.0, 20.0), (50.0, 41.0, 19.0)), 5)
    0.99571
    """
    mean = sum(seen) / len(seen)
    about_curve = sum((a - b) ** 2 for a, b in zip(seen, fitted, strict=True))
    return 1 - about_curve / sum((a - mean) ** 2 for a in seen)
