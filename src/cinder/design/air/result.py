"""Results of the ways to count air."""

from __future__ import annotations

from typing import Literal

from cinder.design.base import Result

AirKey = Literal["tightness", "age", "room", "table"]


class AirMethod(Result):
    """One way to count the air, for the whole house and for every room's emitter."""

    key: AirKey
    label: str
    chosen: bool
    flow_m3h: float
    air_per_h: float | None
    air_w: float
    emitters_w: float
    loss_w: float
    rooms_w: dict[str, float]
