"""The loop tried out: plant, sensor, drive, controller and sleep logic in one compiled kernel."""

from mainspring.core.simulation.trial import Event, Trial, try_line

__all__ = ["Event", "Trial", "try_line"]
