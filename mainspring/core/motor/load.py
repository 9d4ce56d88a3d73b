"""Three ways to tell how hard a motor works, from the best to the worst."""

import math
from typing import Annotated, NamedTuple

from mainspring.core.errors import NoSolution, check_range
from mainspring.core.method import DERIVED, In, Source, method
from mainspring.core.quantity import DIMENSIONS, Ampere, InputWatt, Percent, Ratio, RevPerMin, Volt, Watt

_DOE = Source("US DOE motor load and efficiency fact sheet", "load estimation methods", kind="guideline")


@method("P_in = sqrt(3) * V * I * pf", _DOE)
def three_phase_input_power(
    voltage: Annotated[Volt, In("mean line to line", "V")],
    current: Annotated[Ampere, In("mean line current", "I")],
    power_factor: Annotated[Ratio, In("mean", "pf", above=0, upto=1)],
) -> InputWatt:
    """Input power from mean line volts, mean amps and mean power factor.

    >>> round(three_phase_input_power(469.6667, 37, 0.7633))
    22975
    """
    return math.sqrt(3) * voltage * current * power_factor


@method("L = P_in / (P_r / eta_r)", _DOE)
def load_by_input_power(
    input_power: Annotated[InputWatt, In("measured at the motor", "P_in")],
    rated_power: Annotated[Watt, In("of the plate", "P_r", above=0)],
    efficiency: Annotated[Ratio, In("at full load", "eta_r", above=0, upto=1)],
) -> Percent:
    """Motor load from input power against rated input power, efficiency taken as at full load.

    >>> round(load_by_input_power(22970, 40 * 745.69987, 0.902), 4)
    0.6946
    """
    return input_power / (rated_power / efficiency)


@method(
    "L = the L that solves L + v_0 + v_L·L² = P_in / P_r",
    Source("IEC TS 60034-31 two-loss model with the DOE input-power method", kind="derived"),
    words=True,
)
def load_by_power_and_losses(
    input_power: Annotated[InputWatt, In("measured at the motor", "P_in", atleast=0)],
    rated_power: Annotated[Watt, In("of the plate", "P_r", above=0)],
    constant_loss: Annotated[Ratio, In("constant losses over rated power", "v_0")],
    load_loss: Annotated[Ratio, In("load-dependent losses at full load over rated power", "v_L", atleast=0)],
) -> Percent:
    """Motor load from input power, with the losses that belong to that load.

    Raises
    ------
    NoSolution : less power than the motor's own constant losses

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


@method("L = (n_s - n) / ((n_s - n_r) * (k_r / k)**2)", _DOE)
def load_by_slip(
    synchronous_rpm: Annotated[RevPerMin, In("at the frequency of the moment", "n_s")],
    speed_rpm: Annotated[RevPerMin, In("measured", "n")],
    rated_slip_from: Annotated[
        RevPerMin, In("the speed that rated slip leaves at this frequency: n_s less rated slip", "n_r")
    ],
    rated_flux: Annotated[float, In("rated volts, or rated volts per hertz", "k_r")] = 1.0,
    flux: Annotated[float, In("the same, measured", "k")] = 1.0,
) -> Percent:
    """Motor load from slip, corrected for voltage (or volts per hertz on a drive).

    Raises
    ------
    OutOfRange : no rated slip

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
    "L = L / (1 + tol) and L / (1 - tol)",
    Source("NEMA MG-1", "12.46: rated slip may differ by ±20 % from the plate, from memory", "standard"),
    words=True,
)
def slip_load_bounds(
    load: Annotated[Ratio, In("estimated by slip")],
    tolerance: Annotated[Ratio, In("on the plate's slip, 0 to below 1")] = 0.20,
) -> LoadBounds:
    """Bounds of a load estimated by slip, from the tolerance allowed on rated slip.

    >>> [round(b, 3) for b in slip_load_bounds(26 / 35)]
    [0.619, 0.929]
    """
    check_range("slip tolerance", tolerance, atleast=0, below=1)
    return LoadBounds(load / (1 + tolerance), load / (1 - tolerance))


@method("L = I / I_r * V / V_r", _DOE)
def load_by_current(
    current: Annotated[Ampere, In("measured", "I")],
    rated_current: Annotated[Ampere, In("of the plate", "I_r", above=0)],
    voltage: Annotated[Volt, In("measured line to line", "V")],
    rated_voltage: Annotated[Volt, In("of the plate", "V_r", above=0)],
) -> Percent:
    """Motor load from amps in proportion; only above half load, at no load it still reads 30 to 50 %.

    >>> round(load_by_current(28, 34, 470, 460), 4)
    0.8414
    """
    return current / rated_current * voltage / rated_voltage


@method("L = sqrt((I**2 - I_0**2) / (I_r**2 - I_0**2))", _DOE)
def load_by_current_less_no_load(
    current: Annotated[Ampere, In("measured, not below the no-load current", "I")],
    rated_current: Annotated[Ampere, In("of the plate, above the no-load current", "I_r")],
    no_load_current: Annotated[Ampere, In("with the shaft free", "I_0")],
) -> Percent:
    """Motor load from amps with the no-load current taken off.

    Raises
    ------
    OutOfRange : currents in the wrong order

    >>> round(load_by_current_less_no_load(24, 34, 12), 4)
    0.6534
    """
    check_range("rated current", rated_current, above=no_load_current)
    check_range("current", current, atleast=no_load_current)
    return math.sqrt((current**2 - no_load_current**2) / (rated_current**2 - no_load_current**2))


@method(
    "I_0 = I_r * sqrt(1 - pf_r**2)",
    Source("the magnetising current is the reactive part of rated current", kind="common practice"),
)
def no_load_current(
    rated_current: Annotated[Ampere, In("of the plate", "I_r")],
    rated_power_factor: Annotated[Ratio, In("of the plate", "pf_r", above=0, below=1)],
) -> Ampere:
    """Estimated magnetising current of an induction motor from its plate.

    >>> round(no_load_current(11.1, 0.83), 2)
    6.19
    """
    return rated_current * math.sqrt(1 - rated_power_factor**2)


@method(
    "I = sqrt(I_0**2 + (I_r**2 - I_0**2) * T**2)",
    Source("magnetising and torque current at right angles, constant flux", kind="derived"),
)
def current_at_load(
    no_load_current: Annotated[Ampere, In("magnetising current", "I_0")],
    rated_current: Annotated[Ampere, In("of the plate", "I_r")],
    torque_ratio: Annotated[Ratio, In("torque over rated torque", "T")],
) -> Ampere:
    """Motor current at a torque, flux held constant by the drive.

    >>> round(current_at_load(6.19, 11.1, 1.0), 2)
    11.1
    """
    return math.sqrt(no_load_current**2 + (rated_current**2 - no_load_current**2) * torque_ratio**2)


@method("I = T * I_r", Source("a permanent-magnet motor needs no magnetising current", kind="derived"))
def current_at_torque(
    rated_current: Annotated[Ampere, In("of the plate", "I_r")],
    torque_ratio: Annotated[Ratio, In("torque over rated torque", "T")],
) -> Ampere:
    """Current of a permanent-magnet motor at a torque.

    >>> float(current_at_torque(10, 0.5))
    5.0
    """
    return torque_ratio * rated_current


@method("P_2 = L * P_r", DERIVED)
def power_at_load(
    load: Annotated[Ratio, In("share of rated power", "L")],
    rated_power: Annotated[Watt, In("of the motor", "P_r", above=0)],
) -> Watt:
    """Shaft power of a motor at a share of its load.

    >>> float(power_at_load(0.6, 10000))
    6000.0
    """
    return load * rated_power
