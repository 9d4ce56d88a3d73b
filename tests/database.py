"""A private MariaDB for the tests: one server a session, emptied between tests."""

import os
import shutil
import tempfile
from collections.abc import Iterator
from pathlib import Path

import pytest
from peewee import MySQLDatabase

from mainspring.store import repository
from mainspring.store.database import migrate, open_database, transact
from mainspring.store.models import database_proxy
from mainspring.store.server import private_server


@pytest.fixture(scope="session")
def database_url() -> Iterator[str]:
    """Address of the server: TEST_DATABASE_URL, or a private one in memory."""
    given = os.environ.get("TEST_DATABASE_URL")
    if given:
        yield given
        return
    where = "/dev/shm" if os.access("/dev/shm", os.W_OK) else None
    folder = Path(tempfile.mkdtemp(prefix="mainspring-test-", dir=where))
    try:
        with private_server(folder, durable=False) as server:
            yield server.url
    finally:
        shutil.rmtree(folder, ignore_errors=True)


@pytest.fixture(scope="session")
def migrated(database_url: str) -> MySQLDatabase:
    """The database with its tables."""
    database = open_database(database_url)
    migrate(database)
    return database


@pytest.fixture
def db(migrated: MySQLDatabase) -> MySQLDatabase:
    """The database, empty."""
    database_proxy.initialize(migrated)  # a test may have opened another
    transact(migrated, repository.remove_everything)
    return migrated
