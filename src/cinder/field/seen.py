"""What was seen of a house, as arrays: one row for every look, by hand or as the mean over hours of readings."""

from __future__ import annotations

from dataclasses import dataclass, replace

import numpy as np
from numpy.typing import NDArray

from cinder.physics.quantity import Array

ODD_K, ODD_SPREADS = 0.7, 3.5
"""A room that strays so far from its own habit in one look had a window open or guests in it (our choice)."""
FEW = 4


@dataclass(frozen=True, slots=True)
class Seen:
    """Looks at a house (J,): air outside and the water its emitters get as walls and floors have had it, deg C (`air_c`, `water_c` at the
    look itself); `wanted_c` what the controller says it asks for, NaN where nobody read it; `set_c` the line that was set then, NaN
    where it is the one that is set now; rooms (J, R), NaN where nobody looked; spread of every emitter's water (J, E), K, NaN where no
    probe sat; `sun` at the look, 0 (none) to 1 (bright), NaN where nobody said; `sun_w_m2` on the level, the mean of the day before (a
    guess of the season's where nobody measures it)."""

    outdoor_c: Array
    flow_c: Array
    wanted_c: Array
    room_c: Array
    spread_k: Array
    sun: Array
    sun_w_m2: Array
    air_c: Array
    set_c: Array
    water_c: Array

    def rows(self, which: NDArray[np.intp] | NDArray[np.bool_]) -> Seen:
        """Some of them."""
        return Seen(
            self.outdoor_c[which],
            self.flow_c[which],
            self.wanted_c[which],
            self.room_c[which],
            self.spread_k[which],
            self.sun[which],
            self.sun_w_m2[which],
            self.air_c[which],
            self.set_c[which],
            self.water_c[which],
        )

    def without(self, odd: NDArray[np.bool_]) -> Seen:
        """With readings of rooms (J, R) left out."""
        return replace(self, room_c=np.where(odd, np.nan, self.room_c))


def odd_ones(seen: Seen, residual_k: Array) -> NDArray[np.bool_]:
    """Readings (J, R) in which a room strays from its own habit: from the line it follows over the outdoor air, found by medians
    (Theil and Sen), by more than its usual spread allows. A room that is off all the time strays from nothing."""
    out = np.zeros(residual_k.shape, dtype=bool)
    dull = np.nan_to_num(seen.sun) < 0.3
    for r in range(residual_k.shape[1]):
        known = np.isfinite(residual_k[:, r]) & dull
        if known.sum() < FEW:
            continue
        x, y = seen.outdoor_c[known], residual_k[known, r]
        i, j = np.triu_indices(len(x), 1)
        apart = np.abs(x[i] - x[j]) > 1.0
        slope = float(np.median((y[i] - y[j])[apart] / (x[i] - x[j])[apart])) if apart.sum() >= FEW else 0.0
        habit = float(np.median(y - slope * x))
        away = np.abs(residual_k[:, r] - habit - slope * seen.outdoor_c)
        usual = 1.4826 * float(np.median(away[known]))
        out[:, r] = known & (away > max(ODD_K, ODD_SPREADS * usual))
    return out


def sun_swing_k(seen: Seen) -> Array:
    """How much warmer each room is in bright afternoons than through the day about them, to a full sun (R,), K; NaN where nobody
    looked. Needs no house to compare with."""
    bright = np.array(
        [j for j in np.nonzero(np.nan_to_num(seen.sun) > 0)[0] if j > 0 and seen.sun[j - 1] == 0], dtype=np.intp
    )
    if not len(bright):
        return np.full(seen.room_c.shape[1], np.nan)
    more = (seen.room_c[bright] - seen.room_c[bright - 1]) / np.maximum(seen.sun[bright], 0.3)[:, None]
    out = np.full(more.shape[1], np.nan)
    known = np.isfinite(more).any(axis=0)
    out[known] = np.nanmedian(more[:, known], axis=0)
    return out
