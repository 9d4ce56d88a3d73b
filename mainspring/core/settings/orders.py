"""Where it takes its orders when nobody is there, and when somebody stands at it; who may change what is set."""

from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.line.stations import CONTACTS, RELAYS
from mainspring.core.method import DERIVED
from mainspring.core.sentence import say
from mainspring.core.settings import held
from mainspring.core.settings.does import doubt, fine
from mainspring.core.settings.setting import Planned, fixed, plate, setting

ON_OFF = {"on": "On", "off": "Off"}


@setting(
    "start.local",
    "Local start and stop",
    choices={"keypad": "Keypad", "contact": "Hand/off/auto contacts", "none": "Locked"},
    wrong="Nobody can stop it where it stands.",
    means="Who may start and stop where it stands.",
    also="local control; hand start; local start; vor ort",
    does={
        "keypad": doubt(
            "The keypad starts it", "Hand/off/auto contacts do nothing; whoever is at the keypad starts it."
        ),
        "contact": doubt("Contacts start it by hand", "The keypad cannot start it, in some makes not stop it either."),
        "none": doubt("No local orders", "Nobody can stop it where it stands but by its isolator."),
    },
)
def local_start(line: Line, derived: Derived) -> Planned:
    """The keypad, unless a switch at the contacts or nobody may give local orders."""
    told = line.value("control.local_orders")
    if told is not None:
        return fixed(told, "As it takes its orders.", DERIVED)
    return fixed("keypad", "Local at the keypad; what starts it in service takes over in automatic.")


@setting(
    "reference.local",
    "Local speed",
    choices={"keypad": "Keypad", "potentiometer": "Potentiometer", "fixed": "A preset speed"},
    wrong="Runs away, or stands, the moment somebody takes local.",
    means="How fast it runs in local.",
    also="local reference; hand speed; local speed; handsollwert",
    does={
        "keypad": fine(
            "The keypad sets the local speed", "It starts at the speed last keyed: look before local is taken."
        ),
        "potentiometer": doubt("A potentiometer sets the local speed", "It runs at once where somebody turned it to."),
        "fixed": doubt("One local speed", "It runs at its preset speed the moment somebody takes local."),
    },
)
def local_speed(line: Line, derived: Derived) -> Planned:
    """The keypad, unless told otherwise."""
    told = line.value("control.local_speed")
    if told is not None:
        return fixed(told, "As it takes its orders.", DERIVED)
    return fixed("keypad", "Set at the keypad; check what it stands at before local is taken.")


_NTH = {1: "first", 2: "second", 3: "third"}
_PRESET_WORDS = ("preset speed", "multi-step", "constant speed", "festfrequenz", "fixed speed")


def _preset(number: int) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        return plate(line.figure(f"control.preset_{number}"), "As wanted of its contact.")

    setting(
        f"reference.preset_{number}",
        f"Preset speed {number}",
        dimension="frequency",
        wrong="Another speed than its contact is labelled with.",
        only=("presets",),
        means=f"Speed of the {_NTH[number]} contact.",
        also="; ".join(f"{word} {number}" for word in _PRESET_WORDS),
        between=(0, 600),
        either=doubt("Not the speed of its contact", "{value} where its contact is labelled {proposed}."),
    )(plan)


for _number in (1, 2, 3):
    _preset(_number)


for _kind in held.KINDS:
    held.second_setpoint(_kind)


@setting(
    "pid.setpoint_select",
    "Setpoint chosen by",
    choices={"one": "One setpoint only", "contact": "A contact"},
    wrong="The other setpoint, and nobody knows why.",
    only=("loop",),
    means="What chooses between setpoints.",
    also="setpoint select; setpoint source; sollwertwahl",
    does={
        "one": doubt("The second setpoint is never taken", "What its contact is for does not happen."),
        "contact": doubt(
            "A contact may change the setpoint", "With nothing wired there it may hold the other setpoint."
        ),
    },
)
def setpoint_select(line: Line, derived: Derived) -> Planned:
    """One, unless two are wanted."""
    if line.value("control.setpoints") == "two":
        return fixed("contact", "Open: the first; made: the second.", DERIVED)
    return fixed("one", "One setpoint.")


