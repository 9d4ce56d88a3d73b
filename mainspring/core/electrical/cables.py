"""Conductors: volt drop, ampacity and a size to propose; the local code governs."""

import math
from typing import Annotated

from mainspring.core.errors import NoSolution, OutOfRange, check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import Ampere, ConductorArea, DegC, Metre, OhmPerMetre, Percent, Ratio, Resistivity, Volt
from mainspring.core.tables import table

_NEC = "NFPA 70 (NEC)"
COPPER_HOT = 0.0225e-6  # Ω·m, copper at working temperature, IEC 60364-5-52 annex G
CABLE_REACTANCE = 0.08e-3  # Ω/m, IEC 60364-5-52 annex G


@method(
    "dV = sqrt(3) * I * L * (R * pf + X * sqrt(1 - pf**2))",
    Source(_NEC, "chapter 9 table 9 note, from memory", "standard"),
)
def three_phase_drop(
    current: Annotated[Ampere, In("line current", "I")],
    length: Annotated[Metre, In("one way", "L", atleast=0)],
    resistance_per_metre: Annotated[OhmPerMetre, In("of one conductor", "R")],
    reactance_per_metre: Annotated[OhmPerMetre, In("of one conductor", "X")],
    power_factor: Annotated[Ratio, In("of the load", "pf", above=0, upto=1)],
) -> Volt:
    """Volt drop along a three-phase cable, line to line.

    >>> round(three_phase_drop(34, 91.44, 0.78 / 304.8, 0.052 / 304.8, 0.85), 2)
    12.2
    """
    sine = math.sqrt(1 - power_factor**2)
    return math.sqrt(3) * current * length * (resistance_per_metre * power_factor + reactance_per_metre * sine)


@method("R = rho / A", DERIVED)
def conductor_resistance(
    area: Annotated[ConductorArea, In("of the conductor", "A", above=0)],
    resistivity: Annotated[Resistivity, In("0.0225 Ω·mm²/m for copper at working temperature", "rho")] = COPPER_HOT,
) -> OhmPerMetre:
    """Resistance of a conductor per metre.

    >>> round(conductor_resistance(16e-6) * 1000, 3)
    1.406
    """
    return resistivity / area


@method(
    "I_z = look-up by size",
    Source(_NEC, "table 310.16, copper, 75 °C, 30 °C ambient, from memory", "standard"),
    words=True,
)
def awg_ampacity(size: Annotated[str, In("14 to 1, 1/0 to 4/0, 250 to 750")]) -> Ampere:
    """Ampacity of a copper conductor by its AWG or kcmil size, 75 °C column.

    >>> float(awg_ampacity("8"))
    50.0
    """
    rows = table("conductors")["awg"]
    if size not in rows:
        raise OutOfRange("AWG or kcmil size", size, ", ".join(rows))
    return float(rows[size]["ampacity"])


@method(
    "I_z = look-up by area",
    Source("IEC 60364-5-52", "table B.52.4, method C, copper, PVC, three loaded, 30 °C, from memory", "standard"),
    words=True,
)
def metric_ampacity(area: Annotated[ConductorArea, In("a standard size, 1.5 to 240 mm²")]) -> Ampere:
    """Ampacity of a copper cable clipped to a wall, three loaded conductors, PVC.

    >>> float(metric_ampacity(2.5e-6))
    24.0
    """
    rows = table("conductors")["metric"]
    found = next((r for mm2, r in rows.items() if abs(float(mm2) * 1e-6 / area - 1) < 0.01), None)
    if found is None:
        raise OutOfRange("conductor area in mm²", area * 1e6, ", ".join(rows))
    return float(found["ampacity"])


@method("I_min = 1.25 * I", Source(_NEC, "430.22 and 430.122, from memory", "standard"))
def motor_branch_ampacity(
    full_load_current: Annotated[Ampere, In("table amps of the motor, or rated input amps of the drive", "I")],
) -> Ampere:
    """Least ampacity of the conductors of one motor, or of one drive on its rated input current.

    >>> float(motor_branch_ampacity(34))
    42.5
    """
    return 1.25 * full_load_current


def smallest_awg(ampacity: Ampere) -> str:
    """Smallest copper conductor, AWG or kcmil, by the 75 °C column of NEC table 310.16 (from memory).

    Parameters
    ----------
    ampacity : needed [A]

    Raises
    ------
    NoSolution : more than one conductor per phase is needed

    Examples
    --------
    >>> smallest_awg(42.5)
    '8'
    """
    for size, row in table("conductors")["awg"].items():
        if row["ampacity"] >= ampacity:
            return str(size)
    raise NoSolution(f"{ampacity:.0f} A need parallel conductors: a design of its own")


@method(
    "k_T = look-up by 5 K steps",
    Source(_NEC, "table 310.15(B)(1), 75 °C conductor, from memory", "standard"),
    words=True,
)
def ambient_conductor_factor(ambient_degc: Annotated[DegC, In("of the air round the cable, up to 60")]) -> Ratio:
    """Share of ampacity left in a hot place, 75 °C conductor.

    >>> float(ambient_conductor_factor(40))
    0.88
    """
    check_range("air in °C", ambient_degc, upto=60)
    return next(float(f) for upto, f in table("conductors")["ambient_75"] if ambient_degc <= upto)


@method(
    "I_max = k * I",
    Source(_NEC, "430.32: 125 % with service factor 1.15 or 40 °C rise, else 115 %, from memory", "standard"),
)
def overload_relay_limit(
    plate_current: Annotated[Ampere, In("full-load amps of the plate", "I")],
    factor: Annotated[Ratio, In("1.25 or 1.15", "k")] = 1.25,
) -> Ampere:
    """Largest overload setting of a motor across the line; on a drive the plate amps are the default.

    >>> float(overload_relay_limit(30))
    37.5
    """
    return factor * plate_current


@method(
    "I_max = 2.5 * I",
    Source(
        _NEC, "430.52 inverse-time breaker; with a drive the maker's listed device governs, from memory", "standard"
    ),
)
def breaker_limit(full_load_current: Annotated[Ampere, In("table amps", "I")]) -> Ampere:
    """Largest inverse-time breaker of a motor branch.

    >>> float(breaker_limit(34))
    85.0
    """
    return 2.5 * full_load_current


@method("u = dV / V", DERIVED)
def drop_share(
    drop: Annotated[Volt, In("line to line", "dV")], voltage: Annotated[Volt, In("line to line", "V", above=0)]
) -> Percent:
    """Volt drop as a share of the system voltage; 3 % is the usual target of a branch, 5 % in all.

    >>> round(drop_share(12.197, 480), 4)
    0.0254
    """
    return drop / voltage
