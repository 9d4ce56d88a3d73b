"""Heat of the drive: what the enclosure sheds, the air it needs, and what heat costs in life."""

import math
from typing import Annotated, NamedTuple

from mainspring.core.errors import OutOfRange, check_range
from mainspring.core.method import COMMON_PRACTICE, DERIVED, In, Source, given, method
from mainspring.core.quantity import (
    AirFlow,
    Ampere,
    CarrierHertz,
    DegC,
    ElectronVolt,
    Heat,
    HeatCapacity,
    HeatTransfer,
    Kelvin,
    KilogramPerCubicMetre,
    Metre,
    Ratio,
    SquareMetre,
    Watt,
    Year,
)
from mainspring.core.tables import interpolate, table

_BOX = Source("IEC TR 60890 / VDE 0660-507", "effective cooling surface, from memory", "standard")

# share of each face that cools: (front and back, the two sides, top) of W x H, D x H, W x D
INSTALLATIONS: dict[str, str] = {
    "free": "free all round",
    "wall": "against a wall",
    "row_end": "end of a row, free",
    "row_end_wall": "end of a row, at a wall",
    "row_mid": "middle of a row, free",
    "row_mid_wall": "middle of a row, at a wall",
}
BOLTZMANN = 8.617333262e-5  # eV/K, exact by definition of the units
STEEL_STIRRED, STEEL_STILL, PLASTIC = 5.5, 4.2, 3.5  # W/(m²·K)


@method(
    "A = faces weighted by how they stand: free 1.8·H·(W + D) + 1.4·W·D, at a wall 1.4·W·(H + D) + 1.8·D·H, …",
    _BOX,
    words=True,
)
def enclosure_area(
    width: Annotated[Metre, In("", above=0)],
    height: Annotated[Metre, In("", above=0)],
    depth: Annotated[Metre, In("", above=0)],
    installation: Annotated[str, In("free, wall, row_end, row_end_wall, row_mid or row_mid_wall")] = "wall",
) -> SquareMetre:
    """Effective cooling surface of a closed enclosure.

    Raises
    ------
    OutOfRange : a size not above 0, an installation that is not listed

    >>> round(enclosure_area(0.6, 1.0, 0.4, "wall"), 3)
    1.896
    """
    w, h, d = width, height, depth
    for name, size in (("width", w), ("height", h), ("depth", d)):
        check_range(f"enclosure {name}", size, above=0)
    areas = {
        "free": 1.8 * h * (w + d) + 1.4 * w * d,
        "wall": 1.4 * w * (h + d) + 1.8 * d * h,
        "row_end": 1.4 * d * (h + w) + 1.8 * w * h,
        "row_end_wall": 1.4 * h * (w + d) + 1.4 * w * d,
        "row_mid": 1.8 * w * h + 1.4 * w * d + d * h,
        "row_mid_wall": 1.4 * w * (h + d) + d * h,
    }
    if installation not in areas:
        raise OutOfRange("installation", installation, ", ".join(areas))
    return areas[installation]


@method("dT = Q / (k * A)", _BOX)
def enclosure_rise(
    heat: Annotated[Heat, In("given off inside", "Q")],
    area: Annotated[SquareMetre, In("effective cooling surface", "A", above=0)],
    transfer: Annotated[
        HeatTransfer, In("5.5 painted steel with stirred air, about 4.2 unstirred, 3.5 plastic", "k")
    ] = STEEL_STIRRED,
) -> Kelvin:
    """Temperature rise of the air inside a sealed enclosure.

    >>> round(enclosure_rise(100, 1.896), 2)
    9.59
    """
    check_range("heat transfer", transfer, above=0)
    return heat / (transfer * area)


@method("Q = k * A * dT", _BOX)
def enclosure_heat_limit(
    rise: Annotated[Kelvin, In("of the air inside", "dT")],
    area: Annotated[SquareMetre, In("effective cooling surface", "A")],
    transfer: Annotated[HeatTransfer, In("by wall and stirring", "k")] = STEEL_STIRRED,
) -> Heat:
    """Heat that a sealed enclosure sheds at a temperature rise.

    >>> round(enclosure_heat_limit(15, 1.896), 1)
    156.4
    """
    return transfer * area * rise


