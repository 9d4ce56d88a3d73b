"""The record itself: entries by group and field, read through the stations, written to and from plain data."""

import functools
import re
from collections.abc import Mapping
from typing import Any

from mainspring.core.errors import BadEntry, NotKnown
from mainspring.core.line.applications import APPLICATIONS, Application, Held, Traits, held_by, traits_of
from mainspring.core.line.fields import PROVENANCES, Entry, Field, Points, Quantity
from mainspring.core.line.on_site import HOW, NOTHING, OF_READING, OF_SETTING, OnSite, Told, shown_alike
from mainspring.core.line.proof import Duty, Proof
from mainspring.core.line.stations import (
    GROUPS,
    Control,
    Drive,
    LineGroup,
    Machine,
    Motor,
    Sensor,
    Site,
    Supply,
    System,
)
from mainspring.core.method import Figure, Leaf, given

SCHEMA_VERSION = 1
NOTE_LIMIT = 500
_WORDS = (("note", NOTE_LIMIT), ("upheld", NOTE_LIMIT), ("typed", 60))


class Line:
    """One drive line's record; values are figures when read, and NotKnown when missing."""

    def __init__(self, entries: dict[str, dict[str, Entry]] | None = None, on_site: OnSite = NOTHING) -> None:
        self.entries = entries or {}
        self.on_site = on_site  # what was decided, left or read there; what of it is a field stands in the entries
        self.record: Line = self  # without it
        self.surveyed: Line = self  # as the plant was described, whatever is tried or decided
        part = self.entries.get
        self.line = LineGroup(part("line", {}))
        self.site = Site(part("site", {}))
        self.supply = Supply(part("supply", {}))
        self.drive = Drive(part("drive", {}))
        self.motor = Motor(part("motor", {}))
        self.machine = Machine(part("machine", {}))
        self.system = System(part("system", {}))
        self.sensor = Sensor(part("sensor", {}))
        self.control = Control(part("control", {}))
        self.duty = Duty(part("duty", {}))
        self.proof = Proof(part("proof", {}))

    def __eq__(self, other: object) -> bool:
        return isinstance(other, Line) and self.to_data() == other.to_data()

    __hash__ = None  # type: ignore[assignment]

    def but(self, setting: str) -> "Line":
        """The line in force as if one setting had not been told."""
        return in_force(self.record, self.on_site.without(setting))

    def told(self, setting: str, dimension: str = "", label: str = "") -> Figure | str | None:
        """A setting as left, else as decided; None where it is open."""
        told = self.on_site.settings.get(setting)
        return None if told is None else told_figure(f"settings.{setting}", told, dimension, label or setting)

    def site_reading(self, name: str, dimension: str, label: str) -> Figure | None:
        """What was read on site of something that the model foretells; None where it was not."""
        told = self.on_site.readings.get(name)
        found = None if told is None else told_figure(f"readings.{name}", told, dimension, label)
        return found if isinstance(found, Figure) else None

    def has(self, path: str) -> bool:
        """Whether "motor.rated_speed" has an entry."""
        return path in self._paths

    def own(self, usual: Figure) -> Figure:
        """The site's own value of what the trade goes by (`core.practice`), or the trade's where it has none."""
        assert isinstance(usual.origin, Leaf)
        path = usual.origin.field
        return self.figure(path) if self.has(path) else usual

    @functools.cached_property
    def _paths(self) -> frozenset[str]:
        return frozenset(f"{group}.{name}" for group, fields in self.entries.items() for name in fields)

    @functools.cached_property
    def traits(self) -> Traits:
        """What kind of line it is: the choices by which fields, checks and settings apply."""
        return traits_of(
            self.value("line.application"),
            self.value("line.holds"),
            self.value("motor.type"),
            self.value("supply.phases"),
            self.value("drive.enclosure"),
            (
                *(("linked",) if self.value("control.link") not in (None, "none") else ()),
                *(("analog_output",) if self.value("control.analog_output") not in (None, "none") else ()),
                *(("duty:heavy",) if self.value("drive.duty") == "heavy" else ()),
                *(("presets",) if self.value("control.speed_from") == "presets" else ()),
            ),
            self.value("control.setpoints") == "two",
            self.value("machine.count"),
        )

    @property
    def held(self) -> Held | None:
        """The quantity that the loop holds; None while the application is not known."""
        return held_by(self.value("line.application"), self.value("line.holds"))

    @property
    def application(self) -> Application:
        """What the line is for; NotKnown until it has been entered."""
        return APPLICATIONS[self.line.application]

    def figure(self, path: str) -> Figure:
        """The quantity at a path; NotKnown when it is missing."""
        group, _, name = path.partition(".")
        found = getattr(getattr(self, group), name)
        assert isinstance(found, Figure)
        return found

    def has_any(self, *paths: str) -> bool:
        """Whether one of the paths has an entry."""
        return any(self.has(path) for path in paths)

    def second_setpoint(self) -> Figure:
        """What is held while its contact is made; NotKnown where there is none, or it is missing."""
        held = self.held
        if held is None or not held.setpoint or f"second:{held.id}" not in self.traits:
            raise NotKnown("control.setpoints", "two setpoints")
        told = self.told(f"pid.{held.prefix}setpoint_2", held.dimension or "", "Second setpoint")
        return told if isinstance(told, Figure) else self.figure(f"{held.setpoint}_2")

    def at_second_setpoint(self) -> "Line":
        """The line as it is while the contact of the second setpoint is made: same plant, another setpoint."""
        held, second = self.held, self.second_setpoint()
        assert held is not None
        group, _, name = held.setpoint.partition(".")
        line = self.but(f"pid.{held.prefix}setpoint_1")
        made = line.with_values(**{group: {name: float(second)}})
        made.surveyed = self.surveyed
        return made

    def plant_setpoint(self) -> Figure:
        """What was held when the plant was described; another setpoint in force, decided or tried, moves no pipe.

        NotKnown while nothing is held, or it is not known what.
        """
        held = self.held
        if held is None or not held.setpoint:
            raise NotKnown("control.setpoint", "what the plant is made to hold")
        now, surveyed = self.value(held.setpoint), self.surveyed.value(held.setpoint)
        if surveyed is None or surveyed == now:
            return self.figure(held.setpoint)
        return given("plant_setpoint", surveyed, held.dimension, "as surveyed: the plant stays when its setpoint moves")

    def applies(self, when: tuple[str, ...]) -> bool:
        """Whether one of the traits is this line's; no traits named means always."""
        return not when or not self.traits.isdisjoint(when)

    def value(self, path: str) -> Any:
        """What was entered at a path (as plain value), or None."""
        group, _, name = path.partition(".")
        entry = self.entries.get(group, {}).get(name)
        return None if entry is None else entry.value

    def to_data(self) -> dict[str, dict[str, dict[str, Any]]]:
        """The record as plain data: group, field, {value, provenance, note}; empty groups left out."""
        return {
            group: {
                name: {
                    "value": e.value,
                    "provenance": e.provenance,
                    **({"note": e.note} if e.note else {}),
                    **({"upheld": e.upheld} if e.upheld else {}),
                    **({"typed": e.typed} if e.typed else {}),
                }
                for name, e in sorted(entries.items())
            }
            for group, entries in sorted(self.entries.items())
            if entries
        }

    def with_values(self, **changes: Mapping[str, Any]) -> "Line":
        """A copy with entries set from plain values, e.g. `motor={"rated_speed": 1445}`; checked like any entry."""
        data = self.to_data()
        for group, values in changes.items():
            for name, value in values.items():
                data.setdefault(group, {})[name] = {"value": value}
        line, problems = parse_line(data)
        if problems:
            raise next(iter(problems.values()))
        return Line(line.entries, self.on_site)


