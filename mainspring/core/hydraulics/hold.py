"""What a frequency that was read at no flow tells of pump and plant."""

from typing import Annotated

from mainspring.core.method import DERIVED, In, method
from mainspring.core.quantity import Hertz, MetreHead


@method("H_0 = H_model * (f_model / f_read)**2", DERIVED)
def shutoff_by_hold(
    shutoff_model: Annotated[MetreHead, In("of the curve in the record", "H_model")],
    hold_model: Annotated[Hertz, In("frequency that the model holds at", "f_model")],
    hold_read: Annotated[Hertz, In("frequency read on site", "f_read", above=0)],
) -> MetreHead:
    """Shut-off head at full speed that a read hold frequency tells, all else as in the model.

    >>> round(shutoff_by_hold(60.0, 40.0, 42.0), 3)
    54.422
    """
    return shutoff_model * (hold_model / hold_read) ** 2


@method("dH = H_0 * (f_read**2 - f_model**2) / f_r**2", DERIVED)
def lift_by_hold(
    shutoff_model: Annotated[MetreHead, In("of the curve in the record", "H_0")],
    hold_model: Annotated[Hertz, In("frequency that the model holds at", "f_model")],
    hold_read: Annotated[Hertz, In("frequency read on site", "f_read", above=0)],
    rated_frequency: Annotated[Hertz, In("of full speed", "f_r", above=0)],
) -> MetreHead:
    """How much more head the plant asks at no flow than the record says, where the pump is as its curve.

    >>> round(lift_by_hold(60.0, 40.0, 42.0, 50.0), 3)
    3.936
    """
    return shutoff_model * (hold_read**2 - hold_model**2) / rated_frequency**2
