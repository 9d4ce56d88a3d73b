"""What hands and eyes do to a number, turned round: from what stands in the record to what may have been meant."""

import itertools
import math
from collections.abc import Iterator
from functools import lru_cache
from typing import Any, NamedTuple

from mainspring.core.errors import BadEntry
from mainspring.core.line import find_field
from mainspring.core.line.fields import Field, Points, Quantity
from mainspring.core.quantity import DIMENSIONS, Dimension, Unit, round_significant
from mainspring.core.second_eye.usual import HORSEPOWERS, KILOWATTS, usual_slip
from mainspring.core.systems import SYSTEMS

_BAR = (1.0, 1.6, 2.5, 4.0, 6.0, 10.0, 16.0, 25.0, 40.0)
_PSI = (15.0, 30.0, 50.0, 60.0, 100.0, 150.0, 200.0, 300.0)
# ln of how often each is what happened, among slips
UNIT, DECADE, HUNDREDFOLD, SWAPPED, LOST, WRONG, EXTRA = -1.2, -1.9, -3.2, -2.0, -2.2, -2.3, -2.6
CONNECTION, HERTZ, UPSIDE_DOWN, STANDARD, EXCHANGED, NEIGHBOUR, FREE = -2.2, -1.5, -1.8, -2.3, -2.8, -4.0, -3.2
SYNCHRONOUS, POLE_PAIR = -1.8, -2.6
# pairs of entries that stand side by side and take each other's number
SIDE_BY_SIDE = (
    ("motor.power_factor", "motor.efficiency"), ("motor.rated_current", "motor.service_factor_current"),
    ("motor.rated_current", "drive.rated_current"), ("motor.rated_power", "drive.rated_power"),
    ("motor.rated_voltage", "motor.other_voltage"), ("motor.rated_current", "motor.other_current"),
    ("machine.duty_head", "system.static_head"), ("machine.duty_flow", "machine.best_flow"),
    ("machine.curve_speed", "motor.rated_speed"), ("system.tank_precharge", "control.setpoint"),
    ("sensor.range_high", "control.setpoint"), ("system.suction_pressure", "control.setpoint"),
    ("sensor.range_high", "system.pressure_rating"), ("system.stop_level", "system.start_level"),
    ("system.start_level", "system.high_level"), ("control.level_setpoint", "system.stop_level"),
    ("drive.input_voltage_low", "drive.input_voltage_high"), ("drive.ambient", "drive.ambient_rating"),
    ("system.pumping_level", "machine.duty_head"), ("motor.diameter", "system.well_bore"),
    ("drive.heavy_current", "drive.rated_current"), ("motor.rated_voltage", "supply.voltage"),
    ("machine.air_pressure", "control.air_setpoint"), ("control.air_setpoint", "sensor.air_high"),
)  # fmt: skip
_HERTZ_FIELDS = ("motor.rated_frequency", "supply.frequency", "motor.rated_speed", "machine.curve_speed")
_VOLTS_AND_AMPS = ("motor.rated_voltage", "motor.rated_current", "motor.other_voltage", "motor.other_current",
                   "supply.voltage", "drive.rated_current")  # fmt: skip


class Edit(NamedTuple):
    """One thing that may have happened: what the record should then say, how likely, and its name."""

    changes: tuple[tuple[str, Any], ...]  # field, value in SI; two where entries were exchanged
    prior: float
    kind: str

    @property
    def free(self) -> bool:
        """Whether only the field is meant, and the value not more than about right."""
        return self.kind == "another number"


def edits_of(
    path: str, values: dict[str, Any], typed: str, worth: float = -math.inf, *, bent: bool = False
) -> Iterator[Edit]:
    """What may have been meant by one entry, where it is at least as likely as it is worth.

    Of a curve that is `bent`, also by one of its points.
    """
    field = find_field(path)
    if isinstance(field, Points):
        yield from _edits_of_columns(path, field, values[path])
        if bent:
            yield from _edits_of_points(path, field, values[path])
        return
    assert isinstance(field, Quantity)
    for value, prior, kind in _numbers(path, field.dimension, values[path], typed):
        if prior >= worth and _possible(field, value):
            yield Edit(((path, value),), prior, kind)
    for one, other in SIDE_BY_SIDE:
        if path not in (one, other) or one not in values or other not in values or values[one] == values[other]:
            continue
        if _possible(find_field(one), values[other]) and _possible(find_field(other), values[one]):
            yield Edit(((one, values[other]), (other, values[one])), EXCHANGED, "exchanged with its neighbour")
    if path == "motor.rated_speed":
        yield from _speeds(values)


