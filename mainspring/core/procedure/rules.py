"""What an entry must hold and when it proves its step, as data: one shape for every kind of proof.

The server judges by it (`evaluate`) and hands it out with the step, and the device judges by the same
(`web/src/lib/run/rules.ts`). Both run the cases in `tests/data/judgement_cases.json`: what one takes the other takes.
"""

from collections.abc import Iterator, Mapping, Sequence
from dataclasses import dataclass, field
from typing import Literal

from mainspring.core.procedure.evidence import Evidence
from mainspring.core.procedure.step import Band


@dataclass(frozen=True)
class Number(Band):
    """A number between its bounds, close enough to what is expected of it, of its row or of the way taken."""

    positive: bool = False  # cannot be below zero
    most: float = 1e9  # SI; no reading of the trade is larger
    ask: Literal["number"] = "number"


@dataclass(frozen=True)
class Option:
    """One thing that can be said: what it leads one to expect, and whether who says it says why."""

    label: str
    expected: float | None = None
    asks_why: bool = False


@dataclass(frozen=True)
class OneOf:
    """One of a few; `right` is the one that proves, * for any. The first is meant where `usual` and nothing is said."""

    key: str
    label: str
    options: Mapping[str, Option]
    right: str = "*"
    usual: bool = False
    ask: Literal["one_of"] = "one_of"


@dataclass(frozen=True)
class AllOf:
    """Things to be seen: all of them, or where `any_will_do` at least one. Where `only`, nothing else may be named."""

    label: str
    items: Mapping[str, str]
    any_will_do: bool = False
    only: bool = False
    ask: Literal["all_of"] = "all_of"


@dataclass(frozen=True)
class Text:
    """Some words; where `unlike` says so of two pieces, none may have the same."""

    key: str
    label: str
    least: int = 0
    most: int = 200
    unlike: str = ""
    ask: Literal["text"] = "text"


@dataclass(frozen=True)
class Point:
    """A part of the step: what to call it, and what each number is expected to be there."""

    at: float
    name: str
    expected: Mapping[str, float]
    within: Mapping[str, float] = field(default_factory=dict)  # how close, where that is known of this one


@dataclass(frozen=True)
class At:
    """Which part of the step it is about; all must be there, or the last one only."""

    key: str
    label: str
    points: tuple[Point, ...]
    dimension: str = ""  # of where they are; empty where they are counted
    last_will_do: bool = False
    ask: Literal["at"] = "at"


@dataclass(frozen=True)
class More:
    """Which of two gives more of what was read of both, and that it is the one chosen at `key`.

    Nearer to each other than a share `apart` they tell nothing. The first alone will do where `foretold` is as
    expected and nothing was read of the other.
    """

    key: str
    options: tuple[str, ...]
    measures: tuple[str, ...]
    apart: float
    foretold: Number | None
    same: str  # what is wanted where they are the same
    single: str  # or where only one was read
    ask: Literal["more"] = "more"


@dataclass(frozen=True)
class Wait:
    """So many seconds since the last piece of a kind."""

    since: str
    seconds: float
    ask: Literal["wait"] = "wait"


@dataclass(frozen=True)
class _OfNoted:
    """Pieces of one kind that each note a thing at `what`, and pieces of another that name by `key` one undone."""

    noted: str
    undone: str
    what: str
    key: str
    label: str

    def open(self, mine: Sequence[Evidence]) -> list[Evidence]:
        """Of what was noted, what is not undone yet."""
        undone = {e.data.get(self.key) for e in mine if e.kind == self.undone}
        return [e for e in mine if e.kind == self.noted and e.id not in undone]


@dataclass(frozen=True)
class Noted(_OfNoted):
    """One that is still open of those noted."""

    ask: Literal["noted"] = "noted"


@dataclass(frozen=True)
class NoneLeft(_OfNoted):
    """None open of those noted; with one noted later it is to be said again."""

    again: str = ""
    ask: Literal["none_left"] = "none_left"


@dataclass(frozen=True)
class Why:
    """A note."""

    label: str
    words: str
    ask: Literal["why"] = "why"


Ask = Number | OneOf | AllOf | Text | At | More | Wait | Noted | NoneLeft | Why


@dataclass(frozen=True)
class Form:
    """One kind of entry: what it must hold, in this order, and what it does."""

    asks: tuple[Ask, ...] = ()
    begins: str = ""  # it proves nothing yet: what is lacking after it
    explains: bool = False  # a note may excuse a number out of its band
    as_found: bool = False  # a number out of its band is told, and proves all the same
    every: bool = False  # each of them stands, not the last alone
    any_time: bool = False  # made when it is, and not when its step comes
    beside: bool = False  # changes nothing about the step
    leaves_out: bool = False
    never: str = ""  # why it cannot be made


@dataclass(frozen=True)
class Rules:
    """Everything that decides what proves a step, what it waits for and what holds it."""

    step: str
    title: str
    forms: Mapping[str, Form]  # by kind of entry
    after: tuple[str, ...] = ()
    stops: tuple[str, ...] = ()
    reopens: tuple[str, ...] = ()  # steps that a failed answer opens anew, until the server says so itself

    def asks(self, *kinds: type[Ask]) -> Iterator[Ask]:
        """All that is asked of some kinds, whatever the form."""
        return (ask for form in self.forms.values() for ask in form.asks if isinstance(ask, kinds))

    @property
    def proving(self) -> dict[str, Form]:
        """The forms that have to do with whether it is proven."""
        return {kind: form for kind, form in self.forms.items() if not form.beside}

    @property
    def part(self) -> str:
        """Key that tells the parts of a step apart; empty where it has none."""
        return next((ask.key for ask in self.asks(At) if isinstance(ask, At)), "")

    @property
    def waits(self) -> bool:
        """Whether a clock is waited for."""
        return any(self.asks(Wait))
