"""Units against pint, and reading what people type."""

import math

import pint
import pytest
from hypothesis import given, settings
from hypothesis import strategies as st

from mainspring.core.errors import BadEntry, OutOfRange
from mainspring.core.line.stations import Site
from mainspring.core.method import given as figure
from mainspring.core.quantity import DIMENSIONS, Dimension, Unit, round_significant
from mainspring.core.sentence import say
from mainspring.core.systems import SYSTEMS, UnitSystem
from mainspring.core.told import told

PINT = pint.UnitRegistry(autoconvert_offset_to_baseunit=True)
PINT.define("conventional_inch_of_water = inch * 1000 kg/m**3 * standard_gravity")
AS_PINT = {
    "MGD": "megagallon / day", "igpm": "imperial_gallon/min", "igal": "imperial_gallon",
    "–": "dimensionless", "%": "percent", "r/min": "rpm", "m³/s": "m**3/s", "L/s": "L/s", "m³/h": "m**3/hour",
    "L/min": "L/min", "gpm": "gallon/min", "m³": "m**3", "gal": "gallon", "min": "minute", "h": "hour", "a": "year",
    "°C": "degC", "°F": "degF", "kg/m³": "kg/m**3", "lb/ft³": "lb/ft**3", "N·m": "N*m", "lbf·ft": "lbf*ft", "Ω": "ohm",
    "mΩ": "milliohm", "W/(m²·K)": "W/m**2/K", "m²": "m**2", "µF": "microfarad", "°": "degree", "per hour": "1/hour",
    "1/s": "1/s", "hp": "hp", "in": "inch", "ft/s": "ft/s", "t": "metric_ton", "kg/kWh": "kg/kWh", "kg/J": "kg/J",
    "/J": "1/J", "/W": "1/W", "/kW": "1/kW", "J/m³": "J/m**3", "kWh/m³": "kWh/m**3", "kWh/ML": "kWh/megaliter",
    "/kWh": "1/kWh", "m/(m³/s)²": "s**2/m**5", "s²/m⁵": "s**2/m**5", "m/(m³/s)": "s/m**2", "V/Hz": "V/Hz",
    "cfm": "ft**3/min", "in w.g.": "conventional_inch_of_water", "Pa/(m³/s)²": "Pa*s**2/m**6", "Pa/(m³/s)": "Pa*s/m**3",
    "kg·m²": "kg*m**2", "lb·ft²": "lb*ft**2", "Btu/h": "Btu/hour", "mm²": "mm**2", "Ω/m": "ohm/m", "Ω/km": "ohm/km",
    "Ω/kft": "ohm/kft", "Ω·m": "ohm*m", "var": "W", "kvar": "kW",
    "MΩ": "megaohm", "kΩ": "kiloohm", "µC": "microcoulomb", "m/s²": "m/s**2", "ft/s²": "ft/s**2",
    "m³/s/√Pa": "m**3/s/Pa**0.5",
    "Kv": "m**3/hour/bar**0.5", "Cv": "gallon/min/psi**0.5", "J/(kg·K)": "J/kg/K", "Btu/(lb·°F)": "Btu/lb/delta_degF",
}  # fmt: skip
PAIRS = [(d, u) for d in DIMENSIONS.values() for u in d.units if u.symbol]


@pytest.mark.parametrize(("dimension", "unit"), PAIRS, ids=lambda x: getattr(x, "id", getattr(x, "symbol", "")))
def test_factors_agree_with_pint(dimension: Dimension, unit: Unit) -> None:
    theirs = AS_PINT.get(unit.symbol, unit.symbol)
    if dimension.id == "temperature_difference":
        theirs = {"K": "kelvin", "°F": "delta_degF"}[unit.symbol]
    core = AS_PINT.get(dimension.core.symbol, dimension.core.symbol)
    if dimension.id == "temperature_difference":
        core = "kelvin"
    expected = PINT.Quantity(7.0, theirs).to(core).magnitude
    assert unit.to_si(7.0) == pytest.approx(expected, rel=1e-9)


@given(value=st.floats(-1e9, 1e9), data=st.data())
@settings(max_examples=150, deadline=None, derandomize=True)
def test_conversion_goes_there_and_back(value: float, data: st.DataObject) -> None:
    _, unit = data.draw(st.sampled_from(PAIRS))
    assert unit.to_si(unit.from_si(value)) == pytest.approx(value, rel=1e-9, abs=1e-6)


@pytest.mark.parametrize(
    ("text", "dimension", "si"),
    [
        ("5.5 kW", "power", 5500),
        ("7.5 hp", "power", 5592.749),
        ("7.5HP", "power", 5592.749),
        ("11,1", "current", 11.1),
        ("1,234.5 W", "power", 1234.5),
        ("5 500 W", "power", 5500),
        ("60 psi", "pressure", 413_685.4),
        ("4 bar", "pressure", 400_000),
        ("0.9 m3/h", "flow", 0.00025),
        ("350 gpm", "flow", 0.02208157),
        ("104 °F", "temperature", 40),
        ("1450 rpm", "speed", 1450),
        ("1,5", "ratio", 1.5),
        ("89.6 %", "percent", 0.896),
    ],
)
def test_what_people_type_is_understood(text: str, dimension: str, si: float) -> None:
    assert DIMENSIONS[dimension].parse(text) == pytest.approx(si, rel=1e-6)


