"""The record of a drive line: six stations and what is wanted of them, every value optional, every value with its
provenance. Reading a missing value raises NotKnown; reading a value gives a figure that knows its field."""

from mainspring.core.line.fields import Choice, Column, Entry, Field, Flags, Points, Quantity, Text
from mainspring.core.line.on_site import HOLD, NOTHING, OF_READING, OnSite, Stay, Taken, Told, shown_alike
from mainspring.core.line.record import Line, find_field, in_force, parse_line
from mainspring.core.line.stations import GROUPS, STATIONS

__all__ = [
    "GROUPS",
    "HOLD",
    "NOTHING",
    "OF_READING",
    "STATIONS",
    "Choice",
    "Column",
    "Entry",
    "Field",
    "Flags",
    "Line",
    "OnSite",
    "Points",
    "Quantity",
    "Stay",
    "Taken",
    "Text",
    "Told",
    "find_field",
    "in_force",
    "parse_line",
    "shown_alike",
]
