"""The ways a pipe may take through a house, as a graph: along walls, over joists, through walls, up risers."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Any

import numpy as np
import shapely
from numpy.typing import NDArray
from scipy.sparse import coo_matrix, csr_matrix
from scipy.sparse.csgraph import connected_components, dijkstra
from shapely.geometry import Polygon
from shapely.ops import unary_union

from cinder.physics.quantity import Array

CELL_M = 0.25
JOINS_M = 0.26
"""Rooms so near to each other are parted by a wall a pipe may go through."""
ALONG_WALL_M = 0.3
OPEN_FLOOR, THROUGH_WALL_M, TURN_M, RISER_M = 1.2, 0.5, 0.3, 3.0
"""What a metre under open floor counts against one along a wall; what a hole, a bend and a riser count beside their length (our choice)."""
GROUND = 1.5
"""A metre through the ground counts so much (our choice: it is dug)."""
MOST_CELLS = 60_000
H, V = 0, 1


@dataclass(frozen=True, slots=True)
class Field:
    """Cells (N, 3) by place and storey; the graph over cells twice (2 N): once for going along, once across. `storey` (N,)."""

    at_m: Array
    storey: Array
    graph: csr_matrix
    links: frozenset[tuple[int, int]] = frozenset()
    """Pairs of cells joined through the ground, from one building to another."""

    def nearest(self, x: float, y: float, storey: int) -> int:
        """The cell of a storey nearest to a point."""
        far = np.hypot(self.at_m[:, 0] - x, self.at_m[:, 1] - y) + np.where(self.storey == storey, 0.0, 1e6)
        return int(far.argmin())


def field(storeys: list[tuple[float, list[Polygon], list[bool]]], risers: list[tuple[float, float]]) -> Field | None:
    """The field of storeys, each its level, its rooms, and which of them a riser may stand in; `risers`: where pipes go up, anywhere along
    walls of those rooms where none is given. None where the house is larger than can be laid at once."""
    every = unary_union([room for _, rooms, _ in storeys for room in rooms]).buffer(JOINS_M)
    left, low, right, high = every.bounds
    xs, ys = np.arange(left, right + CELL_M, CELL_M), np.arange(low, high + CELL_M, CELL_M)
    if len(xs) * len(ys) * len(storeys) > MOST_CELLS:
        return None
    gx, gy = (one.ravel() for one in np.meshgrid(xs, ys, indexing="ij"))
    index = np.full((len(storeys), len(xs) * len(ys)), -1)
    rooms_at, wall_at, places, floors, bears = [], [], [], [], []
    count = 0
    for s, (level, rooms, may) in enumerate(storeys):
        points = shapely.points(gx, gy)
        inside = shapely.contains(unary_union(rooms).buffer(JOINS_M), points)
        far = np.array([shapely.distance(room, points[inside]) for room in rooms])
        near_wall = np.min([shapely.distance(room.boundary, points[inside]) for room in rooms], axis=0) <= ALONG_WALL_M
        n = int(inside.sum())
        index[s, inside] = np.arange(count, count + n)
        rooms_at.append(far.argmin(axis=0) + 1000 * s)
        bears.append(np.array(may)[far.argmin(axis=0)])
        wall_at.append(near_wall)
        places.append(np.column_stack([gx[inside], gy[inside], np.full(n, level)]))
        floors.append(np.full(n, s))
        count += n
    at, room, wall, floor = np.vstack(places), np.concatenate(rooms_at), np.concatenate(wall_at), np.concatenate(floors)
    may_rise = np.concatenate(bears)
    rows: list[Array] = []
    columns: list[Array] = []
    costs: list[Array] = []

    def link(a: NDArray[Any], b: NDArray[Any], cost: Array) -> None:
        rows.extend((a, b))
        columns.extend((b, a))
        costs.extend((cost, cost))

    grid = index.reshape(len(storeys), len(xs), len(ys))
    for way, (a, b) in ((H, (grid[:, :-1, :], grid[:, 1:, :])), (V, (grid[:, :, :-1], grid[:, :, 1:]))):
        pair = (a >= 0) & (b >= 0)
        i, j = a[pair], b[pair]
        cost = CELL_M * np.where(wall[i] & wall[j], 1.0, OPEN_FLOOR) + np.where(room[i] != room[j], THROUGH_WALL_M, 0.0)
        link(i + way * count, j + way * count, cost)
    every_cell = np.arange(count, dtype=np.int64)
    link(every_cell, every_cell + count, np.full(count, TURN_M))
    for s in range(len(storeys) - 1):
        both = (index[s] >= 0) & (index[s + 1] >= 0)
        i, j = index[s, both], index[s + 1, both]
        if risers:
            chosen = {int(np.hypot(at[i, 0] - x, at[i, 1] - y).argmin()) for x, y in risers if len(i)}
            keep = np.array(sorted(chosen), dtype=int)
        else:
            keep = np.flatnonzero(wall[i] & wall[j] & may_rise[i] & may_rise[j])
            keep = keep if len(keep) else np.flatnonzero(wall[i] & wall[j])
        i, j = i[keep], j[keep]
        rise = np.full(len(i), storeys[s + 1][0] - storeys[s][0] + RISER_M)
        for way in (H, V):
            link(i + way * count, j + way * count, rise)
    links = _through_the_ground(at, floor, [np.concatenate(one) for one in (rows, columns)], count)
    for one, other in links:
        dug = np.array([GROUND * float(np.hypot(*(at[one, :2] - at[other, :2])))])
        for way in (H, V):
            link(np.array([one + way * count]), np.array([other + way * count]), dug)
    graph = coo_matrix(
        (np.concatenate(costs), (np.concatenate(rows), np.concatenate(columns))), shape=(2 * count, 2 * count)
    ).tocsr()
    return Field(at, floor, graph, frozenset(links))


def _through_the_ground(at: Array, floor: NDArray[Any], ends: list[NDArray[Any]], count: int) -> list[tuple[int, int]]:
    """Where buildings stand apart: the shortest way through the ground from the largest to each other one, lowest storeys alone."""
    plain = coo_matrix((np.ones(len(ends[0])), (ends[0] % count, ends[1] % count)), shape=(count, count))
    number, part = connected_components(plain, directed=False)
    if number < 2:
        return []
    order = np.argsort(-np.bincount(part))
    out = []
    low = floor == 0
    for other in order[1:]:
        mine, theirs = np.flatnonzero(low & (part == order[0])), np.flatnonzero(low & (part == other))
        if not len(mine) or not len(theirs):
            continue
        far = np.hypot(at[mine, 0][:, None] - at[theirs, 0][None, :], at[mine, 1][:, None] - at[theirs, 1][None, :])
        a, b = np.unravel_index(int(far.argmin()), far.shape)
        out.append((int(mine[a]), int(theirs[b])))
    return out


def tree(on: Field, root: int, ends: list[int]) -> tuple[dict[int, int], list[int]]:
    """A tree of cells from a root to every end it can reach, each joined to what is laid already by its cheapest way, the nearest first:
    parent of every cell, and the ends nothing leads to. Source: shortest-path heuristic for Steiner trees (Takahashi and Matsuyama 1980,
    from memory): at most twice the least."""
    count = len(on.at_m)
    parent: dict[int, int] = {}
    laid, left, lost = [root], list(dict.fromkeys(end for end in ends if end != root)), []
    while left:
        sources = np.array([way + cell for cell in laid for way in (0, count)])
        far, before, _ = dijkstra(on.graph, directed=False, indices=sources, min_only=True, return_predecessors=True)
        cost = np.minimum(far[left], far[np.array(left) + count])
        nearest = int(cost.argmin())
        if not np.isfinite(cost[nearest]):
            lost += left
            break
        end = left.pop(nearest)
        here = end if far[end] <= far[end + count] else end + count
        known = set(laid)
        while here % count not in known:
            back = int(before[here])
            if back % count != here % count:
                parent[here % count] = back % count
                laid.append(here % count)
            here = back
        left = [one for one in left if one not in set(laid)]
    return parent, lost
