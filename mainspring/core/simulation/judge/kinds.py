"""What only some kinds of line can do wrong: several in turn, a level, a speed from outside."""

import numpy as np

from mainspring.core.checks.finding import stop
from mainspring.core.held import rises_with_speed
from mainspring.core.method import given
from mainspring.core.sentence import say
from mainspring.core.simulation import kernel
from mainspring.core.simulation.judge.looked import Looked, Meaning, demand_at, fine, loops, warn

# common practice, no source
STANDS = 0.02  # m; a level that moves by less than this stands
LITTLE = 0.2  # of full inflow, at which a pit's pump is to come to its stop level
STAGINGS_HUNTING = 6  # in ten minutes, more comings and goings than this are hunting


def acting(looked: Looked) -> Meaning | None:
    """Whether the controller acts the way round that its plant needs."""
    if not loops(looked):
        return None
    c = looked.trial.setup.config
    needs = 1.0 if rises_with_speed(looked.line) else -1.0
    if c.control.action == needs:
        return None
    held = looked.line.held
    assert held is not None
    moves = "raises" if needs > 0 else "lowers"
    ends = {
        "low": looked.seen("lowest", looked.trial.totals["lowest"]),
        "high": looked.seen("highest", looked.trial.totals["highest"]),
        "setpoint": looked.seen("setpoint", looked.setpoint),
    }
    return Meaning(
        stop(
            "It acts the wrong way round",
            say(
                f"More speed {moves} the {held.noun}, and it is set to act against that: from {{low}} to {{high}}"
                " instead of {setpoint}.",
                **ends,
            ),
            say("Turn the direction of action round."),
        ),
        ("pid.action",),
    )  # fmt: skip


def staging(looked: Looked) -> Meaning | None:
    """Machines that come and go."""
    if looked.trial.setup.config.set.machines <= 1:
        return None
    moves = [e for e in looked.trial.events if e.name in ("another", "one less")]
    on, off = looked.knob("stage_on", "frequency"), looked.knob("stage_off", "frequency")
    crowded = _most_within(moves, 600.0)
    if crowded > STAGINGS_HUNTING:
        return warn(
            "Machines come and go",
            say("{moves} times within ten minutes: another comes at {on}, the last goes at {off}.",
                moves=given("moves", float(crowded), "count", "of the trace"), on=on, off=off),
            say("Lower the speed at which the last one goes, or lengthen the delay: the two overlap."),
            "cascade.stage_off", "cascade.stage_delay",
        )  # fmt: skip
    hours = looked.trial.hours
    return fine(
        "They take turns",
        say("{moves} comings and goings; the busiest ran {most}, the idlest {least}.",
            moves=given("moves", float(len(moves)), "count", "of the trace"),
            most=looked.seen("most_hours", float(hours.max()), "hours"),
            least=looked.seen("least_hours", float(hours.min()), "hours")),
    )  # fmt: skip


def _most_within(moves: list, seconds: float) -> int:  # type: ignore[type-arg]
    times = np.array([e.time for e in moves])
    return max((int(np.count_nonzero((times >= t) & (times < t + seconds))) for t in times), default=0)


def level(looked: Looked) -> Meaning | None:
    """How high the level came, against the alarm."""
    trial = looked.trial
    if trial.setup.kind != kernel.LEVEL:
        return None
    numbers = {
        "high": looked.seen("highest_level", trial.totals["highest"]),
        "low": looked.seen("lowest_level", trial.totals["lowest"]),
    }
    alarm = trial.setup.config.plant.high
    if alarm < kernel.NEVER and trial.totals["highest"] >= alarm:
        return warn(
            "The high-level relay calls the standby pump",
            say("Up to {high}; the relay stands at {relay}.", relay=looked.knob("high_level", "head"), **numbers),
            say("Right in a storm. On an ordinary day: start earlier, or the pump is too small for the inflow."),
            "level.start_level", "level.high_level",
        )  # fmt: skip
    return fine("The level stays within", say("Between {low} and {high}.", **numbers))


def stopping(looked: Looked) -> Meaning | None:
    """Whether the lowest speed still moves the level to where it is to stop."""
    trial = looked.trial
    c, base = trial.setup.config, trial.setup.base
    if c.rest.by != kernel.BY_LEVEL:
        return None
    for begin, end, _ in looked.stretches():
        late = (trial.times >= begin + 0.7 * (end - begin)) & (trial.times < end)
        if late.sum() < 10 or end - begin < 600:
            continue
        level, speed = trial.value[late], trial.frequency[late]
        short = c.plant.direction * (c.rest.stop - level)
        if (
            speed.max() <= c.control.low * base * 1.001
            and speed.min() > 1
            and float(np.ptp(level)) < STANDS < short.min()
            and demand_at(trial, begin) < LITTLE  # with more coming in it holds its level, and goes on
        ):
            return warn(
                "It never stops",
                say(
                    "At its lowest, {lowest}, it moves {flow} and the level stands at {level}; its stop is at {stop}.",
                    lowest=given("lowest", c.control.low * base, "frequency", "lowest speed"),
                    flow=looked.seen("flow", float(trial.flow[late].mean()), "flow"),
                    level=looked.seen("level", float(level.mean())),
                    stop=looked.knob("stop_level", "head"),
                ),
                say("A higher lowest speed, at which it still lifts from there; or a stop level further up."),
                "limits.minimum_speed", "level.stop_level",
            )  # fmt: skip
    return None


def following(looked: Looked) -> Meaning | None:
    """A speed from outside: whether it follows, and what it does on the way."""
    trial = looked.trial
    if trial.setup.kind != kernel.OPEN:
        return None
    if any(e.name == "overcurrent" for e in trial.events):
        return warn(
            "It starts into a turning machine",
            say("Ordered to run again while it coasts, and it does not catch it: overcurrent."),
            say("Flying start on, or a ramp to stop instead of coasting, or wait till it stands."),
            "start.mode", "stop.mode",
        )  # fmt: skip
    wanted = np.array([max(demand_at(trial, float(t)), 0.0) for t in trial.times])
    control = trial.setup.config.control
    clipped = np.where(wanted > 0, np.clip(wanted, control.low, control.high), 0.0) * trial.setup.base
    off = np.abs(clipped - trial.frequency) > 0.01 * trial.setup.base
    late = float(off.sum()) * float(trial.times[1] - trial.times[0])
    return fine(
        "It follows",
        say("From {low} to {high}; on its ramps for {late} of {whole}.",
            low=given("low", control.low * trial.setup.base, "frequency", "lowest speed"),
            high=given("high", control.high * trial.setup.base, "frequency", "highest speed"),
            late=looked.seen("late", late, "time"), whole=looked.seen("whole", trial.duration, "time")),
    )  # fmt: skip
