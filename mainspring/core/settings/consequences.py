"""What each value of a setting does when another one is proposed: by choice, and above and below the proposed number.

A table, so that every way of being off is read side by side and none is told backwards. Where physics decides, a judge
in `effects` does. Common practice, no source.
"""

from typing import NamedTuple

from mainspring.core.checks.finding import Severity


class Does(NamedTuple):
    """What a value does: how bad, in a few words, and a sentence; `{value}` and `{proposed}` are told."""

    severity: Severity
    title: str
    words: str


def _fine(title: str, words: str) -> Does:
    return Does(Severity.CLEAR, title, words)


def _doubt(title: str, words: str) -> Does:
    return Does(Severity.CAUTION, title, words)


def _bad(title: str, words: str) -> Does:
    return Does(Severity.STOP, title, words)


_INPUT_FREE = _doubt("Nothing reads this contact", "What is wired to it for “{proposed}” does nothing.")
_INPUT = _doubt("Another thing happens", "The contact that is labelled “{proposed}” does “{value}”.")
_INPUTS = {
    "none": _INPUT_FREE,
    **dict.fromkeys(
        ("start", "stop", "enable", "hand", "preset_1", "preset_2", "preset_3", "setpoint_2", "thermal", "reset"),
        _INPUT,
    ),
}
_RELAY = _doubt("It tells another thing", "Who is wired to it takes “{value}” for “{proposed}”.")
_RELAYS = {
    "none": _doubt("It tells nobody", "Whoever waits for “{proposed}” never hears of it."),
    "running": _doubt("A fault is taken for rest", "It only tells whether it runs; “{proposed}” is not told."),
    **dict.fromkeys(("fault", "level_high", "level_low", "pressure_high", "pressure_low", "underload"), _RELAY),
}
_CONTACT = {
    "open": _doubt("Told the other way round", "It makes where it should break: without power nobody hears an alarm."),
    "closed": _doubt("Told the other way round", "It breaks where it should make: told while it is not so."),
}
_SKIP = {
    "set": _fine("A band is skipped", "It passes these speeds and does not stay; the loop may jump across them."),
    "none": _doubt("A resonance is not skipped", "It may stay at a speed at which something shakes."),
}

