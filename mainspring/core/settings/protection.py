"""Protections, restart and relays."""

from typing import Any

from mainspring.core import practice
from mainspring.core.derived import FULL_SPEED, Derived
from mainspring.core.hydraulics.power import no_flow_power
from mainspring.core.line import Line
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Figure, given
from mainspring.core.ratios import share_of
from mainspring.core.sentence import say
from mainspring.core.settings.does import bad, doubt, fine
from mainspring.core.settings.effect import NEAR, Deviation, Effect, judged
from mainspring.core.settings.setting import Planned, fixed, setting

ON_OFF = {"on": "On", "off": "Off"}


@setting(
    "protection.underload",
    "Dry-run threshold, share of motor power",
    dimension="percent",
    wrong="Dry running.",
    only=("pump",),
    means="Below which load it takes the pump for dry.",
    also="dry limit; underload; dry run; no load; unterlast; trockenlauf; low power",
    between=(0, 1),
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


@setting(
    "protection.dry_run_restart",
    "Restart after dry run",
    dimension="time",
    wrong="Burnt seal.",
    only=("pump",),
    means="After how long it tries again after a dry run.",
    also="dry run restart; dry restart delay; underload restart",
    between=(0, 86400),
    below=doubt("Tries too soon", "{value}: the source has not come back, the seal runs dry again."),
    above=fine("Waits longer", "{value} without water after each dry run."),
)
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
    means="After how many dry runs it stays off.",
    also="dry run tries; dry retries; underload retries",
    between=(0, 100),
    below=fine("Locks out sooner", "{value} dry runs and somebody has to come."),
    above=doubt("Too many dry starts", "{value} starts without water: each one wears the seal."),
)
def dry_run_tries(line: Line, derived: Derived) -> Planned:
    """A few in an hour."""
    usual = line.own(practice.pump.DRY_RUN_TRIES)
    return Planned(usual, say("{usual} in 60 min.", usual=usual))


@setting(
    "protection.high_pressure",
    "High-pressure alarm",
    dimension="pressure",
    wrong="Burst.",
    only=("holds:pressure",),
    means="At which pressure it stops or tells.",
    also="high pressure; overpressure; pressure high; überdruck; max pressure",
    between=(0, 1e8),
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
    means="Whether it tells when the load is gone.",
    also="broken belt; belt loss; no-load; keilriemen; riemenriss",
    does={
        "off": doubt("A broken belt is not seen", "The motor turns, the fan stands, and nobody misses it."),
        "on": fine("Watches for no load", "At low speed a light load may be taken for a broken belt."),
    },
)
def broken_belt(line: Line, derived: Derived) -> Planned:
    """On where a belt may break."""
    if line.machine.has("pulley_ratio"):
        return fixed("on", "A belt drive: the motor's load falls when the belt breaks.")
    return fixed("off", "Direct on the shaft: there is no belt.")


def _line_fill(id: str, label: str, value: Figure, words: str, **more: Any) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        usual = line.own(value)
        return Planned(usual, say(words, usual=usual))

    only = ("submersible", "transfer")
    setting(f"protection.{id}", label, dimension=value.dimension, wrong="Hammer at first start.", only=only, **more)(
        plan
    )


_line_fill(
    "line_fill_pressure",
    "Line fill, pressure to reach",
    practice.pump.FILL_PRESSURE,
    "{usual} shows a full line.",
    means="The pressure that shows a full line.",
    also="fill pressure; pipe fill level; fülldruck",
    between=(0, 1e8),
    below=doubt("Taken as full too soon", "{value} may be there while the line still has air: hammer at full speed."),
    above=doubt("Counts as full late", "{value} may not come in the time allowed: it stops though nothing is wrong."),
)
_line_fill(
    "line_fill_time",
    "Line fill, time allowed",
    practice.pump.FILL_TIME,
    "Within {usual}, or stop: a burst or an open end.",
    means="How long filling may take.",
    also="fill time; pipe fill time; füllzeit",
    between=(0, 86400),
    below=doubt("Little time to fill", "{value}: a long line is not full by then, it stops though nothing is wrong."),
    above=doubt("A burst is seen late", "{value} of water through a burst or an open end before it stops."),
)


def _level_setting(id: str, label: str, why: str, **more: Any) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        return Planned(line.figure(f"system.{id}"), say(why), DERIVED)

    setting(
        f"level.{id}",
        label,
        dimension="head",
        wrong="Flood, cycling.",
        only=("wet_well",),
        between=(0, 1000),
        field=f"system.{id}",
        **more,
    )(plan)


_level_setting(
    "stop_level",
    "Stop below",
    "Above the pump's inlet, so that it draws no air.",
    means="At which level it stops.",
    also="stop level; low level stop; ausschaltpegel",
    below=bad("Stops lower", "{value}: it may draw air above the inlet."),
    above=doubt("Stops higher", "{value}: less of the pit is used, it starts more often."),
)
_level_setting(
    "start_level",
    "Start above",
    "From the pit's volume and the starts allowed.",
    means="At which level it starts.",
    also="start level; high level start; einschaltpegel",
    below=doubt("Starts sooner", "{value}: less of the pit is used, it starts more often."),
    above=doubt("Starts later", "{value}: less room is left before it floods."),
)
_level_setting(
    "high_level",
    "High-level alarm",
    "Starts the standby pump or the alarm.",
    means="At which level it raises the alarm.",
    also="high level alarm; flood level; hochwasser",
    below=fine("Alarm sooner", "{value}: it may come while the pump still copes."),
    above=doubt("Alarm late", "{value}: less time until it floods."),
)


