"""Which walls are the two sides of one: every pair of runs at once, shared out from both sides."""

from __future__ import annotations

import math
from dataclasses import dataclass, field
from typing import NamedTuple

import numpy as np

from cinder.design.kept import Afresh, Kept
from cinder.design.plan.shape import Shape, Wall

ANTIPARALLEL = math.cos(math.radians(180 - 5))
THICKEST_WALL_M = 0.6
OVERLAP_SLACK_M = 0.05
LEAST_STRETCH_M = 0.03
LEAST_BAND_M = 0.05
THICKEST_FLOOR_M = 0.8
GRID_M = 0.001
Rect = tuple[float, float, float, float]
"""From, to along a run; low, high above the room's floor."""


@dataclass(slots=True)
class Hit:
    """Another room's run across a wall's thickness: the stretch of this run, and the band above this floor.

    `party` are the parts of it that are shared, taken from both sides at once, nearest first.
    """

    room: str
    s0: float
    s1: float
    low: float
    high: float
    gap: float
    party: list[Rect] = field(default_factory=list)


class Facing(NamedTuple):
    """Pairs of runs (i, j) that are two sides of one wall as they lie on the plan: from and to along run i, and how far run j lies
    outward; where the ends of run j lie along run i (W, W)."""

    pairs: list[tuple[int, int, float, float, float]]
    s_a: np.ndarray
    s_b: np.ndarray


def wall_hits(placed: list[Shape], kept: Kept | None = None) -> dict[tuple[str, int], list[Hit]]:
    """For every run, the runs of other rooms that are its other side. All pairs at once in arrays; what does not hang on heights is kept
    while no run moves."""
    owner = [(r, n) for r, body in enumerate(placed) for n in range(len(body.walls))]
    if not owner:
        return {}
    runs, room = np.concatenate([body.runs for body in placed]), np.array([r for r, _ in owner])
    walls = [wall for body in placed for wall in body.walls]
    facing = (kept or Afresh()).of(
        "walls that face", (runs.tobytes(), room.tobytes()), lambda: _facing(runs, room, walls)
    )
    hits: dict[tuple[int, int], Hit] = {}
    for i, j, s0, s1, distance in facing.pairs:
        mine, other = placed[owner[i][0]], placed[owner[j][0]]
        if min(mine.top_m, other.top_m) - max(mine.bottom_m, other.bottom_m) > -THICKEST_FLOOR_M:
            hits[i, j] = Hit(other.id, s0, s1, other.bottom_m - mine.bottom_m, other.top_m - mine.bottom_m, distance)
    _share_out(placed, owner, hits, facing.s_a, facing.s_b)
    out: dict[tuple[str, int], list[Hit]] = {}
    for (i, _), hit in hits.items():
        out.setdefault((placed[owner[i][0]].id, owner[i][1]), []).append(hit)
    return out


def _facing(runs: np.ndarray, room: np.ndarray, walls: list[Wall]) -> Facing:
    """Runs (W, 6), each from a to b with its normal outwards, of rooms (W,)."""
    ax, ay, bx, by, nx, ny = runs.T
    facing = np.outer(nx, nx) + np.outer(ny, ny) <= ANTIPARALLEL
    facing &= room[:, None] != room[None, :]
    # distance of the other run's middle from this run's line, outward
    mx, my = (ax + bx) / 2, (ay + by) / 2
    gap = (mx[None, :] - ax[:, None]) * nx[:, None] + (my[None, :] - ay[:, None]) * ny[:, None]
    reach = np.hypot(bx - ax, by - ay) / 2 * math.sin(math.radians(5))
    facing &= (gap > -OVERLAP_SLACK_M - reach[None, :]) & (gap < THICKEST_WALL_M + reach[None, :])
    length = np.hypot(bx - ax, by - ay)
    safe = np.where(length > 0, length, 1.0)
    ux, uy = (bx - ax) / safe, (by - ay) / safe

    def along(px: np.ndarray, py: np.ndarray) -> np.ndarray:
        return np.asarray((px[None, :] - ax[:, None]) * ux[:, None] + (py[None, :] - ay[:, None]) * uy[:, None])

    s_a, s_b = along(ax, ay), along(bx, by)
    s0 = np.maximum(np.minimum(s_a, s_b), 0.0)
    s1 = np.minimum(np.maximum(s_a, s_b), length[:, None])
    facing &= s1 - s0 > LEAST_STRETCH_M
    pairs = []
    for i, j in zip(*(of.tolist() for of in np.nonzero(facing)), strict=True):
        from_m, to_m = float(s0[i, j]), float(s1[i, j])
        distance = _gap_between(walls[i], walls[j], from_m, to_m)
        if -OVERLAP_SLACK_M <= distance <= THICKEST_WALL_M:
            pairs.append((i, j, from_m, to_m, distance))
    return Facing(pairs, s_a, s_b)


