"""A house into arrays: its pieces, its spaces, what rooms trade, what heated floors send the other way."""

from __future__ import annotations

from functools import partial

import numpy as np

from cinder.design import air
from cinder.design.air.tightness import Tightness, tightness
from cinder.design.fabric import below_ground, spaces
from cinder.design.fabric import findings as build_findings
from cinder.design.fabric.below_ground import Fabric
from cinder.design.fabric.spaces import SpaceBalance
from cinder.design.findings import Findings
from cinder.design.house import findings as plan_findings
from cinder.design.house.rooms import RoomView
from cinder.design.house.view import HouseView
from cinder.design.kept import Afresh, Kept, entries, to_the_bit
from cinder.design.losses import downwards
from cinder.design.losses.downwards import Downwards
from cinder.design.losses.evaluate import LossArrays
from cinder.design.losses.piece import COLUMNS, NOTHING, Piece, RoomPieces, columns_of, of_room
from cinder.physics.quantity import Array

HIGH_ROOM_M = 4.0


def of_house(house: HouseView, findings: Findings, kept: Kept | None = None) -> LossArrays:
    """The arrays of a house, with its fabric and its tightness worked out first."""
    tight = tightness(house, findings)
    return assemble(house, below_ground.of_house(house, kept), tight, findings, kept)


def assemble(
    house: HouseView, fabric: Fabric, tight: Tightness, findings: Findings, kept: Kept | None = None
) -> LossArrays:
    """Turn the house into arrays. Rooms that lack a size or a construction stand out of `complete`."""
    kept = kept or Afresh()
    survey = house.job.survey
    around = (entries(survey.spaces), entries(survey.neighbours))
    shared = kept.steady("shared by pieces", (fabric, house.practice, house.tables, house.climate, *around))
    by_room = []
    for index, room in enumerate(house.rooms):
        warm = tuple(house.targets[key] for kind, key in room.beside if kind == "room")
        made = partial(_of_room, house, fabric, index, room)
        by_room.append(kept.told(("pieces", room.id), (index, room, warm, shared), findings, made))
    complete = np.array([one.complete for one in by_room], dtype=bool)
    plan_findings.judge(house, findings, kept)
    used = {p.construction for one in by_room for p in one.pieces if p.construction is not None}
    kept.told("builds", (fabric.u, tuple(sorted(used))), findings, partial(build_findings.judge, fabric.u, used))
    pieces = [p for one in by_room for p in one.pieces]
    columns = np.concatenate([one.columns for one in by_room]) if by_room else columns_of([])
    solved = _solve_spaces(house, fabric, pieces, columns, findings)
    whole = _trade(house.rooms, pieces, columns)
    below, left = downwards.split(house, pieces, columns, kept)
    trade = _both_ways(whole) - (whole - _trade(house.rooms, pieces, left)) if below is not None else _both_ways(whole)
    whole_house = _arrays(house, fabric, tight, pieces, left, complete, solved, below, np.maximum(trade, 0.0))
    return kept.as_before("losses", whole_house, to_the_bit)


def _of_room(house: HouseView, fabric: Fabric, index: int, room: RoomView, findings: Findings) -> RoomPieces:
    if not room.lacks:
        return of_room(house, fabric, index, room, findings)
    findings.add(
        "stops", "rooms", f"/survey/rooms/{room.id}", f"{room.name} lacks {' and '.join(room.lacks)}.",
        why="Its loss cannot be worked out; the rest of the house is.", mend="Measure and enter it.",
    )  # fmt: skip
    return NOTHING


AREA, U, BRIDGE, FACTOR, HOUSE_FACTOR, WEIGHT, FIXED, HOUSE_FIXED = range(len(COLUMNS))


