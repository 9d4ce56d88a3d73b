"""python -m benchmarks NAME [--OPTION NUMBER ...]: one of the measurements in this folder."""

import importlib
import inspect
import pkgutil
import sys

import benchmarks

NAMES = sorted(m.name for m in pkgutil.iter_modules(benchmarks.__path__) if not m.name.startswith("_"))


def main(arguments: list[str]) -> int:
    """Run the measurement named, with its options."""
    if not arguments or arguments[0] not in NAMES:
        print(f"usage: python -m benchmarks {{{','.join(NAMES)}}} [--OPTION NUMBER ...]", file=sys.stderr)
        return 2
    try:
        measure = importlib.import_module(f"benchmarks.{arguments[0]}").measure
    except ModuleNotFoundError as missing:
        print(f"{arguments[0]} needs {missing.name}, which comes with the tests: run ./test once", file=sys.stderr)
        return 2
    try:
        options = {a.removeprefix("--"): float(b) for a, b in zip(arguments[1::2], arguments[2::2], strict=True)}
        inspect.signature(measure).bind(**options)
    except (ValueError, TypeError):
        print(f"{arguments[0]} takes {inspect.signature(measure)}, each as --OPTION NUMBER", file=sys.stderr)
        return 2
    result: dict[str, float] = measure(**options)
    print(" ".join(f"{k}={v:.4g}" for k, v in result.items()))
    return 0


if __name__ == "__main__":
    sys.exit(main(sys.argv[1:]))
