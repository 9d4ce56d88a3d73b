"""What a trial means, in words: each judgement with its numbers and the setting to change."""

from collections.abc import Callable
from dataclasses import dataclass

import numpy as np
import numpy.typing as npt

from mainspring.core import practice
from mainspring.core.checks.finding import Severity, Verdict, caution, clear, stop
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError
from mainspring.core.hydraulics.power import no_flow_power
from mainspring.core.hydraulics.surge import pipe_velocity, surge_head
from mainspring.core.limits import wave_speed_of
from mainspring.core.line import Line
from mainspring.core.method import Figure, given
from mainspring.core.quantity import WATER_20C, G
from mainspring.core.ratios import share_of
from mainspring.core.sentence import Sentence, say
from mainspring.core.simulation import kernel
from mainspring.core.simulation.trial import Trial

# common practice, no source
SETTLED_BAND = 0.03  # of the setpoint, of what is held from nothing up
SETTLED_SPAN = 0.02  # of the sensor's range, of a level or temperature
HUNTING_SWING = 0.02  # of full speed, peak to peak at steady demand
HUNTING_TURNS = 4  # of the speed about its mean, within a steady stretch
STANDS = 0.02  # m; a level that moves by less than this stands
SLOW_SHARE = 0.5  # of the time till the next change
USUAL_STARTS = 20 / 3600  # 1/s
STAGINGS_HUNTING = 6  # in ten minutes, more comings and goings than this are hunting
USELESS_SHARE = 0.5  # a dry-run threshold below this share of the shut power does not see a dry pump


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
        steps, end = self.trial.profile.steps, self.trial.duration
        ends = [*(t for t, _ in steps[1:]), end]
        return [(t, min(e, end), i) for i, ((t, _), e) in enumerate(zip(steps, ends, strict=True)) if e - t >= 20 > 0
                and t < end]  # fmt: skip

    def awake(self, begin: float, end: float) -> Mask:
        """Rows of a stretch in which it ran, controlled."""
        t = self.trial.times
        mask: Mask = (t >= begin) & (t < end) & (self.trial.frequency > 0.05)
        return mask


Judge = Callable[[Looked], Meaning | None]


def judge(line: Line, derived: Derived, trial: Trial) -> list[Meaning]:
    """Everything there is to say of a trial, what matters first."""
    looked = _look(line, derived, trial)
    c = trial.setup.config
    spared = c.plant.dry_from < kernel.NEVER or c.sensor.lost_from < kernel.NEVER  # what goes wrong is not its tuning
    judges = [one for one in _JUDGES if not (spared and one in _TUNED)]
    found = [made for one in judges if (made := _tell(one, looked)) is not None]
    return sorted(found, key=lambda m: m.verdict.severity)


def _look(line: Line, derived: Derived, trial: Trial) -> Looked:
    held = line.held
    dimension = (held.dimension if held else None) or "frequency"
    apart = "temperature_difference" if dimension == "temperature" else dimension
    setpoint, sensor = trial.setup.config.control.setpoint, trial.setup.config.sensor
    wide = trial.setup.kind in (kernel.LEVEL, kernel.HEAT, kernel.ROOM)
    band = SETTLED_SPAN * (sensor.high - sensor.low) if wide else SETTLED_BAND * abs(setpoint)
    return Looked(line, derived, trial, dimension, apart, band)


def faults_of(line: Line, derived: Derived, trial: Trial) -> list[str]:
    """Titles of what is wrong with a trial as a loop: it hunts, cannot reach, does not come back, strikes, trips."""
    looked = _look(line, derived, trial)
    found = [made for one in _SOUND if (made := _tell(one, looked)) is not None]
    return [m.verdict.title for m in found if m.verdict.severity <= Severity.CAUTION]


def _tell(one: Judge, looked: Looked) -> Meaning | None:
    try:
        return one(looked)
    except MainspringError:  # what it stands on is not known: nothing can be said
        return None


def _warn(title: str, because: Sentence, do: Sentence, *settings: str) -> Meaning:
    return Meaning(caution(title, because, do), settings)


def _fine(title: str, because: Sentence) -> Meaning:
    return Meaning(clear(title, because))


