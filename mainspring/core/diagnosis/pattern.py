"""What readings look like, told with the numbers that say so."""

from dataclasses import dataclass

from mainspring.core.sentence import Sentence


@dataclass(frozen=True)
class Pattern:
    """What readings fit, with the numbers that say so, and what to do."""

    id: str
    title: str
    because: Sentence
    do: str
