"""What a drive's bus capacitors still hold after the power is off, and how long they take to give it up."""

import math
from typing import Annotated

from mainspring.core.method import In, Source, method
from mainspring.core.quantity import Coulomb, Farad, Joule, Ohm, Second, Volt

DISCHARGE = Source("discharge of a capacitor through a resistor", "V(t) = V0·exp(-t/RC)", "law")


@method("t = R * C * log(V_0 / V)", DISCHARGE)
def bus_discharge_time(
    bleeder: Annotated[Ohm, In("resistance across the bus", "R", above=0)],
    capacitance: Annotated[Farad, In("of the bus", "C", above=0)],
    from_volts: Annotated[Volt, In("at the start", "V_0", above=0)],
    to_volts: Annotated[Volt, In("to be reached", "V", above=0)],
) -> Second:
    """Time in which a sound bleeder takes the bus down; a broken one never does, so measure.

    >>> round(bus_discharge_time(47e3, 2200e-6, 680, 60), 2)
    251.03
    """
    return bleeder * capacitance * math.log(from_volts / to_volts)


@method("V = V_0 * exp(-t / (R * C))", DISCHARGE)
def bus_volts_left(
    time: Annotated[Second, In("since the power went off", "t", atleast=0)],
    bleeder: Annotated[Ohm, In("resistance across the bus", "R", above=0)],
    capacitance: Annotated[Farad, In("of the bus", "C", above=0)],
    from_volts: Annotated[Volt, In("at the start", "V_0", above=0)],
) -> Volt:
    """Volts on the bus after a wait, if the bleeder is sound: no proof, only what to expect.

    >>> round(bus_volts_left(300, 47e3, 2200e-6, 680), 2)
    37.37
    """
    return from_volts * math.exp(-time / (bleeder * capacitance))


@method("W = C * V**2 / 2", Source("energy of a capacitor", kind="law"))
def bus_energy(
    capacitance: Annotated[Farad, In("of the bus", "C", above=0)],
    volts: Annotated[Volt, In("across it", "V", atleast=0)],
) -> Joule:
    """Energy in the bus capacitors.

    >>> round(bus_energy(2200e-6, 680), 2)
    508.64
    """
    return capacitance * volts**2 / 2


@method("Q = C * V", Source("charge of a capacitor", kind="law"))
def bus_charge(
    capacitance: Annotated[Farad, In("of the bus", "C", above=0)],
    volts: Annotated[Volt, In("across it", "V", atleast=0)],
) -> Coulomb:
    """Charge left in the bus capacitors.

    >>> round(bus_charge(2200e-6, 60), 3)
    0.132
    """
    return capacitance * volts


@method(
    "V_s = 60 V of direct voltage, or what 50 µC leaves where that is more; the drive's label governs",
    Source("IEC 61800-5-1", "within 5 s of switching off, else a label with the waiting time, from memory", "standard"),
    words=True,
)
def touchable_bus(capacitance: Annotated[Farad, In("of the bus", above=0)]) -> Volt:
    """Volts below which a bus counts as discharged.

    >>> float(touchable_bus(2200e-6))
    60.0
    """
    return max(60.0, 50e-6 / capacitance)
