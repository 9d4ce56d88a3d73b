"""What a line can be for, what it may hold, and the traits that decide what is asked, checked and proposed."""

from collections.abc import Iterable, Iterator, Mapping
from dataclasses import dataclass


@dataclass(frozen=True)
class Held:
    """A quantity that a loop can hold: where its setpoint and its sensor's range stand in the record."""

    id: str
    label: str
    noun: str  # "pressure falls → faster"
    dimension: str | None
    setpoint: str = ""
    range_low: str = ""
    range_high: str = ""

    @property
    def second(self) -> str:
        """Where its second setpoint stands in the record."""
        return f"{self.setpoint}_2"

    @property
    def prefix(self) -> str:
        """What its settings' names begin with, after the group: pid.duct_setpoint_1."""
        return "" if self.dimension == "pressure" or self.dimension is None else f"{self.id}_"


HELD: dict[str, Held] = {
    h.id: h
    for h in (
        Held(
            "pressure", "Pressure", "pressure", "pressure", "control.setpoint", "sensor.range_low", "sensor.range_high"
        ),
        Held(
            "differential",
            "Differential pressure",
            "differential pressure",
            "pressure",
            "control.setpoint",
            "sensor.range_low",
            "sensor.range_high",
        ),
        Held(
            "duct",
            "Duct or room pressure",
            "air pressure",
            "air_pressure",
            "control.air_setpoint",
            "sensor.air_low",
            "sensor.air_high",
        ),
        Held(
            "level",
            "Level",
            "level",
            "head",
            "control.level_setpoint",
            "sensor.level_low",
            "sensor.level_high",
        ),
        Held(
            "temperature",
            "Temperature",
            "temperature",
            "temperature",
            "control.temperature_setpoint",
            "sensor.temperature_low",
            "sensor.temperature_high",
        ),
        Held("flow", "Flow", "flow", "flow", "control.flow_setpoint", "sensor.flow_low", "sensor.flow_high"),
        Held("reference", "Nothing: speed comes from outside", "reference", None),
    )
}


@dataclass(frozen=True)
class Application:
    """One use of a drive line, with the trade's starting figures for it (common practice)."""

    id: str
    label: str
    machine: str  # pump or fan
    holds: tuple[str, ...]  # what it may hold, the usual one first
    lowest: float  # Hz
    lowest_why: str
    ramp_up: float  # s, 0 to full speed
    ramp_down: float
    ramp_why: str
    does: str  # one sentence
    falls: tuple[str, ...] = ()  # held quantities that fall when it runs faster
    certain: tuple[str, ...] = ()  # held quantities of which there is no other way round
    traits: tuple[str, ...] = ()


_SURFACE = (15.0, "practice for a surface pump, 15 to 30 Hz", 10.0, 20.0, "Surface pump: 10 s up, 20 s down to begin.")
_FAN = (15.0, "practice for a fan, 10 to 20 Hz", 30.0, 30.0, "Fan: 30 s to begin, 15 to 60 s are usual.")

APPLICATIONS: dict[str, Application] = {
    a.id: a
    for a in (
        Application(
            "booster",
            "Booster set, constant pressure",
            "pump",
            ("pressure",),
            *_SURFACE,
            does="Keeps the pressure of taps and floors, whoever draws; several pumps take turns.",
            certain=("pressure",),
            traits=("several", "tank"),
        ),
        Application(
            "borehole",
            "Borehole pump with tank",
            "pump",
            ("pressure",),
            30.0,
            "thrust bearing and cooling of a submersible, never below 30 Hz",
            2.0,
            2.0,
            "Submersible: at most 1 s to 30 Hz, so 2 s to full speed; the bearing has no film below.",
            does="Lifts water out of a well into a tank, and rests when nobody draws.",
            certain=("pressure",),
            traits=("submersible", "tank"),
        ),
        Application(
            "transfer",
            "Transfer or wash-down pump",
            "pump",
            ("reference", "pressure", "flow", "level"),
            *_SURFACE,
            does="Moves water from here to there: wash-down, filling, irrigation.",
            certain=("flow",),
        ),
        Application(
            "circulator",
            "Circulating pump, closed loop",
            "pump",
            ("differential", "temperature", "reference"),
            *_SURFACE,
            does="Drives water round a closed loop of heating or cooling.",
            falls=("temperature",),
            certain=("differential",),
            traits=("closed",),
        ),
        Application(
            "wet_well",
            "Wet-well pump",
            "pump",
            ("level", "reference"),
            30.0,
            "practice for a wet well, 30 Hz: settling and clogging below",
            5.0,
            10.0,
            "Wet well: brisk up so that it clears its throat, 10 s down for the check valve.",
            does="Empties a pit before it floods, by its level.",
            falls=("level",),
            certain=("level",),
        ),
        Application(
            "supply_fan",
            "Supply fan",
            "fan",
            ("duct", "temperature", "reference"),
            *_FAN,
            does="Blows air into the building, by the pressure in its duct or from outside.",
            certain=("duct",),
        ),
        Application(
            "return_fan",
            "Exhaust or return fan",
            "fan",
            ("duct", "temperature", "reference"),
            *_FAN,
            does="Draws air out of rooms, kitchens or halls.",
            falls=("duct", "temperature"),
        ),
        Application(
            "tower_fan",
            "Cooling-tower fan",
            "fan",
            ("temperature", "reference"),
            *_FAN,
            does="Cools a tower: faster as the water gets warmer.",
            falls=("temperature",),
            certain=("temperature",),
        ),
        Application(
            "fan_array",
            "Fan array, several small fans in one wall",
            "fan",
            ("duct", "reference"),
            *_FAN,
            does="Several small fans side by side in one air unit, each with its own drive.",
            certain=("duct",),
            traits=("several",),
        ),
    )
}


