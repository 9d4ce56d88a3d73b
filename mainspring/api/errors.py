"""Errors as problem details (RFC 9457), in words a technician understands."""

import csv
import json
from collections.abc import Callable, Mapping
from typing import Any, TypeVar

from fastapi import FastAPI, Request
from fastapi.exceptions import RequestValidationError
from fastapi.responses import JSONResponse
from pydantic import BaseModel
from starlette.exceptions import HTTPException

from mainspring.core.errors import BadEntry, MainspringError, UnknownMethod
from mainspring.core.procedure import Held
from mainspring.core.systems import SYSTEMS, USUAL
from mainspring.core.told import told
from mainspring.service.errors import (
    BadRecord,
    FamilyBetween,
    InUse,
    KeptBetween,
    KeyUnusable,
    SetBetween,
    UnknownFigure,
)
from mainspring.service.views import ProblemView, problem_view
from mainspring.store.errors import NotFound, StoreUnavailable
from mainspring.store.repository import Conflict, IdTaken, Overtaken, SiteConflict

MEDIA = "application/problem+json"
T = TypeVar("T")


class Problem(BaseModel):
    """What went wrong; `errors` name the field, the value and what is allowed."""

    title: str
    status: int
    detail: str
    errors: list[ProblemView] = []
    current: dict[str, Any] | None = None


def units_of(request: Request) -> str:
    """The unit system in which the asker reads: its header X-Units, SI where it sends none that is known."""
    asked = request.headers.get("X-Units", USUAL)
    return asked if asked in SYSTEMS else USUAL


def problem_response(
    status: int,
    title: str,
    detail: str,
    errors: list[ProblemView] | None = None,
    current: dict[str, Any] | None = None,
    units: str = USUAL,
) -> JSONResponse:
    """Problem details as a response, its numbers in a unit system."""
    problem = Problem(title=title, status=status, detail=detail, errors=errors or [], current=current)
    return ProblemResponse(problem.model_dump(), status, units)


class ProblemResponse(JSONResponse):
    """Problem details; they quote what was sent, be it half a character."""

    media_type = MEDIA

    def __init__(self, content: Any, status: int, units: str) -> None:
        self.units = units
        super().__init__(content, status)

    def render(self, content: Any) -> bytes:
        """JSON in which what cannot be written stands escaped."""
        text = told(json.dumps(content, ensure_ascii=False, separators=(",", ":")), self.units)
        return text.encode("utf-8", "backslashreplace")


# errors that say all there is to say: the status, and what went wrong in general
SAID: dict[type[Exception], tuple[int, str]] = {
    MainspringError: (422, "There is no answer for these numbers"),
    UnknownMethod: (404, "No such method"),
    NotFound: (404, "Not found"),
    UnknownFigure: (404, "Not found"),
    Held: (409, "This step is held"),
    InUse: (409, "Something rests on it"),
    IdTaken: (409, "The id is taken"),
    KeyUnusable: (503, "The key of the access codes cannot be used"),
    StoreUnavailable: (503, "The database does not answer"),
}
# errors told in other words than their own
TOLD: dict[type[Exception], tuple[int, str, str]] = {
    Overtaken: (503, "Too many at once", "too many write at once; nothing was kept, try again"),
    csv.Error: (422, "The file was not understood", "a cell without end, or a lone line end: save it as plain CSV"),
    OverflowError: (422, "The request was not understood", "a number is too large to be read"),
    UnicodeEncodeError: (422, "The request was not understood", "a text holds half of a character"),
}


def install(app: FastAPI) -> None:
    """Register a handler for every error that can leave a service."""
    for kind in SAID:
        app.exception_handler(kind)(_said)
    for kind in TOLD:
        app.exception_handler(kind)(_in_general)
    for kind in CURRENT:
        app.exception_handler(kind)(_between)
    app.exception_handler(BadRecord)(_bad_record)
    app.exception_handler(BadEntry)(_bad_entry)
    app.exception_handler(RequestValidationError)(_not_understood)
    app.exception_handler(HTTPException)(_plain)


