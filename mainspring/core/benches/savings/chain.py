"""Where the energy of each alternative goes, what share arrives, and what the cube law leaves out."""

from collections.abc import Callable
from dataclasses import dataclass
from typing import Annotated

from mainspring.core.benches.savings.ways import State
from mainspring.core.energy.annual import energy_of_profile, energy_saved, input_power
from mainspring.core.method import DERIVED, Figure, In, method
from mainspring.core.quantity import Joule, Percent

WORDS = {
    "throttle": "Throttled",
    "vanes": "Inlet vanes",
    "bypass": "Bypassed",
    "on_off": "Switched",
    "nothing": "Uncontrolled",
}


@method("eta_sys = E_u / E", DERIVED)
def whole_efficiency(
    useful: Annotated[
        Joule, In("what the system itself takes with nothing throttled and nothing held beyond need", "E_u", atleast=0)
    ],
    taken: Annotated[Joule, In("at the supply", "E", above=0)],
) -> Percent:
    """Efficiency of the whole over a year: what arrives over what is taken.

    >>> float(whole_efficiency(3.0, 10.0))
    0.3
    """
    return useful / taken


@dataclass(frozen=True)
class Part:
    """A named part of a year's energy."""

    name: str
    energy: Figure


@dataclass(frozen=True)
class Chain:
    """Where the energy of one alternative goes in a year."""

    id: str
    name: str
    taken: Figure
    losses: tuple[Part, ...]
    useful: Figure
    throttled: Figure  # lost at the valve, damper, vanes or bypass
    efficiency: Figure  # of the whole


def chain_of(
    id: str,
    name: str,
    hours: list[Figure],
    taken: Figure,
    stages: list[tuple[str, list[Figure]]],
    arrives: list[Figure],
    throttle: str,
) -> Chain:
    """A chain from the mean powers left after each loss; `arrives` is what the system itself takes."""
    left = taken
    losses = []
    for loss, powers in stages:
        after = energy_of_profile(powers, hours)
        losses.append(Part(loss, energy_saved(left, after)))
        left = after
    whole = energy_of_profile(arrives, hours)
    valve = sum((p.energy for p in losses if p.name == throttle), start=energy_saved(taken, taken))
    return Chain(id, name, taken, tuple(losses), left, valve, whole_efficiency(whole, taken))


def cube_gap(
    first_part: str, hours: list[Figure], cube: list[Figure], now: list[State], top: State
) -> tuple[Part, ...]:
    """What the cube law leaves out, one loss after the other so that they add up to the whole gap."""

    def energy(power: Callable[[State], Figure]) -> Figure:
        return energy_of_profile([power(state) for state in now], hours)

    from_cube = energy_of_profile(cube, hours)
    hydraulic = energy(lambda s: s.mean(input_power(s.shaft, top.motor_efficiency, top.drive_efficiency)))
    with_motor = energy(lambda s: s.mean(input_power(s.shaft, s.motor_efficiency, top.drive_efficiency)))
    real = energy(lambda s: s.input)
    return (
        Part(first_part, energy_saved(hydraulic, from_cube)),
        Part("Motor at part load", energy_saved(with_motor, hydraulic)),
        Part("Drive at part load", energy_saved(real, with_motor)),
    )
