"""The private server: its own, safe, and back after being killed."""

import os
import shutil
import signal
import stat
import subprocess
import sys
import tempfile
import time
from collections.abc import Iterator
from pathlib import Path

import pymysql
import pytest

from mainspring.store import repository
from mainspring.store.database import migrate, open_database, transact
from mainspring.store.models import database_proxy
from mainspring.store.server import PrivateServer, ServerProblem, attach, private_server


@pytest.fixture
def folder() -> Iterator[Path]:
    made = Path(tempfile.mkdtemp(prefix="ms-", dir="/dev/shm" if os.access("/dev/shm", os.W_OK) else None))
    before = database_proxy.obj
    yield made
    database_proxy.initialize(before)
    shutil.rmtree(made, ignore_errors=True)


def wait_for(ready: "object", seconds: float = 30) -> None:
    end = time.monotonic() + seconds
    while not ready():  # type: ignore[operator]
        assert time.monotonic() < end, "it did not happen in time"
        time.sleep(0.05)


def test_nobody_else_gets_in(folder: Path) -> None:
    with private_server(folder, durable=False) as server:
        for user, password in (("root", ""), ("", ""), ("mainspring", ""), ("mainspring", "guess")):
            with pytest.raises(pymysql.OperationalError):
                pymysql.connect(host="127.0.0.1", port=server.port, user=user, password=password)
        secret = folder / "database.secret"
        assert stat.S_IMODE(secret.stat().st_mode) == 0o600
        assert not (folder / "boot.sql").exists()
        assert attach(folder) == server.url
    assert attach(folder) is None


def test_a_second_application_on_the_same_folder_is_told_so(folder: Path) -> None:
    with private_server(folder, durable=False), pytest.raises(ServerProblem, match="another Mainspring"):
        PrivateServer(folder, durable=False).start()


def test_killed_in_the_middle_it_comes_back_with_everything_acknowledged(folder: Path) -> None:
    with private_server(folder) as server:
        server.watch()
        address = server.url
        database = open_database(address)
        migrate(database)
        transact(database, lambda: repository.create_site("s1", "Site", "si", {}, "Ana"))
        acknowledged = []
        for i in range(40):
            if i in (10, 11, 12, 25):  # also while the watch is still seeing it back from the last time
                assert server.pid is not None
                os.kill(server.pid, signal.SIGKILL)
            key = f"l{i}"
            transact(database, lambda key=key: repository.create_line(key, "s1", key, "", {}, 1, {}, "Ana"))  # type: ignore[misc]
            acknowledged.append(key)
        assert {kept.id for kept in transact(database, repository.lines)} == set(acknowledged)
        assert server.url == address
        database.close_all()


def test_leftovers_of_a_kill_do_not_stand_in_the_way(folder: Path) -> None:
    code = (
        "import sys,time\nfrom pathlib import Path\nfrom mainspring.store.server import PrivateServer\n"
        "s=PrivateServer(Path(sys.argv[1]),durable=False)\ns.start()\nprint(s.pid,flush=True)\ntime.sleep(600)"
    )
    first = subprocess.Popen([sys.executable, "-c", code, str(folder)], stdout=subprocess.PIPE, text=True)
    assert first.stdout is not None
    child = int(first.stdout.readline())
    first.kill()
    first.wait()
    first.stdout.close()
    wait_for(lambda: not Path(f"/proc/{child}").exists())  # the server ends with its parent
    (folder / "mariadb.pid").write_text("1")  # stale
    (folder / "mariadb.sock").touch()
    with private_server(folder, durable=False) as server:
        assert server.pid


def test_an_interrupted_making_is_begun_again(folder: Path) -> None:
    (folder / "mariadb.new").mkdir()
    (folder / "mariadb.new" / "half").write_text("x")
    with private_server(folder, durable=False) as server:
        assert server.pid
    assert not (folder / "mariadb.new").exists()
