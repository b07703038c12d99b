"""What a walk round a room says: its corners, its floor, and whether it came back to where it began."""

from __future__ import annotations

import math
from dataclasses import dataclass

from cinder.model import Run

GOOD_CLOSING = 0.01
"""Share of the walked length by which a walk may miss its start and still be good (common practice)."""
SAME_LINE = 0.15
"""Part of the gap that may stay when one run alone is held to be wrong."""
SLIPS_M = (1.0, 0.5, 0.3, 0.2, 0.1, 0.05, 0.3048)
SLIP_TOLERANCE_M = 0.006


@dataclass(frozen=True, slots=True)
class Plan:
    """Floor of a walked room: area (m2), walked length (m), and the gap at the end of the walk (m)."""

    area_m2: float
    perimeter_m: float
    closing_error_m: float


@dataclass(frozen=True, slots=True)
class Closing:
    """How a walk closes: the gap, its share of the walked length, and the run most likely wrong.

    `suspects` are ids of runs, the likeliest first; `correction_m` is what the first would have to be longer.
    `by_diagonal`: a diagonal shaped the room, so the last corner was made to close and proves nothing.
    """

    error_m: float
    share: float
    good: bool
    by_diagonal: bool
    suspects: tuple[str, ...]
    correction_m: float | None


def _toward(
    here: tuple[float, float], start: tuple[float, float], length: float, diagonal: float, heading: float
) -> float:
    """Heading of a run from `here` whose end lies `diagonal` from the start: of the two, the one nearer `heading`.

    A triangle that cannot be (its sides do not reach) leaves the heading as it was.
    """
    reach = math.dist(here, start)
    if reach < 1e-9 or length <= 0:
        return heading
    cosine = (reach**2 + length**2 - diagonal**2) / (2 * reach * length)
    if abs(cosine) > 1:
        return heading
    back = math.atan2(-(start[1] - here[1]), start[0] - here[0])
    swing = math.acos(cosine)
    return min((back + swing, back - swing), key=lambda h: abs(math.remainder(h - heading, 2 * math.pi)))


def has_diagonal(walk: list[Run]) -> bool:
    return any(run.diagonal_m is not None for run in walk)


def corners(walk: list[Run]) -> list[tuple[float, float]] | None:
    """Corner points of the walk, the start first and the end last; None while a length is missing.

    Headings are clockwise from the first run. A diagonal (start corner to the end of its run) sets the heading of
    its run in place of the turn before it; once one is given, the last corner but one is found from the last run's
    own length, which is a diagonal too.
    """
    start = (0.0, 0.0)
    x = y = heading = 0.0
    points = [start]
    shaped = has_diagonal(walk)
    count = len(walk)
    for n, run in enumerate(walk):
        if run.length_m is None:
            return None
        diagonal = run.diagonal_m
        if diagonal is None and shaped and n == count - 2 and n >= 2:
            diagonal = walk[-1].length_m
        if diagonal is not None and n >= 1:
            heading = _toward((x, y), start, run.length_m, diagonal, heading)
        elif shaped and n == count - 1 and count > 3 and math.hypot(x, y) > 1e-9:
            heading = math.atan2(y, -x)
        x += run.length_m * math.cos(heading)
        y -= run.length_m * math.sin(heading)
        heading += math.radians(run.turn_deg)
        points.append((x, y))
    return points


def plan(walk: list[Run]) -> Plan | None:
    """Area by the shoelace rule over the corners, the last gap closed straight.

    None while the walk has fewer than three runs or lacks a length.
    """
    points = corners(walk)
    if points is None or len(points) < 4:
        return None
    gap = math.dist(points[0], points[-1])
    perimeter = sum(run.length_m or 0.0 for run in walk)
    return Plan(abs(signed_area(points)), perimeter, gap)


def signed_area(points: list[tuple[float, float]]) -> float:
    """Shoelace area of corners (the last gap closed straight): negative for a clockwise walk, y upward."""
    ring = points[:-1] if math.dist(points[0], points[-1]) < 1e-9 else points
    return sum(ax * by - bx * ay for (ax, ay), (bx, by) in zip(ring, ring[1:] + ring[:1], strict=True)) / 2


def _plausible(length: float, correction: float) -> float:
    """How much a correction looks like a slip of hand or ear: 0 exactly so, 1 not at all."""
    right = length + correction
    if right <= 0:
        return 2.0
    if any(abs(abs(correction) - slip) < SLIP_TOLERANCE_M for slip in SLIPS_M):
        return 0.0
    if sorted(f"{length * 1000:.0f}") == sorted(f"{right * 1000:.0f}"):
        return 0.0
    return 1.0


def closing(walk: list[Run]) -> Closing | None:
    """Whether the walk closes, and which run is most likely wrong. The gap is judged, never spread.

    A run is suspect when lengthening or shortening it alone nearly closes the gap. Among parallel suspects those
    whose correction looks like a slip (a round figure, digits changed round) come first, then the longest.
    None while the walk has fewer than three runs or lacks a length. Source: common practice for the 1 %.
    """
    points = corners(walk)
    if points is None or len(points) < 4:
        return None
    gx, gy = points[-1][0] - points[0][0], points[-1][1] - points[0][1]
    gap = math.hypot(gx, gy)
    perimeter = sum(run.length_m or 0.0 for run in walk)
    share = gap / perimeter if perimeter else 0.0
    shaped = has_diagonal(walk)
    if gap < 1e-6 or shaped:
        return Closing(gap, share, share <= GOOD_CLOSING, shaped, (), None)
    ranked = []
    for run, (ax, ay), (bx, by) in zip(walk, points, points[1:], strict=False):
        length = math.dist((ax, ay), (bx, by)) or 1.0
        ux, uy = (bx - ax) / length, (by - ay) / length
        correction = -(gx * ux + gy * uy)
        left = math.hypot(gx + correction * ux, gy + correction * uy)
        if left <= SAME_LINE * gap:
            ranked.append((_plausible(run.length_m or 0.0, correction), -(run.length_m or 0.0), run.id, correction))
    ranked.sort(key=lambda row: row[:2])
    suspects = tuple(row[2] for row in ranked)
    return Closing(gap, share, share <= GOOD_CLOSING, False, suspects, ranked[0][3] if ranked else None)
