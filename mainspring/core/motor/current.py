"""What the amps on a plate must agree with."""

import math
from typing import Annotated

from mainspring.core.errors import OutOfRange, check_range, check_whole
from mainspring.core.method import DERIVED, In, Source, given, method
from mainspring.core.quantity import HORSEPOWER, Ampere, Count, Hertz, Ratio, Volt, VoltAmpere, Watt
from mainspring.core.tables import interpolate, table


@method("I = P / (sqrt(3) * V * pf * eta)", DERIVED)
def line_current(
    power: Annotated[Watt, In("at the shaft", "P")],
    voltage: Annotated[Volt, In("line to line", "V", above=0)],
    power_factor: Annotated[Ratio, In("", "pf", above=0, upto=1)],
    efficiency: Annotated[Ratio, In("", "eta", above=0, upto=1)],
) -> Ampere:
    """Line current of a three-phase motor from its shaft power.

    >>> round(line_current(7456.9987, 460, 0.83, 0.917), 3)
    12.297
    """
    return power / (math.sqrt(3) * voltage * power_factor * efficiency)


@method("P = sqrt(3) * V * I * pf * eta", DERIVED)
def power_from_plate(
    voltage: Annotated[Volt, In("line to line", "V")],
    current: Annotated[Ampere, In("line current", "I")],
    power_factor: Annotated[Ratio, In("", "pf", above=0, upto=1)],
    efficiency: Annotated[Ratio, In("", "eta", above=0, upto=1)],
) -> Watt:
    """Shaft power that a plate's volts and amps amount to.

    >>> round(power_from_plate(400, 11.1, 0.83, 0.896))
    5719
    """
    return math.sqrt(3) * voltage * current * power_factor * efficiency


@method("pf = P / (sqrt(3) * V * I * eta)", DERIVED)
def implied_power_factor(
    power: Annotated[Watt, In("rated shaft power", "P")],
    voltage: Annotated[Volt, In("line to line", "V", above=0)],
    current: Annotated[Ampere, In("full-load current", "I", above=0)],
    efficiency: Annotated[Ratio, In("", "eta", above=0, upto=1)],
) -> Ratio:
    """Power factor that a plate's power, volts, amps and efficiency imply; no real one exceeds 1.

    >>> round(implied_power_factor(18642.4968, 460, 34, 0.936), 4)
    0.7352
    """
    return power / (math.sqrt(3) * voltage * current * efficiency)


@method("S = sqrt(3) * V * I", DERIVED)
def apparent_power(
    voltage: Annotated[Volt, In("line to line", "V")], current: Annotated[Ampere, In("line current", "I")]
) -> VoltAmpere:
    """Apparent power of a three-phase load.

    >>> round(apparent_power(460, 34))
    27089
    """
    return math.sqrt(3) * voltage * current


@method(
    "I_table = look-up by horsepower, system voltage and phases",
    Source("NFPA 70 (NEC)", "tables 430.248 and 430.250, from memory", kind="standard"),
    words=True,
)
def table_full_load_current(
    power: Annotated[Watt, In("rated power, one of the table's horsepower sizes")],
    voltage: Annotated[Volt, In("one of the table's voltages")],
    phases: Annotated[Count, In("3 or 1")] = 3,
) -> Ampere:
    """Table full-load current of a standard 60 Hz motor; for conductors and as a sanity check, deliberately high.

    Raises
    ------
    OutOfRange : size or voltage not in the table

    >>> float(table_full_load_current(25 * 745.69987, 460))
    34.0
    """
    check_whole("phases", phases, atleast=1, upto=3, step=2)
    part = table("full_load_amps")["three_phase" if phases == 3 else "single_phase"]
    horsepower = power / HORSEPOWER
    row = next((r for hp, r in part["rows"].items() if abs(float(hp) / horsepower - 1) < 0.005), None)
    column = next((i for i, v in enumerate(part["voltages"]) if abs(v - voltage) < 0.5), None)
    if row is None:
        raise OutOfRange("rated power in hp", horsepower, "a size of the table: " + ", ".join(part["rows"]))
    if column is None or row[column] is None:
        raise OutOfRange("voltage", voltage, ", ".join(f"{v} V" for v in part["voltages"]))
    return float(row[column])


