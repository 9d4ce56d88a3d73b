"""Curves of machine and system for the screen, the regions where nobody should run, and the point under a finger."""

from collections.abc import Callable
from typing import TypeVar

from pydantic import BaseModel

from mainspring.core import practice
from mainspring.core.assess import key_figures
from mainspring.core.control.sleep import frequency_of_speed
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError, NoSolution
from mainspring.core.hydraulics.affinity import speed_in_rpm
from mainspring.core.hydraulics.system_curve import setpoint_head
from mainspring.core.limits import Reason, highest_rules, lowest_rules
from mainspring.core.line import Line
from mainspring.core.method import Figure, given
from mainspring.core.sentence import Sentence, say
from mainspring.service.keys import Of
from mainspring.service.views import FigureView, Ledger
from mainspring.service.views import Part as SentencePart

T = TypeVar("T")

CURVE_POINTS = 41
SPEEDS = (1.0, 0.9, 0.8, 0.7, 0.6)

HELD_HEAD = Of.LINE / "held_head"


class CurveView(BaseModel):
    """A curve: flows and heads (or pressures), with what to write beside it."""

    label_frequency: float | None
    flows: list[float]
    rises: list[float]
    known_to: float | None = None  # flow of the last point entered; what lies beyond is drawn on


class RegionView(BaseModel):
    """A region where the machine should not run: its outline and the reason in words."""

    id: str
    flows: list[float]
    rises: list[float]
    words: list[SentencePart]


class CurvesView(BaseModel):
    """Machine and system at several speeds, the duty point, and where not to run."""

    machine: list[CurveView]
    system: CurveView | None
    held: FigureView | None
    duty_flow: FigureView | None
    duty_rise: FigureView | None
    duty_power: FigureView | None
    regions: list[RegionView]
    flow_dimension: str
    rise_dimension: str
    rise_name: str
    assumed: bool
    missing: str


class PointView(BaseModel):
    """What a point on the curves would take."""

    frequency: float
    speed: float
    shaft_power: float
    input_power: float
    reachable: bool
    warnings: list[str]


class Shape:
    """The machine's curve in the air or water of this place, pump and fan alike."""

    def __init__(self, line: Line, derived: Derived) -> None:
        self.line, self.derived = line, derived
        self.machine = derived.machine
        self.drawn, self.factor = self.machine.curve, self.machine.shape_factor
        self.c0 = float(self.drawn.c0) * self.factor
        self.base = float(line.motor.rated_frequency)
        self.assumed = not line.has(self.machine.words.curve)
        self.run_out = self.drawn.flow_at_share(0.15)

    def rise(self, flow: float, speed: float = 1.0) -> float:
        """Head or pressure at a flow and speed ratio."""
        return float(self.factor * speed * speed * self.drawn.plain(flow / speed))

    def flows(self, upto: float, start: float = 0.0) -> list[float]:
        """Evenly spaced flows."""
        return [start + (upto - start) * i / (CURVE_POINTS - 1) for i in range(CURVE_POINTS)]

    def curve(self, speed: float) -> CurveView:
        """The curve at a speed ratio."""
        flows = self.flows(self.run_out * speed)
        label = round(speed * self.base, 1)
        rises = [self.rise(q, speed) for q in flows]
        known = None if self.known_to is None else self.known_to * speed
        return CurveView(label_frequency=label, flows=flows, rises=rises, known_to=known)

    @property
    def known_to(self) -> float | None:
        """Flow of the last point entered, carried to full speed; None where the shape is assumed."""
        points = self.line.value(self.machine.words.curve)
        if not points:
            return None
        drawn_at = self.line.value("machine.curve_speed") or self.machine.rpm
        return float(max(q for q, _ in points) * self.machine.rpm / drawn_at)


