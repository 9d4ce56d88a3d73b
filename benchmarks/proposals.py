"""Whether what is proposed stands: drawn right lines, their proposals in order, without findings, run on the bench."""

from collections import Counter


def measure(lines: float = 10_000, first: float = 0) -> dict[str, float]:
    """How many of so many lines drawn by seed have a fault of their proposals, and of which kind."""
    from tests.core.test_proposals import OF_THE_MACHINE, faults_of_proposals

    kinds: Counter[str] = Counter()
    faulty = 0
    for seed in range(int(first), int(first) + int(lines)):
        faults = set(faults_of_proposals(seed))
        faulty += bool(faults - OF_THE_MACHINE)
        kinds.update(faults)
    return {"lines": lines, "faulty": faulty, **{k.lower().replace(" ", "_"): float(n) for k, n in kinds.items()}}
