"""A table copied out of a manual: which column is what, what each row says, and which setting it most likely is.

Nothing is taken without being shown: the guess is for somebody to confirm, column by column and row by row.
"""

import csv
import io
import re
from collections import Counter
from collections.abc import Sequence
from dataclasses import dataclass
from difflib import SequenceMatcher
from functools import lru_cache

from mainspring.core.errors import BadEntry
from mainspring.core.families.family import Parameter, Word
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.settings import SETTINGS, Setting

ROLES = ("number", "label", "range", "unit", "default", "choices", "")
MOST_ROWS, MOST_COLUMNS, MOST_TEXT = 2000, 30, 1_000_000
SURE, LIKELY = 0.84, 0.62  # likeness of two names at which a row is that setting, and at which it may be

SPELLING = 0.75  # likeness of letters from which two words are one, spelt otherwise

# what manuals write over their columns; common practice, no source
_HEADS = {
    "number": ("no", "no.", "nr", "nr.", "number", "parameter", "par", "par.", "code", "id", "index", "address", "#"),
    "label": ("name", "label", "description", "function", "designation", "text", "bezeichnung", "funktion", "display"),
    "range": ("range", "setting range", "min-max", "limits", "bereich", "einstellbereich", "min/max", "values"),
    "unit": ("unit", "units", "einheit", "eu"),
    "default": ("default", "factory", "factory setting", "werk", "werkseinstellung", "def", "def.", "preset"),
    "choices": ("options", "choices", "selection", "settings", "auswahl", "value list"),
}
_NUMBER = re.compile(r"[A-Za-z]{0,3}\.?\s?-?\d{1,5}(?:[.\-–:]\d{1,3}){0,3}[a-z]?|/[\w\-/]+|0x[0-9A-Fa-f]+")
_RANGE = re.compile(
    r"^\s*([+\-−]?\d+(?:[.,]\d+)?)\s*(?:\.{2,3}|…|–|—|-|~|to|bis)\s*([+\-−]?\d+(?:[.,]\d+)?)\s*([^\d\s].{0,12})?\s*$"
)
_OPTION = r"\[?(\d{1,3})\]?\s*[=:)\]–-]\s*"  # "0: Coast", "[1] Ramp", "2 = Free"
_CHOICE = re.compile(rf"(?:^|[,;|\n\s])\s*{_OPTION}([^\s\d,;|][^,;|\n]*?)(?=\s*(?:[,;|\n]|$)|\s+{_OPTION}[^\s\d])")
# what manuals call a choice; common practice, no source
_OTHER_WORDS = {
    "ramp": "ramp decelerate deceleration",
    "coast": "coast free",
    "flying": "flying catch search",
    "on": "on enable enabled yes active",
    "off": "off disable disabled no inactive none",
    "terminal": "terminal terminals digital contacts external",
    "bus": "bus communication network serial fieldbus",
    "keypad": "keypad panel local operator",
    "pid": "pid controller process loop",
    "analogue": "analogue analog signal input",
    "falls_faster": "falls inverse reverse negative",
    "rises_faster": "rises direct positive",
    "variable": "variable quadratic square pump fan",
    "constant": "constant linear",
    "forward": "forward clockwise",
    "both": "both bidirectional",
    "fault": "fault trip alarm",
    "running": "running run operation",
}


@dataclass(frozen=True)
class Guess:
    """A pasted table as it was understood."""

    header: tuple[str, ...]
    roles: tuple[str, ...]
    cells: tuple[tuple[str, ...], ...]
    parameters: tuple[Parameter, ...]
    unsure: tuple[int, ...]  # places of parameters whose setting is a guess, or none


def guess_table(text: str, roles: Sequence[str] | None = None) -> Guess:
    """What a pasted table says. Raises BadEntry for none, one too large, or roles that are none."""
    if len(text) > MOST_TEXT:
        raise BadEntry("the table", f"{len(text)} characters", f"up to {MOST_TEXT}")
    rows = _cells(text)
    if len(rows) > MOST_ROWS:
        raise BadEntry("the table", f"{len(rows)} rows", f"up to {MOST_ROWS}")
    if not rows or len(rows[0]) < 2:
        raise BadEntry("the table", text[:40], "rows of a number, a name and what else the manual has of it")
    header, body = _header(rows)
    if roles is not None:
        strange = [r for r in roles if r not in ROLES]
        if strange or len(roles) != len(rows[0]):
            raise BadEntry("roles", ", ".join(roles), f"{len(rows[0])} of {', '.join(r for r in ROLES if r)}")
        taken = tuple(roles)
    else:
        taken = _roles(header, body)
    parameters: list[Parameter] = []
    unsure: list[int] = []
    used = set[str]()
    for row in body:
        made = _parameter(dict(zip(taken, row, strict=True)), used)
        if made is None:
            continue
        parameter, sure = made
        if not sure:
            unsure.append(len(parameters))
        if parameter.setting:
            used.add(parameter.setting)
        parameters.append(parameter)
    return Guess(header, taken, tuple(body), tuple(parameters), tuple(unsure))


