"""A house into arrays: its pieces, its spaces, what rooms trade, what heated floors send the other way."""

from __future__ import annotations

from dataclasses import replace

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
from cinder.design.losses import downwards
from cinder.design.losses.downwards import Downwards
from cinder.design.losses.evaluate import LossArrays
from cinder.design.losses.piece import Piece, of_room
from cinder.physics.quantity import Array

HIGH_ROOM_M = 4.0


def of_house(house: HouseView, findings: Findings) -> LossArrays:
    """The arrays of a house, with its fabric and its tightness worked out first."""
    tight = tightness(house, findings)
    return assemble(house, below_ground.of_house(house), tight, findings)


def assemble(house: HouseView, fabric: Fabric, tight: Tightness, findings: Findings) -> LossArrays:
    """Turn the house into arrays. Rooms that lack a size or a construction stand out of `complete`."""
    pieces: list[Piece] = []
    complete = np.ones(len(house.rooms), dtype=bool)
    for index, room in enumerate(house.rooms):
        if room.lacks:
            complete[index] = False
            findings.add(
                "stops", "rooms", f"/survey/rooms/{room.id}", f"{room.name} lacks {' and '.join(room.lacks)}.",
                why="Its loss cannot be worked out; the rest of the house is.", mend="Measure and enter it.",
            )  # fmt: skip
            continue
        mine, complete[index] = of_room(house, fabric, index, room, findings)
        pieces += mine
    plan_findings.judge(house, findings)
    build_findings.judge(fabric.u, {p.construction for p in pieces if p.construction is not None}, findings)
    solved, pieces = _solve_spaces(house, fabric, pieces, findings)
    whole = _trade(house.rooms, pieces)
    below, kept = downwards.split(house, pieces)
    trade = _both_ways(whole) - (whole - _trade(house.rooms, kept)) if below is not None else _both_ways(whole)
    return _arrays(house, fabric, tight, kept, complete, solved, below, np.maximum(trade, 0.0))


def _solve_spaces(
    house: HouseView, fabric: Fabric, pieces: list[Piece], findings: Findings
) -> tuple[dict[str, SpaceBalance], list[Piece]]:
    """Spaces with faces of their own: their temperature follows the rooms, the outside and the ground. The pieces towards
    them then have that temperature beyond."""
    out: dict[str, SpaceBalance] = {}
    fixed: dict[str, float] = {}
    target = np.array([room.target_c for room in house.rooms])
    for key in house.job.survey.spaces:
        from_rooms = np.zeros(len(house.rooms))
        for piece in pieces:
            if piece.space == key:
                from_rooms[piece.room] += max(piece.area_m2 * (piece.u + piece.bridge), 0.0)
        solved = spaces.balance(house, fabric.u, key, from_rooms, findings)
        if solved is not None:
            out[key] = solved
            fixed[key] = solved.fixed_c(target, _ground_c(house))

    def settled(piece: Piece, space: str) -> Piece:
        return replace(
            piece, factor=1.0, house_factor=1.0, outside_weight=out[space].outside, fixed_c=fixed[space],
            house_fixed_c=fixed[space],
        )  # fmt: skip

    return out, [settled(p, p.space) if p.space is not None and p.space in out else p for p in pieces]


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
        air=air.arrays(house, tight, volume=volume * complete, exposed=exposed),
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
        fabric=fabric,
        tightness=tight,
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
