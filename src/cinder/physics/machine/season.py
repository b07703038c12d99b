"""A heating season: who gives the heat of every hour or bin of temperature, the machine or what stands beside it, and what it draws."""

from __future__ import annotations

from dataclasses import dataclass
from typing import Literal, NamedTuple, TypeAlias

import numpy as np
from numpy.typing import NDArray

from cinder.errors import PhysicsError
from cinder.physics.compiled import compiled
from cinder.physics.machine.heat_pump import Operation
from cinder.physics.quantity import Array, Num, flat, plain

Flags: TypeAlias = NDArray[np.bool_]
Mode = Literal["parallel", "alternate", "cheaper"]
MODES: tuple[Mode, ...] = ("parallel", "alternate", "cheaper")
PARALLEL, ALTERNATE, CHEAPER = range(3)


@dataclass(frozen=True, slots=True)
class Shared:
    """Of every hour (K,): heat of the machine and beside it, W; electricity of the machine alone, W; whether it ran on and
    off, and whether it carried the hour alone."""

    machine_w: Array
    beside_w: Array
    electric_w: Array
    cycling: Flags
    alone: Flags

    @property
    def load_w(self) -> Array:
        return self.machine_w + self.beside_w


class Second(NamedTuple):
    """What stands beside a machine: when it gives heat (`share`), and whether it is a `heater` in the machine's own water, which makes a
    kWh of heat of a kWh of electricity and needs the machine's pump."""

    mode: Mode = "parallel"
    worth_cop: Num = 0.0
    heater: bool = True


HEATER = Second()


@dataclass(frozen=True, slots=True)
class Season:
    """Energy per bin (kWh) and its sums: heat asked for, of the machine, beside it (`backup`); electricity of the machine, of what always
    runs with it, and of a heater beside it. `performance`: what was made of that electricity, over it."""

    heat_kwh: Array
    machine_kwh: Array
    backup_kwh: Array
    electricity_kwh: Array
    cycling: Flags
    heat_total_kwh: float
    electricity_total_kwh: float
    backup_total_kwh: float
    cycling_hours: float
    heating_hours: float
    performance: float


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


def part_load_factor(*, load_w: Array, least_w: Array, degradation: float) -> Array:
    """What is left of the COP where the load is under the least output: CR / (Cc CR + 1 - Cc), CR = load / least output.

    Valid for: Cc in 0.5-1; 1 where the machine need not cycle. Source: EN 14825 (from memory).

    >>> float(part_load_factor(load_w=np.array([500.0]), least_w=np.array([1000.0]), degradation=0.9)[0].round(4))
    0.9091
    """
    shape, (load, least) = flat(load_w, least_w)
    out = np.empty(len(load))
    _part_loads(load, least, float(degradation), out)
    return out.reshape(shape)


def share(
    *, load_w: Array, operation: Operation, degradation: float, mode: Mode = "parallel", worth_cop: Num = 0.0
) -> Shared:
    """Who gives the heat of every hour.

    `parallel`: the machine gives what it can, the other the rest. `alternate`: the machine alone where it can carry the whole
    load, else the other alone. `cheaper`: the machine (and the other beside it) only where its COP in that hour is at least
    `worth_cop` (K,) or one for all; else the other alone. Outside its envelope the machine gives nothing.

    Shapes: all (K,). Source: energy balance; the modes are common practice.
    """
    shape, (load, greatest, least, cop, worth) = flat(
        load_w, np.where(operation.inside, operation.greatest_w, 0.0), operation.least_w, operation.cop, worth_cop
    )
    out, flags = np.empty((3, len(load))), np.empty((2, len(load)), dtype=np.bool_)
    _share_out(load, greatest, least, cop, float(degradation), MODES.index(mode), worth, out, flags)
    given, beside, electric = (one.reshape(shape) for one in out)
    return Shared(given, beside, electric, flags[0].reshape(shape), flags[1].reshape(shape))


