"""What could break: pressure, surge, dry running, current limit, a broken wire."""

import numpy as np

from mainspring.core.checks.finding import stop
from mainspring.core.hydraulics.power import no_flow_power
from mainspring.core.hydraulics.surge import pipe_velocity, surge_head
from mainspring.core.limits import wave_speed_of
from mainspring.core.method import Figure, given
from mainspring.core.quantity import WATER_20C, G
from mainspring.core.ratios import share_of
from mainspring.core.sentence import say
from mainspring.core.simulation import kernel
from mainspring.core.simulation.judge.looked import Looked, Meaning, fine, warn

# common practice, no source
TOUCHED = 1.0  # s before full speed; a limit that is only touched there holds nothing up
USELESS_SHARE = 0.5  # a dry-run threshold below this share of the shut power does not see a dry pump


def peak(looked: Looked) -> Meaning | None:
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
    return fine("Pressure stays safe", say("At most {peak}, rated {rating}.", **numbers))


def surging(looked: Looked) -> Meaning | None:
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
    return fine("The ramp is gentle", say("Stopped in {ramp} the water adds {added}.", ramp=ramp, added=added))


def dry(looked: Looked) -> Meaning | None:
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
        return warn(
            "It trips as if it ran dry",
            say("With water in it the pump takes {shut} at {at}, the threshold is {threshold}.", shut=shut, at=at,
                threshold=threshold),
            say("Lower the threshold, or use one that is scaled with speed."),
            "protection.underload",
        )  # fmt: skip
    if threshold < USELESS_SHARE * shut:
        return warn(
            "The dry-run threshold is useless at this speed",
            say("{threshold} at {at}, where a shut pump takes {shut} and a dry one less than half of that.",
                threshold=threshold, at=at, shut=shut),
            say("Raise it, or use one that is scaled with speed."),
            "protection.underload",
        )  # fmt: skip
    if c.plant.dry_from < kernel.NEVER:
        seen = next((e.time for e in trial.events if e.name in ("dry, trip", "locked out")), None)
        if seen is None:
            return warn("It runs dry unseen", say("Dry, and it runs on: the threshold is {threshold}.",
                         threshold=threshold), say("Raise the threshold."), "protection.underload")  # fmt: skip
        return fine("Dry running is seen", say("Stopped {t} after it ran dry.",
                     t=looked.seen("seen_after", seen - c.plant.dry_from, "time")))  # fmt: skip
    return None


def _shut_head(looked: Looked) -> Figure:
    """Head at no flow and full speed."""
    return looked.derived.pump.curve.c0


def limited(looked: Looked) -> Meaning | None:
    """A ramp that runs into the current limit."""
    full = [e.time for e in looked.trial.events if e.name == "full speed"]
    times = [
        e.time
        for e in looked.trial.events
        if e.name == "current limit" and not any(0 <= t - e.time < TOUCHED for t in full)
    ]
    if not times:
        return None
    return warn(
        "It runs into the current limit",
        say("First after {t}; ramp up {ramp}.", t=looked.seen("limited_at", times[0], "time"),
            ramp=looked.knob("ramp_up", "time")),
        say("A longer ramp up; where it is limited at a steady speed, the motor is too small for it."),
        "ramps.up",
    )  # fmt: skip


def signal(looked: Looked) -> Meaning | None:
    """What a broken wire does."""
    c = looked.trial.setup.config
    if c.sensor.lost_from >= kernel.NEVER:
        return None
    value, t = looked.trial.value, looked.trial.times
    away = np.abs(value - looked.setpoint)[t >= c.sensor.lost_from]
    numbers = {"away": looked.difference("away", float(away.max()) if away.size else 0.0)}
    if not c.sensor.told:
        return warn(
            "A broken wire is not seen",
            say("The signal has no live zero: it reads its lowest, and what is held goes {away} away.", **numbers),
            say("A sensor with 4–20 mA, or a switch that stops it."),
            "feedback.signal", "feedback.loss_action",
        )  # fmt: skip
    stops = c.sensor.on_loss == kernel.STOP
    words = "It stops and tells; {away} away." if stops else "It keeps its speed and tells; {away} away."
    return fine("A broken wire is seen", say(words, **numbers))
