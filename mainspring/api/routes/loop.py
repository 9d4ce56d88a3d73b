"""The loop bench: trials answered at once, long work told of as it goes."""

from fastapi import APIRouter, Request
from starlette.responses import StreamingResponse

from mainspring.api import schemas
from mainspring.api.errors import units_of
from mainspring.api.routes import READS
from mainspring.api.routes.work import followed, told_of
from mainspring.core.line import Line
from mainspring.exchange.demand_file import read_demand
from mainspring.service import loop
from mainspring.service.errors import BadRecord
from mainspring.service.service import Service
from mainspring.service.step_test import RuleView
from mainspring.service.workshop import Workshop


def asked_of(body: schemas.LoopDraft) -> loop.Asked:
    """What a body asks to be tried."""
    return loop.Asked(
        moved=body.tried,
        profile=body.profile or "minutes",
        own=tuple(body.own or ()),
        duration=body.duration,
        lost_at=body.lost_at,
        dry_at=body.dry_at,
        filling=bool(body.filling),
        coasts=bool(body.coasts),
        second_at=body.second_at,
        measured=body.measured,
        rows=body.rows or loop.ROWS,
    )


def routes(service: Service, workshop: Workshop) -> APIRouter:
    """Routes of the loop bench; nothing is kept by any."""
    router = APIRouter(prefix="/api/loop")

    def line_of(body: schemas.LoopDraft) -> Line:
        line, wrong = service.drafts.line(schemas.plain(body.record), body.site_id, body.line_id)
        if wrong:
            raise BadRecord(wrong)
        return line

    @router.post("", responses=READS)
    def try_loop(body: schemas.LoopDraft) -> loop.LoopView:
        return loop.loop_view(line_of(body), {}, asked_of(body))

    @router.post("/demand", responses=READS)
    def read_table(body: schemas.DemandBody) -> list[tuple[float, float]]:
        return list(read_demand(body.text))

    @router.post("/sleep", responses=READS)
    def find_sleep(body: schemas.LoopDraft) -> loop.SleepView:
        return loop.sleep_view(line_of(body), asked_of(body))[0]

    @router.post("/stages", responses=READS)
    def find_stages(body: schemas.LoopDraft) -> loop.StagesView:
        return loop.stages_view(line_of(body))[0]

    @router.post("/model", responses=READS)
    def step_the_model(body: schemas.LoopDraft) -> list[loop.ModelView]:
        return loop.model_view(line_of(body), asked_of(body))

    @router.post("/swing", responses=READS)
    def tune_by_swing(body: schemas.SwingBody) -> list[RuleView]:
        return loop.swing_view(body.relay, body.swing, body.hysteresis, body.period)

    @router.post("/forms", responses=READS)
    def in_forms(body: schemas.FormsBody) -> list[loop.FormView]:
        return loop.forms_view(**body.model_dump())

    @router.post("/fit", responses=READS)
    def fit_log(request: Request, body: schemas.LogDraft) -> loop.FittedView:
        line, units = line_of(body), units_of(request)
        return loop.fitted_view(line, asked_of(body), body.text, body.output, units, body.fit)

    @router.post("/spread", response_class=StreamingResponse, responses=told_of(loop.SpreadView))
    def try_many_plants(request: Request, body: schemas.LoopDraft) -> StreamingResponse:
        line = line_of(body)
        return followed(request, workshop, lambda tell: loop.spread_view(line, asked_of(body), tell))

    @router.post("/search", response_class=StreamingResponse, responses=told_of(loop.SearchView))
    def seek_gains(request: Request, body: schemas.LoopDraft) -> StreamingResponse:
        line = line_of(body)
        return followed(request, workshop, lambda tell: loop.search_view(line, asked_of(body), tell))

    return router
