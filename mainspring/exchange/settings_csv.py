"""The settings sheet as CSV, in a unit system; what somebody typed is never taken for a spreadsheet's formula."""

import csv
import io
import math
import re
from collections.abc import Iterable, Sequence

ILLEGAL = re.compile(r"[\x00-\x08\x0b\x0c\x0e-\x1f]")  # what no cell of a spreadsheet may hold
HEADER = (
    "setting",
    "label",
    "family parameter",
    "family label",
    "dial",
    "planned",
    "unit",
    "as found",
    "as left",
    "verdict",
    "reason",
    "source",
)


def write_csv(rows: Iterable[Sequence[str]]) -> str:
    """The sheet's text, with a header line."""
    out = io.StringIO()
    writer = csv.writer(out)
    writer.writerow(HEADER)
    writer.writerows([harmless(cell) for cell in row] for row in rows)
    return out.getvalue()


def write_xlsx(rows: Iterable[Sequence[str]], title: str) -> bytes:
    """The sheet as a spreadsheet: the same cells, numbers as numbers, nothing that runs."""
    from openpyxl import Workbook  # takes a third of a second, which opening the application must not wait for
    from openpyxl.styles import Font

    book = Workbook()
    sheet = book.active
    sheet.title = "".join(c for c in title if c not in "[]:*?/\\")[:31] or "Settings"
    sheet.append(list(HEADER))
    for cell in sheet[1]:
        cell.font = Font(bold=True)
    for row in rows:
        sheet.append([_number(cell) for cell in row])
        for cell in sheet[sheet.max_row]:
            if isinstance(cell.value, str):
                cell.data_type = "s"  # else what begins with = would be a formula
    sheet.freeze_panes = "C2"
    for letter, width in zip("ABCDEFGHIJKL", (24, 28, 14, 20, 12, 14, 8, 12, 12, 10, 60, 40), strict=False):
        sheet.column_dimensions[letter].width = width
    out = io.BytesIO()
    book.save(out)
    return out.getvalue()


def _number(cell: str) -> float | str:
    try:
        value = float(cell)
    except ValueError:
        return ILLEGAL.sub("", cell)
    return value if math.isfinite(value) and cell.strip() == cell else cell


def harmless(cell: str) -> str:
    """A cell that no spreadsheet runs: a leading = + - @ of a text that is no number gets an apostrophe."""
    if cell[:1] in ("=", "+", "-", "@", "\t", "\r"):
        try:
            float(cell)
        except ValueError:
            return "'" + cell
    return cell
