"""What is wrong with a family: what its file may not hold, and what would be dialled wrong with it on a line."""

import re
from collections import Counter
from collections.abc import Mapping
from dataclasses import dataclass

from mainspring.core.diagnosis.trips import TRIPS
from mainspring.core.errors import BadEntry, MainspringError
from mainspring.core.families.dial import Whole, dial, whole_of
from mainspring.core.families.family import KEYS, Family, Parameter
from mainspring.core.line.on_site import SAME
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.settings import SETTINGS

LONGEST, MOST = 200, 2000  # characters of a text; parameters of a family
LOST = 0.05  # of a value that a step may take away before it is another value; common practice, no source
_ID = re.compile(r"[a-z0-9][a-z0-9_-]{0,39}")


@dataclass(frozen=True)
class Problem:
    """What is wrong at a parameter, by its place in the family, or at the family as a whole (-1)."""

    at: int
    words: str
    grave: bool = True  # what would be dialled wrong, not only left open


def check_family(family: Family) -> Family:
    """The family, if it can be kept at all: BadEntry says what cannot be."""
    if not _ID.fullmatch(family.id):
        raise BadEntry("id", family.id, "small letters, digits, - and _, up to 40")
    if not family.name.strip():
        raise BadEntry("name", family.name, "a name")
    if len(family.parameters) > MOST:
        raise BadEntry("parameters", len(family.parameters), f"up to {MOST}")
    if not family.languages:
        raise BadEntry("languages", "none", "one at least")
    unknown = sorted(set(family.keys) - set(KEYS))
    if unknown:
        raise BadEntry("keys", unknown[0], ", ".join(KEYS))
    for text in (family.name, family.fits, *family.keys.values()):
        _short("text", text)
    if len(family.about) > 2000:
        raise BadEntry("about", f"{len(family.about)} characters", "up to 2000")
    for p in family.parameters:
        _check_parameter(p)
    for fault in family.faults:
        if fault.trip and fault.trip not in TRIPS:
            raise BadEntry(f"fault {fault.code}", fault.trip, ", ".join(TRIPS))
    return family


def _short(what: str, text: str) -> None:
    if len(text) > LONGEST:
        raise BadEntry(what, text, f"up to {LONGEST} characters")


def _check_parameter(p: Parameter) -> None:
    where = f"parameter {p.number}"
    if not p.number.strip() or len(p.number) > 40:
        raise BadEntry("number", p.number, "what the drive calls it, up to 40 characters")
    for text in (p.page, p.unit, p.doubt, *p.label.values(), *(w.code for w in p.choices.values())):
        _short(where, text)
    if p.scale == 0:
        raise BadEntry(f"{where}, scale", p.scale, "anything but 0")
    if not 0 <= p.decimals <= 6:
        raise BadEntry(f"{where}, decimals", p.decimals, "0 to 6")
    if p.step < 0:
        raise BadEntry(f"{where}, step", p.step, "0 or more")
    if p.rest is not None and p.rest.per < 2:
        raise BadEntry(f"{where}, rest", p.rest.per, "2 or more")
    if p.bit is not None and not 0 <= p.bit.at <= 31:
        raise BadEntry(f"{where}, bit", p.bit.at, "0 to 31")
    if p.setting and p.setting not in SETTINGS:
        raise BadEntry(f"{where}, setting", p.setting, "an id of the dictionary, or nothing")


def problems_of(family: Family, values: Mapping[str, float | str] | None = None) -> list[Problem]:
    """What is wrong with a family by itself and, with the `values` wanted on a line, for that line."""
    wanted = values or {}
    found = [Problem(at, words) for at, words in _twice(family)]
    whole = whole_of(wanted)
    for at, p in enumerate(family.parameters):
        if not p.setting:
            found.append(Problem(at, "Not said which setting it is.", grave=False))
            continue
        found += [Problem(at, w) for w in _by_itself(p)]
        if p.doubt:
            found.append(Problem(at, f"Doubtful: {p.doubt}", grave=False))
        if p.setting in wanted:
            found += _on_the_line(at, p, wanted[p.setting], whole)
    return found


def _twice(family: Family) -> list[tuple[int, str]]:
    """Parameters with a number that another has, or for a setting that another is for."""
    numbers = Counter(
        (n, p.bit.at if p.bit else None)
        for p in family.parameters
        for n in (p.number, *((p.rest.number,) if p.rest else ()))
    )
    settings = Counter(p.setting for p in family.parameters if p.setting)
    found = []
    for at, p in enumerate(family.parameters):
        if numbers[p.number, p.bit.at if p.bit else None] > 1:
            found.append((at, f"Number {p.number} stands twice."))
        if settings[p.setting] > 1 and p.setting:
            found.append((at, f"“{SETTINGS[p.setting].label}” stands twice."))
    return found


def _by_itself(p: Parameter) -> list[str]:
    setting, found = SETTINGS[p.setting], []
    if setting.dimension is not None:
        try:
            if p.unit and not p.of:
                DIMENSIONS[setting.dimension].unit(p.unit)
        except BadEntry as problem:
            found.append(f"Unit {p.unit} is none of {problem.allowed}.")
        if p.choices:
            found.append(f"“{setting.label}” is a number and has no choices.")
    else:
        missing = [label for id, label in setting.choices.items() if id not in p.choices]
        if missing:
            found.append(f"No code for {', '.join(missing)}.")
        strange = [id for id in p.choices if setting.choices and id not in setting.choices]
        if strange:
            found.append(f"“{strange[0]}” is no choice of “{setting.label}”.")
        codes = Counter(w.code for w in p.choices.values())
        found += [f"Code {code} stands for {n} choices." for code, n in codes.items() if n > 1 and code]
    if p.low is not None and p.high is not None and p.low > p.high:
        found.append(f"Its range ends at {p.high:g}, below {p.low:g}.")
    if p.needs is not None and p.needs.setting not in SETTINGS:
        found.append(f"It is asked after “{p.needs.setting}”, which is no setting.")
    return found


def _on_the_line(at: int, p: Parameter, value: float | str, whole: Whole) -> list[Problem]:
    try:
        dialled = dial(p, SETTINGS[p.setting], value, whole)
    except MainspringError:
        return []  # said already: its unit is none
    if dialled.problem:
        return [Problem(at, dialled.problem)]
    if not dialled.rounded or not isinstance(value, float) or not isinstance(dialled.holds, float):
        return []
    lost = abs(dialled.holds - value) / max(abs(value), 1e-12)
    exact = SETTINGS[p.setting].exact
    if lost > SAME or exact:
        words = f"Its steps lose {lost:.1%} of the value wanted here."
        return [Problem(at, words, grave=exact or lost > LOST)]
    return []
