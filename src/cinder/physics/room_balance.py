"""The temperature a room settles at: emitter output = room loss."""

from __future__ import annotations

import numpy as np

from cinder.physics import radiator
from cinder.physics.quantity import Array


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
    for _ in range(27):  # to a millionth of a degree
        room = (low + high) / 2
        loss = np.maximum(load_w - loss_per_k * (target_c - room), 0.0)
        spread = design_spread_k * loss / safe_load
        excess = mean(flow_c=flow_c, return_c=flow_c - spread, room_c=room)
        given = (rated_w * (np.asarray(excess)[:, None] / reference) ** exponent).sum(axis=1)
        warmer = given > loss
        low = np.where(warmer, room, low)
        high = np.where(warmer, high, room)
    return np.where(valid, (low + high) / 2, np.nan)