@setting(
    "motor.slip_compensation",
    "Slip compensation",
    choices=ON_OFF,
    wrong="Hunts with the controller, or runs a little fast.",
    only=("induction",),
    means="Whether the drive adds speed for the motor's slip.",
    also="slip comp; slip; schlupfkompensation",
    does={
        "on": fine("Slip is made up for", "It runs a little faster under load; with a controller it may hunt."),
        "off": fine("Slip is not made up for", "It runs a little slower under load than its frequency says."),
    },
)
def slip_compensation(line: Line, derived: Derived) -> Planned:
    """Off: a controller corrects the speed itself, and a square-law load does not mind the slip."""
    return fixed("off", "The load grows with the square of speed and the controller corrects: the slip does no harm.")


@setting(
    "start.torque",
    "Starting torque",
    choices={"normal": "Normal", "high": "Raised"},
    wrong="Does not break away, or trips at start.",
    means="Extra torque at the start.",
    also="boost torque; start torque; voltage boost; losbrechmoment; startmoment",
    does={
        "normal": doubt("A light start", "It may not break away from a load that sticks."),
        "high": doubt("A raised start", "More amps than needed at every start: heat, and trips if the ramp is short."),
    },
)
def starting_torque(line: Line, derived: Derived) -> Planned:
    """Raised where it may stick or starts against its full torque."""
    load = line.value("line.load")
    if load in ("positive_displacement", "clogging"):
        return fixed("high", "It may start against its full torque; the drive must be chosen for heavy duty.", DERIVED)
    return fixed("normal", "A centrifugal machine starts light.")


@setting(
    "protection.least_flow",
    "Stop at lowest flow",
    choices={"off": "Off", "stop": "Stop, restart by demand", "alarm": "Alarm only"},
    wrong="Churns, heats and eats its seal with the valves shut.",
    only=("pump",),
    means="What it does when nothing flows.",
    also="no flow; low flow; no-flow function; minimum flow; nullmenge",
    does={
        "off": doubt(
            "Nothing stops it at no flow", "It churns, heats its water and eats its seal with the valves shut."
        ),
        "alarm": doubt(
            "No flow is only told", "It goes on against shut valves until somebody comes; “{proposed}” stops it."
        ),
        "stop": doubt("Stops at low flow", "It may stop at little demand; “{proposed}” is enough here."),
    },
)
def least_flow(line: Line, derived: Derived) -> Planned:
    """Where nothing else stops a pump that moves no water."""
    if "rests" in line.traits and "tank" in line.traits:
        return fixed("off", "It sleeps at no demand: that is its stop at lowest flow.")
    if line.machine.has("least_flow"):
        return fixed("stop", "Nothing else stops it when the valves shut.", DERIVED)
    return fixed("alarm", "The pump's lowest flow is not known: alarm, until somebody has read it.")


@setting(
    "region.daylight_saving",
    "Daylight saving",
    choices=ON_OFF,
    wrong="The log's hours do not match the site's.",
    means="Whether the clock jumps with summer time.",
    also="summer time; dst; sommerzeit",
    does={
        "on": fine("Jumps with summer time", "Twice a year the log's hours repeat or leave out one."),
        "off": fine("Keeps one time", "In summer the log's hours are not those of the clock on the wall."),
    },
)
def daylight_saving(line: Line, derived: Derived) -> Planned:
    """Off: a log that jumps twice a year misdates its faults."""
    return fixed("off", "The log keeps one time all year; hours of faults stay in order.")


@setting(
    "region.language",
    "Language",
    choices={"site": "The site's", "other": "Another"},
    wrong="Nobody on site can read the display.",
    means="The language of the display.",
    also="sprache; display language",
    does={
        "other": fine("Another language", "Who stands at it at night may not read the display."),
        "site": fine("The site's language", "Who stands at it at night can read the display."),
    },
)
def language(line: Line, derived: Derived) -> Planned:
    """That of who stands at it at night."""
    return fixed("site", "That of who stands at it at night.")


