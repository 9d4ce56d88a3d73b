"""A pump's curve: fitted from points, or shaped from a duty point alone."""

import math
from collections.abc import Sequence
from typing import NamedTuple

from mainspring.core.errors import NoSolution, check_range
from mainspring.core.method import DERIVED, Source, method
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
    id="pump_curve_fit",
    symbol="c",
    formula="least squares of H = c0 + c1·Q + c2·Q² through the points",
    words=True,
    source=Source("least squares (normal equations)", "as numpy.polyfit", "law"),
)
def pump_curve_fit(flows: Sequence[CubicMetrePerSecond], heads: Sequence[MetreHead]) -> PumpCurve:
    """Quadratic head curve through test points at one speed.

    Parameters
    ----------
    flows : of the points, at least three different [m³/s]
    heads : of the points [m]

    Raises
    ------
    OutOfRange : fewer than three points, or lengths differ
    NoSolution : the fit does not fall over the range of the points (hooked or rising curve)

    Examples
    --------
    >>> [round(float(c), 6) + 0.0 for c in pump_curve_fit((0.0, 0.01, 0.02), (50.0, 47.5, 40.0))]
    [50.0, 0.0, -25000.0]
    """
    return PumpCurve(*falling_parabola(flows, heads))


@method(
    id="curve_from_duty_point",
    symbol="c",
    formula="H0 = 4/3·H1, Qmax = 2·Q1: c0 = 4/3·H1, c1 = 0, c2 = -H1 / (3·Q1²)",
    words=True,
    source=Source("EPANET 2.2 user manual", "single-point pump curve", "handbook"),
)
def curve_from_duty_point(flow: CubicMetrePerSecond, head: MetreHead) -> PumpCurve:
    """Assumed curve of a centrifugal pump of which only the duty point is known.

    Parameters
    ----------
    flow : at the duty point, > 0 [m³/s]
    head : at the duty point, > 0 [m]

    Examples
    --------
    >>> round(curve_from_duty_point(0.1, 250.0).c0, 4)
    333.3333
    """
    return PumpCurve(4 / 3 * head, 0.0, -head / (3 * flow**2))


@method(
    id="epanet_exponent",
    symbol="C",
    formula="log((H_0 - H_2) / (H_0 - H_1)) / log(Q_2 / Q_1)",
    symbols={"H_0": "shutoff_head", "Q_1": "flow_1", "H_1": "head_1", "Q_2": "flow_2", "H_2": "head_2"},
    source=Source("EPANET 2.2 user manual", "three-point pump curve", "handbook"),
)
def epanet_exponent(
    shutoff_head: MetreHead,
    flow_1: CubicMetrePerSecond,
    head_1: MetreHead,
    flow_2: CubicMetrePerSecond,
    head_2: MetreHead,
) -> float:
    """Exponent C of the pump curve H = A - B·Q^C through three points.

    Parameters
    ----------
    shutoff_head : at no flow [m]
    flow_1 : design flow [m³/s]
    head_1 : head at it [m]
    flow_2 : larger flow [m³/s]
    head_2 : head at it [m]

    Examples
    --------
    >>> round(epanet_exponent(50, 0.02, 40, 0.04, 10), 9)
    2.0
    """
    check_range("head at the first flow", head_1, below=shutoff_head)
    check_range("head at the second flow", head_2, below=head_1)
    check_range("second flow", flow_2, above=flow_1)
    return float(math.log((shutoff_head - head_2) / (shutoff_head - head_1)) / math.log(flow_2 / flow_1))


@method(
    id="pump_head",
    symbol="H",
    formula="c0 * s**2 + c1 * s * Q + c2 * Q**2",
    symbols={"Q": "flow", "s": "speed_ratio", "c0": "c0", "c1": "c1", "c2": "c2"},
    source=Source("ANSI/HI 14.3", "affinity laws applied to the fitted curve", "derived"),
)
def pump_head(
    flow: CubicMetrePerSecond, speed_ratio: Ratio, c0: MetreHead, c1: CurveSlope, c2: PipeResistance
) -> MetreHead:
    """Head of the pump at a flow and speed.

    Parameters
    ----------
    flow : volume flow [m³/s]
    speed_ratio : of the curve's speed [-]
    c0 : shut-off head at full speed [m]
    c1 : linear coefficient [m/(m³/s)]
    c2 : quadratic coefficient [m/(m³/s)²]

    Examples
    --------
    >>> round(pump_head(0.012, 0.8, 50.12619047619047, -22.14285714, -24333.33333), 4)
    28.3642
    """
    return c0 * speed_ratio**2 + c1 * speed_ratio * flow + c2 * flow**2


@method(
    id="speed_for_head",
    symbol="s",
    formula="(-c1 * Q + sqrt((c1 * Q)**2 - 4 * c0 * (c2 * Q**2 - H))) / (2 * c0)",
    symbols={"Q": "flow", "H": "head", "c0": "c0", "c1": "c1", "c2": "c2"},
    source=DERIVED,
)
def speed_for_head(
    flow: CubicMetrePerSecond, head: MetreHead, c0: MetreHead, c1: CurveSlope, c2: PipeResistance
) -> Ratio:
    """Speed ratio at which the pump gives a head at a flow.

    Parameters
    ----------
    flow : wanted [m³/s], >= 0
    head : wanted [m], >= 0
    c0 : shut-off head at full speed, > 0 [m]
    c1 : linear coefficient [m/(m³/s)]
    c2 : quadratic coefficient [m/(m³/s)²]

    Raises
    ------
    OutOfRange : flow or head negative

    Examples
    --------
    >>> round(speed_for_head(0.015, 29.0625, 50, 0, -25000), 6)
    0.832917
    """
    root = (c1 * flow) ** 2 - 4 * c0 * (c2 * flow**2 - head)
    return (-c1 * flow + math.sqrt(root)) / (2 * c0)


