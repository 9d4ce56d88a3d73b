"""Protections, restart and relays."""

from mainspring.core import practice
from mainspring.core.derived import FULL_SPEED, Derived
from mainspring.core.hydraulics.power import no_flow_power
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Figure, given
from mainspring.core.ratios import share_of
from mainspring.core.sentence import say
from mainspring.core.settings.setting import Planned, fixed, setting

ON_OFF = {"on": "On", "off": "Off"}


@setting(
    "protection.underload",
    "Dry-run threshold, share of motor power",
    dimension="percent",
    wrong="Dry running.",
    only=("pump",),
)
def underload(line: Line, derived: Derived) -> Planned:
    """A share of the power against a shut valve at the speed where it will sit: at night that is the low limit."""
    best, efficiency = derived.machine.best_flow, line.machine.best_efficiency
    shut = share_of(no_flow_power(derived.pump.curve.c0, FULL_SPEED, best, efficiency), line.motor.rated_power)
    part = line.own(practice.pump.DRY_RUN_SHARE)
    if "rests" not in line.traits:
        threshold = given("dry_run_threshold", part * shut, "percent", f"{part:g} × the no-flow power at full speed")
        words = (
            "Below {shut} at a shut valve and full speed. It falls with the cube of speed: use a power or speed-scaled"
        )
        return Planned(threshold, say(words + " threshold, if the drive has one.", shut=shut), COMMON_PRACTICE)
    low = derived.rest_floor
    speed = share_of(low, line.motor.rated_frequency)
    night = share_of(no_flow_power(derived.pump.curve.c0, speed, best, efficiency), line.motor.rated_power)
    threshold = given("dry_run_threshold", part * night, "percent", f"{part:g} × the no-flow power at the low limit")
    return Planned(
        threshold,
        say(
            "At night it sits at {low} and takes {night} with water in it; one fixed for full speed, {shut},"
            " would trip every night. Best is one by power that is scaled with speed, else by the motor's amps.",
            low=low,
            night=night,
            shut=shut,
        ),
        COMMON_PRACTICE,
    )


@setting("protection.dry_run_restart", "Restart after dry run", dimension="time", wrong="Burnt seal.", only=("pump",))
def dry_run_restart(line: Line, derived: Derived) -> Planned:
    """So that the source recovers."""
    usual = line.own(practice.pump.DRY_RUN_RESTART)
    return Planned(usual, say("{usual}, so that the source recovers.", usual=usual))


@setting(
    "protection.dry_run_tries",
    "Dry-run trips before lock-out",
    dimension="count",
    wrong="Burnt seal.",
    only=("pump",),
)
def dry_run_tries(line: Line, derived: Derived) -> Planned:
    """A few in an hour."""
    usual = line.own(practice.pump.DRY_RUN_TRIES)
    return Planned(usual, say("{usual} in 60 min.", usual=usual))


@setting(
    "protection.high_pressure", "High-pressure alarm", dimension="pressure", wrong="Burst.", only=("holds:pressure",)
)
def high_pressure(line: Line, derived: Derived) -> Planned:
    """The weakest part's rating."""
    return Planned(
        line.system.pressure_rating, say("Rating of the weakest part; the relief valve stands below it."), DERIVED
    )


@setting(
    "protection.broken_belt",
    "Broken belt, no load",
    choices=ON_OFF,
    wrong="A still fan nobody misses.",
    only=("fan",),
)
def broken_belt(line: Line, derived: Derived) -> Planned:
    """On where a belt may break."""
    if line.machine.has("pulley_ratio"):
        return fixed("on", "A belt drive: the motor's load falls when the belt breaks.")
    return fixed("off", "Direct on the shaft: there is no belt.")


def _line_fill(id: str, label: str, dimension: str, value: Figure, words: str) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        usual = line.own(value)
        return Planned(usual, say(words, usual=usual))

    only = ("submersible", "transfer")
    setting(f"protection.{id}", label, dimension=dimension, wrong="Hammer at first start.", only=only)(plan)


_line_fill(
    "line_fill_pressure",
    "Line fill, pressure to reach",
    "pressure",
    practice.pump.FILL_PRESSURE,
    "{usual} shows a full line.",
)
_line_fill(
    "line_fill_time",
    "Line fill, time allowed",
    "time",
    practice.pump.FILL_TIME,
    "Within {usual}, or stop: a burst or an open end.",
)


def _level_setting(id: str, label: str, path: str, why: str) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        return Planned(line.figure(path), say(why), DERIVED)

    setting(f"level.{id}", label, dimension="head", wrong="Flood, cycling.", only=("wet_well",))(plan)


_level_setting("stop_level", "Stop below", "system.stop_level", "Above the pump's inlet, so that it draws no air.")
_level_setting("start_level", "Start above", "system.start_level", "From the pit's volume and the starts allowed.")
_level_setting("high_level", "High-level alarm", "system.high_level", "Starts the standby pump or the alarm.")


@setting("level.stop_delay", "Stop delay", dimension="time", wrong="Cycling.", only=("wet_well",))
def stop_delay(line: Line, derived: Derived) -> Planned:
    """Against waves."""
    return Planned(line.own(practice.loop.STOP_DELAY), say("A short delay against waves."))


@setting(
    "level.anti_clog",
    "Anti-clog cycle",
    choices={"off": "Off", "cycles": "Three turns back at start"},
    wrong="Jam.",
    only=("wet_well",),
)
def anti_clog(line: Line, derived: Derived) -> Planned:
    """Where fibre is present."""
    if line.value("line.load") == "clogging":
        return fixed("cycles", "Fibre is present; check that the impeller cannot unscrew when it turns back.")
    return fixed("off", "No fibre entered.")


@setting("protection.phase_loss_in", "Input phase loss", choices=ON_OFF, wrong="Damage.")
def phase_loss(line: Line, derived: Derived) -> Planned:
    """On, but for a three-phase drive that is fed from one phase on purpose."""
    if line.value("supply.phases") == "1" and line.value("drive.input_phases") == "3":
        return fixed("off", "Fed from one phase on purpose and derated for it.")
    return fixed("on", "Always on.")


@setting("protection.earth_fault", "Earth fault", choices=ON_OFF, wrong="Damage.")
def earth_fault(line: Line, derived: Derived) -> Planned:
    """On."""
    return fixed("on", "Always on.")


@setting(
    "protection.interlock",
    "Safety interlock",
    choices={"wired": "Normally-closed contact wired", "disabled": "Input disabled: defeated interlock"},
    wrong="Defeated safety.",
)
def interlock(line: Line, derived: Derived) -> Planned:
    """A real normally-closed contact."""
    return fixed("wired", "A normally-closed contact, so that a broken wire stops the drive.")


@setting("retry.count", "Automatic restarts", dimension="count", wrong="Starts by itself.")
def retry_count(line: Line, derived: Derived) -> Planned:
    """A few, and at most five."""
    return Planned(
        line.own(practice.loop.RETRIES),
        say("Never after overcurrent or earth fault. It starts by itself: put the warning on the machine."),
    )
