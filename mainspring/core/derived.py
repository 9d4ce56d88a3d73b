"""What follows from a record: each property is one figure, computed on first use; a missing input raises NotKnown."""

from functools import cached_property

from mainspring.core.air.density import air_density, pressure_at_altitude
from mainspring.core.air.model import FanModel
from mainspring.core.control.sleep import frequency_of_speed, sleep_frequency, sleep_low_limit, wake_pressure
from mainspring.core.drive.cooling import carrier_derating
from mainspring.core.drive.losses import drive_efficiency, drive_heat, motor_input
from mainspring.core.drive.rating import altitude_derating, ambient_derating, derated_output_current
from mainspring.core.electrical.harmonics import (
    impedance_before_drive,
    six_pulse_distortion,
    transformer_fault_current,
)
from mainspring.core.energy.annual import input_power
from mainspring.core.errors import NoSolution
from mainspring.core.hydraulics.affinity import affinity_flow, affinity_head, speed_in_rpm
from mainspring.core.hydraulics.power import hydraulic_power, no_flow_power, pump_shaft_power
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
from mainspring.core.method import Figure, as_figure, assume, given
from mainspring.core.motor.current import line_current
from mainspring.core.motor.efficiency import LossSplit, loss_split, part_load_efficiency
from mainspring.core.motor.load import current_at_load, current_at_torque, no_load_current
from mainspring.core.motor.speed import pole_count, shaft_torque, slip, speed_on_drive, synchronous_speed
from mainspring.core.quantity import WATER_20C
from mainspring.core.ratios import share_of
from mainspring.core.signal.loop import pressure_at_height

FULL_SPEED = given("full_speed", 1.0, "ratio", "the curve's own speed")
REACTORS = {"none": 0.0, "line3": 0.03, "line5": 0.05, "dc": 0.03}  # of the drive's base, common practice
RATED_CARRIER = 4000.0  # Hz; drives of this size are rated at 2 to 4 kHz (common practice)
SUBSTANTIAL_FLOW = 1e-7  # m³/s; below it a pump moves nothing and its efficiency is no number


