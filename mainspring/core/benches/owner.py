"""The saving told to the owner: what was saved, how sure that is, what it rests on, and what would make it surer.

Plain words, made from the figures; nothing in it is not in them.
"""

from dataclasses import dataclass

from mainspring.core.benches.headline import Headline, headline_of, money_ends
from mainspring.core.benches.savings import Modelled, Savings
from mainspring.core.benches.spots import Spots
from mainspring.core.line import Line
from mainspring.core.measured.claimed import WAYS, Claim
from mainspring.core.quantity import DIMENSIONS, round_significant
from mainspring.core.sentence import in_percent
from mainspring.core.systems import SYSTEMS
from mainspring.core.told import tellings

CHANCES = {0.68: "two chances in three", 0.80: "four chances in five", 0.90: "nine chances in ten", 0.95: "19 in 20"}
NBSP = "\u00a0"  # a space at which no line breaks
MOST_FROM = {
    "scatter": "more days of readings",
    "power": "a better power meter",
    "flow": "a better flow meter",
    "hours": "measuring over the seasons how long each flow is asked for",
}
WAS = {
    "throttle": ("throttled by a valve", "throttled by a damper"),
    "vanes": ("throttled by inlet vanes", "throttled by inlet vanes"),
    "bypass": ("run at full flow, what was too much led back", "run at full flow, what was too much led back"),
    "on_off": ("switched on and off", "switched on and off"),
    "nothing": ("run at full flow all the time", "run at full flow all the time"),
}


@dataclass(frozen=True)
class Owner:
    """One page: the sentence that matters, then a paragraph each."""

    headline: str
    saved: str
    sure: str
    rests: str
    surer: str
    not_counted: tuple[str, ...]
    measured: bool
    fraction: float  # saved of what was taken before


def owner_words(line: Line, model: Modelled | None, claim: Claim | None, spots: Spots | None) -> Owner | None:
    """The page by the surest that there is: logs, else spot readings, else the model; None where nothing is known."""
    told = headline_of(line, model, claim, spots)
    if told is None:
        return None
    if told.by == "logs" and claim is not None:
        return _by_logs(line, told, claim)
    if told.by == "spots" and spots is not None:
        return _by_spots(line, told, spots)
    return _by_model(line, told, model.savings) if model is not None else None


def _energy(joules: float, digits: int = 2) -> str:
    """As many figures as can be believed."""
    return f"{_grouped(joules / 3.6e6, digits)}{NBSP}kWh"


def _grouped(number: float, digits: int) -> str:
    text = round_significant(float(f"{number:.{digits}g}"), 12)
    whole, dot, part = text.partition(".")
    return f"{int(whole):,}".replace(",", NBSP) + (dot + part if part and abs(number) < 10 else "")


def _money(line: Line, amount: float) -> str:
    currency = str(line.value("site.currency") or "").strip()
    return f"{_grouped(amount, 2)}{NBSP}{currency}".strip()


def _machine(line: Line) -> str:
    return "fan" if "fan" in line.traits else "pump"


def _moved(line: Line) -> str:
    return "air" if "fan" in line.traits else "water"


def _headline(line: Line, told: Headline, about: str) -> str:
    worth = f", worth about {_money(line, float(told.worth.yearly))}" if told.worth.yearly is not None else ""
    return (
        f"{about} {_machine(line)} now takes {in_percent(float(told.fraction))} less electricity for the same"
        f" {_moved(line)}: about {_energy(float(told.saved))} a year{worth}."
    )


def _hours(seconds: float) -> str:
    return f"{_grouped(seconds / 3600, 4)} hours"


def _was(line: Line) -> str:
    kind = str(line.value("proof.before") or "throttle")
    return WAS[kind]["fan" in line.traits]


def _payback(line: Line, told: Headline) -> str:
    """In how many years what was spent comes back, at both ends of the interval."""
    worth = told.worth
    ends = money_ends(told)
    if worth.cost is None or ends is None or ends[0] <= 0:
        return ""
    cost = float(worth.cost)
    long, short = (cost / float(end) for end in ends)
    if abs(long - short) < 0.15 * short and worth.payback is not None:
        return f" What was spent, {_money(line, cost)}, comes back in about {float(worth.payback):.2g} years."
    return f" What was spent, {_money(line, cost)}, comes back in {short:.1f} to {long:.1f} years."