def curves_view(line: Line, derived: Derived, ledger: Ledger) -> CurvesView:
    """Everything the curve chart draws; a reason in words while it cannot."""
    fan = "fan" in line.traits
    view = CurvesView(
        machine=[],
        system=None,
        held=None,
        duty_flow=None,
        duty_rise=None,
        duty_power=None,
        regions=[],
        flow_dimension="air_flow" if fan else "flow",
        rise_dimension="air_pressure" if fan else "head",
        rise_name="pressure" if fan else "head",
        assumed=False,
        missing="",
    )
    try:
        shape = Shape(line, derived)
    except MainspringError as gap:
        return view.model_copy(update={"missing": gap.tellings})
    figures = key_figures(derived)

    def shown(name: str) -> FigureView | None:
        figure = figures[name]
        return ledger.figure(Of.LINE / name, figure) if isinstance(figure, Figure) else None

    return view.model_copy(
        update={
            "machine": [shape.curve(s) for s in SPEEDS],
            "system": _or_none(lambda: _system(shape)),
            "held": _or_none(lambda: _held(shape, ledger)),
            "duty_flow": shown("duty_flow"),
            "duty_rise": shown("duty_head"),
            "duty_power": shown("duty_power"),
            "regions": _regions(shape, ledger),
            "assumed": shape.assumed,
        }
    )


def _or_none(make: Callable[[], T]) -> T | None:
    try:
        return make()
    except MainspringError:
        return None


def _held(shape: Shape, ledger: Ledger) -> FigureView | None:
    held = shape.machine.held
    return ledger.figure(HELD_HEAD, held) if held > 0 else None


def _system(shape: Shape) -> CurveView:
    derived, dimension = shape.derived, shape.machine.words.flow
    flows = shape.flows(shape.run_out)
    if "holds:pressure" in shape.line.traits:  # the open pipework; what is held is drawn as a level
        static, k = float(derived.pump.static_head), float(derived.pump.resistance)
        rises = [static + k * q * q for q in flows]
    else:
        rises = [float(derived.machine.required_head(given("flow", q, dimension))) for q in flows]
    return CurveView(label_frequency=None, flows=flows, rises=rises)


def _regions(shape: Shape, ledger: Ledger) -> list[RegionView]:
    makers = (_unstable, _below_hold, _below_lowest, _too_little, _too_much, _above_rating)
    found = []
    for make in makers:
        region = _or_none(lambda make=make: make(shape))  # type: ignore[misc]
        if region is not None:
            name, flows, rises, words = region
            parts = ledger.sentence(Of.REGION / name, words)
            found.append(RegionView(id=name, flows=flows, rises=rises, words=parts))
    return found


Region = tuple[str, list[float], list[float], Sentence]


def _unstable(shape: Shape) -> Region | None:
    """Left of its highest point a curve that droops has two flows for one rise."""
    peak, top = shape.drawn.peak
    if peak <= 0 or top < shape.drawn.c0 * (1 + practice.pump.DROOP_SHOWN):
        return None
    up = [i / 20 for i in range(21)]
    back = shape.flows(0.0, peak)
    return (
        "unstable",
        [*(peak * s for s in up), *back],
        [*(shape.rise(peak) * s * s for s in up), *(shape.rise(q) for q in back)],
        say("unstable: it rises with flow up to {flow}", flow=given("flow", peak, shape.machine.words.flow, "peak")),
    )


def _below_hold(shape: Shape) -> Region | None:
    speed = float(shape.derived.machine.hold_speed)
    if speed < 0.05:
        return None
    what = shape.machine.words.below_hold
    return _below(shape, "hold", speed, say("below {f} " + what, f=shape.derived.hold_frequency))


def _below_lowest(shape: Shape) -> Region | None:
    ruling: Reason = lowest_rules(shape.line, shape.derived)
    speed = float(ruling.figure) / shape.base
    if speed <= float(shape.derived.machine.hold_speed) * 1.005:
        return None
    return _below(shape, "lowest", speed, say("lowest speed {f}: " + ruling.words, f=ruling.figure))


def _below(shape: Shape, name: str, speed: float, words: Sentence) -> Region:
    flows = shape.flows(speed * shape.drawn.flow_at_share(0.0))  # down to the axis
    return name, [0.0, *flows, 0.0], [0.0, *(max(0.0, shape.rise(q, speed)) for q in flows), 0.0], words


def _region_limits(shape: Shape) -> tuple[float, float, float]:
    return float(shape.machine.best_flow), *shape.machine.words.region


