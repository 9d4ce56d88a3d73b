"""The settings sheet: vendor-neutral settings derived from the record, and each drive family's own words for them."""

from mainspring.core.settings import application, cascade, limits, loop, motor, orders, protection
from mainspring.core.settings.families import FAMILIES, Family, family_of
from mainspring.core.settings.setting import SETTINGS, Planned, Setting, plan_settings

__all__ = [
    "FAMILIES",
    "SETTINGS",
    "Family",
    "Planned",
    "Setting",
    "application",
    "cascade",
    "family_of",
    "limits",
    "loop",
    "motor",
    "orders",
    "plan_settings",
    "protection",
]
