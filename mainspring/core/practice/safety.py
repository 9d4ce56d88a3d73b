"""What keeps people safe; nobody may differ."""

from mainspring.core.method import Source
from mainspring.core.practice.value import practice

_TOUCH = Source("NFPA 70E, OSHA 1910.333", "from memory", "standard")

SAFE_VOLTS = practice("safe_volts", 50.0, "voltage", "Volts below which conductors may be touched", source=_TOUCH)
DISCHARGE = practice(
    "discharge", 600.0, "time", "Discharge of the capacitors where no label tells; 5 and 10 min are met"
)
JOG = practice("jog", 6.0, "frequency", "Speed at which the direction of turning is looked at")
