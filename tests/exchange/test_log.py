"""Logs of every sensible layout: recognised, read alike, and what is no log refused."""

import io
from typing import Any

import numpy as np
import polars as pl
import pytest
from openpyxl import Workbook

from mainspring.core.errors import BadEntry
from mainspring.core.measured.trend import Trend
from mainspring.exchange.log import Layout, LogColumn, layout_from, look_at, read_log
from mainspring.exchange.log.keep import pieces_of, summary_of, trend_from
from mainspring.exchange.log.layout import EPOCH, EPOCH_MS, PER_ROW, SERIAL
from mainspring.exchange.log.times import formats_of
from mainspring.exchange.packed.convert import unpack

START = 1769904000.0  # 1 February 2026, 00:00
TIMES = START + np.arange(600) * 900.0
POWER = np.round(7.4 + 2.1 * np.sin(TIMES / 13751), 2)  # kW
FLOW = np.round(11.3 + 4.2 * np.sin(TIMES / 13751), 1)  # L/s


def stamps(form: str) -> list[str]:
    return list(pl.Series(TIMES * 1e6).cast(pl.Int64).cast(pl.Datetime("us")).dt.strftime(form))


def table(
    times: list[str], separator: str = ",", comma: bool = False, heads: str = "Time,Power (kW),Flow (L/s)"
) -> bytes:
    def number(value: float) -> str:
        return f"{value:.2f}".replace(".", ",") if comma else f"{value:.2f}"

    lines = [heads.replace(",", separator)]
    lines += [separator.join((t, number(p), number(q))) for t, p, q in zip(times, POWER, FLOW, strict=True)]
    return "\n".join(lines).encode()


def read(content: bytes, **more: Any) -> Trend:
    look = look_at(content, **more)
    return read_log(content, look.layout)


def as_meant(trend: Trend) -> None:
    assert trend.times == pytest.approx(TIMES, abs=1e-3)
    assert trend.columns["power"] == pytest.approx(POWER * 1e3, rel=1e-9)
    assert trend.columns["flow"] == pytest.approx(FLOW * 1e-3, rel=1e-9)


@pytest.mark.parametrize(
    "form",
    [
        "%Y-%m-%d %H:%M:%S",
        "%Y-%m-%dT%H:%M:%SZ",
        "%Y-%m-%dT%H:%M",
        "%d.%m.%Y %H:%M",
        "%d/%m/%Y %H:%M:%S",
        "%m/%d/%Y %H:%M",
        "%m/%d/%Y %I:%M:%S %p",
        "%d-%b-%Y %H:%M",
        "%d/%m/%y %H:%M",
        "%Y%m%d %H:%M",
        "%Y/%m/%d %H:%M:%S%.3f",
        "%b %d, %Y %H:%M",
    ],
)
@pytest.mark.parametrize(("separator", "comma"), [(",", False), (";", True), ("\t", False), ("|", True)])
def test_dates_decimals_and_delimiters_are_recognised(form: str, separator: str, comma: bool) -> None:
    if separator == "," and "," in form:
        pytest.skip("a date with a comma stands in quotes there")
    as_meant(read(table(stamps(form), separator, comma)))


@pytest.mark.parametrize(
    ("times", "form"),
    [
        ([f"{t:.0f}" for t in TIMES], EPOCH),
        ([f"{t * 1000:.0f}" for t in TIMES], EPOCH_MS),
        ([f"{t / 86400 + 25569:.6f}" for t in TIMES], SERIAL),
    ],
)
def test_times_as_numbers(times: list[str], form: str) -> None:
    content = table(times)
    assert look_at(content).layout.time_format == form
    trend = read(content)
    assert trend.times == pytest.approx(TIMES, abs=0.1)


def test_an_offset_is_taken_as_the_clock_of_the_first_row() -> None:
    as_meant(read(table([t + "+01:00" for t in stamps("%Y-%m-%dT%H:%M:%S")])))


