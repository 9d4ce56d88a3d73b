"""The settings sheet: vendor-neutral settings derived from the record, and the dictionary of what each is."""

from mainspring.core.settings import application, cascade, inputs, limits, loop, motor, orders, protection
from mainspring.core.settings.dictionary import DICTIONARY, Definition, fill_dictionary
from mainspring.core.settings.setting import SETTINGS, Planned, Setting, plan_settings

fill_dictionary()

__all__ = [
    "DICTIONARY",
    "SETTINGS",
    "Definition",
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
