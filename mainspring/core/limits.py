"""Limits of speed and ramps: every reason with its own figure; the strictest rules."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated

from mainspring.core import practice
from mainspring.core.control.sleep import frequency_of_speed
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError, NoSolution, NotKnown
from mainspring.core.hydraulics.surge import (
    BULK,
    WALL_MODULUS,
    joukowsky_pressure,
    pipe_velocity,
    ramp_for_stop,
    shortest_stop,
    wave_speed,
)
from mainspring.core.hydraulics.system_curve import setpoint_head
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Figure, In, Leaf, Source, as_figure, given, method
from mainspring.core.motor import inertia
from mainspring.core.motor.cooling import torque_limit_self_ventilated
from mainspring.core.motor.inertia import (
    acceleration_time,
    braking_torque_without_chopper,
    rotor_inertia_estimate,
)
from mainspring.core.motor.speed import shaft_torque
from mainspring.core.quantity import Hertz, MetreHead, Ratio, RevPerMin, Watt
from mainspring.core.ratios import difference_of, share_of


@dataclass(frozen=True)
class Reason:
    """One reason for a limit: in words, with its figure and source."""

    words: str
    figure: Figure
    source: Source = DERIVED


@method("f = f_r * n / n_s", DERIVED)
def frequency_of_rpm(
    speed_rpm: Annotated[RevPerMin, In("that must not be passed", "n")],
    unloaded_rpm: Annotated[RevPerMin, In("at the rated frequency without slip", "n_s", above=0)],
    rated_frequency: Annotated[Hertz, In("", "f_r")],
) -> Hertz:
    """Frequency at which a shaft would turn at a speed without load, when nothing slips: it can turn no faster.

    >>> round(frequency_of_rpm(1650, 1500, 50), 2)
    55.0
    """
    return rated_frequency * speed_rpm / unloaded_rpm


@method("n_s = n * n_0 / n_r", DERIVED)
def unloaded_speed(
    machine_rpm: Annotated[RevPerMin, In("while the motor runs at full-load speed", "n")],
    synchronous_rpm: Annotated[RevPerMin, In("of the motor", "n_0")],
    rated_rpm: Annotated[RevPerMin, In("of the motor at full load", "n_r", above=0)],
) -> RevPerMin:
    """Speed of a machine at the rated frequency when the motor is not loaded and does not slip.

    >>> float(unloaded_speed(735, 1500, 1470))
    750.0
    """
    return machine_rpm * synchronous_rpm / rated_rpm


@method("s = (P / P_0)**(1 / 3)", Source("affinity law of power, solved for the speed", kind="derived"))
def speed_for_power(
    power: Annotated[Watt, In("allowed", "P", atleast=0)],
    full_power: Annotated[Watt, In("taken at full speed", "P_0", above=0)],
) -> Ratio:
    """Speed ratio at which a square-law machine takes a power.

    >>> round(speed_for_power(512, 1000), 4)
    0.8
    """
    return float((power / full_power) ** (1 / 3))


@method("s = sqrt(H / H_0)", Source("affinity law at no flow", kind="derived"))
def speed_for_shutoff(
    head_allowed: Annotated[MetreHead, In("", "H", atleast=0)],
    shutoff_head: Annotated[MetreHead, In("at full speed", "H_0", above=0)],
) -> Ratio:
    """Speed ratio at which the shut-off head of a pump is what the weakest part stands.

    >>> round(speed_for_shutoff(40.5, 50), 3)
    0.9
    """
    if head_allowed < 0:
        raise NoSolution("the pressure at the inlet alone exceeds the rating")
    return float((head_allowed / shutoff_head) ** 0.5)


def lowest_reasons(line: Line, derived: Derived) -> list[Reason]:
    """Every reason for a lowest speed that can be told now; NotKnown while the ruling kind cannot."""
    application = line.application
    practice = given("practice_minimum", application.lowest, "frequency", application.lowest_why)
    reasons = [Reason(application.lowest_why, practice, COMMON_PRACTICE)]
    if "rests" in line.traits:
        reasons.append(Reason("controller's low limit, above what holds at no demand", derived.low_limit))
    elif derived.machine.lifts and derived.hold_frequency > 0:
        reasons.append(Reason(f"a little above the {derived.machine.words.hold_why}", derived.low_limit))
    if {"wet_well", "holds:level"} <= line.traits:
        reasons += _known(
            lambda: Reason("still lifts from the stop level, or it never stops", derived.emptying_frequency)
        )
    reasons += _known(lambda: Reason("water past the motor while it holds the pressure", derived.cooling_frequency))
    reasons += _known(lambda: Reason("cooling of a self-ventilated motor at this torque", torque_frequency(derived)))
    return reasons


def torque_frequency(derived: Derived) -> Figure:
    """Frequency below which a motor with its own fan is not cooled at constant torque."""
    line = derived.line
    if line.value("line.load") not in ("positive_displacement", "clogging") or line.value("motor.cooling") != "own_fan":
        raise NotKnown("line.load", "a constant-torque load on a motor with its own fan")
    load = share_of(derived.duty_power, line.motor.rated_power)
    for percent in range(10, 101):
        ratio = given("speed_ratio", percent / 100, "percent", "lowest speed whose torque limit carries the load")
        if torque_limit_self_ventilated(ratio) >= load:
            return frequency_of_speed(ratio, line.motor.rated_frequency)
    raise NoSolution("the motor is not cooled at this torque even at full speed")


def highest_reasons(line: Line, derived: Derived) -> list[Reason]:
    """Every reason for a highest speed: base frequency first."""
    rated = line.motor.rated_frequency
    reasons = [Reason("base frequency; above it shaft power grows with the cube", rated, COMMON_PRACTICE)]
    machine = line.machine
    if machine.has("highest_speed"):
        fastest = derived.machine.rpm
        if "permanent_magnet" not in line.traits:  # which never slips
            fastest = unloaded_speed(fastest, derived.synchronous_rpm, line.motor.rated_speed)
        full = frequency_of_rpm(machine.highest_speed, fastest, rated)
        reasons.append(Reason("highest speed of the machine, by its maker, unloaded", full))
    reasons += _known(lambda: _power_ceiling(line, derived))
    reasons += _known(lambda: _pressure_ceiling(line, derived))
    return reasons


def _power_ceiling(line: Line, derived: Derived) -> Reason:
    ratio = speed_for_power(line.motor.rated_power, derived.duty_power)
    return Reason(
        "shaft power at the duty point reaches the motor's", frequency_of_speed(ratio, line.motor.rated_frequency)
    )


def _pressure_ceiling(line: Line, derived: Derived) -> Reason:
    pump = derived.pump
    if line.value("system.relief") == "yes":
        raise NotKnown("system.pressure_rating", "a pump without relief valve")
    allowed = _rated_head(line, derived)
    ratio = speed_for_shutoff(allowed, as_figure(pump.curve.c0))
    return Reason(
        "shut-off pressure reaches the weakest part's rating", frequency_of_speed(ratio, line.motor.rated_frequency)
    )


def _rated_head(line: Line, derived: Derived) -> Figure:
    """Head of the pump at which the weakest part stands at its rating."""
    pump = derived.pump
    above = pump.static_head if "submersible" in line.traits else given("height", 0.0, "head", "level with the pump")
    return setpoint_head(line.system.pressure_rating, pump.suction_pressure, above)


def _head_left(line: Line, derived: Derived) -> Figure | None:
    """What the pipe's rating leaves above the working head; None where it is not known."""
    try:
        return difference_of(_rated_head(line, derived), line.machine.duty_head)
    except MainspringError:
        return None


