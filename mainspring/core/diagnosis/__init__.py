"""From what was seen to what it fits: trips, the errors of an input, the readings of a step-up."""

from mainspring.core.diagnosis.inputs import pattern_of
from mainspring.core.diagnosis.machine import pattern_of_verdict
from mainspring.core.diagnosis.pattern import Pattern
from mainspring.core.diagnosis.trips import CAUSES, MOMENTS, TRIPS, Cause, Moment, rank_causes, trips_of

__all__ = [
    "CAUSES",
    "MOMENTS",
    "TRIPS",
    "Cause",
    "Moment",
    "Pattern",
    "pattern_of",
    "pattern_of_verdict",
    "rank_causes",
    "trips_of",
]
