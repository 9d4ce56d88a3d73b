"""Long work as a stream: how far it is, then what was found or why nothing was."""

import asyncio
import json
from collections.abc import AsyncIterator
from typing import Any

from fastapi import Request
from pydantic import BaseModel
from starlette.responses import StreamingResponse

from mainspring.api.errors import said, units_of
from mainspring.api.routes import READS
from mainspring.service.workshop import Job, Work, Workshop

LOOK = 0.1  # s between looks at a job


def told_of(model: type[BaseModel]) -> dict[int | str, dict[str, Any]]:
    """A stream of progress that ends with what was found, or why nothing was."""
    stream = {"content": {"text/event-stream": {}}, "description": "progress, then found or refused", "model": model}
    return {**READS, 200: stream}


def followed(request: Request, workshop: Workshop, work: Work) -> StreamingResponse:
    """Begin work and tell of it."""
    events = _events(workshop, workshop.start(work), units_of(request))
    return StreamingResponse(events, media_type="text/event-stream", headers={"Cache-Control": "no-store"})


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
