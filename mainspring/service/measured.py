"""The measured saving of a line: its logs compared, what they carry, what they may not say, and the claim kept."""

import contextlib
from dataclasses import dataclass, field
from functools import lru_cache
from typing import Any

import numpy as np
from pydantic import BaseModel

from mainspring.core.benches.headline import Headline, headline_of, money_ends
from mainspring.core.benches.plate import plate_of
from mainspring.core.benches.spots import FLOW_METER, HOURS, METER
from mainspring.core.errors import BadEntry, MainspringError
from mainspring.core.line import Line
from mainspring.core.measured.claimed import WAYS, Accuracy, Claim, Plate, YearOf
from mainspring.core.measured.fit import Fit
from mainspring.core.measured.saving import claim
from mainspring.core.measured.side import Side, moved, side_of, ways_in
from mainspring.core.measured.trend import Means
from mainspring.core.method import Figure
from mainspring.core.money.payback import simple_payback, yearly_money
from mainspring.core.money.tariff import blended_price
from mainspring.core.procedure import Evidence
from mainspring.core.progress import MEASURED
from mainspring.core.uncertainty.propagate import student_t
from mainspring.service.commands import carry_out
from mainspring.service.keys import Of, read_key
from mainspring.service.lines import check_who, working_for
from mainspring.service.logs import SIDES, Logs, LogView, log_view
from mainspring.service.opened import Opened, OpenLines
from mainspring.service.present import present
from mainspring.service.views import FigureView, Ledger
from mainspring.service.working import WorkingView
from mainspring.store import repository
from mainspring.store.repository import Change, KeptTrend

CONFIDENCE = "90"
CLOUD, GRID = 500, 48  # points of a picture
FIT_WORDS = {
    "straight": "a straight line",
    "square": "a parabola",
    "cubic": "a cubic",
    "bent": "two straight lines",
    "schedule": "means by the hour of the week",
    "mean": "one mean",
}


class SideView(BaseModel):
    """A curve through one period's readings, with where its mean may lie."""

    kind: str
    hours: int
    days: int
    variation: float
    bias: float
    lag: float
    cloud: list[list[float]]  # at, power
    curve: list[list[float]]  # at, power, half the interval of the mean


class BinView(BaseModel):
    """One value of what the periods are compared at."""

    at: float
    seconds: float
    before: float
    after: float
    covered: bool
    why: str


class RefusedView(BaseModel):
    """What may not be claimed."""

    what: str
    why: str
    need: str


class PartView(BaseModel):
    """A part of the uncertainty."""

    id: str
    energy: FigureView


class ClaimView(BaseModel):
    """What the logs say of a year."""

    way: str
    words: str
    dimension: str | None
    year: str
    confidence: float
    holds: bool
    figures: dict[str, FigureView]
    seconds: float
    seconds_all: float
    low: float | None  # of the range that is claimed
    high: float | None
    fits: list[SideView]
    points: list[BinView]
    rest: BinView | None  # the hours at rest
    parts: list[PartView]
    refused: list[RefusedView]
    sharpen: str


class KeptClaim(BaseModel):
    """A claim that somebody stood up for."""

    by: str
    at: str
    saved: float
    half: float
    confidence: float
    same: bool  # as what the logs say now


class MeasuredView(BaseModel):
    """The measured saving of a line."""

    logs: list[LogView]
    ways: dict[str, str]
    way: str
    same_meters: bool
    claim: ClaimView | None
    missing: str
    told: list[str]  # what joining the logs of each period showed
    modelled: float | None  # over the same hours
    agrees: bool | None  # the modelled saving lies within the measured interval
    kept: KeptClaim | None


@dataclass(frozen=True)
class Asked:
    """How the logs of a line are to be compared, from its record; hashable, so that what was found is held."""

    before: tuple[str, ...]
    after: tuple[str, ...]
    way: str
    year: tuple[tuple[float, float], ...]
    hours_within: float
    accuracies: tuple[Accuracy, Accuracy]
    same_meters: bool
    confidence: float
    leave_out: bool
    plate: Plate
    service: str
    logs: tuple[KeptTrend, ...] = field(compare=False)  # what the ids stand for


@dataclass(frozen=True)
class Compared:
    """A claim, with the readings that it was made from, and what joining the logs of each period showed."""

    claim: Claim
    before: Means
    after: Means
    told: tuple[str, ...] = ()


