"""Why did it trip: from a class of trip and its moment to causes ranked by what this line's record knows."""

from mainspring.core.diagnosis.trips import CAUSES, MOMENTS, TRIPS, Cause, Moment, rank_causes

__all__ = ["CAUSES", "MOMENTS", "TRIPS", "Cause", "Moment", "rank_causes"]
