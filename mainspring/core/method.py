"""Methods and figures: every computed number knows its working, because the computation itself records it.

A *method* is a plain function declared once with id, formula and source. It returns a *figure*: a float that
remembers the method and the figures that went in. Values of the record enter as figures too (`Leaf`). Two figures of
the same kind of quantity may be added and subtracted, and `max(a, b)` keeps the figure it chose; other arithmetic
outside a method gives a plain float again.
"""

import functools
import importlib
import inspect
import math
import re
from collections.abc import Callable, Iterator
from dataclasses import dataclass, field, replace
from pathlib import Path
from typing import Any, Literal, ParamSpec, Protocol, TypeVar, get_args, get_origin, get_type_hints, overload

from mainspring.core.errors import MainspringError, OutOfRange, UnknownMethod, bounds_in_words, check_range
from mainspring.core.quantity import DIMENSIONS, dimension_of

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
    entered: bool = True  # False where a rule assumed it, because nobody had


class Made:
    """How a figure was made: the method and what went in.

    One is made at every call of a method, thousands in an assessment: so it keeps the call's arguments as they came,
    and names them when somebody asks for the working.
    """

    __slots__ = ("_args", "_kwargs", "method", "part")

    def __init__(self, method: "Method", args: tuple[Any, ...], kwargs: dict[str, Any], part: str = "") -> None:
        self.method, self._args, self._kwargs = method, args, kwargs
        self.part = part  # which member of a method's several results

    @property
    def inputs(self) -> dict[str, Any]:
        """What went in, by parameter name, defaults included."""
        return {**self.method.defaults, **dict(zip(self.method.names, self._args, strict=False)), **self._kwargs}

    @property
    def values(self) -> Iterator[Any]:
        """What went in, in no telling order, defaults left out."""
        yield from self._args
        yield from self._kwargs.values()


Origin = Leaf | Made


class Figure(float):
    """A float that knows where it came from."""

    __slots__ = ("_assumed", "origin")
    origin: Origin
    _assumed: bool

    def __new__(cls, value: float, origin: Origin) -> "Figure":
        figure: Figure = _float(cls, value)
        figure.origin = origin
        return figure

    def __reduce__(self) -> tuple[Any, ...]:
        return (Figure, (float(self), self.origin))

    def __add__(self, other: float) -> float:
        return self._with("sum", other, _plus)

    def __sub__(self, other: float) -> float:
        return self._with("difference", other, _minus)

    def _with(self, method_id: str, other: float, plain: Callable[[float, float], float]) -> float:
        """By the method where both are figures of one kind, which keeps what they came from; plainly otherwise."""
        if type(other) is Figure and (kind := self.dimension) is not None and other.dimension == kind:
            result: Figure = RECORDED[method_id](self, other)
            return result
        return plain(self, other)

    @property
    def dimension(self) -> str | None:
        """Id of the kind of quantity this is, where it is known."""
        origin = self.origin
        if isinstance(origin, Leaf):
            return origin.dimension
        if origin.method.like:
            return getattr(origin.inputs[origin.method.like], "dimension", None)
        return origin.method.parts.get(origin.part) if origin.part else origin.method.dimension

    def told(self, number: float) -> str:
        """Another number of this kind of quantity, with its unit."""
        kind = self.dimension
        return f"{number:g}" if kind is None else DIMENSIONS[kind].tellings(number)

    def leaves(self) -> Iterator[tuple[Leaf, float]]:
        """Every entered value this figure rests on, each field once, with the value used."""
        seen: set[str] = set()
        for figure in walk(self):
            if isinstance(figure.origin, Leaf) and figure.origin.field not in seen:
                seen.add(figure.origin.field)
                yield figure.origin, float(figure)

    @property
    def assumed(self) -> bool:
        """Whether anything underneath was assumed; remembered, since figures share what they rest on."""
        try:
            return self._assumed
        except AttributeError:
            origin = self.origin
            if isinstance(origin, Leaf):
                self._assumed = origin.provenance == "assumed"
            else:
                self._assumed = any(f.assumed for f in _figures_in(origin.values))
            return self._assumed

    @property
    def assumptions(self) -> list[Leaf]:
        """The assumed values underneath, each once; also one whose field is read elsewhere as entered."""
        found: dict[str, Leaf] = {}
        for figure in walk(self):
            if isinstance(figure.origin, Leaf) and figure.origin.provenance == "assumed":
                found.setdefault(figure.origin.field, figure.origin)
        return list(found.values())


