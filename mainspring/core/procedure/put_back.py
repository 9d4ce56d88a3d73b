"""What must be put back: bridges, simulated signals, ramps set to 0 for a tuning, limits raised "for now"."""

from collections.abc import Sequence

from mainspring.core.procedure.proofs.put_back import still_changed
from mainspring.core.procedure.status import StepStatus
from mainspring.core.procedure.step import Step
from mainspring.core.sentence import say

PUT_BACK = "finish.put_back"


def put_back_step(steps: Sequence[Step]) -> Step:
    """The list that steps and people add to, which holds the hand-over until it is empty."""
    behind = {s.id: s.behind for s in steps if s.behind}
    return Step(
        PUT_BACK,
        "Put back what was changed for the work",
        say("Go through what was bridged, simulated, raised or set for the tuning. Each back as it belongs."),
        "What was meant for ten minutes is found in three years, by somebody it has hurt.",
        "put_back",
        danger="A bridged safety contact or a simulated signal left behind takes the protection away with it.",
        after=tuple(behind),
        items=behind,
    )


def still_behind(sheet: Sequence[StepStatus]) -> list[str]:
    """Everything known to be still bridged, simulated or raised: noted by people, or left behind by steps done."""
    status = next((s for s in sheet if s.step.id == PUT_BACK), None)
    if status is None:
        return []
    open_ = still_changed(status.evidence)
    if status.done_or_left_out:
        return open_
    done = {s.step.id for s in sheet if any(e.kind != "override" for e in s.evidence)}
    return open_ + [words for step, words in status.step.items.items() if step in done]
