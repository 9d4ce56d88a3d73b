"""What the application shows, as typed values: the assessment of core with a key on every figure.

A key leads back to the figure in the same assessment, so that its working can be asked for (`Ledger.figures`).
"""

from collections.abc import Callable
from datetime import date, datetime
from typing import Any

from pydantic import BaseModel

from mainspring.core.checks import Finding
from mainspring.core.diagnosis import Pattern
from mainspring.core.errors import BadEntry, MainspringError
from mainspring.core.limits import Reason, strictest
from mainspring.core.line import Line, find_field
from mainspring.core.method import Figure, Leaf
from mainspring.core.procedure import PHASES, Evidence, Instrument, Reading, Rules, StepStatus
from mainspring.core.sentence import Sentence
from mainspring.core.settings import SETTINGS
from mainspring.service.keys import Key, Of
from mainspring.service.present import V, present


class FigureView(BaseModel):
    """A number with its dimension and the key to its working."""

    key: str
    value: float
    dimension: str | None
    assumed: bool


class Part(BaseModel):
    """A piece of a sentence: text, or a figure."""

    text: str | None = None
    figure: FigureView | None = None


class FixView(BaseModel):
    """A correction at one touch."""

    field: str
    value: float | str | list[list[float]]
    label: list[Part]


class AnswerView(BaseModel):
    """An entry, or a setting, that closes a finding."""

    path: str
    label: str


class FindingView(BaseModel):
    """One judgement."""

    id: str
    place: str
    severity: str
    title: str
    because: list[Part]
    do: list[Part]
    source: str
    source_kind: str
    needs: list[str]
    answers: list[AnswerView]
    fix: FixView | None
    doubts: str
    meant: str
    upheld: str


class StationView(BaseModel):
    """A station of the strip."""

    id: str
    label: str
    key: list[Part]
    second: list[Part]
    severity: str


class JointView(BaseModel):
    """A joint of the strip."""

    id: str
    severity: str


class StripView(BaseModel):
    """The drawn line."""

    stations: list[StationView]
    joints: list[JointView]
    back: list[Part]


class ProblemView(BaseModel):
    """An entry that cannot be taken."""

    field: str
    value: str
    allowed: str
    message: str


class ReasonView(BaseModel):
    """One reason for a limit."""

    words: str
    figure: FigureView
    source: str
    rules: bool


class LimitView(BaseModel):
    """A limit of speed or ramp with every reason for it, or what is missing to tell it."""

    id: str
    label: str
    setting: str  # of the sheet, by which it is decided
    in_force: FigureView | None  # where somebody decided or left another than the strictest reason gives
    why: str
    reasons: list[ReasonView]
    missing: str


class AssessmentView(BaseModel):
    """Verdicts on a record, saved or being typed."""

    traits: list[str]
    limits: list[LimitView]

    findings: list[FindingView]
    strip: StripView
    problems: list[ProblemView]
    figures: dict[str, FigureView]
    unknown: dict[str, str]


class StageView(BaseModel):
    """One of the seven stages."""

    id: str
    label: str
    state: str


class EntryView(BaseModel):
    """One value of a record, SI, and where it was read."""

    value: float | str | list[str] | list[list[float]]
    provenance: str
    note: str = ""
    upheld: str = ""


class LineView(BaseModel):
    """A line with its record and verdicts."""

    id: str
    site_id: str
    site_name: str
    site_units: str
    tag: str
    title: str
    revision: int
    seq: int
    record: dict[str, dict[str, EntryView]]
    updated_at: datetime
    stages: list[StageView]
    words: str
    assessment: AssessmentView


class RoundLine(BaseModel):
    """A line as the Round shows it; `states` are those of the stages, in their order."""

    id: str
    tag: str
    title: str
    states: list[str]
    words: str
    severity: str
    headline: str
    stops: int
    power: float | None
    wanted: float | None
    wanted_dimension: str
    saved: float | None
    measured: float | None
    behind: int  # of what was changed for the work and is to be put back
    updated_at: datetime


class SiteView(BaseModel):
    """A site and what its lines share."""

    id: str
    name: str
    units: str
    revision: int
    entries: dict[str, EntryView]


class RoundSite(BaseModel):
    """A site with its lines."""

    id: str
    name: str
    units: str
    stops: int
    saved: float
    measured: float
    lines: list[RoundLine]


class RoundView(BaseModel):
    """Every site and line; what needs attention first. The stages are named once for all lines."""

    stages: dict[str, str]
    sites: list[RoundSite]


class FamilyParameter(BaseModel):
    """A setting in one make's words."""

    number: str
    label: str
    words: dict[str, str]


class EffectView(BaseModel):
    """What a value of a setting does."""

    severity: str
    title: str
    because: list[Part]


