"""What the trade goes by at the supply."""

from mainspring.core.method import Source
from mainspring.core.practice.value import band, practice

_VOLTS = Source("NEMA MG-1 12.44 / IEC 60038", "±10 % of the rated voltage, from memory", "standard")
_BALANCE = Source("NEMA MG-1", "14.36, from memory", "standard")

VOLTS_OFF = practice("supply_volts_off", 0.10, "percent", "Supply off the rated volts, most", source=_VOLTS)
OTHER_TAP = band("other_tap", 1.6, 2.2, "ratio", "Volts of the other transformer tap over the drive's")
UNBALANCE = practice(
    "unbalance_allowed", 0.02, "percent", "Voltage unbalance without a line reactor, most", own=(0.005, 0.05)
)
UNBALANCE_STOP = practice("unbalance_stop", 0.05, "percent", "Voltage unbalance at which nothing runs", source=_BALANCE)
TWO_HOT = band("two_hot_wires", 200.0, 250.0, "voltage", "Single-phase volts between two live wires at 60 Hz")
BETWEEN_REGIONS = practice("between_regions", 55.0, "frequency", "Frequency between the 50 and the 60 Hz regions")
FREQUENCY_APART = practice("frequency_apart", 1.0, "frequency", "Supply and plate frequency differ from")
STIFF_DISTORTION = practice("stiff_distortion", 0.5, "percent", "Current distortion that asks for a reactor")
