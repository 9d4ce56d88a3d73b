"""The settings sheet: vendor-neutral settings derived from the record, each with all that is known of it."""

from mainspring.core.settings import application, cascade, inputs, limits, loop, motor, orders, protection
from mainspring.core.settings.setting import SETTINGS, Planned, Setting, plan_settings

__all__ = [
    "SETTINGS",
    "Planned",
    "Setting",
    "application",
    "cascade",
    "inputs",
    "limits",
    "loop",
    "motor",
    "orders",
    "plan_settings",
    "protection",
]
