"""What keeps people safe; nobody may differ."""

from mainspring.core.method import Source
from mainspring.core.practice.value import practice

_TOUCH = Source("NFPA 70E, OSHA 1910.333", "from memory", "standard")

_LABEL = Source("IEC 61800-5-1", "60 V or 50 µC within 5 s, else a label with the time, from memory", "standard")
_PLUG = Source("IEC 60204-1", "6.2.4, from memory", "standard")

SAFE_VOLTS = practice("safe_volts", 50.0, "voltage", "Volts below which conductors may be touched", source=_TOUCH)
DISCHARGE = practice(
    "discharge", 600.0, "time", "Discharge of the capacitors where no label tells; 5 and 10 min are met"
)
LABEL_AFTER = practice(
    "label_after", 5.0, "time", "Discharge for which a drive needs no label with its waiting time", source=_LABEL
)
PLUG_AFTER = practice("plug_after", 1.0, "time", "Discharge of the pins of a plug that may be pulled", source=_PLUG)
JOG = practice("jog", 6.0, "frequency", "Speed at which the direction of turning is looked at")
