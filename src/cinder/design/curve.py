"""What water each outdoor temperature needs with all rooms settling together, and the two-point setting that serves it."""

from __future__ import annotations

from dataclasses import dataclass, replace
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from cinder.design import settled
from cinder.design.emitters import EmitterArrays
from cinder.design.findings import Findings
from cinder.design.house import HouseView
from cinder.design.losses import LossArrays, Losses, evaluate, through_the_year
from cinder.design.result import Curve
from cinder.design.waterline import WaterlineArrays
from cinder.model.scheme import Control
from cinder.physics import curve as law
from cinder.physics import heat_pump
from cinder.physics.quantity import Array
from cinder.physics.room_balance import Settled

Mask: TypeAlias = NDArray[np.bool_]

MILD_OUT_C = 15.0
LEAST_FLOW_C = 20.0
ABOVE_COLD_POINT_K = 3.0
COP_LINES_BELOW = 0.95  # above it the cap on extrapolated COP flattens the lines
COP_LEVELS = (2.5, 3.0, 3.5, 4.0, 4.5, 5.0)
LEAST_FOLLOWED = 0.05
TOLD_APART_K = 0.1
"""Two temperatures of water nearer than this are one to an engineer."""


@dataclass(slots=True)
class Need:
    """The water the house needs over outdoor temperatures (K,), and the rooms then.

    `standard_c` (K,) the sizing's stricter reading; `rooms_c` (K, R) what each room asks for beside rooms as warm as the
    need makes them; `allowed_c` (K,) what leaves no room short by more than the practice's tolerance; `binding` (K,) the
    room that holds it (-1: none). `wanted_c` (R,): the targets, lower where the chosen water leaves a room short.
    """

    needed_c: Array
    standard_c: Array
    rooms_c: Array
    allowed_c: Array
    binding: NDArray[np.intp]
    wanted_c: Array
    asked: Mask
    beyond: bool
    """Whether rooms without emitters draw so much that the settled house would need more than the stricter reading."""
    house: settled.Balance
    found: Settled


@dataclass(slots=True)
class CurveArrays:
    """On the outdoor grid (K,): the house's losses by the design day's reading and through the year, W; the need, the
    line."""

    outdoor_c: Array
    hours: Array
    losses: Losses
    year: LossArrays
    year_losses: Losses
    needed_c: Array
    line_c: Array
    setting: law.TwoPoint | None
    result: Curve


def outdoor_grid(house: HouseView) -> tuple[Array, Array]:
    """Whole degrees from below the design day to 20 deg C, with the climate's hours where it has any.

    Bins between two whole degrees are shared out between them by their distance, so that hours and degree hours stay.
    """
    design = house.outdoor_c if house.outdoor_c is not None else -5.0
    bins = np.array(house.climate.bin_outdoor_c if house.climate else [], dtype=float)
    low = int(np.floor(min([design - 4.0, *bins])))
    grid = np.arange(low, max(21, low + 2), dtype=float)
    hours = np.zeros_like(grid)
    if house.climate:
        counts = np.array(house.climate.bin_hours)
        below = np.floor(bins)
        for degrees, share in ((below, 1 - (bins - below)), (below + 1, bins - below)):
            place = (degrees - low).astype(int)
            on = (place < len(grid)) & (share > 0)
            np.add.at(hours, place[on], (counts * share)[on])
    return grid, hours