@method("V = Q / (rho * c_p * dT)", DERIVED)
def ventilation_flow(
    heat: Annotated[Heat, In("to be carried off", "Q")],
    rise: Annotated[Kelvin, In("allowed between inlet and outlet", "dT", above=0)],
    density: Annotated[KilogramPerCubicMetre, In("of the air", "rho")] = 1.2,
    heat_capacity: Annotated[HeatCapacity, In("of air", "c_p")] = 1006.0,
) -> AirFlow:
    """Air that carries a heat away at a temperature rise; add a third for a dirty filter.

    >>> round(ventilation_flow(300, 10) * 3600, 1)
    89.5
    """
    return heat / (density * heat_capacity * rise)


@method("dT = Q / (rho * c * V)", DERIVED)
def ventilation_rise(
    heat: Annotated[Heat, In("to be carried off", "Q", atleast=0)],
    air_flow: Annotated[AirFlow, In("through the box", "V", above=0)],
    density: Annotated[KilogramPerCubicMetre, In("of the air", "rho", above=0)] = 1.2,
    heat_capacity: Annotated[HeatCapacity, In("of air", "c", above=0)] = 1006.0,
) -> Kelvin:
    """Rise of the air that carries a heat away.

    >>> round(ventilation_rise(300, 89.5 / 3600), 2)
    10.0
    """
    return heat / (density * heat_capacity * air_flow)


@method("T_i = T + dT", Source("sum", kind="derived"))
def air_inside(
    ambient_degc: Annotated[DegC, In("outside the box", "T")], rise: Annotated[Kelvin, In("inside over outside", "dT")]
) -> DegC:
    """Air round a drive in its box.

    >>> float(air_inside(30, 12))
    42.0
    """
    return ambient_degc + rise


@method("V = 3.1 * Q / dT / 3600", Source("rule of panel builders, up to 100 m altitude", kind="common practice"))
def ventilation_rule(
    heat: Annotated[Heat, In("to be carried off", "Q")], rise: Annotated[Kelvin, In("allowed", "dT", above=0)]
) -> AirFlow:
    """Air for a ventilated enclosure by the usual rule, 3.1 m³/h per W and K.

    >>> round(ventilation_rule(300, 10) * 3600, 1)
    93.0
    """
    return 3.1 * heat / rise / 3600


@method(
    "L = 2**(-dT / 10)",
    Source("Montsinger rule", "life halves for each 10 K, as for capacitors and insulation", "handbook"),
)
def life_factor(rise: Annotated[Kelvin, In("over the rated temperature; negative below it", "dT")]) -> Ratio:
    """Expected life against life at rated temperature.

    >>> round(life_factor(12), 4)
    0.4353
    """
    return float(2 ** (-rise / 10))


@method("L = exp(E / k · (1/T2 − 1/T1))", Source("Arrhenius", kind="law"), words=True)
def arrhenius_life(
    first_degc: Annotated[float, In("reference temperature")],
    second_degc: Annotated[float, In("new temperature")],
    activation_ev: Annotated[float, In("activation energy")] = 1.0,
) -> Ratio:
    """Life at a second temperature against life at a first.

    >>> round(arrhenius_life(105, 120), 4)
    0.3101
    """
    return math.exp(activation_ev / BOLTZMANN * (1 / (second_degc + 273.15) - 1 / (first_degc + 273.15)))


@method(
    "P_ref = look-up by motor size, linear between sizes",
    Source(
        "IEC 61800-9-2:2017 / EU 2019/1781", "reference loss at 90 % frequency, 100 % torque, from memory", "standard"
    ),
    words=True,
)
def reference_drive_loss(motor_power: Annotated[Watt, In("rated power of the motor, 0.12 to 200 kW")]) -> Heat:
    """Loss of the reference drive of the efficiency classes: generous, real drives lose about half.

    >>> round(reference_drive_loss(7500))
    581
    """
    rows = table("drive_reference_loss")["rows"]
    sizes = [float(k) for k in rows]
    check_range("motor power", given("power", motor_power, "power"), atleast=sizes[0] * 1e3, upto=sizes[-1] * 1e3)
    return interpolate(motor_power / 1e3, sizes, [r[1] for r in rows.values()]) * 1e3


class ClassBand(NamedTuple):
    """Losses between which a drive is of class IE1."""

    best: Heat
    worst: Heat


@method(
    "P_IE1 = 0.75·P_ref and 1.25·P_ref: below is IE2, above IE0",
    Source("IEC 61800-9-2:2017", "classes of complete drive modules, from memory", "standard"),
    words=True,
)
def drive_class_losses(
    reference_loss: Annotated[Heat, In("of the reference drive of that size", above=0)],
) -> ClassBand:
    """Losses at 90 % frequency and full torque that part the efficiency classes of drives.

    >>> [float(loss) for loss in drive_class_losses(581)]
    [435.75, 726.25]
    """
    return ClassBand(0.75 * reference_loss, 1.25 * reference_loss)


