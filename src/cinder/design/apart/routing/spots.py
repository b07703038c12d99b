"""Where pipes begin and end on the plan."""

from __future__ import annotations

import math

from shapely.geometry import Point

from cinder.design.apart.routing.result import RoomOutline, Spot, StoreyPlan
from cinder.design.house.overlay import EmitterView
from cinder.design.house.view import HouseView
from cinder.design.plan.layout import levels
from cinder.design.plan.shape import Shape, Wall

INSET_M = 0.12
"""Pipes arrive so far inside a wall (our choice)."""
PLANT = ("utility", "scullery", "store", "cupboard", "laundry", "boiler")
Place = tuple[float, float, str]


def storeys_of(house: HouseView) -> list[StoreyPlan]:
    """Storeys with rooms that stand on the plan, the lowest first."""
    survey, level = house.job.survey, levels(house.job.survey)
    out = []
    for key, at in sorted(level.items(), key=lambda item: item[1]):
        rooms = [
            RoomOutline(
                room=room.id, label=room.name, outline_m=[[x, y] for x, y in room.shape.polygon.exterior.coords[:-1]]
            )
            for room in house.rooms
            if room.room.storey == key and room.shape is not None and room.shape.placed
        ]
        if rooms:
            out.append(StoreyPlan(id=key, label=survey.storeys[key].label or "A storey", level_m=at, rooms=rooms))
    return out


def spots_of(house: HouseView) -> tuple[list[Spot], dict[str, Place]]:
    """Where every wet emitter's pipes arrive, for those whose room stands on the plan; and the storey of each."""
    level = levels(house.job.survey)
    rooms = {room.id: room for room in house.rooms}
    taken: dict[str, set[str]] = {}
    for one in house.emitters:
        if one.face is not None:
            taken.setdefault(one.room, set()).add(one.face)
    out, places = [], {}
    for one in house.emitters:
        room = rooms.get(one.room)
        if room is None or room.shape is None or not room.shape.placed or one.spec.kind == "electric":
            continue
        storey = room.room.storey or ""
        if storey not in level:
            continue
        x, y, why = _arrives(one, room.shape, _outer(room), taken.setdefault(one.room, set()))
        out.append(
            Spot(
                emitter=one.id,
                room=one.room,
                label=f"{room.name}: {one.label or 'emitter'}",
                at_m=[x, y, level[storey]],
                why=why,
            )
        )
        places[one.id] = (x, y, storey)
    return out, places


def _outer(room: object) -> set[str]:
    """The walls of a room that look outside."""
    faces = getattr(room, "faces", [])
    return {
        face.key
        for face in faces
        if face.kind == "wall" and face.main is not None and face.main.beyond.kind == "outside"
    }


def _arrives(one: EmitterView, shape: Shape, outer: set[str], taken: set[str]) -> tuple[float, float, str]:
    by_id = {wall.id: wall for wall in shape.walls}
    wall = by_id.get(one.face or "")
    long = one.spec.length_m or 0.6
    if wall is not None:
        along = one.offset_m + long / 2 if one.offset_m is not None else wall.length_m / 2
        return (
            *_inside(wall, min(along, wall.length_m), shape),
            "on its wall" if one.offset_m is not None else "the middle of its wall",
        )
    free = [w for w in shape.walls if w.id not in taken and w.length_m >= 0.6] or shape.walls
    best = max(free, key=lambda w: (w.id in outer, w.length_m))
    taken.add(best.id)
    what = "the manifold on a guessed wall" if one.spec.heated is not None else "a guessed wall: nobody has said which"
    return (*_inside(best, best.length_m / 2, shape), what)


def _inside(wall: Wall, along: float, shape: Shape) -> tuple[float, float]:
    """A point along a wall, just inside its room."""
    part = along / wall.length_m if wall.length_m else 0.0
    x, y = wall.a[0] + part * (wall.b[0] - wall.a[0]), wall.a[1] + part * (wall.b[1] - wall.a[1])
    size = math.hypot(*wall.normal) or 1.0
    for sign in (-1, 1):
        px, py = x + sign * INSET_M * wall.normal[0] / size, y + sign * INSET_M * wall.normal[1] / size
        if shape.polygon.contains(Point(px, py)):
            return px, py
    return x, y


def start_of(house: HouseView) -> tuple[float, float, str, str] | None:
    """Where the tree begins: the store on the site, else a room that could hold it; its storey, and how that is known."""
    standing = [
        (room, room.shape, room.room.storey)
        for room in house.rooms
        if room.shape is not None and room.shape.placed and room.room.storey
    ]
    if not standing:
        return None
    level = levels(house.job.survey)
    lowest = min((level[storey] for _, _, storey in standing if storey in level), default=None)
    ground = [one for one in standing if level.get(one[2] or "") == lowest] or standing
    mark = next((m for _, m in sorted(house.job.site.marks.items()) if m.kind == "store"), None)
    if mark is not None:
        at = Point(mark.x_m, mark.y_m)
        near = min(ground, key=lambda one: one[1].polygon.distance(at))
        inside = near[1].polygon.contains(at)
        return mark.x_m, mark.y_m, near[2] or "", "the store on the site" if inside else "the store, beside the rooms"
    likely = [
        one for one in ground if any(word in (one[0].room.use or one[0].name).lower() for word in PLANT)
    ] or ground
    room, shape, storey = min(likely, key=lambda one: one[1].polygon.area)
    point = shape.polygon.representative_point()
    return point.x, point.y, storey or "", f"{room.name}: put the store on the site to begin there"
