"""What lies beyond every stretch of every face: derived from where rooms stand, unless somebody has said otherwise.

Two runs are the two sides of one wall when they are antiparallel, face each other and lie a wall's thickness apart;
what they share is the projection of one on the other. Above and below come from floor and ceiling heights. Whatever
touches nothing is outside. Walls have thickness, so slivers between two party stretches are the ends of walls.
"""

from __future__ import annotations

from collections import deque
from collections.abc import Callable
from dataclasses import dataclass, replace
from functools import partial
from itertools import pairwise
from typing import Literal, NamedTuple

from shapely.errors import GEOSException

from cinder.design.kept import Afresh, Kept, entries, to_the_letter
from cinder.design.plan.geometry import Closing, Plan, closing, plan
from cinder.design.plan.party import GRID_M, THICKEST_FLOOR_M, THICKEST_WALL_M, Hit, wall_hits
from cinder.design.plan.shape import Shape, Wall, shape
from cinder.design.plan.slabs import END_OF_WALL_M, LEAST_AREA_M2, Cover, Slabs, cover
from cinder.model import Beyond, Room, Span, Survey
from cinder.model.parts import part_of

FaceKind = Literal["wall", "floor", "ceiling", "slope"]
NEAR_GROUND_M = 1.0
STOREY_M = 2.7
ROOMS_MEET_M2 = 0.05
How = Literal["stated", "derived", "assumed"]


@dataclass(frozen=True, slots=True)
class Stretch:
    """A piece of a face: its area, what lies beyond, how that is known, and where on the face it is.

    Walls: `from_m`..`to_m` along the run, `low_m`..`high_m` above the room's floor. `hole`: open, as a stairwell is.
    `under`: earth that lies under the floor of the room beside it, so no edge of the house.
    """

    area_m2: float
    beyond: Beyond
    how: How
    from_m: float | None = None
    to_m: float | None = None
    low_m: float | None = None
    high_m: float | None = None
    hole: bool = False
    under: bool = False


@dataclass(frozen=True, slots=True)
class Layout:
    """Bodies of the rooms, the stretches of all their faces by room and face, and what their walks say."""

    shapes: dict[str, Shape]
    faces: dict[str, dict[str, list[Stretch]]]
    levels: dict[str, float]
    plans: dict[str, Plan]
    closings: dict[str, Closing]
    meetings: list[tuple[str, str, float]]


HEATED, OUTSIDE, GROUND = Beyond(kind="heated"), Beyond(kind="outside"), Beyond(kind="ground")


class Stacked(NamedTuple):
    """Whether a storey has storeys with rooms under it and over it: what a room touches that stands on no plan yet."""

    below: bool
    above: bool


LOWEST = Stacked(below=False, above=False)


def _stacked(survey: Survey) -> dict[str, Stacked]:
    order = [key for key, _ in sorted(survey.storeys.items(), key=lambda item: (item[1].pos, item[0]))]
    lived = [any(room.storey == key for room in survey.rooms.values()) for key in order]
    return {key: Stacked(any(lived[:n]), any(lived[n + 1 :])) for n, key in enumerate(order)}


def levels(survey: Survey) -> dict[str, float]:
    """Floor level of every storey, m: as measured, else stacked in order from the ground floor at 0."""
    out: dict[str, float] = {}
    level = 0.0
    for key, storey in sorted(survey.storeys.items(), key=lambda item: (item[1].pos, item[0])):
        level = storey.level_m if storey.level_m is not None else level
        out[key] = level
        tallest = max((r.height_m for r in survey.rooms.values() if r.storey == key and r.height_m), default=None)
        level += storey.height_m or (min(tallest + 0.3, 3.6) if tallest else STOREY_M)
    return out


def layout(survey: Survey, kept: Kept | None = None) -> Layout:
    """What lies beyond every face of every room that has a walk. Nobody changes what is given.

    Most edits move no wall: kept by everything it is made from.
    """
    if kept is None or isinstance(kept, Afresh):
        return _once(survey)
    rooms = tuple(kept.of(("geometry", key), (room,), partial(_made_from, room)) for key, room in survey.rooms.items())
    needs = (tuple(survey.rooms), rooms, entries(survey.storeys), entries(survey.parts))
    return kept.of("layout", needs, lambda: derive(survey, kept))


_DERIVED: deque[tuple[Survey, Layout]] = deque(maxlen=4)