@setting(
    "level.stop_delay",
    "Stop delay",
    dimension="time",
    wrong="Cycling.",
    only=("wet_well",),
    means="How long the level stays there before it stops.",
    also="stop delay; level delay; nachlaufzeit",
    between=(0, 36000),
    below=doubt("Short delay", "{value}: waves stop and start it."),
    above=doubt("Long delay", "{value} below its stop level: it may draw air."),
)
def stop_delay(line: Line, derived: Derived) -> Planned:
    """Against waves."""
    return Planned(line.own(practice.loop.STOP_DELAY), say("A short delay against waves."))


@setting(
    "level.anti_clog",
    "Anti-clog cycle",
    choices={"off": "Off", "cycles": "Three turns back at start"},
    wrong="Jam.",
    only=("wet_well",),
    means="Whether it turns back to shake off what wraps.",
    also="anti-clog; anti-jam; pump cleaning; pumpenreinigung",
    does={
        "off": doubt("Its throat is not cleared", "Fibre collects until it jams."),
        "cycles": doubt(
            "Turns back at every start", "Without fibre there is nothing to clear; an impeller can unscrew."
        ),
    },
)
def anti_clog(line: Line, derived: Derived) -> Planned:
    """Where fibre is present."""
    if line.value("line.load") == "clogging":
        return fixed("cycles", "Fibre is present; check that the impeller cannot unscrew when it turns back.")
    return fixed("off", "No fibre entered.")


@setting(
    "protection.phase_loss_in",
    "Input phase loss",
    choices=ON_OFF,
    wrong="Damage.",
    means="Whether it watches its input phases.",
    also="input phase loss; mains phase; supply phase; phasenausfall; line phase loss",
    does={
        "off": bad("A lost phase is not seen", "On two phases its rectifier and capacitors are overloaded."),
        "on": doubt("Trips on a single-phase feed", "It takes the one phase that it is fed with for a lost one."),
    },
)
def phase_loss(line: Line, derived: Derived) -> Planned:
    """On, but for a three-phase drive that is fed from one phase on purpose."""
    if line.value("supply.phases") == "1" and line.value("drive.input_phases") == "3":
        return fixed("off", "Fed from one phase on purpose and derated for it.")
    return fixed("on", "Always on.")


@setting(
    "protection.earth_fault",
    "Earth fault",
    choices=ON_OFF,
    wrong="Damage.",
    means="Whether it watches for current to earth.",
    also="ground fault; earth fault; erdschluss",
    does={
        "off": bad("An earth fault is not seen", "A nicked cable or wet winding goes on feeding the fault."),
    },
)
def earth_fault(line: Line, derived: Derived) -> Planned:
    """On."""
    return fixed("on", "Always on.")


@setting(
    "protection.interlock",
    "Safety interlock",
    choices={"wired": "Normally-closed contact wired", "disabled": "Input disabled: defeated interlock"},
    wrong="Defeated safety.",
    means="What stands behind its enable input.",
    also="enable input; interlock; run permissive; safe stop; freigabe; external interlock; start interlock",
    leads=True,
)
def interlock(line: Line, derived: Derived) -> Planned:
    """A real normally-closed contact."""
    return fixed("wired", "A normally-closed contact, so that a broken wire stops the drive.")


@setting(
    "retry.count",
    "Automatic restarts",
    dimension="count",
    wrong="Starts by itself.",
    means="How often it restarts by itself.",
    also="retries; auto restart; reset attempts; automatic reset; wiederanlauf; number of retries",
    between=(0, 50),
)
def retry_count(line: Line, derived: Derived) -> Planned:
    """A few, and at most five."""
    return Planned(
        line.own(practice.loop.RETRIES),
        say("Never after overcurrent or earth fault. It starts by itself: put the warning on the machine."),
    )


# what a value does


@judged("protection.interlock")
def _interlock(d: Deviation) -> Effect | None:
    if d.value == "disabled":
        return d.doubt("Defeated interlock", "Nothing stops the drive through this input.")
    return None


@judged("protection.high_pressure")
def _high_pressure(d: Deviation) -> Effect | None:
    if d.number > d.wanted * NEAR:
        return d.bad("Alarms above the rating", "{value}, the weakest part is rated {proposed}.")
    return None


@judged("protection.underload")
def _underload(d: Deviation) -> Effect | None:
    if d.number > d.wanted * 1.1:
        return d.doubt("Trips with water in it", "{value}; {proposed} tells dry from slow.")
    return d.doubt("Sees dry running late", "{value}; {proposed} tells dry from slow.") if (
        d.number < d.wanted * 0.7
    ) else None  # fmt: skip


@judged("retry.count")
def _retries(d: Deviation) -> Effect | None:
    if d.number > 5:
        return d.doubt("Starts by itself too often", "{value} tries; at most five.")
    return None
