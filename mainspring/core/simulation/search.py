"""The best of many tunings: candidates about the present one, each run for an hour, scored, and what was traded."""

from collections.abc import Callable, Mapping
from dataclasses import dataclass, replace
from itertools import islice

import numpy as np

from mainspring.core.benches.tuned import LEAST_GAIN_MARGIN, LEAST_PHASE_MARGIN
from mainspring.core.control.margins import Margins
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError, NoSolution, check_range
from mainspring.core.line import Line
from mainspring.core.line.on_site import SAME
from mainspring.core.simulation.demand import Profile, Steps
from mainspring.core.simulation.judge import faults_of
from mainspring.core.simulation.judge.margin import Process, margins_on, processes_of
from mainspring.core.simulation.plants import Setup, set_up
from mainspring.core.simulation.spread import Stopped, Tell, drawn, goes_on, told_of
from mainspring.core.simulation.trial import Trial, offered, run_trial

CANDIDATES = 500
HOUR = 3600.0
REACH = 32.0  # the gain and the integral time are sought within so many times of the present ones, either way
MOVEMENT_WEIGHT = 0.35  # of the speed's movement against the error, both as shares of the present tuning's
FAULT = 10.0  # each fault of a trial costs as much as this many present tunings
FINALISTS, TRIED_ON = 8, 12  # the best are run on so many drawn plants before one is chosen
PROMISING, FIRST_ON = 48, 2  # and before that more of them on fewer: one plant alone would choose the lucky
WORTH = 0.9  # a change that gains less than a tenth is not worth it
SOUGHT = ("gain", "integral_time")


@dataclass(frozen=True)
class Scored:
    """A tuning and what it came to: shares of the present tuning's error and movement; faults by title."""

    moved: Mapping[str, float]
    cost: float
    error: float
    movement: float
    faults: tuple[str, ...]
    holds: int = 0  # of the drawn plants it was tried on
    margins: Margins | None = None  # on the plant as it stands; None where it has none to tell


@dataclass(frozen=True)
class Found:
    """The best of a search beside the present tuning."""

    best: Scored
    present: Scored
    others: tuple[Scored, ...]
    candidates: int
    tried_on: int


def seek(
    line: Line,
    derived: Derived,
    knobs: Mapping[str, float],
    candidates: int = CANDIDATES,
    tell: Tell = goes_on,
    seed: int = 11,
) -> Found:
    """Seek gain and integral time: each candidate is run for an hour, the best few on drawn plants too.

    Raises
    ------
    Stopped : when `tell` says so
    NotKnown, NoSolution : the line cannot be tried
    """
    check_range("candidates", candidates, atleast=10, upto=5000)
    setup = set_up(line, derived, knobs)
    hour = hour_of(offered(line, setup))
    quick = _coarse(setup)
    offers = [dict[str, float](), *_offers(knobs, candidates - 1, seed)]

    def one(offer: dict[str, float]) -> tuple[Trial, tuple[str, ...]]:
        trial = run_trial(with_gains(quick, offer), hour, rows=900)
        return trial, tuple(faults_of(line, derived, trial))

    ran = list(told_of(one, offers, tell))
    present = ran[0][0].totals
    scored = [_score(offer, trial, faults, present) for offer, (trial, faults) in zip(offers, ran, strict=True)]
    ranked = sorted(scored, key=lambda s: s.cost)

    def on_drawn(few: list[Scored], plants: int) -> list[Scored]:
        return _on_drawn(line, derived, setup, few, plants, lambda: tell(candidates, candidates))

    processes = _processes(setup)  # no gain moves them
    measured = (replace(s, margins=_margins(processes, with_gains(setup, s.moved))) for s in ranked)
    present_one = replace(scored[0], margins=_margins(processes, setup))
    promising = list(islice((s for s in measured if _keeps_margin(s, present_one)), PROMISING))
    tough = sorted(on_drawn(promising, FIRST_ON), key=lambda s: (-s.holds, s.cost))
    finalists = on_drawn([*tough[:FINALISTS], present_one], TRIED_ON)
    kept = finalists[-1]
    best = min(finalists[:-1], key=lambda s: (-s.holds, s.cost), default=kept)
    if best.holds <= kept.holds and best.cost > WORTH * kept.cost:
        best = kept
    return Found(best, kept, tuple(finalists[:-1]), candidates, TRIED_ON)


