"""Water: density and vapour pressure by temperature."""

import math
from typing import Annotated

from mainspring.core.errors import check_range
from mainspring.core.method import In, Source, method
from mainspring.core.quantity import DegC, KilogramPerCubicMetre, Pascal

_KELL = (999.83952, 16.945176, -7.9870401e-3, -46.170461e-6, 105.56302e-9, -280.54253e-12)
_SATURATION = (
    1167.0521452767, -724213.16703206, -17.073846940092, 12020.824702470, -3232555.0322333,
    14.915108613530, -4823.2657361591, 405113.40542057, -0.23855557567849, 650.17534844798,
)  # fmt: skip


@method(
    "rho = Kell's ratio of polynomials in temperature",
    Source("Kell, J. Chem. Eng. Data 20 (1975)", "equation 16, at 1 atm, from memory", "handbook"),
    words=True,
)
def water_density(water_degc: Annotated[DegC, In("0 to 100")]) -> KilogramPerCubicMetre:
    """Density of water at atmospheric pressure.

    >>> round(water_density(20), 1)
    998.2
    """
    check_range("water in °C", water_degc, atleast=0, upto=100)
    return sum(c * water_degc**i for i, c in enumerate(_KELL)) / (1 + 16.879850e-3 * water_degc)  # eq. 16


@method(
    "p_v = saturation equation of region 4",
    Source("IAPWS-IF97", "equation 30, from memory; agrees with IAPWS-95", "standard"),
    words=True,
)
def vapour_pressure(water_degc: Annotated[DegC, In("0 to 200")]) -> Pascal:
    """Absolute pressure at which water boils.

    >>> round(vapour_pressure(20))
    2339
    """
    check_range("water in °C", water_degc, atleast=0, upto=200)
    n, kelvin = _SATURATION, water_degc + 273.15
    theta = kelvin + n[8] / (kelvin - n[9])
    a = theta**2 + n[0] * theta + n[1]
    b = n[2] * theta**2 + n[3] * theta + n[4]
    c = n[5] * theta**2 + n[6] * theta + n[7]
    return float(1e6 * (2 * c / (-b + math.sqrt(b**2 - 4 * a * c))) ** 4)  # eq. 30
