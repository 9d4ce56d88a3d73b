"""How heavy the air is: pressure and fan power follow it, volume flow does not."""

from typing import Annotated

from mainspring.core.errors import check_range
from mainspring.core.method import In, Source, method
from mainspring.core.quantity import AirPascal, DegC, KilogramPerCubicMetre, Metre, Pascal, Percent, Ratio

STANDARD_AIR = 1.2  # kg/m³, the density at which fan curves are printed (AMCA 201, ISO 5801)
DRY_AIR = 287.055  # J/(kg·K), ASHRAE Fundamentals, chapter 1
_ATMOSPHERE = Source("US Standard Atmosphere 1976", "equation 33a, below 11 km, from memory", "standard")


@method("p = 101325 * (1 - 2.25577e-5 * Z)**5.2559", _ATMOSPHERE)
def pressure_at_altitude(altitude: Annotated[Metre, In("above sea level, up to 11 000", "Z")]) -> Pascal:
    """Pressure of the atmosphere at an altitude.

    >>> round(pressure_at_altitude(1524) / 101325, 4)
    0.832
    """
    check_range("altitude in m", altitude, atleast=-500, upto=11_000)
    return float(101_325 * (1 - 2.25577e-5 * altitude) ** 5.2559)  # eq. 33a


@method(
    "rho = p / (287.055 * (t + 273.15))",
    Source("ideal gas law", "dry air, gas constant of ASHRAE Fundamentals chapter 1, from memory", "law"),
)
def air_density(
    pressure: Annotated[Pascal, In("absolute", "p", above=0)],
    air_degc: Annotated[DegC, In("temperature of the air through the fan", "t")],
) -> KilogramPerCubicMetre:
    """Density of dry air.

    >>> round(air_density(101_325, 20), 3)
    1.204
    """
    check_range("air in °C", air_degc, above=-60, upto=400)
    return pressure / (DRY_AIR * (air_degc + 273.15))


@method(
    "rho = (p - 0.378 * phi * p_s) / (287.055 * (t + 273.15))",
    Source("ideal gas mixture", "0.378 = 1 less the ratio of the molar masses of water and air", "law"),
)
def moist_air_density(
    pressure: Annotated[Pascal, In("absolute", "p", above=0)],
    air_degc: Annotated[DegC, In("temperature", "t")],
    humidity: Annotated[Percent, In("relative, 0 to 1", "phi")],
    saturation: Annotated[Pascal, In("vapour pressure of water at that temperature", "p_s")],
) -> KilogramPerCubicMetre:
    """Density of moist air: damp air is lighter.

    >>> round(moist_air_density(97_773, 35, 0.6, 5_627), 3)
    1.091
    """
    check_range("relative humidity", humidity, atleast=0, upto=1)
    return (pressure - 0.378 * humidity * saturation) / (DRY_AIR * (air_degc + 273.15))


@method(
    "k_rho = (p / p_0) * ((T_0 + 273.15) / (T + 273.15))",
    Source("AMCA 201", "density correction, from memory", "standard"),
)
def density_factor(
    pressure: Annotated[Pascal, In("absolute", "p")],
    air_degc: Annotated[DegC, In("temperature", "T")],
    standard_pressure: Annotated[Pascal, In("of the reference", "p_0")] = 101_325.0,
    standard_degc: Annotated[DegC, In("of the reference", "T_0")] = 21.111111,
) -> Ratio:
    """Density against standard air, 70 °F at sea level.

    >>> round(density_factor(101_325, 93.333), 3)
    0.803
    """
    check_range("air in °C", air_degc, above=-60, upto=400)
    return (pressure / standard_pressure) * ((standard_degc + 273.15) / (air_degc + 273.15))


@method("p_v = rho * v**2 / 2", Source("Bernoulli", kind="law"))
def velocity_pressure(
    air_speed: Annotated[float, In("in the duct", "v")],
    density: Annotated[KilogramPerCubicMetre, In("of the air", "rho", above=0)] = STANDARD_AIR,
) -> AirPascal:
    """Pressure of moving air.

    >>> round(velocity_pressure(10, 1.2), 3)
    60.0
    """
    return density * air_speed**2 / 2


@method("v = sqrt(2 * p_v / rho)", Source("Bernoulli", kind="law"))
def air_speed(
    velocity_pressure: Annotated[AirPascal, In("", "p_v", atleast=0)],
    density: Annotated[KilogramPerCubicMetre, In("of the air", "rho", above=0)] = STANDARD_AIR,
) -> float:
    """Speed of air from its velocity pressure [m/s].

    >>> round(air_speed(60, 1.2), 3)
    10.0
    """
    return float((2 * velocity_pressure / density) ** 0.5)
