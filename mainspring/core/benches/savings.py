"""Throttled against slowed over a duty profile, with every loss counted, and the cube law beside it."""

from collections.abc import Callable
from dataclasses import dataclass

from mainspring.core.control.sleep import frequency_of_speed
from mainspring.core.derived import FULL_SPEED, Derived
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
from mainspring.core.method import DERIVED, Figure, as_figure, method
from mainspring.core.money.payback import net_present_value, simple_payback, yearly_money
from mainspring.core.quantity import HourSecond, InputWatt, Joule

YEARS, DISCOUNT, ESCALATION = 10, 0.06, 0.0  # shown beside the present value; the next issue makes them the site's


@method(id="level_energy", symbol="E", formula="P * t", symbols={"P": "power", "t": "time"}, source=DERIVED)
def level_energy(power: InputWatt, time: HourSecond) -> Joule:
    """Energy at one level of the profile.

    Parameters
    ----------
    power : [W]
    time : spent there in a year [s]

    Examples
    --------
    >>> float(level_energy(1000, 3600))
    3600000.0
    """
    return power * time


@dataclass(frozen=True)
class Level:
    """One flow level, both ways."""

    flow: Figure
    hours: Figure
    throttled_head: Figure
    throttled_shaft: Figure
    throttled_input: Figure
    speed_ratio: Figure
    frequency: Figure
    head: Figure
    shaft: Figure
    motor_efficiency: Figure
    drive_efficiency: Figure
    input: Figure
    saved: Figure
    cube_input: Figure
    cube_saved: Figure


@dataclass(frozen=True)
class Part:
    """A named part of a year's energy."""

    name: str
    energy: Figure


@dataclass(frozen=True)
class Chain:
    """Where the energy of one alternative goes in a year."""

    name: str
    taken: Figure
    losses: tuple[Part, ...]
    useful: Figure


@dataclass(frozen=True)
class Savings:
    """The savings bench."""

    levels: list[Level]
    throttled: Figure
    slowed: Figure
    saved: Figure
    fraction: Figure
    cube_energy: Figure
    cube_saved: Figure
    cube_gap: tuple[Part, ...]  # what the cube law leaves out
    chains: tuple[Chain, Chain]
    demand_saved: Figure
    money: Figure | None
    payback: Figure | None
    present_value: Figure | None
    emission: Figure | None
    missing: tuple[str, ...]


def savings_of(line: Line, derived: Derived) -> Savings:
    """Both alternatives over the line's duty profile.

    Raises NotKnown for a missing input and NoSolution where the pump cannot do a level at full speed.
    """
    profile = sorted(derived.machine.profile, key=lambda row: -row[0])
    for flow, _ in profile:
        _check_reachable(derived, flow)
    full_flow = profile[0][0]
    full_head = derived.machine.required_head(full_flow)
    full_speed = derived.machine.speed_for(full_flow, full_head)
    full_input = derived.input_power(derived.machine.shaft_power(full_flow, full_head, full_speed), with_drive=True)
    levels = [_level(derived, line, flow, hours, full_input, full_flow) for flow, hours in profile]
    hours_all = [level.hours for level in levels]
    throttled = energy_of_profile([level.throttled_input for level in levels], hours_all)
    slowed = energy_of_profile([level.input for level in levels], hours_all)
    cube = energy_of_profile([level.cube_input for level in levels], hours_all)
    saved = energy_saved(throttled, slowed)
    missing: list[str] = []
    money = _or_none(lambda: yearly_money(saved, line.site.energy_price), missing)
    return Savings(
        levels=levels,
        throttled=throttled,
        slowed=slowed,
        saved=saved,
        fraction=saving_fraction(throttled, slowed),
        cube_energy=cube,
        cube_saved=energy_saved(throttled, cube),
        cube_gap=_cube_gap(derived, levels),
        chains=(_throttled_chain(derived, levels, throttled), _slowed_chain(derived, levels, slowed)),
        demand_saved=as_figure(max(level.throttled_input for level in levels) - max(level.input for level in levels)),
        money=money,
        payback=_or_none(lambda: simple_payback(line.duty.cost, _need(money)), missing),
        present_value=_or_none(
            lambda: net_present_value(line.duty.cost, _need(money), DISCOUNT, ESCALATION, YEARS), missing
        ),
        emission=_or_none(lambda: avoided_emission(saved, line.site.emission_factor), missing),
        missing=tuple(dict.fromkeys(missing)),
    )


def _need(money: Figure | None) -> Figure:
    if money is None:
        raise NoSolution("the yearly saving is not known")
    return money


