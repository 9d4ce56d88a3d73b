"""How often the true saving of a made-up year lies within the interval that is stated for it.

Each year has other weather, other days, other errors of its meters within what they promise; half of it before the
drive, half after. A second figure is of two months only, which stand for those days and no others. The same years are
then written as files that are badly made, recognised, read and compared: what is claimed of those is held against the
truth too, and what is asked or refused is counted. A claim beside the truth is the fault that matters.
"""

import io
from collections.abc import Callable

import numpy as np
from numpy.typing import NDArray

from mainspring.core.errors import MainspringError
from mainspring.core.measured.claimed import Accuracy, Claim, Plate
from mainspring.core.measured.saving import claim
from mainspring.core.measured.side import side_of
from mainspring.core.measured.trend import means_of, trend_of
from mainspring.exchange.log import look_at, read_log
from mainspring.standins.meter import Logged, Meters, Works, measured_year

METERS = Meters()
PROMISED = Accuracy(METERS.power_limit, METERS.flow_limit)
STANDBY, NIGHT = 120.0, 6 * 3600.0  # W that the drive takes at rest; seconds of every night at rest
GROSS = 2.0  # intervals from the truth, beyond which a claim is plainly false
Numbers = NDArray[np.float64]
Table = tuple[str, Numbers, Numbers, Numbers]  # headings, times, flow, power


def claim_of_year(seed: int, confidence: float, **year: float) -> tuple[Claim, float]:
    """What is claimed of a made-up year by its flows, and what the share of it that is claimed truly saved [J]."""
    logged = measured_year(seed, interval=600.0, **year)  # type: ignore[arg-type]
    sides = [
        means_of(
            trend_of(logged.times[rows], {"power": logged.power[rows], "flow": logged.flow[rows]}), ("power", "flow")
        )
        for rows in (slice(None, logged.change), slice(logged.change, None))
    ]
    found = claim(sides[0], sides[1], "flow", None, (PROMISED, PROMISED), same_meters=True, confidence=confidence)
    return found, logged.true_saving * found.seconds / found.seconds_all


def as_it_is(times: Numbers, flow: Numbers, power: Numbers, _: bool) -> Table:
    """A file as it should be."""
    return "Time,Power (kW),Flow (L/s)", times, flow, power


def on_change(times: Numbers, flow: Numbers, power: Numbers, _: bool) -> Table:
    """Rows only where the power has moved by a twentieth: many while it works, few while it stands."""
    keep, last = [0], power[0]
    for i in range(1, len(power)):
        if abs(power[i] - last) > 0.05 * last or times[i] - times[keep[-1]] >= 3 * 3600:
            keep.append(i)
            last = power[i]
    return "Time,Power (kW),Flow (L/s)", times[keep], flow[keep], power[keep]


def newest_first(times: Numbers, flow: Numbers, power: Numbers, _: bool) -> Table:
    """The last row at the top."""
    return "Time,Power (kW),Flow (L/s)", times[::-1], flow[::-1], power[::-1]


def no_units(times: Numbers, flow: Numbers, power: Numbers, _: bool) -> Table:
    """No unit in any heading."""
    return "Time,Power,Flow", times, flow, power


def one_phase(times: Numbers, flow: Numbers, power: Numbers, after: bool) -> Table:
    """After the change a single phase of three was logged."""
    return "Time,Power (kW),Flow (L/s)", times, flow, power / 3 if after else power


def watts_as_kilowatts(times: Numbers, flow: Numbers, power: Numbers, after: bool) -> Table:
    """Before the change W stands under a heading of kW."""
    return "Time,Power (kW),Flow (L/s)", times, flow, power if after else power * 1000


def two_machines(times: Numbers, flow: Numbers, power: Numbers, after: bool) -> Table:
    """Before the change another machine hung on the meter."""
    return "Time,Power (kW),Flow (L/s)", times, flow, power if after else power * 2


