"""What the spread of an emitter's water says about its flow."""

from __future__ import annotations

import numpy as np

from cinder.field.expected import Expected
from cinder.field.seen import Seen
from cinder.physics.quantity import Array
from cinder.physics.rooms.radiator import Mask
from cinder.twin.at_rest import spread_k

WIDE = 0.22
"""Of the logarithm of a measured spread over the expected one (our choice)."""
SHUT, SHUT_WIDE = 0.9, 0.5
"""The same where an emitter is throttled: some two and a half times as wide (our choice)."""
MOST_SAID = 6.0
"""No more than this, as a logarithm, is believed of clip probes."""
FULLY_OPEN_K = 1.0
"""A room this far below its target has its valve open, so that its spread says something about its lockshield."""
LEAST_EXPECTED_K, LEAST_SEEN_K = 0.8, 0.2


def expected_k(house: Expected, e: int, flow_c: Array, room_c: Array, *, flow_w_k: float | None = None) -> Array:
    """Spread of the `e`-th emitter at rest (J,), K, at water and room (J,) and its design flow, or another one."""
    emitters = house.house.house.emitters
    moves = float(emitters.flow_w_k[e]) if flow_w_k is None else flow_w_k
    return spread_k(emitters, e, supply_c=flow_c, room_c=room_c, flow_w_k=moves)


def log_ratios(house: Expected, seen: Seen) -> Array:
    """Logarithm of each emitter's spread as measured over what is expected of it at its design flow (E,), the median of the looks; NaN
    where no probe sat, or where a valve may have throttled it."""
    emitters = house.house.house.emitters
    out = np.full(len(emitters.room), np.nan)
    if not np.isfinite(seen.spread_k).any():
        return out
    target = house.balance.rooms.target_c
    rooms = np.where(np.isfinite(seen.room_c), seen.room_c, target)
    for e, r in enumerate(emitters.room):
        if emitters.flow_w_k[e] <= 0 or emitters.rated_w[e] <= 0:
            continue
        spread = expected_k(house, e, seen.flow_c, rooms[:, r])
        use: Mask = (
            np.isfinite(seen.spread_k[:, e]) & (spread > LEAST_EXPECTED_K) & (seen.spread_k[:, e] > LEAST_SEEN_K)
        )
        if emitters.closes[e]:
            use &= rooms[:, r] <= target[r] - FULLY_OPEN_K
        if use.any():
            out[e] = float(np.median(np.log(seen.spread_k[use, e] / spread[use])))
    return out


def throttled(log_ratio: Array) -> float:
    """How much likelier the spreads of a room's emitters are where one is throttled than where none is (log; 0: nobody knows)."""
    known = log_ratio[np.isfinite(log_ratio)]
    if not len(known):
        return 0.0
    widest = float(known.max())
    wide = SHUT_WIDE if widest >= SHUT else float(np.hypot(SHUT_WIDE, WIDE))
    says = _density(widest, SHUT, wide) - _density(widest, 0.0, WIDE)
    return min(max(says, -MOST_SAID), MOST_SAID)


def _density(at: float, mean: float, sd: float) -> float:
    return float(-0.5 * ((at - mean) / sd) ** 2 - np.log(sd))
