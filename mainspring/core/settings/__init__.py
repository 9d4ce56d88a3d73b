"""The settings sheet: vendor-neutral settings derived from the record, and each drive family's own words for them."""

from mainspring.core.settings import application, limits, loop, motor, protection
from mainspring.core.settings.families import FAMILIES, Family, family_of
from mainspring.core.settings.setting import SETTINGS, Planned, Setting, plan_settings

__all__ = [
    "FAMILIES",
    "SETTINGS",
    "Family",
    "Planned",
    "Setting",
    "application",
    "family_of",
    "limits",
    "loop",
    "motor",
    "plan_settings",
    "protection",
]
