"""What the rooms lose: assemble a job into arrays once, evaluate them at any outdoor temperature."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np

from cinder.design import air, below_ground, bridges, build_findings, downwards, plan_findings, spaces
from cinder.design.air import AirArrays
from cinder.design.downwards import Downwards
from cinder.design.findings import Findings
from cinder.design.house import FaceView, HouseView, OpeningView, RoomView, surfaces_inside
from cinder.design.spaces import SpaceBalance
from cinder.physics.air import air_heat_coefficient
from cinder.physics.quantity import Array
from cinder.physics.radiator import Mask
from cinder.physics.unheated import neighbour_c

GROUND_FACTOR = 1.45  # EN 12831-1 simplified, from memory
GROUND_WATER_FACTOR = 1.15
HIGH_ROOM_M = 4.0


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
    construction: str | None = None
    space: str | None = None
    neighbour_room: str | None = None
    junction: str | None = None
    """A thermal bridge by its length: `area_m2` is then a length in m, `bridge` a psi in W/mK."""


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
    air: AirArrays
    exposed_m2: Array
    room_factor: Array
    reheat_w: Array
    spaces: dict[str, SpaceBalance]
    trade_w_k: Array
    """What room i loses to room j per kelvin between them (R, R), through walls, floors and solved spaces: the same from
    both sides, but for heated floors, whose loops give what their rooms do not. The diagonal is empty."""
    kept_w_k: Array
    """What comes back to a room from spaces it warms itself (R,), W/K."""
    piece_neighbour: Mask
    design_c: float | None
    downwards: Downwards | None
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
    extras_w: Array
    loss_per_k: Array
    down_w: Array
    """From heated floors and walls away from their room; what of it leaves the house is in the house's share."""
    down_house_w: Array

    @property
    def house_w(self) -> Array:
        return np.asarray(self.share_of_house_w.sum(axis=-1))


def assemble(house: HouseView, findings: Findings) -> LossArrays:
    """Turn the house into arrays. Rooms that lack a size or a construction stand out of `complete`."""
    pieces: list[Piece] = []
    complete = np.ones(len(house.rooms), dtype=bool)
    for index, room in enumerate(house.rooms):
        where = f"/survey/rooms/{room.id}"
        name = room.name
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
        if house.practice.bridges == "list" and complete[index]:
            _bridge_lines(house, index, room, pieces)
    plan_findings.judge(house, findings)
    build_findings.judge(house, {p.construction for p in pieces if p.construction is not None}, findings)
    solved = _solve_spaces(house, pieces, findings)
    whole = _trade(house.rooms, pieces)
    below = downwards.split(house, pieces)
    trade = _both_ways(whole) - (whole - _trade(house.rooms, pieces)) if below is not None else _both_ways(whole)
    return _arrays(house, pieces, complete, solved, below, np.maximum(trade, 0.0))


def _bridge_lines(house: HouseView, index: int, room: RoomView, pieces: list[Piece]) -> None:
    """A piece for every junction: its length is its area, psi its only conductance."""
    for line in bridges.lines(room):
        psi = bridges.psi_w_mk(house, line.junction)
        if not psi or line.length_m <= 0:
            continue
        beyond = line.face.pieces[line.stretch].stretch.beyond
        space = beyond.space if beyond.kind == "space" else None
        b = spaces.factor(house, house.job.survey.spaces[space]) if space else 1.0
        pieces.append(
            Piece(
                index, line.face.key, line.stretch, None, line.length_m, 0.0, psi, b, b, 1.0, 0.0, 0.0, "fabric",
                space=space, junction=line.junction,
            )
        )  # fmt: skip


def _solve_spaces(house: HouseView, pieces: list[Piece], findings: Findings) -> dict[str, SpaceBalance]:
    """Spaces with faces of their own: their temperature follows the rooms, the outside and the ground."""
    out: dict[str, SpaceBalance] = {}
    for key in house.job.survey.spaces:
        mine = [p for p in pieces if p.space == key]
        from_rooms = np.zeros(len(house.rooms))
        for piece in mine:
            from_rooms[piece.room] += max(piece.area_m2 * (piece.u + piece.bridge), 0.0)
        solved = spaces.balance(house, key, from_rooms, findings)
        if solved is None:
            continue
        out[key] = solved
        target = np.array([room.target_c for room in house.rooms])
        fixed = solved.fixed_c(target, _ground_c(house))
        for piece in mine:
            piece.factor = piece.house_factor = 1.0
            piece.outside_weight, piece.fixed_c, piece.house_fixed_c = solved.outside, fixed, fixed
    return out


