"""The line as known: its time, how often its bands hold the truth, how much they shrink, and what is named wrongly.

Lines of known truth, rougher than is believed of any (`tests/known_truth.py`, seeds of their own); times as
milliseconds and as a share of the reassessment of a booster's record measured in the same run.
"""

import time
from collections import Counter
from dataclasses import replace

import numpy as np

from mainspring.core.assess import assess
from mainspring.core.known import KINDS, NORMAL_95, estimate, judge
from mainspring.core.known.estimate import search
from mainspring.core.known.judge import exchanged
from mainspring.core.line import parse_line
from mainspring.demo import pumps, sites
from tests.known_truth import drawn, read

SEED = 5000  # the tests have those below


def measure(lines: float = 200) -> dict[str, float]:
    """Both kinds of machine; the worst of each figure."""
    found: dict[str, float] = {}
    took: list[float] = []
    for name, air in (("pump", False), ("fan", True)):
        for rows in (1, 2, 6):
            inside: Counter[str] = Counter()
            wide: list[float] = []
            for seed in range(SEED, SEED + int(lines)):
                rng, plant, readings = drawn(seed, air=air, rows=rows, hold=False)
                began = time.perf_counter()
                known = search(plant.facts, readings)
                took.append(time.perf_counter() - began)
                after = read(rng, plant, [round(0.55 * plant.facts.frequency, 1)])
                bands = known.expected([r.key for r in after])
                for r, v, u in zip(after, bands.values, bands.uncertainties, strict=True):
                    inside[r.kind] += abs(r.value - v) < NORMAL_95 * u
                wide.append(float(np.mean(bands.uncertainties / np.abs(bands.values))))
            found[f"{name}_covered_{rows}"] = min(inside.values()) / lines
            found[f"{name}_band_{rows}"] = float(NORMAL_95 * np.median(wide))
        found |= {f"{name}_{k}": v / lines for k, v in _judged(air, int(lines)).items()}
    found["estimate_ms"] = 1e3 * float(np.median(took))
    found["estimate_ms_p95"] = 1e3 * float(np.percentile(took, 95))
    found["estimate_by_assess"] = float(np.median(took)) / _assess()
    return found


def _judged(air: bool, lines: int) -> Counter[str]:
    """What is named on right lines and on lines with one reading whose digits were exchanged."""
    told: Counter[str] = Counter(named_right=0, named_wrong=0, right_lines_told=0)
    for seed in range(SEED, SEED + lines):
        rng, plant, readings = drawn(seed, air=air, rows=6)
        told["right_lines_told"] += not judge(estimate(plant.facts, readings)).fits
        i = rng.randrange(len(readings) - 1)
        wrong = exchanged(readings[i].value, KINDS[readings[i].kind].dimension(plant.facts))
        if not wrong:
            continue
        slipped = replace(readings[i], value=wrong[0])
        misread = judge(estimate(plant.facts, (*readings[:i], slipped, *readings[i + 1 :]))).misread
        named = [d.reading for d in misread]
        told["named_right"] += slipped in named
        told["named_wrong"] += bool(named) and slipped not in named
    return told


def _assess() -> float:
    line, _ = parse_line({**pumps.BOOSTER, "site": sites.ORRENDALE["entries"]})
    times = []
    for _ in range(20):
        began = time.perf_counter()
        assess(line)
        times.append(time.perf_counter() - began)
    return float(np.median(times))