_float: Any = float.__new__
_plus, _minus = float.__add__, float.__sub__


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


@dataclass(frozen=True)
class In:
    """An input of a method, in its signature: what it is, its symbol in the formula, and the bounds that are kept."""

    text: str
    symbol: str = ""
    above: float | None = None
    atleast: float | None = None
    upto: float | None = None
    below: float | None = None

    @property
    def bounds(self) -> str:
        """The bounds as the documentation says them: `0 < x <= 1`, `>= 0`; empty where there are none."""
        low = "" if self.above is None and self.atleast is None else "<" if self.atleast is None else "<="
        high = "" if self.upto is None and self.below is None else "<" if self.upto is None else "<="
        least = self.above if self.atleast is None else self.atleast
        most = self.below if self.upto is None else self.upto
        if low and high:
            return f"{least:g} {low} {self.symbol or 'x'} {high} {most:g}"
        if low:
            return f"{low.replace('<', '>')} {least:g}"
        return f"{high} {most:g}" if high else ""

    def allowed(self, dimension: str | None) -> str:
        """The bounds as plain text with the unit, in every unit system; empty where there are none."""
        show = DIMENSIONS[dimension].tellings if dimension else "{:g}".format
        return bounds_in_words(show, above=self.above, atleast=self.atleast, upto=self.upto, below=self.below)


@dataclass(frozen=True, eq=False)
class Parameter:
    """One input of a method."""

    name: str
    symbol: str
    dimension: str | None
    default: Any = inspect.Parameter.empty
    many: bool = False  # a sequence of numbers
    text: bool = False
    told: In = In("")

    @property
    def required(self) -> bool:
        """Whether a caller must give it."""
        return self.default is inspect.Parameter.empty

    @property
    def documented(self) -> str:
        """What it is, its bounds and its unit, as a docstring says it."""
        words = ", ".join(part for part in (self.told.text, self.told.bounds) if part)
        core = DIMENSIONS[self.dimension].core.symbol if self.dimension else ""
        return f"{self.name} : {words}{f' [{core}]' if core else ''}".replace("[–]", "[-]")


@dataclass(frozen=True)
class Bound:
    """The bounds of one input, kept at every call."""

    at: int  # position among the inputs
    name: str
    told: In

    @property
    def low(self) -> float:
        """What the number is above."""
        if self.told.atleast is not None:
            return math.nextafter(self.told.atleast, -math.inf)
        return -math.inf if self.told.above is None else self.told.above

    @property
    def high(self) -> float:
        """What the number is below."""
        if self.told.upto is not None:
            return math.nextafter(self.told.upto, math.inf)
        return math.inf if self.told.below is None else self.told.below

    def check(self, value: Any) -> None:
        """Raise OutOfRange unless the number, or each of several, lies within."""
        told = self.told
        for number in value if isinstance(value, (list, tuple)) else (value,):
            check_range(
                self.name.replace("_", " "), number,
                above=told.above, atleast=told.atleast, upto=told.upto, below=told.below,
            )  # fmt: skip


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
    names: tuple[str, ...] = ()
    defaults: dict[str, Any] = field(default_factory=dict)
    bounds: tuple[Bound, ...] = ()

    def check(self, name: str, value: Any) -> None:
        """Raise OutOfRange unless an input, or each number of it, is as documented."""
        next(b for b in self.bounds if b.name == name).check(value)

    def unfit(self, args: tuple[Any, ...], kwargs: dict[str, Any]) -> OutOfRange:
        """The error for inputs of which nothing follows, each told with its unit."""
        given = dict(zip(self.names, args, strict=False)) | kwargs
        told = []
        for parameter in self.parameters:
            value = given.get(parameter.name)
            if isinstance(value, (int, float)):
                known = DIMENSIONS.get(parameter.dimension or "")
                told.append(
                    f"{parameter.name.replace('_', ' ')} {known.tellings(float(value)) if known else f'{value:g}'}"
                )
        return OutOfRange(self.title, ", ".join(told)[:400] or "these inputs", "numbers of which a result follows")

    def __call__(self, *args: Any, **kwargs: Any) -> Any:
        """Run it as its callers do: the result is a figure, or a tuple of figures."""
        return RECORDED[self.id](*args, **kwargs)


