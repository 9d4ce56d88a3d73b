"""What the screens are built from: fields, units, methods; and running a method on its own."""

from typing import Any

from pydantic import BaseModel

from mainspring.core.errors import BadEntry
from mainspring.core.line import GROUPS, STATIONS, Choice, Flags, Points, Quantity
from mainspring.core.line.applications import APPLICATIONS
from mainspring.core.line.fields import Field
from mainspring.core.method import METHODS, Figure, Method, Parameter, find_method, given, register_all
from mainspring.core.quantity import DIMENSIONS
from mainspring.core.systems import SYSTEMS, UnitSystem
from mainspring.core.working import pretty, working_of
from mainspring.service.present import present
from mainspring.service.working import WorkingView, working_view

register_all()


class UnitView(BaseModel):
    """A unit: SI value = shown * factor + offset."""

    symbol: str
    factor: float
    offset: float
    aliases: list[str]
    decimals: int


class DimensionView(BaseModel):
    """A kind of quantity."""

    id: str
    units: list[UnitView]
    si: str
    digits: int
    coarse: str


class ColumnView(BaseModel):
    """A column of a table field."""

    name: str
    label: str
    dimension: str


class FieldView(BaseModel):
    """A field of the record."""

    path: str
    name: str
    label: str
    kind: str
    tab: str
    help: str
    provenance: str
    dimension: str | None = None
    twin: str = ""
    usual: float | None = None
    choices: dict[str, str] = {}
    columns: list[ColumnView] = []
    when: list[str] = []
    more: bool = False
    goes_with: list[str] | None = None
    none: str = ""


class GroupView(BaseModel):
    """A station or other group of fields."""

    id: str
    label: str
    station: bool
    fields: list[FieldView]


class ApplicationView(BaseModel):
    """What a line can be for, in one sentence."""

    id: str
    label: str
    does: str


class Catalogue(BaseModel):
    """Units, fields and applications, as core declares them."""

    systems: list[UnitSystem]
    dimensions: list[DimensionView]
    groups: list[GroupView]
    applications: list[ApplicationView]


class MethodParameterView(BaseModel):
    """One input of a method."""

    name: str
    symbol: str
    dimension: str | None
    unit: str
    required: bool
    default: float | str | None
    many: bool
    text: bool
    says: str  # what it is, as the signature has it
    bounds: str  # in every unit system; empty where there are none


class MethodView(BaseModel):
    """A method, for the Methods screen and the calculator."""

    id: str
    title: str
    topic: str
    formula: str
    words: bool
    source: str
    source_kind: str
    dimension: str | None
    parameters: list[MethodParameterView]


class CalculationView(BaseModel):
    """The result of a method run on its own."""

    values: dict[str, float]
    working: WorkingView | None


def catalogue() -> Catalogue:
    """Units and fields."""
    return Catalogue(
        systems=list(SYSTEMS.values()),
        dimensions=[
            present(
                None,
                DimensionView,
                d,
                units=[
                    UnitView(
                        symbol=u.symbol, factor=u.factor, offset=u.offset, aliases=list(u.aliases), decimals=u.decimals
                    )
                    for u in d.units
                ],
            )
            for d in DIMENSIONS.values()
        ],
        groups=[
            GroupView(id=g.id, label=g.label, station=g in STATIONS, fields=[_field(f) for f in g.fields.values()])
            for g in GROUPS.values()
        ],
        applications=[ApplicationView(id=a.id, label=a.label, does=a.does) for a in APPLICATIONS.values()],
    )


def _field(field: Field) -> FieldView:
    return present(
        None,
        FieldView,
        field,
        dimension=field.dimension if isinstance(field, Quantity) else None,
        twin=field.twin if isinstance(field, Quantity) else "",
        usual=field.usual if isinstance(field, Quantity) else None,
        choices=dict(field.choices) if isinstance(field, (Choice, Flags)) else {},
        goes_with=None if field.goes_with is None else list(field.goes_with),
        none=field.none if isinstance(field, Flags) else "",
        columns=[ColumnView(name=c.name, label=c.label, dimension=c.dimension) for c in field.columns]
        if isinstance(field, Points)
        else [],
    )


def methods() -> list[MethodView]:
    """Every method, by topic."""
    return [_method(m) for m in sorted(METHODS.values(), key=lambda m: (m.topic, m.id))]


def _method(method: Method) -> MethodView:
    return present(
        None,
        MethodView,
        method,
        formula=method.formula if method.words else pretty(method.formula),
        source=str(method.source),
        source_kind=method.source.kind,
        parameters=[_parameter(p) for p in method.parameters],
    )


def _parameter(parameter: Parameter) -> MethodParameterView:
    dimension = DIMENSIONS[parameter.dimension] if parameter.dimension else None
    default = None if parameter.required else parameter.default
    return present(
        None,
        MethodParameterView,
        parameter,
        symbol=pretty(parameter.symbol),
        unit="" if dimension is None else dimension.core.symbol,
        default=default,
        says=parameter.told.text,
        bounds=parameter.told.allowed(parameter.dimension),
    )


def calculate(method_id: str, inputs: dict[str, str]) -> CalculationView:
    """Run a method on inputs as typed, each with or without a unit; sequences are separated by semicolons.

    Raises UnknownMethod, and BadEntry for an input that is missing, unknown or not readable.
    """
    method = find_method(method_id)
    allowed = {p.name: p for p in method.parameters} | {p.symbol: p for p in method.parameters}
    values: dict[str, Any] = {}
    for name, text in inputs.items():
        if name not in allowed:
            raise BadEntry("input", name, ", ".join(p.name for p in method.parameters))
        parameter = allowed[name]
        if parameter.name in values:
            raise BadEntry("input", name, f"{parameter.name} once, not twice")
        values[parameter.name] = _read(parameter, text)
    missing = [p.name for p in method.parameters if p.required and p.name not in values]
    if missing:
        raise BadEntry("inputs", ", ".join(inputs) or "none", f"also {', '.join(missing)}")
    made = method(**values)
    figures = made if isinstance(made, tuple) else (made,)
    parts = list(method.parts) or [method.id]
    first = next((f for f in figures if isinstance(f, Figure)), None)
    return CalculationView(
        values={n: float(f) for n, f in zip(parts, figures, strict=True)},
        working=None if first is None else working_view(working_of(first)),
    )


def _read(parameter: Parameter, text: str) -> Any:
    if parameter.text:
        return text
    dimension = DIMENSIONS[parameter.dimension or "count"]
    if parameter.many:
        pieces = [t.strip() for t in text.split(";")]
        units = list(dict.fromkeys(u for t in pieces if (u := t.lstrip("+-0123456789.,eE \u202f\u00a0"))))
        of_all = units[0] if len(units) == 1 else None  # one unit in a list is that of all
        return tuple(
            given(f"{parameter.name}_{i + 1}", dimension.parse(t, parameter.name, of_all), parameter.dimension)
            for i, t in enumerate(pieces)
        )
    return given(parameter.name, dimension.parse(text, parameter.name), parameter.dimension)