@method(
    "P_std = the next standard rating not below P",
    Source("NEMA MG-1", "10.32.4 standard ratings, from memory", kind="standard"),
    words=True,
)
def next_standard_horsepower(power: Annotated[Watt, In("needed at the shaft, and up to 200 hp", above=0)]) -> Watt:
    """Next standard NEMA motor rating not below a power.

    >>> round(next_standard_horsepower(8.2 * 745.69987) / 745.69987, 3)
    10.0
    """
    sizes = [float(hp) * HORSEPOWER for hp in table("full_load_amps")["three_phase"]["rows"]]
    check_range("power", power, above=0, upto=sizes[-1] * 1.000001)
    return next(s for s in sizes if s >= power * (1 - 1e-6))


@method(
    "I_usual = table amps of the size, linear between sizes, carried to the volts in inverse ratio",
    Source("IEC 60947-4-1 annex G (50 Hz), NFPA 70 table 430.250 (60 Hz)", "from memory", kind="standard"),
    words=True,
)
def usual_full_load_current(
    power: Annotated[Watt, In("rated, 0.37 to 150 kW")],
    voltage: Annotated[Volt, In("line to line at the connection in use", above=0)],
    frequency: Annotated[Hertz, In("50 or 60 of the plate")] = 50.0,
) -> Ampere:
    """Full-load current usual for a three-phase induction motor of a size; a sanity check, not a plate.

    Raises
    ------
    OutOfRange : a size outside the tables

    >>> round(usual_full_load_current(5500, 400), 1)
    11.5
    >>> round(usual_full_load_current(7.5 * 745.7, 460, 60), 1)
    11.0
    """
    if frequency < 55:
        rows = table("full_load_amps_50hz")["rows"]
        sizes, amps, reference = [float(k) * 1e3 for k in rows], list(rows.values()), 400.0
    else:
        part = table("full_load_amps")["three_phase"]
        column = part["voltages"].index(460)
        sizes = [float(hp) * HORSEPOWER for hp in part["rows"]]
        amps, reference = [row[column] for row in part["rows"].values()], 460.0
    check_range("rated power", given("power", power, "power"), atleast=sizes[0] * 0.98, upto=sizes[-1] * 1.02)
    return interpolate(power, sizes, amps) * reference / voltage


@method("P = V * I * pf * eta", DERIVED)
def single_phase_power_from_plate(
    voltage: Annotated[Volt, In("", "V")],
    current: Annotated[Ampere, In("full-load amps", "I")],
    power_factor: Annotated[Ratio, In("", "pf")],
    efficiency: Annotated[Ratio, In("", "eta")],
) -> Watt:
    """Shaft power that a single-phase plate's other values imply.

    >>> round(single_phase_power_from_plate(230, 8, 0.9, 0.67))
    1110
    """
    return voltage * current * power_factor * efficiency


@method("I = P / (V * pf * eta)", DERIVED)
def single_phase_current(
    power: Annotated[Watt, In("at the shaft", "P")],
    voltage: Annotated[Volt, In("", "V", above=0)],
    power_factor: Annotated[Ratio, In("", "pf", above=0, upto=1)],
    efficiency: Annotated[Ratio, In("", "eta", above=0, upto=1)],
) -> Ampere:
    """Line current of a single-phase motor at a shaft power.

    >>> round(single_phase_current(1100, 230, 0.9, 0.67), 2)
    7.93
    """
    for name, value in (("voltage", voltage), ("power factor", power_factor), ("efficiency", efficiency)):
        check_range(name, value, above=0)
    return power / (voltage * power_factor * efficiency)
