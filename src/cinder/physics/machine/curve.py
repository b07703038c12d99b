"""The weather curve of a controller, kind by kind, and the setting that serves a need."""

from __future__ import annotations

from dataclasses import dataclass
from typing import TypeAlias

import numpy as np
from numpy.typing import NDArray

from cinder.physics.quantity import Array, Num

BENT_OVER_K = 30.0
"""A bent line of a slope meets the straight one of that slope so far below its pivot (our choice: where radiators are rated)."""


@dataclass(frozen=True, slots=True)
class TwoPoint:
    """Flow at a cold and at a mild outdoor temperature, straight between and beyond, within limits."""

    cold_out_c: float
    cold_flow_c: float
    mild_out_c: float
    mild_flow_c: float
    least_flow_c: float
    greatest_flow_c: float


@dataclass(frozen=True, slots=True)
class SlopeLevel:
    """Water rises by `slope` for each kelvin of colder air below the pivot; `level_k` moves the whole line up.

    `exponent` below 1 bends it as an emitter's law does; `room_c` is the wanted room set at the controller, which moves the
    pivot along both axes where `room_shifts`.
    """

    slope: float
    level_k: float
    pivot_c: float
    exponent: float
    room_c: float
    room_shifts: bool
    least_flow_c: float
    greatest_flow_c: float


@dataclass(frozen=True, slots=True)
class Family:
    """Numbered straight lines: `flow = (base_c + base_per_c n) − (slope + slope_per n) θe`."""

    base_c: float
    base_per_c: float
    slope: float
    slope_per: float


@dataclass(frozen=True, slots=True)
class Numbered:
    """One line of a family, moved up by `level_k`."""

    family: Family
    number: float
    level_k: float
    least_flow_c: float
    greatest_flow_c: float


@dataclass(frozen=True, slots=True)
class Moved:
    """A line that is built in, by two of its points, moved up or down by a button."""

    out_a_c: float
    flow_a_c: float
    out_b_c: float
    flow_b_c: float
    offset_k: float
    least_flow_c: float
    greatest_flow_c: float


@dataclass(frozen=True, slots=True)
class Fixed:
    """One temperature; below `change_out_c` another, where somebody changes it by hand with the season."""

    flow_c: float
    mild_flow_c: float
    change_out_c: float
    least_flow_c: float
    greatest_flow_c: float


Setting: TypeAlias = TwoPoint | SlopeLevel | Numbered | Moved | Fixed


def flow_at(setting: Setting, *, outdoor_c: Num) -> Array:
    """Flow temperature the controller asks for, deg C.

    >>> float(flow_at(TwoPoint(-3.0, 42.0, 15.0, 27.0, 20.0, 46.0), outdoor_c=6.0))
    34.5
    >>> float(flow_at(SlopeLevel(0.8, 2.0, 20.0, 1.0, 20.0, False, 20.0, 55.0), outdoor_c=-5.0))
    42.0
    >>> float(flow_at(Fixed(40.0, 32.0, 8.0, 20.0, 55.0), outdoor_c=8.0))
    32.0
    """
    return np.clip(unlimited(setting, outdoor_c=outdoor_c), setting.least_flow_c, setting.greatest_flow_c)


def unlimited(setting: Setting, *, outdoor_c: Num) -> Array:
    """As `flow_at`, without the limits. Limits that cross leave the upper one in charge (`flow_at`)."""
    out = np.asarray(outdoor_c, float)
    match setting:
        case TwoPoint():
            slope = (setting.mild_flow_c - setting.cold_flow_c) / (setting.mild_out_c - setting.cold_out_c)
            return np.asarray(setting.cold_flow_c + slope * (out - setting.cold_out_c))
        case SlopeLevel():
            return bent(
                setting.slope, setting.level_k, outdoor_c=out, exponent=setting.exponent,
                pivot_c=setting.pivot_c + (setting.room_c - setting.pivot_c if setting.room_shifts else 0.0),
            )  # fmt: skip
        case Numbered():
            return numbered(setting.family, setting.number, outdoor_c=out) + setting.level_k
        case Moved():
            slope = (setting.flow_b_c - setting.flow_a_c) / (setting.out_b_c - setting.out_a_c)
            return np.asarray(setting.flow_a_c + slope * (out - setting.out_a_c) + setting.offset_k)
        case Fixed():
            return np.where(out < setting.change_out_c, setting.flow_c, setting.mild_flow_c)