def test_a_date_and_a_time_may_stand_in_two_columns() -> None:
    days, clocks = stamps("%d/%m/%Y"), stamps("%H:%M")
    rows = [f"{d},{c},{p},{q}" for d, c, p, q in zip(days, clocks, POWER, FLOW, strict=True)]
    content = "\n".join(["Date,Time,kW,Flow L/s", *rows]).encode()
    look = look_at(content)
    assert look.layout.times == (0, 1)
    as_meant(read_log(content, look.layout))


def test_the_month_is_told_by_the_days_and_asked_where_it_cannot_be() -> None:
    assert look_at(table(stamps("%m/%d/%Y %H:%M"))).doubts == []
    one_day = "\n".join(table(stamps("%m/%d/%Y %H:%M")).decode().splitlines()[:90]).encode()
    doubtful = look_at(one_day, system="us")
    assert any("either way round" in d for d in doubtful.doubts)
    assert doubtful.layout.time_format.startswith("%m/%d")
    assert look_at(one_day, system="si").layout.time_format.startswith("%d/%m")


def test_a_preamble_and_a_row_of_units_are_passed_over() -> None:
    body = table(stamps("%Y-%m-%d %H:%M"), heads="Time,Active power,Flow").decode().splitlines()
    content = "\n".join(["Site;Baths", "Exported by somebody", "", body[0], ",kW,L/s", *body[1:]]).encode()
    look = look_at(content)
    assert look.layout.skip == 5
    as_meant(read_log(content, look.layout))


def test_thousands_with_a_mark_of_their_own() -> None:
    swapped = str.maketrans(",.", ".,")
    watts = [f"{p * 1000:,.1f}".translate(swapped) for p in POWER]
    rows = [f"{t};{p}" for t, p in zip(stamps("%d.%m.%Y %H:%M"), watts, strict=True)]
    content = "\n".join(["Zeit;Leistung (W)", *rows]).encode()
    look = look_at(content)
    assert look.layout.grouped
    assert read_log(content, look.layout).columns["power"] == pytest.approx(POWER * 1e3, rel=1e-9)


def test_us_units_and_a_fans_flow() -> None:
    rows = [f"{t},{p},{q}" for t, p, q in zip(stamps("%Y-%m-%d %H:%M"), POWER, FLOW, strict=True)]
    content = "\n".join(["Time,Power kW,Flow gpm", *rows]).encode()
    assert read(content, system="us").columns["flow"] == pytest.approx(FLOW * 3.785411784e-3 / 60, rel=1e-9)
    fan = "\n".join(["Time,Power kW,Air flow cfm", *rows]).encode()
    assert set(read(fan, fan=True).columns) == {"power", "air_flow"}


def test_words_and_holes_are_told_and_never_made_numbers() -> None:
    lines = table(stamps("%Y-%m-%d %H:%M")).decode().splitlines()
    for n, word in ((40, "Bad"), (41, ""), (42, "offline")):
        cells = lines[n].split(",")
        lines[n] = ",".join((cells[0], word, cells[2]))
    trend = read("\n".join(lines).encode())
    assert np.isnan(trend.columns["power"][39:42]).all()
    told = {(f.kind, f.count) for f in trend.found if f.quantity == "power"}
    assert ("empty", 3) in told
    assert any(kind == "words" for kind, _ in told)


def test_headings_that_stand_again_are_passed_over_and_told() -> None:
    head, *rows = table(stamps("%Y-%m-%d %H:%M")).decode().splitlines()
    pages = [line for n, row in enumerate(rows) for line in ([head, row] if n % 100 == 99 else [row])]
    trend = read("\n".join([head, *pages]).encode())
    as_meant(trend)
    (again,) = [f for f in trend.found if f.kind == "headings"]
    assert again.count == len(pages) - len(rows)
    assert not any(f.kind in ("words", "empty") for f in trend.found)


