"""An emitter at rest: the spread at which its water brings what it gives."""

from __future__ import annotations

import numpy as np

from cinder.physics.compiled import compiled
from cinder.physics.quantity import Array, Num, plain
from cinder.twin.parts import Emitters

HALVINGS = 40
LEAST_K = 0.05


def spread_k(emitters: Emitters, e: int, *, supply_c: Num, room_c: Num, flow_w_k: float) -> Array:
    """Spread of the `e`-th emitter (…), K, fed at `supply_c` in a room of `room_c`, with so much water, W/K; 0 where it has none or gives
    nothing. Heat = flow x spread with EN 442's exponent and the excess as the loop has it, by halving."""
    hot = np.asarray(supply_c, float) - np.asarray(room_c, float)
    if flow_w_k <= 0 or emitters.rated_w[e] <= 0:
        return np.zeros_like(hot)
    out = np.empty(hot.size)
    _halved(
        plain(hot).ravel(),
        float(emitters.rated_w[e]),
        float(emitters.exponent[e]),
        float(emitters.reference_k),
        float(flow_w_k),
        out,
    )
    return out.reshape(hot.shape)


@compiled
def _halved(hot_k: Array, rated_w: float, exponent: float, reference_k: float, flow_w_k: float, out: Array) -> None:
    """The spread of each, K (N,), by halving; 0 where the water is no warmer than the room."""
    for n in range(len(out)):
        hot = hot_k[n]
        low, high = 0.0, max(hot, LEAST_K)
        for _ in range(HALVINGS):
            spread = 0.5 * (low + high)
            above, below = max(hot, LEAST_K), max(hot - spread, LEAST_K)
            excess = (2.0 * np.sqrt(above * below) + 0.5 * (above + below)) / 3.0
            if rated_w * (excess / reference_k) ** exponent > flow_w_k * spread:
                low = spread
            else:
                high = spread
        out[n] = 0.5 * (low + high) if hot > LEAST_K else 0.0


def given_w(emitters: Emitters, e: int, *, hot_k: Num, cool_k: Num) -> Array:
    """Heat of an emitter, W, whose supply lies `hot_k` and whose return `cool_k` above its room."""
    excess = (2.0 * np.sqrt(np.asarray(hot_k) * cool_k) + 0.5 * (np.asarray(hot_k) + cool_k)) / 3.0
    return np.asarray(emitters.rated_w[e] * (excess / emitters.reference_k) ** emitters.exponent[e])
