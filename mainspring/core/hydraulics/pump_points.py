"""A pump's curve through its points, carried to any speed by the affinity laws."""

from collections.abc import Sequence
from typing import Annotated

from mainspring.core.errors import NoSolution
from mainspring.core.method import In, Source, method
from mainspring.core.points import cubics, duty, speed_for
from mainspring.core.quantity import DIMENSIONS, CubicMetrePerSecond, MetreHead, PipeResistance, Ratio

_THROUGH_POINTS = Source(
    "Fritsch & Butland, SIAM J. Sci. Stat. Comput. 5 (1984); affinity laws", "monotone cubics, from memory", "handbook"
)


@method("H_0 = the curve through the points, at no flow", _THROUGH_POINTS, words=True)
def shutoff_of_points(
    flows: Annotated[Sequence[CubicMetrePerSecond], In("of the points at full speed, three or more", atleast=0)],
    heads: Annotated[Sequence[MetreHead], In("of the points")],
) -> MetreHead:
    """Head at no flow: the first point, or by a parabola through the first two where they begin later.

    Raises
    ------
    OutOfRange : fewer than three points that differ
    NoSolution : the points rise for most of the way

    >>> round(shutoff_of_points((0.01, 0.02, 0.03), (47.5, 40.0, 27.5)), 6)
    50.0
    """
    return cubics(tuple(flows), tuple(heads)).rises[0]


@method("H = s² · h(Q / s), h the monotone cubics through the points", _THROUGH_POINTS, words=True)
def head_on_points(
    flow: Annotated[CubicMetrePerSecond, In("volume flow", atleast=0)],
    speed_ratio: Annotated[Ratio, In("of the curve's speed", above=0)],
    flows: Annotated[Sequence[CubicMetrePerSecond], In("of the points at full speed")],
    heads: Annotated[Sequence[MetreHead], In("of the points")],
) -> MetreHead:
    """Head of the pump at a flow and speed, by its curve through points; beyond the last along its end slope.

    Raises
    ------
    OutOfRange : flow or speed out of range, fewer than three points
    NoSolution : the points rise for most of the way

    >>> round(head_on_points(0.008, 0.8, (0.0, 0.01, 0.02), (50.0, 47.5, 40.0)), 4)
    30.4
    """
    return speed_ratio**2 * cubics(tuple(flows), tuple(heads)).at(flow / speed_ratio)


@method("s = s² · h(Q / s) = H, solved for s", _THROUGH_POINTS, words=True)
def speed_on_points(
    flow: Annotated[CubicMetrePerSecond, In("wanted", atleast=0)],
    head: Annotated[MetreHead, In("wanted", atleast=0)],
    flows: Annotated[Sequence[CubicMetrePerSecond], In("of the points at full speed")],
    heads: Annotated[Sequence[MetreHead], In("of the points")],
) -> Ratio:
    """Speed ratio at which the pump gives a head at a flow, by its curve through points.

    Raises
    ------
    OutOfRange : flow or head negative
    NoSolution : not even at four times full speed

    >>> round(speed_on_points(0.008, 30.4, (0.0, 0.01, 0.02), (50.0, 47.5, 40.0)), 6)
    0.8
    """
    found = speed_for(cubics(tuple(flows), tuple(heads)), flow, head)
    if found is None:
        raise NoSolution(f"no speed of this pump gives {DIMENSIONS['head'].tellings(head)} at that flow")
    return found


@method("Q = s² · h(Q / s) = H_s + K · Q², the largest Q", _THROUGH_POINTS, words=True)
def duty_flow_on_points(
    speed_ratio: Annotated[Ratio, In("of full speed", above=0)],
    flows: Annotated[Sequence[CubicMetrePerSecond], In("of the points at full speed")],
    heads: Annotated[Sequence[MetreHead], In("of the points")],
    static_head: Annotated[MetreHead, In("of the system")],
    resistance: Annotated[PipeResistance, In("of the system", atleast=0)],
) -> CubicMetrePerSecond:
    """Flow at which the pump's curve through points meets its system, on the stable side.

    Raises
    ------
    NoSolution : the pump cannot lift against the static head at this speed

    >>> round(duty_flow_on_points(1.0, (0.0, 0.01, 0.02), (50.0, 47.5, 40.0), 20.0, 50_000.0), 6)
    0.02
    """
    curve = cubics(tuple(flows), tuple(heads))
    if (found := duty(curve, speed_ratio, static_head, resistance)) is not None:
        return found
    shutoff = curve.rises[0] * speed_ratio**2
    raise NoSolution(
        f"at {speed_ratio * 100:.1f} % speed the pump reaches {shutoff:.1f} m and {static_head:.1f} m must be"
        " overcome: no water moves"
    )
