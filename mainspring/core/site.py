"""What one line may not share with another of the same site."""

from collections.abc import Mapping

from mainspring.core.line import Line


def clashes(line: Line, others: Mapping[str, Line]) -> tuple[str, ...]:
    """Lines that answer to the device instance or the bus address of this one, in words; `others` by tag."""
    found = []
    for tag, other in others.items():
        for path, name in (("control.device_instance", "Device instance"), ("control.bus_address", "Bus address")):
            mine = line.value(path)
            if mine is not None and "linked" in line.traits and "linked" in other.traits and other.value(path) == mine:
                found.append(f"{name} {mine:g} is also that of {tag}")
    return tuple(found)
