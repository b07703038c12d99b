"""Results of what lies between the machine's water and the emitters'."""

from __future__ import annotations

import numpy as np

from cinder.design.base import Result
from cinder.physics.quantity import Array, Num


class Separated(Result):
    """One circuit (`kind` direct), or two that meet in a vessel. `lift_k`: how much hotter the machine's water must be on the design day,
    `layered_k` and `stirred_k` between which it lies; it shrinks with the load, to nothing at `rooms_c`. `pump_w`: what the second pump
    and those of blended zones draw."""

    kind: str
    label: str
    vessel_l: float
    emitters_lph: float | None
    machine_lph: float | None
    machine_from: str
    lift_k: float
    layered_k: float
    stirred_k: float
    outdoor_c: float | None
    rooms_c: float
    pump: str
    pump_label: str
    pump_w: float
    bypass: bool

    @property
    def two(self) -> bool:
        """Whether the emitters' water has a pump of its own."""
        return self.kind != "direct"

    def lift_at(self, outdoor_c: Num) -> Array:
        """How much hotter the machine's water must be at outdoor temperatures, K: as the loss of the house, straight."""
        if not self.lift_k or self.outdoor_c is None or self.outdoor_c >= self.rooms_c:
            return np.zeros_like(np.asarray(outdoor_c, float))
        return self.lift_k * np.clip(
            (self.rooms_c - np.asarray(outdoor_c, float)) / (self.rooms_c - self.outdoor_c), 0.0, 1.5
        )
