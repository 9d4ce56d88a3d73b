"""What a value does that is not the proposed one: nothing worth saying loudly, something to know, or harm.

A setting is judged by what it does and not by being different. Each judge sees the line as it is in force, but for
the setting itself.
"""

from collections.abc import Callable
from dataclasses import dataclass

from mainspring.core import practice
from mainspring.core.checks.finding import Finding, Severity
from mainspring.core.derived import Derived
from mainspring.core.errors import MainspringError
from mainspring.core.limits import (
    highest_in_force,
    highest_reasons,
    lowest_in_force,
    run_down_time,
    run_up_time,
    surge_ramp,
    torque_frequency,
)
from mainspring.core.line import Line, OnSite, in_force
from mainspring.core.line.on_site import ASKED, HOW, OF_SETTING, Told
from mainspring.core.method import COMMON_PRACTICE, Figure, Leaf, given
from mainspring.core.ratios import share_of
from mainspring.core.sentence import Sentence, in_sentence, say
from mainspring.core.settings.consequences import consequence_of
from mainspring.core.settings.setting import SETTINGS, Setting, SettingRow, SettingValue, plan_of, same_value, without


@dataclass(frozen=True)
class Effect:
    """What a value does: how bad, in a few words, with the numbers."""

    severity: Severity
    title: str
    because: Sentence


@dataclass(frozen=True)
class Deviation:
    """A value beside the proposal, on its line as it is in force without it."""

    setting: Setting
    proposed: SettingValue
    value: SettingValue
    how: str  # found, decided, left
    line: Line
    derived: Derived

    @property
    def number(self) -> Figure:
        """The value of a setting that is a quantity."""
        assert isinstance(self.value, Figure)
        return self.value

    @property
    def wanted(self) -> Figure:
        """The proposal for a quantity."""
        assert isinstance(self.proposed, Figure)
        return self.proposed

    def known(self, compute: Callable[[], Figure]) -> Figure | None:
        """A figure to compare with, where it can be told."""
        try:
            return compute()
        except MainspringError:
            return None


Judge = Callable[[Deviation], Effect | None]
JUDGES: dict[str, Judge] = {}
NEAR = 1.006  # what a display cannot tell apart


def effect_of(deviation: Deviation) -> Effect:
    """What a value does."""
    setting, proposed, value = deviation.setting, deviation.proposed, deviation.value
    if same_value(proposed, value, exact=setting.exact):
        return Effect(Severity.CLEAR, "As proposed", say("The value that is proposed."))
    if setting.exact:
        return _bad("Not the plate's value", "{value}, the plate has {proposed}: it may not start.", deviation)
    judge = JUDGES.get(setting.id)
    judged = judge(deviation) if judge else None
    if judged is not None:
        return judged
    does = consequence_of(setting.id, value, proposed)
    if does is not None:
        return Effect(does.severity, does.title, _said(does.words, deviation))
    return _fine("Harmless", "Another value than the proposed one; nothing here speaks against it.", deviation)


def _said(words: str, deviation: Deviation, **figures: Figure) -> Sentence:
    for name, one in (("value", deviation.value), ("proposed", deviation.proposed)):
        if isinstance(one, Figure):
            figures[name] = one
        else:
            words = words.replace(f"{{{name}}}", deviation.setting.choices.get(one, one))
    return say(words, **figures)


def _bad(title: str, words: str, deviation: Deviation, **figures: Figure) -> Effect:
    return Effect(Severity.STOP, title, _said(words, deviation, **figures))


def _doubt(title: str, words: str, deviation: Deviation, **figures: Figure) -> Effect:
    return Effect(Severity.CAUTION, title, _said(words, deviation, **figures))


def _fine(title: str, words: str, deviation: Deviation, **figures: Figure) -> Effect:
    return Effect(Severity.CLEAR, title, _said(words, deviation, **figures))


def _judges(*ids: str) -> Callable[[Judge], Judge]:
    def declare(judge: Judge) -> Judge:
        JUDGES.update(dict.fromkeys(ids, judge))
        return judge

    return declare


# motor


@_judges("motor.rated_current")
def _motor_amps(d: Deviation) -> Effect | None:
    ratio = share_of(d.number, d.wanted)
    if ratio > 1.05:
        return _bad("Does not protect the motor", "{value} is {ratio} of the plate's {proposed}.", d, ratio=ratio)
    if ratio < 0.9:
        return _doubt("Trips below full load", "{value} is {ratio} of the plate's {proposed}.", d, ratio=ratio)
    return None


