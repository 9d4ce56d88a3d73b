"""Things that happen at the same moment: real threads, let go together."""

import threading
from collections.abc import Callable


def at_once(*works: Callable[[], object]) -> list[object]:
    """Real threads, let go together; what each gave or raised."""
    barrier = threading.Barrier(len(works))
    found: list[object] = [None] * len(works)

    def run(i: int) -> None:
        barrier.wait(30)
        try:
            found[i] = works[i]()
        except Exception as error:
            found[i] = error

    threads = [threading.Thread(target=run, args=(i,)) for i in range(len(works))]
    for thread in threads:
        thread.start()
    for thread in threads:
        thread.join()
    return found
