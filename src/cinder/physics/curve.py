"""The weather curve of a controller, and the setting that serves a need."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np

from cinder.physics.quantity import Array, Num


@dataclass(frozen=True, slots=True)
class TwoPoint:
    """Flow at a cold and at a mild outdoor temperature, straight between and beyond, within limits."""

    cold_out_c: float
    cold_flow_c: float
    mild_out_c: float
    mild_flow_c: float
    least_flow_c: float
    greatest_flow_c: float


def flow_at(setting: TwoPoint, *, outdoor_c: Num) -> Array:
    """Flow temperature the controller asks for, deg C.

    >>> float(flow_at(TwoPoint(-3.0, 42.0, 15.0, 27.0, 20.0, 46.0), outdoor_c=6.0))
    34.5
    """
    slope = (setting.mild_flow_c - setting.cold_flow_c) / (setting.mild_out_c - setting.cold_out_c)
    line = setting.cold_flow_c + slope * (np.asarray(outdoor_c, float) - setting.cold_out_c)
    return np.clip(line, setting.least_flow_c, setting.greatest_flow_c)


def least_mild_flow(
    *,
    cold_out_c: float,
    cold_flow_c: float,
    mild_out_c: float,
    outdoor_c: Array,
    allowed_c: Array,
    step_k: float,
    greatest_c: float,
) -> float:
    """Least mild-end flow, on steps of `step_k`, with the line nowhere below `allowed_c`.

    A needed curve is bent upwards, so a line set at its two ends runs low in the middle: the mild end
    is raised until it does not. Only outdoor temperatures warmer than the cold point can be served so.
    Shapes: `outdoor_c`, `allowed_c` (K,). Source: algebra.

    >>> least_mild_flow(cold_out_c=-3.0, cold_flow_c=42.0, mild_out_c=15.0, outdoor_c=np.array([6.0]),
    ...                 allowed_c=np.array([35.2]), step_k=1.0, greatest_c=42.0)
    29.0
    """
    warmer = outdoor_c > cold_out_c
    reach = (mild_out_c - cold_out_c) / (outdoor_c[warmer] - cold_out_c)
    wanted = cold_flow_c + (allowed_c[warmer] - cold_flow_c) * reach
    need = float(wanted.max()) if warmer.any() else cold_flow_c
    return float(min(np.ceil(need / step_k - 1e-9) * step_k, greatest_c))
