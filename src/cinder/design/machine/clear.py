"""What is free about a unit: the house, openings, windows, the edge of the plot, trees and paths, the ground under it."""

from __future__ import annotations

import math
from dataclasses import dataclass

from shapely import LineString, Point, Polygon, unary_union
from shapely.geometry.base import BaseGeometry

from cinder.design.house.view import HouseView
from cinder.design.machine.result import RuleResult
from cinder.design.plan.shape import Shape
from cinder.library import PlaceRuleEntry, load
from cinder.model.job import Receiver, SiteMark, UnitPlace

WALL_M = 0.3
"""What stands round rooms that are measured inside, taken for the outer wall (our choice)."""
UNIT_WIDE_M, UNIT_DEEP_M, UNIT_TALL_M = 1.1, 0.45, 0.8
"""Size of an ordinary unit, where nobody says another (our choice)."""
SEEN_M = 12.0
CLOSE_M = 1.0
"""A wall nearer than this reflects as one the unit stands at (our choice)."""
OUT_OF_ALLEY_M = 2.0
"""Free in front, where both sides are walled: less, and the air it blew is drawn in again (our choice)."""
GROUND_M = 0.6
Measure = tuple[float | None, str, bool]
"""How far (None: nothing near), to what, and whether anything of the kind is known on this site."""


@dataclass(frozen=True, slots=True)
class Ground:
    """The house at the height of the ground."""

    outline: BaseGeometry | None

    @classmethod
    def of(cls, house: HouseView) -> Ground:
        bodies = [shape.polygon.buffer(WALL_M, join_style="mitre") for shape in standing(house)]
        return cls(unary_union(bodies) if bodies else None)

    def free_m(self, x: float, y: float, bearing_deg: float) -> float | None:
        """How far one sees from a point before the house stands in the way; None: not within 12 m."""
        if self.outline is None:
            return None
        a = math.radians(bearing_deg)
        ray = LineString([(x, y), (x + SEEN_M * math.sin(a), y + SEEN_M * math.cos(a))])
        met = ray.intersection(self.outline.boundary)
        return None if met.is_empty else float(Point(x, y).distance(met))

    def rings(self) -> list[list[list[float]]]:
        if self.outline is None:
            return []
        parts = getattr(self.outline, "geoms", [self.outline])
        return [
            [[round(px, 3), round(py, 3)] for px, py in part.exterior.coords]
            for part in parts
            if isinstance(part, Polygon)
        ]


def standing(house: HouseView) -> list[Shape]:
    """Rooms that stand on the ground or reach through it."""
    return [
        shape
        for shape in house.layout.shapes.values()
        if shape.placed and shape.valid and shape.bottom_m <= GROUND_M < max(shape.top_m, shape.bottom_m + 1.0)
    ]


@dataclass(frozen=True, slots=True)
class Free:
    """What is free on each side of a unit to the house, m (None: nothing within 12 m); whether it lies in it or in an alley."""

    sides: dict[str, float | None]
    inside: bool
    walls_near: int
    alley: bool


def free_about(ground: Ground, place: UnitPlace) -> Free:
    """The sides of a unit from its edges; on a roof nothing stands about it."""
    x, y, facing = place.x_m, place.y_m, place.facing_deg
    inside = ground.outline is not None and ground.outline.contains(Point(x, y)) and place.on != "roof"
    turned = {"behind": 180.0, "front": 0.0, "left": -90.0, "right": 90.0}
    sides: dict[str, float | None] = {}
    for side, turn in turned.items():
        far = None if place.on == "roof" else ground.free_m(x, y, facing + turn)
        half = (UNIT_DEEP_M if side in ("behind", "front") else UNIT_WIDE_M) / 2
        sides[side] = None if far is None else max(far - half, 0.0)
    near = sum(1 for far in sides.values() if far is not None and far < CLOSE_M)
    near = min(max(near, 1 if place.on == "wall" else 0), 2)
    walled = all((one := sides[side]) is not None and one < CLOSE_M for side in ("left", "right"))
    front = sides["front"]
    return Free(sides, inside, near, walled and front is not None and front < OUT_OF_ALLEY_M)


