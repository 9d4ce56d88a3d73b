"""What the trade goes by when a motor, a drive and a machine are proven."""

from mainspring.core.method import Source
from mainspring.core.practice.value import practice

_TOLERANCE = Source("IEC 60034-1", "table 20, tolerances on losses, from memory", "standard")
_SLIP = Source("NEMA MG-1", "12.46: slip may differ by ±20 % from the plate, from memory", "standard")
_DOE = Source("US DOE motor load and efficiency fact sheet", "from memory", "guideline")
_NEMA_V = Source("NEMA MG-1", "14.36: derate above 1 %, do not run above 5 %, from memory", "standard")

POWER_READING = practice("power_reading_within", 0.05, "percent", "Power by a drive's display, off by at most")
AMPS_READING = practice("amps_reading_within", 0.03, "percent", "Amps by a display or clamp, off by at most")
SPEED_READING = practice("speed_reading_within", 2.0, "speed", "Speed by a tachometer, off by at most")
HERTZ_READING = practice("hertz_reading_within", 0.05, "frequency", "Drive frequency by the display, off by at most")
VOLTS_READING = practice("volts_reading_within", 0.01, "percent", "Motor volts by display or meter, off by at most")
VOLTS_KEPT = practice("volts_kept_within", 0.03, "percent", "Motor volts off the volts per hertz set, at most")
PLATE_ROUNDING = practice("plate_speed_rounding", 5.0, "speed", "Speed of a plate, rounded to", source=_DOE)
SLIP_WITHIN = practice("slip_within", 0.20, "percent", "Slip of a motor off its plate, most", source=_SLIP)
LOSSES_WITHIN = practice("losses_within", 0.15, "percent", "Losses of a motor off its plate, most", source=_TOLERANCE)
NO_LOAD_WITHIN = practice("no_load_within", 0.20, "percent", "Magnetising current by the plate, off by at most")
CONTRADICT = practice("estimates_contradict", 2.0, "ratio", "Estimates contradict, disagreement above")

LOAD_MOST = practice("load_most_on_drive", 1.0, "percent", "Load of a motor on a drive, most")
LOAD_LEAST = practice("load_least", 0.4, "percent", "Load below which a motor is oversized", source=_DOE)
SHAPE_FROM = practice("shape_from", 0.25, "percent", "Load from which the part-load shape is known")
VOLTS_UNEVEN = practice("volts_uneven", 0.01, "percent", "Volts uneven, caution above", source=_NEMA_V)
VOLTS_UNEVEN_MOST = practice("volts_uneven_most", 0.05, "percent", "Volts uneven, never above", source=_NEMA_V)
AMPS_UNEVEN = practice("amps_uneven", 0.10, "percent", "Motor amps uneven, caution above")
DESIGN_LIFE = practice("drive_design_life", 10.0, "years", "Design life of a drive's capacitors at rated air")
FORECAST_WITHIN = practice("forecast_within", 5.0, "temperature_difference", "Air at a drive off its forecast, most")
WORN = practice("worn_from", 0.05, "percent", "Head or pressure below the curve, worn from")
SHIFTED = practice("shifted_from", 0.05, "percent", "Reading off its baseline, noted from")
FLOW_METER = practice("flow_meter_within", 0.02, "percent", "Flow by a good meter, off by at most")
HEAD_GAUGE = practice("head_gauge_within", 0.02, "percent", "Head by gauges, off by at most")
