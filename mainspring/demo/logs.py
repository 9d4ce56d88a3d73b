"""Logs of the filter pump before and after its drive, as a building system would export them, with what goes wrong."""

import hashlib
from datetime import UTC, datetime, timedelta

import numpy as np

from mainspring.exchange.log import look_at, read_log
from mainspring.exchange.log.keep import Piece, digest_of, pieces_of, summary_of
from mainspring.standins.meter import DAY, Logged, Meters, Works, as_csv, measured_year
from mainspring.store.repository import KeptTrend

BEFORE_DAYS, AFTER_DAYS, INTERVAL = 21, 34, 300.0
# what the filter pump takes at its flows, some percent off its model
WORKS = Works(before=(7320.0, 1.72e5, 0.0), after=(2220.0, -1.64e5, 3.12e7), day_noise=0.03)
MOST_AFTER = 0.0172  # m³/s: the log since then never saw the largest flow


def logged(now: datetime) -> Logged:
    """Eight weeks that end with the day before."""
    made = measured_year(
        7,
        days=BEFORE_DAYS + AFTER_DAYS + 3,
        change_day=BEFORE_DAYS,
        interval=INTERVAL,
        meters=Meters(power_noise=0.05, flow_noise=0.02),
        works=WORKS,
        least=0.0068,
        most=MOST_AFTER,
        scale=1.22,
    )
    end = now.replace(hour=0, minute=0, second=0, microsecond=0, tzinfo=None)
    start = (end - timedelta(days=BEFORE_DAYS + AFTER_DAYS + 3) - datetime(1970, 1, 1)).total_seconds()
    return Logged(
        made.times - made.times[0] + start, made.flow, made.power, made.true_flow, made.change, made.true_saving
    )


def demo_logs(now: datetime, line_id: str, who: str) -> list[tuple[KeptTrend, tuple[Piece, ...]]]:
    """Both logs, read as anybody would read them."""
    made = logged(now)
    back = made.change + int(3 * DAY / INTERVAL)  # three days of fitting the drive
    flow, power = made.flow.copy(), made.power.copy()
    flow[: made.change] *= 1.16  # it was run harder then
    power[: made.change] += 1.72e5 * 0.16 * made.true_flow[: made.change]
    stuck = back + int(9.3 * DAY / INTERVAL)
    flow[stuck : stuck + 36] = flow[stuck]
    changed = Logged(made.times, flow, power, made.true_flow, made.change, made.true_saving)
    gap = back + int(15.4 * DAY / INTERVAL)
    rows = np.arange(len(made.times))
    keep = (rows < gap) | (rows >= gap + 74)
    files = {
        "before": ("bms-filter-pump-before.csv", rows < made.change),
        "after": ("bms-filter-pump-after.csv", (rows >= back) & keep),
    }
    found = []
    for side, (name, which) in files.items():
        content = as_csv(_part(changed, which), slice(None), "%d.%m.%Y %H:%M", ";", comma=True)
        look = look_at(content)
        trend = read_log(content, look.layout)
        columns, cut = pieces_of(trend, look.layout)
        key = hashlib.sha256(f"{line_id} {side}".encode()).hexdigest()
        kept = KeptTrend(
            f"{key[:8]}-{key[8:12]}-4{key[13:16]}-8{key[17:20]}-{key[20:32]}",
            side,
            name,
            look.layout.to_data(),
            look.signature,
            digest_of(content),
            summary_of(trend, columns),
            False,
            who,
            now,
        )
        found.append((kept, cut))
    return found


def _clocks_back(times: "np.ndarray[tuple[int], np.dtype[np.float64]]") -> float:
    """When summer time ends in Europe in the year of a log, by winter time."""
    october = datetime(datetime.fromtimestamp(float(times[-1]), UTC).year, 10, 31)
    sunday = october - timedelta(days=(october.weekday() + 1) % 7)
    return (sunday.replace(hour=2) - datetime(1970, 1, 1)).total_seconds()


def _part(made: Logged, which: "np.ndarray[tuple[int], np.dtype[np.bool_]]") -> Logged:
    times = made.times[which]
    summer = times < _clocks_back(times)
    return Logged(
        times + 3600.0 * summer,
        made.flow[which],
        made.power[which],
        made.true_flow[which],
        made.change,
        made.true_saving,
    )
