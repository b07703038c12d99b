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
from cinder.design.losses.order import Order, order_of
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
    kinds, names = tuple(one.kinds for one in by_room), tuple(room.id for room in house.rooms)
    order = kept.of("order of pieces", (names, kinds), lambda: order_of(names, kinds))
    used = {key for key in order.constructions if key}
    kept.told("builds", (fabric.u, order.constructions), findings, partial(build_findings.judge, fabric.u, used))
    pieces = [p for one in by_room for p in one.pieces]
    columns = np.concatenate([one.columns for one in by_room]) if by_room else columns_of([])
    solved = _solve_spaces(house, fabric, order, columns, findings)
    whole = _trade(order, columns, len(by_room))
    below, left = downwards.split(house, order, columns, kept)
    trade = _both_ways(whole)
    if below is not None:
        trade = trade - (whole - _trade(order, left, len(by_room)))
    trade = np.maximum(trade, 0.0)
    whole_house = _arrays(house, fabric, tight, pieces, order, left, complete, solved, below, trade, kept)
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
    house: HouseView, fabric: Fabric, order: Order, columns: Array, findings: Findings
) -> dict[str, SpaceBalance]:
    """Spaces with faces of their own: their temperature follows the rooms, the outside and the ground. The columns of the
    pieces towards them then have that temperature beyond."""
    out: dict[str, SpaceBalance] = {}
    if not house.job.survey.spaces:
        return out
    target = np.array([room.target_c for room in house.rooms])
    for key in house.job.survey.spaces:
        mine = order.spaces.get(key, [])
        conducts = np.maximum(columns[mine, AREA] * (columns[mine, U] + columns[mine, BRIDGE]), 0.0)
        from_rooms = np.bincount(order.room[mine], conducts, len(house.rooms)).astype(float)
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
    order: Order,
    columns: Array,
    complete: np.ndarray[tuple[int], np.dtype[np.bool_]],
    solved: dict[str, SpaceBalance],
    below: Downwards | None,
    trade: Array,
    kept: Kept,
) -> LossArrays:
    rooms = house.rooms
    count = len(rooms)
    volume = np.array([room.volume_m3 or 0.0 for room in rooms])
    exposed = np.array([room.exposed_m2 if complete[n] else 0.0 for n, room in enumerate(rooms)])
    area = np.array([room.plan.area_m2 if room.plan else 0.0 for room in rooms])
    high = np.array([(r.room.height_m or 0.0) > HIGH_ROOM_M for r in rooms], dtype=float)
    column = np.ascontiguousarray(columns.T)
    through = _through_spaces(order, columns, solved, count)
    return LossArrays(
        room_index={room.id: n for n, room in enumerate(rooms)},
        pieces=pieces,
        target_c=np.array([room.target_c for room in rooms]),
        volume_m3=volume,
        area_m2=area,
        order=order,
        piece_area=column[AREA],
        piece_u=column[U],
        piece_bridge=column[BRIDGE],
        piece_factor=column[FACTOR],
        piece_house_factor=column[HOUSE_FACTOR],
        piece_outside_weight=column[WEIGHT],
        piece_fixed_c=column[FIXED],
        piece_house_fixed_c=column[HOUSE_FIXED],
        air=kept.as_before("air", air.arrays(house, tight, volume=volume * complete, exposed=exposed), to_the_bit),
        exposed_m2=exposed,
        room_factor=(1.0 + house.practice.high_room_share * high) * (1.0 + house.practice.exposed_share),
        reheat_w=house.practice.reheat_w_per_m2 * area,
        spaces=solved,
        trade_w_k=trade + through * (1 - np.eye(count)) if solved else trade,
        kept_w_k=np.diag(through).copy(),
        design_c=house.outdoor_c,
        downwards=below,
        complete=complete,
        fabric=fabric,
        tightness=tight,
    )


def _trade(order: Order, columns: Array, count: int) -> Array:
    """What the pieces say room i loses to room j per kelvin between them (R, R)."""
    rows, own, other = order.trading
    conducts = columns[rows, FACTOR] * columns[rows, AREA] * (columns[rows, U] + columns[rows, BRIDGE])
    return np.bincount(own * count + other, conducts, count * count).astype(float).reshape(count, count)


def _both_ways(trade: Array) -> Array:
    """The same conductance seen from both rooms: the mean of what each says, or what the only one that says it says."""
    said = (trade > 0).astype(float)
    return np.asarray((trade + trade.T) / np.maximum(said + said.T, 1.0))


def _through_spaces(order: Order, columns: Array, solved: dict[str, SpaceBalance], count: int) -> Array:
    """What room i loses by way of solved unheated spaces for every kelvin room j is cooler (R, R), itself included."""
    out = np.zeros((count, count))
    for key, space in solved.items():
        for n in order.spaces.get(key, []):
            c = columns[n]
            out[order.room[n]] += c[FACTOR] * c[AREA] * (c[U] + c[BRIDGE]) * space.rooms
    return out
