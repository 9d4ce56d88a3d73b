"""Shared by all tests."""

import json
from pathlib import Path
from typing import Any

import hypothesis
import pytest

from mainspring.core.line import Line, parse_line
from mainspring.demo import fans, pumps, sites
from tests.database import database_url, db, migrated

__all__ = ["database_url", "db", "migrated"]
# a slow, shared machine: examples are counted, never timed
hypothesis.settings.register_profile("house", deadline=None)
hypothesis.settings.load_profile("house")


@pytest.fixture
def records() -> dict[str, dict[str, Any]]:
    """Fresh copies of the demo's records by name, with their site."""

    def with_site(record: dict[str, Any], site: dict[str, Any]) -> dict[str, Any]:
        copied: dict[str, Any] = json.loads(json.dumps({**record, "site": site["entries"]}))
        return copied

    def one_drive(record: dict[str, Any]) -> dict[str, Any]:
        return {**record, "machine": {**record["machine"], "count": 1.0}}

    at_home = {
        "planted": one_drive(pumps.PLANTED),
        "booster": one_drive(pumps.BOOSTER),
        "set": pumps.BOOSTER,
        "filter": pumps.FILTER,
        "borehole": pumps.BOREHOLE,
        "wet_well": pumps.WET_WELL,
        "supply_fan": fans.SUPPLY_FAN,
        "exhaust": fans.POOL_EXHAUST,
        "fan_wall": fans.FAN_WALL,
    }
    abroad = {
        "irrigation": pumps.IRRIGATION,
        "circulator": pumps.CIRCULATOR,
        "wash_down": pumps.WASH_DOWN,
        "tower": fans.TOWER_FAN,
    }
    return {n: with_site(r, sites.ORRENDALE) for n, r in at_home.items()} | {
        n: with_site(r, sites.MARROW) for n, r in abroad.items()
    }


@pytest.fixture
def booster(records: dict[str, dict[str, Any]]) -> Line:
    """The clean booster line."""
    return line_of(records["booster"])


def line_of(record: dict[str, Any]) -> Line:
    """A line from plain data that must be without problems."""
    line, problems = parse_line(record)
    assert not problems, problems
    return line


ROOT = Path(__file__).parents[1]
