"""The least that could answer: one row by its primary key, through the same framework, server and driver."""

import socket
import sys

import uvicorn
from fastapi import FastAPI

from mainspring.store.database import open_database, transact
from mainspring.store.models import DriveLine


def main(url: str) -> None:
    """Serve until ended; prints the port."""
    database = open_database(url)
    app = FastAPI()

    @app.get("/{line_id}")
    def row(line_id: str) -> dict[str, str]:
        query = DriveLine.select(DriveLine.id, DriveLine.tag).where(DriveLine.id == line_id).tuples()
        found = transact(database, query.first)
        return {"id": found[0], "tag": found[1]}

    listener = socket.socket(socket.AF_INET, socket.SOCK_STREAM, socket.IPPROTO_TCP)
    listener.bind(("127.0.0.1", 0))
    listener.listen(256)
    config = uvicorn.Config(app, log_level="error")
    config.load()
    print(listener.getsockname()[1], flush=True)
    uvicorn.Server(config).run(sockets=[listener])


main(sys.argv[1])
