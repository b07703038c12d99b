"""The weather curve as it is shown: what every room asks for, what the line does to it, who holds it."""

from __future__ import annotations

import math

import numpy as np

from cinder.design.curve import dial
from cinder.design.curve.decide import TOLD_APART_K, CurveArrays, Need, some
from cinder.design.curve.fit import KINDS, MILD_OUT_C, by_hand, tolerance_k, warm_k
from cinder.design.curve.result import Curve
from cinder.design.emitters.decide import EmitterArrays
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.kept import Kept, Needs, to_the_letter
from cinder.design.losses.evaluate import LossArrays
from cinder.design.separation.result import Separated
from cinder.design.waterline.decide import WaterlineArrays
from cinder.physics.machine import curve as law
from cinder.physics.machine import heat_pump
from cinder.physics.quantity import Array

COP_LINES_BELOW = 0.95  # above it the cap on extrapolated COP flattens the lines
COP_LEVELS = (2.5, 3.0, 3.5, 4.0, 4.5, 5.0)


def show(
    house: HouseView,
    arrays: LossArrays,
    waterline: WaterlineArrays,
    performance: heat_pump.PerformanceMap | None,
    emitters: EmitterArrays,
    separated: Separated,
    curve: CurveArrays,
    findings: Findings,
    kept: Kept,
) -> Curve:
    """The curve with what it does to every room on the line that is dialled in."""
    need = curve.need
    if need is None:
        return nothing(house, arrays, waterline, performance, emitters, separated, curve)
    room = _at_line(need, curve) if curve.setting else None
    cops = kept.of(
        "cop lines", (performance, curve.outdoor_c.tobytes()), lambda: _cop_lines(performance, curve.outdoor_c)
    )
    result = _result(house, arrays, waterline, cops, emitters, separated, curve, need, room)
    _findings(house, curve, result, need, findings)
    return result


def looks_at(house: HouseView, *others: object) -> Needs:
    """What the curve as it is shown hangs on."""
    names = to_the_letter([(room.id, room.name) for room in house.rooms])
    return (*others, names, house.practice, house.outdoor_c, house.job.active_scheme)


def nothing(
    house: HouseView,
    arrays: LossArrays,
    waterline: WaterlineArrays,
    performance: heat_pump.PerformanceMap | None,
    emitters: EmitterArrays,
    separated: Separated,
    curve: CurveArrays,
) -> Curve:
    """Where it cannot be worked out."""
    grid, hours = curve.outdoor_c, curve.hours
    empty: list[float | None] = [None] * len(grid)
    control = curve.control
    return Curve(
        kind=control.kind, kind_label=KINDS[control.kind], dial=[], limits=[], circuits=[], handles=[], lacks="", priority=control.priority,
        tolerance_k=tolerance_k(house.practice, control), warm_k=warm_k(control),
        outdoor_c=grid.tolist(), needed_c=empty, rooms={room.id: empty for room in house.rooms}, line_c=[],
        hours=hours.tolist(), cop_lines={}, holds=[None] * len(grid), over_k={}, floats=[], design_over_k={},
        cold_need_c=None, cold_standard_c=None, cold_why=[], cold_end=house.practice.cold_end, holds_cold=None,
        holds_mild=None, cold_out_c=None, cold_flow_c=None, mild_out_c=None, mild_flow_c=None,
        least_flow_c=None, greatest_flow_c=None,
        heating_limit_c=house.practice.heating_limit_c, fitted=True, fitted_mild_flow_c=None, short_k=None,
        short_room_k=None, short_at_c=None, short_room=None, excess_k=None, excess_at_c=None,
    )  # fmt: skip


def _at_line(need: Need, curve: CurveArrays) -> Array:
    """Where the rooms settle at the line (K, R), deg C; NaN where heating is off."""
    line, on = curve.whole_line_c, ~curve.off
    on[-1] = True  # the design day, or as good as any other
    rows = np.nonzero(on)[0]
    flow = np.where(np.isfinite(line[rows]), line[rows], 0.0)
    begun = some(need.found, rows)
    change = np.where(np.isfinite(begun.flow_c), flow - begun.flow_c, 0.0)
    begun = begun._replace(room_c=begun.room_c + begun.per_k * change[:, None])
    room = np.full((len(line), need.found.room_c.shape[1]), np.nan)
    room[rows] = need.house.at(rows).settle(flow_c=flow, start=begun).room_c
    return room


