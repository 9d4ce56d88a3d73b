"""A valve: what passes it, and what pressure it takes."""

from mainspring.core.method import Source, method
from mainspring.core.quantity import CubicMetrePerSecond, KilogramPerCubicMetre, Pascal, ValveCapacity

IEC_60534 = Source("IEC 60534-2-1", "incompressible, turbulent: Q = Kv·√(Δp/(ρ/ρ0)), from memory", "standard")


@method(
    id="valve_flow",
    symbol="Q",
    formula="K_v * sqrt(dp * 1000 / rho)",
    symbols={"K_v": "capacity", "dp": "drop", "rho": "density"},
    source=IEC_60534,
)
def valve_flow(capacity: ValveCapacity, drop: Pascal, density: KilogramPerCubicMetre = 1000.0) -> CubicMetrePerSecond:
    """Flow through a valve at a pressure drop.

    Parameters
    ----------
    capacity : flow coefficient, > 0 [m³/s at 1 Pa of cold water]
    drop : across it, >= 0 [Pa]
    density : of the liquid, > 0 [kg/m³]

    Examples
    --------
    >>> round(valve_flow(25 / 3600 / 1e5**0.5, 1e5) * 3600, 6)
    25.0
    """
    return float(capacity * (drop * 1000 / density) ** 0.5)


@method(
    id="valve_drop",
    symbol="dp",
    formula="rho / 1000 * (Q / K_v)**2",
    symbols={"rho": "density", "Q": "flow", "K_v": "capacity"},
    source=IEC_60534,
)
def valve_drop(flow: CubicMetrePerSecond, capacity: ValveCapacity, density: KilogramPerCubicMetre = 1000.0) -> Pascal:
    """Pressure that a valve takes at a flow.

    Parameters
    ----------
    flow : through it, >= 0 [m³/s]
    capacity : flow coefficient, > 0 [m³/s at 1 Pa of cold water]
    density : of the liquid, > 0 [kg/m³]

    Examples
    --------
    >>> round(valve_drop(25 / 3600, 25 / 3600 / 1e5**0.5))
    100000
    """
    return density / 1000 * (flow / capacity) ** 2
