"""Amps a drive gives at its place, and its overload."""

import math
from typing import Annotated

from mainspring.core.errors import check_range
from mainspring.core.method import COMMON_PRACTICE, DERIVED, In, Source, method
from mainspring.core.quantity import Ampere, DegC, Hertz, Metre, Ratio, Second, Volt, VoltPerHertz


@method("k_Z = 1 - 0.01 * max(0, Z - 1000) / 100", COMMON_PRACTICE)
def altitude_derating(altitude: Annotated[Metre, In("above sea level, up to 4000", "Z")]) -> Ratio:
    """Share of rated amps left at altitude: 1 % less for each 100 m over 1000 m.

    Raises
    ------
    OutOfRange : above 4000 m, where the rule ends and insulation must be checked

    >>> round(altitude_derating(1800), 3)
    0.92
    """
    check_range("altitude in m", altitude, atleast=-500, upto=4000)
    return 1 - 0.01 * max(0.0, altitude - 1000) / 100


@method("k_T = 1 - r * max(0, T - T_r)", COMMON_PRACTICE)
def ambient_derating(
    ambient_degc: Annotated[DegC, In("hottest air at the drive, up to 10 K above its rating", "T")],
    rated_degc: Annotated[DegC, In("ambient rating of the drive", "T_r")],
    rate: Annotated[Ratio, In("loss of rating per kelvin, makers' figures run from 1 to 2.5 %", "r")] = 0.02,
) -> Ratio:
    """Share of rated amps left in a hot place; the drive's manual governs.

    Raises
    ------
    OutOfRange : more than 10 K over the rating

    >>> round(ambient_derating(45, 40), 3)
    0.9
    """
    check_range("air at the drive", ambient_degc, upto=rated_degc + 10)
    return 1 - rate * max(0.0, ambient_degc - rated_degc)


@method("I_d = I * k_Z * k_T * k_c * k_1", DERIVED)
def derated_output_current(
    rated_current: Annotated[Ampere, In("of the drive's plate for the duty in use", "I")],
    altitude_factor: Annotated[Ratio, In("from the altitude rule", "k_Z")],
    ambient_factor: Annotated[Ratio, In("from the ambient rule", "k_T")],
    carrier_factor: Annotated[Ratio, In("from the carrier rule; 1 at the rated carrier", "k_c")] = 1.0,
    phase_factor: Annotated[Ratio, In("1, or about 0.5 for a three-phase drive on one phase", "k_1")] = 1.0,
) -> Ampere:
    """Continuous output amps that the drive gives where it hangs.

    >>> round(derated_output_current(15, 1, 0.96), 2)
    14.4
    """
    return rated_current * altitude_factor * ambient_factor * carrier_factor * phase_factor


@method("I_o = k * I", COMMON_PRACTICE)
def overload_current(
    rated_current: Annotated[Ampere, In("of the duty in use", "I")],
    factor: Annotated[Ratio, In("overload factor", "k")],
) -> Ampere:
    """Current a drive gives for 60 s: 110 % on normal duty, 150 % on heavy duty.

    >>> float(overload_current(40, 1.1))
    44.0
    """
    return factor * rated_current


@method("k = V / f", DERIVED)
def volts_per_hertz(
    voltage: Annotated[Volt, In("line to line at the motor", "V")],
    frequency: Annotated[Hertz, In("of the motor supply", "f", above=0)],
) -> VoltPerHertz:
    """Flux level of a motor on a drive.

    >>> round(volts_per_hertz(460, 60), 3)
    7.667
    """
    return voltage / frequency


@method(
    "I_b = sqrt((T - t * k**2) / (T - t))",
    Source("IEC 61800-2", "overload duty by equal rms over the cycle, from memory", "standard"),
)
def base_current_under_overload(
    overload: Annotated[Ratio, In("over rated amps", "k", above=0)],
    time: Annotated[Second, In("of the overload", "t", above=0)],
    cycle: Annotated[Second, In("from one overload to the next", "T", above=0)],
) -> Ratio:
    """Share of the rated amps between overloads that keeps their rms over the cycle at 1.

    Raises
    ------
    OutOfRange : an overload that no base current makes good, or longer than its cycle

    >>> round(base_current_under_overload(1.5, 60, 600), 4)
    0.928
    """
    check_range("time of the overload", time, below=cycle)
    return math.sqrt((cycle - time * overload**2) / (cycle - time))