def _lines(need: Need) -> Array:
    """What each room asks for (K, R) beside rooms as warm as the need makes them; none where it asks for no water."""
    whole, wanted, needed = need.house, need.wanted_c, need.needed_c
    trade = whole.trade
    load = whole.rooms.own_w + trade.sum(axis=1) * wanted - need.found.room_c @ trade.T - whole.rooms.heater_w
    lines = np.where(need.asked, np.minimum(whole.needs(load), needed[:, None]), np.nan)
    return np.asarray(np.where(np.isfinite(needed)[:, None], lines, np.nan))


def _plain(rows: Array) -> list[list[float | None]]:
    """Rows of numbers to a thousandth, None where there is none."""
    shown = np.round(rows, 3).astype(object)
    shown[np.isnan(rows)] = None
    return shown.tolist()  # type: ignore[no-any-return]


def _cop_lines(performance: heat_pump.PerformanceMap | None, outdoor_c: Array) -> dict[str, list[float | None]]:
    """The water at which the machine gives each level of COP, over outdoor temperatures."""
    if performance is None:
        return {}
    levels = tuple(level for level in COP_LEVELS if level < COP_LINES_BELOW * float(performance.cop.max()))
    waters = np.arange(20.0, 71.0, 2.5)
    found = heat_pump.water_for_cop(performance, outdoor_c=outdoor_c, levels=levels, waters_c=waters)
    return {f"{level:g}": row for level, row in zip(levels, _plain(found), strict=True)}


def _result(
    house: HouseView,
    arrays: LossArrays,
    waterline: WaterlineArrays,
    cop_lines: dict[str, list[float | None]],
    emitters: EmitterArrays,
    separated: Separated,
    curve: CurveArrays,
    need: Need,
    room: Array | None,
) -> Curve:
    grid, at, line, fitted, control = curve.outdoor_c, curve.at_c, curve.whole_line_c, curve.fitted, curve.control
    base = f"/schemes/{house.job.active_scheme}/control"
    setting = fitted.setting if fitted else None
    cold, mild_out = (fitted.cold_out_c, fitted.mild_out_c) if fitted else (None, MILD_OUT_C)
    count = len(grid)
    ids = [one.id for one in house.rooms]
    over = room - arrays.target_c if room is not None else np.full((len(line), len(ids)), np.nan)
    over = np.where(np.asarray(arrays.complete), over, np.nan)
    holds = [ids[n] if n >= 0 else None for n in need.binding.tolist()]
    known = house.outdoor_c is not None
    short = excess = short_at = excess_at = short_room_k = None
    short_room = None
    judged = np.isfinite(need.needed_c) & np.isfinite(line) & ~curve.off
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
    asks = _lines(need)
    floats = arrays.complete & np.isposinf(waterline.needed_c)  # something to meet, and nothing to meet it with
    mild = int(np.abs(grid - mild_out).argmin())

    def water(outdoor_c: float | None) -> float | None:
        return float(law.flow_at(setting, outdoor_c=outdoor_c)) if setting and outdoor_c is not None else None

    return Curve(
        kind=control.kind,
        kind_label=KINDS[control.kind],
        dial=dial.rows(control, fitted, base) if fitted else [],
        limits=dial.limits(house, control, fitted, waterline.bears_c, separated, base) if fitted else [],
        circuits=dial.circuits(house, curve, need, asks, over, base),
        handles=dial.handles(control, fitted) if fitted else [],
        lacks=fitted.lacks if fitted else "",
        priority=control.priority,
        tolerance_k=tolerance_k(house.practice, control),
        warm_k=warm_k(control),
        outdoor_c=grid.tolist(),
        needed_c=_plain(need.needed_c[None, :count])[0],
        rooms=dict(zip(ids, _plain(asks[:count].T), strict=True)),
        line_c=line[:count].tolist() if setting else [],
        hours=curve.hours.tolist(),
        cop_lines=cop_lines,
        holds=holds[:count],
        over_k=dict(zip(ids, _plain(over[:count].T), strict=True)) if room is not None else {},
        floats=[key for key, of in zip(ids, floats.tolist(), strict=True) if of],
        design_over_k={key: of for key, of in zip(ids, over[-1].tolist(), strict=True) if math.isfinite(of)}
        if known
        else {},
        cold_need_c=float(need.needed_c[-1]) if known and np.isfinite(need.needed_c[-1]) else None,
        cold_standard_c=waterline.result.needed_flow_c,
        cold_why=_why(house, arrays, need, waterline),
        cold_end=house.practice.cold_end,
        holds_cold=holds[-1] if known else None,
        holds_mild=holds[mild],
        cold_out_c=cold,
        cold_flow_c=water(cold) if not isinstance(setting, law.TwoPoint) else setting.cold_flow_c,
        mild_out_c=mild_out if setting else None,
        mild_flow_c=water(mild_out) if not isinstance(setting, law.TwoPoint) else setting.mild_flow_c,
        least_flow_c=setting.least_flow_c if setting else None,
        greatest_flow_c=setting.greatest_flow_c if setting else None,
        heating_limit_c=house.practice.heating_limit_c,
        fitted=not by_hand(control),
        fitted_mild_flow_c=fitted.fitted_mild_c if fitted else None,
        short_k=short,
        short_room_k=short_room_k,
        short_at_c=short_at,
        short_room=short_room,
        excess_k=excess,
        excess_at_c=excess_at,
    )


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
    if arrays.order.ground.any() and house.practice.ground == "annual_mean":
        out.append("the ground counts with its mean temperature, without the 1.45 of the design day")
    elif arrays.order.ground.any():
        out.append("the ground counts with its mean temperature instead of the outdoor one")
    if arrays.reheat_w.any() or (arrays.room_factor != 1).any():
        out.append("additions of the practice size emitters, they do not last")
    if house.practice.curve_gains_w_per_m2:
        out.append(f"people and devices give {house.practice.curve_gains_w_per_m2:g} W/m²")
    return out