def _ground_c(house: HouseView) -> float:
    """Temperature of deep ground on the design day: the annual mean, or the outside by the school of the full difference."""
    if house.climate is not None and house.practice.ground == "annual_mean":
        return house.climate.annual_mean_c
    return house.outdoor_c if house.outdoor_c is not None else 0.0


def _arrays(
    house: HouseView,
    pieces: list[Piece],
    complete: np.ndarray[tuple[int], np.dtype[np.bool_]],
    solved: dict[str, SpaceBalance],
    below: Downwards | None,
    trade: Array,
) -> LossArrays:
    rooms = house.rooms
    count = len(rooms)
    volume = np.array([room.volume_m3 or 0.0 for room in rooms])
    exposed = np.array([room.exposed_m2 if complete[n] else 0.0 for n, room in enumerate(rooms)])
    area = np.array([room.plan.area_m2 if room.plan else 0.0 for room in rooms])
    piece_room = np.array([p.room for p in pieces], dtype=np.intp)
    to_room = np.zeros((len(pieces), count))
    to_room[np.arange(len(pieces)), piece_room] = 1.0
    high = np.array([(r.room.height_m or 0.0) > HIGH_ROOM_M for r in rooms], dtype=float)

    def column(name: str) -> Array:
        return np.array([getattr(p, name) for p in pieces], dtype=float)

    through = _through_spaces(pieces, solved, count)

    return LossArrays(
        room_index={room.id: n for n, room in enumerate(rooms)},
        pieces=pieces,
        target_c=np.array([room.target_c for room in rooms]),
        volume_m3=volume,
        area_m2=area,
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
        air=air.arrays(house, volume=volume * complete, exposed=exposed),
        exposed_m2=exposed,
        room_factor=(1.0 + house.practice.high_room_share * high) * (1.0 + house.practice.exposed_share),
        reheat_w=house.practice.reheat_w_per_m2 * area,
        spaces=solved,
        trade_w_k=trade + through * (1 - np.eye(count)),
        kept_w_k=np.diag(through).copy(),
        piece_neighbour=np.array([p.group == "neighbour" for p in pieces], dtype=bool),
        design_c=house.outdoor_c,
        downwards=below,
        complete=complete,
    )


def _trade(rooms: list[RoomView], pieces: list[Piece]) -> Array:
    index = {room.id: n for n, room in enumerate(rooms)}
    out = np.zeros((len(rooms), len(rooms)))
    for piece in pieces:
        if piece.neighbour_room in index:
            out[piece.room, index[piece.neighbour_room]] += piece.factor * piece.area_m2 * (piece.u + piece.bridge)
    return out


def _both_ways(trade: Array) -> Array:
    """The same conductance seen from both rooms: the mean of what each says, or what the only one that says it says."""
    said = (trade > 0).astype(float)
    return np.asarray((trade + trade.T) / np.maximum(said + said.T, 1.0))


def _through_spaces(pieces: list[Piece], solved: dict[str, SpaceBalance], count: int) -> Array:
    """What room i loses by way of solved unheated spaces for every kelvin room j is cooler (R, R), itself included."""
    out = np.zeros((count, count))
    for piece in pieces:
        if piece.space in solved:
            out[piece.room] += piece.factor * piece.area_m2 * (piece.u + piece.bridge) * solved[piece.space].rooms
    return out


