"""The one presenter: a value of core as a screen, a page or the command line shows it, field by field of its view.

A view says by its types how each field of the same name is shown: a figure gets its key and its working, a sentence is
told in parts, a value of core inside it is shown by its own view. What has another name or is worked out is handed in.
"""

from collections.abc import Mapping
from functools import cache
from types import UnionType
from typing import Any, Protocol, TypeVar, Union, get_args, get_origin

from pydantic import BaseModel

from mainspring.core.method import Figure
from mainspring.core.sentence import Sentence
from mainspring.service.keys import Key

V = TypeVar("V", bound=BaseModel)


class Keys(Protocol):
    """What hands out keys to figures while a view is built."""

    def figure(self, key: Key, figure: Figure) -> Any:
        """A figure under a key."""

    def sentence(self, key: Key, sentence: Sentence | None) -> Any:
        """A sentence whose figures have theirs."""


def present(keys: Keys | None, view: type[V], value: object, key: Key | None = None, /, **more: object) -> V:
    """The view of a value, its figures under a key and their names; `more` are the fields that are not taken as are.

    Raises AttributeError for a field without a usual value that the value has not and nobody handed in.
    """
    found = dict(more)
    for name, inner, usual, many in _plan(view):
        if name not in found and not (usual and not hasattr(value, name)):
            shown = _shown(keys, inner, getattr(value, name), None if key is None else key / name)
            found[name] = [] if shown is None and many else shown  # a sentence that there is not
    return view(**found)


def _shown(keys: Keys | None, inner: type[BaseModel] | None, value: object, key: Key | None) -> object:
    if isinstance(value, Figure):
        if inner is None:
            return float(value)
        assert keys is not None
        assert key is not None
        return keys.figure(key, value)
    if isinstance(value, Sentence):
        assert keys is not None
        assert key is not None
        return keys.sentence(key, value)
    if value is None or inner is None:
        return dict(value) if isinstance(value, Mapping) else value
    if isinstance(value, Mapping):
        return {n: _shown(keys, inner, v, None if key is None else key / n) for n, v in value.items()}
    if isinstance(value, (list, tuple)):
        return [_shown(keys, inner, v, None if key is None else key / i) for i, v in enumerate(value)]
    return value if isinstance(value, inner) else present(keys, inner, value, key)


@cache
def _plan(view: type[BaseModel]) -> tuple[tuple[str, type[BaseModel] | None, bool, bool], ...]:
    """The fields of a view, the view of what is inside each, whether it has a usual value, and whether it is a list."""
    return tuple(
        (name, _inner(f.annotation), not f.is_required(), get_origin(f.annotation) is list)
        for name, f in view.model_fields.items()
    )


def _inner(annotation: Any) -> type[BaseModel] | None:
    if isinstance(annotation, type) and issubclass(annotation, BaseModel):
        return annotation
    if get_origin(annotation) in (Union, UnionType, list, tuple, dict):
        return next((found for part in get_args(annotation) if (found := _inner(part))), None)
    return None
