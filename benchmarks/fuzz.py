"""The hypothesis tests over every body and file, with many more examples than `./test` takes."""

import os
import subprocess
import sys
import time


def measure(examples: float = 2000) -> dict[str, float]:
    """Seconds, and whether any answer was a server error or none of ours."""
    begin = time.perf_counter()
    done = subprocess.run(
        [sys.executable, "-m", "pytest", "-q", "tests/api/test_fuzz.py"],
        env={**os.environ, "MAINSPRING_FUZZ": str(int(examples))},
        capture_output=True,
        text=True,
    )
    if done.returncode:
        print(done.stdout[-3000:])
    return {"examples": examples, "errors": int(done.returncode != 0), "seconds": time.perf_counter() - begin}
