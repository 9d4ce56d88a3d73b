"""The settings sheet as CSV, in a unit system; what somebody typed is never taken for a spreadsheet's formula."""

import csv
import io
from collections.abc import Iterable, Sequence

HEADER = (
    "setting",
    "label",
    "family parameter",
    "family label",
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


def harmless(cell: str) -> str:
    """A cell that no spreadsheet runs: a leading = + - @ of a text that is no number gets an apostrophe."""
    if cell[:1] in ("=", "+", "-", "@", "\t", "\r"):
        try:
            float(cell)
        except ValueError:
            return "'" + cell
    return cell
