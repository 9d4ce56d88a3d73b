"""Where it takes its orders when nobody is there, and when somebody stands at it; who may change what is set."""

from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.line.applications import HELD
from mainspring.core.line.stations import CONTACTS, RELAYS
from mainspring.core.method import DERIVED
from mainspring.core.sentence import say
from mainspring.core.settings.setting import Planned, fixed, plate, setting

ON_OFF = {"on": "On", "off": "Off"}


@setting(
    "start.local",
    "Local start and stop",
    choices={"keypad": "Keypad", "contact": "Hand/off/auto contacts", "none": "Locked"},
    wrong="Nobody can stop it where it stands.",
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
)
def local_speed(line: Line, derived: Derived) -> Planned:
    """The keypad, unless told otherwise."""
    told = line.value("control.local_speed")
    if told is not None:
        return fixed(told, "As it takes its orders.", DERIVED)
    return fixed("keypad", "Set at the keypad; check what it stands at before local is taken.")


def _preset(number: int) -> None:
    def plan(line: Line, derived: Derived) -> Planned:
        return plate(line.figure(f"control.preset_{number}"), "As wanted of its contact.")

    setting(
        f"reference.preset_{number}",
        f"Preset speed {number}",
        dimension="frequency",
        wrong="Another speed than its contact is labelled with.",
        only=("presets",),
    )(plan)


for _number in (1, 2, 3):
    _preset(_number)


def _second(kinds: tuple[str, ...]) -> None:
    """The second setpoint of one kind of held quantity."""
    path = f"{HELD[kinds[0]].setpoint}_2"
    prefix = "" if kinds[0] == "pressure" else f"{kinds[0]}_"

    def plan(line: Line, derived: Derived) -> Planned:
        return plate(line.figure(path), "What is wanted while its contact is made.")

    setting(
        f"pid.{prefix}setpoint_2",
        "Second setpoint",
        dimension=HELD[kinds[0]].dimension,
        wrong="Comfort, burst.",
        only=tuple(f"second:{k}" for k in kinds),
    )(plan)


for _kinds in (("pressure", "differential"), ("duct",), ("level",), ("temperature",), ("flow",)):
    _second(_kinds)


@setting(
    "pid.setpoint_select",
    "Setpoint chosen by",
    choices={"one": "One setpoint only", "contact": "A contact"},
    wrong="The other setpoint, and nobody knows why.",
    only=("loop",),
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
)
def slip_compensation(line: Line, derived: Derived) -> Planned:
    """Off: a controller corrects the speed itself, and a square-law load does not mind the slip."""
    return fixed("off", "The load grows with the square of speed and the controller corrects: the slip does no harm.")


@setting(
    "start.torque",
    "Starting torque",
    choices={"normal": "Normal", "high": "Raised"},
    wrong="Does not break away, or trips at start.",
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
)
def least_flow(line: Line, derived: Derived) -> Planned:
    """Where nothing else stops a pump that moves no water."""
    if "rests" in line.traits and "tank" in line.traits:
        return fixed("off", "It sleeps at no demand: that is its stop at lowest flow.")
    if line.machine.has("least_flow"):
        return fixed("stop", "Nothing else stops it when the valves shut.", DERIVED)
    return fixed("alarm", "The pump's lowest flow is not known: alarm, until somebody has read it.")


@setting("region.daylight_saving", "Daylight saving", choices=ON_OFF, wrong="The log's hours do not match the site's.")
def daylight_saving(line: Line, derived: Derived) -> Planned:
    """Off: a log that jumps twice a year misdates its faults."""
    return fixed("off", "The log keeps one time all year; hours of faults stay in order.")


@setting(
    "region.language",
    "Language",
    choices={"site": "The site's", "other": "Another"},
    wrong="Nobody on site can read the display.",
)
def language(line: Line, derived: Derived) -> Planned:
    """That of who stands at it at night."""
    return fixed("site", "That of who stands at it at night.")


@setting(
    "access.code",
    "Access code",
    choices={"set": "Set", "none": "None"},
    wrong="Meddling; or nobody can get in.",
)
def access_code(line: Line, derived: Derived) -> Planned:
    """Set last, and kept with the site."""
    return fixed("set", "Set last, when everything else is; keep it with the site, not in the box.")


@setting(
    "access.unlocked_by",
    "Code is with",
    choices={"site": "Who runs the site", "service": "Service only"},
    wrong="The night shift cannot change a setpoint, or everybody can.",
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

    setting(f"io.relay_{number}", f"Relay {number}", choices=RELAYS, wrong="Blind building.")(tells)
    setting(
        f"io.relay_{number}_contact",
        f"Relay {number} used as",
        choices=CONTACTS,
        wrong="The alarm comes when all is well.",
    )(used)


for _number in (1, 2):
    _relay(_number)
