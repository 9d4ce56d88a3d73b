"""What follows from a record: each property is one figure, computed on first use; a missing input raises NotKnown."""

from collections.abc import Callable, Mapping, Sequence
from contextlib import suppress
from dataclasses import dataclass
from functools import cached_property

from mainspring.core import practice
from mainspring.core.air.density import air_density, pressure_at_altitude
from mainspring.core.control.sleep import frequency_of_speed, sleep_frequency, sleep_low_limit, wake_pressure
from mainspring.core.drive.cooling import (
    PLASTIC,
    STEEL_STILL,
    STEEL_STIRRED,
    air_inside,
    carrier_derating,
    enclosure_area,
    enclosure_rise,
    ventilation_rise,
)
from mainspring.core.drive.losses import drive_efficiency, drive_heat, motor_input
from mainspring.core.drive.rating import altitude_derating, ambient_derating, derated_output_current
from mainspring.core.electrical.harmonics import (
    impedance_before_drive,
    six_pulse_distortion,
    transformer_fault_current,
)
from mainspring.core.energy.annual import input_power, input_with_loss
from mainspring.core.errors import MainspringError, NoSolution, NotKnown
from mainspring.core.hydraulics.affinity import speed_in_rpm
from mainspring.core.hydraulics.pump_curve import no_flow_speed
from mainspring.core.hydraulics.system_curve import system_head
from mainspring.core.hydraulics.tank import starts_per_hour_on_leak, tank_drawdown
from mainspring.core.known import KINDS, Estimate, Facts, answers, corrected, estimate, trusted
from mainspring.core.line import HOLD, Line, Taken
from mainspring.core.machine import Fan, Machine, Pump, machine_of
from mainspring.core.method import Figure, assume, assume_practice, given
from mainspring.core.motor.cooling import flow_for_velocity, least_cooling_velocity
from mainspring.core.motor.current import line_current
from mainspring.core.motor.efficiency import (
    LossSplit,
    class_efficiency,
    loss_split,
    motor_loss_at_speed,
    part_load_efficiency,
)
from mainspring.core.motor.load import current_at_load, current_at_torque, no_load_current
from mainspring.core.motor.speed import emf_at_speed, pole_count, shaft_torque, slip, speed_on_drive, synchronous_speed
from mainspring.core.ratios import difference_of, mean_of, multiple_of, part_of, share_of, split_between, sum_of

FULL_SPEED = given("full_speed", 1.0, "ratio", "the curve's own speed")
REACTORS = {"none": 0.0, "line3": 0.03, "line5": 0.05, "dc": 0.03}  # of the drive's base, common practice
SUBSTANTIAL_FLOW = 1e-7  # m³/s; below it a pump moves nothing and its efficiency is no number


def _by_size(table: Sequence[tuple[float, Figure]], power: Figure) -> Figure:
    return next(value for upto, value in table if power <= upto)


@dataclass(frozen=True)
class Foretold:
    """A reading to expect, and its standard uncertainty, that of the reading itself included; None where unknown."""

    figure: Figure
    uncertainty: float | None = None


def figures_of(foretold: Mapping[str, Foretold]) -> dict[str, Figure]:
    """The figures alone."""
    return {name: f.figure for name, f in foretold.items()}


