"""The machine of a line on its system, pump or fan, behind one interface."""

from mainspring.core.line import Line
from mainspring.core.machine.fan import Fan
from mainspring.core.machine.kind import Machine
from mainspring.core.machine.pump import Pump
from mainspring.core.method import Figure

__all__ = ["Fan", "Machine", "Pump", "machine_of"]


def machine_of(line: Line, altitude: Figure) -> Machine:
    """The line's machine; a pump while the application is not known."""
    return Fan(line, altitude) if "fan" in line.traits else Pump(line)
