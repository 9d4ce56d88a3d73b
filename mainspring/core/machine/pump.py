"""The pump of a line on its system."""

from collections.abc import Mapping
from functools import cached_property
from typing import Any

from mainspring.core import practice
from mainspring.core.errors import NoSolution
from mainspring.core.hydraulics.affinity import affinity_flow, affinity_head
from mainspring.core.hydraulics.power import (
    LEAST_CORRECTED,
    hydraulic_power,
    pump_power_to_no_flow,
    pump_shaft_power,
)
from mainspring.core.hydraulics.pump_curve import (
    curve_from_duty_point,
    efficiency_at_speed,
    no_flow_speed,
    pump_curve_fit,
    pump_efficiency,
)
from mainspring.core.hydraulics.system_curve import (
    outlet_pressure,
    setpoint_head,
    system_head,
    system_resistance,
)
from mainspring.core.line import Line
from mainspring.core.machine.kind import Machine, Words
from mainspring.core.machine.rise import ParabolaPump, PumpPoints, RiseCurve, nearest_curve
from mainspring.core.method import Figure, assume, assume_by, given
from mainspring.core.quantity import WATER_20C
from mainspring.core.signal.loop import pressure_at_height

USUAL_SPAN = 10e5  # Pa, of a sensor whose range is not known yet
SUBSTANTIAL_FLOW = 1e-7  # m³/s; below it a pump moves nothing and its efficiency is no number


