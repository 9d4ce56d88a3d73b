"""How long the application takes to open: the first time (database made, demo loaded) and the second."""

import tempfile
import time
from pathlib import Path

from tests.ui.conftest import Application


def measure() -> dict[str, float]:
    """Seconds to the printed address, first and second time, and their ratio."""
    with tempfile.TemporaryDirectory(prefix="ms-bench-") as folder:
        begin = time.perf_counter()
        application = Application(Path(folder))
        first = time.perf_counter() - begin
        application.stop()
        begin = time.perf_counter()
        application.start()
        second = time.perf_counter() - begin
        application.stop()
    return {"first_s": first, "second_s": second, "second_over_first": second / first}
