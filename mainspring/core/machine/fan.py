"""The fan of a line on its ductwork."""

from collections.abc import Mapping
from functools import cached_property
from typing import Any

from mainspring.core import practice
from mainspring.core.air.density import STANDARD_AIR, air_density, pressure_at_altitude
from mainspring.core.air.fan import (
    air_power,
    duct_pressure,
    duct_resistance,
    fan_curve_fit,
    fan_curve_from_duty,
    fan_efficiency_at,
    fan_law_flow,
    fan_law_pressure,
    fan_no_flow_power,
    fan_shaft_power,
    pressure_at_density,
)
from mainspring.core.hydraulics.affinity import speed_in_rpm
from mainspring.core.line import Line
from mainspring.core.machine.kind import Machine, Words
from mainspring.core.machine.rise import FanPoints, ParabolaFan, RiseCurve, nearest_curve
from mainspring.core.method import Figure, assume, assume_by, given
from mainspring.core.motor.inertia import reflected_inertia
from mainspring.core.ratios import multiple_of

USUAL_SPAN = 2000.0  # Pa, of a sensor whose range is not known yet
SUBSTANTIAL_FLOW = 1e-5  # m³/s; below it a fan moves nothing and its efficiency is no number
NOTHING_HELD = given("held_pressure", 0.0, "air_pressure", "an open system: dampers as they stand")