def _share_out(
    placed: list[Shape],
    owner: list[tuple[int, int]],
    hits: dict[tuple[int, int], Hit],
    s_a: np.ndarray,
    s_b: np.ndarray,
) -> None:
    """Give each stretch of wall to one neighbour, from both sides at once, so that a party wall is the same from each."""
    taken: dict[int, list[Rect]] = {}
    for (i, j), hit in sorted(hits.items(), key=lambda item: (item[1].gap, item[0])):
        back = hits.get((j, i))
        if i > j or back is None:
            continue
        mine, other = placed[owner[i][0]], placed[owner[j][0]]
        down = mine.bottom_m - other.bottom_m
        # a point s along run j lies at where(s) along run i
        start, end = float(s_a[i, j]), float(s_b[i, j])
        scale = (end - start) / other.walls[owner[j][1]].length_m

        def to_other(rect: Rect, start: float = start, scale: float = scale, down: float = down) -> Rect:
            ends = sorted(((rect[0] - start) / scale, (rect[1] - start) / scale))
            return ends[0], ends[1], rect[2] + down, rect[3] + down

        def to_mine(rect: Rect, start: float = start, scale: float = scale, down: float = down) -> Rect:
            ends = sorted((start + rect[0] * scale, start + rect[1] * scale))
            return ends[0], ends[1], rect[2] - down, rect[3] - down

        low, high = max(0.0, hit.low), min(mine.height_m or 0.0, hit.high)
        if high - low < LEAST_BAND_M:
            continue
        free = [(hit.s0, hit.s1, low, high)]
        for cut in [*taken.get(i, []), *(to_mine(rect) for rect in taken.get(j, []))]:
            free = [rest for rect in free for rest in _minus(rect, cut)]
        hit.party = free
        back.party = [to_other(rect) for rect in free]
        taken.setdefault(i, []).extend(free)
        taken.setdefault(j, []).extend(back.party)


def _minus(rect: Rect, cut: Rect) -> list[Rect]:
    """What is left of a rectangle when another is cut out of it."""
    a, b, low, high = rect
    c, d, bottom, top = cut
    if c >= b or d <= a or bottom >= high or top <= low:
        return [rect]
    left, right = max(a, c), min(b, d)
    parts = [(a, left, low, high), (right, b, low, high), (left, right, low, bottom), (left, right, top, high)]
    return [p for p in parts if p[1] - p[0] > GRID_M and p[3] - p[2] > GRID_M]


def _gap_between(mine: Wall, theirs: Wall, s0: float, s1: float) -> float:
    """Outward distance to the other run at the middle of the shared stretch."""
    ux, uy = (mine.b[0] - mine.a[0]) / mine.length_m, (mine.b[1] - mine.a[1]) / mine.length_m
    at = (s0 + s1) / 2
    px, py = mine.a[0] + ux * at, mine.a[1] + uy * at
    vx, vy = theirs.b[0] - theirs.a[0], theirs.b[1] - theirs.a[1]
    # where the outward ray from (px, py) meets their line
    cross = mine.normal[0] * vy - mine.normal[1] * vx
    if abs(cross) < 1e-9:
        return math.inf
    return ((theirs.a[0] - px) * vy - (theirs.a[1] - py) * vx) / cross