@method(
    id="no_flow_speed",
    symbol="s_0",
    formula="sqrt(H / H_0)",
    symbols={"H": "held_head", "H_0": "shutoff_head"},
    source=Source("affinity law at no flow", kind="derived"),
)
def no_flow_speed(held_head: MetreHead, shutoff_head: MetreHead) -> Ratio:
    """Speed ratio at which the pump just holds a head and moves nothing.

    Parameters
    ----------
    held_head : static head or setpoint head, >= 0 [m]
    shutoff_head : at full speed, > 0 [m]

    Examples
    --------
    >>> round(no_flow_speed(35, 50), 5)
    0.83666
    """
    return math.sqrt(held_head / shutoff_head)


@method(
    id="pump_efficiency",
    symbol="eta",
    formula="eta_b * (2 * Q / (s * Q_b) - (Q / (s * Q_b))**2)",
    symbols={"eta_b": "best_efficiency", "Q": "flow", "s": "speed_ratio", "Q_b": "best_flow"},
    source=Source("parabola through no flow and the best-efficiency point", kind="common practice"),
)
def pump_efficiency(
    flow: CubicMetrePerSecond, speed_ratio: Ratio, best_flow: CubicMetrePerSecond, best_efficiency: Percent
) -> Percent:
    """Pump efficiency away from its best point, carried by the affinity law.

    Parameters
    ----------
    flow : volume flow, > 0 and below twice the best flow at this speed [m³/s]
    speed_ratio : of full speed, > 0 [-]
    best_flow : at best efficiency and full speed, > 0 [m³/s]
    best_efficiency : 0 < η <= 1 [-]

    Raises
    ------
    OutOfRange : outside the parabola

    Examples
    --------
    >>> round(pump_efficiency(0.015, 1.0, 0.022, 0.80), 5)
    0.71901
    """
    check_range("flow over best flow", flow / (speed_ratio * best_flow), above=0, below=2)
    x = flow / (speed_ratio * best_flow)
    return best_efficiency * (2 * x - x**2)


@method(
    id="efficiency_at_speed",
    symbol="eta_s",
    formula="1 - (1 - eta) * (1 / s)**0.1",
    symbols={"eta": "efficiency", "s": "speed_ratio"},
    source=Source("Sarbu & Borza 1998; EPANET 2.2", "speed correction of pump efficiency", "handbook"),
)
def efficiency_at_speed(efficiency: Percent, speed_ratio: Ratio) -> Percent:
    """Pump efficiency corrected for reduced speed.

    Parameters
    ----------
    efficiency : by affinity, 0 < η <= 1 [-]
    speed_ratio : of full speed, > 0; below 0.5 expect more loss than this [-]

    Raises
    ------
    NoSolution : nothing is left of the efficiency

    Examples
    --------
    >>> round(efficiency_at_speed(0.80, 0.8), 6)
    0.795487
    """
    corrected = 1 - (1 - efficiency) * math.pow(1 / speed_ratio, 0.1)
    if corrected <= 0:
        raise NoSolution("at that speed the losses take all of so small an efficiency")
    return corrected


@method(
    id="shutoff_rise",
    symbol="r",
    formula="(H_0 - H) / H",
    symbols={"H_0": "shutoff_head", "H": "duty_head"},
    source=DERIVED,
)
def shutoff_rise(shutoff_head: MetreHead, duty_head: MetreHead) -> Percent:
    """Rise of head from duty to shut-off, over duty head.

    Parameters
    ----------
    shutoff_head : [m]
    duty_head : > 0 [m]

    Examples
    --------
    >>> float(shutoff_rise(50, 40))
    0.25
    """
    return (shutoff_head - duty_head) / duty_head


@method(
    id="share_of_best_flow",
    symbol="x",
    formula="Q / (s * Q_b)",
    symbols={"Q": "flow", "s": "speed_ratio", "Q_b": "best_flow"},
    source=Source("ANSI/HI 9.6.3", "preferred region 70 to 120 % of best flow at that speed, from memory", "standard"),
)
def share_of_best_flow(flow: CubicMetrePerSecond, speed_ratio: Ratio, best_flow: CubicMetrePerSecond) -> Percent:
    """Flow as a share of the best-efficiency flow at the speed of the moment.

    Parameters
    ----------
    flow : volume flow [m³/s]
    speed_ratio : of full speed, > 0 [-]
    best_flow : at full speed, > 0 [m³/s]

    Examples
    --------
    >>> round(share_of_best_flow(0.014, 1, 0.022), 4)
    0.6364
    """
    return flow / (speed_ratio * best_flow)


@method(
    id="fit_quality",
    symbol="R2",
    formula="1 - Σ (Hᵢ - H(Qᵢ))² / Σ (Hᵢ - H_m)²",
    words=True,
    source=Source("least squares", "coefficient of determination", "law"),
)
def fit_quality(seen: Sequence[MetreHead], fitted: Sequence[MetreHead]) -> Ratio:
    """How much of what the points do the curve tells: 1 where it passes through all of them.

    Parameters
    ----------
    seen : heads of the points, not all the same [m]
    fitted : of the curve at their flows [m]

    Examples
    --------
    >>> round(fit_quality((50.0, 40.0, 20.0), (50.0, 41.0, 19.0)), 5)
    0.99571
    """
    mean = sum(seen) / len(seen)
    about_curve = sum((a - b) ** 2 for a, b in zip(seen, fitted, strict=True))
    return 1 - about_curve / sum((a - mean) ** 2 for a in seen)
