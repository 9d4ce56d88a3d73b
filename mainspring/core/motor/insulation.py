"""Resistance of a winding against earth, as a tester with direct voltage reads it."""

from typing import Annotated

from mainspring.core.errors import OutOfRange
from mainspring.core.method import In, Source, method
from mainspring.core.quantity import DegC, InsulationOhm, Ratio, Volt

IEEE_43 = "IEEE 43-2013"


@method(
    "K_T = 0.5 ** ((40 - T) / 10)",
    Source(IEEE_43, "clause 6.3, halving for each 10 °C, windings as before 1970, from memory", "standard"),
)
def insulation_temperature_factor(
    winding_degc: Annotated[DegC, In("temperature of the winding", "T", atleast=-20, upto=120)],
) -> Ratio:
    """What brings an insulation resistance to 40 °C: it halves for each 10 K that the winding is warmer.

    >>> round(insulation_temperature_factor(25), 5)
    0.35355
    """
    return float(0.5 ** ((40 - winding_degc) / 10))


@method("R_40 = R * K_T", Source(IEEE_43, "equation 2, from memory", "standard"))
def insulation_at_40(
    resistance: Annotated[InsulationOhm, In("read after one minute", "R", above=0)],
    factor: Annotated[Ratio, In("of the temperature", "K_T", above=0)],
) -> InsulationOhm:
    """Insulation resistance as it would read with the winding at 40 °C.

    >>> round(insulation_at_40(100e6, insulation_temperature_factor(25)) / 1e6, 3)
    35.355
    """
    return resistance * factor  # eq. 2


@method(
    "R_T = R_min / K_T",
    Source(IEEE_43, "equation 2, solved for the reading, from memory", "standard"),
    id="insulation_least_at",
)
def least_at(
    least: Annotated[InsulationOhm, In("at 40 °C", "R_min", above=0)],
    factor: Annotated[Ratio, In("of the temperature", "K_T", above=0)],
) -> InsulationOhm:
    """Least reading at the winding's own temperature.

    >>> round(least_at(5e6, 0.25))
    20000000
    """
    return least / factor


@method(
    "R_min = 5 MΩ up to 1 kV, random-wound",
    Source(IEEE_43, "table 3, random-wound below 1 kV after 1970, at 40 °C, from memory", "standard"),
    words=True,
)
def insulation_least(rated_volts: Annotated[Volt, In("of the motor", above=0)]) -> InsulationOhm:
    """Least insulation resistance at 40 °C, of one minute, with which a motor may be given power.

    Raises
    ------
    OutOfRange : above 1 kV, where form-wound machines want 100 MΩ and a specialist

    >>> insulation_least(400) / 1e6
    5.0
    """
    if rated_volts > 1000:
        raise OutOfRange("rated volts", f"{rated_volts:g} V", "up to 1000 V")
    return 5e6
