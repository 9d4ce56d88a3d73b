"""Waits that cannot be cut short: a moment by two clocks, and how long ago another was."""

from dataclasses import dataclass
from datetime import datetime


@dataclass(frozen=True)
class Clock:
    """A moment by the wall's clock, and by one that cannot jump: seconds since one boot of one machine.

    `device` and `ran` are the same of the device on which an entry was made: one run of its application, and the
    seconds since that began.
    """

    wall: datetime
    boot: str = ""
    uptime: float = 0.0
    device: str = ""
    ran: float = 0.0


def elapsed(since: Clock, now: Clock) -> float:
    """Seconds between two moments: the least that either clock says, so that setting a clock shortens no wait.

    Between two boots, or two machines, only the wall's clock can say. Negative where it was set back.
    """
    by_wall = (now.wall - since.wall).total_seconds()
    if since.boot and since.boot == now.boot:
        return min(by_wall, now.uptime - since.uptime)
    return by_wall


def ran_between(since: Clock | None, now: Clock | None) -> float | None:
    """Seconds between two moments by the running clock of one device; None where it did not run through."""
    if since is None or now is None or not since.device or since.device != now.device:
        return None
    return now.ran - since.ran
