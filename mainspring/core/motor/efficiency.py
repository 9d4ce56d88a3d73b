"""Motor efficiency by class and size, and how it falls at part load."""

import itertools
import math
from typing import Annotated, NamedTuple

from mainspring.core.errors import NoSolution, OutOfRange, check_range
from mainspring.core.method import In, Source, given, method
from mainspring.core.practice.supply import BETWEEN_REGIONS
from mainspring.core.quantity import HORSEPOWER, Count, Hertz, Percent, Ratio, Watt
from mainspring.core.tables import table

_IEC = Source("IEC 60034-30-1:2014", "nominal limits at 50 Hz, from memory, confirmed against the fit", "standard")
_MG1 = Source("NEMA MG-1", "tables 12-11 and 12-12, 60 Hz, from memory", "standard")
_TWO_LOSS = Source("IEC TS 60034-31", "two-loss interpolation, from memory", "standard")


@method("eta_IE = look-up by class, poles and size", _IEC, words=True)
def ie_efficiency(
    power: Annotated[Watt, In("rated power, a size of the table")],
    poles: Annotated[Count, In("2, 4, 6 or 8")],
    ie_class: Annotated[str, In("IE1, IE2, IE3 or IE4")],
) -> Percent:
    """Nominal efficiency limit of an IE class at 50 Hz for a listed size.

    Raises
    ------
    OutOfRange : class, poles or size not in the table (use ie_efficiency_fit between sizes)

    >>> float(ie_efficiency(7500, 4, "IE3"))
    0.904
    """
    data = table("motor_efficiency")
    column = _pole_column(data["iec"], ie_class, poles)
    for size, percent in zip(data["iec_kw"], column, strict=True):
        if abs(power / 1000 / size - 1) < 0.005:
            return float(percent) / 100
    raise OutOfRange("rated power in kW", power / 1000, "a size of the table: " + ", ".join(map(str, data["iec_kw"])))


def _pole_column(classes: dict[str, dict[str, list[float]]], ie_class: str, poles: float) -> list[float]:
    try:
        columns = classes[ie_class]
    except KeyError:
        raise OutOfRange("efficiency class", ie_class, ", ".join(classes)) from None
    try:
        return columns[f"{poles:.0f}"]
    except KeyError:
        raise OutOfRange("poles", poles, ", ".join(columns)) from None


@method("eta_IE = (A·x³ + B·x² + C·x + D) / 100 with x = log10(P / 1 kW)", _IEC, words=True)
def ie_efficiency_fit(
    power: Annotated[Watt, In("rated power, 750 to 200 000")],
    poles: Annotated[Count, In("2, 4, 6 or 8")],
    ie_class: Annotated[str, In("IE1, IE2, IE3 or IE4")],
) -> Percent:
    """Nominal efficiency limit of an IE class at 50 Hz at any size from 0.75 to 200 kW.

    Raises
    ------
    OutOfRange : outside the fit

    >>> round(ie_efficiency_fit(10_000, 4, "IE3"), 6)
    0.911831
    """
    check_range("rated power", given("power", power, "power"), atleast=750, upto=200e3)
    fits = table("motor_efficiency")["iec_fit"]
    key = f"{ie_class}/{poles:.0f}"
    if key not in fits:
        raise OutOfRange("class and poles", key, ", ".join(fits))
    a, b, c, d = fits[key]
    x = math.log10(power / 1000)
    return float(((a * x + b) * x + c) * x + d) / 100


@method("eta_NEMA = look-up by table, enclosure, poles, size", _MG1, words=True)
def nema_efficiency(
    power: Annotated[Watt, In("rated power, a horsepower size of the table")],
    poles: Annotated[Count, In("2, 4, 6 (8 in table 12-11)")],
    enclosure: Annotated[str, In("TEFC or ODP")] = "TEFC",
    grade: Annotated[str, In("premium or energy_efficient")] = "premium",
) -> Percent:
    """Nominal full-load efficiency of a 60 Hz motor, premium (12-12) or energy efficient (12-11).

    Raises
    ------
    OutOfRange : not in the table

    >>> round(nema_efficiency(25 * 745.69987, 4), 4)
    0.936
    """
    data = table("motor_efficiency")
    tables = {"premium": data["nema_premium"], "energy_efficient": data["nema_energy_efficient"]}
    if grade not in tables:
        raise OutOfRange("grade", grade, ", ".join(tables))
    column = _pole_column(tables[grade], enclosure, poles)
    for size, percent in zip(data["nema_hp"], column, strict=True):
        if abs(power / HORSEPOWER / size - 1) < 0.005:
            return float(percent) / 100
    raise OutOfRange(
        "rated power in hp", power / HORSEPOWER, "a size of the table: " + ", ".join(map(str, data["nema_hp"]))
    )


