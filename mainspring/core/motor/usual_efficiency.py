"""What a motor's efficiency usually is where its plate says nothing: by its size, and by how little it is loaded."""

import math
from typing import Annotated

from mainspring.core.errors import OutOfRange
from mainspring.core.method import In, Source, method
from mainspring.core.quantity import HORSEPOWER, Percent, Ratio, Watt
from mainspring.core.tables import table


@method(
    "eta = 0.8 + 0.0319·ln(P) - 0.00182·ln(P)², P in hp",
    Source(
        "Corripio, Chrien & Evans, Chem. Eng. 89 (1982) 115-118",
        "equation for motors, as in the library fluids (pump.Corripio_motor_efficiency)",
        "handbook",
    ),
    words=True,
)
def usual_motor_efficiency(
    rated_power: Annotated[Watt, In("of the motor; fitted from 1 to 2000 hp", above=0)],
) -> Percent:
    """Efficiency of a motor of that size as they were around 1980; later classes are better.

    Raises
    ------
    OutOfRange : below 1 hp or above 2000 hp, which the fit does not cover

    >>> round(usual_motor_efficiency(137 * 745.69987), 4)
    0.9129
    """
    horsepower = rated_power / HORSEPOWER
    if not 1 <= horsepower <= 2000:
        raise OutOfRange("rated power", f"{horsepower:.4g} hp", "1 to 2000 hp")
    return 0.8 + 0.0319 * math.log(horsepower) - 0.00182 * math.log(horsepower) ** 2


@method(
    "k_eta = Σ cᵢ·Lⁱ with the coefficients of the size, 1 above the load where its curve is flat",
    Source(
        "Washington State Energy Office, Energy-Efficient Electric Motor Selection Handbook (1993)",
        "graph of efficiency against load, as fitted in the library fluids (pump.motor_efficiency_underloaded)",
        "handbook",
    ),
    words=True,
)
def underloaded_efficiency_factor(
    rated_power: Annotated[Watt, In("of the motor", above=0)],
    load: Annotated[Ratio, In("share of rated power", atleast=0, upto=1.5)],
) -> Ratio:
    """Efficiency at part load over that at full load, for a motor of which nothing but the size is known.

    It jumps by up to 3 % where the graph becomes flat; with the plate's three-quarter-load efficiency the two-loss
    model is better.

    >>> round(underloaded_efficiency_factor(745.69987, 0.5), 5)
    0.87052
    """
    sizes = table("underloaded_efficiency")["sizes"]
    horsepower = rated_power / HORSEPOWER
    size = next((s for s in sizes if s["upto"] is None or horsepower <= s["upto"] * (1 + 1e-9)), sizes[-1])
    if load > size["flat_above"]:
        return 1.0
    return float(sum(c * load**i for i, c in enumerate(size["coefficients"])))