def season_over_bins(
    *, hours: Array, load_w: Array, operation: Operation, degradation: float, always_on_w: float = 0.0, second: Second = HEATER
) -> Season:  # fmt: skip
    """A season of bins: who gives the heat of each as `share` has it, times its hours. `always_on_w` is drawn in every bin in which the
    machine's water goes round (circulator, electronics).

    Shapes: all (K,). Valid for: Cc in 0.5-1. Source: EN 14825 method (from memory).
    """
    count = len(load_w)
    out, cycling, sums = np.empty((4, count)), np.empty(count, dtype=np.bool_), np.empty(5)
    worth = plain(np.broadcast_to(second.worth_cop, (count,)) if second.mode == "cheaper" else np.zeros(count))
    _sum_up(
        plain(hours), plain(load_w), plain(operation.greatest_w), plain(operation.least_w), plain(operation.cop),
        float(degradation), float(always_on_w), MODES.index(second.mode), worth, second.heater, out, cycling, sums,
    )  # fmt: skip
    heat, machine, backup, electricity = out
    total, used, backup_total, cycling_h, heating_h = sums.tolist()
    made = total if second.heater else total - backup_total
    return Season(
        heat, machine, backup, electricity, cycling, total, used, backup_total, cycling_h, heating_h,
        made / used if used > 0 else float("nan"),
    )  # fmt: skip


@compiled
def _part_load(load: float, least: float, degradation: float) -> float:
    """What is left of the COP under the least output."""
    if not 0.0 < load < least:
        return 1.0
    ratio = load / least
    return ratio / (degradation * ratio + 1 - degradation)


@compiled
def _part_loads(load_w: Array, least_w: Array, degradation: float, out: Array) -> None:
    for k in range(len(out)):
        out[k] = _part_load(load_w[k], least_w[k], degradation)


@compiled
def _gives(
    load: float, greatest: float, least: float, cop: float, degradation: float, mode: int, worth: float
) -> tuple[float, float, bool]:
    """Of one hour: heat of the machine, W, its electricity, W, and whether it runs on and off."""
    could = min(load, greatest)
    factor = _part_load(could, least, degradation)
    at = cop * factor
    runs = could > 0
    if mode == ALTERNATE:
        runs = runs and greatest >= load
    elif mode == CHEAPER:
        runs = runs and at >= worth
    if not runs:
        return 0.0, 0.0, False
    return could, could / (at if at > 0 else 1.0), factor < 1.0


@compiled
def _share_out(
    load_w: Array, greatest_w: Array, least_w: Array, cop: Array, degradation: float, mode: int, worth_cop: Array, out: Array, flags: Flags,
) -> None:  # fmt: skip
    """Hour by hour into `out` (3, K): heat of the machine and beside it, its electricity, W; `flags` (2, K): on and off, alone."""
    for k in range(len(load_w)):
        load = max(load_w[k], 0.0)
        given, electric, cycles = _gives(load, greatest_w[k], least_w[k], cop[k], degradation, mode, worth_cop[k])
        out[0, k], out[1, k], out[2, k] = given, load - given, electric
        flags[0, k], flags[1, k] = cycles, load > 0 and given >= load


@compiled
def _sum_up(
    hours: Array, load_w: Array, greatest_w: Array, least_w: Array, cop: Array, degradation: float, always_on_w: float, mode: int,
    worth_cop: Array, heater: bool, out: Array, cycling: Flags, sums: Array,
) -> None:  # fmt: skip
    """Bin by bin into `out` (4, K): heat, of the machine, backup and electricity, kWh; their `sums` (5,): heat, electricity, backup, hours
    of cycling and of heating."""
    sums[:] = 0.0
    for k in range(len(hours)):
        load = max(load_w[k], 0.0)
        given, electric, cycling[k] = _gives(load, greatest_w[k], least_w[k], cop[k], degradation, mode, worth_cop[k])
        backup = load - given
        runs = load > 0 if heater else given > 0
        drawn = electric + (backup if heater else 0.0) + (always_on_w if runs else 0.0)
        out[0, k] = load * hours[k] / 1000
        out[1, k] = given * hours[k] / 1000
        out[2, k] = backup * hours[k] / 1000
        out[3, k] = drawn * hours[k] / 1000
        sums[0] += out[0, k]
        sums[1] += out[3, k]
        sums[2] += out[2, k]
        if cycling[k]:
            sums[3] += hours[k]
        if load > 0:
            sums[4] += hours[k]