@method(
    "eta_min = look-up on the ladder of nominal efficiencies: 20 % more loss",
    Source("NEMA MG-1", "table 12-10, from memory", "standard"),
    words=True,
)
def nema_minimum_efficiency(nominal: Annotated[Percent, In("nominal efficiency, a rung of the ladder")]) -> Percent:
    """Guaranteed minimum efficiency that goes with a nominal one.

    >>> float(nema_minimum_efficiency(0.917))
    0.902
    """
    ladder: list[list[float]] = table("motor_efficiency")["nema_minimum"]
    for rung, minimum in ladder:
        if abs(rung / 100 - nominal) < 0.0004:
            return minimum / 100
    raise OutOfRange(
        "nominal efficiency", nominal, "a rung of table 12-10: " + ", ".join(f"{r[0]:g} %" for r in ladder)
    )


class LossSplit(NamedTuple):
    """Losses over rated power at full load: the constant part and the part that grows with load squared."""

    constant: Ratio
    load_dependent: Ratio


@method("v = v_L = [(1/η100 - 1) - 0.75 (1/η75 - 1)] / 0.4375; v_0 = (1/η100 - 1) - v_L", _TWO_LOSS, words=True)
def loss_split(
    efficiency_full: Annotated[Percent, In("at full load", "η100", above=0, below=1)],
    efficiency_75: Annotated[Percent, In("at three quarters load", "η75", above=0, below=1)],
) -> LossSplit:
    """Constant and load-dependent losses of a motor from its efficiency at 100 % and 75 % load.

    Raises
    ------
    NoSolution : the pair is inconsistent (a loss would be negative)

    >>> [round(v, 6) for v in loss_split(0.936, 0.941)]
    [0.019572, 0.048804]
    """
    full = 1 / efficiency_full - 1
    load_dependent = (full - 0.75 * (1 / efficiency_75 - 1)) / 0.4375
    constant = full - load_dependent
    if constant < 0 or load_dependent < 0:
        raise NoSolution(
            f"efficiencies {efficiency_full * 100:.1f} % at full and {efficiency_75 * 100:.1f} % at 75 % load do not"
            " fit one motor: a loss would be negative"
        )
    return LossSplit(constant, load_dependent)


@method("eta_m = 1 / (1 + v_0 / L + v_L * L)", _TWO_LOSS)
def part_load_efficiency(
    load: Annotated[Ratio, In("shaft power over rated power", "L", above=0)],
    constant_loss: Annotated[Ratio, In("constant losses over rated power", "v_0", atleast=0)],
    load_loss: Annotated[Ratio, In("load-dependent losses at full load over rated power", "v_L", atleast=0)],
) -> Percent:
    """Motor efficiency at part load by the two-loss model.

    Raises
    ------
    OutOfRange : load not above 0 or above 2

    >>> round(part_load_efficiency(0.5, 0.0195723511, 0.0488037172), 5)
    0.94025
    """
    check_range("motor load", load, above=0, upto=2)
    return 1 / (1 + constant_loss / load + load_loss * load)


