"""Sentences with live numbers: each figure in the text keeps its working and is shown in the reader's units."""

import functools
import re
from collections.abc import Sequence
from dataclasses import dataclass, field

from mainspring.core.method import Figure
from mainspring.core.quantity import DIMENSIONS, round_significant
from mainspring.core.systems import USUAL
from mainspring.core.told import told

_SLOT = re.compile(r"\{(\w+)\}")


@dataclass(frozen=True)
class Sentence:
    """A text with `{name}` slots and the figures that fill them."""

    template: str
    figures: dict[str, Figure] = field(default_factory=dict)

    def parts(self) -> list[str | Figure]:
        """Text and figures in reading order."""
        found: list[str | Figure] = []
        for i, piece in enumerate(_SLOT.split(self.template)):
            if i % 2:
                found.append(self.figures[piece])
            elif piece:
                found.append(piece)
        return found

    def text(self, system: str = USUAL) -> str:
        """The sentence in plain words, in a unit system."""
        return "".join(told(p, system) if isinstance(p, str) else show(p, system) for p in self.parts())


def say(template: str, **figures: Figure) -> Sentence:
    """A sentence; every slot must have its figure."""
    named = _named(template)
    if not named:
        return Sentence(template)
    missing = named - figures.keys()
    if missing:
        raise TypeError(f"the sentence names {', '.join(sorted(missing))} and is not given it")
    return Sentence(template, {k: v for k, v in figures.items() if k in named})


@functools.lru_cache(4096)
def _named(template: str) -> frozenset[str]:
    return frozenset(_SLOT.findall(template))


def show(figure: Figure, system: str = USUAL) -> str:
    """One figure with its unit, for plain text."""
    dimension = figure.dimension
    if dimension is None:
        return round_significant(float(figure), 4)
    return DIMENSIONS[dimension].show(float(figure), system)


def in_prose(figure: Figure) -> str:
    """A rounded figure for plain text that reads in both unit systems: 300 mm, 12 in."""
    return DIMENSIONS[figure.dimension or "count"].tellings(float(figure), digits=2)


def listed(words: Sequence[str]) -> str:
    """Words in a row: "a", "a and b", "a, b and c"."""
    return " and ".join([", ".join(words[:-1]), *words[-1:]] if len(words) > 1 else words)


def in_sentence(label: str) -> str:
    """A label as it stands inside a sentence: `Line volts` becomes `line volts`, `L1 to L2` and `DC bus` stay."""
    first = label.split(maxsplit=1)[0] if label else ""
    named = any(c.isupper() or c.isdigit() for c in first[1:]) or first.rstrip(",") in ("Ld", "Lq")
    return label if named else label[:1].lower() + label[1:]


def in_percent(share: float, decimals: int = 0) -> str:
    """A share as plain text: 38 %.

    >>> in_percent(0.3807)
    '38 %'
    """
    return f"{share * 100:.{decimals}f} %"