def rules_of(house: HouseView) -> dict[str, PlaceRuleEntry]:
    """The general distances with the company's own, as the job took them, beside or in their place."""
    return {**load().place_rules, **{key: one.data for key, one in house.job.library.place_rules.items()}}


def least(house: HouseView, rule: PlaceRuleEntry) -> tuple[float, bool]:
    """The distance that counts: the manual's where somebody entered it."""
    own = house.job.site.place_rules.get(rule.id)
    return (own, True) if own is not None else (rule.least_m, False)


def judged(house: HouseView, ground: Ground, place: UnitPlace, free: Free) -> list[RuleResult]:
    """Every distance with its measure. Trees and paths are left out where nobody put one on the site."""
    measures = _measures(house, ground, place, free)
    found = []
    for rule in rules_of(house).values():
        if rule.flammable_only and house.machine is not None and not house.machine.flammable:
            continue
        measure, what, looked = measures[rule.of]
        if not looked and rule.of in ("tree", "patio"):
            continue
        asked, by_manual = least(house, rule)
        found.append(
            RuleResult(
                key=rule.id, label=rule.label, measure_m=measure, least_m=asked,
                met=(measure is None or measure >= asked - 1e-9) if looked else None, by_manual=by_manual, what=what,
                why=rule.why, source="the manual, as entered" if by_manual else rule.source,
            )
        )  # fmt: skip
    return found


def _measures(house: HouseView, ground: Ground, place: UnitPlace, free: Free) -> dict[str, Measure]:
    site, house_known = house.job.site, ground.outline is not None
    each = [one if one is not None else SEEN_M for one in (free.sides["left"], free.sides["right"])]
    service = max(each)
    return {
        "behind": (free.sides["behind"], "the house", house_known),
        "front": (free.sides["front"], "the house", house_known),
        "side": (None if service >= SEEN_M else service, "the house", house_known),
        "opening": (*_nearest(house, place), bool(site.openings)),
        "window": (*_window(house, place), bool(site.receivers)),
        "boundary": (*_boundary(house, place), len(site.boundary) > 1),
        "tree": _mark(house, place, "tree"),
        "patio": _mark(house, place, "patio"),
        "underside": (max(place.height_m - UNIT_TALL_M / 2, 0.0), "the ground", True),
    }


def _boundary(house: HouseView, place: UnitPlace) -> tuple[float | None, str]:
    """To the edge of the plot, from the unit's edge."""
    corners = [(one.x_m, one.y_m) for one in house.job.site.boundary]
    if len(corners) < 2:
        return None, ""
    closed = [*corners, corners[0]] if len(corners) > 2 else corners
    far = float(LineString(closed).distance(Point(place.x_m, place.y_m)))
    return max(far - UNIT_WIDE_M / 2, 0.0), "the edge of the plot"


def _mark(house: HouseView, place: UnitPlace, kind: str) -> Measure:
    found = [
        (max(math.hypot(one.x_m - place.x_m, one.y_m - place.y_m) - UNIT_WIDE_M / 2, 0.0), one.label or f"a {kind}")
        for one in house.job.site.marks.values()
        if one.kind == kind
    ]
    return (*min(found), True) if found else (None, "", False)


def _nearest(house: HouseView, place: UnitPlace) -> tuple[float | None, str]:
    """The opening, drain or shaft nearest to the unit in space, from its edge; gas sinks, so what lies below counts as level."""
    found = []
    for opening in house.job.site.openings.values():
        flat = max(math.hypot(opening.x_m - place.x_m, opening.y_m - place.y_m) - UNIT_WIDE_M / 2, 0.0)
        above = max(opening.height_m - place.height_m, 0.0)
        found.append((math.hypot(flat, above), opening.label or "an opening"))
    return min(found) if found else (None, "")


def _window(house: HouseView, place: UnitPlace) -> tuple[float | None, str]:
    found = [(distance_m(place, one), one.label or "a window") for one in house.job.site.receivers.values()]
    return min(found) if found else (None, "")


def distance_m(place: UnitPlace | SiteMark, receiver: Receiver) -> float:
    """In space, between middles."""
    return math.dist((place.x_m, place.y_m, place.height_m), (receiver.x_m, receiver.y_m, receiver.height_m))
