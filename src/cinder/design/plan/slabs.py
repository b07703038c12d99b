"""Rooms over and under each other, by floor and ceiling heights and by overlap."""

from __future__ import annotations

import numpy as np
import shapely
from shapely import Polygon
from shapely.geometry.base import BaseGeometry

from cinder.design.plan.party import THICKEST_FLOOR_M, THICKEST_WALL_M
from cinder.design.plan.shape import Shape

FLOOR_SLACK_M = 0.15
END_OF_WALL_M = 0.12
LEAST_AREA_M2 = 0.01
LEAST_SCRAP_M2 = 1e-6


class Slabs:
    """Rooms above and below each other, by floor and ceiling heights."""

    def __init__(self, placed: list[Shape]) -> None:
        self.placed = placed
        self.boxes = np.array([s.polygon.bounds for s in placed]).reshape(-1, 4)
        self.bottom = np.array([s.bottom_m for s in placed])
        self.top = np.array([s.top_m for s in placed])
        self.tall = np.array([s.height_m is not None for s in placed], dtype=bool)

    def _touching(self, body: Shape) -> np.ndarray:
        x0, y0, x1, y1 = body.polygon.bounds
        b = self.boxes
        near = (b[:, 0] < x1) & (b[:, 2] > x0) & (b[:, 1] < y1) & (b[:, 3] > y0)
        return np.asarray(near & self.tall & np.array([s is not body for s in self.placed], dtype=bool))

    def over(self, body: Shape) -> list[Shape]:
        """Rooms whose floors lie on this ceiling."""
        if not body.placed or body.height_m is None:
            return []
        return self._near(body, self.bottom - body.top_m)

    def under(self, body: Shape) -> list[Shape]:
        """Rooms whose ceilings lie under this floor."""
        return self._near(body, body.bottom_m - self.top) if body.placed else []

    def _near(self, body: Shape, gap: np.ndarray) -> list[Shape]:
        near = self._touching(body) & (gap > -FLOOR_SLACK_M) & (gap < THICKEST_FLOOR_M)
        return [self.placed[k] for k in np.nonzero(near)[0]]


def above(body: Shape, over: list[Shape]) -> tuple[list[tuple[str, BaseGeometry]], BaseGeometry]:
    """What each room over this ceiling covers of it, and what none covers."""
    return _cover(body.flat, [(other.id, other.polygon) for other in over])


def below(body: Shape, under: list[Shape]) -> tuple[list[tuple[str, BaseGeometry]], BaseGeometry]:
    """What each room under this floor covers of it, and what none covers."""
    return _cover(body.polygon, [(other.id, other.flat) for other in under])


def _cover(
    area: BaseGeometry, others: list[tuple[str, Polygon]]
) -> tuple[list[tuple[str, BaseGeometry]], BaseGeometry]:
    met: list[tuple[str, BaseGeometry]] = []
    rest: BaseGeometry = area
    for key, other in others:
        try:
            shared = rest.intersection(other)
        except shapely.errors.GEOSException:
            continue  # outlines that touch in ways no overlay can settle: taken as not over each other
        if shared.area > LEAST_AREA_M2:
            met.append((key, shared))
            rest = rest.difference(other)
    return met, rest


def _areas(geometry: BaseGeometry) -> BaseGeometry:
    """What has an area in a geometry; overlays leave lines and points where edges touch."""
    if geometry.geom_type == "Polygon":
        return geometry if geometry.area > LEAST_SCRAP_M2 else Polygon()
    kept = [part for part in shapely.get_parts(geometry) if part.geom_type == "Polygon" and part.area > LEAST_SCRAP_M2]
    return shapely.MultiPolygon(kept)


def under_walls(met: list[tuple[str, BaseGeometry]], rest: BaseGeometry) -> tuple[float, float]:
    """What no room covers, in two: strips under the walls between and around them, and what is really open."""
    if not met or rest.area <= LEAST_AREA_M2:
        return (rest.area, 0.0) if met else (0.0, rest.area)
    try:
        open_m2 = min(float(_open(met, rest).area), float(rest.area))
    except shapely.errors.GEOSException:
        open_m2 = float(rest.area)  # what cannot be told counts as open, which loses more
    return float(rest.area) - open_m2, open_m2


def _open(met: list[tuple[str, BaseGeometry]], rest: BaseGeometry) -> BaseGeometry:
    """What is really open of what no room covers: not under the walls between rooms, and wider than a wall's end."""
    half = THICKEST_WALL_M / 2
    with np.errstate(invalid="ignore", divide="ignore"):  # GEOS raises the flags on corners of slivers without area
        if _areas(rest).buffer(-END_OF_WALL_M, join_style="mitre").is_empty:
            return Polygon()
        covered = shapely.union_all([_areas(shared) for _, shared in met])
        closed = covered.buffer(half, join_style="mitre").buffer(-half, join_style="mitre")
        free = _areas(_areas(rest).difference(closed))
        core = free.buffer(-END_OF_WALL_M, join_style="mitre").buffer(END_OF_WALL_M, join_style="mitre")
        return shapely.make_valid(core).intersection(shapely.make_valid(free))
