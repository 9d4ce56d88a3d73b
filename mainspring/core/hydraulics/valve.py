"""A valve: what passes it, and what pressure it takes."""

from typing import Annotated

from mainspring.core.method import In, Source, method
from mainspring.core.quantity import CubicMetrePerSecond, KilogramPerCubicMetre, Pascal, ValveCapacity

IEC_60534 = Source("IEC 60534-2-1", "incompressible, turbulent: Q = Kv·√(Δp/(ρ/ρ0)), from memory", "standard")


@method("Q = K_v * sqrt(dp * 1000 / rho)", IEC_60534)
def valve_flow(
    capacity: Annotated[ValveCapacity, In("flow coefficient", "K_v", above=0)],
    drop: Annotated[Pascal, In("across it", "dp", atleast=0)],
    density: Annotated[KilogramPerCubicMetre, In("of the liquid", "rho", above=0)] = 1000.0,
) -> CubicMetrePerSecond:
    """Flow through a valve at a pressure drop.

    >>> round(valve_flow(25 / 3600 / 1e5**0.5, 1e5) * 3600, 6)
    25.0
    """
    return float(capacity * (drop * 1000 / density) ** 0.5)


@method("dp = rho / 1000 * (Q / K_v)**2", IEC_60534)
def valve_drop(
    flow: Annotated[CubicMetrePerSecond, In("through it", "Q", atleast=0)],
    capacity: Annotated[ValveCapacity, In("flow coefficient", "K_v", above=0)],
    density: Annotated[KilogramPerCubicMetre, In("of the liquid", "rho", above=0)] = 1000.0,
) -> Pascal:
    """Pressure that a valve takes at a flow.

    >>> round(valve_drop(25 / 3600, 25 / 3600 / 1e5**0.5))
    100000
    """
    return density / 1000 * (flow / capacity) ** 2
