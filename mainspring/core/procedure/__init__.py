"""The run sheet: steps in safe order, what each needs and proves, what holds it, and what has gone stale."""

from mainspring.core.procedure.clock import Clock
from mainspring.core.procedure.entry import admit, in_order, judge_evidence, unseen
from mainspring.core.procedure.evaluate import judge
from mainspring.core.procedure.evidence import OLDEST, Evidence, Held, Instrument, check_plain, check_text, leaves_of
from mainspring.core.procedure.plan import plan_steps
from mainspring.core.procedure.proofs import PROOFS, Paper, kinds, rules_of
from mainspring.core.procedure.put_back import still_behind
from mainspring.core.procedure.rules import Rules
from mainspring.core.procedure.status import Standing, StepState, StepStatus, by_step, sheet_status, standing
from mainspring.core.procedure.step import PHASES, Reading, School, Step, StepTable
from mainspring.core.procedure.verdict import input_errors, table_pattern
from mainspring.core.procedure.visit import PURPOSES, Visit, check_visit, open_visit

__all__ = [
    "OLDEST",
    "PHASES",
    "PROOFS",
    "PURPOSES",
    "Clock",
    "Evidence",
    "Held",
    "Instrument",
    "Paper",
    "Reading",
    "Rules",
    "School",
    "Standing",
    "Step",
    "StepState",
    "StepStatus",
    "StepTable",
    "Visit",
    "admit",
    "by_step",
    "check_plain",
    "check_text",
    "check_visit",
    "in_order",
    "input_errors",
    "judge",
    "judge_evidence",
    "kinds",
    "leaves_of",
    "open_visit",
    "plan_steps",
    "rules_of",
    "sheet_status",
    "standing",
    "still_behind",
    "table_pattern",
    "unseen",
]
