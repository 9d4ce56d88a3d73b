"""Automatic at last: the direction, the setpoint, and rest at no demand done by hand beside the model."""

from mainspring.core import practice
from mainspring.core.derived import Derived
from mainspring.core.held import rises_with_speed
from mainspring.core.line import Line
from mainspring.core.line.applications import HELD
from mainspring.core.method import assume_practice
from mainspring.core.procedure.step import Reading, Step, first_known, known
from mainspring.core.sentence import say


def loop_steps(line: Line, derived: Derived) -> list[Step]:
    """What a loop needs proven; nothing where the speed comes from outside."""
    unknown = not line.has("line.application")
    steps = [_action(line), _steady(line)] if "loop" in line.traits or unknown else []
    if "wet_well" in line.traits and "holds:level" in line.traits:
        steps.append(_levels(line))
    off = first_known(lambda: derived.sleep_below)
    if unknown or ("rests" in line.traits and (off is None or off > 0)):
        steps += [
            _hold(derived),
            _low_limit(derived),
            _sleep_below(derived),
            _sleeps(line),
            _wakes(derived),
        ]
    return steps


def _action(line: Line) -> Step:
    held = line.held or HELD["pressure"]
    rises = line.held is None or rises_with_speed(line)
    moved = "fell" if rises else "rose"
    noun = held.noun.capitalize()
    what = {
        "pressure": "open a tap a little",
        "differential": "shut a branch a little",
        "level": "let some water in",
    }.get(held.id, "move the setpoint a little")
    return Step(
        "loop.action",
        "Direction of action",
        say(f"In automatic at low risk: {what}, watch the drive."),
        "The wrong direction drives to full speed or stops.",
        "choice",
        danger="Hand on the stop. It may run to full speed against a shut system.",
        choices={"faster": f"{noun} {moved}, it went faster", "slower": f"{noun} {moved}, it went slower"},
        right="faster",
        wrong="Stop. Turn the action round in the drive (its manual's word for it), then prove it again.",
        after=("signals.digital", "signals.input", "signals.sensor", "signals.reference"),
        rests_on=known(lambda: line.figure(held.setpoint)),
    )


def _steady(line: Line) -> Step:
    held = line.held or HELD["pressure"]
    expected = known(lambda: line.figure(held.setpoint))
    return Step(
        "loop.steady",
        "Holds the setpoint",
        say("Some demand, automatic: wait until it settles, read the display. Change one thing at a time."),
        "It must hold before it may rest.",
        "readings",
        after=("loop.action",),
        readings=(
            Reading(
                "held",
                held.noun.capitalize(),
                held.dimension or "ratio",
                expected[0] if expected else None,
                tolerance=0.03,
            ),
            Reading("frequency", "Frequency", "frequency", low=0.0, optional=True),
        ),
        rests_on=expected,
        wrong="Hunting: halve the gain. Slow: shorten the integral time. Never there: range, demand, limits.",
    )


def _levels(line: Line) -> Step:
    stop, start = known(lambda: line.system.stop_level), known(lambda: line.system.start_level)
    readings = []
    if start:
        readings.append(Reading("start", "Starts at", "head", start[0], band=0.1))
    readings.append(Reading("stop", "Stops at", "head", stop[0] if stop else None, band=0.1))
    return Step(
        "loop.levels",
        "Starts and stops by level",
        say("Let the well fill and be pumped down once, read where it starts and stops."),
        "It must stop before the pump draws air.",
        "readings",
        danger="Wet well: gas and drowning. Nobody goes in; read from above or by the display.",
        after=("loop.steady",),
        readings=tuple(readings),
        rests_on=(*start, *stop),
        wrong="Range and zero of the level sensor, then the levels in the drive.",
    )


