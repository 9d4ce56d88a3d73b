"""One thing looked at, with its verdict; what could not be told says what it needs."""

from collections.abc import Callable
from dataclasses import dataclass, replace
from typing import Literal

from mainspring.core.errors import MainspringError
from mainspring.core.method import Figure


@dataclass(frozen=True)
class Look:
    """A verdict: stop, caution, clear or unknown; the figure, what it is held against, and what it means."""

    severity: Literal["stop", "caution", "clear", "unknown"]
    figure: Figure | None
    against: Figure | None
    said: str
    id: str = ""
    label: str = ""


Rule = Callable[[], Look]


def looked(id: str, label: str, rule: Rule) -> Look:
    """The verdict of a rule, or what it needs."""
    try:
        return replace(rule(), id=id, label=label)
    except MainspringError as gap:
        return Look("unknown", None, None, gap.tellings, id, label)
