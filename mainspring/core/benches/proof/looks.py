"""What is looked at beside the load: each a figure, what it is held against, and a verdict in words."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated, Literal

from mainspring.core.benches.proof.machine import machine_looks
from mainspring.core.benches.proof.rule import Look, Rule, looked
from mainspring.core.derived import Derived
from mainspring.core.drive.cooling import air_inside, drive_class_losses, life_factor, life_left, reference_drive_loss
from mainspring.core.drive.losses import drive_heat, motor_input
from mainspring.core.electrical.unbalance import unbalance, unbalance_derating
from mainspring.core.errors import NoSolution, NotKnown
from mainspring.core.line import Line
from mainspring.core.method import DERIVED, Figure, In, as_figure, assume, given, method
from mainspring.core.motor.cooling import (
    RISE_LIMIT,
    insulation_limit,
    rise_at_load,
    square_law_torque,
    temperature_rise,
    torque_limit_self_ventilated,
    winding_temperature,
)
from mainspring.core.motor.efficiency import class_efficiency, part_load_efficiency, part_load_power_factor
from mainspring.core.motor.load import power_at_load
from mainspring.core.practice import motor as plate
from mainspring.core.practice import proof as usual
from mainspring.core.quantity import DIMENSIONS, Percent
from mainspring.core.ratios import multiple_of, share_of
from mainspring.core.sentence import in_percent

Place = Literal["motor", "drive", "machine"]
RULE_REACH = 30.0  # K, over which halving by 10 K says anything; common practice, no source
HOTTER_BY = 10.0  # K over the limit from which a winding must not run on; common practice, no source


@dataclass(frozen=True)
class Seen:
    """What the rules look at: the record, what follows from it, and the load as it was found."""

    line: Line
    derived: Derived
    load: Figure | None

    @property
    def needs_load(self) -> Figure:
        """The load; NotKnown before there is a full-speed row."""
        if self.load is None:
            raise NotKnown("baseline", "the full-speed row of the step-up")
        return self.load


def looks_of(line: Line, derived: Derived, load: Figure | None) -> dict[Place, list[Look]]:
    """Everything that is looked at, by place; what is not known says what it needs."""
    seen = Seen(line, derived, load)
    rules: dict[Place, tuple[tuple[str, str, Rule], ...]] = {
        "motor": tuple((id, label, _bound(rule, seen)) for id, label, rule in _MOTOR if _asked(line, id)),
        "drive": tuple((id, label, _bound(rule, seen)) for id, label, rule in _DRIVE),
    }
    found = {place: [looked(*rule) for rule in named] for place, named in rules.items()}
    found["machine"] = machine_looks(line, derived)
    return found


def _bound(rule: Callable[[Seen], Look], seen: Seen) -> Rule:
    return lambda: rule(seen)


def _asked(line: Line, id: str) -> bool:
    if id == "low_speed":
        return line.value("motor.cooling") in (None, "own_fan")
    return True


# motor


def _load(seen: Seen) -> Look:
    load = seen.needs_load
    against = usual.LOAD_MOST
    if load > against:
        said = "Above full load: on a drive the service factor is not to be used. Find out what it is loaded with."
        return Look("caution", load, against, said)
    if load < usual.LOAD_LEAST:
        return Look("caution", load, usual.LOAD_LEAST, "Oversized: it works where efficiency and power factor fall.")
    return Look("clear", load, against, "Within what it is made for.")


def _service_factor(seen: Seen) -> Look:
    load, motor = seen.needs_load, seen.line.motor
    factor = (
        motor.service_factor
        if motor.has("service_factor")
        else assume("motor.service_factor", 1.0, "ratio", "not on the plate: 1.0")
    )
    used = multiple_of(load, factor)
    if load <= 1.0:
        return Look("clear", used, factor, "Not used.")
    if load <= factor:
        return Look("caution", used, factor, "Used: allowed on the line for a while, not on a drive.")
    return Look("stop", used, factor, "Beyond the service factor: it burns out. Unload it.")


def _efficiency(seen: Seen) -> Look:
    load = seen.needs_load
    found = part_load_efficiency(load, *seen.derived.losses)
    far = load < usual.SHAPE_FROM or load > 1.25
    said = " Beyond the loads for which the shape is known: extrapolated." if far else ""
    return Look(
        "clear" if not far else "caution", found, seen.line.motor.efficiency, f"At this load; plate beside.{said}"
    )


def _by_class(seen: Seen) -> Look:
    motor = seen.line.motor
    listed = class_efficiency(motor.rated_power, seen.derived.poles, motor.ie_class, motor.rated_frequency)
    at_load = part_load_efficiency(seen.needs_load, *seen.derived.losses)
    if abs(motor.efficiency - listed) > plate.CLASS_WITHIN:
        return Look("caution", at_load, listed, "The plate's efficiency is not that of its class at full load.")
    return Look("clear", at_load, listed, "At this load, beside the class's table at full load.")


def _power_factor(seen: Seen) -> Look:
    motor = seen.line.motor
    if "permanent_magnet" in seen.line.traits:
        raise NoSolution("a magnet motor needs no magnetising current: its power factor is the drive's doing")
    found = part_load_power_factor(motor.power_factor, seen.needs_load)
    far = seen.needs_load < usual.SHAPE_FROM
    said = "Of the motor. At the supply the drive shows another, by its own rectifier."
    return Look("clear", found, motor.power_factor, said + (" Extrapolated." if far else ""))


def _volts(seen: Seen) -> Look:
    proof = seen.line.proof
    found = unbalance([proof.volts_ab, proof.volts_bc, proof.volts_ca])
    if found > usual.VOLTS_UNEVEN_MOST:
        return Look("stop", found, usual.VOLTS_UNEVEN_MOST, "A motor must not run straight on this. Find the cause.")
    if found > usual.VOLTS_UNEVEN:
        left = unbalance_derating(found)
        said = f"Straight on the line the motor may give {in_percent(left)}; a drive's rectifier takes uneven amps."
        return Look("caution", found, usual.VOLTS_UNEVEN, said)
    return Look("clear", found, usual.VOLTS_UNEVEN, "Even.")


def _amps(seen: Seen) -> Look:
    proof = seen.line.proof
    found = unbalance([proof.amps_a, proof.amps_b, proof.amps_c])
    if found > usual.AMPS_UNEVEN:
        said = (
            "Turn the three motor leads one place on: what stays at the drive is the drive's, what goes on the motor's."
        )
        return Look("caution", found, usual.AMPS_UNEVEN, said)
    return Look("clear", found, usual.AMPS_UNEVEN, "Even.")


def _winding(seen: Seen) -> Look:
    proof, motor = seen.line.proof, seen.line.motor
    hot = winding_temperature(proof.cold_resistance, proof.cold_degc, proof.hot_resistance)
    limit = _mean_limit(seen)
    rise = DIMENSIONS["temperature_difference"].tellings(float(temperature_rise(hot, proof.coolant_degc)))
    if hot > limit + HOTTER_BY:
        return Look(
            "stop", hot, limit, f"{rise} over what cools it: its insulation goes within months. Stop and find why."
        )
    if hot > limit:
        return Look("caution", hot, limit, f"{rise} over what cools it: above what its class allows.")
    return Look("clear", hot, limit, f"{rise} over what cools it. Mean of the winding, class {motor.insulation}.")


def _mean_limit(seen: Seen) -> Figure:
    """Mean temperature by resistance that the class allows in 40 °C: its hot spot less the allowance for it."""
    kind = seen.line.motor.insulation
    insulation_limit(kind)
    return given("rise_limit", 40.0 + RISE_LIMIT[kind], "temperature", f"class {kind}: rise by resistance on 40 °C")


def _life(seen: Seen) -> Look:
    proof = seen.line.proof
    hot = winding_temperature(proof.cold_resistance, proof.cold_degc, proof.hot_resistance)
    cooler = temperature_rise(hot, _mean_limit(seen))
    most = given("rule_reach", -RULE_REACH, "temperature_difference", "as far as the rule of thumb reaches")
    factor = life_factor(max(cooler, most))
    more = ", or more" if cooler < most else ""
    said = f"Times the life at its class's temperature{more}; each 10 K cooler doubles it, as a rule of thumb."
    return Look("clear" if factor >= 1 else "caution", factor, given("one", 1.0, "ratio"), said)


def _rise_expected(seen: Seen) -> Look:
    kind = seen.line.motor.insulation
    rated = given("rated_rise", RISE_LIMIT[kind], "temperature_difference", f"what class {kind} allows at full load")
    rise = rise_at_load(rated, seen.needs_load)
    proof = seen.line.proof
    if not (proof.has("hot_resistance") and proof.has("coolant_degc")):
        return Look("clear", rise, rated, "At this load, if it is as warm as its class allows at full.")
    hot = winding_temperature(proof.cold_resistance, proof.cold_degc, proof.hot_resistance)
    found = temperature_rise(hot, proof.coolant_degc)
    if found > rise * 1.15:
        return Look("caution", found, rise, "Warmer than this load explains: fins, fan and filter; volts; harmonics.")
    return Look("clear", found, rise, "By resistance, beside what its class allows at this load.")


def _low_speed(seen: Seen) -> Look:
    line = seen.line
    application = line.application
    lowest = given("practice_minimum", application.lowest, "frequency", application.lowest_why)
    low = max(line.control.low_limit, lowest) if line.control.has("low_limit") else lowest
    ratio = share_of(low, line.motor.rated_frequency)
    needed = torque_at_low_speed(seen.needs_load, square_law_torque(ratio))
    allowed = torque_limit_self_ventilated(ratio)
    if needed > allowed:
        return Look("caution", needed, allowed, "Its own fan is too slow there: raise the low limit, or cool it apart.")
    return Look("clear", needed, allowed, "Torque at the lowest frequency, beside what its own fan still cools.")


@method("T = L * T_s", DERIVED)
def torque_at_low_speed(
    load: Annotated[Percent, In("of the motor at full speed", "L", atleast=0)],
    torque: Annotated[Percent, In("of the machine at the low speed, of its own at full", "T_s", atleast=0)],
) -> Percent:
    """Torque at a low speed of a machine that takes a load at full speed.

    >>> round(torque_at_low_speed(0.8, 0.25), 3)
    0.2
    """
    return load * torque


_MOTOR: tuple[tuple[str, str, Callable[[Seen], Look]], ...] = (
    ("load", "Load", _load),
    ("service_factor", "Service factor used", _service_factor),
    ("efficiency", "Efficiency", _efficiency),
    ("class", "Efficiency by class", _by_class),
    ("power_factor", "Power factor", _power_factor),
    ("volts", "Volts uneven", _volts),
    ("amps", "Motor amps uneven", _amps),
    ("winding", "Winding by resistance", _winding),
    ("rise", "Winding rise", _rise_expected),
    ("life", "Insulation life", _life),
    ("low_speed", "Torque at lowest speed", _low_speed),
)


# drive


def _to_motor(seen: Seen) -> tuple[Figure, Figure]:
    """Power to the motor at the load found, and the drive's efficiency there."""
    motor = seen.line.motor
    shaft = power_at_load(seen.needs_load, motor.rated_power)
    return motor_input(shaft, seen.derived.motor_efficiency(shaft)), seen.derived.drive_efficiency(shaft)