# cells


def _cells(text: str) -> list[tuple[str, ...]]:
    """Rows of equally many cells: by tabs, bars, semicolons, commas or wide gaps, whichever splits most evenly."""
    lines = [line.rstrip() for line in text.replace("\r", "").split("\n") if line.strip(" |+-=\t")]
    if not lines:
        return []
    best: list[list[str]] = []
    for split in (_by_tab, _by_bar, _by_semicolon, _by_comma, _by_gap):
        rows = split(lines)
        if _evenness(rows) > _evenness(best):
            best = rows
    width = min(max((len(r) for r in best), default=0), MOST_COLUMNS)
    return [(*r[:width], *[""] * (width - len(r))) for r in best if any(c.strip() for c in r)]


def _evenness(rows: list[list[str]]) -> float:
    """How many rows have the usual number of cells, more cells being better as long as rows agree."""
    if not rows:
        return 0.0
    counts = [len(r) for r in rows]
    usual = max(set(counts), key=counts.count)
    return 0.0 if usual < 2 else counts.count(usual) / len(counts) + 0.01 * min(usual, 8)


def _by_tab(lines: list[str]) -> list[list[str]]:
    return [[c.strip() for c in line.split("\t")] for line in lines]


def _by_bar(lines: list[str]) -> list[list[str]]:
    return [[c.strip() for c in line.strip().strip("|").split("|")] for line in lines]


def _by_semicolon(lines: list[str]) -> list[list[str]]:
    return _csv(lines, ";")


def _by_comma(lines: list[str]) -> list[list[str]]:
    return _csv(lines, ",")


def _csv(lines: list[str], delimiter: str) -> list[list[str]]:
    try:
        return [[c.strip() for c in row] for row in csv.reader(io.StringIO("\n".join(lines)), delimiter=delimiter)]
    except csv.Error:
        return []


def _by_gap(lines: list[str]) -> list[list[str]]:
    return [_joined([c.strip() for c in re.split(r"\s{2,}", line.strip())]) for line in lines]


def _joined(cells: list[str]) -> list[str]:
    """Options that stand side by side with wide gaps are one cell."""
    found: list[str] = []
    for cell in cells:
        if re.match(_OPTION + r"\D", cell) and found and re.match(_OPTION + r"\D", found[-1]):
            found[-1] += f"; {cell}"
        else:
            found.append(cell)
    return found


# columns


def _header(rows: list[tuple[str, ...]]) -> tuple[tuple[str, ...], list[tuple[str, ...]]]:
    first = [c.strip().casefold() for c in rows[0]]
    known = sum(any(c == h or c.startswith(h + " ") for hs in _HEADS.values() for h in hs) for c in first)
    if known >= 2:
        return rows[0], rows[1:]
    return tuple("" for _ in first), rows


def _roles(header: tuple[str, ...], body: list[tuple[str, ...]]) -> tuple[str, ...]:
    """Each column's role, each role once: by its header where it has one, else by what stands in it."""
    columns = list(zip(*body, strict=True)) if body else [() for _ in header]
    roles = [""] * len(header)
    for at, head in enumerate(header):
        plain = head.strip().casefold()
        for role, names in _HEADS.items():
            if role not in roles and plain and any(plain == n or plain.startswith(n + " ") for n in names):
                roles[at] = role
                break
    for role, likeness in _LOOKS.items():
        if role in roles:
            continue
        scores = [(0.0 if roles[at] else likeness(columns[at]), -at) for at in range(len(roles))]
        best, place = max(scores, default=(0.0, 0))
        if best >= 0.5:
            roles[-place] = role
    return tuple(roles)


def _share(cells: Sequence[str], fits: "re.Pattern[str]") -> float:
    filled = [c for c in cells if c.strip()]
    return sum(bool(fits.fullmatch(c.strip())) for c in filled) / len(filled) if filled else 0.0


def _looks_number(cells: Sequence[str]) -> float:
    filled = [c.strip() for c in cells if c.strip()]
    if not filled or len(set(filled)) < 0.95 * len(filled) or len(filled) < 0.8 * len(cells):
        return 0.0
    return _share(filled, _NUMBER)


