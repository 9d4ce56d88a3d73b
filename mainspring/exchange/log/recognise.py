"""What a log is, told from its first lines: marks, headings, units, times; for somebody to confirm."""

import csv
import hashlib
import itertools
import re
from collections import Counter
from dataclasses import dataclass

from mainspring.core.errors import BadEntry
from mainspring.core.measured.trend import DAY, LEAST_ROWS
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.systems import SYSTEMS, USUAL
from mainspring.exchange.log.layout import DELIMITERS, MOST_COLUMNS, PER_ROW, READ_AS, Layout, LogColumn
from mainspring.exchange.log.times import Reading, formats_of, is_date, is_time
from mainspring.exchange.packed.apart import plain_of
from mainspring.exchange.packed.convert import Plain

SAMPLE = 400  # lines that are looked at
LINE_LIMIT = 4000
LOOKED_AT = 1_000_000  # bytes
SHOWN = 6
_NUMBER = re.compile(r"[+\-−]?(?:\d[\d  .,]*|[.,]\d+)(?:[eE][+-]?\d+)?$")
_BRACKETS = re.compile(r"[\[(]\s*([^\])]{1,12})\s*[\])]")
_EMPTY = {"", "-", "--", "---", "nan", "na", "n/a", "null", "none", "#n/a", "bad", "err", "error"}
# what a heading says, in the languages that loggers are sold with; the first that is found counts
_WORDS: tuple[tuple[str, str], ...] = (
    (r"outlet temp|supply temp|temp|°c|°f", "temperature"),
    (r"\bkwh\b|\bmwh\b|\bwh\b|energy|energie|énergie|energía|consumption|counter|import", "energy"),
    (r"\bkw\b|power|leistung|puissance|potencia|watt|\bp_?el\b", "power"),
    (r"flow|durchfluss|volumenstrom|débit|debit|caudal|\bl/s\b|gpm|m³/h|m3/h|cfm", "flow"),
    (r"level|niveau|füllstand|nivel|head", "level"),
    (r"press|druck|presión|presion|\bbar\b|\bpsi\b|\bkpa\b|\bpa\b", "pressure"),
    (r"\bhz\b|freq|frequenz", "frequency"),
    (r"rpm|r/min|drehzahl|speed|vitesse", "speed"),
    (r"current|strom|courant|corriente|amp|\ba\b", "current"),
    (r"volt|spannung|tension|\bv\b", "voltage"),
    (r"run|status|\bon\b|betrieb", "running"),
)


@dataclass(frozen=True)
class Look:
    """What was recognised, the first rows by it, and what somebody should look at twice."""

    layout: Layout
    rows: list[list[str]]
    doubts: list[str]
    signature: str


def look_at(content: bytes | Plain, *, fan: bool = False, system: str = USUAL, whole: bool = True) -> Look:
    """Recognise a log. `whole` says that the file is not only its beginning.

    Raises BadEntry where there is no table with times in it.
    """
    plain = plain_of(content) if isinstance(content, bytes) else content
    text = plain.text
    everything = text[:LOOKED_AT].decode("utf-8", errors="replace").splitlines()
    if (not whole or len(text) > LOOKED_AT) and len(everything) > LEAST_ROWS:
        everything.pop()  # it may be cut off
    lines = everything[: SAMPLE + 50]
    if any(len(line) > LINE_LIMIT for line in lines):
        raise BadEntry("log", "a line that never ends", f"lines of up to {LINE_LIMIT} characters")
    delimiter, width = _delimiter(lines)
    rows = _rows(lines, delimiter)
    skip = _first_reading(rows, width)
    if len(rows) - skip < LEAST_ROWS:
        raise BadEntry("log", f"{max(0, len(rows) - skip)} rows with readings", f"at least {LEAST_ROWS}")
    body = [row for row in rows[skip:] if len(row) >= width - 1]
    columns = _columns(body, width)
    heads = _headings(rows[:skip], width)
    times, form, doubts = _times(columns, system=system)
    if doubts:  # only more days can tell which number is the month
        more = [row for row in _rows(everything[skip:], delimiter) if len(row) >= width - 1]
        times, form, doubts = _times(_columns(more, width), system=system)
    comma = _decimal_comma(columns, times, delimiter)
    grouped = _grouped(columns, times, comma=comma)
    read = [i for i in range(width) if i not in times]
    named = [_column(i, heads[i], columns[i], fan=fan, system=system, comma=comma) for i in read]
    layout = Layout(delimiter, comma, skip, times, form, tuple(_each_once(named)), grouped)
    doubts += _unit_doubts(layout)
    doubts += _sheets_beside(plain.beside)
    if not layout.read:
        doubts.append("No column could be told by its heading: say which is which.")
    elif not any(c.quantity in ("power", "energy", PER_ROW) for c in layout.read):
        doubts.append("No column of power or energy was recognised.")
    return Look(layout, body[:SHOWN], doubts, signature_of(delimiter, heads))


