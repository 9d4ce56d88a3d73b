"""What others keep is told as it happens, by one process or several, and the end is clean."""

import http.client
import json
import os
import shutil
import signal
import tempfile
import threading
import urllib.request
import uuid
from collections.abc import Iterator
from pathlib import Path
from typing import Any

import pytest

from tests.ui.conftest import Application, pids_with


@pytest.fixture(scope="module")
def crew() -> Iterator[Application]:
    """The application answered by two workers."""
    folder = Path(tempfile.mkdtemp(prefix="ms-crew-", dir="/dev/shm" if os.access("/dev/shm", os.W_OK) else None))
    made = Application(folder, "--workers", "2")
    yield made
    if made.process is not None and made.process.poll() is None:
        made.stop()
    shutil.rmtree(folder, ignore_errors=True)


class Stream:
    """A stream of events, read as they come."""

    def __init__(self, application: Application, line: str) -> None:
        self.connection = http.client.HTTPConnection("127.0.0.1", application.port, timeout=60)
        self.connection.request("GET", f"/api/lines/{line}/stream")
        self.answer = self.connection.getresponse()
        assert self.answer.status == 200
        assert self.answer.headers["content-type"].startswith("text/event-stream")

    def next(self) -> dict[str, Any]:
        """The next event."""
        while True:
            text = self.answer.fp.readline().decode()
            assert text, "the stream ended"
            if text.startswith("data: "):
                found: dict[str, Any] = json.loads(text.removeprefix("data: "))
                return found

    def after(self, seq: int) -> dict[str, Any]:
        """The next event that tells of a later count; beats in between are passed over."""
        while (found := self.next())["seq"] <= seq:
            pass
        return found


def line_of(application: Application) -> str:
    with urllib.request.urlopen(f"{application.url}/api/round") as answer:
        return str(json.load(answer)["sites"][0]["lines"][0]["id"])


def workers_of(application: Application) -> list[int]:
    """Processes that answer for this application, and not for another test's."""
    return [pid for pid in pids_with("mainspring.api.serve") if pid in pids_with(str(application.folder))]


def keeps(application: Application, line: str) -> dict[str, Any]:
    body = {"id": str(uuid.uuid4()), "step": "isolate.lock_out", "kind": "note", "by": "Ana", "note": "seen"}
    request = urllib.request.Request(
        f"{application.url}/api/lines/{line}/evidence",
        json.dumps(body).encode(),
        {"Content-Type": "application/json"},
        method="POST",
    )
    with urllib.request.urlopen(request) as answer:
        found: dict[str, Any] = json.load(answer)
        return found


def test_an_entry_is_told_to_all_who_watch_whichever_worker_took_it(crew: Application) -> None:
    line = line_of(crew)
    streams = [Stream(crew, line) for _ in range(6)]
    seq = max(s.next()["seq"] for s in streams)
    for _ in range(4):
        seq = keeps(crew, line)["seq"]
        assert {s.after(seq - 1)["seq"] for s in streams} == {seq}
    for stream in streams:
        stream.connection.close()


def test_a_worker_that_is_killed_is_started_anew_and_nobody_hangs(crew: Application) -> None:
    line = line_of(crew)
    before = workers_of(crew)
    seq = keeps(crew, line)["seq"]
    os.kill(before[0], signal.SIGKILL)
    for _ in range(6):
        try:
            seq = keeps(crew, line)["seq"]
        except OSError:  # the connection that the dead one had
            continue
    give_up = threading.Event()
    for _ in range(300):
        now = workers_of(crew)
        if len(now) == 2 and before[0] not in now:
            break
        give_up.wait(0.1)
    assert len(workers_of(crew)) == 2
    assert keeps(crew, line)["seq"] > seq


def test_a_line_that_is_not_there_has_no_stream(crew: Application) -> None:
    connection = http.client.HTTPConnection("127.0.0.1", crew.port, timeout=60)
    connection.request("GET", f"/api/lines/{uuid.uuid4()}/stream")
    assert connection.getresponse().status == 404
    connection.close()


def test_open_streams_do_not_hold_up_the_end(crew: Application) -> None:
    streams = [Stream(crew, line_of(crew)) for _ in range(3)]
    for stream in streams:
        stream.next()
    assert crew.stop() == 0
    for stream in streams:
        assert stream.answer.fp.read().endswith(b"0\r\n\r\n")  # to its proper end
        stream.connection.close()
    assert workers_of(crew) == []
    assert crew.database_pids() == []