@_judges("motor.rated_voltage", "motor.rated_frequency")
def _flux(d: Deviation) -> Effect | None:
    if abs(share_of(d.number, d.wanted) - 1) <= 0.02:
        return None
    return _bad("Wrong flux in the motor", "{value}, the plate has {proposed}: saturated, or weak.", d)


@_judges("motor.rated_power")
def _motor_power(d: Deviation) -> Effect | None:
    ratio = share_of(d.number, d.wanted)
    if not 0.5 < ratio < 2:
        return _bad("Another motor's power", "{value}, the plate has {proposed}.", d)
    return None if 0.9 < ratio < 1.1 else _doubt("Motor model is off", "{value}, the plate has {proposed}.", d)


@_judges("motor.rated_speed")
def _motor_speed(d: Deviation) -> Effect | None:
    if "permanent_magnet" not in d.line.traits and d.number >= d.derived.synchronous_rpm * 0.999:
        return _doubt("No slip", "{value} is the synchronous speed: slip compensation and load estimate go wrong.", d)
    return None if abs(share_of(d.number, d.wanted) - 1) < 0.01 else _doubt(
        "Slip is off", "{value}, the plate has {proposed}: slip compensation and load estimate go wrong.", d
    )  # fmt: skip


@_judges("motor.type")
def _motor_type(d: Deviation) -> Effect:
    return _bad("Set for another kind of motor", "{value}, this is {proposed}: it will not run, or burns.", d)


# limits


@_judges("limits.current")
def _current_limit(d: Deviation) -> Effect | None:
    drive, plate = d.known(lambda: d.derived.drive_amps), d.derived.motor_amps
    ratio = share_of(d.number, plate)
    if drive is not None and d.number > drive * NEAR:
        return _bad("Above what the drive gives", "{value}, the drive gives {drive} at its place.", d, drive=drive)
    if ratio > NEAR:
        service = d.line.value("motor.service_factor") or 1.0
        words = "{value} is {ratio} of the plate's {plate}"
        if "submersible" not in d.line.traits and ratio <= min(service, practice.drive.SERVICE_LIMIT) * NEAR:
            words += "; a service factor is stated for sine supply, on a drive the motor runs hotter."
            return _doubt("Uses the service factor", words, d, ratio=ratio, plate=plate)
        words += ", for as long as it likes."
        return _bad("Does not protect the motor", words, d, ratio=ratio, plate=plate)
    if ratio < practice.drive.LIMIT_UNDER:
        words = "{value} is {ratio} of the plate's {plate}: it may not reach full speed."
        return _doubt("Holds the motor back", words, d, ratio=ratio, plate=plate)
    return _fine("Protects the motor", "{value} of {plate} on the plate.", d, plate=plate)


@_judges("limits.minimum_speed")
def _lowest_speed(d: Deviation) -> Effect | None:
    line, derived = d.line, d.derived
    usual = given("practice_minimum", line.application.lowest, "frequency", line.application.lowest_why)
    top = d.known(lambda: highest_in_force(line, derived))
    if top is not None and d.number >= top:
        return _bad("Above the highest speed", "{value}, the highest speed is {top}.", d, top=top)
    if "submersible" in line.traits and d.number * NEAR < usual:
        words = "{value}: the thrust bearing has no film below {usual}."
        return _bad("Under the bearing's limit", words, d, usual=usual)
    rules = d.known(lambda: derived.low_limit) if "rests" in line.traits else None
    for cooled in (lambda: derived.cooling_frequency, lambda: torque_frequency(derived)):
        least = d.known(cooled)
        if rules is not None and least is not None and least <= rules * NEAR:
            continue  # in automatic the controller's low limit holds it above that
        if least is not None and d.number * NEAR < least:
            return _bad("The motor is not cooled", "{value}: it is cooled above {least}.", d, least=least)
    hold = d.known(lambda: derived.hold_frequency) if "pump" in line.traits else None
    if hold is not None and d.number * NEAR < hold:
        words = "{value}: below {hold} no water moves and the pump heats what is in it."
        return _doubt("It may churn", words, d, hold=hold)
    if d.number * NEAR < usual:
        return _doubt("Lower than practice", "{value}; " + line.application.lowest_why + ".", d)
    return _fine("It never runs slower", "{value}; {proposed} would do.", d) if d.number > d.wanted else None