def solve(
    house: HouseView,
    arrays: LossArrays,
    emitters: EmitterArrays,
    waterline: WaterlineArrays,
    performance: heat_pump.PerformanceMap | None,
    findings: Findings,
    *,
    shown: bool = True,
) -> CurveArrays:
    """Need of the house over the outdoor grid, the line fitted to it, and what the line does to every room.

    A room that is short at the chosen water on the design day is reckoned at the temperature it then reaches. With
    `shown` False only need and line: what a season is worked out from.
    """
    grid, hours = outdoor_grid(house)
    at = grid if house.outdoor_c is None else np.append(grid, house.outdoor_c)
    year = through_the_year(house, arrays)
    losses, year_losses = evaluate(arrays, at), evaluate(year, at)
    off = at >= house.practice.heating_limit_c
    control = house.scheme.control if house.scheme else Control()
    cold_out = control.cold_out_c if control.cold_out_c is not None else house.outdoor_c
    fits = ~off & (at > cold_out) if cold_out is not None else np.zeros_like(off)
    need = _need(house, arrays, year, losses, year_losses, emitters, waterline, fits, lines=shown)
    setting, fitted = _setting(house, control, waterline, at, need, cold_out, fits)
    line = law.flow_at(setting, outdoor_c=at) if setting else np.full_like(at, np.nan)
    if shown:
        room = _at_line(need, line, off) if setting else None
        result = _result(
            house, arrays, grid, hours, need, line, room, setting, fitted, control, off, waterline, performance
        )
        _findings(house, result, need, waterline, findings)
    else:
        result = _no_curve(house, grid, hours)
    count = len(grid)
    return CurveArrays(
        grid, hours, _first(losses, count), year, _first(year_losses, count), need.needed_c[:count], line[:count], setting,
        result,
    )  # fmt: skip


def nothing(house: HouseView, arrays: LossArrays) -> CurveArrays:
    """Where it cannot be worked out: the grid, with no need and no line on it."""
    grid, hours = outdoor_grid(house)
    year = through_the_year(house, arrays)
    none = np.full_like(grid, np.nan)
    result = _no_curve(house, grid, hours)
    return CurveArrays(grid, hours, evaluate(arrays, grid), year, evaluate(year, grid), none, none, None, result)


def _no_curve(house: HouseView, grid: Array, hours: Array) -> Curve:
    empty: list[float | None] = [None] * len(grid)
    return Curve(
        outdoor_c=grid.tolist(), needed_c=empty, rooms={room.id: empty for room in house.rooms}, line_c=[],
        hours=hours.tolist(), cop_lines={}, holds=[None] * len(grid), over_k={}, floats=[], design_over_k={},
        cold_need_c=None, cold_standard_c=None, cold_why=[], cold_end=house.practice.cold_end, holds_cold=None,
        holds_mild=None, cold_out_c=None, cold_flow_c=None, mild_out_c=None, mild_flow_c=None, greatest_flow_c=None,
        heating_limit_c=house.practice.heating_limit_c, fitted=True, fitted_mild_flow_c=None, short_k=None,
        short_room_k=None, short_at_c=None, short_room=None, excess_k=None, excess_at_c=None,
    )  # fmt: skip


def _first(losses: Losses, count: int) -> Losses:
    """Losses at the first `count` outdoor temperatures: without the design day, which stands last."""
    every = {name: getattr(losses, name) for name in Losses.__slots__}
    return Losses(**{name: of if of.ndim < 2 else of[:count] for name, of in every.items()})