class SettingView(BaseModel):
    """One line of the settings sheet."""

    id: str
    group: str
    label: str
    dimension: str | None
    choices: dict[str, str]
    planned: FigureView | None
    planned_choice: str | None
    reason: list[Part]
    source: str
    wrong: str
    missing: str
    needs: str
    family: FamilyParameter | None
    found: float | str | None
    decided: float | str | None
    decided_why: str
    decided_by: str
    decided_at: datetime | None
    left: float | str | None
    left_by: str
    left_at: datetime | None
    each: list[str]  # what it is at each drive of a set, where that differs
    former: float | str | None  # as left in the drive that this one has replaced
    taken: bool  # from the plan, not read back
    elsewhere: str  # what another sheet says that is in force
    verdict: str  # absent, open, unplanned, taken, same, decided, differs
    effect: EffectView | None  # of the value that is there, where something is proposed


class ConflictView(BaseModel):
    """Settings that contradict one another."""

    id: str
    settings: list[str]
    severity: str
    title: str
    because: list[Part]
    do: list[Part]


class SheetView(BaseModel):
    """The settings sheet."""

    family: str
    family_name: str
    rows: list[SettingView]
    set_count: int
    read_count: int  # of those, read back from the drive
    absent_count: int
    differs_count: int
    to_take: int  # how many may be entered as planned
    conflicts: list[ConflictView]


class ReadingView(BaseModel):
    """A number to read."""

    id: str
    label: str
    dimension: str
    expected: FigureView | None
    low: float | None
    high: float | None
    tolerance: float | None
    least: float
    band: float | None
    read: float | None  # what was read of it already, at another place
    read_by: str
    span: float | None  # of which a deviation is a share, where it is not one of the expected value
    optional: bool
    twice: bool  # read once more, since it must be right to the last digit


class CellView(BaseModel):
    """A reading kept, and how it stands to what was expected."""

    value: float
    deviation: float | None
    fits: bool


class RowView(BaseModel):
    """A row of a table."""

    reference: float
    asked: bool  # whether the limits in force let it run there
    id: str = ""  # of the evidence in force
    expected: dict[str, FigureView]
    half: dict[str, float]  # of the 95 % band round what is expected
    within: dict[str, float]  # farther off is news
    read: dict[str, CellView]
    by: str = ""
    at: datetime | None = None
    passed: bool = True
    note: str = ""


class PatternView(BaseModel):
    """What readings fit."""

    id: str
    title: str
    because: list[Part]
    do: str


class ExpectView(BaseModel):
    """One figure by the plate and by what was read, with both ends of where it lies."""

    id: str
    label: str
    plate: FigureView
    known: FigureView
    low: FigureView
    high: FigureView


class NextReadingView(BaseModel):
    """A reading that would tell most of something, and the field of the record or the step at which it is entered."""

    step: str
    field: str
    said: list[Part]


class KnownView(BaseModel):
    """What all readings of a line say together."""

    readings: int
    fits: bool
    says: PatternView | None
    learnt: list[list[Part]]
    next: list[NextReadingView]
    expects: list[ExpectView]


class TableView(BaseModel):
    """A table of readings at references."""

    reference: str  # dimension of the references
    columns: list[ReadingView]
    rows: list[RowView]
    missing: str
    pattern: PatternView | None
    errors: dict[str, FigureView]
    known: KnownView | None = None


class InstrumentView(BaseModel):
    """What was measured with, and until when its calibration holds."""

    name: str
    due: date | None = None
    overdue: bool = False


class EvidenceView(BaseModel):
    """Evidence kept."""

    id: str
    kind: str
    data: dict[str, Any]
    by: str
    at: datetime
    passed: bool
    note: str
    out: list[str]
    instrument: InstrumentView | None
    received: datetime | None
    paper: bool = False
    clock: datetime | None = None  # when the server took it, by the clock on its wall
    device: str = ""  # the run of the application that made it, and its seconds
    ran: float = 0.0


class SchoolView(BaseModel):
    """One of two ways of doing it."""

    label: str
    why: str
    expected: FigureView | None
    asks_why: bool


class StandingView(BaseModel):
    """What stays visible ever after."""

    step: str
    title: str
    words: str
    why: str
    by: str
    at: datetime


class ChangedView(BaseModel):
    """A value on which evidence rested, and what it is now."""

    field: str
    label: str
    dimension: str | None
    was: float | str | None
    now: float | str | None


class StepView(BaseModel):
    """A step of the run sheet."""

    id: str
    phase: str
    phase_label: str
    title: str
    what: list[Part]
    why: str
    proof: str
    proven: str
    danger: str
    state: str
    after: list[str]
    gates: list[str]
    safety: bool
    skip: str
    readings: list[ReadingView]
    choices: dict[str, str]
    right: str
    wrong: str
    items: dict[str, str]
    units: int
    schools: dict[str, SchoolView]
    seconds: FigureView | None
    clock_ends: datetime | None
    table: TableView | None
    evidence: list[EvidenceView]
    changed: list[ChangedView]
    held_by: list[str]
    stops: list[str]
    wait_on_paper: str
    rules: Rules
    lacking: list[str]
    beside: list[EvidenceView]


class VisitView(BaseModel):
    """One dated stay at a line."""

    id: str
    purpose: str
    by: str
    at: datetime
    instruments: list[InstrumentView]
    note: str
    closed: datetime | None
    paper: bool = False