def _hold(derived: Derived) -> Step:
    expected = known(lambda: derived.hold_known)
    return Step(
        "loop.hold",
        "Hold at no demand",
        say("Close the valve: no demand. Wait until the frequency settles. Note it."),
        "It is the least speed that holds the setpoint; low limit and sleep follow from it.",
        "readings",
        danger="A pump against a shut valve heats its water: only as long as the reading takes.",
        after=("loop.steady",),
        readings=(
            Reading(
                "hold", "Settled frequency", "frequency", expected[0] if expected else None, low=0.0, tolerance=0.05
            ),
        ),
        rests_on=expected,
        safety=False,
        wrong="Is there still demand? A leak? A curve, suction pressure or range other than on record?",
    )


def _low_limit(derived: Derived) -> Step:
    limit, creeps = known(lambda: derived.low_limit), known(lambda: derived.creeps_known)
    return Step(
        "loop.low_limit",
        "Low limit, and the creep",
        say(
            "Low limit of the controller = what you noted + {above}. Valve still shut: the pressure creeps up and"
            " stays.",
            above=derived.line.own(practice.loop.LOW_LIMIT_ABOVE),
        ),
        "Above the setpoint at no demand: that is how it knows that nobody draws.",
        "readings",
        danger="Shut valve: only as long as the reading takes.",
        after=("loop.hold",),
        readings=(
            Reading("limit", "Low limit set", "frequency", limit[0] if limit else None, low=0.0, tolerance=0.05),
            Reading("pressure", "Pressure it creeps to", "pressure", creeps[0] if creeps else None, tolerance=0.04),
        ),
        rests_on=(*limit, *creeps),
        safety=False,
        wrong="No creep: the low limit is too low, or water still goes somewhere.",
    )


def _sleep_below(derived: Derived) -> Step:
    below = known(lambda: derived.sleep_below)
    return Step(
        "loop.sleep_below",
        "Sleep frequency",
        say(
            "Sleep below = low limit + {above}, a little more if it will not sleep. Lower it if it sleeps at small"
            " demand, but not under what cools a submersible.",
            above=derived.line.own(practice.loop.SLEEP_ABOVE),
        ),
        "Too high and it sleeps while somebody draws; too low and it never sleeps.",
        "readings",
        after=("loop.low_limit",),
        readings=(
            Reading("below", "Sleep below, set", "frequency", below[0] if below else None, low=0.0, tolerance=0.05),
        ),
        rests_on=below,
        safety=False,
    )


def _sleeps(line: Line) -> Step:
    delay = (
        line.control.sleep_delay
        if line.control.has("sleep_delay")
        else assume_practice("control.sleep_delay", line.own(practice.loop.SLEEP_DELAY))
    )
    readings = [Reading("delay", "Time until it stops", "time", delay, low=0.0, high=float(delay) * 2 + 30)]
    if line.control.has("boost") and line.control.boost > 0:
        readings.append(Reading("boost", "Pressure after the boost", "pressure", optional=True))
    return Step(
        "loop.sleep",
        "Goes to sleep",
        say("No demand: pressure above the setpoint, frequency below the sleep frequency, for {t}. It stops.", t=delay),
        "All three together; one alone is no sign that nobody draws.",
        "readings",
        after=("loop.sleep_below",),
        readings=tuple(readings),
        rests_on=(delay,),
        safety=False,
        skip="It may run for hours against a shut valve.",
        wrong="It does not rest: a leak, a sleep frequency too low, or a low limit that does not creep.",
    )


def _wakes(derived: Derived) -> Step:
    wake = known(lambda: derived.wake_at)
    expected = first_known(lambda: derived.wake_at)
    return Step(
        "loop.wakes",
        "Wakes",
        say("Open a tap a little. Read the pressure at which it starts."),
        "It must be back before anybody notices, and not at every drop.",
        "readings",
        danger="It starts by itself. People clear.",
        after=("loop.sleep",),
        readings=(Reading("wake", "Pressure when it starts", "pressure", expected, tolerance=0.05),),
        rests_on=wake,
        safety=False,
        skip="Nobody has seen it come back.",
        wrong="Wake drop in the drive, as a share of the range in some, as a pressure in others.",
    )
