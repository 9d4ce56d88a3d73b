"""The working of a figure for the screen: formula, values put in, source, and the steps it rests on."""

from pydantic import BaseModel

from mainspring.core.working import Working
from mainspring.service.present import present


class WorkingInputView(BaseModel):
    """A value put in."""

    symbol: str
    name: str
    value: float | str | list[float] | None
    dimension: str | None
    step: "WorkingView | None" = None
    steps: "list[WorkingView]" = []


class PutInView(BaseModel):
    """A piece of a formula with its values put in: text, or a value, which may have to be told in one unit."""

    text: str | None = None
    value: float = 0.0
    dimension: str | None = None
    unit: str = ""


class WorkingView(BaseModel):
    """One step of a calculation sheet."""

    title: str
    symbol: str
    value: float
    dimension: str | None
    number: int
    again: bool
    formula: str
    substituted: list[PutInView]
    source: str
    source_kind: str
    method_id: str
    provenance: str
    field: str
    why: str
    inputs: list[WorkingInputView]
    assumptions: list[str]


def working_view(working: Working) -> WorkingView:
    """A calculation sheet for the screen."""
    return present(
        None,
        WorkingView,
        working,
        substituted=[
            PutInView(text=p) if isinstance(p, str) else PutInView(value=p.value, dimension=p.dimension, unit=p.unit)
            for p in working.substituted
        ],
        inputs=[
            WorkingInputView(
                symbol=i.symbol,
                name=i.name,
                value=i.value,
                dimension=i.dimension,
                step=None if i.step is None else working_view(i.step),
                steps=[working_view(s) for s in i.steps],
            )
            for i in working.inputs
        ],
    )
