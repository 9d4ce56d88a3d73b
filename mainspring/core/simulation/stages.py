"""How many alike machines to run: least energy at each flow, and the speeds at which one more comes and one goes."""

from dataclasses import dataclass

from mainspring.core import practice
from mainspring.core.control.sleep import frequency_of_speed
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError, NoSolution
from mainspring.core.line import Line
from mainspring.core.method import Figure, given
from mainspring.core.ratios import split_between
from mainspring.core.sentence import Sentence, say

LEVELS = 40  # flows looked at, from a little to all that they can
HYSTERESIS = 1.0  # Hz, between the speed after a change and the one that undoes it; common practice, no source


@dataclass(frozen=True)
class Way:
    """So many machines at one flow."""

    count: int
    frequency: float
    power: float  # W, electrical, all of them


@dataclass(frozen=True)
class Flow:
    """One flow and the ways to bring it, the least energy first."""

    flow: float
    ways: tuple[Way, ...]


@dataclass(frozen=True)
class Change:
    """From so many machines to one more: where it is worth it, and the speeds that do it."""

    count: int
    flow: Figure
    on: Figure  # speed of those that run when one more is worth it
    after: Figure  # speed of all right after it
    off: Figure  # speed at which the last goes again
    words: Sentence
    overlaps: bool


@dataclass(frozen=True)
class Stages:
    """The energy question of a set, answered."""

    flows: tuple[Flow, ...]
    changes: tuple[Change, ...]
    at_top: float  # W, mean over the flows, when another comes only at the highest speed
    at_best: float  # W, mean over the flows, by the changes found


def stages_of(line: Line, derived: Derived) -> Stages:
    """Work it out.

    Raises
    ------
    NoSolution : one machine only
    NotKnown : the record lacks a value
    """
    count = int(line.value("machine.count") or 1)
    if "many_drives" not in line.traits or count < 2:
        raise NoSolution("one machine: there is nothing to share")
    dimension = "air_flow" if "fan" in line.traits else "flow"
    most = _most(derived, count, dimension)
    flows = tuple(
        Flow(q, ways)
        for i in range(1, LEVELS + 1)
        if (ways := _ways(line, derived, q := most * i / LEVELS, count, dimension))
    )
    if not flows:
        raise NoSolution("no flow can be brought at what is held: check curve, setpoint and speeds")
    changes = tuple(made for n in range(1, count) if (made := _change(line, derived, flows, n, dimension)) is not None)
    best = sum(f.ways[0].power for f in flows) / len(flows)
    top = sum(min(f.ways, key=lambda w: w.count).power for f in flows) / len(flows)
    return Stages(flows, changes, top, best)


def _most(derived: Derived, count: int, dimension: str) -> float:
    """All that they can bring at full speed at what is held, by halving."""
    low, high = 0.0, 2.0 * float(derived.machine.best_flow)
    for _ in range(40):
        middle = 0.5 * (low + high)
        try:
            fits = _speed(derived, middle, count, dimension) <= 1.0
        except MainspringError:
            fits = False
        low, high = (middle, high) if fits else (low, middle)
    return 0.999 * low * count


def _speed(derived: Derived, each: float, count: int, dimension: str) -> Figure:
    machine = derived.machine
    return machine.speed_for(given("flow", each, dimension), _rise(derived, each * count, dimension))


def _rise(derived: Derived, flow: float, dimension: str) -> Figure:
    """Rise at a flow of all: the record's figures are those of one, beside as many like it."""
    shares = float(derived.line.value("machine.count") or 1.0)
    return derived.machine.required_head(given("flow", flow / shares, dimension))


def _ways(line: Line, derived: Derived, flow: float, count: int, dimension: str) -> tuple[Way, ...]:
    base = float(line.motor.rated_frequency)
    found = []
    for n in range(1, count + 1):
        each = split_between(given("flow", flow, dimension), given("machines", float(n), "count"))
        try:
            ratio = _speed(derived, float(each), n, dimension)
            if ratio > 1.0:
                continue
            rise = _rise(derived, flow, dimension)
            shaft = derived.machine.shaft_power(each, rise, ratio)
            found.append(Way(n, float(ratio) * base, n * float(derived.input_power(shaft, with_drive=True))))
        except MainspringError:
            continue  # too little for each to be a number
    return tuple(sorted(found, key=lambda w: w.power))


def _change(line: Line, derived: Derived, flows: tuple[Flow, ...], n: int, dimension: str) -> Change | None:
    """Where one more than n is better from there on."""
    found = next((f for f in flows if _better(f, n)), None)
    if found is None:
        return None
    before = next((w for w in found.ways if w.count == n), None)
    after = next(w for w in found.ways if w.count == n + 1)
    base = line.motor.rated_frequency
    top = given("top", float(base) - float(practice.loop.STAGE_BELOW_TOP), "frequency", "just below the highest")
    on = (
        top
        if before is None
        else given("stage_on", min(before.frequency, float(top)), "frequency", "where it is worth")
    )
    hold = frequency_of_speed(derived.machine.hold_speed, base)
    least = given("stage_off", max(after.frequency - HYSTERESIS, float(hold)), "frequency", "below the speed after it")
    flow, settles = given("flow", found.flow, dimension), given("after", after.frequency, "frequency", "all of them")
    overlaps = float(least) >= after.frequency - 0.3
    figures = {"flow": flow, "more": given("machines", float(n + 1), "count"), "on": on, "after": settles, "off": least}
    words = say(
        "Up to {flow} without it. Another comes at {on}; all stand at {after} right after; the last goes below {off}."
        if before is None
        else "{more} bring {flow} and more with less: those that run stand at {on} then, all at {after} right after;"
        " the last goes below {off}.",
        **figures,
    )
    return Change(n + 1, flow, on, settles, least, words, overlaps)


def _better(flow: Flow, n: int) -> bool:
    fewer = [w.power for w in flow.ways if w.count <= n]
    more = next((w.power for w in flow.ways if w.count == n + 1), None)
    return more is not None and (not fewer or more < min(fewer))
