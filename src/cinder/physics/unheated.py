"""A space nobody heats, between the rooms and the outside."""

from __future__ import annotations

import numpy as np

from cinder.errors import PhysicsError
from cinder.physics.quantity import Array, require_not_negative


def weights(*, from_rooms_w_k: Array, to_outside_w_k: float, to_ground_w_k: float) -> tuple[Array, float, float]:
    """How the temperature of an unheated space hangs on those around it: theta_u = sum w_i theta_i + w_e theta_e +
    w_g theta_g, weights that sum to 1, each a conductance over the sum of all.

    Shapes: `from_rooms_w_k` (R,). The factor of EN 12831-1 for one room temperature is b = w_e (+ w_g).
    Raises `PhysicsError` when nothing conducts. Source: ISO 13789:2017, 8.3 (from memory); a heat balance.

    >>> w, outside, ground = weights(from_rooms_w_k=np.array([10.0, 10.0]), to_outside_w_k=30.0, to_ground_w_k=0.0)
    >>> w.tolist(), outside
    ([0.2, 0.2], 0.6)
    """
    require_not_negative("from_rooms_w_k", from_rooms_w_k)
    require_not_negative("to_outside_w_k", to_outside_w_k)
    require_not_negative("to_ground_w_k", to_ground_w_k)
    total = float(np.sum(from_rooms_w_k)) + to_outside_w_k + to_ground_w_k
    if total <= 0:
        raise PhysicsError("conductance", total, "an unheated space needs at least one face that conducts")
    return np.asarray(from_rooms_w_k, float) / total, to_outside_w_k / total, to_ground_w_k / total
