"""The dictionary: what each setting is, in one sentence, what other sheets call it, and what any drive could take.

It stands in `dictionary.txt`, a row for each: `id | definition | other words for it | lowest .. highest`, in SI. The
range holds for any drive, a family narrows it. The other words are what manuals print, in English and German; common
practice, no source.
"""

from dataclasses import dataclass
from pathlib import Path

from mainspring.core.settings.setting import SETTINGS


@dataclass(frozen=True)
class Definition:
    """What a setting is, the words that other sheets have for it, and the range that any drive could take, in SI."""

    text: str
    also: tuple[str, ...] = ()
    low: float | None = None
    high: float | None = None


def _read(rows: str) -> dict[str, Definition]:
    found: dict[str, Definition] = {}
    for row in rows.strip().splitlines():
        id, text, *rest = (part.strip() for part in row.split("|"))
        also = tuple(w.strip() for w in rest[0].split(";")) if rest else ()
        low, high = (float(n) for n in rest[1].split("..")) if len(rest) > 1 else (None, None)
        if id not in SETTINGS or id in found:
            raise TypeError(f"the dictionary has {id!r} twice, or no setting is called so")
        found[id] = Definition(text, also, low, high)
    return found


DICTIONARY: dict[str, Definition] = {}


def fill_dictionary() -> None:
    """Read the rows once every setting is declared; TypeError where a setting is in one and not in the other."""
    DICTIONARY.update(_read(Path(__file__).with_name("dictionary.txt").read_text()))
    missing = sorted(set(SETTINGS) - set(DICTIONARY))
    if missing:
        raise TypeError(f"the dictionary does not say what {', '.join(missing)} is")
