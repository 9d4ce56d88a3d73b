"""What every machine answers, pump or fan: the rest of the core asks without knowing which it is."""

from abc import ABC, abstractmethod
from collections.abc import Mapping
from dataclasses import dataclass
from functools import cached_property
from typing import Any, ClassVar

from mainspring.core.line import Line
from mainspring.core.machine.rise import RiseCurve
from mainspring.core.method import Figure
from mainspring.core.practice import Band


@dataclass(frozen=True)
class Words:
    """What the trade calls the machine and what is round it, and in which kinds of quantity it is told."""

    name: str
    throttle: str
    pipe: str
    flow: str  # dimension
    rise: str  # dimension
    rise_unit: str
    curve: str  # field of its curve
    first_part: str  # of what keeps a saving below the cube law
    hold_why: str  # why it may not run slower than what holds
    below_hold: str  # what happens there
    too_little: str  # what happens left of its preferred region
    region: Band  # preferred, as shares of best flow
    other_speed: str  # what to do about a curve drawn for another speed


class Machine(ABC):
    """Figures of one machine on its system; a missing input raises NotKnown.

    A rise is a head of the liquid for a pump and a pressure of the air for a fan.
    """

    words: ClassVar[Words]
    line: Line

    @cached_property
    @abstractmethod
    def curve(self) -> RiseCurve:
        """Rise over flow at full speed."""

    @cached_property
    @abstractmethod
    def rpm(self) -> Figure:
        """Its speed while the motor runs at full-load speed."""

    shape_factor: float = 1.0  # of the curve in the medium of this place over the curve as printed

    @property
    def lifts(self) -> bool:
        """Whether there is anything to be made before it moves anything."""
        return True

    @abstractmethod
    def useful_rise(self, rise: Figure) -> Figure:
        """What of a rise is of use: the rest is lost in pipe or duct."""

    def at_motor(self, inertia: Figure) -> Figure:
        """Its inertia as the motor feels it."""
        return inertia

    @cached_property
    @abstractmethod
    def best_flow(self) -> Figure:
        """Flow at best efficiency at full speed."""

    @cached_property
    @abstractmethod
    def held(self) -> Figure:
        """Rise that must be overcome at no flow."""

    @cached_property
    @abstractmethod
    def hold_speed(self) -> Figure:
        """Speed ratio that holds what is held and moves nothing."""

    @abstractmethod
    def required_head(self, flow: Figure) -> Figure:
        """Rise that has to be made at a flow while the loop holds."""

    @abstractmethod
    def least_rise(self, flow: Figure) -> Figure:
        """Rise that the system itself takes at a flow: nothing held, nothing throttled."""

    @abstractmethod
    def flow_at(self, speed_ratio: Figure) -> Figure:
        """Flow at a speed into the open system."""

    @abstractmethod
    def flow_or_none_at(self, speed_ratio: Figure) -> Figure:
        """Flow at a speed, also at one that moves nothing."""

    @abstractmethod
    def speed_for(self, flow: Figure, rise: Figure) -> Figure:
        """Speed ratio that gives a rise at a flow."""

    @abstractmethod
    def head_at(self, flow: Figure, speed_ratio: Figure) -> Figure:
        """Rise at a flow and speed."""

    @abstractmethod
    def shaft_power(self, flow: Figure, rise: Figure, speed_ratio: Figure) -> Figure:
        """Shaft power at a flow, rise and speed."""

    @abstractmethod
    def fluid_power(self, flow: Figure, rise: Figure) -> Figure:
        """Power in the water or air."""

    @abstractmethod
    def shown_at_outlet(self, rise: Figure) -> Figure:
        """What is read where the step-up reads it."""

    @property
    @abstractmethod
    def promised(self) -> Mapping[str, Any]:
        """What survey and plate promise of it and its system, as the fields of `known.Facts` of those names."""

    @property
    @abstractmethod
    def profile(self) -> tuple[tuple[Figure, ...], ...]:
        """Hours at each flow."""
