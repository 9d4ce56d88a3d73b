"""The loop bench: a line tried, its sleep settings found, its machines staged, its plant fitted, its tuning sought."""

from collections.abc import Sequence
from dataclasses import dataclass
from typing import Any

from pydantic import BaseModel

from mainspring.core.assess import key_figures
from mainspring.core.benches.tuned import in_drive_forms, level_proposals, swing_proposals
from mainspring.core.control.rules import level_slope_gain
from mainspring.core.derived import Derived
from mainspring.core.errors import BadEntry, MainspringError, NoSolution
from mainspring.core.line import Line
from mainspring.core.method import Figure, given
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.simulation import kernel
from mainspring.core.simulation.bump import DEMANDS, bump
from mainspring.core.simulation.demand import Profile, own_steps
from mainspring.core.simulation.fit import fit_log, parameters_of
from mainspring.core.simulation.judge import Meaning, judge
from mainspring.core.simulation.knobs import KNOBS, UNKNOWN, Knob, dimension_of_knob, knobs_of, setting_of, stands_at
from mainspring.core.simulation.plants import Happens, Setup, set_up
from mainspring.core.simulation.search import Scored, seek
from mainspring.core.simulation.sleep_finder import find_sleep
from mainspring.core.simulation.spread import Tell, spread_of
from mainspring.core.simulation.stages import stages_of
from mainspring.core.simulation.trial import Trial, offered, ready, run_trial, why, with_setpoint
from mainspring.exchange.step_file import read_step_test
from mainspring.service.curves import CurvesView, curves_view
from mainspring.service.errors import BadRecord
from mainspring.service.keys import Of
from mainspring.service.present import present
from mainspring.service.step_test import RuleView, rule_view, rules_of
from mainspring.service.views import FigureView, Ledger
from mainspring.service.views import Part as SentencePart

PLANTS = {
    kernel.HEADER: "header",
    kernel.FLOW: "flow",
    kernel.LEVEL: "level",
    kernel.HEAT: "heat",
    kernel.OPEN: "open",
    kernel.ROOM: "room",
}
ROWS, MOST_ROWS = 1200, 4000


class KnobView(BaseModel):
    """A value that can be moved: where it stands, where its slider ends, and the setting it becomes."""

    id: str
    label: str
    group: str
    dimension: str
    value: float
    low: float
    high: float
    by_ratio: bool  # the slider goes by ratios
    slides: bool
    hint: str
    setting: str


class ProfileView(BaseModel):
    """A demand that can be tried."""

    id: str
    label: str
    duration: float


class EventView(BaseModel):
    """Something that happened."""

    time: float
    name: str
    why: str


class MeaningView(BaseModel):
    """What the trace means, and the settings that it is about."""

    severity: str
    title: str
    because: list[SentencePart]
    do: list[SentencePart]
    settings: list[str]


class LoopView(BaseModel):
    """A trial of the loop."""

    plant: str
    held: str  # what is held, in words
    dimension: str | None
    span: float  # of the sensor
    asked: str  # what the demand is
    knobs: list[KnobView]
    profiles: list[ProfileView]
    profile: str
    duration: float
    times: list[float]
    value: list[float]
    frequency: list[float]
    flow: list[float]
    flow_dimension: str
    taken: list[float]
    power: list[float]
    running: list[float]
    machines: float
    events: list[EventView]
    happened: int
    meaning: list[MeaningView]
    totals: dict[str, FigureView]
    figures: dict[str, FigureView]
    fits: list[str]  # parameters that a log can be fitted with
    sleeps: bool
    stages: bool
    loops: bool  # has gains
    two_setpoints: bool
    missing: str
    curves: CurvesView
    base_frequency: float | None


class SpreadView(BaseModel):
    """A tuning on many plants."""

    times: list[float]
    low: list[float]
    high: list[float]
    slow: list[float]
    fast: list[float]
    draws: int
    holds: int
    faults: dict[str, int]


class ScoredView(BaseModel):
    """A tuning and what it came to, as shares of the present one's."""

    moved: dict[str, float]
    error: float
    movement: float
    faults: list[str]
    holds: int


class SearchView(BaseModel):
    """The best of many beside the present tuning."""

    best: ScoredView
    present: ScoredView
    others: list[ScoredView]
    candidates: int
    tried_on: int
    stays: bool  # nothing better by more than a tenth


class SleepStep(BaseModel):
    """One step of the procedure by hand."""

    title: str
    words: list[SentencePart]


