"""Things looked at, each of them."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import Answer, Proof, Read, Told, seen, told_items
from mainspring.core.procedure.rules import Rules
from mainspring.core.procedure.step import YES, Step


class Listed(Proof):
    """A list to tick off; what is not seen yet stays open."""

    id, kind, words = "list", "list", "each one seen"

    def judge(self, rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: list[Evidence]) -> Evidence:
        unknown = sorted(set(data) - set(rules.items))
        if unknown:
            raise BadEntry(rules.title, unknown[0], ", ".join(rules.items))
        items = seen(rules, data)
        if not items:
            raise BadEntry(rules.title, "nothing", "at least one of the list seen")
        return replace(made, data=items, passed=set(items) == set(rules.items))

    def lacking(self, rules: Rules, mine: list[Evidence]) -> tuple[str, ...]:
        return tuple(name for key, name in rules.items.items() if mine and key not in mine[-1].data)

    def told(self, evidence: Evidence, step: Step) -> Told:
        return told_items(evidence.data, step.items)

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return [("list", dict.fromkeys(step.items, YES), 0.0)]
