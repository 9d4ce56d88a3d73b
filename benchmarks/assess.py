"""How long a full assessment takes, and what remembering the working costs over plain floats."""

import math
import statistics

from benchmarks._common import RECORD, p95, times
from mainspring.core.assess import assess
from mainspring.core.hydraulics.power import pump_shaft_power
from mainspring.core.line import parse_line


def plain_shaft_power(
    flow: float, head: float, efficiency: float, density: float = 998.2, gravity: float = 9.80665
) -> float:
    """The same arithmetic, remembering nothing and checking as much."""
    if not (0 < efficiency <= 1) or flow < 0 or math.isnan(head):
        raise ValueError
    return density * gravity * flow * head / efficiency


def measure(runs: float = 100) -> dict[str, float]:
    """Milliseconds of an assessment, and with sheet and steps; microseconds of a method, ratio to a plain function."""

    def everything() -> None:
        found = assess(parse_line(RECORD)[0])
        _ = found.strip, found.settings, found.steps

    draft = times(lambda: assess(parse_line(RECORD)[0]), int(runs))
    whole = times(everything, int(runs))

    def many(call: object) -> float:
        return statistics.median(times(lambda: [call(0.01, 30.0, 0.7) for _ in range(2000)], 20)) / 2000  # type: ignore[operator]

    method, plain = many(pump_shaft_power), many(plain_shaft_power)
    return {
        "assess_ms": statistics.median(draft) * 1e3,
        "assess_p95_ms": p95(draft) * 1e3,
        "with_sheets_ms": statistics.median(whole) * 1e3,
        "method_us": method * 1e6,
        "method_over_plain": method / plain,
    }
