"""A logging meter on a pump before and after its drive: a made-up year, of which the true saving is known."""

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

Numbers = NDArray[np.float64]
MINUTE, DAY = 60.0, 86400.0
YEAR_START = 1735689600.0  # 1 January 2025, 00:00


@dataclass(frozen=True)
class Meters:
    """How good the meters are: limits of their own steady error, and the noise of one reading."""

    power_limit: float = 0.01
    flow_limit: float = 0.02
    power_noise: float = 0.02
    flow_noise: float = 0.01


@dataclass(frozen=True)
class Works:
    """A pump's power over flow, before and after [W, m³/s]: a + b·q + c·q², and how much a day differs from another."""

    before: tuple[float, float, float] = (7000.0, 2.0e5, -1.0e6)
    after: tuple[float, float, float] = (1200.0, 1.0e5, 1.4e7)
    day_noise: float = 0.02


@dataclass(frozen=True)
class Logged:
    """What was logged, and what is true of it."""

    times: Numbers
    flow: Numbers
    power: Numbers
    true_flow: Numbers
    change: int  # first row after the drive was fitted
    true_saving: float  # J a year, at the flows of the whole year


def demand(
    times: Numbers, rng: np.random.Generator, least: float = 0.003, most: float = 0.024, scale: float = 1.0
) -> Numbers:
    """Flow asked for [m³/s]: by day and week, warmer months more, and no day like the other."""
    hour = times % DAY / 3600
    day = np.floor((times - times[0]) / DAY).astype(int)
    weekend = (np.floor(times / DAY).astype(int) + 3) % 7 >= 5
    shape = 0.55 + 0.25 * np.exp(-(((hour - 8) / 2.5) ** 2)) + 0.35 * np.exp(-(((hour - 18) / 3.0) ** 2))
    season = 1 + 0.12 * np.sin((times - times[0]) / DAY / 365 * 2 * np.pi - 1.2)
    days = _wander(day.max() + 1, 0.6, 0.10, rng)
    flow = scale * 0.016 * shape * season * (1 + days[day]) * np.where(weekend, 0.85, 1.0)
    return np.asarray(np.clip(flow * (1 + _wander(len(times), 0.98, 0.03, rng)), least, most))


def _wander(count: int, memory: float, size: float, rng: np.random.Generator) -> Numbers:
    """Noise that remembers, of a given standard deviation."""
    from scipy.signal import lfilter

    shocks = rng.normal(0.0, size * np.sqrt(1 - memory**2), count)
    shocks[0] = rng.normal(0.0, size)
    return np.asarray(lfilter([1.0], [1.0, -memory], shocks), float)


def measured_year(
    seed: int,
    *,
    days: int = 365,
    change_day: int = 180,
    interval: float = MINUTE,
    meters: Meters | None = None,
    works: Works | None = None,
    least: float = 0.003,
    most: float = 0.024,
    scale: float = 1.0,
) -> Logged:
    """A log over so many days, the drive fitted on one of them; the same meters all along."""
    meters, works = meters or Meters(), works or Works()
    rng = np.random.default_rng(seed)
    times = np.asarray(YEAR_START + np.arange(int(days * DAY / interval)) * interval, np.float64)
    flow = demand(times, rng, least, most, scale)
    day = np.floor((times - times[0]) / DAY).astype(int)
    change = int(np.searchsorted(day, change_day))
    curves = [a + b * flow + c * flow**2 for a, b, c in (works.before, works.after)]
    true = np.where(np.arange(len(times)) < change, *curves)
    noisy = true * (1 + _wander(day.max() + 1, 0.5, works.day_noise, rng)[day])
    gain = 1 + rng.uniform(-meters.power_limit, meters.power_limit)
    flow_gain = 1 + rng.uniform(-meters.flow_limit, meters.flow_limit)
    return Logged(
        times=times,
        flow=np.round(flow * flow_gain * (1 + rng.normal(0, meters.flow_noise, len(times))), 5),
        power=np.round(noisy * gain * (1 + rng.normal(0, meters.power_noise, len(times)))),
        true_flow=flow,
        change=change,
        true_saving=float(np.mean(curves[0] - curves[1])) * 365 * DAY,
    )


def as_csv(
    logged: Logged, rows: slice, form: str = "%d/%m/%Y %H:%M", separator: str = ",", comma: bool = False
) -> bytes:
    """A part of the log as a building system exports it: time and seven columns, in kW, L/s, bar, Hz, A, °C, kWh."""
    import io

    import polars as pl

    times, flow, power = logged.times[rows], logged.flow[rows], logged.power[rows]
    hertz = 22.0 + flow * 1100
    interval = float(times[1] - times[0])
    frame = pl.DataFrame(
        {
            "Time": pl.Series(np.round(times * 1e6)).cast(pl.Int64).cast(pl.Datetime("us")).dt.strftime(form),
            "Pump power (kW)": np.round(power / 1000, 2),
            "Flow (L/s)": np.round(flow * 1000, 2),
            "Outlet pressure (bar)": np.round(4.2 - flow * 8 + 0.02 * np.sin(times / 311), 2),
            "Speed (Hz)": np.round(hertz, 1),
            "Current (A)": np.round(power / 600, 2),
            "Outside (°C)": np.round(11 + 9 * np.sin(times / DAY / 58.1) + 4 * np.sin(times / 13751), 1),
            "Energy counter (kWh)": np.round(np.cumsum(power) * interval / 3.6e6, 1),
        }
    )
    out = io.BytesIO()
    frame.write_csv(out, separator=separator, decimal_comma=comma)
    return out.getvalue()
