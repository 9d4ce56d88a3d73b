"""The benches of proof and savings, and the workings of what benches show."""

from collections.abc import Callable

from pydantic import BaseModel

from mainspring.core.assess import assess
from mainspring.core.benches.motor_proof import Estimate, Proof, proof_of
from mainspring.core.benches.savings import DISCOUNT, YEARS, Chain, Level, Part, Savings, savings_of
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError
from mainspring.core.line import Line
from mainspring.core.method import Figure
from mainspring.core.procedure.status import StepStatus
from mainspring.service.curves import HELD_HEAD
from mainspring.service.keys import Key, Of, read_key
from mainspring.service.lines import assessment_view, working_for
from mainspring.service.loop import Asked, sleep_view, stages_view, try_loop
from mainspring.service.opened import Opened
from mainspring.service.run import run_view
from mainspring.service.sheet import sheet_view
from mainspring.service.views import FigureView, Ledger, WorkingView


class EstimateView(BaseModel):
    """Motor load by one method."""

    id: str
    title: str
    load: FigureView | None
    low: FigureView | None
    high: FigureView | None
    worth: str
    missing: str


class ProofView(BaseModel):
    """Motor load three ways."""

    kept: bool
    estimates: list[EstimateView]
    efficiency: FigureView | None
    readings: dict[str, FigureView]
    missing: str


class LevelView(BaseModel):
    """One flow level, both ways."""

    flow: FigureView
    hours: FigureView
    throttled_input: FigureView
    input: FigureView
    frequency: FigureView
    motor_efficiency: FigureView
    drive_efficiency: FigureView
    saved: FigureView
    cube_saved: FigureView


class Share(BaseModel):
    """A named part of an energy [J]."""

    name: str
    energy: FigureView


class ChainView(BaseModel):
    """Where the energy goes."""

    name: str
    taken: FigureView
    losses: list[Share]
    useful: FigureView


class SavingsView(BaseModel):
    """The savings bench."""

    known: bool
    missing: list[str]
    levels: list[LevelView]
    figures: dict[str, FigureView]
    cube_gap: list[Share]
    chains: list[ChainView]
    years: int
    discount: float


def baseline_row(sheet: list[StepStatus]) -> dict[str, float] | None:
    """The full-speed row of the step-up, once kept."""
    status = next((s for s in sheet if s.step.id == "turn.step_up"), None)
    if status is None or status.step.table is None or not status.evidence:
        return None
    full = float(status.step.table.references[-1])
    return next((e.data for e in status.evidence if e.data["reference"] == full), None)


def proof_of_line(opened: Opened) -> Proof | None:
    """Motor load from the baseline; None before there is one."""
    row = baseline_row(opened.whole)
    return None if row is None else proof_of(opened.line, opened.assessment.derived, row)


def proof_view(opened: Opened) -> tuple[ProofView, Ledger]:
    """Motor load from the baseline, three ways."""
    ledger = Ledger()
    proof = proof_of_line(opened)
    if proof is None:
        return (
            ProofView(
                kept=False,
                estimates=[],
                efficiency=None,
                readings={},
                missing="not known yet: needs the full-speed row of the step-up",
            ),
            ledger,
        )
    return (
        ProofView(
            kept=True,
            estimates=[_estimate(ledger, e) for e in proof.estimates],
            efficiency=None if proof.efficiency is None else ledger.figure(Of.PROOF / "efficiency", proof.efficiency),
            readings={n: ledger.figure(Of.PROOF / "reading" / n, f) for n, f in proof.readings.items()},
            missing="",
        ),
        ledger,
    )


def _estimate(ledger: Ledger, estimate: Estimate) -> EstimateView:
    def shown(name: str, figure: Figure | None) -> FigureView | None:
        return None if figure is None else ledger.figure(Of.PROOF / estimate.id / name, figure)

    return EstimateView(
        id=estimate.id,
        title=estimate.title,
        load=shown("load", estimate.load),
        low=shown("low", estimate.low),
        high=shown("high", estimate.high),
        worth=estimate.worth,
        missing=estimate.missing,
    )


