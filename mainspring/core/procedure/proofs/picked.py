"""Any of several things named."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.proofs.kind import Answer, Read
from mainspring.core.procedure.proofs.listed import Listed
from mainspring.core.procedure.rules import Rules
from mainspring.core.procedure.step import YES, Step


class Picked(Listed):
    """At least one of a list; all the others are meant as left alone."""

    id, kind, words = "picked", "picked", "what you name"

    def judge(self, rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: list[Evidence]) -> Evidence:
        return replace(super().judge(rules, data, made, earlier), passed=True)

    def lacking(self, rules: Rules, mine: list[Evidence]) -> tuple[str, ...]:
        return ()

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return [("picked", {next(iter(step.items)): YES}, 0.0)]