@method(
    "P_v = (v_0 * s**1.2 + v_L * T**2) * P_r",
    Source(
        "two losses of a motor on a drive: iron and windage by speed, copper by torque", "1.2 from memory", "derived"
    ),
)
def motor_loss_at_speed(
    constant_loss: Annotated[Ratio, In("constant losses over rated power", "v_0")],
    load_loss: Annotated[Ratio, In("load-dependent losses at full load over rated power", "v_L")],
    speed_ratio: Annotated[Ratio, In("of rated speed", "s", atleast=0)],
    torque_ratio: Annotated[Ratio, In("torque over rated torque, 0 to 2", "T")],
    rated_power: Annotated[Watt, In("", "P_r")],
) -> Watt:
    """Loss of a motor on a drive: what is constant at full speed falls with speed, between f and f² of iron.

    >>> round(motor_loss_at_speed(0.02, 0.05, 1.0, 1.0, 10000), 3)
    700.0
    """
    check_range("torque ratio", torque_ratio, atleast=0, upto=2)
    return (constant_loss * math.pow(speed_ratio, 1.2) + load_loss * torque_ratio**2) * rated_power


@method("L_best = sqrt(v_0 / v_L)", _TWO_LOSS)
def best_load(
    constant_loss: Annotated[Ratio, In("constant losses over rated power", "v_0")],
    load_loss: Annotated[Ratio, In("load-dependent losses at full load over rated power", "v_L", above=0)],
) -> Ratio:
    """Load at which a motor's efficiency peaks.

    >>> round(best_load(0.0195723511, 0.0488037172), 4)
    0.6333
    """
    return math.sqrt(constant_loss / load_loss)


@method("pf = cos(atan(tan(acos(pf_r)) / L))", Source("constant magnetising current model", kind="common practice"))
def part_load_power_factor(
    rated_power_factor: Annotated[Ratio, In("of the plate", "pf_r", above=0, below=1)],
    load: Annotated[Ratio, In("shaft power over rated power", "L", above=0)],
) -> Ratio:
    """Power factor of an induction motor at part load, magnetising current held constant.

    >>> round(part_load_power_factor(0.85, 0.5), 3)
    0.628
    """
    return math.cos(math.atan(math.tan(math.acos(rated_power_factor)) / load))


@method(
    "eta_class = the table of the class: IE at 50 Hz (fit between sizes), NEMA at 60 Hz (the nearer size between two)",
    Source("IEC 60034-30-1 / NEMA MG-1 table 12-12", "from memory", "standard"),
    words=True,
)
def class_efficiency(
    power: Annotated[Watt, In("rated power")],
    poles: Annotated[Count, In("number of poles")],
    ie_class: Annotated[str, In("IE1 to IE4")],
    frequency: Annotated[
        Hertz, In("50 or 60 Hz; at 60 Hz IE3 is NEMA premium, IE2 energy efficient, and the others have no table")
    ] = 50.0,
) -> Percent:
    """Full-load efficiency that a motor of this class and size should carry on its plate.

    Raises
    ------
    OutOfRange : the tables do not cover it

    >>> round(class_efficiency(2200, 4, "IE3", 60.0), 3)
    0.895
    """
    if frequency < BETWEEN_REGIONS:
        try:
            return float(ie_efficiency(power, poles, ie_class))
        except OutOfRange:
            return float(ie_efficiency_fit(power, poles, ie_class))
    grades = {"IE3": "premium", "IE2": "energy_efficient"}
    if ie_class not in grades:
        raise OutOfRange("efficiency class at 60 Hz", ie_class, ", ".join(grades))
    return float(nema_efficiency(listed_horsepower(power), poles, "TEFC", grades[ie_class]))


@method(
    "P_l = the nearer of the two sizes of the table about it; half-way up, the larger",
    Source("10 CFR 431.25", "ratings between two listed horsepowers, from memory", "standard"),
    words=True,
)
def listed_horsepower(
    power: Annotated[Watt, In("rated power, from half the smallest to the largest size of the table")],
) -> Watt:
    """Size by which the 60 Hz tables judge a motor between two of theirs.

    Raises
    ------
    OutOfRange : beyond the table

    >>> round(listed_horsepower(2200) / 745.69987, 6)
    3.0
    """
    sizes = [float(size) * HORSEPOWER for size in table("motor_efficiency")["nema_hp"]]
    largest = sizes[-1] * 1.005
    check_range("rated power in hp", power / HORSEPOWER, atleast=sizes[0] / HORSEPOWER / 2, upto=largest / HORSEPOWER)
    for smaller, larger in itertools.pairwise(sizes):
        if power < (smaller + larger) / 2:
            return smaller
    return sizes[-1]
