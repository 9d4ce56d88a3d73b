"""What turns and how long it takes: inertia, acceleration, and the shortest ramps."""

import math
from typing import Annotated

from mainspring.core.errors import NoSolution, check_range, check_whole
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import Inertia, NewtonMetre, Ratio, RevPerMin, Second, Watt


@method("J_m = J * (n_f / n_m)**2", DERIVED)
def reflected_inertia(
    inertia: Annotated[Inertia, In("of the machine on its own shaft", "J")],
    machine_rpm: Annotated[RevPerMin, In("of the machine", "n_f")],
    motor_rpm: Annotated[RevPerMin, In("of the motor", "n_m", above=0)],
) -> Inertia:
    """Inertia of a belt-driven machine as the motor's shaft feels it.

    >>> round(reflected_inertia(150, 900, 1750), 2)
    39.67
    """
    return inertia * (machine_rpm / motor_rpm) ** 2


@method("t = J * 2 * pi * n / 60 / T", DERIVED)
def acceleration_time(
    inertia: Annotated[Inertia, In("of everything that turns", "J")],
    speed_change: Annotated[RevPerMin, In("", "n")],
    torque: Annotated[NewtonMetre, In("left for accelerating", "T", above=0)],
) -> Second:
    """Time in which a torque changes the speed of an inertia.

    >>> round(acceleration_time(6.321, 1750, 54.233), 2)
    21.36
    """
    return inertia * 2 * math.pi * speed_change / 60 / torque


@method(
    "t = 2 * pi * n / 60 * J / T_r * atanh(sqrt(L / k)) / sqrt(k * L)",
    Source("J dω = (k T_r − L T_r (ω/ω_1)²) dt, integrated from rest to ω_1", kind="derived"),
)
def run_up_time(
    inertia: Annotated[Inertia, In("of everything that turns, on the motor's shaft", "J", atleast=0)],
    speed: Annotated[RevPerMin, In("to be reached", "n", above=0)],
    rated_torque: Annotated[NewtonMetre, In("of the motor", "T_r", above=0)],
    load_torque: Annotated[Ratio, In("of the machine at that speed over rated", "L", above=0)],
    overload: Annotated[Ratio, In("that the drive allows, : 1.1 normal and 1.5 heavy duty", "k", above=0)] = 1.1,
) -> Second:
    """Shortest run-up of a square-law load with all the torque that the drive's overload allows.

    Raises
    ------
    NoSolution : the load takes all the torque before the speed is reached

    >>> round(run_up_time(1.0, 1500.0, 100.0, 0.9), 3)
    2.363
    """
    if load_torque >= overload:
        reached = math.sqrt(overload / load_torque)
        raise NoSolution(f"it would get no further than {reached:.0%} of the speed: the load takes all the torque")
    spread = math.atanh(math.sqrt(load_torque / overload)) / math.sqrt(overload * load_torque)
    return 2 * math.pi * speed / 60 * inertia / rated_torque * spread


@method(
    "T_b = x * P / (2 * pi * n / 60)",
    Source(
        "returning energy is burnt in the losses of motor and drive, 10 to 20 % of rated power", kind="common practice"
    ),
)
def braking_torque_without_chopper(
    rated_power: Annotated[Watt, In("of the motor", "P")],
    rated_rpm: Annotated[RevPerMin, In("of the motor", "n", above=0)],
    loss_share: Annotated[Ratio, In("of rated power that the losses burn", "x")] = 0.15,
) -> NewtonMetre:
    """Braking torque of a drive without a brake resistor, before its bus trips on overvoltage.

    >>> round(braking_torque_without_chopper(15_000, 1470), 2)
    14.62
    """
    return loss_share * rated_power / (2 * math.pi * rated_rpm / 60)


@method(
    "J_r = 0.0421401 * 0.02 * 2**(p / 2) * (P / 745.69987158227022)**(1.35 - 0.05 * p / 2)",
    Source("NEMA MG-1", "estimate of rotor inertia, within a factor of 1.5, from memory", "from memory"),
)
def rotor_inertia_estimate(
    power: Annotated[Watt, In("rated", "P", above=0)], poles: Annotated[float, In("", "p")]
) -> Inertia:
    """Rotor inertia of a motor whose data sheet is not at hand.

    >>> round(rotor_inertia_estimate(15_000, 4), 3)
    0.144
    """
    check_whole("poles", poles, atleast=2, step=2)
    pairs, horsepower = poles / 2, power / 745.69987158227022
    return float(0.0421401 * 0.02 * 2**pairs * horsepower ** (1.35 - 0.05 * pairs))


@method(
    "J_max = A·hp^0.95/(n/1000)^2.4 − 0.0685·hp^1.5/(n/1000)^1.8 lb·ft²",
    Source("NEMA MG-1", "12.54, line starting, from memory", "standard"),
    words=True,
)
def largest_load_inertia(
    power: Annotated[Watt, In("rated", above=0)], synchronous_rpm: Annotated[RevPerMin, In("300 to 3600")]
) -> Inertia:
    """Largest load inertia a standard motor may start across the line: matters in bypass.

    >>> round(largest_load_inertia(7457, 1800) / 0.0421401, 1)
    51.4
    """
    check_range("synchronous speed", synchronous_rpm, atleast=300, upto=3600)
    hp, n = power / 745.69987158227022, synchronous_rpm / 1000
    factor = 27.0 if synchronous_rpm > 1800 else 24.0
    return float((factor * hp**0.95 / n**2.4 - 0.0685 * hp**1.5 / n**1.8) * 0.0421401)
