"""The rooms as the Design shows them, once their water is known."""

from __future__ import annotations

from typing import Literal

import numpy as np

from cinder.design.air.decide import Compared, exposed_faces
from cinder.design.emitters.decide import EmitterArrays, output_at
from cinder.design.house.rooms import RoomView
from cinder.design.house.view import HouseView
from cinder.design.losses import leaks
from cinder.design.losses.evaluate import LossArrays, Losses
from cinder.design.losses.faces import ByFace, Lines, Through, _face
from cinder.design.losses.result import RoomResult, Status
from cinder.design.losses.total import finite
from cinder.design.waterline import room_emitters
from cinder.design.waterline.decide import WaterlineArrays, meets
from cinder.physics.quantity import AIR_HEAT_WH_M3K


def results(
    house: HouseView,
    arrays: LossArrays,
    design_day: Losses,
    emitters: EmitterArrays,
    line: WaterlineArrays,
    compared: Compared | None,
) -> list[RoomResult]:
    """One result per room, None wherever something needed is missing."""
    known = house.outdoor_c is not None
    losses, waterline = (design_day, line) if known else (None, None)
    by_face: ByFace = {}
    lines: Lines = {}
    groups = {
        "fabric": np.zeros(len(house.rooms)),
        "ground": np.zeros(len(house.rooms)),
        "trade": np.zeros(len(house.rooms)),
    }
    if losses is not None:
        piece_w, conducts, factors = losses.piece_w.tolist(), arrays.piece_w_k.tolist(), arrays.piece_factor.tolist()
        for n, piece in enumerate(arrays.pieces):
            watts = piece_w[n]
            key = (piece.room, piece.face, piece.stretch, piece.opening)
            # a floor without an exposed edge has U 0: it loses nothing, whatever the difference
            conductance = conducts[n]
            if piece.junction is None:
                share = piece.bridge / (piece.u + piece.bridge) if piece.bridge else 0.0
                difference = watts / conductance if conductance else 0.0
                by_face[key] = Through(watts, watts * share, difference, factors[n], piece.bridge)
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
