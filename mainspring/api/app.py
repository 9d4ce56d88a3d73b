"""The application: one origin for API and screens."""

import contextlib
import gc
import hashlib
import sys
import threading
from collections.abc import AsyncIterator
from functools import lru_cache
from pathlib import Path
from typing import Any

import anyio
from fastapi import FastAPI
from fastapi.routing import APIRoute
from peewee import MySQLDatabase
from pydantic import BaseModel
from starlette.middleware.gzip import GZipMiddleware
from starlette.responses import FileResponse, Response

import mainspring
from mainspring import __version__
from mainspring.api import errors
from mainspring.api.guard import Guard
from mainspring.api.routes import drafts, families, files, lines, logs, loop, methods, problems, run, stream
from mainspring.api.settings import AppSettings
from mainspring.core.simulation import kernel
from mainspring.service.errors import KeyUnusable
from mainspring.service.families import shipped_families
from mainspring.service.service import Service
from mainspring.service.workshop import Workshop
from mainspring.store import repository

NAME_LIMIT = 255  # bytes of one name on usual file systems
THREADS = 4  # that answer at once; more only hand the interpreter to and fro
TURN = 0.0005  # s a thread may keep the interpreter while another has an answer of the database to go on with
ANY = problems(400, 403, 405, 413, 421, 422, 503)  # statuses that any route can answer with


class Health(BaseModel):
    """Whether the application can work."""

    database: bool
    loop_ready: bool
    revision: int


def create_app(settings: AppSettings, database: MySQLDatabase) -> FastAPI:
    """The application over an open database."""
    service = Service(database, settings.data.with_name(f"{settings.data.name}.key"))
    with contextlib.suppress(KeyUnusable, OSError):  # who asks for a code is told why; all else works
        service.codes.make_key()
    watch, workshop = stream.Watch(service), Workshop()
    warm = threading.Event()

    @contextlib.asynccontextmanager
    async def life(_: FastAPI) -> AsyncIterator[None]:
        anyio.to_thread.current_default_thread_limiter().total_tokens = THREADS
        sys.setswitchinterval(TURN)

        def warm_up() -> None:
            shipped_families()
            kernel.compile_now()
            _settle_memory()
            warm.set()

        threading.Thread(target=warm_up, name="loop-warm-up", daemon=True).start()
        yield
        await watch.end()
        workshop.end()

    app = FastAPI(
        title="Mainspring",
        version=__version__,
        lifespan=life,
        docs_url=None,
        redoc_url=None,
        openapi_url="/api/openapi.json",
        generate_unique_id_function=_operation_id,
        responses=ANY,
    )
    app.state.version, app.state.watch = code_version(), watch
    app.add_middleware(GZipMiddleware, minimum_size=1500, compresslevel=1)
    app.add_middleware(Guard)
    errors.install(app)

    @app.get("/api/health")
    def health() -> Health:
        revision = service.open_lines.transact(repository.latest_event_id)
        return Health(database=True, loop_ready=warm.is_set(), revision=revision)

    for router in (
        lines.routes(service),
        drafts.routes(service),
        loop.routes(service, workshop),
        logs.routes(service, workshop),
        run.routes(service),
        files.routes(service),
        families.routes(service),
        methods.routes(),
        stream.routes(watch),
    ):
        app.include_router(router)
    _screens(app, settings)
    _describe_problems(app)
    return app


def _operation_id(route: APIRoute) -> str:
    return route.name


@lru_cache(1)
def code_version() -> str:
    """A short mark of this code: what was answered by other code is out of date, whatever the counters say."""
    digest = hashlib.sha256()
    for file in sorted(Path(mainspring.__file__).parent.rglob("*.py")):
        digest.update(file.read_bytes())
    return digest.hexdigest()[:12]


def _settle_memory() -> None:
    """What stands after the start stays: the collector need not walk through it again and again."""
    gc.collect()
    gc.freeze()
    gc.set_threshold(50_000, 20, 50)


def _describe_problems(app: FastAPI) -> None:
    """In the schema, every refusal is problem details; their own media type cannot be declared by route."""
    made = app.openapi

    def described() -> dict[str, Any]:
        if app.openapi_schema is None:
            schema = made()
            for path in schema["paths"].values():
                for operation in path.values():
                    for status, answer in operation.get("responses", {}).items():
                        content = answer.get("content", {})
                        if status.isdigit() and int(status) >= 400 and "application/json" in content:
                            answer["content"] = {errors.MEDIA: content["application/json"]}
        return app.openapi_schema or {}

    app.openapi = described  # type: ignore[method-assign]


def _screens(app: FastAPI, settings: AppSettings) -> None:
    """The built front end; an unknown path is a screen of it."""
    root = settings.web.resolve()

    @app.get("/{path:path}", include_in_schema=False)
    def screen(path: str) -> Response:
        if path.startswith("api/"):
            return errors.problem_response(404, "Not found", "no such address")
        short = all(len(part.encode("utf-8", "replace")) <= NAME_LIMIT for part in path.split("/"))
        wanted = (root / path).resolve() if short else root
        if wanted.is_relative_to(root) and wanted.is_file():
            lasting = "public, max-age=31536000, immutable" if "/immutable/" in f"/{path}" else "no-cache"
            return FileResponse(wanted, headers={"Cache-Control": lasting})
        index = root / "index.html"
        if not index.is_file():
            return Response("The screens are not built yet: run ./start --prepare", 503, media_type="text/plain")
        return FileResponse(index, headers={"Cache-Control": "no-cache"})
