"""What the rooms lose: assemble a job into arrays once, evaluate them at any outdoor temperature."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.design.findings import Findings
from cinder.design.house import FaceView, HouseView, OpeningView, RoomView
from cinder.physics.air import air_heat_coefficient, leakage_air_change
from cinder.physics.quantity import Array

GROUND_FACTOR = 1.45  # EN 12831-1 simplified, from memory
GROUND_WATER_FACTOR = 1.15
HYGIENIC_AIR_PER_H = 0.5
DEFAULT_SPACE_B = 0.8


@dataclass(slots=True)
class Piece:
    """One stretch of a face, or one opening: k A (U + dU) (room - (w outside + x0))."""

    room: int
    face: str
    stretch: int
    opening: str | None
    area_m2: float
    u: float
    bridge: float
    factor: float
    house_factor: float
    outside_weight: float
    fixed_c: float
    house_fixed_c: float
    group: str


@dataclass(slots=True)
class LossArrays:
    """Everything `evaluate` needs. Shapes: rooms (R,), pieces (F,); `to_room` (F, R) adds pieces up.

    Temperatures in deg C, areas m2, U W/m2K, air flows m3/h. Room-by-room values may carry leading
    sample axes, so one house and many draws of it run the same code.
    """

    room_index: dict[str, int]
    pieces: list[Piece]
    target_c: Array
    volume_m3: Array
    area_m2: Array
    piece_room: np.ndarray[tuple[int], np.dtype[np.intp]]
    piece_area: Array
    piece_u: Array
    piece_bridge: Array
    piece_factor: Array
    piece_house_factor: Array
    piece_outside_weight: Array
    piece_fixed_c: Array
    piece_house_fixed_c: Array
    to_room: Array
    leak_share: Array
    leak_total_m3h: float | Array
    windward: float
    least_m3h: Array
    extra_m3h: Array
    table_m3h: Array
    by_table: bool
    complete: np.ndarray[tuple[int], np.dtype[np.bool_]]


@dataclass(slots=True)
class Losses:
    """Watts at one outdoor temperature, or at many (leading axis). Pieces (…, F), rooms (…, R)."""

    piece_w: Array
    emitter_load_w: Array
    share_of_house_w: Array
    fabric_w: Array
    bridges_w: Array
    air_emitter_w: Array
    air_house_w: Array
    air_tightness_w: Array
    air_tightness_house_w: Array
    air_table_w: Array
    loss_per_k: Array

    @property
    def house_w(self) -> Array:
        return np.asarray(self.share_of_house_w.sum(axis=-1))


def assemble(house: HouseView, findings: Findings) -> LossArrays:
    """Turn the house into arrays. Rooms that lack a size or a construction stand out of `complete`."""
    pieces: list[Piece] = []
    complete = np.ones(len(house.rooms), dtype=bool)
    for index, room in enumerate(house.rooms):
        where = f"/survey/rooms/{room.id}"
        name = room.room.label or "A room"
        if room.lacks:
            complete[index] = False
            findings.add(
                "stops", "rooms", where, f"{name} lacks {' and '.join(room.lacks)}.",
                why="Its loss cannot be worked out; the rest of the house is.", mend="Measure and enter it.",
            )  # fmt: skip
            continue
        for face in room.faces:
            if not _face_pieces(house, index, room, face, pieces, findings):
                complete[index] = False
        _walk_findings(house, room, findings)
    for one, other, shared in house.layout.meetings:
        names = [house.job.survey.rooms[key].label or "A room" for key in (one, other)]
        findings.add(
            "doubt", "plan", f"/survey/rooms/{one}/position", f"{names[0]} and {names[1]} stand in each other.",
            why=f"They share {shared:.1f} m² of floor at the same height.", mend="Slide one of them clear on the plan.",
        )  # fmt: skip
    return _arrays(house, pieces, complete)


def _arrays(house: HouseView, pieces: list[Piece], complete: np.ndarray[tuple[int], np.dtype[np.bool_]]) -> LossArrays:
    rooms = house.rooms
    count = len(rooms)
    volume = np.array([room.volume_m3 or 0.0 for room in rooms])
    exposed = np.array([room.exposed_m2 if complete[n] else 0.0 for n, room in enumerate(rooms)])
    total_exposed = float(exposed.sum())
    piece_room = np.array([p.room for p in pieces], dtype=np.intp)
    to_room = np.zeros((len(pieces), count))
    to_room[np.arange(len(pieces)), piece_room] = 1.0
    hygienic = house.practice.hygienic_minimum == "habitable"
    tables = house.tables
    mean_air = leakage_air_change(n50_per_h=house.n50_per_h, shelter=house.shelter)

    def column(name: str) -> Array:
        return np.array([getattr(p, name) for p in pieces], dtype=float)

    return LossArrays(
        room_index={room.id: n for n, room in enumerate(rooms)},
        pieces=pieces,
        target_c=np.array([room.target_c for room in rooms]),
        volume_m3=volume,
        area_m2=np.array([room.plan.area_m2 if room.plan else 0.0 for room in rooms]),
        piece_room=piece_room,
        piece_area=column("area_m2"),
        piece_u=column("u"),
        piece_bridge=column("bridge"),
        piece_factor=column("factor"),
        piece_house_factor=column("house_factor"),
        piece_outside_weight=column("outside_weight"),
        piece_fixed_c=column("fixed_c"),
        piece_house_fixed_c=column("house_fixed_c"),
        to_room=to_room,
        leak_share=exposed / total_exposed if total_exposed > 0 else np.zeros(count),
        leak_total_m3h=float(mean_air * volume[complete].sum()) if count else 0.0,
        windward=house.practice.windward_factor,
        least_m3h=np.array([HYGIENIC_AIR_PER_H if hygienic and r.habitable else 0.0 for r in rooms]) * volume,
        extra_m3h=np.array(
            [
                r.room.air.chimneys * tables.chimney_m3h
                + r.room.air.flues * tables.flue_m3h
                + r.room.air.fans * tables.fan_m3h
                for r in rooms
            ]
        )
        * 1.0,
        table_m3h=np.array([r.table_air_per_h for r in rooms]) * volume,
        by_table=house.practice.air == "table",
        complete=complete,
    )


def evaluate(arrays: LossArrays, outdoor_c: float | Array) -> Losses:
    """Losses at an outdoor temperature; an array of K temperatures gives a leading axis K."""
    outside = np.asarray(outdoor_c, float)
    column = outside[..., None] if outside.ndim else outside
    inside = arrays.target_c[arrays.piece_room] if len(arrays.pieces) else np.zeros(0)
    conductance = arrays.piece_area * arrays.piece_u
    bridge = arrays.piece_area * arrays.piece_bridge
    difference = inside - (arrays.piece_outside_weight * column + arrays.piece_fixed_c)
    house_difference = inside - (arrays.piece_outside_weight * column + arrays.piece_house_fixed_c)
    fabric_w = (arrays.piece_factor * conductance * difference) @ arrays.to_room
    bridges_w = (arrays.piece_factor * bridge * difference) @ arrays.to_room
    house_w = (arrays.piece_house_factor * (conductance + bridge) * house_difference) @ arrays.to_room
    leak = arrays.leak_total_m3h * arrays.leak_share
    flow_emitter = np.maximum(leak * arrays.windward, arrays.least_m3h) + arrays.extra_m3h
    flow_house = np.maximum(leak, arrays.least_m3h) + arrays.extra_m3h
    flow_table = np.maximum(arrays.table_m3h, arrays.least_m3h) + arrays.extra_m3h
    per_flow = arrays.target_c - column
    tight_w = air_heat_coefficient(flow_m3h=flow_emitter) * per_flow
    tight_house_w = air_heat_coefficient(flow_m3h=flow_house) * per_flow
    table_w = air_heat_coefficient(flow_m3h=flow_table) * per_flow
    air_w, air_house_w = (table_w, table_w) if arrays.by_table else (tight_w, tight_house_w)
    air_per_k = air_heat_coefficient(flow_m3h=flow_table if arrays.by_table else flow_emitter)
    slope = (arrays.piece_factor * (conductance + bridge)) @ arrays.to_room + air_per_k
    blank = np.where(arrays.complete, 1.0, 0.0)
    return Losses(
        piece_w=arrays.piece_factor * (conductance + bridge) * difference,
        emitter_load_w=np.asarray((fabric_w + bridges_w + air_w) * blank),
        share_of_house_w=np.asarray((house_w + air_house_w) * blank),
        fabric_w=np.asarray(fabric_w * blank),
        bridges_w=np.asarray(bridges_w * blank),
        air_emitter_w=np.asarray(air_w * blank),
        air_house_w=np.asarray(air_house_w * blank),
        air_tightness_w=np.asarray(tight_w * blank),
        air_tightness_house_w=np.asarray(tight_house_w * blank),
        air_table_w=np.asarray(table_w * blank),
        loss_per_k=np.asarray(slope * blank),
    )


def _walk_findings(house: HouseView, room: RoomView, findings: Findings) -> None:
    """A walk that misses its start, crosses itself, or has a window outside its wall."""
    where, name = f"/survey/rooms/{room.id}", room.room.label or "A room"
    judged = house.layout.closings.get(room.id)
    if judged is not None and not judged.good and not judged.by_diagonal:
        suspect = ""
        if judged.suspects and judged.correction_m is not None:
            number = [run.id for run in room.room.walk].index(judged.suspects[0]) + 1
            suspect = f" Most likely wall {number}, by {judged.correction_m * 1000:+.0f} mm.".replace("-", "−")
        findings.add(
            "doubt", "plan", f"{where}/walk", f"{name}: the walk misses its start by {judged.error_m * 1000:.0f} mm.",
            why=f"{judged.share:.1%} of the walked length; up to 1 % is good.{suspect}",
            mend="Measure that run again; nothing has been spread.",
        )  # fmt: skip
    if room.shape is not None and not room.shape.valid:
        findings.add(
            "doubt", "plan", f"{where}/walk", f"{name}: its walls cross each other.",
            why="No neighbours can be told from such a walk, and its area is not to be trusted.",
            mend="Check the turns: a left taken as a right?",
        )  # fmt: skip
    lengths = {run.id: run.length_m for run in room.room.walk}
    for key, face in room.room.faces.items():
        for opening_key, opening in face.openings.items():
            long = lengths.get(key)
            reach = (opening.offset_m or 0.0) + (opening.width_m or 0.0)
            if long is not None and reach > long + 0.005:
                findings.add(
                    "doubt", "plan", f"{where}/faces/{key}/openings/{opening_key}",
                    f"{name}: {(opening.label or opening.kind).lower()} reaches past its wall.",
                    why=f"It ends at {reach:.2f} m of a wall of {long:.2f} m.", mend="Measure its place and width again.",
                )  # fmt: skip


def _face_pieces(
    house: HouseView, index: int, room: RoomView, face: FaceView, pieces: list[Piece], findings: Findings
) -> bool:
    """Append the pieces of one face; False when something needed is missing (a finding says what)."""
    where = f"/survey/rooms/{room.id}/faces/{face.key}"
    name = f"{room.room.label or 'Room'}, {face.label.lower()}"
    opened = sum(o.area_m2 or 0.0 for o in face.openings)
    gross = face.gross_m2 or 0.0
    if opened > gross + 1e-9:
        findings.add(
            "doubt", "rooms", where, f"{name}: its windows and doors ({opened:.2f} m²) are larger than the wall "
            f"({gross:.2f} m²).", why="The wall itself is counted as nothing.", mend="Measure both again.",
        )  # fmt: skip
    ok = True
    for n, piece in enumerate(face.pieces):
        beyond, area = piece.stretch.beyond, piece.stretch.area_m2
        if piece.stretch.how == "assumed" and area > 0:
            findings.add(
                "doubt", "rooms", where, f"{name}: what lies beyond is not said.",
                why=f"Taken as {'ground' if face.kind == 'floor' else 'outside'}.",
                mend="Say what lies beyond it, or put the room in its place on the plan.",
            )  # fmt: skip
        if beyond.kind != "heated" and piece.net_m2 > 0:
            ok &= _piece(house, index, room, face, n, None, piece.net_m2, findings, pieces)
        if beyond.kind in ("outside", "space"):
            room.exposed_m2 += area
        for opening in piece.openings:
            if opening.area_m2 is None:
                findings.add(
                    "doubt", "rooms", f"{where}/openings/{opening.id}", f"{name}: {opening.label.lower()} has no size.",
                    why="It is left out and the wall counted whole.", mend="Measure its width and height.",
                )  # fmt: skip
            elif beyond.kind != "heated":
                ok &= _piece(house, index, room, face, n, opening, opening.area_m2, findings, pieces)
    return ok


def _piece(
    house: HouseView,
    index: int,
    room: RoomView,
    face: FaceView,
    stretch: int,
    opening: OpeningView | None,
    area: float,
    findings: Findings,
    pieces: list[Piece],
) -> bool:
    beyond = face.pieces[stretch].stretch.beyond
    construction = opening.construction if opening else face.pieces[stretch].construction
    where = f"/survey/rooms/{room.id}/faces/{face.key}"
    if construction is None:
        thing = opening.label.lower() if opening else face.label.lower()
        findings.add(
            "stops", "rooms", where, f"{room.room.label or 'Room'}, {thing}: its construction is not known.",
            why="No construction is chosen here and the part of the house has no default.",
            mend="Choose a construction, or the age of the house on the site page.",
        )  # fmt: skip
        return False
    entry = house.u.entries[construction]
    indoors = beyond.kind in ("room", "neighbour")
    u = house.u.u(construction, indoors=indoors)
    factor = house_factor = 1.0
    weight, fixed, house_fixed, bridge = 1.0, 0.0, 0.0, 0.0
    group = "fabric"
    practice = house.practice
    if beyond.kind == "outside":
        bridge = practice.thermal_bridge_w_m2k
    elif beyond.kind == "space":
        space = house.job.survey.spaces[beyond.space or ""]
        kind = house.tables.space_kinds.get(space.kind or "")
        b = space.b if space.b is not None else (kind.b if kind else DEFAULT_SPACE_B)
        factor = house_factor = b
        bridge = practice.thermal_bridge_w_m2k
    elif beyond.kind == "room":
        weight, fixed, house_factor, group = 0.0, house.targets[beyond.room or ""], 0.0, "trade"
    elif beyond.kind == "neighbour":
        neighbour = house.job.survey.neighbours[beyond.neighbour or ""]
        cold = neighbour.temperature_c if neighbour.temperature_c is not None else practice.neighbour_c
        weight, fixed, house_fixed = 0.0, cold, cold
        factor = 0.0 if practice.neighbour == "adiabatic" else 1.0
        house_factor = 1.0 if practice.neighbour == "cold" else 0.0
    else:
        floor = house.floors.get((room.room.part, construction)) if entry.element == "ground" else None
        u = floor.u_w_m2k if floor else u
        group = "ground"
        annual = house.climate.annual_mean_c if house.climate else None
        if practice.ground == "annual_mean" and annual is not None:
            factor = GROUND_FACTOR * (GROUND_WATER_FACTOR if practice.ground_detail.water_near else 1.0)
            house_factor, weight, fixed, house_fixed = factor, 0.0, annual, annual
    pieces.append(
        Piece(
            index, face.key, stretch, opening.id if opening else None, area, u, bridge, factor, house_factor,
            weight, fixed, house_fixed, group,
        )
    )  # fmt: skip
    return True
