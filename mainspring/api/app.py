"""The application: one origin for API and screens."""

import contextlib
import threading
from collections.abc import AsyncIterator
from datetime import datetime
from typing import Any, Literal
from uuid import UUID

from fastapi import FastAPI, Request, Response
from fastapi.routing import APIRoute
from peewee import MySQLDatabase
from pydantic import BaseModel
from starlette.concurrency import run_in_threadpool
from starlette.middleware.gzip import GZipMiddleware
from starlette.responses import FileResponse

from mainspring.api import errors, schemas
from mainspring.api.settings import AppSettings
from mainspring.core.diagnosis import Moment
from mainspring.core.simulation import kernel
from mainspring.service import bench, catalogue, curves, handover, lines, photo, run, sheet, story, trip
from mainspring.service.curve_file import FoundCurve, curves_of_file
from mainspring.service.views import (
    AssessmentView,
    LineView,
    RoundView,
    RunView,
    SheetView,
    WorkingView,
)
from mainspring.store import repository
from mainspring.store.database import transact

BODY_LIMIT = 25_000_000  # bytes
LOOPBACK_NAMES = ("127.0.0.1", "localhost", "::1")
ERRORS: dict[int | str, dict[str, Any]] = {
    404: {"model": errors.Problem},
    409: {"model": errors.Problem},
    422: {"model": errors.Problem},
    503: {"model": errors.Problem},
}


class Pulse(BaseModel):
    """The newest event of a line, by which a screen sees that something was kept; and the server's time."""

    event: int
    now: datetime


class Health(BaseModel):
    """Whether the application can work."""

    database: bool
    loop_ready: bool
    revision: int


class SiteCreated(BaseModel):
    """A site made."""

    id: str
    name: str


class Readiness(BaseModel):
    """What stands against hand-over."""

    missing: list[str]


class EventOut(BaseModel):
    """One event of a line's history."""

    at: str
    who: str
    what: str
    subject: str


def create_app(settings: AppSettings, database: MySQLDatabase) -> FastAPI:
    """The application over an open database."""
    warm = threading.Event()

    @contextlib.asynccontextmanager
    async def life(_: FastAPI) -> AsyncIterator[None]:
        def compile_loop() -> None:
            kernel.compile_now()
            warm.set()

        threading.Thread(target=compile_loop, name="loop-warm-up", daemon=True).start()
        yield

    app = FastAPI(
        title="Mainspring",
        version="0.1.0",
        lifespan=life,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        generate_unique_id_function=_operation_id,
        responses=ERRORS,
    )
    app.add_middleware(GZipMiddleware, minimum_size=1500, compresslevel=5)
    errors.install(app)
    _guard(app)
    _routes(app, database, warm)
    _screens(app, settings)
    return app


def _operation_id(route: APIRoute) -> str:
    return route.name


def _guard(app: FastAPI) -> None:
    """Answer only to this machine's own names and pages, and to bodies of a sensible size.

    Without accounts, any web page open in the technician's browser could otherwise write here (a form posted across
    sites) or read (a name made to point at loopback).
    """

    @app.middleware("http")
    async def guard(request: Request, call_next: Any) -> Response:
        if request.url.hostname not in LOOPBACK_NAMES:
            return errors.problem_response(
                421, "Not this machine", "Mainspring answers to 127.0.0.1 and localhost only"
            )
        origin = request.headers.get("origin")
        if origin is not None and origin != f"{request.url.scheme}://{request.url.netloc}":
            return errors.problem_response(403, "Another page's request", "only Mainspring's own pages may ask this")
        length = request.headers.get("content-length", "0")
        if not length.isdigit() or int(length) > BODY_LIMIT:
            return errors.problem_response(413, "Too large", f"the body may have up to {BODY_LIMIT} bytes")
        answer: Response = await call_next(request)
        answer.headers["X-Content-Type-Options"] = "nosniff"
        answer.headers["Referrer-Policy"] = "no-referrer"
        return answer


