"""What others keep, told as it happens: one look a moment for all who watch, and a stream to each."""

import asyncio
import contextlib
import json
from collections.abc import AsyncIterator

import anyio
from fastapi import APIRouter
from starlette.responses import StreamingResponse

from mainspring.api.routes import READS, Id
from mainspring.service.service import Service
from mainspring.store import repository

LOOK = 0.5  # s between looks at the counters of the lines that are watched
BEAT = 5.0  # s after which a stream says that it is alive, and the server's time


class Watch:
    """The counters of the lines that somebody watches, looked at together."""

    def __init__(self, service: Service) -> None:
        self.service = service
        self.counts: dict[str, int] = {}
        self.watched: dict[str, int] = {}
        self.moved = asyncio.Condition()
        self.looking: asyncio.Task[None] | None = None
        self.ended = False

    async def look(self) -> None:
        """Look until nobody watches."""
        while self.watched and not self.ended:
            with contextlib.suppress(Exception):  # the next look tries again; those who watch see no beat meanwhile
                counts = await anyio.to_thread.run_sync(self._counts)
                if counts != self.counts:
                    self.counts = counts
                    async with self.moved:
                        self.moved.notify_all()
            await asyncio.sleep(LOOK)
        self.looking = None
        async with self.moved:
            self.moved.notify_all()

    def _counts(self) -> dict[str, int]:
        return self.service.open_lines.look(lambda: repository.heads(list(self.watched)))

    async def stream(self, line_id: str) -> AsyncIterator[str]:
        """The counter of a line, now and whenever it moves, and a beat in between."""
        self.watched[line_id] = self.watched.get(line_id, 0) + 1
        try:
            if self.looking is None:
                self.looking = asyncio.create_task(self.look())
            told: int | None = None
            while not self.ended:
                count = self.counts.get(line_id)
                if count is not None:
                    told = count
                    yield _event(count)
                with contextlib.suppress(TimeoutError):
                    async with asyncio.timeout(BEAT), self.moved:
                        await self.moved.wait_for(lambda t=told: self.ended or self._moved(line_id, t))  # type: ignore[misc]
        finally:
            self.watched[line_id] -= 1
            if not self.watched[line_id]:
                del self.watched[line_id]

    def _moved(self, line_id: str, told: int | None) -> bool:
        """Whether there is a count to tell.

        A look that began before somebody watched brings none of this line. That is no news: woken by it the stream
        would spin and let nobody else have the loop.
        """
        count = self.counts.get(line_id)
        return count is not None and count != told

    async def end(self) -> None:
        """Let every stream go: the application ends."""
        self.ended = True
        async with self.moved:
            self.moved.notify_all()


def _event(count: int) -> str:
    return f"data: {json.dumps({'seq': count, 'now': repository.now().isoformat()})}\n\n"


def routes(watch: Watch) -> APIRouter:
    """The stream of a line."""
    router = APIRouter(prefix="/api/lines/{line_id}")

    @router.get(
        "/stream",
        response_class=StreamingResponse,
        responses={
            **READS,
            200: {"content": {"text/event-stream": {}}, "description": "The line's counter as it moves"},
        },
    )
    async def stream(line_id: Id) -> StreamingResponse:
        await anyio.to_thread.run_sync(watch.service.open_lines.head, line_id)  # not found: says so
        return StreamingResponse(
            watch.stream(line_id), media_type="text/event-stream", headers={"Cache-Control": "no-store"}
        )

    return router
