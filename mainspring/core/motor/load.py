"""Three ways to tell how hard a motor works, from the best to the worst."""

import math
from typing import NamedTuple

from mainspring.core.errors import NoSolution, check_range
from mainspring.core.method import DERIVED, Source, method
from mainspring.core.quantity import DIMENSIONS, Ampere, InputWatt, Percent, Ratio, RevPerMin, Volt, Watt

_DOE = Source("US DOE motor load and efficiency fact sheet", "load estimation methods", kind="guideline")


@method(
    id="three_phase_input_power",
    symbol="P_in",
    formula="sqrt(3) * V * I * pf",
    symbols={"V": "voltage", "I": "current", "pf": "power_factor"},
    source=_DOE,
)
def three_phase_input_power(voltage: Volt, current: Ampere, power_factor: Ratio) -> InputWatt:
    """Input power from mean line volts, mean amps and mean power factor.

    Parameters
    ----------
    voltage : mean line to line [V]
    current : mean line current [A]
    power_factor : mean, 0 < pf <= 1 [-]

    Examples
    --------
    >>> round(three_phase_input_power(469.6667, 37, 0.7633))
    22975
    """
    return math.sqrt(3) * voltage * current * power_factor


@method(
    id="load_by_input_power",
    symbol="L",
    formula="P_in / (P_r / eta_r)",
    symbols={"P_in": "input_power", "P_r": "rated_power", "eta_r": "efficiency"},
    source=_DOE,
)
def load_by_input_power(input_power: InputWatt, rated_power: Watt, efficiency: Ratio) -> Percent:
    """Motor load from input power against rated input power, efficiency taken as at full load.

    Parameters
    ----------
    input_power : measured at the motor [W]
    rated_power : of the plate [W], > 0
    efficiency : at full load, 0 < η <= 1 [-]

    Examples
    --------
    >>> round(load_by_input_power(22970, 40 * 745.69987, 0.902), 4)
    0.6946
    """
    return input_power / (rated_power / efficiency)


@method(
    id="load_by_power_and_losses",
    symbol="L",
    formula="the L that solves L + v_0 + v_L·L² = P_in / P_r",
    symbols={"P_in": "input_power", "P_r": "rated_power", "v_0": "constant_loss", "v_L": "load_loss"},
    words=True,
    source=Source("IEC TS 60034-31 two-loss model with the DOE input-power method", kind="derived"),
)
def load_by_power_and_losses(
    input_power: InputWatt, rated_power: Watt, constant_loss: Ratio, load_loss: Ratio
) -> Percent:
    """Motor load from input power, with the losses that belong to that load.

    Parameters
    ----------
    input_power : measured at the motor [W], >= 0
    rated_power : of the plate [W], > 0
    constant_loss : constant losses over rated power [-]
    load_loss : load-dependent losses at full load over rated power, >= 0 [-]

    Raises
    ------
    NoSolution : less power than the motor's own constant losses

    Examples
    --------
    >>> round(load_by_power_and_losses(12000, 18642.5, 0.0195723511, 0.0488037172) * 18.6425, 4)
    11.3008
    """
    available = input_power / rated_power - constant_loss
    if available < 0:
        raise NoSolution(
            f"{DIMENSIONS['input_power'].tellings(input_power)} is less than the motor's own constant losses;"
            " check the reading"
        )
    if load_loss == 0:
        return available
    return (math.sqrt(1 + 4 * load_loss * available) - 1) / (2 * load_loss)


@method(
    id="load_by_slip",
    symbol="L",
    formula="(n_s - n) / ((n_s - n_r) * (k_r / k)**2)",
    symbols={
        "n_s": "synchronous_rpm",
        "n": "speed_rpm",
        "n_r": "rated_slip_from",
        "k_r": "rated_flux",
        "k": "flux",
    },
    source=_DOE,
)
def load_by_slip(
    synchronous_rpm: RevPerMin,
    speed_rpm: RevPerMin,
    rated_slip_from: RevPerMin,
    rated_flux: float = 1.0,
    flux: float = 1.0,
) -> Percent:
    """Motor load from slip, corrected for voltage (or volts per hertz on a drive).

    Parameters
    ----------
    synchronous_rpm : at the frequency of the moment [r/min]
    speed_rpm : measured [r/min]
    rated_slip_from : the speed that rated slip leaves at this frequency: n_s less rated slip [r/min]
    rated_flux : rated volts, or rated volts per hertz
    flux : the same, measured

    Raises
    ------
    OutOfRange : no rated slip

    Examples
    --------
    >>> round(load_by_slip(1800, 1770, 1750, 460, 480), 4)
    0.6533
    """
    check_range("rated slip", synchronous_rpm - rated_slip_from, above=0)
    check_range("volts", flux, above=0)
    return (synchronous_rpm - speed_rpm) / ((synchronous_rpm - rated_slip_from) * (rated_flux / flux) ** 2)


class LoadBounds(NamedTuple):
    """The lowest and highest load an estimate allows."""

    low: Percent
    high: Percent