class Pump(Machine):
    """Figures of a pump line, each computed on first use; a missing input raises NotKnown."""

    words = Words(
        name="pump",
        throttle="valve",
        pipe="pipe",
        flow="flow",
        rise="head",
        rise_unit="m",
        curve="machine.curve",
        first_part="Static head and pump efficiency",
        hold_why="speed that just lifts the static or held head",
        below_hold="no water moves",
        too_little="recirculation, below",
        region=practice.pump.BEST_FLOW,
        other_speed="Carried over by the affinity laws; check that it is the right curve.",
    )

    def __init__(self, line: Line) -> None:
        self.line = line

    @cached_property
    def rpm(self) -> Figure:
        """Speed of the pump while the motor runs at full-load speed."""
        return self.line.motor.rated_speed

    @cached_property
    def curve(self) -> RiseCurve:
        """The pump's head curve at the motor's full-load speed (speed ratio 1)."""
        machine, motor = self.line.machine, self.line.motor
        rated = motor.rated_speed
        if not machine.has("curve"):
            why = "shape of the curve assumed from the duty point"
            flow = assume_by(machine.duty_flow, why)
            return ParabolaPump(curve_from_duty_point(flow, machine.duty_head))
        points = machine.curve
        flows = tuple(q for q, _ in points)
        heads = tuple(h for _, h in points)
        if machine.has("curve_speed"):  # carried over even where the speeds agree, so that the graph knows both
            speed = machine.curve_speed
            flows = tuple(affinity_flow(q, speed, rated) for q in flows)
            heads = tuple(affinity_head(h, speed, rated) for h in heads)
        return nearest_curve(PumpPoints(flows, heads), lambda: ParabolaPump(pump_curve_fit(flows, heads)))

    @cached_property
    def best_flow(self) -> Figure:
        """Flow at best efficiency at the motor's full-load speed."""
        machine = self.line.machine
        if machine.has("curve_speed"):
            return affinity_flow(machine.best_flow, machine.curve_speed, self.line.motor.rated_speed)
        return machine.best_flow

    @cached_property
    def static_head(self) -> Figure:
        """Head that must be overcome before anything moves."""
        traits = self.line.traits
        if "closed" in traits:
            return given("static_head", 0.0, "head", "a closed loop has none")
        if "submersible" in traits:
            return self.line.system.pumping_level
        return self.line.system.static_head

    @cached_property
    def suction_pressure(self) -> Figure:
        """Gauge pressure at the pump's inlet."""
        traits = self.line.traits
        if "submersible" in traits or "wet_well" in traits:
            return given("suction_pressure", 0.0, "pressure", "drawn from an open surface, heads counted from it")
        return self.line.system.suction_pressure

    @cached_property
    def sensor_height(self) -> Figure:
        """Height of the pressure sensor above where the head is counted from."""
        if "submersible" in self.line.traits:
            return self.line.system.pumping_level
        if self.line.sensor.has("height"):
            return self.line.sensor.height
        return assume("sensor.height", 0.0, "head", "not measured: taken as level with the pump inlet")

    def _known_point(self) -> tuple[Figure, Figure]:
        system, machine = self.line.system, self.line.machine
        if system.has("known_head") or system.has("known_flow"):
            return system.known_head, system.known_flow
        return machine.duty_head, machine.duty_flow

    @cached_property
    def resistance(self) -> Figure:
        """Resistance of the system, from one known point, or from the pump's duty point."""
        head, flow = self._known_point()
        return system_resistance(head, self.static_head, flow)

    @cached_property
    def setpoint_head(self) -> Figure:
        """Head the pump makes to hold the setpoint: at the sensor, or across the circuit."""
        setpoint = self.line.control.setpoint
        if "holds:differential" in self.line.traits:
            level = given("suction_pressure", 0.0, "pressure", "a difference counts from nothing")
            return setpoint_head(setpoint, level)
        return setpoint_head(setpoint, self.suction_pressure, self.sensor_height)

    @cached_property
    def held_resistance(self) -> Figure:
        """Resistance of a circuit before the far end, where its differential pressure is held."""
        if self.line.value("control.dp_place") == "pump":
            return given("resistance", 0.0, "pipe_resistance", "held across the pump")
        head, flow = self._known_point()
        level = given("suction_pressure", 0.0, "pressure", "a difference counts from nothing")
        return system_resistance(head, setpoint_head(self.line.plant_setpoint(), level), flow)

    def required_head(self, flow: Figure) -> Figure:
        """Head that has to be made at a flow: what the loop holds, and what lies before it."""
        _ = self.line.line.application
        if "holds:pressure" in self.line.traits:
            return self.setpoint_head
        if "holds:differential" in self.line.traits:
            return system_head(self.setpoint_head, self.held_resistance, flow)
        return system_head(self.static_head, self.resistance, flow)

    def least_rise(self, flow: Figure) -> Figure:
        """Head that the pipework itself takes at a flow: static head and friction; never more than is made for it."""
        needed = self.required_head(flow)
        if "holds:differential" in self.line.traits:
            head, known = self._known_point()
            none = given("static_head", 0.0, "head", "a closed loop has none")
            return min(system_head(none, system_resistance(head, none, known), flow), needed)
        return min(system_head(self.static_head, self.resistance, flow), needed)

    @cached_property
    def held(self) -> Figure:
        """Head that must be overcome at no flow."""
        _ = self.line.line.application
        if self.line.applies(("holds:pressure", "holds:differential")):
            return self.setpoint_head
        return self.static_head

    @cached_property
    def out_of_reach(self) -> bool:
        """Whether what must be held is more than the pump makes at no flow and full speed."""
        return self.held >= self.curve.c0

    @cached_property
    def hold_speed(self) -> Figure:
        """Speed ratio that holds the setpoint and moves nothing."""
        found = no_flow_speed(self.held, self.curve.c0)
        if found > practice.pump.OVERSPEED:
            raise NoSolution(
                f"the pump reaches {self.curve.c0:.1f} m at no flow and {float(self.held):.1f} m are wanted:"
                " it can never hold the setpoint"
            )
        return found

    def flow_at(self, speed_ratio: Figure) -> Figure:
        """Flow at a speed into the open system (system curve)."""
        return self.curve.duty_flow(speed_ratio, self.static_head, self.resistance)

    def flow_or_none_at(self, speed_ratio: Figure) -> Figure:
        """Flow at a speed, also below the one that lifts the static head."""
        if self.curve.c0 * speed_ratio**2 <= self.static_head:
            return given("no_flow", 0.0, "flow", "below the speed that lifts the static head")
        return self.flow_at(speed_ratio)

    def speed_for(self, flow: Figure, rise: Figure) -> Figure:
        """Speed ratio that gives a head at a flow."""
        return self.curve.speed_for(flow, rise)

    def head_at(self, flow: Figure, speed_ratio: Figure) -> Figure:
        """Pump head at a flow and speed."""
        return self.curve.rise(flow, speed_ratio)

    def shaft_power(self, flow: Figure, rise: Figure, speed_ratio: Figure) -> Figure:
        """Shaft power at a flow, head and speed; efficiency corrected for speed."""
        best = self.line.machine.best_efficiency
        share = float(flow) / max(float(speed_ratio) * float(self.best_flow), 1e-12)
        if 2 * share - share * share < LEAST_CORRECTED or flow < SUBSTANTIAL_FLOW:
            return pump_power_to_no_flow(flow, rise, speed_ratio, self.best_flow, best)
        eta = efficiency_at_speed(pump_efficiency(flow, speed_ratio, self.best_flow, best), speed_ratio)
        return pump_shaft_power(flow, rise, eta, WATER_20C)

    def fluid_power(self, flow: Figure, rise: Figure) -> Figure:
        """Power in the water."""
        return hydraulic_power(flow, rise)

    def useful_rise(self, rise: Figure) -> Figure:
        """What is held at the outlet is of use whole; else only what lifts."""
        return rise if "holds:pressure" in self.line.traits else self.held

    def shown_at_outlet(self, rise: Figure) -> Figure:
        """What a gauge at the outlet shows."""
        return self.pressure_at_gauge(rise)

    @property
    def promised(self) -> Mapping[str, Any]:
        """Heads, resistance, and what the loop holds at its sensor."""
        traits, sensor = self.line.traits, self.line.sensor
        holds = self.line.applies(("holds:pressure", "holds:differential")) and self.line.control.has("setpoint")
        surface = bool({"submersible", "wet_well"} & traits)
        return {
            "static": float(self.static_head),
            "resistance": float(self.resistance),
            "suction": float(self.suction_pressure),
            "sensor_height": float(self.sensor_height),
            "held": float(self.line.control.setpoint) if holds else None,
            "sensor_span": float(sensor.range_high) if sensor.has("range_high") else USUAL_SPAN,
            "across": "holds:differential" in traits,
            "well": "submersible" in traits,
            "closed": "closed" in traits,
            "open_surface": surface,
        }

    @property
    def profile(self) -> tuple[tuple[Figure, ...], ...]:
        """Hours at each flow."""
        return self.line.duty.profile

    def pressure_at_gauge(self, head: Figure) -> Figure:
        """Gauge pressure at the outlet of a pump on the surface, or at the well head of a submersible."""
        outlet = outlet_pressure(self.suction_pressure, head)
        if "submersible" not in self.line.traits:
            return outlet
        return max(
            pressure_at_height(outlet, self.static_head),
            given("well_head", 0.0, "pressure", "the water has not reached the well head"),
        )