def bent(slope: Num, level_k: Num, *, outdoor_c: Num, exponent: float, pivot_c: float) -> Array:
    """A line of slope and level about its pivot; flat above it. Shapes: broadcast together.

    >>> float(bent(1.0, 0.0, outdoor_c=-10.0, exponent=0.75, pivot_c=20.0))
    50.0
    >>> round(float(bent(1.0, 0.0, outdoor_c=5.0, exponent=0.75, pivot_c=20.0)), 2)
    37.84
    """
    below = np.maximum(pivot_c - np.asarray(outdoor_c, float), 0.0)
    shape = below if exponent == 1.0 else BENT_OVER_K * (below / BENT_OVER_K) ** exponent
    return np.asarray(pivot_c + np.asarray(level_k, float) + np.asarray(slope, float) * shape)


def numbered(family: Family, number: Num, *, outdoor_c: Num) -> Array:
    """A line of the family, deg C. Shapes: broadcast together."""
    n, out = np.asarray(number, float), np.asarray(outdoor_c, float)
    return np.asarray((family.base_c + family.base_per_c * n) - (family.slope + family.slope_per * n) * out)


KnownLine: TypeAlias = tuple[float, float, float, float, float]
"""Number, outdoor and water of one point, outdoor and water of another: as read off a manual."""


def family_of(known: KnownLine, other: KnownLine | None = None) -> Family:
    """The family one known line belongs to: all about one pivot where water is as warm as the air, rising with the number.

    With a second known line nothing is taken for granted: base and slope lie straight between the two, which covers lines
    about any pivot and lines side by side. Validity: two different outdoor temperatures a line, two different numbers; a single
    line that falls with milder air. Raises: ValueError. Source: algebra; the pivot of one line is *common practice*.

    >>> one = family_of((10.0, -10.0, 50.0, 20.0, 20.0))
    >>> float(numbered(one, 5.0, outdoor_c=-10.0)), float(numbered(one, 20.0, outdoor_c=20.0))
    (35.0, 20.0)
    """
    number, slope, base = known[0], *_slope_and_base(known)
    if other is None:
        if number == 0 or slope <= 0:
            raise ValueError("one line alone must fall with milder air and have a number above 0")
        pivot = base / (1 + slope)
        return Family(pivot, (base - pivot) / number, 0.0, slope / number)
    second, slope_b, base_b = other[0], *_slope_and_base(other)
    if second == number:
        raise ValueError("two lines have the same number")
    slope_per, base_per = (slope_b - slope) / (second - number), (base_b - base) / (second - number)
    return Family(base - base_per * number, base_per, slope - slope_per * number, slope_per)


def _slope_and_base(known: KnownLine) -> tuple[float, float]:
    """How much water rises a kelvin of colder air, and the water at 0 deg C outside."""
    _, out_a, flow_a, out_b, flow_b = known
    if out_a == out_b:
        raise ValueError("two points at one outdoor temperature make no line")
    slope = (flow_a - flow_b) / (out_b - out_a)
    return slope, flow_a + slope * out_a


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


SHORT_APART_K = 1e-6


def cheapest(lines_c: Array, *, allowed_c: Array, weight: Array, wished_c: Array | None = None) -> int:
    """Which of many lines serves a need with the least water above it.

    Lines (N, K) that are nowhere below `allowed_c` (K,) go first, and of them the one with the least sum of `weight` (K,)
    times what it is above; where none serves, the one that is short by least at its worst. `wished_c` (K,), NaN where nobody
    wished: a line somebody wants drawn through these goes before the need. The first of equals. Source: plain search.

    >>> lines = np.array([[40.0, 30.0], [42.0, 26.0], [44.0, 30.0]])
    >>> cheapest(lines, allowed_c=np.array([41.0, 25.0]), weight=np.array([1.0, 1.0]))
    1
    """
    candidates: NDArray[np.intp] = np.arange(len(lines_c))
    if wished_c is not None and np.isfinite(wished_c).any():
        at = np.isfinite(wished_c)
        off = ((lines_c[:, at] - wished_c[at]) ** 2).sum(axis=1)
        candidates = candidates[off <= off.min() + SHORT_APART_K]
    short = np.maximum(allowed_c - lines_c[candidates], 0.0).max(axis=1, initial=0.0)
    candidates = candidates[short <= max(float(short.min()), SHORT_APART_K) + SHORT_APART_K]
    above = (np.maximum(lines_c[candidates] - allowed_c, 0.0) * weight).sum(axis=1)
    return int(candidates[int(np.argmin(above))])
