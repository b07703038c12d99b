"""Lanes of their own for what takes longer than an edit: bounded, and never on the threads that requests are served by."""

from __future__ import annotations

import asyncio
import contextvars
from collections.abc import Callable
from concurrent.futures import ThreadPoolExecutor
from typing import TypeVar

from cinder.errors import Busy

T = TypeVar("T")
MOST_WAITING = 400
"""Questions that may stand in one lane; the next is asked to come again (our choice)."""


class Lane:
    """Work done `width` at a time, in the order it came. Who waits holds no thread."""

    def __init__(self, name: str, *, width: int, most: int = MOST_WAITING) -> None:
        self.width, self.most = width, most
        self.waiting = 0
        self._pool = ThreadPoolExecutor(max_workers=width, thread_name_prefix=name)

    async def run(self, work: Callable[[], T]) -> T:
        """What `work` gives. Raises `Busy` when the lane is full, and what `work` raises."""
        if self.waiting >= self.most:
            raise Busy("Too many slow questions at once. Edits are taken as ever; ask this again in a moment.")
        self.waiting += 1
        try:
            context = contextvars.copy_context()
            return await asyncio.get_running_loop().run_in_executor(self._pool, lambda: context.run(work))
        finally:
            self.waiting -= 1

    def close(self) -> None:
        self._pool.shutdown(wait=False, cancel_futures=True)


class Lanes:
    """The lanes of one process: `slow` for questions about a job, `files` for what is brought in."""

    def __init__(self) -> None:
        self.slow = Lane("slow", width=1)
        self.files = Lane("files", width=2, most=40)

    def close(self) -> None:
        self.slow.close()
        self.files.close()
