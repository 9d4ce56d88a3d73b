"""Drive families: how one make numbers, names, scales and words the settings, and what is dialled for a value."""

from mainspring.core.families.dial import Dial, dial, read_back
from mainspring.core.families.family import (
    KEYS,
    NEUTRAL,
    Bit,
    Family,
    Fault,
    Given,
    Needs,
    Parameter,
    Reads,
    Rest,
    Word,
)
from mainspring.core.families.keypad import KeypadStep, keypad_steps
from mainspring.core.families.problems import Problem, check_family, problems_of

__all__ = [
    "KEYS",
    "NEUTRAL",
    "Bit",
    "Dial",
    "Family",
    "Fault",
    "Given",
    "KeypadStep",
    "Needs",
    "Parameter",
    "Problem",
    "Reads",
    "Rest",
    "Word",
    "check_family",
    "dial",
    "keypad_steps",
    "problems_of",
    "read_back",
]
