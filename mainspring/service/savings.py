"""The savings bench: both alternatives over the year, the money, what the answer hangs on, and spot readings."""

from pydantic import BaseModel

from mainspring.core.benches.headline import Headline, headline_of
from mainspring.core.benches.savings import Bar, Chain, Level, Modelled, Part, Savings, modelled_of, tornado_of
from mainspring.core.benches.savings.bill import Worth
from mainspring.core.benches.savings.tariffs import tariff_of
from mainspring.core.benches.spots import Spots, spots_of
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError
from mainspring.core.line import Line
from mainspring.core.line.proof import ALTERNATIVES
from mainspring.core.measured.claimed import Claim
from mainspring.core.method import Figure
from mainspring.service.keys import Key, Of
from mainspring.service.present import present
from mainspring.service.views import FigureView, Ledger

NO_SPOTS = ("proof.spots_before", "proof.spots_after", "proof.air_spots_before", "proof.air_spots_after")


class LevelView(BaseModel):
    """One flow level, both ways."""

    flow: FigureView
    hours: FigureView
    before: FigureView
    now: FigureView
    frequency: FigureView
    machines: int
    share: float
    motor_efficiency: FigureView
    drive_efficiency: FigureView
    saved: FigureView
    cube_saved: FigureView


class LeftView(BaseModel):
    """A level that no saving is claimed of."""

    flow: FigureView
    hours: FigureView
    why: str


class Share(BaseModel):
    """A named part of an energy [J]."""

    name: str
    energy: FigureView


class ChainView(BaseModel):
    """Where the energy goes."""

    id: str
    name: str
    taken: FigureView
    losses: list[Share]
    useful: FigureView
    throttled: FigureView
    efficiency: FigureView


class BandView(BaseModel):
    """A price, and when it holds."""

    name: str
    price: FigureView


class BarView(BaseModel):
    """One thing moved, and the answer at both ends."""

    id: str
    label: str
    low: float
    high: float
    saved: "Ends"
    money: "Ends"
    payback: "Ends"


class Ends(BaseModel):
    """An answer at both ends; None where there is none."""

    low: float | None
    high: float | None


class SpotLevelView(BaseModel):
    """A level by spot readings."""

    flow: FigureView
    hours: FigureView
    before: FigureView | None
    now: FigureView | None
    why: str


class SpotsView(BaseModel):
    """The saving by spot readings."""

    levels: list[SpotLevelView]
    figures: dict[str, FigureView]
    parts: list[Share]
    confidence: float
    seconds: float
    seconds_all: float
    instruments: str


class SavingsView(BaseModel):
    """The savings bench."""

    known: bool
    missing: list[str]
    told_by: str  # what the figure that is told rests on: logs, spots, model; empty where none is known
    modelled: float | None  # over the same hours, beside what was read
    alternative: str
    alternatives: dict[str, str]
    levels: list[LevelView]
    refused: list[LeftView]
    rest: float
    spread: bool
    figures: dict[str, FigureView]
    cube_gap: list[Share]
    chains: list[ChainView]
    bands: list[BandView]
    tariff: str  # what to know of its prices
    tornado: list[BarView]
    spots: SpotsView | None
    spots_missing: str


def savings_view(line: Line, derived: Derived, claim: Claim | None = None) -> tuple[SavingsView, Ledger]:
    """Both alternatives, and what follows; the figure that is told, and the money, by what was read if that carries it.

    `claim` is what the logs of the line carry.
    """
    ledger = Ledger()
    by_spots, spots, spots_missing = _spots(ledger, line)
    modelled: Modelled | None = None
    missing: list[str] = []
    try:
        modelled = modelled_of(derived)
    except MainspringError as gap:
        missing = [gap.tellings]
    found = None if modelled is None else modelled.savings
    missing += found.missing if found else ()
    told = headline_of(line, modelled, claim, by_spots)
    view = SavingsView(
        known=found is not None,
        missing=missing,
        told_by="" if told is None else told.by,
        modelled=None if told is None else told.modelled,
        alternative=found.alternative if found else str(line.value("proof.before") or "throttle"),
        alternatives=ALTERNATIVES,
        levels=[_level(ledger, i, level) for i, level in enumerate(found.levels)] if found else [],
        refused=_refused(ledger, found) if found else [],
        rest=found.rest if found else 0.0,
        spread=found.spread if found else False,
        figures=_figures(ledger, modelled, told),
        cube_gap=_shares(ledger, Of.SAVINGS / "cube_gap", found.cube_gap) if found else [],
        chains=[_chain(ledger, c) for c in found.chains] if found else [],
        bands=_bands(ledger, line),
        tariff=tariff_of(line).says,
        tornado=[_bar(b) for b in tornado_of(derived.known.line)] if found else [],
        spots=spots,
        spots_missing=spots_missing,
    )
    return view, ledger


