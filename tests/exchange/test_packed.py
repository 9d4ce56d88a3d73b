"""Files that unpack to far more than they hold are refused in words, hurt nobody else and leave nothing behind."""

import io
import resource
import zipfile
from collections.abc import Callable
from pathlib import Path

import polars as pl
import pytest
from openpyxl import Workbook

from mainspring.core.errors import BadEntry
from mainspring.exchange.packed import apart
from mainspring.exchange.packed.apart import plain_of
from mainspring.exchange.packed.convert import COLUMNS, SHEET_ROWS, is_packed


def workbook(rows: int = 3, columns: int = 2, sheets: int = 1) -> bytes:
    book = Workbook(write_only=True)
    for n in range(sheets):
        sheet = book.create_sheet(f"Sheet {n}")
        for i in range(rows):
            sheet.append([f"2026-01-01 00:{i % 60:02d}", *range(columns - 1)])
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def repacked(whole: bytes, part: str, content: bytes) -> bytes:
    """A workbook with one of its parts replaced."""
    out = io.BytesIO()
    with zipfile.ZipFile(io.BytesIO(whole)) as old, zipfile.ZipFile(out, "w", zipfile.ZIP_DEFLATED) as new:
        for name in old.namelist():
            new.writestr(name, content if name == part else old.read(name))
    return out.getvalue()


def one_endless_cell() -> bytes:
    cell = b'<row r="1"><c r="A1" t="inlineStr"><is><t>' + b"a" * 260_000_000 + b"</t></is></c></row>"
    sheet = b'<worksheet xmlns="http://schemas.openxmlformats.org/spreadsheetml/2006/main"><sheetData>' + cell
    return repacked(workbook(), "xl/worksheets/sheet1.xml", sheet + b"</sheetData></worksheet>")


def too_large_unpacked() -> bytes:
    return repacked(workbook(), "xl/styles.xml", b" " * 260_000_000)


def wide_parquet() -> bytes:
    out = io.BytesIO()
    ones = pl.Series([1.25]).new_from_index(0, 2_500_000)
    pl.DataFrame({f"c{i}": ones for i in range(300)}).write_parquet(out)
    return out.getvalue()


def many_columns() -> bytes:
    out = io.BytesIO()
    pl.DataFrame({f"c{i}": [1.0] for i in range(COLUMNS + 1)}).write_parquet(out)
    return out.getvalue()


def resident() -> int:
    return int(Path("/proc/self/statm").read_text().split()[1]) * resource.getpagesize()


@pytest.mark.parametrize(("made", "says"), [
    (one_endless_cell, "MB unpacked"),
    (too_large_unpacked, "MB unpacked"),
    (wide_parquet, "too much memory or time"),
    (many_columns, f"{COLUMNS} columns"),
    (lambda: workbook(columns=COLUMNS + 1), f"{COLUMNS} columns"),
    (lambda: b"PK" + b"x" * 100, "an XLSX workbook"),
    (lambda: b"PAR1" + b"x" * 100, "one of plain columns"),
    (lambda: b"<a><b></a>", "interval readings"),
], ids=lambda p: p if isinstance(p, str) else getattr(p, "__name__", ""))  # fmt: skip
def test_a_file_that_takes_too_much_is_refused_and_gives_everything_back(made: Callable[[], bytes], says: str) -> None:
    content = made()
    before = resident()
    with pytest.raises(BadEntry, match=says):
        plain_of(content)
    assert resident() - before < 30e6
    assert plain_of(workbook()).text.startswith(b"2026-01-01 00:00")  # the next one is read


def test_right_files_are_read_whole() -> None:
    plain = plain_of(workbook(rows=5000, sheets=3))
    assert plain.text.count(b"\n") == 5000
    assert plain.beside == ("Sheet 0", "Sheet 1", "Sheet 2")
    assert plain_of(b"Time,Power\n1,2\n").text == b"Time,Power\n1,2\n"
    assert not is_packed(b"Time,Power\n1,2\n")
    assert SHEET_ROWS >= 100_000


class Gone(Exception):
    """Nobody listens any more."""


def test_it_ends_when_nobody_listens(monkeypatch: pytest.MonkeyPatch) -> None:
    begun = []

    class Watched(apart.subprocess.Popen):  # type: ignore[type-arg]
        def __init__(self, _command: object, **more: object) -> None:
            super().__init__(["sleep", "600"], **more)  # type: ignore[call-overload]
            begun.append(self)

    monkeypatch.setattr(apart.subprocess, "Popen", Watched)

    def gone() -> None:
        raise Gone("nobody listens")

    with pytest.raises(Gone, match="nobody listens"):
        plain_of(workbook(), gone)
    assert begun[0].returncode is not None


def test_it_does_not_go_on_for_ever(monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(apart, "WALL", 0.2)
    monkeypatch.setattr(apart, "LOOKED", 0.05)
    with pytest.raises(BadEntry, match="minutes"):
        plain_of(workbook(rows=30_000))