def _solve_spaces(
    house: HouseView, fabric: Fabric, pieces: list[Piece], columns: Array, findings: Findings
) -> dict[str, SpaceBalance]:
    """Spaces with faces of their own: their temperature follows the rooms, the outside and the ground. The columns of the
    pieces towards them then have that temperature beyond."""
    out: dict[str, SpaceBalance] = {}
    target = np.array([room.target_c for room in house.rooms])
    towards: dict[str, list[int]] = {}
    for n, piece in enumerate(pieces):
        if piece.space is not None:
            towards.setdefault(piece.space, []).append(n)
    for key in house.job.survey.spaces:
        from_rooms = np.zeros(len(house.rooms))
        mine = towards.get(key, [])
        for n in mine:
            from_rooms[pieces[n].room] += max(columns[n, AREA] * (columns[n, U] + columns[n, BRIDGE]), 0.0)
        solved = spaces.balance(house, fabric.u, key, from_rooms, findings)
        if solved is not None:
            out[key] = solved
            columns[mine, FACTOR] = columns[mine, HOUSE_FACTOR] = 1.0
            columns[mine, WEIGHT] = solved.outside
            columns[mine, FIXED] = columns[mine, HOUSE_FIXED] = solved.fixed_c(target, _ground_c(house))
    return out


def _ground_c(house: HouseView) -> float:
    """Temperature of deep ground on the design day: the annual mean, or the outside by the school of the full difference."""
    if house.climate is not None and house.practice.ground == "annual_mean":
        return house.climate.annual_mean_c
    return house.outdoor_c if house.outdoor_c is not None else 0.0


def _arrays(
    house: HouseView,
    fabric: Fabric,
    tight: Tightness,
    pieces: list[Piece],
    columns: Array,
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
    high = np.array([(r.room.height_m or 0.0) > HIGH_ROOM_M for r in rooms], dtype=float)
    through = _through_spaces(pieces, columns, solved, count)
    column = np.ascontiguousarray(columns.T)
    piece_room = np.array([p.room for p in pieces], dtype=np.intp)
    return LossArrays(
        room_index={room.id: n for n, room in enumerate(rooms)},
        pieces=pieces,
        target_c=np.array([room.target_c for room in rooms]),
        volume_m3=volume,
        area_m2=area,
        piece_room=piece_room,
        room_starts=np.flatnonzero(np.diff(piece_room, prepend=-1)),
        piece_area=column[AREA],
        piece_u=column[U],
        piece_bridge=column[BRIDGE],
        piece_factor=column[FACTOR],
        piece_house_factor=column[HOUSE_FACTOR],
        piece_outside_weight=column[WEIGHT],
        piece_fixed_c=column[FIXED],
        piece_house_fixed_c=column[HOUSE_FIXED],
        air=air.arrays(house, tight, volume=volume * complete, exposed=exposed),
        exposed_m2=exposed,
        room_factor=(1.0 + house.practice.high_room_share * high) * (1.0 + house.practice.exposed_share),
        reheat_w=house.practice.reheat_w_per_m2 * area,
        spaces=solved,
        trade_w_k=trade + through * (1 - np.eye(count)),
        kept_w_k=np.diag(through).copy(),
        piece_neighbour=np.array([p.group == "neighbour" for p in pieces], dtype=bool),
        piece_ground=np.array([p.group == "ground" for p in pieces], dtype=bool),
        design_c=house.outdoor_c,
        downwards=below,
        complete=complete,
        fabric=fabric,
        tightness=tight,
    )


def _trade(rooms: list[RoomView], pieces: list[Piece], columns: Array) -> Array:
    """What the pieces say room i loses to room j per kelvin between them (R, R)."""
    index = {room.id: n for n, room in enumerate(rooms)}
    out = np.zeros((len(rooms), len(rooms)))
    rows = [n for n, piece in enumerate(pieces) if piece.neighbour_room in index]
    if rows:
        own = [pieces[n].room for n in rows]
        other = [index[pieces[n].neighbour_room or ""] for n in rows]
        c = columns[rows]
        np.add.at(out, (own, other), c[:, FACTOR] * c[:, AREA] * (c[:, U] + c[:, BRIDGE]))
    return out


def _both_ways(trade: Array) -> Array:
    """The same conductance seen from both rooms: the mean of what each says, or what the only one that says it says."""
    said = (trade > 0).astype(float)
    return np.asarray((trade + trade.T) / np.maximum(said + said.T, 1.0))


def _through_spaces(pieces: list[Piece], columns: Array, solved: dict[str, SpaceBalance], count: int) -> Array:
    """What room i loses by way of solved unheated spaces for every kelvin room j is cooler (R, R), itself included."""
    out = np.zeros((count, count))
    if not solved:
        return out
    for piece, c in zip(pieces, columns, strict=True):
        if piece.space in solved:
            out[piece.room] += c[FACTOR] * c[AREA] * (c[U] + c[BRIDGE]) * solved[piece.space].rooms
    return out
