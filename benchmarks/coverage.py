"""How often the true saving of a made-up year lies within the interval that is stated for it.

Each year has other weather, other days, other errors of its meters within what they promise; half of it before the
drive, half after. A second figure is of two months only, which stand for those days and no others.
"""

from mainspring.core.measured.claimed import Accuracy, Claim
from mainspring.core.measured.saving import claim
from mainspring.core.measured.trend import means_of, trend_of
from mainspring.standins.meter import Meters, measured_year

METERS = Meters()
PROMISED = Accuracy(METERS.power_limit, METERS.flow_limit)


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


def measure(years: float = 100, confidence: float = 0.95) -> dict[str, float]:
    """Share of the years whose true saving lies in the stated interval; how wide it is; how far off the middle is."""
    inside, widths, misses = 0, 0.0, 0.0
    for seed in range(int(years)):
        found, true = claim_of_year(seed, confidence)
        inside += abs(found.saved - true) <= found.half
        widths += found.half / found.saved
        misses += (found.saved - true) / true
    return {
        "years": years,
        "confidence": confidence,
        "covered": inside / years,
        "half_width": widths / years,
        "mean_error": misses / years,
    }
