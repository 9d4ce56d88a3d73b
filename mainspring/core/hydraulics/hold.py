"""What a frequency that was read at no flow tells of pump and plant."""

from mainspring.core.method import DERIVED, method
from mainspring.core.quantity import Hertz, MetreHead


@method(
    id="shutoff_by_hold",
    symbol="H_0",
    formula="H_model * (f_model / f_read)**2",
    symbols={"H_model": "shutoff_model", "f_model": "hold_model", "f_read": "hold_read"},
    source=DERIVED,
)
def shutoff_by_hold(shutoff_model: MetreHead, hold_model: Hertz, hold_read: Hertz) -> MetreHead:
    """Shut-off head at full speed that a read hold frequency tells, all else as in the model.

    Parameters
    ----------
    shutoff_model : of the curve in the record [m]
    hold_model : frequency that the model holds at [Hz]
    hold_read : frequency read on site, > 0 [Hz]

    Examples
    --------
    >>> round(shutoff_by_hold(60.0, 40.0, 42.0), 3)
    54.422
    """
    return shutoff_model * (hold_model / hold_read) ** 2


@method(
    id="lift_by_hold",
    symbol="dH",
    formula="H_0 * (f_read**2 - f_model**2) / f_r**2",
    symbols={"H_0": "shutoff_model", "f_model": "hold_model", "f_read": "hold_read", "f_r": "rated_frequency"},
    source=DERIVED,
)
def lift_by_hold(shutoff_model: MetreHead, hold_model: Hertz, hold_read: Hertz, rated_frequency: Hertz) -> MetreHead:
    """How much more head the plant asks at no flow than the record says, where the pump is as its curve.

    Parameters
    ----------
    shutoff_model : of the curve in the record [m]
    hold_model : frequency that the model holds at [Hz]
    hold_read : frequency read on site, > 0 [Hz]
    rated_frequency : of full speed, > 0 [Hz]

    Examples
    --------
    >>> round(lift_by_hold(60.0, 40.0, 42.0, 50.0), 3)
    3.936
    """
    return shutoff_model * (hold_read**2 - hold_model**2) / rated_frequency**2
