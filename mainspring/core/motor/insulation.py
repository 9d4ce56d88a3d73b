"""Resistance of a winding against earth, as a tester with direct voltage reads it."""

from mainspring.core.errors import OutOfRange
from mainspring.core.method import Source, method
from mainspring.core.quantity import DegC, InsulationOhm, Ratio, Volt

IEEE_43 = "IEEE 43-2013"


@method(
    id="insulation_temperature_factor",
    symbol="K_T",
    formula="0.5 ** ((40 - T) / 10)",
    symbols={"T": "winding_degc"},
    source=Source(IEEE_43, "clause 6.3, halving for each 10 °C, windings as before 1970, from memory", "standard"),
)
def insulation_temperature_factor(winding_degc: DegC) -> Ratio:
    """What brings an insulation resistance to 40 °C: it halves for each 10 K that the winding is warmer.

    Parameters
    ----------
    winding_degc : temperature of the winding, -20 <= x <= 120 [°C]

    Examples
    --------
    >>> round(insulation_temperature_factor(25), 5)
    0.35355
    """
    return float(0.5 ** ((40 - winding_degc) / 10))


@method(
    id="insulation_at_40",
    symbol="R_40",
    formula="R * K_T",
    symbols={"R": "resistance", "K_T": "factor"},
    source=Source(IEEE_43, "equation 2, from memory", "standard"),
)
def insulation_at_40(resistance: InsulationOhm, factor: Ratio) -> InsulationOhm:
    """Insulation resistance as it would read with the winding at 40 °C.

    Parameters
    ----------
    resistance : read after one minute, > 0 [Ω]
    factor : of the temperature, > 0 [-]

    Examples
    --------
    >>> round(insulation_at_40(100e6, insulation_temperature_factor(25)) / 1e6, 3)
    35.355
    """
    return resistance * factor  # eq. 2


@method(
    id="insulation_least_at",
    symbol="R_T",
    formula="R_min / K_T",
    symbols={"R_min": "least", "K_T": "factor"},
    source=Source(IEEE_43, "equation 2, solved for the reading, from memory", "standard"),
)
def least_at(least: InsulationOhm, factor: Ratio) -> InsulationOhm:
    """Least reading at the winding's own temperature.

    Parameters
    ----------
    least : at 40 °C, > 0 [Ω]
    factor : of the temperature, > 0 [-]

    Examples
    --------
    >>> round(least_at(5e6, 0.25))
    20000000
    """
    return least / factor


@method(
    id="insulation_least",
    symbol="R_min",
    formula="5 MΩ up to 1 kV, random-wound",
    words=True,
    source=Source(IEEE_43, "table 3, random-wound below 1 kV after 1970, at 40 °C, from memory", "standard"),
)
def insulation_least(rated_volts: Volt) -> InsulationOhm:
    """Least insulation resistance at 40 °C, of one minute, with which a motor may be given power.

    Parameters
    ----------
    rated_volts : of the motor, > 0 [V]

    Raises
    ------
    OutOfRange : above 1 kV, where form-wound machines want 100 MΩ and a specialist

    Examples
    --------
    >>> insulation_least(400) / 1e6
    5.0
    """
    if rated_volts > 1000:
        raise OutOfRange("rated volts", f"{rated_volts:g} V", "up to 1000 V")
    return 5e6
