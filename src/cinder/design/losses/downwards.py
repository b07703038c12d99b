"""The other side of heated floors and walls: what goes down or out instead of into the room, counted once.

A room does not lose heat through the part of its floor that is heated: its emitters' duty leaves that out. What goes down
from the plane of the pipes is worked out at the plane's own temperature, and is added to the loop and, where it leaves
the house, to the machine.
"""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.design.emitters import heated
from cinder.design.emitters.decide import Rated, rate_all
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.kept import Kept
from cinder.design.losses.order import Order
from cinder.physics.quantity import Array
from cinder.physics.radiator import LOG_REFERENCE_K, Mask, output

COMPARED_AT_K = 15.0
"""Excess at which emitters of a room are compared, to say how much of its duty its floor takes (our choice)."""


@dataclass(slots=True)
class Downwards:
    """Heated stretches (H,): the room each belongs to, its conductance away from the room, what lies beyond it."""

    room: np.ndarray[tuple[int], np.dtype[np.intp]]
    piece: np.ndarray[tuple[int], np.dtype[np.intp]]
    """The piece of the house's loss each was taken out of."""
    neighbour: Mask
    area_m2: Array
    above_r: Array
    below_r: Array
    factor: Array
    house_factor: Array
    outside_weight: Array
    fixed_c: Array
    house_fixed_c: Array
    to_room: Array
    duty_per_m2: Array
    """Share of a room's duty each square metre of the stretch gives upwards, 1/m2."""


def split(house: HouseView, order: Order, columns: Array, kept: Kept) -> tuple[Downwards | None, Array]:
    """Take the heated part of floors and walls out of the rooms' losses: what is heated (None where nothing is), and the
    columns of the pieces (F, 8) as they then are, with less of their factors."""
    rows: list[tuple[float, ...]] = []
    left = columns
    warm = {view.room for view in house.emitters if view.spec.kind in ("floor", "wall")}
    if not warm:
        return None, left
    index = {room.id: n for n, room in enumerate(house.rooms)}
    there = [view for view in house.emitters if view.room in warm and view.room in index]
    every = rate_all(house, there, Findings(), kept, reference_k=LOG_REFERENCE_K)
    for one in every:
        view, found = one.view, one.surface
        if view.spec.kind not in ("floor", "wall"):
            continue
        room = house.rooms[index[view.room]]
        face = "floor" if view.spec.kind == "floor" else view.face
        if found is None or face is None:
            continue
        mine = order.plain.get((index[view.room], face), [])
        whole = next((f.gross_m2 for f in room.faces if f.key == face), None) or 0.0
        if whole <= 0:
            continue
        share = min(found.area_m2 / whole, 1.0)
        duty = _duty(one, every) / max(found.area_m2, 1e-9)
        for n in mine:
            area, u, bridge, *beyond = left[n]
            if u + bridge <= 0:
                continue
            below = max(1 / (u + bridge) - heated.SURFACE_R[view.spec.kind], heated.LEAST_BELOW_R)
            rows.append(
                (
                    index[view.room], area * share, found.above_r_m2kw, below + found.below_r_m2kw, *beyond, duty, n,
                    order.neighbour[n],
                )
            )  # fmt: skip
        left = left.copy()
        left[mine, 3:5] *= 1 - share
    if not rows:
        return None, left
    table = np.array(rows, float).T
    room_of = table[0].astype(np.intp)
    to_room = np.zeros((len(rows), len(house.rooms)))
    to_room[np.arange(len(rows)), room_of] = 1.0
    heated_part = Downwards(
        room=room_of, piece=table[10].astype(np.intp), neighbour=table[11] > 0, area_m2=table[1], above_r=table[2],
        below_r=table[3], factor=table[4], house_factor=table[5], outside_weight=table[6], fixed_c=table[7],
        house_fixed_c=table[8], to_room=to_room, duty_per_m2=table[9],
    )  # fmt: skip
    return heated_part, left


def _duty(one: Rated, every: list[Rated]) -> float:
    """The part of its room's duty one heated surface takes."""
    given = {
        other.view.id: float(output(rated_w=other.rated_w or 0.0, exponent=other.exponent, excess_k=COMPARED_AT_K))
        for other in every
        if other.view.room == one.view.room
    }
    total = sum(given.values())
    return given[one.view.id] / total if total > 0 else 0.0


def watts(
    found: Downwards, *, target_c: Array, outdoor: Array | float, duty_w: Array, fixed_c: Array, house_fixed_c: Array
) -> tuple[Array, Array]:
    """What goes the other way, by room: all of it, and what leaves the house (…, R).

    (R_o q + room - beyond) / R_u, never negative. `duty_w` (…, R) is what the room's emitters give into it, `fixed_c` the
    part of what lies beyond that does not hang on the outdoor temperature.
    Source: EN 1264-4 (from memory).
    """
    inside = target_c[found.room]
    upward = np.maximum(duty_w[..., found.room], 0.0) * found.duty_per_m2
    plane = inside + found.above_r * upward
    beyond = found.outside_weight * outdoor + fixed_c
    house_beyond = found.outside_weight * outdoor + house_fixed_c
    area = found.area_m2 / found.below_r
    loop = np.maximum(found.factor * area * (plane - beyond), 0.0)
    leaves = np.maximum(found.house_factor * area * (plane - house_beyond), 0.0)
    return np.asarray(loop @ found.to_room), np.asarray(leaves @ found.to_room)