def _need(
    house: HouseView,
    arrays: LossArrays,
    year: LossArrays,
    losses: Losses,
    year_losses: Losses,
    emitters: EmitterArrays,
    waterline: WaterlineArrays,
    fits: Mask,
    *,
    lines: bool,
) -> Need:
    """The least water at which every room reaches its target with all of them settling together."""
    own, flows = waterline.own_share, waterline.flows
    gains = house.practice.curve_gains_w_per_m2 * arrays.area_m2
    whole = settled.balance(
        year, year_losses, emitters, flows, closes=settled.closing(emitters), own_share=own, gains_w=gains
    )
    asked = flows.served & np.asarray(arrays.complete)
    wanted = arrays.target_c
    chosen = waterline.result.chosen_flow_c
    if chosen is not None and house.outdoor_c is not None:
        reached = whole.at(np.array([-1])).settle(flow_c=np.array([chosen])).room_c[0]
        wanted = np.where(asked, np.minimum(wanted, reached), wanted)
        whole = whole.wanting(wanted)
    cooler = losses.loss_per_k * (arrays.target_c - wanted)
    strict = whole.needs(np.maximum(losses.emitter_load_w - cooler, 0.0) * (1 - own))
    standard = _greatest(np.where(asked, strict, np.nan))
    found = whole.settle(flow_c=standard, asked=asked)
    needed = np.fmin(found.flow_c, standard)
    allowed, rows = needed.copy(), np.nonzero(fits)[0]
    if rows.size:
        near = _near(_some(found, rows), slack_k=house.practice.room_tolerance_k)
        slack = whole.at(rows).settle(
            flow_c=near.flow_c, asked=asked, slack_k=house.practice.room_tolerance_k, start=near
        )
        allowed[rows] = np.fmin(slack.flow_c, needed[rows])
    unknown = np.full(found.room_c.shape, np.nan)
    rooms_c = _lines(whole, found.room_c, wanted, needed, asked) if lines else unknown
    over = found.flow_c[-1] - standard[-1] if house.outdoor_c is not None else 0.0
    return Need(
        needed_c=needed, standard_c=standard, rooms_c=rooms_c,
        allowed_c=allowed, binding=np.where(np.isfinite(needed), found.binding, -1), wanted_c=wanted,
        asked=asked, beyond=bool(over > TOLD_APART_K), house=whole, found=found,
    )  # fmt: skip


def _some(found: Settled, rows: NDArray[np.intp]) -> Settled:
    return Settled(found.flow_c[rows], found.room_c[rows], found.per_k[rows], found.binding[rows])


def _near(found: Settled, *, slack_k: float) -> Settled:
    """About where the rooms stand when the one that holds the water may be that much short: a place to begin from."""
    follows = np.take_along_axis(found.per_k, np.maximum(found.binding, 0)[:, None], axis=1)[:, 0]
    less = np.where(
        (follows > LEAST_FOLLOWED) & np.isfinite(found.flow_c), slack_k / np.maximum(follows, LEAST_FOLLOWED), 0.0
    )
    return Settled(found.flow_c - less, found.room_c - found.per_k * less[:, None], found.per_k, found.binding)


def _at_line(need: Need, line: Array, off: Mask) -> Array:
    """Where the rooms settle at the line (K, R), deg C; NaN where heating is off."""
    on = ~off
    on[-1] = True  # the design day, or as good as any other
    rows = np.nonzero(on)[0]
    flow = np.where(np.isfinite(line[rows]), line[rows], 0.0)
    begun = _some(need.found, rows)
    change = np.where(np.isfinite(begun.flow_c), flow - begun.flow_c, 0.0)
    begun = replace(begun, room_c=begun.room_c + begun.per_k * change[:, None])
    room = np.full((len(line), need.found.room_c.shape[1]), np.nan)
    room[rows] = need.house.at(rows).settle(flow_c=flow, start=begun).room_c
    return room


def _lines(whole: settled.Balance, room_c: Array, wanted: Array, needed: Array, asked: Mask) -> Array:
    """What each room asks for (K, R) beside rooms as warm as the need makes them; none where it asks for no water."""
    trade = whole.trade
    load = whole.rooms.own_w + trade.sum(axis=1) * wanted - room_c @ trade.T - whole.rooms.heater_w
    lines = np.where(asked, np.minimum(whole.needs(load), needed[:, None]), np.nan)
    return np.asarray(np.where(np.isfinite(needed)[:, None], lines, np.nan))


def _greatest(rooms: Array) -> Array:
    """The greatest of each row (K, R), NaN where a row has none."""
    found = np.where(np.isfinite(rooms), rooms, -np.inf).max(axis=1, initial=-np.inf)
    return np.asarray(np.where(np.isfinite(found), found, np.nan))


