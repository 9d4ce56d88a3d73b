"""Protections, restart and relays."""

from mainspring.core.derived import FULL_SPEED, Derived
from mainspring.core.hydraulics.power import no_flow_power
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, given
from mainspring.core.ratios import share_of
from mainspring.core.sentence import say
from mainspring.core.settings.setting import Planned, fixed, setting

ON_OFF = {"on": "On", "off": "Off"}


@setting("protection.underload", "Dry-run threshold, share of motor power", dimension="percent", wrong="Dry running.")
def underload(line: Line, derived: Derived) -> Planned:
    """Eighty percent of the power against a shut valve at full speed; a fixed threshold is right only near there."""
    shut = no_flow_power(derived.curve.c0, FULL_SPEED, derived.best_flow, line.machine.best_efficiency)
    share = share_of(shut, line.motor.rated_power)
    threshold = given("dry_run_threshold", 0.8 * share, "percent", "0.8 × the no-flow power at full speed")
    return Planned(
        threshold,
        say(
            "Below {shut} at a shut valve and full speed. It falls with the cube of speed: use a power or speed-scaled"
            " threshold if the drive has one.",
            shut=share,
        ),
        COMMON_PRACTICE,
    )


@setting("protection.dry_run_restart", "Restart after dry run", dimension="time", wrong="Burnt seal.")
def dry_run_restart(line: Line, derived: Derived) -> Planned:
    """Ten minutes."""
    return Planned(
        given("dry_run_restart", 600.0, "time", "common practice"), say("10 min, so that the source recovers.")
    )


@setting("protection.dry_run_tries", "Dry-run trips before lock-out", dimension="count", wrong="Burnt seal.")
def dry_run_tries(line: Line, derived: Derived) -> Planned:
    """Five."""
    return Planned(given("dry_run_tries", 5.0, "count", "5 in 60 min, common practice"), say("5 in 60 min."))


@setting("protection.high_pressure", "High-pressure alarm", dimension="pressure", wrong="Burst.", only=("booster",))
def high_pressure(line: Line, derived: Derived) -> Planned:
    """The weakest part's rating."""
    return Planned(
        line.system.pressure_rating, say("Rating of the weakest part; the relief valve stands below it."), DERIVED
    )


@setting("protection.phase_loss_in", "Input phase loss", choices=ON_OFF, wrong="Damage.")
def phase_loss(line: Line, derived: Derived) -> Planned:
    """On."""
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
    """At most five."""
    return Planned(
        given("retries", 3.0, "count", "up to 5, common practice"),
        say("Never after overcurrent or earth fault. It starts by itself: put the warning on the machine."),
    )


@setting(
    "io.relay_1", "Relay 1", choices={"fault": "Fault", "running": "Running", "none": "None"}, wrong="Blind building."
)
def relay_1(line: Line, derived: Derived) -> Planned:
    """Fault."""
    return fixed("fault", "Fault, fail-safe.")


@setting(
    "io.relay_2", "Relay 2", choices={"fault": "Fault", "running": "Running", "none": "None"}, wrong="Blind building."
)
def relay_2(line: Line, derived: Derived) -> Planned:
    """Running."""
    return fixed("running", "Running.")
