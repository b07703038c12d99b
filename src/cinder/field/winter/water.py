"""What emitters, water and the first weeks of a record say beside the design of a job."""

from __future__ import annotations

import numpy as np

from cinder.design import Design
from cinder.design import emitters as emitter_design
from cinder.design.curve.heating_limit import heating_limit_c
from cinder.design.findings import Findings
from cinder.design.house.view import HouseView
from cinder.design.year.decide import YearLoss
from cinder.field.expected import machines_line, meters_lph
from cinder.field.winter import proof
from cinder.field.winter.daily import Hours
from cinder.library import HourlyYear
from cinder.physics.quantity import Array
from cinder.physics.rooms import radiator

COLD_C = 3.0
"""Colder hours than this are the ones a room is judged by (our choice)."""
LEAST_EMITTER_H = 72
USUAL_BELOW_K = 3.0
FIRST_H, WITHIN_H = 14 * 24, 60 * 24
"""What counts as the first week: the coldest fortnight of the first two months, for a first week may be mild (our choice)."""


def first_week(
    house: HouseView, design: Design, loss: YearLoss, hours: Hours, weather: HourlyYear | None
) -> proof.Proof | None:
    """The proof of the first cold weeks of a record. `weather`: of the climate, for the sun an ordinary day of the season has; without it
    the sun that was read is left out."""
    heated = np.flatnonzero((hours.outdoor_c < proof.LEAST_BELOW_C) & np.isfinite(hours.heat_w) & (hours.heat_w > 0))
    if not len(heated):
        return None
    begin, end = int(heated[0]), min(int(heated[0]) + WITHIN_H, len(hours.at))
    total = np.concatenate(([0.0], np.cumsum(np.nan_to_num(hours.outdoor_c[begin:end], nan=15.0))))
    span = min(FIRST_H, end - begin)
    first = begin + int(np.argmin(total[span:] - total[: len(total) - span]))
    part = slice(first, first + span)
    arrays = emitter_design.arrays(house, Findings())
    limit = heating_limit_c(house.job.practice, gains=house.job.practice.year_gains != "none")
    # a pump that keeps the spread; behind a separator the machine moves what it is laid out for
    driven = (
        house.machine is not None and house.machine.contains.pump not in (None, "fixed") and not design.separation.two
    )
    there = arrays.rated_w > 0
    edge = limit if limit is not None else loss.inside_c - USUAL_BELOW_K
    usual = float(weather.ghi_w_m2[weather.outdoor_c < edge].mean()) if weather is not None else float("nan")
    line_out, line = (np.array(of) for of in machines_line(design))
    thought = proof.Thought(
        loss.per_k, loss.inside_c - edge, usual, arrays.rated_w[there], arrays.exponent[there], arrays.arithmetic[there],
        arrays.reference_k, line_out, line, None if driven else meters_lph(design),
        house.spread_k if driven else None, loss.inside_c, house.fluid,
    )  # fmt: skip
    heating = np.nan_to_num(hours.on_share, nan=1.0) * (1 - np.nan_to_num(hours.water_share))
    return proof.proved(
        thought,
        proof.Week(
            hours.outdoor_c[part], hours.inside_c[part], hours.heat_w[part], hours.supply_c[part], hours.return_c[part], hours.flow_lph[part],
            heating[part], hours.sun_w_m2[part], *(of[part] for of in emitters_water(house, design, hours)),
        ),
        first=str((hours.at[part.start] - np.timedelta64(1, "h")).astype("datetime64[D]")),
    )  # fmt: skip


def emitters_water(house: HouseView, design: Design, hours: Hours) -> tuple[Array, Array]:
    """What the emitters get and give back, deg C (N,): behind a separator not what the machine's meter reads, but its water less what lies
    between, cooled by the heat in the emitters' own flow."""
    between = design.separation
    if not between.two or not between.emitters_lph:
        return hours.supply_c, hours.return_c
    feed = hours.supply_c - between.lift_at(hours.outdoor_c)
    carries = between.emitters_lph * house.fluid.w_k_per_lph(temperature_c=feed)
    return feed, np.where(np.isfinite(hours.return_c), feed - hours.heat_w / carries, np.nan)


def emitters_ratio(house: HouseView, design: Design, hours: Hours) -> float | None:
    """Heat that came over what the emitters' own law gives at the same water and rooms (EN 442), the middle of the cold hours in which the
    machine ran through and heated no water; valves that close make it less."""
    arrays = emitter_design.arrays(house, Findings())
    cold = (hours.outdoor_c < COLD_C) & (hours.heat_w > 0) & (np.nan_to_num(hours.on_share, nan=1.0) > 0.9)
    cold &= (np.nan_to_num(hours.water_share) == 0) & np.isfinite(hours.supply_c) & np.isfinite(hours.return_c)
    cold &= np.isfinite(hours.inside_c) & (hours.supply_c - hours.return_c > 0.5)
    if cold.sum() < LEAST_EMITTER_H or float(arrays.rated_w.sum()) <= 0:
        return None
    there, (feed, back) = arrays.rated_w > 0, emitters_water(house, design, hours)
    air = np.stack([hours.rooms_c.get(house.rooms[r].id, hours.inside_c)[cold] for r in np.nonzero(there)[0]], axis=1)
    gives = radiator.side_by_side_w(
        flow_c=feed[cold], return_c=back[cold], room_c=np.where(np.isfinite(air), air, hours.inside_c[cold][:, None]),
        rated_w=arrays.rated_w[there], exponent=arrays.exponent[there], arithmetic=arrays.arithmetic[there], reference_k=arrays.reference_k,
    )  # fmt: skip
    return float(np.median(hours.heat_w[cold] / np.maximum(gives, 1.0)))
