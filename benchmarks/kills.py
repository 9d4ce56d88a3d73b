"""kill -9 of application, worker and database in turn, under clients that write: nothing acknowledged may be lost."""

import asyncio
import contextlib
import os
import random
import signal
import tempfile
import time
from collections.abc import Callable
from pathlib import Path

from benchmarks._crew import Connection, Gone, note
from mainspring.store import repository
from mainspring.store.database import open_database, transact
from mainspring.store.server import attach
from tests.ui.conftest import Application, pids_with

CLIENTS = 4
LONGEST = 60.0  # s that an application may take to come back before the run is given up


class Writers:
    """Clients that send one entry after the other, each again and again until it is acknowledged."""

    def __init__(self, application: Application, line: str) -> None:
        self.application, self.line = application, line
        self.kept: list[str] = []
        self.refused: list[str] = []
        self.last = time.monotonic()
        self.ended = False

    async def write(self, number: int) -> None:
        """One client."""
        chance = random.Random(time.time_ns() + number)
        while not self.ended:
            entry = note(chance)
            connection = Connection(self.application.port)
            while not self.ended:
                try:
                    status, body, _ = await connection.ask("POST", f"/api/lines/{self.line}/evidence", entry)
                except Gone:
                    await asyncio.sleep(0.05)
                    continue
                if status == 201:
                    self.kept.append(entry["id"])
                    self.last = time.monotonic()
                    break
                if status != 503:
                    self.refused.append(f"{status} {body[:200]!r}")
                    break
                await asyncio.sleep(0.05)
            await connection.close()

    async def comes_back(self, since: float) -> float:
        """Seconds until somebody is acknowledged again."""
        while self.last <= since:
            if time.monotonic() - since > LONGEST:
                raise TimeoutError(f"nothing was kept for {LONGEST:.0f} s")
            await asyncio.sleep(0.01)
        return self.last - since


def _kill(pids: list[int]) -> None:
    for pid in pids:
        with contextlib.suppress(ProcessLookupError):
            os.kill(pid, signal.SIGKILL)


async def _storm(application: Application, writers: Writers, number: int) -> list[float]:
    workers = [asyncio.create_task(writers.write(n)) for n in range(CLIENTS)]
    chance = random.Random(number)

    async def whole() -> None:
        await asyncio.to_thread(application.kill)
        await asyncio.to_thread(application.start)

    async def one_worker() -> None:
        ours = pids_with(str(application.folder))
        _kill([pid for pid in pids_with("mainspring.api.serve") if pid in ours][:1])

    async def the_database() -> None:
        _kill(application.database_pids())

    turns: list[Callable[[], object]] = [one_worker, the_database, whole]
    recoveries = []
    await writers.comes_back(writers.last)
    for i in range(number):
        await asyncio.sleep(chance.uniform(0.0, 0.3))
        since = time.monotonic()
        await turns[i % len(turns)]()  # type: ignore[misc]
        recoveries.append(await writers.comes_back(since))
    writers.ended = True
    await asyncio.gather(*workers)
    return recoveries


def measure(n: float = 1000) -> dict[str, float]:
    """Kills, what was acknowledged, lost, doubled and refused, and the slowest recovery [s]."""
    with tempfile.TemporaryDirectory(prefix="ms-kills-") as folder:
        application = Application(Path(folder), "--workers", "2")
        database = open_database(attach(Path(folder)) or "")
        line = transact(database, repository.summaries)[0].id
        before = {e.id for e in transact(database, lambda: repository.evidence(line))}
        database.close_all()
        writers = Writers(application, line)
        recoveries = asyncio.run(_storm(application, writers, int(n)))
        database = open_database(attach(Path(folder)) or "")
        found = [e.id for e in transact(database, lambda: repository.evidence(line)) if e.id not in before]
        head = transact(database, lambda: repository.head(line))
        database.close_all()
        application.stop()
    for refused in writers.refused[:3]:
        print(f"  {refused}")
    return {
        "kills": n,
        "acknowledged": len(writers.kept),
        "lost": len(set(writers.kept) - set(found)),
        "doubled": len(found) - len(set(found)),
        "refused": len(writers.refused),
        "counter_off": head.seq - len(found) - 2,
        "slowest_recovery_s": max(recoveries),
    }
