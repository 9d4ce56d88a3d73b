"""Unchanged: where each verdict turns as one value of a right record is moved, and what the sheet then plans.

These edges are our own code's, found by `python -m tests.core.test_thresholds` and kept in `tests/data/edges.json`;
they say nothing about being right, which the published cases do. They notice a threshold that was moved by accident:
who moves one on purpose makes the file anew and reads what changed in it.
"""

import itertools
import json
import math
from collections.abc import Callable, Iterator
from pathlib import Path
from typing import Any

import pytest

from mainspring.core.checks import run_checks
from mainspring.core.derived import Derived
from mainspring.core.errors import BadEntry, MainspringError
from mainspring.core.limits import highest_reasons, lowest_reasons, ramp_down_reasons, ramp_up_reasons
from mainspring.core.line import GROUPS, Choice, Flags, Line, Quantity, parse_line
from mainspring.core.method import Figure
from mainspring.core.settings import plan_settings
from mainspring.demo import fans, pumps, sites

FILE = Path(__file__).parents[1] / "data" / "edges.json"
HOME, ABROAD = sites.ORRENDALE["entries"], sites.MARROW["entries"]
RECORDS: dict[str, dict[str, Any]] = {
    "booster": {**pumps.BOOSTER, "site": HOME},
    "irrigation": {**pumps.IRRIGATION, "site": ABROAD},
    "borehole": {**pumps.BOREHOLE, "site": HOME},
    "wet_well": {**pumps.WET_WELL, "site": HOME},
    "circulator": {**pumps.CIRCULATOR, "site": ABROAD},
    "supply_fan": {**fans.SUPPLY_FAN, "site": HOME},
    "fan_wall": {**fans.FAN_WALL, "site": HOME},
}


def varied(record: dict[str, Any], **changes: dict[str, Any]) -> dict[str, Any]:
    """A record with other values (None takes one away)."""
    made = {group: dict(fields) for group, fields in record.items()}
    for group, values in changes.items():
        for name, value in values.items():
            made.setdefault(group, {}).pop(name, None)
            if value is not None:
                made[group][name] = {"value": value}
    return made


