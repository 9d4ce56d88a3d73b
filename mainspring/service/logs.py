"""Logs of a line: looked at, read as confirmed, kept, shown at any zoom, put aside and given out again."""

import contextlib
import io
import threading
from collections import OrderedDict
from concurrent.futures import ThreadPoolExecutor
from dataclasses import replace
from datetime import datetime
from typing import Any

import numpy as np
from pydantic import BaseModel

from mainspring.core.errors import BadEntry
from mainspring.core.line import Line
from mainspring.core.measured.saving import year_of_log
from mainspring.core.measured.trend import DAY, QUANTITIES, Found, Trend, means_of, thinned
from mainspring.core.quantity import DIMENSIONS
from mainspring.exchange.log import keep as pieces
from mainspring.exchange.log import layout_from, look_at, read_log
from mainspring.exchange.log.layout import READ_AS, Layout
from mainspring.exchange.log.read import STEPS, Tell
from mainspring.exchange.packed.apart import plain_of
from mainspring.service.commands import carry_out
from mainspring.service.lines import check_who
from mainspring.service.opened import Opened, OpenLines
from mainspring.service.present import present
from mainspring.store import repository
from mainspring.store.errors import NotFound
from mainspring.store.repository import Change, IdTaken, KeptTrend

SIDES = {"before": "Before", "after": "Now"}
MOST_LOGS = 24  # of a line
HELD_BYTES = 400e6  # of logs in memory
POINTS, MOST_POINTS = 2000, 6000
MOST_FOUND = 400  # of a log, the gravest first


class QuantityView(BaseModel):
    """What a column may be read as."""

    id: str
    label: str
    dimension: str
    units: list[str]


class RecognisedView(BaseModel):
    """A log as it was recognised, for somebody to confirm."""

    layout: Layout
    rows: list[list[str]]
    doubts: list[str]
    signature: str
    remembered: bool  # laid out as one that was confirmed before
    quantities: list[QuantityView]


class FoundView(BaseModel):
    """Something that was found wrong with a log."""

    kind: str
    severity: str
    text: str
    start: float
    length: float


class LogColumnView(BaseModel):
    """A column of a log."""

    quantity: str
    label: str
    dimension: str


class LogView(BaseModel):
    """A log of a line."""

    id: str
    side: str
    name: str
    rows: int
    start: float
    end: float
    interval: float
    days: float
    columns: list[LogColumnView]
    found: list[FoundView]
    aside: bool
    by: str
    at: datetime


class SeriesView(BaseModel):
    """A column over a span, thinned so that no extreme is lost; null where nothing was read."""

    times: list[float]
    values: list[float | None]


