"""What the trade goes by at sensors and their loops."""

from mainspring.core.method import Source
from mainspring.core.practice.value import band, practice

_NAMUR = Source("NAMUR NE 43", "from memory", "standard")

BROKEN = practice("broken_wire", 0.0036, "signal", "Signal of a broken wire, below", source=_NAMUR)
AT_ZERO = practice("signal_at_zero", 0.0042, "signal", "Signal that stands at its zero, up to")
PROOF_WITHIN = practice("proof_within", 0.02, "percent", "Signal off the gauge's, share of the span")
LABEL_WITHIN = practice("label_within", 0.01, "percent", "Label off the box, within")
STANDARD_WITHIN = practice("standard_within", 0.06, "percent", "Span taken for a standard range, within")
STANDARD_RANGES = tuple(  # the usual steps of transmitter ranges
    practice(f"standard_range_{bar:g}", bar * 1e5, "pressure", f"Standard range, {bar:g} bar")
    for bar in (1.0, 1.6, 2.5, 4.0, 6.0, 10.0, 16.0, 25.0, 40.0)
)
SETPOINT = band("setpoint_share", 0.2, 0.9, "percent", "Setpoint over the sensor's range")
SETPOINT_USUAL = band("setpoint_usual", 0.5, 0.8, "percent", "Setpoint over the range, usual")
STEP = practice("input_step", 0.005, "percent", "One step of the input over the setpoint, most")
BITS = practice("input_bits", 12.0, "count", "Bits of an input, usual of drives")
OVERPRESSURE = practice("sensor_overpressure", 2.0, "ratio", "Pressure that a transmitter stands over its range")
LOOP_CABLE = practice("loop_cable", 90.0, "length", "Cable of a current signal, longest", own=(10.0, 1000.0))
VOLTS_CABLE = practice("volts_cable", 30.0, "length", "Cable of a voltage signal, longest", own=(5.0, 100.0))
CABLE_AREA = practice("signal_cable_area", 0.75e-6, "conductor_area", "Conductor of signal cable, usual")
LOOP_SUPPLY = practice("loop_supply", 24.0, "voltage", "Supply of a loop, usual of drives")
TRANSMITTER_LEAST = practice("transmitter_least", 10.0, "voltage", "Volts that a two-wire sensor needs, usual")
INPUT_RESISTANCE = practice("input_resistance", 250.0, "resistance", "Resistance of a current input, usual of drives")
APART = practice("cables_apart", 0.3, "diameter", "Signal from power cable where they run side by side", own=(0.1, 1.0))
NEAR_TANK = practice("near_tank", 3.0, "length", "Pressure sensor from the tank, most", own=(0.5, 10.0))
