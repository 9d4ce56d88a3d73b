"""What two logs may not be taken to say, why, and what would carry it."""

import math
from collections.abc import Callable

import numpy as np

from mainspring.core.measured.claimed import NEAR_DAYS, NEAR_HOURS, WAYS, Accuracy, Claim, Point, Refused
from mainspring.core.measured.fit import LEAST_DAYS
from mainspring.core.measured.trend import DAY, HOUR
from mainspring.core.quantity import DIMENSIONS, WATER_20C, G
from mainspring.core.sentence import in_percent
from mainspring.core.uncertainty.propagate import coverage_factor, student_t

ONE_SIGMA = 0.68
MOST_UNCERTAIN = 0.5  # of the saving at that confidence: ASHRAE Guideline 14, from memory
NAMED = {
    "flow": "flows",
    "air_flow": "flows",
    "temperature": "temperatures",
    "pressure": "pressures",
    "frequency": "speeds",
}
MOST_SCATTER = 0.30  # CV(RMSE) of hourly data, the same


def refused_of(found: Claim) -> tuple[Refused, ...]:
    """What may not be claimed: by the rules, and where there are no readings."""
    by_rule = (rule(found) for rule in _RULES)
    return (*(r for r in by_rule if r is not None), *_uncovered(found))


def _few_days(found: Claim) -> Refused | None:
    for name, fit in (("before", found.before), ("after", found.after)):
        if fit.days < LEAST_DAYS:
            more = LEAST_DAYS - fit.days
            why = f"{fit.days} days {name} the change: less than a week does not show how days differ"
            return Refused("everything", why, f"{more} more days {name} the change would carry a first figure.")
    return None


def _nothing_covered(found: Claim) -> Refused | None:
    if found.seconds > 0:
        return None
    return Refused(
        "everything",
        f"before and after have no readings {WAYS[found.way]}",
        "Log until both periods have seen the same, or compare by something else.",
    )


def _too_uncertain(found: Claim) -> Refused | None:
    if not found.seconds:
        return None
    if found.saved <= 0:
        swapped = "What is called before was read later than what is called after: are the two swapped?"
        why = "after the change it takes as much as before or more"
        return Refused("everything", why, swapped if found.later_first else "Look for why first.")
    scatter, *others = (float(p.energy) for p in found.parts)
    factor = float(coverage_factor(ONE_SIGMA))
    share = factor * math.hypot(scatter, *others) / found.saved
    if share <= MOST_UNCERTAIN:
        return None
    meters = factor * math.hypot(*others) / found.saved
    most = in_percent(MOST_UNCERTAIN)
    why = f"the saving is uncertain by {in_percent(share)} at 68 % confidence; the guideline stops at {most}"
    if meters >= MOST_UNCERTAIN:
        return Refused("everything", why, "More days would not carry it: meters and hours alone are too coarse.")
    have = min(found.before.days, found.after.days)
    need = have * (factor * scatter / found.saved) ** 2 / (MOST_UNCERTAIN**2 - meters**2)
    return Refused("everything", why, f"About {math.ceil(need - have)} more days of each would carry it.")


def _scattered(found: Claim) -> Refused | None:
    for name, fit in (("before", found.before), ("after", found.after)):
        if fit.variation > MOST_SCATTER:
            much, most = in_percent(fit.variation), in_percent(MOST_SCATTER)
            why = f"the readings {name} scatter by {much} about their curve, more than {most}"
            return Refused(
                "the single hour", why, "Something else moves the power: compare by what it goes with, or log it too."
            )
    return None


def _wrong_way(found: Claim) -> Refused | None:
    if found.way not in ("flow", "air_flow", "frequency"):
        return None
    fit = found.after
    if fit.slope * (fit.high - fit.low) >= -0.1 * fit.mean:
        return None
    return Refused(
        "the curve after",
        "power falls while the flow rises: no pump or fan with a drive does that",
        "Check which column is which, and the flow meter.",
    )


MOST_OVER = 1.15  # of what the motor takes at its rated power: meters, and a moment above it
SHORT_OF_LIFT = 1.1  # of the power in the water lifted: no pump, motor and drive together do better than 0.9