class StepsView(BaseModel):
    """Steps of the run sheet, and the count of the line's changes at which they stand so."""

    seq: int
    steps: list[StepView]
    standing: list[StandingView]
    visit: VisitView | None


class RunView(StepsView):
    """The run sheet, with what a wrong answer would add to it."""

    asleep: list[StepView]


class KeptView(StepsView):
    """What a command changed on the run sheet: the steps that stand otherwise than at the count `before`."""

    before: int


class Ledger:
    """Hands out keys to figures while a view is built."""

    def __init__(self) -> None:
        self.figures: dict[Key, Figure] = {}

    def figure(self, key: Key, figure: Figure) -> FigureView:
        """The figure under a key."""
        self.figures[key] = figure
        return FigureView(key=str(key), value=float(figure), dimension=figure.dimension, assumed=figure.assumed)

    def sentence(self, key: Key, sentence: Sentence | None) -> list[Part]:
        """The sentence in parts."""
        if sentence is None:
            return []
        parts: list[Part] = []
        for i, piece in enumerate(sentence.parts()):
            if isinstance(piece, Figure):
                parts.append(Part(figure=self.figure(key / i, piece)))
            else:
                parts.append(Part(text=piece))
        return parts

    def show(self, view: type[V], value: object, key: Key, **more: object) -> V:
        """The view of a value of core; see `present`."""
        return present(self, view, value, key, **more)

    def finding(self, finding: Finding) -> FindingView:
        """One finding."""
        key = Of.FINDING / finding.id
        fix = None
        if finding.fix is not None:
            fix = FixView(
                field=finding.fix.field,
                value=finding.fix.value,
                label=self.sentence(key / "fix", finding.fix.label),
            )
        return self.show(
            FindingView,
            finding,
            key,
            severity=finding.severity.word,
            source=str(finding.source),
            source_kind=finding.source.kind,
            answers=[AnswerView(path=path, label=_answer(path)) for path in finding.answers],
            fix=fix,
        )

    def limit(self, id: str, setting: str, line: Line, make: Callable[[], list[Reason]], *, highest: bool) -> LimitView:
        """A limit with its reasons, the ruling one marked, and what is in force instead."""
        declared = SETTINGS[setting]
        told = line.told(setting, declared.dimension or "", declared.label)
        view = LimitView(
            id=id,
            label=declared.label,
            setting=setting,
            in_force=self.figure(Of.LIMIT / id / "in_force", told) if isinstance(told, Figure) else None,
            why=told.origin.why if isinstance(told, Figure) and isinstance(told.origin, Leaf) else "",
            reasons=[],
            missing="",
        )
        try:
            reasons = make()
        except MainspringError as gap:
            return view.model_copy(update={"missing": gap.tellings})
        ruling = strictest(reasons, highest=highest)
        return view.model_copy(
            update={
                "reasons": [
                    ReasonView(
                        words=r.words,
                        figure=self.figure(Of.LIMIT / id / i, r.figure),
                        source=str(r.source),
                        rules=r is ruling,
                    )
                    for i, r in enumerate(reasons)
                ]
            }
        )

    def reading(self, key: Key, reading: Reading, span: float | None = None) -> ReadingView:
        """A number to read."""
        return present(
            None,
            ReadingView,
            reading,
            expected=None if reading.expected is None else self.figure(key / reading.id, reading.expected),
            span=span,
        )

    def pattern(self, key: Key, pattern: Pattern | None) -> PatternView | None:
        """What readings fit."""
        if pattern is None:
            return None
        because = self.sentence(key / "pattern", pattern.because)
        return present(None, PatternView, pattern, because=because)


def _answer(path: str) -> str:
    """What an entry, or a setting, that answers a finding is called."""
    group, _, setting = path.partition(".")
    if group == "settings":
        return f"{SETTINGS[setting].label} in the drive"
    whose = f" of the {group}" if group in ("drive", "motor") else ""  # both have amps, volts and power
    return find_field(path).label + whose


def problem_view(path: str, problem: BadEntry) -> ProblemView:
    """A bad entry for the screen."""
    return ProblemView(field=path, value=str(problem.value)[:200], allowed=problem.allowed, message=problem.tellings)


def evidence_view(evidence: Evidence) -> EvidenceView:
    """Evidence for the screen."""
    return present(
        None,
        EvidenceView,
        evidence,
        instrument=None if evidence.instrument is None else instrument_view(evidence.instrument, evidence.at),
        clock=None if evidence.clock is None else evidence.clock.wall,
        device="" if evidence.clock is None else evidence.clock.device,
        ran=0.0 if evidence.clock is None else evidence.clock.ran,
    )


def instrument_view(instrument: Instrument, at: datetime) -> InstrumentView:
    """An instrument on the day it was used; `due` is the last day on which its calibration holds."""
    return InstrumentView(name=instrument.name, due=instrument.due, overdue=instrument.overdue(at))


def phase_label(status: StepStatus) -> str:
    """What the phase of a step is called."""
    return PHASES[status.step.phase]
