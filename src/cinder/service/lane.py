"""Lanes of their own for what takes longer than an edit: bounded, and never on the threads that requests are served by."""

from __future__ import annotations

import asyncio
import contextvars
import threading
from collections.abc import Awaitable, Callable
from concurrent.futures import ThreadPoolExecutor
from contextvars import ContextVar
from dataclasses import dataclass, field
from typing import Any, TypeVar

from cinder.errors import Busy
from cinder.patience import waited_for

T = TypeVar("T")
MOST_WAITING = 400
"""Questions that may stand in one lane; the next is asked to come again (our choice)."""

has_left: ContextVar[Callable[[], Awaitable[None]] | None] = ContextVar("has_left", default=None)
"""Comes to an end once whoever asks has gone; None where that cannot be known. Set by who serves."""


@dataclass(eq=False, slots=True)
class Question:
    """A piece of work in a lane, with what its asker's task knew, and whether that one has gone."""

    work: Callable[[], Any]
    context: contextvars.Context
    answer: asyncio.Future[Any]
    gone: threading.Event = field(default_factory=threading.Event)


class Lane:
    """Work done `width` at a time, in the order it came. Who waits holds no thread.

    Who asks may leave (another screen, a newer edit). Questions of those who left come after all others, for who left may come
    back; and work under way for one of them is given up where it asks (`patience.go_on`) as soon as somebody waits behind it.
    """

    def __init__(self, name: str, *, width: int, most: int = MOST_WAITING) -> None:
        self.width, self.most = width, most
        self._queue: list[Question] = []
        self._under_way: set[Question] = set()
        self._pressing = False
        """Whether somebody who is still there waits for a place; read by the threads that work."""
        self._closed = False
        self._pool = ThreadPoolExecutor(max_workers=width, thread_name_prefix=name)

    @property
    def waiting(self) -> int:
        """Questions in the lane, with those under way."""
        return len(self._queue) + len(self._under_way)

    async def run(self, work: Callable[[], T]) -> T:
        """What `work` gives. Raises `Busy` when the lane is full, and what `work` raises."""
        if self.waiting >= self.most:
            raise Busy("Too many slow questions at once. Edits are taken as ever; ask this again in a moment.")
        question = Question(work, contextvars.copy_context(), asyncio.get_running_loop().create_future())
        leaves = has_left.get()
        watch = asyncio.ensure_future(self._watched(question, leaves)) if leaves is not None else None
        self._queue.append(question)
        self._next()
        try:
            answer: T = await question.answer
            return answer
        finally:
            if watch is not None:
                watch.cancel()
            if question in self._queue:  # whoever served it was stopped
                self._queue.remove(question)
                self._next()

    def close(self) -> None:
        """Takes nothing more; work under way ends where it asks."""
        self._closed = True
        for question in self._queue:
            if not question.answer.get_loop().is_closed():
                question.answer.cancel()
        self._pool.shutdown(wait=False, cancel_futures=True)

    async def _watched(self, question: Question, leaves: Callable[[], Awaitable[None]]) -> None:
        await leaves()
        question.gone.set()
        self._next()

    def _next(self) -> None:
        """Begin what there is a place for: those who are still there first."""
        while self._queue and len(self._under_way) < self.width and not self._closed:
            question = next((one for one in self._queue if not one.gone.is_set()), self._queue[0])
            self._queue.remove(question)
            self._under_way.add(question)
            done = asyncio.get_running_loop().run_in_executor(self._pool, self._worked, question)
            done.add_done_callback(lambda done, question=question: self._answered(question, done))  # type: ignore[misc]
        self._pressing = any(not one.gone.is_set() for one in self._queue)

    def _worked(self, question: Question) -> Any:
        """In a thread of the lane."""
        question.context.run(waited_for.set, lambda: not (self._closed or (self._pressing and question.gone.is_set())))
        return question.context.run(question.work)

    def _answered(self, question: Question, done: asyncio.Future[Any]) -> None:
        self._under_way.discard(question)
        if not question.answer.done():
            if done.cancelled():
                question.answer.cancel()
            elif (error := done.exception()) is not None:
                question.answer.set_exception(error)
            else:
                question.answer.set_result(done.result())
        elif not done.cancelled():
            done.exception()  # of one who was stopped: said to nobody
        self._next()


class Lanes:
    """The lanes of one process: `slow` for questions about a job, `files` for what is brought in."""

    def __init__(self) -> None:
        self.slow = Lane("slow", width=1)
        self.files = Lane("files", width=2, most=40)

    def close(self) -> None:
        self.slow.close()
        self.files.close()
