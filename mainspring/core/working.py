"""A figure's working as a tree to read: symbol, formula, values, result, source, and the steps beneath."""

import re
from dataclasses import dataclass
from dataclasses import field as dataclass_field
from typing import Any

from mainspring.core.method import Figure, Leaf, Made, Method
from mainspring.core.quantity import round_significant

_SUPERSCRIPTS = {"**2": "²", "**3": "³"}
_RAISED = str.maketrans("-0123456789", "⁻⁰¹²³⁴⁵⁶⁷⁸⁹")
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
    substituted: str = ""
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
    working.substituted = "" if declared.words else substitute(declared, origin.inputs)
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


def substitute(declared: Method, inputs: dict[str, Any]) -> str:
    """The formula with the numbers put in, in the core's units."""
    text = declared.formula
    for p in sorted(declared.parameters, key=lambda p: -len(p.symbol)):
        value = inputs.get(p.name)
        if isinstance(value, (int, float)) and not isinstance(value, bool):
            text = _replace_word(text, p.symbol, f"«{_in_formula(float(value))}»")
    return pretty(text.replace(" * ", " × ")).replace("«", "").replace("»", "")


def _in_formula(value: float) -> str:
    """A number as it stands in a formula: five figures, a power of ten where it is very large or small."""
    if value and not 1e-4 <= abs(value) < 1e7:
        mantissa, exponent = f"{value:.4e}".split("e")
        power = str(int(exponent)).translate(_RAISED)
        return f"{mantissa.rstrip('0').rstrip('.')}·10{power}"
    return round_significant(value, 5)


def _replace_word(text: str, word: str, by: str) -> str:
    return re.sub(rf"(?<![A-Za-z0-9_.«]){re.escape(word)}(?![A-Za-z0-9_])", by, text)