METHODS: dict[str, Method] = {}
RECORDED: dict[str, Callable[..., Any]] = {}


def register_all() -> None:
    """Import every module of the core that declares methods, so that all are known, whoever uses them."""
    core = Path(__file__).parent
    for file in sorted(core.rglob("*.py")):
        if re.search(r"^@method\(", file.read_text(), re.MULTILINE):
            importlib.import_module(".".join(("mainspring.core", *file.relative_to(core).with_suffix("").parts)))


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


def method(shown: str, source: Source, *, id: str = "", words: bool = False, like: str = "") -> Declare:
    """Declare a function as a method; `shown` is its formula, the symbol of the result first: `P = rho * g * Q * H`.

    Its signature says all of its inputs: `Annotated[Watt, In("what it is", "P", above=0)]` with a unit-bearing type of
    `quantity`. From there the bounds are kept, and the documentation and the screen of methods are made. `words` says
    that the formula is a sentence and cannot be evaluated; `like` names the parameter whose dimension the result has,
    where the method serves any.
    """

    def declare(function: Callable[..., Any]) -> Callable[..., Any]:
        symbol, _, formula = shown.partition(" = ")
        name = id or function.__name__
        declared = _declared(function, name, formula, source, symbol, words=words, like=like)
        if name in METHODS:
            raise TypeError(f"two methods are called {name!r}")
        METHODS[name] = declared
        call = _of_many(declared, function) if declared.parts else _of_one(declared, function)
        RECORDED[name] = call
        return call

    return declare


def _declared(
    function: Callable[..., Any],
    id: str,
    formula: str,
    source: Source,
    symbol: str,
    *,
    words: bool,
    like: str,
) -> Method:
    """What the function's signature, annotations and docstring say, beside what it is declared with."""
    hints = get_type_hints(function, include_extras=True)
    result = hints.pop("return")
    parameters = tuple(
        _input(name, hints[name], p.default) for name, p in inspect.signature(function).parameters.items()
    )
    doc = _documented(inspect.getdoc(function) or "", parameters)
    function.__doc__ = doc
    parts: dict[str, str | None] = {}
    if isinstance(result, type) and issubclass(result, tuple):
        parts = {n: dimension_of(t) for n, t in get_type_hints(result, include_extras=True).items()}
    return Method(
        id=id,
        title=doc.split("\n")[0].rstrip("."),
        formula=formula,
        words=words,
        symbol=symbol,
        dimension=dimension_of(result),
        parts=parts,
        parameters=parameters,
        source=source,
        function=function,
        doc=doc,
        topic=function.__module__.removeprefix("mainspring.core.").split(".")[0],
        like=like,
        names=tuple(p.name for p in parameters),
        defaults={p.name: p.default for p in parameters if not p.required},
        bounds=tuple(Bound(i, p.name, p.told) for i, p in enumerate(parameters) if p.told.bounds),
    )


def _input(name: str, hint: Any, default: Any) -> Parameter:
    told = next((part for part in get_args(hint) if isinstance(part, In)), None)
    if told is None:
        raise TypeError(f"{name} does not say what it is: Annotated[…, In(…)]")
    kind = get_args(hint)[0]
    many, text = get_origin(kind) is not None, kind is str
    return Parameter(name, told.symbol or name, dimension_of(hint), default, many=many, text=text, told=told)