def test_a_stray_quote_swallows_no_rows_and_quoted_cells_are_read() -> None:
    lines = table(stamps("%Y-%m-%d %H:%M")).decode().splitlines()
    lines[100] = lines[100].replace(",", ',"', 1)
    trend = read("\n".join(lines).encode())
    assert len(trend.times) == len(TIMES)
    assert np.isnan(trend.columns["power"]).sum() == 1
    quoted = [f'"{t}","{p:.2f}","{q:.1f}"'.replace(".", ",") for t, p, q in
              zip(stamps("%Y-%m-%d %H:%M"), POWER, FLOW, strict=True)]  # fmt: skip
    as_meant(read("\n".join(['"Time","Power (kW)","Flow (L/s)"', *quoted]).encode()))


def test_energy_of_each_row_becomes_power_and_a_counter_stays_one() -> None:
    each = [f"{t},{p / 4:.4f}" for t, p in zip(stamps("%Y-%m-%d %H:%M"), POWER, strict=True)]
    look = look_at("\n".join(["Time,Energy kWh", *each]).encode())
    assert look.layout.read[0].quantity == PER_ROW
    trend = read("\n".join(["Time,Energy kWh", *each]).encode())
    assert trend.columns["power"] == pytest.approx(POWER * 1e3, rel=1e-3)
    counter = [f"{t},{v:.2f}" for t, v in zip(stamps("%Y-%m-%d %H:%M"), np.cumsum(POWER) / 4, strict=True)]
    assert look_at("\n".join(["Time,Energy kWh", *counter]).encode()).layout.read[0].quantity == "energy"


def frame() -> pl.DataFrame:
    moments = pl.Series("Time", TIMES * 1e6).cast(pl.Int64).cast(pl.Datetime("us"))
    return pl.DataFrame({"Time": moments, "Power (kW)": POWER, "Flow (L/s)": FLOW})


def test_parquet_and_workbooks_are_read_alike() -> None:
    out = io.BytesIO()
    frame().write_parquet(out)
    as_meant(read(out.getvalue()))
    book = Workbook()
    sheet = book.active
    sheet.append(["Time", "Power (kW)", "Flow (L/s)"])
    for row in frame().iter_rows():
        sheet.append(list(row))
    out = io.BytesIO()
    book.save(out)
    as_meant(read(out.getvalue()))


@pytest.mark.published("NAESB ESPI (Green Button) interval blocks, from memory: watt-hours, power of ten, seconds")
def test_interval_meter_xml() -> None:
    readings = "".join(
        f"<IntervalReading><timePeriod><duration>900</duration><start>{t:.0f}</start></timePeriod>"
        f"<value>{p * 250:.0f}</value></IntervalReading>"
        for t, p in zip(TIMES, POWER, strict=True)
    )
    content = (
        '<?xml version="1.0"?><feed xmlns="http://naesb.org/espi"><ReadingType><powerOfTenMultiplier>0'
        f"</powerOfTenMultiplier><uom>72</uom></ReadingType><IntervalBlock>{readings}</IntervalBlock></feed>"
    ).encode()
    trend = read(content)
    assert trend.times == pytest.approx(TIMES, abs=1e-3)
    assert trend.columns["power"] == pytest.approx(POWER * 1e3, abs=2.5)
    with pytest.raises(BadEntry, match="declares entities"):
        look_at(content.replace(b"<feed", b"<!DOCTYPE feed><feed", 1))
    entity = (
        content.decode()
        .replace("<feed", '<!DOCTYPE feed [<!ENTITY a "1">]><feed', 1)
        .replace('<?xml version="1.0"?>', "")
    )
    for hidden in ("utf-16", "utf-16-le", "utf-16-be"):  # no byte of it says DOCTYPE as text does
        with pytest.raises(BadEntry, match=r"declares entities|this XML"):
            unpack(entity.encode(hidden))
    with pytest.raises(BadEntry, match="watt-hours"):
        look_at(content.replace(b"<uom>72", b"<uom>38"))