def ramp_up_reasons(line: Line, derived: Derived) -> list[Reason]:
    """Every reason for the shortest ramp up that can be told now."""
    application = line.application
    usual = given("practice_ramp_up", application.ramp_up, "time", application.ramp_why)
    return [
        Reason(application.ramp_why, usual, COMMON_PRACTICE),
        *_known(lambda: Reason("torque left for the inertia, else the current limit", run_up_time(line, derived))),
    ]


def ramp_down_reasons(line: Line, derived: Derived) -> list[Reason]:
    """Every reason for the shortest ramp down that can be told now."""
    application = line.application
    usual = given("practice_ramp_down", application.ramp_down, "time", application.ramp_why)
    return [
        Reason(application.ramp_why, usual, COMMON_PRACTICE),
        *_known(lambda: Reason("returning energy of the inertia, else overvoltage", run_down_time(line, derived))),
        *_known(lambda: Reason("water hammer in the pipeline", surge_ramp(line, derived))),
    ]


def inertia_at_motor(line: Line, derived: Derived) -> Figure:
    """Inertia of machine and rotor on the motor's shaft."""
    machine, motor = line.machine, line.motor
    turning = derived.machine.at_motor(machine.inertia)
    rotor = motor.inertia if motor.has("inertia") else rotor_inertia_estimate(motor.rated_power, derived.poles)
    return as_figure(turning + rotor)


