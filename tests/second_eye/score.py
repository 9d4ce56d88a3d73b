"""How well slips are found: rules and finder together, on the pool of right lines and slips."""

from collections import Counter
from dataclasses import dataclass, field
from typing import Any

from mainspring.core.assess import assess
from mainspring.core.checks import Finding, Severity
from mainspring.core.line import Line, parse_line
from tests.second_eye.lines import Record, Slip, right_lines, with_slip

CLOSE = 0.03  # of the right value: as good as healed


@dataclass
class Score:
    """Counts over a pool; `kept` are the slips of each outcome, to be looked at."""

    outcomes: Counter[str] = field(default_factory=Counter)
    healed: int = 0
    kept: dict[str, list[Slip]] = field(default_factory=dict)

    @property
    def all(self) -> int:
        """Slips tried."""
        return sum(self.outcomes.values())

    def share(self, *outcomes: str) -> float:
        """Of all slips, those that ended so."""
        return sum(self.outcomes[o] for o in outcomes) / self.all


def read(record: Record) -> Line | None:
    """The line; None where the form itself refuses it."""
    line, problems = parse_line(record)
    return None if problems else line


def troubles(record: Record) -> list[Finding] | None:
    """Stops and cautions on a record."""
    line = read(record)
    return None if line is None else [f for f in assess(line).findings if f.severity <= Severity.CAUTION]


def outcome(slip: Slip, right: list[Finding], found: list[Finding] | None) -> str:
    """pointed, among, wrong or silent, by what is new against the right line; refused counts as pointed."""
    if found is None:
        return "pointed"  # the form says so at the field itself
    known = {(f.id, f.title) for f in right}
    new = [f for f in found if (f.id, f.title) not in known]
    accusations = [a for f in new if (a := f.accused)]
    questioned = {f for n in new if n.id.startswith("second_eye") for f in n.fields}
    if accusations and accusations[0] == slip.field:
        return "pointed"
    if slip.field in accusations or slip.field in questioned:
        return "among"
    if accusations or questioned:
        return "wrong"
    return "among" if any(slip.field in f.fields for f in new) else "silent"


def healed(slip: Slip, truth: Any, found: list[Finding] | None) -> bool:
    """Whether the right value is offered at one touch, or in a question."""
    offered = [f.fix.value for f in found or [] if f.fix and f.fix.field == slip.field]
    offered += [
        float(figure)
        for f in found or []
        if slip.field in (f.accused, *f.fields)
        for name, figure in f.because.figures.items()
        if name.startswith("eye_likely")
    ]
    return any(isinstance(v, float) and abs(v - truth) <= CLOSE * abs(truth) for v in offered)


def score(slips: list[Slip]) -> Score:
    """All slips of a pool."""
    lines = right_lines()
    rights = {name: troubles(record) or [] for name, record in lines.items()}
    made = Score()
    for slip in slips:
        found = troubles(with_slip(lines[slip.line], slip.field, slip.typed))
        how = outcome(slip, rights[slip.line], found)
        made.outcomes[how] += 1
        made.kept.setdefault(how, []).append(slip)
        group, _, name = slip.field.partition(".")
        made.healed += healed(slip, lines[slip.line][group][name]["value"], found)
    return made
