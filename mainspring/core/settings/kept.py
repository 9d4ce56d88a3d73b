"""A setting as somebody entered it."""

from dataclasses import dataclass
from datetime import datetime
from typing import Any


@dataclass(frozen=True)
class KeptSetting:
    """A setting as found, decided or left; a value of None takes it away."""

    setting: str
    moment: str
    value: Any
    by: str
    at: datetime
    why: str = ""  # of what was decided
    taken: bool = False  # from the plan, not read back
    family: str = ""  # hash of the family by which it was read back at the keypad
