"""The faces of a room as the Design shows them, from the arrays."""

from __future__ import annotations

from collections.abc import Sequence
from dataclasses import dataclass

from cinder.design.fabric import below_ground
from cinder.design.fabric.below_ground import Fabric
from cinder.design.house.overlay import surfaces_inside
from cinder.design.house.rooms import FaceView, RoomView
from cinder.design.house.view import HouseView
from cinder.design.losses.piece import Piece
from cinder.design.losses.result import FacePiece, FaceResult, JunctionResult, OpeningResult
from cinder.model import Beyond


@dataclass(frozen=True, slots=True)
class Through:
    """What goes through a stretch or an opening: watts in all and by its bridges, the temperature difference and the
    factor beside it, the bridges' part of its U."""

    watts: float | None = None
    bridge_w: float | None = None
    difference_k: float | None = None
    factor: float | None = None
    bridge_u_w_m2k: float = 0.0


NOTHING = Through()


@dataclass(slots=True)
class RoomThrough:
    """What goes through the pieces of a room: by face, stretch and opening; junctions with their watts by face and kind."""

    by_face: dict[tuple[str, int, str | None], Through]
    junctions: dict[str, dict[str, list[tuple[Piece, float]]]]
    groups: dict[str, float]


def through(pieces: Sequence[Piece], watts: list[float], conducts: list[float], factors: list[float]) -> RoomThrough:
    """Sort the pieces of a room, with their watts, conductances (W/K) and factors."""
    out = RoomThrough({}, {}, dict.fromkeys(("fabric", "ground", "trade"), 0.0))
    for piece, w, conductance, factor in zip(pieces, watts, conducts, factors, strict=True):
        if piece.junction is None:
            share = piece.bridge / (piece.u + piece.bridge) if piece.bridge else 0.0
            # a floor without an exposed edge has U 0: it loses nothing, whatever the difference
            difference = w / conductance if conductance else 0.0
            key = (piece.face, piece.stretch, piece.opening)
            out.by_face[key] = Through(w, w * share, difference, factor, piece.bridge)
        else:
            out.junctions.setdefault(piece.face, {}).setdefault(piece.junction, []).append((piece, w))
        out.groups["fabric" if piece.group == "neighbour" else piece.group] += w
    return out


PLAIN_BEYOND = {
    "outside": ("outside", "outside"), "heated": ("heated", "inside, as warm"), "ground": ("ground", "ground"),
}  # fmt: skip


def beyond_label(house: HouseView, beyond: Beyond | None, kind: str) -> tuple[str, str]:
    if beyond is None:
        return PLAIN_BEYOND["ground" if kind == "floor" else "outside"]
    if beyond.kind in PLAIN_BEYOND:
        return PLAIN_BEYOND[beyond.kind]
    survey = house.job.survey
    if beyond.kind == "room":
        return "room", survey.rooms[beyond.room or ""].label or "another room"
    if beyond.kind == "space":
        return "space", survey.spaces[beyond.space or ""].label or "unheated space"
    return "neighbour", survey.neighbours[beyond.neighbour or ""].label or "neighbour"


def face_result(
    house: HouseView, fabric: Fabric, found: RoomThrough, known: bool, room: RoomView, face: FaceView
) -> FaceResult:
    main = face.main
    pieces = [_piece(house, fabric, found, known, room, face, k) for k in range(len(face.pieces))]
    kind, label = (pieces[0].beyond, pieces[0].beyond_label) if pieces else beyond_label(house, None, face.kind)
    openings = _openings(house, fabric, found, face) if face.openings else []
    several = len(pieces) > 1 and len({p.beyond_label for p in pieces if not p.hole}) > 1
    opened = sum(o.area_m2 or 0.0 for o in face.openings)
    losing = [p.loss_w for p in pieces if p.loss_w is not None]
    return FaceResult(
        key=face.key,
        label=face.label,
        kind=face.kind,
        beyond=kind,
        beyond_label=f"{label}, in part" if several else label,
        stated=main is not None and main.how == "stated",
        found=face.found,
        construction=face.construction,
        construction_label=house.construction_label(face.construction),
        u_w_m2k=pieces[0].u_w_m2k if pieces else None,
        gross_m2=face.gross_m2,
        net_m2=max(face.gross_m2 - opened, 0.0) if face.gross_m2 is not None else None,
        difference_k=pieces[0].difference_k if pieces else None,
        loss_w=sum(losing) if losing else None,
        measure=face.measure,
        openings=openings,
        pieces=pieces,
        bridges=[_bridge_line(house, key, these) for key, these in found.junctions.get(face.key, {}).items()],
    )


def _openings(house: HouseView, fabric: Fabric, through: RoomThrough, face: FaceView) -> list[OpeningResult]:
    at = {o.id: k for k, piece in enumerate(face.pieces) for o in piece.openings}
    out = []
    for o in face.openings:
        k = at.get(o.id, 0)
        beyond = face.pieces[k].stretch.beyond.kind if face.pieces else "outside"
        indoors = surfaces_inside(beyond)
        found = through.by_face.get((face.key, k, o.id), NOTHING)
        out.append(
            OpeningResult(
                id=o.id, label=o.label, kind=o.kind, found=o.found, construction=o.construction,
                construction_label=house.construction_label(o.construction),
                u_w_m2k=fabric.u.u(o.construction, indoors=indoors) if o.construction else None, area_m2=o.area_m2,
                bridge_u_w_m2k=found.bridge_u_w_m2k, difference_k=found.difference_k, factor=found.factor,
                loss_w=found.watts, bridge_w=found.bridge_w, measure=o.measure,
            )
        )  # fmt: skip
    return out


def _bridge_line(house: HouseView, junction: str, found: list[tuple[Piece, float]]) -> JunctionResult:
    return JunctionResult(
        key=junction,
        label=house.tables.junctions[junction].label,
        length_m=sum(piece.area_m2 for piece, _ in found),
        psi_w_mk=found[0][0].bridge,
        loss_w=sum(watts for _, watts in found),
    )


def _piece(
    house: HouseView, fabric: Fabric, through: RoomThrough, known: bool, room: RoomView, face: FaceView, k: int
) -> FacePiece:
    view = face.pieces[k]
    stretch = view.stretch
    kind, label = beyond_label(house, stretch.beyond, face.kind)
    u = None
    if view.construction is not None:
        u = fabric.u.u(view.construction, indoors=surfaces_inside(kind))
        if kind == "ground":
            u = below_ground.u_to_ground(house, fabric, room, face.kind, view.construction, u, stretch)
    found = through.by_face.get((face.key, k, None), NOTHING)
    return FacePiece(
        beyond=kind,
        beyond_label=label,
        beyond_room=stretch.beyond.room,
        how=stretch.how,
        area_m2=stretch.area_m2,
        net_m2=view.net_m2,
        from_m=stretch.from_m,
        to_m=stretch.to_m,
        low_m=stretch.low_m,
        high_m=stretch.high_m,
        hole=stretch.hole,
        construction_label=house.construction_label(view.construction),
        u_w_m2k=u,
        bridge_u_w_m2k=found.bridge_u_w_m2k,
        difference_k=found.difference_k,
        factor=found.factor,
        loss_w=found.watts if found.watts is not None else (0.0 if known and kind == "heated" else None),
        bridge_w=found.bridge_w,
    )
