"""The sleep settings found as on site (JOB: valve shut, wait, note, one hertz above …), on the model; then by reading.

The model predicts the frequency that holds at no demand, and from it the low limit, the sleep frequency, boost and
wake, and how often leaks of several sizes would start the drive. Once the frequency has been read on site the plant is
fitted to it.
"""

from collections.abc import Mapping
from dataclasses import dataclass

import numpy as np

from mainspring.core import practice
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError, NoSolution, check_range
from mainspring.core.hydraulics.hold import lift_by_hold, shutoff_by_hold
from mainspring.core.hydraulics.tank import starts_per_hour_on_leak, tank_drawdown, tank_volume_for_run
from mainspring.core.line import Line
from mainspring.core.method import Figure, given
from mainspring.core.quantity import WATER_20C, G
from mainspring.core.sentence import Sentence, say
from mainspring.core.simulation import kernel
from mainspring.core.simulation.demand import Profile
from mainspring.core.simulation.judge import USUAL_STARTS
from mainspring.core.simulation.knobs import stands_at
from mainspring.core.simulation.plants import Setup, set_up
from mainspring.core.simulation.trial import Trial, run_trial

CLOSES_AT = 60.0  # s, demand before the valve is shut
WAITS = 900.0  # s, till the frequency has settled
TRICKLE = 2e-3  # of full demand, through seats and seals: with none at all the check valve traps the pressure
LEAKS = (0.25, 0.5, 1.0, 2.0, 4.0, 8.0)  # times the leak of the record
SEEN = 6.0  # starts that a trial should see
USUAL_LEAK = 0.002  # of full demand, where the record has none


@dataclass(frozen=True)
class LeakStarts:
    """How often a leak starts the drive: by running it, and by the tank's drawdown."""

    leak: float
    seen: float  # 1/s, in the trial
    told: Figure | None  # by the tank's drawdown, where there is a tank


@dataclass(frozen=True)
class Refit:
    """What a read hold frequency says of the plant: one of two things is off, by so much."""

    model: Figure
    read: Figure
    shutoff: Figure
    lift: Figure
    words: Sentence


@dataclass(frozen=True)
class SleepPlan:
    """The settings found, step by step, and what they do."""

    steps: tuple[tuple[str, Sentence], ...]
    hold_seen: Figure  # settled on the simulated plant, the valve shut
    settled: Figure  # time that it took
    hold: Figure  # what is gone on with: read on site, else settled here
    low_limit: Figure
    sleep_below: Figure
    boost: Figure
    wake_at: Figure
    leaks: tuple[LeakStarts, ...]
    tank: Sentence
    refit: Refit | None
    closing: Trial


def find_sleep(line: Line, derived: Derived, moved: Mapping[str, float], measured: float | None = None) -> SleepPlan:
    """Find the sleep settings on the model, or go on from the frequency that was read on site.

    Raises
    ------
    NoSolution : the line does not rest, or cannot hold its setpoint
    NotKnown : the record lacks a value
    OutOfRange : a measured frequency that cannot be
    """
    if "rests" not in line.traits:
        raise NoSolution("this line does not stop at no demand: it has no sleep settings")
    knobs = stands_at(line, derived, moved)
    setup = set_up(line, derived, knobs)
    refit = None
    if measured is not None:
        check_range("measured frequency in Hz", measured, above=1, upto=1.2 * setup.base)
        refit = _refitted(line, derived, setup, measured)
        plant = setup.config.plant
        setup = setup.but(plant=plant._replace(c0=float(refit.shutoff)))
    closing, seen, settled = _shut(setup)
    hold = (
        given("hold_frequency", measured, "frequency", "read on site, the valve shut") if measured is not None else seen
    )
    low = derived.low_limit_above(hold)
    floor = _floor(line, derived, low)
    below = derived.sleep_for(low, floor, lambda: hold)
    boost = given("boost", knobs["boost"], "pressure", "as it stands")
    wake = given("wake_at", knobs["wake_at"], "pressure", "as it stands")
    found = {**knobs, "low_limit": float(low), "sleep_below": float(below)}
    resting = set_up(line, derived, found)
    resting = resting.but(plant=setup.config.plant._replace(c0=setup.config.plant.c0))
    leaks = tuple(_leak_starts(resting, found, q) for q in _leaks(line, resting))
    return SleepPlan(
        steps=_steps(line, hold, low, below, boost, wake, measured is not None),
        hold_seen=seen,
        settled=settled,
        hold=hold,
        low_limit=low,
        sleep_below=below,
        boost=boost,
        wake_at=wake,
        leaks=leaks,
        tank=_tank_advice(line, resting, found),
        refit=refit,
        closing=closing,
    )


def _floor(line: Line, derived: Derived, low: Figure) -> Figure:
    """The slowest it may run: its low limit, its kind, and the water that cools it; it sleeps above that."""
    floor = max(low, given("practice_minimum", line.application.lowest, "frequency", line.application.lowest_why))
    try:
        return max(floor, derived.cooling_frequency)
    except MainspringError:
        return floor