class Logs:
    """What is done with logs."""

    def __init__(self, lines: OpenLines) -> None:
        self.lines = lines
        self._held: OrderedDict[str, Trend] = OrderedDict()
        self._lock = threading.Lock()

    def look(self, line_id: str, content: bytes, units: str, *, whole: bool) -> RecognisedView:
        """Recognise a log, or the beginning of one. Raises BadEntry."""
        record = self.lines.open(line_id).record
        found = look_at(content, fan="fan" in record.traits, system=units, whole=whole)
        known = self.lines.look(lambda: repository.layout_of(line_id, found.signature))
        layout, doubts = found.layout, list(found.doubts)
        if known is not None:
            layout = layout_from(known)
            doubts += _otherwise(layout, found.layout)
        return RecognisedView(
            layout=layout,
            rows=found.rows,
            doubts=[*doubts, *_against_plate(record, layout, found.rows)],
            signature=found.signature,
            remembered=known is not None,
            quantities=[
                QuantityView(
                    id=q, label=label, dimension=dimension, units=[u.symbol for u in DIMENSIONS[dimension].units]
                )
                for q, (label, dimension) in READ_AS.items()
            ],
        )

    def add(
        self,
        line_id: str,
        trend_id: str,
        side: str,
        name: str,
        layout: dict[str, Any],
        content: bytes,
        by: str,
        tell: Tell = lambda _done, _of: None,
    ) -> LogView:
        """Read a log as it was confirmed, and keep it.

        Raises BadEntry for what cannot be read, and IdTaken for an id that another log has; nothing is kept then.
        """
        by = check_who(by)
        if side not in SIDES:
            raise BadEntry("side", side, ", ".join(SIDES))
        confirmed = layout_from(layout)
        with ThreadPoolExecutor(1) as beside:
            digest = beside.submit(pieces.digest_of, content)
            plain = plain_of(content, lambda: tell(0, STEPS))
            trend = read_log(plain, confirmed, tell)
            columns, cut = pieces.pieces_of(trend, confirmed)
        made = KeptTrend(
            trend_id,
            side,
            " ".join(name.split())[:200] or "log",
            confirmed.to_data(),
            look_at(plain, whole=True).signature,
            digest.result(),
            pieces.summary_of(trend, columns),
            False,
            by,
            repository.now(),
        )

        def decide(_: Opened) -> Change:
            kept = self.lines.look(lambda: repository.trends(line_id))
            known = next((t for t in kept if t.id == trend_id), None)
            if known is not None:
                if known.digest != made.digest or layout_from(known.layout) != confirmed:
                    raise IdTaken("this id belongs to another log of this line, or to this one read otherwise;"
                                  " nothing was kept")  # fmt: skip
                return Change(by)
            if len(kept) >= MOST_LOGS:
                raise BadEntry("logs", f"{MOST_LOGS} of this line", "as many at most")
            return Change(by, trend=made, pieces=cut)

        carry_out(self.lines, line_id, decide)
        self._hold(trend_id, trend)
        return log_view(self._one(line_id, trend_id))

    def change(self, line_id: str, trend_id: str, side: str | None, aside: bool | None, by: str) -> list[LogView]:
        """Put a log aside or take it back, or say that it is of the other side; its readings stay."""
        by = check_who(by)
        if side is not None and side not in SIDES:
            raise BadEntry("side", side, ", ".join(SIDES))

        def decide(_: Opened) -> Change:
            known = self._one(line_id, trend_id)
            wanted = replace(known, side=side or known.side, aside=known.aside if aside is None else aside)
            return Change(by, trend=wanted) if wanted != known else Change(by)

        carry_out(self.lines, line_id, decide)
        return self.view(line_id)

    def kept(self, line_id: str) -> list[KeptTrend]:
        """The logs of a line, without their readings."""

        def read() -> list[KeptTrend]:
            repository.head(line_id)  # not found: says so
            return repository.trends(line_id)

        return self.lines.transact(read)

    def counted(self, line_id: str) -> list[KeptTrend]:
        """Those that are not put aside."""
        return [t for t in self.kept(line_id) if not t.aside]

    def view(self, line_id: str) -> list[LogView]:
        """The logs of a line."""
        return [log_view(t) for t in self.kept(line_id)]

    def _one(self, line_id: str, trend_id: str) -> KeptTrend:
        found = next((t for t in self.kept(line_id) if t.id == trend_id), None)
        if found is None:
            raise NotFound("no such log")
        return found

    def trend(self, kept: KeptTrend) -> Trend:
        """A log with its readings; the last few are held in memory, since what was read never changes."""
        with self._lock:
            held = self._held.get(kept.id)
            if held is not None:
                self._held.move_to_end(kept.id)
                return held
        cut = self.lines.look(lambda: repository.pieces(kept.id))
        trend = pieces.trend_from(kept.summary, cut)
        self._hold(kept.id, trend)
        return trend

    def _hold(self, trend_id: str, trend: Trend) -> None:
        with self._lock:
            self._held[trend_id] = trend
            while len(self._held) > 1 and sum(map(_size, self._held.values())) > HELD_BYTES:
                self._held.popitem(last=False)

    def series(
        self, line_id: str, trend_id: str, quantity: str, start: float | None, end: float | None, points: int
    ) -> SeriesView:
        """A column over a span of its clock, thinned to so many points, its lowest and highest among them."""
        kept = self._one(line_id, trend_id)
        trend = self.trend(kept)
        if quantity not in trend.columns:
            raise BadEntry("quantity", quantity, ", ".join(trend.columns))
        if not 2 <= points <= MOST_POINTS:
            raise BadEntry("points", points, f"2 to {MOST_POINTS}")
        low = 0 if start is None else int(np.searchsorted(trend.times, start))
        high = len(trend.times) if end is None else int(np.searchsorted(trend.times, end, "right"))
        times, values = thinned(trend.times[low:high], trend.columns[quantity][low:high], points)
        moments, shown = _broken(times, values, trend.interval * max(1.5, 2.2 * (high - low) / points))
        return SeriesView(times=moments, values=shown)

    def duty(self, line_id: str, trend_id: str) -> list[list[float]]:
        """Hours at each flow of a year that is like the log, from the largest down [m³/s, s]. Raises BadEntry."""
        kept = self._one(line_id, trend_id)
        trend = self.trend(kept)
        name = next((q for q in ("flow", "air_flow") if q in trend.columns), None)
        if name is None:
            raise BadEntry("log", "no column of flow", "one with a flow")
        hours = means_of(trend, (name,))
        year = year_of_log(hours, hours, name)
        return [[float(q), float(s)] for q, s in sorted(zip(year.at, year.seconds, strict=True), reverse=True) if q > 0]

    def table(self, line_id: str, trend_id: str, form: str, units: str) -> tuple[str, bytes]:
        """A log as CSV, in the reader's units, or as Parquet, in SI; its name and its content."""
        import polars as pl

        kept = self._one(line_id, trend_id)
        trend = self.trend(kept)
        moments = pl.Series("time", np.round(trend.times * 1e6)).cast(pl.Int64).cast(pl.Datetime("us"))
        columns: list[pl.Series] = [moments]
        for quantity, values in trend.columns.items():
            dimension = DIMENSIONS[QUANTITIES[quantity][1]]
            unit = dimension.core if form == "parquet" else dimension.shown(units)
            shown = values if unit is dimension.core else np.round((values - unit.offset) / unit.factor, 6)
            columns.append(pl.Series(f"{quantity} [{unit.symbol}]", shown).fill_nan(None))
        out = io.BytesIO()
        frame = pl.DataFrame(columns)
        if form == "parquet":
            frame.write_parquet(out, compression="zstd")
        else:
            frame.write_csv(out, datetime_format="%Y-%m-%dT%H:%M:%S")
        return kept.name.rsplit(".", 1)[0], out.getvalue()