def _beyond_plate(found: Claim) -> Refused | None:
    most = found.plate.most
    show = DIMENSIONS["input_power"].tellings
    for name, highest in (("before", found.highest[0]), ("after", found.highest[1])):
        if most is not None and highest > MOST_OVER * most:
            why = f"up to {show(highest)} were read {name} the change, and the motor takes {show(most)} at most"
            return Refused("everything", why, "Is it another unit, W or kW, or do other machines hang on that meter?")
    return None


def _below_lift(found: Claim) -> Refused | None:
    rise, show = found.plate.rise, DIMENSIONS["input_power"].tellings
    if found.way not in ("flow", "air_flow") or rise <= 0 or found.dimension is None:
        return None
    for name, powers in (("before", [p.before for p in found.points]), ("after", [p.after for p in found.points])):
        pairs = [(p.at, power) for p, power in zip(found.points, powers, strict=True) if p.covered and p.at > 0]
        short = [(at, power) for at, power in pairs if power < SHORT_OF_LIFT * rise * at]
        if len(short) > len(pairs) / 2:
            at, power = short[-1]
            flow = DIMENSIONS[found.dimension].tellings(at)
            why = f"{show(power)} were read {name} the change at {flow}, and lifting that alone needs {show(rise * at)}"
            return Refused(
                "everything",
                why,
                "Does the meter see all phases, and the transformers' ratio; is it kW, not W?",
            )
    return None


def _more_than_all(found: Claim) -> Refused | None:
    if not found.seconds or found.taken_before <= 0 or found.saved <= found.taken_before:
        return None
    energy = DIMENSIONS["energy"].tellings
    why = f"{energy(float(found.saved))} saved of {energy(float(found.taken_before))} that were taken"
    return Refused("everything", why, "A power below nought, or a clamp the wrong way round: look at the meter.")


def _service_unknown(found: Claim) -> Refused | None:
    if found.way not in ("schedule", "hours") or found.service.strip():
        return None
    return Refused(
        "everything",
        "nothing says that as much was asked of it in both periods: less power may be less service",
        "Log flow, pressure or speed as well, or say in the record what shows that the service was the same.",
    )


def _half_a_day(found: Claim) -> Refused | None:
    """A log of nights only, or of days only, does not speak for the other half."""
    if found.way != "hours":
        return None
    for name, fit in (("before", found.before), ("after", found.after)):
        if fit.hours < MOST_OF_A_DAY * 24 * fit.days:
            why = f"only {fit.hours / max(fit.days, 1):.0f} hours of a day were read {name} the change"
            return Refused("everything", why, "Log whole days, or compare at the same hours of the week.")
    return None


MOST_OF_A_DAY = 0.75


def _shared(found: Claim) -> Refused | None:
    if found.shared == 0:
        return None
    return Refused(
        "everything",
        f"{found.shared} hours count as before the change and as after it",
        "Put one of the logs aside, or say of which side it is.",
    )


MOST_BY_CURVE = 1.5  # of what all machines take at full speed at that flow: worn wheels, rough curves and meters


def _beyond_curve(found: Claim) -> Refused | None:
    """More at a flow than the machines can take there, be it at full speed: others hang on that meter, or ran too."""
    if found.way not in ("flow", "air_flow") or len(found.plate.curve) < 2 or found.dimension is None:
        return None
    at, power = zip(*found.plate.curve, strict=True)
    for name, powers in (("before", [p.before for p in found.points]), ("after", [p.after for p in found.points])):
        pairs = [(p.at, read) for p, read in zip(found.points, powers, strict=True) if p.covered and p.at <= at[-1]]
        over = [(x, read) for x, read in pairs if read > MOST_BY_CURVE * float(np.interp(x, at, power))]
        if pairs and len(over) > len(pairs) / 2:
            x, read = over[-1]
            show, flow = DIMENSIONS["input_power"].tellings, DIMENSIONS[found.dimension].tellings(x)
            why = f"{show(read)} were read {name} the change at {flow}, and by its curve it takes at full speed"
            return Refused(
                "everything",
                f"{why} {show(float(np.interp(x, at, power)))}",
                "Do other machines hang on that meter, or did more of them run? Give their number and the curve of"
                " what stood there, or log this one alone.",
            )
    return None


MOST_MOVED = 0.1  # of the saving, that another level may account for