def _setting(
    house: HouseView,
    control: Control,
    waterline: WaterlineArrays,
    at: Array,
    need: Need,
    cold_out: float | None,
    fits: Mask,
) -> tuple[law.TwoPoint | None, float | None]:
    """The two points: those set by hand; else the cold end of the school that is followed, the mild end fitted to it."""
    limit = waterline.result.chosen_flow_c
    cold_flow = control.cold_flow_c
    if cold_flow is None:
        cold_flow = limit
        if limit is not None and house.practice.cold_end == "settled" and np.isfinite(need.needed_c[-1]):
            cold_flow = min(float(np.ceil(need.needed_c[-1] / control.step_k - 1e-6) * control.step_k), limit)
    if cold_out is None or cold_flow is None:
        return None, None
    mild_out = control.mild_out_c if control.mild_out_c is not None else MILD_OUT_C
    mild_out = max(mild_out, cold_out + 1.0)
    use = np.isfinite(need.allowed_c) & fits
    fitted = LEAST_FLOW_C
    if use.any():
        fitted = law.least_mild_flow(
            cold_out_c=cold_out,
            cold_flow_c=cold_flow,
            mild_out_c=mild_out,
            outdoor_c=at[use],
            allowed_c=need.allowed_c[use],
            step_k=control.step_k,
            greatest_c=cold_flow,
        )
    mild = control.mild_flow_c if control.mild_flow_c is not None else max(fitted, LEAST_FLOW_C)
    greatest = control.greatest_flow_c
    if greatest is None:
        greatest = max(cold_flow, mild) + ABOVE_COLD_POINT_K
        if house.practice.cold_end == "settled" and limit is not None:
            greatest = max(limit, cold_flow, mild)
    return law.TwoPoint(cold_out, cold_flow, mild_out, mild, LEAST_FLOW_C, max(greatest, LEAST_FLOW_C)), fitted


def _plain(values: Array) -> list[float | None]:
    """Numbers to a thousandth, None where there is none."""
    return [None if v != v else v for v in np.round(values, 3).tolist()]


