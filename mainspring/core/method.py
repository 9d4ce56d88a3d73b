"""Methods and figures: every computed number knows its working, because the computation itself records it.

A *method* is a plain function declared once with id, formula and source. It returns a *figure*: a float that
remembers the method and the figures that went in. Values of the record enter as figures too (`Leaf`). Arithmetic
outside a method gives a plain float again, and `max(a, b)` keeps the figure it chose.
"""

import functools
import inspect
from collections.abc import Callable, Iterator
from dataclasses import dataclass
from typing import Any, Literal, ParamSpec, Protocol, TypeVar, get_type_hints, overload

from mainspring.core.errors import UnknownMethod
from mainspring.core.quantity import dimension_of

P = ParamSpec("P")
R = TypeVar("R")

SourceKind = Literal["standard", "handbook", "guideline", "law", "common practice", "derived", "from memory"]


@dataclass(frozen=True)
class Source:
    """Where a formula, table or rule comes from."""

    title: str
    place: str = ""
    kind: SourceKind = "handbook"

    def __str__(self) -> str:
        return f"{self.title}, {self.place}" if self.place else self.title


COMMON_PRACTICE = Source("common practice, no source", kind="common practice")
DERIVED = Source("follows from the definitions", kind="derived")


@dataclass(frozen=True)
class Leaf:
    """A value that was entered, not computed: which field, where it was read, and why if assumed."""

    field: str
    label: str
    dimension: str | None
    provenance: str  # plate, measured, given, assumed
    why: str = ""


@dataclass(frozen=True)
class Made:
    """How a figure was made: the method and what went in, by parameter name."""

    method: "Method"
    inputs: dict[str, Any]
    part: str = ""  # which member of a method's several results


Origin = Leaf | Made


class Figure(float):
    """A float that knows where it came from."""

    __slots__ = ("origin",)
    origin: Origin

    def __new__(cls, value: float, origin: Origin) -> "Figure":
        figure = super().__new__(cls, value)
        figure.origin = origin
        return figure

    def __reduce__(self) -> tuple[Any, ...]:
        return (Figure, (float(self), self.origin))

    @property
    def dimension(self) -> str | None:
        """Id of the kind of quantity this is, where it is known."""
        origin = self.origin
        if isinstance(origin, Leaf):
            return origin.dimension
        if origin.method.like:
            return getattr(origin.inputs[origin.method.like], "dimension", None)
        return origin.method.parts.get(origin.part) if origin.part else origin.method.dimension

    def leaves(self) -> Iterator[tuple[Leaf, float]]:
        """Every entered value this figure rests on, each field once, with the value used."""
        seen: set[str] = set()
        for figure in walk(self):
            if isinstance(figure.origin, Leaf) and figure.origin.field not in seen:
                seen.add(figure.origin.field)
                yield figure.origin, float(figure)

    @property
    def assumptions(self) -> list[Leaf]:
        """The assumed values underneath, each once."""
        return [leaf for leaf, _ in self.leaves() if leaf.provenance == "assumed"]


def walk(figure: Figure) -> Iterator[Figure]:
    """The figure and all beneath it, depth first, each object once."""
    stack, seen = [figure], set()
    while stack:
        current = stack.pop()
        if id(current) in seen:
            continue
        seen.add(id(current))
        yield current
        if isinstance(current.origin, Made):
            stack.extend(reversed(list(_figures_in(current.origin.inputs.values()))))


def _figures_in(values: Any) -> Iterator[Figure]:
    for value in values:
        if isinstance(value, Figure):
            yield value
        elif isinstance(value, (list, tuple)):
            yield from _figures_in(value)


@dataclass(frozen=True, eq=False)
class Parameter:
    """One input of a method."""

    name: str
    symbol: str
    dimension: str | None
    default: Any = inspect.Parameter.empty
    many: bool = False  # a sequence of numbers
    text: bool = False

    @property
    def required(self) -> bool:
        """Whether a caller must give it."""
        return self.default is inspect.Parameter.empty


