"""What is dialled for a value, and what a value is that was read on the display: the one is the other backwards."""

import math
import re
from collections.abc import Callable, Mapping
from dataclasses import dataclass

from mainspring.core.errors import BadEntry
from mainspring.core.families.family import Parameter
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.settings import Setting

Whole = Callable[[str], float | None]  # value of another setting, where a display shows percent of it
_PARTS = {10: "tenths", 100: "hundredths", 1000: "thousandths"}
_NEAR = 1e-9  # of a step: what a change of units leaves in the last bits


def nothing_known(_setting: str) -> float | None:
    """No other setting has a value yet."""
    return None


def whole_of(values: Mapping[str, float | str]) -> Whole:
    """What a display that shows percent takes as hundred, by the values of a sheet."""

    def number(setting: str) -> float | None:
        value = values.get(setting)
        return value if isinstance(value, float) else None

    return number


@dataclass(frozen=True)
class Dial:
    """What is dialled: number and text of each field, what it says, and the value that the drive then holds."""

    fields: tuple[tuple[str, str], ...]
    says: str  # "tenths of s: 10.0 s", or the display's word
    holds: float | str
    rounded: bool = False  # the drive holds another value than the one wanted
    problem: str = ""  # why it cannot be dialled so

    @property
    def text(self) -> str:
        """What is dialled; of a value in two fields both, with a space between."""
        return " ".join(text for _, text in self.fields)


def dial(parameter: Parameter, setting: Setting, value: float | str, whole: Whole = nothing_known) -> Dial:
    """What to dial for a setting's value. `problem` says what the drive cannot hold of it."""
    if setting.dimension is None:
        return _choice(parameter, setting, str(value))
    wanted = _dialled(parameter, setting, float(value), whole)
    if wanted is None:
        label = f"percent of {parameter.of}, which is not known yet"
        return Dial(((parameter.number, "?"),), label, float(value), problem=f"Shown in {label}.")
    step = parameter.stepped
    steps = round(wanted / step)
    held = steps * step
    off = abs(wanted - held) > _NEAR * max(step, abs(wanted))
    problem = _outside(parameter, wanted)
    holds = _undialled(parameter, setting, held, whole) if off else float(value)
    shown = _shown(parameter, held)
    return Dial(_fields(parameter, held), shown, holds, rounded=off, problem=problem)


def read_back(
    parameter: Parameter,
    setting: Setting,
    text: str,
    whole: Whole = nothing_known,
    wanted: float | str | None = None,
) -> float | str:
    """The setting's value from what stands on the display; BadEntry says what was expected there.

    A number may be read as it is dialled or as what it says, with its unit; a choice by its code or its word. A bare
    number that says the `wanted` value in either way is that value.
    """
    text = text.strip()
    if setting.dimension is None:
        return _choice_read(parameter, setting, text.removeprefix(f"bit {parameter.bit.at}: " if parameter.bit else ""))
    if parameter.rest is not None and (two := re.fullmatch(r"(-?\d+)\s+(\d+)", text)):
        steps = int(two[1]) * parameter.rest.per + int(two[2])
        return _undialled(parameter, setting, steps * parameter.stepped, whole)
    match = re.fullmatch(r"([+\-−]?\d+(?:[.,]\d+)?)\s*(.*)", text)
    if match is None:
        raise BadEntry(parameter.called() or setting.label, text, f"a number as the display has it{_in(parameter)}")
    number, unit = float(match[1].replace(",", ".").replace("−", "-")), match[2].strip()
    if unit and not _same_unit(unit, parameter.unit):
        return DIMENSIONS[setting.dimension].parse(text, setting.label, decimal_comma=True)
    if unit or parameter.rest or _is_shown(parameter, match[1]) or _says(parameter, setting, number, wanted, whole):
        number = number * parameter.scale + parameter.offset
    value = _undialled(parameter, setting, number, whole)
    if not math.isfinite(value):
        raise BadEntry(setting.label, text, f"a number, with {parameter.of} known")
    return value


def same_to_the_drive(
    parameter: Parameter, setting: Setting, one: float | str, other: float | str, whole: Whole = nothing_known
) -> bool:
    """Whether two values are one to the drive, which holds them no finer than its steps."""
    if isinstance(one, str) or isinstance(other, str):
        return one == other
    a, b = (_dialled(parameter, setting, v, whole) for v in (one, other))
    return a is not None and b is not None and round(a / parameter.stepped) == round(b / parameter.stepped)


def _dialled(parameter: Parameter, setting: Setting, value: float, whole: Whole) -> float | None:
    if parameter.of:
        hundred = whole(parameter.of)
        if not hundred:
            return None
        return value / hundred * 100 * parameter.scale + parameter.offset
    return _unit(parameter, setting)[0](value) * parameter.scale + parameter.offset


