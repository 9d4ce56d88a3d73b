"""Practice values by trade: what a check, a setting, a chart or a sentence goes by stands here and only here."""

from mainspring.core.practice import drive, fan, loop, motor, proof, pump, safety, sensor, supply
from mainspring.core.practice.value import PRACTICE, Band, Practice

__all__ = [
    "PRACTICE",
    "Band",
    "Practice",
    "drive",
    "fan",
    "loop",
    "motor",
    "proof",
    "pump",
    "safety",
    "sensor",
    "supply",
]
