"""The quantities that plates and curves only promise: what is believed of each before anything was read, and why.

A published limit is taken over √3, as of a value that may lie anywhere within it. Where nobody said whether the machine
is new, it is believed to have run a little.
"""

from collections.abc import Callable
from dataclasses import dataclass
from functools import cache

import numpy as np
import numpy.typing as npt

from mainspring.core.known.facts import Facts

BAR = 1e5
LOSS_EXPONENT = 1.2  # of the constant loss on speed, as `motor_loss_at_speed` has it
Belief = tuple[float, float]  # mean, standard uncertainty


@dataclass(frozen=True)
class Unknown:
    """One promised quantity: what it is called, how it is told, its belief, and where that comes from.

    `told` is the dimension of a difference, or `share` where it is a factor e^x on what is promised.
    """

    id: str
    label: str
    told: str
    belief: Callable[[Facts], Belief]
    source: str
    more: str = ""  # told where it is more than promised, with both ends; empty where it is never told
    less: str = ""
    of: str = ""  # pump, fan, or both


def _by_condition(new: Belief, used: Belief, between: Belief) -> Callable[[Facts], Belief]:
    beliefs = {"new": new, "used": used, "": between}
    return lambda facts: beliefs[facts.condition]


def _usual(mean: float, sd: float) -> Callable[[Facts], Belief]:
    return lambda _: (mean, sd)


_RISE = _by_condition((0.0, 0.02), (-0.03, 0.035), (-0.02, 0.035))
UNKNOWNS: tuple[Unknown, ...] = (
    Unknown("head_scale", "Head against its curve", "share", _RISE,
            "ISO 9906 grade 2B, ±5 % of head; wear pulls down, common practice; both from memory",
            "{low} to {high} more head than its curve",
            "{low} to {high} less head than its curve", of="pump"),
    Unknown("head_scale", "Pressure against its curve", "share", _RISE,
            "ISO 13348 grade AN3, ±5 % of pressure; dirt pulls down, common practice; both from memory",
            "{low} to {high} more pressure than its curve",
            "{low} to {high} less pressure than its curve", of="fan"),
    Unknown("flow_scale", "Flow against its curve", "share",
            _by_condition((0.0, 0.035), (-0.03, 0.045), (-0.02, 0.045)),
            "ISO 9906 grade 2B, ±8 % of flow, from memory",
            "{low} to {high} more flow than its curve",
            "{low} to {high} less flow than its curve"),
    Unknown("speed_scale", "Speed of the machine", "share", lambda f: (0.0, 0.012 if f.belt else 0.002),
            "a belt slips by 1 to 2 %, a display of hertz is right to 0.2 %; common practice, no source",
            "{low} to {high} more speed than by the pulleys",
            "{low} to {high} less speed than by the pulleys"),
    Unknown("density", "Density of the air", "share", _usual(0.0, 0.015),
            "weather and altitude as entered, common practice, no source", of="fan"),
    Unknown("static", "Static head", "head", lambda f: (0.0, 0.0 if f.closed else max(1.2, 0.10 * f.static)),
            "survey by eye and drawing, common practice, no source",
            "{low} to {high} more static head than surveyed",
            "{low} to {high} less static head than surveyed", of="pump"),
    Unknown("resistance", "Resistance of the system", "share", _usual(0.0, 0.25),
            "one known point, common practice, no source",
            "{low} to {high} more resistance than surveyed",
            "{low} to {high} less resistance than surveyed"),
    Unknown("suction", "Suction pressure", "pressure", lambda f: (0.0, 0.0 if f.open_surface else 0.10 * BAR),
            "level and filter on the day, common practice, no source",
            "{low} to {high} more suction pressure than surveyed",
            "{low} to {high} less suction pressure than surveyed", of="pump"),
    Unknown("gauge_zero", "Zero of the gauge", "pressure", lambda f: (0.0, 2.0 if f.air else 0.12 * BAR),
            "EN 837-1 class 1.6 that nobody zeroed, from memory",
            "the gauge reads high by {low} to {high}",
            "the gauge reads low by {low} to {high}"),
    Unknown("gauge_span", "Span of the gauge", "share", lambda f: (0.0, 0.02 if f.air else 0.009),
            "EN 837-1 class 1.6, from memory"),
    Unknown("sensor_zero", "Zero of the sensor", "pressure", lambda f: (0.0, 0.004 * f.sensor_span),
            "data of usual transmitters, common practice, no source",
            "the sensor reads high by {low} to {high}",
            "the sensor reads low by {low} to {high}"),
    Unknown("sensor_span", "Span of the sensor", "share", _usual(0.0, 0.004),
            "data of usual transmitters, common practice, no source"),
    Unknown("no_load_amps", "No-load amps", "share", _usual(0.0, 0.115),
            "√(1 − cos²φ) of a rounded power factor, derived"),
    Unknown("plate_amps", "Full-load amps", "share", _usual(0.0, 0.02), "rounding and scatter of plates, from memory"),
    Unknown("slip", "Slip", "share", _usual(0.0, 0.13), "NEMA MG 1-12.46, ±20 %, and rounding to 5 r/min, from memory"),
    Unknown("loss", "Losses of the motor", "share", _usual(0.05, 0.10), "IEC 60034-1, −15 % of (1 − η), from memory"),
    Unknown("efficiency", "Efficiency of the machine", "share",
            _by_condition((-0.01, 0.03), (-0.04, 0.04), (-0.03, 0.04)),
            "ISO 9906 grade 2B, −5 %; wear, common practice; both from memory",
            "{low} to {high} more efficiency than its curve",
            "{low} to {high} less efficiency than its curve"),
    Unknown("drive_power", "Power on the drive's display", "share", _usual(0.0, 0.029),
            "±5 % of displays, common practice, no source"),
    Unknown("drive_amps", "Amps on the drive's display", "share", _usual(0.0, 0.017),
            "±3 % of displays, common practice, no source"),
    Unknown("shape", "Bend of the curve", "share", _usual(0.0, 0.03), "catalogue against test, common practice"),
    Unknown("efficiency_shape", "Bend of the efficiency", "share", _usual(0.0, 0.05),
            "catalogue against test, common practice"),
    Unknown("clamp", "Power by the clamp", "share", _usual(0.0, 0.008), "class of the meter, from memory"),
    Unknown("flow_meter", "Flow meter", "share", _usual(0.0, 0.012), "2 % of clamp-on meters, from memory"),
    Unknown("loss_exponent", "Constant loss over speed", "exponent", _usual(LOSS_EXPONENT, 0.5),
            "iron between f and f², windage; derived"),
)  # fmt: skip


