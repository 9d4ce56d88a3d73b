"""The run sheet: steps in safe order, what each needs and proves, what holds it, and what has gone stale."""

from mainspring.core.procedure.evidence import Evidence, Held, judge_evidence, leaves_of
from mainspring.core.procedure.plan import plan_steps
from mainspring.core.procedure.status import Standing, StepState, StepStatus, sheet_status, standing
from mainspring.core.procedure.step import PHASES, PROOFS, Reading, School, Step, StepTable
from mainspring.core.procedure.verdict import input_errors, table_pattern

__all__ = [
    "PHASES",
    "PROOFS",
    "Evidence",
    "Held",
    "Reading",
    "School",
    "Standing",
    "Step",
    "StepState",
    "StepStatus",
    "StepTable",
    "input_errors",
    "judge_evidence",
    "leaves_of",
    "plan_steps",
    "sheet_status",
    "standing",
    "table_pattern",
]
