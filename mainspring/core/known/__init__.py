"""The line as known: what plates, curves and survey promise, corrected by all that was read of it."""

from mainspring.core.known.corrected import corrected
from mainspring.core.known.estimate import NORMAL_95, Estimate, estimate
from mainspring.core.known.facts import Facts
from mainspring.core.known.judge import Doubted, Verdict, judge, trusted
from mainspring.core.known.kinds import KINDS
from mainspring.core.known.model import answers
from mainspring.core.known.next_reading import Next, asked_of, best_next, worth
from mainspring.core.known.unknowns import UNKNOWNS, places, promises, unknowns_of
from mainspring.core.known.words import learnt, worth_reading

__all__ = [
    "KINDS",
    "NORMAL_95",
    "UNKNOWNS",
    "Doubted",
    "Estimate",
    "Facts",
    "Next",
    "Verdict",
    "answers",
    "asked_of",
    "best_next",
    "corrected",
    "estimate",
    "judge",
    "learnt",
    "places",
    "promises",
    "trusted",
    "unknowns_of",
    "worth",
    "worth_reading",
]
