"""What may be wrong with one room, each as bad as it may be: how the looks would stray by it."""

from __future__ import annotations

from collections.abc import Callable
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from cinder.field.expected import Expected
from cinder.field.seen import Seen
from cinder.field.spreads import log_ratios, throttled
from cinder.physics.quantity import Array

Rows = NDArray[np.intp]
KINDS = ("balance", "emitter", "valve", "open valve", "sun")
PARTS = (0.2, 0.35, 0.5, 0.7, 0.9)
"""How much of a room's heat may be missing, tried in turn."""
CEILINGS_K = (1.5, 2.1, 2.8, 3.6)
"""How far below its target a valve may hold a room, tried in turn."""
DROOP_K = 0.7
"""A valve that is held low gives way by so much between mild weather and cold."""
LEAST_OFF_K, LEAST_HELD_K = 0.8, 1.1
"""Less than this in one look out of five is no finding about a room."""
SLACK_K = 0.3
"""How far what is tried may be from what is so."""


@dataclass(frozen=True, slots=True)
class Cause:
    """One room's: its kind, the room's place."""

    kind: str
    room: int


@dataclass(slots=True)
class Tried:
    """One amount of a cause, over the readings that are known (Y,): what it does, a kelvin more of the same, and what the spreads of the
    water say beside (log)."""

    cause: Cause
    does: Array
    unit: Array
    beside: float


@dataclass(slots=True)
class _Tries:
    rows: Rows
    rooms: Rows
    found: list[Tried] = field(default_factory=list)

    def add(self, cause: Cause, does: Array, unit: Array, beside: float) -> None:
        self.found.append(Tried(cause, does[self.rows, self.rooms], unit[self.rows, self.rooms], beside))


def causes(house: Expected, seen: Seen, water_c: Array, at_c: Array, rows: Rows, rooms: Rows) -> list[Tried]:
    """Every cause of every room that was looked at, in every amount, as it would stray from the rooms `at_c` (J, R) at water `water_c` (J,);
    `rows`, `rooms`: which readings are known."""
    out = _Tries(rows, rooms)
    load = house.load_w(seen.outdoor_c)
    part = (load / np.maximum(load.max(axis=0), 1.0)).clip(0.0, 1.0)
    ratios = log_ratios(house, seen)
    dull = np.nan_to_num(seen.sun) == 0
    plain = dull if dull.any() else np.ones(len(load), dtype=bool)

    def worst(strays: Array) -> float:
        """In one look out of five."""
        return float(np.quantile(strays[plain], 0.8))

    for r in np.nonzero(np.isfinite(seen.room_c).any(axis=0) & house.heated)[0]:
        shut = throttled(ratios[house.house.house.emitters.room == r])
        for short in PARTS:
            more = np.zeros_like(load)
            more[:, r] = short * load[:, r]
            does = house.at(seen.outdoor_c, water_c, seen.sun_w_m2, more_w=more).room_c - at_c
            deepest = worst(-does[:, r])
            if deepest < LEAST_OFF_K:
                continue
            out.add(Cause("emitter", int(r)), does, does / deepest, 0.0)
            if not house.closes[r]:  # where there is a head, one set low and a lockshield that is shut look alike
                out.add(Cause("balance", int(r)), does, does / deepest, shut)
        if house.closes[r]:
            _of_valve(house, seen, water_c, at_c, int(r), part, worst, shut, out)
    return out.found


def _of_valve(
    house: Expected,
    seen: Seen,
    water_c: Array,
    at_c: Array,
    r: int,
    part: Array,
    worst: Callable[[Array], float],
    shut: float,
    out: _Tries,
) -> None:
    """A head that holds its room too low, and one that never closes."""
    unit = np.zeros_like(part)
    unit[:, r] = 1.0
    for held_k in CEILINGS_K:
        does = np.zeros_like(part)
        ceiling = house.balance.rooms.target_c[r] - held_k + DROOP_K * (0.5 - part[:, r])
        does[:, r] = np.minimum(ceiling - at_c[:, r], 0.0)
        if worst(-does[:, r]) >= LEAST_HELD_K:
            out.add(Cause("valve", r), does, unit, shut)
    does = house.at(seen.outdoor_c, water_c, seen.sun_w_m2, opens=r).room_c - at_c
    highest = worst(does[:, r])
    if highest > LEAST_OFF_K:
        out.add(Cause("open valve", r), does, does / highest, 0.0)
