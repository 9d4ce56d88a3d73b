"""Rows of a table as the frozen dataclass that it keeps, by the names of its fields: a new field is a new column."""

from collections.abc import Callable, Sequence
from dataclasses import MISSING, Field, dataclass, fields, is_dataclass
from functools import cached_property
from types import NoneType
from typing import Any, Generic, TypeVar, get_args, get_type_hints

from peewee import Field as Column
from pydantic import TypeAdapter

from mainspring.store.models import JsonField, Table

T = TypeVar("T")
Back = Callable[[Sequence[Any]], Any]  # from the columns of a field to what it holds


class Rows(Generic[T]):
    """How a dataclass stands in a table.

    A field is the column of its name. One that holds a dataclass is JSON where there is a column of its name, else the
    columns that begin with its name, of which the first is null where there is none. Raises TypeError for a field
    without a column.
    """

    def __init__(self, table: type[Table], shape: type[T]) -> None:
        self.table, self.shape = table, shape

    @cached_property
    def _parts(self) -> list["_Part"]:
        hints = get_type_hints(self.shape)
        return [self._part(f, hints[f.name]) for f in fields(self.shape)]  # type: ignore[arg-type] # a dataclass

    def _part(self, field: "Field[Any]", hint: Any) -> "_Part":
        column = self.table._meta.combined.get(field.name)
        if column is not None and isinstance(column, JsonField) and (inner := _dataclass_in(hint)) is not None:
            return _Part(field.name, (column,), *_as_json(hint))
        if column is not None:
            return _Part(field.name, (column,), lambda value: (value,), None)
        inner = _dataclass_in(hint)
        if inner is None:
            raise TypeError(f"{self.table.__name__} has no column for {self.shape.__name__}.{field.name}")
        return self._spread(field.name, inner)

    def _spread(self, name: str, inner: type[Any]) -> "_Part":
        parts = fields(inner)
        missing = [p.name for p in parts if f"{name}_{p.name}" not in self.table._meta.combined]
        if missing:
            raise TypeError(f"{self.table.__name__} has no column for {self.shape.__name__}.{name}.{missing[0]}")
        columns = tuple(self.table._meta.combined[f"{name}_{p.name}"] for p in parts)
        none = tuple(None if c.null else c.default for c in columns)

        def back(values: Sequence[Any]) -> Any:
            if values[0] is None:
                return None
            known = {p.name: v for p, v in zip(parts, values, strict=True) if v is not None or p.default is MISSING}
            return inner(**known)

        def out(value: Any) -> tuple[Any, ...]:
            return none if value is None else tuple(getattr(value, p.name) for p in parts)

        return _Part(name, columns, out, back)

    @cached_property
    def columns(self) -> tuple[Column, ...]:
        """The columns that are read, in the order of the fields."""
        return tuple(column for part in self._parts for column in part.columns)

    def select(self) -> Any:
        """A query for them."""
        return self.table.select(*self.columns)

    def all(self, query: Any) -> list[T]:
        """What a query that `select` began has found."""
        return [self._read(row) for row in query.tuples()]

    def first(self, query: Any) -> T | None:
        """The first that it has found."""
        row = query.tuples().first()
        return None if row is None else self._read(row)

    def _read(self, row: Sequence[Any]) -> T:
        made = list(row)
        for at, width, back in self._made:
            made[at : at + width] = [back(row[at : at + width])]
        return self.shape(*made)

    @cached_property
    def _made(self) -> list[tuple[int, int, Back]]:
        """The fields that are not what stands in their column: where their columns begin, how many, and what is made.

        The last comes first, so that what is made of it moves none of the others.
        """
        found, at = [], 0
        for part in self._parts:
            if part.back is not None:
                found.append((at, len(part.columns), part.back))
            at += len(part.columns)
        return found[::-1]

    def values(self, made: T) -> dict[str, Any]:
        """The columns of one, by the names that a query takes."""
        found: dict[str, Any] = {}
        for part in self._parts:
            found.update(zip((c.name for c in part.columns), part.out(getattr(made, part.name)), strict=True))
        return found


@dataclass(frozen=True)
class _Part:
    """One field: its columns, and the way there and back; none back where the column holds the very value."""

    name: str
    columns: tuple[Column, ...]
    out: Callable[[Any], tuple[Any, ...]]
    back: Back | None


def _dataclass_in(hint: Any) -> type[Any] | None:
    """The dataclass that a hint is, or holds: of one or none, or of several."""
    if is_dataclass(hint):
        return hint if isinstance(hint, type) else None
    return next((found for a in get_args(hint) if a is not NoneType and (found := _dataclass_in(a))), None)


def _as_json(hint: Any) -> tuple[Callable[[Any], tuple[Any, ...]], Back]:
    adapter = TypeAdapter(hint)
    return (
        lambda value: (adapter.dump_python(value, mode="json", exclude_none=True),),
        lambda values: adapter.validate_python(values[0]),
    )
