"""Moments and figures as a whole: put in order, one figure a moment, sensors that jump, meters that wrap or are replaced, days that are
copies, gaps; whatever is changed is said with its place."""

from __future__ import annotations

from collections.abc import Sequence
from datetime import datetime
from zoneinfo import ZoneInfo

import numpy as np
from numpy.typing import NDArray

from cinder.exchange.readings.names import COUNTERS, JUMPS_K

Floats = NDArray[np.float64]
WRAPS_AT = 10.0 ** np.arange(3, 9)
"""Meters begin again after so many kWh."""
NEAR_WRAP = 0.9
BACK_A_LITTLE_KWH = 0.11
"""A meter that falls by no more than its own last digit is rounded twice, no new one."""
COPIES_FROM = 3
"""So many days in a row that are the same to the last digit are copies."""


def said_at(at: float) -> str:
    return datetime.fromtimestamp(at, tz=ZoneInfo("UTC")).isoformat().replace("+00:00", "Z")


def many(count: int, what: str) -> str:
    return f"{count} {what}{'s' if count != 1 else ''}"


def in_order(clock: Floats, values: Floats, lines: NDArray[np.int64]) -> tuple[Floats, Floats, list[str]]:
    """Sorted by time; of two lines of one moment the later is taken. A clock that goes back is named with its line."""
    notes = []
    back = np.flatnonzero(np.diff(clock) < 0)
    if back.size:
        n = back[0]
        notes.append(
            f"Its lines do not stand in the order of time; they were put in order. At line {lines[n + 1]} the clock goes back by "
            f"{(clock[n] - clock[n + 1]) / 60:.0f} minutes"
            + (f", and {many(back.size - 1, 'time')} more" if back.size > 1 else "")
            + "."
        )
        order = np.argsort(clock, kind="stable")
        clock, values = clock[order], values[order]
    same = np.flatnonzero(np.diff(clock) == 0)
    if same.size:
        notes.append(
            f"{many(same.size, 'moment')} given twice, first {said_at(clock[same[0]])}; the later line is taken."
        )
        keep = np.append(np.diff(clock) != 0, True)
        clock, values = clock[keep], values[keep]
    return clock, values, notes


def without_jumps(clock: Floats, values: Floats, channels: Sequence[str], names: Sequence[str]) -> list[str]:
    """Single figures that leap away and back go: a sensor that jumps. Changes `values`."""
    notes = []
    for n, channel in enumerate(channels):
        most = JUMPS_K.get(channel.split(":")[0])
        if most is None or len(clock) < 3:
            continue
        v = values[:, n]
        near = np.diff(clock) <= 1800
        leap = np.abs(np.diff(v)) > most
        alone = np.flatnonzero(leap[:-1] & leap[1:] & near[:-1] & near[1:] & (np.abs(v[2:] - v[:-2]) < most)) + 1
        if alone.size:
            notes.append(f"{names[n]} jumps to {v[alone[0]]:.1f} and back; {many(alone.size, 'such value')} left out.")
            v[alone] = np.nan
    return notes


def rising(clock: Floats, values: Floats, channels: Sequence[str], names: Sequence[str]) -> list[str]:
    """Meters made to rise throughout: one that begins again at nought goes on from where it was, one that is replaced goes on from its
    first reading. Changes `values`."""
    notes = []
    for n, channel in enumerate(channels):
        if channel not in COUNTERS:
            continue
        known = np.flatnonzero(np.isfinite(values[:, n]))
        v = values[known, n]
        for k in np.flatnonzero(np.diff(v) < 0):
            was, now = values[known[k], n], values[known[k + 1], n]
            fell = was - now
            if fell <= 0:
                continue  # put right by an earlier one
            at = said_at(clock[known[k + 1]])
            if fell <= BACK_A_LITTLE_KWH:
                values[known[k + 1], n] = was
                continue
            full = next(
                (
                    float(most)
                    for most in WRAPS_AT
                    if most * NEAR_WRAP <= v[k] < most and v[k + 1] < most * (1 - NEAR_WRAP)
                ),
                None,
            )
            values[known[k + 1] :, n] += full if full is not None and was - full <= now else fell
            notes.append(
                f"{names[n]} begins again at nought after {full:,.0f} at {at}: counted on."
                if full is not None
                else f"{names[n]} falls from {v[k]:.1f} to {v[k + 1]:.1f} at {at}: taken as a new meter, counted on from there."
            )
    return notes


def copies(clock: Floats, values: Floats, channels: Sequence[str]) -> list[str]:
    """Days in a row that are the same to the last digit, in all but the meters: named, and left for who reads them to leave out."""
    plain = [n for n, channel in enumerate(channels) if channel not in COUNTERS]
    if not plain or len(clock) < 48:
        return []
    days = np.floor(clock / 86400.0).astype(int)
    starts = np.flatnonzero(np.diff(days, prepend=days[0] - 1))
    marks: list[bytes] = []
    for first, end in zip(starts, np.append(starts[1:], len(clock)), strict=True):
        block = values[first:end][:, plain]
        marks.append(np.nan_to_num(block, nan=-9e9).tobytes() if np.isfinite(block).any() else b"")
    run, notes = 1, []
    for n in range(1, len(marks) + 1):
        if n < len(marks) and marks[n] and marks[n] == marks[n - 1]:
            run += 1
            continue
        if run >= COPIES_FROM:
            notes.append(
                f"From {said_at(clock[starts[n - run]])[:10]} the same day stands {run} times to the last digit: copies are no readings."
            )
        run = 1
    return notes


def gaps(clock: Floats) -> list[str]:
    """How many there are, and the longest."""
    if len(clock) < 3:
        return []
    steps = np.diff(clock)
    usual = float(np.quantile(steps, 0.25))
    wide = np.flatnonzero(steps > max(3 * usual, 3600.0))
    if not wide.size:
        return []
    return [
        f"{many(wide.size, 'gap')}, the longest {steps[wide].max() / 3600:.1f} h, from {said_at(clock[wide[np.argmax(steps[wide])]])}."
    ]