def _looks_label(cells: Sequence[str]) -> float:
    filled = [c for c in cells if c.strip()]
    wordy = sum(bool(re.search(r"[^\W\d_]{3,}", c)) and not _options(c) for c in filled)
    return wordy / len(cells) * min(1.0, len(set(filled)) / max(len(filled), 1) + 0.2) if cells else 0.0


def _looks_range(cells: Sequence[str]) -> float:
    return sum(bool(_RANGE.match(c)) for c in cells) / max(sum(bool(c.strip()) for c in cells), 1) * 1.4


def _looks_choices(cells: Sequence[str]) -> float:
    return min(1.0, sum(len(_options(c)) >= 2 for c in cells) / max(len(cells), 1) * 4)


_UNITS = {u.symbol.casefold() for d in DIMENSIONS.values() for u in d.units} | {"-", "–", "rpm", "sec", "1/min"}


def _looks_unit(cells: Sequence[str]) -> float:
    filled = [c.strip().casefold() for c in cells if c.strip()]
    return sum(c in _UNITS for c in filled) / len(filled) if filled else 0.0


def _looks_default(cells: Sequence[str]) -> float:
    return _share(cells, re.compile(r"[+\-−]?\d+(?:[.,]\d+)?\s*[^\d\s]{0,6}")) * 0.9


_LOOKS = {
    "number": _looks_number,
    "choices": _looks_choices,
    "range": _looks_range,
    "unit": _looks_unit,
    "label": _looks_label,
    "default": _looks_default,
}


# rows


def _parameter(by: dict[str, str], used: set[str]) -> tuple[Parameter, bool] | None:
    number = by.get("number", "").strip()
    label = by.get("label", "").strip()
    if not number and not label:
        return None
    unit = by.get("unit", "").strip()
    low = high = None
    decimals = 0
    if match := _RANGE.match(by.get("range", "") or by.get("choices", "")):
        low, high = (float(match[n].replace(",", ".").replace("−", "-")) for n in (1, 2))
        decimals = max(_decimals(match[1]), _decimals(match[2]))
        unit = unit or (match[3] or "").strip()
    decimals = max(decimals, _decimals(by.get("default", "")))
    told = by.get("choices", "") or by.get("range", "") or by.get("default", "")
    options = [] if low is not None else _options(told)
    id, likeness = guess_setting(label, bool(options), unit, used)
    setting = SETTINGS.get(id)
    choices, all_said = _choices(setting, options) if setting is not None else ({}, False)
    default = by.get("default", "").strip()
    parameter = Parameter(
        (number or label)[:40],
        {"en": label[:200]} if label else {},
        setting=id if likeness >= LIKELY else "",
        unit=_unit(setting, unit) if setting is None or setting.dimension is not None else "",
        decimals=decimals if not options else 0,
        low=low if not options else None,
        high=high if not options else None,
        default={"50": default[:200], "60": default[:200]} if default else {},
        choices=choices,
        doubt=_doubt(setting, likeness, unit),
    )
    return parameter, likeness >= SURE and (all_said or not options)


def _doubt(setting: Setting | None, likeness: float, unit: str) -> str:
    if setting is not None and unit == "%" and setting.dimension not in ("percent", "ratio"):
        return "Percent of what?"
    return "Guessed by its name." if LIKELY <= likeness < SURE else ""


def _options(text: str) -> list[tuple[str, str]]:
    return [(match[1], match[2].strip()) for match in _CHOICE.finditer(text)]


def _decimals(text: str) -> int:
    match = re.search(r"\d[.,](\d+)", text)
    return min(len(match[1]), 6) if match else 0


def _unit(setting: Setting | None, unit: str) -> str:
    """The unit by its own symbol, where the setting knows it; else as it stands there."""
    if setting is None or setting.dimension is None or not unit:
        return unit[:20]
    try:
        found = DIMENSIONS[setting.dimension].unit(unit).symbol
    except BadEntry:
        return unit[:20]
    return "" if found == "–" else found


def _choices(setting: Setting, options: list[tuple[str, str]]) -> tuple[dict[str, Word], bool]:
    """Codes and words of the choices, each at the choice it is most like; and whether every one has found its own."""
    if not setting.choices or not options:
        return {}, not setting.choices
    found: dict[str, Word] = {}
    pairs = ((id, label, code, word) for id, label in setting.choices.items() for code, word in options)
    scored = sorted(((_means(id, label, word), id, code, word) for id, label, code, word in pairs), reverse=True)
    codes = set[str]()
    for score, id, code, word in scored:
        if score >= 0.45 and id not in found and code not in codes:
            found[id] = Word(code, {"en": word})
            codes.add(code)
    return {id: found[id] for id in setting.choices if id in found}, len(found) == len(setting.choices)


