"""How a setting is declared and planned."""

import math
from collections.abc import Callable, Mapping
from dataclasses import dataclass, field

from mainspring.core.derived import Derived
from mainspring.core.errors import BadEntry, MainspringError, NotKnown
from mainspring.core.line import Line
from mainspring.core.line.applications import known_trait
from mainspring.core.line.on_site import HOLD, LEADING, OF_SETTING, SAME, speaks_for
from mainspring.core.method import COMMON_PRACTICE, DERIVED, Figure, Source
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.sentence import Sentence, say
from mainspring.core.settings.does import Does

SettingValue = Figure | str


@dataclass(frozen=True)
class Planned:
    """A planned value with its reason and source."""

    value: SettingValue
    reason: Sentence
    source: Source = COMMON_PRACTICE


@dataclass(frozen=True)
class PlannedNumber(Planned):
    """A planned value that is a quantity."""

    value: Figure


SettingFunction = Callable[[Line, Derived], Planned]


@dataclass(frozen=True)
class Setting:
    """One vendor-neutral drive parameter: all that is known of it, but for what physics decides of a value (`effect`).

    `also` are the words that other sheets have for it, as manuals print them in English and German; `low` to `high` is
    what any drive could take, in SI, and a family narrows it.
    """

    id: str
    group: str
    label: str
    dimension: str | None  # None: a choice
    choices: Mapping[str, str]
    wrong: str  # what goes wrong when it is off
    only: tuple[str, ...]
    plan: SettingFunction
    exact: bool = False  # to the last digit typed
    each: Callable[[Line], list[str]] | None = None  # what differs from drive to drive of a set
    means: str = ""
    also: tuple[str, ...] = ()
    low: float | None = None
    high: float | None = None
    does: Mapping[str, Does] = field(default_factory=dict)  # by choice, where another is proposed
    below: Does | None = None  # what a number below the proposed one does, and one above
    above: Does | None = None

    def consequence(self, value: float | str, proposed: float | str) -> Does | None:
        """What is said of a value beside the proposed one; None where nothing is."""
        if isinstance(value, str):
            return self.does.get(value)
        if isinstance(proposed, str):
            return None
        return self.below if value < proposed else self.above

    def check(self, value: object) -> float | str:
        """A value as found or as left, or BadEntry."""
        if self.dimension is None:
            if not isinstance(value, str) or (self.choices and value not in self.choices) or len(value) > 200:
                raise BadEntry(self.label, value, ", ".join(self.choices) or "text of up to 200 characters")
            return value
        if isinstance(value, bool) or not isinstance(value, (int, float)) or not abs(value) < 1e12:
            raise BadEntry(self.label, value, f"a number in {DIMENSIONS[self.dimension].si}")
        return float(value)


@dataclass(frozen=True)
class SettingRow:
    """One line of the sheet: what is planned and why, or what is missing for it."""

    setting: Setting
    planned: Planned | None
    missing: str = ""
    needs: str = ""


SETTINGS: dict[str, Setting] = {}
GROUP_ORDER = (
    "region",
    "reset",
    "application",
    "motor",
    "limits",
    "ramps",
    "start",
    "stop",
    "reference",
    "feedback",
    "pid",
    "sleep",
    "level",
    "cascade",
    "bus",
    "protection",
    "retry",
    "io",
    "carrier",
    "display",
    "access",
)


