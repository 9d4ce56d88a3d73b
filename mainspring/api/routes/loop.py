"""The loop bench: trials answered at once, long work told of as it goes."""

import asyncio
import json
from collections.abc import AsyncIterator
from typing import Any

from fastapi import APIRouter, Request
from pydantic import BaseModel
from starlette.responses import StreamingResponse

from mainspring.api import schemas
from mainspring.api.errors import said, units_of
from mainspring.api.routes import READS
from mainspring.core.line import Line
from mainspring.exchange.demand_file import read_demand
from mainspring.service import loop
from mainspring.service.errors import BadRecord
from mainspring.service.service import Service
from mainspring.service.step_test import RuleView
from mainspring.service.workshop import Job, Work, Workshop

LOOK = 0.1  # s between looks at a job


def _told(model: type[BaseModel]) -> dict[int | str, dict[str, Any]]:
    """A stream of progress that ends with what was found, or why nothing was."""
    stream = {"content": {"text/event-stream": {}}, "description": "progress, then found or refused", "model": model}
    return {**READS, 200: stream}


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

    def told(request: Request, work: Work) -> StreamingResponse:
        events = _events(workshop, workshop.start(work), units_of(request))
        return StreamingResponse(events, media_type="text/event-stream", headers={"Cache-Control": "no-store"})

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

    @router.post("/spread", response_class=StreamingResponse, responses=_told(loop.SpreadView))
    def try_many_plants(request: Request, body: schemas.LoopDraft) -> StreamingResponse:
        line = line_of(body)
        return told(request, lambda tell: loop.spread_view(line, asked_of(body), tell))

    @router.post("/search", response_class=StreamingResponse, responses=_told(loop.SearchView))
    def seek_gains(request: Request, body: schemas.LoopDraft) -> StreamingResponse:
        line = line_of(body)
        return told(request, lambda tell: loop.search_view(line, asked_of(body), tell))

    return router


async def _events(workshop: Workshop, job: Job, units: str) -> AsyncIterator[str]:
    """How far it is, then what was found or why not; whoever goes away stops it."""
    try:
        last: tuple[int, int, int] | None = None
        while not job.future.done():
            now = (job.done, job.of, workshop.before(job))
            if now != last:
                last = now
                yield _event("progress", json.dumps({"done": now[0], "of": now[1], "before": now[2]}))
            await asyncio.sleep(LOOK)
        error = job.future.exception()
        if error is None:
            yield _event("found", job.future.result().model_dump_json())
        else:
            yield _event("refused", json.dumps({"detail": said(error, units)}))
    finally:
        workshop.stop(job)


def _event(name: str, data: str) -> str:
    return f"event: {name}\ndata: {data}\n\n"
