"""What was changed for the work and is back as it belongs."""

from collections.abc import Mapping
from dataclasses import replace
from typing import Any

from mainspring.core.errors import BadEntry
from mainspring.core.procedure.evidence import Evidence, Held, check_text
from mainspring.core.procedure.proofs.kind import Answer, Paper, Proof, Read, Told, seen
from mainspring.core.procedure.rules import Rules
from mainspring.core.procedure.step import YES, Step
from mainspring.core.sentence import in_sentence

WHAT_LIMIT = 200


class PutBack(Proof):
    """Noted at any time, ticked back at any time; at the end somebody says that nothing is left."""

    id, kind, words = "put_back", "tick", "everything back, with your name"

    @property
    def kinds(self) -> tuple[str, ...]:
        return ("temporary", "back", "tick")

    def judge(self, rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: list[Evidence]) -> Evidence:
        if made.kind == "temporary":
            return replace(
                made, data={"what": check_text("what is to be put back", data.get("what"), WHAT_LIMIT, least=1)}
            )
        mine = [e for e in earlier if e.step == rules.step]
        noted = open_ones(mine)
        if made.kind == "back":
            if data.get("of") not in {e.id for e in noted}:
                raise BadEntry("what is back", data.get("of"), "the id of one that is still to be put back")
            return replace(made, data={"of": data["of"]})
        if made.kind != "tick":
            raise BadEntry("kind of evidence", made.kind, "temporary, back, tick")
        if noted:
            raise Held("; ".join(f"“{e.data['what']}” is not back yet" for e in noted))
        items = seen(rules, data)
        return replace(made, data=items, passed=set(items) == set(rules.items))

    def in_force(self, mine: list[Evidence]) -> list[Evidence]:
        ticks = [e for e in mine if e.kind == "tick"]
        return [*(e for e in mine if e.kind != "tick"), *ticks[-1:]]

    def lacking(self, rules: Rules, mine: list[Evidence]) -> tuple[str, ...]:
        noted, ticks = open_ones(mine), [e for e in mine if e.kind == "tick"]
        open_items = [name for key, name in rules.items.items() if not ticks or key not in ticks[-1].data]
        words = [*(str(e.data["what"]) for e in noted), *open_items]
        later = not ticks or any(e.kind == "temporary" and e.at > ticks[-1].at for e in mine)
        return tuple(words) or (("the word that all is back",) if later else ())

    def told(self, evidence: Evidence, step: Step) -> Told:
        if evidence.kind == "temporary":
            return [f"to be put back: {in_sentence(str(evidence.data.get('what')))}"]
        return ["back as it belongs" if evidence.kind == "back" else "everything is back"]

    def on_paper(self, step: Step, system: str) -> Paper:
        return Paper([("Also changed for now", ""), ("Also changed for now", "")], list(step.items.values()))

    def sample(self, step: Step, read: Read) -> list[Answer]:
        return [("tick", dict.fromkeys(step.items, YES), 0.0)]


def open_ones(mine: list[Evidence]) -> list[Evidence]:
    """Of what was noted, what nobody has put back yet."""
    back = {e.data.get("of") for e in mine if e.kind == "back"}
    return [e for e in mine if e.kind == "temporary" and e.id not in back]
