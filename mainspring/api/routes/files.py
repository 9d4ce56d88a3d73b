"""What leaves the house and comes in: pages, tables, lines, photos and curve files; slow work, on threads apart."""

from typing import Any, Literal
from uuid import UUID

import anyio
from fastapi import APIRouter, Request, Response
from pydantic import BaseModel

from mainspring.api import schemas
from mainspring.api.routes import JSON, READS, WRITES, Id, of_line, problems
from mainspring.core.systems import USUAL
from mainspring.exchange.units import Units
from mainspring.service import handover, transfer
from mainspring.service.curve_file import FoundCurve, curves_of_file
from mainspring.service.lines import line_json
from mainspring.service.opened import Opened
from mainspring.service.photo import PhotoView
from mainspring.service.run import standing_views
from mainspring.service.service import Service
from mainspring.service.views import LineView, StandingView

XLSX = "application/vnd.openxmlformats-officedocument.spreadsheetml.sheet"
AT_ONCE = 2  # slow works at a time; the quick ones keep their threads


class Readiness(BaseModel):
    """What stands against hand-over, and what the page will say was left out or defeated."""

    missing: list[str]
    standing: list[StandingView]


def ready(opened: Opened) -> Readiness:
    """The same two lists as the printed page has."""
    return Readiness(missing=handover.readiness(opened).missing, standing=standing_views(opened))


def routes(service: Service) -> APIRouter:
    """Routes of files."""
    router = APIRouter(prefix="/api")
    opened = service.open_lines
    slow = anyio.CapacityLimiter(AT_ONCE)

    async def apart(work: Any, *given: Any) -> Any:
        return await anyio.to_thread.run_sync(work, *given, limiter=slow)

    @router.get("/lines/{line_id}/readiness", response_model=Readiness, responses=READS)
    def get_readiness(request: Request, line_id: Id) -> Response:
        return of_line(request, opened, line_id, ready)

    @router.get("/lines/{line_id}/run.pdf", response_class=Response, responses=READS)
    async def run_pdf(line_id: Id, units: Units = USUAL, paper: Literal["A4", "Letter"] = "A4") -> Response:
        def make() -> Response:
            line = opened.open(line_id)
            return download(
                handover.run_sheet_pdf(line, units, paper), "application/pdf", f"{line.kept.tag}-run", "pdf"
            )

        made: Response = await apart(make)
        return made

    @router.get("/lines/{line_id}/handover.pdf", response_class=Response, responses=READS)
    async def handover_pdf(line_id: Id, units: Units = USUAL) -> Response:
        def make() -> Response:
            line = opened.open(line_id)
            return download(handover.handover_pdf(line, units), "application/pdf", line.kept.tag, "pdf")

        made: Response = await apart(make)
        return made

    @router.get("/lines/{line_id}/settings.csv", response_class=Response, responses=READS)
    def settings_csv(line_id: Id, units: Units = USUAL) -> Response:
        line = opened.open(line_id)
        return download(handover.settings_table(line, units).encode(), "text/csv; charset=utf-8", line.kept.tag, "csv")

    @router.get("/lines/{line_id}/settings.xlsx", response_class=Response, responses=READS)
    async def settings_xlsx(line_id: Id, units: Units = USUAL) -> Response:
        def make() -> Response:
            line = opened.open(line_id)
            book = handover.settings_book(line, units)
            return download(book, XLSX, line.kept.tag, "xlsx")

        made: Response = await apart(make)
        return made

    @router.get("/lines/{line_id}/keypad.pdf", response_class=Response, responses=READS)
    async def keypad_pdf(line_id: Id, units: Units = USUAL, paper: Literal["A4", "Letter"] = "A4") -> Response:
        def make() -> Response:
            line = opened.open(line_id)
            page = service.keypads.pdf(line, units, paper)
            return download(page, "application/pdf", f"{line.kept.tag}-keypad", "pdf")

        made: Response = await apart(make)
        return made

    @router.get("/lines/{line_id}/export.json", response_class=Response, responses=READS)
    def export_line(line_id: Id) -> Response:
        line = opened.open(line_id)
        return download(transfer.export_line(line).encode(), JSON, line.kept.tag, "json")

    @router.post("/import", status_code=201, response_model=LineView, responses=WRITES)
    async def import_line(request: Request, id: UUID, by: schemas.By, site_id: Id | None = None) -> Response:
        text = await request.body()
        made = await apart(service.transfers.take_in, text, str(id), site_id, by)
        return Response(line_json(made), 201, media_type=JSON)

    @router.put("/lines/{line_id}/photos/{photo_id}", status_code=201, responses=WRITES)
    async def add_photo(request: Request, line_id: Id, photo_id: UUID, station: str, by: schemas.By) -> list[PhotoView]:
        content = await request.body()
        kept: list[PhotoView] = await apart(service.photos.add, line_id, str(photo_id), station, content, by)
        return kept

    @router.post("/curves/file", responses=problems())
    async def curve_file(request: Request, fan: bool = False, units: Units = USUAL) -> list[FoundCurve]:
        content = await request.body()
        found: list[FoundCurve] = await apart(curves_of_file, content, fan, units)
        return found

    return router


def download(content: bytes, media: str, tag: str, suffix: str) -> Response:
    """A download; the name keeps only what every file system takes."""
    safe = "".join(c if c.isascii() and (c.isalnum() or c in "-_") else "-" for c in tag)[:60] or "line"
    return Response(
        content, media_type=media, headers={"Content-Disposition": f'attachment; filename="{safe}.{suffix}"'}
    )
