"""Everything that may be done in a room, combined: what no other combination beats at any flow temperature."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.design.apart.ways.rules import GAP_M
from cinder.design.apart.ways.way import PREFERRED, Way
from cinder.physics.quantity import Array

ENOUGH_W = 0.05
MOST = 6000


@dataclass(frozen=True, slots=True)
class Combined:
    """Combinations (C,) of a room's ways: `picks` which, `cost` what counts in choosing (C,), `gives_w` with what is
    taken off the load (C, F); `changes` constructions that a measure of the whole house may not touch as well.

    `whole`: whether every combination was looked at.
    """

    picks: list[tuple[Way, ...]]
    cost: Array
    gives_w: Array
    changes: list[frozenset[str]]
    to_c: list[float | None]
    whole: bool = True


@dataclass(slots=True)
class _Rows:
    """Combinations on their way: index of the way in each slot so far (C, S), cost (C,), watts (C, F), tag (C,)."""

    index: np.ndarray[tuple[int, int], np.dtype[np.intp]]
    cost: Array
    watts: Array
    tag: np.ndarray[tuple[int], np.dtype[np.intp]]


def weighed(way: Way, preferred: set[str], years: int) -> float:
    """What a way counts in choosing: its price, a quarter less where it is preferred, and years of what it draws."""
    price = way.cost_minor * (PREFERRED if preferred.intersection(way.pins) else 1.0)
    return price + years * way.yearly_minor


def combine(
    slots: list[list[tuple[Way | None, float, Array]]],
    *,
    walls: dict[str, float],
    must: set[str],
    lengths: dict[str, float],
) -> Combined:
    """All combinations of one way a slot, less those another beats in cost and watts at every flow temperature.

    Each slot lists (way or nothing, what it counts, watts (F,)). A further emitter shares `walls[beside]` with the one
    beside it, which is `lengths[slot]` long where it is left alone. Combinations without all of `must` are left out;
    where none has them they stay, and the caller says so.
    """
    flows = len(slots[0][0][2]) if slots else 0
    rows = _Rows(np.zeros((1, 0), np.intp), np.zeros(1), np.zeros((1, flows)), np.zeros(1, np.intp))
    marks = sorted({mark for slot in slots for way, _, _ in slot if way for mark in _marks(way, must)})
    whole = True
    for n, slot in enumerate(slots):
        rows = _times(rows, slot, marks, must)
        rows = _share_wall(rows, slots[: n + 1], walls, lengths)
        shares = n + 1 < len(slots) and any(way is not None and way.beside is not None for way, _, _ in slots[n + 1])
        if not shares:
            rows = _best(rows)
        if len(rows.cost) > MOST:
            rows, whole = _cut(rows), False
    picks = [
        tuple(way for s, k in enumerate(row) if (way := slots[s][k][0]) is not None) for row in rows.index.tolist()
    ]
    wanted = [n for n, pick in enumerate(picks) if all(any(mark in way.pins for way in pick) for mark in must)]
    if wanted and len(wanted) < len(picks):
        picks, rows = [picks[n] for n in wanted], _take(rows, np.array(wanted))
    changes = [frozenset(way.construction for way in pick if way.construction is not None) for pick in picks]
    return Combined(picks, rows.cost, rows.watts, changes, [None] * len(picks), whole)


def _marks(way: Way, must: set[str]) -> set[str]:
    """What keeps a combination from being beaten by one without it: the constructions it changes, a floor that takes its
    own loss off the room, what must be."""
    own = [f"changes {way.construction}"] if way.construction else ["a floor"] if way.floor_share else []
    return {*must.intersection(way.pins), *own}


def _times(rows: _Rows, slot: list[tuple[Way | None, float, Array]], marks: list[str], must: set[str]) -> _Rows:
    count = len(slot)
    cost = np.array([one[1] for one in slot])
    watts = np.array([one[2] for one in slot])
    bits = np.array(
        [sum(1 << marks.index(m) for m in _marks(way, must)) if way else 0 for way, _, _ in slot], dtype=np.intp
    )
    old = np.repeat(np.arange(len(rows.cost)), count)
    new = np.tile(np.arange(count), len(rows.cost))
    return _Rows(
        np.column_stack([rows.index[old], new]), rows.cost[old] + cost[new], rows.watts[old] + watts[new],
        rows.tag[old] | bits[new],
    )  # fmt: skip


def _share_wall(
    rows: _Rows, slots: list[list[tuple[Way | None, float, Array]]], walls: dict[str, float], lengths: dict[str, float]
) -> _Rows:
    """Drop combinations in which a further emitter and the one beside it are longer than their wall."""
    last = slots[-1]
    if not any(way is not None and way.beside is not None for way, _, _ in last):
        return rows
    keep = np.ones(len(rows.cost), dtype=bool)
    for n, row in enumerate(rows.index.tolist()):
        way = last[row[-1]][0]
        if way is None or way.beside is None:
            continue
        name = f"emitter:{way.beside}"
        long = lengths.get(name, 0.0)
        for s, k in enumerate(row[:-1]):
            other = slots[s][k][0]
            if other is not None and other.slot == name:
                long = other.length_m
        keep[n] = long + GAP_M + way.length_m <= walls.get(way.beside, 0.0) + 1e-9
    return _take(rows, np.nonzero(keep)[0])


def _take(rows: _Rows, which: np.ndarray[tuple[int], np.dtype[np.intp]]) -> _Rows:
    return _Rows(rows.index[which], rows.cost[which], rows.watts[which], rows.tag[which])


def unbeaten(cost: Array, watts: Array) -> np.ndarray[tuple[int], np.dtype[np.intp]]:
    """Rows that at some flow temperature give more than every row that costs no more, cheapest first."""
    order = np.lexsort((-watts.sum(axis=1), cost))
    ahead = np.maximum.accumulate(np.vstack([np.full(watts.shape[1], -np.inf), watts[order]]), axis=0)[:-1]
    return np.asarray(order[(watts[order] > ahead + ENOUGH_W).any(axis=1)])


def _best(rows: _Rows) -> _Rows:
    kept = [np.nonzero(rows.tag == tag)[0] for tag in np.unique(rows.tag)]
    return _take(rows, np.concatenate([mine[unbeaten(rows.cost[mine], rows.watts[mine])] for mine in kept]))


def _cut(rows: _Rows) -> _Rows:
    return _take(rows, np.argsort(rows.cost, kind="stable")[:MOST])
