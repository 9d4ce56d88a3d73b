"""What a family of drives is: its parameters in the order in which its keypad asks them, and what is printed there.

The dataclasses below are the open format `mainspring-family` as well: a file holds the same names
(`mainspring/exchange/family_file.py`). Numbers stand as the display shows them, in the display's unit.
"""

import hashlib
import json
from dataclasses import dataclass, field, is_dataclass
from datetime import date
from functools import cached_property
from typing import Any, ClassVar

Labels = dict[str, str]  # by language: {"en": "Climb", "de": "Hochlauf"}
_STRICT = {"extra": "forbid", "allow_inf_nan": False}


@dataclass(frozen=True)
class Word:
    """One choice of a parameter: the code that is dialled, and the word that the display shows for it."""

    __pydantic_config__: ClassVar[dict[str, Any]] = _STRICT
    code: str
    word: Labels = field(default_factory=dict)


@dataclass(frozen=True)
class Rest:
    """A value that is entered in two fields: `number` takes what is left below `per`, in steps of the dial."""

    __pydantic_config__: ClassVar[dict[str, Any]] = _STRICT
    number: str
    per: int = 1000


@dataclass(frozen=True)
class Bit:
    """A parameter that is one bit of a word which several share: `at` counts from 0."""

    __pydantic_config__: ClassVar[dict[str, Any]] = _STRICT
    at: int


@dataclass(frozen=True)
class Needs:
    """What the display asks only after another parameter stands at one of some choices."""

    __pydantic_config__: ClassVar[dict[str, Any]] = _STRICT
    setting: str
    stands: tuple[str, ...]


@dataclass(frozen=True)
class Given:
    """Who read a parameter back on a real drive last, and when."""

    __pydantic_config__: ClassVar[dict[str, Any]] = _STRICT
    by: str
    on: date


@dataclass(frozen=True)
class Parameter:
    """One of the make's own parameters, and the setting that it is; `setting` is empty while nobody has said which.

    Dialled = shown · `scale` + `offset`, in `unit`, to `decimals`, in steps of `step`; `low` and `high` are dialled
    too. Where `of` names a setting the display shows percent of that setting's value.
    """

    __pydantic_config__: ClassVar[dict[str, Any]] = _STRICT
    number: str
    label: Labels
    setting: str = ""
    page: str = ""
    unit: str = ""
    scale: float = 1.0
    offset: float = 0.0
    decimals: int = 0
    step: float = 0.0  # 0: one of the last decimal
    low: float | None = None
    high: float | None = None
    of: str = ""
    default: dict[str, str] = field(default_factory=dict)  # by region, "50" and "60"
    choices: dict[str, Word] = field(default_factory=dict)
    rest: Rest | None = None
    bit: Bit | None = None
    needs: Needs | None = None
    stopped: bool = False  # the drive takes it only while it stands
    cycle: bool = False  # it acts after the power was off and on
    doubt: str = ""
    proven: Given | None = None

    @property
    def stepped(self) -> float:
        """The smallest difference that it holds, as dialled."""
        return self.step or 10.0**-self.decimals

    def called(self, language: str = "") -> str:
        """Its label in a language, else in the first there is."""
        return worded(self.label, language)

    def word(self, choice: str, language: str = "") -> str:
        """The display's word for a choice; empty where it has none."""
        found = self.choices.get(choice)
        return "" if found is None else worded(found.word, language)


@dataclass(frozen=True)
class Fault:
    """A fault code, and the class of trip that it means."""

    __pydantic_config__: ClassVar[dict[str, Any]] = _STRICT
    code: str
    label: Labels
    trip: str = ""


@dataclass(frozen=True)
class Reads:
    """A parameter that only shows: frequency, amps, bus volts, hours."""

    __pydantic_config__: ClassVar[dict[str, Any]] = _STRICT
    number: str
    label: Labels
    reads: str
    unit: str = ""
    scale: float = 1.0


@dataclass(frozen=True)
class Family:
    """A family of drives. `keys` says how it is reset, saved, copied and locked at the keypad."""

    __pydantic_config__: ClassVar[dict[str, Any]] = _STRICT
    id: str
    name: str
    about: str = ""
    fits: str = ""  # sizes and firmware
    languages: tuple[str, ...] = ("en",)
    keys: dict[str, str] = field(default_factory=dict)
    parameters: tuple[Parameter, ...] = ()
    faults: tuple[Fault, ...] = ()
    readings: tuple[Reads, ...] = ()

    @cached_property
    def by_setting(self) -> dict[str, Parameter]:
        """The first parameter of each setting."""
        found: dict[str, Parameter] = {}
        for p in self.parameters:
            if p.setting:
                found.setdefault(p.setting, p)
        return found

    def parameter(self, setting: str) -> Parameter | None:
        """The family's parameter for a setting, if it has one."""
        return self.by_setting.get(setting)

    def lacks(self, setting: str) -> bool:
        """Whether its drives have no such parameter; never said of a family whose table nobody has entered."""
        return bool(self.parameters) and setting not in self.by_setting

    @cached_property
    def digest(self) -> str:
        """Hash of the content: two files with the same hash say the same."""
        text = json.dumps(_plain(self), sort_keys=True, ensure_ascii=False, default=_plain, separators=(",", ":"))
        return hashlib.sha256(text.encode()).hexdigest()


KEYS = {"reset": "Back to factory values", "save": "Save", "copy": "Copy to another", "lock": "Lock"}
NEUTRAL = Family("neutral", "Neutral", about="No make: the sheet in its own words.")


def _plain(value: object) -> object:
    """A part as JSON can hold it; by hand, since `asdict` copies every number and takes ten times as long."""
    if is_dataclass(value):
        return {name: getattr(value, name) for name in value.__dataclass_fields__}
    return str(value)


def worded(labels: Labels, language: str = "") -> str:
    """A text in a language, else in English, else in whatever there is."""
    return labels.get(language) or labels.get("en") or next(iter(labels.values()), "")