class LeakView(BaseModel):
    """Starts by the size of a leak."""

    leak: FigureView
    seen: FigureView
    told: FigureView | None


class SleepView(BaseModel):
    """The sleep settings found."""

    steps: list[SleepStep]
    settles: FigureView
    hold_seen: FigureView
    moved: dict[str, float]  # knobs that the plan moves
    leaks: list[LeakView]
    tank: list[SentencePart]
    refit: list[SentencePart]
    times: list[float]
    value: list[float]
    frequency: list[float]


class WayView(BaseModel):
    """So many machines at one flow."""

    count: int
    frequency: float
    power: float


class FlowView(BaseModel):
    """A flow and the ways to bring it, the least energy first."""

    flow: float
    ways: list[WayView]


class StageChange(BaseModel):
    """When one more comes, and the last goes."""

    count: int
    words: list[SentencePart]
    overlaps: bool
    moved: dict[str, float]


class StagesView(BaseModel):
    """How many machines to run."""

    flow_dimension: str
    flows: list[FlowView]
    changes: list[StageChange]
    at_top: float
    at_best: float


class MovedView(BaseModel):
    """A fitted parameter."""

    id: str
    label: str
    dimension: str
    was: float
    now: float
    within: float | None
    at_bound: bool


class FittedView(BaseModel):
    """A log laid over the prediction, before and after."""

    dimension: str
    times: list[float]
    measured: list[float]
    before: list[float]
    after: list[float]
    error_before: float
    error_after: float
    noise: float
    leaves_much: bool
    moved: list[MovedView]


class ModelView(BaseModel):
    """The process that a controller would see at one demand, and every rule on it."""

    demand: float
    process_gain: float
    time_constant: float
    dead_time: float
    explained: float
    missing: str
    rules: list[RuleView]


@dataclass(frozen=True)
class Asked:
    """What is to be tried: knobs moved, a profile by name or of its own, how long, and what happens."""

    moved: dict[str, float]
    profile: str = "minutes"
    own: tuple[tuple[float, float], ...] = ()
    duration: float | None = None
    lost_at: float | None = None
    dry_at: float | None = None
    filling: bool = False
    coasts: bool = False
    second_at: float | None = None  # the contact of the second setpoint closes
    measured: float | None = None  # frequency that held at no demand, as read on site
    rows: int = ROWS

    def happens(self, line: Line) -> Happens:
        """What goes wrong or is told meanwhile, for the kernel."""
        never = kernel.NEVER
        second = _second_setpoint(line) if self.second_at is not None else None
        return Happens(
            lost_from=never if self.lost_at is None else self.lost_at,
            lost_until=never,
            dry_from=never if self.dry_at is None else self.dry_at,
            dry_until=never,
            filling=self.filling,
            coasts=self.coasts,
            second_from=never if second is None or self.second_at is None else self.second_at,
            second=second or 0.0,
        )


def _second_setpoint(line: Line) -> float | None:
    """The second setpoint of a line that has two."""
    if line.held is None or f"second:{line.held.id}" not in line.traits:
        return None
    return float(line.second_setpoint())


def loop_view(line: Line, problems: dict[str, BadEntry], asked: Asked) -> LoopView:
    """Try the loop of a record with some values moved."""
    if problems:
        raise BadRecord(problems)
    return try_loop(line, asked)[0]


def try_loop(line: Line, asked: Asked) -> tuple[LoopView, Ledger]:
    """The trial and the figures that it shows."""
    line = with_setpoint(line, asked.moved)
    derived, ledger = Derived(line), Ledger()
    figures = {n: ledger.figure(Of.LINE / n, f) for n, f in key_figures(derived).items() if isinstance(f, Figure)}
    curves = curves_view(line, derived, ledger)
    view = _blank(line, figures, curves)
    try:
        setup = set_up(line, derived, stands_at(line, derived, asked.moved), asked.happens(line))
        profile, profiles = _profile(line, setup, asked)
        trial = run_trial(setup, profile, asked.duration, min(max(asked.rows, 50), MOST_ROWS))
        meaning = judge(line, derived, trial)
    except BadEntry:
        raise
    except MainspringError as gap:
        return view.model_copy(update={"missing": gap.tellings}), ledger
    found = _traced(trial) | {
        "plant": PLANTS[setup.kind],
        "span": setup.config.sensor.high - setup.config.sensor.low,
        "knobs": [_knob(line, k, setup) for k in knobs_of(line)],
        "profiles": [ProfileView(id=p.id, label=p.label, duration=p.duration) for p in profiles],
        "meaning": [_meaning(ledger, i, m) for i, m in enumerate(meaning)],
        "totals": _totals(ledger, trial),
        "fits": parameters_of(setup),
    }
    return view.model_copy(update=found), ledger