def _too_little(shape: Shape) -> Region:
    best, share, _ = _region_limits(shape)
    edge = min(share * best, shape.run_out)
    up = [i / 20 for i in range(21)]
    back = shape.flows(0.0, edge)
    words = shape.machine.words.too_little
    return (
        "too_little",
        [*(edge * s for s in up), *back],
        [*(shape.rise(edge) * s * s for s in up), *(shape.rise(q) for q in back)],
        say(words + " {share} of best flow", share=given("share", share, "percent", "preferred region")),
    )


def _too_much(shape: Shape) -> Region | None:
    best, _, share = _region_limits(shape)
    edge = share * best
    if edge >= shape.run_out:
        return None
    up = [i / 20 for i in range(21)]
    along = shape.flows(shape.run_out, edge)
    return (
        "too_much",
        [*(edge * s for s in up), *along, shape.run_out],
        [*(shape.rise(edge) * s * s for s in up), *(shape.rise(q) for q in along), 0.0],
        say("run-out, above {share} of best flow", share=given("share", share, "percent", "preferred region")),
    )


def _above_rating(shape: Shape) -> Region | None:
    line, derived = shape.line, shape.derived
    if "fan" in line.traits or "holds:differential" in line.traits:
        return None
    height = derived.pump.static_head if "submersible" in line.traits else given("height", 0.0, "head")
    allowed = float(setpoint_head(line.system.pressure_rating, derived.pump.suction_pressure, height))
    if allowed >= shape.c0:
        return None
    flows = [q for q in shape.flows(shape.run_out) if shape.rise(q) >= allowed]
    return (
        "rating",
        [*flows, 0.0],
        [*(shape.rise(q) for q in flows), allowed],
        say("above the rating of {p}", p=line.system.pressure_rating),
    )


def draft_curves(line: Line) -> CurvesView:
    """The curves of a record being typed."""
    return curves_view(line, Derived(line), Ledger())


def point_view(line: Line, flow: float, rise: float) -> PointView:
    """Speed, power and warnings of a point dragged on the chart.

    Raises NotKnown while the curve cannot be told, NoSolution where no speed reaches the point.
    """
    derived = Derived(line)
    shape = Shape(line, derived)
    words = shape.machine.words
    at_flow, at_rise = given("flow", flow, words.flow, "dragged"), given("rise", rise, words.rise, "dragged")
    ratio = derived.machine.speed_for(at_flow, at_rise)
    if not 0 < ratio <= 2:
        raise NoSolution("no speed of this machine reaches that point")
    frequency = frequency_of_speed(ratio, line.motor.rated_frequency)
    shaft = derived.machine.shaft_power(at_flow, at_rise, ratio)
    rated = line.value("motor.rated_power")
    taken = _or_none(lambda: derived.input_power(shaft, with_drive=True)) if rated and shaft < 1.4 * rated else None
    return PointView(
        frequency=float(frequency),
        speed=float(speed_in_rpm(ratio, shape.machine.rpm)),
        shaft_power=float(shaft),
        input_power=float(taken) if taken is not None else 0.0,
        reachable=float(frequency) <= shape.base * 1.0005,
        warnings=_warnings(shape, flow, float(ratio), float(shaft)),
    )


def _warnings(shape: Shape, flow: float, speed: float, shaft: float) -> list[str]:
    line, derived = shape.line, shape.derived
    found = []
    rated = line.value("motor.rated_power")
    if rated is not None and shaft > rated:
        found.append("more shaft power than the motor gives")
    lowest = _or_none(lambda: lowest_rules(line, derived))
    highest = _or_none(lambda: highest_rules(line, derived))
    if lowest is not None and speed * shape.base < float(lowest.figure) * 0.999:
        found.append(f"below the lowest speed: {lowest.words}")
    if highest is not None and speed * shape.base > float(highest.figure) * 1.001:
        found.append(f"above the highest speed: {highest.words}")
    limits = _or_none(lambda: _region_limits(shape))
    if limits is not None and speed > 0:
        best, low, high = limits
        share = flow / (best * speed)
        if share < low:
            found.append(f"{share:.0%} of best flow at this speed: recirculation or stall")
        if share > high:
            found.append(f"{share:.0%} of best flow at this speed: run-out")
    return found
