"""An entry of the trip log, as the display had it."""

from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import Answer, Paper, Proof, Read, Told, blanks_of, numbers, told_readings
from mainspring.core.procedure.rules import Ask, Form, OneOf, Option, Text
from mainspring.core.procedure.step import Step
from mainspring.core.sentence import in_sentence

TEXT_LIMIT = 60
TEXTS = {"code": "Code on the display", "dated": "Its date in the log"}


class Log(Proof):
    """What kind of trip, what it was doing, the code and its date as shown, and the figures that stood with it."""

    id, words = "log", "what the display and its log show"

    def forms(self, step: Step) -> dict[str, Form]:
        trips = {n: Option(label) for n, label in (step.choices or {}).items()}
        doing = {n: Option(label) for n, label in step.items.items()}
        asks: tuple[Ask, ...] = (
            OneOf("trip", "kind of trip", trips),
            OneOf("when", "what it was doing", doing),
            *(Text(key, label, most=TEXT_LIMIT) for key, label in TEXTS.items()),
            *numbers(step.readings),
        )
        return {"log": Form(asks)}

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