def _blank(line: Line, figures: dict[str, FigureView], curves: CurvesView) -> LoopView:
    held, flow = line.held, "air_flow" if "fan" in line.traits else "flow"
    return LoopView(
        plant="",
        # a speed from outside holds nothing: its flow is looked at
        held="" if held is None else held.noun if held.dimension else "flow",
        dimension=None if held is None else held.dimension or flow,
        span=1.0,
        asked=_asked_words(line),
        knobs=[],
        profiles=[],
        profile="",
        duration=0.0,
        times=[],
        value=[],
        frequency=[],
        flow=[],
        flow_dimension=flow,
        taken=[],
        power=[],
        running=[],
        machines=1.0,
        events=[],
        happened=0,
        meaning=[],
        totals={},
        figures=figures,
        fits=[],
        sleeps="rests" in line.traits,
        stages="many_drives" in line.traits,
        loops="loop" in line.traits,
        two_setpoints=line.held is not None and f"second:{line.held.id}" in line.traits,
        missing="",
        curves=curves,
        base_frequency=line.value("motor.rated_frequency"),
    )


def _asked_words(line: Line) -> str:
    kind = line.held.id if line.held else ""
    if kind == "level":
        return "outflow" if line.value("control.effect") == "rise" else "inflow"
    words = {"flow": "flow", "temperature": "flow", "reference": "flow", "duct": "air taken", "differential": "flow"}
    return words.get(kind, "demand")


def _profile(line: Line, setup: Setup, asked: Asked) -> tuple[Profile, list[Profile]]:
    profiles = offered(line, setup)
    if asked.own:
        steps = own_steps(asked.own)
        return Profile("own", "As given", steps, max(600.0, steps[-1][0] + 60.0)), profiles
    chosen = next((p for p in profiles if p.id == asked.profile), None)
    if chosen is None:
        raise BadEntry("profile", asked.profile, ", ".join(p.id for p in profiles))
    return chosen, profiles


def _traced(trial: Trial) -> dict[str, Any]:
    places = 0 if trial.value.max(initial=0.0) > 1e4 else 5
    return {
        "profile": trial.profile.id,
        "duration": trial.duration,
        "times": trial.times.round(2).tolist(),
        "value": trial.value.round(places).tolist(),
        "frequency": trial.frequency.round(3).tolist(),
        "flow": trial.flow.round(7).tolist(),
        "taken": trial.taken.round(7).tolist(),
        "power": trial.power.round(1).tolist(),
        "running": trial.running.round(3).tolist(),
        "machines": max(trial.setup.config.set.machines, trial.setup.machines),
        "events": [EventView(time=e.time, name=e.name, why=why(e, trial)) for e in trial.events[:200]],
        "happened": trial.happened,
    }


def _meaning(ledger: Ledger, number: int, meaning: Meaning) -> MeaningView:
    verdict = meaning.verdict
    return MeaningView(
        severity=verdict.severity.word,
        title=verdict.title,
        because=ledger.sentence(Of.MEANING / number, verdict.because),
        do=ledger.sentence(Of.MEANING / number / "do", verdict.do),
        settings=list(meaning.settings),
    )


def _totals(ledger: Ledger, trial: Trial) -> dict[str, FigureView]:
    why = "summed over the simulated trial"
    told = {
        "energy": given("shaft_energy", trial.totals["energy"], "energy", why),
        "pumped": given("pumped", trial.totals["pumped"], "volume", why),
        "starts": given("starts", trial.totals["starts"], "count", why),
        "starts_an_hour": given("starts_an_hour", trial.starts_an_hour / 3600.0, "rate", why),
        "awake": given("awake", trial.totals["awake"], "time", why),
    }
    if trial.setup.config.plant.weight == 1.0:
        del told["pumped"]  # of air nobody asks how much there was
    return {n: ledger.figure(Of.MEANING / "total" / n, f) for n, f in told.items()}


def _knob(line: Line, knob: Knob, setup: Setup) -> KnobView:
    value = setup.knobs[knob.id]
    low, high, by_ratio = _reach(knob, value, setup)
    return present(
        None,
        KnobView,
        knob,
        dimension=dimension_of_knob(knob, line),
        value=value,
        low=min(low, value),
        high=max(high, value),
        by_ratio=by_ratio,
        setting=setting_of(knob, line),
    )


