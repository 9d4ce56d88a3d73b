"""What is proposed for drawn right lines: in order, without a finding of its own, run on the bench without a fault."""

from collections import Counter

import pytest

from mainspring.core.assess import assess
from mainspring.core.checks import Severity
from mainspring.core.line import OnSite, Told, in_force
from mainspring.core.settings.conflicts import conflicts_of, in_force_values
from mainspring.core.simulation import try_line
from mainspring.core.simulation.judge import judge
from tests.conftest import line_of
from tests.drawn import APPLICATIONS, drawn

# a tank that is small beside a large pump, and a motor with little in hand: no proposal cures the machine
OF_THE_MACHINE = {"Pressure collapses on waking", "It runs into the current limit"}


def faults_of_proposals(seed: int) -> list[str]:
    """What is wrong with the proposals of one drawn line; names of findings, conflicts and meanings of the bench."""
    line = line_of(drawn(seed))
    found = assess(line)
    troubles = {f.id for f in found.findings if f.severity <= Severity.CAUTION}
    planned = {row.setting.id: row.planned.value for row in found.settings if row.planned is not None}
    number = {id: float(v) for id, v in planned.items() if not isinstance(v, str)}
    faults = [f"conflict {c.id}" for c in conflicts_of(line, found.derived, in_force_values(line, planned))]
    rising = [number[i] for i in ("pid.output_low", "sleep.frequency", "limits.maximum_speed") if number.get(i, 0) > 0]
    if rising != sorted(rising) or number["limits.minimum_speed"] >= number["limits.maximum_speed"]:
        faults.append("out of order")
    told = {id: Told(v if isinstance(v, str) else round(float(v), 6), "left") for id, v in planned.items()}
    left = assess(in_force(line, OnSite(told)))
    faults += [f.title for f in left.findings if f.severity <= Severity.CAUTION and f.id not in troubles]
    said = judge(line, found.derived, try_line(line))
    return faults + [m.verdict.title for m in said if m.verdict.severity <= Severity.CAUTION]


@pytest.mark.parametrize("first", range(0, 200, 25))
def test_proposals_of_drawn_right_lines_stand(first: int) -> None:
    faults = {seed: faults_of_proposals(seed) for seed in range(first, first + 25)}
    assert {s: f for s, f in faults.items() if set(f) - OF_THE_MACHINE} == {}


def test_drawn_lines_are_right_lines_of_every_kind() -> None:
    kinds: Counter[str] = Counter()
    stops = []
    for seed in range(300):
        record = drawn(seed)
        kinds[record["line"]["application"]] += 1
        stops += [(seed, f.title) for f in assess(line_of(record)).findings if f.severity is Severity.STOP]
    assert set(kinds) == set(APPLICATIONS)
    assert stops == []
