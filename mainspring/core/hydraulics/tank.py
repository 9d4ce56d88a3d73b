"""The diaphragm tank: what it gives between two pressures."""

from typing import Annotated

from mainspring.core.errors import check_range
from mainspring.core.method import COMMON_PRACTICE, DERIVED, In, Source, method
from mainspring.core.practice import pump
from mainspring.core.quantity import (
    CubicMetre,
    CubicMetrePerSecond,
    MetreHead,
    Pascal,
    PerSecond,
    Ratio,
    Second,
    SquareMetre,
)

ATMOSPHERE = 101_325.0  # Pa, standard atmosphere, exact by definition


@method(
    "DF = (p_pre + p_a) * (1 / (p_on + p_a) - 1 / (p_off + p_a))",
    Source("Boyle's law", "isothermal air cushion", "law"),
)
def tank_drawdown(
    precharge: Annotated[Pascal, In("gauge, empty tank, not above the low pressure", "p_pre")],
    low_pressure: Annotated[Pascal, In("gauge, where the drive wakes", "p_on")],
    high_pressure: Annotated[Pascal, In("gauge, where it went to sleep, not below the low pressure", "p_off")],
    atmosphere: Annotated[Pascal, In("absolute", "p_a")] = ATMOSPHERE,
) -> Ratio:
    """Share of the tank's volume that it gives as its pressure falls.

    Raises
    ------
    OutOfRange : pressures in the wrong order

    >>> round(tank_drawdown(186e3, 200e3, 350e3), 6)
    0.316913
    """
    check_range("precharge", precharge, atleast=0, upto=low_pressure)
    check_range("high pressure", high_pressure, atleast=low_pressure)
    return (precharge + atmosphere) * (1 / (low_pressure + atmosphere) - 1 / (high_pressure + atmosphere))


@method("V = Q * t / DF", COMMON_PRACTICE)
def tank_volume_for_run(
    flow: Annotated[CubicMetrePerSecond, In("taken from the tank", "Q")],
    run_time: Annotated[Second, In("it must last", "t")],
    drawdown: Annotated[Ratio, In("share of the volume given", "DF", above=0)],
) -> CubicMetre:
    """Tank volume that supplies a flow for a time between the two pressures.

    >>> round(tank_volume_for_run(6.30901964e-4, 60, 0.29528818) * 1000, 1)
    128.2
    """
    return flow * run_time / drawdown


@method("p_pre = p_set - 137895.146", COMMON_PRACTICE)
def precharge_below_setpoint(setpoint: Annotated[Pascal, In("gauge, above 20 psi", "p_set")]) -> Pascal:
    """Precharge by the school of 20 psi (1.4 bar) below the setpoint.

    >>> round(precharge_below_setpoint(50 * 6894.757293) / 6894.757293, 3)
    30.0
    """
    check_range("setpoint", setpoint, above=float(pump.PRECHARGE_BELOW))
    return float(setpoint) - float(pump.PRECHARGE_BELOW)


@method("p_pre = 0.7 * p_set", COMMON_PRACTICE)
def precharge_share_of_setpoint(setpoint: Annotated[Pascal, In("gauge", "p_set", above=0)]) -> Pascal:
    """Precharge by the school of 70 % of the setpoint.

    >>> round(precharge_share_of_setpoint(50 * 6894.757293) / 6894.757293, 3)
    35.0
    """
    return pump.PRECHARGE_SHARE * setpoint


@method("N = q / (V * DF)", Source("the tank empties at the leak's rate, then the drive wakes once", kind="derived"))
def starts_per_hour_on_leak(
    leak: Annotated[CubicMetrePerSecond, In("demand too small to keep the drive awake", "q")],
    tank_volume: Annotated[CubicMetre, In("total volume", "V", above=0)],
    drawdown: Annotated[Ratio, In("share given from sleep to wake pressure", "DF", above=0)],
) -> PerSecond:
    """How often a small demand or leak wakes a sleeping drive.

    >>> round(starts_per_hour_on_leak(1e-4, 0.18, 0.1) * 3600, 1)
    20.0
    """
    return leak / (tank_volume * drawdown)


@method("V = x * 60 * Q", COMMON_PRACTICE)
def tank_share_of_minute(
    flow: Annotated[CubicMetrePerSecond, In("of one pump", "Q")],
    share: Annotated[Ratio, In("of what a minute brings", "x", above=0)] = pump.TANK_SHARE,
) -> CubicMetre:
    """Tank by the rule of a fifth of what the pump delivers in a minute.

    >>> round(tank_share_of_minute(0.0092) * 1000, 1)
    110.4
    """
    return share * 60 * flow


@method("V = A * (h_1 - h_0)", DERIVED)
def pit_volume(
    area: Annotated[SquareMetre, In("of the water's surface", "A")],
    start_level: Annotated[MetreHead, In("upper level", "h_1")],
    stop_level: Annotated[MetreHead, In("lower level", "h_0")],
) -> CubicMetre:
    """Volume of a pit between two levels.

    >>> float(pit_volume(4.0, 3.0, 1.0))
    8.0
    """
    return area * (start_level - stop_level)
