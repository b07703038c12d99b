"""Results of the pipes that lie outdoors or in the ground."""

from __future__ import annotations

import numpy as np

from cinder.design.base import Result
from cinder.physics.quantity import Array, Num


class OutdoorPipe(Result):
    """A run there and back: what a metre of the pair loses for every kelvin, and on the design day."""

    pipe: str
    label: str
    lies: str
    length_m: float
    insulation_m: float
    w_mk: float
    loss_w: float | None


class OutdoorPipes(Result):
    """All of them: what they lose for every kelvin of mean water over the air, and over the ground of `ground_c`."""

    rows: list[OutdoorPipe]
    air_w_k: float
    ground_w_k: float
    ground_c: float
    loss_w: float | None

    def loss_at(self, *, water_c: Num, outdoor_c: Num) -> Array:
        """What they lose, W, with mean water and air at these temperatures; nothing below either."""
        air = np.maximum(np.asarray(water_c, float) - np.asarray(outdoor_c, float), 0.0)
        ground = np.maximum(np.asarray(water_c, float) - self.ground_c, 0.0)
        return np.asarray(self.air_w_k * air + self.ground_w_k * ground)
