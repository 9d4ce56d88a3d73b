"""What every judgement looks at, and what it makes."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from mainspring.core.checks.finding import Verdict, caution, clear
from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.method import Figure, given
from mainspring.core.sentence import Sentence
from mainspring.core.simulation import kernel
from mainspring.core.simulation.trial import Array, Trial

# common practice, no source
SETTLED_BAND = 0.03  # of the setpoint, of a pressure or flow
SETTLED_AIR = 0.05  # of the setpoint, of a duct or a circuit
SETTLED_SPAN = 0.02  # of the sensor's range, of a level or temperature
LEAST_STRETCH = 60.0  # s of one demand, in which a loop can be told to have settled
LEAST_WARM = 300.0  # s, of one that heats or cools

Mask = npt.NDArray[np.bool_]


@dataclass(frozen=True)
class Meaning:
    """One judgement, and the settings that it is about."""

    verdict: Verdict
    settings: tuple[str, ...] = ()


@dataclass(frozen=True)
class Looked:
    """What every judgement looks at."""

    line: Line
    derived: Derived
    trial: Trial
    dimension: str  # of what is held
    apart: str  # of a difference of it
    band: float

    @property
    def setpoint(self) -> float:
        """What was to be held."""
        return self.trial.setup.config.control.setpoint

    @property
    def wanted(self) -> Array:
        """What was to be held at each row: the first setpoint, or the second while its contact was made."""
        c, times = self.trial.setup.config.control, self.trial.times
        return np.where(times >= c.second_from, c.second, c.setpoint)

    def knob(self, name: str, dimension: str) -> Figure:
        """Where a knob stands."""
        return given(name, self.trial.setup.knobs[name], dimension, "as tried")

    def seen(self, name: str, value: float, dimension: str = "") -> Figure:
        """A number read off the trace."""
        return given(name, float(value), dimension or self.dimension, "read off the simulated trace")

    def difference(self, name: str, value: float) -> Figure:
        """A difference of what is held; at least what can be read."""
        c = self.trial.setup.config.sensor
        return self.seen(name, max(abs(float(value)), 2 * c.resolution), self.apart)

    def stretches(self) -> list[tuple[float, float, int]]:
        """Begin, end and number of each stretch of one demand that is long enough to settle in."""
        end, second = self.trial.duration, self.trial.setup.config.control.second_from
        starts = sorted({*(t for t, _ in self.trial.profile.steps), *([second] if second < end else [])})
        found = [(t, min(e, end), i) for i, (t, e) in enumerate(zip(starts, [*starts[1:], end], strict=True))]
        least = LEAST_WARM if self.trial.setup.kind == kernel.HEAT else LEAST_STRETCH
        return [(begin, last, i) for begin, last, i in found if last - begin >= least]

    def awake(self, begin: float, end: float) -> Mask:
        """Rows of a stretch in which it ran, controlled."""
        t = self.trial.times
        mask: Mask = (t >= begin) & (t < end) & (self.trial.frequency > 0.05)
        return mask


Judge = Callable[[Looked], Meaning | None]


def look(line: Line, derived: Derived, trial: Trial) -> Looked:
    held = line.held
    dimension = (held.dimension if held else None) or "frequency"
    apart = "temperature_difference" if dimension == "temperature" else dimension
    setpoint, sensor = trial.setup.config.control.setpoint, trial.setup.config.sensor
    share = SETTLED_AIR if line.applies(("holds:duct", "holds:differential")) else SETTLED_BAND
    wide = trial.setup.kind in (kernel.LEVEL, kernel.HEAT, kernel.ROOM)
    band = SETTLED_SPAN * (sensor.high - sensor.low) if wide else share * abs(setpoint)
    return Looked(line, derived, trial, dimension, apart, band)


def warn(title: str, because: Sentence, do: Sentence, *settings: str) -> Meaning:
    return Meaning(caution(title, because, do), settings)


def fine(title: str, because: Sentence) -> Meaning:
    return Meaning(clear(title, because))


def runs(mask: Mask) -> list[tuple[int, int]]:
    """First row and the one after the last of each unbroken run."""
    edges = np.flatnonzero(np.diff(np.concatenate(([0], mask.astype(np.int8), [0]))))
    return [(int(i), int(j)) for i, j in zip(edges[::2], edges[1::2], strict=True)]


def demand_at(trial: Trial, time: float) -> float:
    return next((q for t, q in reversed(trial.profile.steps) if t <= time), trial.profile.steps[0][1])


def loops(looked: Looked) -> bool:
    return looked.trial.setup.kind != kernel.OPEN


def rests(looked: Looked) -> bool:
    return looked.trial.setup.config.rest.by == kernel.BY_SPEED
