"""Long work on a thread of its own, one after the other: told of as it goes, stopped when nobody wants it any more."""

import threading
from collections.abc import Callable
from concurrent.futures import Future, ThreadPoolExecutor
from dataclasses import dataclass, field

from pydantic import BaseModel

from mainspring.core.simulation.spread import Tell

Work = Callable[[Tell], BaseModel]


@dataclass
class Job:
    """One piece of long work: how far it is, and what came of it."""

    future: Future[BaseModel] = field(default_factory=Future)
    done: int = 0
    of: int = 0
    stopped: bool = False

    def tell(self, done: int, of: int) -> bool:
        """Called by the work as it goes on; False once it is to stop."""
        self.done, self.of = done, of
        return not self.stopped


class Workshop:
    """One job at a time; the others wait in the order they came."""

    def __init__(self) -> None:
        self._pool = ThreadPoolExecutor(1, "workshop")
        self._lock = threading.Lock()
        self._waiting: list[Job] = []
        self._running: Job | None = None

    def start(self, work: Work) -> Job:
        """Put work in the queue."""
        job = Job()
        with self._lock:
            self._waiting.append(job)

        def run() -> BaseModel:
            with self._lock:
                self._waiting.remove(job)
                self._running = job
            return work(job.tell)

        job.future = self._pool.submit(run)
        return job

    def before(self, job: Job) -> int:
        """How many wait before it; 0 once it runs."""
        with self._lock:
            return self._waiting.index(job) + 1 if job in self._waiting else 0

    def stop(self, job: Job) -> None:
        """Nobody wants it any more: out of the queue, or stopped at its next word."""
        job.stopped = True
        if job.future.cancel():
            with self._lock:
                self._waiting.remove(job)

    def end(self) -> None:
        """The application ends: let go of everything."""
        with self._lock:
            left = [*self._waiting, *([self._running] if self._running else [])]
        for job in left:
            self.stop(job)
        self._pool.shutdown(wait=False, cancel_futures=True)
