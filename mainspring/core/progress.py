"""Seven stages from survey to hand-over: which are done, which is in hand."""

from dataclasses import dataclass

from mainspring.core.assess import Assessment
from mainspring.core.checks import Severity
from mainspring.core.line import Line
from mainspring.core.procedure.status import StepState, StepStatus
from mainspring.core.sentence import in_sentence, listed

STAGES = {
    "survey": "Survey",
    "settings": "Settings",
    "run": "Run sheet",
    "loop": "Loop",
    "proof": "Proof",
    "savings": "Savings",
    "handover": "Hand-over",
}
HANDED_OVER = "handover.done"  # evidence step that closes a line
MEASURED = "proof.measured"  # evidence of a measured saving that somebody stands up for


@dataclass(frozen=True)
class Progress:
    """State of every stage (done, now, todo) and a line of words on where the work stands."""

    states: dict[str, str]
    words: str


def progress_of(
    assessment: Assessment,
    sheet: list[StepStatus],
    planned: int,
    settings_left: int,
    savings_known: bool,
    handed_over: bool,
) -> Progress:
    """Where a line stands; the first stage not done is the one in hand. `planned` are the settings of this drive."""
    steps_done = sum(s.done_or_left_out for s in sheet)
    line = assessment.line
    stops, unknown = assessment.count(Severity.STOP), assessment.count(Severity.UNKNOWN)
    baseline = any(s.step.id == "turn.baseline" and s.state is StepState.DONE for s in sheet)
    done = {
        "survey": stops == 0 and unknown == 0,
        "settings": planned > 0 and settings_left >= planned,
        "run": bool(sheet) and steps_done == len(sheet),
        "loop": _was_tried(line),
        "proof": baseline,
        "savings": savings_known,
        "handover": handed_over and steps_done > 0,
    }
    current = next((stage for stage, is_done in done.items() if not is_done), None)
    states = {s: "done" if is_done else "now" if s == current else "todo" for s, is_done in done.items()}
    words = {
        "survey": _counted(stops, "stop") + (f", {unknown} not known yet" if unknown else ""),
        "settings": f"{settings_left} of {planned} set",
        "run": f"Step {min(steps_done + 1, len(sheet))} of {len(sheet)}",
        "loop": "To be tried",
        "proof": "Baseline to be kept",
        "savings": "Duty and cost to be entered",
        "handover": "Ready to hand over",
    }
    if handed_over:
        open_still = [STAGES[s].lower() for s, is_done in done.items() if not is_done and s != "handover"]
        if not steps_done:
            return Progress(states, "Handed over with nothing proven")
        return Progress(states, f"Handed over{f', open: {listed(open_still)}' if open_still else ''}")
    if current is None:
        return Progress(states, "Handed over")
    return Progress(states, f"{STAGES[current]}: {in_sentence(words[current])}")


def _was_tried(line: Line) -> bool:
    """Whether somebody decided or set what the loop bench is for: gains, how it rests, or the ramps of an open line."""
    if not line.has("line.application"):
        return False
    if "rests" in line.traits:
        return line.has("control.low_limit") and line.has("control.sleep_below")
    return line.has("control.gain") if "loop" in line.traits else line.has("control.ramp_up")


def _counted(number: int, word: str) -> str:
    return f"{number} {word}{'s' if number != 1 else ''}"
