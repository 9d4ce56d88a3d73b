"""A wait that the server's clock keeps, then a name."""

import math
from collections.abc import Mapping
from dataclasses import replace
from datetime import datetime, timedelta
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.procedure.clock import Clock, elapsed, ran_between
from mainspring.core.procedure.evidence import Evidence, Held
from mainspring.core.procedure.proofs.kind import Answer, Paper, Proof, Read, Told
from mainspring.core.procedure.rules import Rules
from mainspring.core.procedure.step import Step
from mainspring.core.sentence import show


class Countdown(Proof):
    """Started, waited out, ticked."""

    id, kind, words = "countdown", "tick", "the server's clock, then your name"

    @property
    def kinds(self) -> tuple[str, ...]:
        return ("start", "tick")

    def judge(self, rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: list[Evidence]) -> Evidence:
        if made.kind == "start":
            return replace(made, passed=False)
        if made.kind != "tick":
            raise BadEntry("kind of evidence", made.kind, "start, tick")
        start = start_of(rules.step, [e for e in earlier if e.at <= made.at])
        if start is None:
            raise Held("the clock has not been started")
        waited = seconds_waited(start, made)
        if waited < 0:
            raise Held("the clock went back since the wait was started: start it anew")
        left = math.ceil((rules.seconds or 0.0) - waited)
        if left > 0:
            raise Held(f"{left // 60} min {left % 60:02d} s left on the clock; the wait cannot be cut short")
        return made

    def in_force(self, mine: list[Evidence]) -> list[Evidence]:
        starts = [e for e in mine if e.kind == "start"]
        return mine[-1:] if mine and mine[-1].kind == "tick" and starts else starts[-1:]

    def lacking(self, rules: Rules, mine: list[Evidence]) -> tuple[str, ...]:
        return ("the wait",) if mine and mine[-1].kind == "start" else ()

    def told(self, evidence: Evidence, step: Step) -> Told:
        return ["clock started" if evidence.kind == "start" else "done"]

    def on_paper(self, step: Step, system: str) -> Paper:
        if step.seconds is None:
            return Paper()
        return Paper(blanks=[("From", ""), (f"To, at least {show(step.seconds, system)} later", "")])

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return [("start", {}, 0.0), ("tick", {}, float(step.seconds or 0) + 20)]


def seconds_waited(start: Evidence, end: Evidence) -> float:
    """Seconds between the start of a wait and its end: as long as a clock saw it that ran through.

    Where the server saw the end, its clocks count: from when it saw the start, or was told of it. Where it was told of
    both, the running clock of the device on which both were made counts; without one, what the server's saw between
    the two. Only from paper does the word of whoever typed it in count.
    """
    by_word = (end.at - start.at).total_seconds()
    if end.clock is None:
        return by_word
    by_clock = elapsed(start.clock or Clock(start.received or start.at), end.clock)
    if end.received is None:
        return by_clock
    if end.paper and start.paper:
        return by_word
    by_device = ran_between(start.clock, end.clock)
    return min(by_word, by_clock if by_device is None else by_device)


def start_of(step: str, evidence: list[Evidence]) -> Evidence | None:
    """The latest start of a step's wait."""
    starts = [e for e in evidence if e.step == step and e.kind == "start"]
    return starts[-1] if starts else None


def clock_end(step: Step, evidence: list[Evidence]) -> datetime | None:
    """When a started wait ends, by the wall's clock; the latest start counts."""
    start = start_of(step.id, evidence)
    if start is None or step.seconds is None:
        return None
    begun = start.at if start.clock is None or start.paper else start.clock.wall
    return begun + timedelta(seconds=float(step.seconds))
