"""How much a tuning has in hand: gain and phase margin on the plant as it stands, where its gain is highest."""

from mainspring.core.control.margins import Margins, margins_at_a_glance
from mainspring.core.errors import MainspringError, NoSolution
from mainspring.core.method import given
from mainspring.core.sentence import say
from mainspring.core.simulation import kernel
from mainspring.core.simulation.bump import DEMANDS, LASTS, glance
from mainspring.core.simulation.judge.looked import Looked, Meaning, fine, loops, warn
from mainspring.core.simulation.plants import Setup

# common practice, no source: below either the loop swings on a plant that differs a little
LEAST_GAIN, LEAST_PHASE = 1.7, 30.0


Process = tuple[float, float, float]  # gain, time constant and dead time


def processes_of(setup: Setup) -> tuple[Process, ...]:
    """What the plant is at a small and a large demand, whatever its gains; nothing for a level, an open line.

    Raises NoSolution where a step moves nothing.
    """
    return tuple(glance(setup, demand) for demand in DEMANDS) if setup.kind in LASTS else ()


def margins_on(processes: tuple[Process, ...], control: kernel.Controller) -> Margins | None:
    """Least margins of a controller over some processes; None where there are none. Raises NoSolution: not stable."""
    if not processes:
        return None
    found = [margins_at_a_glance(*process, control.gain, control.integral_time) for process in processes]
    return Margins(
        min(m.gain_margin for m in found), min(m.phase_margin for m in found), max(m.sensitivity for m in found)
    )


def margins_of(setup: Setup) -> Margins | None:
    """Least margins over a small and a large demand; None for what has none to tell: a level, an open line.

    Raises
    ------
    NoSolution : it is not stable, or a step moves nothing
    """
    return margins_on(processes_of(setup), setup.config.control)


def robust(looked: Looked) -> Meaning | None:
    """What the tuning has in hand."""
    if not loops(looked) or looked.trial.setup.kind == kernel.LEVEL:
        return None
    settings = ("pid.gain", "pid.integral_time")
    try:
        margins = margins_of(looked.trial.setup)
    except NoSolution:
        return warn(
            "No margin at all",
            say("By its margins this loop is not stable at every demand."),
            say("Less gain, or a longer integral time."),
            *settings,
        )
    except MainspringError:
        return None  # it cannot be stepped there
    if margins is None:
        return None
    numbers = {
        "times": given("gain_margin", float(margins.gain_margin), "ratio", "of the loop on the stepped plant"),
        "phase": given("phase_margin", float(margins.phase_margin), "angle", "of the loop on the stepped plant"),
    }
    if margins.gain_margin < LEAST_GAIN or margins.phase_margin < LEAST_PHASE:
        return warn(
            "Little margin",
            say(
                "The plant may answer {times} times as strongly before it swings, with {phase} of phase left.",
                **numbers,
            ),
            say("Less gain, or a longer integral time: on a plant that differs a little it hunts."),
            *settings,
        )
    return fine("It has margin", say("{times} times the gain, {phase} of phase before it swings.", **numbers))
