"""Relations of the supply and the drive, with each other and with the motor."""

import math

from mainspring.core.quantity import HORSEPOWER
from mainspring.core.second_eye.motor import HZ, A, P, V
from mainspring.core.second_eye.relation import Facts, Relations, near
from mainspring.core.second_eye.usual import HORSEPOWERS, KILOWATTS, runs_to_87, usual_amps

VOLTS, MAINS = "supply.voltage", "supply.frequency"
DRIVE_A, DRIVE_P = "drive.rated_current", "drive.rated_power"
LOW, HIGH = "drive.input_voltage_low", "drive.input_voltage_high"
NOMINAL = (110.0, 115, 120, 200, 208, 220, 230, 240, 277, 347, 380, 400, 415, 440, 460, 480, 500, 525, 550, 575, 600,
           660, 690)  # fmt: skip
DRIVE_SIZES = (*(kw * 1e3 for kw in (0.2, 0.4, 3.7, *KILOWATTS)), *(hp * HORSEPOWER for hp in HORSEPOWERS))


def relate(to: Relations, facts: Facts) -> None:
    """Supply, drive, and both with the motor."""
    _supply(to)
    _drive(to, facts)
    if "permanent_magnet" not in facts.traits:  # whose volts are its back-EMF's
        to.add("the supply's volts", (V, VOLTS), (-0.09, 0.106), 0.025, _motor_volts, VOLTS)
        to.ratio("the supply's hertz", HZ, MAINS, (-0.01, 0.01), 0.05)


def _motor_volts(motor: float, supply: float) -> float:
    return 0.0 if runs_to_87(motor, supply) else math.log(motor / supply)


def _supply(to: Relations) -> None:
    to.add("the voltages that there are", (VOLTS,), (0.0, 0.012), 0.03, lambda v: near(v, NOMINAL))
    to.add("50 and 60 Hz", (MAINS,), (0.0, 0.012), 0.02, lambda hz: near(hz, (50.0, 60.0)))
    readings = [f"supply.reading_{pair}" for pair in ("12", "23", "31")]
    for at, path in enumerate(readings):
        others = tuple(r for r in readings if r != path)
        if at == 0:
            to.add(
                "the other two readings",
                (path, *others),
                (0.0, 0.024),
                0.012,
                lambda *three: math.log(max(three) / min(three)),
            )
        to.ratio("the nominal voltage", path, VOLTS, (-0.09, 0.09), 0.025)


def _drive(to: Relations, facts: Facts) -> None:
    small = facts.values.get(P, 1e3) < 0.75e3  # no drive is as small as the smallest motors
    most = 1.3 if small else 0.60
    amps = "motor.service_factor_current" if "submersible" in facts.traits else A
    if amps not in facts.values:
        amps = A
    one_phase_in = facts.choice("supply.phases") == "1" and facts.choice("drive.input_phases") == "3"
    more = math.log(2.0) if one_phase_in else 0.0
    to.ratio("the drive's amps", DRIVE_A, amps, (-0.005, most + more), 0.09, names=DRIVE_A)
    to.ratio("the drive's power", DRIVE_P, P, (-0.03, most + 0.05 + more), 0.10, names=DRIVE_P)
    to.add(
        "the amps usual of its power",
        (DRIVE_A, DRIVE_P, VOLTS),
        (-0.22, 0.49 if facts.values.get(DRIVE_P, 0.0) < 1.2e3 else 0.34),
        0.08,
        lambda a, p, v: math.log(a / usual_amps(p, v)),
    )
    to.add("the sizes that drives are made in", (DRIVE_P,), (0.0, 0.02), 0.025, lambda p: near(p, DRIVE_SIZES))
    to.ratio("the normal-duty amps", "drive.heavy_current", DRIVE_A, (-0.6, 0.0), 0.05)
    one = facts.choice("drive.input_phases") == "1"
    to.ratio("the output amps", "drive.input_current", DRIVE_A, (0.3, 1.2) if one else (-0.35, 0.35), 0.1)
    to.ratio("the motor's amps", "drive.current_limit", A, (-0.4, 0.42), 0.08)
    to.ratio("the input voltage from", HIGH, LOW, (0.02, 0.6), 0.08)
    to.ratio("the supply's volts", LOW, VOLTS, (-0.75, 0.08), 0.05)
    to.ratio("the supply's volts", HIGH, VOLTS, (-0.05, 0.75), 0.05)
    to.add("the ratings that drives have", ("drive.ambient_rating",), (0.0, 0.7), 0.7, _off_listed_air)


def _off_listed_air(degc: float) -> float:
    return min(abs(degc - listed) for listed in (35.0, 40.0, 45.0, 50.0, 55.0, 60.0))
