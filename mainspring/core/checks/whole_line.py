"""The line as a whole: what it is for decides everything else."""

from mainspring.core.checks.finding import Verdict, check, clear, stop
from mainspring.core.derived import Derived
from mainspring.core.line import Line
from mainspring.core.line.applications import HELD
from mainspring.core.method import COMMON_PRACTICE
from mainspring.core.sentence import say


@check(
    place="machine",
    about="what this line is for",
    needs=("line.application",),
    holds="data",
    source=COMMON_PRACTICE,
    answers=("line.holds", "line.application"),
)
def application_is_known(line: Line, derived: Derived) -> Verdict:
    """Without it nothing more can be asked."""
    held = line.held
    assert held is not None
    wished = line.value("line.holds")
    if wished is not None and wished != held.id:
        return stop(
            "This application does not hold that",
            say(f"{line.application.label}: {', '.join(HELD[h].label.lower() for h in line.application.holds)}."),
            say(f"Choose one of them; until then it is taken to hold {held.label.lower()}."),
        )
    what = "follows a speed from outside" if held.id == "reference" else f"holds {held.label.lower()}"
    return clear(line.application.label, say(f"It {what}; that decides what is asked, checked and proposed."))
