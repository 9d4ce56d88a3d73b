"""What of a step's evidence counts now, and what it still lacks, by its rules."""

from collections.abc import Sequence

from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.rules import AllOf, At, NoneLeft, Rules, Text, Wait


def in_force(rules: Rules, evidence: Sequence[Evidence]) -> list[Evidence]:
    """Of a step's evidence in order, what counts now: the latest, or the latest of each part."""
    proving = rules.proving
    mine = [e for e in evidence if e.step == rules.step and e.kind in proving]
    if mine and rules.forms[mine[-1].kind].leaves_out:
        return mine[-1:]
    mine = [e for e in mine if not rules.forms[e.kind].leaves_out]
    if part := rules.part:
        latest = {e.data[part]: e for e in mine if isinstance(e.data.get(part), (int, float))}
        return [latest[at] for at in sorted(latest)]
    last = [e for e in mine if not rules.forms[e.kind].every][-1:]
    for ask in rules.asks(Wait):  # waited out since a start that counts itself
        starts = [e for e in mine if isinstance(ask, Wait) and e.kind == ask.since]
        last = last if starts else []
    return [*(e for e in mine if rules.forms[e.kind].every), *last]


def lacking(rules: Rules, mine: Sequence[Evidence]) -> tuple[str, ...]:
    """What is still to be proven, of a step made of parts, from what counts now."""
    last = next((e for e in reversed(mine) if not rules.forms[e.kind].every), None)
    if last is not None and rules.forms[last.kind].begins:
        return (rules.forms[last.kind].begins,)
    found: list[str] = []
    again = ""
    for ask in rules.asks(At, Text, NoneLeft, AllOf):
        if isinstance(ask, At):
            there = {e.data[ask.key] for e in mine}
            wanted = ask.points[-1:] if ask.last_will_do else ask.points
            found += [p.name for p in wanted if p.at not in there]
        elif isinstance(ask, Text) and ask.unlike:
            said = [s for e in mine if (s := e.data.get(ask.key))]
            found += [ask.unlike.format(s) for s in sorted({s for s in said if said.count(s) > 1})]
        elif isinstance(ask, NoneLeft):
            found += [str(e.data[ask.what]) for e in ask.open(mine)]
            later = last is None or any(e.kind == ask.noted and e.at > last.at for e in mine)
            again = ask.again if later else ""
        elif isinstance(ask, AllOf) and not ask.any_will_do and not rules.part and (mine or again):
            found += [name for key, name in ask.items.items() if last is None or key not in last.data]
    return tuple(found) or ((again,) if again else ())
