"""A step test of a line's loop: the model it shows, every rule's gains on it, or why it is no use."""

from typing import Literal

from pydantic import BaseModel

from mainspring.core.benches.tuned import BEGIN_WITH, Proposal, proposals
from mainspring.core.control.step_test import StepFit, fit_step, second_opinions
from mainspring.core.errors import BadEntry
from mainspring.core.line import Line
from mainspring.core.quantity import DIMENSIONS
from mainspring.exchange.step_file import read_step_test
from mainspring.service.errors import BadRecord
from mainspring.service.opened import Opened
from mainspring.service.present import present

Output = Literal["Hz", "%"]


class FitView(BaseModel):
    """The process, with half widths of 95 % confidence."""

    process_gain: float
    gain_within: float
    time_constant: float
    time_constant_within: float
    dead_time: float
    dead_time_within: float
    explained: float
    noise: float
    warnings: list[str]


class OpinionView(BaseModel):
    """The same process read off another way."""

    way: str
    time_constant: float
    dead_time: float


class RuleView(BaseModel):
    """Gains by one rule in the ideal form, and what they leave of robustness."""

    id: str
    label: str
    why: str
    gain: float
    integral_time: float
    derivative_time: float
    gain_margin: float | None
    phase_margin: float | None
    sensitivity: float | None
    overshoot: float | None
    sound: bool


class StepTestView(BaseModel):
    """A test as read, the model laid over it, and the rules; `refused` says why it is no use."""

    times: list[float]
    values: list[float]  # in the core's unit
    outputs: list[float]  # share of full output
    fitted: list[float]
    dimension: str
    refused: str
    fit: FitView | None
    opinions: list[OpinionView]
    rules: list[RuleView]
    begin_with: str
    turned: bool  # more speed lowers what is held


def step_test(opened: Opened, text: str, output: Output, units: str) -> StepTestView:
    """The step test in a table, values in the reader's unit of what the line holds, outputs in Hz or %.

    Raises BadRecord for a table that cannot be read, or a line that holds nothing.
    """
    try:
        times, told, outputs = read_step_test(text)
        low, span, dimension = _range(opened.line)
        full = float(opened.line.motor.rated_frequency) if output == "Hz" else 100.0
    except BadEntry as problem:
        raise BadRecord({problem.field: problem}) from None
    unit = DIMENSIONS[dimension].shown(units)
    values = [unit.to_si(v) for v in told]
    shares = [(v - low) / span for v in values]
    parts = [u / full for u in outputs]
    view = StepTestView(
        times=times,
        values=values,
        outputs=parts,
        fitted=[],
        dimension=dimension,
        refused="",
        fit=None,
        opinions=[],
        rules=[],
        begin_with=BEGIN_WITH,
        turned=False,
    )
    try:
        fit = fit_step(times, shares, parts)
    except BadEntry as problem:
        return view.model_copy(update={"refused": problem.tellings})
    return view.model_copy(
        update={
            "fitted": [low + v * span for v in fit.fitted],
            "fit": _fit(fit),
            "opinions": [
                OpinionView(way=way, time_constant=float(seen.time_constant), dead_time=float(seen.dead_time))
                for way, seen in second_opinions(times, shares, fit).items()
            ],
            "rules": rules_of(fit),
            "turned": fit.process_gain < 0,
        }
    )


def rules_of(fit: StepFit) -> list[RuleView]:
    """Every rule's gains on a model, and what each leaves of robustness."""
    return [rule_view(p) for p in proposals(abs(fit.process_gain), fit.time_constant, fit.dead_time)]


def rule_view(p: Proposal) -> RuleView:
    """One rule's gains."""
    return present(
        None,
        RuleView,
        p,
        gain_margin=None if p.margins is None else float(p.margins.gain_margin),
        phase_margin=None if p.margins is None else float(p.margins.phase_margin),
        sensitivity=None if p.margins is None else float(p.margins.sensitivity),
    )


def _range(line: Line) -> tuple[float, float, str]:
    """Low end and span of the line's sensor, and the kind of quantity; NotKnown while they are not entered."""
    held = line.held
    if held is None or held.dimension is None:
        raise BadEntry("step test", "a line whose speed comes from outside", "a line that holds something")
    low, high = line.figure(held.range_low), line.figure(held.range_high)
    if high <= low:
        raise BadEntry("step test", "a sensor without a span", "a sensor's range")
    return float(low), float(high) - float(low), held.dimension


def _fit(fit: StepFit) -> FitView:
    return present(
        None,
        FitView,
        fit,
        gain_within=min(fit.gain_within, 1e6),
        time_constant_within=min(fit.time_constant_within, 1e6),
        dead_time_within=min(fit.dead_time_within, 1e6),
    )