class Measured:
    """What is done with what was measured."""

    def __init__(self, lines: OpenLines, logs: Logs) -> None:
        self.lines, self.logs = lines, logs
        self._compared = lru_cache(32)(self._compare)

    def view(self, line_id: str) -> tuple[MeasuredView, Ledger]:
        """What the logs of a line carry."""
        opened, kept = self.lines.open(line_id), self.logs.kept(line_id)
        ledger = Ledger()
        counted = [t for t in kept if not t.aside]
        ways = ways_of(counted)
        way = way_of(opened.line, ways)
        found, missing = self._found(opened, counted)
        made = None if found is None else found.claim
        view = MeasuredView(
            logs=[log_view(t) for t in kept],
            ways={w: WAYS[w] for w in ways},
            way=way,
            same_meters=opened.line.value("proof.same_meters") != "no",
            claim=None if found is None else _claim_view(found, ledger),
            missing=missing,
            told=[] if found is None else list(found.told),
            modelled=None,
            agrees=None,
            kept=_kept_claim(opened, made),
        )
        if made is not None and made.holds and made.saved > 0:
            self._told(opened, made, view, ledger)
        return view, ledger

    def _told(self, opened: Opened, made: Claim, view: MeasuredView, ledger: Ledger) -> None:
        """The model beside the claim, and what the claim is worth: the same figures as on every other page."""
        told = headline_of(opened.line, opened.judged.modelled, made)
        if told is None or view.claim is None:
            return
        if told.modelled is not None:
            view.modelled, view.agrees = told.modelled, abs(told.modelled - made.saved) <= made.half
        view.claim.figures |= {n: ledger.figure(Of.MEASURED / n, f) for n, f in _money(told).items()}

    def working(self, line_id: str, asked: str) -> WorkingView:
        """The working of a figure of the claim."""
        return working_for(self.view(line_id)[1].figures, read_key(asked))

    def claim_of(self, opened: Opened) -> Claim | None:
        """What the logs of a line carry; None where they cannot be compared."""
        found, _ = self._found(opened, self.logs.counted(opened.kept.id))
        return None if found is None else found.claim

    def _found(self, opened: Opened, counted: list[KeptTrend]) -> tuple[Compared | None, str]:
        """What the logs carry, or what is missing for it."""
        there = {t.side for t in counted}
        wanted = {"before": "a log of before the change", "after": "a log of now"}
        missing = [words for side, words in wanted.items() if side not in there]
        if missing:
            return None, f"not known yet: needs {' and '.join(missing)}"
        ways = ways_of(counted)
        if not ways:
            return None, "not known yet: needs power or energy in every log"
        try:
            return self._compared(asked_of(opened.line, counted, way_of(opened.line, ways))), ""
        except MainspringError as gap:
            return None, gap.tellings

    def _compare(self, asked: Asked) -> Compared:
        before, after = self._side(asked, "before"), self._side(asked, "after")
        level = None
        if before.witness is not None and after.witness is not None and asked.way in before.witness.columns:
            level = moved(before.witness, after.witness, asked.way, "level")
        year = None
        if asked.year and asked.way in ("flow", "air_flow"):
            at, seconds = np.array(asked.year).T
            year = YearOf(at, seconds, "the hours at each flow of the duty", entered=True, within=asked.hours_within)
        made = claim(
            before.means,
            after.means,
            asked.way,
            year,
            asked.accuracies,
            same_meters=asked.same_meters,
            confidence=asked.confidence,
            plate=asked.plate,
            service=asked.service,
            moved=level,
        )
        return Compared(made, before.means, after.means, (*before.told, *after.told))

    def _side(self, asked: Asked, side: str) -> Side:
        quantities = ("power",) if asked.way in ("schedule", "hours") else ("power", asked.way)
        logs = [(t.name, self.logs.trend(t)) for t in asked.logs if t.side == side]
        return side_of(logs, quantities, leave_out=asked.leave_out)

    def keep(self, line_id: str, key: str, by: str) -> MeasuredView:
        """Stand up for what the logs carry: kept with the line, told on the Round and at hand-over.

        Raises BadEntry where they carry nothing.
        """
        by = check_who(by)

        def decide(opened: Opened) -> Change:
            if key in opened.ids:
                return Change(by)
            found, missing = self._found(opened, self.logs.counted(line_id))
            if found is None:
                raise BadEntry("claim", "not carried", missing)
            made = found.claim
            if not made.holds:
                whys = "; ".join(r.why for r in made.refused if r.what == "everything")
                raise BadEntry("claim", "not carried", whys)
            told = {
                "saved": float(made.saved),
                "half": float(made.half),
                "confidence": made.confidence,
                "seconds": made.seconds,
                "way": made.way,
            }
            return Change(by, evidence=(Evidence(MEASURED, "tick", told, by, repository.now(), id=key),))

        carry_out(self.lines, line_id, decide)
        return self.view(line_id)[0]


CLAIMED = ("saved", "half", "confidence", "seconds")


def check_claim(data: dict[str, Any]) -> None:
    """Raise BadEntry unless a claim out of a file says what was claimed."""
    for name in CLAIMED:
        if isinstance(data.get(name), bool) or not isinstance(data.get(name), (int, float)):
            raise BadEntry(f"claim: {name}", data.get(name), "a number")


def ways_of(counted: list[KeptTrend]) -> list[str]:
    """What logs can be compared at: what was read in both periods, besides the hours."""
    sides = [[set(t.summary["columns"]) for t in counted if t.side == side] for side in SIDES]
    return ways_in([s for s in sides if s], tuple(WAYS), ("schedule", "hours"))