@pytest.mark.parametrize(
    ("content", "words"),
    [
        (b"", "empty file"),
        (b"\x00\x01\x02binary\x00" * 50, "not text"),
        (b"PK\x03\x04 no workbook", "this workbook"),
        (b"PAR1 no parquet", "this Parquet file"),
        (b"<html><body>no readings</body></html>", "interval readings"),
        (b"just words\nand more\n" * 20, "columns by comma"),
        (b"a,b\n" + b"x,y\n" * 30, "at least 8"),
        (b"Time,Power\n" + b"2026-02-01 00:00,3\n" * 3, "at least 8"),
        (b"n,Power\n" + b"".join(b"%d,%d\n" % (i, i) for i in range(30)), "the time of each row"),
    ],
)
def test_what_is_no_log_is_refused_in_words(content: bytes, words: str) -> None:
    with pytest.raises(BadEntry, match=words):
        look_at(content)


def layout(**changes: Any) -> dict[str, Any]:
    made = Layout(",", False, 1, (0,), "%Y-%m-%d %H:%M", (LogColumn(1, "P", "power", "kW"),)).to_data()
    return {**made, **changes}


@pytest.mark.parametrize(
    ("changes", "words"),
    [
        ({"delimiter": "x"}, "comma, semicolon"),
        ({"time_format": "%Q %d"}, "a format of times"),
        ({"time_format": "never"}, "a format of times"),
        ({"times": [0, 1, 2]}, "one column of time"),
        ({"skip": 100_000}, "below 200 lines"),
        ({"columns": []}, "at least one"),
        ({"columns": [{"at": 1, "name": "P", "quantity": "colour", "unit": "kW"}]}, "power, energy"),
        ({"columns": [{"at": 1, "name": "P", "quantity": "power", "unit": "m"}]}, "kW"),
        ({"columns": [{"at": 0, "name": "P", "quantity": "power", "unit": "kW"}]}, "a column of its own"),
        ({"columns": "nonsense"}, "as it was recognised"),
        (
            {"columns": [{"at": i, "name": "P", "quantity": "power", "unit": "kW"} for i in (1, 2)]},
            "each once",
        ),
    ],
)
def test_a_layout_that_cannot_be_read_by_is_refused(changes: dict[str, Any], words: str) -> None:
    with pytest.raises(BadEntry, match=words):
        layout_from(layout(**changes))


def test_a_confirmed_layout_that_does_not_fit_the_file_is_refused() -> None:
    content = table(stamps("%d.%m.%Y %H:%M"))
    with pytest.raises(BadEntry, match="times written as"):
        read_log(content, layout_from(layout()))
    with pytest.raises(BadEntry, match="laid out as was confirmed"):
        read_log(content, layout_from(layout(columns=[{"at": 40, "name": "P", "quantity": "power", "unit": "kW"}])))


def test_what_is_kept_comes_back_as_it_was_read() -> None:
    content = table(stamps("%Y-%m-%d %H:%M"))
    look = look_at(content)
    trend = read_log(content, look.layout)
    trend.columns["flow"][5] = np.nan
    columns, cut = pieces_of(trend, look.layout)
    again = trend_from(summary_of(trend, columns), list(cut))
    assert columns["power"] == {"unit": "kW", "decimals": 2}
    assert np.array_equal(again.times, trend.times)
    for name, values in trend.columns.items():
        assert again.columns[name] == pytest.approx(values, rel=1e-12, nan_ok=True)
    assert sum(len(piece) for _, _, piece in cut) < len(content)


def test_a_sample_that_is_no_time_has_no_format() -> None:
    assert formats_of(["12.5", "13.1", "12.9"]) == []
    assert formats_of(["32/13/2026", "33/13/2026"]) == []
    assert formats_of(["a"]) == []
