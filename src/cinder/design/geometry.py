"""What a walk round a room says about its floor."""

from __future__ import annotations

import math
from dataclasses import dataclass

from cinder.model import Run


@dataclass(frozen=True, slots=True)
class Plan:
    """Floor of a walked room: area (m2), walked length (m), and the gap at the end of the walk (m)."""

    area_m2: float
    perimeter_m: float
    closing_error_m: float


def corners(walk: list[Run]) -> list[tuple[float, float]] | None:
    """Corner points of the walk, the start first and the end last; None while a length is missing."""
    x = y = heading = 0.0
    points = [(x, y)]
    for run in walk:
        if run.length_m is None:
            return None
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
    ring = points[:-1] if gap < 1e-9 else points
    twice = sum(ax * by - bx * ay for (ax, ay), (bx, by) in zip(ring, ring[1:] + ring[:1], strict=True))
    perimeter = sum(run.length_m or 0.0 for run in walk)
    return Plan(abs(twice) / 2, perimeter, gap)
