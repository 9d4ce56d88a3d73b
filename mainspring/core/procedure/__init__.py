"""The run sheet: steps in safe order, what each needs and proves, what holds it, and what has gone stale."""

from mainspring.core.procedure.evidence import Evidence, Held, judge_evidence, leaves_of
from mainspring.core.procedure.status import StepState, StepStatus, sheet_status
from mainspring.core.procedure.steps import Reading, Step, StepTable, plan_steps

__all__ = [
    "Evidence",
    "Held",
    "Reading",
    "Step",
    "StepState",
    "StepStatus",
    "StepTable",
    "judge_evidence",
    "leaves_of",
    "plan_steps",
    "sheet_status",
]