def _findings(house: HouseView, curve: CurveArrays, result: Curve, need: Need, findings: Findings) -> None:
    where = f"/schemes/{house.job.active_scheme}/control"
    if curve.fitted is not None and curve.fitted.lacks:
        findings.add(
            "doubt", "curve", f"{where}/{curve.fitted.where}", curve.fitted.lacks,
            why="Until then the line is reckoned as one of two points.", mend="Enter it at the curve desk.",
        )  # fmt: skip
    least, greatest = result.least_flow_c, result.greatest_flow_c
    if least is not None and greatest is not None and least > greatest:
        findings.add(
            "doubt", "curve", f"{where}/least_flow_c",
            f"The limits cross: never below {least:g} °C and never above {greatest:g} °C.",
            why="No water keeps both; here the upper one goes, a controller may do otherwise.", mend="Enter one of them anew.",
        )  # fmt: skip
    rule = curve.control.room
    if rule.least_c is not None and rule.greatest_c is not None and rule.least_c > rule.greatest_c:
        findings.add(
            "doubt", "twin", f"{where}/room/least_c",
            f"The landlord's limits cross: no less than {rule.least_c:g} °C and no more than {rule.greatest_c:g} °C.",
            why="Nobody could set anything between them.", mend="Enter one of them anew.",
        )  # fmt: skip
    if result.short_room_k is not None and result.short_room_k > result.tolerance_k + 0.05:
        findings.add(
            "short", "curve", where,
            f"The line leaves a room {result.short_room_k:.1f} K short at {result.short_at_c:.0f} °C outside.",
            why="A straight line runs below a bent need." if result.kind == "two_point" else "What it is told does not reach there.",
            mend="Raise the end of the line nearest to it.",
        )  # fmt: skip
    if need.beyond:
        names = [one.name for one in house.rooms if one.id in result.floats]
        findings.add(
            "doubt", "curve", where,
            f"{' and '.join(names) or 'A room'} without an emitter draws heat from the rooms beside it.",
            why="At the water they are sized for, those rooms fall a little short of their targets.",
            mend="Give it an emitter, or ask less of it.",
        )  # fmt: skip