def run_up_time(line: Line, derived: Derived) -> Figure:
    """Shortest run-up with the torque that the drive's overload leaves."""
    load = share_of(shaft_torque(derived.duty_power, line.motor.rated_speed), derived.rated_torque)
    heavy = line.value("drive.duty") == "heavy"
    overload = practice.drive.OVERLOAD_HEAVY if heavy else practice.drive.OVERLOAD_NORMAL
    return inertia.run_up_time(
        inertia_at_motor(line, derived), line.motor.rated_speed, derived.rated_torque, load, overload
    )


def run_down_time(line: Line, derived: Derived) -> Figure:
    """Shortest run-down without a brake resistor; the load's own help is left out, to be safe."""
    motor = line.motor
    torque = braking_torque_without_chopper(motor.rated_power, motor.rated_speed)
    return acceleration_time(inertia_at_motor(line, derived), motor.rated_speed, torque)


def wave_speed_of(line: Line) -> Figure:
    """Wave speed in the line's pipe."""
    system = line.system
    modulus = given("wall_modulus", WALL_MODULUS[system.pipe_material], "modulus", f"{system.pipe_material}, handbook")
    return wave_speed(
        system.pipe_bore, system.pipe_wall, modulus, given("bulk_modulus", BULK, "modulus", "water, 20 °C")
    )


def full_stop_surge(line: Line) -> Figure:
    """Pressure rise if the full flow stopped at once, as at a power failure with a slamming valve."""
    return joukowsky_pressure(pipe_velocity(line.machine.duty_flow, line.system.pipe_bore), wave_speed_of(line))


def surge_ramp(line: Line, derived: Derived) -> Figure:
    """Shortest ramp, full speed to zero, whose surge stays within its share of the head and the pipe's rating."""
    machine, system = line.machine, line.system
    share = line.own(practice.pump.SURGE_SHARE)
    allowed = given("surge_allowed", share * machine.duty_head, "head", "share of the working head that a ramp may add")
    left = _head_left(line, derived)
    if left is not None and 0 < left < allowed:
        allowed = left
    stop = shortest_stop(
        system.pipe_length, pipe_velocity(machine.duty_flow, system.pipe_bore), allowed, wave_speed_of(line)
    )
    return ramp_for_stop(stop, derived.machine.hold_speed)


def lowest_rules(line: Line, derived: Derived) -> Reason:
    """What rules the lowest speed: what was left or decided, else the strictest reason."""
    return _told(line, "limits.minimum_speed") or strictest(lowest_reasons(line, derived), highest=True)


def highest_rules(line: Line, derived: Derived) -> Reason:
    """What rules the highest speed: what was left or decided, else the strictest reason."""
    reasons = highest_reasons(line, derived)
    return _told(line, "limits.maximum_speed") or strictest(reasons, highest=False)


def lowest_in_force(line: Line, derived: Derived) -> Figure:
    """Lowest speed that the drive is to run."""
    return lowest_rules(line, derived).figure


def highest_in_force(line: Line, derived: Derived) -> Figure:
    """Highest speed that the drive is to run."""
    return highest_rules(line, derived).figure


SPEEDS = {"limits.minimum_speed": "Lowest speed", "limits.maximum_speed": "Highest speed"}


def told_speed(line: Line, setting: str) -> Figure | None:
    """The lowest or highest speed that was left or decided; None where nobody has told one."""
    told = line.told(setting, "frequency", SPEEDS[setting])
    return told if isinstance(told, Figure) else None


def _told(line: Line, setting: str) -> Reason | None:
    told = told_speed(line, setting)
    if told is None or not isinstance(told.origin, Leaf):
        return None
    return Reason(told.origin.why, told, COMMON_PRACTICE)


def strictest(reasons: list[Reason], *, highest: bool) -> Reason:
    """The reason that rules: the highest figure for a lower limit, the lowest for an upper one."""
    return max(reasons, key=lambda r: r.figure) if highest else min(reasons, key=lambda r: r.figure)


def _known(tell: Callable[[], Reason]) -> list[Reason]:
    try:
        return [tell()]
    except MainspringError:
        return []
