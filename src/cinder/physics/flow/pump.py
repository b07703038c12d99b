"""The head a circulator still has at a flow."""

from __future__ import annotations

import numpy as np

from cinder.errors import PhysicsError
from cinder.physics.quantity import Array, Num


def head_kpa(*, flow_lph: Num, curve_flow_lph: Array, curve_head_kpa: Array) -> Num:
    """Head at a flow, kPa, straight between the points of the curve.

    Below the first point the first head holds; beyond the last there is none.
    Valid for: flows rising from point to point. Raises `PhysicsError` otherwise. Source: interpolation.

    >>> head_kpa(flow_lph=500.0, curve_flow_lph=np.array([0.0, 1000.0]), curve_head_kpa=np.array([60.0, 20.0]))
    40.0
    """
    if len(curve_flow_lph) < 2 or np.any(np.diff(curve_flow_lph) <= 0):
        raise PhysicsError("curve_flow_lph", curve_flow_lph.tolist(), "flows must rise from point to point")
    out = np.interp(flow_lph, curve_flow_lph, curve_head_kpa, right=0.0)
    return out if np.ndim(out) else float(out)