def _or_none(compute: Callable[[], Figure], missing: list[str]) -> Figure | None:
    try:
        return compute()
    except MainspringError as gap:
        missing.append(gap.both)
        return None


def _check_reachable(derived: Derived, flow: Figure) -> None:
    made, needed = derived.machine.head_at(flow, FULL_SPEED), derived.machine.required_head(flow)
    if made < needed * 0.9999:
        machine, unit = derived.machine.words.name, derived.machine.words.rise_unit
        raise NoSolution(
            f"at {float(flow) * 1000:.3g} L/s the {machine} makes {made:.3g} {unit} at full speed and"
            f" {needed:.3g} {unit} are needed: this level cannot be reached"
        )


def _level(derived: Derived, line: Line, flow: Figure, hours: Figure, full_input: Figure, full_flow: Figure) -> Level:
    throttled_head = derived.machine.head_at(flow, FULL_SPEED)
    head = derived.machine.required_head(flow)
    ratio = derived.machine.speed_for(flow, head)
    throttled_shaft = derived.machine.shaft_power(flow, throttled_head, FULL_SPEED)
    shaft = derived.machine.shaft_power(flow, head, ratio)
    throttled_input = derived.input_power(throttled_shaft, with_drive=False)
    taken = derived.input_power(shaft, with_drive=True)
    cube = cube_law_power(full_input, flow, full_flow)
    return Level(
        flow=flow,
        hours=hours,
        throttled_head=throttled_head,
        throttled_shaft=throttled_shaft,
        throttled_input=throttled_input,
        speed_ratio=ratio,
        frequency=frequency_of_speed(ratio, line.motor.rated_frequency),
        head=head,
        shaft=shaft,
        motor_efficiency=derived.motor_efficiency(shaft),
        drive_efficiency=derived.drive_efficiency(shaft),
        input=taken,
        saved=energy_saved(level_energy(throttled_input, hours), level_energy(taken, hours)),
        cube_input=cube,
        cube_saved=energy_saved(level_energy(throttled_input, hours), level_energy(cube, hours)),
    )


def _cube_gap(derived: Derived, levels: list[Level]) -> tuple[Part, ...]:
    """What the cube law leaves out, one loss after the other so that they add up to the whole gap."""
    top = levels[0]
    hours = [level.hours for level in levels]

    def energy(power: Callable[[Level], Figure]) -> Figure:
        return energy_of_profile([power(level) for level in levels], hours)

    cube = energy(lambda level: level.cube_input)
    hydraulic = energy(lambda level: input_power(level.shaft, top.motor_efficiency, top.drive_efficiency))
    with_motor = energy(lambda level: input_power(level.shaft, level.motor_efficiency, top.drive_efficiency))
    real = energy(lambda level: level.input)
    return (
        Part(derived.machine.words.first_part, energy_saved(hydraulic, cube)),
        Part("Motor at part load", energy_saved(with_motor, hydraulic)),
        Part("Drive at part load", energy_saved(real, with_motor)),
    )


def _chain(
    derived: Derived, name: str, levels: list[Level], taken: Figure, stages: list[tuple[str, Callable[[Level], Figure]]]
) -> Chain:
    """Where the energy of one alternative goes: `stages` give the power left after each loss."""
    hours = [level.hours for level in levels]
    machine = derived.machine
    stages = [
        *stages,
        (machine.words.pipe, lambda level: machine.fluid_power(level.flow, machine.useful_rise(level.head))),
    ]
    left = taken
    losses = []
    for loss, power in stages:
        after = energy_of_profile([power(level) for level in levels], hours)
        losses.append(Part(loss, energy_saved(left, after)))
        left = after
    return Chain(name, taken, tuple(losses), left)


def _throttled_chain(derived: Derived, levels: list[Level], taken: Figure) -> Chain:
    machine = derived.machine
    return _chain(
        derived,
        "Throttled",
        levels,
        taken,
        [
            ("motor", lambda level: level.throttled_shaft),
            (machine.words.name, lambda level: machine.fluid_power(level.flow, level.throttled_head)),
            (machine.words.throttle, lambda level: machine.fluid_power(level.flow, level.head)),
        ],
    )


def _slowed_chain(derived: Derived, levels: list[Level], taken: Figure) -> Chain:
    machine = derived.machine
    return _chain(
        derived,
        "Slowed",
        levels,
        taken,
        [
            ("drive", lambda level: input_power(level.shaft, level.motor_efficiency)),
            ("motor", lambda level: level.shaft),
            (machine.words.name, lambda level: machine.fluid_power(level.flow, level.head)),
        ],
    )
