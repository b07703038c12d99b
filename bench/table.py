"""What every part of the table is measured by: a clock, the yardstick of the same run, the houses."""

from __future__ import annotations

import copy
import statistics
import time
from collections.abc import Callable

import numpy as np
from tests.conftest import tansy_cut


def timed(work: Callable[[], object], times: int) -> list[float]:
    work()
    out = []
    for _ in range(times):
        start = time.perf_counter()
        work()
        out.append((time.perf_counter() - start) * 1000)
    return sorted(out)


def yardstick() -> object:
    """A fixed piece of work: 200 small numpy calls and a Python loop."""
    a = np.arange(400.0)
    for _ in range(200):
        a = np.sqrt(a * a + 1.0)
    return sum(i * i for i in range(20_000))


def row(name: str, value: str, goal: str, milliseconds: float | None) -> None:
    """A line of the table; the yardstick is taken beside every one, since a machine may change its pace meanwhile."""
    ratio = f"{milliseconds / paced():8.1f}" if milliseconds is not None else " " * 8
    print(f"{name:52}{value:>24}{ratio}   {goal}", flush=True)


def paced() -> float:
    """The yardstick as it is now, ms."""
    return statistics.median(timed(yardstick, 15))


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