@_judges("limits.maximum_speed")
def _highest_speed(d: Deviation) -> Effect | None:
    line, derived = d.line, d.derived
    low = d.known(lambda: lowest_in_force(line, derived))
    if low is not None and d.number <= low:
        return _bad("Under the lowest speed", "{value}, the lowest speed is {low}.", d, low=low)
    reasons = highest_reasons(line, derived)
    for reason in reasons[1:]:
        if d.number > reason.figure * NEAR:
            return _bad("Too fast", f"{{value}}: at {{limit}}, {reason.words}.", d, limit=reason.figure)
    base = reasons[0].figure
    if d.number > base * NEAR:
        return _doubt("Above base frequency", "{value}: above {base} shaft power grows with the cube.", d, base=base)
    return _fine("It never runs faster", "{value}; the machine could take {proposed}.", d)


@_judges("ramps.up")
def _ramp_up(d: Deviation) -> Effect | None:
    if too_slow := _through_the_film(d):
        return too_slow
    least = d.known(lambda: run_up_time(d.line, d.derived))
    if least is not None and d.number * NEAR < least:
        return _doubt("Current limit reached", "{value}; the inertia asks for {least}.", d, least=least)
    return _fine("Time enough", "{value}; {proposed} is proposed.", d)


def _through_the_film(d: Deviation) -> Effect | None:
    """A submersible must be through what its thrust bearing does not stand within a second."""
    if "submersible" not in d.line.traits or d.line.told("ramps.initial_to_minimum") is not None:
        return None
    lowest = given("practice_minimum", d.line.application.lowest, "frequency", d.line.application.lowest_why)
    takes = given("time_to_lowest", d.number * share_of(lowest, d.line.motor.rated_frequency), "time", "of the ramp")
    if takes <= practice.pump.INITIAL_RAMP * NEAR:
        return None
    words = "{value} takes {takes} to {lowest}; the bearing stands {most}. Set a first ramp to the lowest speed."
    return _bad("Too slow through the bearing's film", words, d, takes=takes, lowest=lowest,
                most=practice.pump.INITIAL_RAMP)  # fmt: skip


@_judges("ramps.down")
def _ramp_down(d: Deviation) -> Effect | None:
    surge = d.known(lambda: surge_ramp(d.line, d.derived))
    if surge is not None and d.number * NEAR < surge:
        return _doubt("Water hammer", "{value}; the pipeline asks for {surge}.", d, surge=surge)
    least = d.known(lambda: run_down_time(d.line, d.derived))
    if least is not None and d.number * NEAR < least:
        return _doubt("Overvoltage", "{value}; the energy of the inertia needs {least} to go.", d, least=least)
    return _through_the_film(d) or _fine("Time enough", "{value}; {proposed} is proposed.", d)


@_judges("ramps.initial_to_minimum")
def _initial_ramp(d: Deviation) -> Effect | None:
    if d.number > practice.pump.INITIAL_RAMP * NEAR:
        return _bad("Too slow through the bearing's film", "{value}; the bearing stands {proposed}.", d)
    return None


@_judges("stop.mode")
def _way(d: Deviation) -> Effect | None:
    if d.value == "coast":
        return _doubt("The check valve may slam", "It stops at once: look and listen at the valve.", d)
    down = d.line.told("ramps.down", "time", "Ramp down")
    least = d.known(lambda: run_down_time(d.line, d.derived))
    if least is None or not isinstance(down, Figure) or down * NEAR >= least:
        return None
    return _doubt(
        "Overvoltage", "It brakes in {down}; the energy of the inertia needs {least}.", d, down=down, least=least
    )


@_judges("carrier.frequency")
def _carrier(d: Deviation) -> Effect | None:
    drive, motor = d.known(lambda: d.derived.drive_amps), d.known(lambda: d.derived.motor_amps)
    if d.number > practice.drive.RATED_CARRIER and drive is not None and motor is not None and drive < motor:
        words = "{value}: the drive then gives {drive}, the motor draws {motor}."
        return _bad("The drive gives too few amps", words, d, drive=drive, motor=motor)
    lead = d.line.value("drive.lead_length")
    if lead is not None and d.number > d.wanted * NEAR and lead > d.line.own(practice.drive.LEAD_PLAIN):
        return _doubt("Hard on a long lead", "{value} on {lead} of motor lead.", d, lead=d.line.drive.lead_length)
    return None


