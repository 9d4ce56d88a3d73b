"""Units: the type aliases that every number carries, and conversion at the edges.

The core computes in SI with two trade exceptions, r/min and °C. The unit stands in the type: a parameter of type
`Watt` is a float in watts. Screens, files and the command line convert with `DIMENSIONS`; nothing else converts.
Factors: NIST SP 811 (2008), appendix B, unless a comment says otherwise; checked against `pint` in the tests.
"""

import math
import re
from dataclasses import dataclass, field
from typing import Annotated, Any, get_args, get_origin

from mainspring.core.errors import BadEntry
from mainspring.core.systems import SYSTEMS, USUAL
from mainspring.core.told import tellings

# decimals that an instrument, a gauge or a drive can hold; a number for reading has no more of them
_BY_DECIMALS = {
    0: ("r/min", "W", "VA", "Pa", "cfm", "h", "kWh", "kg"),
    1: (
        *("Hz", "kHz", "kVA", "kPa", "psi", "m³/h", "L/min", "gpm", "igpm", "ft", "mm", "L", "gal", "igal"),
        *("°C", "°F", "K", "N·m", "lbf·ft", "min"),
    ),
    2: ("V", "A", "mA", "kA", "kW", "hp", "bar", "in w.g.", "L/s", "m", "in", "%", "s", "MWh", "ft/s", "kg/m³"),
    3: ("m³/s", "m/s"),
}
SHOWN_DECIMALS = {symbol: decimals for decimals, symbols in _BY_DECIMALS.items() for symbol in symbols}
COARSE_FROM, COARSE_STEP = 120.0, 30.0  # seconds: from two minutes on, half minutes
LEAST_FIGURES = 2  # but never fewer than these, however small it is


@dataclass(frozen=True)
class Unit:
    """One unit of a dimension: value in SI = shown * factor + offset."""

    symbol: str
    factor: float
    offset: float = 0.0
    aliases: tuple[str, ...] = ()

    @property
    def decimals(self) -> int:
        """Most decimals of a number for reading."""
        return SHOWN_DECIMALS.get(self.symbol, 6)

    def to_si(self, shown: float) -> float:
        """Value in the core's unit from the value shown in this unit."""
        return shown * self.factor + self.offset

    def from_si(self, value: float) -> float:
        """Value to show in this unit from the core's value."""
        return (value - self.offset) / self.factor


@dataclass(frozen=True)
class Dimension:
    """A kind of quantity: its units (the core's own first), and the one shown where a unit system names no other."""

    id: str
    units: tuple[Unit, ...]
    si: str
    digits: int = 4  # significant figures on a screen
    coarse: str = ""  # the unit in which a long, round value is read: 10 min rather than 600 s
    by_symbol: dict[str, Unit] = field(default_factory=dict, compare=False)

    def __post_init__(self) -> None:
        for unit in self.units:
            for name in (unit.symbol, *unit.aliases):
                self.by_symbol[_key(name)] = unit

    @property
    def core(self) -> Unit:
        """The unit the core computes in."""
        return self.units[0]

    def symbol(self, system: str = USUAL) -> str:
        """Symbol of the unit in which a unit system shows it."""
        return SYSTEMS[system].shows.get(self.id, self.si)

    def shown(self, system: str) -> Unit:
        """The unit in which a unit system shows it."""
        return self.unit(self.symbol(system))

    def known(self, symbol: str) -> Unit | None:
        """The unit of that symbol, spelling forgiven; None where it is no unit of this kind."""
        return self.by_symbol.get(_key(symbol))

    def unit(self, symbol: str) -> Unit:
        """The unit of that symbol, spelling forgiven; BadEntry names the symbols allowed."""
        try:
            return self.by_symbol[_key(symbol)]
        except KeyError:
            raise BadEntry("unit", symbol, ", ".join(u.symbol for u in self.units)) from None

    def parse(
        self, text: str, field_name: str = "value", default_unit: str | None = None, *, decimal_comma: bool = False
    ) -> float:
        """SI value from what a person typed: "5.5 kW", "7.5 hp", "11,1"; a bare number is in `default_unit`.

        Raises BadEntry when the text is no number, is not finite, or its unit is of another kind; and for a comma
        before exactly three digits, which may group thousands or not, unless it is known to be a decimal mark.
        """
        match = _NUMBER.match(text.strip())
        if not match or not match.group(1):
            raise BadEntry(field_name, text, f"a number, with or without a unit ({self.si})")
        if not decimal_comma and _EITHER.match(match.group(1)):
            either = match.group(1).replace(",", ""), match.group(1).replace(",", ".")
            raise BadEntry(field_name, text, f"{either[0]} or {either[1]}: write it without the comma")
        try:
            number = float(_plain(match.group(1)))
        except ValueError:  # more marks than one number has: 5,5,5
            raise BadEntry(field_name, text, f"one number, with or without a unit ({self.si})") from None
        if not abs(number) < 1e15:
            raise BadEntry(field_name, text, "a number of reasonable size")
        symbol = (match.group(2) or "").strip() or default_unit or self.core.symbol
        try:
            return self.unit(symbol).to_si(number)
        except BadEntry:
            raise BadEntry(field_name, text, "a unit of " + ", ".join(u.symbol for u in self.units)) from None

    def tellings(self, value: float, digits: int | None = None) -> str:
        """The value as plain text that reads in every unit system."""
        return tellings(*(self.show(value, system, digits) for system in SYSTEMS))

    def show(self, value: float, system: str = USUAL, digits: int | None = None, unit: str = "") -> str:
        """The value in the system's unit or the one named, rounded for reading, with the unit."""
        told = unit or self.symbol(system)
        if not unit and self.coarse and value >= COARSE_FROM and value % COARSE_STEP == 0:
            told = self.coarse
        chosen = self.by_symbol[_key(told)]
        shown = chosen.from_si(value)
        number = round_significant(shown, digits or figures_shown(shown, self.digits, chosen.decimals))
        return f"{number} {chosen.symbol}".strip().removesuffix(" –")