@cache
def unknowns_of(air: bool) -> tuple[Unknown, ...]:
    """The quantities of a fan or a pump, in the order of every vector of them."""
    of = "fan" if air else "pump"
    return tuple(u for u in UNKNOWNS if u.of in ("", of))


@cache
def places(air: bool) -> dict[str, int]:
    """Where each stands in the vectors."""
    return {u.id: i for i, u in enumerate(unknowns_of(air))}


@cache
def beliefs(facts: Facts) -> tuple[npt.NDArray[np.float64], npt.NDArray[np.float64]]:
    """Means and standard uncertainties before any reading."""
    found = np.array([_belief(u, facts) for u in unknowns_of(facts.air)])
    return found[:, 0], found[:, 1]


@cache
def promises(air: bool) -> npt.NDArray[np.float64]:
    """The quantities where plates and survey are right: nothing off, and the loss that the methods go by."""
    found = np.zeros(len(unknowns_of(air)))
    found[places(air)["loss_exponent"]] = LOSS_EXPONENT
    return found


_LOOSE = {"head_scale": 0.08, "flow_scale": 0.10, "efficiency": 0.12, "resistance": 0.5}


def _belief(unknown: Unknown, facts: Facts) -> Belief:
    if facts.loose and unknown.id in _LOOSE:
        return 0.0, _LOOSE[unknown.id]
    return unknown.belief(facts)
