"""How this process collects its garbage."""

from __future__ import annotations

import gc
from collections.abc import Iterator
from contextlib import contextmanager


def settle(*, every: int = 20_000) -> None:
    """Set everything made so far aside from garbage collection, and collect seldom: after so many new objects.

    A full collection over the loaded libraries takes several times as long as an edit, and a third of a paper's drawing;
    what they leave behind holds next to no cycles.
    """
    gc.collect()
    gc.freeze()
    gc.set_threshold(every, 50, 100)


@contextmanager
def loading() -> Iterator[None]:
    """While libraries are loaded nothing is garbage, and looking for it takes a fifth of the start."""
    gc.disable()
    try:
        yield
    finally:
        gc.enable()
