"""Drive efficiency and the heat it must shed."""

from typing import Annotated

from mainspring.core.errors import check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import HORSEPOWER, Heat, InputWatt, Percent, Ratio, Watt
from mainspring.core.tables import interpolate, table


@method(
    "eta_d = look-up, linear in load and in size; the end values beyond 3 and 400 hp",
    Source("US DOE motor tip sheet 11", "class of generic drive efficiencies, public", "guideline"),
    words=True,
)
def drive_efficiency(
    rated_power: Annotated[Watt, In("of the drive; beyond the table's 3 to 400 hp the nearest row", above=0)],
    load: Annotated[Ratio, In("output power over rated power; below 1.6 % the first column", atleast=0)],
) -> Percent:
    """Efficiency of a generic pulse-width modulated drive at part load.

    Raises
    ------
    OutOfRange : load negative or above 1.5

    >>> round(drive_efficiency(25 * 745.69987, 0.5), 4)
    0.95
    """
    check_range("drive load", load, atleast=0, upto=1.5)
    data = table("drive_efficiency")
    sizes = [float(s) for s in data["rows"]]
    at_load = [interpolate(load, data["loads"], row) for row in data["rows"].values()]
    return interpolate(rated_power / HORSEPOWER, sizes, at_load)


@method("Q = P * (1 / eta - 1)", DERIVED)
def drive_heat(
    output_power: Annotated[InputWatt, In("to the motor", "P")],
    efficiency: Annotated[Percent, In("of the drive", "eta", above=0, upto=1)],
) -> Heat:
    """Heat that a drive puts into its surroundings.

    >>> round(drive_heat(22000, 0.97), 1)
    680.4
    """
    return output_power * (1 / efficiency - 1)


@method("P_1 = P_2 / eta", DERIVED)
def motor_input(
    shaft_power: Annotated[Watt, In("", "P_2")],
    efficiency: Annotated[Percent, In("of the motor", "eta", above=0, upto=1)],
) -> InputWatt:
    """Electrical power into a motor: what the drive has to give.

    >>> round(motor_input(7500, 0.9))
    8333
    """
    return shaft_power / efficiency