def _means(id: str, label: str, word: str) -> float:
    """How likely a manual's word means a choice: a word that manuals have for it, else likeness."""
    known = set(_OTHER_WORDS.get(id, "").split())
    if known & set(re.sub(r"[^\w]+", " ", word.casefold()).split()):
        return 0.9
    return max(likeness(label, word), likeness(id.replace("_", " "), word))


# likeness


@dataclass(frozen=True)
class _Spelt:
    """A name as it is compared: its words, what of them are numbers, all its letters and how often each."""

    words: tuple[str, ...]
    numbers: frozenset[str]
    letters: str
    counts: dict[str, int]


def guess_setting(label: str, has_choices: bool, unit: str, used: set[str] | None = None) -> tuple[str, float]:
    """The setting that a label most likely is, and how like it is, 0 to 1; "" and 0 for none."""
    best, score, mine = "", 0.0, _spelt(label)
    for id, setting in SETTINGS.items():
        if used and id in used:
            continue
        if setting.dimension is None and unit and not has_choices:
            continue
        if setting.dimension is not None and (has_choices or not _fits(setting.dimension, unit)):
            continue
        for name in _spelt_names(id):
            of = _alike(name, mine)
            if of > score:
                best, score = id, of
    return best, score


def search_settings(text: str, most: int = 8) -> list[str]:
    """Settings by what somebody types: the likeliest first."""
    typed = text.casefold().strip()
    scored = []
    for id in SETTINGS:
        names = (id, *_names(id))
        inside = max(1.0 if n.casefold().startswith(typed) else 0.9 if typed in n.casefold() else 0.0 for n in names)
        score = max(inside, max(likeness(n, typed) for n in names))
        scored.append((-score, id))
    return [id for score, id in sorted(scored)[:most] if score <= -0.4]


@lru_cache(4096)
def _fits(dimension: str, unit: str) -> bool:
    if not unit or unit in ("-", "–"):
        return True
    try:
        DIMENSIONS[dimension].unit(unit)
    except BadEntry:
        return unit == "%"
    return True


@lru_cache(256)
def _names(id: str) -> tuple[str, ...]:
    return (SETTINGS[id].label, *SETTINGS[id].also)


@lru_cache(256)
def _spelt_names(id: str) -> tuple[_Spelt, ...]:
    return tuple(_spelt(name) for name in _names(id))


def likeness(name: str, label: str) -> float:
    """How alike two names are, 0 to 1: by the words they share, and by their letters for what is spelt otherwise."""
    return _alike(_spelt(name), _spelt(label))


def _alike(a: _Spelt, b: _Spelt) -> float:
    if not a.words or not b.words:
        return 0.0
    if a.words == b.words:
        return 1.0
    shared = sum(1 for w in a.words if w in b.words)
    by_words = 2 * shared / (len(a.words) + len(b.words))
    other = 0.4 if a.numbers and b.numbers and a.numbers != b.numbers else 1.0  # the second preset is not the first
    # by letters alone nothing is sure: a hard start is no hand start
    spelt = min(_by_letters(a, b) * 0.95, SURE - 0.01) if by_words < SURE - 0.01 else 0.0
    return max(by_words, spelt) * other


def _by_letters(a: _Spelt, b: _Spelt) -> float:
    """Likeness of the letters where it is above SPELLING, else 0; two bounds that cost little rule most out."""
    least = SPELLING * (len(a.letters) + len(b.letters)) / 2
    if min(len(a.letters), len(b.letters)) <= least:
        return 0.0
    there = b.counts
    if sum([n if n < there[c] else there[c] for c, n in a.counts.items() if c in there]) <= least:
        return 0.0
    ratio = SequenceMatcher(None, a.letters, b.letters).ratio()
    return ratio if ratio > SPELLING else 0.0


_SAID_OTHERWISE = {"rated": "nominal", "nameplate": "nominal", "freq": "frequency", "max": "maximum", "min": "minimum",
    "acc": "acceleration", "accel": "acceleration", "dec": "deceleration", "decel": "deceleration", "volts": "voltage",
    "amps": "current", "rpm": "speed", "lower": "low", "upper": "high"}  # fmt: skip


@lru_cache(4096)
def _spelt(text: str) -> _Spelt:
    plain = re.sub(r"[^\w]+", " ", text.casefold()).split()
    words = tuple(_SAID_OTHERWISE.get(w, w) for w in plain if w not in ("the", "of", "at", "a", "in", "by"))
    letters = " ".join(words)
    return _Spelt(words, frozenset(w for w in words if w.isdigit()), letters, dict(Counter(letters)))