@dataclass(frozen=True, eq=False)
class Method:
    """One published or derived computation."""

    id: str
    title: str
    formula: str
    words: bool  # the formula is a sentence (solver, look-up), not an expression
    symbol: str
    dimension: str | None
    parts: dict[str, str | None]
    parameters: tuple[Parameter, ...]
    source: Source
    function: Callable[..., Any]
    doc: str
    topic: str
    like: str = ""  # the parameter whose dimension the result has

    def __call__(self, *args: Any, **kwargs: Any) -> Any:
        """Run it as its callers do: the result is a figure, or a tuple of figures."""
        return RECORDED[self.id](*args, **kwargs)


METHODS: dict[str, Method] = {}
RECORDED: dict[str, Callable[..., Any]] = {}


def find_method(method_id: str) -> Method:
    """The method of that id; UnknownMethod suggests near ones."""
    try:
        return METHODS[method_id]
    except KeyError:
        import difflib

        raise UnknownMethod(method_id, difflib.get_close_matches(method_id, METHODS, 3, 0.5)) from None


class Declare(Protocol):
    """What `method(...)` returns: a function of numbers becomes one of figures, of several results stays as it is."""

    @overload
    def __call__(self, function: Callable[P, float]) -> Callable[P, Figure]: ...
    @overload
    def __call__(self, function: Callable[P, R]) -> Callable[P, R]: ...


def method(
    *,
    id: str,
    formula: str,
    source: Source,
    symbol: str = "",
    symbols: dict[str, str] | None = None,
    words: bool = False,
    like: str = "",
) -> Declare:
    """Declare a function as a method.

    `symbols` maps the formula's symbols to parameter names; `words` says that the formula is a sentence and cannot
    be evaluated; `like` names the parameter whose dimension the result has, where the method
    serves any. The function must be annotated with the unit-bearing types of `quantity`.
    """

    def declare(function: Callable[..., Any]) -> Callable[..., Any]:
        hints = get_type_hints(function, include_extras=True)
        result = hints.pop("return")
        by_parameter = {name: sym for sym, name in (symbols or {}).items()}
        parameters = tuple(
            Parameter(
                name,
                by_parameter.get(name, name),
                dimension_of(hints[name]),
                p.default,
                many=hints[name] is not str and "Sequence" in str(hints[name]),
                text=hints[name] is str,
            )
            for name, p in inspect.signature(function).parameters.items()
        )
        doc = inspect.getdoc(function) or ""
        parts: dict[str, str | None] = {}
        if isinstance(result, type) and issubclass(result, tuple):
            parts = {n: dimension_of(t) for n, t in get_type_hints(result, include_extras=True).items()}
        declared = Method(
            id=id,
            title=doc.split("\n")[0].rstrip("."),
            formula=formula,
            words=words,
            symbol=symbol or id,
            dimension=dimension_of(result),
            parts=parts,
            parameters=parameters,
            source=source,
            function=function,
            doc=doc,
            topic=function.__module__.removeprefix("mainspring.core.").split(".")[0],
            like=like,
        )
        if id in METHODS:
            raise TypeError(f"two methods are called {id!r}")
        METHODS[id] = declared
        names = tuple(p.name for p in parameters)
        defaults = {p.name: p.default for p in parameters if not p.required}

        @functools.wraps(function)
        def call(*args: Any, **kwargs: Any) -> Any:
            value: Any = function(*args, **kwargs)
            inputs = {**defaults, **dict(zip(names, args, strict=False)), **kwargs}
            if parts:
                made = [Figure(v, Made(declared, inputs, name)) for name, v in zip(parts, value, strict=True)]
                return type(value)(*made)
            return Figure(value, Made(declared, inputs)) if isinstance(value, (int, float)) else value

        RECORDED[id] = call
        return call

    return declare


def given(name: str, value: float, dimension: str | None = None, why: str = "") -> Figure:
    """A figure for a value given on the spot: a constant of a rule, or a caller's input."""
    return Figure(value, Leaf(name, name.replace("_", " "), dimension, "given", why))


def assume(name: str, value: float, dimension: str | None, why: str) -> Figure:
    """A figure marked as assumed; whatever is computed from it carries the mark, since the graph does."""
    return Figure(value, Leaf(name, name.split(".")[-1].replace("_", " "), dimension, "assumed", why))


def as_figure(value: float) -> Figure:
    """The figure that a method's tuple result holds; for the type checker, which sees a float."""
    if not isinstance(value, Figure):
        raise TypeError(f"{value!r} is not a figure")
    return value
