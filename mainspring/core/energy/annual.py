"""Yearly energy from power and hours."""

from collections.abc import Sequence

from mainspring.core.errors import OutOfRange, check_range
from mainspring.core.method import DERIVED, Source, method
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


@method(
    id="input_power",
    symbol="P_in",
    formula="P_2 / (eta_m * eta_d)",
    symbols={"P_2": "shaft_power", "eta_m": "motor_efficiency", "eta_d": "drive_efficiency"},
    source=DERIVED,
)
def input_power(shaft_power: Watt, motor_efficiency: Percent, drive_efficiency: Percent = 1.0) -> InputWatt:
    """Electrical input for a shaft power; without a drive its efficiency is 1.

    Parameters
    ----------
    shaft_power : at the pump [W]
    motor_efficiency : at that load, 0 < η <= 1 [-]
    drive_efficiency : at that load, 0 < η <= 1 [-]

    Examples
    --------
    >>> round(input_power(4909.3, 0.9063, 0.9383))
    5773
    """
    return shaft_power / (motor_efficiency * drive_efficiency)


@method(
    id="input_with_loss",
    symbol="P_1",
    formula="P_2 + P_v",
    symbols={"P_2": "shaft_power", "P_v": "loss"},
    source=DERIVED,
)
def input_with_loss(shaft_power: Watt, loss: Watt) -> InputWatt:
    """Electrical input of a motor from its shaft power and its loss.

    Parameters
    ----------
    shaft_power : >= 0 [W]
    loss : of the motor, >= 0 [W]

    Examples
    --------
    >>> float(input_with_loss(900, 100))
    1000.0
    """
    return shaft_power + loss


@method(
    id="energy_of_profile",
    symbol="E",
    formula="Σ Pᵢ·tᵢ",
    symbols={"P": "powers", "t": "hours"},
    words=True,
    source=DERIVED,
)
def energy_of_profile(powers: Sequence[InputWatt], hours: Sequence[HourSecond]) -> Joule:
    """Energy over a year from the power at each flow level and the hours spent there.

    Parameters
    ----------
    powers : input power at each level [W]
    hours : time at each level, in all at most a year [s]

    Raises
    ------
    OutOfRange : lengths differ, or more hours than a year has

    Examples
    --------
    >>> float(energy_of_profile([1000.0, 500.0], [3600.0, 7200.0]) / 3.6e6)
    2.0
    """
    if len(powers) != len(hours):
        raise OutOfRange("levels", len(powers), f"as many powers as hours ({len(hours)})")
    check_range("hours a year", sum(hours) / 3600, atleast=0, upto=8784)
    return sum(p * h for p, h in zip(powers, hours, strict=True))


@method(
    id="energy_saved",
    symbol="dE",
    formula="E_before - E_after",
    symbols={"E_before": "before", "E_after": "after"},
    source=DERIVED,
)
def energy_saved(before: Joule, after: Joule) -> Joule:
    """Energy saved in a year; negative where the drive costs more than it saves.

    Parameters
    ----------
    before : [J]
    after : [J]

    Examples
    --------
    >>> float(energy_saved(3.0, 2.0))
    1.0
    """
    return before - after


@method(
    id="saving_fraction",
    symbol="F",
    formula="1 - E_after / E_before",
    symbols={"E_before": "before", "E_after": "after"},
    source=DERIVED,
)
def saving_fraction(before: Joule, after: Joule) -> Percent:
    """Saving as a share of what was used before.

    Parameters
    ----------
    before : > 0 [J]
    after : [J]

    Examples
    --------
    >>> round(saving_fraction(75536.3, 49536.2), 4)
    0.3442
    """
    return 1 - after / before


@method(
    id="wire_to_water_efficiency",
    symbol="eta_ww",
    formula="rho * g * Q * H / P_in",
    symbols={"rho": "density", "g": "gravity", "Q": "flow", "H": "head", "P_in": "power"},
    source=DERIVED,
)
def wire_to_water_efficiency(
    flow: CubicMetrePerSecond,
    head: MetreHead,
    power: InputWatt,
    density: KilogramPerCubicMetre = WATER_20C,
    gravity: Acceleration = G,
) -> Percent:
    """Useful water power over electrical input.

    Parameters
    ----------
    flow : >= 0 [m³/s]
    head : useful head, >= 0 [m]
    power : electrical input, > 0 [W]
    density : of the liquid, > 0 [kg/m³]
    gravity : standard gravity, > 0 [m/s²]

    Examples
    --------
    >>> round(wire_to_water_efficiency(0.015, 29.0625, 6500), 5)
    0.65652
    """
    return density * gravity * flow * head / power


@method(
    id="specific_energy",
    symbol="e",
    formula="P / Q",
    symbols={"P": "power", "Q": "flow"},
    source=DERIVED,
)
def specific_energy(power: InputWatt, flow: CubicMetrePerSecond) -> float:
    """Energy for each cubic metre moved [J/m³].

    Parameters
    ----------
    power : electrical input [W]
    flow : > 0 [m³/s]

    Examples
    --------
    >>> round(specific_energy(6500, 0.015) / 3.6e6, 5)
    0.12037
    """
    return power / flow


@method(
    id="avoided_emission",
    symbol="m",
    formula="E * EF",
    symbols={"E": "energy", "EF": "factor"},
    source=Source("the factor is an input of the site, with its year and source", kind="derived"),
)
def avoided_emission(energy: Joule, factor: KilogramPerJoule) -> Kilogram:
    """Carbon dioxide not emitted.

    Parameters
    ----------
    energy : saved [J]
    factor : of the site's supply [kg/J]

    Examples
    --------
    >>> round(avoided_emission(20000 * 3.6e6, 0.4 / 3.6e6))
    8000
    """
    return energy * factor


@method(
    id="energy_of_lower_efficiency",
    symbol="dE",
    formula="P * t * (1 / eta_2 - 1 / eta_1)",
    symbols={"P": "power", "t": "time", "eta_1": "efficiency", "eta_2": "lower"},
    source=DERIVED,
)
def energy_of_lower_efficiency(power: Watt, time: HourSecond, efficiency: Percent, lower: Percent) -> Joule:
    """What a lower efficiency takes more over the hours, at one shaft power.

    Parameters
    ----------
    power : at the shaft, >= 0 [W]
    time : in a year, >= 0 [s]
    efficiency : of before, 0 < η <= 1 [-]
    lower : of now, 0 < η <= 1 [-]

    Raises
    ------
    OutOfRange : the efficiency of now is the higher one

    Examples
    --------
    >>> round(energy_of_lower_efficiency(74600, 8000 * 3600, 0.944, 0.930) / 3.6e6)
    9517
    """
    check_range("lower efficiency", lower, upto=efficiency)
    return power * time * (1 / lower - 1 / efficiency)
