"""Who holds the water up, and what it would do to take one of them out: a small heater or fan unit of its own."""

from __future__ import annotations

import math

from cinder.design.apart.ways.options import HouseOptions
from cinder.design.apart.ways.result import Holding, TakenOut
from cinder.design.apart.ways.rooms import of_room
from cinder.design.curve.fit import freed
from cinder.design.explained import num
from cinder.design.judgement import design
from cinder.design.losses.result import RoomResult
from cinder.design.machine.beside import bill_minor
from cinder.design.result import Design
from cinder.design.waterline.decide import meets
from cinder.model import EmitterSpec, Job
from cinder.model.scheme import EmitterAction

MOST_ROOMS = 4


def following(job: Job) -> Job:
    """The job with its water left to follow what the rooms need."""
    key = job.active_scheme or ""
    scheme = job.schemes[key]
    control = freed(scheme.control)
    return job.model_copy(
        update={"schemes": {**job.schemes, key: scheme.model_copy(update={"flow_c": None, "control": control})}}
    )


def _with_heater(job: Job, room: str, watts: float) -> Job:
    key = job.active_scheme or ""
    scheme = job.schemes[key]
    made = EmitterAction(
        action="add", room=room, label="Heater of its own", spec=EmitterSpec(kind="electric", output_w=watts)
    )
    new = scheme.model_copy(update={"emitters": {**scheme.emitters, f"electric-{room}": made}})
    return job.model_copy(update={"schemes": {**job.schemes, key: new}})


def holding(found: HouseOptions) -> Holding:
    """The warmest rooms and the effect of taking each out, the water following what the rest need."""
    free = following(found.job)
    base = design(free, found.kept)
    ranked = sorted((r for r in base.rooms if r.needed_flow_c is not None), key=lambda r: -(r.needed_flow_c or 0.0))
    rows = [_taken_out(found, free, base, room, ranked) for room in ranked[:MOST_ROOMS]]
    return Holding(
        flow_c=base.waterline.needed_flow_c, season=base.season.performance, rooms=rows, sentence=_sentence(rows)
    )


def _taken_out(found: HouseOptions, free: Job, base: Design, room: RoomResult, ranked: list[RoomResult]) -> TakenOut:
    load = room.room_emitter_load_w or 0.0
    watts = math.ceil(load / 50) * 50.0
    after = design(_with_heater(free, room.id, watts), found.kept)
    rest = max((r.needed_flow_c or 0.0 for r in ranked if r.id != room.id), default=None)
    more = bill = None
    if after.season.bought_kwh is not None and base.season.bought_kwh is not None:
        more = after.season.bought_kwh - base.season.bought_kwh
        bill = (bill_minor(free, after.season) or 0.0) - (bill_minor(free, base.season) or 0.0)
    fans = [
        option
        for option in of_room(found, room.id).options
        if f"fan:{room.id}" in option.groups and option.needed_flow_c is not None
        and (rest is None or meets(option.needed_flow_c, rest))
    ]  # fmt: skip
    fan = min(fans, key=lambda option: option.cost_minor, default=None)
    return TakenOut(
        room=room.id, label=room.label, load_w=load, needed_flow_c=room.needed_flow_c or 0.0, flow_without_c=rest,
        heater_w=watts, heater_kwh=after.season.own_heat_kwh or None, bought_more_kwh=more, bill_more_minor=bill,
        season=after.season.performance,
        fan=fan.what if fan else None, fan_cost_minor=fan.cost_minor if fan else None,
        fan_flow_c=fan.needed_flow_c if fan else None,
    )  # fmt: skip


def _sentence(rows: list[TakenOut]) -> str:
    if not rows:
        return "No room has both a loss and an emitter yet."
    first = rows[0]
    said = f"**{first.label}** holds the water up at **{num(first.needed_flow_c)} °C**"
    if first.flow_without_c is None:
        return said + "; it is the only room that asks for any."
    said += f"; without it the rest lives on **{num(first.flow_without_c)} °C**"
    if first.bought_more_kwh is not None:
        word = "more" if first.bought_more_kwh > 0 else "less"
        said += f". Heated by plain electricity the house would take {num(abs(first.bought_more_kwh), 0)} kWh {word} a year in all"
    return said + "."
