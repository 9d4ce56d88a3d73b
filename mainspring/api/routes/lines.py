"""The Round, sites and lines, and what follows from a record while it is typed."""

from fastapi import APIRouter, Request, Response
from pydantic import BaseModel, Field

from mainspring.api import schemas
from mainspring.api.errors import units_of
from mainspring.api.routes import JSON, READS, WRITES, Id, as_it_stands, of_line, problems
from mainspring.service import bench, proof, savings
from mainspring.service.keys import Of
from mainspring.service.lines import line_json, site_view
from mainspring.service.opened import Opened
from mainspring.service.service import Service
from mainspring.service.step_test import Output, StepTestView, step_test
from mainspring.service.story import StoryView
from mainspring.service.views import LineView, RoundView, SiteView
from mainspring.service.working import WorkingView


class EventOut(BaseModel):
    """One event of a line's history."""

    at: str
    who: str
    what: str
    subject: str


class StepTestBody(schemas.Body):
    """A step test as a table: time, measured value in the reader's unit, output."""

    text: str = Field(max_length=2_000_000)
    output: Output = "Hz"


def routes(service: Service) -> APIRouter:
    """Routes of lines and sites."""
    router = APIRouter(prefix="/api")

    @router.get("/round", response_model=RoundView)
    def get_round(request: Request) -> Response:
        return as_it_stands(request, service.round.mark(), service.round.json)

    @router.post("/sites", status_code=201, responses=problems(409))
    def create_site(body: schemas.NewSite) -> SiteView:
        entries = schemas.plain_entries(body.entries)
        return site_view(service.lines.create_site(str(body.id), body.name, body.units, entries, body.by))

    @router.get("/sites/{site_id}", responses=READS)
    def get_site(site_id: Id) -> SiteView:
        return site_view(service.lines.site(site_id))

    @router.put("/sites/{site_id}", responses=WRITES)
    def save_site(site_id: Id, body: schemas.SavedSite) -> SiteView:
        entries = schemas.plain_entries(body.entries)
        return site_view(service.lines.save_site(site_id, body.revision, body.name, body.units, entries, body.by))

    @router.post("/lines", status_code=201, response_model=LineView, responses=WRITES)
    def create_line(body: schemas.NewLine) -> Response:
        record = schemas.plain(body.record)
        made = service.lines.create(str(body.id), body.site_id, body.tag, body.title, record, body.by)
        return Response(line_json(made), 201, media_type=JSON)

    @router.get("/lines/{line_id}", response_model=LineView, responses=READS)
    def get_line(request: Request, line_id: Id) -> Response:
        return of_line(request, service.open_lines, line_id, line_json)

    @router.put("/lines/{line_id}", response_model=LineView, responses=WRITES)
    def save_line(line_id: Id, body: schemas.SavedLine) -> Response:
        record = schemas.plain(body.record)
        saved = service.lines.save(line_id, body.revision, body.tag, body.title, record, body.by)
        return Response(line_json(saved), media_type=JSON)

    @router.post("/lines/{line_id}/copy", status_code=201, response_model=LineView, responses=WRITES)
    def copy_line(line_id: Id, body: schemas.Twin) -> Response:
        made = service.lines.copy(line_id, str(body.id), body.tag, body.title, body.by)
        return Response(line_json(made), 201, media_type=JSON)

    @router.get("/lines/{line_id}/events", responses=READS)
    def get_events(line_id: Id) -> list[EventOut]:
        return [
            EventOut(at=e.at.isoformat(), who=e.who, what=e.what, subject=e.subject)
            for e in service.lines.history(line_id)
        ]

    @router.get("/lines/{line_id}/story", response_model=StoryView, responses=READS)
    def get_story(request: Request, line_id: Id) -> Response:
        return of_line(request, service.open_lines, line_id, service.stories.view)

    @router.get("/lines/{line_id}/working/{key}", responses=READS)
    def line_working(line_id: Id, key: str) -> WorkingView:
        if key.startswith(f"{Of.MEASURED}."):
            return service.measured.working(line_id, key)
        return bench.line_working(service.open_lines.open(line_id), key, service.measured.claim_of)

    @router.get("/lines/{line_id}/proof", response_model=proof.ProofView, responses=READS)
    def get_proof(request: Request, line_id: Id) -> Response:
        return of_line(request, service.open_lines, line_id, lambda opened: proof.proof_view(opened)[0])

    @router.get("/lines/{line_id}/savings", response_model=savings.SavingsView, responses=READS)
    def get_savings(request: Request, line_id: Id) -> Response:
        def make(opened: Opened) -> savings.SavingsView:
            return savings.savings_view(opened.line, opened.assessment.derived, service.measured.claim_of(opened))[0]

        return of_line(request, service.open_lines, line_id, make)

    @router.post("/lines/{line_id}/step-test", responses=READS)
    def try_step_test(request: Request, line_id: Id, body: StepTestBody) -> StepTestView:
        return step_test(service.open_lines.open(line_id), body.text, body.output, units_of(request))

    return router
