"""A log as it is kept: each column in pieces of Parquet, in the unit it was read in, so that it is small and exact."""

from __future__ import annotations

import hashlib
import io
from collections.abc import Iterable, Mapping
from concurrent.futures import ThreadPoolExecutor
from typing import TYPE_CHECKING, Any

import numpy as np
from numpy.typing import NDArray

from mainspring.core.measured.trend import Found, Trend, marked_of
from mainspring.core.quantity import DIMENSIONS
from mainspring.exchange.log.layout import PER_ROW, READ_AS, Layout

Numbers = NDArray[np.float64]

if TYPE_CHECKING:
    import polars as pl

PIECE_ROWS = 400_000  # of at most eight bytes: below the four million that any server takes in one packet
MOST_DECIMALS = 6
SAMPLE, OFF = 2000, 1e-4  # rows by which decimals are told first; of the last decimal, within which it is whole
TIME = "time"
Piece = tuple[str, int, bytes]


def digest_of(content: bytes) -> str:
    """By which a file is known again; of the quick ones, since a file may be large."""
    return hashlib.blake2b(content, digest_size=32).hexdigest()


def pieces_of(trend: Trend, layout: Layout) -> tuple[dict[str, Any], tuple[Piece, ...]]:
    """What is to be known of a log's columns, and the pieces."""

    import polars as pl

    units = {c.quantity: c.unit for c in layout.read if c.quantity != PER_ROW}

    def kept(column: tuple[str, Numbers]) -> tuple[dict[str, Any], list[Piece]]:
        quantity, values = column
        dimension = DIMENSIONS[READ_AS[quantity][1]]
        unit = dimension.unit(units.get(quantity, dimension.core.symbol))
        shown = (values - unit.offset) / unit.factor if unit.factor != 1 or unit.offset else values
        series, decimals = _whole(shown)
        return {"unit": unit.symbol, "decimals": decimals}, _cut(quantity, series)

    steps = np.round(np.diff(trend.times, prepend=trend.times[0]) * 1000)
    with ThreadPoolExecutor(2) as pool:
        made = list(pool.map(kept, trend.columns.items()))
    pieces = [piece for _, cut in made for piece in cut]
    pieces += _cut(TIME, pl.Series("v", steps).cast(pl.Int64))
    return {q: told for q, (told, _) in zip(trend.columns, made, strict=True)}, tuple(pieces)


def _whole(values: Numbers) -> tuple[pl.Series, int | None]:
    """Values as whole numbers of their last decimal, where they have few decimals; else as they are."""

    import polars as pl

    known = np.isfinite(values)
    whole = bool(known.all())
    filled = values if whole else np.where(known, values, 0.0)
    for decimals in range(MOST_DECIMALS + 1):
        if not _exact(filled[:SAMPLE], decimals):
            continue
        scaled = filled * 10.0**decimals
        rounded = np.rint(scaled)
        if np.abs(scaled - rounded).max() < OFF and np.abs(rounded).max() < 2**31:
            series = pl.Series("v", rounded.astype(np.int32))
            if not whole:
                series = series.to_frame().select(pl.when(pl.Series(known)).then(pl.col("v"))).to_series()
            return series.rename("v"), decimals
    return pl.Series("v", values), None


def _exact(values: Numbers, decimals: int) -> bool:
    scaled = values * 10.0**decimals
    return bool(len(scaled)) and bool(np.abs(scaled - np.rint(scaled)).max() < OFF)


def _cut(quantity: str, values: pl.Series) -> list[Piece]:
    found = []
    for n, start in enumerate(range(0, len(values), PIECE_ROWS)):
        out = io.BytesIO()
        part = values.slice(start, PIECE_ROWS).rename("v").to_frame()
        part.write_parquet(out, compression="zstd", compression_level=1, statistics=False)
        found.append((quantity, n, out.getvalue()))
    return found


def column_from(quantity: str, told: Mapping[str, Any], pieces: Iterable[Piece]) -> Numbers:
    """A column in SI from its pieces."""
    values = _joined(quantity, pieces)
    decimals = told["decimals"]
    if decimals:
        values = values / 10.0**decimals
    unit = DIMENSIONS[READ_AS[quantity][1]].unit(told["unit"])
    return values * unit.factor + unit.offset if unit.factor != 1 or unit.offset else values


def times_from(start: float, pieces: Iterable[Piece]) -> Numbers:
    """The times of a log from the pieces of their steps."""
    return np.asarray(start + np.cumsum(_joined(TIME, pieces)) / 1000.0, np.float64)


def _joined(quantity: str, pieces: Iterable[Piece]) -> Numbers:
    import polars as pl

    parts = [pl.read_parquet(io.BytesIO(b))["v"] for q, _, b in pieces if q == quantity]
    return np.asarray(pl.concat(parts).cast(pl.Float64).to_numpy(), np.float64)


def summary_of(trend: Trend, columns: Mapping[str, Any]) -> dict[str, Any]:
    """What is kept of a log beside its readings."""
    return {
        "rows": len(trend.times),
        "start": float(trend.times[0]),
        "end": float(trend.times[-1]),
        "interval": trend.interval,
        "columns": dict(columns),
        "found": [
            [f.kind, f.quantity, f.start, f.length, f.count, f.value if np.isfinite(f.value) else 0.0]
            for f in trend.found
        ],
    }


def trend_from(summary: Mapping[str, Any], pieces: list[Piece]) -> Trend:
    """The whole log again."""
    times = times_from(summary["start"], pieces)
    told = summary["columns"]
    columns = {q: column_from(q, told[q], pieces) for q in told}
    found = tuple(Found(*row) for row in summary["found"])
    return Trend(times, columns, summary["interval"], found, marked_of(times, columns, summary["interval"])[0])
