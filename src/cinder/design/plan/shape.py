"""The body of a room: its outline, the ceiling over every point of it, its walls, slopes and volume."""

from __future__ import annotations

import math
from dataclasses import dataclass
from functools import cached_property

import numpy as np
import shapely
from shapely import Polygon
from shapely.geometry import LineString, Point, box

from cinder.design.plan.geometry import corners, signed_area
from cinder.model import Room

FAR_M = 1e3
ON_THE_LINE_M = 1e-6
BESIDE_M = 1e-4
XY = tuple[float, float]


@dataclass(frozen=True, slots=True)
class Wall:
    """One run as it stands: from `a` to `b` with the outside on its `normal`, plan coordinates in m."""

    id: str
    a: XY
    b: XY
    length_m: float
    normal: XY


@dataclass(frozen=True, slots=True)
class Rise:
    """A sloping ceiling: height above the floor = knee + tan x distance from its wall's line, in front of it; what lies
    behind the line (round an inner corner of the walk) is under another ceiling."""

    id: str
    wall: str
    knee_m: float
    tan: float
    origin: XY
    inward: XY

    def height(self, at: XY) -> float:
        return self.knee_m + self.tan * self.before(at)

    def before(self, at: XY) -> float:
        """How far a point lies in front of the wall's line, m; negative behind it."""
        dx, dy = at[0] - self.origin[0], at[1] - self.origin[1]
        return dx * self.inward[0] + dy * self.inward[1]


@dataclass(eq=False)
class Shape:
    """A walked room as a body. `placed`: it has a position, so plan coordinates mean something."""

    id: str
    walls: list[Wall]
    polygon: Polygon
    height_m: float | None
    rises: list[Rise]
    placed: bool
    bottom_m: float
    valid: bool

    @property
    def top_m(self) -> float:
        return self.bottom_m + (self.height_m or 0.0)

    @cached_property
    def slope_parts(self) -> dict[str, Polygon]:
        """Plan area under each slope, by slope id; where slopes meet, the lower one counts."""
        out = {}
        for rise in self.rises:
            part = self.polygon.intersection(self._front(rise)).intersection(self._under(rise, None))
            for other in self.rises:
                if other is not rise and not part.is_empty:
                    part = part.difference(self._front(other).difference(self._under(rise, other)))
            out[rise.id] = part
        return out

    def _front(self, rise: Rise) -> Polygon:
        """The half-plane in front of a slope's wall."""
        (x, y), (ux, uy) = rise.origin, rise.inward
        px, py = -uy * FAR_M, ux * FAR_M
        return Polygon(
            [(x + px, y + py), (x - px, y - py), (x - px + ux * FAR_M, y - py + uy * FAR_M),
             (x + px + ux * FAR_M, y + py + uy * FAR_M)]
        )  # fmt: skip

    def _under(self, rise: Rise, other: Rise | None) -> Polygon:
        """The half-plane where `rise` lies below `other` (None: below the flat ceiling)."""
        gx, gy = rise.tan * rise.inward[0], rise.tan * rise.inward[1]
        at = rise.origin
        if other is None:
            gap = (self.height_m or 0.0) - rise.height(at)
        else:
            gx -= other.tan * other.inward[0]
            gy -= other.tan * other.inward[1]
            gap = other.height(at) - rise.height(at)
        # rise - other at p = g . (p - at) - gap <= 0
        size = math.hypot(gx, gy)
        if size < 1e-12:
            return box(-FAR_M, -FAR_M, FAR_M, FAR_M) if gap >= 0 else Polygon()
        ux, uy = gx / size, gy / size
        edge = (at[0] + ux * gap / size, at[1] + uy * gap / size)
        px, py = -uy * FAR_M, ux * FAR_M
        back = (ux * FAR_M, uy * FAR_M)
        ring = [
            (edge[0] + px, edge[1] + py),
            (edge[0] - px, edge[1] - py),
            (edge[0] - px - back[0], edge[1] - py - back[1]),
            (edge[0] + px - back[0], edge[1] + py - back[1]),
        ]
        return Polygon(ring)

    @cached_property
    def flat(self) -> Polygon:
        """Plan area under the level part of the ceiling."""
        rest = self.polygon
        for part in self.slope_parts.values():
            rest = rest.difference(part)
        return rest

    @cached_property
    def runs(self) -> np.ndarray:
        """Its walls from a to b with their normals outwards (W, 6)."""
        return np.array([(*wall.a, *wall.b, *wall.normal) for wall in self.walls], dtype=float).reshape(-1, 6)

    @cached_property
    def bounds(self) -> tuple[float, float, float, float]:
        """Its box on the plan: least x and y, greatest x and y."""
        x0, y0, x1, y1 = self.polygon.bounds
        return x0, y0, x1, y1

    @cached_property
    def outlines(self) -> tuple[bytes, bytes]:
        """The floor and the level part of the ceiling, to tell them from others."""
        floor = self.polygon.wkb
        return floor, self.flat.wkb if self.rises else floor

    def ceiling_at(self, at: XY) -> float:
        """Height of the ceiling above the floor at a point, m."""
        height = self.height_m or 0.0
        return max(min([height, *(rise.height(at) for rise in self.rises if rise.before(at) > -ON_THE_LINE_M)]), 0.0)

    @cached_property
    def volume_m3(self) -> float | None:
        if self.height_m is None:
            return None
        if not self.rises:
            return float(self.polygon.area * self.height_m)
        total = self.flat.area * self.height_m
        for rise in self.rises:
            part = self.slope_parts[rise.id]
            if not part.is_empty:
                centre = part.centroid
                total += part.area * rise.height((centre.x, centre.y))
        return float(total)

    def slope_area_m2(self, slope: str) -> float:
        """Sloping surface of one slope, m2: its plan area over the cosine of its angle."""
        rise = next(r for r in self.rises if r.id == slope)
        return float(self.slope_parts[slope].area * math.hypot(1.0, rise.tan))

    def profile(self, wall: Wall) -> list[XY]:
        """The wall's upper edge: (distance along it, height above the floor), straight between points."""
        if not self.rises:
            return [(0.0, self.height_m or 0.0), (wall.length_m, self.height_m or 0.0)]
        stops = {0.0, wall.length_m}
        line = LineString([wall.a, wall.b])
        for part in self.slope_parts.values():
            if part.is_empty:
                continue
            met = line.intersection(part.buffer(1e-6))
            for point in shapely.get_coordinates(met):
                at = min(max(line.project(Point(point)), 0.0), wall.length_m)
                # the ceiling may step there: look at it from both sides
                stops |= {at, max(at - BESIDE_M, 0.0), min(at + BESIDE_M, wall.length_m)}
        ux, uy = self._along(wall)
        return [(s, self.ceiling_at((wall.a[0] + ux * s, wall.a[1] + uy * s))) for s in sorted(stops)]

    def _along(self, wall: Wall) -> XY:
        if wall.length_m == 0:
            return (1.0, 0.0)
        return ((wall.b[0] - wall.a[0]) / wall.length_m, (wall.b[1] - wall.a[1]) / wall.length_m)

    def wall_area_m2(self, wall: Wall, s0: float, s1: float, low: float, high: float) -> float:
        """Area of a wall between two distances along it and two heights above the floor, under its upper edge."""
        if s1 <= s0 or high <= low:
            return 0.0
        if not self.rises:
            return (s1 - s0) * max(min(high, self.height_m or 0.0) - low, 0.0)
        face = Polygon([(0.0, 0.0), (wall.length_m, 0.0), *reversed(self.profile(wall))])
        return float(face.buffer(0).intersection(box(s0, low, s1, high)).area)