def _reach(knob: Knob, value: float, setup: Setup) -> tuple[float, float, bool]:
    """Ends of a slider: wide enough to feel what it does."""
    sensor = setup.config.sensor
    span = sensor.high - sensor.low
    match knob.dimension:
        case "frequency":
            return 0.0, setup.base, False
        case "gain" | "time" if value > 0 and knob.group != UNKNOWN:
            return max(value / 20, knob.least), min(value * 20, knob.most), True
        case "time":
            return 0.0, max(4 * value, 5.0), False
        case "percent":
            return 0.0, 0.01 if knob.id == "noise" else 1.0, False
    if knob.id in ("setpoint", "wake_at", "stop_level", "start_level"):
        return sensor.low + 0.02 * span, sensor.high - 0.02 * span, False
    if knob.id == "boost":
        return 0.0, 0.1 * span, False
    if knob.id == "stream":
        return value - 20.0, value + 20.0, False
    return 0.0, max(3 * value, {"volume": 0.5, "head": 10.0, "air_pressure": 200.0}.get(knob.dimension, 1.0)), False


def spread_view(line: Line, asked: Asked, tell: Tell) -> SpreadView:
    """The tuning on many plants.

    Raises Stopped when `tell` says so, NotKnown, NoSolution, BadEntry.
    """

    tried, derived, setup = ready(line, asked.moved)
    found = spread_of(tried, derived, setup, _profile(tried, setup, asked)[0], tell=tell)
    return present(
        None,
        SpreadView,
        found,
        times=found.times.round(2).tolist(),
        low=found.low.tolist(),
        high=found.high.tolist(),
        slow=found.low_frequency.round(2).tolist(),
        fast=found.high_frequency.round(2).tolist(),
    )


def search_view(line: Line, asked: Asked, tell: Tell) -> SearchView:
    """The best of many tunings.

    Raises Stopped when `tell` says so, NotKnown, NoSolution, BadEntry.
    """

    tried = with_setpoint(line, asked.moved)
    derived = Derived(tried)
    knobs = stands_at(tried, derived, asked.moved)
    if "gain" not in knobs:
        raise NoSolution("the speed comes from outside: there are no gains to seek")
    found = seek(tried, derived, knobs, tell=tell)
    return SearchView(
        best=_scored(found.best),
        present=_scored(found.present),
        others=[_scored(s) for s in found.others],
        candidates=found.candidates,
        tried_on=found.tried_on,
        stays=not found.best.moved,
    )


def _scored(scored: Scored) -> ScoredView:
    return present(None, ScoredView, scored)


def sleep_view(line: Line, asked: Asked) -> tuple[SleepView, Ledger]:
    """The sleep settings found on the model, or from what was read on site."""
    tried = with_setpoint(line, asked.moved)
    plan = find_sleep(tried, Derived(tried), asked.moved, asked.measured)
    ledger, key = Ledger(), Of.MEANING / "sleep"

    def rate(i: int, name: str, value: float) -> FigureView:
        return ledger.figure(key / i / name, given("starts", value, "rate", "counted in the simulated hours"))

    return (
        SleepView(
            steps=[
                SleepStep(title=t, words=ledger.sentence(key / f"step{i}", w)) for i, (t, w) in enumerate(plan.steps)
            ],
            settles=ledger.figure(key / "settles", plan.settled),
            hold_seen=ledger.figure(key / "hold", plan.hold_seen),
            moved={"low_limit": _held(plan.low_limit), "sleep_below": _held(plan.sleep_below)},
            leaks=[
                LeakView(
                    leak=ledger.figure(key / i / "leak", given("leak", leak.leak, "flow", "tried")),
                    seen=rate(i, "seen", leak.seen),
                    told=None if leak.told is None else ledger.figure(key / i / "told", leak.told),
                )
                for i, leak in enumerate(plan.leaks)
            ],
            tank=ledger.sentence(key / "tank", plan.tank),
            refit=ledger.sentence(key / "refit", plan.refit.words) if plan.refit else [],
            times=plan.closing.times.round(2).tolist(),
            value=plan.closing.value.round(0).tolist(),
            frequency=plan.closing.frequency.round(3).tolist(),
        ),
        ledger,
    )


def _held(frequency: float) -> float:
    """A frequency at the digits that a drive holds."""
    return round(float(frequency), 1)


