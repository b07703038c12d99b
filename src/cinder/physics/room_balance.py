"""The temperature a room settles at: emitter output = room loss."""

from __future__ import annotations

import numpy as np

from cinder.physics import radiator
from cinder.physics.quantity import Array
from cinder.physics.radiator import Mask

MOST_STEPS = 40
MOST_ROUNDS = 60
ENOUGH_K = 1e-7
TRADED_ENOUGH_K = 1e-5
LEAST_EXCESS_K = 0.05


def reached_temperature(
    *,
    flow_c: float,
    design_spread_k: Array,
    target_c: Array,
    load_w: Array,
    loss_per_k: Array,
    rated_w: Array,
    exponent: Array,
    outside_c: float,
    reference_k: float,
    arithmetic: Mask,
    extra_w: Array | float = 0.0,
) -> Array:
    """Room temperature, deg C, at which the emitters give what the room then loses.

    Loss falls on a straight line from `load_w` at the target with slope `loss_per_k`; `extra_w` is lost besides,
    towards neighbours that are too cold. The water flow of every emitter is the design one (`load_w` over its spread
    at the target), so its spread shrinks with the heat given.

    Shapes: rooms (R,), emitters (R, E). NaN where the room has no load or no loss slope.
    Without emitters the room settles where its loss is nil. Source: energy balance.

    >>> reached_temperature(flow_c=75.0, design_spread_k=np.array([[10.0]]), target_c=np.array([20.0]),
    ...     load_w=np.array([1000.0]), loss_per_k=np.array([40.0]), rated_w=np.array([[1000.0]]),
    ...     exponent=np.array([[1.3]]), outside_c=-5.0, reference_k=radiator.LOG_REFERENCE_K,
    ...     arithmetic=np.array([[False]])).round(2)
    array([20.])
    """
    valid = (loss_per_k > 0) & (load_w > 0)
    safe_load = np.where(valid, load_w, 1.0)
    no_heat = target_c - np.where(valid, (load_w + extra_w) / np.where(loss_per_k > 0, loss_per_k, 1.0), 0.0)
    low = np.minimum(no_heat, flow_c)
    high = np.full_like(target_c, max(flow_c, outside_c))
    room = np.where((target_c > low) & (target_c < high), target_c, (low + high) / 2)
    total = np.maximum(rated_w.sum(axis=1), 1e-9)
    mean_n = (rated_w * exponent).sum(axis=1) / total
    mean_spread = (rated_w * design_spread_k).sum(axis=1) / total
    # a kelvin more in the room takes a kelvin off the excess, and half of what the spread grows by
    steeper = mean_n * (1 + mean_spread * np.maximum(loss_per_k, 0.0) / (2 * safe_load))
    for _ in range(MOST_STEPS):
        loss = np.maximum(load_w + extra_w - loss_per_k * (target_c - room), 0.0)
        spread = design_spread_k * (loss / safe_load)[:, None]
        excess = radiator.mixed_excess(flow_c=flow_c, spread_k=spread, room_c=room[:, None], arithmetic=arithmetic)
        each = rated_w * (excess / reference_k) ** exponent
        given = each.sum(axis=1)
        over = given - loss
        low, high = np.where(over > 0, room, low), np.where(over > 0, high, room)
        # Newton by the emitters' and the house's slope; halving wherever that leaves what is still possible
        by_excess = (each / np.maximum(excess, LEAST_EXCESS_K)).sum(axis=1)
        step = over / (steeper * by_excess + np.maximum(loss_per_k, 1e-9))
        tried = room + step
        after = np.where((tried > low) & (tried < high), tried, (low + high) / 2)
        moved = np.abs(np.where(valid, after - room, 0.0))
        room = after
        if moved.max(initial=0.0) < ENOUGH_K:
            break
    return np.where(valid, room, np.nan)


def reached_together(
    *,
    flow_c: float,
    design_spread_k: Array,
    target_c: Array,
    load_w: Array,
    loss_per_k: Array,
    rated_w: Array,
    exponent: Array,
    outside_c: float,
    reference_k: float,
    arithmetic: Mask,
    trade_w_k: Array,
) -> Array:
    """The same for all rooms at once: a room that stays short draws heat from its neighbours.

    `trade_w_k` (R, R): what room i loses to room j per kelvin between them. A room that has enough is held at its
    target and gives its neighbours no more than that; it meets what they draw. Rounds until nothing moves.
    Returns (R,) as `reached_temperature`. Source: energy balance.
    """
    short_k = np.zeros_like(target_c)
    found = np.full_like(target_c, np.nan)
    for _ in range(MOST_ROUNDS):
        found = reached_temperature(
            flow_c=flow_c, design_spread_k=design_spread_k, target_c=target_c, load_w=load_w, loss_per_k=loss_per_k,
            rated_w=rated_w, exponent=exponent, outside_c=outside_c, reference_k=reference_k, arithmetic=arithmetic,
            extra_w=trade_w_k @ short_k,
        )  # fmt: skip
        now = np.where(np.isfinite(found), np.maximum(target_c - found, 0.0), 0.0)
        if not trade_w_k.any() or np.abs(now - short_k).max(initial=0.0) < TRADED_ENOUGH_K:
            break
        short_k = now
    return found