def _sheets_beside(names: tuple[str, ...]) -> list[str]:
    """What to say of sheets beyond the first of a workbook, which are not read."""
    if len(names) < 2:
        return []
    others = ", ".join(f"“{n}”" for n in names[1:6])
    return [f"Only the first sheet, “{names[0]}”, is read; {others} are not. Give each as a file of its own."]


def _unit_doubts(layout: Layout) -> list[str]:
    """Columns whose heading carries no unit, or one that is not known: told, and asked."""
    doubts = []
    for column in layout.columns:
        told = _said_unit(column.name.replace("_", " "))
        if column.quantity and column.quantity != "running" and column.unit and not told:
            doubts.append(f"“{column.name}” names no unit; {column.unit} was taken. Which is it?")
        elif not column.quantity and told and _means(column.name):
            doubts.append(f"“{column.name}”: {told} is no unit that is known here; it is left out until you say which.")
    return doubts


def _said_unit(head: str) -> str:
    """What a heading gives for a unit, known or not: in brackets, else a last word that is a known one."""
    inside = _BRACKETS.search(head)
    return inside[1] if inside else _unit_in(head)


def _means(head: str) -> bool:
    return any(re.search(pattern, head.replace("_", " "), re.IGNORECASE) for pattern, _ in _WORDS)


def _rows(lines: list[str], delimiter: str) -> list[list[str]]:
    """The cells of each line, each read by itself."""
    return [[cell.strip() for cell in next(csv.reader([line], delimiter=delimiter), [])] for line in lines]


def _columns(rows: list[list[str]], width: int) -> list[list[str]]:
    return [[row[i] if i < len(row) else "" for row in rows] for i in range(width)]


def signature_of(delimiter: str, heads: list[str]) -> str:
    """By which a file of the same maker of logs is known again."""
    return hashlib.sha256("\x1f".join([delimiter, *heads]).encode()).hexdigest()


def _delimiter(lines: list[str]) -> tuple[str, int]:
    """The mark between columns by which most lines have the same number of cells, more than one."""
    best = (0.0, ",", 1)
    for mark in DELIMITERS:
        counts = Counter(len(next(csv.reader([line], delimiter=mark), [])) for line in lines if line.strip())
        width, often = max(counts.items(), key=lambda kv: (kv[1], kv[0]), default=(1, 0))
        if 1 < width <= MOST_COLUMNS:
            best = max(best, (often / len(lines) + (0.02 if mark != "," else 0.0), mark, width))
    if best[2] == 1:
        raise BadEntry("log", (lines or [""])[0][:60], "a table: columns by comma, semicolon, tab or bar")
    return best[1], best[2]


def _is_number(cell: str) -> bool:
    return bool(_NUMBER.match(cell))


def _first_reading(rows: list[list[str]], width: int) -> int:
    """The first row after which rows hold numbers."""

    def full(row: list[str]) -> bool:
        return abs(len(row) - width) <= 1 and sum(map(_is_number, row)) >= 1 and any(c.isdigit() for c in row[0] or "0")

    for i, row in enumerate(rows):
        ahead = rows[i : i + 3]
        if full(row) and all(full(r) or not any(r) for r in ahead):
            return i
    return len(rows)


