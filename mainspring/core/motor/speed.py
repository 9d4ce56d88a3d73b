"""Synchronous speed, slip and poles."""

import math
from typing import Annotated

from mainspring.core.errors import check_range, check_whole
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import Count, Hertz, NewtonMetre, Percent, Ratio, RevPerMin, Volt, Watt

_AC_MACHINES = Source("IEC 60034-1 / NEMA MG-1", "definition of synchronous speed and slip", kind="standard")


@method("n_s = 120 * f / p", _AC_MACHINES)
def synchronous_speed(
    frequency: Annotated[Hertz, In("of the supply to the motor", "f", above=0)],
    poles: Annotated[Count, In("number of poles, even, 2 to 400", "p")],
) -> RevPerMin:
    """Synchronous speed of an AC motor.

    Raises
    ------
    OutOfRange : frequency not above 0, poles that no motor has

    >>> float(synchronous_speed(60, 4))
    1800.0
    """
    check_whole("poles", poles, atleast=2, step=2)
    return 120 * frequency / poles


@method("s = (n_s - n) / n_s", _AC_MACHINES)
def slip(
    synchronous_rpm: Annotated[RevPerMin, In("synchronous speed", "n_s", above=0)],
    speed_rpm: Annotated[RevPerMin, In("shaft speed", "n")],
) -> Percent:
    """Slip as a fraction of synchronous speed.

    >>> round(slip(1800, 1750), 5)
    0.02778
    """
    return (synchronous_rpm - speed_rpm) / synchronous_rpm


@method(
    "p = 2 * floor(60 * f / n + 1e-9)",
    Source("an induction motor runs below synchronous speed: floor, not nearest", kind="derived"),
)
def pole_count(
    frequency: Annotated[Hertz, In("rated frequency", "f", above=0)],
    rated_rpm: Annotated[RevPerMin, In("full-load speed, and not above the speed of 2 poles", "n", above=0)],
) -> Count:
    """Number of poles from the plate's frequency and full-load speed.

    Raises
    ------
    OutOfRange : speed above that of a 2-pole motor, or not above 0

    >>> int(pole_count(50, 850))
    6
    """
    check_range("full-load speed", rated_rpm, above=0, upto=60 * frequency + 1e-6)
    return 2 * math.floor(60 * frequency / rated_rpm + 1e-9)


@method(
    "n = 120 * f / p - (120 * f_r / p - n_r) * T",
    Source("constant volts per hertz: slip speed follows torque, not frequency", kind="derived"),
)
def speed_on_drive(
    frequency: Annotated[Hertz, In("output frequency of the drive", "f", above=0)],
    poles: Annotated[Count, In("number of poles", "p")],
    rated_frequency: Annotated[Hertz, In("of the plate", "f_r", above=0)],
    rated_rpm: Annotated[RevPerMin, In("full-load speed of the plate", "n_r")],
    torque_ratio: Annotated[Ratio, In("torque over rated torque", "T", atleast=0)],
) -> RevPerMin:
    """Shaft speed on a drive at a given output frequency and torque.

    >>> float(speed_on_drive(45, 4, 60, 1750, 1.0))
    1300.0
    """
    check_whole("poles", poles, atleast=2, step=2)
    return 120 * frequency / poles - (120 * rated_frequency / poles - rated_rpm) * torque_ratio


@method("T = 60 * P / (2 * pi * n)", DERIVED)
def shaft_torque(
    power: Annotated[Watt, In("at the shaft", "P")],
    speed_rpm: Annotated[RevPerMin, In("shaft speed", "n", above=0)],
) -> NewtonMetre:
    """Torque at a shaft from power and speed.

    >>> round(shaft_torque(18642.5, 1765), 2)
    100.86
    """
    return 60 * power / (2 * math.pi * speed_rpm)


@method("E = E_1000 * n / 1000", Source("induced voltage grows with speed", kind="law"))
def emf_at_speed(
    back_emf: Annotated[Volt, In("line to line at 1000 r/min", "E_1000")], speed_rpm: Annotated[RevPerMin, In("", "n")]
) -> Volt:
    """Back-EMF of a permanent-magnet motor at a speed.

    >>> float(emf_at_speed(120, 3000))
    360.0
    """
    return back_emf * speed_rpm / 1000
