"""Rooms over and under each other, by floor and ceiling heights and by overlap."""

from __future__ import annotations

from collections.abc import Sequence
from typing import NamedTuple

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
        self.place = {id(body): n for n, body in enumerate(placed)}
        self.placed = placed
        x0, y0, x1, y1 = np.array([s.bounds for s in placed]).reshape(-1, 4).T
        bottom, top = (np.array([getattr(s, name) for s in placed]) for name in ("bottom_m", "top_m"))
        near = (x0 < x1[:, None]) & (x1 > x0[:, None]) & (y0 < y1[:, None]) & (y1 > y0[:, None])
        near &= np.array([s.height_m is not None for s in placed], dtype=bool)
        np.fill_diagonal(near, val=False)
        gaps = (bottom[None, :] - top[:, None], bottom[:, None] - top[None, :])
        self._over, self._under = (near & (gap > -FLOOR_SLACK_M) & (gap < THICKEST_FLOOR_M) for gap in gaps)

    def over(self, body: Shape) -> list[Shape]:
        """Rooms whose floors lie on this ceiling."""
        return self._of(body, self._over) if body.height_m is not None else []

    def under(self, body: Shape) -> list[Shape]:
        """Rooms whose ceilings lie under this floor."""
        return self._of(body, self._under)

    def _of(self, body: Shape, near: np.ndarray) -> list[Shape]:
        at = self.place.get(id(body))
        return [self.placed[k] for k in near[at].nonzero()[0].tolist()] if at is not None else []


class Cover(NamedTuple):
    """What lies on the other side of a floor or ceiling, m2: each room with what it covers; strips under the walls between and around
    them; what is open."""

    rooms: tuple[tuple[str, float], ...]
    walls_m2: float
    open_m2: float


def cover(area: BaseGeometry, others: Sequence[tuple[str, BaseGeometry]]) -> Cover:
    """What other rooms, by id, cover of an area."""
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
    return Cover(tuple((key, shared.area) for key, shared in met), *_under_walls(met, rest))


def _areas(geometry: BaseGeometry) -> BaseGeometry:
    """What has an area in a geometry; overlays leave lines and points where edges touch."""
    if geometry.geom_type == "Polygon":
        return geometry if geometry.area > LEAST_SCRAP_M2 else Polygon()
    kept = [part for part in shapely.get_parts(geometry) if part.geom_type == "Polygon" and part.area > LEAST_SCRAP_M2]
    return shapely.MultiPolygon(kept)


def _under_walls(met: list[tuple[str, BaseGeometry]], rest: BaseGeometry) -> tuple[float, float]:
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