_BOOSTER, _SUPPLY_FAN = RECORDS["booster"], RECORDS["supply_fan"]
_BOX = {"box_width": 0.6, "box_height": 1.0, "box_depth": 0.4, "box_stands": "wall", "box_wall": "stirred"}
_PIPE = {"pipe_length": 200.0, "pipe_bore": 0.1, "pipe_wall": 0.004, "pipe_material": "steel", "check_valve": "swing"}
_SMALL = {"rated_power": 750.0, "rated_current": 1.9, "rated_speed": 1400.0, "efficiency": 0.78, "power_factor": 0.74}
# right records with what is asked on demand, or seldom met; only the fields named are moved in them
VARIANTS: dict[str, tuple[dict[str, Any], tuple[str, ...]]] = {
    "small motor": (varied(_BOOSTER, motor=_SMALL), ("motor.rated_speed", "motor.rated_power", "motor.rated_current")),
    "no power factor": (varied(_BOOSTER, motor={"power_factor": None}), ("motor.rated_current", "motor.rated_power")),
    "two voltages": (
        varied(_BOOSTER, motor={"other_voltage": 690.0, "other_current": 6.3}),
        ("motor.other_current", "motor.other_voltage", "motor.rated_current"),
    ),
    "crossed voltages": (
        varied(_BOOSTER, motor={"other_voltage": 690.0, "other_current": 18.8}),
        ("motor.other_current",),
    ),
    "service factor": (
        varied(_BOOSTER, motor={"service_factor": 1.15}, drive={"current_limit": 12.5}),
        ("drive.current_limit", "motor.service_factor"),
    ),
    "long lead": (
        varied(_BOOSTER, drive={"lead_length": 80.0, "lead_size": "mm4", "output_filter": "none", "carrier": 4000.0}),
        ("drive.lead_length", "drive.carrier", "motor.rated_current"),
    ),
    "filtered lead": (
        varied(_BOOSTER, drive={"lead_length": 120.0, "output_filter": "dvdt", "carrier": 4000.0}),
        ("drive.lead_length", "drive.carrier"),
    ),
    "sine filter": (
        varied(_BOOSTER, drive={"lead_length": 200.0, "output_filter": "sine", "carrier": 4000.0}),
        ("drive.lead_length",),
    ),
    "plain motor": (
        varied(_BOOSTER, motor={"inverter_duty": "no"}, drive={"lead_length": 12.0}),
        ("drive.lead_length", "supply.voltage"),
    ),
    "sealed box": (varied(_BOOSTER, drive={"enclosure": "sealed", **_BOX}), ("drive.box_height", "drive.ambient")),
    "vented box": (
        varied(_BOOSTER, drive={"enclosure": "vented", **_BOX, "box_air": 0.06}),
        ("drive.box_air", "drive.ambient"),
    ),
    "one phase in": (
        varied(_BOOSTER, supply={"phases": "1"}, drive={"rated_current": 24.0}),
        ("drive.rated_current", "motor.rated_current"),
    ),
    "site with a demand": (
        varied(_BOOSTER, supply={"reactor": "line3", "demand_current": 100.0, "fault_current": 3000.0}),
        ("supply.demand_current", "supply.fault_current"),
    ),
    "no reactor": (
        varied(_BOOSTER, supply={"reactor": "none", "fault_current": 3000.0}),
        ("supply.fault_current", "motor.rated_current"),
    ),
    "vented box in a hot room": (
        varied(_BOOSTER, drive={"enclosure": "vented", **_BOX, "box_air": 0.06, "ambient": 25.0}),
        ("drive.box_air",),
    ),
    "measured volts": (
        varied(_BOOSTER, supply={"reading_12": 400.0, "reading_23": 400.0, "reading_31": 400.0}),
        ("supply.reading_12", "supply.voltage"),
    ),
    "pipeline": (varied(_BOOSTER, system=_PIPE), ("system.", "machine.duty_flow", "control.ramp_down")),
    "soft pipeline": (
        varied(_BOOSTER, system={**_PIPE, "pipe_bore": 0.2, "pipe_material": "pe", "pipe_length": 2000.0}),
        ("system.pipe_length", "system.pressure_rating"),
    ),
    "suction lift": (
        varied(_BOOSTER, machine={"npsh_required": 5.0, "least_flow": 0.004}, system={"water_above_inlet": -3.0}),
        ("machine.npsh_required", "machine.least_flow", "system.water_above_inlet"),
    ),
    "proof by gauge": (
        varied(_BOOSTER, sensor={"check_pressure": 3e5, "check_signal": 0.0088, "range_ordered": 1e6}),
        ("sensor.check_signal", "sensor.check_pressure", "sensor.range_ordered", "sensor.range_high"),
    ),
    "wrong range": (
        varied(_BOOSTER, sensor={"check_pressure": 3e5, "check_signal": 0.007, "range_high": 1e6}),
        ("sensor.check_signal",),
    ),
    "constant torque": (
        varied(
            _BOOSTER,
            line={"load": "positive_displacement"},
            drive={"duty": "heavy"},
            motor={"cooling": "own_fan", "inertia": 0.02},
            machine={"inertia": 0.4},
        ),
        ("machine.duty_head", "motor.rated_power", "control.ramp_up", "machine.inertia"),
    ),
    "steep pump": (
        varied(_BOOSTER, machine={"duty_flow": 0.08, "duty_head": 6.0, "best_flow": 0.08, "curve": None}),
        ("machine.best_flow", "machine.duty_flow"),
    ),
    "voltage signal": (
        varied(_BOOSTER, sensor={"signal": "0-10V", "input_switch": "voltage", "cable_length": 25.0}),
        ("sensor.cable_length",),
    ),
    "sized fan": (
        varied(_SUPPLY_FAN, machine={"best_air_flow": 8.0}),
        ("machine.best_air_flow", "machine.air_pressure", "control.air_setpoint"),
    ),
}
FACTORS = [0.2, 0.35, 0.5, 0.65, 0.8, 0.9, 0.96, 1.0, 1.04, 1.1, 1.2, 1.35, 1.6, 2.0, 3.0, 5.0]
BESIDE = 0.03  # an edge is looked at from both sides, this far off
# fields that a right record leaves empty, with a value to begin from
ASKED_ON_DEMAND: dict[str, float] = {
    "drive.lead_length": 25.0,
    "supply.fault_current": 6000.0,
    "supply.transformer_rating": 200e3,
    "motor.inertia": 0.05,
    "machine.inertia": 0.4,
    "drive.carrier": 4000.0,
    "control.gain": 2.0,
    "control.integral_time": 5.0,
    "control.starts_allowed": 20 / 3600,
    "sensor.bits": 12.0,
    "sensor.loop_supply": 24.0,
    "sensor.input_resistance": 250.0,
    "machine.highest_speed": 1500.0,
    "system.pressure_rating": 1e6,
    "system.pipe_length": 200.0,
    "system.pipe_wall": 0.004,
    "system.pipe_bore": 0.1,
    "control.output_load": 300.0,
}