def way_of(line: Line, ways: list[str]) -> str:
    """As the record says, where the logs can; else the first they can."""
    wanted = line.value("proof.compared")
    if wanted == "flow" and "air_flow" in ways:
        wanted = "air_flow"
    return wanted if wanted in ways else (ways or [""])[0]


def asked_of(line: Line, counted: list[KeptTrend], way: str) -> Asked:
    """How the record wants its logs compared."""
    profile = line.value("duty.air_profile" if way == "air_flow" else "duty.profile") or []
    by_duty = bool(profile) and line.value("proof.year_from") != "log"
    meters = line.value("proof.meter_before"), line.value("proof.meter_after")
    flow, hours = line.value("proof.flow_meter"), line.value("proof.hours_accuracy")
    flow = FLOW_METER if flow is None else flow
    first, second = (METER if m is None else m for m in meters)
    return Asked(
        before=tuple(t.id for t in counted if t.side == "before"),
        after=tuple(t.id for t in counted if t.side == "after"),
        way=way,
        year=tuple((float(q), float(h)) for q, h in profile) if by_duty else (),
        hours_within=HOURS if hours is None else hours,
        accuracies=(Accuracy(first, flow), Accuracy(second, flow)),
        same_meters=line.value("proof.same_meters") != "no",
        confidence=float(line.value("proof.confidence") or CONFIDENCE) / 100,
        leave_out=line.value("proof.doubtful") != "in",
        plate=plate_of(line),
        service=line.value("proof.same_service") or "",
        logs=tuple(counted),
    )


def _claim_view(found: Compared, ledger: Ledger) -> ClaimView:
    made = found.claim
    named: dict[str, Figure | None] = {
        "saved": made.saved,
        "taken_before": made.taken_before,
        "fraction": made.fraction,
        "half": made.half,
        "share": made.share,
        "short_formula": made.short_formula,
    }
    covered = [p.at for p in made.points if p.covered]
    return present(
        None,
        ClaimView,
        made,
        words=WAYS[made.way],
        figures={n: ledger.figure(Of.MEASURED / n, f) for n, f in named.items() if f is not None},
        low=min(covered) if covered and made.dimension else None,
        high=max(covered) if covered and made.dimension else None,
        fits=[_fit_view(made.before, found.before, made), _fit_view(made.after, found.after, made)],
        points=[BinView(**vars(p)) for p in made.points],
        rest=None if made.rest is None else BinView(**vars(made.rest)),
        parts=[PartView(id=p.id, energy=ledger.figure(Of.MEASURED / "part" / p.id, p.energy)) for p in made.parts],
        refused=[RefusedView(**vars(r)) for r in made.refused],
    )


def _money(told: Headline) -> dict[str, Figure]:
    """What the saving is worth, and the payback at both ends of its interval."""
    worth, ends = told.worth, money_ends(told)
    if worth.yearly is None or told.half is None or ends is None:
        return {}
    named = {"money": worth.yearly, "money_half": yearly_money(told.half, blended_price(worth.yearly, told.saved))}
    with contextlib.suppress(MainspringError):  # an end at which it never pays back
        if worth.cost is not None:
            named["payback_short"] = simple_payback(worth.cost, ends[1])
            named["payback_long"] = simple_payback(worth.cost, ends[0])
    return named


def _fit_view(fit: Fit, means: Means, made: Claim) -> SideView:
    power = means.columns["power"]
    axis = means.columns.get(made.way)
    cloud: list[list[float]] = []
    curve: list[list[float]] = []
    if axis is not None:
        step = max(1, len(axis) // CLOUD)
        cloud = [[float(x), float(y)] for x, y in zip(axis[::step], power[::step], strict=True)]
        at = np.linspace(float(axis.min()), float(axis.max()), GRID)
        rows = fit.design(at)
        t = float(student_t(made.confidence, fit.freedom(rows.mean(axis=0))))
        curve = [
            [float(x), float(y), t * fit.uncertainty_of(row)] for x, y, row in zip(at, fit.at(at), rows, strict=True)
        ]
    return present(
        None,
        SideView,
        fit,
        kind=FIT_WORDS[fit.kind],
        days=fit.worth_days,
        variation=fit.variation if np.isfinite(fit.variation) else 0.0,
        cloud=cloud,
        curve=curve,
    )


def _kept_claim(opened: Opened, made: Claim | None) -> KeptClaim | None:
    last = opened.claimed
    if last is None:
        return None
    data: dict[str, Any] = last.data
    same = made is not None and abs(made.saved - data["saved"]) <= 1e-6 * abs(data["saved"])
    return KeptClaim(
        by=last.by,
        at=last.at.isoformat(),
        saved=data["saved"],
        half=data["half"],
        confidence=data["confidence"],
        same=same,
    )
