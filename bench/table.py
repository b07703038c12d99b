"""What every part of the table is measured by: a clock, the yardstick of the same run, the houses."""

from __future__ import annotations

import copy
import statistics
import time
from collections.abc import Callable

import numpy as np
from tests.conftest import tansy_cut

_beside: list[float] = []
"""The yardstick, ms, each time it was taken since the last line of the table."""


class Times(list[float]):
    """How long something took, ms, sorted; and the median in yardsticks, each time beside the pace of its own moment."""

    yards: float


def timed(work: Callable[[], object], times: int) -> Times:
    """The yardstick is taken in turns with the work, since a machine changes its pace from one second to the next."""
    work()
    took, yards = [], []
    before = beat()
    for _ in range(times):
        start = time.perf_counter()
        work()
        took.append((time.perf_counter() - start) * 1000)
        after = beat()
        yards.append(2 * took[-1] / (before + after))
        before = after
    out = Times(sorted(took))
    out.yards = statistics.median(yards)
    return out


def beat() -> float:
    """The yardstick once, ms; kept for the next line."""
    start = time.perf_counter()
    yardstick()
    _beside.append((time.perf_counter() - start) * 1000)
    return _beside[-1]


def yardstick() -> object:
    """A fixed piece of work: 200 small numpy calls and a Python loop."""
    a = np.arange(400.0)
    for _ in range(200):
        a = np.sqrt(a * a + 1.0)
    return sum(i * i for i in range(20_000))


def row(name: str, value: str, goal: str, milliseconds: float | None, *, yards: float | None = None) -> None:
    """A line of the table, beside the yardstick as it was since the line before; `yards` where that is known better."""
    if yards is None and milliseconds is not None:
        yards = milliseconds / paced()
    _beside.clear()
    print(f"{name:52}{value:>24}{f'{yards:8.1f}' if yards is not None else '':8}   {goal}", flush=True)


def paced() -> float:
    """The yardstick since the last line, ms: the median of what was taken meanwhile, or of now."""
    while len(_beside) < 5:
        beat()
    return statistics.median(_beside)


def fourteen_rooms() -> dict:
    """The demo house with four of its rooms a second time, in a wing of their own to the east."""
    document = tansy_cut()
    rooms, emitters = document["survey"]["rooms"], document["survey"]["emitters"]
    for key in ("kitchen", "bed2", "hall", "landing"):
        place = rooms[key]["position"]
        rooms[f"{key}-2"] = rooms[key] | {"position": place | {"x_m": place["x_m"] + 12.0}}
        emitters[f"r-{key}-2"] = emitters[f"r-{key}"] | {"room": f"{key}-2"}
    return document


def windows(document: dict, times: int) -> list[dict]:
    """The document with one window of one room a little wider each time; everything else the same."""
    out = []
    for n in range(times):
        document = copy.deepcopy(document)
        window = next(
            opening
            for room in document["survey"]["rooms"].values()
            for face in room.get("faces", {}).values()
            for opening in face.get("openings", {}).values()
        )
        window["width_m"] = 0.8 + n / 200
        out.append(document)
    return out
