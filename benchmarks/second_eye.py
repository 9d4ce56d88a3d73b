"""How well slips are found, by rules and finder together; how often a right line is doubted; what the finder costs."""

import statistics
import time

from benchmarks._common import p95
from mainspring.core.checks import Severity
from mainspring.core.line import parse_line
from mainspring.core.second_eye import Facts, find_slips


def measure(per_line: float = 10, seed: float = 1) -> dict[str, float]:
    """Shares of the pool in the tests: by hand, and `per_line` of each line drawn by `seed`; milliseconds alone."""
    from tests.core.test_second_eye import TOLD
    from tests.second_eye.lines import right_lines, slips_by_hand, slips_by_seed, with_slip
    from tests.second_eye.score import score, troubles

    lines = right_lines()
    slips = [*slips_by_hand(), *slips_by_seed(int(per_line), int(seed))]
    found = score(slips)
    told = {name: [f for f in troubles(record) or [] if f.id not in TOLD] for name, record in lines.items()}
    blind = score(slips_by_seed(3, int(seed), witnessed=False))

    def cost(record: object) -> float:
        facts = Facts(parse_line(record)[0])
        start = time.perf_counter()
        find_slips(facts)
        return (time.perf_counter() - start) * 1e3

    right = [cost(r) for r in lines.values() for _ in range(5)]
    slipped = [cost(with_slip(lines[s.line], s.field, s.typed)) for s in slips]
    return {
        "slips": found.all,
        "right_share": found.share("pointed", "among"),
        "pointed_share": found.share("pointed"),
        "healed_share": found.healed / found.all,
        "wrong_accused": found.share("wrong"),
        "silent": found.share("silent"),
        "silent_without_witness": blind.share("silent"),
        "lines": len(lines),
        "false_stops": sum(f.severity is Severity.STOP for t in told.values() for f in t),
        "false_cautions": sum(f.severity is Severity.CAUTION for t in told.values() for f in t),
        "right_line_ms": statistics.median(right),
        "slip_median_ms": statistics.median(slipped),
        "slip_p90_ms": statistics.quantiles(slipped, n=10)[-1],
        "slip_p95_ms": p95(slipped),
    }
