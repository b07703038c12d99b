"""What an air-to-water machine gives at an outdoor and a water temperature."""

from __future__ import annotations

from dataclasses import dataclass, replace
from functools import cached_property
from typing import NamedTuple, TypeAlias

import numpy as np
from numpy.typing import NDArray

from cinder.physics.altitude import noticed_density_ratio
from cinder.physics.compiled import compiled
from cinder.physics.quantity import KELVIN_AT_0_C, Array, Num, flat, plain, require_not_negative

LEAST_LIFT_K = 8.0
FROST_MOST, FROST_AT_C, FROST_WIDE_K = 0.09, 1.0, 4.5
"""Output lost to frost and its thawing: the most, where, and how wide (our choice; that maps dip near 2 deg C is common
practice). The COP loses `FROST_ON_COP` of that share: what thaws the coil is heat already made."""
FROST_ON_COP = 0.7
GLYCOL_ON_OUTPUT = 0.2
"""Output lost for every part of glycol in the water: 5 % at 25 % (common practice)."""
GLYCOL_ON_COP = 0.06
"""And of the COP, since it takes up heat less readily: 1.5 % at 25 % (our choice)."""


Flags: TypeAlias = NDArray[np.bool_]


class Points(NamedTuple):
    """A map as plain arrays: `tables` (A, W, 3)."""

    outdoor_c: Array
    water_c: Array
    tables: Array
    lowest_c: float
    limit_outdoor_c: Array
    limit_water_c: Array
    evaporator_k: float
    condenser_k: float
    best_cop: float


@dataclass(frozen=True)
class PerformanceMap:
    """Test points on a grid: `outdoor_c` (A,), `water_c` (W,) leaving water, both rising;
    outputs (A, W) in W, COP (A, W); the envelope and the refrigerant's approaches."""

    outdoor_c: Array
    water_c: Array
    greatest_w: Array
    least_w: Array
    cop: Array
    evaporator_approach_k: float
    condenser_approach_k: float
    lowest_outdoor_c: float
    limit_outdoor_c: Array
    limit_water_c: Array

    @cached_property
    def points(self) -> Points:
        """The map as the compiled loop reads it; greatest and least output and COP in one block."""
        return Points(
            plain(self.outdoor_c), plain(self.water_c), np.stack((self.greatest_w, self.least_w, self.cop), axis=-1).astype(float),
            float(self.lowest_outdoor_c), plain(self.limit_outdoor_c), plain(self.limit_water_c),
            float(self.evaporator_approach_k), float(self.condenser_approach_k), float(self.cop.max()),
        )  # fmt: skip


@dataclass(frozen=True, slots=True)
class Operation:
    """One or many operating points: outputs in W (0 outside the envelope), COP, and how it is known."""

    greatest_w: Array
    least_w: Array
    cop: Array
    inside: Array
    extrapolated: Array


def carnot_cop(*, outdoor_c: Num, water_c: Num, evaporator_approach_k: float, condenser_approach_k: float) -> Num:
    """Carnot COP between evaporating and condensing temperature, lift at least 8 K.

    >>> round(float(carnot_cop(outdoor_c=2.0, water_c=35.0, evaporator_approach_k=8.0,
    ...                        condenser_approach_k=3.0)), 2)
    7.07
    """
    hot = np.asarray(water_c, float) + condenser_approach_k + KELVIN_AT_0_C
    cold = np.asarray(outdoor_c, float) - evaporator_approach_k + KELVIN_AT_0_C
    return hot / np.maximum(hot - cold, LEAST_LIFT_K)


def carnot_fraction(machine: PerformanceMap) -> Array:
    """COP of each test point over the plain Carnot COP between water and air (A, W).

    Above about 0.6 a map cannot be true (common practice).
    """
    plain = carnot_cop(
        outdoor_c=machine.outdoor_c[:, None],
        water_c=machine.water_c[None, :],
        evaporator_approach_k=0.0,
        condenser_approach_k=0.0,
    )
    return np.asarray(machine.cop / plain)


def frost_share(outdoor_c: Num) -> Num:
    """Part of the output that frost and its thawing take, where a map was tested without. Source: common practice, our shape.

    >>> round(float(frost_share(2.0)), 3), round(float(frost_share(-15.0)), 3)
    (0.086, 0.0)
    """
    away = (np.asarray(outdoor_c, float) - FROST_AT_C) / FROST_WIDE_K
    return FROST_MOST * np.exp(-(away * away))


def thin_air_k(*, altitude_m: float, evaporator_approach_k: float) -> float:
    """How much colder the air looks to a machine at an altitude, K: its fan moves as much volume but less mass, so the air
    is cooled further. Nothing below 300 m. Source: energy balance on the evaporator (our reckoning).

    >>> thin_air_k(altitude_m=200.0, evaporator_approach_k=8.0)
    0.0
    >>> round(thin_air_k(altitude_m=1500.0, evaporator_approach_k=8.0), 2)
    1.26
    """
    return evaporator_approach_k * (1 / noticed_density_ratio(altitude_m) - 1)