def test_a_comma_before_three_digits_is_asked() -> None:
    with pytest.raises(BadEntry, match=r"allowed: 1800 or 1\.800: write it without the comma"):
        DIMENSIONS["power"].parse("1,800 W", "power")
    assert DIMENSIONS["power"].parse("1,800 W", decimal_comma=True) == pytest.approx(1.8, rel=1e-12)
    assert DIMENSIONS["ratio"].parse("0,745") == pytest.approx(0.745, rel=1e-12)
    assert DIMENSIONS["power"].parse("1,234,567 W") == pytest.approx(1234567.0, rel=1e-12)


@pytest.mark.parametrize(
    "text", ["", "abc", "5.5 bar", "1e400", "--5", "NaN", "5,5,5 x", "<b>5</b>", "9" * 40, "5 5", "1 80", "12 5.5"]
)
def test_what_cannot_be_read_is_refused_by_name(text: str) -> None:
    with pytest.raises(BadEntry, match="power"):
        DIMENSIONS["power"].parse(text, "power")


def test_a_bare_number_is_in_the_unit_asked_for() -> None:
    assert DIMENSIONS["percent"].parse("89.6", default_unit="%") == pytest.approx(0.896, rel=1e-6)


@pytest.mark.parametrize(
    ("value", "digits", "text"),
    [
        (0.0, 3, "0"),
        (1445.0, 4, "1445"),
        (5.5, 3, "5.5"),
        (0.00012345, 3, "0.000123"),
        (75536.3, 3, "75536"),
        (math.nan, 3, "–"),
    ],
)
def test_rounding_for_reading(value: float, digits: int, text: str) -> None:
    assert round_significant(value, digits) == text


@pytest.mark.parametrize(
    ("kind", "value", "told"),
    [
        ("frequency", 42.53, "42.5 Hz"), ("pressure", 20_987.0, "0.21 bar"), ("gain", 2.3871, "2.4"),
        ("current", 6.2371, "6.24 A"), ("speed", 1443.7, "1444 r/min"), ("pressure", 1234.0, "0.012 bar"),
        ("current", 0.2345, "0.23 A"), ("voltage", 316.8, "316.8 V"), ("percent", 0.02361, "2.36 %"),
    ],
)  # fmt: skip
def test_a_number_has_what_an_instrument_or_a_drive_can_hold(kind: str, value: float, told: str) -> None:
    assert DIMENSIONS[kind].show(value) == told


def test_plain_text_reads_in_both_systems() -> None:
    text = f"keep {DIMENSIONS['diameter'].tellings(0.3, 2)} apart, below {DIMENSIONS['voltage'].tellings(50.0)}"
    assert (told(text, "si"), told(text, "us")) == (
        "keep 300 mm apart, below 50 V",
        "keep 12 in apart, below 50 V",
    )


def test_imperial_is_gallons_and_feet_beside_celsius() -> None:
    flow, volume = DIMENSIONS["flow"], DIMENSIONS["volume"]
    assert flow.show(7.5767e-3, "im") == "100 igpm"  # 4.54609 L each, Weights and Measures Act 1985
    assert volume.show(0.0454609, "im") == "10 igal"
    assert DIMENSIONS["head"].show(30.48, "im") == "100 ft"
    assert DIMENSIONS["temperature"].show(40.0, "im") == "40 °C"
    assert flow.parse("100 imp gpm") == pytest.approx(100 * 4.54609e-3 / 60, rel=1e-9)


def test_a_unit_system_from_outside_is_one_row(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setitem(SYSTEMS, "hh", UnitSystem("hh", "Hectolitres", {"flow": "m³/d", "pressure": "kPa"}))
    assert DIMENSIONS["flow"].show(0.01, "hh") == "864 m³/d"
    assert DIMENSIONS["head"].show(12.0, "hh") == "12 m"
    assert told(DIMENSIONS["pressure"].tellings(3e5), "hh") == "300 kPa"
    assert told("keep ⟨300 mm|12 in⟩ apart", "hh") == "keep 300 mm apart"
    assert say("at {p}", p=figure("p", 3e5, "pressure")).text("hh") == "at 300 kPa"


@pytest.mark.parametrize("system", SYSTEMS.values(), ids=lambda s: s.id)
def test_what_a_system_shows_is_a_unit_of_the_quantity(system: UnitSystem) -> None:
    assert {kind: DIMENSIONS[kind].unit(symbol).symbol for kind, symbol in system.shows.items()} == dict(system.shows)


def test_a_refusal_tells_its_numbers_in_both_systems() -> None:
    with pytest.raises(OutOfRange, match=r"2000000 m; allowed: from -400 m up to 4000 m") as refused:
        Site.fields["altitude"].check(2e6)
    assert "ft" in told(refused.value.tellings, "us")
    assert "ft" not in str(refused.value)
