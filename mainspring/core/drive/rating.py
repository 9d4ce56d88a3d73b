"""Amps a drive gives at its place, and its overload."""

import math

from mainspring.core.errors import check_range
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Source, method
from mainspring.core.quantity import Ampere, DegC, Hertz, Metre, Ratio, Second, Volt, VoltPerHertz


@method(
    id="altitude_derating",
    symbol="k_Z",
    formula="1 - 0.01 * max(0, Z - 1000) / 100",
    symbols={"Z": "altitude"},
    source=COMMON_PRACTICE,
)
def altitude_derating(altitude: Metre) -> Ratio:
    """Share of rated amps left at altitude: 1 % less for each 100 m over 1000 m.

    Parameters
    ----------
    altitude : above sea level, up to 4000 [m]

    Raises
    ------
    OutOfRange : above 4000 m, where the rule ends and insulation must be checked

    Examples
    --------
    >>> round(altitude_derating(1800), 3)
    0.92
    """
    check_range("altitude in m", altitude, atleast=-500, upto=4000)
    return 1 - 0.01 * max(0.0, altitude - 1000) / 100


@method(
    id="ambient_derating",
    symbol="k_T",
    formula="1 - r * max(0, T - T_r)",
    symbols={"T": "ambient_degc", "T_r": "rated_degc", "r": "rate"},
    source=COMMON_PRACTICE,
)
def ambient_derating(ambient_degc: DegC, rated_degc: DegC, rate: Ratio = 0.02) -> Ratio:
    """Share of rated amps left in a hot place; the drive's manual governs.

    Parameters
    ----------
    ambient_degc : hottest air at the drive, up to 10 K above its rating [°C]
    rated_degc : ambient rating of the drive [°C]
    rate : loss of rating per kelvin, makers' figures run from 1 to 2.5 % [-]

    Raises
    ------
    OutOfRange : more than 10 K over the rating

    Examples
    --------
    >>> round(ambient_derating(45, 40), 3)
    0.9
    """
    check_range("air at the drive", ambient_degc, upto=rated_degc + 10)
    return 1 - rate * max(0.0, ambient_degc - rated_degc)


@method(
    id="derated_output_current",
    symbol="I_d",
    formula="I * k_Z * k_T * k_c * k_1",
    symbols={
        "I": "rated_current",
        "k_Z": "altitude_factor",
        "k_T": "ambient_factor",
        "k_c": "carrier_factor",
        "k_1": "phase_factor",
    },
    source=DERIVED,
)
def derated_output_current(
    rated_current: Ampere,
    altitude_factor: Ratio,
    ambient_factor: Ratio,
    carrier_factor: Ratio = 1.0,
    phase_factor: Ratio = 1.0,
) -> Ampere:
    """Continuous output amps that the drive gives where it hangs.

    Parameters
    ----------
    rated_current : of the drive's plate for the duty in use [A]
    altitude_factor : from the altitude rule [-]
    ambient_factor : from the ambient rule [-]
    carrier_factor : from the carrier rule; 1 at the rated carrier [-]
    phase_factor : 1, or about 0.5 for a three-phase drive on one phase [-]

    Examples
    --------
    >>> round(derated_output_current(15, 1, 0.96), 2)
    14.4
    """
    return rated_current * altitude_factor * ambient_factor * carrier_factor * phase_factor


@method(
    id="overload_current",
    symbol="I_o",
    formula="k * I",
    symbols={"k": "factor", "I": "rated_current"},
    source=COMMON_PRACTICE,
)
def overload_current(rated_current: Ampere, factor: Ratio) -> Ampere:
    """Current a drive gives for 60 s: 110 % on normal duty, 150 % on heavy duty.

    Parameters
    ----------
    rated_current : of the duty in use [A]
    factor : overload factor [-]

    Examples
    --------
    >>> float(overload_current(40, 1.1))
    44.0
    """
    return factor * rated_current


@method(
    id="volts_per_hertz",
    symbol="k",
    formula="V / f",
    symbols={"V": "voltage", "f": "frequency"},
    source=DERIVED,
)
def volts_per_hertz(voltage: Volt, frequency: Hertz) -> VoltPerHertz:
    """Flux level of a motor on a drive.

    Parameters
    ----------
    voltage : line to line at the motor [V]
    frequency : of the motor supply, > 0 [Hz]

    Examples
    --------
    >>> round(volts_per_hertz(460, 60), 3)
    7.667
    """
    return voltage / frequency


@method(
    id="base_current_under_overload",
    symbol="I_b",
    formula="sqrt((T - t * k**2) / (T - t))",
    symbols={"T": "cycle", "t": "time", "k": "overload"},
    source=Source("IEC 61800-2", "overload duty by equal rms over the cycle, from memory", "standard"),
)
def base_current_under_overload(overload: Ratio, time: Second, cycle: Second) -> Ratio:
    """Share of the rated amps between overloads that keeps their rms over the cycle at 1.

    Parameters
    ----------
    overload : over rated amps, > 0 [-]
    time : of the overload, > 0 [s]
    cycle : from one overload to the next, > 0 [s]

    Raises
    ------
    OutOfRange : an overload that no base current makes good, or longer than its cycle

    Examples
    --------
    >>> round(base_current_under_overload(1.5, 60, 600), 4)
    0.928
    """
    check_range("time of the overload", time, below=cycle)
    return math.sqrt((cycle - time * overload**2) / (cycle - time))