def _loops(looked: Looked) -> bool:
    return looked.trial.setup.kind != kernel.OPEN


def _hunting(looked: Looked) -> Meaning | None:
    """A limit cycle: the speed turns again and again at a demand that does not change."""
    if not _loops(looked) or looked.trial.setup.config.rest.by == kernel.BY_LEVEL:
        return None
    worst: tuple[float, float, float] | None = None
    for begin, end, _ in looked.stretches():
        rows = looked.awake(begin + 0.6 * (end - begin), end)
        if rows.sum() < 20:
            continue
        speed, value = looked.trial.frequency[rows], looked.trial.value[rows]
        swing = float(np.ptp(speed))
        middle = float(np.ptp(speed)) * 0.25
        side = np.where(speed > speed.mean() + middle, 1, np.where(speed < speed.mean() - middle, -1, 0))
        turns = int(np.count_nonzero(np.diff(side[side != 0])))
        if swing > HUNTING_SWING * looked.trial.setup.base and turns >= HUNTING_TURNS:
            period = 2.0 * 0.4 * (end - begin) / turns
            if worst is None or swing > worst[0]:
                worst = swing, period, float(np.ptp(value))
    if worst is None:
        return None
    return _warn(
        "It hunts",
        say(
            "Speed swings by {swing} every {period} at steady demand, what is held by {by}.",
            swing=looked.seen("speed_swing", worst[0], "frequency"),
            period=looked.seen("period", worst[1], "time"),
            by=looked.difference("swing", worst[2]),
        ),
        say("Lower the gain, or lengthen the integral time, until it is calm."),
        "pid.gain",
        "pid.integral_time",
    )