MOST_OF_PLATE, LEAST_OF_PLATE = 1.6, 0.002  # of the motor's rated power, between which a reading is believed


def _otherwise(kept: Layout, seen: Layout) -> list[str]:
    """Where a layout that was confirmed before is not what this file looks like."""
    doubts = []
    if kept.time_format != seen.time_format:
        doubts.append(
            f"Dates were confirmed as {kept.time_format}; this file reads as {seen.time_format}. Which is it?"
        )
    by_place = {c.at: c for c in seen.columns}
    for column in kept.read:
        now = by_place.get(column.at)
        if now is not None and (now.quantity, now.unit) != (column.quantity, column.unit) and now.quantity:
            doubts.append(
                f"“{column.name}” was confirmed as {column.quantity} in {column.unit or 'no unit'}; this file looks"
                f" like {now.quantity} in {now.unit or 'no unit'}. Which is it?"
            )
    return doubts


def _against_plate(record: Line, layout: Layout, rows: list[list[str]]) -> list[str]:
    """What the first readings of power would mean for this motor, where no motor does that."""
    rated = record.value("motor.rated_power")
    column = next((c for c in layout.read if c.quantity == "power"), None)
    if rated is None or column is None or not column.unit:
        return []
    kind = DIMENSIONS["input_power"]
    read = []
    for row in rows:
        cell = row[column.at] if column.at < len(row) else ""
        with contextlib.suppress(ValueError):
            plain = cell.replace(",", ".") if layout.decimal_comma else cell.replace(",", "")
            read.append(kind.unit(column.unit).to_si(float(plain.replace(" ", ""))))
    most = max((abs(v) for v in read), default=0.0)
    count = record.value("machine.count") or 1.0
    if most == 0 or LEAST_OF_PLATE * rated <= most <= MOST_OF_PLATE * rated * count:
        return []
    return [
        f"In {column.unit} this reads {kind.tellings(most)}, and the motor is rated {kind.tellings(float(rated))}:"
        " is it another unit?"
    ]


