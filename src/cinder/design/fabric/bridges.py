"""Thermal bridges line by line: lengths from the plan, psi from the table or the practice's own."""

from __future__ import annotations

from collections.abc import Iterator
from dataclasses import dataclass
from itertools import pairwise

from cinder.design.house.rooms import FaceView, PieceView, RoomView
from cinder.design.house.view import HouseView

FLOOR_M = 0.05
OUTWARD = ("outside", "space")


@dataclass(slots=True)
class BridgeLength:
    """A junction in a room: which, how long, on which face; `share` of it that is this room's."""

    junction: str
    face: FaceView
    stretch: int
    length_m: float


def psi_w_mk(house: HouseView, junction: str) -> float:
    """Psi of a junction, W/mK: the practice's own value, else the table's at its quality of building."""
    own = house.practice.psi_w_mk.get(junction)
    if own is not None:
        return own
    return float(getattr(house.tables.junctions[junction], house.practice.bridge_quality))


def junctions(room: RoomView) -> list[BridgeLength]:
    """Every junction of a room with the outside or an unheated space.

    A corner belongs to one room; the edge of an upper floor and an inner wall half to the rooms on either side.
    """
    walls = [face for face in room.faces if face.kind == "wall"]
    return [*_corners(room, walls), *_edges(room, walls), *_inner_walls(walls), *_reveals(room)]


def _outward(face: FaceView) -> list[tuple[int, PieceView]]:
    return [(n, p) for n, p in enumerate(face.pieces) if p.stretch.beyond.kind in OUTWARD and p.stretch.area_m2 > 0]


def _reaches(face: FaceView, *, end: bool, length_m: float) -> tuple[int, float] | None:
    """The outward stretch at an end of a wall, with its height there."""
    for n, piece in _outward(face):
        s = piece.stretch
        at = s.to_m if end else s.from_m
        wanted = length_m if end else 0.0
        if at is not None and abs(at - wanted) < FLOOR_M:
            return n, (s.high_m or 0.0) - (s.low_m or 0.0)
    return None


def _corners(room: RoomView, walls: list[FaceView]) -> Iterator[BridgeLength]:
    """Where two outside walls meet: an outer corner where the walk turns right, an inner one where it turns left."""
    if room.plan is None or len(walls) < 3:
        return
    runs = {run.id: run for run in room.room.walk}
    for face, after in pairwise([*walls, walls[0]]):
        run = runs[face.key]
        if not run.turn_deg or run.length_m is None:
            continue
        here = _reaches(face, end=True, length_m=run.length_m)
        there = _reaches(after, end=False, length_m=0.0)
        if here and there:
            kind = "corner-out" if run.turn_deg > 0 else "corner-in"
            yield BridgeLength(kind, face, here[0], min(here[1], there[1]))


def _edges(room: RoomView, walls: list[FaceView]) -> Iterator[BridgeLength]:
    """Along the foot and the head of the outside walls."""
    below = next((f.main.beyond.kind for f in room.faces if f.kind == "floor" and f.main), None)
    above = next((f.main.beyond.kind for f in room.faces if f.kind == "ceiling" and f.main), None)
    foot = {"ground": ("ground-edge", 1.0), "room": ("floor-edge", 0.5), "heated": ("floor-edge", 0.5)}
    head = {"outside": ("roof-edge", 1.0), "space": ("roof-edge", 1.0), "room": ("floor-edge", 0.5),
            "heated": ("floor-edge", 0.5)}  # fmt: skip
    top = room.room.height_m or 0.0
    for face in walls:
        for n, piece in _outward(face):
            s = piece.stretch
            long = (s.to_m or 0.0) - (s.from_m or 0.0)
            if (s.low_m or 0.0) <= FLOOR_M and below in foot:
                junction, share = foot[below]
                yield BridgeLength(junction, face, n, long * share)
            if (s.high_m or 0.0) >= top - FLOOR_M and above in head:
                junction, share = head[above]
                yield BridgeLength(junction, face, n, long * share)


def _inner_walls(walls: list[FaceView]) -> Iterator[BridgeLength]:
    """An inner wall that meets an outside wall: half of it seen from this room, at each end of an outward stretch."""
    for face, after in pairwise([*walls, walls[0]]) if len(walls) > 2 else ():
        for one, other, end in ((face, after, True), (after, face, False)):
            out = _outward(one)
            if out and not _outward(other) and one is not other:
                n, piece = out[-1] if end else out[0]
                yield BridgeLength(
                    "inner-wall", one, n, 0.5 * ((piece.stretch.high_m or 0.0) - (piece.stretch.low_m or 0.0))
                )


def _reveals(room: RoomView) -> Iterator[BridgeLength]:
    """Round every window and door that looks outward: sill, two jambs, lintel."""
    for face in room.faces:
        for n, piece in _outward(face):
            for view in piece.openings:
                opening = room.room.faces[face.key].openings.get(view.id)
                if opening is None or not opening.width_m or not opening.height_m:
                    continue
                if opening.kind == "window":
                    yield BridgeLength("sill", face, n, opening.width_m)
                yield BridgeLength("lintel", face, n, opening.width_m)
                yield BridgeLength("jamb", face, n, 2 * opening.height_m)
