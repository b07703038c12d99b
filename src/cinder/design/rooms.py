"""Room results of the Design, from the arrays."""

from __future__ import annotations

import numpy as np

from cinder.design.emitters import EmitterArrays, output_at
from cinder.design.house import FaceView, HouseView, RoomView
from cinder.design.losses import LossArrays, Losses
from cinder.design.result import EmitterResult, Face, House, Opening, RoomResult
from cinder.design.waterline import WaterlineArrays
from cinder.physics import water


def finite(value: float) -> float | None:
    """A float, or None where there is no number."""
    return float(value) if np.isfinite(value) else None


def beyond_label(house: HouseView, face: FaceView) -> tuple[str, str]:
    beyond = face.spans[0][1]
    survey = house.job.survey
    if beyond.kind == "room":
        return "room", survey.rooms[beyond.room or ""].label or "another room"
    if beyond.kind == "space":
        return "space", survey.spaces[beyond.space or ""].label or "unheated space"
    if beyond.kind == "neighbour":
        return "neighbour", survey.neighbours[beyond.neighbour or ""].label or "neighbour"
    return beyond.kind, {"outside": "outside", "heated": "inside, as warm", "ground": "ground"}[beyond.kind]


def results(
    house: HouseView,
    arrays: LossArrays,
    losses: Losses | None,
    emitters: EmitterArrays,
    waterline: WaterlineArrays | None,
) -> list[RoomResult]:
    """One result per room, None wherever something needed is missing."""
    by_face: dict[tuple[int, str, str | None], tuple[float, float]] = {}
    groups = {
        "fabric": np.zeros(len(house.rooms)),
        "ground": np.zeros(len(house.rooms)),
        "trade": np.zeros(len(house.rooms)),
    }
    if losses is not None:
        for n, piece in enumerate(arrays.pieces):
            watts = float(losses.piece_w[n])
            key = (piece.room, piece.face, piece.opening)
            before = by_face.get(key, (0.0, 0.0))
            # a floor without an exposed edge has U 0: it loses nothing, whatever the difference
            conductance = piece.factor * piece.area_m2 * (piece.u + piece.bridge)
            by_face[key] = (before[0] + watts, watts / conductance if conductance else 0.0)
            groups[piece.group][piece.room] += watts
    outputs = output_at(emitters, waterline.excess_k) if waterline is not None else None
    return [
        _room(house, arrays, losses, emitters, waterline, outputs, by_face, groups, n, room)
        for n, room in enumerate(house.rooms)
    ]


