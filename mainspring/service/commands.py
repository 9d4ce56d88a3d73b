"""The one way in: what a person does to a line is one command, of which all is kept or nothing."""

import random
import time
from collections.abc import Callable

from mainspring.service.opened import Opened, OpenLines, shares
from mainspring.service.summary import summary_of
from mainspring.store import repository
from mainspring.store.errors import StoreUnavailable
from mainspring.store.repository import Change, Overtaken

Decide = Callable[[Opened], Change]
TRY_FOR = 20.0  # s; each try is one that somebody else's success has spoilt


def carry_out(lines: OpenLines, line_id: str, decide: Decide) -> tuple[Opened, Opened]:
    """Read, decide on what was read, write; once more from the start where somebody else was first.

    `decide` says what is to be kept, or raises why it cannot be; a refusal is told only after a fresh look. It must be
    safe to ask again: what it wants kept may have been kept by the last try, whose answer was lost. Returns the line
    before and after.
    """
    give_up = time.monotonic() + TRY_FOR
    fresh = False
    while True:
        with lines.alone(line_id):
            known = None if fresh else lines.held(line_id)
            before = known or lines.open(line_id)
            try:
                change = decide(before)
            except Exception:
                if known is None:
                    raise
                fresh = True  # it may have been decided on what is out of date
                continue
            if not change:
                if known is None:
                    return before, before
                fresh = True
                continue
            after = before.after(change)
            try:
                lines.transact(lambda c=change, a=after, b=before: _write(b, c, a))  # type: ignore[misc]
            except Overtaken:
                fresh = True
            else:
                lines.hold(after)
                return before, after
        if time.monotonic() > give_up:
            raise StoreUnavailable("too many write to this line at once")
        time.sleep(random.uniform(0.0, 0.02))


def _write(before: Opened, change: Change, after: Opened) -> None:
    touches = change.line is not None and shares(before.kept.record) != shares(change.line.record)
    repository.write(before.before(), change, summary_of(after), shares=touches)
