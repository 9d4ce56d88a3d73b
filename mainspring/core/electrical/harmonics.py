"""What a rectifier does to the supply: harmonics, the reactor against them, and the fault level behind it all."""

import math
from typing import Annotated

from mainspring.core.errors import OutOfRange, check_range, check_whole
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import (
    Ampere,
    FaultAmpere,
    Henry,
    Hertz,
    InputWatt,
    Percent,
    Ratio,
    Var,
    Volt,
    VoltAmpere,
)
from mainspring.core.tables import interpolate, table

_IEEE519_VOLTS = Source("IEEE 519-2014", "table 1, at the point of common coupling, from memory", "standard")
_IEEE519 = Source("IEEE 519-2014", "table 2, 120 V to 69 kV, at the point of common coupling, from memory", "standard")


@method("I_sc = S / (sqrt(3) * V * Z)", DERIVED)
def transformer_fault_current(
    rating: Annotated[VoltAmpere, In("of the transformer", "S")],
    voltage: Annotated[Volt, In("line to line, secondary", "V", above=0)],
    impedance: Annotated[Percent, In("per unit", "Z", above=0)],
) -> FaultAmpere:
    """Short-circuit current at a transformer's terminals, supply behind it taken as infinite.

    >>> round(transformer_fault_current(500e3, 480, 0.05))
    12028
    """
    check_range("transformer impedance", impedance, above=0, upto=1)
    return rating / (math.sqrt(3) * voltage * impedance)


@method("R_sc = I_sc / I_L", DERIVED)
def short_circuit_ratio(
    fault_current: Annotated[FaultAmpere, In("available at the point of common coupling", "I_sc")],
    load_current: Annotated[Ampere, In("maximum demand", "I_L", above=0)],
) -> Ratio:
    """Stiffness of a supply against the load on it.

    >>> round(short_circuit_ratio(12028.13, 250), 2)
    48.11
    """
    return fault_current / load_current


def _row(ratio: float) -> dict[str, float]:
    rows: list[dict[str, float]] = table("harmonics")["ieee519"]
    return next(r for r in reversed(rows) if ratio >= r["from"])


@method("TDD_max = look-up", _IEEE519, words=True)
def demand_distortion_limit(
    short_circuit: Annotated[Ratio, In("short-circuit current over maximum demand")],
) -> Percent:
    """Limit of total demand distortion by the short-circuit ratio.

    >>> float(demand_distortion_limit(48))
    0.08
    """
    check_range("short-circuit ratio", short_circuit, atleast=0)
    return _row(short_circuit)["tdd"] / 100


@method("I_h,max = look-up by ratio and order", _IEEE519, words=True)
def harmonic_limit(
    short_circuit: Annotated[Ratio, In("short-circuit current over maximum demand")],
    order: Annotated[float, In("of the harmonic, odd, 3 to 49")],
) -> Percent:
    """Limit of one odd harmonic current, as a share of maximum demand.

    >>> float(harmonic_limit(30, 5))
    0.07
    """
    check_whole("harmonic order", order, atleast=3, upto=49, step=2)
    band = next(b for limit, b in ((11, "h3"), (17, "h11"), (23, "h17"), (35, "h23"), (51, "h35")) if order < limit)
    return _row(short_circuit)[band] / 100


@method("THD_v = 8 % to 1 kV, 5 % to 69 kV", _IEEE519_VOLTS, words=True)
def voltage_distortion_limit(voltage: Annotated[Volt, In("line to line, up to 69 000")]) -> Percent:
    """Limit of total voltage distortion at the point of common coupling.

    >>> float(voltage_distortion_limit(480))
    0.08
    """
    check_range("voltage", voltage, above=0, upto=69_000)
    return 0.08 if voltage <= 1000 else 0.05


@method(
    "THD_i = √(Σ Iₕ²) of the tabulated harmonics, linear between 0.5, 1, 3 and 5 %",
    Source("published six-pulse table by effective impedance", "from memory, ±3 points", "from memory"),
    words=True,
)
def six_pulse_distortion(
    impedance: Annotated[Percent, In("line, transformer and reactor on the drive's base, 0.5 to 5 %")],
) -> Percent:
    """Current distortion of a six-pulse drive with capacitor bus by the impedance before it.

    >>> round(six_pulse_distortion(0.03), 3)
    0.441
    """
    check_range("effective impedance", impedance, above=0, upto=0.5)
    data = table("harmonics")["six_pulse"]
    nodes = [float(z) / 100 for z in data]
    sums = [math.sqrt(sum(h**2 for h in row)) / 100 for row in data.values()]
    return interpolate(impedance, nodes, sums)


@method("Z = Z_r + Z_s", DERIVED)
def impedance_before_drive(
    reactor: Annotated[Percent, In("line reactor or choke", "Z_r")],
    source: Annotated[Percent, In("of the supply: drive current over fault current", "Z_s")],
) -> Percent:
    """Impedance that holds back the harmonics of a drive, on the drive's own base.

    >>> round(impedance_before_drive(0.03, 0.004), 3)
    0.034
    """
    return reactor + source


