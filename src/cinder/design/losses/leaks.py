"""Where the heat goes, greatest first: everything built alike together, air, thermal bridges; and usual densities."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from cinder.design.house.view import HouseView
from cinder.design.losses.evaluate import LossArrays, Losses
from cinder.design.losses.result import Leak
from cinder.library import load
from cinder.model.parts import first_age, part_of
from cinder.physics.quantity import Array
from cinder.physics.rooms.radiator import Mask

REFERENCE_K = 23.0
"""The densities are for 20 inside and -3 outside (common practice)."""
INSIDE_C = 20.0
LEAST_W = 0.5
"""Ways out that lose less are not shown."""
KINDS = {
    "wall": "walls",
    "roof": "roof",
    "ground": "ground floor",
    "floor": "floors",
    "window": "windows",
    "door": "doors",
}


class Leaving(NamedTuple):
    """What of every piece leaves the house (F,), W: through what it is made of, and through bridges."""

    plain_w: Array
    bridges_w: Array


def leaving(arrays: LossArrays, losses: Losses) -> Leaving:
    """What of the pieces' watts on the design day leaves the house."""
    leaves = arrays.piece_house_w(losses.piece_w)
    bridges = leaves * arrays.piece_bridge_share
    return Leaving(leaves - bridges, bridges)


class _Way(NamedTuple):
    """A way out; its area, m2, and what that conducts, W/K."""

    key: str
    label: str
    kind: str
    construction: str | None = None
    area_m2: float = 0.0
    conductance: float = 0.0


def ranked(house: HouseView, arrays: LossArrays, losses: Losses, leaving: Leaving) -> list[Leak]:
    """Every way out of the house with its part of the house's loss on the design day; they sum to it."""
    ways, by_room, there = _ways(house, arrays, losses, leaving)
    lost = by_room.sum(axis=1)
    rest = float(losses.house_w) - float(lost.sum())
    if abs(rest) > LEAST_W:
        first = np.arange(len(house.rooms)) == 0
        ways.append(_Way("extras", "Additions by practice", "extras"))
        by_room, there = np.vstack([by_room, np.where(first, rest, 0.0)]), np.vstack([there, first])
        lost = np.append(lost, rest)
    whole = float(np.maximum(lost, 0.0).sum())
    rooms = (by_room > 1.0).sum(axis=1).tolist()
    worst = np.where(there, by_room, -np.inf).argmax(axis=1).tolist()
    out = [
        Leak(
            key=way.key,
            label=way.label,
            kind=way.kind,
            construction=way.construction,
            area_m2=way.area_m2 or None,
            u_w_m2k=way.conductance / way.area_m2 if way.area_m2 else None,
            loss_w=watts,
            share=watts / whole if whole > 0 else 0.0,
            rooms=rooms[n],
            worst=house.rooms[worst[n]].room.label,
        )
        for n, (way, watts) in enumerate(zip(ways, lost.tolist(), strict=True))
        if abs(watts) > LEAST_W
    ]
    return sorted(out, key=lambda leak: -leak.loss_w)


def _ways(house: HouseView, arrays: LossArrays, losses: Losses, leaving: Leaving) -> tuple[list[_Way], Array, Mask]:
    """What is built alike, air, bridges, and what heated floors send away (W,); what each loses by room, W, and which rooms it is in
    (W, R)."""
    order, count = arrays.order, len(house.rooms)
    counts = arrays.complete[order.room] & (arrays.piece_house_factor != 0) & (arrays.piece_factor != 0)
    built = np.flatnonzero(counts & (order.built >= 0))
    of, kinds = order.built[built], len(order.constructions)
    slot, slots = of * count + order.room[built], kinds * count
    area, conducts = arrays.piece_area[built], arrays.piece_area[built] * arrays.piece_u[built]
    areas, conductances = (np.bincount(of, weights, kinds).tolist() for weights in (area, conducts))
    pieces = np.bincount(slot, minlength=slots).reshape(kinds, count)
    ways = []
    for key, *figures in zip(order.constructions, areas, conductances, strict=True):
        entry = house.constructions[key]
        ways.append(_Way(key, entry.label, KINDS[entry.element], key, *figures))
    ways += [
        _Way("air", "Air", "air"), _Way("bridges", "Thermal bridges", "bridges"),
        _Way("heated", "Heated floors and walls, away from the room", "heated"),
    ]  # fmt: skip
    led = np.flatnonzero(counts & (leaving.bridges_w != 0))
    bridged = order.room[led]
    under = np.maximum(losses.down_house_w, 0.0)
    by_room = np.vstack(
        [
            np.bincount(slot, leaving.plain_w[built], slots).reshape(kinds, count), losses.air_house_w,
            np.bincount(bridged, leaving.bridges_w[led], count), under,
        ]
    )  # fmt: skip
    there = np.vstack([pieces, np.ones(count), np.bincount(bridged, minlength=count), under]) > 0
    return ways, by_room, there


WIDE = 1.6
"""A single room may lose that much more or less than its house before it looks odd (our choice)."""


def oddness(*, low: float | None, high: float | None, here: float | None, exposed_faces: int) -> float:
    """How far a room's loss per floor area lies outside what is usual: above 1 it is odd; negative where it is too little."""
    if low is None or high is None or here is None or here <= 0:
        return 0.0
    scarce = low / WIDE / here if exposed_faces > 1 else 0.0
    much = here / (high * WIDE)
    return much if much >= scarce else -scarce


def usual_w_per_m2(house: HouseView, part: str | None) -> tuple[float, float] | None:
    """The band of loss per floor area usual for the age of a part, at this job's outdoor temperature; None unknown.

    Source: densities table, common practice.
    """
    found = part_of(house.job.survey, part)
    key = (found.age if found else None) or first_age(house.job.survey)
    row = load().densities.get(key or "")
    if row is None or house.outdoor_c is None:
        return None
    cold = (INSIDE_C - house.outdoor_c) / REFERENCE_K
    return row.good[0] * cold, row.bare[1] * cold
