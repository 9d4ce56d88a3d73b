"""What people decided, left in the drive, or read on site, and where in the record it stands.

The model proposes, the technician disposes: what is in force is as left, else as decided, else as proposed. Where a
setting or a reading is a field of the record its value takes that field's place; all else is asked of `Line.told`.
"""

from collections.abc import Mapping
from dataclasses import dataclass, field, replace
from datetime import datetime

OF_SETTING: dict[str, str] = {}  # settings that are fields of the record too: filled in where they are declared
LEADING: set[str] = set()  # settings that are no field, on which something else is derived all the same
_SETTING_AT: dict[str, str] = {}


def speaks_for(setting: str, field: str, *, leads: bool = False) -> None:
    """Declare the field of the record that a setting speaks for, or that something is derived from it without one."""
    if field:
        OF_SETTING[setting] = field
        _SETTING_AT[field] = setting
    if leads:
        LEADING.add(setting)


# readings of the run sheet that are fields of the record too: by step and reading
OF_READING: dict[tuple[str, str], str] = {
    ("power.line_volts", "l1_l2"): "supply.reading_12",
    ("power.line_volts", "l2_l3"): "supply.reading_23",
    ("power.line_volts", "l3_l1"): "supply.reading_31",
    ("signals.sensor", "setpoint"): "sensor.check_signal",
    ("signals.sensor", "pressure"): "sensor.check_pressure",
}
_READING_AT = {path: f"{step}.{reading}" for (step, reading), path in OF_READING.items()}
HOLD = "loop.hold.hold"  # the frequency that held the setpoint at no demand, as read

SAME = 0.006  # of a value: what the display of a drive rounds away


def shown_alike(value: object, was: object) -> bool:
    """Whether two numbers are the same but for the figures that the display of a drive rounds away."""
    return isinstance(value, float) and isinstance(was, float) and abs(value - was) <= SAME * abs(was)


HOW = {"left": "as left", "decided": "as decided", "read": "read on site"}


@dataclass(frozen=True)
class Told:
    """One value that a person decided, left or read: what, how, who, when, why, and at which step of the run sheet."""

    value: float | str
    how: str  # a key of HOW
    by: str = ""
    at: datetime | None = None
    why: str = ""
    step: str = ""
    taken: bool = False  # from the plan, and not read back

    @property
    def words(self) -> str:
        """How it was told, by whom and why: as left by Ann: screened at 3 kHz."""
        return f"{HOW[self.how]}{f' by {self.by}' if self.by else ''}{f': {self.why}' if self.why else ''}"


@dataclass(frozen=True)
class Stay:
    """What the visit in hand is for, and what has to be proven anew since when.

    `parts` are what this visit repaired or replaced, `touched` those of all visits, each with the moment it was told;
    `wrong_way` is when the machine was last seen turning the wrong way; `trip` and `when` are what the display showed
    on a fault call.
    """

    purpose: str = "start-up"
    visit: str = ""  # of a purpose with a sheet of its own
    since: datetime | None = None
    parts: tuple[str, ...] = ()
    touched: Mapping[str, datetime] = field(default_factory=dict)
    wrong_way: datetime | None = None
    trip: str = ""
    when: str = ""


START_UP = Stay()


@dataclass(frozen=True)
class Taken:
    """One reading that tells what the machine is: kind, drive frequency [Hz; 0 for none], value in SI, its entry."""

    kind: str
    at: float
    value: float
    entry: str = ""

    @property
    def key(self) -> tuple[str, float]:
        """What a model answers to."""
        return self.kind, self.at


@dataclass(frozen=True)
class OnSite:
    """Everything told on site, by id of the setting, or step and reading with a dot between.

    `taken` are the readings of the machine of the latest visit that took any.
    """

    settings: Mapping[str, Told] = field(default_factory=dict)
    readings: Mapping[str, Told] = field(default_factory=dict)
    decided: Mapping[str, Told] = field(default_factory=dict)  # also what was left otherwise
    stay: Stay = START_UP
    taken: tuple[Taken, ...] = ()

    def __bool__(self) -> bool:
        return bool(self.settings or self.readings or self.taken or self.stay != START_UP)

    def without(self, setting: str) -> "OnSite":
        """The same with one setting not told."""
        return replace(self, settings={k: v for k, v in self.settings.items() if k != setting})

    def behind(self, path: str) -> Told | None:
        """What was told that stands at a path, be it of the record in force or such as `settings.limits.current`."""
        if (key := _SETTING_AT.get(path)) is not None:
            return self.settings.get(key)
        if (key := _READING_AT.get(path)) is not None:
            return self.readings.get(key)
        return self.told(path)

    def reason(self, path: str) -> str:
        """Why somebody decided the setting that is a field of the record too; empty where nobody did."""
        told = self.settings.get(_SETTING_AT.get(path, ""))
        return told.why if told else ""

    def told(self, path: str) -> Told | None:
        """What was told at a path such as `settings.limits.current` or `readings.loop.hold.hold`."""
        kind, _, name = path.partition(".")
        return (self.settings if kind == "settings" else self.readings).get(name)


NOTHING = OnSite()