def corrected(
    machine: PerformanceMap, *, frost_included: bool = True, glycol_share: float = 0.0, altitude_m: float = 0.0,
    output_share: float = 1.0,
) -> PerformanceMap:  # fmt: skip
    """The map as it is where it stands: with frost where it was tested without, with glycol in the water, in thin air, and
    with its greatest output held to a share (a quiet mode).

    `glycol_share` 0-0.6 by volume. Least output is not raised above the greatest.
    """
    require_not_negative("glycol_share", glycol_share)
    frost = np.zeros(len(machine.outdoor_c)) if frost_included else np.asarray(frost_share(machine.outdoor_c))
    left = (1 - frost)[:, None] * (1 - GLYCOL_ON_OUTPUT * glycol_share)
    greatest = machine.greatest_w * left
    colder = thin_air_k(altitude_m=altitude_m, evaporator_approach_k=machine.evaporator_approach_k)
    return replace(
        machine,
        outdoor_c=machine.outdoor_c + colder,
        greatest_w=greatest * output_share,
        least_w=np.minimum(machine.least_w, greatest * output_share),
        cop=np.maximum(machine.cop * (1 - FROST_ON_COP * frost)[:, None] * (1 - GLYCOL_ON_COP * glycol_share), 1.0),
    )


@compiled
def _cell(axis: Array, at: float) -> int:
    """The step of a rising axis (A,) that a point within it lies in."""
    cell = 0
    while cell < len(axis) - 2 and at >= axis[cell + 1]:
        cell += 1
    return cell


@compiled
def _along(axis: Array, values: Array, at: float) -> float:
    """Straight interpolation, held at both ends."""
    if at <= axis[0]:
        return float(values[0])
    if at >= axis[-1]:
        return float(values[-1])
    cell = _cell(axis, at)
    return float(values[cell] + (values[cell + 1] - values[cell]) / (axis[cell + 1] - axis[cell]) * (at - axis[cell]))


@compiled
def _carnot(air: float, water: float, evaporator_k: float, condenser_k: float) -> float:
    hot, cold = water + condenser_k + KELVIN_AT_0_C, air - evaporator_k + KELVIN_AT_0_C
    return hot / max(hot - cold, LEAST_LIFT_K)


@compiled
def _operate(points: Points, air: Array, water: Array, out: Array, known: Flags) -> None:
    """`operate` at points (K,): greatest, least and COP into `out` (3, K), inside and extrapolated into `known` (2, K)."""
    outdoor, axis, tables = points.outdoor_c, points.water_c, points.tables
    for k in range(len(air)):
        near_air = min(max(air[k], outdoor[0]), outdoor[-1])
        near_water = min(max(water[k], axis[0]), axis[-1])
        i, j = _cell(outdoor, near_air), _cell(axis, near_water)
        u = (near_air - outdoor[i]) / (outdoor[i + 1] - outdoor[i])
        v = (near_water - axis[j]) / (axis[j + 1] - axis[j])
        for n in range(3):
            low = tables[i, j, n] * (1 - v) + tables[i, j + 1, n] * v
            high = tables[i + 1, j, n] * (1 - v) + tables[i + 1, j + 1, n] * v
            out[n, k] = low * (1 - u) + high * u
        colder = air[k] - outdoor[0]
        if colder < 0:
            first, second = _along(axis, tables[0, :, 0], near_water), _along(axis, tables[1, :, 0], near_water)
            out[0, k] += max((second - first) / (outdoor[1] - outdoor[0]), 0.0) * colder
        inside = air[k] >= points.lowest_c and water[k] <= _along(points.limit_outdoor_c, points.limit_water_c, air[k])
        extrapolated = near_air != air[k] or near_water != water[k]
        out[0, k] = max(out[0, k], 0.0) if inside else 0.0
        out[1, k] = min(out[1, k], out[0, k]) if inside else 0.0
        if extrapolated:
            there = _carnot(air[k], water[k], points.evaporator_k, points.condenser_k)
            here = _carnot(near_air, near_water, points.evaporator_k, points.condenser_k)
            out[2, k] = min(out[2, k] * (there / here), points.best_cop)
        known[0, k], known[1, k] = inside, extrapolated and inside


def operate(machine: PerformanceMap, *, outdoor_c: Num, water_c: Num) -> Operation:
    """Output and COP at any point.

    Inside the test points: straight interpolation. Outside: outputs held at the nearest test point, in colder
    air following the coldest two points downwards; COP by the Carnot fraction of the nearest point with the
    approaches added to the lift, never above the best tested COP; marked extrapolated.
    Outside the envelope there is no output.

    Valid for: any finite temperatures. Source: common practice (Carnot fraction), interpolation.
    """
    shape, (air, water) = flat(outdoor_c, water_c)
    out, known = np.empty((3, len(air))), np.empty((2, len(air)), dtype=np.bool_)
    _operate(machine.points, air, water, out, known)
    greatest, least, cop = out.reshape(3, *shape)
    inside, extrapolated = known.reshape(2, *shape)
    return Operation(greatest, least, cop, inside, extrapolated)


def water_for_cop(machine: PerformanceMap, *, outdoor_c: Array, levels: tuple[float, ...], waters_c: Array) -> Array:
    """Leaving water, deg C, at which each outdoor temperature gives each COP level.

    Shapes: `outdoor_c` (K,), `waters_c` (M,) rising; returns (levels, K), NaN where none of `waters_c` does.
    """
    cop = operate(machine, outdoor_c=outdoor_c[:, None], water_c=waters_c[None, :]).cop
    out = np.full((len(levels), len(outdoor_c)), np.nan)
    for n, level in enumerate(levels):
        falls = (cop[:, :-1] >= level) & (cop[:, 1:] < level)
        k = np.nonzero(falls.any(axis=1))[0]
        j = falls.shape[1] - 1 - np.argmax(falls[k, ::-1], axis=1)
        share = (cop[k, j] - level) / (cop[k, j] - cop[k, j + 1])
        out[n, k] = waters_c[j] + share * (waters_c[j + 1] - waters_c[j])
    return out
