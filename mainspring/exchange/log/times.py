"""Which way round a date is written, and what a time looks like: recognised from a sample, told as a format."""

from __future__ import annotations

import itertools
import re
from dataclasses import dataclass
from typing import TYPE_CHECKING

from mainspring.exchange.log.layout import EPOCH, EPOCH_MS, SERIAL

if TYPE_CHECKING:
    import polars as pl

_DATE = re.compile(r"(\d{1,4}|[A-Za-z]{3,9})([-/. ])(\d{1,2}|[A-Za-z]{3,9})(?:\2|, ?)(\d{1,4})")
_SOLID = re.compile(r"(\d{8})(?=$|[T _])")
_TIME = re.compile(
    r"(\d{1,2})([:.])(\d{2})(?:\2(\d{2})([.,]\d+)?)?(?: ?([AaPp]\.?[Mm]\.?))?(?: ?(Z|[+-]\d{2}:?\d{2}))?$"
)
_NUMBER = re.compile(r"\d{4,13}(?:[.,]\d+)?$")


@dataclass(frozen=True)
class Reading:
    """A format that fits every time of the sample, and how far they lie apart by it."""

    format: str
    span: float  # s from the first to the last, by it
    step: float  # s, the usual
    order: str  # ymd, dmy, mdy, or empty


def formats_of(sample: list[str]) -> list[Reading]:
    """Formats by which every time of a sample can be read, the least drawn out first; none where it is no time.

    Days taken for months draw the same rows out over months.
    """
    texts = [text.strip() for text in sample if text.strip()]
    if len(texts) < 2:
        return []
    if all(_NUMBER.match(text) for text in texts):
        return _of_numbers(texts)
    found = []
    for form, order in _candidates(texts):
        if (seconds := _seconds(texts, form)) is not None:
            found.append(Reading(form, max(seconds) - min(seconds), _usual_step(seconds), order))
    return sorted(found, key=lambda r: r.span)


def is_date(texts: list[str]) -> bool:
    """Whether every text is a date without a time of day."""
    full = [text.strip() for text in texts if text.strip()]
    return bool(full) and all(_DATE.fullmatch(t) or _SOLID.fullmatch(t) for t in full)


def is_time(texts: list[str]) -> bool:
    """Whether every text is a time of day without a date."""
    full = [text.strip() for text in texts if text.strip()]
    return bool(full) and all(_TIME.match(t) for t in full)


def _of_numbers(texts: list[str]) -> list[Reading]:
    numbers = [float(t.replace(",", ".")) for t in texts]
    low, high = min(numbers), max(numbers)
    for form, least, most in ((EPOCH, 1e8, 5e9), (EPOCH_MS, 1e11, 5e12), (SERIAL, 2e4, 8e4)):
        if least <= low and high <= most and high > low:
            return [Reading(form, high - low, 0.0, "")]
    return []


def _candidates(texts: list[str]) -> list[tuple[str, str]]:
    first = texts[0]
    if solid := _SOLID.match(first):
        dates, rest = [("%Y%m%d", "ymd")], first[solid.end() :]
    elif found := _DATE.match(first):
        dates, rest = _orders(found), first[found.end() :]
    else:
        return []
    if not rest:
        return dates
    joined = re.match(r"(T|_|,? +)(.*)$", rest)
    if joined is None or not (time := _TIME.match(joined[2])):
        return []
    return [(date + joined[1] + form, order) for date, order in dates for form in _clocks(time, joined[2])]


def _orders(found: re.Match[str]) -> list[tuple[str, str]]:
    first, mark, second, third = found.groups()
    between = ", " if "," in found[0] else mark
    if len(first) == 4:
        month = "%b" if second.isalpha() else "%m"
        return [(f"%Y{mark}{month}{mark}%d", "ymd")]
    year = "%Y" if len(third) == 4 else "%y"
    if second.isalpha():
        return [(f"%d{mark}%b{between}{year}", "dmy")]
    if first.isalpha():
        return [(f"%b{mark}%d{between}{year}", "mdy")]
    return [(f"%d{mark}%m{between}{year}", "dmy"), (f"%m{mark}%d{between}{year}", "mdy")]


def _clocks(time: re.Match[str], text: str) -> list[str]:
    _, mark, _, seconds, part, half, zone = time.groups()
    hour = "%I" if half else "%H"
    form = f"{hour}{mark}%M" + (f"{mark}%S" if seconds else "") + ("%.f" if part else "")
    if half:
        form += (" " if re.search(r"\d [AaPp]", text) else "") + "%p"
    if zone:
        gap = " " if re.search(r"[\dMm.] (Z|[+-])", text) else ""
        form += gap + ("Z" if zone == "Z" else "%:z" if ":" in zone else "%z")
    return [form]


def _seconds(texts: list[str], form: str) -> list[float] | None:
    import polars as pl

    parsed = seconds_by(pl.Series(texts), form)
    if parsed.null_count() > 0.02 * len(texts):
        return None
    return [float(s) for s in parsed.drop_nulls()]


def seconds_by(texts: pl.Series, form: str) -> pl.Series:
    """Seconds since 1970 of the clock on the wall, null where a text is no time of the format."""

    import polars as pl

    if form in (EPOCH, EPOCH_MS, SERIAL):
        numbers = texts.str.replace(",", ".", literal=True).cast(pl.Float64, strict=False)
        if form == SERIAL:
            return ((numbers - 25569.0) * 86400.0).round(3)
        return numbers / (1000.0 if form == EPOCH_MS else 1.0)
    texts = texts.str.replace(r"(?i)([ap])\.m\.", "${1}m") if "%p" in form else texts
    zoned = form.endswith(("%z", "%:z"))
    moments = texts.str.to_datetime(form, strict=False, time_unit="us", time_zone="UTC" if zoned else None)
    seconds = moments.dt.epoch("us") / 1e6
    if not zoned:
        return seconds
    return seconds + _first_offset(texts)  # by the clock of the first row: steady over a change to summer time


def _first_offset(texts: pl.Series) -> float:
    found = next((m for t in texts if t and (m := re.search(r"([+-])(\d{2}):?(\d{2})$", t))), None)
    if found is None:
        return 0.0
    return (1 if found[1] == "+" else -1) * (int(found[2]) * 3600.0 + int(found[3]) * 60.0)


def _usual_step(seconds: list[float]) -> float:
    forward = sorted(b - a for a, b in itertools.pairwise(seconds) if b > a)
    return forward[len(forward) // 2] if forward else 0.0