def _possible(field: Field, value: float) -> bool:
    assert isinstance(field, Quantity)
    if field.above is not None and value <= field.above:
        return False
    return (field.atleast is None or value >= field.atleast) and value <= field.upto


@lru_cache(4096)
def _numbers(path: str, dimension_id: str, value: float, typed: str) -> tuple[tuple[float, float, str], ...]:
    """Values, how likely and what then happened, for a number as it was typed."""
    dimension = DIMENSIONS[dimension_id]
    number, unit = as_typed(dimension, value, typed)
    digits = number.lstrip("-")
    found: list[tuple[float, float, str]] = []

    def add(kind: str, prior: float, shown: list[float]) -> None:
        new = [x for x in dict.fromkeys(shown) if x == x and abs(x - float(number)) > 1e-9 * abs(x)]
        share = prior - math.log(max(1, len(new)))
        found.extend((unit.to_si(x), share, kind) for x in new)

    meant = float(number)
    others = [u for u in dimension.units if u is not unit and not _core_only(dimension, u)]
    if others:
        share = UNIT - math.log(len(others))
        found.extend(
            (u.to_si(meant), share, f"{u.symbol.replace('–', 'a ratio')} taken for {unit.symbol}") for u in others
        )
    add("the decimal mark", DECADE, [meant * 10, meant / 10])
    add("the decimal mark", HUNDREDFOLD, [meant * 100, meant / 100, meant * 1000, meant / 1000])
    sign = "-" if number.startswith("-") else ""
    add("two digits swapped", SWAPPED, [float(sign + d) for d in _swapped(digits)])
    add("a digit lost", LOST, [float(sign + d) for d in _lost(digits)])
    add("a digit wrong", WRONG, [float(sign + d) for d in _wrong(digits)])
    add("a digit too many", EXTRA, [float(sign + d) for d in _extra(digits)])
    if path in _VOLTS_AND_AMPS:
        root = math.sqrt(3)
        add("the other connection's", CONNECTION, [meant * root, meant / root, meant * 2, meant / 2])
    if path in _HERTZ_FIELDS:
        add("50 Hz taken for 60 Hz", HERTZ, [meant * 1.2, meant / 1.2])
    if path == "machine.curve_speed":
        add("the page of other poles", POLE_PAIR, [meant * f for f in (2, 0.5, 1.5, 2 / 3)])
    if dimension_id == "air_flow":
        add("thousands of m³/h taken for m³/s", UNIT - 1.0, [meant * 3.6, meant / 3.6])
    if path == "machine.pulley_ratio":
        add("upside down", UPSIDE_DOWN, [1 / meant])
    if path in ("motor.rated_power", "drive.rated_power"):
        add("the size beside it", STANDARD, _beside(HORSEPOWERS if unit.symbol == "hp" else KILOWATTS, meant, 2))
    if path == "sensor.range_high":
        add("another range", STANDARD, _beside(_PSI if unit.symbol == "psi" else _BAR, meant, 3))
    if sign == "" and dimension_id in ("pressure", "air_pressure", "temperature", "head") and meant > 0:
        add("the sign", -3.0, [-meant])
    elif sign:
        add("the sign", -2.0, [-meant])
    return tuple(found)


_NEVER_TYPED = ("Pa", "W", "m³", "/J", "kg/J", "s²/m⁵", "MPa", "mV", "kV", "MW")
_SELDOM = ("igpm", "igal")  # one trade's own: a slip into them is not looked for


def _core_only(dimension: Dimension, unit: Unit) -> bool:
    """Whether a unit is only how the core counts, and nobody types it: pascals in pipes, watts of a motor."""
    return unit.symbol in (*_NEVER_TYPED, *_SELDOM) and unit is not dimension.unit(dimension.si)


def _named(unit: Unit) -> str:
    return "a ratio" if unit.symbol == "–" else unit.symbol


def as_typed(dimension: Dimension, value: float, typed: str) -> tuple[str, Unit]:
    """Number and unit as they were typed; where that is not known, in the unit that gives the fewest digits."""
    if typed:
        text = typed.strip()
        for cut in range(len(text), 0, -1):
            number, symbol = text[:cut].strip().replace(",", "."), text[cut:].strip()
            try:
                float(number)
                unit = dimension.unit(symbol or dimension.si)
            except BadEntry:  # a unit of no kind: what was typed is not known then
                break
            except ValueError:
                continue
            plain = number.lstrip("+-").replace(".", "", 1).isdigit()  # 1e3 has no digits to be swapped
            if plain and math.isclose(unit.to_si(float(number)), value, rel_tol=1e-9, abs_tol=1e-12):
                return number.lstrip("+"), unit
            break
    shown: list[tuple[bool, int, int, str, Unit]] = []
    for symbol in dict.fromkeys((*map(dimension.symbol, SYSTEMS), *(u.symbol for u in dimension.units))):
        unit = dimension.unit(symbol)
        number = round_significant(unit.from_si(value), 6)
        if number == "–":
            continue
        exact = math.isclose(float(number), unit.from_si(value), rel_tol=1e-6, abs_tol=1e-12)
        shown.append((not exact, len(number.replace(".", "").strip("-0")), len(shown), number, unit))
    *_, number, unit = min(shown, key=lambda s: s[:3])
    return number, unit


