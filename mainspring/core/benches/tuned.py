"""Every tuning rule side by side on one model, each with the robustness it leaves; and the one to begin with."""

from dataclasses import dataclass

from mainspring.core.control import rules
from mainspring.core.control.margins import Margins, loop_margins, loop_step, ultimate_of_process
from mainspring.core.control.tuning import lambda_pi, simc_pi
from mainspring.core.errors import MainspringError

# what a sound pumping loop keeps; common practice, no source
LEAST_GAIN_MARGIN, LEAST_PHASE_MARGIN, MOST_SENSITIVITY, MOST_OVERSHOOT = 2.5, 45.0, 1.7, 0.10
BEGIN_WITH = "simc_slow"


@dataclass(frozen=True)
class Proposal:
    """Gains by one rule in the ideal form, with margins and the answer to a step where it has one."""

    id: str
    label: str
    why: str
    gain: float
    integral_time: float
    derivative_time: float
    margins: Margins | None
    overshoot: float | None
    sound: bool  # keeps what a pumping loop should keep


def proposals(process_gain: float, time_constant: float, dead_time: float) -> list[Proposal]:
    """What each rule says of a process with a positive gain; the calmest first."""
    model = process_gain, time_constant, dead_time
    ultimate = ultimate_of_process(*model)
    told = (
        ("simc_slow", "SIMC, three dead times", "To begin with: calm, and robust where the model is not known well.",
         (*simc_pi(*model, 3 * dead_time), 0.0)),
        ("simc", "SIMC, one dead time", "As fast as it is robust.", (*simc_pi(*model, dead_time), 0.0)),
        ("lambda", "Lambda, three time constants", "The calmest: never overshoots; slow against disturbances.",
         (*lambda_pi(*model, 3 * time_constant), 0.0)),
        ("amigo_pi", "AMIGO PI", "Robust by design, for slow processes too.", (*rules.amigo_pi(*model), 0.0)),
        ("amigo_pid", "AMIGO PID", "Derivative only where the signal is quiet.", tuple(rules.amigo_pid(*model))),
        ("open_loop_pi", "Open loop 1942, PI", "Leaves a quarter of each swing: too tight for pumps.",
         (*rules.open_loop_pi(*model), 0.0)),
        ("ultimate_pi", "Ultimate 1942, PI", "From the swing at the limit of stability.",
         (*rules.ultimate_pi(ultimate.gain, ultimate.period), 0.0)),
    )  # fmt: skip
    return [_proposal(id, label, why, model, tuple(float(g) for g in gains)) for id, label, why, gains in told]


def _proposal(id: str, label: str, why: str, model: tuple[float, float, float], gains: tuple[float, ...]) -> Proposal:
    kept: Margins | None = None
    overshoot: float | None = None
    try:
        kept = loop_margins(*model, *gains)
        if gains[2] == 0.0:
            overshoot = float(loop_step(*model, *gains[:2]).overshoot)
    except MainspringError:
        pass  # not stable, never at rest, or a model of which no margin can be told
    sound = (
        kept is not None
        and kept.gain_margin >= LEAST_GAIN_MARGIN
        and kept.phase_margin >= LEAST_PHASE_MARGIN
        and kept.sensitivity <= MOST_SENSITIVITY
        and (overshoot is None or overshoot <= MOST_OVERSHOOT)
    )
    return Proposal(id, label, why, gains[0], gains[1], gains[2], kept, overshoot, sound)
