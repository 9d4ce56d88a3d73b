"""The saving told to the owner: what was saved, how sure that is, what it rests on, and what would make it surer.

Plain words, made from the figures; nothing in it is not in them.
"""

from dataclasses import dataclass

from mainspring.core.benches.savings import Savings
from mainspring.core.benches.spots import Spots
from mainspring.core.line import Line
from mainspring.core.measured.claimed import WAYS, Claim
from mainspring.core.quantity import DIMENSIONS, round_significant
from mainspring.core.sentence import in_percent
from mainspring.core.told import both

CHANCES = {0.68: "two chances in three", 0.80: "four chances in five", 0.90: "nine chances in ten", 0.95: "19 in 20"}
HELD = "\u00a0"  # a space at which no line breaks
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


def owner_words(line: Line, model: Savings | None, claim: Claim | None, spots: Spots | None) -> Owner | None:
    """The page by the surest that there is: logs, else spot readings, else the model; None where nothing is known."""
    if claim is not None and claim.holds and claim.saved > 0:
        return _by_logs(line, model, claim)
    if spots is not None and spots.saved > 0:
        return _by_spots(line, spots)
    return _by_model(line, model) if model is not None else None


def _energy(joules: float, digits: int = 2) -> str:
    """As many figures as can be believed."""
    return f"{_grouped(joules / 3.6e6, digits)}{HELD}kWh"


def _grouped(number: float, digits: int) -> str:
    text = round_significant(float(f"{number:.{digits}g}"), 12)
    whole, dot, part = text.partition(".")
    return f"{int(whole):,}".replace(",", HELD) + (dot + part if part and abs(number) < 10 else "")


def _money(line: Line, amount: float) -> str:
    currency = str(line.value("site.currency") or "").strip()
    return f"{_grouped(amount, 2)}{HELD}{currency}".strip()


def _machine(line: Line) -> str:
    return "fan" if "fan" in line.traits else "pump"


def _moved(line: Line) -> str:
    return "air" if "fan" in line.traits else "water"


def _headline(line: Line, fraction: float, joules: float, price: float | None, about: str) -> str:
    worth = f", worth about {_money(line, joules * price)}" if price is not None else ""
    return (
        f"{about} {_machine(line)} now takes {in_percent(fraction)} less electricity for the same {_moved(line)}:"
        f" about {_energy(joules)} a year{worth}."
    )


def _price(line: Line, model: Savings | None) -> float | None:
    if model is not None and model.worth.marginal is not None:
        return float(model.worth.marginal)
    value = line.value("site.energy_price")
    return None if value is None else float(value)


def _hours(seconds: float) -> str:
    return f"{_grouped(seconds / 3600, 4)} hours"


def _was(line: Line) -> str:
    kind = str(line.value("proof.before") or "throttle")
    return WAS[kind]["fan" in line.traits]


def _payback(line: Line, low: float, high: float) -> str:
    cost = line.value("duty.cost")
    if cost is None or low <= 0:
        return ""
    short, long = cost / high, cost / low
    if abs(long - short) < 0.15 * short:
        return f" What was spent, {_money(line, cost)}, comes back in about {short:.2g} years."
    return f" What was spent, {_money(line, cost)}, comes back in {short:.1f} to {long:.1f} years."