@method(
    id="slip_load_bounds",
    symbol="L",
    formula="L / (1 + tol) and L / (1 - tol)",
    words=True,
    source=Source("NEMA MG-1", "12.46: rated slip may differ by ±20 % from the plate, from memory", "standard"),
)
def slip_load_bounds(load: Ratio, tolerance: Ratio = 0.20) -> LoadBounds:
    """Bounds of a load estimated by slip, from the tolerance allowed on rated slip.

    Parameters
    ----------
    load : estimated by slip [-]
    tolerance : on the plate's slip, 0 to below 1 [-]

    Examples
    --------
    >>> [round(b, 3) for b in slip_load_bounds(26 / 35)]
    [0.619, 0.929]
    """
    check_range("slip tolerance", tolerance, atleast=0, below=1)
    return LoadBounds(load / (1 + tolerance), load / (1 - tolerance))


@method(
    id="load_by_current",
    symbol="L",
    formula="I / I_r * V / V_r",
    symbols={"I": "current", "I_r": "rated_current", "V": "voltage", "V_r": "rated_voltage"},
    source=_DOE,
)
def load_by_current(current: Ampere, rated_current: Ampere, voltage: Volt, rated_voltage: Volt) -> Percent:
    """Motor load from amps in proportion; only above half load, at no load it still reads 30 to 50 %.

    Parameters
    ----------
    current : measured [A]
    rated_current : of the plate [A], > 0
    voltage : measured line to line [V]
    rated_voltage : of the plate [V], > 0

    Examples
    --------
    >>> round(load_by_current(28, 34, 470, 460), 4)
    0.8414
    """
    return current / rated_current * voltage / rated_voltage


@method(
    id="load_by_current_less_no_load",
    symbol="L",
    formula="sqrt((I**2 - I_0**2) / (I_r**2 - I_0**2))",
    symbols={"I": "current", "I_r": "rated_current", "I_0": "no_load_current"},
    source=_DOE,
)
def load_by_current_less_no_load(current: Ampere, rated_current: Ampere, no_load_current: Ampere) -> Percent:
    """Motor load from amps with the no-load current taken off.

    Parameters
    ----------
    current : measured [A], not below the no-load current
    rated_current : of the plate [A], above the no-load current
    no_load_current : with the shaft free [A]

    Raises
    ------
    OutOfRange : currents in the wrong order

    Examples
    --------
    >>> round(load_by_current_less_no_load(24, 34, 12), 4)
    0.6534
    """
    check_range("rated current", rated_current, above=no_load_current)
    check_range("current", current, atleast=no_load_current)
    return math.sqrt((current**2 - no_load_current**2) / (rated_current**2 - no_load_current**2))


@method(
    id="no_load_current",
    symbol="I_0",
    formula="I_r * sqrt(1 - pf_r**2)",
    symbols={"I_r": "rated_current", "pf_r": "rated_power_factor"},
    source=Source("the magnetising current is the reactive part of rated current", kind="common practice"),
)
def no_load_current(rated_current: Ampere, rated_power_factor: Ratio) -> Ampere:
    """Estimated magnetising current of an induction motor from its plate.

    Parameters
    ----------
    rated_current : of the plate [A]
    rated_power_factor : of the plate, 0 < pf < 1 [-]

    Examples
    --------
    >>> round(no_load_current(11.1, 0.83), 2)
    6.19
    """
    return rated_current * math.sqrt(1 - rated_power_factor**2)


@method(
    id="current_at_load",
    symbol="I",
    formula="sqrt(I_0**2 + (I_r**2 - I_0**2) * T**2)",
    symbols={"I_0": "no_load_current", "I_r": "rated_current", "T": "torque_ratio"},
    source=Source("magnetising and torque current at right angles, constant flux", kind="derived"),
)
def current_at_load(no_load_current: Ampere, rated_current: Ampere, torque_ratio: Ratio) -> Ampere:
    """Motor current at a torque, flux held constant by the drive.

    Parameters
    ----------
    no_load_current : magnetising current [A]
    rated_current : of the plate [A]
    torque_ratio : torque over rated torque [-]

    Examples
    --------
    >>> round(current_at_load(6.19, 11.1, 1.0), 2)
    11.1
    """
    return math.sqrt(no_load_current**2 + (rated_current**2 - no_load_current**2) * torque_ratio**2)


@method(
    id="current_at_torque",
    symbol="I",
    formula="T * I_r",
    symbols={"T": "torque_ratio", "I_r": "rated_current"},
    source=Source("a permanent-magnet motor needs no magnetising current", kind="derived"),
)
def current_at_torque(rated_current: Ampere, torque_ratio: Ratio) -> Ampere:
    """Current of a permanent-magnet motor at a torque.

    Parameters
    ----------
    rated_current : of the plate [A]
    torque_ratio : torque over rated torque [-]

    Examples
    --------
    >>> float(current_at_torque(10, 0.5))
    5.0
    """
    return torque_ratio * rated_current


@method(
    id="power_at_load",
    symbol="P_2",
    formula="L * P_r",
    symbols={"L": "load", "P_r": "rated_power"},
    source=DERIVED,
)
def power_at_load(load: Ratio, rated_power: Watt) -> Watt:
    """Shaft power of a motor at a share of its load.

    Parameters
    ----------
    load : share of rated power [-]
    rated_power : of the motor, > 0 [W]

    Examples
    --------
    >>> float(power_at_load(0.6, 10000))
    6000.0
    """
    return load * rated_power