def _documented(doc: str, parameters: tuple[Parameter, ...]) -> str:
    """The docstring with its inputs before what it raises, and a heading over its examples."""
    inputs = "\n".join(["Parameters", "----------", *(p.documented for p in parameters)])
    text, mark, examples = doc.partition("\n\n>>> ")
    head, raises, rest = text.partition("\n\nRaises\n")
    shown = f"\n\nExamples\n--------\n>>> {examples}" if mark else ""
    return f"{head}\n\n{inputs}{raises}{rest}{shown}"


_BREAKS = (ArithmeticError, ValueError, LookupError, StopIteration)
_PLAIN = (float, int, Figure)


def _of_one(declared: Method, function: Callable[..., Any]) -> Callable[..., Any]:
    """The function as its callers run it: documented bounds kept, its number a figure."""
    new = float.__new__
    within = [(b.at, b.name, b.low, b.high) for b in declared.bounds]

    @functools.wraps(function)
    def call(*args: Any, **kwargs: Any) -> Any:
        count = len(args)
        for at, name, low, high in within:
            v = args[at] if at < count else kwargs.get(name)
            if v is not None and not (v.__class__ in _PLAIN and low < v < high):
                declared.check(name, v)
        value = _computed(declared, function, args, kwargs)
        if not isinstance(value, (int, float)):
            return value
        if value - value != 0:  # no number, or one without end
            raise declared.unfit(args, kwargs)
        made = new(Figure, value)
        made.origin = Made(declared, args, kwargs)
        return made

    return call


def _of_many(declared: Method, function: Callable[..., Any]) -> Callable[..., Any]:
    """The same for a function of several results."""
    parts = declared.parts

    @functools.wraps(function)
    def call(*args: Any, **kwargs: Any) -> Any:
        for bound in declared.bounds:
            v = args[bound.at] if bound.at < len(args) else kwargs.get(bound.name)
            if v is not None:
                bound.check(v)
        value = _computed(declared, function, args, kwargs)
        if any(v - v != 0 for v in value):
            raise declared.unfit(args, kwargs)
        made = [Figure(v, Made(declared, args, kwargs, name)) for name, v in zip(parts, value, strict=True)]
        return type(value)(*made)

    return call


def _computed(declared: Method, function: Callable[..., Any], args: tuple[Any, ...], kwargs: dict[str, Any]) -> Any:
    """What the function gives; where it breaks on its numbers, which of them it was given."""
    try:
        value = function(*args, **kwargs)
    except _BREAKS as broken:
        if isinstance(broken, MainspringError):
            raise
        raise declared.unfit(args, kwargs) from None
    if isinstance(value, complex):
        raise declared.unfit(args, kwargs)
    return value


def given(name: str, value: float, dimension: str | None = None, why: str = "") -> Figure:
    """A figure for a value given on the spot: a constant of a rule, or a caller's input."""
    return Figure(value, Leaf(name, name.replace("_", " "), dimension, "given", why))


def assume(name: str, value: float, dimension: str | None, why: str) -> Figure:
    """A figure marked as assumed; whatever is computed from it carries the mark, since the graph does."""
    return Figure(value, Leaf(name, name.split(".")[-1].replace("_", " "), dimension, "assumed", why, entered=False))


def assume_by(entered: Figure, why: str) -> Figure:
    """An entered value from which more is made than it says; what is computed from it carries the mark."""
    assert isinstance(entered.origin, Leaf)
    return Figure(float(entered), replace(entered.origin, provenance="assumed", why=why))


def assume_practice(name: str, value: Figure) -> Figure:
    """A figure that the trade goes by, marked as assumed for a field that was not entered."""
    assert isinstance(value.origin, Leaf)
    why = f"{value.origin.label[0].lower()}{value.origin.label[1:]}; {value.origin.why}"
    return assume(name, float(value), value.dimension, why)


def as_figure(value: float) -> Figure:
    """The figure that a method's tuple result holds; for the type checker, which sees a float."""
    if not isinstance(value, Figure):
        raise TypeError(f"{value!r} is not a figure")
    return value
