"""4–20 mA: from engineering value to signal and back."""

from typing import Annotated

from mainspring.core.errors import check_range
from mainspring.core.method import COMMON_PRACTICE, DERIVED, In, Source, method
from mainspring.core.quantity import (
    WATER_20C,
    Acceleration,
    ConductorArea,
    G,
    Hertz,
    KilogramPerCubicMetre,
    Metre,
    MetreHead,
    Ohm,
    Pascal,
    Percent,
    Resistivity,
    SignalAmpere,
    Volt,
)


@method(
    "I = 0.004 + 0.016 * (x - lo) / (hi - lo)",
    Source("IEC 60381-1", "4 to 20 mA analogue signal, from memory", "standard"),
)
def signal_of_pressure(
    pressure: Annotated[Pascal, In("at the transmitter", "x")],
    range_low: Annotated[Pascal, In("value at 4 mA", "lo")],
    range_high: Annotated[Pascal, In("value at 20 mA, above the low end", "hi")],
) -> SignalAmpere:
    """Loop current of a two-wire 4–20 mA transmitter.

    >>> round(signal_of_pressure(60, 0, 150) * 1000, 3)
    10.4
    """
    check_range("upper end of the range", range_high, above=range_low)
    return 0.004 + 0.016 * (pressure - range_low) / (range_high - range_low)


@method(
    "x = lo + (I - 0.004) / 0.016 * (hi - lo)",
    Source("IEC 60381-1", "4 to 20 mA analogue signal, from memory", "standard"),
)
def pressure_of_signal(
    signal: Annotated[SignalAmpere, In("loop current", "I")],
    range_low: Annotated[Pascal, In("value at 4 mA", "lo")],
    range_high: Annotated[Pascal, In("value at 20 mA, above the low end", "hi")],
) -> Pascal:
    """Value that a 4–20 mA loop current stands for.

    >>> round(pressure_of_signal(0.0128, 0, 10), 4)
    5.5
    """
    check_range("upper end of the range", range_high, above=range_low)
    return range_low + (signal - 0.004) / 0.016 * (range_high - range_low)


@method("span = (p - lo) / ((I - 0.004) / 0.016)", DERIVED)
def implied_span(
    pressure: Annotated[Pascal, In("on the gauge", "p")],
    range_low: Annotated[Pascal, In("value at 4 mA", "lo")],
    signal: Annotated[SignalAmpere, In("loop current, above 4.2 mA so that the quotient means something", "I")],
) -> Pascal:
    """Span that a transmitter must have, from a gauge reading and its current at the same moment.

    >>> round(implied_span(400_000, 0, 0.0104))
    1000000
    """
    check_range("signal in mA", signal * 1000, above=4.2)
    return (pressure - range_low) / ((signal - 0.004) / 0.016)


@method("x = (SP - lo) / (hi - lo)", DERIVED)
def percent_of_span(
    setpoint: Annotated[Pascal, In("value", "SP")],
    range_low: Annotated[Pascal, In("value at 4 mA", "lo")],
    range_high: Annotated[Pascal, In("value at 20 mA", "hi")],
) -> Percent:
    """Where a value lies in the transmitter's range.

    >>> round(percent_of_span(62, 0, 100), 3)
    0.62
    """
    check_range("upper end of the range", range_high, above=range_low)
    return (setpoint - range_low) / (range_high - range_low)


@method("p = p_g - rho * g * dz", DERIVED)
def pressure_at_height(
    gauge_pressure: Annotated[Pascal, In("read at the gauge", "p_g")],
    height: Annotated[MetreHead, In("of the point above the gauge", "dz")],
    density: Annotated[KilogramPerCubicMetre, In("of the liquid", "rho")] = WATER_20C,
    gravity: Annotated[Acceleration, In("standard gravity", "g")] = G,
) -> Pascal:
    """Pressure at a point above the gauge.

    >>> round(pressure_at_height(400_000, 3, 1000) / 1000, 3)
    370.58
    """
    return gauge_pressure - density * gravity * height


