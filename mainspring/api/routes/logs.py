"""Logs of a line, and the saving that they carry."""

import json
from typing import Annotated, Any, Literal
from uuid import UUID

import anyio
from fastapi import APIRouter, Query, Request, Response
from starlette.responses import StreamingResponse

from mainspring.api import schemas
from mainspring.api.errors import units_of
from mainspring.api.routes import READS, WRITES, Id, of_line
from mainspring.api.routes.files import download
from mainspring.api.routes.work import followed, told_of
from mainspring.core.errors import BadEntry
from mainspring.core.systems import USUAL
from mainspring.exchange.units import Units
from mainspring.service import logs, measured, owner
from mainspring.service.service import Service
from mainspring.service.workshop import Workshop

LAYOUT_LIMIT = 20_000  # characters
Side = Literal["before", "after"]


class Moved(schemas.Body):
    """A log put aside, taken back, or said to be of the other side."""

    side: Side | None = None
    aside: bool | None = None
    by: schemas.By


class Claimed(schemas.Body):
    """A measured saving that somebody stands up for."""

    id: UUID
    by: schemas.By


def routes(service: Service, workshop: Workshop) -> APIRouter:
    """Routes of logs."""
    router = APIRouter(prefix="/api/lines/{line_id}")

    @router.get("/logs", responses=READS)
    def get_logs(line_id: Id) -> list[logs.LogView]:
        return service.logs.view(line_id)

    @router.post("/logs/look", responses=READS)
    async def look_at_log(request: Request, line_id: Id, whole: bool = True) -> logs.RecognisedView:
        content, units = await request.body(), units_of(request)
        return await anyio.to_thread.run_sync(lambda: service.logs.look(line_id, content, units, whole=whole))

    @router.post("/logs/{log_id}", response_class=StreamingResponse, responses=told_of(logs.LogView))
    async def read_log(
        request: Request,
        line_id: Id,
        log_id: UUID,
        side: Side,
        by: schemas.By,
        layout: Annotated[str, Query(max_length=LAYOUT_LIMIT)],
        name: Annotated[str, Query(max_length=300)] = "log",
    ) -> StreamingResponse:
        content, told = await request.body(), _plain(layout)
        await anyio.to_thread.run_sync(service.open_lines.head, line_id)
        return followed(
            request,
            workshop,
            lambda tell: service.logs.add(
                line_id, str(log_id), side, name, told, content, by, lambda done, of: _go_on(tell(done, of))
            ),
        )

    @router.post("/logs/{log_id}/side", responses=WRITES)
    def move_log(line_id: Id, log_id: UUID, body: Moved) -> list[logs.LogView]:
        return service.logs.change(line_id, str(log_id), body.side, body.aside, body.by)

    @router.get("/logs/{log_id}/series", responses=READS)
    def get_series(
        line_id: Id,
        log_id: UUID,
        quantity: Annotated[str, Query(max_length=40)],
        start: float | None = None,
        end: float | None = None,
        points: int = logs.POINTS,
    ) -> logs.SeriesView:
        return service.logs.series(line_id, str(log_id), quantity, start, end, points)

    @router.get("/logs/{log_id}/duty", responses=READS)
    def get_duty(line_id: Id, log_id: UUID) -> list[list[float]]:
        return service.logs.duty(line_id, str(log_id))

    @router.get("/logs/{log_id}/table", response_class=Response, responses=READS)
    def get_table(line_id: Id, log_id: UUID, form: Literal["csv", "parquet"] = "csv", units: Units = USUAL) -> Response:
        name, content = service.logs.table(line_id, str(log_id), form, units)
        media = "text/csv; charset=utf-8" if form == "csv" else "application/vnd.apache.parquet"
        return download(content, media, name, form)

    @router.get("/measured", response_model=measured.MeasuredView, responses=READS)
    def get_measured(request: Request, line_id: Id) -> Response:
        return of_line(request, service.open_lines, line_id, lambda _: service.measured.view(line_id)[0])

    @router.post("/measured/claim", responses=WRITES)
    def keep_claim(line_id: Id, body: Claimed) -> measured.MeasuredView:
        return service.measured.keep(line_id, str(body.id), body.by)

    @router.get("/owner", response_model=owner.OwnerView, responses=READS)
    def get_owner(request: Request, line_id: Id) -> Response:
        return of_line(request, service.open_lines, line_id, lambda _: service.owners.view(line_id))

    @router.get("/owner.pdf", response_class=Response, responses=READS)
    async def owner_pdf(line_id: Id, units: Units = USUAL, paper: Literal["A4", "Letter"] = "A4") -> Response:
        tag, page = await anyio.to_thread.run_sync(service.owners.pdf, line_id, units, paper)
        return download(page, "application/pdf", f"{tag}-owner", "pdf")

    return router


def _plain(layout: str) -> dict[str, Any]:
    try:
        found = json.loads(layout)
    except (ValueError, RecursionError):
        found = None
    if not isinstance(found, dict):
        raise BadEntry("layout", layout[:60], "the layout as it was recognised, as JSON")
    return found


def _go_on(wanted: bool) -> None:
    """Nobody waits for it any more: leave off, with nothing kept."""
    if not wanted:
        raise BadEntry("log", "given up", "reading it to its end")
