"""Listening: one process, or several workers under a parent that owns the database and restarts who ends."""

import os
import signal
import socket
import subprocess
import sys
import threading
from types import FrameType

import uvicorn
from peewee import MySQLDatabase

from mainspring.api.app import create_app
from mainspring.api.settings import AppSettings
from mainspring.store.database import open_database

GRACE = 3  # s that open requests are given at the end
URL = "MAINSPRING_DATABASE_URL"  # by the environment and not the command line, which anybody on the machine can read


class CannotListen(OSError):
    """The address cannot be listened on; the text says why."""


class Server(uvicorn.Server):
    """A server whose streams end when it is told to, instead of being waited for."""

    def handle_exit(self, sig: int, frame: FrameType | None) -> None:
        """Told to end."""
        self.config.app.state.watch.ended = True  # type: ignore[union-attr]
        super().handle_exit(sig, frame)


def serve(settings: AppSettings, database: MySQLDatabase) -> None:
    """Serve in this process until told to end; prints the address once it answers."""
    server = _server(settings, database)  # what takes time comes first: whoever comes at once is answered at once
    listener = bind(settings.host, settings.port)
    for told in (signal.SIGTERM, signal.SIGINT):  # from the address on: an exception raised meanwhile could be lost
        signal.signal(told, server.handle_exit)
    _tell(listener)
    server.run(sockets=[listener])


def _server(settings: AppSettings, database: MySQLDatabase) -> Server:
    config = uvicorn.Config(create_app(settings, database), log_level="warning", timeout_graceful_shutdown=GRACE)
    config.load()
    return Server(config)


def _tell(listener: socket.socket) -> None:
    host, port = listener.getsockname()[:2]
    print(f"Mainspring is open at http://{'[::1]' if ':' in host else host}:{port}  (Ctrl-C ends it)", flush=True)


def bind(host: str, port: int, *, shared: bool = False) -> socket.socket:
    """A socket on the port wanted, or on a free one when that is taken; `shared` by workers, each with its own."""
    family = socket.AF_INET6 if ":" in host else socket.AF_INET
    for candidate in (port, 0):
        # TCP named outright: only then does asyncio turn Nagle's delay off, which costs 40 ms an answer
        listener = socket.socket(family, socket.SOCK_STREAM, socket.IPPROTO_TCP)
        listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEADDR, 1)
        if shared:
            listener.setsockopt(socket.SOL_SOCKET, socket.SO_REUSEPORT, 1)
        try:
            listener.bind((host, candidate))
            if not shared:
                listener.listen(256)  # before the address is told: who comes at once waits instead of being refused
        except OSError as error:
            listener.close()
            if candidate == 0:
                raise CannotListen(f"cannot listen on {host}: {error.strerror}") from None
            print(f"Port {port} is taken; using a free one.", file=sys.stderr)
            continue
        return listener
    raise AssertionError("unreachable")


def serve_with_workers(settings: AppSettings, url: str, number: int) -> None:
    """Serve by several processes, each with its own socket on one port; one that ends is started anew.

    The parent holds the port and takes no connection, so that none waits at a worker that is gone.
    """
    held = bind(settings.host, settings.port, shared=True)
    host, port = held.getsockname()[:2]
    # ends with its parent, which owns the database, and at once: what it had in hand is sent again
    command = [
        "setpriv",
        "--pdeathsig",
        "KILL",
        sys.executable,
        "-m",
        "mainspring.api.serve",
        host,
        str(port),
        str(settings.data),
        str(settings.web),
    ]
    environment = {**os.environ, URL: url}
    ending = threading.Event()
    workers: dict[int, subprocess.Popen[str]] = {}

    def start(slot: int) -> None:
        workers[slot] = subprocess.Popen(command, env=environment, stdout=subprocess.PIPE, text=True)

    def listens(slot: int) -> None:
        said = workers[slot].stdout
        assert said is not None
        said.readline()

    def keep(slot: int) -> None:
        while not ending.is_set():
            workers[slot].wait()
            if not ending.wait(0.1):
                start(slot)

    try:
        for slot in range(number):
            start(slot)
        for slot in range(number):
            listens(slot)
            threading.Thread(target=keep, args=(slot,), daemon=True).start()
        _tell(held)
        signal.pause()
    finally:
        ending.set()
        for worker in workers.values():
            worker.terminate()
        for worker in workers.values():
            worker.wait(GRACE + 10)


def _work(host: str, port: str, data: str, web: str) -> None:
    """One worker."""
    from pathlib import Path

    settings = AppSettings(host=host, port=int(port), data=Path(data), web=Path(web))
    server = _server(settings, open_database(os.environ[URL]))
    listener = bind(host, int(port), shared=True)
    listener.listen(256)
    print("listening", flush=True)
    server.run(sockets=[listener])


if __name__ == "__main__":
    _work(*sys.argv[1:])
