"""Whether it holds what it is to hold: hunting, out of reach, slow."""

import numpy as np

from mainspring.core.sentence import say
from mainspring.core.simulation import kernel
from mainspring.core.simulation.judge.looked import Looked, Meaning, demand_at, fine, loops, runs, warn
from mainspring.core.simulation.plants import capacity

# common practice, no source
HUNTING_SWING = 0.02  # of full speed, peak to peak at steady demand
HUNTING_TURNS = 4  # of the speed about its mean, within a steady stretch
AWAKE_SHARE = 0.9  # of a stretch, that it has to be awake in for its holding to be judged
SLOW_AIR = 90.0  # s, that a duct or a circuit may take
SLOW_SHARE = 0.5  # of the time till the next change


def hunting(looked: Looked) -> Meaning | None:
    """A limit cycle: the speed turns again and again at a demand that does not change."""
    if not loops(looked) or looked.trial.setup.config.rest.by == kernel.BY_LEVEL:
        return None
    worst: tuple[float, float, float] | None = None
    for begin, end, _ in looked.stretches():
        late = begin + 0.6 * (end - begin)
        rows = looked.awake(late, end)
        if rows.sum() < 20 or any(e.name in ("sleep", "wake") and late <= e.time < end for e in looked.trial.events):
            continue  # it sleeps and wakes, which is said of that
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
    return warn(
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


def reaching(looked: Looked) -> Meaning | None:
    """At the highest speed and short of the setpoint."""
    if not loops(looked):
        return None
    trial, action = looked.trial, looked.trial.setup.config.control.action
    top = trial.frequency >= 0.999 * trial.setup.config.control.high * trial.setup.base
    short = action * (looked.wanted - trial.value)
    lacking = top & (short > looked.band) & (trial.running >= trial.setup.config.set.machines - 0.01)
    step = float(trial.times[1] - trial.times[0]) if len(trial.times) > 1 else 0.0
    stuck = [(i, j) for i, j in runs(lacking) if (j - i) * step >= 60 and short[j - 1] > 0.7 * short[(i + j) // 2]]
    if not stuck:
        return None
    seconds = sum(j - i for i, j in stuck) * step
    words, flows = "At {top} for {time} and up to {short} short of {setpoint}.", {}
    if trial.setup.kind == kernel.HEADER:
        asked = max(demand_at(trial, float(trial.times[i])) for i, _ in stuck) * trial.setup.full
        most, kind = capacity(trial.setup), "air_flow" if "fan" in looked.line.traits else "flow"
        if asked > most:
            words = (
                "At {top} for {time} and up to {short} short of {setpoint}: {asked} are asked, it brings {most} there."
            )
            flows = {"asked": looked.seen("asked", asked, kind), "most": looked.seen("most", most, kind)}
    return warn(
        "It cannot reach the setpoint",
        say(
            words,
            **flows,
            top=looked.knob("highest", "frequency"),
            time=looked.seen("time_at_top", seconds, "time"),
            short=looked.difference("shortfall", max(float(short[i:j].min()) for i, j in stuck)),
            setpoint=looked.seen("setpoint", float(looked.wanted[stuck[0][0]])),
        ),
        say("A lower setpoint, a higher limit where the motor stands it, or a larger machine: no gain cures it."),
        "limits.maximum_speed",
    )


def holding(looked: Looked) -> Meaning | None:
    """How far it leaves the setpoint at steady demand, its overshoot, and how soon it is back."""
    if not loops(looked) or looked.trial.setup.config.rest.by == kernel.BY_LEVEL:
        return None
    off, settle, peak, judged, slow, wanted = 0.0, 0.0, 0.0, False, False, 0.0
    c, base = looked.trial.setup.config.control, looked.trial.setup.base
    least_slow = SLOW_AIR if looked.line.applies(("holds:duct", "holds:differential")) else 0.0
    least, top = c.low * base * 1.001, c.high * base * 0.999
    for begin, end, number in looked.stretches():
        rows = looked.awake(begin, end) & (looked.trial.frequency > least)
        whole = (looked.trial.times >= begin) & (looked.trial.times < end)
        if rows.sum() < AWAKE_SHARE * whole.sum():
            continue  # asleep, or at its lowest speed: nothing is controlled
        late = rows & (looked.trial.times >= begin + 0.6 * (end - begin))
        if late.sum() < 5:
            continue
        judged = True
        error = looked.trial.value - looked.wanted
        if (now := float(np.abs(error[late]).mean())) > off or not wanted:
            off, wanted = max(off, now), float(looked.wanted[late][-1])
        if number:
            out = looked.trial.times[rows & (np.abs(error) > looked.band)]
            back = float(out[-1]) - begin if out.size else 0.0
            way = rows & (np.abs(error) > looked.band)
            spent = float((looked.trial.frequency[way] >= top).mean()) if way.any() else 0.0
            # at the highest speed no gain brings it back sooner
            settle, slow = (
                max(settle, back),
                slow or (back > max(SLOW_SHARE * (end - begin), least_slow) and spent < SLOW_SHARE),
            )
            peak = max(peak, float(np.abs(error[rows]).max()))
    if not judged:
        return None
    numbers = {
        "off": looked.difference("deviation", off),
        "peak": looked.difference("peak", peak),
        "settle": looked.seen("settling_time", settle, "time"),
        "setpoint": looked.seen("setpoint", wanted),
    }
    if off > looked.band:
        return warn(
            "It does not come back in time",
            say("Still {off} away from {setpoint} long after the demand changed.", **numbers),
            say("A larger gain or a shorter integral time: the loop is too slow for this demand."),
            "pid.gain",
            "pid.integral_time",
        )
    if slow:
        return warn(
            "It is slow to come back",
            say("{peak} off after a change, and back only after {settle}.", **numbers),
            say("A larger gain or a shorter integral time, a little at a time."),
            "pid.gain",
            "pid.integral_time",
        )
    return fine(
        "It holds",
        say("Holds {setpoint} within {off}; {peak} off at most after a change, back in {settle}.", **numbers),
    )
