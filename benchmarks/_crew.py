"""A crew of clients on an application in its own process: each a connection, asking one thing after the other."""

import asyncio
import json
import random
import time
import uuid
from collections.abc import Awaitable, Callable
from dataclasses import dataclass, field
from typing import Any


class Gone(ConnectionError):
    """The server hung up, or does not answer."""


class Connection:
    """One kept-alive connection; a few lines instead of a client library, which would cost more than it measures."""

    def __init__(self, port: int) -> None:
        self.port = port
        self.reader: asyncio.StreamReader | None = None
        self.writer: asyncio.StreamWriter | None = None

    async def ask(self, method: str, path: str, body: Any = None, tag: str = "") -> tuple[int, bytes, str]:
        """Status, body and ETag of the answer; Gone when there is none."""
        content = b"" if body is None else json.dumps(body).encode()
        head = (
            f"{method} {path} HTTP/1.1\r\nHost: 127.0.0.1:{self.port}\r\nContent-Length: {len(content)}\r\n"
            f"Content-Type: application/json\r\n{f'If-None-Match: {tag}{chr(13)}{chr(10)}' if tag else ''}\r\n"
        )
        try:
            async with asyncio.timeout(30):
                if self.writer is None:
                    self.reader, self.writer = await asyncio.open_connection("127.0.0.1", self.port)
                assert self.reader is not None
                self.writer.write(head.encode() + content)
                return await self._answer(self.reader)
        except (OSError, EOFError, TimeoutError, ValueError) as error:
            await self.close()
            raise Gone(str(error)) from error

    async def _answer(self, reader: asyncio.StreamReader) -> tuple[int, bytes, str]:
        lines = (await reader.readuntil(b"\r\n\r\n")).decode().split("\r\n")
        headers = {k.lower(): v for k, v in (line.split(": ", 1) for line in lines[1:] if ": " in line)}
        length = int(headers.get("content-length", 0))
        return int(lines[0].split()[1]), await reader.readexactly(length), headers.get("etag", "")

    async def close(self) -> None:
        """Hang up."""
        if self.writer is not None:
            self.writer.close()
        self.reader = self.writer = None


@dataclass
class Tally:
    """What a crew saw: seconds of each answer, what was acknowledged, and what went wrong."""

    seconds: list[float] = field(default_factory=list)
    kept: dict[str, str] = field(default_factory=dict)  # evidence id by line
    errors: list[str] = field(default_factory=list)


Act = Callable[[Connection, random.Random, Tally], Awaitable[None]]


async def crew(port: int, size: int, seconds: float, act: Act, pause: tuple[float, float] | None) -> Tally:
    """So many clients for so long, each pausing between its acts, or not."""
    tally = Tally()
    end = time.perf_counter() + seconds

    async def client(number: int) -> None:
        chance, connection = random.Random(number), Connection(port)
        if pause:
            await asyncio.sleep(chance.uniform(0, pause[1]))
        while time.perf_counter() < end:
            begin = time.perf_counter()
            await act(connection, chance, tally)
            tally.seconds.append(time.perf_counter() - begin)
            if pause:
                await asyncio.sleep(chance.uniform(*pause))
        await connection.close()

    await asyncio.gather(*(client(n) for n in range(size)))
    return tally


SETS = ("CW-BST-1", "CW-BST-2", "LIB-FW")  # of the demo, where each drive has a lock of its own


def note(chance: random.Random) -> dict[str, Any]:
    """An entry that any line with one drive takes at any time."""
    key = str(uuid.UUID(int=chance.getrandbits(128), version=4))
    return {"id": key, "step": "isolate.lock_out", "kind": "tick", "by": "A crew", "note": "again"}