def moved_to(promised: Figure, value: float, why: str, name: str) -> Figure:
    """A promised figure moved to a value, so that its working opens to both."""
    return sum_of(promised, given(f"moved_{name}", value - float(promised), promised.dimension or "", why))


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
    def rated_efficiency(self) -> Figure:
        """Efficiency at full load: of the plate, else of its class, else a usual one, marked."""
        motor = self.line.motor
        if motor.has("efficiency"):
            return motor.efficiency
        if motor.has("ie_class"):
            with suppress(MainspringError):
                found = class_efficiency(motor.rated_power, self.poles, motor.ie_class, motor.rated_frequency)
                return assume("motor.efficiency", found, "percent", f"not on the plate: {motor.ie_class} at this size")
        usual = _by_size(practice.motor.USUAL_EFFICIENCY, motor.rated_power)
        return assume("motor.efficiency", usual, "percent", "not on the plate: usual of motors this size")

    @cached_property
    def power_factor(self) -> Figure:
        """Power factor at full load: of the plate, else a usual one, marked."""
        motor = self.line.motor
        if motor.has("power_factor"):
            return motor.power_factor
        usual = _by_size(practice.motor.USUAL_POWER_FACTOR, motor.rated_power)
        return assume("motor.power_factor", usual, "ratio", "not on the plate: usual of motors this size")

    @cached_property
    def losses(self) -> LossSplit:
        """Constant and load-dependent loss of the motor."""
        motor = self.line.motor
        full = self.rated_efficiency
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
        return no_load_current(self.line.motor.rated_current, self.power_factor)

    @cached_property
    def rated_torque(self) -> Figure:
        """Torque at full load."""
        return shaft_torque(self.line.motor.rated_power, self.line.motor.rated_speed)

    # drive

    @cached_property
    def emf_at_rated_speed(self) -> Figure:
        """Back-EMF of a magnet motor at its rated speed, whichever way the plate gives it."""
        motor = self.line.motor
        if self.line.value("motor.back_emf_at") == "rated":
            return motor.back_emf
        return emf_at_speed(motor.back_emf, motor.rated_speed)

    @cached_property
    def drive_amps(self) -> Figure:
        """Continuous output amps of the drive at its place."""
        drive = self.line.drive
        return derated_output_current(
            self.rated_amps,
            altitude_derating(self.altitude),
            ambient_derating(self.drive_air, drive.ambient_rating),
            self.carrier_factor,
            self.phase_factor,
        )

    @cached_property
    def box_area(self) -> Figure:
        """Surface through which a sealed box sheds heat."""
        drive = self.line.drive
        return enclosure_area(drive.box_width, drive.box_height, drive.box_depth, drive.box_stands)

    @cached_property
    def box_rise(self) -> Figure:
        """Rise of the air in the drive's box at full load: by its walls, or by the air through it."""
        drive = self.line.drive
        if drive.enclosure == "vented":
            return ventilation_rise(self.drive_loss, drive.box_air, self.air_density_at(drive.ambient))
        wall = {"stirred": STEEL_STIRRED, "still": STEEL_STILL, "plastic": PLASTIC}[drive.box_wall]
        transfer = given("heat_transfer", wall, "heat_transfer", "by wall and stirring")
        return enclosure_rise(self.drive_loss, self.box_area, transfer)

    @cached_property
    def drive_air(self) -> Figure:
        """The air that the drive stands in: the room's, or that of its box where its rise can be told."""
        drive = self.line.drive
        if self.line.value("drive.enclosure") not in ("sealed", "vented"):
            return drive.ambient
        try:
            return air_inside(drive.ambient, self.box_rise)
        except MainspringError:
            return drive.ambient

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
        if not drive.has("carrier") or drive.carrier <= practice.drive.RATED_CARRIER:
            return given("carrier_factor", 1.0, "ratio", "carrier of the rating, 4 kHz or lower")
        return carrier_derating(drive.carrier, practice.drive.RATED_CARRIER)

    @cached_property
    def phase_factor(self) -> Figure:
        """Share of amps left on a single-phase supply."""
        if self.line.value("supply.phases") == "1" and self.line.value("drive.input_phases") == "3":
            return practice.drive.SINGLE_PHASE_SHARE
        return given("phase_factor", 1.0, "ratio", "fed as it is made for")

    @cached_property
    def motor_amps(self) -> Figure:
        """Amps on which drive and cable are sized: a submersible is loaded into its service factor."""
        motor = self.line.motor
        if "submersible" in self.line.traits:
            return motor.service_factor_current
        return motor.rated_current

    @cached_property
    def current_limit(self) -> Figure:
        """Current limit to be set: as wanted, else the motor's amps; never more than the drive gives at its place."""
        drive = self.line.drive
        wanted = drive.current_limit if drive.has("current_limit") else self.motor_amps
        try:
            return min(wanted, self.drive_amps)
        except MainspringError:
            return min(wanted, drive.rated_current)

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
        return drive_heat(
            motor_input(motor.rated_power, self.rated_efficiency), self.drive_efficiency(motor.rated_power)
        )

    # machine and system

    @cached_property
    def machine(self) -> Machine:
        """The machine on its system, pump or fan."""
        return machine_of(self.line, self.altitude)

    @property
    def pump(self) -> Pump:
        """The machine of a line that pumps; NotKnown for any other."""
        if not isinstance(self.machine, Pump):
            raise NotKnown("line.application", "a pump")
        return self.machine

    @property
    def fan(self) -> Fan:
        """The machine of a line that moves air; NotKnown for any other."""
        if not isinstance(self.machine, Fan):
            raise NotKnown("line.application", "a fan")
        return self.machine

    # as known

    @cached_property
    def facts(self) -> Facts:
        """What is promised of the line, as the estimate takes it; NotKnown for what is missing."""
        motor, machine = self.line.motor, self.machine
        c0, c1, c2 = machine.curve.parabola
        magnet = "permanent_magnet" in self.line.traits  # no slip, and the current follows the torque
        return Facts(
            air=isinstance(machine, Fan),
            c0=c0,
            c1=c1,
            c2=c2,
            best_flow=float(machine.best_flow),
            best_efficiency=float(self.line.machine.best_efficiency),
            rated_power=float(motor.rated_power),
            rated_amps=float(motor.rated_current),
            no_load_amps=0.0 if magnet else float(self.no_load_amps),
            rpm=float(motor.rated_speed),
            synchronous=float(motor.rated_speed if magnet else self.synchronous_rpm),
            frequency=float(motor.rated_frequency),
            constant_loss=float(self.losses[0]),
            load_loss=float(self.losses[1]),
            condition=self.line.value("machine.condition") or "",
            **machine.promised,
        )

    @cached_property
    def estimate(self) -> Estimate:
        """The line as what was read of it says; NotKnown where too little is promised to compare."""
        facts = self.facts
        possible = answers(facts, KINDS)
        taken = {t.key: t for t in self.line.on_site.taken}
        for kind in KINDS.values():
            field = kind.field_of(air=facts.air)
            if field and self.line.has(field):
                at = 0.0 if kind.moment else facts.frequency
                taken[(kind.id, at)] = Taken(kind.id, at, float(self.line.figure(field)))
        return estimate(facts, tuple(t for t in taken.values() if t.kind in possible))

    @cached_property
    def trusted(self) -> Estimate | None:
        """That estimate without a reading which the others name as misread; None while nothing was read, or while what
        was read is not this line.
        """
        try:
            return trusted(self.estimate)
        except MainspringError:
            return None

    @cached_property
    def known(self) -> "Derived":
        """The same of the line as known; itself while there is nothing to correct it by."""
        found = self.trusted
        return self if found is None else Derived(corrected(self.line, found))

    @cached_property
    def full_flow(self) -> Figure:
        """Flow at full speed, where the pump meets the system."""
        return self.machine.flow_at(FULL_SPEED)

    @cached_property
    def duty_power(self) -> Figure:
        """Shaft power where the machine meets its system at full speed."""
        flow = self.full_flow
        return self.machine.shaft_power(flow, self.machine.head_at(flow, FULL_SPEED), FULL_SPEED)

    @cached_property
    def run_out_power(self) -> Figure:
        """Largest shaft power along the curve at full speed, up to 1.4 times best flow."""
        return self.run_out_power_at(FULL_SPEED)

    def run_out_power_at(self, speed: Figure) -> Figure:
        """Largest shaft power along the curve at a share of full speed, up to 1.4 times best flow there."""
        machine, best = self.machine, self.machine.best_flow
        dimension = best.dimension
        along = [
            machine.shaft_power(flow, head, speed)
            for share in (0.6, 0.8, 1.0, 1.2, 1.3, 1.4)
            if (head := machine.head_at(flow := given("flow", share * best * speed, dimension), speed)) > 0
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
    def hold_frequency(self) -> Figure:
        """Drive frequency that holds the setpoint at no demand: as read on site, else by the line as known."""
        read = self.line.site_reading(HOLD, "frequency", "Frequency that holds at no demand")
        return self.hold_known if read is None else read

    @cached_property
    def hold_known(self) -> Figure:
        """Drive frequency that holds the setpoint at no demand, by the line as known."""
        return self.by_readings(self.hold_model, ("hold", 0.0)).figure

    @cached_property
    def hold_model(self) -> Figure:
        """Drive frequency that holds the setpoint at no demand, by curve and heads."""
        return frequency_of_speed(self.machine.hold_speed, self.line.motor.rated_frequency)

    @cached_property
    def lifting_frequency(self) -> Figure:
        """Drive frequency below which no water moves into the open system."""
        ratio = no_flow_speed(self.pump.static_head, self.pump.curve.c0)
        return frequency_of_speed(ratio, self.line.motor.rated_frequency)

    def flow_holding(self, setpoint: float, frequency: float) -> Figure:
        """Flow that the pump carries at a frequency while it holds a setpoint; 0 below the hold frequency."""
        line = self.line.with_values(control={"setpoint": setpoint})
        held = Derived(line).pump.setpoint_head
        ratio = share_of(given("frequency", frequency, "frequency"), line.motor.rated_frequency)
        if self.pump.curve.c0 * ratio**2 <= held:
            return given("no_flow", 0.0, "flow", "at or below the frequency that only holds")
        none = given("friction", 0.0, "pipe_resistance", "held at the pump")
        return self.pump.curve.duty_flow(ratio, held, none)

    @cached_property
    def shared_frequency(self) -> Figure:
        """Frequency at which two pumps hold the setpoint while they carry what one just can at full speed."""
        base = self.line.motor.rated_frequency
        most = self.flow_holding(self.line.control.setpoint, base)
        each = split_between(most, given("pumps", 2.0, "count", "that share it"))
        return frequency_of_speed(self.machine.speed_for(each, self.pump.setpoint_head), base)

    @cached_property
    def sleep_most_above(self) -> Figure:
        """How far above the hold frequency it may sleep: farther it would sleep while much is drawn."""
        part = part_of(self.line.machine.duty_flow, practice.loop.SLEEP_MOST)
        ratio = self.machine.speed_for(part, self.pump.setpoint_head)
        return difference_of(frequency_of_speed(ratio, self.line.motor.rated_frequency), self.hold_model)

    @cached_property
    def low_limit(self) -> Figure:
        """Low limit of the controller: in force, else what is proposed."""
        return self.line.control.low_limit if self.line.control.has("low_limit") else self.low_limit_wanted

    @cached_property
    def low_limit_wanted(self) -> Figure:
        """Low limit that is proposed: above the frequency that holds at no demand, less so where the curve is flat."""
        return self.low_limit_above(self.hold_frequency)

    def flat_curve(self, hold: Figure) -> Figure | None:
        """Where it sleeps at the fastest, if the trade's rule of thumb would let it sleep above that; else None.

        A site's own figures are not bent.
        """
        low, more = practice.loop.LOW_LIMIT_ABOVE, practice.loop.SLEEP_ABOVE
        if "rests" not in self.line.traits or self.line.own(low) is not low or self.line.own(more) is not more:
            return None
        try:
            most = sum_of(hold, self.sleep_most_above)
        except MainspringError:
            return None
        return None if sleep_frequency(sleep_low_limit(hold, low), more) <= most else most

    def low_limit_above(self, hold: Figure) -> Figure:
        """Low limit above a hold frequency: as the trade has it; on a flat curve half-way to where it sleeps."""
        most = self.flat_curve(hold)
        if most is None:
            return sleep_low_limit(hold, self.line.own(practice.loop.LOW_LIMIT_ABOVE))
        return max(mean_of(hold, most), sleep_low_limit(hold, practice.loop.LOW_LIMIT_LEAST))

    def sleep_above(self, low: Figure, hold: Figure) -> Figure:
        """Sleep frequency above a low limit: as the trade has it, and not where much is carried."""
        usual = sleep_frequency(low, self.line.own(practice.loop.SLEEP_ABOVE))
        most = self.flat_curve(hold)
        return usual if most is None else min(usual, max(most, sleep_frequency(low, practice.loop.SLEEP_LEAST)))

    @cached_property
    def sleep_above_low_limit(self) -> Figure:
        """Sleep frequency by the low limit alone."""
        return self.sleep_for(self.low_limit, self.low_limit, lambda: self.hold_frequency)

    def sleep_for(self, low: Figure, floor: Figure, hold: Callable[[], Figure]) -> Figure:
        """Sleep frequency by the low limit, or by the slowest that it may run where that is more."""
        if floor <= low:
            with suppress(NoSolution, NotKnown):  # the low limit is entered, and what holds is not known
                return self.sleep_above(low, hold())
        return sleep_frequency(max(low, floor), self.line.own(practice.loop.SLEEP_ABOVE))

    @cached_property
    def rest_floor(self) -> Figure:
        """Slowest that it may run while it is not asleep: by low limit, application, and the water that cools it."""
        application = self.line.application
        floor = max(self.low_limit, given("practice_minimum", application.lowest, "frequency", application.lowest_why))
        try:
            return max(floor, self.cooling_frequency)
        except MainspringError:
            return floor

    @cached_property
    def sleep_below(self) -> Figure:
        """Sleep frequency: in force, else what is proposed; 0 where it does not sleep."""
        told = self.line.told("sleep.frequency", "frequency", "Sleep below")
        if isinstance(told, Figure) and told <= 0:
            return told
        return self.line.control.sleep_below if self.line.control.has("sleep_below") else self.sleep_wanted

    @cached_property
    def sleep_wanted(self) -> Figure:
        """Sleep frequency that is proposed: above the slowest that it may run, or it would never sleep.

        0, off, where no tank keeps the pressure while it sleeps.
        """
        if "tank" not in self.line.traits:
            return given("sleep_off", 0.0, "frequency", "no tank keeps the pressure while it sleeps")
        return self.sleep_for(self.low_limit, self.rest_floor, lambda: self.hold_frequency)

    @cached_property
    def emptying_frequency(self) -> Figure:
        """Drive frequency that still brings a small flow from the stop level of a pit, where it lifts farthest."""
        line = self.line
        part = part_of(line.machine.duty_flow, practice.loop.PIT_LEAST)
        deeper = difference_of(line.control.level_setpoint, line.system.stop_level)
        lift = sum_of(self.pump.static_head, deeper)
        return frequency_of_speed(
            self.machine.speed_for(part, system_head(lift, self.pump.resistance, part)), line.motor.rated_frequency
        )

    @cached_property
    def cooling_flow(self) -> Figure:
        """Flow that carries the water past a submersible motor at the least velocity."""
        line = self.line
        if "submersible" not in line.traits:
            raise NotKnown("motor.diameter", "a submersible")
        bore = line.system.sleeve_bore if line.system.has("sleeve_bore") else line.system.well_bore
        return flow_for_velocity(least_cooling_velocity(line.motor.diameter), bore, line.motor.diameter)

    @cached_property
    def cooling_frequency(self) -> Figure:
        """Frequency below which too little water passes a submersible motor while the loop holds its pressure."""
        ratio = self.machine.speed_for(self.cooling_flow, self.pump.setpoint_head)
        return frequency_of_speed(ratio, self.line.motor.rated_frequency)

    @cached_property
    def creeps_to(self) -> Figure:
        """Gauge pressure that the low limit builds up at no demand."""
        ratio = share_of(self.low_limit, self.line.motor.rated_frequency)
        return self.pump.pressure_at_gauge(self.pump.head_at(given("no_flow", 0.0, "flow", "valve shut"), ratio))

    @cached_property
    def creeps_known(self) -> Figure:
        """That pressure by the line as known."""
        return self.by_readings(self.creeps_to, ("shut_pressure", float(self.low_limit))).figure

    @cached_property
    def wake_at(self) -> Figure:
        """Pressure at which the sleeping drive wakes: in force, else by the wake drop."""
        told = self.line.told("sleep.wake_level", "pressure", "Wake level")
        if isinstance(told, Figure):
            return told
        sensor = self.line.sensor
        return wake_pressure(self.line.control.setpoint, sensor.range_low, sensor.range_high, self.wake_drop)

    @cached_property
    def wake_drop(self) -> Figure:
        """Wake drop as entered, else as the trade has it; not so far that the drive wakes on the tank's air."""
        line = self.line
        if line.control.has("wake_drop"):
            return line.control.wake_drop
        usual = assume_practice("control.wake_drop", line.own(practice.loop.WAKE_DROP))
        if not line.has("system.tank_precharge"):
            return usual
        span = line.sensor.range_high - line.sensor.range_low
        room = line.control.setpoint - line.system.tank_precharge - practice.loop.WAKE_ABOVE_AIR
        by_tank = max(room / span, practice.loop.WAKE_LEAST)
        if by_tank >= usual:
            return usual
        return assume(
            "control.wake_drop", by_tank, "percent", "so that the tank still holds water when the drive wakes"
        )

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
        return self.shutoff_pressure_at(FULL_SPEED)

    def shutoff_pressure_at(self, speed: Figure) -> Figure:
        """Gauge pressure at the pump outlet with everything shut, at a share of full speed."""
        return self.pump.pressure_at_gauge(self.pump.head_at(given("no_flow", 0.0, "flow", "everything shut"), speed))

    # readings to expect

    def by_readings(self, promised: Figure, key: tuple[str, float]) -> "Foretold":
        """A promised reading, moved to where all that was read has it, and how far off it may lie."""
        try:
            tells = key[0] in answers(self.facts, key[:1])
        except MainspringError:
            tells = False
        return self._moved({key: promised})[key] if tells else Foretold(promised)

    def _moved(self, promised: Mapping[tuple[str, float], Figure]) -> dict[tuple[str, float], "Foretold"]:
        known = self.trusted
        try:
            bands = (known or self.estimate).expected(list(promised)) if known or not self.estimate.readings else None
        except MainspringError:
            bands = None
        if bands is None:
            return {key: Foretold(figure) for key, figure in promised.items()}
        found = {}
        for i, (key, figure) in enumerate(promised.items()):
            sd = float(bands.uncertainties[i])
            if known is not None:
                why = f"what {len(known.readings)} readings of this line move it"
                figure = moved_to(figure, float(bands.values[i]), why, key[0])
            found[key] = Foretold(figure, sd)
        return found

    def foretold_at(self, frequencies: Sequence[Figure]) -> tuple[dict[str, "Foretold"], ...]:
        """Readings of a step-up as the line is known, at each frequency: by the plate until something was read."""
        promised = {(name, float(f)): figure for f in frequencies for name, figure in self.expected_at(f).items()}
        found = self._moved(promised)
        return tuple({n: found[(n, at)] for n, at in promised if at == float(f)} for f in frequencies)

    def speed_alone_at(self, frequency: Figure) -> Figure:
        """Speed to expect of the motor alone, where nothing is known of what it turns: it slips by a usual load."""
        motor = self.line.motor
        ratio = share_of(frequency, motor.rated_frequency)
        if "permanent_magnet" in self.line.traits:
            return speed_in_rpm(ratio, motor.rated_speed)
        load = float(practice.motor.UNKNOWN_LOAD) * float(ratio) ** 2
        torque = given("torque_ratio", load, "ratio", "of a machine that nobody has described, by the square of speed")
        return speed_on_drive(frequency, self.poles, motor.rated_frequency, motor.rated_speed, torque)

    def expected_at(self, frequency: Figure) -> dict[str, Figure]:
        """Speed, amps, kW and pressure to expect on the step-up at a frequency, open to the system.

        A machine is turned by the speed that the motor has at its load, and not by the frequency alone: lightly loaded
        it slips less.
        """
        motor = self.line.motor
        magnet = "permanent_magnet" in self.line.traits  # no slip, and the current follows the torque
        torque = self._settled_torque(frequency)
        if magnet:
            speed = speed_in_rpm(share_of(frequency, motor.rated_frequency), motor.rated_speed)
        else:
            speed = speed_on_drive(frequency, self.poles, motor.rated_frequency, motor.rated_speed, torque)
        ratio = multiple_of(speed, motor.rated_speed)
        _, head, shaft = self._turned(ratio)
        torque = share_of(shaft_torque(shaft, speed), self.rated_torque)
        amps = (
            current_at_torque(motor.rated_current, torque)
            if magnet
            else current_at_load(self.no_load_amps, motor.rated_current, torque)
        )
        loss = motor_loss_at_speed(*self.losses, ratio, torque, motor.rated_power)
        return {
            "speed": speed,
            "current": amps,
            "power": input_with_loss(shaft, loss),
            "pressure": self.machine.shown_at_outlet(head),
        }

    def _turned(self, ratio: Figure) -> tuple[Figure, Figure, Figure]:
        """Flow, rise and shaft power at a speed ratio, open to the system."""
        flow = self.machine.flow_or_none_at(ratio)
        head = self.machine.head_at(flow, ratio)
        return flow, head, self.machine.shaft_power(flow, head, ratio)

    def _settled_torque(self, frequency: Figure) -> Figure:
        """Torque ratio at a frequency, in three turns of load and slip: more change it by less than a display shows."""
        motor = self.line.motor
        bare = float(share_of(frequency, motor.rated_frequency))
        rated, torque = float(motor.rated_speed), bare**2
        unloaded = rated if "permanent_magnet" in self.line.traits else float(self.synchronous_rpm)
        for _ in range(3):
            rpm = unloaded * bare - (unloaded - rated) * torque
            ratio = given("speed_ratio", rpm / rated, "ratio", "of its load, on the way to it")
            shaft = self._turned(ratio)[2]
            torque = float(shaft_torque(shaft, given("speed", rpm, "speed"))) / float(self.rated_torque)
        return given("torque_ratio", torque, "ratio", "of the machine at that frequency, settled with its slip")
