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
from cinder.physics.losses.room_losses import Below
from cinder.physics.quantity import Array
from cinder.physics.rooms.radiator import LOG_REFERENCE_K, output

COMPARED_AT_K = 15.0
"""Excess at which emitters of a room are compared, to say how much of its duty its floor takes (our choice)."""


@dataclass(slots=True)
class Downwards:
    """Heated stretches, and the piece (H,) of the house's loss each was taken out of."""

    stretches: Below
    piece: np.ndarray[tuple[int], np.dtype[np.intp]]


NOTHING = Below(np.zeros(0, dtype=np.intp), np.zeros(0, dtype=bool), *[np.zeros(0)] * 9)


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
    area, above_r, below_r, factor, house_factor, weight, fixed, house_fixed, per_m2, piece, neighbour = (
        np.ascontiguousarray(table[1:])
    )
    stretches = Below(
        table[0].astype(np.intp), neighbour > 0, area, above_r, below_r, factor, house_factor, weight, fixed, house_fixed, per_m2
    )  # fmt: skip
    return Downwards(stretches, piece.astype(np.intp)), left


def _duty(one: Rated, every: list[Rated]) -> float:
    """The part of its room's duty one heated surface takes."""
    given = {
        other.view.id: float(output(rated_w=other.rated_w or 0.0, exponent=other.exponent, excess_k=COMPARED_AT_K))
        for other in every
        if other.view.room == one.view.room
    }
    total = sum(given.values())
    return given[one.view.id] / total if total > 0 else 0.0
