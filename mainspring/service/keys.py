"""Names of the figures that are shown: by them a figure's working is asked for."""

from enum import StrEnum
from typing import NamedTuple

from mainspring.service.errors import UnknownFigure


class Of(StrEnum):
    """What a figure stands in; it decides what has to be made again to find it."""

    LINE = "line"
    STRIP = "strip"
    FINDING = "finding"
    LIMIT = "limit"
    REGION = "region"
    MEANING = "meaning"
    SETTING = "setting"
    STEP = "step"
    PROOF = "proof"
    SAVINGS = "savings"
    MEASURED = "measured"
    CAUSE = "cause"

    def __truediv__(self, part: object) -> "Key":
        return Key(self, str(part))


class Key(NamedTuple):
    """What a figure stands in, and where in it; one part after the other by `/`."""

    of: Of
    path: str

    def __truediv__(self, part: object) -> "Key":
        return Key(self.of, f"{self.path}.{part}")

    def __str__(self) -> str:
        return f"{self.of}.{self.path}"


def read_key(text: str) -> Key:
    """A key from its text. Raises UnknownFigure."""
    of, _, path = text.partition(".")
    if of not in set(Of) or not path:
        raise UnknownFigure(f"no figure is called {text[:120]}")
    return Key(Of(of), path)