@setting(
    "access.code",
    "Access code",
    choices={"set": "Set", "none": "None"},
    wrong="Meddling; or nobody can get in.",
    means="Whether a code guards the settings.",
    also="password; code; access code; passwort; parameter lock; lock",
    does={
        "none": fine("No code", "Anybody can change what was set."),
        "set": fine("A code is set", "Who has to change something needs the code: keep it with the site."),
    },
)
def access_code(line: Line, derived: Derived) -> Planned:
    """Set last, and kept with the site."""
    return fixed("set", "Set last, when everything else is; keep it with the site, not in the box.")


@setting(
    "access.unlocked_by",
    "Code is with",
    choices={"site": "Who runs the site", "service": "Service only"},
    wrong="The night shift cannot change a setpoint, or everybody can.",
    means="Who has the code.",
    also="access level; unlock; user level; zugriff",
    does={
        "service": fine("The code is with service", "Nobody on site can change anything at night."),
        "site": fine("The code is with the site", "Everybody on site who has it can change everything."),
    },
)
def unlocked_by(line: Line, derived: Derived) -> Planned:
    """The site's own people hold the code."""
    return fixed("site", "The setpoint stays free; everything else behind the code.")


USUAL_RELAY = {1: "fault", 2: "running"}


def relay(line: Line, number: int) -> tuple[str, str]:
    """What a relay tells, and as which contact it is used: as left, else as decided, else as told, else as usual."""
    tells = line.told(f"io.relay_{number}") or _tells(line, number)
    contact = line.told(f"io.relay_{number}_contact") or _used_as(line, number, str(tells))
    return str(tells), str(contact)


def _tells(line: Line, number: int) -> str:
    return line.value(f"control.relay_{number}") or USUAL_RELAY[number]


def _used_as(line: Line, number: int, tells: str) -> str:
    return line.value(f"control.relay_{number}_contact") or ("closed" if tells == "fault" else "open")


_RELAY = doubt("It tells another thing", "Who is wired to it takes “{value}” for “{proposed}”.")
_RELAYS = {
    "none": doubt("It tells nobody", "Whoever waits for “{proposed}” never hears of it."),
    "running": doubt("A fault is taken for rest", "It only tells whether it runs; “{proposed}” is not told."),
    **dict.fromkeys(("fault", "level_high", "level_low", "pressure_high", "pressure_low", "underload"), _RELAY),
}
_CONTACT = {
    "open": doubt("Told the other way round", "It makes where it should break: without power nobody hears an alarm."),
    "closed": doubt("Told the other way round", "It breaks where it should make: told while it is not so."),
}


def _relay(number: int) -> None:
    def tells(line: Line, derived: Derived) -> Planned:
        told = line.value(f"control.relay_{number}")
        if told is not None:
            return fixed(told, "As the building asks.", DERIVED)
        usual = USUAL_RELAY[number]
        return fixed(usual, "Fault, fail-safe." if usual == "fault" else "Running.")

    def used(line: Line, derived: Derived) -> Planned:
        function = relay(line, number)[0]
        contact = _used_as(line, number, function)
        why = "Opens on a fault, and when the drive has no power." if contact == "closed" else "Made while it is so."
        return Planned(contact, say(why if function != "none" else "Not used."))

    nth, spelt = _NTH[number], {1: "one", 2: "two"}[number]
    setting(
        f"io.relay_{number}",
        f"Relay {number}",
        choices=RELAYS,
        wrong="Blind building.",
        means=f"What the {nth} relay tells.",
        also=f"relay {spelt}; relay {number}; do{number}; relais {number}; r{number} function",
        does=_RELAYS,
    )(tells)
    setting(
        f"io.relay_{number}_contact",
        f"Relay {number} used as",
        choices=CONTACTS,
        wrong="The alarm comes when all is well.",
        means=f"As which contact the {nth} relay is used.",
        also=f"relay {number} contact; r{number} contact; relay {spelt} contact",
        does=_CONTACT,
    )(used)


for _number in (1, 2):
    _relay(_number)
