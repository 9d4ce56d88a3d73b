"""What the trade goes by at fans and ducts."""

from mainspring.core.method import Source
from mainspring.core.practice.value import band, practice

_AMCA = Source("AMCA 201", "selection away from the stall side, from memory", "standard")

BEST_FLOW = band("fan_best_flow", 0.6, 1.3, "percent", "Flow over the best flow of a fan", source=_AMCA)
DUCT_SHARE = practice("duct_share", 0.75, "percent", "Held duct pressure over the fan's, most")
