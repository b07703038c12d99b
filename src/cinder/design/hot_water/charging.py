"""A machine charging a store: what its exchanger passes, how warm the water leaves, how long it takes, and where it ends."""

from __future__ import annotations

from typing import NamedTuple

import numpy as np

from cinder.design.hot_water.store import PLATE_FLOW_SHARE, PLATE_UNITS, Store
from cinder.library import TablesEntry
from cinder.physics.machine import heat_pump
from cinder.physics.store import charging
from cinder.physics.store.charging import Machine

MILD_DAY_C = 7.0
MILD_WATER_C = 50.0
SPREAD_K = 5.0
COOLEST_C = 20.0
POINTS = 22
LOOKS = 9


class Exchanger(NamedTuple):
    """Heat per kelvin of leaving water over the store, W/K; its UA, W/K; the flow on either side, W/K; whether its size is known, and
    the coil that is reckoned with, m2."""

    per_k: float
    ua_w_k: float
    flow_w_k: float
    store_w_k: float
    known: bool
    coil_m2: float | None


class Charged(NamedTuple):
    """Topping a store up at one outdoor temperature: output, W, leaving water, deg C, and COP in the mean of the band; from cold,
    min (inf: never). `limit_c`, `stall_c`: the store's temperature from which the exchanger is the limit, and from which not even
    the machine's least output passes; `warmest_c` the water it makes then."""

    power_w: float
    leaving_c: float
    cop: float
    minutes: float
    limit_c: float
    stall_c: float
    warmest_c: float


def flow_lph(table: heat_pump.PerformanceMap, rated_lph: float | None) -> float:
    """What the machine moves while it charges, L/h: as its maker rates it, else its mild-day output over 5 K."""
    if rated_lph is not None:
        return rated_lph
    return max(mild_w(table) / SPREAD_K / charging.flow_w_k(flow_lph=1.0), 1.0)


def mild_w(table: heat_pump.PerformanceMap) -> float:
    """Its output on a mild day, W, by which coils are sized."""
    return float(heat_pump.operate(table, outdoor_c=MILD_DAY_C, water_c=MILD_WATER_C).greatest_w)


def machine_at(table: heat_pump.PerformanceMap, outdoor_c: float, flow_w_k: float) -> Machine | None:
    """The machine over leaving water, as far as it makes any at this outdoor temperature; None where it does not run."""
    warmest = float(np.interp(outdoor_c, table.limit_outdoor_c, table.limit_water_c))
    if outdoor_c < table.lowest_outdoor_c or warmest <= COOLEST_C + 1.0:
        return None
    water = np.linspace(COOLEST_C, warmest, POINTS)
    at = heat_pump.operate(table, outdoor_c=np.full(POINTS, outdoor_c), water_c=water)
    return Machine(water, at.greatest_w, at.least_w, at.cop, flow_w_k) if at.greatest_w[-1] > 0 else None


def exchanger(store: Store, table: heat_pump.PerformanceMap, tables: TablesEntry, rated_lph: float | None) -> Exchanger:
    """The store's coil, or the plate exchanger beside it; a coil nobody measured is as large as the rule wants it for this machine."""
    flow = charging.flow_w_k(flow_lph=flow_lph(table, rated_lph))
    if store.plate:
        own = charging.flow_w_k(flow_lph=store.plate_flow_lph) if store.plate_flow_lph else PLATE_FLOW_SHARE * flow
        ua = store.plate_ua_w_k if store.plate_ua_w_k is not None else PLATE_UNITS * min(flow, own)
        share = charging.plate_share(ua_w_k=ua, flow_w_k=flow, store_flow_w_k=own)
        per_k = charging.passed_w_k(share=share, flow_w_k=min(flow, own))
        return Exchanger(per_k, ua, flow, own, store.plate_ua_w_k is not None, None)
    low, high = tables.coil_m2_per_kw
    coil = store.coil_m2 if store.coil_m2 is not None else (low + high) / 2 * max(mild_w(table), 1.0) / 1000
    ua = coil * store.coil_u_w_m2k
    per_k = charging.passed_w_k(share=charging.coil_share(ua_w_k=ua, flow_w_k=flow), flow_w_k=flow)
    return Exchanger(per_k, ua, flow, 0.0, store.coil_m2 is not None, coil)


def charged(
    table: heat_pump.PerformanceMap, outdoor_c: float, store: Store, tables: TablesEntry, rated_lph: float | None
) -> Charged | None:
    """Topping the store up within its band, and from cold; None where the machine does not run. The store is taken as stirred, which
    the day in layers is not: it tells the two apart."""
    by = exchanger(store, table, tables, rated_lph)
    machine = machine_at(table, outdoor_c, by.flow_w_k)
    if machine is None:
        return None
    within = charging.charge(
        machine, per_k=by.per_k, store_c=np.linspace(store.store_c - store.band_k, store.store_c, LOOKS)
    )
    limit, stall = charging.limit_c(machine, per_k=by.per_k)
    took = float("inf")
    if store.volume_l is not None and store.store_c >= store.cold_c:
        took = charging.minutes(
            machine, per_k=by.per_k, volume_l=store.volume_l, cold_c=store.cold_c, hot_c=store.store_c
        )
    power = float(within.heat_w.mean())
    drawn = float((within.heat_w / within.cop).mean())
    leaving = float(within.leaving_c.mean())
    return Charged(power, leaving, power / drawn if drawn > 0 else 1.0, took, limit, stall, float(machine.water_c[-1]))