def setting(
    id: str,
    label: str,
    *,
    dimension: str | None = None,
    choices: Mapping[str, str] | None = None,
    wrong: str,
    only: tuple[str, ...] = (),
    exact: bool = False,
    each: Callable[[Line], list[str]] | None = None,
    means: str,
    also: str = "",
    between: tuple[float, float] | tuple[None, None] = (None, None),
    field: str = "",
    leads: bool = False,
    does: Mapping[str, Does] | None = None,
    below: Does | None = None,
    above: Does | None = None,
    either: Does | None = None,
) -> Callable[[SettingFunction], SettingFunction]:
    """Declare a setting; the function derives its planned value.

    An `exact` one has to agree to the last digit; `each` tells what differs from drive to drive of a set. `field` is
    the field of the record that it speaks for; one that `leads` is none, and something else is derived from it all
    the same. `means` defines it in one sentence, `also` are other words for it, a semicolon between. `does` tells of
    each choice, `below` and `above` (or `either`) of each number, what it does where another is proposed.
    """

    def declare(function: SettingFunction) -> SettingFunction:
        for trait in only:
            known_trait(trait)
        if id in SETTINGS:
            raise TypeError(f"two settings are called {id}")
        SETTINGS[id] = Setting(
            id,
            id.split(".")[0],
            label,
            dimension,
            choices or {},
            wrong,
            only,
            function,
            exact=exact,
            each=each,
            means=means,
            also=tuple(word.strip() for word in also.split(";")) if also else (),
            low=between[0],
            high=between[1],
            does=does or {},
            below=below or either,
            above=above or either,
        )
        speaks_for(id, field, leads=leads)
        return function

    return declare


def plan_settings(line: Line, derived: Derived) -> list[SettingRow]:
    """The whole sheet for a record, in the order in which a drive is usually set."""
    return [
        plan_of(declared, line, derived)
        for declared in sorted(SETTINGS.values(), key=lambda s: GROUP_ORDER.index(s.group))
        if line.applies(declared.only)
    ]


def plan_of(declared: Setting, line: Line, derived: Derived) -> SettingRow:
    """One line of the sheet: what is proposed given everything else that is in force, but not itself."""
    bare, of_bare = without(line, derived, declared.id)
    try:
        return SettingRow(declared, declared.plan(bare, of_bare))
    except NotKnown as gap:
        return SettingRow(declared, None, gap.tellings, gap.field)
    except MainspringError as reason:
        return SettingRow(declared, None, reason.tellings)


def without(line: Line, derived: Derived, setting: str) -> tuple[Line, Derived]:
    """The line as in force but for one setting, and what follows from it."""
    if setting not in line.on_site.settings or not (setting in OF_SETTING or setting in LEADING):
        return line, derived  # nothing else is derived from it
    bare = line.but(setting)
    return bare, Derived(bare)


def told_label(path: str) -> tuple[str, str | None]:
    """What to call a leaf that was told on site, and its kind of quantity. Raises BadEntry for no such leaf."""
    kind, _, name = path.partition(".")
    if kind == "settings" and name in SETTINGS:
        return SETTINGS[name].label, SETTINGS[name].dimension
    if path == f"readings.{HOLD}":
        return "Frequency that holds at no demand, read on site", "frequency"
    if kind == "readings" and name.startswith("turn.step_up."):
        column = name.rpartition(".")[2]
        return f"Baseline: {column}", {"power": "input_power"}.get(column, column)
    raise BadEntry("field", path, "a setting of the sheet, or a reading that goes back into the record")


def same_value(planned: SettingValue | float, actual: float | str, *, exact: bool = False) -> bool:
    """Whether an as-found or as-left value agrees with the plan, within what a drive's display can show (0.6 %).

    An exact one has to be the very number; only what a change of units leaves in the last bit is passed over.
    """
    if isinstance(planned, str) or isinstance(actual, str):
        return planned == actual
    if exact:
        return math.isclose(planned, actual, rel_tol=1e-9)
    return abs(float(planned) - actual) <= max(SAME * abs(float(planned)), 1e-9)


def plate(figure: Figure, why: str = "From the plate.") -> Planned:
    """A setting copied from the record."""
    return Planned(figure, say(why), DERIVED)


def fixed(value: str, why: str, source: Source = COMMON_PRACTICE) -> Planned:
    """A choice that follows from practice."""
    return Planned(value, say(why), source)
