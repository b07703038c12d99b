"""The rooms as the Design shows them, once their water is known."""

from __future__ import annotations

from functools import partial
from typing import Literal, NamedTuple

import numpy as np

from cinder.design.air.decide import Compared
from cinder.design.emitters.decide import EmitterArrays, Hung, Rated, output_at
from cinder.design.emitters.result import EmitterResult
from cinder.design.house.rooms import RoomView
from cinder.design.house.view import HouseView
from cinder.design.kept import Kept, Needs, entries
from cinder.design.losses import leaks
from cinder.design.losses.evaluate import LossArrays, Losses
from cinder.design.losses.faces import face_result, through
from cinder.design.losses.result import FaceResult, RoomResult, Status
from cinder.design.losses.total import finite
from cinder.design.waterline import room_emitters
from cinder.design.waterline.decide import WaterlineArrays, meets
from cinder.physics.quantity import Array


class RoomFigures(NamedTuple):
    """What the chain says of one room, by name, W, deg C, W/K; what its emitters give (E,), sized and at the chosen water, W."""

    load_w: float
    share_of_house_w: float
    bridges_w: float
    air_w: float
    extras_w: float
    down_w: float
    loss_per_k: float
    air_tightness_w: float
    air_table_w: float
    needed_c: float
    reached_c: float
    own_share: float
    water_load_w: float
    output_w: list[float]
    lined_w: list[float]


def results(
    house: HouseView,
    arrays: LossArrays,
    design_day: Losses,
    emitters: EmitterArrays,
    line: WaterlineArrays,
    compared: Compared | None,
    kept: Kept,
) -> list[RoomResult]:
    """One result per room, None wherever something needed is missing."""
    survey = house.job.survey
    flow = line.result.chosen_flow_c if house.outdoor_c is not None else None
    width = emitters.rated_w.shape[1]
    outputs = output_at(emitters, line.excess_k)
    lined = room_emitters.at_line(emitters, flow_c=flow, target_c=arrays.target_c) if flow is not None else outputs * 0
    nothing = np.zeros(len(house.rooms))
    columns = np.column_stack(
        [
            design_day.emitter_load_w, design_day.share_of_house_w, design_day.bridges_w, design_day.air_emitter_w,
            design_day.extras_w, design_day.down_w, design_day.loss_per_k,
            compared.emitter_w["tightness"] if compared else nothing, compared.emitter_w["table"] if compared else nothing,
            line.needed_c, line.reached_c, line.own_share, line.water_load_w, outputs, lined,
        ]
    )  # fmt: skip
    pieces = np.column_stack([design_day.piece_w, arrays.piece_w_k, arrays.piece_factor])
    ends = arrays.order.ends
    hung = emitters.hung
    labels = {
        (kind, key): one.label
        for kind, of in (("room", survey.rooms), ("space", survey.spaces), ("neighbour", survey.neighbours))
        for key, one in of.items()
    }
    shared = kept.steady(
        "shared by rooms", (arrays.fabric, house.tables, flow, house.outdoor_c, entries(survey.parts), house.fluid)
    )

    def sorted_out(n: int, mine: Array, known: bool) -> tuple[dict[str, float], list[FaceResult]]:
        """What goes through the faces of a room, W, by kind and face by face."""
        found, room = through(arrays.pieces[ends[n] : ends[n + 1]], *mine.T.tolist()), house.rooms[n]
        return found.groups, [face_result(house, arrays.fabric, found, known, room, face) for face in room.faces]

    def made(n: int, mine: Array, known: bool, beyond: Needs, hangs: Hung) -> RoomResult:
        row, room = columns[n].tolist(), house.rooms[n]
        figures = RoomFigures._make([*row[: -2 * width], row[-2 * width : -width], row[-width:]])
        needs = (room, mine.tobytes(), known, *beyond)
        groups, faces = kept.of(("faces shown", room.id), needs, partial(sorted_out, n, mine, known))
        shown = room_emitters.results(
            room, figures, *hangs, known=house.outdoor_c is not None, lined=flow is not None, fluid=house.fluid
        )
        return _room(house, n, figures if known else None, groups, faces, flow, hangs[0], shown)

    out, complete, closings = [], arrays.complete.tolist(), house.layout.closings
    for n, room in enumerate(house.rooms):
        mine, hangs = pieces[ends[n] : ends[n + 1]], hung.get(room.id, NOTHING_HUNG)
        known = complete[n] and house.outdoor_c is not None
        beyond = (shared, *map(labels.__getitem__, room.beside))
        needs = (room, closings.get(room.id), known, mine.tobytes(), columns[n].tobytes(), *hangs, *beyond)
        out.append(kept.of(("room", room.id), needs, partial(made, n, mine, known, beyond, hangs)))
    return out


NOTHING_HUNG: Hung = ((), ())


def _room(
    house: HouseView,
    n: int,
    figures: RoomFigures | None,
    groups: dict[str, float],
    faces: list[FaceResult],
    chosen: float | None,
    rated: tuple[Rated, ...],
    hung: list[EmitterResult],
) -> RoomResult:
    room = house.rooms[n]
    area = room.plan.area_m2 if room.plan else None
    load = figures.load_w if figures else None
    needed = finite(figures.needed_c) if figures else None
    status: Status = "incomplete"
    if figures is not None:
        if figures.load_w <= 0:
            status = "no loss"
        elif figures.own_share >= 1:
            status = "own heater"
        elif needed is None:
            status = "no emitter"
        else:
            status = "meets" if chosen is None or meets(needed, chosen) else "short"
    usual = leaks.usual_w_per_m2(house, room.part)
    judged = house.layout.closings.get(room.id)
    total_rated = sum(one.rated_w for one in rated if one.rated_w is not None)
    per_hour = None
    if figures and room.volume_m3 and house.outdoor_c is not None and room.target_c != house.outdoor_c:
        per_hour = figures.air_w / house.air_heat_wh_m3k / (room.target_c - house.outdoor_c) / room.volume_m3
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
        fabric_w=groups["fabric"] - figures.bridges_w if figures else None,
        ground_w=groups["ground"] if figures else None,
        bridges_w=figures.bridges_w if figures else None,
        air_w=figures.air_w if figures else None,
        trade_w=groups["trade"] if figures else None,
        extras_w=figures.extras_w if figures else None,
        down_w=figures.down_w if figures else None,
        room_emitter_load_w=load,
        room_share_of_house_w=figures.share_of_house_w if figures else None,
        air_tightness_w=figures.air_tightness_w if figures else None,
        air_table_w=figures.air_table_w if figures else None,
        air_per_h=per_hour,
        exposed_faces=room.exposed_faces,
        usual_low_w_per_m2=usual[0] if usual else None,
        usual_high_w_per_m2=usual[1] if usual else None,
        odd=_odd(usual, load, area, room.exposed_faces),
        loss_per_k=figures.loss_per_k if figures else None,
        w_per_m2=load / area if load is not None and area else None,
        rated_w=total_rated if rated else None,
        needed_flow_c=needed,
        reached_c=finite(figures.reached_c) if figures else None,
        status=status,
        faces=faces,
        emitters=hung,
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
