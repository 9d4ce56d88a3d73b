"""What follows from a record while it is typed: verdicts, workings, curves, causes of a trip."""

from fastapi import APIRouter, Response

from mainspring.api import schemas
from mainspring.api.routes import JSON, READS, Id
from mainspring.api.routes.loop import asked_of
from mainspring.core.diagnosis import Moment
from mainspring.service import bench, curves, trip
from mainspring.service.service import Service
from mainspring.service.views import AssessmentView
from mainspring.service.working import WorkingView


def routes(service: Service) -> APIRouter:
    """Routes of records being typed; nothing is kept by any."""
    router = APIRouter(prefix="/api")

    @router.post("/assess", response_model=AssessmentView, responses=READS)
    def assess_draft(body: schemas.Draft) -> Response:
        found = service.drafts.assess(schemas.plain(body.record), body.site_id, body.line_id)
        return Response(found.model_dump_json(), media_type=JSON)

    @router.post("/working", responses=READS)
    def draft_working(body: schemas.DraftFigure) -> WorkingView:
        line, _ = service.drafts.line(schemas.plain(body.record), body.site_id, body.line_id)
        return bench.draft_working(line, body.key, asked_of(body))

    @router.post("/curves", responses=READS)
    def draft_curves(body: schemas.Draft) -> curves.CurvesView:
        return curves.draft_curves(service.drafts.line(schemas.plain(body.record), body.site_id, body.line_id)[0])

    @router.post("/curves/point", responses=READS)
    def draft_point(body: schemas.DraftPoint) -> curves.PointView:
        line, _ = service.drafts.line(schemas.plain(body.record), body.site_id, body.line_id)
        return curves.point_view(line, body.flow, body.rise)

    @router.get("/lines/{line_id}/trips", responses=READS)
    def get_trips(line_id: Id) -> trip.TripWords:
        return trip.trip_words(service.open_lines.open(line_id).line)

    @router.post("/trips", responses=READS)
    def why_it_tripped(body: schemas.TripDraft) -> trip.TripView:
        moment = Moment(body.when, body.frequency, body.current, body.bus_voltage)
        line, _ = service.drafts.line(schemas.plain(body.record), body.site_id, body.line_id)
        return trip.trip_view(line, body.kind, moment)[0]

    return router