@method("R_w = 2 * L * r / A", DERIVED)
def loop_wire_resistance(
    length: Annotated[Metre, In("one way", "L")],
    area: Annotated[ConductorArea, In("of one conductor", "A", above=0)],
    resistivity: Annotated[Resistivity, In("copper at 20 °C", "r")] = 1.78e-8,
) -> Ohm:
    """Resistance of both wires of a signal cable.

    >>> round(loop_wire_resistance(300, 1e-6), 2)
    10.68
    """
    return 2 * length * resistivity / area


@method("R = R_w + R_i", DERIVED)
def loop_resistance(
    wire: Annotated[Ohm, In("of both wires", "R_w")],
    input_resistance: Annotated[Ohm, In("of the drive's input", "R_i")],
) -> Ohm:
    """Resistance that a two-wire sensor has to drive.

    >>> float(loop_resistance(10, 250))
    260.0
    """
    return wire + input_resistance


@method(
    "R_max = (V_s - V_min) / I_max", Source("NAMUR NE 43", "alarm current 21.5 mA, not 20, from memory", "standard")
)
def loop_load_limit(
    supply: Annotated[Volt, In("of the loop", "V_s")],
    transmitter_minimum: Annotated[Volt, In("volts the transmitter needs", "V_min")],
    largest_signal: Annotated[SignalAmpere, In("to drive, above 0", "I_max")] = 0.0215,
) -> Ohm:
    """Largest loop resistance a two-wire transmitter can drive.

    >>> round(loop_load_limit(24, 10.5), 1)
    627.9
    """
    check_range("largest signal", largest_signal, above=0)
    return (supply - transmitter_minimum) / largest_signal


@method("x = (v - lo) / (hi - lo)", DERIVED)
def share_of_range(
    value: Annotated[float, In("level, temperature, flow, air pressure …", "v")],
    range_low: Annotated[float, In("at the low end of the signal, the same kind", "lo")],
    range_high: Annotated[float, In("at the high end, above the low end", "hi")],
) -> Percent:
    """Where a value lies in a sensor's range, whatever it measures.

    >>> round(share_of_range(4.0, 0.5, 10.5), 3)
    0.35
    """
    check_range("upper end of the range", range_high, above=range_low)
    return (value - range_low) / (range_high - range_low)


@method("v = lo + x * (hi - lo)", DERIVED, like="range_low")
def value_of_share(
    share_of_range: Annotated[Percent, In("0 at the low end, 1 at the high end", "x")],
    range_low: Annotated[float, In("at the low end of the signal", "lo")],
    range_high: Annotated[float, In("at the high end, the same kind", "hi")],
) -> float:
    """What a display should show at a share of a sensor's range, whatever it measures.

    >>> value_of_share(0.25, 0.0, 16e5)
    400000.0
    """
    return range_low + share_of_range * (range_high - range_low)


@method("f = x * f_b", COMMON_PRACTICE)
def frequency_of_reference(
    share: Annotated[Percent, In("of the signal's span", "x")],
    base_frequency: Annotated[Hertz, In("at the full signal", "f_b")],
) -> Hertz:
    """Frequency that a scaled speed signal asks for: 0 V is 0 Hz, 5 V 30 Hz, 10 V 60 Hz on a 60 Hz motor.

    >>> frequency_of_reference(0.5, 60.0)
    30.0
    """
    return share * base_frequency


@method("f = min(max(f_w, f_low), f_high)", COMMON_PRACTICE)
def between_limits(
    wanted: Annotated[Hertz, In("what it is told", "f_w")],
    lowest: Annotated[Hertz, In("speed in force", "f_low")],
    highest: Annotated[Hertz, In("speed in force", "f_high")],
) -> Hertz:
    """Frequency that a drive gives when it is told one: never below its lowest speed, never above its highest.

    Raises
    ------
    OutOfRange : the lowest speed is above the highest

    >>> between_limits(60.0, 20.0, 55.0)
    55.0
    """
    check_range("lowest speed", lowest, upto=highest)
    return min(max(wanted, lowest), highest)


@method("I = 0.004 + 0.016 * x", Source("IEC 60381-1", "4 to 20 mA analogue signal, from memory", "standard"))
def signal_of_share(share_of_range: Annotated[Percent, In("0 to 1 within the range", "x")]) -> SignalAmpere:
    """Loop current of a 4–20 mA transmitter at a share of its range.

    >>> round(signal_of_share(0.35) * 1000, 2)
    9.6
    """
    return 0.004 + 0.016 * share_of_range


