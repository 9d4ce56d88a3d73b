"""Writes every practice value with its source: `python -m mainspring.core.practice FILE`."""

import sys
from pathlib import Path

from mainspring.core.practice import PRACTICE
from mainspring.core.quantity import DIMENSIONS


def listed() -> str:
    """The values as a document, by their names."""
    rows = [
        f"| `{p.id}` | {p.label} | {DIMENSIONS[p.dimension].show(float(p.figure))} | {_own(p.own, p.dimension)} | {p.source} |"
        for p in sorted(PRACTICE.values(), key=lambda p: p.id)
    ]
    head = (
        "# What the trade goes by\n\nMade from `mainspring/core/practice`, where each value is named once and used by checks,"
        " settings,\ncharts and sentences alike. Where people differ, a site may set its own within the bounds shown.\n\n"
        "| Name | What it is | Value | A site's own | Source |\n|---|---|---|---|---|\n"
    )
    return head + "\n".join(rows) + "\n"


def _own(own: tuple[float, float] | None, dimension: str) -> str:
    return "" if own is None else " to ".join(DIMENSIONS[dimension].show(v) for v in own)


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(listed())
