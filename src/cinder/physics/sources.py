"""Heat shared between a machine and what stands beside it: a heater, a boiler, a stove; hour by hour."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal

import numpy as np
from numpy.typing import NDArray

from cinder.errors import PhysicsError
from cinder.physics.heat_pump import Operation
from cinder.physics.quantity import Array, Num

Mode = Literal["parallel", "alternate", "cheaper"]
Mask = NDArray[np.bool_]


@dataclass(frozen=True, slots=True)
class Shared:
    """Of every hour (K,): heat of the machine and beside it, W; electricity of the machine alone, W; whether it ran on and
    off, and whether it carried the hour alone."""

    machine_w: Array
    beside_w: Array
    electric_w: Array
    cycling: Mask
    alone: Mask

    @property
    def load_w(self) -> Array:
        return self.machine_w + self.beside_w


def part_load_factor(*, load_w: Array, least_w: Array, degradation: float) -> Array:
    """What is left of the COP where the load is under the least output: CR / (Cc CR + 1 - Cc).

    Valid for: Cc in 0.5-1; 1 where the machine need not cycle. Source: EN 14825 (from memory).

    >>> float(part_load_factor(load_w=np.array([500.0]), least_w=np.array([1000.0]), degradation=0.9)[0].round(4))
    0.9091
    """
    safe = np.where(least_w > 0, least_w, 1.0)
    ratio = np.clip(np.where(least_w > 0, load_w / safe, 1.0), 0.0, 1.0)
    part = np.where(ratio > 0, ratio, 1.0)
    return np.where(part < 1.0, part / (degradation * part + 1 - degradation), 1.0)


def break_even_cop(*, electricity_per_kwh: float, fuel_per_kwh: float, efficiency: float) -> float:
    """The COP at which a kWh of heat costs the same from either: price of electricity over price of fuel, times the boiler's
    efficiency. The same with carbon in place of prices. Infinite where the fuel costs nothing.

    Valid for: efficiency above 0. Source: a ratio of two costs.

    >>> round(break_even_cop(electricity_per_kwh=21.0, fuel_per_kwh=7.0, efficiency=0.9), 2)
    2.7
    """
    if efficiency <= 0:
        raise PhysicsError("efficiency", efficiency, "above 0")
    return electricity_per_kwh / fuel_per_kwh * efficiency if fuel_per_kwh > 0 else float("inf")


def share(
    *, load_w: Array, operation: Operation, degradation: float, mode: Mode = "parallel", worth_cop: Num = 0.0
) -> Shared:
    """Who gives the heat of every hour.

    `parallel`: the machine gives what it can, the other the rest. `alternate`: the machine alone where it can carry the whole
    load, else the other alone. `cheaper`: the machine (and the other beside it) only where its COP in that hour is at least
    `worth_cop` (K,) or one for all; else the other alone. Outside its envelope the machine gives nothing.

    Shapes: all (K,). Source: energy balance; the modes are common practice.
    """
    load = np.maximum(load_w, 0.0)
    greatest = np.where(operation.inside, operation.greatest_w, 0.0)
    factor = part_load_factor(load_w=np.minimum(load, greatest), least_w=operation.least_w, degradation=degradation)
    cop = operation.cop * factor
    runs = greatest > 0
    if mode == "alternate":
        runs &= greatest >= load
    elif mode == "cheaper":
        runs &= cop >= worth_cop
    given = np.where(runs, np.minimum(load, greatest), 0.0)
    electric = np.where(given > 0, given / np.where(cop > 0, cop, 1.0), 0.0)
    return Shared(given, load - given, electric, (factor < 1.0) & (given > 0), (load > 0) & (given >= load))