def _undialled(parameter: Parameter, setting: Setting, number: float, whole: Whole) -> float:
    shown = (number - parameter.offset) / parameter.scale
    if parameter.of:
        hundred = whole(parameter.of)
        return shown / 100 * hundred if hundred else math.nan
    return _unit(parameter, setting)[1](shown)


def _unit(parameter: Parameter, setting: Setting) -> tuple[Callable[[float], float], Callable[[float], float]]:
    assert setting.dimension is not None
    dimension = DIMENSIONS[setting.dimension]
    unit = dimension.unit(parameter.unit) if parameter.unit else dimension.unit(dimension.si)
    return unit.from_si, unit.to_si


def _fields(parameter: Parameter, held: float) -> tuple[tuple[str, str], ...]:
    if parameter.rest is None:
        return ((parameter.number, f"{held:.{parameter.decimals}f}"),)
    high, low = divmod(round(held / parameter.stepped), parameter.rest.per)
    return (parameter.number, str(high)), (parameter.rest.number, str(low))


def _shown(parameter: Parameter, held: float) -> str:
    """How the value reads, where that is not what is dialled: its scale in words, then the value with its unit."""
    unit = "%" if parameter.of else parameter.unit
    if parameter.scale == 1 and not parameter.offset:
        return unit
    shown = (held - parameter.offset) / parameter.scale
    decimals = max(parameter.decimals, round(math.log10(parameter.scale))) if parameter.scale > 1 else 3
    value = f"{shown:.{decimals}f}" + (f" {unit}" if unit else "")
    parts = _PARTS.get(round(parameter.scale)) if parameter.scale == round(parameter.scale) else None
    return f"{parts} of {unit or 'one'}: {value}" if parts and not parameter.offset else value


def _is_shown(parameter: Parameter, digits: str) -> bool:
    """Whether a bare number was read as the value and not as what was dialled: it has the decimals of one."""
    return parameter.scale > 1 and parameter.decimals == 0 and bool(re.search(r"[.,]", digits))


def _says(parameter: Parameter, setting: Setting, number: float, wanted: float | str | None, whole: Whole) -> bool:
    """Whether a bare number is what the wanted value reads as, though something else is dialled for it."""
    if not isinstance(wanted, float):
        return False
    dialled = _dialled(parameter, setting, wanted, whole)
    if dialled is None or abs(number - dialled) <= parameter.stepped / 2:
        return False
    return abs(number * parameter.scale + parameter.offset - dialled) <= parameter.stepped / 2


def _in(parameter: Parameter) -> str:
    return f", in {parameter.unit}" if parameter.unit else ""


def _same_unit(typed: str, unit: str) -> bool:
    return typed.replace(" ", "").casefold() == unit.replace(" ", "").casefold()


def _outside(parameter: Parameter, wanted: float) -> str:
    slack = _NEAR * max(1.0, abs(wanted))
    if parameter.low is not None and wanted < parameter.low - slack:
        return f"Below what it takes: {_plain(parameter.low)} at least."
    if parameter.high is not None and wanted > parameter.high + slack:
        return f"Above what it takes: {_plain(parameter.high)} at most."
    return ""


def _plain(number: float) -> str:
    return f"{number:g}"


def _choice(parameter: Parameter, setting: Setting, value: str) -> Dial:
    word = parameter.choices.get(value)
    meant = setting.choices.get(value, value)
    if word is None:
        if not setting.choices:  # free text stands as it is
            return Dial(((parameter.number, value),), "", value)
        return Dial(((parameter.number, "?"),), meant, value, problem=f"Nobody has said how it words “{meant}”.")
    text = word.code
    if parameter.bit is not None:
        text = f"bit {parameter.bit.at}: {word.code}"
    return Dial(((parameter.number, text),), parameter.word(value) or meant, value)


def _choice_read(parameter: Parameter, setting: Setting, text: str) -> str:
    plain = text.casefold()
    for id, word in parameter.choices.items():
        said = {word.code.casefold(), *(w.casefold() for w in word.word.values())}
        both = {f"{word.code} {w}".casefold() for w in word.word.values()}
        if plain in said or plain in both or plain == f"choice {word.code}".casefold():
            return id
    if not parameter.choices and not setting.choices:
        return text
    allowed = ", ".join(f"{w.code} {parameter.word(id)}".strip() for id, w in parameter.choices.items())
    raise BadEntry(parameter.called() or setting.label, text, allowed or "a choice of the family, which has none yet")