def in_force(record: Line, on_site: OnSite) -> Line:
    """The record with what was told on site in the place of its fields; what cannot stand there is left out."""
    record = record.record
    if not on_site:
        return record
    entries = {group: dict(fields) for group, fields in record.entries.items()}
    for setting, path in OF_SETTING.items():
        if (told := on_site.settings.get(setting)) is not None:
            _put(record, entries, path, told)
    for (step, reading), path in OF_READING.items():
        if (told := on_site.readings.get(f"{step}.{reading}")) is not None:
            _put(record, entries, path, told)
    made = Line(entries, on_site)
    made.record, made.surveyed = record, record.surveyed
    return made


def _put(record: Line, entries: dict[str, dict[str, Entry]], path: str, told: Told) -> None:
    group, _, name = path.partition(".")
    declared = type(getattr(record, group)).fields[name]
    try:
        value = declared.check(told.value)
    except BadEntry:
        return  # said of the setting itself
    was = record.value(path)
    if shown_alike(value, was):
        return  # what rests on it stays
    entries.setdefault(group, {})[name] = Entry(value, "measured" if told.how == "read" else "given", told.words)


def told_figure(path: str, told: Told, dimension: str, label: str) -> Figure | str:
    """What was told on site as a figure with that origin; a choice as it is."""
    if isinstance(told.value, str):
        return told.value
    return Figure(told.value, Leaf(path, f"{label}, {HOW[told.how]}", dimension or None, told.how, told.words))


