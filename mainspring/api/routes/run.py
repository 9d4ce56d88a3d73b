"""The run sheet and its visits, the settings sheet, and photos."""

from typing import Literal
from uuid import UUID

from fastapi import APIRouter, Request, Response

from mainspring.api import schemas
from mainspring.api.routes import JSON, READS, WRITES, Id, of_line
from mainspring.core.procedure import Instrument
from mainspring.service.photo import PhotoView
from mainspring.service.run import Entry, run_json
from mainspring.service.service import Service
from mainspring.service.sheet import ANYTHING, sheet_view
from mainspring.service.views import InstrumentView, KeptView, RunView, SheetView


def _tool(view: InstrumentView) -> Instrument:
    return Instrument.from_data({"name": view.name, "due": None if view.due is None else view.due.isoformat()})


def routes(service: Service) -> APIRouter:
    """Routes of what is done at a line."""
    router = APIRouter(prefix="/api/lines/{line_id}")
    opened = service.open_lines

    @router.get("/run", response_model=RunView, responses=READS)
    def get_run(request: Request, line_id: Id) -> Response:
        return of_line(request, opened, line_id, run_json)

    @router.post("/evidence", status_code=201, response_model=KeptView, responses=WRITES)
    def add_evidence(line_id: Id, body: schemas.NewEvidence) -> Response:
        entry = Entry(
            id=str(body.id),
            step=body.step,
            kind=body.kind,
            data=body.data,
            by=body.by,
            note=body.note,
            at=body.at,
            paper=body.paper,
            instrument=None if body.instrument is None else _tool(body.instrument),
            seen=None if body.seen is None else tuple(body.seen),
            sheet=body.sheet,
            device="" if body.running is None else str(body.running.device),
            ran=0.0 if body.running is None else body.running.ran,
        )
        return Response(service.run.keep(line_id, entry), 201, media_type=JSON)

    @router.put("/visits/{visit_id}", response_model=KeptView, responses=WRITES)
    def put_visit(line_id: Id, visit_id: UUID, body: schemas.VisitEntry) -> Response:
        mine, seen = ([_tool(i) for i in some] for some in (body.instruments, body.seen))
        kept = service.run.put_visit(line_id, str(visit_id), body.by, body.purpose, mine, seen, body.note, body.closed)
        return Response(kept, media_type=JSON)

    @router.get("/settings", response_model=SheetView, responses=READS)
    def get_settings(request: Request, line_id: Id) -> Response:
        return of_line(request, opened, line_id, lambda line: sheet_view(line)[0])

    @router.put("/settings/{setting}/{moment}", responses=WRITES)
    def put_setting(
        line_id: Id, setting: str, moment: Literal["found", "decided", "left"], body: schemas.SettingValue
    ) -> SheetView:
        seen = body.seen if "seen" in body.model_fields_set else ANYTHING
        return service.sheets.put(line_id, setting, moment, body.value, body.by, seen, body.why)

    @router.post("/settings/take-plan", responses=WRITES)
    def take_plan(line_id: Id, body: schemas.Who) -> SheetView:
        return service.sheets.take_plan(line_id, body.by)

    @router.get("/photos", response_model=list[PhotoView], responses=READS)
    def get_photos(request: Request, line_id: Id) -> Response:
        return of_line(request, opened, line_id, lambda line: service.photos.view(line.kept.id))

    @router.get("/photos/{photo_id}", response_class=Response, responses=READS)
    def get_photo(line_id: Id, photo_id: Id) -> Response:
        lasting = {"Cache-Control": "private, max-age=31536000, immutable"}
        return Response(service.photos.picture(line_id, photo_id), media_type="image/jpeg", headers=lasting)

    @router.delete("/photos/{photo_id}", responses=WRITES)
    def remove_photo(line_id: Id, photo_id: Id, by: schemas.By) -> list[PhotoView]:
        return service.photos.remove(line_id, photo_id, by)

    return router
