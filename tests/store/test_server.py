"""The private server: its own, safe, and back after being killed."""

import os
import shutil
import signal
import stat
import subprocess
import sys
import tempfile
import threading
import time
from collections.abc import Iterator
from pathlib import Path

import pymysql
import pytest

from mainspring.store import repository
from mainspring.store import server as server_module
from mainspring.store.database import migrate, open_database, transact
from mainspring.store.errors import StoreUnavailable
from mainspring.store.models import database_proxy
from mainspring.store.repository import KeptLine
from mainspring.store.server import PrivateServer, ServerProblem, attach, private_server
from tests.threads import at_once


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
            with pytest.raises(pymysql.OperationalError, match="denied"):
                pymysql.connect(host="127.0.0.1", port=server.port, user=user, password=password)
        secret = folder / "database.secret"
        assert stat.S_IMODE(secret.stat().st_mode) == 0o600
        assert not (folder / "boot.sql").exists()
        assert attach(folder) == server.url
    assert attach(folder) is None


def test_a_secret_that_is_not_the_databases_is_said_and_the_right_one_put_back_opens_it(folder: Path) -> None:
    with private_server(folder, durable=False):
        pass
    secret = folder / "database.secret"
    right = secret.read_text()
    secret.write_text("of another folder")
    with pytest.raises(ServerProblem, match=r"does not know the secret in .*database\.secret"):
        PrivateServer(folder, durable=False).start()
    secret.write_text(right)
    with private_server(folder, durable=False) as server:
        assert attach(folder) == server.url


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
            kept = KeptLine(key, "s1", key, "", {}, 1, 1, repository.now())
            transact(database, lambda kept=kept: repository.create_line(kept, {}, "Ana"))  # type: ignore[misc]
            acknowledged.append(key)
        assert {s.id for s in transact(database, repository.summaries)} == set(acknowledged)
        assert server.url == address
        database.close_all()


def test_a_frozen_database_is_told_of_at_once_and_comes_back_by_itself(
    folder: Path, monkeypatch: pytest.MonkeyPatch
) -> None:
    with private_server(folder, durable=False) as server:
        database = open_database(server.url)
        migrate(database)
        assert transact(database, repository.sites) == []
        assert server.pid is not None
        os.kill(server.pid, signal.SIGSTOP)
        try:
            first = time.monotonic()
            with pytest.raises(StoreUnavailable, match="does not answer"):
                transact(database, repository.sites)
            assert time.monotonic() - first < 5  # a bar, not a measurement: it waits three
            others = at_once(*[lambda: transact(database, repository.sites)] * 6)
            assert {type(e) for e in others} == {StoreUnavailable}
            assert sum("fallen silent" in str(e) for e in others) >= 5  # refused without waiting
        finally:
            os.kill(server.pid, signal.SIGCONT)
        give_up = time.monotonic() + 30
        while True:
            try:
                assert transact(database, repository.sites) == []
                break
            except StoreUnavailable:
                assert time.monotonic() < give_up
                threading.Event().wait(0.2)
        database.close_all()


def test_a_leftover_that_hears_no_asking_is_ended_for_good(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    monkeypatch.setattr(server_module, "GRACE", 1.0)
    first = PrivateServer(folder, durable=False)
    first.start()
    left = first.pid
    assert left is not None
    os.kill(left, signal.SIGSTOP)  # it will hear no SIGTERM
    first._lock_file.close()  # type: ignore[union-attr] # as if its parent had been killed
    with private_server(folder, durable=False) as second:
        assert second.pid != left
        assert first._process is not None
        assert first._process.wait(20) == -signal.SIGKILL
        assert [int(e.name) for e in second._orphans()] == [second.pid]


def test_what_stands_in_the_way_is_said_in_a_sentence(folder: Path, monkeypatch: pytest.MonkeyPatch) -> None:
    nowhere = folder / "file"
    nowhere.write_text("")
    with pytest.raises(ServerProblem, match="cannot be used: Not a directory; free or open it"):
        PrivateServer(nowhere / "data").start()
    monkeypatch.setattr(server_module, "FIRST_ROOM", 10**18)
    with pytest.raises(ServerProblem, match="MB left and 1000000000000 MB are needed"):
        PrivateServer(folder / "full").start()
    emptied = folder / "emptied"
    (emptied / "mariadb").mkdir(parents=True)
    (emptied / "database.secret").write_text("")
    with pytest.raises(ServerProblem, match="holds no password, without which the database beside it"):
        PrivateServer(emptied).start()


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
