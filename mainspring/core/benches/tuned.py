"""Every tuning rule side by side on one model, each with the robustness it leaves; and the one to begin with."""

from dataclasses import dataclass

from mainspring.core.control import rules
from mainspring.core.control.forms import parallel_derivative_gain, repeats_per_minute, series_of_ideal
from mainspring.core.control.identify import relay_gain
from mainspring.core.control.margins import Margins, loop_margins, loop_step, ultimate_of_process
from mainspring.core.control.tuning import lambda_pi, parallel_integral_gain, proportional_band, simc_pi
from mainspring.core.errors import MainspringError, check_range

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


TIGHT, CALM = 20.0, 120.0  # s, closed loop of a level that is held tight, or calmly; common practice, no source


def level_proposals(slope_gain: float, dead_time: float, room: float) -> list[Proposal]:
    """Gains of a level, which never settles by itself.

    Parameters
    ----------
    slope_gain : share of span per second for each share of full output, > 0 [1/s]
    dead_time : >= 0 [s]
    room : share of the span that the level may use on either side of its setpoint, > 0 [-]
    """
    calm, tight = (rules.simc_integrating(slope_gain, dead_time, wanted) for wanted in (CALM, TIGHT))
    average = float(rules.averaging_gain(1.0, 2 * room))
    told = (
        ("averaging", "Averaging", "Uses the pit: the outflow stays even, the level goes where it may. P alone: the"
         " longest integral time that the drive takes.", average, 3600.0),
        ("level_calm", "SIMC, two minutes", "Holds the level, and moves the speed gently.", *calm),
        ("level_tight", "SIMC, twenty seconds", "Holds it tight, where it must not move.", *tight),
    )  # fmt: skip
    return [
        Proposal(id, label, why, float(gain), float(integral), 0.0, None, None, id != "level_tight")
        for id, label, why, gain, integral in told
    ]


def swing_proposals(relay: float, swing: float, hysteresis: float, period: float) -> list[Proposal]:
    """Gains from a swing that a relay, or a loop at its limit of stability, keeps up.

    Parameters
    ----------
    relay : half of what the output jumps by, share of full [-]
    swing : half of what the value swings by, share of span [-]
    hysteresis : of the relay, share of span [-]
    period : of the swing, > 0 [s]

    Raises OutOfRange.
    """
    limit = float(relay_gain(relay, swing, hysteresis))
    pi, pid = rules.ultimate_pi(limit, period), rules.ultimate_pid(limit, period)
    told = (
        ("ultimate_calm", "Half of it", "To begin with: half the gain of the rule below, and twice its integral time.",
         0.5 * pi.gain, 2 * pi.integral_time, 0.0, True),
        ("ultimate_pi", "Ultimate 1942, PI", "Leaves a quarter of each swing: too tight for pumps.", *pi, 0.0, False),
        ("ultimate_pid", "Ultimate 1942, PID", "As tight, with a derivative.", *pid, False),
    )  # fmt: skip
    return [
        Proposal(id, label, why, float(gain), float(integral), float(derivative), None, None, sound)
        for id, label, why, gain, integral, derivative, sound in told
    ]


@dataclass(frozen=True)
class DriveForm:
    """Gains as a drive of one form wants them, in every unit that drives use; None where the form cannot say them."""

    id: str
    label: str
    gain: float | None
    proportional_band: float | None
    integral_time: float | None
    repeats_per_minute: float | None
    integral_gain: float | None  # 1/s, of the parallel form
    derivative_time: float | None
    derivative_gain: float | None  # s, of the parallel form
    why: str = ""


def in_drive_forms(
    gain: float, integral_time: float, derivative_time: float, output_share: float = 1.0, feedback_share: float = 1.0
) -> list[DriveForm]:
    """The same controller in the forms that drives use.

    Parameters
    ----------
    gain : of the ideal form, share of full speed per share of the sensor's range, > 0 [-]
    integral_time : > 0 [s]
    derivative_time : >= 0 [s]
    output_share : what the drive counts as 100 % output, as a share of full speed, > 0 [-]
    feedback_share : what it counts as 100 % feedback, as a share of the sensor's range, > 0 [-]

    Raises OutOfRange.
    """
    check_range("gain", gain, above=0)
    check_range("integral time in s", integral_time, above=0)
    check_range("derivative time in s", derivative_time, atleast=0)
    check_range("share of full speed", output_share, above=0, upto=10)
    check_range("share of the range", feedback_share, above=0, upto=100)
    own = gain * feedback_share / output_share
    ideal = _form("ideal", "Ideal: gain acts on all three", own, integral_time, derivative_time)
    try:
        inner = series_of_ideal(own, integral_time, derivative_time)
        series = _form("series", "Series: derivative before the integral", *(float(v) for v in inner))
    except MainspringError as reason:
        label = "Series: derivative before the integral"
        series = DriveForm("series", label, None, None, None, None, None, None, None, reason.tellings)
    parallel = DriveForm(
        "parallel",
        "Parallel: each part its own gain",
        own,
        float(proportional_band(own)),
        None,
        None,
        float(parallel_integral_gain(own, integral_time)),
        None,
        float(parallel_derivative_gain(own, derivative_time)),
    )
    return [ideal, series, parallel]


def _form(id: str, label: str, gain: float, integral_time: float, derivative_time: float) -> DriveForm:
    return DriveForm(
        id, label, gain, float(proportional_band(gain)), integral_time, float(repeats_per_minute(integral_time)), None,
        derivative_time, None,
    )  # fmt: skip
