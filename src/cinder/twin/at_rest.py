"""An emitter at rest: the spread at which its water brings what it gives."""

from __future__ import annotations

import numpy as np

from cinder.physics.quantity import Array, Num
from cinder.twin.parts import Emitters

HALVINGS = 40
LEAST_K = 0.05


def spread_k(emitters: Emitters, e: int, *, supply_c: Num, room_c: Num, flow_w_k: float) -> Array:
    """Spread of the `e`-th emitter (…), K, fed at `supply_c` in a room of `room_c`, with so much water, W/K; 0 where it has none or gives
    nothing. Heat = flow x spread with EN 442's exponent and the excess as the loop has it, by halving."""
    hot = np.asarray(supply_c, float) - np.asarray(room_c, float)
    if flow_w_k <= 0 or emitters.rated_w[e] <= 0:
        return np.zeros_like(hot)
    low, high = np.zeros_like(hot), np.maximum(hot, LEAST_K)
    for _ in range(HALVINGS):
        spread = 0.5 * (low + high)
        more = (
            given_w(emitters, e, hot_k=np.maximum(hot, LEAST_K), cool_k=np.maximum(hot - spread, LEAST_K))
            > flow_w_k * spread
        )
        low, high = np.where(more, spread, low), np.where(more, high, spread)
    return np.where(hot > LEAST_K, 0.5 * (low + high), 0.0)


def given_w(emitters: Emitters, e: int, *, hot_k: Num, cool_k: Num) -> Array:
    """Heat of an emitter, W, whose supply lies `hot_k` and whose return `cool_k` above its room."""
    excess = (2.0 * np.sqrt(np.asarray(hot_k) * cool_k) + 0.5 * (np.asarray(hot_k) + cool_k)) / 3.0
    return np.asarray(emitters.rated_w[e] * (excess / emitters.reference_k) ** emitters.exponent[e])