def _of(table: Mapping[type[Exception], T], error: Exception) -> T:
    return next(table[kind] for kind in type(error).__mro__ if kind in table)


def _both(error: BaseException) -> str:
    """What an error says, with its numbers in both unit systems where it has any."""
    return str(getattr(error, "tellings", error))


def said(error: BaseException, units: str) -> str:
    """What an error says to a person in a unit system; one that is ours alone is raised."""
    if isinstance(error, (*SAID, BadRecord)):
        return told(_both(error), units)
    for kind, (_, _, words) in TOLD.items():
        if isinstance(error, kind):
            return words
    raise error


def _said(request: Request, error: Exception) -> JSONResponse:
    return problem_response(*_of(SAID, error), _both(error), units=units_of(request))


def _in_general(_: Request, error: Exception) -> JSONResponse:
    return problem_response(*_of(TOLD, error))


def _version(error: Conflict) -> dict[str, Any]:
    kept = error.current
    return {"revision": kept.revision, "tag": kept.tag, "title": kept.title, "record": kept.record}


def _site_version(error: SiteConflict) -> dict[str, Any]:
    kept = error.current
    return {"revision": kept.revision, "name": kept.name, "units": kept.units, "entries": kept.entries}


def _evidence(error: KeptBetween) -> dict[str, Any]:
    return {"evidence": [e.model_dump(mode="json") for e in error.theirs]}


def _setting(error: SetBetween) -> dict[str, Any]:
    return {"value": error.value, "by": error.by}


# somebody was in between: what went wrong in general, and what stands there now
CURRENT: dict[type[Exception], tuple[str, Callable[[Any], dict[str, Any]]]] = {
    Conflict: ("Somebody else saved in between", _version),
    SiteConflict: ("Somebody else saved in between", _site_version),
    KeptBetween: ("Somebody else kept this step", _evidence),
    SetBetween: ("Somebody else entered this", _setting),
    FamilyBetween: ("Somebody else saved this family", lambda error: {"by": error.by}),
}


def _between(request: Request, error: Exception) -> JSONResponse:
    title, current = _of(CURRENT, error)
    return problem_response(409, title, _both(error), current=current(error), units=units_of(request))


def _bad_record(request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, BadRecord)
    problems = [problem_view(path, problem) for path, problem in error.problems.items()]
    return problem_response(422, "Some entries cannot be taken", error.tellings, problems, units=units_of(request))


def _bad_entry(request: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, BadEntry)
    problems = [problem_view(error.field, error)]
    return problem_response(422, "An entry cannot be taken", error.tellings, problems, units=units_of(request))


def _not_understood(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, RequestValidationError)
    problems = []
    for wrong in error.errors():
        field = ".".join(str(p) for p in wrong["loc"][1:])
        said = f"{field or 'request'}: {wrong['msg']}"
        value = "not shown" if SECRET.intersection(map(str, wrong["loc"])) else _quoted(wrong.get("input"))
        problems.append(ProblemView(field=field, value=value, allowed=wrong["msg"], message=said))
    detail = "; ".join(p.message for p in problems)[:2000]
    return problem_response(422, "The request was not understood", detail, problems)


# parts of a body that a refusal never quotes
SECRET = {"code"}


def _quoted(sent: Any) -> str:
    """What was sent, short, and without its secrets where it is a whole body."""
    if isinstance(sent, dict):
        sent = {k: "not shown" if k in SECRET else v for k, v in sent.items()}
    try:
        return str(sent)[:200]
    except ValueError:  # a whole number of more digits than Python writes
        return "a number too long to tell"


def _plain(_: Request, error: Exception) -> JSONResponse:
    assert isinstance(error, HTTPException)
    answer = problem_response(error.status_code, "Not possible", str(error.detail))
    answer.headers.update(error.headers or {})
    return answer
