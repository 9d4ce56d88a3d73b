"""Whether it rests when nothing is asked, wakes in time, and not too often."""

from mainspring.core import practice
from mainspring.core.method import Figure, given
from mainspring.core.sentence import say
from mainspring.core.simulation import kernel
from mainspring.core.simulation.judge.looked import Looked, Meaning, demand_at, fine, rests, warn

# common practice, no source
USUAL_STARTS = 20 / 3600  # 1/s


def resting(looked: Looked) -> Meaning | None:
    """Whether it goes to sleep once nobody draws, and how soon; and not while somebody does."""
    if not rests(looked):
        return None
    trial, line = looked.trial, looked.line
    quiet = 1.5 * min(q for _, q in trial.profile.steps)
    none_from = next((t for t, q in trial.profile.steps if q <= quiet and q < 0.1), None)
    hold, low = looked.derived.hold_frequency, looked.knob("low_limit", "frequency")
    below = looked.knob("sleep_below", "frequency")
    above, more = line.own(practice.loop.LOW_LIMIT_ABOVE), line.own(practice.loop.SLEEP_ABOVE)
    asleep = [e.time for e in trial.events if e.name == "sleep"]
    if not asleep and (none_from is None or trial.duration - none_from < 120):
        return None
    if not asleep and low <= hold:
        return warn(
            "It cannot sleep",
            say("The low limit {low} is not above {hold}, which holds the pressure: nothing creeps up.",
                low=low, hold=hold),
            say("Set the low limit {above} above {hold}.", above=above, hold=hold),
            "pid.output_low",
        )  # fmt: skip
    if not asleep:
        return warn(
            "It never sleeps",
            say("Demand ends, and it goes on: hold at {hold}, sleep below {below}.", hold=hold, below=below),
            say("Raise the sleep frequency to {more} or a little more above the low limit.", more=more),
            "sleep.frequency",
        )
    early = [t for t in asleep if demand_at(trial, t - 1.0) > 0.1 and trial.times[-1] - t > 1]
    if early:
        drawn = demand_at(trial, early[0] - 1.0) * trial.setup.full
        return warn(
            "It sleeps while water is drawn",
            say("Asleep after {t} while {drawn} are drawn.", t=looked.seen("asleep", early[0], "time"),
                drawn=looked.seen("drawn", drawn, "flow")),
            say("Lower the sleep frequency, or lengthen the delay."),
            "sleep.frequency", "sleep.delay",
        )  # fmt: skip
    if low <= hold and not line.has("system.leak"):
        return _chance(low, hold, above)
    if low <= hold:
        return _chance(low, hold, above)
    after = next((t - none_from for t in asleep if none_from is not None and t >= none_from), asleep[0])
    return fine(
        "It rests",
        say("Sleeps {after} after demand ends: holds at {hold}, sleeps below {below}. Less than {least} counts as"
            " none.", after=looked.seen("sleep_after", after, "time"), hold=hold, below=below,
            least=looked.derived.flow_holding(looked.setpoint, float(below))),
    )  # fmt: skip


def _chance(low: Figure, hold: Figure, above: Figure) -> Meaning:
    return warn(
        "Sleep is left to chance",
        say("The low limit {low} is not above {hold}: only a trapped overshoot let it rest.", low=low, hold=hold),
        say("Set the low limit {above} above {hold}, so that pressure creeps up by itself.", above=above, hold=hold),
        "pid.output_low",
    )


def waking(looked: Looked) -> Meaning | None:
    """How often it starts: against what the motor is allowed; and whether a leak alone does it."""
    trial, line = looked.trial, looked.line
    if not (rests(looked) or trial.setup.config.rest.by == kernel.BY_LEVEL):
        return None
    allowed = (
        line.control.starts_allowed
        if line.control.has("starts_allowed")
        else given("starts_allowed", USUAL_STARTS, "rate", "common practice")
    )
    seen = looked.seen("starts", trial.starts_an_hour / 3600.0, "rate")
    by_leak = (
        looked.derived.starts_on_leak
        if rests(looked) and line.has("system.tank_volume") and line.has("system.leak")
        else None
    )
    if by_leak is not None and by_leak > allowed:
        return warn(
            "A leak wakes it too often",
            say("{leak} wakes it {starts}, {allowed} allowed.", leak=line.system.leak, starts=by_leak, allowed=allowed),
            say("More boost, a lower wake level, or a larger tank."),
            "sleep.boost", "sleep.wake_level",
        )  # fmt: skip
    if trial.duration >= 1800 and seen > allowed:
        settings = ("sleep.wake_level", "sleep.delay") if rests(looked) else ("level.start_level", "level.stop_level")
        return warn(
            "It starts too often",
            say("{seen} in this trial, {allowed} allowed.", seen=seen, allowed=allowed),
            say("Farther between stopping and starting: more boost, a lower wake level, a larger tank.")
            if rests(looked)
            else say("Start and stop levels farther apart, or a larger pit."),
            *settings,
        )
    if by_leak is not None:
        return fine(
            "Rests on a leak",
            say("A leak of {leak} wakes it {starts}, {allowed} allowed.", leak=line.system.leak, starts=by_leak,
                allowed=allowed),
        )  # fmt: skip
    if trial.duration < 1800:
        return None
    return fine("Starts are few", say("{seen}, {allowed} allowed.", seen=seen, allowed=allowed))


def dipping(looked: Looked) -> Meaning | None:
    """How far it falls when much is drawn while the drive sleeps."""
    if not rests(looked) or not any(e.name == "wake" for e in looked.trial.events):
        return None
    lowest = float(looked.trial.totals["lowest"])
    numbers = {"lowest": looked.seen("lowest", lowest), "setpoint": looked.seen("setpoint", looked.setpoint)}
    if lowest < 0.6 * looked.setpoint:
        return warn(
            "Pressure collapses on waking",
            say("Down to {lowest} when much is drawn while it sleeps; {setpoint} wanted.", **numbers),
            say("Shorten the ramp up, raise the wake level, or fit a larger tank."),
            "ramps.up", "sleep.wake_level",
        )  # fmt: skip
    return fine("It wakes in time", say("Down to {lowest} at most.", **numbers))