CHOICES: dict[str, dict[str, Does]] = {
    "region.base_standard": {
        "50": _bad("Defaults for 50 Hz", "Every default after it is for 50 Hz; the supply here has 60."),
        "60": _bad("Defaults for 60 Hz", "Every default after it is for 60 Hz; the supply here has 50."),
    },
    "region.power_unit": {
        "kW": _fine("Shows kW", "Powers are typed and read in kW: a plate in hp has to be turned into kW first."),
        "hp": _fine("Shows hp", "Powers are typed and read in hp: a plate in kW has to be turned into hp first."),
    },
    "region.clock": {"not_set": _fine("Clock not set", "Faults in its log cannot be dated.")},
    "region.daylight_saving": {
        "on": _fine("Jumps with summer time", "Twice a year the log's hours repeat or leave out one."),
        "off": _fine("Keeps one time", "In summer the log's hours are not those of the clock on the wall."),
    },
    "region.language": {
        "other": _fine("Another language", "Who stands at it at night may not read the display."),
        "site": _fine("The site's language", "Who stands at it at night can read the display."),
    },
    "reset.factory_before": {
        "no": _doubt("Not reset", "Values of the drive's earlier life stay in it, where nobody looks for them."),
        "yes": _doubt("Reset", "What was set in it before is gone: it must have been saved first."),
    },
    "application.load_torque": {
        "variable": _doubt(
            "Set for a light start", "With less torque at low speed a load of constant torque may stick."
        ),
        "constant": _fine("Set for full torque", "Full torque at low speed: a little more heat and noise than needed."),
    },
    "application.duty_rating": {
        "normal": _doubt(
            "Set for normal duty", "It gives less overload than this load asks for: it may trip at start."
        ),
        "heavy": _doubt("Set for heavy duty", "It gives fewer amps all the time: it may not reach full load."),
    },
    "display.lines": {
        "other": _fine("Shows other lines", "Hz, A, power and r/min have to be looked for when it is diagnosed.")
    },
    "bus.loss_action": {
        "stop": _doubt("Stops with the link", "When the link is lost it stops; agreed was “{proposed}”."),
        "hold": _doubt("Goes on without the link", "When the link is lost nobody can slow or stop it from afar."),
        "preset": _doubt("Runs without the link", "When the link is lost it runs at its preset speed, wanted or not."),
    },
    **{f"io.digital_{n}": _INPUTS for n in range(1, 7)},
    **{f"limits.skip_band_{n}": _SKIP for n in (1, 2, 3)},
    "limits.direction": {
        "both": _doubt("May run backwards", "Both directions are allowed: a signal can turn it the wrong way."),
        "forward": _doubt("Cannot turn back", "The cycle that clears its throat needs to turn it back a moment."),
    },
    "start.mode": {
        "ramp": _doubt("May trip on a turning machine", "Started into a wheel that turns by itself, it trips."),
        "flying": _fine("Catches a turning machine", "It looks for a machine that turns; at rest this takes a moment."),
    },
    "start.source": {
        "terminal": _doubt(
            "Waits for its contacts", "“{proposed}” does not start it; what is wired to its contacts does."
        ),
        "keypad": _doubt("Waits for its keypad", "“{proposed}” does not start it; somebody has to press the key."),
        "bus": _doubt("Waits for the link", "“{proposed}” does not start it; the automation does, with nobody there."),
    },
    "start.wiring": {
        "two_wire": _doubt("Starts again by itself", "After a power failure it starts with the contact still closed."),
        "three_wire": _doubt("Waits for its button", "After a power failure it stands until somebody presses start."),
        "none": _doubt("No contact starts it", "What is wired to start it does nothing."),
    },
    "reference.source": {
        "pid": _doubt("Its own controller sets the speed", "The speed from “{proposed}” is not followed."),
        "analogue": _doubt(
            "The analogue input sets the speed", "With nothing wired there it runs at its lowest speed."
        ),
        "potentiometer": _doubt("A potentiometer sets the speed", "It stays where somebody turned it to."),
        "presets": _doubt("Contacts set the speed", "With no contact made it runs at its lowest speed, or stands."),
        "keypad": _doubt(
            "The keypad sets the speed", "It stays at the speed last keyed, whatever is asked from outside."
        ),
        "bus": _doubt(
            "The link sets the speed", "Without orders over the link it runs at its lowest speed, or stands."
        ),
    },
    "reference.loss_action": {
        "stop": _doubt("Stops without its signal", "A broken wire stops it; the process wants “{proposed}”."),
        "last": _doubt(
            "Runs on without its signal", "A broken wire leaves it at the last speed, and nobody can slow it."
        ),
        "minimum": _doubt("Runs slowly without its signal", "A broken wire takes it to its lowest speed, unseen."),
    },
    "feedback.loss_action": {
        "stop": _doubt("Stops without its sensor", "A broken wire stops what must not stop unseen."),
        "last": _doubt(
            "Runs on without its sensor", "At the last speed with every valve shut it may burst the weakest part."
        ),
    },
    "motor.identification": {
        "off": _fine("Motor not measured", "It goes by the plate alone: less sure torque at low speed."),
        "rotating": _fine("Measured while it turns", "Better known than at rest; only done uncoupled."),
        "standstill": _fine("Measured at rest", "Known well enough for a pump or fan."),
    },
    "motor.thermal_protection": {
        "off": _bad("Nothing watches the winding", "An overload is only stopped when the winding is cooked."),
        "model": _doubt("The winding's own sensor is not read", "The model does not know a blocked fan or hot air."),
        "thermistor": _doubt(
            "Trips without a thermistor",
            "It waits for a sensor in the winding: with none wired it trips or does not watch.",
        ),
    },
    "start.local": {
        "keypad": _doubt(
            "The keypad starts it", "Hand/off/auto contacts do nothing; whoever is at the keypad starts it."
        ),
        "contact": _doubt("Contacts start it by hand", "The keypad cannot start it, in some makes not stop it either."),
        "none": _doubt("No local orders", "Nobody can stop it where it stands but by its isolator."),
    },
    "reference.local": {
        "keypad": _fine(
            "The keypad sets the local speed", "It starts at the speed last keyed: look before local is taken."
        ),
        "potentiometer": _doubt("A potentiometer sets the local speed", "It runs at once where somebody turned it to."),
        "fixed": _doubt("One local speed", "It runs at its preset speed the moment somebody takes local."),
    },
    "pid.setpoint_select": {
        "one": _doubt("The second setpoint is never taken", "What its contact is for does not happen."),
        "contact": _doubt(
            "A contact may change the setpoint", "With nothing wired there it may hold the other setpoint."
        ),
    },
    "motor.slip_compensation": {
        "on": _fine("Slip is made up for", "It runs a little faster under load; with a controller it may hunt."),
        "off": _fine("Slip is not made up for", "It runs a little slower under load than its frequency says."),
    },
    "start.torque": {
        "normal": _doubt("A light start", "It may not break away from a load that sticks."),
        "high": _doubt("A raised start", "More amps than needed at every start: heat, and trips if the ramp is short."),
    },
    "protection.least_flow": {
        "off": _doubt(
            "Nothing stops it at no flow", "It churns, heats its water and eats its seal with the valves shut."
        ),
        "alarm": _doubt(
            "No flow is only told", "It goes on against shut valves until somebody comes; “{proposed}” stops it."
        ),
        "stop": _doubt("Stops at low flow", "It may stop at little demand; “{proposed}” is enough here."),
    },
    "access.code": {
        "none": _fine("No code", "Anybody can change what was set."),
        "set": _fine("A code is set", "Who has to change something needs the code: keep it with the site."),
    },
    "access.unlocked_by": {
        "service": _fine("The code is with service", "Nobody on site can change anything at night."),
        "site": _fine("The code is with the site", "Everybody on site who has it can change everything."),
    },
    "io.relay_1": _RELAYS,
    "io.relay_2": _RELAYS,
    "io.relay_1_contact": _CONTACT,
    "io.relay_2_contact": _CONTACT,
    "protection.broken_belt": {
        "off": _doubt("A broken belt is not seen", "The motor turns, the fan stands, and nobody misses it."),
        "on": _fine("Watches for no load", "At low speed a light load may be taken for a broken belt."),
    },
    "level.anti_clog": {
        "off": _doubt("Its throat is not cleared", "Fibre collects until it jams."),
        "cycles": _doubt(
            "Turns back at every start", "Without fibre there is nothing to clear; an impeller can unscrew."
        ),
    },
    "protection.phase_loss_in": {
        "off": _bad("A lost phase is not seen", "On two phases its rectifier and capacitors are overloaded."),
        "on": _doubt("Trips on a single-phase feed", "It takes the one phase that it is fed with for a lost one."),
    },
    "protection.earth_fault": {
        "off": _bad("An earth fault is not seen", "A nicked cable or wet winding goes on feeding the fault."),
    },
}


