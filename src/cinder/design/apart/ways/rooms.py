"""Everything that may be done in one room, each with the water it would then need."""

from __future__ import annotations

import numpy as np

from cinder.design.apart.ways.options import HouseOptions
from cinder.design.apart.ways.result import RoomOption, RoomOptions
from cinder.design.apart.ways.shared import measure_pins
from cinder.design.apart.ways.way import beyond_it, gives
from cinder.design.emitters.decide import Rated, rate, reference_of
from cinder.design.findings import Findings
from cinder.design.losses.evaluate import loads
from cinder.errors import NotFound
from cinder.physics.quantity import Array

FINE_C = np.arange(22.0, 80.01, 0.5)
LEAST_OF_HOUSE_W = 5.0


def of_room(found: HouseOptions, room: str) -> RoomOptions:
    """Everything that may be done in a room by itself, each with the water the room would then need.

    Raises `NotFound` for a room there is not.
    """
    n = next((k for k, one in enumerate(found.house.rooms) if one.id == room), None)
    if n is None:
        raise NotFound("There is no such room.")
    here, house = found.house.rooms[n], found.house
    arithmetic = house.practice.excess == "arithmetic"
    reference = reference_of(house.practice)
    flow = found.base.waterline.chosen_flow_c
    scheme = found.job.schemes[found.job.active_scheme or ""]

    def fine(rated: Rated, target: float) -> Array:
        return gives(rated, flows_c=FINE_C, room_c=target, arithmetic=arithmetic, reference_k=reference)

    mine = [one for one in house.emitters if one.room == room]
    rated = {f"emitter:{one.id}": rate(house, one, Findings(), reference_k=reference) for one in mine}
    slope = float(loads(found.arrays, house.outdoor_c or 0.0).loss_per_k[n])
    now = sum((fine(one, here.target_c) for one in rated.values()), np.zeros(len(FINE_C)))
    rows = []
    for way in found.ways[n]:
        target = way.to_c if way.to_c is not None else here.target_c
        total = sum((fine(one, target) for slot, one in rated.items() if slot != way.slot), np.zeros(len(FINE_C)))
        note = way.note
        if way.rated is not None:
            beyond = beyond_it(way.rated, flows_c=FINE_C, room_c=target)
            total = np.where(beyond, 0.0, total + fine(way.rated, target))
            if flow is not None and flow > (bears := float(FINE_C[~beyond].max(initial=0.0))):
                note = (
                    f"Its surface bears water up to about {bears:.0f} °C, not the {flow:.0f} °C of now. {note}".strip()
                )
        load = float(found.load_w[n]) - way.takes_w - (slope - way.takes_w_k) * (here.target_c - target)
        rows.append(
            RoomOption(
                key=f"way:{way.key}", slot=way.slot, groups=list(way.groups), what=way.what,
                kind="concession" if way.to_c is not None else "way", cost_minor=0.0 if way.to_c is not None else way.cost_minor,
                yearly_minor=way.yearly_minor, disturbance=way.disturbance, looks=way.looks, needed_flow_c=_crosses(total, load),
                gives_w=float(np.interp(flow, FINE_C, total)) if flow is not None else None,
                pin=next((scheme.wishes[p] for p in way.pins if p in scheme.wishes), None), note=note,
            )
        )  # fmt: skip
    rows += _of_house(found, n, now, flow)
    rows.sort(key=lambda row: (row.slot, row.cost_minor, row.needed_flow_c or 99.0))
    refused = [
        key for key in scheme.refused if key.partition(":")[2] in (room, *(e.id for e in mine)) or f"-{room}:" in key
    ]
    return RoomOptions(
        room=room, label=here.room.label, load_w=float(found.load_w[n]), target_c=here.target_c,
        needed_flow_c=_crosses(now, float(found.load_w[n])), flow_c=flow, options=rows, refused=refused,
        electric_allowed=f"electric:{room}" in scheme.allowed, least_c=scheme.concessions.get(room),
    )  # fmt: skip


def _of_house(found: HouseOptions, n: int, now: Array, flow_c: float | None) -> list[RoomOption]:
    """Measures of the whole house that take something off this room's load."""
    scheme = found.job.schemes[found.job.active_scheme or ""]
    place = {room: r for r, room in enumerate(found.served)}
    rows = []
    for one in found.shared:
        if one.key not in found.tried or n not in place or one.takes_w[place[n]] < LEAST_OF_HOUSE_W:
            continue
        option, pins = found.tried[one.key].option, measure_pins(found.tried[one.key])
        less = float(found.load_w[n]) - float(one.takes_w[place[n]])
        rows.append(
            RoomOption(
                key=pins[0], slot="house", groups=[pins[1]], kind="measure", cost_minor=option.cost_minor, yearly_minor=0.0,
                what=f"the whole house: {option.label.lower()}{', ' + option.detail if option.detail else ''}",
                disturbance=option.disturbance, looks=1, needed_flow_c=_crosses(now, less),
                gives_w=float(np.interp(flow_c, FINE_C, now)) if flow_c is not None else None,
                pin=next((scheme.wishes[p] for p in pins if p in scheme.wishes), None), note=option.note,
            )
        )  # fmt: skip
    return rows


def _crosses(watts: Array, load_w: float) -> float | None:
    """The flow temperature at which a rising output meets a load; None above 80 deg C."""
    if load_w <= 0:
        return float(FINE_C[0])
    over = np.nonzero(watts >= load_w)[0]
    if not len(over):
        return None
    k = int(over[0])
    if k == 0:
        return float(FINE_C[0])
    low, high = float(watts[k - 1]), float(watts[k])
    return float(FINE_C[k - 1] + (FINE_C[k] - FINE_C[k - 1]) * (load_w - low) / (high - low))