_NUMBER = re.compile(
    r"^([+-]?(?:(?:\d{1,3}(?:[\u00a0\u202f\u2009 ]\d{3})+|\d+)(?:[.,]\d+)*|[.,]\d+)(?:[eE][+-]?\d+)?)\s*(\D.*)?$|^$"
)
_EITHER = re.compile(r"^[+-]?[1-9]\d{0,2},\d{3}$")
_GROUPED = re.compile(r"^[+-]?\d{1,3}(,\d{3})+(\.\d+)?$")


def _plain(number: str) -> str:
    """The digits as Python reads them: a comma is a decimal mark unless it plainly groups thousands."""
    number = re.sub(r"[\s\u00a0\u202f\u2009]", "", number)
    if _GROUPED.match(number) and (number.count(",") > 1 or "." in number):
        return number.replace(",", "")
    return number.replace(",", ".")


def _key(symbol: str) -> str:
    """Symbols compared without case of the first letters of prefixes mattering to a gloved hand: kw = kW."""
    squeezed = re.sub(r"[\s·.^]", "", symbol).replace("³", "3").replace("²", "2").replace("°", "").replace("µ", "u")
    return squeezed if squeezed in _CASE_MATTERS else squeezed.lower()


_CASE_MATTERS = {"mW", "MW", "MPa"}


def figures_shown(number: float, digits: int, decimals: int) -> int:
    """Significant figures of a number that has so many figures at most, and so many decimals."""
    if number == 0 or not math.isfinite(number):
        return digits
    whole = math.floor(math.log10(abs(number))) + 1  # before the decimal mark; less than 1 below 0.1
    return max(min(digits, whole + decimals), min(LEAST_FIGURES, digits))


def round_significant(number: float, digits: int) -> str:
    """Decimal text with that many significant figures, no exponent for trade-size numbers, no trailing noise."""
    if number == 0 or number - number != 0:
        return "0" if number == 0 else "∞" if number > 0 else "–"
    magnitude = len(str(int(abs(number)))) if abs(number) >= 1 else 0
    if magnitude >= digits:
        return f"{number:.0f}"
    text = f"{number:.{digits}g}"
    return f"{float(text):f}".rstrip("0").rstrip(".") if "e" in text else text


G = 9.80665  # m/s², standard gravity, exact by definition
HORSEPOWER = 745.69987158227022  # W, 550 ft·lbf/s, exact by definition
GALLON = 3.785411784e-3  # m³, US liquid gallon, exact by definition
IMPERIAL_GALLON = 4.54609e-3  # m³, exact by definition
PSI = 6894.757293168361  # Pa
FOOT = 0.3048  # m, exact by definition
INCH_WATER = 249.08891  # Pa, conventional inch of water: 0.0254 m of 1000 kg/m³ at standard gravity
WATER_20C = 998.2  # kg/m³ at 20 °C and 1 atm; IAPWS-95 gives 998.206