def _loss(seen: Seen) -> Look:
    power, efficiency = _to_motor(seen)
    return Look("clear", drive_heat(power, efficiency), None, "Heat of the drive at the load found.")


def _loss_by_class(seen: Seen) -> Look:
    reference = reference_drive_loss(seen.line.motor.rated_power)
    best = as_figure(drive_class_losses(reference).best)
    found = seen.derived.drive_loss
    said = "At full load, by the public table of drives; below the limit of class IE2 beside."
    return Look(
        "clear" if found <= best else "caution", found, best, said if found <= best else said.replace("below", "above")
    )


def _air(seen: Seen) -> Look:
    drive = seen.line.drive
    forecast = drive.ambient
    if seen.line.value("drive.enclosure") in ("sealed", "vented"):
        power, efficiency = _to_motor(seen)
        at_load = multiple_of(drive_heat(power, efficiency), seen.derived.drive_loss)
        rise = given(
            "rise", float(seen.derived.box_rise) * float(at_load), "temperature_difference", "at the load found"
        )
        forecast = air_inside(drive.ambient, rise)
    if not seen.line.has("proof.box_degc"):
        said = "By the model, on the hottest day. Read it after an hour at load."
        return Look("clear" if forecast <= drive.ambient_rating else "caution", forecast, drive.ambient_rating, said)
    found = seen.line.proof.box_degc
    if found > drive.ambient_rating:
        return Look("caution", found, drive.ambient_rating, "Warmer than the drive is rated for: filter, fan, place.")
    if found > forecast + usual.FORECAST_WITHIN:
        return Look("caution", found, forecast, "Warmer than forecast: filter blocked, or other heat in the box.")
    return Look("clear", found, forecast, "Read, beside the forecast for the hottest day.")


def _drive_life(seen: Seen) -> Look:
    drive = seen.line.drive
    air = seen.line.proof.box_degc if seen.line.has("proof.box_degc") else seen.derived.drive_air
    factor = life_factor(temperature_rise(air, drive.ambient_rating))
    left = life_left(factor, usual.DESIGN_LIFE)
    said = "Of its capacitors at this air, were it so all the time; at rated air beside. A rule of thumb."
    return Look("clear" if factor >= 1 else "caution", left, usual.DESIGN_LIFE, said)


def _heatsink(seen: Seen) -> Look:
    found = seen.line.proof.heatsink_degc
    return Look("clear", found, None, "Compare it with the next visit's at the same load; the limit is in its manual.")


_DRIVE: tuple[tuple[str, str, Callable[[Seen], Look]], ...] = (
    ("loss", "Losses now", _loss),
    ("class", "Losses by class", _loss_by_class),
    ("air", "Air at the drive", _air),
    ("life", "Life of its capacitors", _drive_life),
    ("heatsink", "Heatsink", _heatsink),
)
