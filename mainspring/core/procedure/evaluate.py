"""Evaluating entries by the rules of their step; `web/src/lib/run/rules.ts` does the same. It knows no kind by name."""

import math
from collections.abc import Callable, Mapping, Sequence
from dataclasses import replace
from typing import Any, Final

from mainspring.core.errors import BadEntry, shown
from mainspring.core.procedure.evidence import Evidence, Held, check_text
from mainspring.core.procedure.rules import (
    AllOf,
    Ask,
    At,
    Form,
    More,
    NoneLeft,
    Noted,
    Number,
    OneOf,
    Option,
    Point,
    Rules,
    Text,
    Wait,
    Why,
)
from mainspring.core.procedure.step import YES
from mainspring.core.procedure.waited import seconds_waited
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.sentence import in_sentence


def judge(rules: Rules, data: Mapping[str, Any], made: Evidence, earlier: Sequence[Evidence]) -> Evidence:
    """The entry as it will be kept. Raises BadEntry for what cannot be taken, Held for what is too early."""
    form = rules.forms.get(made.kind)
    if form is None:
        raise BadEntry(
            "kind of evidence", made.kind, ", ".join(kind for kind, f in rules.proving.items() if not f.leaves_out)
        )
    if form.never:
        raise Held(form.never)
    entry = _Entry(form, data, made, [e for e in earlier if e.step == rules.step])
    for ask in form.asks:
        entry.take(ask)
    return entry.kept()


