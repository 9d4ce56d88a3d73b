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
    """One step of a calculation sheet."""

    title: str
    symbol: str
    value: float
    dimension: str | None
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


def working_of(figure: Figure, depth: int = 12) -> Working:
    """The calculation sheet of this figure, down to the values of the record."""
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
    made: Made = origin
    declared = made.method
    inputs = [
        WorkingInput(
            "" if p.symbol == p.name and len(p.name) > 2 else pretty(p.symbol),
            p.name.replace("_", " "),
            _plain(made.inputs[p.name]),
            p.dimension,
            _step_beneath(made.inputs[p.name], depth),
            _steps_of_members(made.inputs[p.name], depth),
        )
        for p in declared.parameters
        if made.inputs[p.name] is not None
    ]
    return Working(
        title=declared.title + (f": {made.part.replace('_', ' ')}" if made.part else ""),
        symbol=pretty(made.part or declared.symbol),
        value=float(figure),
        dimension=figure.dimension,
        formula=declared.formula if declared.words else pretty(declared.formula),
        substituted="" if declared.words else substitute(declared, made.inputs),
        source=str(declared.source),
        source_kind=declared.source.kind,
        method_id=declared.id,
        inputs=inputs,
        assumptions=[f"{leaf.label}: {leaf.why}" for leaf in figure.assumptions],
    )


def _step_beneath(value: Any, depth: int) -> Working | None:
    if isinstance(value, Figure) and depth > 0:
        return working_of(value, depth - 1)
    return None


def _steps_of_members(value: Any, depth: int) -> list[Working]:
    if not isinstance(value, (list, tuple)) or depth <= 0:
        return []
    return [working_of(v, depth - 1) for v in value if isinstance(v, Figure) and isinstance(v.origin, Made)]


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
