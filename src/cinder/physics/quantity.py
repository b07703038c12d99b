"""What a quantity may be, and the guards every law shares."""

from __future__ import annotations

import math
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from cinder.errors import PhysicsError

Array: TypeAlias = NDArray[np.float64]
Num: TypeAlias = float | Array

KELVIN_AT_0_C = 273.15
AIR_HEAT_WH_M3K = 0.34  # rho*c of room air, EN 12831-1 (from memory)
GRAVITY_M_S2 = 9.80665


def plain(values: Num) -> Array:
    """As a compiled loop reads it: numbers that lie in a row.

    >>> plain(np.array([1, 2]))
    array([1., 2.])
    """
    return np.ascontiguousarray(values, dtype=float)


def flat(*values: Num) -> tuple[tuple[int, ...], list[Array]]:
    """Numbers and arrays as arrays of one shape, each laid out in a row for a compiled loop; and that shape.

    >>> shape, (one, other) = flat(2.0, np.array([1.0, 3.0]))
    >>> shape, one.tolist(), other.tolist()
    ((2,), [2.0, 2.0], [1.0, 3.0])
    """
    arrays = [np.asarray(value, dtype=float) for value in values]
    shape = np.broadcast_shapes(*(of.shape for of in arrays))
    rows = (plain(of) if of.shape == shape else np.array(np.broadcast_to(of, shape), order="C") for of in arrays)
    return shape, [row.ravel() for row in rows]


def require_positive(name: str, value: Num) -> None:
    """Raise `PhysicsError` unless every element is finite and > 0.

    >>> require_positive("length_m", 2.0)
    """
    if isinstance(value, float) and 0 < value < math.inf:
        return
    if isinstance(value, np.ndarray) and value.size and value.min() > 0 and value.max() < math.inf:
        return
    if not np.all(np.isfinite(value) & (np.asarray(value) > 0)):
        raise PhysicsError(name, value, "must be greater than zero")


def require_not_negative(name: str, value: Num) -> None:
    """Raise `PhysicsError` unless every element is finite and >= 0.

    >>> require_not_negative("area_m2", 0.0)
    """
    if isinstance(value, float) and 0 <= value < math.inf:
        return
    if isinstance(value, np.ndarray) and value.size and value.min() >= 0 and value.max() < math.inf:
        return
    if not np.all(np.isfinite(value) & (np.asarray(value) >= 0)):
        raise PhysicsError(name, value, "must not be negative")
