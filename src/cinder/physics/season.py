"""A heating season summed over temperature bins."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from cinder.physics.compiled import compiled
from cinder.physics.heat_pump import Operation
from cinder.physics.quantity import Array, plain

Flags: TypeAlias = NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class Season:
    """Energy per bin (kWh) and its sums."""

    heat_kwh: Array
    machine_kwh: Array
    backup_kwh: Array
    electricity_kwh: Array
    part_load_cop: Array
    cycling: Flags
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
    out, cycling, sums = np.empty((5, len(load_w))), np.empty(len(load_w), dtype=np.bool_), np.empty(5)
    _sum_up(
        plain(hours), plain(load_w), plain(operation.greatest_w), plain(operation.least_w), plain(operation.cop),
        float(degradation), float(always_on_w), out, cycling, sums,
    )  # fmt: skip
    heat, machine, backup, electricity, cop = out
    total, used, backup_total, cycling_h, heating_h = sums.tolist()
    return Season(
        heat, machine, backup, electricity, cop, cycling, total, used, backup_total, cycling_h, heating_h,
        total / used if used > 0 else float("nan"),
    )  # fmt: skip


@compiled
def _sum_up(
    hours: Array, load_w: Array, greatest_w: Array, least_w: Array, cop: Array, degradation: float, always_on_w: float,
    out: Array, cycling: Flags, sums: Array,
) -> None:  # fmt: skip
    """Bin by bin into `out` (5, K): heat, of the machine, backup and electricity, kWh, and the COP at part load; their `sums` (5,): heat,
    electricity, backup, hours of cycling and of heating."""
    sums[:] = 0.0
    for k in range(len(hours)):
        load = max(load_w[k], 0.0)
        given = min(load, greatest_w[k])
        factor = 1.0
        if least_w[k] > 0 and 0 < given < least_w[k]:
            ratio = given / least_w[k]
            factor = ratio / (degradation * ratio + 1 - degradation)
        cycling[k] = factor < 1.0 and given > 0
        at = cop[k] * factor if cycling[k] else cop[k]
        electric = given / (at if at > 0 else 1.0) if given > 0 else 0.0
        backup = load - given
        out[0, k] = load * hours[k] / 1000
        out[1, k] = given * hours[k] / 1000
        out[2, k] = backup * hours[k] / 1000
        out[3, k] = (electric + backup + (always_on_w if load > 0 else 0.0)) * hours[k] / 1000
        out[4, k] = at
        sums[0] += out[0, k]
        sums[1] += out[3, k]
        sums[2] += out[2, k]
        if cycling[k]:
            sums[3] += hours[k]
        if load > 0:
            sums[4] += hours[k]