def _dimension(id: str, *units: Unit, si: str | None = None, digits: int = 4, coarse: str = "") -> Dimension:
    return Dimension(id, units, si or units[0].symbol, digits, coarse)


DIMENSIONS: dict[str, Dimension] = {
    d.id: d
    for d in (
        _dimension("ratio", Unit("–", 1, aliases=("-", "1")), Unit("%", 0.01), si="–", digits=3),
        _dimension("percent", Unit("–", 1, aliases=("-", "1")), Unit("%", 0.01), si="%", digits=3),
        _dimension("count", Unit("–", 1, aliases=("-", "1"))),
        _dimension(
            "power",
            Unit("W", 1),
            Unit("kW", 1e3),
            Unit("hp", HORSEPOWER),
            Unit("MW", 1e6),
            si="kW",
            digits=3,
        ),
        _dimension("input_power", Unit("W", 1), Unit("kW", 1e3), Unit("hp", HORSEPOWER), si="kW", digits=3),
        _dimension("voltage", Unit("V", 1), Unit("kV", 1e3), Unit("mV", 1e-3)),
        _dimension("current", Unit("A", 1), Unit("mA", 1e-3), Unit("kA", 1e3), digits=3),
        _dimension("signal", Unit("A", 1), Unit("mA", 1e-3), si="mA"),
        _dimension("frequency", Unit("Hz", 1), digits=3),
        _dimension("carrier", Unit("Hz", 1), Unit("kHz", 1e3), si="kHz", digits=3),
        _dimension("speed", Unit("r/min", 1, aliases=("rpm", "rev/min", "min-1", "1/min"))),
        _dimension(
            "flow",
            Unit("m³/s", 1, aliases=("cumecs",)),
            Unit("L/s", 1e-3, aliases=("l/s", "lps")),
            Unit("m³/h", 1 / 3600, aliases=("cmh",)),
            Unit("L/min", 1e-3 / 60, aliases=("lpm",)),
            Unit("L/h", 1e-3 / 3600, aliases=("l/h", "lph")),
            Unit("m³/d", 1 / 86400, aliases=("m3/d", "m3/day", "m³/day")),
            Unit("MGD", 1e6 * GALLON / 86400, aliases=("mgd",)),
            Unit("gpm", GALLON / 60, aliases=("usgpm", "gal/min")),
            Unit("igpm", IMPERIAL_GALLON / 60, aliases=("imp gpm", "imp gal/min")),
            si="L/s",
            digits=3,
        ),
        _dimension("head", Unit("m", 1), Unit("ft", FOOT, aliases=("'",)), digits=3),
        _dimension(
            "length",
            Unit("m", 1),
            Unit("mm", 1e-3),
            Unit("ft", FOOT, aliases=("'",)),
            Unit("in", 0.0254, aliases=('"',)),
            digits=3,
        ),
        _dimension("diameter", Unit("m", 1), Unit("mm", 1e-3), Unit("in", 0.0254, aliases=('"',)), si="mm"),
        _dimension(
            "pressure",
            Unit("Pa", 1),
            Unit("bar", 1e5, aliases=("barg",)),
            Unit("kPa", 1e3),
            Unit("MPa", 1e6),
            Unit("psi", PSI, aliases=("psig",)),
            si="bar",
            digits=3,
        ),
        _dimension(
            "volume",
            Unit("m³", 1),
            Unit("L", 1e-3),
            Unit("gal", GALLON),
            Unit("igal", IMPERIAL_GALLON, aliases=("imp gal",)),
            si="L",
            digits=3,
        ),
        _dimension("gain", Unit("–", 1, aliases=("-", "1")), digits=2),
        _dimension(
            "time", Unit("s", 1, aliases=("sec",)), Unit("min", 60), Unit("h", 3600, aliases=("hr",)), coarse="min"
        ),
        _dimension("hours", Unit("s", 1), Unit("h", 3600, aliases=("hr",)), si="h"),
        _dimension("years", Unit("years", 1, aliases=("a", "y", "yr", "year")), digits=2),
        _dimension(
            "temperature",
            Unit("°C", 1),
            Unit("°F", 5 / 9, -160 / 9),
        ),
        _dimension("temperature_difference", Unit("K", 1), Unit("°F", 5 / 9)),
        _dimension("density", Unit("kg/m³", 1), Unit("lb/ft³", 0.45359237 / FOOT**3), digits=3),
        _dimension(
            "torque",
            Unit("N·m", 1),
            Unit("lbf·ft", 1.3558179483314004, aliases=("lbft", "ftlb")),
            digits=3,
        ),
        _dimension(
            "insulation",
            Unit("Ω", 1, aliases=("ohm",)),
            Unit("kΩ", 1e3),
            Unit("MΩ", 1e6, aliases=("Mohm",)),
            si="MΩ",
            digits=3,
        ),
        _dimension("resistance", Unit("Ω", 1, aliases=("ohm",)), Unit("mΩ", 1e-3)),
        _dimension("energy", Unit("J", 1), Unit("kWh", 3.6e6), Unit("MWh", 3.6e9), si="kWh", digits=4),
        _dimension("money", Unit("", 1)),
        _dimension("energy_price", Unit("/J", 1), Unit("/kWh", 1 / 3.6e6, aliases=("kWh",)), si="/kWh"),
        _dimension("demand_price", Unit("/W", 1), Unit("/kW", 1e-3, aliases=("kW",)), si="/kW"),
        _dimension("energy_slope", Unit("J/m³", 1), Unit("kWh/m³", 3.6e6), Unit("kWh/ML", 3.6e3), si="kWh/m³"),
        _dimension("emission", Unit("kg/J", 1), Unit("kg/kWh", 1 / 3.6e6), si="kg/kWh"),
        _dimension("mass", Unit("kg", 1), Unit("t", 1e3), si="kg"),
        _dimension("pipe_resistance", Unit("m/(m³/s)²", 1), Unit("s²/m⁵", 1)),
        _dimension("curve_slope", Unit("m/(m³/s)", 1)),
        _dimension("specific_speed", Unit("–", 1)),
        _dimension("apparent_power", Unit("VA", 1), Unit("kVA", 1e3), si="kVA"),
        _dimension("flux", Unit("V/Hz", 1)),
        _dimension("area", Unit("m²", 1)),
        _dimension("heat_transfer", Unit("W/(m²·K)", 1)),
        _dimension("velocity", Unit("m/s", 1), Unit("ft/s", FOOT), digits=3),
        _dimension("capacitance", Unit("F", 1), Unit("µF", 1e-6), si="µF"),
        _dimension("acceleration", Unit("m/s²", 1), Unit("ft/s²", FOOT), digits=6),
        _dimension("heat_capacity", Unit("J/(kg·K)", 1), Unit("Btu/(lb·°F)", 1055.056 / 0.45359237 * 9 / 5)),
        _dimension("activation", Unit("eV", 1), digits=3),
        _dimension("charge", Unit("C", 1), Unit("µC", 1e-6), si="µC"),
        # m³/s through it at 1 Pa; the trade says Kv (m³/h at 1 bar) or Cv (gpm at 1 psi)
        _dimension(
            "valve_capacity",
            Unit("m³/s/√Pa", 1),
            Unit("Kv", 1 / 3600 / math.sqrt(1e5)),
            Unit("Cv", GALLON / 60 / math.sqrt(PSI)),
            si="Kv",
            digits=3,
        ),
        _dimension("modulus", Unit("Pa", 1), Unit("GPa", 1e9), si="GPa"),
        _dimension("angle", Unit("°", 1, aliases=("deg",))),
        _dimension(
            "air_flow",
            Unit("m³/s", 1, aliases=("cumecs",)),
            Unit("m³/h", 1 / 3600, aliases=("cmh",)),
            Unit("L/s", 1e-3, aliases=("l/s", "lps")),
            Unit("cfm", FOOT**3 / 60, aliases=("ft3/min",)),
            digits=3,
        ),
        _dimension(
            "air_pressure",
            Unit("Pa", 1),
            Unit("kPa", 1e3),
            Unit("in w.g.", INCH_WATER, aliases=("inwg", "in wg", "inwc", '"wg')),
            digits=3,
        ),
        _dimension("air_resistance", Unit("Pa/(m³/s)²", 1)),
        _dimension("air_slope", Unit("Pa/(m³/s)", 1)),
        _dimension("inertia", Unit("kg·m²", 1), Unit("lb·ft²", 0.45359237 * FOOT**2), digits=3),
        _dimension("heat", Unit("W", 1), Unit("kW", 1e3), Unit("Btu/h", 1055.056 / 3600), digits=3),
        _dimension("fault_current", Unit("A", 1), Unit("kA", 1e3), si="kA", digits=3),
        _dimension("conductor_area", Unit("m²", 1), Unit("mm²", 1e-6), si="mm²", digits=3),
        _dimension(
            "wire_resistance",
            Unit("Ω/m", 1),
            Unit("Ω/km", 1e-3),
            Unit("Ω/kft", 1 / (1000 * FOOT)),
            si="Ω/km",
            digits=3,
        ),
        _dimension("resistivity", Unit("Ω·m", 1)),
        _dimension("inductance", Unit("H", 1), Unit("mH", 1e-3), si="mH"),
        _dimension("reactive_power", Unit("var", 1), Unit("kvar", 1e3), si="kvar"),
        _dimension("rate", Unit("1/s", 1), Unit("per hour", 1 / 3600, aliases=("1/h", "/h")), si="per hour", digits=2),
    )
}

