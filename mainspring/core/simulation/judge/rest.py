"""Whether it rests when nothing is asked, wakes in time, and not too often."""

from mainspring.core import practice
from mainspring.core.errors import MainspringError
from mainspring.core.hydraulics.tank import starts_per_hour_on_leak, tank_drawdown
from mainspring.core.method import Figure, as_figure, given
from mainspring.core.sentence import Sentence, say
from mainspring.core.simulation import kernel
from mainspring.core.simulation.judge.looked import Looked, Meaning, demand_at, fine, rests, warn

# common practice, no source
USUAL_STARTS = 20 / 3600  # 1/s
SLEEP_NEAR = 1.0  # Hz above what cools a submersible, within which that rules where it sleeps
DRAWN = 0.1  # of full demand, from which somebody draws


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
    early = [t for t in asleep if demand_at(trial, t - 1.0) > DRAWN and trial.times[-1] - t > 1]
    if early and cycling(looked) is None:
        drawn = demand_at(trial, early[0] - 1.0) * trial.setup.full
        return warn(
            "It sleeps while water is drawn",
            say("Asleep after {t} while {drawn} are drawn.", t=looked.seen("asleep", early[0], "time"),
                drawn=looked.seen("drawn", drawn, "flow")),
            _sleep_later(looked, "Lower the sleep frequency, or lengthen the delay."),
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


CYCLES = 2  # times asleep at one demand that is drawn all the while, from which it cycles


def cycling(looked: Looked) -> Meaning | None:
    """Asleep and awake again and again while somebody draws: not its gains, but where it sleeps."""
    if not rests(looked):
        return None
    trial = looked.trial
    asleep = [e.time for e in trial.events if e.name == "sleep" and demand_at(trial, e.time) > DRAWN]
    worst, demand, lasted = 0, 0.0, 0.0
    for begin, end, _ in looked.stretches():
        times = sum(begin <= t < end for t in asleep)
        if times > worst:
            worst, demand, lasted = times, demand_at(trial, begin), end - begin
    if worst < CYCLES:
        return None
    return warn(
        "It sleeps and wakes while water is drawn",
        say("Asleep {times} times in {lasted} while {drawn} are drawn: it brings more than that even at its slowest.",
            times=given("times_asleep", float(worst), "count", "of the trace"),
            lasted=looked.seen("lasted", lasted, "time"),
            drawn=looked.seen("drawn", demand * trial.setup.full, "flow")),
        _sleep_later(looked, "Lower the sleep frequency, lengthen the delay, or wake further down; no gain cures it."),
        "sleep.frequency", "sleep.delay", "sleep.wake_level",
    )  # fmt: skip


def _sleep_later(looked: Looked, usual: str) -> Sentence:
    """What cures it; where the water past a submersible rules, a lower sleep frequency would cook the motor."""
    try:
        cooled, below = looked.derived.cooling_frequency, looked.knob("sleep_below", "frequency")
    except MainspringError:
        return say(usual)
    if below > cooled + SLEEP_NEAR:
        return say(usual)
    return say("Below {cooled} too little water passes the motor: a sleeve round it, then a lower sleep frequency.",
               cooled=cooled)  # fmt: skip


def _starts_on_leak(looked: Looked) -> Figure | None:
    """Starts that the leak alone causes, with tank, air, setpoint and wake pressure as they stand on the bench."""
    knobs, line = looked.trial.setup.knobs, looked.line
    volume = knobs.get("tank_volume", 0.0)
    if not rests(looked) or volume <= 0 or not line.has("system.leak"):
        return None
    if knobs["tank_precharge"] >= knobs["wake_at"]:
        given_share = given("drawdown", 1e-6, "ratio", "its air is at or above the wake pressure: it gives no water")
    else:
        given_share = as_figure(tank_drawdown(
            looked.knob("tank_precharge", "pressure"), looked.knob("wake_at", "pressure"),
            looked.seen("setpoint", looked.setpoint, "pressure"),
        ))  # fmt: skip
    return as_figure(starts_per_hour_on_leak(line.system.leak, looked.knob("tank_volume", "volume"), given_share))


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
    by_leak = _starts_on_leak(looked)
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
