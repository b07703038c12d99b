"""A heating season summed over temperature bins."""

from __future__ import annotations

from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cinder.physics.heat_pump import Operation
from cinder.physics.quantity import Array
from cinder.physics.sources import part_load_factor


@dataclass(frozen=True, slots=True)
class Season:
    """Energy per bin (kWh) and its sums."""

    heat_kwh: Array
    machine_kwh: Array
    backup_kwh: Array
    electricity_kwh: Array
    part_load_cop: Array
    cycling: NDArray[np.bool_]
    heat_total_kwh: float
    electricity_total_kwh: float
    backup_total_kwh: float
    cycling_hours: float
    heating_hours: float
    performance: float


def season_over_bins(
    *, hours: Array, load_w: Array, operation: Operation, degradation: float, always_on_w: float = 0.0
) -> Season:
    """Seasonal performance: per bin the machine gives min(load, greatest), a resistance backup the rest.

    Below least output the machine cycles: COP x CR / (Cc CR + 1 - Cc), CR = load / least output.
    `always_on_w` is drawn in every bin with heating (circulator, electronics).

    Shapes: all (K,). Valid for: Cc in 0.5-1. Source: EN 14825 method (from memory).
    """
    load = np.maximum(load_w, 0.0)
    given = np.minimum(load, operation.greatest_w)
    backup = load - given
    factor = part_load_factor(load_w=given, least_w=operation.least_w, degradation=degradation)
    cycling = (factor < 1.0) & (given > 0)
    cop = operation.cop * np.where(cycling, factor, 1.0)
    electric = np.where(given > 0, given / np.where(cop > 0, cop, 1.0), 0.0)
    on = load > 0
    machine_kwh = given * hours / 1000
    backup_kwh = backup * hours / 1000
    electricity = (electric + backup + np.where(on, always_on_w, 0.0)) * hours / 1000
    heat = load * hours / 1000
    total, used = float(heat.sum()), float(electricity.sum())
    return Season(
        heat,
        machine_kwh,
        backup_kwh,
        electricity,
        cop,
        cycling,
        total,
        used,
        float(backup_kwh.sum()),
        float(hours[cycling].sum()),
        float(hours[on].sum()),
        total / used if used > 0 else float("nan"),
    )
