"""What plates, catalogue and survey promise of a line, as plain numbers: what the estimate starts from."""

from dataclasses import dataclass
from typing import Literal

Condition = Literal["new", "used", ""]


@dataclass(frozen=True)
class Facts:
    """Promised values in SI; a pump's rises are heads [m], a fan's pressures [Pa]. Hashable, so that it keys a cache.

    The curve is rise = c0 s² + c1 s Q + c2 Q² at a share s of full speed. `well` is a machine below ground whose gauge
    stands at the well head. `held` is what the loop holds at the sensor [Pa], None where it holds no pressure.
    """

    air: bool
    c0: float
    c1: float
    c2: float
    best_flow: float
    best_efficiency: float
    static: float
    resistance: float
    suction: float
    sensor_height: float
    held: float | None
    rated_power: float
    rated_amps: float
    no_load_amps: float
    rpm: float
    synchronous: float
    frequency: float
    constant_loss: float
    load_loss: float
    sensor_span: float
    density: float = 1.0  # of the air over that of the curve
    across: bool = False  # a difference is held, and nothing before the pump counts
    well: bool = False
    closed: bool = False
    open_surface: bool = False  # drawn from one: nothing to doubt about its suction
    belt: bool = False
    wheel_rpm: float = 0.0  # of the machine's own shaft while the motor turns at its rated speed
    condition: Condition = ""
    loose: bool = (
        False  # another machine or system than promised is supposed: curve and resistance may be anything near
    )
