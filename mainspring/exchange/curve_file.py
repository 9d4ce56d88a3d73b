"""Curves out of files that others wrote: comma-separated values, and the curves of an EPANET network (.inp)."""

import csv
import math
from dataclasses import dataclass

from mainspring.core.errors import BadEntry
from mainspring.core.quantity import DIMENSIONS

# flow units of [OPTIONS] UNITS (EPANET 2.2 users manual, appendix C), with the unit of head that goes with them
EPANET_FLOW = {
    "CFS": (0.3048**3, "ft"),
    "GPM": (3.785411784e-3 / 60, "ft"),
    "MGD": (3785.411784 / 86400, "ft"),
    "IMGD": (4546.09 / 86400, "ft"),
    "AFD": (1233.48183754752 / 86400, "ft"),
    "LPS": (1e-3, "m"),
    "LPM": (1e-3 / 60, "m"),
    "MLD": (1000 / 86400, "m"),
    "CMH": (1 / 3600, "m"),
    "CMD": (1 / 86400, "m"),
    "CMS": (1.0, "m"),
}
LONGEST = 60  # points of a curve
MOST_CURVES = 200
MOST_LINES = 20_000
LINE_LIMIT = 1000  # characters; so every line costs little, whatever stands in it
CELL_LIMIT = 60
MARKS = "\t;,"  # between columns, the surer first: where one of the first two stands, a comma is a decimal mark


@dataclass(frozen=True)
class NamedCurve:
    """A curve of a file: points in SI."""

    name: str
    points: tuple[tuple[float, float], ...]


def read_curves(text: str, flow: str, rise: str, system: str) -> list[NamedCurve]:
    """Every curve of a file; `flow` and `rise` are dimension ids, `system` says in which units bare numbers are.

    Raises BadEntry naming the line that cannot be read, or when there is no curve in it.
    """
    lines = text.splitlines()
    longest = max(map(len, lines), default=0)
    if len(lines) > MOST_LINES or longest > LINE_LIMIT:
        most = f"up to {MOST_LINES} lines of up to {LINE_LIMIT} characters"
        raise BadEntry("curve file", f"{len(lines)} lines, the longest of {longest} characters", most)
    if any(line.strip().upper() == "[CURVES]" for line in lines):
        if flow != "flow":
            raise BadEntry("curve file", "an EPANET network", "a pump's curve; for a fan a table of flow and pressure")
        return read_epanet(text)
    return [read_table(text, flow, rise, system)]


def read_epanet(text: str) -> list[NamedCurve]:
    """The pump curves of an EPANET .inp: those that pumps name as HEAD, or all when there are no pumps."""
    sections = _sections(text)
    options = {words[0].upper(): words[1] for words in sections.get("OPTIONS", []) if len(words) > 1}
    units = options.get("UNITS", "GPM").upper()  # the manual's default
    if units not in EPANET_FLOW:
        raise BadEntry("UNITS of the network", units, ", ".join(EPANET_FLOW))
    factor, head_unit = EPANET_FLOW[units]
    metre = DIMENSIONS["head"].unit(head_unit).factor
    curves: dict[str, list[tuple[float, float]]] = {}
    for words in sections.get("CURVES", []):
        if len(words) < 3:
            raise BadEntry("curve of the network", " ".join(words), "a name, a flow and a head")
        try:
            x, y = float(words[1]), float(words[2])
        except ValueError:
            x = y = math.nan
        if not (math.isfinite(x) and math.isfinite(y)):
            raise BadEntry("curve of the network", " ".join(words), "a name and two numbers")
        if words[0] not in curves and len(curves) == MOST_CURVES:
            raise BadEntry("network", f"more than {MOST_CURVES} curves", f"up to {MOST_CURVES}")
        curves.setdefault(words[0], []).append((x * factor, y * metre))
    heads = {
        words[i + 1]
        for words in sections.get("PUMPS", [])
        for i, word in enumerate(words[:-1])
        if word.upper() == "HEAD"
    }
    wanted = {n: p for n, p in curves.items() if n in heads} or curves
    if not wanted:
        raise BadEntry("network", "no curve", "at least one curve under [CURVES]")
    return [NamedCurve(n, _checked(n, points)) for n, points in wanted.items()]


def _sections(text: str) -> dict[str, list[list[str]]]:
    found: dict[str, list[list[str]]] = {}
    current = ""
    for raw in text.splitlines():
        line = raw.split(";")[0].strip()
        if line.startswith("["):
            current = line.strip("[]").upper()
        elif line and current:
            found.setdefault(current, []).append(line.split())
    return found


def read_table(text: str, flow: str, rise: str, system: str) -> NamedCurve:
    """Two columns, flow first; a heading may name the units, as in "Q [m3/h]; H [m]".

    Columns stand apart by tabs, semicolons or commas; numbers have a point or, between the first two, a comma.
    """
    rows = [row for row in text.splitlines() if row.strip()]
    mark = next((m for m in MARKS if rows and all(m in row for row in rows[:2])), ",")
    kinds = (DIMENSIONS[flow], DIMENSIONS[rise])
    default = [k.symbol(system) for k in kinds]
    points: list[tuple[float, float]] = []
    for number, row in enumerate(csv.reader(rows, delimiter=mark), 1):
        cells = [c.strip() for c in row[:2]]
        if not any(cells):
            continue
        if len(cells) < 2:
            raise BadEntry(f"line {number}", mark.join(row), "a flow and a value beside it")
        if max(map(len, cells)) > CELL_LIMIT:
            raise BadEntry(f"line {number}", mark.join(row), f"cells of up to {CELL_LIMIT} characters")
        if not points and not cells[0].lstrip("+-")[:1].isdigit() and cells[0][:1] not in ".,":
            named = [_unit_named(cell) for cell in cells]
            default = [k.unit(n).symbol if n else d for k, n, d in zip(kinds, named, default, strict=True)]
            continue
        pair = [
            k.parse(c, f"line {number}", d, decimal_comma=True) for k, c, d in zip(kinds, cells, default, strict=True)
        ]
        if len(points) == LONGEST:
            raise BadEntry("curve", f"more than {LONGEST} points", f"1 to {LONGEST} points")
        points.append((pair[0], pair[1]))
    return NamedCurve("", _checked("curve", points))


def _unit_named(heading: str) -> str:
    """The unit that a heading names: in brackets, or after "in"; empty when it names none."""
    for left, right in ("[]", "()"):
        inside = heading.partition(left)[2].partition(right)
        if inside[1]:
            return inside[0].strip()
    words = heading.split()
    return words[-1] if len(words) > 1 and words[-2] == "in" else ""


def _checked(name: str, points: list[tuple[float, float]]) -> tuple[tuple[float, float], ...]:
    if not 1 <= len(points) <= LONGEST:
        raise BadEntry(name, f"{len(points)} points", f"1 to {LONGEST} points")
    return tuple(sorted(points))