def through_the_year(house: HouseView, arrays: LossArrays) -> LossArrays:
    """The same house without what belongs to the design day alone: the 1.45 of the ground (which then has the climate's
    mean temperature, by every school) and the additions of the practice. What ground water takes it takes all year."""
    ground = np.array([p.group == "ground" for p in arrays.pieces], dtype=bool)
    plain = replace(arrays, reheat_w=np.zeros_like(arrays.reheat_w), room_factor=np.ones_like(arrays.room_factor))
    if house.climate is None:
        return plain
    annual = house.climate.annual_mean_c
    by_day = GROUND_FACTOR if house.practice.ground == "annual_mean" else 1.0
    wet = house.practice.ground_detail.water_near and house.practice.ground != "annual_mean"
    ratio = np.where(ground, (GROUND_WATER_FACTOR if wet else 1.0) / by_day, 1.0)
    weight = np.where(ground, 0.0, arrays.piece_outside_weight)
    fixed = np.where(ground, annual, arrays.piece_fixed_c)
    house_fixed = np.where(ground, annual, arrays.piece_house_fixed_c)
    for n, piece in enumerate(arrays.pieces):
        if piece.space in arrays.spaces:
            space = arrays.spaces[piece.space]
            weight[n] = space.outside
            fixed[n] = house_fixed[n] = space.fixed_c(arrays.target_c, annual)
    below = arrays.downwards
    if below is not None:
        at = below.piece
        below = replace(
            below, factor=below.factor * ratio[at], house_factor=below.house_factor * ratio[at], outside_weight=weight[at],
            fixed_c=fixed[at], house_fixed_c=house_fixed[at],
        )  # fmt: skip
    return replace(
        plain, piece_factor=arrays.piece_factor * ratio, piece_house_factor=arrays.piece_house_factor * ratio,
        piece_outside_weight=weight, piece_fixed_c=fixed, piece_house_fixed_c=house_fixed, downwards=below,
    )  # fmt: skip


def _beyond_c(arrays: LossArrays, fixed_c: Array, neighbour: Mask, outdoor_c: Array) -> Array:
    """The part of what lies beyond that does not hang straight on the outdoor temperature, deg C: (F,) or (K, F)."""
    if not neighbour.any() or arrays.design_c is None or np.all(outdoor_c <= arrays.design_c):
        return fixed_c
    moving = neighbour_c(on_design_day_c=fixed_c, design_outdoor_c=arrays.design_c, outdoor_c=outdoor_c)
    return np.asarray(np.where(neighbour, moving, fixed_c))