# sensor and loop

_RANGES = tuple(f"feedback.{kind}range_{end}" for kind in ("", "duct_", "level_", "temperature_", "flow_")
                for end in ("low", "high"))  # fmt: skip
_SETPOINTS = tuple(
    f"pid.{kind}setpoint_{n}" for kind in ("", "duct_", "level_", "temperature_", "flow_") for n in (1, 2)
)


@_judges(*_RANGES)
def _range(d: Deviation) -> Effect:
    return _bad("Every value is wrong by the ratio", "{value} in the drive, the sensor's label says {proposed}.", d)


@_judges("feedback.signal", "reference.signal")
def _signal(d: Deviation) -> Effect:
    return _bad("Reads another signal", "{value} in the drive, {proposed} comes in.", d)


@_judges("pid.action")
def _action(d: Deviation) -> Effect:
    return _bad("Runs away", "The wrong way round it drives to full speed, or stops.", d)


@_judges(*_SETPOINTS)
def _setpoint(d: Deviation) -> Effect | None:
    rating = d.line.value("system.pressure_rating") if d.setting.id in ("pid.setpoint_1", "pid.setpoint_2") else None
    if rating is not None and d.number > rating:
        words = "{value}, the weakest part is rated {rating}."
        return _bad("Above the rating", words, d, rating=d.line.system.pressure_rating)
    if d.how == "decided":
        return _fine("Another setpoint", "{value} is wanted instead of {proposed}; all that follows goes by it.", d)
    return _doubt("Not the setpoint wanted", "It holds {value}; {proposed} is wanted.", d)


@_judges("pid.gain", "pid.integral_time")
def _tuning(d: Deviation) -> Effect | None:
    ratio = share_of(d.number, d.wanted)
    fast = ratio > 3 if d.setting.id == "pid.gain" else ratio < 1 / 3
    if fast:
        return _doubt("May hunt", "{value}; {proposed} by the model.", d)
    return None if 1 / 3 <= ratio <= 3 else _doubt("Sluggish", "{value}; {proposed} by the model.", d)


@_judges("pid.output_low")
def _low_limit(d: Deviation) -> Effect | None:
    if "submersible" in d.line.traits and d.number * NEAR < d.line.application.lowest:
        return _lowest_speed(d)
    hold = d.known(lambda: d.derived.hold_frequency)
    if hold is not None and d.number <= hold:
        return _doubt(
            "It will not rest", "{value} does not creep above the setpoint: {hold} only holds it.", d, hold=hold
        )
    return None


@_judges("sleep.frequency")
def _sleep(d: Deviation) -> Effect | None:
    low = d.known(lambda: d.derived.low_limit)
    if d.number <= 0:
        return _doubt("It does not sleep", "Off: at no demand it runs on against shut valves.", d)
    if d.wanted <= 0:
        words = "{value}: no tank keeps the pressure while it sleeps, it may start and stop all the time."
        return _doubt("Sleeps without a tank", words, d)
    if low is not None and d.number <= low:
        return _doubt("It can never sleep", "{value}, and it never runs below {low}.", d, low=low)
    if d.number > d.wanted + 5:
        return _doubt("Sleeps while somebody draws", "{value}; {proposed} is enough.", d)
    return None


@_judges("sleep.wake_level")
def _wake(d: Deviation) -> Effect | None:
    held, air = d.line.value("control.setpoint"), d.line.value("system.tank_precharge")
    if held is not None and d.number >= held:
        return _doubt("Starts at once again", "{value}, the setpoint is {held}.", d, held=d.line.control.setpoint)
    if air is not None and d.number <= air:
        words = "{value}, the tank's air has {air}: it gives no water before the drive wakes."
        return _doubt("Wakes on an empty tank", words, d, air=d.line.system.tank_precharge)
    return None


# protection


@_judges("protection.interlock")
def _interlock(d: Deviation) -> Effect | None:
    if d.value == "disabled":
        return _doubt("Defeated interlock", "Nothing stops the drive through this input.", d)
    return None


@_judges("protection.high_pressure")
def _high_pressure(d: Deviation) -> Effect | None:
    if d.number > d.wanted * NEAR:
        return _bad("Alarms above the rating", "{value}, the weakest part is rated {proposed}.", d)
    return None


