"""Both alternatives over the year that a line is asked for, level by level, and what follows."""

from dataclasses import dataclass
from typing import Annotated

from mainspring.core.benches.savings.bill import Worth, worth_of
from mainspring.core.benches.savings.chain import WORDS, Chain, Part, chain_of, cube_gap
from mainspring.core.benches.savings.duty import YEAR, Asked, asked_of, year_hours
from mainspring.core.benches.savings.ways import State, Ways
from mainspring.core.derived import Derived
from mainspring.core.energy.annual import (
    avoided_emission,
    energy_of_profile,
    energy_saved,
    input_power,
    saving_fraction,
)
from mainspring.core.errors import MainspringError, NoSolution
from mainspring.core.hydraulics.affinity import cube_law_power
from mainspring.core.line import Line
from mainspring.core.method import DERIVED, Figure, In, as_figure, method
from mainspring.core.quantity import HourSecond, InputWatt, Joule


@method("E = P * t", DERIVED)
def level_energy(
    power: Annotated[InputWatt, In("", "P")], time: Annotated[HourSecond, In("spent there in a year", "t")]
) -> Joule:
    """Energy at one level of the profile.

    >>> float(level_energy(1000, 3600))
    3600000.0
    """
    return power * time


@dataclass(frozen=True)
class Level:
    """One flow level, both ways."""

    asked: Asked
    before: State
    now: State
    arrives: Figure  # power that the system itself takes
    saved: Figure
    cube_input: Figure
    cube_saved: Figure

    @property
    def flow(self) -> Figure:
        """The flow."""
        return self.asked.flow

    @property
    def hours(self) -> Figure:
        """Time there in a year."""
        return self.asked.hours


@dataclass(frozen=True)
class Left:
    """A level that no saving is claimed of, and why."""

    flow: Figure
    hours: Figure
    why: str


@dataclass(frozen=True)
class Savings:
    """The savings bench."""

    alternative: str
    levels: list[Level]
    refused: tuple[Left, ...]
    hours: Figure  # of the year that is claimed
    rest: float  # s of the year at which nothing is asked for
    spread: bool  # nothing is known of when it flows
    before: Figure
    now: Figure
    saved: Figure
    fraction: Figure
    cube_energy: Figure
    cube_saved: Figure
    cube_gap: tuple[Part, ...]  # what the cube law leaves out
    chains: tuple[Chain, Chain]
    demand_saved: Figure
    worth: Worth
    emission: Figure | None
    missing: tuple[str, ...]


def savings_of(line: Line, derived: Derived) -> Savings:
    """Both alternatives over the line's year.

    Raises NotKnown for a missing input and NoSolution where no level can be met at full speed.
    """
    asked = asked_of(line)
    ways = Ways(line, derived, asked[0].flow)
    levels, refused = _levels(ways, asked)
    hours_all = [level.hours for level in levels]
    before, now = [level.before.input for level in levels], [level.now.input for level in levels]
    taken, left = energy_of_profile(before, hours_all), energy_of_profile(now, hours_all)
    cube = energy_of_profile([level.cube_input for level in levels], hours_all)
    saved, hours = energy_saved(taken, left), year_hours(hours_all)
    worth = worth_of(line, [level.asked for level in levels], before, now, hours, saved)
    emission, missing = None, list(worth.missing)
    try:
        emission = avoided_emission(saved, line.site.emission_factor)
    except MainspringError as gap:
        missing.append(gap.tellings)
    return Savings(
        alternative=ways.alternative,
        levels=levels,
        refused=refused,
        hours=hours,
        rest=max(0.0, YEAR - float(hours) - sum(float(r.hours) for r in refused)),
        spread=all(level.asked.spread for level in levels),
        before=taken,
        now=left,
        saved=saved,
        fraction=saving_fraction(taken, left),
        cube_energy=cube,
        cube_saved=energy_saved(taken, cube),
        cube_gap=cube_gap(
            derived.machine.words.first_part,
            hours_all,
            [level.cube_input for level in levels],
            [level.now for level in levels],
            levels[0].now,
        ),
        chains=_chains(ways, levels, taken, left),
        demand_saved=as_figure(max(before) - max(now)),
        worth=worth,
        emission=emission,
        missing=tuple(dict.fromkeys(missing)),
    )


def _levels(ways: Ways, asked: list[Asked]) -> tuple[list[Level], tuple[Left, ...]]:
    """Each level both ways; one that cannot be met is left out, with its reason, and its hours are not claimed."""
    levels: list[Level] = []
    refused: list[Left] = []
    problem: NoSolution | None = None
    top: tuple[Figure, Figure] | None = None  # full flow and the input there, for the cube law
    for one in asked:
        try:
            before, now = ways.before(one.flow), ways.now(one.flow)
        except NoSolution as gap:
            problem = gap
            refused.append(Left(one.flow, one.hours, gap.tellings))
            continue
        top = top or (one.flow, now.input)
        cube = cube_law_power(top[1], one.flow, top[0])
        spent = level_energy(before.input, one.hours)
        levels.append(
            Level(
                asked=one,
                before=before,
                now=now,
                arrives=ways.machine.fluid_power(one.flow, ways.arrives(one.flow)),
                saved=energy_saved(spent, level_energy(now.input, one.hours)),
                cube_input=cube,
                cube_saved=energy_saved(spent, level_energy(cube, one.hours)),
            )
        )
    if not levels:
        raise problem or NoSolution("no level of the year can be met")
    return levels, tuple(refused)


def _chains(ways: Ways, levels: list[Level], taken: Figure, left: Figure) -> tuple[Chain, Chain]:
    machine, words = ways.machine, ways.machine.words
    hours = [level.hours for level in levels]
    arrives = [level.arrives for level in levels]
    needed = [machine.fluid_power(level.flow, ways.needed(level.flow)) for level in levels]
    held = [machine.fluid_power(level.flow, machine.useful_rise(ways.needed(level.flow))) for level in levels]
    throttle = {"throttle": words.throttle, "bypass": "bypass", "nothing": "too much flow", "on_off": "full flow"}
    lost = throttle.get(ways.alternative, "vanes")
    first = [
        ("motor", [level.before.mean(level.before.shaft) for level in levels]),
        (words.name, [level.before.mean(_made(ways, level.before)) for level in levels]),
        (lost, needed),
        (words.pipe, held),
    ]
    second = [
        ("drive", [level.now.mean(input_power(level.now.shaft, level.now.motor_efficiency)) for level in levels]),
        ("motor", [level.now.mean(level.now.shaft) for level in levels]),
        (words.name, [level.now.mean(_made(ways, level.now)) for level in levels]),
    ]
    made_now = second[-1][1]
    if any(abs(m - n) > 1e-6 * n for m, n in zip(made_now, needed, strict=True)):
        second.append(("setpoint", [min(m, n) for m, n in zip(made_now, needed, strict=True)]))
    last = [min(a, b) for a, b in zip(held, second[-1][1], strict=True)]
    second.append((words.pipe, last))
    return (
        chain_of("before", WORDS[ways.alternative], hours, taken, first, arrives, lost),
        chain_of("now", "Slowed", hours, left, second, arrives, "setpoint"),
    )


def _made(ways: Ways, state: State) -> Figure:
    """Power that one machine puts into the water or air."""
    return ways.machine.fluid_power(state.each, state.rise)