def _shut(setup: Setup) -> tuple[Trial, Figure, Figure]:
    """Shut the valve on the simulated plant and wait till the frequency settles."""
    c = setup.config
    free = setup.but(control=c.control._replace(low=min(0.3, c.control.low)), rest=c.rest._replace(by=kernel.NO_REST),
                     drive=c.drive._replace(dry_power=0.0))  # fmt: skip
    trial = run_trial(free, Profile("shut", "Valve shut", ((0, 0.5), (CLOSES_AT, TRICKLE)), CLOSES_AT + WAITS))
    last = trial.frequency[-max(20, len(trial.frequency) // 20) :]
    settled = float(np.median(last))
    if settled >= 0.999 * c.control.high * setup.base:
        raise NoSolution("it never settles: with the valve shut it runs at its highest speed and lacks the setpoint")
    away = np.abs(trial.frequency - settled) > 0.01 * setup.base
    moments = trial.times[away]
    after = float(moments[-1]) - CLOSES_AT if moments.size else 0.0
    return (
        trial,
        given("hold_frequency", settled, "frequency", "settled on the simulated plant, the valve shut"),
        given("settles_in", max(after, 0.0), "time", "read off the simulated trace"),
    )


def _refitted(line: Line, derived: Derived, setup: Setup, measured: float) -> Refit:
    model, read = derived.hold_model, given("hold_read", measured, "frequency", "read on site")
    shutoff = shutoff_by_hold(derived.pump.curve.c0, model, read)
    lift = lift_by_hold(derived.pump.curve.c0, model, read, line.motor.rated_frequency)
    apart = abs(measured - float(model)) / setup.base
    if apart < 0.006:
        words = say("{read} read, {model} predicted: curve and heads are right.", read=read, model=model)
    else:
        pressure = given("pressure_off", float(lift) * WATER_20C * float(G), "pressure", "of that head")
        words = say(
            "{read} read, {model} predicted. Either the pump makes {shutoff} at no flow, not {curve} (worn, or another"
            " impeller), or the plant asks {lift} ({pressure}) more: less inlet pressure, a higher sensor, or its"
            " zero.",
            read=read, model=model, shutoff=shutoff, curve=derived.pump.curve.c0, lift=lift, pressure=pressure,
        )  # fmt: skip
    return Refit(model, read, shutoff, lift, words)


def _leaks(line: Line, setup: Setup) -> tuple[float, ...]:
    leak = float(line.system.leak) if line.has("system.leak") else 0.0
    least = leak or USUAL_LEAK * setup.full
    return tuple(least * k for k in LEAKS)


def _leak_starts(setup: Setup, knobs: Mapping[str, float], leak: float) -> LeakStarts:
    told = _starts(knobs, leak)
    hours = SEEN / 3600.0 / told if told else 6.0
    hours = min(max(hours, 1.0), 24.0)
    trial = run_trial(setup, Profile("leak", "Leak", ((0, leak / setup.full),), hours * 3600.0), rows=10)
    return LeakStarts(leak, float(trial.totals["starts"]) / trial.duration, told)


def _starts(knobs: Mapping[str, float], leak: float) -> Figure | None:
    tank, wake = knobs.get("tank_volume", 0.0), knobs["wake_at"]
    if tank <= 0 or knobs["tank_precharge"] > wake:
        return None
    share = _gives(knobs)
    return starts_per_hour_on_leak(
        given("leak", leak, "flow", "tried"), given("tank_volume", tank, "volume", "as tried"), share
    )


def _gives(knobs: Mapping[str, float]) -> Figure:
    """Share of the tank from sleep to wake."""
    return tank_drawdown(
        given("precharge", knobs["tank_precharge"], "pressure", "as tried"),
        given("wake_at", knobs["wake_at"], "pressure", "as tried"),
        given("asleep_at", knobs["setpoint"] + knobs["boost"], "pressure", "as tried"),
    )


def _tank_advice(line: Line, setup: Setup, knobs: Mapping[str, float]) -> Sentence:
    """What tank keeps the leak of the record within the starts allowed."""
    leak = given(
        "leak", _leaks(line, setup)[2], "flow", "of the record" if line.has("system.leak") else "0.2 % of full"
    )
    allowed = (
        line.control.starts_allowed
        if line.control.has("starts_allowed")
        else given("starts_allowed", USUAL_STARTS, "rate", "common practice")
    )
    precharge = knobs.get("tank_precharge", 0.0)
    if precharge <= 0 or precharge > knobs["wake_at"]:
        return say("The tank holds no water when the drive wakes: a precharge below the wake pressure.")
    share = _gives(knobs)
    every = given("between_starts", 1 / float(allowed), "time", "the starts allowed")
    needed = tank_volume_for_run(leak, every, share)
    return say(
        "A leak of {leak} needs {needed} of tank for {allowed} at most; from sleep to wake a tank gives {gives} of its"
        " volume.", leak=leak, needed=needed, allowed=allowed,
        gives=given("gives", float(share), "percent", "of its volume"),
    )  # fmt: skip


def _steps(
    line: Line, hold: Figure, low: Figure, below: Figure, boost: Figure, wake: Figure, measured: bool
) -> tuple[tuple[str, Sentence], ...]:
    above, more = line.own(practice.loop.LOW_LIMIT_ABOVE), line.own(practice.loop.SLEEP_ABOVE)
    delay = line.own(practice.loop.SLEEP_DELAY)
    return (
        ("Shut the valve", say("With some demand first, at the setpoint; then none, and wait till it settles.")),
        ("Note the frequency", say("{hold}, read on site." if measured else "{hold}, on the model.", hold=hold)),
        ("Low limit", say("{low}: {above} above, so that pressure creeps up at no demand.", low=low, above=above)),
        ("Sleep below", say("{below}: {more} above the low limit; lower it if it sleeps at small demand.",
                            below=below, more=more)),
        ("Sleep delay", say("{delay} at the setpoint or above, and below that frequency.", delay=delay)),
        ("Boost", say("{boost}: fills the tank before it sleeps.", boost=boost)),
        ("Wake", say("At {wake}.", wake=wake)),
    )  # fmt: skip
