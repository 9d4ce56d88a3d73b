"""What was there before against the drive over a year, with every loss counted, and the cube law beside it."""

from mainspring.core.benches.savings.bench import Level, Savings, savings_of
from mainspring.core.benches.savings.bill import Worth, worth_as_read
from mainspring.core.benches.savings.chain import Chain, Part
from mainspring.core.benches.savings.modelled import Modelled, modelled_of
from mainspring.core.benches.savings.tornado import Bar, tornado_of

__all__ = [
    "Bar",
    "Chain",
    "Level",
    "Modelled",
    "Part",
    "Savings",
    "Worth",
    "modelled_of",
    "savings_of",
    "tornado_of",
    "worth_as_read",
]
