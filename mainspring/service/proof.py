"""The proof bench: the motor's load, what is looked at beside it, and how a line drifts from visit to visit."""

from datetime import datetime

from pydantic import BaseModel

from mainspring.core import known as as_known
from mainspring.core.benches.proof import Drift, Estimate, Look, Place, Proof, drift_of, looks_of, proof_of
from mainspring.core.benches.proof.drift import LABELS, Row
from mainspring.core.errors import MainspringError
from mainspring.core.known import estimate, learnt, trusted
from mainspring.core.method import Figure
from mainspring.core.procedure.status import StepStatus
from mainspring.core.procedure.stay import ROWS, STEP_UP
from mainspring.core.procedure.telling import taken_of
from mainspring.service.keys import Of
from mainspring.service.known import known_view
from mainspring.service.opened import Opened
from mainspring.service.present import present
from mainspring.service.views import FigureView, KnownView, Ledger, Part

PLACES: dict[Place, str] = {"motor": "Motor", "drive": "Drive and its box", "machine": "Machine"}
NO_ROW = "not known yet: needs the full-speed row of the step-up"


class EstimateView(BaseModel):
    """Motor load by one method."""

    id: str
    title: str
    load: FigureView | None
    low: FigureView | None
    high: FigureView | None
    worth: str
    missing: str
    share: float


class LookView(BaseModel):
    """One thing looked at."""

    id: str
    label: str
    severity: str
    figure: FigureView | None
    against: FigureView | None
    said: str


class PlaceView(BaseModel):
    """What is looked at in one place."""

    id: str
    label: str
    looks: list[LookView]


class VisitRowView(BaseModel):
    """One visit's full-speed row, against the baseline."""

    at: datetime
    by: str
    purpose: str
    readings: dict[str, float]
    off: dict[str, FigureView]
    means: str
    learnt: list[list[Part]]  # what all readings of that visit say of the machine


class DriftView(BaseModel):
    """The baseline and every visit after it; readings in SI by name."""

    dimensions: dict[str, str]
    labels: dict[str, str]
    baseline: VisitRowView | None
    visits: list[VisitRowView]


class ProofView(BaseModel):
    """Is the motor well, the drive cool, the machine on its curve."""

    kept: bool
    estimates: list[EstimateView]
    best: FigureView | None
    low: FigureView | None
    high: FigureView | None
    trusted: str
    contradict: bool
    efficiency: FigureView | None
    readings: dict[str, FigureView]
    missing: str
    places: list[PlaceView]
    drift: DriftView
    known: KnownView | None


def baseline_row(sheet: list[StepStatus]) -> dict[str, float] | None:
    """The full-speed row of the step-up, once kept."""
    status = next((s for s in sheet if s.step.id == STEP_UP), None)
    if status is None or status.step.table is None or not status.evidence:
        return None
    full = float(status.step.table.references[-1])
    return next((e.data for e in status.evidence if e.data["reference"] == full), None)


def proof_of_line(opened: Opened) -> Proof | None:
    """Motor load from the baseline; None before there is one."""
    row = baseline_row(opened.whole)
    return None if row is None else proof_of(opened.line, opened.assessment.derived, row)


def drift_of_line(opened: Opened) -> Drift | None:
    """Every visit's full-speed row against the first."""
    purposes = {v.id: v.purpose for v in opened.visits}
    last: dict[tuple[str, str], Row] = {}
    for step in (STEP_UP, ROWS):
        mine = opened.steps.get(step, ())
        full = max((e.data["reference"] for e in mine if "reference" in e.data), default=None)
        for e in mine:
            if full is not None and e.data.get("reference") == full:
                readings = {k: v for k, v in e.data.items() if isinstance(v, float)}
                last[(step, e.visit or e.id)] = Row(
                    e.at, e.by, purposes.get(e.visit or "", "start-up"), readings, e.visit
                )
    return drift_of(list(last.values()), fan="fan" in opened.line.traits)


def proof_view(opened: Opened) -> tuple[ProofView, Ledger]:
    """Everything of the proof bench."""
    ledger = Ledger()
    proof = proof_of_line(opened)
    line, derived = opened.line, opened.assessment.derived
    looks = looks_of(line, derived, None if proof is None else proof.best)

    def shown(name: str, figure: Figure | None) -> FigureView | None:
        return None if figure is None else ledger.figure(Of.PROOF / name, figure)

    view = ProofView(
        kept=proof is not None,
        estimates=[_estimate(ledger, e) for e in proof.estimates] if proof else [],
        best=shown("best", proof.best) if proof else None,
        low=shown("low", proof.low) if proof else None,
        high=shown("high", proof.high) if proof else None,
        trusted=proof.trusted if proof else "",
        contradict=proof.contradict if proof else False,
        efficiency=shown("efficiency", proof.efficiency) if proof else None,
        readings={n: ledger.figure(Of.PROOF / "reading" / n, f) for n, f in proof.readings.items()} if proof else {},
        missing="" if proof else NO_ROW,
        places=[
            PlaceView(id=place, label=PLACES[place], looks=[_look(ledger, place, look) for look in found])
            for place, found in looks.items()
        ],
        drift=_drift(ledger, opened),
        known=known_view(ledger, Of.PROOF / "known", derived),
    )
    return view, ledger


def _estimate(ledger: Ledger, estimate: Estimate) -> EstimateView:
    def shown(name: str, figure: Figure | None) -> FigureView | None:
        return None if figure is None else ledger.figure(Of.PROOF / estimate.id / name, figure)

    return present(
        None,
        EstimateView,
        estimate,
        load=shown("load", estimate.load),
        low=shown("low", estimate.low),
        high=shown("high", estimate.high),
    )


def _look(ledger: Ledger, place: str, look: Look) -> LookView:
    key = Of.PROOF / "look" / place / look.id
    return ledger.show(LookView, look, key, figure=None if look.figure is None else ledger.figure(key, look.figure))


def _known_then(opened: Opened, visit: str | None) -> as_known.Estimate | None:
    """The line as one visit's readings have it; None where they are of another line."""
    try:
        return trusted(estimate(opened.assessment.derived.facts, taken_of(opened.steps, visit)))
    except MainspringError:
        return None


def _drift(ledger: Ledger, opened: Opened) -> DriftView:
    drift, fan = drift_of_line(opened), "fan" in opened.line.traits
    dimensions = {name: dimension for name, (_, dimension) in LABELS.items()}
    if fan:
        dimensions["pressure"] = "air_pressure"
    labels = {name: label for name, (label, _) in LABELS.items()}
    if drift is None:
        return DriftView(dimensions=dimensions, labels=labels, baseline=None, visits=[])

    def row(row: Row, off: dict[str, FigureView], means: str) -> VisitRowView:
        readings = {k: v for k, v in row.readings.items() if k in labels}
        known = _known_then(opened, row.visit)
        said = [] if known is None else learnt(known)
        key = Of.PROOF / "drift" / "known" / (row.visit or "first")
        parts = [ledger.sentence(key / i, sentence) for i, sentence in enumerate(said)]
        return present(None, VisitRowView, row, readings=readings, off=off, means=means, learnt=parts)

    visits = [
        row(v.row, {n: ledger.figure(Of.PROOF / "drift" / i / n, f) for n, f in v.off.items()}, v.means)
        for i, v in enumerate(drift.visits)
    ]
    return DriftView(dimensions=dimensions, labels=labels, baseline=row(drift.baseline, {}, ""), visits=visits)
