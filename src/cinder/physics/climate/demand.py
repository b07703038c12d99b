"""Heat a house asks for, hour by hour through a year."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.errors import PhysicsError
from cinder.physics.quantity import Array, require_not_negative
from cinder.physics.running import running_mean


@dataclass(frozen=True, slots=True)
class HourlyDemand:
    """W in every hour (8760,): heat asked for, loss, gains that count; and whether the heating season is on."""

    heat_w: Array
    loss_w: Array
    gains_w: Array
    on: Array


def held_back_w(gains_w: Array, *, hold_h: float) -> Array:
    """Gains as the house gives them back: an exponential memory of `hold_h` hours (0: at once); keeps their sum
    but for the year's ends.

    >>> held_back_w(np.array([10.0, 0.0]), hold_h=0.0).tolist()
    [10.0, 0.0]
    """
    require_not_negative("hold_h", hold_h)
    if hold_h == 0:
        return np.asarray(gains_w, float)
    keep = float(np.exp(-1.0 / hold_h))
    return running_mean(gains_w, keep=keep, start=float(np.mean(gains_w[-24:])) if len(gains_w) else 0.0)


def hourly_demand(
    *,
    outdoor_c: Array,
    loss_w: Array,
    gains_w: Array,
    heating_limit_c: float | None,
) -> HourlyDemand:
    """Demand of each hour: max(0, loss - gains); off while the running mean of the last 24 hours is above the heating
    limit (None: no limit).

    Shapes: all the same (N,). Raises `PhysicsError` on other shapes.
    Source: handbook formula of the trade (common practice), hourly balance without indoor swing.

    >>> year = hourly_demand(outdoor_c=np.full(48, 0.0), loss_w=np.full(48, 4000.0), gains_w=np.full(48, 500.0),
    ...                      heating_limit_c=15.0)
    >>> float(year.heat_w[0])
    3500.0
    """
    if outdoor_c.shape != gains_w.shape or outdoor_c.shape != loss_w.shape:
        raise PhysicsError(
            "gains_w",
            gains_w.shape,
            f"loss and gains must have the shape of the outdoor temperature, {outdoor_c.shape}",
        )
    loss = np.maximum(loss_w, 0.0)
    on = np.ones(len(outdoor_c), dtype=bool)
    if heating_limit_c is not None:
        before = np.concatenate([outdoor_c[-23:], outdoor_c])
        mean = np.convolve(before, np.ones(24) / 24, mode="valid")
        on = mean <= heating_limit_c
    heat = np.where(on, np.maximum(loss - gains_w, 0.0), 0.0)
    return HourlyDemand(heat, loss, np.asarray(gains_w, float), on)
