"""A step test as somebody has it: a table of time, measured value and output, from a logger or typed."""

import csv
import io
import re

from mainspring.core.errors import BadEntry

MOST_ROWS, SIZE_LIMIT = 20_000, 2_000_000
_TIME = ("time", "t", "zeit", "seconds", "s")
_OUTPUT = ("output", "out", "speed", "hz", "frequency", "drehzahl", "op", "co")
_CLOCK = re.compile(r"(\d{1,2}):(\d{2})(?::(\d{2}(?:[.,]\d+)?))?$")


def read_step_test(text: str) -> tuple[list[float], list[float], list[float]]:
    """Times [s], values and outputs as they stand in the table.

    Columns go by their header where there is one, else time, value, output. Raises BadEntry with the row.
    """
    if len(text) > SIZE_LIMIT:
        raise BadEntry("the table", f"{len(text)} characters", f"up to {SIZE_LIMIT}")
    rows = rows_of(text)
    if not rows or len(rows[0]) < 3:
        raise BadEntry("the table", text[:40], "three columns: time, measured value, output")
    order = (0, 1, 2)
    first = rows[0]
    if not any(is_number(cell) for cell in first):
        order = _by_header(first)
        rows = rows[1:]
    found: tuple[list[float], list[float], list[float]] = ([], [], [])
    for n, row in enumerate(rows, 1):
        if len(row) <= max(order):
            raise BadEntry(f"row {n}", " ".join(row), "time, measured value and output")
        for column, at in zip(found, order, strict=True):
            column.append(number(row[at], n))
    start = found[0][0] if found[0] else 0.0
    return [t - start for t in found[0]], found[1], found[2]


def rows_of(text: str) -> list[list[str]]:
    """The cells of each row that is not blank, by tab, semicolon, comma or blanks. Raises BadEntry."""
    lines = [line for line in text.replace("\r", "").split("\n") if line.strip()]
    if len(lines) > MOST_ROWS:
        raise BadEntry("the table", f"{len(lines)} rows", f"up to {MOST_ROWS}")
    delimiter = next((d for d in ("\t", ";") if lines and d in lines[0]), None)
    return [_cells(line, delimiter) for line in lines]


def _cells(line: str, delimiter: str | None) -> list[str]:
    if delimiter:
        return [c.strip() for c in next(csv.reader(io.StringIO(line), delimiter=delimiter))]
    if "," in line and not re.search(r"\d,\d+\s+\d", line):
        return [c.strip() for c in next(csv.reader(io.StringIO(line)))]
    return line.split()


def is_number(cell: str) -> bool:
    """Whether a cell is a number or a time of day."""
    return bool(_CLOCK.match(cell) or re.fullmatch(r"[+\-−]?\d+(?:[.,]\d+)?(?:[eE][+-]?\d+)?", cell))


def number(cell: str, row: int) -> float:
    """The number, or the seconds of a time of day. Raises BadEntry with the row."""
    if clock := _CLOCK.match(cell):
        seconds = float((clock[3] or "0").replace(",", "."))
        return int(clock[1]) * 3600 + int(clock[2]) * 60 + seconds
    if not is_number(cell):
        raise BadEntry(f"row {row}", cell, "a number, or a time such as 10:15:30")
    return float(cell.replace(",", ".").replace("−", "-"))


def _by_header(head: list[str]) -> tuple[int, int, int]:
    """Places of time, value and output by their headers, units in brackets left off."""
    plain = [re.sub(r"[\[(].*", "", cell).strip().casefold() for cell in head]
    time = next((i for i, c in enumerate(plain) if c.split(" ")[0] in _TIME), 0)
    output = next((i for i, c in enumerate(plain) if i != time and c.split(" ")[0] in _OUTPUT), None)
    left = [i for i in range(len(head)) if i not in (time, output)]
    value = left[0]
    return time, value, left[1] if output is None else output
