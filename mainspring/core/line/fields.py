"""Declarations of the record's fields: one place for label, unit, bounds and help, used by forms, checks and files."""

import math
from collections.abc import Mapping
from dataclasses import dataclass
from typing import Any, ClassVar, Literal

from mainspring.core.errors import BadEntry, NotKnown, OutOfRange, bounds_in_words
from mainspring.core.line.applications import known_trait
from mainspring.core.method import Figure, Leaf
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.sentence import in_sentence

Provenance = Literal["plate", "measured", "given", "assumed"]
PROVENANCES: tuple[Provenance, ...] = ("plate", "measured", "given", "assumed")


@dataclass(frozen=True)
class Entry:
    """One value of the record as entered: SI number, choice, text or rows of numbers, and where it was read."""

    value: Any
    provenance: Provenance = "given"
    note: str = ""
    upheld: str = ""  # why a doubted plate value stands; it goes with the value
    typed: str = ""  # the number and the unit as they were typed, where that is known


class Field:
    """Base of the field declarations; a descriptor that reads its entry from the station it stands in.

    `when` names the traits of which the line must have one for the field to be asked; `more` fields are asked on
    demand only, and nothing waits for them. One that `goes_with` a choice of its group is asked with that one alone.
    """

    kind: ClassVar[str]

    def __init__(
        self,
        label: str,
        *,
        tab: str = "",
        help: str = "",
        provenance: Provenance = "given",
        when: tuple[str, ...] = (),
        more: bool = False,
        goes_with: tuple[str, str] | None = None,
    ) -> None:
        self.label, self.tab, self.help, self.provenance = label, tab, help, provenance
        self.goes_with = goes_with
        self.when, self.more = tuple(known_trait(t) for t in when), more
        self.name = self.path = ""

    def __set_name__(self, owner: Any, name: str) -> None:
        self.name, self.path = name, f"{owner.id}.{name}"
        owner.fields = {**owner.fields, name: self}

    def entry(self, station: "Group") -> Entry:
        """The entry, or NotKnown."""
        found = station.entries.get(self.name)
        if found is None:
            raise NotKnown(self.path, self.spoken)
        return found

    @property
    def spoken(self) -> str:
        """How a sentence calls it."""
        return in_sentence(self.label)

    def check(self, value: Any) -> Any:
        """The value as kept, or BadEntry naming field, value and what is allowed."""
        raise NotImplementedError


class Quantity(Field):
    """A number with a dimension and the bounds a technician could ever meet."""

    kind = "quantity"

    def __init__(
        self,
        dimension: str,
        label: str,
        *,
        above: float | None = None,
        atleast: float | None = None,
        upto: float,
        tab: str = "",
        help: str = "",
        provenance: Provenance = "given",
        when: tuple[str, ...] = (),
        more: bool = False,
        twin: str = "",
        usual: float | None = None,
        goes_with: tuple[str, str] | None = None,
    ) -> None:
        super().__init__(label, tab=tab, help=help, provenance=provenance, when=when, more=more, goes_with=goes_with)
        self.dimension, self.above, self.atleast, self.upto = dimension, above, atleast, upto
        self.twin = twin  # unit shown beside the value, kW beside hp
        self.usual = usual  # what holds while nothing is entered

    def __get__(self, station: "Group | None", owner: type | None = None) -> Figure:
        if station is None:
            return self  # type: ignore[return-value] # the class asks for the declaration itself
        found = station.read.get(self.name)
        if found is None:
            entry = self.entry(station)
            leaf = Leaf(self.path, self.label, self.dimension, entry.provenance, entry.note)
            found = station.read[self.name] = Figure(entry.value, leaf)
        return found

    def check(self, value: Any) -> float:
        """The number as a float within bounds."""
        if isinstance(value, bool) or not isinstance(value, (int, float)) or not math.isfinite(value):
            raise BadEntry(self.label, value, "a number")
        low_ok = (self.above is None or value > self.above) and (self.atleast is None or value >= self.atleast)
        if not low_ok or value > self.upto:
            raise OutOfRange(self.label, DIMENSIONS[self.dimension].tellings(float(value)), self.allowed())
        return float(value)

    def allowed(self) -> str:
        """The bounds in words."""
        show = DIMENSIONS[self.dimension].tellings
        above = None if self.atleast is not None else self.above
        return bounds_in_words(show, above=above, atleast=self.atleast, upto=self.upto)


class Choice(Field):
    """One of a few named possibilities."""

    kind = "choice"

    def __init__(
        self,
        label: str,
        choices: Mapping[str, str],
        *,
        tab: str = "",
        help: str = "",
        provenance: Provenance = "given",
        when: tuple[str, ...] = (),
        more: bool = False,
    ) -> None:
        super().__init__(label, tab=tab, help=help, provenance=provenance, when=when, more=more)
        self.choices = choices

    def __get__(self, station: "Group | None", owner: type | None = None) -> str:
        if station is None:
            return self  # type: ignore[return-value] # the class asks for the declaration itself
        return str(self.entry(station).value)

    def check(self, value: Any) -> str:
        """The id of the choice."""
        if not isinstance(value, str) or value not in self.choices:
            raise BadEntry(self.label, value, ", ".join(self.choices))
        return value


