"""What follows from a record: each property is one figure, computed on first use; a missing input raises NotKnown."""

from functools import cached_property

from mainspring.core.control.sleep import frequency_of_speed, sleep_frequency, sleep_low_limit, wake_pressure
from mainspring.core.drive.losses import drive_efficiency
from mainspring.core.drive.rating import altitude_derating, ambient_derating, derated_output_current
from mainspring.core.energy.annual import input_power
from mainspring.core.errors import NoSolution
from mainspring.core.hydraulics.affinity import affinity_flow, affinity_head, speed_in_rpm
from mainspring.core.hydraulics.power import no_flow_power, pump_shaft_power
from mainspring.core.hydraulics.pump_curve import (
    PumpCurve,
    curve_from_duty_point,
    efficiency_at_speed,
    no_flow_speed,
    pump_curve_fit,
    pump_efficiency,
    pump_head,
    speed_for_head,
)
from mainspring.core.hydraulics.system_curve import (
    duty_flow,
    outlet_pressure,
    setpoint_head,
    system_head,
    system_resistance,
)
from mainspring.core.hydraulics.tank import starts_per_hour_on_leak, tank_drawdown
from mainspring.core.line import Line
from mainspring.core.method import Figure, assume, given
from mainspring.core.motor.current import line_current
from mainspring.core.motor.efficiency import LossSplit, loss_split, part_load_efficiency
from mainspring.core.motor.load import current_at_load, no_load_current
from mainspring.core.motor.speed import pole_count, shaft_torque, slip, speed_on_drive, synchronous_speed
from mainspring.core.quantity import WATER_20C
from mainspring.core.ratios import share_of

FULL_SPEED = given("full_speed", 1.0, "ratio", "the curve's own speed")
SUBSTANTIAL_FLOW = 1e-7  # m³/s; below it a pump moves nothing and its efficiency is no number


