"""The loop tried out: plant, sensor, drive, controller and sleep logic in one compiled kernel."""

from mainspring.core.simulation.run import Event, LoopTrial, LoopTuning, simulate_loop, tuning_for

__all__ = ["Event", "LoopTrial", "LoopTuning", "simulate_loop", "tuning_for"]