@method("TDD = THD * I_1 / I_L", DERIVED)
def demand_distortion(
    distortion: Annotated[Percent, In("of the drive's input current", "THD")],
    drive_current: Annotated[Ampere, In("fundamental", "I_1")],
    demand_current: Annotated[Ampere, In("maximum demand at the point of common coupling", "I_L", above=0)],
) -> Percent:
    """Total demand distortion that one drive brings, the rest of the load being linear.

    >>> round(demand_distortion(0.44, 100, 250), 3)
    0.176
    """
    return distortion * drive_current / demand_current


@method("pf = DPF / sqrt(1 + THD**2)", DERIVED)
def true_power_factor(
    displacement: Annotated[Ratio, In("cosine of the fundamental, about 0.97 for a drive", "DPF")],
    distortion: Annotated[Percent, In("of the current", "THD")],
) -> Ratio:
    """Power factor with harmonics: what the cable feels.

    >>> round(true_power_factor(0.97, 0.44), 4)
    0.8879
    """
    return float(displacement / math.sqrt(1 + distortion**2))


@method("I = I_1 * sqrt(1 + THD**2)", DERIVED)
def rms_with_harmonics(
    fundamental: Annotated[Ampere, In("", "I_1")], distortion: Annotated[Percent, In("of the current", "THD")]
) -> Ampere:
    """Total current from its fundamental and distortion.

    >>> round(rms_with_harmonics(30, 0.44), 2)
    32.78
    """
    return float(fundamental * math.sqrt(1 + distortion**2))


@method("L = Z * V / (sqrt(3) * I * 2 * pi * f)", DERIVED)
def reactor_inductance(
    impedance: Annotated[Percent, In("wanted at that current", "Z")],
    voltage: Annotated[Volt, In("line to line", "V")],
    current: Annotated[Ampere, In("of the drive", "I", above=0)],
    frequency: Annotated[Hertz, In("of the supply", "f", above=0)],
) -> Henry:
    """Inductance of a line reactor of some percent.

    >>> round(reactor_inductance(0.03, 460, 34, 60) * 1000, 3)
    0.622
    """
    return impedance * voltage / (math.sqrt(3) * current * 2 * math.pi * frequency)


@method("Z = sqrt(3) * I * 2 * pi * f * L / V", DERIVED)
def reactor_impedance(
    inductance: Annotated[Henry, In("of the coil", "L")],
    voltage: Annotated[Volt, In("line to line", "V", above=0)],
    current: Annotated[Ampere, In("", "I")],
    frequency: Annotated[Hertz, In("of the supply", "f")],
) -> Percent:
    """Percent impedance of a reactor at a current: the same coil is less at part load.

    >>> round(reactor_impedance(0.6216e-3, 460, 17, 60), 3)
    0.015
    """
    return math.sqrt(3) * current * 2 * math.pi * frequency * inductance / voltage


@method("Q_c = P * (tan(acos(pf_1)) - tan(acos(pf_2)))", DERIVED)
def correction_kvar(
    power: Annotated[InputWatt, In("drawn", "P")],
    power_factor: Annotated[Ratio, In("now", "pf_1")],
    wanted_power_factor: Annotated[Ratio, In("after", "pf_2")],
) -> Var:
    """Capacitors that raise a power factor; never on the output of a drive.

    >>> round(correction_kvar(50e3, 0.8, 0.95))
    21066
    """
    for name, value in (("power factor", power_factor), ("wanted power factor", wanted_power_factor)):
        check_range(name, value, above=0, upto=1)
    return power * (math.tan(math.acos(power_factor)) - math.tan(math.acos(wanted_power_factor)))


@method("V_dc = 3 * sqrt(2) / pi * V", DERIVED)
def bus_voltage_mean(voltage: Annotated[Volt, In("line to line", "V")]) -> Volt:
    """Mean voltage of an ideal six-pulse bridge.

    >>> round(bus_voltage_mean(460), 1)
    621.2
    """
    return 3 * math.sqrt(2) / math.pi * voltage


@method("V_dc = sqrt(2) * V", DERIVED)
def bus_voltage_peak(voltage: Annotated[Volt, In("line to line", "V")]) -> Volt:
    """Voltage to which a lightly loaded bus charges.

    >>> round(bus_voltage_peak(480), 1)
    678.8
    """
    return math.sqrt(2) * voltage


def characteristic_harmonics(pulses: int, upto: int = 19) -> list[int]:
    """Orders k·p ± 1 of a rectifier with p pulses, up to an order.

    >>> characteristic_harmonics(6)
    [5, 7, 11, 13, 17, 19]
    """
    if pulses not in (6, 12, 18, 24):
        raise OutOfRange("pulses", pulses, "6, 12, 18 or 24")
    return sorted(h for k in range(1, upto // pulses + 2) for h in (k * pulses - 1, k * pulses + 1) if h <= upto)