@method(
    "E = k · ln(2) / (1/T1 − 1/T2), temperatures from absolute zero",
    Source("IEEE 101", "Arrhenius, from memory", "standard"),
    words=True,
)
def activation_energy(
    first_degc: Annotated[DegC, In("cooler one")], second_degc: Annotated[DegC, In("warmer one, at which life is half")]
) -> ElectronVolt:
    """Activation energy of an ageing that halves the life from a first to a second temperature.

    Raises
    ------
    OutOfRange : the second is not the warmer one

    >>> round(activation_energy(130, 140), 4)
    0.9949
    """
    check_range("second temperature", second_degc, above=first_degc)
    return BOLTZMANN * math.log(2) / (1 / (first_degc + 273.15) - 1 / (second_degc + 273.15))


@method(
    "k_c = (sqrt((x * f / f_0)**2 + 4 * (1 - x)) - x * f / f_0) / (2 * (1 - x))",
    Source("equal loss: conduction with I², switching with f·I; the drive's manual governs", kind="derived"),
)
def carrier_derating(
    carrier: Annotated[CarrierHertz, In("wanted", "f")],
    rated_carrier: Annotated[CarrierHertz, In("of the drive's rating", "f_0")] = 4000.0,
    switching_share: Annotated[
        Ratio, In("share of switching loss in the drive's loss at the rated carrier", "x")
    ] = 0.4,
) -> Ratio:
    """Share of rated amps left at a higher carrier frequency, at equal loss.

    Raises
    ------
    OutOfRange : carrier outside 1 to 16 kHz

    >>> round(carrier_derating(8000), 3)
    0.786
    """
    check_range("carrier in kHz", carrier / 1e3, atleast=1, upto=16)
    check_range("switching share", switching_share, atleast=0, below=1)
    conduction, switching = 1 - switching_share, switching_share * carrier / rated_carrier
    return (math.sqrt(switching**2 + 4 * conduction) - switching) / (2 * conduction)


@method(
    "T_max = 40 - r * max(0, Z - 1000) / 100 * 0.01",
    Source("IEC 60034-1", "8.10, 1 % of the rise limit per 100 m over 1000 m, from memory", "standard"),
)
def motor_ambient_at_altitude(
    rise_limit: Annotated[Kelvin, In("of the insulation class: B 80, F 105, H 125", "r")],
    altitude: Annotated[Metre, In("up to 4000", "Z")],
) -> DegC:
    """Hottest air in which a motor may give its rated power at an altitude.

    >>> round(motor_ambient_at_altitude(80, 2000), 1)
    32.0
    """
    check_range("altitude in m", altitude, atleast=-500, upto=4000)
    return 40 - rise_limit * max(0.0, altitude - 1000) / 100 * 0.01


@method("I_1 = 1.7320508075688772 * I_3", Source("equal input power on one phase", kind="derived"))
def single_phase_input_current(three_phase: Annotated[Ampere, In("input current on three phases", "I_3")]) -> Ampere:
    """Input current of a drive fed from one phase for the same output.

    >>> round(single_phase_input_current(22), 2)
    38.11
    """
    return 3**0.5 * three_phase


@method("I_d = I_m / k", COMMON_PRACTICE)
def single_phase_drive_current(
    motor_current: Annotated[Ampere, In("full-load amps", "I_m")],
    share: Annotated[
        Ratio, In("of its rating that a drive keeps on one phase; makers' figures run from 0.35 to 0.5", "k")
    ] = 0.5,
) -> Ampere:
    """Three-phase rating a drive needs when it is fed from one phase.

    >>> float(single_phase_drive_current(22))
    44.0
    """
    check_range("share kept", share, above=0, upto=1)
    return motor_current / share


@method("V = 1.35 * V_0", COMMON_PRACTICE)
def flow_with_dirty_filter(clean_flow: Annotated[AirFlow, In("needed", "V_0")]) -> AirFlow:
    """Air to plan for, so that a dirty filter still lets enough through.

    >>> float(flow_with_dirty_filter(0.1))
    0.135
    """
    return 1.35 * clean_flow


@method("Y = L * Y_0", COMMON_PRACTICE)
def life_left(
    factor: Annotated[Ratio, In("life against life at rated temperature", "L")],
    design_life: Annotated[Year, In("8 to 10 at rated temperature", "Y_0")],
) -> Year:
    """Years to expect of a drive at its temperature.

    >>> float(life_left(0.5, 10))
    5.0
    """
    return factor * design_life