def _once(survey: Survey) -> Layout:
    """As derived from this very survey, which nobody changes: a pack looks at one some twenty times."""
    for known, laid in tuple(_DERIVED):
        if known is survey:
            return laid
    laid = derive(survey)
    _DERIVED.append((survey, laid))
    return laid


def _made_from(room: Room) -> bytes:
    """Everything of a room its part of a layout depends on."""
    return to_the_letter(
        (
            room.storey, room.part, room.height_m, room.floor_level_m,
            (room.position.x_m, room.position.y_m, room.position.rotation_deg) if room.position else None,
            [(run.id, run.length_m, run.turn_deg, run.diagonal_m) for run in room.walk],
            [(k, s.run, s.knee_m, s.angle_deg) for k, s in room.slopes.items()],
            [(v.face, v.width_m, v.length_m) for v in room.voids.values()],
            [
                (name, span_key, span.from_m, span.to_m, _beyond_key(span.beyond))
                for name, face in room.faces.items()
                for span_key, span in face.spans.items()
            ],
        )
    )  # fmt: skip


def _beyond_key(beyond: Beyond | None) -> tuple[str | None, ...] | None:
    return (beyond.kind, beyond.room, beyond.space, beyond.neighbour) if beyond else None


def _walked(room: Room) -> tuple[Plan | None, Closing | None]:
    return plan(room.walk), closing(room.walk)


def derive(survey: Survey, kept: Kept | None = None) -> Layout:
    """Derive what lies beyond every face of every room that has a walk."""
    kept = kept or Afresh()
    level = levels(survey)
    shapes: dict[str, Shape] = {}
    said = {key: kept.of(("geometry", key), (room,), partial(_made_from, room)) for key, room in survey.rooms.items()}
    for key, room in survey.rooms.items():
        at = level.get(room.storey or "", 0.0)
        made = kept.of(("shape", key), (said[key], at), partial(shape, key, room, level_m=at))
        if made is not None:
            shapes[key] = made
    placed = [s for s in shapes.values() if s.placed]
    hits = wall_hits(placed, kept)
    slabs = Slabs(placed)
    walked = {key: kept.of(("walk", key), (said[key],), partial(_walked, room)) for key, room in survey.rooms.items()}
    plans = {key: floor for key, (floor, _) in walked.items() if floor is not None}
    closings = {key: gap for key, (_, gap) in walked.items() if gap is not None}
    out = Layout(shapes, {}, level, plans, closings, _meetings(placed))
    stacked = _stacked(survey)
    for key, body in shapes.items():
        room = survey.rooms[key]
        part = part_of(survey, room.part)
        loft = part.loft if part is not None else None
        mine = [hits.get((key, n), []) for n in range(len(body.walls))]
        beside = tuple([_seen_from(body, wall) for wall in mine])
        over, under = slabs.over(body), slabs.under(body)
        likely = stacked.get(room.storey or "", LOWEST)
        covered = tuple([(other.id, other.outlines[0]) for other in over])
        carried = tuple([(other.id, other.outlines[1]) for other in under])
        needs = (said[key], body, beside, loft, covered, carried, likely)
        faces = kept.of(
            ("room's faces", key),
            needs,
            partial(_faces, room, said[key], body, mine, beside, loft, over, under, likely, kept),
        )
        out.faces[key] = kept.as_before(("faces", key), faces)
    return out


def _seen_from(body: Shape, hits: list[Hit]) -> bytes:
    """What a wall's stretches hang on of the runs on its other side. How far one reaches above this room, or begins under its floor,
    is one to them: most edits that move a ceiling then move nothing next door."""
    if not hits:
        return b""
    height = (body.height_m or 0.0) + 1e-6
    return to_the_letter(
        [(h.room, h.s0, h.s1, h.low if h.low >= 0 else -1.0, min(h.high, height), h.party) for h in hits]
    )