def _reaching(looked: Looked) -> Meaning | None:
    """At the highest speed and short of the setpoint."""
    if not _loops(looked):
        return None
    trial, action = looked.trial, looked.trial.setup.config.control.action
    top = trial.frequency >= 0.999 * trial.setup.config.control.high * trial.setup.base
    short = action * (looked.setpoint - trial.value)
    lacking = top & (short > looked.band) & (trial.running >= trial.setup.config.set.machines - 0.01)
    step = float(trial.times[1] - trial.times[0]) if len(trial.times) > 1 else 0.0
    stuck = [(i, j) for i, j in _runs(lacking) if (j - i) * step >= 60 and short[j - 1] > 0.7 * short[(i + j) // 2]]
    if not stuck:
        return None
    seconds = sum(j - i for i, j in stuck) * step
    return _warn(
        "It cannot reach the setpoint",
        say(
            "At {top} for {time} and up to {short} short of {setpoint}.",
            top=looked.knob("highest", "frequency"),
            time=looked.seen("time_at_top", seconds, "time"),
            short=looked.difference("shortfall", max(float(short[i:j].min()) for i, j in stuck)),
            setpoint=looked.seen("setpoint", looked.setpoint),
        ),
        say("A lower setpoint, a higher limit where the motor stands it, or a larger machine: no gain cures it."),
        "limits.maximum_speed",
    )


def _runs(mask: Mask) -> list[tuple[int, int]]:
    """First row and the one after the last of each unbroken run."""
    edges = np.flatnonzero(np.diff(np.concatenate(([0], mask.astype(np.int8), [0]))))
    return [(int(i), int(j)) for i, j in zip(edges[::2], edges[1::2], strict=True)]


def _holding(looked: Looked) -> Meaning | None:
    """How far it leaves the setpoint at steady demand, its overshoot, and how soon it is back."""
    if not _loops(looked) or looked.trial.setup.config.rest.by == kernel.BY_LEVEL:
        return None
    off, settle, peak, judged, slow = 0.0, 0.0, 0.0, False, False
    c, base = looked.trial.setup.config.control, looked.trial.setup.base
    least, top = c.low * base * 1.001, c.high * base * 0.999
    for begin, end, number in looked.stretches():
        rows = looked.awake(begin, end) & (looked.trial.frequency > least)
        late = rows & (looked.trial.times >= begin + 0.6 * (end - begin))
        if late.sum() < 5:
            continue  # asleep, or at its lowest speed: nothing is controlled
        judged = True
        error = looked.trial.value - looked.setpoint
        off = max(off, float(np.abs(error[late]).mean()))
        if number:
            out = looked.trial.times[rows & (np.abs(error) > looked.band)]
            back = float(out[-1]) - begin if out.size else 0.0
            way = rows & (np.abs(error) > looked.band)
            spent = float((looked.trial.frequency[way] >= top).mean()) if way.any() else 0.0
            # at the highest speed no gain brings it back sooner
            settle, slow = max(settle, back), slow or (back > SLOW_SHARE * (end - begin) and spent < SLOW_SHARE)
            peak = max(peak, float(np.abs(error[rows]).max()))
    if not judged:
        return None
    numbers = {
        "off": looked.difference("deviation", off),
        "peak": looked.difference("peak", peak),
        "settle": looked.seen("settling_time", settle, "time"),
        "setpoint": looked.seen("setpoint", looked.setpoint),
    }
    if off > looked.band:
        return _warn(
            "It does not come back in time",
            say("Still {off} away from {setpoint} long after the demand changed.", **numbers),
            say("A larger gain or a shorter integral time: the loop is too slow for this demand."),
            "pid.gain",
            "pid.integral_time",
        )
    if slow:
        return _warn(
            "It is slow to come back",
            say("{peak} off after a change, and back only after {settle}.", **numbers),
            say("A larger gain or a shorter integral time, a little at a time."),
            "pid.gain",
            "pid.integral_time",
        )
    return _fine(
        "It holds",
        say("Holds {setpoint} within {off}; {peak} off at most after a change, back in {settle}.", **numbers),
    )


def _rests(looked: Looked) -> bool:
    return looked.trial.setup.config.rest.by == kernel.BY_SPEED


def _resting(looked: Looked) -> Meaning | None:
    """Whether it goes to sleep once nobody draws, and how soon; and not while somebody does."""
    if not _rests(looked):
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
        return _warn(
            "It cannot sleep",
            say("The low limit {low} is not above {hold}, which holds the pressure: nothing creeps up.",
                low=low, hold=hold),
            say("Set the low limit {above} above {hold}.", above=above, hold=hold),
            "pid.output_low",
        )  # fmt: skip
    if not asleep:
        return _warn(
            "It never sleeps",
            say("Demand ends, and it goes on: hold at {hold}, sleep below {below}.", hold=hold, below=below),
            say("Raise the sleep frequency to {more} or a little more above the low limit.", more=more),
            "sleep.frequency",
        )
    early = [t for t in asleep if _demand_at(trial, t - 1.0) > 0.1 and trial.times[-1] - t > 1]
    if early:
        drawn = _demand_at(trial, early[0] - 1.0) * trial.setup.full
        return _warn(
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
    return _fine(
        "It rests",
        say("Sleeps {after} after demand ends: holds at {hold}, sleeps below {below}. Less than {least} counts as"
            " none.", after=looked.seen("sleep_after", after, "time"), hold=hold, below=below,
            least=looked.derived.flow_holding(looked.setpoint, float(below))),
    )  # fmt: skip


def _chance(low: Figure, hold: Figure, above: Figure) -> Meaning:
    return _warn(
        "Sleep is left to chance",
        say("The low limit {low} is not above {hold}: only a trapped overshoot let it rest.", low=low, hold=hold),
        say("Set the low limit {above} above {hold}, so that pressure creeps up by itself.", above=above, hold=hold),
        "pid.output_low",
    )


def _demand_at(trial: Trial, time: float) -> float:
    return next((q for t, q in reversed(trial.profile.steps) if t <= time), trial.profile.steps[0][1])


def _waking(looked: Looked) -> Meaning | None:
    """How often it starts: against what the motor is allowed; and whether a leak alone does it."""
    trial, line = looked.trial, looked.line
    if not (_rests(looked) or trial.setup.config.rest.by == kernel.BY_LEVEL):
        return None
    allowed = (
        line.control.starts_allowed
        if line.control.has("starts_allowed")
        else given("starts_allowed", USUAL_STARTS, "rate", "common practice")
    )
    seen = looked.seen("starts", trial.starts_an_hour / 3600.0, "rate")
    by_leak = (
        looked.derived.starts_on_leak
        if _rests(looked) and line.has("system.tank_volume") and line.has("system.leak")
        else None
    )
    if by_leak is not None and by_leak > allowed:
        return _warn(
            "A leak wakes it too often",
            say("{leak} wakes it {starts}, {allowed} allowed.", leak=line.system.leak, starts=by_leak, allowed=allowed),
            say("More boost, a lower wake level, or a larger tank."),
            "sleep.boost", "sleep.wake_level",
        )  # fmt: skip
    if trial.duration >= 1800 and seen > allowed:
        settings = ("sleep.wake_level", "sleep.delay") if _rests(looked) else ("level.start_level", "level.stop_level")
        return _warn(
            "It starts too often",
            say("{seen} in this trial, {allowed} allowed.", seen=seen, allowed=allowed),
            say("Farther between stopping and starting: more boost, a lower wake level, a larger tank.")
            if _rests(looked)
            else say("Start and stop levels farther apart, or a larger pit."),
            *settings,
        )
    if by_leak is not None:
        return _fine(
            "Rests on a leak",
            say("A leak of {leak} wakes it {starts}, {allowed} allowed.", leak=line.system.leak, starts=by_leak,
                allowed=allowed),
        )  # fmt: skip
    if trial.duration < 1800:
        return None
    return _fine("Starts are few", say("{seen}, {allowed} allowed.", seen=seen, allowed=allowed))


def _dipping(looked: Looked) -> Meaning | None:
    """How far it falls when much is drawn while the drive sleeps."""
    if not _rests(looked) or not any(e.name == "wake" for e in looked.trial.events):
        return None
    lowest = float(looked.trial.totals["lowest"])
    numbers = {"lowest": looked.seen("lowest", lowest), "setpoint": looked.seen("setpoint", looked.setpoint)}
    if lowest < 0.6 * looked.setpoint:
        return _warn(
            "Pressure collapses on waking",
            say("Down to {lowest} when much is drawn while it sleeps; {setpoint} wanted.", **numbers),
            say("Shorten the ramp up, raise the wake level, or fit a larger tank."),
            "ramps.up", "sleep.wake_level",
        )  # fmt: skip
    return _fine("It wakes in time", say("Down to {lowest} at most.", **numbers))


def _peak(looked: Looked) -> Meaning | None:
    """The highest pressure against the weakest part."""
    if looked.dimension != "pressure" or not looked.line.has("system.pressure_rating"):
        return None
    if "holds:differential" in looked.line.traits:
        return None
    numbers = {
        "peak": looked.seen("highest_pressure", looked.trial.totals["highest"]),
        "rating": looked.line.system.pressure_rating,
    }
    if numbers["peak"] > numbers["rating"]:
        return Meaning(
            stop(
                "Pressure passes the rating",
                say("Up to {peak}, rated {rating}.", **numbers),
                say("Slower ramps, a lower setpoint or boost, and a relief valve."),
            ),
            ("ramps.down", "sleep.boost"),
        )
    return _fine("Pressure stays safe", say("At most {peak}, rated {rating}.", **numbers))


def _surging(looked: Looked) -> Meaning | None:
    """What the ramp down does to the water in the pipe."""
    line, derived = looked.line, looked.derived
    if "pump" not in line.traits or not line.has("system.pipe_length"):
        return None
    ramp = looked.knob("ramp_down", "time")
    velocity = pipe_velocity(line.machine.duty_flow, line.system.pipe_bore)
    lost = given("ramp_share", float(ramp) * (1 - float(derived.machine.hold_speed)), "time", "until the valve shuts")
    rise = surge_head(line.system.pipe_length, velocity, lost, wave_speed_of(line))
    added = given("surge_pressure", float(rise) * WATER_20C * float(G), "pressure", "of that head")
    if line.has("system.pressure_rating"):
        working = looked.setpoint if looked.dimension == "pressure" else float(derived.shutoff_pressure)
        most = given("with_surge", working + float(added), "pressure", "working pressure and surge")
        if most > line.system.pressure_rating:
            return Meaning(
                stop(
                    "The ramp strikes the pipe",
                    say("Stopped in {ramp} the water adds {added}: {most}, rated {rating}.", ramp=ramp, added=added,
                        most=most, rating=line.system.pressure_rating),
                    say("A longer ramp down; a power failure ignores it, so protection is needed all the same."),
                ),
                ("ramps.down",),
            )  # fmt: skip
    return _fine("The ramp is gentle", say("Stopped in {ramp} the water adds {added}.", ramp=ramp, added=added))


def _dry(looked: Looked) -> Meaning | None:
    """Whether the dry-run threshold trips a sound pump, or sees no dry one, at the speeds where it works."""
    trial, line = looked.trial, looked.line
    if "pump" not in line.traits or trial.setup.knobs.get("underload", 0.0) <= 0:
        return None
    c = trial.setup.config
    ratio = given("lowest_speed", c.control.low, "ratio", "of full speed, where it sits at no demand")
    shut = share_of(
        no_flow_power(_shut_head(looked), ratio, looked.derived.machine.best_flow, line.machine.best_efficiency),
        line.motor.rated_power,
    )
    scale = c.control.low**3 if c.drive.dry_scaled else 1.0
    threshold = given("threshold", c.drive.dry_power * scale, "percent", "at the lowest speed")
    at = given("lowest", c.control.low * trial.setup.base, "frequency", "lowest speed")
    if any(e.name in ("dry, trip", "locked out") for e in trial.events) and c.plant.dry_from >= kernel.NEVER:
        return _warn(
            "It trips as if it ran dry",
            say("With water in it the pump takes {shut} at {at}, the threshold is {threshold}.", shut=shut, at=at,
                threshold=threshold),
            say("Lower the threshold, or use one that is scaled with speed."),
            "protection.underload",
        )  # fmt: skip
    if threshold < USELESS_SHARE * shut:
        return _warn(
            "The dry-run threshold is useless at this speed",
            say("{threshold} at {at}, where a shut pump takes {shut} and a dry one less than half of that.",
                threshold=threshold, at=at, shut=shut),
            say("Raise it, or use one that is scaled with speed."),
            "protection.underload",
        )  # fmt: skip
    if c.plant.dry_from < kernel.NEVER:
        seen = next((e.time for e in trial.events if e.name in ("dry, trip", "locked out")), None)
        if seen is None:
            return _warn("It runs dry unseen", say("Dry, and it runs on: the threshold is {threshold}.",
                         threshold=threshold), say("Raise the threshold."), "protection.underload")  # fmt: skip
        return _fine("Dry running is seen", say("Stopped {t} after it ran dry.",
                     t=looked.seen("seen_after", seen - c.plant.dry_from, "time")))  # fmt: skip
    return None


def _shut_head(looked: Looked) -> Figure:
    """Head at no flow and full speed."""
    return looked.derived.pump.curve.c0


def _limited(looked: Looked) -> Meaning | None:
    """A ramp that runs into the current limit."""
    times = [e.time for e in looked.trial.events if e.name == "current limit"]
    if not times:
        return None
    return _warn(
        "It runs into the current limit",
        say("First after {t}; ramp up {ramp}.", t=looked.seen("limited_at", times[0], "time"),
            ramp=looked.knob("ramp_up", "time")),
        say("A longer ramp up; where it is limited at a steady speed, the motor is too small for it."),
        "ramps.up",
    )  # fmt: skip


def _staging(looked: Looked) -> Meaning | None:
    """Machines that come and go."""
    if looked.trial.setup.config.set.machines <= 1:
        return None
    moves = [e for e in looked.trial.events if e.name in ("another", "one less")]
    on, off = looked.knob("stage_on", "frequency"), looked.knob("stage_off", "frequency")
    crowded = _most_within(moves, 600.0)
    if crowded > STAGINGS_HUNTING:
        return _warn(
            "Machines come and go",
            say("{moves} times within ten minutes: another comes at {on}, the last goes at {off}.",
                moves=given("moves", float(crowded), "count", "of the trace"), on=on, off=off),
            say("Lower the speed at which the last one goes, or lengthen the delay: the two overlap."),
            "cascade.stage_off", "cascade.stage_delay",
        )  # fmt: skip
    hours = looked.trial.hours
    return _fine(
        "They take turns",
        say("{moves} comings and goings; the busiest ran {most}, the idlest {least}.",
            moves=given("moves", float(len(moves)), "count", "of the trace"),
            most=looked.seen("most_hours", float(hours.max()), "hours"),
            least=looked.seen("least_hours", float(hours.min()), "hours")),
    )  # fmt: skip


def _most_within(moves: list, seconds: float) -> int:  # type: ignore[type-arg]
    times = np.array([e.time for e in moves])
    return max((int(np.count_nonzero((times >= t) & (times < t + seconds))) for t in times), default=0)


def _level(looked: Looked) -> Meaning | None:
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
        return _warn(
            "The high-level relay calls the standby pump",
            say("Up to {high}; the relay stands at {relay}.", relay=looked.knob("high_level", "head"), **numbers),
            say("Right in a storm. On an ordinary day: start earlier, or the pump is too small for the inflow."),
            "level.start_level", "level.high_level",
        )  # fmt: skip
    return _fine("The level stays within", say("Between {low} and {high}.", **numbers))


def _stopping(looked: Looked) -> Meaning | None:
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
        ):
            return _warn(
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


def _following(looked: Looked) -> Meaning | None:
    """A speed from outside: whether it follows, and what it does on the way."""
    trial = looked.trial
    if trial.setup.kind != kernel.OPEN:
        return None
    if any(e.name == "overcurrent" for e in trial.events):
        return _warn(
            "It starts into a turning machine",
            say("Ordered to run again while it coasts, and it does not catch it: overcurrent."),
            say("Flying start on, or a ramp to stop instead of coasting, or wait till it stands."),
            "start.mode", "stop.mode",
        )  # fmt: skip
    wanted = np.array([max(_demand_at(trial, float(t)), 0.0) for t in trial.times])
    control = trial.setup.config.control
    clipped = np.where(wanted > 0, np.clip(wanted, control.low, control.high), 0.0) * trial.setup.base
    off = np.abs(clipped - trial.frequency) > 0.01 * trial.setup.base
    late = float(off.sum()) * float(trial.times[1] - trial.times[0])
    return _fine(
        "It follows",
        say("From {low} to {high}; on its ramps for {late} of {whole}.",
            low=given("low", control.low * trial.setup.base, "frequency", "lowest speed"),
            high=given("high", control.high * trial.setup.base, "frequency", "highest speed"),
            late=looked.seen("late", late, "time"), whole=looked.seen("whole", trial.duration, "time")),
    )  # fmt: skip


def _signal(looked: Looked) -> Meaning | None:
    """What a broken wire does."""
    c = looked.trial.setup.config
    if c.sensor.lost_from >= kernel.NEVER:
        return None
    value, t = looked.trial.value, looked.trial.times
    away = np.abs(value - looked.setpoint)[t >= c.sensor.lost_from]
    numbers = {"away": looked.difference("away", float(away.max()) if away.size else 0.0)}
    if not c.sensor.told:
        return _warn(
            "A broken wire is not seen",
            say("The signal has no live zero: it reads its lowest, and what is held goes {away} away.", **numbers),
            say("A sensor with 4–20 mA, or a switch that stops it."),
            "feedback.signal", "feedback.loss_action",
        )  # fmt: skip
    stops = c.sensor.on_loss == kernel.STOP
    words = "It stops and tells; {away} away." if stops else "It keeps its speed and tells; {away} away."
    return _fine("A broken wire is seen", say(words, **numbers))


_JUDGES: tuple[Judge, ...] = (
    _peak, _surging, _hunting, _reaching, _holding, _resting, _waking, _dipping, _level, _stopping, _staging,
    _following, _dry, _limited, _signal,
)  # fmt: skip
_TUNED: tuple[Judge, ...] = (_hunting, _reaching, _holding, _resting, _waking, _dipping)
_SOUND: tuple[Judge, ...] = (_peak, _hunting, _reaching, _holding, _resting, _level, _staging)