def shape(key: str, room: Room, *, level_m: float) -> Shape | None:
    """The body of a room, at its place if it has one. None while its walk lacks a length.

    Walks go either way round; walls always have the outside on their normal. A walk that crosses itself is kept
    with `valid` False: it has walls, but no neighbours can be told from it.
    """
    points = corners(room.walk)
    if points is None or len(points) < 4:
        return None
    placed = room.position is not None
    if room.position is not None:
        points = [_moved(p, room.position.x_m, room.position.y_m, room.position.rotation_deg) for p in points]
    clockwise = signed_area(points) <= 0
    ring = points[:-1] if math.dist(points[0], points[-1]) < 0.02 else points
    polygon = Polygon(ring)
    valid = bool(polygon.is_valid) and polygon.area > 0
    walls = [_wall(run.id, a, b, clockwise) for run, a, b in zip(room.walk, points, points[1:], strict=False)]
    bottom = room.floor_level_m if room.floor_level_m is not None else level_m
    out = Shape(key, walls, polygon, room.height_m, [], placed and valid, bottom, valid)
    if room.height_m is not None and valid:
        for slope_key, slope in room.slopes.items():
            wall = next((w for w in walls if w.id == slope.run), None)
            if wall is None or slope.knee_m is None or slope.angle_deg is None or slope.knee_m >= room.height_m:
                continue
            inward = (-wall.normal[0], -wall.normal[1])
            tan = math.tan(math.radians(slope.angle_deg))
            out.rises.append(Rise(slope_key, wall.id, slope.knee_m, tan, wall.a, inward))
    return out


def _moved(point: XY, x: float, y: float, rotation_deg: float) -> XY:
    """A point of the walk in plan coordinates; rotation is clockwise, as turns are. On a 1 mm grid when square."""
    if rotation_deg % 360 == 0:
        return (point[0] + x, point[1] + y)
    turn = -math.radians(rotation_deg)
    c, s = math.cos(turn), math.sin(turn)
    return (point[0] * c - point[1] * s + x, point[0] * s + point[1] * c + y)


def _wall(key: str, a: XY, b: XY, clockwise: bool) -> Wall:
    length = math.dist(a, b)
    ux, uy = ((b[0] - a[0]) / length, (b[1] - a[1]) / length) if length else (1.0, 0.0)
    normal = (-uy, ux) if clockwise else (uy, -ux)
    return Wall(key, a, b, length, normal)