def stages_view(line: Line) -> tuple[StagesView, Ledger]:
    """How many machines to run at each flow."""
    stages = stages_of(line, Derived(line))
    ledger = Ledger()
    return (
        StagesView(
            flow_dimension="air_flow" if "fan" in line.traits else "flow",
            flows=[
                FlowView(
                    flow=f.flow, ways=[WayView(count=w.count, frequency=w.frequency, power=w.power) for w in f.ways]
                )
                for f in stages.flows
            ],
            changes=[
                StageChange(
                    count=c.count,
                    words=ledger.sentence(Of.MEANING / "stages" / i, c.words),
                    overlaps=c.overlaps,
                    moved={"stage_on": _held(c.on), "stage_off": _held(c.off)},
                )
                for i, c in enumerate(stages.changes)
            ],
            at_top=stages.at_top,
            at_best=stages.at_best,
        ),
        ledger,
    )


def fitted_view(line: Line, asked: Asked, text: str, output: str, units: str, names: Sequence[str]) -> FittedView:
    """A log of time, value (in the reader's unit) and output (Hz or %), and the plant fitted to it."""

    times, told, outputs = read_step_test(text)
    held = line.held
    if held is None or held.dimension is None:
        raise NoSolution("the speed comes from outside: nothing is held that a log could be laid over")
    kind = DIMENSIONS[held.dimension]
    unit = kind.shown(units)
    full = 1.0 if output == "Hz" else float(line.motor.rated_frequency) / 100.0
    rows = [(t, unit.to_si(v), u * full) for t, v, u in zip(times, told, outputs, strict=True)]
    found = fit_log(line, Derived(line), asked.moved, rows, names)
    return present(
        None,
        FittedView,
        found,
        dimension=held.dimension,
        times=found.times.tolist(),
        measured=found.measured.tolist(),
        before=found.before.tolist(),
        after=found.after.tolist(),
        moved=[
            MovedView(
                id=m.id,
                label=m.label,
                dimension=dimension_of_knob(KNOBS[m.id], line) if m.id in KNOBS else "percent",
                was=m.was,
                now=m.now,
                within=m.within,
                at_bound=m.at_bound,
            )
            for m in found.moved
        ],
    )


def model_view(line: Line, asked: Asked) -> list[ModelView]:
    """The process at a small and at a large demand, by stepping the model, and every rule on it."""
    tried = with_setpoint(line, asked.moved)
    demands = DEMANDS[:1] if "holds:level" in line.traits else DEMANDS
    return [_modelled(tried, asked, demand) for demand in demands]


def _of_level(line: Line, asked: Asked) -> list[RuleView]:
    """Gains of a level by the pit, its sensor and the room that it has on either side."""
    _, _, setup = ready(line, asked.moved)
    c = setup.config
    span = c.sensor.high - c.sensor.low
    slope = level_slope_gain(setup.full, c.plant.area, span)
    ends = [abs(setup.knobs[n] - setup.knobs["setpoint"]) for n in ("start_level", "stop_level") if n in setup.knobs]
    room = min(ends, default=0.2 * span) / span
    return [rule_view(p) for p in level_proposals(float(slope), setup.knobs["dead_time"] + setup.knobs["lag"], room)]


def swing_view(relay: float, swing: float, hysteresis: float, period: float) -> list[RuleView]:
    """Gains from a swing that a relay or a limit cycle keeps up. Raises BadEntry."""
    return [rule_view(p) for p in swing_proposals(relay, swing, hysteresis, period)]


class FormView(BaseModel):
    """Gains as a drive of one form wants them."""

    id: str
    label: str
    gain: float | None
    proportional_band: float | None
    integral_time: float | None
    repeats_per_minute: float | None
    integral_gain: float | None
    derivative_time: float | None
    derivative_gain: float | None
    why: str


def forms_view(
    gain: float, integral_time: float, derivative_time: float, output_share: float, feedback_share: float
) -> list[FormView]:
    """The same controller in every form. Raises BadEntry."""
    found = in_drive_forms(gain, integral_time, derivative_time, output_share, feedback_share)
    return [FormView(**vars(form)) for form in found]


def _modelled(line: Line, asked: Asked, demand: float) -> ModelView:
    blank = ModelView(demand=demand, process_gain=0, time_constant=0, dead_time=0, explained=0, missing="", rules=[])
    try:
        if "holds:level" in line.traits:
            return blank.model_copy(update={"rules": _of_level(line, asked)})
        _, fit = bump(line, Derived(line), asked.moved, demand)
    except MainspringError as reason:
        return blank.model_copy(update={"missing": reason.tellings})
    return present(None, ModelView, fit, demand=demand, missing="", rules=rules_of(fit))