def standby(times: Numbers, flow: Numbers, power: Numbers, after: bool) -> Table:
    """At rest for a part of every night, and the drive under power then."""
    night = at_night(times)
    waits = np.where(night, STANDBY if after else 0.0, power)
    return "Time,Power (kW),Flow (L/s)", times, np.where(night, 0.0, flow), waits


BADLY: dict[str, Callable[[Numbers, Numbers, Numbers, bool], Table]] = {
    f.__name__: f
    for f in (as_it_is, on_change, newest_first, no_units, one_phase, watts_as_kilowatts, two_machines, standby)
}


def at_night(times: Numbers) -> NDArray[np.bool_]:
    """Whether it rests."""
    return np.asarray(times % 86400.0 < NIGHT)


def truth(logged: Logged, badly: str) -> float:
    """What the drive truly saves in the year [J]."""
    if badly != "standby":
        return logged.true_saving
    before, after = (np.polyval(c[::-1], logged.true_flow) for c in (Works().before, Works().after))
    return float(np.mean(np.where(at_night(logged.times), -STANDBY, before - after))) * 365 * 86400


def _text(table: Table) -> bytes:
    import polars as pl

    heads, times, flow, power = table
    moments = pl.Series(np.round(times * 1e6)).cast(pl.Int64).cast(pl.Datetime("us")).dt.strftime("%Y-%m-%d %H:%M")
    names = heads.split(",")
    frame = pl.DataFrame({names[0]: moments, names[1]: np.round(power / 1e3, 3), names[2]: np.round(flow * 1e3, 2)})
    out = io.BytesIO()
    frame.write_csv(out)
    return out.getvalue()


def plate_of(works: Works) -> Plate:
    """What the plate and the curve of the made-up pump say: 12 m of lift, and its power at full speed."""
    curve = tuple((q, float(np.polyval(works.before[::-1], q))) for q in np.linspace(0.002, 0.03, 8))
    return Plate(most=14e3, rise=9789.0 * 12.0, curve=curve)


def judged(logged: Logged, badly: str, confidence: float) -> str:
    """What comes of a year in badly made files: inside, outside, asked before it is read, or refused."""
    sides = []
    for after, rows in ((False, slice(None, logged.change)), (True, slice(logged.change, None))):
        content = _text(BADLY[badly](logged.times[rows], logged.flow[rows], logged.power[rows], after))
        seen = look_at(content)
        if any(not c.unit for c in seen.layout.read) or any("unit" in d for d in seen.doubts):
            return "asked"
        sides.append(side_of([(badly, read_log(content, seen.layout))], ("power", "flow")).means)
    try:
        found = claim(
            *sides, "flow", None, (PROMISED, PROMISED),
            same_meters=True, confidence=confidence, plate=plate_of(Works()),
        )  # fmt: skip
    except MainspringError:
        return "refused"
    if not found.holds:
        return "refused"
    off = abs(found.saved - truth(logged, badly) * found.seconds / found.seconds_all)
    return "inside" if off <= found.half else "outside" if off <= GROSS * found.half else "false"


def measure(years: float = 100, confidence: float = 0.95, badly: float = 10) -> dict[str, float]:
    """Share of the years whose true saving lies in the stated interval; how wide it is; how far off the middle is.

    `badly` is how many years are written as each kind of badly made file.
    """
    inside, widths, misses = 0, 0.0, 0.0
    for seed in range(int(years)):
        found, true = claim_of_year(seed, confidence)
        inside += abs(found.saved - true) <= found.half
        widths += found.half / found.saved
        misses += (found.saved - true) / true
    told = {
        "years": years,
        "confidence": confidence,
        "covered": inside / years,
        "half_width": widths / years,
        "mean_error": misses / years,
    }
    for name in BADLY:
        came = [judged(measured_year(seed, interval=600.0), name, confidence) for seed in range(int(badly))]
        told |= {f"{name}.{word}": came.count(word) for word in sorted(set(came))}
    return told
