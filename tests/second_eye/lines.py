"""Right lines and slips, read from the texts beside: every value as a person types it."""

import copy
import random
import re
from dataclasses import dataclass
from pathlib import Path
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.line import find_field
from mainspring.core.line.fields import Points, Quantity
from mainspring.core.quantity import DIMENSIONS

Record = dict[str, dict[str, Any]]
HERE = Path(__file__).parent
NOTHING_WRONG = {"drive": ("place",), "sensor": ("place", "air_place")}  # conditions that somebody looked at


def as_entered(path: str, text: str) -> dict[str, Any]:
    """An entry of the record from what was typed, with its unit."""
    field = find_field(path)
    if isinstance(field, Quantity):
        return {"value": DIMENSIONS[field.dimension].parse(text, path), "typed": text}
    if isinstance(field, Points):
        rows = [re.findall(r"[-\d.]+ [^\d-][^\d,]*", row.strip()) for row in text.split(",")]
        dimensions = [DIMENSIONS[c.dimension] for c in field.columns]
        return {"value": [[d.parse(cell.strip()) for d, cell in zip(dimensions, row, strict=True)] for row in rows]}
    return {"value": text}


def right_lines() -> dict[str, Record]:
    """Records by name."""
    found: dict[str, Record] = {}
    record: Record = {}
    for text in (HERE / "right_lines.txt").read_text().splitlines():
        if text.startswith("["):
            record = {group: {name: {"value": []} for name in names} for group, names in NOTHING_WRONG.items()}
            found[text[1 : text.index("]")]] = record
        elif text and not text.startswith("#"):
            group, _, fields = text.partition(":")
            for part in fields.split(";"):
                name, _, typed = part.strip().partition("=")
                record.setdefault(group, {})[name] = as_entered(f"{group}.{name}", typed)
    return found


def with_slip(record: Record, path: str, typed: str) -> Record:
    """The record with one field as somebody mistyped it."""
    made = copy.deepcopy(record)
    group, _, name = path.partition(".")
    made[group][name] = as_entered(path, typed)
    return made


@dataclass(frozen=True)
class Slip:
    """One entry of a right line mistyped."""

    line: str
    field: str
    typed: str
    why: str


def slips_by_hand() -> list[Slip]:
    """What people do, written down one by one."""
    rows = [r.split(" | ") for r in (HERE / "slips.txt").read_text().splitlines() if r and not r.startswith("#")]
    return [Slip(*row) for row in rows]


# entries of which nothing else on a line tells: only their plausible range can ask
NO_WITNESS = frozenset({
    "drive.lead_length", "sensor.cable_length", "supply.fault_current", "drive.short_circuit_rating", "drive.ambient",
    "system.air_degc", "system.leak", "machine.count", "drive.discharge_time", "sensor.height",
})  # fmt: skip


def slips_by_seed(per_line: int = 10, seed: int = 1, *, witnessed: bool = True) -> list[Slip]:
    """As many slips of each line, drawn from what a keyboard, an eye and a unit switch do; no part of the finder.

    Of entries that something else on the line tells of, or else of the others.
    """
    found = []
    for name, record in right_lines().items():
        draw = random.Random(f"{seed} {name}")
        typed_of = {f"{g}.{n}": e["typed"] for g, fields in record.items() for n, e in fields.items() if "typed" in e}
        fields = [(path, typed) for path, typed in typed_of.items() if (path not in NO_WITNESS) == witnessed]
        mine: dict[str, Slip] = {}
        while len(mine) < per_line:
            path, typed = draw.choice(fields)
            slip, why = _mistyped(draw, path, typed)
            if path not in mine and _is_taken(path, slip, typed):
                mine[path] = Slip(name, path, slip, why)
        found += mine.values()
    return found


def _is_taken(path: str, slip: str, typed: str) -> bool:
    """Whether the form would take it, and it is another value by more than plates differ."""
    try:
        entered, meant = (find_field(path).check(as_entered(path, text)["value"]) for text in (slip, typed))
    except BadEntry:
        return False
    return bool(abs(entered - meant) > 0.1 * abs(meant))