def _result(
    house: HouseView,
    arrays: LossArrays,
    grid: Array,
    hours: Array,
    need: Need,
    line: Array,
    room: Array | None,
    setting: law.TwoPoint | None,
    fitted: float | None,
    control: Control,
    off: Mask,
    waterline: WaterlineArrays,
    performance: heat_pump.PerformanceMap | None,
) -> Curve:
    count = len(grid)
    cop_lines: dict[str, list[float | None]] = {}
    if performance is not None:
        levels = tuple(level for level in COP_LEVELS if level < COP_LINES_BELOW * float(performance.cop.max()))
        waters = np.arange(20.0, 71.0, 2.5)
        found = heat_pump.water_for_cop(performance, outdoor_c=grid, levels=levels, waters_c=waters)
        cop_lines = {f"{level:g}": _plain(row) for level, row in zip(levels, found, strict=True)}
    ids = [one.id for one in house.rooms]
    every = list(zip(ids, range(len(ids)), strict=True))
    over = room - arrays.target_c if room is not None else np.full((len(line), len(ids)), np.nan)
    over = np.where(np.asarray(arrays.complete), over, np.nan)
    holds = [ids[n] if n >= 0 else None for n in need.binding.tolist()]
    known = house.outdoor_c is not None
    short = excess = short_at = excess_at = short_room_k = None
    short_room = None
    at = grid if house.outdoor_c is None else np.append(grid, house.outdoor_c)
    judged = np.isfinite(need.needed_c) & np.isfinite(line) & ~off
    if house.outdoor_c is not None:
        judged &= at >= house.outdoor_c
    if judged.any():
        above = np.where(judged, line - need.needed_c, -np.inf)
        excess, excess_at = float(above.max()), float(at[int(above.argmax())])
        under = np.where(judged, need.needed_c - line, -np.inf)
        short, short_at = max(float(under.max()), 0.0), float(at[int(under.argmax())])
        lacks = np.where(judged[:, None] & need.asked, need.wanted_c - (over + arrays.target_c), -np.inf)
        worst = np.unravel_index(int(lacks.argmax()), lacks.shape)
        short_room_k = max(float(lacks[worst]), 0.0)
        if short_room_k > TOLD_APART_K / 10:
            short_room, short_at = ids[int(worst[1])], float(at[int(worst[0])])
    mild = int(np.abs(grid - (setting.mild_out_c if setting else MILD_OUT_C)).argmin())
    return Curve(
        outdoor_c=grid.tolist(),
        needed_c=_plain(need.needed_c[:count]),
        rooms={key: _plain(need.rooms_c[:count, n]) for key, n in every},
        line_c=line[:count].tolist() if setting else [],
        hours=hours.tolist(),
        cop_lines=cop_lines,
        holds=holds[:count],
        over_k={key: _plain(over[:count, n]) for key, n in every} if room is not None else {},
        floats=[key for key, n in every if _floats(arrays, waterline, n)],
        design_over_k={key: float(over[-1, n]) for key, n in every if np.isfinite(over[-1, n])} if known else {},
        cold_need_c=float(need.needed_c[-1]) if known and np.isfinite(need.needed_c[-1]) else None,
        cold_standard_c=waterline.result.needed_flow_c,
        cold_why=_why(house, arrays, need, waterline),
        cold_end=house.practice.cold_end,
        holds_cold=holds[-1] if known else None,
        holds_mild=holds[mild],
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


def _floats(arrays: LossArrays, waterline: WaterlineArrays, n: int) -> bool:
    """A room that has something to meet, and nothing to meet it with."""
    return bool(arrays.complete[n]) and bool(np.isposinf(waterline.needed_c[n]))


def _why(house: HouseView, arrays: LossArrays, need: Need, waterline: WaterlineArrays) -> list[str]:
    """Why the settled house needs less on the design day than the waterline asks for, reason by reason."""
    asked = waterline.result.needed_flow_c
    if asked is None or house.outdoor_c is None or not np.isfinite(need.needed_c[-1]):
        return []
    if asked - float(need.needed_c[-1]) < TOLD_APART_K:
        return []
    out = []
    chosen = waterline.result.chosen_flow_c
    if chosen is not None and chosen < asked - TOLD_APART_K:
        out.append("rooms that stay short at the chosen water are reckoned at what they reach")
    if arrays.trade_w_k.any():
        out.append("rooms that get more than they ask for warm those beside them")
    if any(piece.group == "ground" for piece in arrays.pieces) and house.practice.ground == "annual_mean":
        out.append("the ground counts with its mean temperature, without the 1.45 of the design day")
    elif any(piece.group == "ground" for piece in arrays.pieces):
        out.append("the ground counts with its mean temperature instead of the outdoor one")
    if arrays.reheat_w.any() or (arrays.room_factor != 1).any():
        out.append("additions of the practice size emitters, they do not last")
    if house.practice.curve_gains_w_per_m2:
        out.append(f"people and devices give {house.practice.curve_gains_w_per_m2:g} W/m²")
    return out


def _findings(house: HouseView, result: Curve, need: Need, waterline: WaterlineArrays, findings: Findings) -> None:
    where = f"/schemes/{house.job.active_scheme}/control"
    if result.short_room_k is not None and result.short_room_k > house.practice.room_tolerance_k + 0.05:
        findings.add(
            "short", "curve", where,
            f"The line leaves a room {result.short_room_k:.1f} K short at {result.short_at_c:.0f} °C outside.",
            why="A straight line runs below a bent need.", mend="Raise the end of the line nearest to it.",
        )  # fmt: skip
    if need.beyond:
        names = [one.name for one in house.rooms if one.id in result.floats]
        findings.add(
            "doubt", "curve", where,
            f"{' and '.join(names) or 'A room'} without an emitter draws heat from the rooms beside it.",
            why="At the water they are sized for, those rooms fall a little short of their targets.",
            mend="Give it an emitter, or ask less of it.",
        )  # fmt: skip
