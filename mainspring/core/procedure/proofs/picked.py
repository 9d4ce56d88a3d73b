"""Any of several things named."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import Answer, Proof, Read, Told, seen, told_items
from mainspring.core.procedure.rules import Rules
from mainspring.core.procedure.step import YES, Step


class Picked(Proof):
    """At least one of a list; all the others are meant as left alone."""

    id, kind, words = "picked", "picked", "what you name"

    def judge(self, rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: list[Evidence]) -> Evidence:
        unknown = sorted(set(data) - set(rules.items))
        if unknown:
            raise BadEntry(rules.title, unknown[0], ", ".join(rules.items))
        items = seen(rules, data)
        if not items:
            raise BadEntry(rules.title, "nothing", "at least one of the list")
        return replace(made, data=items)

    def told(self, evidence: Evidence, step: Step) -> Told:
        return told_items(evidence.data, step.items)

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return [("picked", {next(iter(step.items)): YES}, 0.0)]