def evaluate(arrays: LossArrays, outdoor_c: float | Array) -> Losses:
    """Losses at an outdoor temperature; an array of K temperatures gives a leading axis K."""
    outside = np.asarray(outdoor_c, float)
    column = outside[..., None] if outside.ndim else outside
    fixed_c = _beyond_c(arrays, arrays.piece_fixed_c, arrays.piece_neighbour, outside)
    house_fixed_c = _beyond_c(arrays, arrays.piece_house_fixed_c, arrays.piece_neighbour, outside)
    inside = arrays.target_c[arrays.piece_room] if len(arrays.pieces) else np.zeros(0)
    conductance = arrays.piece_area * arrays.piece_u
    bridge = arrays.piece_area * arrays.piece_bridge
    difference = inside - (arrays.piece_outside_weight * column + fixed_c)
    house_difference = inside - (arrays.piece_outside_weight * column + house_fixed_c)
    fabric_w = (arrays.piece_factor * conductance * difference) @ arrays.to_room
    bridges_w = (arrays.piece_factor * bridge * difference) @ arrays.to_room
    house_w = (arrays.piece_house_factor * (conductance + bridge) * house_difference) @ arrays.to_room
    per_flow = arrays.target_c - column
    per_k = air_heat_coefficient(flow_m3h=arrays.air.flow_m3h(house=False))
    air_w = per_k * per_flow
    air_house_w = air_heat_coefficient(flow_m3h=arrays.air.flow_m3h(house=True)) * per_flow
    plain = fabric_w + bridges_w + air_w
    extra_w = (arrays.room_factor - 1.0) * plain + arrays.reheat_w
    extra_house_w = (arrays.room_factor - 1.0) * (house_w + air_house_w) + arrays.reheat_w
    slope = (arrays.piece_factor * (conductance + bridge)) @ arrays.to_room + per_k
    blank = np.where(arrays.complete, 1.0, 0.0)
    load = np.asarray((plain + extra_w) * blank)
    down = down_house = np.zeros_like(load)
    if arrays.downwards is not None:
        below = arrays.downwards
        down, down_house = downwards.watts(
            below, target_c=arrays.target_c, outdoor=column, duty_w=load,
            fixed_c=_beyond_c(arrays, below.fixed_c, below.neighbour, outside),
            house_fixed_c=_beyond_c(arrays, below.house_fixed_c, below.neighbour, outside),
        )  # fmt: skip
        down, down_house = down * blank, down_house * blank
    return Losses(
        piece_w=arrays.piece_factor * (conductance + bridge) * difference,
        emitter_load_w=load,
        share_of_house_w=np.asarray((house_w + air_house_w + extra_house_w) * blank + down_house),
        fabric_w=np.asarray(fabric_w * blank),
        bridges_w=np.asarray(bridges_w * blank),
        air_emitter_w=np.asarray(air_w * blank),
        air_house_w=np.asarray(air_house_w * blank),
        extras_w=np.asarray(extra_w * blank),
        loss_per_k=np.asarray(slope * arrays.room_factor * blank),
        down_w=down,
        down_house_w=down_house,
    )


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
            if opening.kind == "window" and beyond.kind in ("heated", "room"):
                findings.add(
                    "doubt", "rooms", f"{where}/openings/{opening.id}",
                    f"{name}: {opening.label.lower()} stands in a wall to a heated room.",
                    why="It counts by what lies beyond that wall"
                    + (", which is as warm: it loses nothing." if beyond.kind == "heated" else "."),
                    mend="Say what lies beyond the wall there, or give the window its place along it.",
                )  # fmt: skip
            if piece.stretch.how == "assumed" and area == 0 and beyond.kind == "outside":
                findings.add(
                    "doubt", "rooms", f"{where}/openings/{opening.id}",
                    f"{name}: {opening.label.lower()} stands in a wall that is in the earth all over.",
                    why="It counts as looking into a shaft that is open to the outside.",
                    mend="Check the level of the floor, or give the opening its sill.",
                )  # fmt: skip
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
    u = house.u.u(construction, indoors=surfaces_inside(beyond.kind))
    factor = house_factor = 1.0
    weight, fixed, house_fixed, bridge = 1.0, 0.0, 0.0, 0.0
    group, space = "fabric", None
    practice = house.practice
    if beyond.kind == "outside":
        bridge = practice.thermal_bridge_w_m2k if practice.bridges == "default" else 0.0
    elif beyond.kind == "space":
        space = beyond.space
        factor = house_factor = spaces.factor(house, house.job.survey.spaces[space or ""])
        bridge = practice.thermal_bridge_w_m2k if practice.bridges == "default" else 0.0
    elif beyond.kind == "room":
        weight, fixed, house_factor, group = 0.0, house.targets[beyond.room or ""], 0.0, "trade"
    elif beyond.kind == "neighbour":
        neighbour = house.job.survey.neighbours[beyond.neighbour or ""]
        cold = neighbour.temperature_c if neighbour.temperature_c is not None else practice.neighbour_c
        weight, fixed, house_fixed, group = 0.0, cold, cold, "neighbour"
        factor = 0.0 if practice.neighbour == "adiabatic" else 1.0
        house_factor = 1.0 if practice.neighbour == "cold" else 0.0
    else:
        u = below_ground.u_to_ground(house, room, face.kind, construction, u, face.pieces[stretch].stretch)
        group = "ground"
        annual = house.climate.annual_mean_c if house.climate else None
        if practice.ground == "annual_mean" and annual is not None:
            factor = GROUND_FACTOR * (GROUND_WATER_FACTOR if practice.ground_detail.water_near else 1.0)
            house_factor, weight, fixed, house_fixed = factor, 0.0, annual, annual
    pieces.append(
        Piece(
            index, face.key, stretch, opening.id if opening else None, area, u, bridge, factor, house_factor,
            weight, fixed, house_fixed, group, construction=construction, space=space, neighbour_room=beyond.room,
        )
    )  # fmt: skip
    return True
