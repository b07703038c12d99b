"""The emitters of a room as the Design shows them: what each gives, its flow, its surface, its loops."""

from __future__ import annotations

import numpy as np

from cinder.design.emitters import heated
from cinder.design.emitters.decide import EmitterArrays, Rated, output_at
from cinder.design.emitters.result import EmitterResult, HeatedResult
from cinder.design.house.view import HouseView
from cinder.design.losses.evaluate import Losses
from cinder.design.waterline.decide import WaterlineArrays
from cinder.physics import radiator, water
from cinder.physics.quantity import Array

MEAN_WATER_C = 40.0


def flow_lph(*, heat_w: float, spread_k: float) -> float:
    """Design flow of an emitter, L/h; properties at 40 deg C water."""
    return float(water.flow_for_heat_lph(heat_w=heat_w, spread_k=spread_k, temperature_c=MEAN_WATER_C))


def results(
    house: HouseView,
    emitters: EmitterArrays,
    waterline: WaterlineArrays | None,
    losses: Losses | None,
    outputs: Array | None,
    lined: Array | None,
    n: int,
) -> list[EmitterResult]:
    """Every emitter of room `n`. Its flow carries what it gives into the room and what goes the other way."""
    place = {slot: e for e, slot in enumerate(emitters.slots[n])}
    room = house.rooms[n]
    load = float(waterline.water_load_w[n]) if waterline is not None else 0.0
    given = float(outputs[n].sum()) if outputs is not None else 0.0
    down = float(losses.down_w[n]) if losses is not None else 0.0
    floors = [one for one in (emitters.rated[slot] for slot in emitters.slots[n]) if one.surface is not None]
    heated_m2 = sum(one.surface.area_m2 for one in floors if one.surface is not None)
    rows = []
    for k, one in enumerate(emitters.rated):
        if one.view.room != room.id:
            continue
        output = share = flow = given_at_line = None
        mine = down * one.surface.area_m2 / heated_m2 if one.surface is not None and heated_m2 else 0.0
        if k in place and waterline is not None and load > 0 and given > 0 and outputs is not None:
            share = float(outputs[n, place[k]]) / given
            output = load * share
            flow = flow_lph(heat_w=output + mine, spread_k=one.spread_k)
        if k in place and lined is not None:
            given_at_line = float(lined[n, place[k]])
        if not one.wet and one.fixed_w and losses is not None and losses.emitter_load_w[n] > 0:
            output = min(one.fixed_w, float(losses.emitter_load_w[n]))
        rows.append(
            EmitterResult(
                id=one.view.id,
                room=room.id,
                kind=one.view.spec.kind,
                label=one.view.label or ("Radiator" if one.view.spec.kind == "panel" else one.description.capitalize()),
                description=one.description,
                rated_w=one.rated_w if one.wet else one.fixed_w or None,
                exponent=one.exponent if one.wet else None,
                water_l=one.water_l,
                valve=one.valve_key if one.wet else None,
                valve_label=one.valve.label if one.valve and one.wet else "",
                closes=bool(one.valve and one.valve.closes),
                action=one.view.action,
                share=share,
                output_w=output,
                at_line_w=given_at_line,
                flow_lph=flow,
                spread_k=one.spread_k if one.wet else None,
                factor=one.factor,
                factor_words=one.factor_words,
                electric_w=one.electric_w,
                heated=_heated(one, output, mine, flow, room.target_c),
            )
        )
    return rows


def at_line(emitters: EmitterArrays, *, flow_c: float, target_c: Array) -> Array:
    """What every emitter gives (R, E) at the chosen water with its design spread and the room at its target, W."""
    excess = radiator.mixed_excess(
        flow_c=flow_c, spread_k=emitters.spread_k, room_c=target_c[:, None], arithmetic=emitters.arithmetic
    )
    return output_at(emitters, excess)


def given_w(emitters: EmitterArrays, line: WaterlineArrays, target_c: Array) -> Array:
    """What the emitters of every room give together (R,) at the chosen water, W; nothing where none is chosen."""
    flow = line.result.chosen_flow_c
    if flow is None:
        return np.zeros(len(target_c))
    return np.asarray(at_line(emitters, flow_c=flow, target_c=target_c).sum(axis=1))


def _heated(one: Rated, output: float | None, down: float, flow: float | None, room_c: float) -> HeatedResult | None:
    found, spec = one.surface, one.view.spec.heated
    if found is None or spec is None:
        return None
    flux = output / found.area_m2 if output is not None and found.area_m2 else None
    mean = most = per_loop = kpa = None
    if flux is not None:
        mean, most = heated.surface_excess_k(found, flux, wall=one.view.spec.kind == "wall")
    if flow is not None:
        per_loop = flow / found.loops
        kpa = heated.loop_kpa(found.loop_m, per_loop, spec.pipe_m - 2 * spec.pipe_wall_m)
    return HeatedResult(
        k_w_m2k=found.k_w_m2k, other_k_w_m2k=found.other_k_w_m2k, method=found.method, outside=found.outside,
        area_m2=found.area_m2, flux_w_m2=flux,
        most_w_m2=found.most_w_m2, surface_mean_c=room_c + mean if mean is not None else None,
        surface_most_c=room_c + most if most is not None else None, limit_c=found.limit_c, limit_why=found.limit_why,
        most_flow_c=heated.most_flow_c(found, room_c=room_c, spread_k=one.spread_k),
        down_w=down if output is not None else None, loop_m=found.loop_m, loops=found.loops, loop_lph=per_loop, loop_kpa=kpa,
    )  # fmt: skip