class Derived:
    """Everything computed from one record, lazily and at most once."""

    def __init__(self, line: Line) -> None:
        self.line = line

    # motor

    @cached_property
    def poles(self) -> Figure:
        """Poles from frequency and full-load speed."""
        return pole_count(self.line.motor.rated_frequency, self.line.motor.rated_speed)

    @cached_property
    def synchronous_rpm(self) -> Figure:
        """Synchronous speed on the plate's frequency."""
        return synchronous_speed(self.line.motor.rated_frequency, self.poles)

    @cached_property
    def rated_slip(self) -> Figure:
        """Slip at full load."""
        return slip(self.synchronous_rpm, self.line.motor.rated_speed)

    @cached_property
    def losses(self) -> LossSplit:
        """Constant and load-dependent loss of the motor."""
        motor = self.line.motor
        full = motor.efficiency
        if motor.has("efficiency_75"):
            return loss_split(full, motor.efficiency_75)
        return loss_split(
            full,
            assume("motor.efficiency_75", full, "percent", "taken as at full load, usual for motors made since 1990"),
        )

    def motor_efficiency(self, shaft_power: Figure) -> Figure:
        """Motor efficiency while it delivers a shaft power."""
        load = share_of(shaft_power, self.line.motor.rated_power)
        return part_load_efficiency(load, *self.losses)

    @cached_property
    def computed_amps(self) -> Figure:
        """Full-load amps that the plate's other values imply."""
        m = self.line.motor
        return line_current(m.rated_power, m.rated_voltage, m.power_factor, m.efficiency)

    @cached_property
    def no_load_amps(self) -> Figure:
        """Magnetising current."""
        return no_load_current(self.line.motor.rated_current, self.line.motor.power_factor)

    @cached_property
    def rated_torque(self) -> Figure:
        """Torque at full load."""
        return shaft_torque(self.line.motor.rated_power, self.line.motor.rated_speed)

    # drive

    @cached_property
    def drive_amps(self) -> Figure:
        """Continuous output amps of the drive at its place."""
        drive, site = self.line.drive, self.line.site
        ambient = drive.ambient
        altitude = (
            site.altitude
            if site.has("altitude")
            else assume("site.altitude", 0.0, "length", "not entered for the site: taken as below 1000 m")
        )
        return derated_output_current(
            drive.rated_current, altitude_derating(altitude), ambient_derating(ambient, drive.ambient_rating)
        )

    # pump and system

    @cached_property
    def curve(self) -> PumpCurve:
        """The pump's head curve at the motor's full-load speed (speed ratio 1)."""
        machine, motor = self.line.machine, self.line.motor
        rated = motor.rated_speed
        if not machine.has("curve"):
            return curve_from_duty_point(
                assume(
                    "machine.duty_flow", machine.duty_flow, "flow", "shape of the curve assumed from the duty point"
                ),
                machine.duty_head,
            )
        points = machine.curve
        flows = tuple(q for q, _ in points)
        heads = tuple(h for _, h in points)
        if machine.has("curve_speed"):  # carried over even where the speeds agree, so that the graph knows both
            speed = machine.curve_speed
            flows = tuple(affinity_flow(q, speed, rated) for q in flows)
            heads = tuple(affinity_head(h, speed, rated) for h in heads)
        return pump_curve_fit(flows, heads)

    @cached_property
    def best_flow(self) -> Figure:
        """Flow at best efficiency at the motor's full-load speed."""
        machine = self.line.machine
        if machine.has("curve_speed"):
            return affinity_flow(machine.best_flow, machine.curve_speed, self.line.motor.rated_speed)
        return machine.best_flow

    @cached_property
    def resistance(self) -> Figure:
        """Resistance of the system, from one known point, or from the pump's duty point."""
        system, machine = self.line.system, self.line.machine
        if system.has("known_head") or system.has("known_flow"):
            return system_resistance(system.known_head, system.static_head, system.known_flow)
        return system_resistance(machine.duty_head, system.static_head, machine.duty_flow)

    @cached_property
    def setpoint_head(self) -> Figure:
        """Head the pump makes to hold the setpoint."""
        sensor = self.line.sensor
        height = (
            sensor.height
            if sensor.has("height")
            else assume("sensor.height", 0.0, "head", "not measured: taken as level with the pump inlet")
        )
        return setpoint_head(self.line.control.setpoint, self.line.system.suction_pressure, height)

    def required_head(self, flow: Figure) -> Figure:
        """Head that has to be made at a flow: the setpoint's for a booster, the system curve's otherwise."""
        if self.line.line.application == "booster":
            return self.setpoint_head
        return system_head(self.line.system.static_head, self.resistance, flow)

    @cached_property
    def held_head(self) -> Figure:
        """Head that must be overcome at no flow."""
        if self.line.line.application == "booster":
            return self.setpoint_head
        return self.line.system.static_head

    @cached_property
    def full_flow(self) -> Figure:
        """Flow at full speed, where the pump meets the system."""
        return self.flow_at(FULL_SPEED)

    def flow_at(self, speed_ratio: Figure) -> Figure:
        """Flow at a speed into the open system (system curve)."""
        return duty_flow(speed_ratio, *self.curve, self.line.system.static_head, self.resistance)

    def speed_for(self, flow: Figure, head: Figure) -> Figure:
        """Speed ratio that gives a head at a flow."""
        return speed_for_head(flow, head, *self.curve)

    def head_at(self, flow: Figure, speed_ratio: Figure) -> Figure:
        """Pump head at a flow and speed."""
        return pump_head(flow, speed_ratio, *self.curve)

    def shaft_power(self, flow: Figure, head: Figure, speed_ratio: Figure) -> Figure:
        """Shaft power at a flow, head and speed, efficiency corrected for speed."""
        best = self.line.machine.best_efficiency
        if flow < SUBSTANTIAL_FLOW:
            return no_flow_power(self.curve.c0, speed_ratio, self.best_flow, best)
        eta = efficiency_at_speed(pump_efficiency(flow, speed_ratio, self.best_flow, best), speed_ratio)
        return pump_shaft_power(flow, head, eta, WATER_20C)

    def input_power(self, shaft: Figure, with_drive: bool) -> Figure:
        """Electrical input for a shaft power, straight on the line or through the drive."""
        eta_m = self.motor_efficiency(shaft)
        if not with_drive:
            return input_power(shaft, eta_m)
        return input_power(shaft, eta_m, self.drive_efficiency(shaft))

    def drive_efficiency(self, shaft: Figure) -> Figure:
        """Drive efficiency while the motor delivers a shaft power."""
        return drive_efficiency(self.line.drive.rated_power, share_of(shaft, self.line.motor.rated_power))

    # loop at no demand

    @cached_property
    def hold_speed(self) -> Figure:
        """Speed ratio that holds the setpoint and moves nothing."""
        found = no_flow_speed(self.held_head, self.curve.c0)
        if found > 1.2:
            raise NoSolution(
                f"the pump reaches {self.curve.c0:.1f} m at no flow and {float(self.held_head):.1f} m are wanted:"
                " it can never hold the setpoint"
            )
        return found

    @cached_property
    def hold_frequency(self) -> Figure:
        """Drive frequency that holds the setpoint at no demand."""
        return frequency_of_speed(self.hold_speed, self.line.motor.rated_frequency)

    def flow_holding(self, setpoint: float, frequency: float) -> Figure:
        """Flow that the pump carries at a frequency while it holds a setpoint; 0 below the hold frequency."""
        line = self.line.with_values(control={"setpoint": setpoint})
        held = Derived(line).setpoint_head
        ratio = share_of(given("frequency", frequency, "frequency"), line.motor.rated_frequency)
        if self.curve.c0 * ratio**2 <= held:
            return given("no_flow", 0.0, "flow", "at or below the frequency that only holds")
        return duty_flow(ratio, *self.curve, held, given("friction", 0.0, "pipe_resistance", "held at the pump"))

    @cached_property
    def low_limit(self) -> Figure:
        """Low limit of the controller, predicted."""
        return sleep_low_limit(self.hold_frequency)

    @cached_property
    def sleep_below(self) -> Figure:
        """Sleep frequency, predicted."""
        return sleep_frequency(self.low_limit)

    @cached_property
    def wake_at(self) -> Figure:
        """Pressure at which the sleeping drive wakes."""
        control, sensor = self.line.control, self.line.sensor
        drop = (
            control.wake_drop
            if control.has("wake_drop")
            else assume("control.wake_drop", 0.08, "percent", "8 % of the sensor's range, common practice")
        )
        return wake_pressure(control.setpoint, sensor.range_low, sensor.range_high, drop)

    @cached_property
    def drawdown(self) -> Figure:
        """Share of the tank given from sleep to wake pressure."""
        return tank_drawdown(self.line.system.tank_precharge, self.wake_at, self.line.control.setpoint)

    @cached_property
    def starts_on_leak(self) -> Figure:
        """Starts caused by the smallest demand."""
        return starts_per_hour_on_leak(self.line.system.leak, self.line.system.tank_volume, self.drawdown)

    @cached_property
    def shutoff_pressure(self) -> Figure:
        """Gauge pressure at the pump outlet with everything shut, at full speed."""
        return outlet_pressure(self.line.system.suction_pressure, self.curve.c0)

    # readings to expect

    def expected_at(self, frequency: Figure) -> dict[str, Figure]:
        """Speed, amps, kW and outlet pressure to expect on the step-up at a frequency, valve to the system open."""
        motor = self.line.motor
        ratio = share_of(frequency, motor.rated_frequency)
        if self.curve.c0 * ratio**2 <= self.line.system.static_head:
            flow = given("no_flow", 0.0, "flow", "below the speed that lifts the static head")
        else:
            flow = self.flow_at(ratio)
        head = self.head_at(flow, ratio)
        shaft = self.shaft_power(flow, head, ratio)
        rpm_full = speed_in_rpm(ratio, motor.rated_speed)
        torque = share_of(shaft_torque(shaft, rpm_full), self.rated_torque)
        return {
            "speed": speed_on_drive(frequency, self.poles, motor.rated_frequency, motor.rated_speed, torque),
            "current": current_at_load(self.no_load_amps, motor.rated_current, torque),
            "power": self.input_power(shaft, with_drive=False),
            "pressure": outlet_pressure(self.line.system.suction_pressure, head),
        }
