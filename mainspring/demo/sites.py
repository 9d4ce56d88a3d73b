"""The demo's two sites. Places, people, makes and readings are invented."""

import uuid
from typing import Any

from mainspring.core.quantity import FOOT, GALLON

HOUR = 3600.0
KWH = 3.6e6
GPM = GALLON / 60
CFM = FOOT**3 / 60

_NAMESPACE = uuid.UUID("6f1d1f0e-2f63-4b2c-9d50-3a5f6c1b7e42")


def demo_id(name: str) -> str:
    """The fixed id of something in the demo."""
    return str(uuid.uuid5(_NAMESPACE, name))


ORRENDALE: dict[str, Any] = {
    "name": "Orrendale Baths",
    "units": "si",
    "entries": {
        "altitude": {"value": 140.0},
        "energy_price": {"value": 0.18 / KWH},
        "currency": {"value": "EUR"},
        "emission_factor": {"value": 0.25 / KWH, "note": "invented for the demo"},
    },
}
MARROW: dict[str, Any] = {
    "name": "Marrow Creek Nursery",
    "units": "us",
    "entries": {
        "altitude": {"value": 310.0},
        "energy_price": {"value": 0.14 / KWH},
        "tariff": {"value": "bands"},
        "price_bands": {"value": [[6, 9, 1, 5, 12, 18, 0.21 / KWH], [1, 12, 1, 7, 22, 6, 0.09 / KWH]]},
        "demand_price": {"value": 9.8e-3},
        "escalation": {"value": 0.02},
        "inflation": {"value": 0.025},
        "currency": {"value": "USD"},
        "emission_factor": {"value": 0.38 / KWH, "note": "invented for the demo"},
    },
}
