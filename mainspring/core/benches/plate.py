"""What the plates and the curve of a line say of the power that can have been read: what a claim is held against."""

import contextlib

from mainspring.core.derived import FULL_SPEED, Derived
from mainspring.core.errors import MainspringError
from mainspring.core.line import Line
from mainspring.core.measured.claimed import Plate
from mainspring.core.method import given
from mainspring.core.quantity import WATER_20C, G
from mainspring.core.ratios import part_of

MOST_LOADED, POOREST = 1.15, 0.6  # of rated power that a motor gives for hours; efficiency where none is on record
CURVE_STEPS = 8  # flows of one machine at which its power at full speed is told


def plate_of(line: Line) -> Plate:
    """What the plates say of the power that can have been read; what is not known says nothing."""
    derived, count = Derived(line), float(line.value("machine.count") or 1.0)
    most: float | None = None
    rise = 0.0
    with contextlib.suppress(MainspringError):
        most = float(line.motor.rated_power) * count * MOST_LOADED
        most /= float(line.motor.efficiency) if line.motor.has("efficiency") else POOREST
    with contextlib.suppress(MainspringError):
        if "pump" in line.traits:
            rise = float(derived.pump.static_head) * WATER_20C * float(G)
    return Plate(most, rise, _full_speed_powers(derived, count))


def _full_speed_powers(derived: Derived, count: float) -> tuple[tuple[float, float], ...]:
    """Flow and electrical power of all machines together at full speed, by the curve [m³/s, W]; what is known of it."""
    found = []
    with contextlib.suppress(MainspringError):
        for i in range(CURVE_STEPS + 1):
            flow = part_of(derived.full_flow, given("share", 0.2 + i * 1.2 / CURVE_STEPS, "ratio"))
            shaft = derived.machine.shaft_power(flow, derived.machine.head_at(flow, FULL_SPEED), FULL_SPEED)
            found.append((float(flow) * count, float(derived.input_power(shaft, with_drive=True)) * count))
    return tuple(found)