Gain = Annotated[float, "gain"]
Ratio = Annotated[float, "ratio"]
Percent = Annotated[float, "percent"]  # a ratio that screens show in percent
Count = Annotated[float, "count"]
Watt = Annotated[float, "power"]
InputWatt = Annotated[float, "input_power"]  # electrical: kW in both unit systems
Volt = Annotated[float, "voltage"]
Ampere = Annotated[float, "current"]
SignalAmpere = Annotated[float, "signal"]
Hertz = Annotated[float, "frequency"]
RevPerMin = Annotated[float, "speed"]
CubicMetrePerSecond = Annotated[float, "flow"]
MetreHead = Annotated[float, "head"]
Metre = Annotated[float, "length"]
Diameter = Annotated[float, "diameter"]
Pascal = Annotated[float, "pressure"]
CubicMetre = Annotated[float, "volume"]
Second = Annotated[float, "time"]
HourSecond = Annotated[float, "hours"]  # seconds that screens show as hours
Year = Annotated[float, "years"]
DegC = Annotated[float, "temperature"]
Kelvin = Annotated[float, "temperature_difference"]
KilogramPerCubicMetre = Annotated[float, "density"]
NewtonMetre = Annotated[float, "torque"]
InsulationOhm = Annotated[float, "insulation"]
Ohm = Annotated[float, "resistance"]
Joule = Annotated[float, "energy"]
Money = Annotated[float, "money"]
MoneyPerJoule = Annotated[float, "energy_price"]
MoneyPerWatt = Annotated[float, "demand_price"]  # and month
EnergySlope = Annotated[float, "energy_slope"]
KilogramPerJoule = Annotated[float, "emission"]
Kilogram = Annotated[float, "mass"]
PipeResistance = Annotated[float, "pipe_resistance"]
CurveSlope = Annotated[float, "curve_slope"]
SpecificSpeed = Annotated[float, "specific_speed"]
VoltAmpere = Annotated[float, "apparent_power"]
VoltPerHertz = Annotated[float, "flux"]
SquareMetre = Annotated[float, "area"]
HeatTransfer = Annotated[float, "heat_transfer"]
MetrePerSecond = Annotated[float, "velocity"]
Farad = Annotated[float, "capacitance"]
ElectronVolt = Annotated[float, "activation"]
Acceleration = Annotated[float, "acceleration"]
HeatCapacity = Annotated[float, "heat_capacity"]
CarrierHertz = Annotated[float, "carrier"]
Coulomb = Annotated[float, "charge"]
ValveCapacity = Annotated[float, "valve_capacity"]
Modulus = Annotated[float, "modulus"]
Degree = Annotated[float, "angle"]
PerSecond = Annotated[float, "rate"]
AirFlow = Annotated[float, "air_flow"]
AirPascal = Annotated[float, "air_pressure"]
AirResistance = Annotated[float, "air_resistance"]
AirSlope = Annotated[float, "air_slope"]
Inertia = Annotated[float, "inertia"]
Heat = Annotated[float, "heat"]
FaultAmpere = Annotated[float, "fault_current"]
ConductorArea = Annotated[float, "conductor_area"]
OhmPerMetre = Annotated[float, "wire_resistance"]
Resistivity = Annotated[float, "resistivity"]
Henry = Annotated[float, "inductance"]
Var = Annotated[float, "reactive_power"]


def dimension_of(annotation: Any) -> str | None:
    """The dimension id in an annotation such as `Watt` or `Sequence[Watt]`; None when it carries none."""
    if get_origin(annotation) is Annotated and isinstance(get_args(annotation)[1], str):
        return str(get_args(annotation)[1])
    for inner in get_args(annotation):
        found = dimension_of(inner)
        if found:
            return found
    return None
