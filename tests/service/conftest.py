"""A line in the store, and services over it as several processes would have them."""

import uuid
from datetime import UTC, datetime, timedelta
from typing import Any

import pytest
from peewee import MySQLDatabase

from mainspring.core.procedure import Clock
from mainspring.service.run import Entry, RunSheets
from mainspring.service.service import Service

LOCK, WAIT, ABSENCE = "isolate.lock_out", "isolate.capacitors", "isolate.absence"


def entry(step: str, kind: str = "tick", by: str = "Ana", id: str | None = None, **more: Any) -> Entry:
    """An entry as somebody would send it."""
    return Entry(id or str(uuid.uuid4()), step, kind, more.pop("data", {}), by, **more)


class Clocks:
    """The clocks of a machine, set by hand."""

    def __init__(self) -> None:
        self.wall = datetime(2026, 3, 2, 9, 0, tzinfo=UTC)
        self.boot, self.uptime = "first boot", 1000.0

    def __call__(self) -> Clock:
        """What they show."""
        return Clock(self.wall, self.boot, self.uptime)

    def go(self, seconds: float) -> None:
        """Time passes."""
        self.wall += timedelta(seconds=seconds)
        self.uptime += seconds

    def set(self, hours: float) -> None:
        """Somebody sets the wall's clock."""
        self.wall += timedelta(hours=hours)

    def reboot(self, seconds: float) -> None:
        """The machine starts anew."""
        self.wall += timedelta(seconds=seconds)
        self.boot, self.uptime = str(uuid.uuid4()), 5.0


@pytest.fixture
def service(db: MySQLDatabase) -> Service:
    """One process."""
    return Service(db)


@pytest.fixture
def other(db: MySQLDatabase) -> Service:
    """Another process over the same store."""
    return Service(db)


@pytest.fixture
def line_id(service: Service, records: dict[str, dict[str, Any]]) -> str:
    """The clean booster."""
    return a_line(service, records["booster"])


def a_line(service: Service, record: dict[str, Any], tag: str = "P-1") -> str:
    """A line with a record, on a site of its own."""
    site, key = str(uuid.uuid4()), str(uuid.uuid4())
    service.lines.create_site(site, f"Site of {tag}", "si", record["site"], "Ana")
    service.lines.create(key, site, tag, "pump", {g: f for g, f in record.items() if g != "site"}, "Ana")
    return key


@pytest.fixture
def clocks(service: Service) -> Clocks:
    """The clocks that the service goes by."""
    made = Clocks()
    service.run = RunSheets(service.open_lines, made)
    return made
