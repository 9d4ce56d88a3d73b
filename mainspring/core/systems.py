"""The unit systems a person can read in. A further one is a row here: what it shows, and how its country writes."""

from collections.abc import Mapping
from dataclasses import dataclass, field


@dataclass(frozen=True)
class UnitSystem:
    """Which unit each kind of quantity is shown in, where that is not the unit of SI's table."""

    id: str  # two letters
    label: str
    shows: Mapping[str, str] = field(default_factory=dict)  # symbol by kind of quantity
    paper: str = "A4"
    groups: bool = False  # a comma before exactly three digits groups thousands
    month_first: bool = False  # dates that may be read two ways


_FEET = {"head": "ft", "length": "ft", "diameter": "in", "pressure": "psi", "velocity": "ft/s", "acceleration": "ft/s²"}
_INCHES = {"air_flow": "cfm", "air_pressure": "in w.g.", "torque": "lbf·ft", "inertia": "lb·ft²"}
SYSTEMS: dict[str, UnitSystem] = {
    s.id: s
    for s in (
        UnitSystem("si", "SI"),
        UnitSystem(
            "us",
            "US",
            {
                **_FEET,
                **_INCHES,
                "power": "hp",
                "flow": "gpm",
                "volume": "gal",
                "temperature": "°F",
                "temperature_difference": "°F",
                "density": "lb/ft³",
                "heat": "Btu/h",
                "heat_capacity": "Btu/(lb·°F)",
                "valve_capacity": "Cv",
                "wire_resistance": "Ω/kft",
            },
            paper="Letter",
            groups=True,
            month_first=True,
        ),
        # gallons of 4.546 L and feet, but °C and kW: trades that kept the one and took the other
        UnitSystem("im", "Imp", {**_FEET, **_INCHES, "flow": "igpm", "volume": "igal"}),
    )
}
USUAL = next(iter(SYSTEMS))
