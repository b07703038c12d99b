"""Heat moved into the cheap hours of its day: what it saves, and what it costs in warmer water and a rooms' swing."""

from __future__ import annotations

from dataclasses import replace

import numpy as np

from cinder.design.apart.running.result import Shifted
from cinder.design.house.tariff import by_day, cheapest
from cinder.physics.machine import heat_pump
from cinder.physics.machine.season import share
from cinder.physics.quantity import Array

SHARES = (0.15, 0.3, 0.45)
CHEAP = 6
"""Hours of a day heat is moved into."""
EXPONENT = 1.3
"""Of emitters on the whole (radiators by EN 442)."""
HOLDS_WH_PER_M2K = 60.0
"""Heat a house of ordinary weight gives or takes within a day, per m2 of floor (our choice; light about 30, heavy 100)."""
LEAST_PRICES_APART = 0.05


def apart(prices: Array) -> bool:
    """Whether hours cost differently at all."""
    return bool(prices.max() - prices.min() >= LEAST_PRICES_APART * max(abs(float(prices.mean())), 1e-9))


def shifted(
    *, load_w: Array, operation: heat_pump.Operation, table: heat_pump.PerformanceMap, outdoor_c: Array, water_c: Array,
    room_c: float, area_m2: float, prices: Array, degradation: float,
) -> list[Shifted]:  # fmt: skip
    """For each share of the heat of a day's dear hours moved into its six cheapest: the machine alone, hour by hour, at the
    water that heat then asks for, (W' - room) / (W - room) = (load' / load) ** (1 / 1.3). Empty where every hour costs the same.

    Shapes: (8760,). Source: energy balance; exponent of EN 442 (from memory).
    """
    if not apart(prices):
        return []
    cheap = cheapest(prices, CHEAP)
    plain = _run(load_w, operation, degradation)
    cost = float((plain * prices).sum()) / 1000
    out = []
    for part in SHARES:
        dear = np.where(cheap, 0.0, load_w * part)
        moved = np.repeat(by_day(dear).sum(axis=1), 24)
        # into the cheap hours as far as the machine can give more there, evenly by what it has left
        room = np.where(cheap, np.maximum(operation.greatest_w - load_w, 0.0), 0.0)
        free = np.repeat(by_day(room).sum(axis=1), 24)
        takes = np.minimum(moved, free)
        fits = np.divide(takes, moved, out=np.zeros_like(moved), where=moved > 0)
        more = np.divide(room * takes, free, out=np.zeros_like(free), where=free > 0)
        load = load_w - dear * fits + more
        lift = np.maximum(water_c - room_c, 0.0)
        ratio = np.divide(load, load_w, out=np.ones_like(load), where=load_w > 0)
        water = room_c + lift * np.maximum(ratio, 0.0) ** (1 / EXPONENT)
        at = heat_pump.operate(table, outdoor_c=outdoor_c, water_c=water)
        held = replace(
            operation,
            cop=np.where(at.inside, at.cop, operation.cop),
            least_w=np.minimum(operation.least_w, operation.greatest_w),
        )
        drawn = _run(load, held, degradation)
        hot = cheap & (load_w > 0)
        swing = float(by_day(more).sum(axis=1).mean()) / (HOLDS_WH_PER_M2K * area_m2) if area_m2 > 0 else None
        out.append(
            Shifted(
                share=part, moved_kwh=float(more.sum()) / 1000,
                warmer_k=float((water - water_c)[hot].mean()) if hot.any() else 0.0,
                hottest_c=float(water[hot].max()) if hot.any() else None,
                electricity_more_kwh=float((drawn - plain).sum()) / 1000,
                saves_minor=cost - float((drawn * prices).sum()) / 1000, swing_k=swing,
                beyond=bool((hot & np.logical_not(at.inside)).any()),
            )
        )  # fmt: skip
    return out


def _run(load_w: Array, operation: heat_pump.Operation, degradation: float) -> Array:
    """Electricity of the machine for a load, W."""
    return share(load_w=load_w, operation=operation, degradation=degradation).electric_w