def savings_view(line: Line, derived: Derived) -> tuple[SavingsView, Ledger]:
    """Throttled against slowed."""
    ledger = Ledger()
    try:
        found = savings_of(line, derived)
    except MainspringError as gap:
        return (
            SavingsView(
                known=False,
                missing=[str(gap)],
                levels=[],
                figures={},
                cube_gap=[],
                chains=[],
                years=YEARS,
                discount=DISCOUNT,
            ),
            ledger,
        )
    return (
        SavingsView(
            known=True,
            missing=list(found.missing),
            levels=[_level(ledger, i, level) for i, level in enumerate(found.levels)],
            figures=_savings_figures(ledger, found),
            cube_gap=_shares(ledger, Of.SAVINGS / "cube_gap", found.cube_gap),
            chains=[_chain(ledger, c) for c in found.chains],
            years=YEARS,
            discount=DISCOUNT,
        ),
        ledger,
    )


def _savings_figures(ledger: Ledger, found: Savings) -> dict[str, FigureView]:
    named = {
        "throttled": found.throttled,
        "slowed": found.slowed,
        "saved": found.saved,
        "fraction": found.fraction,
        "cube_energy": found.cube_energy,
        "cube_saved": found.cube_saved,
        "demand_saved": found.demand_saved,
        "money": found.money,
        "payback": found.payback,
        "present_value": found.present_value,
        "emission": found.emission,
    }
    return {n: ledger.figure(Of.SAVINGS / n, f) for n, f in named.items() if f is not None}


def _level(ledger: Ledger, index: int, level: Level) -> LevelView:
    def shown(name: str) -> FigureView:
        return ledger.figure(Of.SAVINGS / "level" / index / name, getattr(level, name))

    return LevelView(
        flow=shown("flow"),
        hours=shown("hours"),
        throttled_input=shown("throttled_input"),
        input=shown("input"),
        frequency=shown("frequency"),
        motor_efficiency=shown("motor_efficiency"),
        drive_efficiency=shown("drive_efficiency"),
        saved=shown("saved"),
        cube_saved=shown("cube_saved"),
    )


def _shares(ledger: Ledger, key: Key, parts: tuple[Part, ...]) -> list[Share]:
    return [Share(name=p.name, energy=ledger.figure(key / i, p.energy)) for i, p in enumerate(parts)]


def _chain(ledger: Ledger, chain: Chain) -> ChainView:
    key = Of.SAVINGS / "chain" / chain.name.lower()
    return ChainView(
        name=chain.name,
        taken=ledger.figure(key, chain.taken),
        losses=_shares(ledger, key / "loss", chain.losses),
        useful=ledger.figure(key / "useful", chain.useful),
    )


def draft_working(line: Line, asked: str, tried: Asked) -> WorkingView:
    """The working of a figure in the assessment, or on the loop and savings bench, of a record being typed."""
    key = read_key(asked)
    if key.of in (Of.MEANING, Of.REGION) or key == HELD_HEAD:
        return working_for(_of_loop(line, key, tried).figures, key)
    assessment = assess(line)
    _, ledger = assessment_view(assessment, {})
    figures = dict(ledger.figures)
    if key.of is Of.SAVINGS:
        figures.update(savings_view(line, assessment.derived)[1].figures)
    return working_for(figures, key)


def _of_loop(line: Line, key: Key, tried: Asked) -> Ledger:
    """The figures of the part of the loop bench that a key names."""
    part = key.path.partition(".")[0]
    if part == "sleep":
        return sleep_view(line, tried)[1]
    if part == "stages":
        return stages_view(line)[1]
    return try_loop(line, tried)[1]


_OF_LINE: dict[Of, Callable[[Opened], Ledger]] = {
    Of.SETTING: lambda opened: sheet_view(opened)[1],
    Of.STEP: lambda opened: run_view(opened)[1],
    Of.PROOF: lambda opened: proof_view(opened)[1],
    Of.SAVINGS: lambda opened: savings_view(opened.line, opened.assessment.derived)[1],
}


def line_working(opened: Opened, asked: str) -> WorkingView:
    """The working of any figure shown of a saved line."""
    key = read_key(asked)
    make = _OF_LINE.get(key.of, _verdicts)
    return working_for(make(opened).figures, key)


def _verdicts(opened: Opened) -> Ledger:
    return assessment_view(opened.assessment, {})[1]
