"""The stream of a line while looks come and go: told of what moved, and never spinning on what is not known."""

import asyncio
from concurrent.futures import ThreadPoolExecutor
from typing import Any, cast

from mainspring.api.routes.stream import Watch


class Counted(dict[str, int]):
    """Counts that notice when somebody asks without end."""

    asked = 0

    def get(self, key: str, default: Any = None) -> Any:
        self.asked += 1
        assert self.asked < 1000, "the stream spins"
        return super().get(key, default)


def test_a_look_from_before_somebody_watched_is_no_news() -> None:
    async def story() -> None:
        watch = Watch(cast(Any, None))
        watch.looking = asyncio.create_task(asyncio.sleep(300))  # the looks are told by hand here
        watch.counts = Counted(line=3)
        stream = cast(Any, watch.stream("line"))
        assert '"seq": 3' in await anext(stream)
        watch.counts = Counted()  # it had begun while nobody watched this line
        waiting = asyncio.create_task(anext(stream))
        for _ in range(10):
            await asyncio.sleep(0)
        assert not waiting.done()
        watch.counts = Counted(line=4)
        async with watch.moved:
            watch.moved.notify_all()
        assert '"seq": 4' in await asyncio.wait_for(waiting, 60)
        await stream.aclose()
        watch.looking.cancel()

    with ThreadPoolExecutor(1) as apart:  # a browser's tests may have a loop in this thread
        apart.submit(asyncio.run, story()).result(120)
