"""How a log is laid out: what was recognised, or what somebody put right."""

import re
from collections.abc import Mapping
from dataclasses import asdict, dataclass
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.measured.trend import QUANTITIES
from mainspring.core.quantity import DIMENSIONS

DELIMITERS = {",": "comma", ";": "semicolon", "\t": "tab", "|": "bar"}
PER_ROW = "energy_each"  # energy of each row, not a counter: becomes power
READ_AS: dict[str, tuple[str, str]] = {**QUANTITIES, PER_ROW: ("Energy of each row", "energy")}
MOST_COLUMNS = 64
_FORMAT = re.compile(r"(?=.*%[dm])(?:%(?:[YymdbBHIMSpz]|\.f|:z)|[-/. :,TZ_])+$")
EPOCH, EPOCH_MS, SERIAL = "seconds since 1970", "milliseconds since 1970", "days since 1900"


@dataclass(frozen=True)
class LogColumn:
    """One column: where it stands, its heading, and what it is read as; no quantity leaves it out."""

    at: int
    name: str
    quantity: str = ""
    unit: str = ""


@dataclass(frozen=True)
class Layout:
    """Everything that reading needs to be told."""

    delimiter: str
    decimal_comma: bool
    skip: int  # lines before the first reading
    times: tuple[int, ...]  # columns of the time, or of date and time
    time_format: str
    columns: tuple[LogColumn, ...]
    grouped: bool = False  # thousands have a mark of their own

    def to_data(self) -> dict[str, Any]:
        """As plain data."""
        return asdict(self)

    @property
    def read(self) -> tuple[LogColumn, ...]:
        """The columns that are read."""
        return tuple(c for c in self.columns if c.quantity)


def layout_from(data: Mapping[str, Any]) -> Layout:
    """A layout from plain data. Raises BadEntry naming what is not allowed."""
    try:
        columns = tuple(
            LogColumn(int(c["at"]), str(c["name"])[:200], c["quantity"], c["unit"]) for c in data["columns"]
        )
        layout = Layout(
            str(data["delimiter"]),
            bool(data["decimal_comma"]),
            int(data["skip"]),
            tuple(int(t) for t in data["times"]),
            str(data["time_format"])[:60],
            columns,
            bool(data.get("grouped", False)),
        )
    except (KeyError, TypeError, ValueError, OverflowError) as wrong:
        raise BadEntry("layout", str(wrong)[:80], "the layout as it was recognised") from None
    return checked(layout)


def checked(layout: Layout) -> Layout:
    """The layout, if it can be read by. Raises BadEntry."""
    if layout.delimiter not in DELIMITERS:
        raise BadEntry("delimiter", layout.delimiter, ", ".join(DELIMITERS.values()))
    if not 1 <= len(layout.times) <= 2 or not all(0 <= t < MOST_COLUMNS for t in layout.times):
        raise BadEntry("time", layout.times, "one column of time, or one of date and one of time")
    if not _FORMAT.match(layout.time_format) and layout.time_format not in (EPOCH, EPOCH_MS, SERIAL):
        raise BadEntry("time", layout.time_format, "a format of times such as %d/%m/%Y %H:%M")
    if not 0 <= layout.skip <= 200 or len(layout.columns) > MOST_COLUMNS:
        raise BadEntry("layout", f"{len(layout.columns)} columns", f"up to {MOST_COLUMNS}, below 200 lines at the top")
    seen: set[str] = set()
    for column in layout.read:
        if column.quantity not in READ_AS:
            raise BadEntry(f"column {column.name}", column.quantity, ", ".join(READ_AS))
        if not 0 <= column.at < MOST_COLUMNS or column.at in layout.times:
            raise BadEntry(f"column {column.name}", column.at, "a column of its own")
        DIMENSIONS[READ_AS[column.quantity][1]].unit(column.unit)
        name = "power" if column.quantity == PER_ROW else column.quantity
        if name in seen:
            raise BadEntry(f"column {column.name}", f"a second {READ_AS[column.quantity][0].lower()}", "each once")
        seen.add(name)
    if not seen:
        raise BadEntry("columns", "none is read", "at least one with power, energy or flow")
    return layout
