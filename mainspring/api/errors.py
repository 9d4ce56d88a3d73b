"""Errors as problem details (RFC 9457), in words a technician understands."""

import json
from typing import Any

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from mainspring.core.errors import BadEntry, MainspringError, UnknownMethod
from mainspring.core.procedure import Held
from mainspring.service.errors import BadRecord, InUse, KeptBetween, SetBetween, UnknownFigure
from mainspring.service.views import ProblemView, problem_view
from mainspring.store.database import StoreUnavailable
from mainspring.store.repository import Conflict, IdTaken, NotFound, Overtaken, SiteConflict

MEDIA = "application/problem+json"


class Problem(BaseModel):
    """What went wrong; `errors` name the field, the value and what is allowed."""

    title: str
    status: int
    detail: str
    errors: list[ProblemView] = []
    current: dict[str, Any] | None = None


def problem_response(
    status: int, title: str, detail: str, errors: list[ProblemView] | None = None, current: dict[str, Any] | None = None
) -> JSONResponse:
    """Problem details as a response."""
    problem = Problem(title=title, status=status, detail=detail, errors=errors or [], current=current)
    return ProblemResponse(problem.model_dump(), status, media_type=MEDIA)


class ProblemResponse(JSONResponse):
    """Problem details; they quote what was sent, be it half a character."""

    def render(self, content: Any) -> bytes:
        """JSON in which what cannot be written stands escaped."""
        return json.dumps(content, ensure_ascii=False, separators=(",", ":")).encode("utf-8", "backslashreplace")


def install(app: FastAPI) -> None:
    """Register a handler for every error that can leave a service."""

    @app.exception_handler(BadRecord)
    def bad_record(_: Request, error: BadRecord) -> JSONResponse:
        return problem_response(
            422, "Some entries cannot be taken", str(error), [problem_view(p, e) for p, e in error.problems.items()]
        )

    @app.exception_handler(BadEntry)
    def bad_entry(_: Request, error: BadEntry) -> JSONResponse:
        return problem_response(422, "An entry cannot be taken", str(error), [problem_view(error.field, error)])

    @app.exception_handler(MainspringError)
    def no_answer(_: Request, error: MainspringError) -> JSONResponse:
        return problem_response(422, "There is no answer for these numbers", str(error))

    @app.exception_handler(UnknownMethod)
    def unknown_method(_: Request, error: UnknownMethod) -> JSONResponse:
        return problem_response(404, "No such method", str(error))

    @app.exception_handler(Held)
    def held(_: Request, error: Held) -> JSONResponse:
        return problem_response(409, "This step is held", str(error))

    @app.exception_handler(Conflict)
    def conflict(_: Request, error: Conflict) -> JSONResponse:
        kept = error.current
        current = {"revision": kept.revision, "tag": kept.tag, "title": kept.title, "record": kept.record}
        return problem_response(409, "Somebody else saved in between", str(error), current=current)

    @app.exception_handler(SiteConflict)
    def site_conflict(_: Request, error: SiteConflict) -> JSONResponse:
        kept = error.current
        current = {"revision": kept.revision, "name": kept.name, "units": kept.units, "entries": kept.entries}
        return problem_response(409, "Somebody else saved in between", str(error), current=current)

    @app.exception_handler(KeptBetween)
    def kept_between(_: Request, error: KeptBetween) -> JSONResponse:
        theirs = [e.model_dump(mode="json") for e in error.theirs]
        return problem_response(409, "Somebody else kept this step", str(error), current={"evidence": theirs})

    @app.exception_handler(SetBetween)
    def set_between(_: Request, error: SetBetween) -> JSONResponse:
        current = {"value": error.value, "by": error.by}
        return problem_response(409, "Somebody else entered this", str(error), current=current)

    @app.exception_handler(InUse)
    def in_use(_: Request, error: InUse) -> JSONResponse:
        return problem_response(409, "Something rests on it", str(error))

    @app.exception_handler(Overtaken)
    def overtaken(_: Request, __: Overtaken) -> JSONResponse:
        return problem_response(503, "Too many at once", "too many write at once; nothing was kept, try again")

    @app.exception_handler(UnicodeEncodeError)
    def half_a_character(_: Request, __: UnicodeEncodeError) -> JSONResponse:
        return problem_response(422, "The request was not understood", "a text holds half of a character")

    @app.exception_handler(NotFound)
    @app.exception_handler(UnknownFigure)
    def not_found(_: Request, error: Exception) -> JSONResponse:
        return problem_response(404, "Not found", str(error))

    @app.exception_handler(IdTaken)
    def id_taken(_: Request, error: IdTaken) -> JSONResponse:
        return problem_response(409, "The id is taken", str(error))

    @app.exception_handler(StoreUnavailable)
    def unavailable(_: Request, error: StoreUnavailable) -> JSONResponse:
        return problem_response(503, "The database does not answer", str(error))

    @app.exception_handler(RequestValidationError)
    def not_understood(_: Request, error: RequestValidationError) -> JSONResponse:
        errors = [
            ProblemView(
                field=".".join(str(p) for p in e["loc"][1:]),
                value=str(e.get("input"))[:200],
                allowed=e["msg"],
                message=f"{'.'.join(str(p) for p in e['loc'][1:]) or 'request'}: {e['msg']}",
            )
            for e in error.errors()
        ]
        detail = "; ".join(e.message for e in errors)[:2000]
        return problem_response(422, "The request was not understood", detail, errors)

    @app.exception_handler(HTTPException)
    def plain(_: Request, error: HTTPException) -> JSONResponse:
        answer = problem_response(error.status_code, "Not possible", str(error.detail))
        answer.headers.update(error.headers or {})
        return answer
