"""Sound of a unit at a point outdoors: one source, hard ground, walls near it, what stands between."""

from __future__ import annotations

from collections.abc import Sequence

import numpy as np

from cinder.errors import PhysicsError
from cinder.physics.quantity import Num

DIRECTIVITY = {0: 2.0, 1: 4.0, 2: 8.0}
"""Q by how many walls stand close: free on the ground, at one wall, in a corner. Source: acoustics of a source at reflecting
planes (common practice)."""
SCREENED_DB = {"none": 0.0, "partly": 5.0, "hidden": 10.0}
"""Taken off where the receiver sees the unit partly, or not at all (common practice)."""
LEAST_M = 0.3
"""Nearer than this a unit is no point any more."""


def level_db(*, power_db: Num, directivity: Num, distance_m: Num, screened_db: Num = 0.0) -> Num:
    """Sound pressure level, dB(A): Lw + 10 log10(Q / (4 pi r2)) less the screen.

    Valid for: distances from 0.3 m, nearer counts as that; outdoors, no wind. Source: inverse square law.

    >>> round(float(level_db(power_db=60.0, directivity=2.0, distance_m=10.0)), 1)
    32.0
    """
    if np.any(np.asarray(directivity) <= 0):
        raise PhysicsError("directivity", directivity, "above 0")
    r = np.maximum(np.asarray(distance_m, float), LEAST_M)
    return np.asarray(power_db + 10 * np.log10(directivity / (4 * np.pi * r * r)) - screened_db)


def together_db(levels_db: Sequence[float]) -> float:
    """Levels that do not know of each other, added up, dB(A). Source: addition of intensities.

    >>> round(together_db([40.0, 40.0]), 2)
    43.01
    """
    levels = np.asarray(levels_db, float)
    return float(10 * np.log10((10 ** (levels / 10)).sum())) if levels.size else float("-inf")


def room_left_db(*, most_db: float, background_db: float) -> float:
    """What a unit alone may add beside a background so that both together stay at `most_db`.

    >>> round(room_left_db(most_db=42.0, background_db=40.0), 2)
    37.67
    """
    left = 10 ** (most_db / 10) - 10 ** (background_db / 10)
    return float(10 * np.log10(left)) if left > 0 else float("-inf")


def distance_for_m(*, power_db: float, directivity: float, most_db: float, screened_db: float = 0.0) -> float:
    """How far the unit must be for a level, m.

    >>> round(distance_for_m(power_db=56.5, directivity=4.0, most_db=37.0), 1)
    5.3
    """
    return float(np.sqrt(directivity / (4 * np.pi) * 10 ** ((power_db - screened_db - most_db) / 10)))