def _headings(above: list[list[str]], width: int) -> list[str]:
    """The heading of each column, with the unit from a row of its own."""
    full = [row for row in above if sum(map(bool, row)) >= max(2, width // 2)]
    heads = full[-2:] if len(full) > 1 and _all_units(full[-1]) else full[-1:]
    if not heads:
        return [f"column {i + 1}" for i in range(width)]
    names = []
    for i in range(width):
        parts = [row[i] for row in heads if i < len(row) and row[i]]
        names.append(f"{parts[0]} ({parts[1]})" if len(parts) == 2 else (parts or [f"column {i + 1}"])[0])
    return [name[:80] for name in names]


def _all_units(row: list[str]) -> bool:
    named = [c for c in row if c]
    known = [c for c in named if any(d.known(c.strip("[]()")) for d in DIMENSIONS.values())]
    return bool(named) and len(known) >= len(named) / 2


def _times(columns: list[list[str]], *, system: str) -> tuple[tuple[int, ...], str, list[str]]:
    for i, column in enumerate(columns[:4]):
        if is_date(column) and i + 1 < len(columns) and is_time(columns[i + 1]):
            joined = [f"{d} {t}" for d, t in zip(column, columns[i + 1], strict=True)]
            if found := formats_of(joined):
                return _chosen((i, i + 1), found, system=system)
    for i, column in enumerate(columns):
        if found := formats_of(column):
            return _chosen((i,), found, system=system)
    first = columns[0][0] if columns and columns[0] else ""
    raise BadEntry("log", first, "a column with the time of each row")


def _chosen(at: tuple[int, ...], found: list[Reading], *, system: str) -> tuple[tuple[int, ...], str, list[str]]:
    best = [r for r in found if r.span <= found[0].span * 1.01 or found[0].step >= DAY]
    if len(best) == 1:
        return at, best[0].format, []
    wanted = "mdy" if SYSTEMS[system].month_first else "dmy"
    chosen = next((r for r in best if r.order == wanted), best[0])
    way = "month before day" if chosen.order == "mdy" else "day before month"
    return at, chosen.format, [f"The dates could be read either way round; {way} was taken. Check it."]


def _decimal_comma(columns: list[list[str]], times: tuple[int, ...], delimiter: str) -> bool:
    cells = [c for i, column in enumerate(columns) if i not in times for c in column if _is_number(c)]
    commas, points = sum("," in c for c in cells), sum("." in c for c in cells)
    if delimiter == ",":
        quoted = [c for c in cells if re.match(r"[+-]?\d+,\d+$", c) and not re.match(r"[+-]?\d{1,3}(,\d{3})+$", c)]
        return len(quoted) > points
    both = [c for c in cells if "," in c and "." in c]
    if both:
        return sum(c.rfind(",") > c.rfind(".") for c in both) > len(both) / 2
    return commas > points


def _grouped(columns: list[list[str]], times: tuple[int, ...], *, comma: bool) -> bool:
    mark = r"[.  ]" if comma else r"[,  ]"
    group = re.compile(rf"[+-]?\d{{1,3}}({mark}\d{{3}})+([.,]\d+)?$")
    return any(group.match(c) for i, column in enumerate(columns) if i not in times for c in column)


def _column(at: int, head: str, cells: list[str], *, fan: bool, system: str, comma: bool) -> LogColumn:
    numbers = [c for c in cells if c.lower() not in _EMPTY]
    if not numbers or sum(map(_is_number, numbers)) < 0.8 * len(numbers):
        return LogColumn(at, head)
    plain = head.replace("_", " ")
    unit = _unit_in(plain)
    for pattern, quantity in _WORDS:
        if not re.search(pattern, plain, re.IGNORECASE):
            continue
        quantity = _of_air(quantity, unit, fan=fan)
        dimension = DIMENSIONS[READ_AS[quantity][1]]
        known = dimension.known(unit) if unit else None
        symbol = known.symbol if known else ""
        if unit and not symbol and (by_unit := _by_unit(unit, fan=fan)):
            return LogColumn(at, head, *by_unit)
        if unit and not symbol and quantity != "running":
            return LogColumn(at, head)  # in a unit that nobody here knows: not read as another
        if quantity == "energy" and not _rises(numbers, comma=comma):
            quantity = PER_ROW
        usual = {"running": "–"}.get(quantity, dimension.symbol(system))
        return LogColumn(at, head, quantity, symbol or usual)
    by_unit = _by_unit(unit, fan=fan) if unit else None
    return LogColumn(at, head, *(by_unit or ("", "")))


def _unit_in(head: str) -> str:
    """The unit that a heading carries: in brackets, or as its last word."""
    if inside := _BRACKETS.search(head):
        return inside[1]
    last = re.split(r"[\s,;:]+", head.strip())[-1]
    return last if any(DIMENSIONS[dimension].known(last) for _, dimension in READ_AS.values()) else ""


def _of_air(quantity: str, unit: str, *, fan: bool) -> str:
    if quantity == "flow" and (unit.lower() == "cfm" or (fan and unit.lower() != "gpm")):
        return "air_flow"
    if quantity == "pressure" and (unit in ("Pa", "pa") or (fan and not unit)):
        return "air_pressure"
    return quantity


def _by_unit(unit: str, *, fan: bool) -> tuple[str, str] | None:
    for quantity, (_, dimension) in READ_AS.items():
        if quantity in ("running", PER_ROW) or (quantity == "flow" and fan):
            continue
        found = DIMENSIONS[dimension].known(unit)
        if found is not None:
            return quantity, found.symbol
    return None


def _rises(cells: list[str], *, comma: bool) -> bool:
    numbers = []
    for cell in cells:
        plain = re.sub(r"[  ]", "", cell)
        plain = plain.replace(".", "").replace(",", ".") if comma else plain.replace(",", "")
        try:
            numbers.append(float(plain))
        except ValueError:
            continue
    falls = sum(b < a for a, b in itertools.pairwise(numbers))
    return falls <= 0.01 * len(numbers)


def _each_once(columns: list[LogColumn]) -> list[LogColumn]:
    """Of several columns of one quantity the first; the others are left out until somebody says otherwise."""
    seen: set[str] = set()
    made = []
    for column in columns:
        name = "power" if column.quantity == PER_ROW else column.quantity
        if name and name in seen:
            column = LogColumn(column.at, column.name, "", column.unit)
        seen.add(name)
        made.append(column)
    return made