def _size(trend: Trend) -> int:
    """Bytes of a log's readings."""
    return trend.times.nbytes + sum(c.nbytes for c in trend.columns.values())


def _broken(times: Any, values: Any, gap: float) -> tuple[list[float], list[float | None]]:
    """With a hole put where rows are missing, so that no line is drawn over it."""
    shown: list[float | None] = [float(v) if np.isfinite(v) else None for v in values]
    holes = np.flatnonzero(np.diff(times) > gap)
    moments = [float(t) for t in times]
    for at in holes[::-1]:
        moments.insert(int(at) + 1, (moments[at] + moments[at + 1]) / 2)
        shown.insert(int(at) + 1, None)
    return moments, shown


def log_view(kept: KeptTrend) -> LogView:
    """A log as it is shown."""
    told = kept.summary
    return present(
        None,
        LogView,
        kept,
        rows=told["rows"],
        start=told["start"],
        end=told["end"],
        interval=told["interval"],
        days=told["rows"] * told["interval"] / DAY,
        columns=[
            LogColumnView(quantity=q, label=QUANTITIES[q][0], dimension=QUANTITIES[q][1]) for q in told["columns"]
        ],
        found=_worst_first([found_view(Found(*row)) for row in told["found"]]),
    )


def _worst_first(found: list[FoundView]) -> list[FoundView]:
    """What was found, the gravest and longest first, as many as are shown."""
    ranked = sorted(found, key=lambda f: (f.severity != "caution", -f.length))
    return ranked[:MOST_FOUND]


_TOLD: dict[str, tuple[str, str]] = {  # severity, and what is said
    "gap": ("caution", "Gap, not filled"),
    "stuck": ("caution", "{label} stuck at {value}"),
    "spike": ("caution", "{label}: {count} single readings far off"),
    "negative": ("caution", "{label}: {count} readings below nought"),
    "reversed": ("caution", "Power: {count} readings below nought, left out: is a clamp the wrong way round?"),
    "newest": ("clear", "The newest row stood first: turned round"),
    "headings": ("clear", "The headings stand {count} times more among the rows: passed over"),
    "shuffled": ("caution", "Rows stood in no order: put in order, {count} steps back"),
    "uneven": ("clear", "Rows written on change: each counts by the time that it held"),
    "reset": ("caution", "{label} started again {count} times"),
    "empty": ("caution", "{label}: {count} readings missing"),
    "words": ("caution", "{label}: {count} cells are no number"),
    "order": ("caution", "{count} rows out of order, put in order"),
    "doubled": ("caution", "{count} rows at a time that had one; the first counts"),
    "clock": ("clear", "Clock moved, taken into account"),
}


def found_view(found: Found) -> FoundView:
    """What is wrong, in words."""
    severity, text = _TOLD[found.kind]
    label, dimension = QUANTITIES.get(found.quantity, ("Time", "time"))
    words = text.format(
        label=label, count=f"{found.count:,}".replace(",", " "), value=DIMENSIONS[dimension].tellings(found.value)
    )
    return present(None, FoundView, found, severity=severity, text=words)
