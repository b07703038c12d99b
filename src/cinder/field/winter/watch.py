"""Watching a plant through the winter: what slowly changes against its own first weeks, and since when."""

from __future__ import annotations

import datetime as dt
from collections.abc import Sequence
from dataclasses import dataclass

import numpy as np
from numpy.typing import NDArray

from cinder.field.winter.result import Advice
from cinder.physics.quantity import Array

FIRST_DAYS = 21
"""Days a plant is held against (our choice)."""
BEYOND_DAYS = 10
"""So many days after it was sure still tell when a change began (our choice)."""
DRIFT, ALARM = 0.75, 9.0
"""Of the cumulative sum, in standard deviations: what a day may be off without counting, and where it is told (our choice: about one false
alarm in thirty winters of scatter that hangs together)."""


@dataclass(frozen=True, slots=True)
class Indicator:
    """A figure a day (D,), NaN where there is none; `least` a change that matters; `falls`, `rises`: which way is told."""

    key: str
    label: str
    unit: str
    values: Array
    least: float
    relative: bool
    falls: tuple[str, str] | None
    rises: tuple[str, str] | None
    """Each: what it may be, what to do first."""


@dataclass(frozen=True, slots=True)
class Changed:
    """Where a row of figures left its first weeks: the day it began, the day it was sure of; before and after."""

    begun: int
    seen: int
    before: float
    after: float
    chance: float


def changed(values: Array, *, least: float, relative: bool, up: bool) -> Changed | None:
    """The first lasting change of a row of daily figures against its first three weeks, by a cumulative sum; None where there is none.

    Source: CUSUM, Page 1954, from memory; robust mean and scatter of the first weeks.
    """
    known = np.flatnonzero(np.isfinite(values))
    if len(known) < FIRST_DAYS + 10:
        return None
    start = values[known[:FIRST_DAYS]]
    before = float(np.median(start))
    steps = np.abs(np.diff(values[known]))
    scatter = max(1.4826 * float(np.median(np.abs(start - before))), 0.85 * float(np.median(steps)), 1e-9)
    matters = least * abs(before) if relative else least
    scatter = max(scatter, matters / 3)
    sign = 1.0 if up else -1.0
    total = 0.0
    for n in known[FIRST_DAYS:]:
        total = max(0.0, total + min(sign * (values[n] - before) / scatter, 4.0) - DRIFT)
        if total > ALARM:
            late = known[(known >= n - 5)]
            after = float(np.median(values[late[:14]]))
            if sign * (after - before) >= matters:
                return Changed(_onset(values, known, int(n)), int(n), before, after, float(1 - np.exp(-total / 4)))
            total = ALARM / 2
    return None


def _onset(values: Array, known: NDArray[np.intp], seen: int) -> int:
    """The day a change began: the one from which a step or a ramp fits the days up to a little after it was sure best (least squares)."""
    days = known[known <= seen + BEYOND_DAYS]
    y = values[days]
    best, at = np.inf, seen
    for day in days[(days >= known[FIRST_DAYS]) & (days <= seen)]:
        late = days >= day
        for shape in (late.astype(float), np.where(late, days - day + 1.0, 0.0)):
            table = np.stack((np.ones(len(y)), shape), axis=1)
            fitted, *_ = np.linalg.lstsq(table, y, rcond=None)
            left = float(np.abs(y - table @ fitted).sum())
            if left < best:
                best, at = left, int(day)
    return at


def without_weather(values: Array, outdoor_c: Array) -> Array:
    """Daily figures (D,) with what the weather alone makes of them taken out, as they would be in mean weather: a robust curve of the second
    degree over the outdoor temperature. A lasting change in the middle of a winter stays."""
    known = np.isfinite(values) & np.isfinite(outdoor_c)
    if known.sum() < 2 * FIRST_DAYS:
        return values
    x = (outdoor_c - outdoor_c[known].mean()) / max(float(outdoor_c[known].std()), 1e-9)
    table = np.stack((np.ones_like(x), x, x**2), axis=1)[known]
    weight = np.ones(int(known.sum()))
    for _ in range(8):
        fitted, *_ = np.linalg.lstsq(table * weight[:, None], values[known] * weight, rcond=None)
        resid = values[known] - table @ fitted
        scatter = max(1.4826 * float(np.median(np.abs(resid))), 1e-9)
        weight = np.sqrt(np.minimum(1.0, 1.345 * scatter / np.maximum(np.abs(resid), 1e-12)))
    out = values.copy()
    out[known] = values[known] - table @ fitted + float((table @ fitted).mean())
    return out


def watched(day: NDArray[np.datetime64], indicators: Sequence[Indicator]) -> list[Advice]:
    """What changed, the earliest first."""
    out = []
    for one in indicators:
        for up, told in ((False, one.falls), (True, one.rises)):
            if told is None:
                continue
            found = changed(one.values, least=one.least, relative=one.relative, up=up)
            if found is None:
                continue
            why, first = told
            out.append(
                Advice(
                    key=f"{one.key}-{'up' if up else 'down'}", label=one.label, since=date_of(day[found.begun]),
                    seen=date_of(day[found.seen]),
                    change=f"{_said(found.before)} {one.unit} before, {_said(found.after)} {one.unit} then".replace("  ", " "),
                    why=why, first=first,
                    certain=found.chance,
                )
            )  # fmt: skip
    return sorted(out, key=lambda one: (one.since, one.key))


def _said(value: float) -> str:
    return f"{value:.0f}" if abs(value) >= 100 else f"{value:.2f}" if abs(value) < 10 else f"{value:.1f}"


def date_of(day: np.datetime64) -> dt.date:
    """The day as a date."""
    return dt.date.fromisoformat(str(day))
