"""Fifty at once, drafting, keeping readings, opening lines and run sheets, watching; with people's pauses, and none."""

import asyncio
import random
import statistics
import subprocess
import sys
import tempfile
import time
from pathlib import Path
from typing import Any

from benchmarks._crew import SETS, Connection, Gone, Tally, crew, note
from mainspring.demo import pumps
from mainspring.store import repository
from mainspring.store.database import open_database, transact
from mainspring.store.server import attach
from tests.ui.conftest import Application

CLIENTS = 50
PAUSE = (1.0, 2.0)  # s
MIX = {"draft": 30, "keep": 20, "open": 15, "run": 15, "watch": 20}  # %


class Crowd:
    """What one client does next, on the lines of the demo."""

    def __init__(self, lines: list[str]) -> None:
        self.lines = lines
        self.tags: dict[str, str] = {}
        self.first_id = random.Random(time.time_ns()).getrandbits(64)

    async def act(self, connection: Connection, chance: random.Random, tally: Tally) -> None:
        """One request of the mix."""
        line = chance.choice(self.lines)
        what = chance.choices(list(MIX), list(MIX.values()))[0]
        try:
            status = await getattr(self, what)(connection, chance, tally, line)
        except Gone as gone:
            tally.errors.append(f"{what}: {gone}")
            return
        if status not in (200, 201, 304):
            tally.errors.append(f"{what}: {status}")

    async def draft(self, connection: Connection, chance: random.Random, _: Tally, __: str) -> int:
        """A record being typed."""
        motor = {**pumps.BOOSTER["motor"], "rated_speed": {"value": 1440.0 + chance.randrange(40)}}
        status, _body, _tag = await connection.ask("POST", "/api/assess", {"record": {**pumps.BOOSTER, "motor": motor}})
        return status

    async def keep(self, connection: Connection, chance: random.Random, tally: Tally, line: str) -> int:
        """An entry of the run sheet."""
        body = note(random.Random(chance.getrandbits(64) ^ self.first_id))
        status, _body, _tag = await connection.ask("POST", f"/api/lines/{line}/evidence", body)
        if status == 201:
            tally.kept[body["id"]] = line
        return status

    async def open(self, connection: Connection, _: random.Random, __: Tally, line: str) -> int:
        """A line opened."""
        return (await connection.ask("GET", f"/api/lines/{line}"))[0]

    async def run(self, connection: Connection, _: random.Random, __: Tally, line: str) -> int:
        """A run sheet opened."""
        return (await connection.ask("GET", f"/api/lines/{line}/run"))[0]

    async def watch(self, connection: Connection, _: random.Random, __: Tally, line: str) -> int:
        """A look whether anything has changed."""
        status, _body, self.tags[line] = await connection.ask("GET", f"/api/lines/{line}", tag=self.tags.get(line, ""))
        return status


def quantile(values: list[float], share: float) -> float:
    """A quantile [ms]."""
    return statistics.quantiles(values, n=1000, method="inclusive")[round(share * 1000) - 1] * 1e3


def measure(seconds: float = 60, clients: float = CLIENTS, workers: float = 1) -> dict[str, float]:
    """Milliseconds with pauses (p50, p95, p99); requests a second without; both of bare FastAPI; nothing lost."""
    with tempfile.TemporaryDirectory(prefix="ms-crowd-") as folder:
        application = Application(Path(folder), "--workers", str(int(workers)))
        database = open_database(attach(Path(folder)) or "")
        lines = [s.id for s in transact(database, repository.summaries) if s.tag not in SETS]
        crowd = Crowd(lines)
        asyncio.run(_warm(application.port, lines))
        paced = asyncio.run(crew(application.port, int(clients), seconds, crowd.act, PAUSE))
        driven = asyncio.run(crew(application.port, int(clients), seconds, crowd.act, None))
        acknowledged = paced.kept | driven.kept
        found = [e.id for line in lines for e in transact(database, lambda k=line: repository.evidence(k))]  # type: ignore[misc]
        lost = len(set(acknowledged) - set(found))
        bare = _bare(attach(Path(folder)) or "", lines[0], int(clients), min(seconds, 10.0))
        database.close_all()
        application.stop()
    for error in sorted(set(paced.errors + driven.errors))[:5]:
        print(f"  {error}", file=sys.stderr)
    requests = len(driven.seconds) / seconds
    print(
        f"  with pauses: {len(paced.seconds)} requests, p50 {quantile(paced.seconds, 0.5):.1f} ms; without:"
        f" {len(driven.seconds)}, p95 {quantile(driven.seconds, 0.95):.0f} ms; kept {len(acknowledged)};"
        f" bare {bare:.0f}/s"
    )
    return {
        "p95_ms": quantile(paced.seconds, 0.95),
        "p99_ms": quantile(paced.seconds, 0.99),
        "requests_per_s": requests,
        "errors": len(paced.errors) + len(driven.errors),
        "lost": lost,
        "doubled": len(found) - len(set(found)),
        "ratio_to_bare": requests / bare,
    }


async def _warm(port: int, lines: list[str]) -> None:
    """Until the application says that it is warm, and every line was opened once."""
    connection = Connection(port)
    while b'"loop_ready":true' not in (await connection.ask("GET", "/api/health"))[1]:
        await asyncio.sleep(0.2)
    for line in lines:
        await connection.ask("GET", f"/api/lines/{line}/run")
    await connection.close()


def _bare(url: str, line: str, clients: int, seconds: float) -> float:
    """Requests a second of FastAPI that answers one row by its primary key, on the same database."""
    code = [sys.executable, "-m", "benchmarks._bare", url]
    with subprocess.Popen(code, stdout=subprocess.PIPE, text=True) as process:
        assert process.stdout is not None
        port = int(process.stdout.readline())

        async def act(connection: Connection, _: random.Random, tally: Tally) -> None:
            status: Any = (await connection.ask("GET", f"/{line}"))[0]
            if status != 200:
                tally.errors.append(f"bare: {status}")

        tally = asyncio.run(crew(port, clients, seconds, act, None))
        process.terminate()
    return len(tally.seconds) / seconds