def _room(
    house: HouseView,
    arrays: LossArrays,
    losses: Losses | None,
    emitters: EmitterArrays,
    waterline: WaterlineArrays | None,
    outputs: np.ndarray[tuple[int, int], np.dtype[np.float64]] | None,
    by_face: dict[tuple[int, str, str | None], tuple[float, float]],
    groups: dict[str, np.ndarray[tuple[int], np.dtype[np.float64]]],
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
    status = "incomplete"
    if load is not None:
        if load <= 0:
            status = "no loss"
        elif needed is None:
            status = "no emitter"
        else:
            status = "meets" if chosen is None or needed <= chosen + 0.05 else "short"

    def pick(values: np.ndarray[tuple[int], np.dtype[np.float64]] | None) -> float | None:
        return float(values[n]) if ok and values is not None else None

    bridges = pick(losses.bridges_w if losses else None)
    total_rated = sum(one.rated_w for one in rated if one.rated_w is not None)
    air_w = pick(losses.air_emitter_w if losses else None)
    per_hour = None
    if air_w is not None and room.volume_m3 and house.outdoor_c is not None and room.target_c != house.outdoor_c:
        per_hour = air_w / 0.34 / (room.target_c - house.outdoor_c) / room.volume_m3
    return RoomResult(
        id=room.id,
        label=room.room.label or "Room without a name",
        use=room.room.use or "",
        target_c=room.target_c,
        target_why=room.target_why,
        area_m2=area,
        height_m=room.room.height_m,
        volume_m3=room.volume_m3,
        closing_error_m=room.plan.closing_error_m if room.plan else None,
        fabric_w=float(groups["fabric"][n]) - (bridges or 0.0) if ok else None,
        ground_w=pick(groups["ground"]),
        bridges_w=bridges,
        air_w=air_w,
        trade_w=pick(groups["trade"]),
        room_emitter_load_w=load,
        room_share_of_house_w=pick(losses.share_of_house_w if losses else None),
        air_tightness_w=pick(losses.air_tightness_w if losses else None),
        air_table_w=pick(losses.air_table_w if losses else None),
        air_per_h=per_hour,
        loss_per_k=pick(losses.loss_per_k if losses else None),
        w_per_m2=load / area if load is not None and area else None,
        rated_w=total_rated if rated else None,
        needed_flow_c=needed,
        reached_c=reached,
        status=status,
        faces=[_face(house, by_face, ok, n, face) for face in room.faces],
        emitters=_emitters(house, emitters, outputs, load, n, room.id),
    )


def _face(
    house: HouseView,
    by_face: dict[tuple[int, str, str | None], tuple[float, float]],
    ok: bool,
    n: int,
    face: FaceView,
) -> Face:
    kind, label = beyond_label(house, face)
    indoors = kind in ("room", "neighbour")
    watts = by_face.get((n, face.key, None))
    u = None
    if face.construction is not None:
        floor = house.floors.get((house.rooms[n].room.part, face.construction)) if kind == "ground" else None
        u = floor.u_w_m2k if floor else house.u.u(face.construction, indoors=indoors)
    openings = [
        Opening(
            id=o.id,
            label=o.label,
            kind=o.kind,
            found=o.found,
            construction=o.construction,
            construction_label=house.construction_label(o.construction),
            u_w_m2k=house.u.u(o.construction, indoors=indoors) if o.construction else None,
            area_m2=o.area_m2,
            loss_w=by_face[(n, face.key, o.id)][0] if (n, face.key, o.id) in by_face else None,
            measure=o.measure,
        )
        for o in face.openings
    ]
    opened = sum(o.area_m2 or 0.0 for o in face.openings)
    return Face(
        key=face.key,
        label=face.label,
        kind=face.kind,
        beyond=kind,
        beyond_label=label,
        stated=face.spans[0][2],
        found=face.found,
        construction=face.construction,
        construction_label=house.construction_label(face.construction),
        u_w_m2k=u,
        gross_m2=face.gross_m2,
        net_m2=max(face.gross_m2 - opened, 0.0) if face.gross_m2 is not None else None,
        difference_k=watts[1] if watts else None,
        loss_w=watts[0] if watts else (0.0 if ok and kind == "heated" else None),
        measure=face.measure,
        openings=openings,
    )


def _emitters(
    house: HouseView,
    emitters: EmitterArrays,
    outputs: np.ndarray[tuple[int, int], np.dtype[np.float64]] | None,
    load: float | None,
    n: int,
    room: str,
) -> list[EmitterResult]:
    place = {slot: e for e, slot in enumerate(emitters.slots[n])}
    given = float(outputs[n].sum()) if outputs is not None else 0.0
    rows = []
    for k, one in enumerate(emitters.rated):
        if one.view.room != room:
            continue
        output = share = flow = None
        if k in place and outputs is not None and load is not None and load > 0 and given > 0:
            output = float(outputs[n, place[k]])
            share = output / given
            flow = flow_for(house, load * share)
        rows.append(
            EmitterResult(
                id=one.view.id,
                room=room,
                label=one.view.label or "Radiator",
                description=one.description,
                rated_w=one.rated_w,
                exponent=one.exponent,
                water_l=one.water_l,
                valve=one.valve_key,
                valve_label=one.valve.label if one.valve else "",
                closes=bool(one.valve and one.valve.closes),
                action=one.view.action,
                share=share,
                output_w=output,
                flow_lph=flow,
            )
        )
    return rows


MEAN_WATER_C = 40.0


def flow_for(house: HouseView, heat_w: float) -> float:
    """Design flow of an emitter, L/h, at the job's spread; properties at 40 deg C water."""
    return float(water.flow_for_heat_lph(heat_w=heat_w, spread_k=house.spread_k, temperature_c=MEAN_WATER_C))


def total(house: HouseView, arrays: LossArrays, losses: Losses | None, rooms: list[RoomResult]) -> House:
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
    tight = float(losses.air_tightness_house_w.sum()) if losses is not None else None
    table = float(losses.air_table_w.sum()) if losses is not None else None
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
        loss_air_tightness_w=without_air + tight if without_air is not None and tight is not None else None,
        loss_air_table_w=without_air + table if without_air is not None and table is not None else None,
        h_w_k=h,
        w_per_m2=share / complete_area if share is not None and complete_area else None,
        n50_per_h=house.n50_per_h,
        n50_why=house.n50_why,
        emitter_loads_w=float(losses.emitter_load_w.sum()) if known and losses is not None else None,
        complete=bool(arrays.complete.all()) and bool(rooms),
    )
