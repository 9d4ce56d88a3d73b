"""Reading a log as it was confirmed: fast, in SI, and telling what was no number."""

from __future__ import annotations

from collections.abc import Callable, Mapping
from dataclasses import replace
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from mainspring.core.errors import BadEntry
from mainspring.core.measured.trend import Found, Trend, trend_of
from mainspring.core.quantity import DIMENSIONS
from mainspring.exchange.log.layout import PER_ROW, READ_AS, Layout
from mainspring.exchange.log.times import seconds_by
from mainspring.exchange.packed.apart import plain_of
from mainspring.exchange.packed.convert import TABLE_ROWS, Plain

Numbers = NDArray[np.float64]
Tell = Callable[[int, int], None]

if TYPE_CHECKING:
    import polars as pl

EMPTY = ["", "-", "--", "---", "NaN", "nan", "NA", "N/A", "null", "NULL", "#N/A", "Bad", "bad", "None"]
FIRST, LAST = 631_152_000.0, 4_102_444_800.0  # s since 1970: no logger wrote before 1990, and none will after 2100
LOOKED_AT = 2_000_000  # bytes by which it is told whether cells stand in quotes
STEPS = 5  # told of: text, table, times, columns, judged


def read_log(content: bytes | Plain, layout: Layout, tell: Tell = lambda _done, _of: None) -> Trend:
    """The log in SI, looked through.

    Raises BadEntry where it cannot be read by the layout.
    """
    text = (plain_of(content) if isinstance(content, bytes) else content).text
    tell(1, STEPS)
    frame = _table(text, layout)
    frame, headings = _without_headings(frame, layout)
    tell(2, STEPS)
    times = _times(frame, layout)
    tell(3, STEPS)
    columns, words = _columns(frame, layout, text, headings)
    tell(4, STEPS)
    trend = trend_of(times, columns)
    again = [Found("headings", "time", 0.0, 0.0, headings)] if headings else []
    tell(5, STEPS)
    if PER_ROW in {c.quantity for c in layout.read}:
        trend = _power_of_rows(trend)
    return Trend(trend.times, trend.columns, trend.interval, (*trend.found, *again, *words), trend.marked)


def _name(at: int) -> str:
    return f"column_{at}"


def _table(text: bytes, layout: Layout) -> pl.DataFrame:
    """The columns that are read; where a cell is no number, once more with the words for nothing known."""

    import polars as pl

    wanted = [_name(t) for t in layout.times] + [_name(c.at) for c in layout.read]
    told: dict[str, Any] = {
        "separator": layout.delimiter,
        "has_header": False,
        "skip_lines": layout.skip,
        "columns": wanted,
        "schema_overrides": {} if layout.grouped else {_name(c.at): pl.Float64 for c in layout.read},
        "infer_schema": False,
        "decimal_comma": layout.decimal_comma,
        "truncate_ragged_lines": True,
        # a stray quote would swallow rows; where cells are quoted there are at least two in every line
        "quote_char": '"' if text.count(b'"', 0, LOOKED_AT) > text.count(b"\n", 0, LOOKED_AT) else None,
    }
    try:
        try:
            frame = pl.read_csv(text, **told)
        except pl.exceptions.ComputeError:
            frame = pl.read_csv(text, **told, null_values=EMPTY, ignore_errors=True, encoding="utf8-lossy")
    except (pl.exceptions.PolarsError, ValueError, OSError) as wrong:
        raise BadEntry("log", "this table", f"one laid out as was confirmed ({str(wrong)[:120]})") from None
    if frame.height > TABLE_ROWS:
        raise BadEntry("log", f"{frame.height} rows", f"up to {TABLE_ROWS}")
    return frame


def _without_headings(frame: pl.DataFrame, layout: Layout) -> tuple[pl.DataFrame, int]:
    """The table without rows that head it once more, as where pages or files were put together; and how many."""
    when = frame[_name(layout.times[0])]
    heads = ~when.str.contains(r"\d") & when.str.contains(r"\pL")
    count = int(heads.sum() or 0)
    return (frame.filter(~heads.fill_null(False)), count) if count else (frame, 0)


def _times(frame: pl.DataFrame, layout: Layout) -> Numbers:
    import polars as pl

    first = frame[_name(layout.times[0])]
    if len(layout.times) == 2:
        first = first.str.strip_chars() + " " + frame[_name(layout.times[1])].str.strip_chars()
    try:
        found = seconds_by(first, layout.time_format)
        if found.null_count():
            found = seconds_by(first.str.strip_chars(), layout.time_format)
    except pl.exceptions.PolarsError:
        raise BadEntry("time", layout.time_format, "a format of times such as %d/%m/%Y %H:%M") from None
    if found.null_count() > 0.5 * len(found):
        odd = next((t for t, s in zip(first, found, strict=True) if s is None), "")
        raise BadEntry("time", odd, f"times written as {layout.time_format}")
    times = np.asarray(found.cast(pl.Float64).to_numpy(), np.float64)
    known = times[np.isfinite(times)]
    if len(known) and not FIRST <= float(np.median(known)) <= LAST:
        odd = next((t for t, s in zip(first, found, strict=True) if s is not None), "")
        raise BadEntry("time", odd, "years from 1990 to 2100: is it another format of dates?")
    return times


def _columns(frame: pl.DataFrame, layout: Layout, text: bytes, headings: int) -> tuple[dict[str, Numbers], list[Found]]:
    columns: dict[str, Numbers] = {}
    words: list[Found] = []
    for column in layout.read:
        series = frame[_name(column.at)]
        if layout.grouped:
            series = _ungrouped(series, comma=layout.decimal_comma)
        dimension = DIMENSIONS[READ_AS[column.quantity][1]]
        unit = dimension.unit(column.unit)
        values = np.asarray(series.to_numpy(), np.float64)
        if unit.factor != 1 or unit.offset:
            values = values * unit.factor + unit.offset
        name = "power" if column.quantity == PER_ROW else column.quantity
        columns[name] = values
        if series.null_count() and not layout.grouped and (count := _wordy(text, layout, column.at) - headings) > 0:
            words.append(Found("words", name, 0.0, 0.0, count))
    return columns, words


def _ungrouped(series: pl.Series, *, comma: bool) -> pl.Series:
    import polars as pl

    plain = series.str.replace_all(r"[\s\x{00a0}\x{202f}]", "")
    if comma:
        plain = plain.str.replace_all(".", "", literal=True).str.replace(",", ".", literal=True)
    else:
        plain = plain.str.replace_all(",", "", literal=True)
    return plain.cast(pl.Float64, strict=False)


def _wordy(text: bytes, layout: Layout, at: int) -> int:
    """Cells of a column that hold something which is no number."""
    as_words = replace(layout, columns=tuple(c for c in layout.columns if c.at == at), grouped=True)
    return int(_table(text, as_words)[_name(at)].drop_nulls().str.contains(r"^\s*[A-Za-z#?*]").sum())


def _power_of_rows(trend: Trend) -> Trend:
    """Energy of each row over the time to the next, as power."""
    columns: Mapping[str, Numbers] = {**trend.columns, "power": trend.columns["power"] / trend.interval}
    return Trend(trend.times, columns, trend.interval, trend.found, trend.marked)
