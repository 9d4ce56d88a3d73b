"""A figure's working as a tree to read: symbol, formula, values, result, source, and the steps beneath."""

import re
from dataclasses import dataclass
from dataclasses import field as dataclass_field
from typing import Any

from mainspring.core.method import Figure, Leaf, Made, Method, Parameter
from mainspring.core.quantity import DIMENSIONS

_SUPERSCRIPTS = {"**2": "²", "**3": "³"}
_WORDS = (("sqrt", "√"), ("pi", "π"), ("theta", "θ"), ("rho", "ρ"), ("eta", "η"), ("tau", "τ"), ("Delta", "Δ"))


@dataclass
class WorkingInput:
    """One value put into a method."""

    symbol: str
    name: str
    value: Any
    dimension: str | None
    step: "Working | None" = None
    steps: "list[Working]" = dataclass_field(default_factory=list)  # of a sequence: one for each member computed


@dataclass(frozen=True)
class PutIn:
    """A value that stands in a formula for its symbol."""

    value: float
    dimension: str | None
    unit: str  # in which it must be told, because the formula's constants belong to it; empty: the reader's


@dataclass
class Working:
    """One step of a calculation sheet; worked once, and by its number wherever it is used again."""

    title: str
    symbol: str
    value: float
    dimension: str | None
    number: int = 0  # of a leaf: none
    again: bool = False
    formula: str = ""
    substituted: list[str | PutIn] = dataclass_field(default_factory=list)
    source: str = ""
    source_kind: str = ""
    method_id: str = ""
    provenance: str = ""  # of a leaf
    field: str = ""
    why: str = ""
    inputs: list[WorkingInput] = dataclass_field(default_factory=list)
    assumptions: list[str] = dataclass_field(default_factory=list)


def working_of(figure: Figure) -> Working:
    """The calculation sheet of this figure, down to the values of the record."""
    return _working(figure, {})


def _working(figure: Figure, numbers: dict[int, int]) -> Working:
    """One step; `numbers` holds those of the steps worked so far, by the identity of their figure.

    Figures share what they rest on: written out at every use, a saving's sheet has thousands of steps.
    """
    origin = figure.origin
    if isinstance(origin, Leaf):
        return Working(
            title=origin.label,
            symbol=origin.label,
            value=float(figure),
            dimension=origin.dimension,
            provenance=origin.provenance,
            field=origin.field,
            why=origin.why,
        )
    declared = origin.method
    again = id(figure) in numbers
    working = Working(
        title=declared.title + (f": {origin.part.replace('_', ' ')}" if origin.part else ""),
        symbol=pretty(origin.part or declared.symbol),
        value=float(figure),
        dimension=figure.dimension,
        number=numbers.setdefault(id(figure), len(numbers) + 1),
        again=again,
        method_id=declared.id,
        source=str(declared.source),
    )
    if again:
        return working
    working.formula = declared.formula if declared.words else pretty(declared.formula)
    working.substituted = substitute(declared, origin.inputs)
    working.source_kind = declared.source.kind
    working.inputs = [
        WorkingInput(
            "" if p.symbol == p.name and len(p.name) > 2 else pretty(p.symbol),
            p.name.replace("_", " "),
            _plain(value),
            p.dimension or getattr(value, "dimension", None),
            _working(value, numbers) if isinstance(value, Figure) else None,
            _steps_of_members(value, numbers),
        )
        for p in declared.parameters
        if (value := origin.inputs[p.name]) is not None
    ]
    if working.number == 1:
        working.assumptions = [f"{leaf.label}: {leaf.why}" for leaf in figure.assumptions]
    return working


def _steps_of_members(value: Any, numbers: dict[int, int]) -> list[Working]:
    if not isinstance(value, (list, tuple)):
        return []
    return [_working(v, numbers) for v in value if isinstance(v, Figure) and isinstance(v.origin, Made)]


def _plain(value: Any) -> Any:
    if isinstance(value, float):
        return float(value)
    if isinstance(value, (list, tuple)):
        return [_plain(v) for v in value]
    return value


def pretty(formula: str) -> str:
    """A formula as an engineer writes it."""
    for code, sign in _SUPERSCRIPTS.items():
        formula = formula.replace(code, sign)
    for word, sign in _WORDS:
        formula = _replace_word(formula, word, sign)
    return formula.replace("**", "^").replace(" * ", "·").replace("*", "·")


def substitute(declared: Method, inputs: dict[str, Any]) -> list[str | PutIn]:
    """The formula with its values put in, each a quantity: in pieces, so that it is read in anybody's units."""
    if declared.words:
        return _substitute_sum(declared, inputs) if declared.formula.startswith("Σ ") else []
    text = declared.formula
    values: list[PutIn] = []
    fixed = has_constants(declared.formula)
    for p in sorted(declared.parameters, key=lambda p: -len(p.symbol)):
        value = inputs.get(p.name)
        if isinstance(value, (int, float)) and not isinstance(value, bool):
            text = _replace_word(text, p.symbol, f"«{len(values)}»")
            values.append(_put_in(p, value, fixed=fixed))
    return _pieces(pretty(text.replace(" * ", " × ")), values)


SUMMED = 3  # terms of a sum that are written out


def _substitute_sum(declared: Method, inputs: dict[str, Any]) -> list[str | PutIn]:
    """The first terms of a sum, one after the other."""
    term = declared.formula.removeprefix("Σ ").replace("·", " × ")
    many = [p for p in declared.parameters if f"{p.symbol}ᵢ" in term]
    if not many:
        return []  # its terms are no inputs: coefficients of a table
    count = min(len(inputs[p.name]) for p in many)
    pieces: list[str | PutIn] = []
    for i in range(min(count, SUMMED)):
        marked = term
        values: list[PutIn] = []
        for p in many:
            marked = marked.replace(f"{p.symbol}ᵢ", f"«{len(values)}»")
            values.append(_put_in(p, inputs[p.name][i], fixed=False))
        pieces += ([" + "] if i else []) + _pieces(marked, values)
    return pieces + ([f" + … ({count} terms)"] if count > SUMMED else [])


def has_constants(formula: str) -> bool:
    """Whether numbers stand in a formula that hold in the core's units alone: 273.15, say, but no power and no half."""
    bare = re.sub(r"\*\* *-?\(?[\d./ ]+\)?", "", formula)
    return any(float(n) not in (0, 0.5, 1, 2, 3, 4) for n in re.findall(r"(?<![\w.])\d+\.?\d*(?:e-?\d+)?", bare))


def _put_in(parameter: Parameter, value: float, *, fixed: bool) -> PutIn:
    dimension = parameter.dimension or getattr(value, "dimension", None)
    unit = DIMENSIONS[dimension].core.symbol if fixed and dimension else ""
    return PutIn(float(value), dimension, unit)


def _pieces(text: str, values: list[PutIn]) -> list[str | PutIn]:
    """Text and values in reading order; one that is raised to a power, or below zero, stands in brackets."""
    found: list[str | PutIn] = []
    split = re.split(r"«(\d+)»", text)
    for i, piece in enumerate(split):
        if i % 2 == 0:
            found += [piece] if piece else []
            continue
        value = values[int(piece)]
        raised = split[i + 1][:1] in ("²", "³", "^") and value.dimension is not None
        below = value.value < 0 and bool(split[i - 1].strip())
        found += ["(", value, ")"] if raised or below else [value]
    return found


def _replace_word(text: str, word: str, by: str) -> str:
    return re.sub(rf"(?<![A-Za-z0-9_.«]){re.escape(word)}(?![A-Za-z0-9_])", by, text)