class _Entry:
    """An entry on its way through what its form asks."""

    def __init__(self, form: Form, data: Mapping[str, Any], made: Evidence, mine: list[Evidence]) -> None:
        self.form, self.data, self.made, self.mine = form, data, made, mine
        self.found: dict[str, Any] = {}
        self.numbers: dict[str, Number] = {}
        self.proves = not form.begins
        self.part: Point | None = None
        self.way: Option | None = None

    def take(self, ask: Ask) -> None:
        _TAKE[ask.ask](self, ask)

    def kept(self) -> Evidence:
        out = [i for i, n in self.numbers.items() if not n.fits(self.found[i], self.expected(n), self.within(n))]
        data = {**self.found, "out": out} if out else self.found
        if not out or self.form.as_found:
            return replace(self.made, data=data, passed=self.proves)
        far = any(self.numbers[i].hopeless(self.found[i], self.expected(self.numbers[i])) for i in out)
        excused = self.form.explains and not far and bool(self.made.note)
        return replace(self.made, data=data, passed=self.proves and excused)

    def expected(self, ask: Number) -> float | None:
        if self.part is not None:
            return self.part.expected.get(ask.id)
        return ask.expected if self.way is None else self.way.expected

    def within(self, ask: Number) -> float | None:
        return None if self.part is None else self.part.within.get(ask.id)

    def number(self, ask: Number) -> None:
        value = self.data.get(ask.id)
        unforetold = self.part is not None and not self.part.expected
        if value is None and (ask.optional or unforetold):
            return
        self.found[ask.id] = _number(ask, value)
        self.numbers[ask.id] = ask
        if ask.twice:
            again = _number(ask, self.data.get(f"{ask.id}.again"))
            if not math.isclose(again, self.found[ask.id], rel_tol=1e-9):
                same = f"the same as before, {self.found[ask.id]:.10g}"
                raise BadEntry(f"{ask.label}, read again", shown(again), same)

    def one_of(self, ask: OneOf) -> None:
        said = self.data.get(ask.key, next(iter(ask.options)) if ask.usual else None)
        if not isinstance(said, str) or said not in ask.options:
            raise BadEntry(ask.label, said, ", ".join(ask.options))
        option = ask.options[said]
        if option.asks_why and not self.made.note:
            why = f"why “{in_sentence(option.label)}”; it stays on the sheet with your name"
            raise BadEntry("reason", "empty", why)
        self.found[ask.key] = said
        self.proves &= ask.right in ("*", said)
        if ask.usual:
            self.way = option

    def all_of(self, ask: AllOf) -> None:
        unknown = sorted(set(self.data) - set(ask.items)) if ask.only else []
        if unknown:
            raise BadEntry(ask.label, unknown[0], ", ".join(ask.items))
        seen = {key: YES for key in ask.items if self.data.get(key) in (True, YES)}
        if ask.only and not seen:
            raise BadEntry(ask.label, "nothing", "at least one of the list seen")
        self.found |= seen
        self.proves &= ask.any_will_do or len(seen) == len(ask.items)

    def text(self, ask: Text) -> None:
        text = check_text(ask.label, self.data.get(ask.key, ""), ask.most, least=ask.least)
        self.found |= {ask.key: text} if text else {}

    def at(self, ask: At) -> None:
        at = self.data.get(ask.key)
        self.part = next((p for p in ask.points if p.at == at and not isinstance(at, bool)), None)
        if self.part is None:
            show = DIMENSIONS[ask.dimension].show if ask.dimension else None
            counted = f"1 to {len(ask.points)}"
            raise BadEntry(ask.label, at, ", ".join(show(p.at) for p in ask.points) if show else counted)
        numbers = [a.id for a in self.form.asks if isinstance(a, Number)]
        if numbers and all(self.data.get(i) is None for i in numbers):
            raise BadEntry("row", "empty", "at least one reading")
        self.found[ask.key] = self.part.at

    def more(self, ask: More) -> None:
        first, second = ask.options
        better = None
        for measure in ask.measures:
            one, other = (self.found.get(f"{side}_{measure}") for side in ask.options)
            if one is not None and other is not None and abs(one - other) > ask.apart * max(abs(one), abs(other)):
                better = first if one > other else second
                break
        left, both = self.found[ask.key], any(i.startswith(f"{second}_") for i in self.numbers)
        rule = ask.foretold
        if better is None and left == first and not both and rule is not None and rule.id in self.found:
            better = left if rule.fits(self.found[rule.id], rule.expected) else None
        if better is None:
            told = f"{second}_{ask.measures[-1]}" in self.found
            raise BadEntry("the two directions", "the same", ask.same if told else ask.single)
        self.found["better"] = better
        self.proves &= left == better

    def wait(self, ask: Wait) -> None:
        starts = [e for e in self.mine if e.kind == ask.since and e.at <= self.made.at]
        if not starts:
            raise Held("the clock has not been started")
        waited = seconds_waited(starts[-1], self.made)
        if waited < 0:
            raise Held("the clock went back since the wait was started: start it anew")
        left = math.ceil(ask.seconds - waited)
        if left > 0:
            raise Held(f"{left // 60} min {left % 60:02d} s left on the clock; the wait cannot be cut short")

    def noted(self, ask: Noted) -> None:
        of = self.data.get(ask.key)
        if of not in {e.id for e in ask.open(self.mine)}:
            raise BadEntry(ask.label, of, "the id of one that is still to be put back")
        self.found[ask.key] = of

    def none_left(self, ask: NoneLeft) -> None:
        left = ask.open(self.mine)
        if left:
            raise Held("; ".join(f"“{e.data[ask.what]}” is not back yet" for e in left))

    def why(self, ask: Why) -> None:
        if not self.made.note:
            raise BadEntry(ask.label, "empty", ask.words)


_TAKE: Final[dict[str, Callable[[_Entry, Any], None]]] = {
    name: getattr(_Entry, name)
    for name in ("number", "one_of", "all_of", "text", "at", "more", "wait", "noted", "none_left", "why")
}


def _number(ask: Number, value: object) -> float:
    if isinstance(value, bool) or not isinstance(value, (int, float)) or not abs(value) < ask.most:
        raise BadEntry(ask.label, value, f"a reading in {DIMENSIONS[ask.dimension].si}")
    if value < 0 and ask.positive:
        raise BadEntry(ask.label, shown(float(value)), "not below 0")
    return float(value)