MOTORS = ("induction", "permanent_magnet", "single_phase")
ENCLOSURES = ("open", "vented", "sealed")
TRAITS: frozenset[str] = frozenset(
    {
        *(a.id for a in APPLICATIONS.values()),
        *(a.machine for a in APPLICATIONS.values()),
        *(t for a in APPLICATIONS.values() for t in a.traits),
        *(f"holds:{h}" for h in HELD),
        *MOTORS,
        *(f"enclosure:{e}" for e in ENCLOSURES),
        "supply:1",
        "supply:3",
        "loop",
        "may_hold",
        "rests",
        "sensor:height",
        "linked",
        "analog_output",
        "presets",
        "duty:heavy",
        "many_drives",
        "cascade",
        *(f"second:{h}" for h in HELD),
    }
)


class Labels(Mapping[str, str]):
    """Labels by id of a table of things that have one, as the table is now."""

    def __init__(self, things: "Mapping[str, Held] | Mapping[str, Application]") -> None:
        self.things = things

    def __getitem__(self, id: str) -> str:
        return self.things[id].label

    def __iter__(self) -> Iterator[str]:
        return iter(self.things)

    def __len__(self) -> int:
        return len(self.things)


class Traits(frozenset[str]):
    """The traits of a line: a closed set, so that a misspelt one is an error and not a rule that never applies."""

    def __contains__(self, trait: object) -> bool:
        return frozenset.__contains__(self, known_trait(trait))


def known_trait(trait: object) -> str:
    """The trait, if there is such a one; TypeError for any other, which is a slip in our own code."""
    if trait not in TRAITS and not any(trait in (a.id, a.machine, *a.traits) for a in APPLICATIONS.values()):
        raise TypeError(f"no trait is called {trait!r}")
    return str(trait)


def held_by(application: str | None, holds: str | None) -> Held | None:
    """What a line holds: as entered where the application allows it, else the application's usual quantity."""
    known = APPLICATIONS.get(application or "")
    if known is None:
        return None
    return HELD[holds if holds in known.holds else known.holds[0]]


def traits_of(
    application: str | None,
    holds: str | None,
    motor: str | None,
    supply_phases: str | None,
    enclosure: str | None,
    also: Iterable[str] = (),
    two_setpoints: bool = False,
    count: float | None = None,
) -> Traits:
    """The traits of a line, by which fields, checks and settings choose whether they apply."""
    found = {*also, motor or "induction", f"enclosure:{enclosure or 'open'}"}
    found.add("supply:1" if supply_phases == "1" else "supply:3")
    known = APPLICATIONS.get(application or "")
    if known is not None:
        held = held_by(application, holds)
        assert held is not None
        found |= {known.id, known.machine, *known.traits, f"holds:{held.id}"}
        if "several" in known.traits and (count or 1) >= 2:
            found |= {"many_drives"} if known.id == "fan_array" else {"many_drives", "cascade"}
        if held.id != "reference":
            found.add("loop")
            if two_setpoints:
                found.add(f"second:{held.id}")
        if len(known.holds) > 1:
            found.add("may_hold")
        if held.id == "pressure":
            found.add("rests")  # sleeps at no demand
            if "submersible" not in known.traits:
                found.add("sensor:height")
    return Traits(found)