class Derived:
    """Everything computed from one record, lazily and at most once."""

    def __init__(self, line: Line) -> None:
        self.line = line

    @cached_property
    def altitude(self) -> Figure:
        """Altitude of the site."""
        site = self.line.site
        if site.has("altitude"):
            return site.altitude
        return assume("site.altitude", 0.0, "length", "not entered for the site: taken as below 1000 m")

    @cached_property
    def fan(self) -> FanModel | None:
        """The fan and its ductwork, where the line drives a fan."""
        return FanModel(self.line, self.altitude) if "fan" in self.line.traits else None

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
        drive = self.line.drive
        return derated_output_current(
            self.rated_amps,
            altitude_derating(self.altitude),
            ambient_derating(drive.ambient, drive.ambient_rating),
            self.carrier_factor,
            self.phase_factor,
        )

    @cached_property
    def rated_amps(self) -> Figure:
        """Amps of the drive's plate for the duty in use."""
        drive = self.line.drive
        if self.line.value("drive.duty") == "heavy" and drive.has("heavy_current"):
            return drive.heavy_current
        return drive.rated_current

    @cached_property
    def carrier_factor(self) -> Figure:
        """Share of amps left at the carrier wanted."""
        drive = self.line.drive
        if not drive.has("carrier") or drive.carrier <= RATED_CARRIER:
            return given("carrier_factor", 1.0, "ratio", "carrier of the rating, 4 kHz or lower")
        return carrier_derating(drive.carrier, given("rated_carrier", RATED_CARRIER, "carrier", "common practice"))

    @cached_property
    def phase_factor(self) -> Figure:
        """Share of amps left on a single-phase supply."""
        if self.line.value("supply.phases") == "1" and self.line.value("drive.input_phases") == "3":
            return given("single_phase_share", 0.5, "percent", "three-phase drive on one phase, makers say 35 to 50 %")
        return given("phase_factor", 1.0, "ratio", "fed as it is made for")

    @cached_property
    def motor_amps(self) -> Figure:
        """Amps on which drive and cable are sized: a submersible is loaded into its service factor."""
        motor = self.line.motor
        if "submersible" in self.line.traits:
            return motor.service_factor_current
        return motor.rated_current

    @cached_property
    def fault_current(self) -> Figure:
        """Prospective short-circuit current at the drive: as entered, else from the transformer."""
        supply = self.line.supply
        if supply.has("fault_current"):
            return supply.fault_current
        impedance = (
            supply.transformer_impedance
            if supply.has("transformer_impedance")
            else assume(
                "supply.transformer_impedance", 0.04, "percent", "4 %, usual of small distribution transformers"
            )
        )
        return transformer_fault_current(supply.transformer_rating, supply.voltage, impedance)

    @cached_property
    def line_impedance(self) -> Figure:
        """Impedance before the drive on its own base: the supply's and the reactor's."""
        reactor = given(
            "reactor", REACTORS[self.line.supply.reactor], "percent", "as fitted; built-in chokes act like 3 %"
        )
        if not self.line.has_any("supply.fault_current", "supply.transformer_rating"):
            source = assume("supply.source_impedance", 0.005, "percent", "a stiff supply, its fault level not known")
            return impedance_before_drive(reactor, source)
        return impedance_before_drive(reactor, share_of(self.line.motor.rated_current, self.fault_current))

    @cached_property
    def current_distortion(self) -> Figure:
        """Distortion of the drive's input current."""
        return six_pulse_distortion(self.line_impedance)

    def air_density_at(self, degc: Figure) -> Figure:
        """Density of the air at the site's altitude and a temperature."""
        return air_density(pressure_at_altitude(self.altitude), degc)

    @cached_property
    def drive_loss(self) -> Figure:
        """Heat of the drive while the motor gives its rated power."""
        motor = self.line.motor
        return drive_heat(motor_input(motor.rated_power, motor.efficiency), self.drive_efficiency(motor.rated_power))

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
        return system_resistance(head, self.setpoint_head, flow)

    def required_head(self, flow: Figure) -> Figure:
        """Head (or fan pressure) that has to be made at a flow: what the loop holds, and what lies before it."""
        _ = self.line.line.application
        if self.fan is not None:
            return self.fan.required_head(flow)
        if "holds:pressure" in self.line.traits:
            return self.setpoint_head
        if "holds:differential" in self.line.traits:
            return system_head(self.setpoint_head, self.held_resistance, flow)
        return system_head(self.static_head, self.resistance, flow)

    @cached_property
    def held_head(self) -> Figure:
        """Head that must be overcome at no flow."""
        _ = self.line.line.application
        if self.line.applies(("holds:pressure", "holds:differential")):
            return self.setpoint_head
        return self.static_head

    @cached_property
    def full_flow(self) -> Figure:
        """Flow at full speed, where the pump meets the system."""
        return self.flow_at(FULL_SPEED)

    def flow_at(self, speed_ratio: Figure) -> Figure:
        """Flow at a speed into the open system (system curve)."""
        if self.fan is not None:
            return self.fan.flow_at(speed_ratio)
        return duty_flow(speed_ratio, *self.curve, self.static_head, self.resistance)

    def speed_for(self, flow: Figure, head: Figure) -> Figure:
        """Speed ratio that gives a head at a flow."""
        if self.fan is not None:
            return self.fan.speed_for(flow, head)
        return speed_for_head(flow, head, *self.curve)

    def head_at(self, flow: Figure, speed_ratio: Figure) -> Figure:
        """Pump head, or fan pressure, at a flow and speed."""
        if self.fan is not None:
            return self.fan.head_at(flow, speed_ratio)
        return pump_head(flow, speed_ratio, *self.curve)

    def shaft_power(self, flow: Figure, head: Figure, speed_ratio: Figure) -> Figure:
        """Shaft power at a flow, head and speed; a pump's efficiency corrected for speed."""
        if self.fan is not None:
            return self.fan.shaft_power(flow, head, speed_ratio)
        best = self.line.machine.best_efficiency
        if flow < SUBSTANTIAL_FLOW:
            return no_flow_power(self.curve.c0, speed_ratio, self.best_flow, best)
        eta = efficiency_at_speed(pump_efficiency(flow, speed_ratio, self.best_flow, best), speed_ratio)
        return pump_shaft_power(flow, head, eta, WATER_20C)

    def fluid_power(self, flow: Figure, head: Figure) -> Figure:
        """Power in the water or air."""
        if self.fan is not None:
            return self.fan.fluid_power(flow, head)
        return hydraulic_power(flow, head)

    @cached_property
    def duty_power(self) -> Figure:
        """Shaft power where the machine meets its system at full speed."""
        flow = self.full_flow
        return self.shaft_power(flow, self.head_at(flow, FULL_SPEED), FULL_SPEED)

    @cached_property
    def run_out_power(self) -> Figure:
        """Largest shaft power along the curve at full speed, up to 1.4 times best flow."""
        best = self.fan.best_flow if self.fan is not None else self.best_flow
        dimension = best.dimension
        along = [
            self.shaft_power(flow, head, FULL_SPEED)
            for share in (0.6, 0.8, 1.0, 1.2, 1.3, 1.4)
            if (head := self.head_at(flow := given("flow", share * best, dimension), FULL_SPEED)) > 0
        ]
        if not along:
            raise NoSolution("the curve ends long before the best flow: check flow, curve and speeds")
        return max(along)

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
        if self.fan is not None:
            return self._fan_hold_speed()
        found = no_flow_speed(self.held_head, self.curve.c0)
        if found > 1.2:
            raise NoSolution(
                f"the pump reaches {self.curve.c0:.1f} m at no flow and {float(self.held_head):.1f} m are wanted:"
                " it can never hold the setpoint"
            )
        return found

    def _fan_hold_speed(self) -> Figure:
        fan = self.fan
        assert fan is not None
        return fan.speed_for(given("no_flow", 0.0, "air_flow", "dampers shut"), fan.held)

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
    def creeps_to(self) -> Figure:
        """Gauge pressure that the low limit builds up at no demand."""
        ratio = share_of(self.low_limit, self.line.motor.rated_frequency)
        return self.pressure_at_gauge(self.head_at(given("no_flow", 0.0, "flow", "valve shut"), ratio))

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
        return self.pressure_at_gauge(as_figure(self.curve.c0))

    # readings to expect

    def expected_at(self, frequency: Figure) -> dict[str, Figure]:
        """Speed, amps, kW and pressure to expect on the step-up at a frequency, open to the system."""
        motor = self.line.motor
        ratio = share_of(frequency, motor.rated_frequency)
        if self.fan is None and self.curve.c0 * ratio**2 <= self.static_head:
            flow = given("no_flow", 0.0, "flow", "below the speed that lifts the static head")
        else:
            flow = self.flow_at(ratio)
        head = self.head_at(flow, ratio)
        shaft = self.shaft_power(flow, head, ratio)
        rpm_full = speed_in_rpm(ratio, motor.rated_speed)
        torque = share_of(shaft_torque(shaft, rpm_full), self.rated_torque)
        if "permanent_magnet" in self.line.traits:  # no slip, and the current follows the torque
            speed, current = rpm_full, current_at_torque(motor.rated_current, torque)
        else:
            speed = speed_on_drive(frequency, self.poles, motor.rated_frequency, motor.rated_speed, torque)
            current = current_at_load(self.no_load_amps, motor.rated_current, torque)
        return {
            "speed": speed,
            "current": current,
            "power": self.input_power(shaft, with_drive=False),
            "pressure": head if self.fan is not None else self.pressure_at_gauge(head),
        }

    def pressure_at_gauge(self, head: Figure) -> Figure:
        """Gauge pressure at the outlet of a pump on the surface, or at the well head of a submersible."""
        outlet = outlet_pressure(self.suction_pressure, head)
        if "submersible" not in self.line.traits:
            return outlet
        return max(
            pressure_at_height(outlet, self.static_head),
            given("well_head", 0.0, "pressure", "the water has not reached the well head"),
        )
