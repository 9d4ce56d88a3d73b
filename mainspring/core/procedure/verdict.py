"""What the rows of a table say together: the pattern they fit, and an input's errors over its range."""

from collections.abc import Mapping, Sequence

from mainspring.core.derived import Derived
from mainspring.core.diagnosis import Pattern, pattern_of, pattern_of_verdict
from mainspring.core.errors import MainspringError
from mainspring.core.known import estimate, judge
from mainspring.core.line import Line
from mainspring.core.method import Figure
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.stay import STEP_UP, of_unit
from mainspring.core.procedure.step import Step
from mainspring.core.procedure.telling import readings_in
from mainspring.core.signal.calibration import calibrate
from mainspring.core.signal.loop import share_of_range


def table_pattern(step: Step, evidence: Sequence[Evidence], line: Line, derived: Derived) -> Pattern | None:
    """The pattern in the rows of a step in force; None while they are too few or say nothing."""
    if step.table is None:
        return None
    expected = {float(r): e for r, e in zip(step.table.references, step.table.expected, strict=False)}
    if of_unit(step.id)[0] == STEP_UP:
        return _of_machine(step, evidence, derived)
    if len(evidence) < 3 or step.id not in ("signals.input", "signals.reference"):
        return None
    found = None
    for column in ("up", "shown"):  # the signal first: what is wrong there is not the drive's
        rows_read = [(e, _numbers(e)[column]) for e in evidence if column in _numbers(e)]
        if len(rows_read) >= 3:
            found = _input_pattern(column, rows_read, expected, line)
            if found.id != "right":
                return found
    return found


def _of_machine(step: Step, evidence: Sequence[Evidence], derived: Derived) -> Pattern | None:
    """What the rows say of the machine, with all else that was read of it; of another drive of a set, by themselves."""
    try:
        own = derived.estimate
        if of_unit(step.id)[1] != 1:
            own = estimate(derived.facts, readings_in(evidence))
    except MainspringError:
        return None
    return pattern_of_verdict(own, judge(own))


def _input_pattern(
    column: str,
    read: Sequence[tuple[Evidence, float]],
    expected: Mapping[float, Mapping[str, Figure]],
    line: Line,
) -> Pattern:
    applied = [float(e.data["reference"]) for e, _ in read]
    ends = [float(expected[x][column]) for x in (min(expected), max(expected))]
    shares = [(value - ends[0]) / (ends[1] - ends[0]) for _, value in read]
    span = None
    if line.held is not None and line.held.dimension == "pressure" and column == "shown":
        span = ends[1] - ends[0]
    return pattern_of(applied, shares, span)


def input_errors(step: Step, evidence: Sequence[Evidence]) -> dict[str, Figure]:
    """Largest error, hysteresis, zero, span and conformity of an input read at every point, as shares of span."""
    if step.id != "signals.input" or step.table is None or len(evidence) < len(step.table.references):
        return {}
    ends = [float(step.table.expected[i]["up"]) for i in (0, -1)]

    def share(value: float) -> float:
        return float(share_of_range(value, ends[0], ends[1])) * 0.016 + 0.004  # as a 4–20 mA signal

    rows = [_numbers(e) for e in evidence]
    up = [share(r["up"]) for r in rows if "up" in r]
    down = [share(r.get("down", r["up"])) for r in rows if "up" in r]
    try:
        found = calibrate([float(e.data["reference"]) for e in evidence], up, down)
    except MainspringError:
        return {}
    return {name: figure for name, figure in found._asdict().items() if isinstance(figure, Figure)}


def _numbers(evidence: Evidence) -> dict[str, float]:
    return {k: v for k, v in evidence.data.items() if isinstance(v, (int, float)) and not isinstance(v, bool)}
