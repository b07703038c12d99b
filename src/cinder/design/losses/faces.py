"""The faces of a room as the Design shows them, from the arrays."""

from __future__ import annotations

from dataclasses import dataclass

from cinder.design.fabric import below_ground
from cinder.design.fabric.below_ground import Fabric
from cinder.design.house.overlay import surfaces_inside
from cinder.design.house.rooms import FaceView
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


ByFace = dict[tuple[int, str, int, str | None], Through]
"""By room, face, stretch and opening."""
NOTHING = Through()
Lines = dict[tuple[int, str], dict[str, list[tuple[Piece, float]]]]
"""Junctions with their watts by room and face."""
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


def _face(
    house: HouseView,
    fabric: Fabric,
    by_face: ByFace,
    lines: Lines,
    ok: bool,
    n: int,
    face: FaceView,
) -> FaceResult:
    main = face.main
    pieces = [_piece(house, fabric, by_face, ok, n, face, k) for k in range(len(face.pieces))]
    kind, label = (pieces[0].beyond, pieces[0].beyond_label) if pieces else beyond_label(house, None, face.kind)
    openings = _openings(house, fabric, by_face, n, face) if face.openings else []
    several = len(pieces) > 1 and len({p.beyond_label for p in pieces if not p.hole}) > 1
    opened = sum(o.area_m2 or 0.0 for o in face.openings)
    known = [p.loss_w for p in pieces if p.loss_w is not None]
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
        loss_w=sum(known) if known else None,
        measure=face.measure,
        openings=openings,
        pieces=pieces,
        bridges=[_bridge_line(house, key, found) for key, found in lines.get((n, face.key), {}).items()],
    )


def _openings(house: HouseView, fabric: Fabric, by_face: ByFace, n: int, face: FaceView) -> list[OpeningResult]:
    at = {o.id: k for k, piece in enumerate(face.pieces) for o in piece.openings}
    out = []
    for o in face.openings:
        k = at.get(o.id, 0)
        beyond = face.pieces[k].stretch.beyond.kind if face.pieces else "outside"
        indoors = surfaces_inside(beyond)
        found = by_face.get((n, face.key, k, o.id), NOTHING)
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


def _piece(house: HouseView, fabric: Fabric, by_face: ByFace, ok: bool, n: int, face: FaceView, k: int) -> FacePiece:
    view = face.pieces[k]
    stretch = view.stretch
    kind, label = beyond_label(house, stretch.beyond, face.kind)
    u = None
    if view.construction is not None:
        u = fabric.u.u(view.construction, indoors=surfaces_inside(kind))
        if kind == "ground":
            u = below_ground.u_to_ground(house, fabric, house.rooms[n], face.kind, view.construction, u, stretch)
    found = by_face.get((n, face.key, k, None), NOTHING)
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
        loss_w=found.watts if found.watts is not None else (0.0 if ok and kind == "heated" else None),
        bridge_w=found.bridge_w,
    )
