"""Shared by the measurements."""

import statistics
import time
from collections.abc import Callable

from mainspring.core.line import Line, parse_line
from mainspring.demo import pumps, sites

RECORD = {**pumps.BOOSTER, "site": sites.ORRENDALE["entries"]}  # the demo's clean booster, a full line


def booster() -> Line:
    """That line."""
    line, problems = parse_line(RECORD)
    assert not problems
    return line


def times(work: Callable[[], object], runs: int) -> list[float]:
    """Seconds of each run, after one that is not counted."""
    work()
    found = []
    for _ in range(runs):
        begin = time.perf_counter()
        work()
        found.append(time.perf_counter() - begin)
    return found


def p95(values: list[float]) -> float:
    """95th percentile."""
    return statistics.quantiles(values, n=20)[-1]
