"""Workbooks, Parquet and interval-meter XML as the plain table that everything else reads."""

import csv
import io
import zipfile
from collections.abc import Iterator
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from xml.etree.ElementTree import ParseError

from mainspring.core.errors import BadEntry

SIZE_LIMIT = 80_000_000  # bytes of a file
SHEET_ROWS = 200_000  # of a workbook, which is slow to read
TABLE_ROWS = 3_000_000
COLUMNS, CELL = 400, 1000  # of a table; characters of a cell that are kept
UNPACKED = 250_000_000  # bytes of a workbook's parts
ENCODED = 1_000_000  # bytes by which the encoding is told
WATT_HOUR = "72"  # unit of measure, NAESB ESPI / Green Button, from memory


@dataclass(frozen=True)
class Plain:
    """A file as UTF-8 text, columns by comma where it was no text; and the names of sheets that were not read."""

    text: bytes
    beside: tuple[str, ...] = ()


def is_packed(content: bytes) -> bool:
    """Whether it is no plain text: a workbook, Parquet, or XML, which may unpack to far more than they hold."""
    return content[:4] == b"PAR1" or content[:2] == b"PK" or content[:4096].lstrip()[:1] == b"<"


def check_size(content: bytes) -> None:
    """Raise BadEntry for an empty file and one that is too large."""
    if len(content) > SIZE_LIMIT:
        raise BadEntry("log", f"{len(content) / 1e6:.0f} MB", f"up to {SIZE_LIMIT / 1e6:.0f} MB")
    if not content[:4096].lstrip() and not content.strip():
        raise BadEntry("log", "an empty file", "a table with times")


def unpack(content: bytes) -> Plain:
    """A packed file as text. Raises BadEntry; takes as much memory and time as the file wants."""
    if content[:4] == b"PAR1":
        return Plain(_of_parquet(content))
    if content[:2] == b"PK":
        return _of_workbook(content)
    return Plain(_of_meter(content))


def decoded(content: bytes) -> bytes:
    """A text file as UTF-8. Raises BadEntry."""
    for mark, name in ((b"\xef\xbb\xbf", "utf-8-sig"), (b"\xff\xfe", "utf-16"), (b"\xfe\xff", "utf-16")):
        if content.startswith(mark):
            try:
                return content[3:] if name == "utf-8-sig" else content.decode(name).encode()
            except UnicodeDecodeError:
                raise BadEntry("log", "text that is cut off", "a whole file") from None
    if b"\x00" in content[:4096]:
        raise BadEntry("log", "not text", "CSV, XLSX, Parquet, or the XML of an interval meter")
    try:  # a sign further down that is no UTF-8 harms no number
        content[:ENCODED].decode()
    except UnicodeDecodeError as odd:
        if odd.start < ENCODED - 4 or len(content) <= ENCODED:  # and is not cut in two there
            return content.decode("cp1252", errors="replace").encode()
    return content


def _of_parquet(content: bytes) -> bytes:
    import polars as pl

    try:
        names = pl.read_parquet_schema(io.BytesIO(content))
        rows = pl.scan_parquet(io.BytesIO(content)).select(pl.len()).collect().item()
        if len(names) > COLUMNS or rows > TABLE_ROWS:
            raise BadEntry("log", f"{rows} rows of {len(names)} columns", f"up to {TABLE_ROWS} rows, {COLUMNS} columns")
        out = io.BytesIO()
        pl.read_parquet(io.BytesIO(content)).write_csv(out, datetime_format="%Y-%m-%dT%H:%M:%S%.f")
    except (pl.exceptions.PolarsError, OSError) as wrong:
        raise BadEntry("log", "this Parquet file", f"one of plain columns ({str(wrong)[:80]})") from None
    return out.getvalue()


def _of_workbook(content: bytes) -> Plain:
    from openpyxl import load_workbook

    try:
        with zipfile.ZipFile(io.BytesIO(content)) as packed:
            whole = sum(part.file_size for part in packed.infolist())
        if whole > UNPACKED:
            raise BadEntry("log", f"a workbook of {whole / 1e6:.0f} MB unpacked", f"up to {UNPACKED / 1e6:.0f} MB")
        book = load_workbook(io.BytesIO(content), read_only=True, data_only=True)
        return Plain(_table(_cells(book.worksheets[0])), tuple(name[:40] for name in book.sheetnames))
    except (BadEntry, MemoryError):
        raise
    except Exception:  # a damaged one breaks the reader in as many ways as it has parts
        raise BadEntry("log", "this workbook", "an XLSX workbook whose first sheet holds the log") from None


def _cells(sheet: Any) -> Iterator[list[str]]:
    for n, row in enumerate(sheet.iter_rows(values_only=True)):
        if n > SHEET_ROWS or len(row) > COLUMNS:
            raise BadEntry(
                "log", f"a sheet of more than {SHEET_ROWS} rows or {COLUMNS} columns", "a CSV file for that many"
            )
        yield ["" if v is None else v.isoformat() if isinstance(v, datetime) else str(v)[:CELL] for v in row]


def _table(rows: Iterator[list[str]]) -> bytes:
    out = io.StringIO()
    csv.writer(out, lineterminator="\n").writerows(rows)
    return out.getvalue().encode()


def _of_meter(content: bytes) -> bytes:
    """Interval readings as start and power; only energy in watt-hours is taken."""
    from defusedxml import DefusedXmlException
    from defusedxml.ElementTree import iterparse

    power_of_ten, unit, rows = 0, WATT_HOUR, []
    try:
        for _, node in iterparse(io.BytesIO(content), forbid_dtd=True):
            tag = node.tag.rsplit("}", 1)[-1]
            text = (node.text or "").strip()
            if tag == "powerOfTenMultiplier":
                power_of_ten = int(text)
            elif tag == "uom":
                unit = text
            elif tag == "IntervalReading":
                rows.append(_reading(node))
                node.clear()
    except DefusedXmlException:
        raise BadEntry("log", "XML that declares entities", "the interval readings of a meter, without") from None
    except (ParseError, ValueError, AttributeError, TypeError, KeyError, OverflowError):
        raise BadEntry("log", "this XML", "interval readings, each with start, duration and value") from None
    if not rows or unit != WATT_HOUR or not -12 <= power_of_ten <= 12:
        raise BadEntry("log", f"{len(rows)} interval readings in unit {unit}", "readings of energy in watt-hours (72)")
    scale = 10.0**power_of_ten * 3600.0
    lines = [[f"{start:.0f}", repr(round(value * scale / length, 6))] for start, length, value in sorted(rows)]
    return _table(iter([["Start", "Power (W)"], *lines]))


def _reading(node: Any) -> tuple[float, float, float]:
    found: dict[str, float] = {}
    for part in node.iter():
        name = part.tag.rsplit("}", 1)[-1]
        if name in ("start", "duration", "value"):
            found[name] = float(part.text)
    if found["duration"] <= 0:
        raise ValueError("duration")
    return found["start"], found["duration"], found["value"]
