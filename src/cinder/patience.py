"""Whether an answer is still waited for: long work asks between its parts, and ends where nobody waits while somebody else does.

Who serves sets `waited_for`; where nobody does (the command line, a paper, a test) all work is waited for.
"""

from __future__ import annotations

from collections.abc import Callable
from contextvars import ContextVar

from cinder.errors import LeftAlone


def _always() -> bool:
    return True


waited_for: ContextVar[Callable[[], bool]] = ContextVar("waited_for", default=_always)


def go_on() -> None:
    """Raises `LeftAlone` where the work may end here."""
    if not waited_for.get()():
        raise LeftAlone("Nobody waits for this answer any more.")
