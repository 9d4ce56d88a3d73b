"""The sheet in the drive's own order: one parameter after the other, what to dial, and what the display hides."""

import re
from collections.abc import Mapping
from dataclasses import dataclass, field, replace

from mainspring.core.errors import MainspringError
from mainspring.core.families.dial import Dial, dial, whole_of
from mainspring.core.families.family import Family, Parameter
from mainspring.core.settings import SETTINGS, Setting
from mainspring.core.settings.own import GROUP as OWN_GROUP
from mainspring.core.settings.own import setting_of

Values = Mapping[str, float | str]

# What leads and what closes by its meaning, wherever its number puts it: a reset wipes what was set before it, region
# and application change other defaults; the code locks what comes after it.
LEADS = ("reset.factory_before", "region.base_standard", "region.power_unit", "application.preset")
CLOSES = ("access.unlocked_by", "access.code")


@dataclass(frozen=True)
class KeypadStep:
    """One parameter at the keypad: what to dial for the value wanted, and how to get there from the last one."""

    parameter: Parameter
    setting: Setting
    wanted: float | str
    dial: Dial
    way: str  # from the step before: "4 further, in E Ramps"
    hidden: str = ""  # what must be set first, for the display to ask it at all
    word: str = ""  # all bits of a word that several settings share, as one number
    siblings: tuple[str, ...] = field(default=())  # settings with a bit of the same word
    moved: str = ""  # why it does not stand where its number puts it


def keypad_steps(family: Family, values: Values) -> list[KeypadStep]:
    """The parameters that have a value to dial, in the order of the keypad; unmapped ones are passed over.

    A parameter whose unit is none of its setting's is passed over too: the family's problems say so.
    """
    whole = whole_of(values)
    found: list[KeypadStep] = []
    last = -1
    for at, p in sorted(enumerate(family.parameters), key=_place):
        setting = SETTINGS.get(p.setting)
        if setting is None or p.setting not in values or family.parameter(p.setting) is not p:
            continue
        try:
            dialled = dial(p, setting, values[p.setting], whole)
        except MainspringError:
            continue
        way = _way(family, last, at)
        shared = _sharers(family, p) if p.bit is not None else []
        word = _word(shared, values) if shared else ""
        siblings = tuple(s.setting for s in shared if s is not p)
        found.append(KeypadStep(p, setting, values[p.setting], dialled, way, _hidden(p, values), word, siblings))
        last = at
    steps = [replace(s, moved=_moved(s, found)) for s in found]
    closing = next((i for i, s in enumerate(steps) if s.setting.id in CLOSES), len(steps))
    return [*steps[:closing], *_own(values), *steps[closing:]]


def _own(values: Values) -> list[KeypadStep]:
    """Parameters that no setting stands for, as somebody wrote them down: dialled as they are, before the code closes.

    The first word of the label is its number, where it has a digit.
    """
    found = []
    for id, value in values.items():
        setting = setting_of(id)
        if setting is None or setting.group != OWN_GROUP:
            continue
        first, _, rest = setting.label.partition(" ")
        number, label = (first, rest or first) if any(c.isdigit() for c in first) else ("", setting.label)
        parameter = Parameter(number, {"en": label}, id)
        found.append(KeypadStep(parameter, setting, value, Dial(((number, str(value)),), "as decided", value), ""))
    return found


def _place(numbered: tuple[int, Parameter]) -> tuple[int, int]:
    """Where a parameter comes: the leading ones in their own order, then by number, then what closes."""
    at, p = numbered
    if p.setting in LEADS:
        return LEADS.index(p.setting) - len(LEADS), at
    return (CLOSES.index(p.setting) + 1 if p.setting in CLOSES else 0), at


def _moved(step: KeypadStep, steps: list[KeypadStep]) -> str:
    """What to know of a step that the drive's own order has elsewhere, and that does harm there."""
    if step.setting.id == "reset.factory_before" and step.wanted == "yes":
        return "First of all, once what was in it is saved: dialled later it wipes everything that was set before."
    numbers = [s.parameter.number for s in steps]
    if step.setting.id in LEADS and step.parameter.number != min(numbers, key=_numbered):
        return "Before the others, whatever its number: it changes their defaults."
    return ""


def _numbered(number: str) -> tuple[tuple[int, str], ...]:
    """A parameter's number as people sort them: P2 before P10."""
    return tuple((int(part), "") if part.isdigit() else (-1, part) for part in re.findall(r"\d+|\D+", number))


def without_parameter(family: Family, values: Values) -> list[str]:
    """Settings with a value that this family has no parameter for."""
    return [id for id in values if family.parameter(id) is None and id in SETTINGS]


def _way(family: Family, last: int, at: int) -> str:
    here = family.parameters[at]
    if last < 0:
        return f"Menu {here.page}" if here.page else ""
    before = family.parameters[last]
    further = at - last
    if further < 0:
        return f"Back from {before.number} to {here.page or here.number}"
    if here.page != before.page:
        return f"From {before.number} to {here.page}"
    steps = "the next one" if further == 1 else f"{further} further"
    return f"{steps} from {before.number}" + (f", still in {here.page}" if here.page else "")


def _hidden(p: Parameter, values: Values) -> str:
    if p.needs is None or p.needs.setting not in values:
        return ""
    now = values[p.needs.setting]
    if now in p.needs.stands:
        return ""
    other = SETTINGS[p.needs.setting]
    wanted = " or ".join(f"“{other.choices.get(c, c)}”" for c in p.needs.stands)
    return f"Shown only while {other.label.lower()} stands at {wanted}."


def _sharers(family: Family, p: Parameter) -> list[Parameter]:
    return [q for q in family.parameters if q.number == p.number and q.bit is not None and q.setting]


def _word(shared: list[Parameter], values: Values) -> str:
    """The word with the bits that are known; those of settings without a value stand at 0."""
    total = 0
    for q in shared:
        value = values.get(q.setting)
        code = q.choices.get(str(value)) if value is not None else None
        if code is not None and q.bit is not None and code.code not in ("", "0"):
            total |= 1 << q.bit.at
    return str(total)
