"""The temperature a room settles at: emitter output = room loss."""

from __future__ import annotations

import numpy as np

from cinder.physics import radiator
from cinder.physics.quantity import Array

MOST_STEPS = 40
ENOUGH_K = 1e-7
LEAST_EXCESS_K = 0.05


def reached_temperature(
    *,
    flow_c: float,
    design_spread_k: float,
    target_c: Array,
    load_w: Array,
    loss_per_k: Array,
    rated_w: Array,
    exponent: Array,
    outside_c: float,
    arithmetic: bool = False,
) -> Array:
    """Room temperature, deg C, at which the emitters give what the room then loses.

    Loss falls on a straight line from `load_w` at the target with slope `loss_per_k`. The water flow is
    the design one (load / spread at the target), so the spread shrinks with the heat given.

    Shapes: rooms (R,), emitters (R, E). NaN where the room has no load or no loss slope.
    Without emitters the room settles where its loss is nil. Source: energy balance.

    >>> reached_temperature(flow_c=75.0, design_spread_k=10.0, target_c=np.array([20.0]),
    ...     load_w=np.array([1000.0]), loss_per_k=np.array([40.0]), rated_w=np.array([[1000.0]]),
    ...     exponent=np.array([[1.3]]), outside_c=-5.0).round(2)
    array([20.])
    """
    valid = (loss_per_k > 0) & (load_w > 0)
    safe_load = np.where(valid, load_w, 1.0)
    no_heat = target_c - np.where(valid, load_w / np.where(loss_per_k > 0, loss_per_k, 1.0), 0.0)
    low = np.minimum(no_heat, flow_c)
    high = np.full_like(target_c, max(flow_c, outside_c))
    mean = radiator.arithmetic_excess if arithmetic else radiator.log_excess
    reference = radiator.ARITHMETIC_REFERENCE_K if arithmetic else radiator.LOG_REFERENCE_K
    room = np.where((target_c > low) & (target_c < high), target_c, (low + high) / 2)
    mean_n = (rated_w * exponent).sum(axis=1) / np.maximum(rated_w.sum(axis=1), 1e-9)
    # a kelvin more in the room takes a kelvin off the excess, and half of what the spread grows by
    steeper = mean_n * (1 + design_spread_k * np.maximum(loss_per_k, 0.0) / (2 * safe_load))
    for _ in range(MOST_STEPS):
        loss = np.maximum(load_w - loss_per_k * (target_c - room), 0.0)
        spread = design_spread_k * loss / safe_load
        excess = np.asarray(mean(flow_c=flow_c, return_c=flow_c - spread, room_c=room))
        given = (rated_w * (excess[:, None] / reference) ** exponent).sum(axis=1)
        over = given - loss
        low, high = np.where(over > 0, room, low), np.where(over > 0, high, room)
        # Newton by the emitter's and the house's slope; halving wherever that leaves what is still possible
        step = over / (steeper * given / np.maximum(excess, LEAST_EXCESS_K) + np.maximum(loss_per_k, 1e-9))
        tried = room + step
        after = np.where((tried > low) & (tried < high), tried, (low + high) / 2)
        moved = np.abs(np.where(valid, after - room, 0.0))
        room = after
        if moved.max(initial=0.0) < ENOUGH_K:
            break
    return np.where(valid, room, np.nan)