def _faces(
    room: Room,
    said: bytes,
    body: Shape,
    hits: list[list[Hit]],
    beside: tuple[bytes, ...],
    loft: str | None,
    over: list[Shape],
    under: list[Shape],
    likely: Stacked,
    kept: Kept,
) -> dict[str, list[Stretch]]:
    """The stretches of all faces of a room, by what its walls hit and by the rooms over and under it."""

    def below() -> Cover:  # most edits that move a wall move it up or down alone
        needs = (body.outlines[0], *((other.id, other.outlines[1]) for other in under))
        return kept.of(
            ("below", body.id), needs, lambda: cover(body.polygon, [(other.id, other.flat) for other in under])
        )

    def above() -> Cover:
        needs = (body.outlines[1], *((other.id, other.outlines[0]) for other in over))
        return kept.of(
            ("above", body.id), needs, lambda: cover(body.flat, [(other.id, other.polygon) for other in over])
        )

    top = Beyond(kind="space", space=loft) if loft else OUTSIDE
    faces = {
        wall.id: kept.of(("wall", body.id, wall.id), (said, body, seen), partial(_wall, body, wall, room, mine))
        for wall, mine, seen in zip(body.walls, hits, beside, strict=True)
    }
    faces["floor"] = _level(room, "floor", body.polygon.area, below, body, top, likely)
    faces["ceiling"] = _level(room, "ceiling", body.flat.area, above, body, top, likely)
    for rise in body.rises:
        stated = next((s.beyond for s in _spans(room, rise.id) if s.beyond), None)
        how: How = "stated" if stated else "derived" if body.placed else "assumed"
        faces[rise.id] = [Stretch(body.slope_area_m2(rise.id), stated or OUTSIDE, how)]
    return faces


def _spans(room: Room, face: str) -> list[Span]:
    known = room.faces.get(face)
    return [span for _, span in sorted(known.spans.items())] if known else []


def _wall(body: Shape, wall: Wall, room: Room, hits: list[Hit]) -> list[Stretch]:
    """Stretches of one wall: what was said first, then what it touches, the rest outside."""
    height = body.height_m
    if height is None or wall.length_m <= 0:
        return []
    stated = [
        (max(s.from_m or 0.0, 0.0), min(s.to_m if s.to_m is not None else wall.length_m, wall.length_m), s.beyond)
        for s in _spans(room, wall.id)
    ]
    stops = {0.0, wall.length_m}
    for from_m, to_m, _ in stated:
        stops |= {min(from_m, wall.length_m), max(to_m, 0.0)}
    for hit in hits:
        stops |= {hit.s0, hit.s1}
        for rect in hit.party:
            stops |= {rect[0], rect[1]}
    stops = {min(max(stop, 0.0), wall.length_m) for stop in stops}
    edges = _apart(sorted(stops), wall.length_m)
    strips = [_strip(body, wall, s0, s1, stated, hits) for s0, s1 in pairwise(edges)]
    out: list[Stretch] = []
    for n, (s0, s1) in enumerate(pairwise(edges)):
        strip = strips[n]
        if _is_wall_end(strips, edges, n):
            strip = [(0.0, height, HEATED, "derived", False)]
        for low, high, beyond, how, under in strip:
            area = body.wall_area_m2(wall, s0, s1, low, high)
            if area <= 0:
                continue
            at = next((n for n, p in enumerate(out) if p.to_m == s0 and (p.low_m, p.high_m) == (low, high)), None)
            last = out[at] if at is not None else None
            if at is not None and last is not None and (last.beyond, last.how, last.under) == (beyond, how, under):
                out[at] = replace(last, to_m=s1, area_m2=last.area_m2 + area)
            else:
                out.append(Stretch(area, beyond, how, s0, s1, low, high, under=under))
    return out


def _apart(stops: list[float], length_m: float) -> list[float]:
    """Stops at least a millimetre apart, the wall's two ends among them: the grid geometry lies on."""
    out = [0.0]
    for stop in stops:
        if stop - out[-1] > GRID_M:
            out.append(stop)
    if length_m - out[-1] <= GRID_M and len(out) > 1:
        out[-1] = length_m
    return out


Band = tuple[float, float, Beyond, How, bool]
"""From, to above the floor; what lies beyond, how that is known, and whether it is earth under a room."""


def _strip(
    body: Shape,
    wall: Wall,
    s0: float,
    s1: float,
    stated: list[tuple[float, float, Beyond | None]],
    hits: list[Hit],
) -> list[Band]:
    """What lies beyond one strip of a wall, in bands from the floor up."""
    height = body.height_m or 0.0
    middle = (s0 + s1) / 2
    for from_m, to_m, beyond in stated:
        if from_m <= middle <= to_m:
            return [(0.0, height, beyond or OUTSIDE, "stated" if beyond else "assumed", False)]
    if not body.placed:
        return [(0.0, height, OUTSIDE, "assumed", False)]
    free = [(0.0, height)]
    bands: list[Band] = []
    for hit in hits:
        for from_m, to_m, bottom, top in hit.party:
            if not from_m <= middle <= to_m:
                continue
            bands.append((bottom, top, Beyond(kind="room", room=hit.room), "derived", False))
            free = [
                (x, y)
                for low, high in free
                for x, y in ((low, min(high, bottom)), (max(low, top), high))
                if y - x > 1e-9
            ]
    around = [h for h in hits if h.s0 <= middle <= h.s1]
    for low, high in free:
        bands += _free_band(body, low, high, around)
    return sorted(bands, key=lambda band: band[0])