# units that stand side by side on plates, gauges and keyboards
_CONFUSED = {
    "power": ("kW", "hp"), "head": ("m", "ft"), "length": ("m", "ft"), "diameter": ("mm", "in"),
    "flow": ("L/s", "m³/h", "gpm", "L/min"), "air_flow": ("m³/s", "m³/h", "cfm", "L/s"),
    "pressure": ("bar", "psi", "kPa"), "air_pressure": ("Pa", "kPa", "in w.g."), "volume": ("L", "gal"),
    "temperature": ("°C", "°F"), "time": ("s", "min"), "fault_current": ("A", "kA"),
}  # fmt: skip


def _mistyped(draw: random.Random, path: str, typed: str) -> tuple[str, str]:
    number, _, unit = typed.partition(" ")
    digits = [i for i, c in enumerate(number) if c.isdigit()]
    field = find_field(path)
    assert isinstance(field, Quantity)
    ways = ["decade", "swapped", "lost", "wrong", "doubled", "unit", "unit", "hertz", "connection"]
    way = draw.choice(ways)
    at = draw.choice(digits)
    if way == "unit":
        others = [u for u in _CONFUSED.get(field.dimension, ()) if u != unit]
        return (f"{number} {draw.choice(others)}", "another unit") if others else (typed, "")
    if way == "decade":
        return f"{float(number) * draw.choice((10, 0.1)):.10g} {unit}", "the decimal mark"
    if way == "hertz":
        other = {"50": "60", "60": "50"}.get(number)
        return (f"{other} {unit}", "the other hertz") if other and unit == "Hz" else (typed, "")
    if way == "connection":
        if field.dimension not in ("voltage", "current") or not path.startswith("motor."):
            return typed, ""
        return f"{float(number) * draw.choice((1.732, 0.577, 2, 0.5)):.3g} {unit}", "the other connection"
    if way == "swapped":
        later = [i for i in digits if i > at]
        if not later:
            return typed, ""
        text = list(number)
        text[at], text[later[0]] = text[later[0]], text[at]
        return f"{''.join(text)} {unit}", "two digits swapped"
    made = {
        "lost": number[:at] + number[at + 1 :],
        "doubled": number[: at + 1] + number[at:],
        "wrong": number[:at] + draw.choice("0123456789") + number[at + 1 :],
    }[way]
    return (f"{made} {unit}" if any(c.isdigit() for c in made) else typed), way


def slips_of_the_trade() -> list[Slip]:
    """What is mistaken on site rather than mistyped, wherever a right line has the entry."""
    found = []
    for name, record in right_lines().items():
        typed = {f"{g}.{n}": e["typed"].partition(" ") for g, fields in record.items() for n, e in fields.items()
                 if "typed" in e}  # fmt: skip

        def add(path: str, number: float, why: str, *, name: str = name, typed: dict[str, Any] = typed) -> None:
            unit = typed[path][2]
            text = f"{float(f'{number:.4g}'):.10g}"  # as a keyboard would have it
            found.append(Slip(name, path, f"{text} {unit}".strip(), why))

        def read(path: str, typed: dict[str, Any] = typed) -> float | None:
            return float(typed[path][0]) if path in typed else None

        if (setpoint := read("control.setpoint")) is not None:
            add("control.setpoint", setpoint + _ATMOSPHERE[typed["control.setpoint"][2]], "absolute for gauge")
        if (speed := read("motor.rated_speed")) is not None:
            by = 1.2 if typed["motor.rated_frequency"][0] == "50" else 1 / 1.2
            add("motor.rated_speed", speed * by, "the column of the other hertz")
            text = typed["motor.rated_speed"][0]
            for at in range(len(text)):
                add("motor.rated_speed", float(text[:at] + text[at + 1 :]), "a digit lost")
        if (ratio := read("machine.pulley_ratio")) is not None:
            add("machine.pulley_ratio", 1 / ratio, "upside down")
        if (flow := read("machine.air_flow")) is not None:
            add("machine.air_flow", flow * 3.6, "thousands of m³/h for m³/s")
            add("machine.air_flow", flow / 3.6, "thousands of m³/h for m³/s")
        if (amps := read("motor.rated_current")) is not None:
            add("motor.rated_current", amps * 10, "the decimal mark")
            add("motor.rated_current", amps / 10, "the decimal mark")
    return found


_ATMOSPHERE = {"bar": 1.013, "psi": 14.7, "kPa": 101.3}