@method("U = U_0 + (10 - U_0) * x", DERIVED)
def volts_of_share(
    share_of_range: Annotated[Percent, In("0 to 1 within the range", "x")],
    zero_volts: Annotated[Volt, In("0, or 2 for a live zero", "U_0")] = 0.0,
) -> Volt:
    """Volts of a 0–10 V or 2–10 V sensor at a share of its range.

    >>> float(volts_of_share(0.375, 2.0))
    5.0
    """
    return zero_volts + (10 - zero_volts) * share_of_range


@method("v = lo + (U - U_0) / (U_1 - U_0) * (hi - lo)", DERIVED, like="range_low")
def value_of_volts(
    voltage: Annotated[float, In("at the input", "U")],
    range_low: Annotated[float, In("value at the zero voltage", "lo")],
    range_high: Annotated[float, In("value at the full voltage", "hi")],
    zero_volts: Annotated[float, In("0, or 2 for a 2–10 V signal", "U_0")] = 0.0,
    full_volts: Annotated[float, In("above the zero voltage", "U_1")] = 10.0,
) -> float:
    """Value that a voltage signal stands for, in the unit of the range.

    >>> round(value_of_volts(6.2, -50, 450), 3)
    260.0
    """
    check_range("full volts", full_volts, above=zero_volts)
    return range_low + (voltage - zero_volts) / (full_volts - zero_volts) * (range_high - range_low)


@method(
    "dx = (hi - lo) / ((2**b - 1) * 0.8)",
    Source("a 0–20 mA converter of b bits on a 4–20 mA signal uses four fifths of its counts", kind="derived"),
)
def input_resolution(
    range_low: Annotated[float, In("value at 4 mA", "lo")],
    range_high: Annotated[float, In("value at 20 mA, above the low end", "hi")],
    bits: Annotated[float, In("of the converter, 8 to 16", "b")] = 12.0,
) -> float:
    """Smallest step an analogue input can tell, in the unit of the range.

    >>> round(input_resolution(0, 10), 5)
    0.00305
    """
    check_range("upper end of the range", range_high, above=range_low)
    check_range("bits of the input", bits, atleast=8, upto=16)
    return (range_high - range_low) / ((2**bits - 1) * 0.8)


@method("U = I * R", DERIVED)
def loop_volts(
    signal: Annotated[SignalAmpere, In("loop current", "I")],
    resistance: Annotated[float, In("of the input or shunt", "R")],
) -> float:
    """Volts of a loop current across a resistor [V].

    >>> float(loop_volts(0.020, 250))
    5.0
    """
    return signal * resistance


@method("e = sqrt(a**2 + b**2 + c**2)", Source("root sum of squares of independent errors", kind="derived"))
def combined_error(
    accuracy: Annotated[Percent, In("of the sensor", "a")],
    temperature_effect: Annotated[Percent, In("", "b")],
    converter: Annotated[Percent, In("of the input", "c")],
) -> Percent:
    """Error of a measuring chain as a share of span.

    >>> round(combined_error(0.005, 0.004, 0.002), 5)
    0.00671
    """
    return float((accuracy**2 + temperature_effect**2 + converter**2) ** 0.5)


def signal_state(signal: float) -> str:
    """Class of a 4–20 mA current by NAMUR NE 43: failure-low, undefined-low, under-range, normal, over-range, …

    Parameters
    ----------
    signal : loop current [A]

    Examples
    --------
    >>> signal_state(0.0035)
    'failure-low'
    """
    milliamps = signal * 1000
    bounds = (
        (3.6, "failure-low"),
        (3.8, "undefined-low"),
        (4.0, "under-range"),
        (20.0, "normal"),
        (20.5, "over-range"),
    )
    if milliamps <= 3.6:
        return "failure-low"
    for limit, name in bounds[1:3]:
        if milliamps < limit:
            return name
    for limit, name in bounds[3:]:
        if milliamps <= limit:
            return name
    return "undefined-high" if milliamps < 21.0 else "failure-high"
