"""python -m benchmarks NAME: one of the measurements in this folder."""

import importlib
import pkgutil
import sys

import benchmarks

NAMES = sorted(m.name for m in pkgutil.iter_modules(benchmarks.__path__) if not m.name.startswith("_"))


def main() -> int:
    """Run the measurement named."""
    if len(sys.argv) != 2 or sys.argv[1] not in NAMES:
        print(f"usage: python -m benchmarks {{{','.join(NAMES)}}}", file=sys.stderr)
        return 2
    result: dict[str, float] = importlib.import_module(f"benchmarks.{sys.argv[1]}").measure()
    print(" ".join(f"{k}={v:.4g}" for k, v in result.items()))
    return 0


sys.exit(main())
