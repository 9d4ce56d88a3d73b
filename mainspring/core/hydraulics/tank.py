"""The diaphragm tank: what it gives between two pressures."""

from mainspring.core.errors import check_range
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Source, method
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
    id="tank_drawdown",
    symbol="DF",
    formula="(p_pre + p_a) * (1 / (p_on + p_a) - 1 / (p_off + p_a))",
    symbols={"p_pre": "precharge", "p_on": "low_pressure", "p_off": "high_pressure", "p_a": "atmosphere"},
    source=Source("Boyle's law", "isothermal air cushion", "law"),
)
def tank_drawdown(
    precharge: Pascal, low_pressure: Pascal, high_pressure: Pascal, atmosphere: Pascal = ATMOSPHERE
) -> Ratio:
    """Share of the tank's volume that it gives as its pressure falls.

    Parameters
    ----------
    precharge : gauge, empty tank, not above the low pressure [Pa]
    low_pressure : gauge, where the drive wakes [Pa]
    high_pressure : gauge, where it went to sleep, not below the low pressure [Pa]
    atmosphere : absolute [Pa]

    Raises
    ------
    OutOfRange : pressures in the wrong order

    Examples
    --------
    >>> round(tank_drawdown(186e3, 200e3, 350e3), 6)
    0.316913
    """
    check_range("precharge", precharge, atleast=0, upto=low_pressure)
    check_range("high pressure", high_pressure, atleast=low_pressure)
    return (precharge + atmosphere) * (1 / (low_pressure + atmosphere) - 1 / (high_pressure + atmosphere))


@method(
    id="tank_volume_for_run",
    symbol="V",
    formula="Q * t / DF",
    symbols={"Q": "flow", "t": "run_time", "DF": "drawdown"},
    source=COMMON_PRACTICE,
)
def tank_volume_for_run(flow: CubicMetrePerSecond, run_time: Second, drawdown: Ratio) -> CubicMetre:
    """Tank volume that supplies a flow for a time between the two pressures.

    Parameters
    ----------
    flow : taken from the tank [m³/s]
    run_time : it must last [s]
    drawdown : share of the volume given, > 0 [-]

    Examples
    --------
    >>> round(tank_volume_for_run(6.30901964e-4, 60, 0.29528818) * 1000, 1)
    128.2
    """
    return flow * run_time / drawdown


@method(
    id="precharge_below_setpoint",
    symbol="p_pre",
    formula="p_set - 137895.146",
    symbols={"p_set": "setpoint"},
    source=COMMON_PRACTICE,
)
def precharge_below_setpoint(setpoint: Pascal) -> Pascal:
    """Precharge by the school of 20 psi (1.4 bar) below the setpoint.

    Parameters
    ----------
    setpoint : gauge, above 20 psi [Pa]

    Examples
    --------
    >>> round(precharge_below_setpoint(50 * 6894.757293) / 6894.757293, 3)
    30.0
    """
    check_range("setpoint", setpoint, above=float(pump.PRECHARGE_BELOW))
    return float(setpoint) - float(pump.PRECHARGE_BELOW)


@method(
    id="precharge_share_of_setpoint",
    symbol="p_pre",
    formula="0.7 * p_set",
    symbols={"p_set": "setpoint"},
    source=COMMON_PRACTICE,
)
def precharge_share_of_setpoint(setpoint: Pascal) -> Pascal:
    """Precharge by the school of 70 % of the setpoint.

    Parameters
    ----------
    setpoint : gauge, > 0 [Pa]

    Examples
    --------
    >>> round(precharge_share_of_setpoint(50 * 6894.757293) / 6894.757293, 3)
    35.0
    """
    return pump.PRECHARGE_SHARE * setpoint


@method(
    id="starts_per_hour_on_leak",
    symbol="N",
    formula="q / (V * DF)",
    symbols={"q": "leak", "V": "tank_volume", "DF": "drawdown"},
    source=Source("the tank empties at the leak's rate, then the drive wakes once", kind="derived"),
)
def starts_per_hour_on_leak(leak: CubicMetrePerSecond, tank_volume: CubicMetre, drawdown: Ratio) -> PerSecond:
    """How often a small demand or leak wakes a sleeping drive.

    Parameters
    ----------
    leak : demand too small to keep the drive awake [m³/s]
    tank_volume : total volume, > 0 [m³]
    drawdown : share given from sleep to wake pressure, > 0 [-]

    Examples
    --------
    >>> round(starts_per_hour_on_leak(1e-4, 0.18, 0.1) * 3600, 1)
    20.0
    """
    return leak / (tank_volume * drawdown)


@method(
    id="tank_share_of_minute",
    symbol="V",
    formula="x * 60 * Q",
    symbols={"Q": "flow", "x": "share"},
    source=COMMON_PRACTICE,
)
def tank_share_of_minute(flow: CubicMetrePerSecond, share: Ratio = pump.TANK_SHARE) -> CubicMetre:
    """Tank by the rule of a fifth of what the pump delivers in a minute.

    Parameters
    ----------
    flow : of one pump [m³/s]
    share : of what a minute brings, > 0 [-]

    Examples
    --------
    >>> round(tank_share_of_minute(0.0092) * 1000, 1)
    110.4
    """
    return share * 60 * flow


@method(
    id="pit_volume",
    symbol="V",
    formula="A * (h_1 - h_0)",
    symbols={"A": "area", "h_1": "start_level", "h_0": "stop_level"},
    source=DERIVED,
)
def pit_volume(area: SquareMetre, start_level: MetreHead, stop_level: MetreHead) -> CubicMetre:
    """Volume of a pit between two levels.

    Parameters
    ----------
    area : of the water's surface [m²]
    start_level : upper level [m]
    stop_level : lower level [m]

    Examples
    --------
    >>> float(pit_volume(4.0, 3.0, 1.0))
    8.0
    """
    return area * (start_level - stop_level)
