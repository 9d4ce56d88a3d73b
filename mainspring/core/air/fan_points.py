"""A fan's curve through its points, carried to any speed and density by the fan laws."""

from collections.abc import Sequence
from typing import Annotated

from mainspring.core.errors import NoSolution
from mainspring.core.method import In, Source, method
from mainspring.core.points import cubics, duty, speed_for
from mainspring.core.quantity import DIMENSIONS, AirFlow, AirPascal, AirResistance, Ratio

_THROUGH_POINTS = Source(
    "Fritsch & Butland, SIAM J. Sci. Stat. Comput. 5 (1984); fan laws", "monotone cubics, from memory", "handbook"
)


@method("p_0 = the curve through the points, at no flow", _THROUGH_POINTS, words=True)
def fan_shutoff_of_points(
    flows: Annotated[Sequence[AirFlow], In("of the points at full speed, three or more", atleast=0)],
    pressures: Annotated[Sequence[AirPascal], In("of the points")],
) -> AirPascal:
    """Pressure at no flow: the first point, or by a parabola through the first two where they begin later.

    Raises
    ------
    OutOfRange : fewer than three points that differ
    NoSolution : the points rise for most of the way

    >>> round(fan_shutoff_of_points((1.0, 2.0, 3.0), (475.0, 400.0, 275.0)), 6)
    500.0
    """
    return cubics(tuple(flows), tuple(pressures)).rises[0]


@method("p = k · s² · p(Q / s), p the monotone cubics through the points", _THROUGH_POINTS, words=True)
def fan_pressure_on_points(
    flow: Annotated[AirFlow, In("volume flow", atleast=0)],
    speed_ratio: Annotated[Ratio, In("of the curve's speed", above=0)],
    flows: Annotated[Sequence[AirFlow], In("of the points at full speed")],
    pressures: Annotated[Sequence[AirPascal], In("of the points")],
    density_ratio: Annotated[Ratio, In("air over the curve's density", above=0)] = 1.0,
) -> AirPascal:
    """Pressure of a fan at a flow, speed and density, by its curve through points.

    Raises
    ------
    OutOfRange : flow, speed or density out of range
    NoSolution : the points rise for most of the way

    >>> round(fan_pressure_on_points(0.8, 0.8, (0.0, 1.0, 2.0), (500.0, 475.0, 400.0)), 4)
    304.0
    """
    return density_ratio * speed_ratio**2 * cubics(tuple(flows), tuple(pressures)).at(flow / speed_ratio)


@method("s = k · s² · p(Q / s) = p, solved for s", _THROUGH_POINTS, words=True)
def fan_speed_on_points(
    flow: Annotated[AirFlow, In("wanted", atleast=0)],
    pressure: Annotated[AirPascal, In("wanted", atleast=0)],
    flows: Annotated[Sequence[AirFlow], In("of the points at full speed")],
    pressures: Annotated[Sequence[AirPascal], In("of the points")],
    density_ratio: Annotated[Ratio, In("air over the curve's density", above=0)] = 1.0,
) -> Ratio:
    """Speed ratio at which a fan gives a pressure at a flow, by its curve through points.

    Raises
    ------
    OutOfRange : flow, pressure or density out of range
    NoSolution : not even at four times full speed

    >>> round(fan_speed_on_points(0.8, 304.0, (0.0, 1.0, 2.0), (500.0, 475.0, 400.0)), 6)
    0.8
    """
    found = speed_for(cubics(tuple(flows), tuple(pressures)), flow, pressure, density_ratio)
    if found is None:
        raise NoSolution(f"no speed of this fan gives {DIMENSIONS['air_pressure'].tellings(pressure)} at that flow")
    return found


@method("Q = k · s² · p(Q / s) = p_h + K · Q², the largest Q", _THROUGH_POINTS, words=True)
def fan_duty_on_points(
    speed_ratio: Annotated[Ratio, In("of full speed", above=0)],
    flows: Annotated[Sequence[AirFlow], In("of the points at full speed")],
    pressures: Annotated[Sequence[AirPascal], In("of the points")],
    held_pressure: Annotated[AirPascal, In("held at the sensor")],
    resistance: Annotated[AirResistance, In("of the ductwork", atleast=0)],
    density_ratio: Annotated[Ratio, In("air over the curve's density", above=0)] = 1.0,
) -> AirFlow:
    """Flow at which the fan's curve through points meets its ductwork, on the stable side.

    Raises
    ------
    NoSolution : the fan cannot make the held pressure at this speed

    >>> round(fan_duty_on_points(1.0, (0.0, 1.0, 2.0), (500.0, 475.0, 400.0), 200.0, 50.0), 6)
    2.0
    """
    curve = cubics(tuple(flows), tuple(pressures))
    if (found := duty(curve, speed_ratio, held_pressure, resistance, density_ratio)) is not None:
        return found
    shutoff = curve.rises[0] * density_ratio * speed_ratio**2
    raise NoSolution(
        f"at {speed_ratio * 100:.1f} % speed the fan makes {shutoff:.0f} Pa and {held_pressure:.0f} Pa are held:"
        " it moves no air"
    )
