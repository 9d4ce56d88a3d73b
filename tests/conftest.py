"""Shared by all tests."""

import json
from pathlib import Path
from typing import Any

import pytest

from mainspring.core.line import Line, parse_line
from mainspring.demo import sites
from tests.database import database_url, db, migrated

__all__ = ["database_url", "db", "migrated"]


@pytest.fixture
def records() -> dict[str, dict[str, Any]]:
    """Fresh copies of the demo's records by name, with their site."""

    def with_site(record: dict[str, Any], site: dict[str, Any]) -> dict[str, Any]:
        copied: dict[str, Any] = json.loads(json.dumps({**record, "site": site["entries"]}))
        return copied

    return {
        "planted": with_site(sites.PLANTED, sites.ORRENDALE),
        "booster": with_site(sites.BOOSTER, sites.ORRENDALE),
        "filter": with_site(sites.FILTER, sites.ORRENDALE),
        "irrigation": with_site(sites.IRRIGATION, sites.MARROW),
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
