"""Room results of the Design, from the arrays."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np

from cinder.design import below_ground, leaks, room_emitters, spaces
from cinder.design.air import Compared, exposed_faces
from cinder.design.air import results as air_results
from cinder.design.air_tightness import envelope_m2
from cinder.design.below_ground import Fabric
from cinder.design.emitters import EmitterArrays, output_at
from cinder.design.house import FaceView, HouseView, RoomView, surfaces_inside
from cinder.design.losses import LossArrays, Losses, Piece
from cinder.design.result import BridgeLine, Face, FacePiece, House, Opening, RoomResult, Slab
from cinder.design.result_base import Status
from cinder.design.waterline import WaterlineArrays, meets
from cinder.model import Beyond
from cinder.physics.quantity import AIR_HEAT_WH_M3K


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


def finite(value: float) -> float | None:
    """A float, or None where there is no number."""
    return float(value) if np.isfinite(value) else None


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


def results(
    house: HouseView,
    arrays: LossArrays,
    losses: Losses | None,
    emitters: EmitterArrays,
    waterline: WaterlineArrays | None,
    compared: Compared | None,
) -> list[RoomResult]:
    """One result per room, None wherever something needed is missing."""
    by_face: ByFace = {}
    lines: Lines = {}
    groups = {
        "fabric": np.zeros(len(house.rooms)),
        "ground": np.zeros(len(house.rooms)),
        "trade": np.zeros(len(house.rooms)),
    }
    if losses is not None:
        for n, piece in enumerate(arrays.pieces):
            watts = float(losses.piece_w[n])
            key = (piece.room, piece.face, piece.stretch, piece.opening)
            # a floor without an exposed edge has U 0: it loses nothing, whatever the difference
            conductance = piece.factor * piece.area_m2 * (piece.u + piece.bridge)
            if piece.junction is None:
                share = piece.bridge / (piece.u + piece.bridge) if piece.bridge else 0.0
                difference = watts / conductance if conductance else 0.0
                by_face[key] = Through(watts, watts * share, difference, piece.factor, piece.bridge)
            else:
                lines.setdefault((piece.room, piece.face), {}).setdefault(piece.junction, []).append((piece, watts))
            groups["fabric" if piece.group == "neighbour" else piece.group][piece.room] += watts
    outputs = output_at(emitters, waterline.excess_k) if waterline is not None else None
    flow = waterline.result.chosen_flow_c if waterline is not None else None
    lined = room_emitters.at_line(emitters, flow_c=flow, target_c=arrays.target_c) if flow is not None else None
    return [
        _room(house, arrays, losses, emitters, waterline, outputs, lined, by_face, lines, groups, compared, n, room)
        for n, room in enumerate(house.rooms)
    ]


def _room(
    house: HouseView,
    arrays: LossArrays,
    losses: Losses | None,
    emitters: EmitterArrays,
    waterline: WaterlineArrays | None,
    outputs: np.ndarray[tuple[int, int], np.dtype[np.float64]] | None,
    lined: np.ndarray[tuple[int, int], np.dtype[np.float64]] | None,
    by_face: ByFace,
    lines: Lines,
    groups: dict[str, np.ndarray[tuple[int], np.dtype[np.float64]]],
    compared: Compared | None,
    n: int,
    room: RoomView,
) -> RoomResult:
    ok = losses is not None and bool(arrays.complete[n])
    load = float(losses.emitter_load_w[n]) if ok and losses is not None else None
    rated = [one for one in emitters.rated if one.view.room == room.id]
    area = room.plan.area_m2 if room.plan else None
    needed = finite(waterline.needed_c[n]) if waterline is not None and ok else None
    reached = finite(waterline.reached_c[n]) if waterline is not None and ok else None
    chosen = waterline.result.chosen_flow_c if waterline is not None else None
    status: Status = "incomplete"
    if load is not None:
        if load <= 0:
            status = "no loss"
        elif waterline is not None and waterline.own_share[n] >= 1:
            status = "own heater"
        elif needed is None:
            status = "no emitter"
        else:
            status = "meets" if chosen is None or meets(needed, chosen) else "short"

    def pick(values: np.ndarray[tuple[int], np.dtype[np.float64]] | None) -> float | None:
        return float(values[n]) if ok and values is not None else None

    usual = leaks.usual_w_per_m2(house, room.part)
    judged = house.layout.closings.get(room.id)
    bridges = pick(losses.bridges_w if losses else None)
    total_rated = sum(one.rated_w for one in rated if one.rated_w is not None)
    air_w = pick(losses.air_emitter_w if losses else None)
    per_hour = None
    if air_w is not None and room.volume_m3 and house.outdoor_c is not None and room.target_c != house.outdoor_c:
        per_hour = air_w / AIR_HEAT_WH_M3K / (room.target_c - house.outdoor_c) / room.volume_m3
    return RoomResult(
        id=room.id,
        label=room.room.label or "Room without a name",
        use=room.room.use or "",
        target_c=room.target_c,
        target_why=room.target_why,
        area_m2=area,
        height_m=room.room.height_m,
        volume_m3=room.volume_m3,
        closing_error_m=judged.error_m if judged else None,
        closing_share=judged.share if judged else None,
        closing_suspects=list(judged.suspects) if judged else [],
        closing_correction_m=judged.correction_m if judged else None,
        outline_m=outline(room),
        placed=bool(room.shape and room.shape.placed),
        bottom_m=room.shape.bottom_m if room.shape else None,
        top_m=room.shape.top_m if room.shape and room.room.height_m else None,
        perimeter_m=room.plan.perimeter_m if room.plan else None,
        exposed_perimeter_m=room.exposed_perimeter_m if room.shape else None,
        fabric_w=float(groups["fabric"][n]) - (bridges or 0.0) if ok else None,
        ground_w=pick(groups["ground"]),
        bridges_w=bridges,
        air_w=air_w,
        trade_w=pick(groups["trade"]),
        extras_w=pick(losses.extras_w if losses else None),
        down_w=pick(losses.down_w if losses else None),
        room_emitter_load_w=load,
        room_share_of_house_w=pick(losses.share_of_house_w if losses else None),
        air_tightness_w=pick(compared.emitter_w["tightness"] if compared else None),
        air_table_w=pick(compared.emitter_w["table"] if compared else None),
        air_per_h=per_hour,
        exposed_faces=exposed_faces(room),
        usual_low_w_per_m2=usual[0] if usual else None,
        usual_high_w_per_m2=usual[1] if usual else None,
        odd=_odd(usual, load, area, exposed_faces(room)),
        loss_per_k=pick(losses.loss_per_k if losses else None),
        w_per_m2=load / area if load is not None and area else None,
        rated_w=total_rated if rated else None,
        needed_flow_c=needed,
        reached_c=reached,
        status=status,
        faces=[_face(house, arrays.fabric, by_face, lines, ok, n, face) for face in room.faces],
        emitters=room_emitters.results(house, emitters, waterline, losses, outputs, lined, n),
    )


def _odd(
    usual: tuple[float, float] | None, load: float | None, area: float | None, exposed: int
) -> Literal["", "more than usual", "less than usual"]:
    if usual is None or load is None or load <= 0 or not area:
        return ""
    far = leaks.oddness(low=usual[0], high=usual[1], here=load / area, exposed_faces=exposed)
    return "more than usual" if far > 1 else "less than usual" if far < -1 else ""


def outline(room: RoomView) -> list[list[float]]:
    """Corners of a room in plan coordinates, the start first and the end of the walk last, to the millimetre."""
    if room.shape is None or not room.shape.walls:
        return []
    points = [room.shape.walls[0].a, *(wall.b for wall in room.shape.walls)]
    return [[round(x, 4), round(y, 4)] for x, y in points]


def _face(
    house: HouseView,
    fabric: Fabric,
    by_face: ByFace,
    lines: Lines,
    ok: bool,
    n: int,
    face: FaceView,
) -> Face:
    main = face.main
    pieces = [_piece(house, fabric, by_face, ok, n, face, k) for k in range(len(face.pieces))]
    kind, label = (pieces[0].beyond, pieces[0].beyond_label) if pieces else beyond_label(house, None, face.kind)
    openings = _openings(house, fabric, by_face, n, face) if face.openings else []
    several = len(pieces) > 1 and len({p.beyond_label for p in pieces if not p.hole}) > 1
    opened = sum(o.area_m2 or 0.0 for o in face.openings)
    known = [p.loss_w for p in pieces if p.loss_w is not None]
    return Face(
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


def _openings(house: HouseView, fabric: Fabric, by_face: ByFace, n: int, face: FaceView) -> list[Opening]:
    at = {o.id: k for k, piece in enumerate(face.pieces) for o in piece.openings}
    out = []
    for o in face.openings:
        k = at.get(o.id, 0)
        beyond = face.pieces[k].stretch.beyond.kind if face.pieces else "outside"
        indoors = surfaces_inside(beyond)
        found = by_face.get((n, face.key, k, o.id), NOTHING)
        out.append(
            Opening(
                id=o.id, label=o.label, kind=o.kind, found=o.found, construction=o.construction,
                construction_label=house.construction_label(o.construction),
                u_w_m2k=fabric.u.u(o.construction, indoors=indoors) if o.construction else None, area_m2=o.area_m2,
                bridge_u_w_m2k=found.bridge_u_w_m2k, difference_k=found.difference_k, factor=found.factor,
                loss_w=found.watts, bridge_w=found.bridge_w, measure=o.measure,
            )
        )  # fmt: skip
    return out


def _bridge_line(house: HouseView, junction: str, found: list[tuple[Piece, float]]) -> BridgeLine:
    return BridgeLine(
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


def total(
    house: HouseView, arrays: LossArrays, losses: Losses | None, rooms: list[RoomResult], compared: Compared | None
) -> House:
    """The house: sums over the rooms that are complete."""
    known = losses is not None and bool(arrays.complete.any())
    share = float(losses.share_of_house_w.sum()) if known and losses is not None else None
    area = float(arrays.area_m2.sum())
    complete_area = float(arrays.area_m2[arrays.complete].sum())
    air = float(losses.air_house_w.sum()) if known and losses is not None else None
    fabric = ground_w = bridges = 0.0
    if losses is not None:
        for n, piece in enumerate(arrays.pieces):
            if not arrays.complete[piece.room] or piece.house_factor == 0 or piece.factor == 0:
                continue
            watts = float(losses.piece_w[n]) * piece.house_factor / piece.factor
            bridge = watts * piece.bridge / (piece.u + piece.bridge) if piece.bridge else 0.0
            bridges += bridge
            if piece.group == "ground":
                ground_w += watts - bridge
            else:
                fabric += watts - bridge
    inside = float((arrays.target_c * arrays.area_m2)[arrays.complete].sum() / complete_area) if complete_area else None
    h = None
    if share is not None and inside is not None and house.outdoor_c is not None and inside > house.outdoor_c:
        h = share / (inside - house.outdoor_c)
    without_air = share - air if share is not None and air is not None else None
    methods = air_results(house, compared, arrays.volume_m3 * arrays.complete, without_air) if (
        compared is not None and without_air is not None
    ) else []  # fmt: skip
    by_method = {one.key: one.loss_w for one in methods}
    return House(
        outdoor_c=house.outdoor_c,
        climate_label=house.climate.label if house.climate else "",
        area_m2=area,
        volume_m3=float(arrays.volume_m3.sum()),
        loss_w=share,
        fabric_w=fabric if known else None,
        ground_w=ground_w if known else None,
        bridges_w=bridges if known else None,
        air_w=air,
        down_w=float(losses.down_house_w.sum()) if known and losses is not None else None,
        extras_w=share - fabric - ground_w - bridges - (air or 0.0) - float(losses.down_house_w.sum())
        if share is not None and losses is not None
        else None,
        loss_air_tightness_w=by_method.get("tightness"),
        loss_air_table_w=by_method.get("table"),
        h_w_k=h,
        w_per_m2=share / complete_area if share is not None and complete_area else None,
        n50_per_h=arrays.tightness.n50_per_h,
        n50_why=arrays.tightness.why,
        emitter_loads_w=float(losses.emitter_load_w.sum()) if known and losses is not None else None,
        complete=bool(arrays.complete.all()) and bool(rooms),
        slabs=[
            Slab(
                part=house.job.survey.parts[part].label if part in house.job.survey.parts else "",
                construction_label=house.construction_label(construction),
                area_m2=slab.area_m2,
                exposed_perimeter_m=slab.exposed_perimeter_m,
                whole_m2=slab.whole_m2,
                whole_perimeter_m=slab.whole_perimeter_m,
                characteristic_m=finite(slab.worked.b_m),
                u_w_m2k=slab.u_w_m2k,
                depth_m=slab.depth_m,
                edge_u_w_m2k=slab.edge_u_w_m2k,
                edge_m=slab.edge_m,
            )
            for (part, construction, _), slab in arrays.fabric.floors.items()
        ],
        spaces=[spaces.result(house, key, arrays.spaces.get(key), arrays.target_c) for key in house.job.survey.spaces],
        air=methods,
        leaks=leaks.ranked(house, arrays, losses) if known and losses is not None else [],
        envelope_m2=envelope_m2(house),
    )
