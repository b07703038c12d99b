"""What water each outdoor temperature needs, and the two-point setting that serves it."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from cinder.design.emitters import EmitterArrays, needed_flow
from cinder.design.findings import Findings
from cinder.design.house import HouseView
from cinder.design.losses import LossArrays, Losses, evaluate
from cinder.design.result import Curve
from cinder.design.waterline import WaterlineArrays
from cinder.model.scheme import Control
from cinder.physics import curve as law
from cinder.physics import heat_pump
from cinder.physics.quantity import Array

Mask: TypeAlias = NDArray[np.bool_]

MILD_OUT_C = 15.0
LEAST_FLOW_C = 20.0
ABOVE_COLD_POINT_K = 3.0
COP_LINES_BELOW = 0.95  # above it the cap on extrapolated COP flattens the lines
COP_LEVELS = (2.5, 3.0, 3.5, 4.0, 4.5, 5.0)


@dataclass(slots=True)
class CurveArrays:
    """On the outdoor grid (K,): house load W, the need (envelope), the line; per room (K, R)."""

    outdoor_c: Array
    hours: Array
    losses: Losses
    needed_c: Array
    rooms_c: Array
    line_c: Array
    setting: law.TwoPoint | None
    result: Curve


def outdoor_grid(house: HouseView) -> tuple[Array, Array]:
    """Whole degrees from below the design day to 20 deg C, with the climate's hours where it has any."""
    design = house.outdoor_c if house.outdoor_c is not None else -5.0
    bins = house.climate.bin_outdoor_c if house.climate else []
    low = int(np.floor(min([design - 4.0, *bins])))
    grid = np.arange(low, 21, dtype=float)
    hours = np.zeros_like(grid)
    if house.climate:
        table = dict(zip(house.climate.bin_outdoor_c, house.climate.bin_hours, strict=True))
        hours = np.array([table.get(float(t), 0.0) for t in grid])
    return grid, hours


def solve(
    house: HouseView,
    arrays: LossArrays,
    emitters: EmitterArrays,
    design_losses: Losses,
    waterline: WaterlineArrays,
    performance: heat_pump.PerformanceMap | None,
    findings: Findings,
) -> CurveArrays:
    """Need of every room over the outdoor grid; the cold end is the waterline, the mild end is fitted.

    A room that is short at the design day is reckoned at the temperature it then reaches.
    """
    grid, hours = outdoor_grid(house)
    losses = evaluate(arrays, grid)
    served = np.where(np.isnan(waterline.reached_c), arrays.target_c, waterline.reached_c)
    target = np.minimum(arrays.target_c, served)
    cooler = design_losses.loss_per_k * (arrays.target_c - target)
    load = np.maximum(losses.emitter_load_w - cooler, 0.0)
    design_load = np.maximum(design_losses.emitter_load_w - cooler, 1e-9)
    reference = np.where(design_losses.emitter_load_w > 0, design_losses.emitter_load_w, design_load)
    rooms, excess = needed_flow(
        emitters, load_w=load * (1 - waterline.own_share), target_c=target, part=load / reference
    )
    rooms = np.where(np.isfinite(rooms), rooms, np.nan)
    off = grid >= house.practice.heating_limit_c
    envelope = _greatest(rooms)
    give = _allowance(emitters, arrays, design_losses, load, excess, house.practice.room_tolerance_k)
    allowed_rooms = rooms - give
    allowed = _greatest(allowed_rooms)
    control = house.scheme.control if house.scheme else Control()
    setting, fitted_mild = _setting(house, control, waterline, grid, allowed, off)
    line = law.flow_at(setting, outdoor_c=grid) if setting else np.full_like(grid, np.nan)
    result = _result(house, grid, hours, envelope, rooms, line, setting, fitted_mild, control, give, off, performance)
    if result.short_room_k is not None and result.short_room_k > house.practice.room_tolerance_k + 0.05:
        findings.add(
            "short", "curve", f"/schemes/{house.job.active_scheme}/control",
            f"The line leaves a room {result.short_room_k:.1f} K short at {result.short_at_c:.0f} °C outside.",
            why="A straight line runs below a bent need.", mend="Raise the end of the line nearest to it.",
        )  # fmt: skip
    return CurveArrays(grid, hours, losses, envelope, rooms, line, setting, result)


def _greatest(rooms: Array) -> Array:
    """The greatest of each row (K, R), NaN where a row has none."""
    found = np.where(np.isfinite(rooms), rooms, -np.inf).max(axis=1, initial=-np.inf)
    return np.asarray(np.where(np.isfinite(found), found, np.nan))


