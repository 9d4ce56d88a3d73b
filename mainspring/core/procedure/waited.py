"""How long a wait lasted, by the clocks that saw it."""

from mainspring.core.procedure.clock import Clock, elapsed, ran_between
from mainspring.core.procedure.evidence import Evidence


def seconds_waited(start: Evidence, end: Evidence) -> float:
    """Seconds between the start of a wait and its end: as long as a clock saw it that ran through.

    Where the server saw the end, its clocks count: from when it saw the start, or was told of it. Where it was told of
    both, the running clock of the device on which both were made counts; without one, what the server's saw between
    the two. Only from paper does the word of whoever typed it in count.
    """
    by_word = (end.at - start.at).total_seconds()
    if end.clock is None:
        return by_word
    by_clock = elapsed(start.clock or Clock(start.received or start.at), end.clock)
    if end.received is None:
        return by_clock
    if end.paper and start.paper:
        return by_word
    by_device = ran_between(start.clock, end.clock)
    return min(by_word, by_clock if by_device is None else by_device)