class Around(NamedTuple):
    """What a number does below and above the proposed one."""

    below: Does
    above: Does


def _either(does: Does) -> Around:
    return Around(does, does)


_PRESET = _either(_doubt("Not the speed of its contact", "{value} where its contact is labelled {proposed}."))
NUMBERS: dict[str, Around] = {
    "bus.address": _either(
        _doubt("Another address", "It answers to {value}; {proposed} is its own, {value} may be another's.")
    ),
    "bus.device_instance": _either(
        _doubt("Another instance", "It answers to {value}; two of one instance take both down.")
    ),
    "reference.low": Around(
        _doubt("Starts lower", "{value} at the signal's low end: all speeds between are lower than meant."),
        _doubt("Starts higher", "{value} at the signal's low end: all speeds between are higher than meant."),
    ),
    "reference.high": Around(
        _doubt("Ends lower", "{value} at the full signal: it never gets the speed asked for."),
        _doubt("Ends higher", "{value} at the full signal: it runs faster than asked for."),
    ),
    "sleep.delay": Around(
        _doubt("Sleeps too soon", "{value}: it may sleep in a pause of a moment, and start again at once."),
        _fine("Sleeps later", "{value}: it runs that much longer against shut valves."),
    ),
    "sleep.boost": Around(
        _doubt("Less in the tank", "{value}: small leaks wake it sooner."),
        _doubt("More before it sleeps", "{value} more than is held: see that the weakest part stands it."),
    ),
    "motor.power_factor": _either(
        _doubt("Magnetising current is off", "{value}, the plate has {proposed}: the motor model starts wrong.")
    ),
    "motor.poles": _either(_bad("Another speed", "{value} poles, the motor has {proposed}: the speed shown is wrong.")),
    "reference.preset_1": _PRESET,
    "reference.preset_2": _PRESET,
    "reference.preset_3": _PRESET,
    "protection.dry_run_restart": Around(
        _doubt("Tries too soon", "{value}: the source has not come back, the seal runs dry again."),
        _fine("Waits longer", "{value} without water after each dry run."),
    ),
    "protection.dry_run_tries": Around(
        _fine("Locks out sooner", "{value} dry runs and somebody has to come."),
        _doubt("Too many dry starts", "{value} starts without water: each one wears the seal."),
    ),
    "protection.line_fill_pressure": Around(
        _doubt("Taken as full too soon", "{value} may be there while the line still has air: hammer at full speed."),
        _doubt("Counts as full late", "{value} may not come in the time allowed: it stops though nothing is wrong."),
    ),
    "protection.line_fill_time": Around(
        _doubt("Little time to fill", "{value}: a long line is not full by then, it stops though nothing is wrong."),
        _doubt("A burst is seen late", "{value} of water through a burst or an open end before it stops."),
    ),
    "level.stop_level": Around(
        _bad("Stops lower", "{value}: it may draw air above the inlet."),
        _doubt("Stops higher", "{value}: less of the pit is used, it starts more often."),
    ),
    "level.start_level": Around(
        _doubt("Starts sooner", "{value}: less of the pit is used, it starts more often."),
        _doubt("Starts later", "{value}: less room is left before it floods."),
    ),
    "level.high_level": Around(
        _fine("Alarm sooner", "{value}: it may come while the pump still copes."),
        _doubt("Alarm late", "{value}: less time until it floods."),
    ),
    "level.stop_delay": Around(
        _doubt("Short delay", "{value}: waves stop and start it."),
        _doubt("Long delay", "{value} below its stop level: it may draw air."),
    ),
}


def consequence_of(setting: str, value: float | str, proposed: float | str) -> Does | None:
    """What the table says of a value beside the proposed one; None where it says nothing."""
    if isinstance(value, str):
        return CHOICES.get(setting, {}).get(value)
    around = NUMBERS.get(setting)
    if around is None or isinstance(proposed, str):
        return None
    return around.below if value < proposed else around.above
