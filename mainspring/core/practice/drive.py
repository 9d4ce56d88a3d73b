"""What the trade goes by at the drive and its motor lead."""

from mainspring.core.method import Source
from mainspring.core.practice.value import band, practice

_SERVICE = Source("NEMA MG-1 part 30", "service factor does not hold on a drive, from memory", "standard")
_ARRHENIUS = Source("10 K rule of capacitor and insulation life", "from memory", "handbook")

LEAD_PLAIN = practice("lead_plain", 30.0, "length", "Motor lead without a filter, longest", own=(5.0, 150.0))
LEAD_FILTERED = practice(
    "lead_filtered", 150.0, "length", "Motor lead behind a dV/dt filter, longest", own=(30.0, 500.0)
)
CLEARANCE = practice(
    "clearance", 0.2, "diameter", "Room to leave round a drive whose manual is not at hand; makers ask 25 to 200 mm"
)
SUN = band("sun", 10.0, 20.0, "temperature_difference", "What sun on the case adds to the air inside")
RISE_TIME = practice("rise_time", 0.2e-6, "time", "Rise time of the output pulses, usual of modern drives")
LEAD_DROP = practice("lead_drop", 0.03, "percent", "Volt drop in the motor lead, most", own=(0.01, 0.08))
LONG_LEAD_CARRIER = practice("long_lead_carrier", 4000.0, "carrier", "Carrier on a long lead, highest")
LONG_LEAD_SET = practice("long_lead_set", 2000.0, "carrier", "Carrier set on a long lead")
RATED_CARRIER = practice("rated_carrier", 4000.0, "carrier", "Carrier at which drives of this size are rated")
CARRIER_AMPS = practice("carrier_amps", 0.9, "percent", "Share of the amps that a carrier must leave")
OVERSIZE = practice("drive_oversize", 2.0, "ratio", "Drive's amps over the motor's that ask for a reason")
POWER_OVER = practice("power_over", 1.03, "ratio", "Motor power over the drive's that is said")
LIMIT_OVER = practice("limit_over", 1.01, "ratio", "Current limit over the plate that is no rounding")
SERVICE_LIMIT = practice(
    "service_limit", 1.15, "ratio", "Current limit over the plate by service factor", source=_SERVICE
)
LIMIT_UNDER = practice("limit_under", 0.7, "ratio", "Current limit under the plate that holds the motor back")
OVERLOAD_NORMAL = practice("overload_normal", 1.1, "percent", "Overload of normal duty for 60 s")
OVERLOAD_HEAVY = practice("overload_heavy", 1.5, "percent", "Overload of heavy duty for 60 s")
PLATE = band("drive_plate", 0.7, 1.6, "ratio", "Drive's amps over those usual of its power")
SINGLE_PHASE_SHARE = practice(
    "single_phase_share", 0.5, "percent", "Amps of a three-phase drive on one phase, makers say 35 to 50 %"
)
TOO_HOT = practice(
    "drive_too_hot", 10.0, "temperature_difference", "Air over the drive's rating that stops", source=_ARRHENIUS
)
VENT_RISE = practice(
    "vent_rise", 10.0, "temperature_difference", "Rise of the air through a vented box, design", own=(3.0, 20.0)
)
DESIGN_LIFE = practice("design_life", 10.0, "years", "Life that the owner expects of a drive", own=(3.0, 25.0))
