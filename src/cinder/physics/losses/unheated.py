"""A space nobody heats, between the rooms and the outside."""

from __future__ import annotations

import numpy as np

from cinder.errors import PhysicsError
from cinder.physics.compiled import compiled
from cinder.physics.quantity import Array, Num, plain, require_not_negative


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


NEIGHBOUR_KEPT_C = 20.0
"""Where a home next door that may stand empty would be as warm as any (our choice)."""


def neighbour_c(*, on_design_day_c: Array, design_outdoor_c: float, outdoor_c: Num) -> Array:
    """A neighbour's home over the weather, deg C: as taken for the design day and colder; in milder weather straight from
    there to 20 deg C at 20 deg C outside, as an unheated space between two homes would go; a warmer one stays as warm;
    never colder than outdoors.

    Shapes: `on_design_day_c` (F,), `outdoor_c` (...) or a number; returns (..., F).
    Source: common practice for the design day; a heat balance between (our choice).

    >>> neighbour_c(on_design_day_c=np.array([10.0, 22.0]), design_outdoor_c=-3.0, outdoor_c=8.5).tolist()
    [15.0, 22.0]
    """
    taken, outdoor = np.asarray(on_design_day_c, float), np.asarray(outdoor_c, float)
    out = np.empty((outdoor.size, taken.size))
    _homes(plain(taken).ravel(), float(design_outdoor_c), plain(outdoor).ravel(), out)
    return out.reshape(*outdoor.shape, *taken.shape)


@compiled
def home_next_door_c(on_design_day_c: float, design_outdoor_c: float, outdoor_c: float) -> float:
    """`neighbour_c` of one home at one outdoor temperature, deg C."""
    if not outdoor_c > design_outdoor_c:
        return on_design_day_c
    span = NEIGHBOUR_KEPT_C - design_outdoor_c
    share = min((outdoor_c - design_outdoor_c) / span, 1.0) if span > 0 else 0.0
    return max(on_design_day_c + share * max(NEIGHBOUR_KEPT_C - on_design_day_c, 0.0), outdoor_c)


@compiled
def _homes(on_design_day_c: Array, design_outdoor_c: float, outdoor_c: Array, out: Array) -> None:
    for k in range(len(outdoor_c)):
        for f in range(len(on_design_day_c)):
            out[k, f] = home_next_door_c(on_design_day_c[f], design_outdoor_c, outdoor_c[k])
