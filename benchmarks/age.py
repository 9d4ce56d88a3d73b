"""Does a line get slower with age? The same entry and the same look, where little is kept and where much is."""

import asyncio
import random
import statistics
import tempfile
import time
from pathlib import Path

from benchmarks._crew import Connection, note
from mainspring.demo.sites import demo_id
from tests.ui.conftest import Application

YOUNG, OLD = demo_id("CT-1"), demo_id("WD-1")


def measure(pieces: float = 1000, tries: float = 60) -> dict[str, float]:
    """Milliseconds to keep an entry and to open the line, with 10 pieces of evidence and with many; the ratios."""
    with tempfile.TemporaryDirectory(prefix="ms-age-") as folder:
        application = Application(Path(folder))
        try:
            found = asyncio.run(_lines(application.port, int(pieces), int(tries)))
        finally:
            application.stop()
    ratios = {f"{what}_ratio": found[f"{what}_old_ms"] / found[f"{what}_young_ms"] for what in ("keep", "open")}
    return {**found, **ratios}


async def _lines(port: int, pieces: int, tries: int) -> dict[str, float]:
    connection, chance = Connection(port), random.Random(7)
    await _keep(connection, YOUNG, chance, 10)
    await _keep(connection, OLD, chance, pieces)
    spent: dict[str, list[float]] = {f"{w}_{a}_ms": [] for w in ("keep", "open") for a in ("young", "old")}
    for _ in range(tries):  # in turn, so that the machine's moods meet both
        for age, line in (("young", YOUNG), ("old", OLD)):
            begin = time.perf_counter()
            await _keep(connection, line, chance, 1)
            spent[f"keep_{age}_ms"].append(time.perf_counter() - begin)
            begin = time.perf_counter()
            status, _, _ = await connection.ask("GET", f"/api/lines/{line}")
            assert status == 200, status
            spent[f"open_{age}_ms"].append(time.perf_counter() - begin)
    await connection.close()
    return {name: statistics.median(times) * 1e3 for name, times in spent.items()}


async def _keep(connection: Connection, line: str, chance: random.Random, count: int) -> None:
    for _ in range(count):
        status, answer, _ = await connection.ask("POST", f"/api/lines/{line}/evidence", note(chance))
        assert status == 201, answer