def _level_moved(found: Claim) -> Refused | None:
    if found.moved is None or found.way != "flow" or found.saved <= 0:
        return None
    lift = abs(found.moved) * WATER_20C * G
    by_level = sum(p.seconds * p.at * lift for p in found.points if p.covered)
    if by_level <= MOST_MOVED * found.saved:
        return None
    higher = "higher" if found.moved > 0 else "lower"
    energy = DIMENSIONS["energy"].tellings
    why = (
        f"the level stood {DIMENSIONS['head'].tellings(abs(found.moved))} {higher} after the change at the same flows,"
        f" which alone is at least {energy(by_level)} of {energy(float(found.saved))}"
    )
    return Refused("everything", why, "Log until both periods have seen the same level.")


_RULES: tuple[Callable[[Claim], Refused | None], ...] = (
    _beyond_plate,
    _below_lift,
    _more_than_all,
    _service_unknown,
    _half_a_day,
    _shared,
    _beyond_curve,
    _level_moved,
    _few_days,
    _nothing_covered,
    _too_uncertain,
    _scattered,
    _wrong_way,
)


def _uncovered(found: Claim) -> list[Refused]:
    """Neighbouring values without readings, told together: the hours, and how many more days would carry them."""
    groups: list[list[Point]] = []
    for i, point in enumerate(found.points):
        if point.covered or point.seconds <= 0:
            continue
        last = groups[-1][-1] if groups else None
        if last is not None and last is found.points[i - 1] and last.why == point.why:
            groups[-1].append(point)
        else:
            groups.append([point])
    return [_uncovered_told(found, group) for group in groups]


def _uncovered_told(found: Claim, group: list[Point]) -> Refused:
    seconds = sum(p.seconds for p in group)
    hours = DIMENSIONS["hours"].tellings(seconds)
    share = seconds / found.seconds_all
    days = max(NEAR_DAYS, math.ceil(NEAR_HOURS * len(group) * HOUR / max(share * DAY, 1.0)))
    if found.dimension is None:
        why = f"{hours} a year fall there; {group[0].why}"
        return Refused("some hours of the week", why, "One more week would do.")
    show = DIMENSIONS[found.dimension].tellings
    low, high = group[0].at, group[-1].at
    if group[-1] is found.points[-1]:
        what = f"above {show(_edge(found, group[0], -1))}"
    elif group[0] is found.points[0]:
        what = f"below {show(_edge(found, group[-1], 1))}"
    else:
        what = f"about {show(low)}" if low == high else f"from {show(low)} to {show(high)}"
    named = NAMED.get(found.way, "what they are compared at")
    need = f"About {days} more days with {named} {what} would carry it."
    return Refused(what, f"{hours} a year run there; {group[0].why}", need)


def _edge(found: Claim, point: Point, side: int) -> float:
    """Half way from a value to its neighbour."""
    at = found.points.index(point) + side
    return (point.at + found.points[at].at) / 2 if 0 <= at < len(found.points) else point.at


def sharpen_of(found: Claim, accuracies: tuple[Accuracy, Accuracy], freedom: float) -> str:
    """What would narrow the interval most."""
    if not found.seconds:
        return ""
    factor = float(coverage_factor(found.confidence))
    shares = {
        "scatter": float(student_t(found.confidence, freedom)) * found.parts[0].energy,
        "power": factor * found.parts[1].energy,
        "flow": factor * found.parts[2].energy,
        "hours": factor * found.parts[3].energy,
    }
    whole = math.sqrt(sum(v * v for v in shares.values()))
    if whole == 0:
        return ""
    most = max(shares, key=lambda k: shares[k])
    left = DIMENSIONS["energy"].tellings(math.sqrt(max(0.0, whole**2 - 0.75 * shares[most] ** 2)))
    now = DIMENSIONS["energy"].tellings(whole)
    if most == "scatter":
        more = f"Days: four times as many would take the interval from ±{now} to ±{left}."
        return f"{more} A better meter would do little."
    if most == "hours":
        more = (
            f"The hours at each flow, which were entered: half as uncertain takes the interval from ±{now} to ±{left}."
        )
        return f"{more} A log over the seasons would measure them."
    limit = max(getattr(a, most) for a in accuracies)
    return (
        f"The {most} meter: from {in_percent(limit, 1)} to {in_percent(limit / 2, 1)} takes the interval from ±{now}"
        f" to ±{left}."
        " More days would change it little."
    )
