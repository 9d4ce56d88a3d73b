"""An entry of the trip log, as the display had it."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.procedure.evidence import Evidence, check_text
from mainspring.core.procedure.proofs.kind import (
    Answer,
    Paper,
    Proof,
    Read,
    Told,
    blanks_of,
    numbers,
    told_readings,
)
from mainspring.core.procedure.rules import Rules
from mainspring.core.procedure.step import Step
from mainspring.core.sentence import in_sentence

TEXT_LIMIT = 60
TEXTS = {"code": "Code on the display", "dated": "Its date in the log"}


class Log(Proof):
    """What kind of trip, what it was doing, the code and its date as shown, and the figures that stood with it."""

    id, kind, words = "log", "log", "what the display and its log show"

    def judge(self, rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: list[Evidence]) -> Evidence:
        trip, when = data.get("trip"), data.get("when")
        if not isinstance(trip, str) or trip not in rules.choices:
            raise BadEntry("kind of trip", trip, ", ".join(rules.choices))
        if not isinstance(when, str) or when not in rules.items:
            raise BadEntry("what it was doing", when, ", ".join(rules.items))
        texts = {name: check_text(TEXTS[name], data.get(name, ""), TEXT_LIMIT) for name in TEXTS}
        kept = {"trip": trip, "when": when, **{n: t for n, t in texts.items() if t}}
        return replace(made, data={**kept, **numbers(rules.numbers, data)})

    def told(self, evidence: Evidence, step: Step) -> Told:
        data = evidence.data
        code = [f"{data['code']}, "] if data.get("code") else []
        dated = [f"dated {data['dated']}, "] if data.get("dated") else []
        trip, when = str(data.get("trip")), str(data.get("when"))
        words = f"{(step.choices or {}).get(trip, trip)} while {in_sentence(step.items.get(when, when))}, "
        return [words, *code, *dated, *told_readings(data, step.readings)]

    def on_paper(self, step: Step, system: str) -> Paper:
        named = [(label, "") for label in TEXTS.values()]
        return Paper([*named, *blanks_of(step, system)], [*(step.choices or {}).values(), *step.items.values()])

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return [("log", {"trip": next(iter(step.choices or {})), "when": next(iter(step.items)), "code": "F 012"}, 0.0)]
