"""Published tables as data, each with its source in its own head."""

import functools
import json
from bisect import bisect_right
from collections.abc import Sequence
from importlib import resources
from typing import Any


@functools.cache
def table(name: str) -> dict[str, Any]:
    """The table file of that name: `source`, `units` and its rows."""
    text = resources.files(__package__).joinpath(f"{name}.json").read_text(encoding="utf-8")
    loaded: dict[str, Any] = json.loads(text)
    return loaded


def interpolate(x: float, nodes: Sequence[float], values: Sequence[float]) -> float:
    """Linear between the nodes; at the ends the end value (callers that must not clamp check first)."""
    if x <= nodes[0]:
        return values[0]
    if x >= nodes[-1]:
        return values[-1]
    i = bisect_right(nodes, x) - 1
    share = (x - nodes[i]) / (nodes[i + 1] - nodes[i])
    return values[i] + share * (values[i + 1] - values[i])
