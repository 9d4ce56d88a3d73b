"""A wait that the server's clock keeps, then a name."""

from datetime import datetime, timedelta

from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import Answer, Paper, Proof, Read, Told
from mainspring.core.procedure.rules import Form, Wait
from mainspring.core.procedure.step import Step
from mainspring.core.sentence import show


class Countdown(Proof):
    """Started, waited out, ticked."""

    id, words = "countdown", "the server's clock, then your name"

    def forms(self, step: Step) -> dict[str, Form]:
        seconds = 0.0 if step.seconds is None else float(step.seconds)
        return {"start": Form(begins="the wait"), "tick": Form((Wait("start", seconds),))}

    def told(self, evidence: Evidence, step: Step) -> Told:
        return ["clock started" if evidence.kind == "start" else "done"]

    def on_paper(self, step: Step, system: str) -> Paper:
        if step.seconds is None:
            return Paper()
        return Paper(blanks=[("From", ""), (f"To, at least {show(step.seconds, system)} later", "")])

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return [("start", {}, 0.0), ("tick", {}, float(step.seconds or 0) + 20)]


def clock_end(step: Step, evidence: list[Evidence]) -> datetime | None:
    """When a started wait ends, by the wall's clock; the latest start counts."""
    start = next((e for e in reversed(evidence) if e.step == step.id and e.kind == "start"), None)
    if start is None or step.seconds is None:
        return None
    begun = start.at if start.clock is None or start.paper else start.clock.wall
    return begun + timedelta(seconds=float(step.seconds))