def _processes(setup: Setup) -> tuple[Process, ...]:
    try:
        return processes_of(setup)
    except MainspringError:
        return ()  # it cannot be stepped: no tuning has a margin to tell


def _margins(processes: tuple[Process, ...], setup: Setup) -> Margins | None:
    try:
        return margins_on(processes, setup.config.control)
    except NoSolution:
        return Margins(0.0, 0.0, float("inf"))


def _keeps_margin(offer: Scored, kept: Scored) -> bool:
    """Whether a tuning leaves as much margin as the present one, or as much as a sound loop has."""
    if offer.margins is None or kept.margins is None:
        return True
    return offer.margins.gain_margin >= min(kept.margins.gain_margin, LEAST_GAIN_MARGIN) * (
        1 - SAME
    ) and offer.margins.phase_margin >= min(kept.margins.phase_margin, LEAST_PHASE_MARGIN) * (1 - SAME)


def with_gains(setup: Setup, moved: Mapping[str, float]) -> Setup:
    """The setup with another gain and integral time."""
    control = setup.config.control._replace(**{name: float(moved[name]) for name in SOUGHT if name in moved})
    return replace(setup.but(control=control), knobs={**setup.knobs, **moved})


def hour_of(profiles: list[Profile]) -> Profile:
    """The usual profile gone through again and again for an hour; a longer one made to fit into it."""
    usual = profiles[0]
    steps: list[tuple[float, float]] = []
    if usual.duration > HOUR:
        steps = [(t * HOUR / usual.duration, q) for t, q in usual.steps]
    for i in range(int(HOUR / usual.duration)):
        steps += [(t + i * usual.duration, q) for t, q in usual.steps]
    told: Steps = tuple(steps)
    return Profile("hour", "An hour", told, HOUR)


def _coarse(setup: Setup) -> Setup:
    """With half the sub-steps, which is near enough to tell tunings apart."""
    plant = setup.config.plant
    return setup.but(plant=plant._replace(substeps=max(1.0, plant.substeps / 2)))


def _offers(knobs: Mapping[str, float], count: int, seed: int) -> list[dict[str, float]]:
    """Gains and integral times, evenly spread by their logarithm about the present ones (a Latin square)."""
    rng = np.random.default_rng(seed)
    places = np.stack([(rng.permutation(count) + rng.random(count)) / count for _ in SOUGHT])
    factors = REACH ** (2.0 * places - 1.0)
    return [
        {
            name: round_to_three(float(np.clip(knobs[name] * factor, *_BOUNDS[name])))
            for name, factor in zip(SOUGHT, column, strict=True)
        }
        for column in factors.T
    ]


_BOUNDS = {"gain": (0.01, 200.0), "integral_time": (1.0, 3600.0)}  # what drives take and technicians trust


def round_to_three(value: float) -> float:
    """As many digits as a drive can hold."""
    return float(f"{value:.3g}")


def _score(offer: Mapping[str, float], trial: Trial, faults: tuple[str, ...], present: Mapping[str, float]) -> Scored:
    error = trial.totals["error"] / max(present["error"], 1e-12)
    movement = trial.totals["movement"] / max(present["movement"], 1e-12)
    cost = error + MOVEMENT_WEIGHT * movement + FAULT * len(faults)
    return Scored(offer, cost, error, movement, faults)


def _on_drawn(
    line: Line, derived: Derived, setup: Setup, few: list[Scored], count: int, goes_on: Callable[[], bool]
) -> list[Scored]:
    """The few with how many drawn plants each holds."""
    usual = offered(line, setup)[0]
    plants = [drawn(setup, usual, np.random.default_rng(100 + i)) for i in range(count)]

    def one(scored: Scored) -> Scored:
        holds = 0
        for plant, profile, noise in plants:
            trial = run_trial(with_gains(_coarse(plant), scored.moved), profile, noise=noise, rows=600)
            holds += not faults_of(line, derived, trial)
        return replace(scored, holds=holds)

    return list(told_of(one, few, lambda _done, _of: goes_on()))


__all__ = ["CANDIDATES", "Found", "Scored", "Stopped", "seek", "with_gains"]
