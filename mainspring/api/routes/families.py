"""Families of drives, and a line's sheet at the keypad of its own."""

from typing import Literal

import anyio
from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Field

from mainspring.api import schemas
from mainspring.api.routes import JSON, READS, WRITES, Id, of_line, problems
from mainspring.api.routes.files import download
from mainspring.core.diagnosis.trips import TRIPS
from mainspring.core.families import KEYS, Family
from mainspring.core.families.pasted import ROLES, search_settings
from mainspring.core.settings import SETTINGS
from mainspring.exchange.family_file import write_family
from mainspring.service.codes import CodeView
from mainspring.service.families import ChangeView, FamilySummary, FamilyView, PastedView, TriedView
from mainspring.service.keypad import KeypadView
from mainspring.service.present import present
from mainspring.service.service import Service

FamilyId = schemas.FamilyId


class WordView(BaseModel):
    """A setting of the dictionary."""

    id: str
    group: str
    label: str
    definition: str
    dimension: str | None
    choices: dict[str, str]
    wrong: str
    derived: str  # by what its value is proposed
    also: list[str]
    low: float | None
    high: float | None


class DictionaryView(BaseModel):
    """What every setting is, what a column of a pasted table may be, and what a family says of its keys."""

    settings: list[WordView]
    roles: list[str]
    keys: dict[str, str]
    trips: dict[str, str]


class SavedFamily(schemas.Body):
    """A family as somebody made it, over the revision that they saw."""

    revision: int = Field(ge=0)
    family: Family
    by: schemas.By


class Tried(schemas.Body):
    """A draft of a family, and a line to try it on."""

    family: Family
    line_id: schemas.Id | None = None


class Pasted(schemas.Body):
    """A table from a manual."""

    text: str = Field(max_length=1_000_000)
    roles: list[str] | None = Field(None, max_length=30)


class ReadBack(schemas.Body):
    """What stands on the display, before anything was set or after; `seen` is what its maker saw there."""

    moment: Literal["found", "left"] = "left"
    language: schemas.Language = ""
    text: str = Field(max_length=200)
    seen: float | str | None = None
    by: schemas.By


class Code(schemas.Body):
    """The access code of a drive; empty to take it away."""

    code: str = Field(max_length=500)
    by: schemas.By


class Asked(schemas.Body):
    """Who asks for a code, and why; the story tells it."""

    why: str = Field(max_length=500)
    by: schemas.By


def routes(service: Service) -> APIRouter:
    """Routes of families and keypads."""
    router = APIRouter(prefix="/api")
    families = service.families

    @router.get("/dictionary")
    def get_dictionary() -> DictionaryView:
        return DictionaryView(settings=[_word(id) for id in SETTINGS], roles=list(ROLES), keys=KEYS, trips=TRIPS)

    @router.get("/dictionary/search")
    def search_dictionary(text: str) -> list[str]:
        return search_settings(text[:100])

    @router.get("/families")
    def get_families() -> list[FamilySummary]:
        return families.all()

    @router.get("/families/{family_id}", responses=READS)
    def get_family(family_id: FamilyId) -> FamilyView:
        return families.view(family_id)

    @router.put("/families/{family_id}", responses=WRITES)
    def save_family(family_id: FamilyId, body: SavedFamily) -> FamilyView:
        return families.put(family_id, body.revision, body.family, body.by)

    @router.get("/families/{family_id}/differences", responses=READS)
    def family_differences(family_id: FamilyId, other: str) -> list[ChangeView]:
        return families.differences(family_id, other)

    @router.get("/families/{family_id}/file", response_class=Response, responses=READS)
    def family_file(family_id: FamilyId, kind: Literal["json", "csv"] = "json") -> Response:
        families.view(family_id)
        if kind == "csv":
            return download(families.csv(family_id).encode(), "text/csv; charset=utf-8", family_id, "csv")
        return download(write_family(families.of(family_id)).encode(), JSON, family_id, "json")

    @router.post("/families/file", responses=problems())
    async def take_in_family(request: Request, into: str = "") -> Family:
        content = await request.body()
        made: Family = await anyio.to_thread.run_sync(families.take_in, content, into)
        return made

    @router.post("/families/try", responses=READS)
    def try_family(body: Tried) -> TriedView:
        return families.tried(body.family, body.line_id)

    @router.post("/families/paste", responses=problems())
    def paste_table(body: Pasted) -> PastedView:
        return families.pasted(body.text, body.roles)

    @router.get("/lines/{line_id}/keypad", response_model=KeypadView, responses=READS)
    def get_keypad(request: Request, line_id: Id, language: schemas.Language = "") -> Response:
        return of_line(request, service.open_lines, line_id, lambda line: service.keypads.view(line, language))

    @router.put("/lines/{line_id}/keypad/{setting}", responses=WRITES)
    def read_back(line_id: Id, setting: str, body: ReadBack) -> KeypadView:
        return service.keypads.put(line_id, setting, body.moment, body.text, body.seen, body.by, body.language)

    @router.get("/lines/{line_id}/code", responses=READS)
    def get_code(line_id: Id) -> CodeView:
        return service.codes.view(line_id)

    @router.put("/lines/{line_id}/code", responses=WRITES)
    def keep_code(line_id: Id, body: Code) -> CodeView:
        return service.codes.put(line_id, body.code, body.by)

    @router.post("/lines/{line_id}/code/show", responses=WRITES)
    def show_code(line_id: Id, body: Asked) -> CodeView:
        return service.codes.show(line_id, body.by, body.why)

    return router


def _word(id: str) -> WordView:
    setting = SETTINGS[id]
    return present(
        None, WordView, setting, id=id, definition=setting.means, derived=(setting.plan.__doc__ or "").strip()
    )
