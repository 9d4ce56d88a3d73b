"""A year of a minute log: recognised, read, looked through, kept in the database and judged; plain pandas beside it.

The pandas script is told the layout and the format of the times; it reads, bins by hour and fits. Each runs in a
process of its own, three times, and the best counts; memory is what the process has more at its highest than at its
start.
"""

import io
import json
import math
import resource
import subprocess
import sys
import tempfile
import time
import uuid
from pathlib import Path

from mainspring.standins.meter import as_csv, measured_year

FORM, ISO = "%d/%m/%Y %H:%M", "%Y-%m-%d %H:%M:%S"
TRIES = 3


def memory_mb() -> float:
    """The most that this process has had."""
    return resource.getrusage(resource.RUSAGE_SELF).ru_maxrss / 1024


def ours(path: str) -> dict[str, float]:
    """Look, read, look through, keep and judge, by the application's own doors."""
    from mainspring.core.measured.claimed import Accuracy
    from mainspring.core.measured.saving import claim
    from mainspring.core.measured.trend import Means, means_of
    from mainspring.demo.load import load_demo
    from mainspring.demo.sites import demo_id
    from mainspring.service.service import Service
    from mainspring.store.database import migrate, open_database
    from mainspring.store.server import private_server

    content, promised, best = Path(path).read_bytes(), Accuracy(0.01, 0.02), {"whole_s": math.inf}
    with tempfile.TemporaryDirectory() as folder, private_server(Path(folder) / "data") as server:
        db = open_database(server.url)
        migrate(db)
        load_demo(db)
        logs, line = Service(db).logs, demo_id("PF-1")
        start = memory_mb()
        for _ in range(TRIES):
            begin, key = time.perf_counter(), str(uuid.uuid4())
            look = logs.look(line, content, "si", whole=True)
            logs.add(line, key, "before", "year.csv", look.layout.to_data(), content, "bench")
            read = time.perf_counter()
            trend = logs.trend(next(t for t in logs.kept(line) if t.id == key))
            hours = means_of(trend, ("power", "flow"))
            early = hours.times < float(trend.times[len(trend.times) // 2])
            sides = [
                Means(hours.times[r], hours.span, {q: c[r] for q, c in hours.columns.items()}) for r in (early, ~early)
            ]
            claim(sides[0], sides[1], "flow", None, (promised, promised), same_meters=True)
            end = time.perf_counter()
            if end - begin < best["whole_s"]:
                best = {
                    "rows": len(trend.times),
                    "import_s": read - begin,
                    "judge_s": end - read,
                    "whole_s": end - begin,
                }
        best["peak_mb"] = memory_mb() - start
        db.close()
    return best


def theirs(path: str, form: str = FORM) -> dict[str, float]:
    """The same import, binning and regression by plain pandas, which is told the layout."""
    import numpy as np
    import pandas as pd

    content = Path(path).read_bytes()
    best: dict[str, float] = {}
    for _ in range(TRIES):
        begin = time.perf_counter()
        table = pd.read_csv(io.BytesIO(content), header=0)
        table["Time"] = pd.to_datetime(table["Time"], format=form)
        hourly = table.set_index("Time").resample("1h").mean()
        flow, power = hourly["Flow (L/s)"], hourly["Pump power (kW)"]
        half = len(hourly) // 2
        curves = [np.polyfit(flow[rows], power[rows], 2) for rows in (slice(None, half), slice(half, None))]
        share = hourly.groupby(pd.cut(flow, 12), observed=True).agg(["mean", "count"])[("Flow (L/s)", "mean")]
        float(np.mean(np.polyval(curves[0], share) - np.polyval(curves[1], share)))
        whole = time.perf_counter() - begin
        if not best or whole < best["whole_s"]:
            best = {"whole_s": whole}
    return best


def measure(days: float = 365, iso: float = 0) -> dict[str, float]:
    """Rows, seconds to import and to judge, memory, and our time over pandas': below 1 ours is the faster.

    Times are written day first; with `iso` as pandas likes them best, year first.
    """
    form = ISO if iso else FORM
    with tempfile.TemporaryDirectory() as folder:
        path = Path(folder) / "year.csv"
        path.write_bytes(as_csv(measured_year(1, days=int(days), change_day=int(days) // 2), slice(None), form))
        found = {"theirs": _apart(f"theirs({str(path)!r}, {form!r})"), "ours": _apart(f"ours({str(path)!r})")}
    mine = found["ours"]
    return {
        "rows": mine["rows"],
        "import_s": mine["import_s"],
        "judge_s": mine["judge_s"],
        "peak_mb": mine["peak_mb"],
        "ratio_to_pandas": mine["whole_s"] / found["theirs"]["whole_s"],
    }


def _apart(call: str) -> dict[str, float]:
    code = f"import json; from benchmarks.log import ours, theirs; print(json.dumps({call}))"
    done = subprocess.run([sys.executable, "-c", code], capture_output=True, text=True, check=True)
    found: dict[str, float] = json.loads(done.stdout.splitlines()[-1])
    return found