def _by_logs(line: Line, model: Savings | None, claim: Claim) -> Owner:
    price = _price(line, model)
    low, high = float(claim.saved - claim.half), float(claim.saved + claim.half)
    digits = 2 if claim.half > 0.05 * claim.saved else 3
    chances = CHANCES.get(round(claim.confidence, 2), f"{in_percent(claim.confidence)} sure")
    paid = _payback(line, low * price, high * price) if price is not None else ""
    agrees = ""
    if model is not None and claim.seconds_all:
        beforehand = modelled_over(model, claim)
        near = abs(beforehand - float(claim.saved)) <= float(claim.half)
        told = f" Calculated beforehand for the same hours were {_energy(beforehand, digits)}"
        agrees = f"{told}, within it." if near else f"{told}."
    return Owner(
        headline=_headline(line, float(claim.fraction), float(claim.saved), price, "Measured: the"),
        saved=(
            f"Before, the {_machine(line)} was {_was(line)}. Now its speed follows the need. Compared"
            f" {_words_of(claim)}, over {_hours(claim.seconds)} of the year.{paid}"
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


def modelled_over(model: Savings, claim: Claim) -> float:
    """What the model saves at the flows that are claimed [J]; of a year told by its log the same share of all."""
    covered = {p.at for p in claim.points if p.covered}
    mine = [float(level.saved) for level in model.levels if float(level.flow) in covered]
    if len(mine) == len(covered):
        return sum(mine)
    return float(model.saved) * claim.seconds / claim.seconds_all


def _words_of(claim: Claim) -> str:
    if claim.dimension in ("flow", "air_flow"):
        covered = [p.at for p in claim.points if p.covered]
        show = DIMENSIONS[claim.dimension].show
        spans = (f"between {show(min(covered), s, 2)} and {show(max(covered), s, 2)}" for s in ("si", "us"))
        return f"at the same flows, {both(*spans)}"
    return WAYS[claim.way]


def _plain_surer(claim: Claim) -> str:
    wanting = next((r.need for r in claim.refused if r.what not in ("everything", "the single hour")), "")
    most = max(claim.parts, key=lambda part: float(part.energy))
    return f"{wanting} The most would come of {MOST_FROM[most.id]}.".strip()


def _by_spots(line: Line, spots: Spots) -> Owner:
    price = _price(line, None)
    low, high = float(spots.saved - spots.half), float(spots.saved + spots.half)
    chances = CHANCES.get(round(spots.confidence, 2), f"{in_percent(spots.confidence)} sure")
    rest = spots.seconds_all - spots.seconds
    paid = _payback(line, low * price, high * price) if price is not None else ""
    left = (f"{_hours(rest)} a year at flows where nothing was read both times.",) if rest > 0 else ()
    return Owner(
        headline=_headline(line, float(spots.fraction), float(spots.saved), price, "By spot readings: the"),
        saved=f"Before, the {_machine(line)} was {_was(line)}. Power was read at single duties then and now.{paid}",
        sure=f"With {chances} the true figure lies between {_energy(low)} and {_energy(high)} a year.",
        rests=f"It rests on readings of single moments, and on {_hours(spots.seconds)} a year that nobody measured.",
        surer="A log of two weeks before and two weeks after would measure the hours as well.",
        not_counted=left,
        measured=True,
        fraction=float(spots.fraction),
    )


def _by_model(line: Line, model: Savings) -> Owner:
    money = None if model.worth.yearly is None else float(model.worth.yearly)
    price = money / float(model.saved) if money is not None and model.saved > 0 else None
    if model.saved <= 0:
        words = f"By calculation the {_machine(line)} takes {_energy(-float(model.saved))} a year more than before."
        headline = f"{words} A drive does not save here."
    else:
        headline = _headline(line, float(model.fraction), float(model.saved), price, "By calculation the")
    worth = model.worth
    paid = f" What was spent comes back in about {float(worth.payback):.2g} years." if worth.payback is not None else ""
    return Owner(
        headline=headline,
        saved=(
            f"Before, the {_machine(line)} was {_was(line)}. Now its speed follows the need: of what it takes,"
            f" {in_percent(float(model.chains[1].efficiency))} reaches the {_moved(line)}, where it was"
            f" {in_percent(float(model.chains[0].efficiency))}.{paid}"
        ),
        sure="This is calculated and not yet measured: take it as right within a fifth or so.",
        rests=(
            f"It rests on the maker's curve of the {_machine(line)}, and on {_hours(float(model.hours))} a year"
            " at the flows that were given."
        ),
        surer="A power meter read for two weeks before and after, with the flow, would measure it.",
        not_counted=tuple(
            f"{_hours(float(r.hours))} at {DIMENSIONS[r.flow.dimension or 'flow'].both(float(r.flow))}: {r.why}."
            for r in model.refused
        ),
        measured=False,
        fraction=float(model.fraction),
    )
