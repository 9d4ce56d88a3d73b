"""The record as the readings have it: curve, heads, resistance and efficiency moved to where they were found."""

import math
from collections.abc import Mapping
from typing import Any

from mainspring.core.known.estimate import Estimate
from mainspring.core.known.kinds import KINDS
from mainspring.core.line import Line
from mainspring.core.line.fields import Entry
from mainspring.core.line.on_site import OnSite
from mainspring.core.quantity import DIMENSIONS

DRAWN = (0.0, 0.25, 0.5, 0.75, 1.0, 1.25)  # of best flow: points of a curve that nobody entered


def corrected(line: Line, known: Estimate) -> Line:
    """The line with what the estimate found in place of what was promised; the motor stays as its plate has it.

    Each value says in its note that it is by what was read. What was read on site stays in force as it was.
    """
    facts, of = known.facts, known.quantity
    head, flow = math.exp(of("head_scale")[0]), math.exp(of("flow_scale")[0])
    bend = of("shape")[0] * facts.c0
    resistance = facts.resistance * math.exp(of("resistance")[0])
    air = math.exp(of("density")[0]) if facts.air else 1.0

    def drawn(q: float) -> tuple[float, float]:
        x = q / facts.best_flow
        rise = facts.c0 + facts.c1 * q + facts.c2 * q * q
        return q * flow, max(head * air * (rise + bend * (x * x - x)), 0.0)

    name = "air_curve" if facts.air else "curve"
    speed_then = line.machine.curve_speed if line.machine.has("curve_speed") else None
    turns = float(_rpm(line, facts.air)) / float(speed_then) if speed_then is not None else 1.0
    if line.machine.has(name):
        best = facts.best_flow / turns
        points = [
            [float(q) * flow, max(head * air * (float(h) + bend / turns**2 * ((q / best) ** 2 - q / best)), 0.0)]
            for q, h in getattr(line.machine, name)
        ]
    else:
        points = [[q / turns, h / turns**2] for q, h in (drawn(x * facts.best_flow) for x in DRAWN) if h > 0]
    efficiency = min(facts.best_efficiency * math.exp(of("efficiency")[0]), 0.95)
    machine: dict[str, Any] = {
        name: _read(points),
        "best_air_flow" if facts.air else "best_flow": _read(facts.best_flow * flow / turns),
        "best_efficiency": _read(efficiency, "percent", facts.best_efficiency),
    }
    if facts.air:
        ratio = line.machine.pulley_ratio if line.machine.has("pulley_ratio") else 1.0
        machine["pulley_ratio"] = _read(float(ratio) * math.exp(of("speed_scale")[0]))
        system: dict[str, Any] = {
            "known_air_flow": _read(facts.best_flow),
            "known_air_pressure": _read(resistance * air * facts.best_flow**2),
        }
    else:
        static = facts.static + of("static")[0]
        system = {"known_flow": _read(facts.best_flow), "known_head": _read(static + resistance * facts.best_flow**2)}
        if facts.well:
            system["pumping_level"] = _read(static, "head", facts.static)
        elif not facts.closed:
            system["static_head"] = _read(static, "head", facts.static)
        if not facts.open_surface:
            system["suction_pressure"] = _read(facts.suction + of("suction")[0], "pressure", facts.suction)
    return _with_entries(line, {"machine": machine, "system": system}, air=facts.air)


def _rpm(line: Line, air: bool) -> float:
    ratio = float(line.machine.pulley_ratio) if air and line.machine.has("pulley_ratio") else 1.0
    return float(line.motor.rated_speed) * ratio


def _read(value: Any, dimension: str = "", promised: float | None = None) -> Entry:
    beside = "" if promised is None else f"; promised {DIMENSIONS[dimension].tellings(promised)}"
    return Entry(value, "measured", f"by what was read{beside}")


def _with_entries(line: Line, changes: Mapping[str, Mapping[str, Entry]], *, air: bool) -> Line:
    """The line with other entries in place, and without the readings that they were made of."""
    entries = {group: dict(fields) for group, fields in line.entries.items()}
    for kind in KINDS.values():  # read once, corrected by once
        entries.get("proof", {}).pop(kind.field_of(air=air).removeprefix("proof."), None)
    for group, fields in changes.items():
        entries.setdefault(group, {}).update(fields)
    site = line.on_site
    found = Line(entries, OnSite(site.settings, site.readings, site.decided, site.stay))
    found.record, found.surveyed = line.record, line.surveyed
    return found