def _routes(app: FastAPI, db: MySQLDatabase, warm: threading.Event) -> None:
    @app.get("/api/health")
    def health() -> Health:
        revision = transact(db, repository.latest_event_id)
        return Health(database=True, loop_ready=warm.is_set(), revision=revision)

    @app.get("/api/catalogue")
    def get_catalogue() -> catalogue.Catalogue:
        return catalogue.catalogue()

    @app.get("/api/round")
    def get_round() -> RoundView:
        return lines.round_view(db)

    @app.post("/api/sites", status_code=201)
    def create_site(body: schemas.NewSite) -> SiteCreated:
        kept = lines.create_site(db, str(body.id), body.name, body.units, schemas.plain_entries(body.entries), body.by)
        return SiteCreated(id=kept.id, name=kept.name)

    @app.post("/api/lines", status_code=201)
    def create_line(body: schemas.NewLine) -> LineView:
        made = lines.create_line(
            db, str(body.id), body.site_id, body.tag, body.title, schemas.plain(body.record), body.by
        )
        return lines.line_view(made)

    @app.get("/api/lines/{line_id}")
    def get_line(line_id: str) -> LineView:
        return lines.line_view(lines.open_line(db, line_id))

    @app.put("/api/lines/{line_id}")
    def save_line(line_id: str, body: schemas.SavedLine) -> LineView:
        saved = lines.save_line(db, line_id, body.revision, body.tag, body.title, schemas.plain(body.record), body.by)
        return lines.line_view(saved)

    @app.post("/api/assess")
    def assess_draft(body: schemas.Draft) -> AssessmentView:
        return lines.assess_draft(db, schemas.plain(body.record), body.site_id)

    @app.post("/api/working")
    def draft_working(body: schemas.DraftFigure) -> WorkingView:
        tried = body.tried.model_dump(exclude_none=True)
        return bench.draft_working(db, schemas.plain(body.record), body.site_id, body.key, tried)

    @app.get("/api/lines/{line_id}/working/{key}")
    def line_working(line_id: str, key: str) -> WorkingView:
        return bench.line_working(db, line_id, key)

    @app.get("/api/lines/{line_id}/settings")
    def get_settings(line_id: str) -> SheetView:
        return sheet.sheet_view(lines.open_line(db, line_id))[0]

    @app.put("/api/lines/{line_id}/settings/{setting}/{moment}")
    def put_setting(
        line_id: str, setting: str, moment: Literal["found", "left"], body: schemas.SettingValue
    ) -> SheetView:
        return sheet.sheet_view(sheet.put_setting(db, line_id, setting, moment, body.value, body.by))[0]

    @app.post("/api/lines/{line_id}/settings/take-plan")
    def take_plan(line_id: str, body: schemas.Who) -> SheetView:
        return sheet.sheet_view(sheet.take_plan(db, line_id, body.by))[0]

    @app.get("/api/lines/{line_id}/run")
    def get_run(line_id: str) -> RunView:
        return run.run_view(lines.open_line(db, line_id))[0]

    @app.post("/api/lines/{line_id}/evidence", status_code=201)
    def add_evidence(line_id: str, body: schemas.NewEvidence) -> RunView:
        opened = run.add_evidence(
            db,
            line_id,
            str(body.id),
            body.step,
            body.kind,
            body.data,
            body.by,
            body.note,
            body.at,
            body.instrument,
            body.seen,
        )
        return run.run_view(opened)[0]

    @app.put("/api/lines/{line_id}/visits/{visit_id}")
    def put_visit(line_id: str, visit_id: UUID, body: schemas.VisitEntry) -> RunView:
        opened = run.put_visit(
            db, line_id, str(visit_id), body.by, body.purpose, body.instruments, body.seen, body.note, body.closed
        )
        return run.run_view(opened)[0]

    @app.get("/api/lines/{line_id}/pulse")
    def get_pulse(line_id: str) -> Pulse:
        return Pulse(event=transact(db, lambda: repository.latest_event_of(line_id)), now=repository.now())

    @app.get("/api/lines/{line_id}/story")
    def get_story(line_id: str) -> story.StoryView:
        return story.story_view(db, lines.open_line(db, line_id))

    @app.get("/api/lines/{line_id}/run.pdf", response_class=Response)
    def run_pdf(line_id: str, units: schemas.Units = "si", paper: Literal["A4", "Letter"] = "A4") -> Response:
        opened = lines.open_line(db, line_id)
        return _file(handover.run_sheet_pdf(opened, units, paper), "application/pdf", f"{opened.kept.tag}-run", "pdf")

    @app.post("/api/loop")
    def try_loop(body: schemas.LoopDraft) -> bench.LoopView:
        return bench.loop_view(db, schemas.plain(body.record), body.site_id, body.tried.model_dump(exclude_none=True))

    @app.post("/api/curves")
    def draft_curves(body: schemas.Draft) -> curves.CurvesView:
        return curves.draft_curves(db, schemas.plain(body.record), body.site_id)

    @app.post("/api/curves/point")
    def draft_point(body: schemas.DraftPoint) -> curves.PointView:
        return curves.point_view(db, schemas.plain(body.record), body.site_id, body.flow, body.rise)

    @app.post("/api/curves/file")
    async def curve_file(request: Request, fan: bool = False, units: schemas.Units = "si") -> list[FoundCurve]:
        return await run_in_threadpool(curves_of_file, await request.body(), fan, units)

    @app.get("/api/trips")
    def get_trips() -> trip.TripWords:
        return trip.trip_words()

    @app.post("/api/trips")
    def why_it_tripped(body: schemas.TripDraft) -> trip.TripView:
        moment = Moment(body.when, body.frequency, body.current, body.bus_voltage)
        return trip.trip_view(db, schemas.plain(body.record), body.site_id, body.kind, moment)[0]

    @app.get("/api/lines/{line_id}/photos")
    def get_photos(line_id: str) -> list[photo.PhotoView]:
        return photo.photos_view(db, line_id)

    @app.put("/api/lines/{line_id}/photos/{photo_id}", status_code=201)
    async def add_photo(
        request: Request, line_id: str, photo_id: UUID, station: str, by: schemas.By
    ) -> list[photo.PhotoView]:
        content = await request.body()
        return await run_in_threadpool(photo.add_photo, db, line_id, str(photo_id), station, content, by)

    @app.get("/api/lines/{line_id}/photos/{photo_id}", response_class=Response)
    def get_photo(line_id: str, photo_id: str) -> Response:
        lasting = {"Cache-Control": "private, max-age=31536000, immutable"}
        return Response(photo.picture(db, line_id, photo_id), media_type="image/jpeg", headers=lasting)

    @app.delete("/api/lines/{line_id}/photos/{photo_id}")
    def remove_photo(line_id: str, photo_id: str, by: schemas.By) -> list[photo.PhotoView]:
        return photo.remove_photo(db, line_id, photo_id, by)

    @app.get("/api/lines/{line_id}/proof")
    def get_proof(line_id: str) -> bench.ProofView:
        return bench.proof_view(lines.open_line(db, line_id))[0]

    @app.get("/api/lines/{line_id}/savings")
    def get_savings(line_id: str) -> bench.SavingsView:
        opened = lines.open_line(db, line_id)
        return bench.savings_view(opened.line, opened.assessment.derived)[0]

    @app.get("/api/lines/{line_id}/events")
    def get_events(line_id: str) -> list[EventOut]:
        return [
            EventOut(at=e.at.isoformat(), who=e.who, what=e.what, subject=e.subject) for e in lines.history(db, line_id)
        ]

    @app.get("/api/lines/{line_id}/readiness")
    def get_readiness(line_id: str) -> Readiness:
        return Readiness(missing=handover.readiness(lines.open_line(db, line_id)).missing)

    @app.get("/api/lines/{line_id}/handover.pdf", response_class=Response)
    def handover_pdf(line_id: str, units: schemas.Units = "si") -> Response:
        opened = lines.open_line(db, line_id)
        return _file(handover.handover_pdf(opened, units), "application/pdf", opened.kept.tag, "pdf")

    @app.get("/api/lines/{line_id}/settings.csv", response_class=Response)
    def settings_csv(line_id: str, units: schemas.Units = "si") -> Response:
        opened = lines.open_line(db, line_id)
        return _file(handover.settings_table(opened, units).encode(), "text/csv; charset=utf-8", opened.kept.tag, "csv")

    @app.get("/api/lines/{line_id}/export.json", response_class=Response)
    def export_line(line_id: str) -> Response:
        opened = lines.open_line(db, line_id)
        return _file(handover.export_line(opened).encode(), "application/json", opened.kept.tag, "json")

    @app.post("/api/import", status_code=201)
    async def import_line(request: Request, id: UUID, by: schemas.By, site_id: str | None = None) -> LineView:
        text = await request.body()
        opened = await run_in_threadpool(handover.import_line, db, text, str(id), site_id, by)
        return lines.line_view(opened)

    @app.get("/api/methods")
    def get_methods() -> list[catalogue.MethodView]:
        return catalogue.methods()

    @app.post("/api/methods/{method_id}")
    def run_method(method_id: str, body: schemas.Calculation) -> catalogue.CalculationView:
        return catalogue.calculate(method_id, body.inputs)


def _file(content: bytes, media: str, tag: str, suffix: str) -> Response:
    """A download; the name keeps only what every file system takes."""
    safe = "".join(c if c.isascii() and (c.isalnum() or c in "-_") else "-" for c in tag)[:60] or "line"
    return Response(
        content, media_type=media, headers={"Content-Disposition": f'attachment; filename="{safe}.{suffix}"'}
    )


def _screens(app: FastAPI, settings: AppSettings) -> None:
    """The built front end; an unknown path is a screen of it."""
    root = settings.web.resolve()

    @app.get("/{path:path}", include_in_schema=False)
    def screen(path: str) -> Response:
        if path.startswith("api/"):
            return errors.problem_response(404, "Not found", "no such address")
        wanted = (root / path).resolve()
        if wanted.is_file() and wanted.is_relative_to(root):
            lasting = "public, max-age=31536000, immutable" if "/immutable/" in f"/{path}" else "no-cache"
            return FileResponse(wanted, headers={"Cache-Control": lasting})
        index = root / "index.html"
        if not index.is_file():
            return Response("The screens are not built yet: run ./start --prepare", 503, media_type="text/plain")
        return FileResponse(index, headers={"Cache-Control": "no-cache"})
