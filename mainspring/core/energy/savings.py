"""Throttled against slowed over a duty profile, with every loss counted, and the cube law beside it."""

from collections.abc import Callable
from dataclasses import dataclass

from mainspring.core.control.sleep import frequency_of_speed
from mainspring.core.derived import FULL_SPEED, Derived
from mainspring.core.energy.annual import avoided_emission, energy_of_profile, energy_saved, saving_fraction
from mainspring.core.errors import MainspringError, NoSolution
from mainspring.core.hydraulics.affinity import cube_law_power
from mainspring.core.hydraulics.power import hydraulic_power
from mainspring.core.line import Line
from mainspring.core.method import DERIVED, Figure, method
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


@method(
    id="power_difference", symbol="dP", formula="P_1 - P_2", symbols={"P_1": "before", "P_2": "after"}, source=DERIVED
)
def power_difference(before: InputWatt, after: InputWatt) -> InputWatt:
    """Difference of two powers.

    Parameters
    ----------
    before : [W]
    after : [W]

    Examples
    --------
    >>> float(power_difference(3, 1))
    2.0
    """
    return before - after


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


@dataclass(frozen=True)
class Chain:
    """Where the energy of one alternative goes in a year."""

    name: str
    taken: Figure
    losses: tuple[tuple[str, float], ...]  # name, J
    useful: float


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
    cube_gap: tuple[tuple[str, float], ...]  # what the cube law leaves out, J a year
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
    profile = sorted(line.duty.profile, key=lambda row: -row[0])
    for flow, _ in profile:
        _check_reachable(derived, flow)
    full_flow = profile[0][0]
    full_head = derived.required_head(full_flow)
    full_speed = derived.speed_for(full_flow, full_head)
    full_input = derived.input_power(derived.shaft_power(full_flow, full_head, full_speed), with_drive=True)
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
        cube_gap=_cube_gap(levels),
        chains=(_throttled_chain(line, levels, throttled), _slowed_chain(line, levels, slowed)),
        demand_saved=power_difference(
            max(level.throttled_input for level in levels), max(level.input for level in levels)
        ),
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
        missing.append(str(gap))
        return None


def _check_reachable(derived: Derived, flow: Figure) -> None:
    made, needed = derived.head_at(flow, FULL_SPEED), derived.required_head(flow)
    if made < needed * 0.9999:
        raise NoSolution(
            f"at {float(flow) * 1000:.3g} L/s the pump makes {made:.3g} m at full speed and {needed:.3g} m are needed:"
            " this level cannot be reached"
        )


def _level(derived: Derived, line: Line, flow: Figure, hours: Figure, full_input: Figure, full_flow: Figure) -> Level:
    throttled_head = derived.head_at(flow, FULL_SPEED)
    head = derived.required_head(flow)
    ratio = derived.speed_for(flow, head)
    throttled_shaft = derived.shaft_power(flow, throttled_head, FULL_SPEED)
    shaft = derived.shaft_power(flow, head, ratio)
    throttled_input = derived.input_power(throttled_shaft, with_drive=False)
    taken = derived.input_power(shaft, with_drive=True)
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
        cube_input=cube_law_power(full_input, flow, full_flow),
    )


def _cube_gap(levels: list[Level]) -> tuple[tuple[str, float], ...]:
    """What the cube law leaves out, one loss after the other so that they add up to the whole gap."""
    top = levels[0]
    motor, drive = float(top.motor_efficiency), float(top.drive_efficiency)

    def energy(power: Callable[[Level], float]) -> float:
        return sum(power(level) * float(level.hours) for level in levels)

    cube = energy(lambda level: float(level.cube_input))
    hydraulic = energy(lambda level: level.shaft / (motor * drive))
    with_motor = energy(lambda level: level.shaft / (level.motor_efficiency * drive))
    real = energy(lambda level: float(level.input))
    return (
        ("Static head and pump efficiency", hydraulic - cube),
        ("Motor at part load", with_motor - hydraulic),
        ("Drive at part load", real - with_motor),
    )


def _losses(levels: list[Level], steps: list[tuple[str, Callable[[Level], float]]]) -> tuple[tuple[str, float], ...]:
    return tuple((name, sum(power(level) * float(level.hours) for level in levels)) for name, power in steps)


def _water(level: Level, head: float) -> float:
    return hydraulic_power(level.flow, head)


def _useful_head(line: Line, level: Level) -> float:
    return float(level.head) if line.line.application == "booster" else float(line.system.static_head)


def _throttled_chain(line: Line, levels: list[Level], taken: Figure) -> Chain:
    return Chain(
        "Throttled",
        taken,
        _losses(
            levels,
            [
                ("motor", lambda level: level.throttled_input - level.throttled_shaft),
                ("pump", lambda level: level.throttled_shaft - _water(level, level.throttled_head)),
                ("valve", lambda level: _water(level, level.throttled_head) - _water(level, level.head)),
                ("pipe", lambda level: _water(level, level.head) - _water(level, _useful_head(line, level))),
            ],
        ),
        sum(_water(level, _useful_head(line, level)) * float(level.hours) for level in levels),
    )


def _slowed_chain(line: Line, levels: list[Level], taken: Figure) -> Chain:
    return Chain(
        "Slowed",
        taken,
        _losses(
            levels,
            [
                ("drive", lambda level: level.input * (1 - level.drive_efficiency)),
                ("motor", lambda level: level.shaft / level.motor_efficiency - level.shaft),
                ("pump", lambda level: level.shaft - _water(level, level.head)),
                ("pipe", lambda level: _water(level, level.head) - _water(level, _useful_head(line, level))),
            ],
        ),
        sum(_water(level, _useful_head(line, level)) * float(level.hours) for level in levels),
    )