class Fan(Machine):
    """Figures of a fan line, each computed on first use; a missing input raises NotKnown."""

    words = Words(
        name="fan",
        throttle="damper",
        pipe="duct",
        flow="air_flow",
        rise="air_pressure",
        rise_unit="Pa",
        curve="machine.air_curve",
        first_part="Held pressure, fan efficiency",
        hold_why="speed that just makes the held duct pressure",
        below_hold="the held pressure is not made",
        too_little="stall side, below",
        region=practice.fan.BEST_FLOW,
        other_speed="A belt drive? Enter the pulleys. Otherwise carried over by the fan laws; check the curve.",
    )

    def __init__(self, line: Line, altitude: Figure) -> None:
        self.line, self.altitude = line, altitude

    @cached_property
    def density(self) -> Figure:
        """Density of the air through the fan."""
        return air_density(pressure_at_altitude(self.altitude), self.line.system.air_degc)

    @cached_property
    def density_ratio(self) -> Figure:
        """That density over the one for which the curve was drawn."""
        machine = self.line.machine
        printed = (
            machine.curve_density
            if machine.has("curve_density")
            else assume("machine.curve_density", STANDARD_AIR, "density", "fan curves are printed for standard air")
        )
        return multiple_of(self.density, printed)

    @cached_property
    def rpm(self) -> Figure:
        """Speed of the fan while the motor runs at full-load speed."""
        machine, rated = self.line.machine, self.line.motor.rated_speed
        ratio = (
            machine.pulley_ratio
            if machine.has("pulley_ratio")
            else assume("machine.pulley_ratio", 1.0, "ratio", "direct on the motor's shaft")
        )
        return speed_in_rpm(ratio, rated)

    @cached_property
    def curve(self) -> RiseCurve:
        """Pressure curve at the fan's full speed and the density of the curve."""
        machine = self.line.machine
        if not machine.has("air_curve"):
            duty = assume_by(machine.air_flow, "shape assumed from the duty point")
            return ParabolaFan(fan_curve_from_duty(duty, machine.air_pressure), self.density_ratio)
        flows = tuple(q for q, _ in machine.air_curve)
        pressures = tuple(p for _, p in machine.air_curve)
        if machine.has("curve_speed"):
            speed = machine.curve_speed
            flows = tuple(fan_law_flow(q, speed, self.rpm) for q in flows)
            pressures = tuple(fan_law_pressure(p, speed, self.rpm) for p in pressures)
        density = self.density_ratio
        through = FanPoints(flows, pressures, density)
        return nearest_curve(through, lambda: ParabolaFan(fan_curve_fit(flows, pressures), density))

    @cached_property
    def best_flow(self) -> Figure:
        """Flow at best efficiency at the fan's full speed."""
        machine = self.line.machine
        if machine.has("best_air_flow"):
            found = machine.best_air_flow
        else:
            found = assume("machine.best_air_flow", machine.air_flow, "air_flow", "taken as the duty flow")
        return fan_law_flow(found, machine.curve_speed, self.rpm) if machine.has("curve_speed") else found

    @cached_property
    def held(self) -> Figure:
        """Pressure that the loop keeps up whatever the flow: only where the fan blows towards the sensor."""
        held = self.line.held
        blows = "return_fan" not in self.line.traits
        if held is not None and held.id == "duct" and blows and self.line.control.has("air_setpoint"):
            return max(self.line.control.air_setpoint, NOTHING_HELD)
        return NOTHING_HELD

    def _known(self) -> tuple[Figure, Figure]:
        """One point of the ductwork: measured here, or of the plate, whose pressure is that of its own air."""
        system, machine = self.line.system, self.line.machine
        if system.has("known_air_flow") or system.has("known_air_pressure"):
            return system.known_air_flow, system.known_air_pressure
        return machine.air_flow, pressure_at_density(machine.air_pressure, self.density_ratio)

    @cached_property
    def resistance(self) -> Figure:
        """Resistance of the ductwork before the sensor, with the pressure taken off that it was made to hold."""
        flow, pressure = self._known()
        at_sensor = max(self.line.plant_setpoint(), NOTHING_HELD) if self.lifts else NOTHING_HELD
        return duct_resistance(pressure, at_sensor, flow)

    def resistance_beyond(self, held: Figure) -> Figure:
        """Resistance of the ductwork of a fan that draws out of what is held, with that pressure taken off."""
        flow, pressure = self._known()
        drawn = given("held", min(abs(float(held)), float(pressure)), "air_pressure", "held before the fan")
        return duct_resistance(pressure, drawn, flow)

    @cached_property
    def open_resistance(self) -> Figure:
        """Resistance of the whole ductwork, dampers as they stand."""
        flow, pressure = self._known()
        return duct_resistance(pressure, NOTHING_HELD, flow)

    def head_at(self, flow: Figure, speed_ratio: Figure) -> Figure:
        """Fan pressure at a flow and speed."""
        return self.curve.rise(flow, speed_ratio)

    def required_head(self, flow: Figure) -> Figure:
        """Pressure the ductwork needs at a flow while the loop holds."""
        return duct_pressure(self.held, self.resistance, flow)

    def least_rise(self, flow: Figure) -> Figure:
        """Pressure that the ductwork itself takes at a flow, its dampers as they stand when it was known."""
        return min(duct_pressure(NOTHING_HELD, self.open_resistance, flow), self.required_head(flow))

    def speed_for(self, flow: Figure, rise: Figure) -> Figure:
        """Speed ratio that gives a pressure at a flow."""
        return self.curve.speed_for(flow, rise)

    def flow_at(self, speed_ratio: Figure) -> Figure:
        """Flow at a speed into the ductwork, dampers as they stand."""
        return self.curve.duty_flow(speed_ratio, NOTHING_HELD, self.open_resistance)

    def shaft_power(self, flow: Figure, rise: Figure, speed_ratio: Figure) -> Figure:
        """Shaft power at a flow, pressure and speed."""
        best = self.line.machine.best_efficiency
        if flow < SUBSTANTIAL_FLOW:
            return fan_no_flow_power(self.curve.c0, speed_ratio, self.best_flow, best, self.density_ratio)
        share = multiple_of(fan_law_flow(flow, speed_ratio, given("full", 1.0, "ratio")), self.best_flow)
        return fan_shaft_power(flow, rise, fan_efficiency_at(share, best))

    def fluid_power(self, flow: Figure, rise: Figure) -> Figure:
        """Power in the air."""
        return air_power(flow, rise)

    @cached_property
    def hold_speed(self) -> Figure:
        """Speed ratio that makes the held pressure with the dampers shut."""
        return self.speed_for(given("no_flow", 0.0, "air_flow", "dampers shut"), self.held)

    def flow_or_none_at(self, speed_ratio: Figure) -> Figure:
        """Flow at a speed: a fan moves air at any."""
        return self.flow_at(speed_ratio)

    @property
    def shape_factor(self) -> float:  # type: ignore[override] # of this air over the air it was drawn for
        """Pressure goes with density."""
        return float(self.density_ratio)

    @property
    def lifts(self) -> bool:
        """Only where the loop holds a pressure whatever the flow."""
        return self.held > 0

    def useful_rise(self, rise: Figure) -> Figure:  # noqa: ARG002 the same whatever is made
        """What the loop holds."""
        return self.held

    def at_motor(self, inertia: Figure) -> Figure:
        """Its inertia as the motor feels it through the pulleys."""
        return reflected_inertia(inertia, self.rpm, self.line.motor.rated_speed)

    def shown_at_outlet(self, rise: Figure) -> Figure:
        """What is read across the fan."""
        return rise

    @property
    def promised(self) -> Mapping[str, Any]:
        """Ductwork, air and pulleys, and what the loop keeps up."""
        sensor = self.line.sensor
        return {
            "static": 0.0,
            "resistance": float(self.open_resistance),
            "suction": 0.0,
            "sensor_height": 0.0,
            "held": float(self.held) if self.lifts else None,
            "sensor_span": float(sensor.air_high) if sensor.has("air_high") else USUAL_SPAN,
            "density": float(self.density_ratio),
            "wheel_rpm": float(self.rpm),
            "belt": self.line.machine.has("pulley_ratio"),
        }

    @property
    def profile(self) -> tuple[tuple[Figure, ...], ...]:
        """Hours at each flow."""
        return self.line.duty.air_profile
