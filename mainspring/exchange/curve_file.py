"""Curves out of files that others wrote: comma-separated values, and the curves of an EPANET network (.inp)."""

import csv
import io
import re
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
LONGEST = 60


@dataclass(frozen=True)
class NamedCurve:
    """A curve of a file: points in SI."""

    name: str
    points: tuple[tuple[float, float], ...]


def read_curves(text: str, flow: str, rise: str, system: str) -> list[NamedCurve]:
    """Every curve of a file; `flow` and `rise` are dimension ids, `system` says in which units bare numbers are.

    Raises BadEntry naming the line that cannot be read, or when there is no curve in it.
    """
    if re.search(r"^\s*\[CURVES\]", text, re.MULTILINE | re.IGNORECASE):
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
            raise BadEntry("curve of the network", " ".join(words), "a name and two numbers") from None
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
    """Two columns, flow first; a heading may name the units, as in "Q [m3/h], H [m]" """
    sample = text.strip().splitlines()[0] if text.strip() else ""
    mark = next((m for m in ("\t", ";", ",") if m in sample), ",")
    kinds = (DIMENSIONS[flow], DIMENSIONS[rise])
    default = [k.us if system == "us" else k.si for k in kinds]
    points: list[tuple[float, float]] = []
    for number, row in enumerate(csv.reader(io.StringIO(text), delimiter=mark), 1):
        cells = [c.strip() for c in row[:2]]
        if not any(cells):
            continue
        if len(cells) < 2:
            raise BadEntry(f"line {number}", mark.join(row), "a flow and a value beside it")
        if not points and not re.match(r"^[+-]?[\d.,]", cells[0]):
            for i, cell in enumerate(cells):
                named = re.search(r"[\[(]([^\])]+)[\])]|\bin\s+(\S+)$", cell)
                if named:
                    default[i] = kinds[i].unit(named.group(1) or named.group(2)).symbol
            continue
        pair = [k.parse(c, f"line {number}", d) for k, c, d in zip(kinds, cells, default, strict=True)]
        points.append((pair[0], pair[1]))
    return NamedCurve("", _checked("curve", points))


def _checked(name: str, points: list[tuple[float, float]]) -> tuple[tuple[float, float], ...]:
    if not 1 <= len(points) <= LONGEST:
        raise BadEntry(name, f"{len(points)} points", f"1 to {LONGEST} points")
    return tuple(sorted(points))
