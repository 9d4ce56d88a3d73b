"""The application over the test database, called without a network."""

import uuid
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest
from peewee import Model, MySQLDatabase
from starlette.testclient import TestClient

from mainspring.api.app import create_app
from mainspring.api.settings import AppSettings
from mainspring.core.simulation import kernel
from mainspring.demo.load import load_demo
from mainspring.demo.sites import demo_id
from mainspring.store.database import transact
from mainspring.store.models import TABLES

Line = dict[str, Any]


@pytest.fixture(scope="session")
def compiled() -> None:
    """The kernel compiled before the first application is made.

    Else the application's own warming up compiles it on a thread, whose changes of Python's warning filters, which all
    threads share, can undo those that FastAPI makes while the next test's routes are declared.
    """
    kernel.compile_now()


@pytest.fixture
def client(db: MySQLDatabase, compiled: None, tmp_path: Path) -> Iterator[TestClient]:
    """A client whose server errors show as answers, as in a browser."""
    with TestClient(
        create_app(AppSettings(data=tmp_path / "data"), db), base_url="http://127.0.0.1", raise_server_exceptions=False
    ) as made:
        yield made


_DEMO: dict[type[Model], list[dict[str, Any]]] = {}  # rows of the demo, loaded once


@pytest.fixture
def demo(client: TestClient, db: MySQLDatabase) -> dict[str, str]:
    """The demo loaded; ids of its lines by tag."""

    def put_back() -> None:
        for model, rows in _DEMO.items():
            if rows:
                model.insert_many(rows).execute()

    if _DEMO:
        transact(db, put_back)
    else:
        load_demo(db)
        _DEMO.update(transact(db, lambda: {m: list(m.select().dicts()) for m in TABLES}))
    return {tag: demo_id(tag) for tag in ("CW-BST-1", "CW-BST-2", "PF-1", "IRR-P1")}


@pytest.fixture
def site_id(client: TestClient) -> str:
    """A fresh site."""
    key = str(uuid.uuid4())
    answer = client.post("/api/sites", json={"id": key, "name": "Test site", "by": "Ana"})
    assert answer.status_code == 201, answer.text
    return key


@pytest.fixture
def new_line(client: TestClient, site_id: str, records: dict[str, dict[str, Any]]) -> dict[str, Any]:
    """A fresh line with the clean booster's record."""
    record = {g: f for g, f in records["booster"].items() if g != "site"}
    body = {"id": str(uuid.uuid4()), "site_id": site_id, "tag": "P-1", "title": "pump", "record": record, "by": "Ana"}
    answer = client.post("/api/lines", json=body)
    assert answer.status_code == 201, answer.text
    found: dict[str, Any] = answer.json()
    return found