def verdicts(line: Line) -> dict[str, str]:
    """What every check, limit and choice of the sheet says."""
    derived = Derived(line)
    found = {f.id: f"{f.severity.word}: {f.title}" for f in run_checks(line, derived)}
    for row in plan_settings(line, derived):
        planned = None if row.planned is None else row.planned.value
        if planned is not None and not isinstance(planned, Figure):
            found[f"setting {row.setting.id}"] = planned
    for name, reasons in LIMITS.items():
        try:
            found[f"limit {name}"] = " + ".join(r.words for r in reasons(line, derived))
        except MainspringError:
            found[f"limit {name}"] = "not known"
    return found


LIMITS: dict[str, Callable[[Line, Derived], Any]] = {
    "lowest": lowest_reasons,
    "highest": highest_reasons,
    "ramp up": ramp_up_reasons,
    "ramp down": ramp_down_reasons,
}


def numbers(line: Line) -> dict[str, float]:
    """What the sheet and the limits say in figures."""
    derived = Derived(line)
    found: dict[str, float] = {}
    for row in plan_settings(line, derived):
        if row.planned is not None and isinstance(row.planned.value, Figure):
            found[row.setting.id] = float(row.planned.value)
    for name, reasons in LIMITS.items():
        try:
            found |= {f"limit {name} {i}": float(r.figure) for i, r in enumerate(reasons(line, derived))}
        except MainspringError:
            continue
    return found


class Looks:
    """What a record says with one value moved; each look is taken once, since edges often stand at the same place."""

    def __init__(self, record: dict[str, Any]) -> None:
        self.record = record
        self.seen: dict[tuple[str, float], dict[str, str] | None] = {}

    def at(self, path: str, value: float) -> dict[str, str] | None:
        """The verdicts; None where the field cannot hold the value."""
        if (path, value) not in self.seen:
            line = moved(self.record, path, value)
            self.seen[path, value] = None if line is None else verdicts(line)
        return self.seen[path, value]


def moved(record: dict[str, Any], path: str, value: Any) -> Line | None:
    """The record with one value moved; None where the field cannot hold it."""
    group, _, name = path.partition(".")
    try:
        GROUPS[group].fields[name].check(value)
    except BadEntry:
        return None
    return parse_line({**record, group: {**record.get(group, {}), name: {"value": value}}})[0]


def fields_of(record: dict[str, Any]) -> Iterator[tuple[str, float]]:
    """Numbers of a record, and those asked on demand that it could have."""
    line, _ = parse_line(record)
    for group, entries in line.to_data().items():
        for name, entry in entries.items():
            if isinstance(GROUPS[group].fields[name], Quantity) and entry["value"]:
                yield f"{group}.{name}", entry["value"]
    for path, value in ASKED_ON_DEMAND.items():
        group, _, name = path.partition(".")
        field = GROUPS[group].fields[name]
        if not line.has(path) and line.applies(field.when):
            yield path, value


def edges(looks: Looks, only: tuple[str, ...] = ("",)) -> Iterator[list[Any]]:
    """Where verdicts turn: field, value, which verdict, what it says below and above."""
    for path, base in fields_of(looks.record):
        if not path.startswith(only):
            continue
        at = [(base * f, found) for f in FACTORS if (found := looks.at(path, base * f)) is not None]
        for (low, below), (high, above) in itertools.pairwise(at):
            for name in sorted(set(below) | set(above)):
                one, other = below.get(name, "–"), above.get(name, "–")
                if one != other:
                    yield [path, _between(looks, path, low, high, name, one), name, one, other]


