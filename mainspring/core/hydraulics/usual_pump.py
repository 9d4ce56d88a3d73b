"""What is usual of pumps where nothing is known of this one, and how far a test may differ from the curve."""

import math
from typing import Annotated, NamedTuple

from mainspring.core.errors import OutOfRange
from mainspring.core.method import In, Source, method
from mainspring.core.quantity import GALLON, CubicMetrePerSecond, Percent, Ratio
from mainspring.core.tables import table


@method(
    "eta = -0.316 + 0.24015·ln(Q) - 0.01199·ln(Q)², Q in gpm",
    Source(
        "Corripio, Chrien & Evans, Chem. Eng. 89 (1982) 115-118",
        "equation for pumps, as in the library fluids (pump.Corripio_pump_efficiency)",
        "handbook",
    ),
    words=True,
)
def usual_pump_efficiency(
    flow: Annotated[CubicMetrePerSecond, In("at the best point; fitted from 50 to 5000 gpm", above=0)],
) -> Percent:
    """Efficiency that centrifugal pumps of that flow usually have.

    Raises
    ------
    OutOfRange : a flow that the fit does not cover

    >>> round(usual_pump_efficiency(461 * 3.785411784e-3 / 60), 4)
    0.7059
    """
    gpm = flow / (GALLON / 60)
    if not 50 <= gpm <= 5000:
        raise OutOfRange("flow", f"{flow * 1000:.4g} L/s ({gpm:.4g} gpm)", "50 to 5000 gpm")
    return -0.316 + 0.24015 * math.log(gpm) - 0.01199 * math.log(gpm) ** 2


class Acceptance(NamedTuple):
    """How far a test may differ from the promised point."""

    flow: Percent
    head: Percent
    efficiency: Percent


@method(
    "t = look-up by the grade",
    Source("ISO 9906:2012", "table 8, acceptance grades; HI 14.6 has the same, from memory", "standard"),
    words=True,
)
def acceptance_tolerance(grade: Annotated[str, In("1B, 1E, 2B or 3B")]) -> Acceptance:
    """What a pump may differ from its curve by the grade it was sold with; field tests seldom do better than 2B.

    Raises
    ------
    OutOfRange : another grade

    >>> [float(t) for t in acceptance_tolerance("2B")]
    [0.08, 0.05, 0.05]
    """
    grades = table("pump_acceptance")["grades"]
    if grade not in grades:
        raise OutOfRange("grade", grade, ", ".join(grades))
    return Acceptance(**grades[grade])


PART_LOAD: dict[str, tuple[float, ...]] = {
    "riding its curve": (0.0, 3.2485, -4.7443, 2.5295),
    "variable speed": (0.0, 0.5726, -0.301, 0.7347),
}


@method(
    "x_P = Σ cᵢ·qⁱ with the coefficients of the control",
    Source(
        "state energy-code modelling manuals",
        "part-load curves of pumps; they sum to 1.03 and 1.01, from memory",
        "guideline",
    ),
    words=True,
)
def pump_part_load_power(
    flow_share: Annotated[Ratio, In("of full flow", atleast=0, upto=1)],
    control: Annotated[str, In('"riding its curve" or "variable speed"')],
) -> Percent:
    """Pump power at part flow by the way of control, as a share of full; statistics, not this pump.

    Raises
    ------
    OutOfRange : a control that is not in the table

    >>> round(pump_part_load_power(0.6, "variable speed"), 4)
    0.3939
    """
    if control not in PART_LOAD:
        raise OutOfRange("control", control, ", ".join(PART_LOAD))
    return sum(c * flow_share**i for i, c in enumerate(PART_LOAD[control]))
