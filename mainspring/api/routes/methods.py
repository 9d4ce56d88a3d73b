"""The catalogue that screens are built from, and methods run on their own."""

from fastapi import APIRouter, Request, Response

from mainspring.api import schemas
from mainspring.api.routes import READS, as_it_stands
from mainspring.service import catalogue


def routes() -> APIRouter:
    """Routes of what is declared in the core."""
    router = APIRouter(prefix="/api")

    @router.get("/catalogue", response_model=catalogue.Catalogue)
    def get_catalogue(request: Request) -> Response:
        return as_it_stands(request, "catalogue", catalogue.catalogue)

    @router.get("/methods", response_model=list[catalogue.MethodView])
    def get_methods(request: Request) -> Response:
        return as_it_stands(request, "methods", catalogue.methods)

    @router.post("/methods/{method_id}", responses=READS)
    def run_method(method_id: str, body: schemas.Calculation) -> catalogue.CalculationView:
        return catalogue.calculate(method_id, body.inputs)

    return router
