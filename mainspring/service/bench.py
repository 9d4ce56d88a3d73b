"""The workings of what the benches show."""

from collections.abc import Callable

from mainspring.core.assess import assess
from mainspring.core.line import Line
from mainspring.core.measured.claimed import Claim
from mainspring.service.curves import HELD_HEAD
from mainspring.service.keys import Key, Of, read_key
from mainspring.service.lines import assessment_view, working_for
from mainspring.service.loop import Asked, sleep_view, stages_view, try_loop
from mainspring.service.opened import Opened
from mainspring.service.proof import proof_view
from mainspring.service.run import run_view
from mainspring.service.savings import savings_view
from mainspring.service.sheet import sheet_view
from mainspring.service.views import Ledger
from mainspring.service.working import WorkingView


def draft_working(line: Line, asked: str, tried: Asked) -> WorkingView:
    """The working of a figure in the assessment, or on the loop and savings bench, of a record being typed."""
    key = read_key(asked)
    if key.of in (Of.MEANING, Of.REGION) or key == HELD_HEAD:
        return working_for(_of_loop(line, key, tried).figures, key)
    assessment = assess(line)
    _, ledger = assessment_view(assessment, {})
    figures = dict(ledger.figures)
    if key.of is Of.SAVINGS:
        figures.update(savings_view(line, assessment.derived)[1].figures)
    return working_for(figures, key)


def _of_loop(line: Line, key: Key, tried: Asked) -> Ledger:
    """The figures of the part of the loop bench that a key names."""
    part = key.path.partition(".")[0]
    if part == "sleep":
        return sleep_view(line, tried)[1]
    if part == "stages":
        return stages_view(line)[1]
    return try_loop(line, tried)[1]


_OF_LINE: dict[Of, Callable[[Opened], Ledger]] = {
    Of.SETTING: lambda opened: sheet_view(opened)[1],
    Of.STEP: lambda opened: run_view(opened)[1],
    Of.PROOF: lambda opened: proof_view(opened)[1],
}


def line_working(opened: Opened, asked: str, claim_of: Callable[[Opened], Claim | None]) -> WorkingView:
    """The working of any figure shown of a saved line; `claim_of` tells what its logs carry, where that is asked."""
    key = read_key(asked)
    if key.of is Of.SAVINGS:
        ledger = savings_view(opened.line, opened.assessment.derived, claim_of(opened))[1]
    else:
        ledger = _OF_LINE.get(key.of, _verdicts)(opened)
    return working_for(ledger.figures, key)


def _verdicts(opened: Opened) -> Ledger:
    return assessment_view(opened.assessment, {})[1]
