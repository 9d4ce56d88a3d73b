"""Writes every practice value with its source: `python -m mainspring.core.practice FILE`."""

import sys
from pathlib import Path

from mainspring.core.practice import PRACTICE, Practice
from mainspring.core.quantity import DIMENSIONS


def listed() -> str:
    """The values as a document, by their names."""
    rows = [_row(p) for p in sorted(PRACTICE.values(), key=lambda p: p.id)]
    head = (
        "# What the trade goes by\n\nMade from `mainspring/core/practice`, where each value is named once and used by"
        " checks, settings,\ncharts and sentences alike. Where people differ, a site may set its own within the bounds"
        " shown.\n\n| Name | What it is | Value | A site's own | Source |\n|---|---|---|---|---|\n"
    )
    return head + "\n".join(rows) + "\n"


def _row(value: Practice) -> str:
    show = DIMENSIONS[value.dimension].show
    own = "" if value.own is None else " to ".join(show(v) for v in value.own)
    return f"| `{value.id}` | {value.label} | {show(float(value.figure))} | {own} | {value.source} |"


if __name__ == "__main__":
    Path(sys.argv[1]).write_text(listed())
