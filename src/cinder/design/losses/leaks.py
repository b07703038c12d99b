"""Where the heat goes, greatest first: everything built alike together, air, thermal bridges; and usual densities."""

from __future__ import annotations

from dataclasses import dataclass, field

import numpy as np

from cinder.design.house.view import HouseView
from cinder.design.losses.evaluate import LossArrays, Losses
from cinder.design.losses.result import Leak
from cinder.library import load
from cinder.model.parts import first_age, part_of

REFERENCE_K = 23.0
"""The densities are for 20 inside and -3 outside (common practice)."""
INSIDE_C = 20.0
KINDS = {
    "wall": "walls",
    "roof": "roof",
    "ground": "ground floor",
    "floor": "floors",
    "window": "windows",
    "door": "doors",
}


@dataclass(slots=True)
class _Sum:
    label: str
    kind: str
    construction: str | None
    area_m2: float = 0.0
    conductance: float = 0.0
    loss_w: float = 0.0
    by_room: dict[int, float] = field(default_factory=dict)

    def add(self, room: int, watts: float) -> None:
        self.loss_w += watts
        self.by_room[room] = self.by_room.get(room, 0.0) + watts


def ranked(house: HouseView, arrays: LossArrays, losses: Losses) -> list[Leak]:
    """Every way out of the house with its part of the house's loss on the design day; they sum to it."""
    sums: dict[str, _Sum] = {}
    leaves = arrays.piece_house_w(losses.piece_w)
    through_bridges = (leaves * arrays.piece_bridge_share).tolist()
    conducts, area = arrays.piece_area * arrays.piece_u, arrays.piece_area.tolist()
    bridges = _Sum("Thermal bridges", "bridges", None)
    counts = arrays.complete[arrays.piece_room] & (arrays.piece_house_factor != 0) & (arrays.piece_factor != 0)
    for n in np.flatnonzero(counts).tolist():
        piece, watts, bridge = arrays.pieces[n], float(leaves[n]), through_bridges[n]
        if bridge:
            bridges.add(piece.room, bridge)
        if piece.junction is not None:
            continue
        construction = piece.construction or ""
        one = sums.get(construction)
        if one is None:
            entry = house.constructions[construction]
            one = sums[construction] = _Sum(entry.label, KINDS[entry.element], construction)
        one.area_m2 += area[n]
        one.conductance += float(conducts[n])
        one.add(piece.room, watts - bridge)
    air = _Sum("Air", "air", None)
    for n in range(len(house.rooms)):
        air.add(n, float(losses.air_house_w[n]))
    under = _Sum("Heated floors and walls, away from the room", "heated", None)
    for n, watts in enumerate(losses.down_house_w.tolist()):
        if watts > 0:
            under.add(n, watts)
    extra = _Sum("Additions by practice", "extras", None)
    rest = float(losses.house_w) - sum(s.loss_w for s in [*sums.values(), bridges, air, under])
    if abs(rest) > 0.5:
        extra.add(0, rest)
    every = [*sums.items(), ("air", air), ("bridges", bridges), ("heated", under), ("extras", extra)]
    whole = sum(max(one.loss_w, 0.0) for _, one in every)
    out = [
        Leak(
            key=key,
            label=one.label,
            kind=one.kind,
            construction=one.construction,
            area_m2=one.area_m2 or None,
            u_w_m2k=one.conductance / one.area_m2 if one.area_m2 else None,
            loss_w=one.loss_w,
            share=one.loss_w / whole if whole > 0 else 0.0,
            rooms=sum(w > 1.0 for w in one.by_room.values()),
            worst=house.rooms[max(one.by_room, key=lambda r: one.by_room[r])].room.label,
        )
        for key, one in every
        if one.by_room and abs(one.loss_w) > 0.5
    ]
    return sorted(out, key=lambda leak: -leak.loss_w)


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
