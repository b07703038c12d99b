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
from cinder.physics.radiator import Mask

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


class _Way(NamedTuple):
    """A way out: what it loses by room (R,), W, and which rooms it is in; its area, m2, and what that conducts, W/K."""

    key: str
    label: str
    kind: str
    construction: str | None
    by_room: Array
    there: Mask
    area_m2: float = 0.0
    conductance: float = 0.0


def ranked(house: HouseView, arrays: LossArrays, losses: Losses) -> list[Leak]:
    """Every way out of the house with its part of the house's loss on the design day; they sum to it."""
    ways = _built(house, arrays, losses)
    lost = [float(way.by_room.sum()) for way in ways]
    rest = float(losses.house_w) - sum(lost)
    if abs(rest) > LEAST_W:
        first = np.arange(len(house.rooms)) == 0
        ways.append(_Way("extras", "Additions by practice", "extras", None, np.where(first, rest, 0.0), first))
        lost.append(rest)
    whole = sum(max(watts, 0.0) for watts in lost)
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
            rooms=int((way.by_room > 1.0).sum()),
            worst=house.rooms[int(np.where(way.there, way.by_room, -np.inf).argmax())].room.label,
        )
        for way, watts in zip(ways, lost, strict=True)
        if abs(watts) > LEAST_W
    ]
    return sorted(out, key=lambda leak: -leak.loss_w)


def _built(house: HouseView, arrays: LossArrays, losses: Losses) -> list[_Way]:
    """What is built alike, air, bridges, and what heated floors send away."""
    count, rooms = len(house.rooms), arrays.piece_room
    leaves = arrays.piece_house_w(losses.piece_w)
    bridges = leaves * arrays.piece_bridge_share
    plain, conducts = leaves - bridges, arrays.piece_area * arrays.piece_u
    counts = arrays.complete[rooms] & (arrays.piece_house_factor != 0) & (arrays.piece_factor != 0)
    every = np.flatnonzero(counts)
    built = [n for n in every.tolist() if arrays.pieces[n].junction is None]
    codes: dict[str, int] = {}
    of = np.array([codes.setdefault(arrays.pieces[n].construction or "", len(codes)) for n in built], dtype=np.intp)
    slot, slots = of * count + rooms[built], len(codes) * count
    watts = np.bincount(slot, plain[built], slots).reshape(-1, count).astype(float)
    there = np.bincount(slot, minlength=slots).reshape(-1, count) > 0
    area = np.bincount(of, arrays.piece_area[built], len(codes)).tolist()
    conductance = np.bincount(of, conducts[built], len(codes)).tolist()
    ways = []
    for key, n in codes.items():
        entry = house.constructions[key]
        ways.append(_Way(key, entry.label, KINDS[entry.element], key, watts[n], there[n], area[n], conductance[n]))
    ways.append(_Way("air", "Air", "air", None, losses.air_house_w, np.ones(count, dtype=bool)))
    led = every[bridges[every] != 0]
    by_room, any_there = (
        np.bincount(rooms[led], weights, count).astype(float) for weights in (bridges[led], np.ones(len(led)))
    )
    ways.append(_Way("bridges", "Thermal bridges", "bridges", None, by_room, any_there > 0))
    under = np.maximum(losses.down_house_w, 0.0)
    ways.append(_Way("heated", "Heated floors and walls, away from the room", "heated", None, under, under > 0))
    return ways


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