def _between(looks: Looks, path: str, low: float, high: float, name: str, below: str) -> float:
    while abs(high - low) > 0.002 * abs(low):
        middle = float(f"{math.copysign(math.sqrt(low * high), low):.5g}")  # both are multiples of one value
        if middle in (low, high):
            break
        found = looks.at(path, middle)
        same = found is not None and found.get(name, "–") == below
        low, high = (middle, high) if same else (low, middle)
    return float(f"{(low + high) / 2:.5g}")


def choices(record: dict[str, Any]) -> Iterator[list[Any]]:
    """What turns as each choice is taken: field, choice, and the verdicts that are others then."""
    line, _ = parse_line(record)
    now = verdicts(line)
    for group in GROUPS.values():
        for field in group.fields.values():
            if not line.applies(field.when) or not isinstance(field, (Choice, Flags)):
                continue
            for choice in field.choices:
                other = moved(record, field.path, choice if isinstance(field, Choice) else [choice])
                assert other is not None
                then = verdicts(other)
                changed = {n: then.get(n, "–") for n in sorted({*now, *then}) if now.get(n) != then.get(n)}
                yield [field.path, choice, changed]


KEPT: dict[str, Any] = json.loads(FILE.read_text()) if FILE.exists() else {}


@pytest.mark.parametrize("name", [*RECORDS, *VARIANTS])
def test_every_verdict_turns_where_it_did(name: str) -> None:
    record = RECORDS[name] if name in RECORDS else VARIANTS[name][0]
    looks = Looks(record)

    def said(path: str, value: float, verdict: str) -> str:
        return (looks.at(path, value) or {}).get(verdict, "–")

    wrong = []
    for path, edge, verdict, below, above in KEPT[name]["edges"]:
        found = said(path, edge * (1 - BESIDE), verdict), said(path, edge * (1 + BESIDE), verdict)
        if found != (below, above):
            wrong.append(f"{verdict} at {path} = {edge:g}: {found}, was {(below, above)}")
    assert not wrong, "\n".join(wrong[:5])


@pytest.mark.parametrize("name", RECORDS)
def test_every_choice_turns_what_it_did(name: str) -> None:
    assert list(choices(RECORDS[name])) == KEPT[name]["choices"]


@pytest.mark.parametrize("name", [*RECORDS, *VARIANTS])
def test_the_sheet_plans_what_it_did(name: str) -> None:
    record = RECORDS[name] if name in RECORDS else VARIANTS[name][0]
    found = numbers(parse_line(record)[0])
    assert found == {n: pytest.approx(v, rel=1e-4) for n, v in KEPT[name]["numbers"].items()}


def isolated(looks: Looks, found: list[list[Any]]) -> list[list[Any]]:
    """The edges that can be looked at from both sides: where another stands close by, neither can."""
    kept = []
    for path, edge, verdict, below, above in found:
        both = [looks.at(path, edge * f) for f in (1 - BESIDE, 1 + BESIDE)]
        if [None if said is None else said.get(verdict, "–") for said in both] == [below, above]:
            kept.append([path, edge, verdict, below, above])
    return kept


def kept_numbers(record: dict[str, Any]) -> dict[str, float]:
    """What the sheet plans, to six figures."""
    return {n: float(f"{v:.6g}") for n, v in numbers(parse_line(record)[0]).items()}


if __name__ == "__main__":
    made = {
        name: {
            "numbers": kept_numbers(record),
            "choices": list(choices(record)),
            "edges": isolated(looks := Looks(record), list(edges(looks))),
        }
        for name, record in RECORDS.items()
    }
    made |= {
        name: {
            "numbers": kept_numbers(record),
            "choices": [],
            "edges": isolated(looks := Looks(record), list(edges(looks, only))),
        }
        for name, (record, only) in VARIANTS.items()
    }
    rows = ",\n".join(
        f'"{name}": {{\n "numbers": {json.dumps(of["numbers"])},\n "choices": [\n'
        + ",\n".join(f"  {json.dumps(c, ensure_ascii=False)}" for c in of["choices"])
        + '\n ],\n "edges": [\n'
        + ",\n".join(f"  {json.dumps(e, ensure_ascii=False)}" for e in of["edges"])
        + "\n ]}"
        for name, of in made.items()
    )
    FILE.write_text("{\n" + rows + "\n}\n")
    print({name: len(of["edges"]) for name, of in made.items()})