def _swapped(digits: str) -> list[str]:
    at = [i for i, d in enumerate(digits) if d.isdigit()]
    made = []
    for i, j in itertools.pairwise(at):
        text = list(digits)
        text[i], text[j] = text[j], text[i]
        made.append("".join(text))
    return made


def _lost(digits: str) -> list[str]:
    doubled = [digits[:i] + d + digits[i:] for i, d in enumerate(digits) if d.isdigit()]
    return doubled + [
        digits[:i] + d + digits[i:] for i in range(len(digits) + 1) for d in "0123456789" if i or d != "0"
    ]


def _wrong(digits: str) -> list[str]:
    return [
        digits[:i] + d + digits[i + 1 :]
        for i, was in enumerate(digits)
        if was.isdigit()
        for d in "0123456789"
        if d != was and (i or d != "0")
    ]


def _extra(digits: str) -> list[str]:
    made = [digits[:i] + digits[i + 1 :] for i, d in enumerate(digits) if d.isdigit()]
    return [d for d in made if any(c.isdigit() for c in d)]


def _beside(listed: tuple[float, ...], value: float, reach: int) -> list[float]:
    at = min(range(len(listed)), key=lambda i: abs(listed[i] - value))
    return [listed[i] for i in range(max(0, at - reach), min(len(listed), at + reach + 1)) if i != at]


def _speeds(values: dict[str, Any]) -> Iterator[Edit]:
    """Full-load speed where the synchronous one was entered, and that of another number of poles."""
    speed, hertz, power = (values.get(f"motor.rated_{n}") for n in ("speed", "frequency", "power"))
    if not (speed and hertz and power):
        return
    for poles in (2, 4, 6, 8):
        synchronous = 120 * hertz / poles
        loaded = round(synchronous * (1 - usual_slip(power)) / 5) * 5.0
        if abs(speed / synchronous - 1) < 0.002:
            yield Edit((("motor.rated_speed", loaded),), SYNCHRONOUS, "the synchronous speed")
        elif abs(speed / synchronous - 1) > 0.2:
            yield Edit((("motor.rated_speed", loaded),), POLE_PAIR, "the speed of other poles")


def _edits_of_columns(path: str, field: Points, rows: list[list[float]]) -> Iterator[Edit]:
    """Whole columns in another unit or a decade off."""
    for column, declared in enumerate(field.columns):
        dimension = DIMENSIONS[declared.dimension]
        units = [u for u in dimension.units if not _core_only(dimension, u)]
        scaled: dict[float, tuple[float, str]] = {}
        for was in units:
            for meant in units:
                if was is not meant and was.factor != meant.factor:
                    kind = f"its {declared.label.lower()} column: {meant.symbol} taken for {was.symbol}"
                    scaled.setdefault(round(meant.factor / was.factor, 9), (UNIT - math.log(len(units)), kind))
        for factor in (10.0, 0.1):
            scaled.setdefault(factor, (DECADE - math.log(2), f"its {declared.label.lower()} column: the decimal mark"))
        for factor, (prior, kind) in scaled.items():
            if max(r[column] for r in rows) * factor > declared.upto:
                continue
            yield Edit(((path, [_scaled(r, column, factor) for r in rows]),), prior, kind)


_OF_A_POINT = ("two digits swapped", "the decimal mark", "a digit lost", "a digit wrong", "a digit too many")


def _scaled(row: list[float], column: int, factor: float) -> list[float]:
    return [v * factor if i == column else v for i, v in enumerate(row)]


def _edits_of_points(path: str, field: Points, rows: list[list[float]]) -> Iterator[Edit]:
    """One number of one point; a curve has many, so a slip in one of them is as likely as in any single entry."""
    for at, row in enumerate(rows):
        for column, declared in enumerate(field.columns):
            for value, prior, kind in _numbers(f"{path}#", declared.dimension, row[column], ""):
                if kind in _OF_A_POINT and declared.atleast <= value <= declared.upto:
                    made = [list(r) for r in rows]
                    made[at][column] = value
                    yield Edit(((path, made),), prior, f"point {at + 1}, {declared.label.lower()}: {kind}")