def _free_band(body: Shape, low: float, high: float, around: list[Hit]) -> list[Band]:
    """A band that touches no room: the edge of a floor between two rooms, in the earth (below level 0), or outside."""
    under = any(abs(h.high - low) < THICKEST_FLOOR_M and h.high <= low + 1e-9 for h in around)
    over = any(abs(h.low - high) < THICKEST_FLOOR_M and h.low >= high - 1e-9 for h in around)
    if high - low <= THICKEST_FLOOR_M and under and over:
        return [(low, high, HEATED, "derived", False)]
    ground = -body.bottom_m
    if ground > GRID_M and low < ground:
        split = high if high - ground <= GRID_M else min(high, ground)
        deep: list[Band] = [(low, split, GROUND, "derived", over)]
        return deep + ([(split, high, OUTSIDE, "derived", False)] if high > split else [])
    return [(low, high, OUTSIDE, "derived", False)]


def _is_wall_end(strips: list[list[Band]], edges: list[float], n: int) -> bool:
    """Whether a strip is the end of a wall that stands against this one: narrow, and party on its sides."""
    strip = strips[n]
    if any(beyond.kind not in ("outside", "ground") or how != "derived" for _, _, beyond, how, _ in strip):
        return False
    if all(beyond.kind == "ground" for _, _, beyond, _, _ in strip):
        return False

    def party(k: int) -> bool:
        return any(beyond.kind == "room" and how == "derived" for _, _, beyond, how, _ in strips[k])

    width = edges[n + 1] - edges[n]
    before = party(n - 1) if n > 0 else None
    after = party(n + 1) if n + 1 < len(strips) else None
    if before and after:
        return width <= THICKEST_WALL_M
    return width <= END_OF_WALL_M and bool(before or after) and (before is None or after is None)


def _level(
    room: Room,
    face: str,
    area: float,
    covered: Callable[[], Cover],
    body: Shape,
    top: Beyond,
    likely: Stacked,
) -> list[Stretch]:
    """Stretches of a floor or a ceiling."""
    holes = min(sum(v.width_m * v.length_m for v in room.voids.values() if v.face == face), area)
    out = [Stretch(holes, HEATED, "derived", hole=True)] if holes > 0 else []
    left = area - holes
    scale = left / area if area > 0 else 0.0
    stated = next((s.beyond for s in _spans(room, face) if s.beyond), None)
    if stated is not None:
        return [*out, Stretch(left, stated, "stated")]
    lowest = body.bottom_m < NEAR_GROUND_M
    nothing = (GROUND if lowest else OUTSIDE) if face == "floor" else top
    if not body.placed:
        guess = (HEATED if likely.below else GROUND) if face == "floor" else (HEATED if likely.above else top)
        return [*out, Stretch(left, guess, "assumed")]
    met, walls, free = covered()
    out += [Stretch(shared_m2 * scale, Beyond(kind="room", room=key), "derived") for key, shared_m2 in met]
    if walls * scale > LEAST_AREA_M2:
        out.append(Stretch(walls * scale, HEATED, "derived"))
    elif met:
        out[-1] = replace(out[-1], area_m2=out[-1].area_m2 + walls * scale)
    if free * scale > 0 or not met:
        out.append(Stretch(free * scale, nothing, "derived"))
    return out


def _meetings(placed: list[Shape]) -> list[tuple[str, str, float]]:
    """Rooms that stand in each other: both ids and the shared floor, m2."""
    out = []
    for n, one in enumerate(placed):
        x0, y0, x1, y1 = one.bounds
        for other in placed[n + 1 :]:
            a0, b0, a1, b1 = other.bounds
            if a0 >= x1 or a1 <= x0 or b0 >= y1 or b1 <= y0:
                continue
            if min(one.top_m, other.top_m) - max(one.bottom_m, other.bottom_m) < 0.3:
                continue
            try:
                shared = one.polygon.intersection(other.polygon).area
            except GEOSException:
                continue
            if shared > ROOMS_MEET_M2:
                out.append((one.id, other.id, float(shared)))
    return out
