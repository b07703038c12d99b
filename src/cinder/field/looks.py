"""Looks at a house out of readings that never stop: a mean of every day, and of every bright afternoon."""

from __future__ import annotations

import numpy as np
from numpy.typing import NDArray

from cinder.field.seen import Seen
from cinder.physics.quantity import Array
from cinder.physics.running import running_mean

DAY_FROM_H, AFTERNOON_H = 7, (12, 17)
"""A day and the night after it are one look, in which what the hours do to light rooms comes out even; the sun shows in the other."""
BRIGHT_PART = 0.3
BRIGHT_W_M2 = 220.0
"""Sun on the level over an afternoon that counts as bright, W/m2 (our choice)."""
AT_ONCE = 0.4
LEAST_DAY_H, LEAST_AFTERNOON_H = 12, 3
"""Readings by the hour a look needs at the least."""


def looks_of(
    hour: NDArray[np.integer],
    outdoor_c: Array,
    flow_c: Array,
    wanted_c: Array,
    room_c: Array,
    spread_k: Array,
    sun_w_m2: Array,
    *,
    constant_h: float = 40.0,
) -> tuple[Seen, list[NDArray[np.intp]]]:
    """Readings by the hour, in order, as looks. `hour` of the day by the house's clock (N,), `room_c` (N, R), `spread_k` (N, E), `sun_w_m2`
    NaN where nobody measures it. Also gives which hours make each look. Hours that are missing are not there; what is NaN is not known."""

    def mean(values: Array, at: NDArray[np.intp]) -> Array:
        known = np.isfinite(values[at])
        count = known.sum(axis=0)
        total = np.where(known, values[at], 0.0).sum(axis=0)
        return np.asarray(np.where(count > 0, total / np.maximum(count, 1), np.nan))

    day = np.cumsum((hour == DAY_FROM_H) & (np.roll(hour, 1) != DAY_FROM_H))
    rows: list[NDArray[np.intp]] = []
    bright: list[float] = []
    for d in np.unique(day):
        whole = np.nonzero(day == d)[0]
        noon = whole[(hour[whole] >= AFTERNOON_H[0]) & (hour[whole] < AFTERNOON_H[1])]
        lit = float(mean(sun_w_m2, noon)) / BRIGHT_W_M2 if len(noon) >= LEAST_AFTERNOON_H else 0.0
        if len(whole) >= LEAST_DAY_H:
            rows.append(whole)
            bright.append(0.0)
        if lit > BRIGHT_PART:
            rows.append(noon)
            bright.append(min(lit, 1.0))

    def of(which: list[NDArray[np.intp]], values: Array) -> Array:
        return np.stack([mean(values, at) for at in which]) if which else np.zeros((0, *values.shape[1:]))

    def lagging(values: Array) -> Array:
        """As walls and floors have it: half of it at once, half as slowly as the house."""
        known = values[np.isfinite(values)]
        if not len(known):
            return values
        filled = np.where(
            np.isfinite(values), values, np.interp(np.arange(len(values)), np.nonzero(np.isfinite(values))[0], known)
        )
        keeps = float(np.exp(-1.0 / constant_h))
        first = float(filled[:24].mean())
        slow = running_mean(filled, keep=keeps, start=first)
        return np.asarray(AT_ONCE * filled + (1.0 - AT_ONCE) * slow)

    return (Seen(
        of(rows, lagging(outdoor_c)), of(rows, lagging(flow_c)), of(rows, wanted_c), of(rows, room_c), of(rows, spread_k),
        np.array(bright), of(rows, lagging(sun_w_m2)), of(rows, outdoor_c), np.full(len(rows), np.nan),
            of(rows, flow_c),
    ), rows)  # fmt: skip