class Flags(Field):
    """Which of a list of conditions hold; an empty list says that none does, no entry that nobody looked."""

    kind = "flags"

    def __init__(
        self,
        label: str,
        choices: dict[str, str],
        *,
        none: str,
        tab: str = "",
        help: str = "",
        when: tuple[str, ...] = (),
        more: bool = False,
    ) -> None:
        super().__init__(label, tab=tab, help=help, provenance="measured", when=when, more=more)
        self.choices, self.none = choices, none

    def __get__(self, station: "Group | None", owner: type | None = None) -> tuple[str, ...]:
        if station is None:
            return self  # type: ignore[return-value] # the class asks for the declaration itself
        return tuple(self.entry(station).value)

    def check(self, value: Any) -> list[str]:
        """The conditions in the order of the declaration, each once."""
        if not isinstance(value, (list, tuple)) or not all(isinstance(v, str) and v in self.choices for v in value):
            raise BadEntry(self.label, value, "any of " + ", ".join(self.choices))
        return [c for c in self.choices if c in value]


class Text(Field):
    """Free words, kept as typed and never interpreted."""

    kind = "text"
    limit = 2000

    def __get__(self, station: "Group | None", owner: type | None = None) -> str:
        if station is None:
            return self  # type: ignore[return-value] # the class asks for the declaration itself
        return str(self.entry(station).value)

    def check(self, value: Any) -> str:
        """The text, if short enough."""
        if not isinstance(value, str):
            raise BadEntry(self.label, value, "text")
        if len(value) > self.limit:
            raise BadEntry(self.label, value, f"up to {self.limit} characters, not {len(value)}")
        return value


class Named(Text):
    """The id of something that is kept elsewhere and that people may add to: a family of drives."""

    kind = "family"
    limit = 40


@dataclass(frozen=True)
class Column:
    """One column of a table field."""

    name: str
    label: str
    dimension: str
    atleast: float
    upto: float


class Points(Field):
    """Rows of numbers: a curve, a duty profile."""

    kind = "points"
    longest = 60

    def __init__(
        self,
        label: str,
        columns: tuple[Column, ...],
        *,
        tab: str = "",
        help: str = "",
        when: tuple[str, ...] = (),
        more: bool = False,
        goes_with: tuple[str, str] | None = None,
    ) -> None:
        super().__init__(label, tab=tab, help=help, when=when, more=more, goes_with=goes_with)
        self.columns = columns

    def __get__(self, station: "Group | None", owner: type | None = None) -> tuple[tuple[Figure, ...], ...]:
        if station is None:
            return self  # type: ignore[return-value] # the class asks for the declaration itself
        if self.name in station.read:
            return station.read[self.name]  # type: ignore[no-any-return]
        entry = self.entry(station)
        station.read[self.name] = tuple(
            tuple(
                Figure(
                    v,
                    Leaf(
                        f"{self.path}[{i}].{c.name}",
                        f"{c.label} of point {i + 1}",
                        c.dimension,
                        entry.provenance,
                        entry.note,
                    ),
                )
                for c, v in zip(self.columns, row, strict=True)
            )
            for i, row in enumerate(entry.value)
        )
        return station.read[self.name]  # type: ignore[no-any-return]

    def check(self, value: Any) -> list[list[float]]:
        """The rows as lists of floats."""
        if not isinstance(value, (list, tuple)) or not 0 < len(value) <= self.longest:
            raise BadEntry(self.label, value, f"1 to {self.longest} rows of {len(self.columns)} numbers")
        rows = []
        for i, row in enumerate(value, 1):
            if not isinstance(row, (list, tuple)) or len(row) != len(self.columns):
                raise BadEntry(f"{self.label}, row {i}", row, f"{len(self.columns)} numbers")
            for column, number in zip(self.columns, row, strict=True):
                bad = isinstance(number, bool) or not isinstance(number, (int, float)) or not math.isfinite(number)
                if bad or not column.atleast <= number <= column.upto:
                    show = DIMENSIONS[column.dimension].tellings
                    raise OutOfRange(
                        f"{self.label}, row {i}, {in_sentence(column.label)}",
                        number if bad else show(float(number)),
                        f"{show(column.atleast)} to {show(column.upto)}",
                    )
            rows.append([float(n) for n in row])
        return rows


class Group:
    """Base of the stations: a named group of fields over the entries of one record."""

    id: ClassVar[str]
    label: ClassVar[str]
    fields: ClassVar[dict[str, Field]] = {}

    def __init__(self, entries: dict[str, Entry]) -> None:
        self.entries = entries
        self.read: dict[str, Any] = {}  # figures handed out: the same value is the same figure

    def has(self, name: str) -> bool:
        """Whether that field has an entry."""
        return name in self.entries
