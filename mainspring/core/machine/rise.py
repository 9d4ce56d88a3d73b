"""A machine's curve as its line knows it: a parabola where one passes through its points, else cubics that do.

Without points the parabola is shaped from the duty point alone.
"""

import math
from collections.abc import Callable
from dataclasses import dataclass
from typing import Protocol

from mainspring.core.air.fan import FanCurve, fan_duty_flow, fan_pressure, fan_speed_for
from mainspring.core.air.fan_points import (
    fan_duty_on_points,
    fan_pressure_on_points,
    fan_shutoff_of_points,
    fan_speed_on_points,
)
from mainspring.core.errors import NoSolution
from mainspring.core.hydraulics.pump_curve import PumpCurve, pump_head, speed_for_head
from mainspring.core.hydraulics.pump_points import (
    duty_flow_on_points,
    head_on_points,
    shutoff_of_points,
    speed_on_points,
)
from mainspring.core.hydraulics.system_curve import duty_flow
from mainspring.core.method import Figure, as_figure
from mainspring.core.points import Cubics, cubics, root

Figures = tuple[Figure, ...]
HUMP = 0.0005  # of the rise at no flow: what a parabola may rise before it falls
THROUGH = 0.005  # of the rise at no flow: as near as catalogues print, a parabola passes through the points


class RiseCurve(Protocol):
    """Head or pressure of a machine at any flow and speed."""

    @property
    def c0(self) -> Figure:
        """Rise at no flow and full speed."""

    def rise(self, flow: Figure, speed_ratio: Figure) -> Figure:
        """Rise at a flow and speed."""

    def speed_for(self, flow: Figure, rise: Figure) -> Figure:
        """Speed ratio that gives a rise at a flow."""

    def duty_flow(self, speed_ratio: Figure, held: Figure, resistance: Figure) -> Figure:
        """Flow at which it meets its system."""

    def plain(self, flow: float) -> float:
        """Rise at a flow and full speed as a number, to draw with."""

    def flow_at_share(self, share: float) -> float:
        """Flow at which a share of the rise at no flow is left."""

    @property
    def peak(self) -> tuple[float, float]:
        """Flow and rise of its highest point; flow 0 where it only falls."""

    @property
    def parabola(self) -> tuple[float, float, float]:
        """The falling parabola nearest to it from no flow on, for what needs a formula."""


class _Parabola:
    coefficients: tuple[float, float, float]

    @property
    def c0(self) -> Figure:
        return as_figure(self.coefficients[0])

    def plain(self, flow: float) -> float:
        c0, c1, c2 = self.coefficients
        return c0 + flow * (c1 + flow * c2)

    def flow_at_share(self, share: float) -> float:
        c0, c1, c2 = self.coefficients
        return (-c1 - math.sqrt(c1 * c1 - 4 * c2 * (1 - share) * c0)) / (2 * c2)

    @property
    def peak(self) -> tuple[float, float]:
        _, c1, c2 = self.coefficients
        flow = max(0.0, -c1 / (2 * c2))
        return flow, self.plain(flow)

    @property
    def parabola(self) -> tuple[float, float, float]:
        c0, c1, c2 = self.coefficients
        return float(c0), float(c1), float(c2)


class _Points:
    flows: Figures
    rises: Figures

    @property
    def _curve(self) -> Cubics:
        return cubics(self.flows, self.rises)

    def plain(self, flow: float) -> float:
        return self._curve.at(flow)

    def flow_at_share(self, share: float) -> float:
        curve = self._curve
        return root(lambda q: curve.at(q) - share * curve.rises[0], curve.run_out, curve.peak[0])

    peak = property(lambda self: self._curve.peak)

    @property
    def parabola(self) -> tuple[float, float, float]:
        curve = self._curve
        top = curve.rises[0]
        lost = sum((top - y) * x * x for x, y in zip(curve.flows, curve.rises, strict=True))
        return top, 0.0, -max(lost, 1e-6 * top * curve.flows[-1] ** 2) / sum(x**4 for x in curve.flows)


def nearest_curve(points: "PumpPoints | FanPoints", fit: Callable[[], "ParabolaPump | ParabolaFan"]) -> RiseCurve:
    """The parabola fitted to points where it passes through them, else the cubics that do.

    Raises OutOfRange or NoSolution for points that are no curve.
    """
    only_falls = points.peak[0] == 0.0
    try:
        parabola = fit()
    except NoSolution:
        return points
    c0 = float(parabola.c0)
    if only_falls and parabola.peak[1] > (1 + HUMP) * c0:
        return points  # it would droop where the points only fall
    off = max(abs(parabola.plain(q) - y) for q, y in zip(points.flows, points.rises, strict=True))
    return parabola if off <= THROUGH * c0 else points


@dataclass(frozen=True)
class ParabolaPump(_Parabola):
    """A pump whose head is a parabola."""

    coefficients: PumpCurve

    def rise(self, flow: Figure, speed_ratio: Figure) -> Figure:
        return pump_head(flow, speed_ratio, *self.coefficients)

    def speed_for(self, flow: Figure, rise: Figure) -> Figure:
        return speed_for_head(flow, rise, *self.coefficients)

    def duty_flow(self, speed_ratio: Figure, held: Figure, resistance: Figure) -> Figure:
        return duty_flow(speed_ratio, *self.coefficients, held, resistance)


@dataclass(frozen=True)
class PumpPoints(_Points):
    """A pump of which points are known, at full speed."""

    flows: Figures
    rises: Figures

    @property
    def c0(self) -> Figure:
        return shutoff_of_points(self.flows, self.rises)

    def rise(self, flow: Figure, speed_ratio: Figure) -> Figure:
        return head_on_points(flow, speed_ratio, self.flows, self.rises)

    def speed_for(self, flow: Figure, rise: Figure) -> Figure:
        return speed_on_points(flow, rise, self.flows, self.rises)

    def duty_flow(self, speed_ratio: Figure, held: Figure, resistance: Figure) -> Figure:
        return duty_flow_on_points(speed_ratio, self.flows, self.rises, held, resistance)


@dataclass(frozen=True)
class ParabolaFan(_Parabola):
    """A fan whose pressure is a parabola, in the air of its place."""

    coefficients: FanCurve
    density_ratio: Figure

    def rise(self, flow: Figure, speed_ratio: Figure) -> Figure:
        return fan_pressure(flow, speed_ratio, *self.coefficients, self.density_ratio)

    def speed_for(self, flow: Figure, rise: Figure) -> Figure:
        return fan_speed_for(flow, rise, *self.coefficients, self.density_ratio)

    def duty_flow(self, speed_ratio: Figure, held: Figure, resistance: Figure) -> Figure:
        return fan_duty_flow(speed_ratio, *self.coefficients, held, resistance, self.density_ratio)


@dataclass(frozen=True)
class FanPoints(_Points):
    """A fan of which points are known at full speed and the density of the curve, in the air of its place."""

    flows: Figures
    rises: Figures
    density_ratio: Figure

    @property
    def c0(self) -> Figure:
        return fan_shutoff_of_points(self.flows, self.rises)

    def rise(self, flow: Figure, speed_ratio: Figure) -> Figure:
        return fan_pressure_on_points(flow, speed_ratio, self.flows, self.rises, self.density_ratio)

    def speed_for(self, flow: Figure, rise: Figure) -> Figure:
        return fan_speed_on_points(flow, rise, self.flows, self.rises, self.density_ratio)

    def duty_flow(self, speed_ratio: Figure, held: Figure, resistance: Figure) -> Figure:
        return fan_duty_on_points(speed_ratio, self.flows, self.rises, held, resistance, self.density_ratio)