@_judges("protection.underload")
def _underload(d: Deviation) -> Effect | None:
    if d.number > d.wanted * 1.1:
        return _doubt("Trips with water in it", "{value}; {proposed} tells dry from slow.", d)
    return _doubt("Sees dry running late", "{value}; {proposed} tells dry from slow.", d) if (
        d.number < d.wanted * 0.7
    ) else None  # fmt: skip


@_judges("retry.count")
def _retries(d: Deviation) -> Effect | None:
    if d.number > 5:
        return _doubt("Starts by itself too often", "{value} tries; at most five.", d)
    return None


# where a deviation is told on the line: by the group of its setting
_PLACES = {
    "motor": "drive-motor", "carrier": "drive-motor", "limits": "motor-machine", "ramps": "motor-machine",
    "stop": "motor-machine", "start": "motor-machine", "feedback": "sensor-drive", "reference": "sensor-drive",
    "pid": "sensor-drive", "sleep": "sensor-drive", "level": "system-sensor",
}  # fmt: skip


def _held_by(setting: Setting, told: Told, effect: Effect) -> str:
    """What a harmful value holds: not the step at which it is read back, or nobody could put it right.

    Nothing once somebody decided it and said why: that is the answer which the finding asks for; it stays in sight.
    """
    if effect.severity is not Severity.STOP or told.why:
        return ""
    return "loop" if setting.group in ("feedback", "pid", "sleep", "level", "reference") else "turn"


def value_effect(line: Line, derived: Derived, row: SettingRow, value: float | str, how: str) -> Effect | None:
    """What a value of a setting does, as found, decided or left; None where nothing is proposed to go by."""
    if row.planned is None:
        return None
    setting = row.setting
    bare, of_bare = without(line, derived, setting.id)
    shown: SettingValue = value if isinstance(value, str) else Figure(
        value, Leaf(f"settings.{setting.id}", f"{setting.label}, as {how}", setting.dimension, how)
    )  # fmt: skip
    return effect_of(Deviation(setting, row.planned.value, shown, how, bare, of_bare))


_INFLUENCE = frozenset((*OF_SETTING, *ASKED)) - {"protection.interlock"}


def _all_as_proposed(line: Line) -> bool:
    """Whether every setting that others are derived from is as it would be proposed had none been told.

    Then each is as proposed given the others too, and no line without just that one has to be worked out.
    """
    bare = in_force(line.record, OnSite({}, line.on_site.readings, line.on_site.decided))
    derived = Derived(bare)
    for id, told in line.on_site.settings.items():
        setting = SETTINGS.get(id)
        if id in _INFLUENCE and setting is not None and line.applies(setting.only):
            planned = plan_of(setting, bare, derived).planned
            if planned is None or not same_value(planned.value, told.value, exact=setting.exact):
                return False
    return True


def deviations(line: Line, derived: Derived) -> list[Finding]:
    """What is in force other than proposed and does something: a stop, or a caution that nobody has decided.

    What somebody decided with a reason is said on the sheet and no longer here, unless it is a stop or a defeated
    interlock, which stays visible.
    """
    if not line.on_site.settings:
        return []
    found = []
    as_proposed = _all_as_proposed(line)
    for id, told in line.on_site.settings.items():
        setting = SETTINGS.get(id)
        if setting is None or not line.applies(setting.only) or (as_proposed and id in _INFLUENCE):
            continue
        row = plan_of(setting, line, derived)
        effect = value_effect(line, derived, row, told.value, told.how)
        if effect is None or effect.severity is Severity.CLEAR:
            continue
        if effect.severity is Severity.CAUTION and told.why and id != "protection.interlock":
            continue
        assert row.planned is not None
        wanted = row.planned.value
        do = (
            say("Set {wanted}, or decide it and say why.", wanted=wanted)
            if isinstance(wanted, Figure)
            else say(f"Set “{setting.choices.get(wanted, wanted)}”, or decide it and say why.")
        )
        place = "drive-motor" if id == "limits.current" else _PLACES.get(setting.group, "drive")
        title = f"{setting.label} {HOW[told.how]}: {in_sentence(effect.title)}"
        found.append(
            Finding(f"setting_{id.replace('.', '_')}", place, effect.severity, title, effect.because, do,
                    COMMON_PRACTICE, (f"settings.{id}",), answers=(f"settings.{id}",),
                    holds=_held_by(setting, told, effect))
        )  # fmt: skip
    return found
