"""Synchronous speed, slip and poles."""

import math

from mainspring.core.errors import check_range, check_whole
from mainspring.core.method import DERIVED, Source, method
from mainspring.core.quantity import Count, Hertz, NewtonMetre, Percent, Ratio, RevPerMin, Volt, Watt

_AC_MACHINES = Source("IEC 60034-1 / NEMA MG-1", "definition of synchronous speed and slip", kind="standard")


@method(
    id="synchronous_speed",
    symbol="n_s",
    formula="120 * f / p",
    symbols={"f": "frequency", "p": "poles"},
    source=_AC_MACHINES,
)
def synchronous_speed(frequency: Hertz, poles: Count) -> RevPerMin:
    """Synchronous speed of an AC motor.

    Parameters
    ----------
    frequency : of the supply to the motor [Hz], > 0
    poles : number of poles, even, 2 to 400 [-]

    Raises
    ------
    OutOfRange : frequency not above 0, poles that no motor has

    Examples
    --------
    >>> float(synchronous_speed(60, 4))
    1800.0
    """
    check_whole("poles", poles, atleast=2, step=2)
    return 120 * frequency / poles


@method(
    id="slip",
    symbol="s",
    formula="(n_s - n) / n_s",
    symbols={"n_s": "synchronous_rpm", "n": "speed_rpm"},
    source=_AC_MACHINES,
)
def slip(synchronous_rpm: RevPerMin, speed_rpm: RevPerMin) -> Percent:
    """Slip as a fraction of synchronous speed.

    Parameters
    ----------
    synchronous_rpm : synchronous speed [r/min], > 0
    speed_rpm : shaft speed [r/min]

    Examples
    --------
    >>> round(slip(1800, 1750), 5)
    0.02778
    """
    return (synchronous_rpm - speed_rpm) / synchronous_rpm


@method(
    id="pole_count",
    symbol="p",
    formula="2 * floor(60 * f / n + 1e-9)",
    symbols={"f": "frequency", "n": "rated_rpm"},
    source=Source("an induction motor runs below synchronous speed: floor, not nearest", kind="derived"),
)
def pole_count(frequency: Hertz, rated_rpm: RevPerMin) -> Count:
    """Number of poles from the plate's frequency and full-load speed.

    Parameters
    ----------
    frequency : rated frequency [Hz], > 0
    rated_rpm : full-load speed [r/min], > 0 and not above the speed of 2 poles

    Raises
    ------
    OutOfRange : speed above that of a 2-pole motor, or not above 0

    Examples
    --------
    >>> int(pole_count(50, 850))
    6
    """
    check_range("full-load speed", rated_rpm, above=0, upto=60 * frequency + 1e-6)
    return 2 * math.floor(60 * frequency / rated_rpm + 1e-9)


@method(
    id="speed_on_drive",
    symbol="n",
    formula="120 * f / p - (120 * f_r / p - n_r) * T",
    symbols={
        "f": "frequency",
        "p": "poles",
        "f_r": "rated_frequency",
        "n_r": "rated_rpm",
        "T": "torque_ratio",
    },
    source=Source("constant volts per hertz: slip speed follows torque, not frequency", kind="derived"),
)
def speed_on_drive(
    frequency: Hertz, poles: Count, rated_frequency: Hertz, rated_rpm: RevPerMin, torque_ratio: Ratio
) -> RevPerMin:
    """Shaft speed on a drive at a given output frequency and torque.

    Parameters
    ----------
    frequency : output frequency of the drive [Hz], > 0
    poles : number of poles [-]
    rated_frequency : of the plate [Hz], > 0
    rated_rpm : full-load speed of the plate [r/min]
    torque_ratio : torque over rated torque [-], >= 0

    Examples
    --------
    >>> float(speed_on_drive(45, 4, 60, 1750, 1.0))
    1300.0
    """
    check_whole("poles", poles, atleast=2, step=2)
    return 120 * frequency / poles - (120 * rated_frequency / poles - rated_rpm) * torque_ratio


@method(
    id="shaft_torque",
    symbol="T",
    formula="60 * P / (2 * pi * n)",
    symbols={"P": "power", "n": "speed_rpm"},
    source=DERIVED,
)
def shaft_torque(power: Watt, speed_rpm: RevPerMin) -> NewtonMetre:
    """Torque at a shaft from power and speed.

    Parameters
    ----------
    power : at the shaft [W]
    speed_rpm : shaft speed [r/min], > 0

    Examples
    --------
    >>> round(shaft_torque(18642.5, 1765), 2)
    100.86
    """
    return 60 * power / (2 * math.pi * speed_rpm)


@method(
    id="emf_at_speed",
    symbol="E",
    formula="E_1000 * n / 1000",
    symbols={"E_1000": "back_emf", "n": "speed_rpm"},
    source=Source("induced voltage grows with speed", kind="law"),
)
def emf_at_speed(back_emf: Volt, speed_rpm: RevPerMin) -> Volt:
    """Back-EMF of a permanent-magnet motor at a speed.

    Parameters
    ----------
    back_emf : line to line at 1000 r/min [V]
    speed_rpm : [r/min]

    Examples
    --------
    >>> float(emf_at_speed(120, 3000))
    360.0
    """
    return back_emf * speed_rpm / 1000
