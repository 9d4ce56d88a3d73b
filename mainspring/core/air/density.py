"""How heavy the air is: pressure and fan power follow it, volume flow does not."""

from mainspring.core.errors import check_range
from mainspring.core.method import Source, method
from mainspring.core.quantity import AirPascal, DegC, KilogramPerCubicMetre, Metre, Pascal, Percent, Ratio

STANDARD_AIR = 1.2  # kg/m³, the density at which fan curves are printed (AMCA 201, ISO 5801)
DRY_AIR = 287.055  # J/(kg·K), ASHRAE Fundamentals, chapter 1
_ATMOSPHERE = Source("US Standard Atmosphere 1976", "equation 33a, below 11 km, from memory", "standard")


@method(
    id="pressure_at_altitude",
    symbol="p",
    formula="101325 * (1 - 2.25577e-5 * Z)**5.2559",
    symbols={"Z": "altitude"},
    source=_ATMOSPHERE,
)
def pressure_at_altitude(altitude: Metre) -> Pascal:
    """Pressure of the atmosphere at an altitude.

    Parameters
    ----------
    altitude : above sea level, up to 11 000 [m]

    Examples
    --------
    >>> round(pressure_at_altitude(1524) / 101325, 4)
    0.832
    """
    check_range("altitude in m", altitude, atleast=-500, upto=11_000)
    return float(101_325 * (1 - 2.25577e-5 * altitude) ** 5.2559)  # eq. 33a


@method(
    id="air_density",
    symbol="rho",
    formula="p / (287.055 * (t + 273.15))",
    symbols={"p": "pressure", "t": "air_degc"},
    source=Source("ideal gas law", "dry air, gas constant of ASHRAE Fundamentals chapter 1, from memory", "law"),
)
def air_density(pressure: Pascal, air_degc: DegC) -> KilogramPerCubicMetre:
    """Density of dry air.

    Parameters
    ----------
    pressure : absolute, > 0 [Pa]
    air_degc : temperature of the air through the fan [°C]

    Examples
    --------
    >>> round(air_density(101_325, 20), 3)
    1.204
    """
    check_range("air in °C", air_degc, above=-60, upto=400)
    return pressure / (DRY_AIR * (air_degc + 273.15))


@method(
    id="moist_air_density",
    symbol="rho",
    formula="(p - 0.378 * phi * p_s) / (287.055 * (t + 273.15))",
    symbols={"p": "pressure", "t": "air_degc", "phi": "humidity", "p_s": "saturation"},
    source=Source("ideal gas mixture", "0.378 = 1 less the ratio of the molar masses of water and air", "law"),
)
def moist_air_density(pressure: Pascal, air_degc: DegC, humidity: Percent, saturation: Pascal) -> KilogramPerCubicMetre:
    """Density of moist air: damp air is lighter.

    Parameters
    ----------
    pressure : absolute, > 0 [Pa]
    air_degc : temperature [°C]
    humidity : relative, 0 to 1 [-]
    saturation : vapour pressure of water at that temperature [Pa]

    Examples
    --------
    >>> round(moist_air_density(97_773, 35, 0.6, 5_627), 3)
    1.091
    """
    check_range("relative humidity", humidity, atleast=0, upto=1)
    return (pressure - 0.378 * humidity * saturation) / (DRY_AIR * (air_degc + 273.15))


@method(
    id="density_factor",
    symbol="k_rho",
    formula="(p / p_0) * ((T_0 + 273.15) / (T + 273.15))",
    symbols={"p": "pressure", "T": "air_degc", "p_0": "standard_pressure", "T_0": "standard_degc"},
    source=Source("AMCA 201", "density correction, from memory", "standard"),
)
def density_factor(
    pressure: Pascal, air_degc: DegC, standard_pressure: Pascal = 101_325.0, standard_degc: DegC = 21.111111
) -> Ratio:
    """Density against standard air, 70 °F at sea level.

    Parameters
    ----------
    pressure : absolute [Pa]
    air_degc : temperature [°C]
    standard_pressure : of the reference [Pa]
    standard_degc : of the reference [°C]

    Examples
    --------
    >>> round(density_factor(101_325, 93.333), 3)
    0.803
    """
    check_range("air in °C", air_degc, above=-60, upto=400)
    return (pressure / standard_pressure) * ((standard_degc + 273.15) / (air_degc + 273.15))


@method(
    id="velocity_pressure",
    symbol="p_v",
    formula="rho * v**2 / 2",
    symbols={"rho": "density", "v": "air_speed"},
    source=Source("Bernoulli", kind="law"),
)
def velocity_pressure(air_speed: float, density: KilogramPerCubicMetre = STANDARD_AIR) -> AirPascal:
    """Pressure of moving air.

    Parameters
    ----------
    air_speed : in the duct [m/s]
    density : of the air, > 0 [kg/m³]

    Examples
    --------
    >>> round(velocity_pressure(10, 1.2), 3)
    60.0
    """
    return density * air_speed**2 / 2


@method(
    id="air_speed",
    symbol="v",
    formula="sqrt(2 * p_v / rho)",
    symbols={"rho": "density", "p_v": "velocity_pressure"},
    source=Source("Bernoulli", kind="law"),
)
def air_speed(velocity_pressure: AirPascal, density: KilogramPerCubicMetre = STANDARD_AIR) -> float:
    """Speed of air from its velocity pressure [m/s].

    Parameters
    ----------
    velocity_pressure : >= 0 [Pa]
    density : of the air, > 0 [kg/m³]

    Examples
    --------
    >>> round(air_speed(60, 1.2), 3)
    10.0
    """
    return float((2 * velocity_pressure / density) ** 0.5)
