"""Yearly energy from power and hours."""

from collections.abc import Sequence
from typing import Annotated

from mainspring.core.errors import OutOfRange, check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import (
    WATER_20C,
    Acceleration,
    CubicMetrePerSecond,
    G,
    HourSecond,
    InputWatt,
    Joule,
    Kilogram,
    KilogramPerCubicMetre,
    KilogramPerJoule,
    MetreHead,
    Percent,
    Watt,
)


@method("P_in = P_2 / (eta_m * eta_d)", DERIVED)
def input_power(
    shaft_power: Annotated[Watt, In("at the pump", "P_2")],
    motor_efficiency: Annotated[Percent, In("at that load", "eta_m", above=0, upto=1)],
    drive_efficiency: Annotated[Percent, In("at that load", "eta_d", above=0, upto=1)] = 1.0,
) -> InputWatt:
    """Electrical input for a shaft power; without a drive its efficiency is 1.

    >>> round(input_power(4909.3, 0.9063, 0.9383))
    5773
    """
    return shaft_power / (motor_efficiency * drive_efficiency)


@method("P_1 = P_2 + P_v", DERIVED)
def input_with_loss(
    shaft_power: Annotated[Watt, In("", "P_2", atleast=0)], loss: Annotated[Watt, In("of the motor", "P_v", atleast=0)]
) -> InputWatt:
    """Electrical input of a motor from its shaft power and its loss.

    >>> float(input_with_loss(900, 100))
    1000.0
    """
    return shaft_power + loss


@method("E = Σ Pᵢ·tᵢ", DERIVED, words=True)
def energy_of_profile(
    powers: Annotated[Sequence[InputWatt], In("input power at each level", "P")],
    hours: Annotated[Sequence[HourSecond], In("time at each level, in all at most a year", "t")],
) -> Joule:
    """Energy over a year from the power at each flow level and the hours spent there.

    Raises
    ------
    OutOfRange : lengths differ, or more hours than a year has

    >>> float(energy_of_profile([1000.0, 500.0], [3600.0, 7200.0]) / 3.6e6)
    2.0
    """
    if len(powers) != len(hours):
        raise OutOfRange("levels", len(powers), f"as many powers as hours ({len(hours)})")
    check_range("hours a year", sum(hours) / 3600, atleast=0, upto=8784)
    return sum(p * h for p, h in zip(powers, hours, strict=True))


@method("dE = E_before - E_after", DERIVED)
def energy_saved(before: Annotated[Joule, In("", "E_before")], after: Annotated[Joule, In("", "E_after")]) -> Joule:
    """Energy saved in a year; negative where the drive costs more than it saves.

    >>> float(energy_saved(3.0, 2.0))
    1.0
    """
    return before - after


@method("F = 1 - E_after / E_before", DERIVED)
def saving_fraction(
    before: Annotated[Joule, In("", "E_before", above=0)], after: Annotated[Joule, In("", "E_after")]
) -> Percent:
    """Saving as a share of what was used before.

    >>> round(saving_fraction(75536.3, 49536.2), 4)
    0.3442
    """
    return 1 - after / before


@method("eta_ww = rho * g * Q * H / P_in", DERIVED)
def wire_to_water_efficiency(
    flow: Annotated[CubicMetrePerSecond, In("", "Q", atleast=0)],
    head: Annotated[MetreHead, In("useful head", "H", atleast=0)],
    power: Annotated[InputWatt, In("electrical input", "P_in", above=0)],
    density: Annotated[KilogramPerCubicMetre, In("of the liquid", "rho", above=0)] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity", "g", above=0)] = G,
) -> Percent:
    """Useful water power over electrical input.

    >>> round(wire_to_water_efficiency(0.015, 29.0625, 6500), 5)
    0.65652
    """
    return density * gravity * flow * head / power


@method("e = P / Q", DERIVED)
def specific_energy(
    power: Annotated[InputWatt, In("electrical input", "P")], flow: Annotated[CubicMetrePerSecond, In("", "Q", above=0)]
) -> float:
    """Energy for each cubic metre moved [J/m³].

    >>> round(specific_energy(6500, 0.015) / 3.6e6, 5)
    0.12037
    """
    return power / flow


@method("m = E * EF", Source("the factor is an input of the site, with its year and source", kind="derived"))
def avoided_emission(
    energy: Annotated[Joule, In("saved", "E")], factor: Annotated[KilogramPerJoule, In("of the site's supply", "EF")]
) -> Kilogram:
    """Carbon dioxide not emitted.

    >>> round(avoided_emission(20000 * 3.6e6, 0.4 / 3.6e6))
    8000
    """
    return energy * factor


@method("dE = P * t * (1 / eta_2 - 1 / eta_1)", DERIVED)
def energy_of_lower_efficiency(
    power: Annotated[Watt, In("at the shaft", "P", atleast=0)],
    time: Annotated[HourSecond, In("in a year", "t", atleast=0)],
    efficiency: Annotated[Percent, In("of before", "eta_1", above=0, upto=1)],
    lower: Annotated[Percent, In("of now", "eta_2", above=0, upto=1)],
) -> Joule:
    """What a lower efficiency takes more over the hours, at one shaft power.

    Raises
    ------
    OutOfRange : the efficiency of now is the higher one

    >>> round(energy_of_lower_efficiency(74600, 8000 * 3600, 0.944, 0.930) / 3.6e6)
    9517
    """
    check_range("lower efficiency", lower, upto=efficiency)
    return power * time * (1 / lower - 1 / efficiency)