def _allowance(
    emitters: EmitterArrays, arrays: LossArrays, design: Losses, load: Array, excess: Array, tolerance_k: float
) -> Array:
    """How much cooler the water may be before the room falls short by the tolerance, K (K, R).

    A kelvin less water takes dPhi = n Phi/excess off the emitter; the room sinks until emitter and loss agree.
    """
    rated = emitters.rated_w.sum(axis=1)
    mean_n = np.where(rated > 0, (emitters.rated_w * emitters.exponent).sum(axis=1) / np.maximum(rated, 1e-9), 1.0)
    typical = (emitters.rated_w * np.where(np.isfinite(excess), excess, 0.0)).sum(axis=-1) / np.maximum(rated, 1e-9)
    safe = np.where(typical > 0, typical, 1.0)
    emitter_slope = mean_n * load / safe
    ratio = np.where(emitter_slope > 0, design.loss_per_k / np.maximum(emitter_slope, 1e-9), 0.0)
    return np.asarray(tolerance_k * (1.0 + ratio))


def _setting(
    house: HouseView, control: Control, waterline: WaterlineArrays, grid: Array, allowed: Array, off: Mask
) -> tuple[law.TwoPoint | None, float | None]:
    cold_out = control.cold_out_c if control.cold_out_c is not None else house.outdoor_c
    cold_flow = control.cold_flow_c if control.cold_flow_c is not None else waterline.result.chosen_flow_c
    if cold_out is None or cold_flow is None:
        return None, None
    mild_out = control.mild_out_c if control.mild_out_c is not None else MILD_OUT_C
    mild_out = max(mild_out, cold_out + 1.0)
    use = np.isfinite(allowed) & ~off & (grid > cold_out)
    fitted = LEAST_FLOW_C
    if use.any():
        fitted = law.least_mild_flow(
            cold_out_c=cold_out,
            cold_flow_c=cold_flow,
            mild_out_c=mild_out,
            outdoor_c=grid[use],
            allowed_c=allowed[use],
            step_k=control.step_k,
            greatest_c=cold_flow,
        )
    mild = control.mild_flow_c if control.mild_flow_c is not None else max(fitted, LEAST_FLOW_C)
    greatest = control.greatest_flow_c
    if greatest is None:
        greatest = max(cold_flow, mild) + ABOVE_COLD_POINT_K
    return law.TwoPoint(cold_out, cold_flow, mild_out, mild, LEAST_FLOW_C, max(greatest, LEAST_FLOW_C)), fitted


def _plain(values: Array) -> list[float | None]:
    """Numbers to a thousandth, None where there is none."""
    return [None if v != v else v for v in np.round(values, 3).tolist()]


def _result(
    house: HouseView,
    grid: Array,
    hours: Array,
    envelope: Array,
    rooms: Array,
    line: Array,
    setting: law.TwoPoint | None,
    fitted: float | None,
    control: Control,
    give: Array,
    off: Mask,
    performance: heat_pump.PerformanceMap | None,
) -> Curve:
    cop_lines: dict[str, list[float | None]] = {}
    if performance is not None:
        levels = tuple(level for level in COP_LEVELS if level < COP_LINES_BELOW * float(performance.cop.max()))
        waters = np.arange(20.0, 71.0, 2.5)
        found = heat_pump.water_for_cop(performance, outdoor_c=grid, levels=levels, waters_c=waters)
        cop_lines = {f"{level:g}": _plain(row) for level, row in zip(levels, found, strict=True)}
    short = excess = short_at = excess_at = short_room_k = None
    short_room = None
    judged = np.isfinite(envelope) & np.isfinite(line) & ~off
    if house.outdoor_c is not None:
        judged &= grid >= house.outdoor_c - 0.5
    if judged.any():
        over = np.where(judged, line - envelope, -np.inf)
        excess, excess_at = float(over.max()), float(grid[int(over.argmax())])
        under = np.where(judged, envelope - line, -np.inf)
        short, short_at = max(float(under.max()), 0.0), float(grid[int(under.argmax())])
        by_room = np.where(judged[:, None] & np.isfinite(rooms), (rooms - line[:, None]) / give, -np.inf)
        worst = np.unravel_index(int(by_room.argmax()), by_room.shape)
        short_room_k = max(float(by_room[worst]), 0.0) * house.practice.room_tolerance_k
        if short_room_k > 0:
            short_room, short_at = house.rooms[int(worst[1])].id, float(grid[int(worst[0])])
    return Curve(
        outdoor_c=grid.tolist(),
        needed_c=_plain(envelope),
        rooms={room.id: _plain(column) for room, column in zip(house.rooms, rooms.T, strict=True)},
        line_c=line.tolist() if setting else [],
        hours=hours.tolist(),
        cop_lines=cop_lines,
        cold_out_c=setting.cold_out_c if setting else None,
        cold_flow_c=setting.cold_flow_c if setting else None,
        mild_out_c=setting.mild_out_c if setting else None,
        mild_flow_c=setting.mild_flow_c if setting else None,
        greatest_flow_c=setting.greatest_flow_c if setting else None,
        heating_limit_c=house.practice.heating_limit_c,
        fitted=control.mild_flow_c is None and control.cold_flow_c is None,
        fitted_mild_flow_c=fitted,
        short_k=short,
        short_room_k=short_room_k,
        short_at_c=short_at,
        short_room=short_room,
        excess_k=excess,
        excess_at_c=excess_at,
    )