def _by_logs(line: Line, told: Headline, claim: Claim) -> Owner:
    low, high = float(claim.saved - claim.half), float(claim.saved + claim.half)
    digits = 2 if claim.half > 0.05 * claim.saved else 3
    chances = CHANCES.get(round(claim.confidence, 2), f"{in_percent(claim.confidence)} sure")
    agrees = ""
    if told.modelled is not None:
        near = abs(told.modelled - float(claim.saved)) <= float(claim.half)
        words = f" Calculated beforehand for the same hours were {_energy(told.modelled, digits)}"
        agrees = f"{words}, within it." if near else f"{words}."
    return Owner(
        headline=_headline(line, told, "Measured: the"),
        saved=(
            f"Before, the {_machine(line)} was {_was(line)}. Now its speed follows the need. Compared"
            f" {_words_of(claim)}, over {_hours(claim.seconds)} of the year.{_payback(line, told)}"
        ),
        sure=(
            f"With {chances} the true figure lies between {_energy(low, digits)} and {_energy(high, digits)} a year."
            f"{agrees}"
        ),
        rests=(
            f"It rests on {claim.before.worth_days} days of readings before the change and"
            f" {claim.after.worth_days} days since; on {claim.year}; and on meters as good as their makers promise."
        ),
        surer=_plain_surer(claim),
        not_counted=tuple(f"{r.what[:1].upper()}{r.what[1:]}: {r.why}." for r in claim.refused),
        measured=True,
        fraction=float(claim.fraction),
    )


def _words_of(claim: Claim) -> str:
    if claim.dimension in ("flow", "air_flow"):
        covered = [p.at for p in claim.points if p.covered]
        show = DIMENSIONS[claim.dimension].show
        spans = (f"between {show(min(covered), s, 2)} and {show(max(covered), s, 2)}" for s in SYSTEMS)
        return f"at the same flows, {tellings(*spans)}"
    return WAYS[claim.way]


def _plain_surer(claim: Claim) -> str:
    wanting = next((r.need for r in claim.refused if r.what not in ("everything", "the single hour")), "")
    most = max(claim.parts, key=lambda part: float(part.energy))
    return f"{wanting} The most would come of {MOST_FROM[most.id]}.".strip()


def _by_spots(line: Line, told: Headline, spots: Spots) -> Owner:
    low, high = float(spots.saved - spots.half), float(spots.saved + spots.half)
    chances = CHANCES.get(round(spots.confidence, 2), f"{in_percent(spots.confidence)} sure")
    rest = spots.seconds_all - spots.seconds
    left = (f"{_hours(rest)} a year at flows where nothing was read both times.",) if rest > 0 else ()
    return Owner(
        headline=_headline(line, told, "By spot readings: the"),
        saved=(
            f"Before, the {_machine(line)} was {_was(line)}. Power was read at single duties then and"
            f" now.{_payback(line, told)}"
        ),
        sure=f"With {chances} the true figure lies between {_energy(low)} and {_energy(high)} a year.",
        rests=f"It rests on readings of single moments, and on {_hours(spots.seconds)} a year that nobody measured.",
        surer="A log of two weeks before and two weeks after would measure the hours as well.",
        not_counted=left,
        measured=True,
        fraction=float(spots.fraction),
    )


def _calculated(told: Headline) -> str:
    if told.half is None:
        return "This is calculated and not yet measured: take it as right within a fifth or so."
    low, high = (float(told.saved) + side * float(told.half) for side in (-1, 1))
    return (
        "This is calculated from what was read on site, and not yet measured: with"
        f" {CHANCES[0.95]} the true figure lies between {_energy(max(low, 0.0), 2)} and {_energy(high, 2)} a year,"
        " if the hours are as given."
    )


def _by_model(line: Line, told: Headline, model: Savings) -> Owner:
    if model.saved <= 0:
        words = f"By calculation the {_machine(line)} takes {_energy(-float(model.saved))} a year more than before."
        headline = f"{words} A drive does not save here."
    else:
        headline = _headline(line, told, "By calculation the")
    worth = model.worth
    paid = f" What was spent comes back in about {float(worth.payback):.2g} years." if worth.payback is not None else ""
    return Owner(
        headline=headline,
        saved=(
            f"Before, the {_machine(line)} was {_was(line)}. Now its speed follows the need: of what it takes,"
            f" {in_percent(float(model.chains[1].efficiency))} reaches the {_moved(line)}, where it was"
            f" {in_percent(float(model.chains[0].efficiency))}.{paid}"
        ),
        sure=_calculated(told),
        rests=(
            f"It rests on the maker's curve of the {_machine(line)}"
            f"{'' if told.half is None else ', set right by what was read on site'},"
            f" and on {_hours(float(model.hours))} a year at the flows that were given."
        ),
        surer="A power meter read for two weeks before and after, with the flow, would measure it.",
        not_counted=tuple(
            f"{_hours(float(r.hours))} at {DIMENSIONS[r.flow.dimension or 'flow'].tellings(float(r.flow))}: {r.why}."
            for r in model.refused
        ),
        measured=False,
        fraction=float(model.fraction),
    )