def find_field(path: str) -> Field:
    """The declaration at a path such as "motor.rated_speed"; BadEntry when there is none."""
    group, _, name = path.partition(".")
    try:
        return GROUPS[group].fields[name]
    except KeyError:
        raise BadEntry("field", path, "a field of the record, such as motor.rated_speed") from None


def is_field(path: str) -> bool:
    """Whether a field of the record stands at a path."""
    group, _, name = path.partition(".")
    return group in GROUPS and name in GROUPS[group].fields


def parse_line(data: object) -> tuple[Line, dict[str, BadEntry]]:
    """A record from plain data, and the problems by path; what is wrong is left out of the record, nothing else.

    Raises BadEntry only when the data are no record at all.
    """
    if not isinstance(data, Mapping):
        raise BadEntry("record", data, "groups of fields, as an export holds them")
    entries: dict[str, dict[str, Entry]] = {}
    problems: dict[str, BadEntry] = {}
    for group, fields in data.items():
        if group not in GROUPS or not isinstance(fields, Mapping):
            problems[str(group)] = BadEntry("group", group, ", ".join(GROUPS))
            continue
        for name, raw in fields.items():
            path = f"{group}.{name}"
            try:
                entries.setdefault(group, {})[name] = _parse_entry(find_field(path), raw)
            except BadEntry as problem:
                problems[path] = problem
    return Line(entries), problems


def _parse_entry(field: Field, raw: object) -> Entry:
    if not isinstance(raw, Mapping):
        raw = {"value": raw}
    provenance = raw.get("provenance") or field.provenance
    if provenance not in PROVENANCES:
        raise BadEntry(f"{field.label}: provenance", provenance, ", ".join(PROVENANCES))
    words = (_words(field, raw, name, limit) for name, limit in _WORDS)
    return Entry(field.check(raw.get("value")), provenance, *words)


def _words(field: Field, raw: Mapping[str, Any], name: str, limit: int) -> str:
    text = raw.get(name) or ""
    if not isinstance(text, str) or len(text) > limit:
        raise BadEntry(f"{field.label}: {name}", text, f"text of up to {limit} characters")
    return text


_ROW = re.compile(r"^(\w+\.\w+)\[(\d+)\]\.(\w+)$")


def unentered(path: str) -> Any:
    """What a field counts as while nobody has entered it: its usual value, where it has one, else None."""
    declared = find_field(path)
    return declared.usual if isinstance(declared, Quantity) else None


def leaf_value(line: Line, path: str) -> Any:
    """The value now at the path of a leaf: "motor.rated_speed" or "machine.curve[2].flow"; None when it is gone."""
    if path.startswith(("settings.", "readings.")):
        told = line.on_site.told(path)
        return None if told is None else told.value
    match = _ROW.match(path)
    if not match:
        value = line.value(path)
        return unentered(path) if value is None else value
    field, rows = find_field(match.group(1)), line.value(match.group(1))
    index = int(match.group(2))
    if not isinstance(field, Points) or rows is None or index >= len(rows):
        return None
    return rows[index][[c.name for c in field.columns].index(match.group(3))]
