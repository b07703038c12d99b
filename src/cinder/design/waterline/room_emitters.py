"""The emitters of a room as the Design shows them: what each gives, its flow, its surface, its loops."""

from __future__ import annotations

from collections.abc import Sequence
from typing import Protocol

import numpy as np

from cinder.design.emitters import heated
from cinder.design.emitters.decide import EmitterArrays, Rated, output_at
from cinder.design.emitters.result import EmitterResult, HeatedResult
from cinder.design.house.rooms import RoomView
from cinder.design.waterline.decide import WaterlineArrays
from cinder.physics.flow.fluid import MEAN_WATER_C, Fluid
from cinder.physics.quantity import Array
from cinder.physics.rooms import radiator


def flow_lph(*, heat_w: float, spread_k: float, fluid: Fluid) -> float:
    """Design flow of an emitter, L/h; properties at 40 deg C."""
    return float(fluid.flow_for_heat_lph(heat_w=heat_w, spread_k=spread_k, temperature_c=MEAN_WATER_C))


class Given(Protocol):
    """What the chain says of a room, as far as its emitters hang on it."""

    @property
    def load_w(self) -> float: ...
    @property
    def water_load_w(self) -> float: ...
    @property
    def down_w(self) -> float: ...
    @property
    def output_w(self) -> list[float]: ...
    @property
    def lined_w(self) -> list[float]: ...


def results(
    room: RoomView,
    figures: Given,
    rated: Sequence[Rated],
    slots: Sequence[int | None],
    *,
    known: bool,
    lined: bool,
    fluid: Fluid,
) -> list[EmitterResult]:
    """Every emitter of a room, at its place among those that are rated (`slots`). Its flow carries what it gives into the room
    and what goes the other way. `known`: there is a design day; `lined`: a water is chosen."""
    load = figures.water_load_w if known else 0.0
    given = sum(figures.output_w)
    heated_m2 = sum(
        one.surface.area_m2 for one, k in zip(rated, slots, strict=True) if one.surface is not None and k is not None
    )
    rows = []
    for one, k in zip(rated, slots, strict=True):
        output = share = flow = given_at_line = None
        mine = 0.0
        if known and one.surface is not None and heated_m2:
            mine = figures.down_w * one.surface.area_m2 / heated_m2
        if k is not None and load > 0 and given > 0:
            share = figures.output_w[k] / given
            output = load * share
            flow = flow_lph(heat_w=output + mine, spread_k=one.spread_k, fluid=fluid)
        if k is not None and lined:
            given_at_line = figures.lined_w[k]
        if not one.wet and one.fixed_w and known and figures.load_w > 0:
            output = min(one.fixed_w, figures.load_w)
        rows.append(
            EmitterResult(
                id=one.view.id,
                room=room.id,
                kind=one.view.spec.kind,
                label=one.view.label
                or ("Radiator" if one.view.spec.kind == "panel" else one.description[:1].upper() + one.description[1:]),
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
                heated=_heated(one, output, mine, flow, room.target_c, fluid),
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


def _heated(
    one: Rated, output: float | None, down: float, flow: float | None, room_c: float, fluid: Fluid
) -> HeatedResult | None:
    found, spec = one.surface, one.view.spec.heated
    if found is None or spec is None:
        return None
    flux = output / found.area_m2 if output is not None and found.area_m2 else None
    mean = most = per_loop = kpa = None
    if flux is not None:
        mean, most = heated.surface_excess_k(found, flux, wall=one.view.spec.kind == "wall")
    if flow is not None:
        per_loop = flow / found.loops
        kpa = heated.loop_kpa(found.loop_m, per_loop, spec.pipe_m - 2 * spec.pipe_wall_m, fluid)
    return HeatedResult(
        k_w_m2k=found.k_w_m2k, other_k_w_m2k=found.other_k_w_m2k, method=found.method, outside=found.outside,
        area_m2=found.area_m2, flux_w_m2=flux,
        most_w_m2=found.most_w_m2, surface_mean_c=room_c + mean if mean is not None else None,
        surface_most_c=room_c + most if most is not None else None, limit_c=found.limit_c, limit_why=found.limit_why,
        most_flow_c=heated.most_flow_c(found, room_c=room_c, spread_k=one.spread_k),
        down_w=down if output is not None else None, loop_m=found.loop_m, loops=found.loops, loop_lph=per_loop, loop_kpa=kpa,
    )  # fmt: skip
