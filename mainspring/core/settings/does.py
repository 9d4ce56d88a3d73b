"""What a value of a setting does when another one is proposed: how bad, in a few words, and a sentence.

Every way of being off stands with its setting and side by side, so that none is told backwards. Where physics decides,
a judge beside the setting does (`effect`). Common practice, no source.
"""

from typing import NamedTuple

from mainspring.core.checks.finding import Severity


class Does(NamedTuple):
    """What a value does; `{value}` and `{proposed}` are told."""

    severity: Severity
    title: str
    words: str


def fine(title: str, words: str) -> Does:
    """Nothing speaks against it."""
    return Does(Severity.CLEAR, title, words)


def doubt(title: str, words: str) -> Does:
    """Something to know."""
    return Does(Severity.CAUTION, title, words)


def bad(title: str, words: str) -> Does:
    """Harm."""
    return Does(Severity.STOP, title, words)