def _figures(ledger: Ledger, modelled: Modelled | None, told: Headline | None) -> dict[str, FigureView]:
    named: dict[str, Figure | None] = {}
    if modelled is not None:
        found = modelled.savings
        before, now = found.chains
        named = {
            "before": found.before,
            "now": found.now,
            "saved": found.saved,
            "by_plate": modelled.by_plate,
            "fraction": found.fraction,
            "hours": found.hours,
            "cube_energy": found.cube_energy,
            "cube_saved": found.cube_saved,
            "demand_saved": found.demand_saved,
            "efficiency_before": before.efficiency,
            "efficiency_now": now.efficiency,
            "throttled": before.throttled,
        }
    if told is not None:
        named |= {
            "told": told.saved,
            "told_half": told.half,
            "told_fraction": told.fraction,
            "emission": told.emission,
            **_money(told.worth),
        }
    return {n: ledger.figure(Of.SAVINGS / n, f) for n, f in named.items() if f is not None}


def _money(worth: Worth) -> dict[str, Figure | None]:
    bills = {"bill_before": worth.before, "bill_now": worth.now}
    return {
        **{name: None if bill is None else bill.total for name, bill in bills.items()},
        "money": worth.yearly,
        "marginal": worth.marginal,
        "blended": worth.blended,
        "demand_money": worth.demand,
        "cost": worth.cost,
        "upkeep": worth.upkeep,
        "years": worth.years,
        "discount": worth.discount,
        "escalation": worth.escalation,
        "real": worth.real,
        "payback": worth.payback,
        "discounted": worth.discounted,
        "present_value": worth.present_value,
        "rate_of_return": worth.rate_of_return,
        "modified_return": worth.modified_return,
        "to_investment": worth.to_investment,
        "uniform": worth.uniform,
        "escalated": worth.escalated,
        "break_even": worth.break_even,
    }


def _level(ledger: Ledger, index: int, level: Level) -> LevelView:
    key = Of.SAVINGS / "level" / index

    def shown(name: str, figure: Figure) -> FigureView:
        return ledger.figure(key / name, figure)

    return LevelView(
        flow=shown("flow", level.flow),
        hours=shown("hours", level.hours),
        before=shown("before", level.before.input),
        now=shown("now", level.now.input),
        frequency=shown("frequency", level.now.frequency),
        machines=level.now.machines,
        share=float(level.now.share),
        motor_efficiency=shown("motor_efficiency", level.now.motor_efficiency),
        drive_efficiency=shown("drive_efficiency", level.now.drive_efficiency),
        saved=shown("saved", level.saved),
        cube_saved=shown("cube_saved", level.cube_saved),
    )


def _refused(ledger: Ledger, found: Savings) -> list[LeftView]:
    key = Of.SAVINGS / "refused"
    return [
        LeftView(
            flow=ledger.figure(key / i / "flow", r.flow), hours=ledger.figure(key / i / "hours", r.hours), why=r.why
        )
        for i, r in enumerate(found.refused)
    ]


def _shares(ledger: Ledger, key: Key, parts: tuple[Part, ...]) -> list[Share]:
    return [Share(name=p.name, energy=ledger.figure(key / i, p.energy)) for i, p in enumerate(parts)]


def _chain(ledger: Ledger, chain: Chain) -> ChainView:
    key = Of.SAVINGS / "chain" / chain.id
    return ledger.show(
        ChainView, chain, key, taken=ledger.figure(key, chain.taken), losses=_shares(ledger, key / "loss", chain.losses)
    )


def _bands(ledger: Ledger, line: Line) -> list[BandView]:
    try:
        bands = tariff_of(line).bands(line)
    except MainspringError:
        return []
    return [BandView(name=b.name, price=ledger.figure(Of.SAVINGS / "band" / i, b.price)) for i, b in enumerate(bands)]


def _bar(bar: Bar) -> BarView:
    def ends(pair: tuple[float | None, float | None]) -> Ends:
        return Ends(low=pair[0], high=pair[1])

    return present(None, BarView, bar, saved=ends(bar.saved), money=ends(bar.money), payback=ends(bar.payback))


def _spots(ledger: Ledger, line: Line) -> tuple[Spots | None, SpotsView | None, str]:
    """What spot readings carry, how it is shown, and what is missing."""
    if not line.has_any(*NO_SPOTS):
        return None, None, ""
    try:
        found = spots_of(line)
    except MainspringError as gap:
        return None, None, gap.tellings
    return found, _spots_view(ledger, found), ""


def _spots_view(ledger: Ledger, found: Spots) -> SpotsView:
    key = Of.SAVINGS / "spots"

    def shown(i: int, name: str, figure: Figure | None) -> FigureView | None:
        return None if figure is None else ledger.figure(key / i / name, figure)

    named = {"saved": found.saved, "fraction": found.fraction, "half": found.half, "share": found.share}
    return present(
        None,
        SpotsView,
        found,
        levels=[
            SpotLevelView(
                flow=ledger.figure(key / i / "flow", level.flow),
                hours=ledger.figure(key / i / "hours", level.hours),
                before=shown(i, "before", level.before),
                now=shown(i, "now", level.now),
                why=level.why,
            )
            for i, level in enumerate(found.levels)
        ],
        figures={n: ledger.figure(key / n, f) for n, f in named.items() if f is not None},
        parts=[Share(name=n, energy=ledger.figure(key / "part" / i, f)) for i, (n, f) in enumerate(found.parts)],
    )
