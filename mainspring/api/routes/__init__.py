"""Routes by subject. A route translates: a body in, one call of a service, an answer out."""

from collections.abc import Callable
from typing import Any

from fastapi import Request, Response
from pydantic import BaseModel

from mainspring.api import errors
from mainspring.api.schemas import Id
from mainspring.service.opened import Opened, OpenLines

__all__ = ["JSON", "READS", "WRITES", "Id", "as_it_stands", "of_line", "problems"]

JSON = "application/json"


def problems(*statuses: int) -> dict[int | str, dict[str, Any]]:
    """The problem details that a route can answer with, beside those that any can."""
    described: dict[str, Any] = {"model": errors.Problem}
    return dict.fromkeys(statuses, described)


READS = problems(404)
WRITES = problems(404, 409)


def as_it_stands(request: Request, mark: str, make: Any) -> Response:
    """An answer that holds until the mark moves: 304 where the asker has it already."""
    tag = f'"{request.app.state.version}-{mark}"'
    headers = {"ETag": tag, "Cache-Control": "private, no-cache"}
    if tag in request.headers.get("if-none-match", ""):
        return Response(status_code=304, headers=headers)
    made = make()
    if isinstance(made, list):
        content = b"[" + b",".join(m.model_dump_json().encode() for m in made) + b"]"
    else:
        content = made.model_dump_json().encode() if isinstance(made, BaseModel) else made
    return Response(content, media_type=JSON, headers=headers)


def of_line(request: Request, lines: OpenLines, line_id: str, make: Callable[[Opened], Any]) -> Response:
    """What is shown of a line, for as long as the line stands as it does."""
    head = lines.head(line_id)
    return as_it_stands(request, head.mark, lambda: make(lines.open(line_id, head)))
