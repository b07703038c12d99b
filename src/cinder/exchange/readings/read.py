"""Readings from a file with a heading, one line a moment; which column is which is guessed from its name and may be said.

Times: ISO 8601, with or without an offset (without one they are the house's own clock, summer time and all), or day.month.year with a
time. Separators comma, semicolon, tab; decimals point or comma; the first sheet of a workbook. What cannot be (an outdoor 85) is left out,
named and counted. A long file is read piece by piece.
"""

from __future__ import annotations

import hashlib
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass, field
from pathlib import Path
from typing import Any
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np
from numpy.typing import NDArray

from cinder.errors import Problem
from cinder.exchange.readings import series
from cinder.exchange.readings.frames import LINE, SHOWN, Head, bad, frames
from cinder.exchange.readings.names import TIME, fahrenheit, guess, limits, scale
from cinder.exchange.readings.series import many, said_at

AT, FIGURES = "at.npy", "figures.npy"


@dataclass(frozen=True, slots=True)
class Column:
    """A column of the file: what it seems to be (empty: nothing known), and its first value."""

    name: str
    channel: str
    sample: str


@dataclass(frozen=True, slots=True)
class ReadingsRead:
    """Moments (N,) in seconds since 1970, universal time, with their figures (N, channels), NaN where there is none, and what is to be
    known of the file. `heads`: fingerprint of its heading."""

    columns: list[Column]
    channels: list[str]
    at_s: NDArray[np.float64]
    figures: NDArray[np.float64]
    notes: list[str]
    heads: str
    first: str = ""
    last: str = ""


@dataclass(slots=True)
class _Taken:
    """A column as it comes in: its figures, and what was wrong with it."""

    name: str
    channel: str
    parts: list[NDArray[np.float64]] = field(default_factory=list)
    wrong: int = 0
    wrong_at: list[Problem] = field(default_factory=list)
    beyond: int = 0
    beyond_at: str = ""


def heads_of(names: Sequence[str]) -> str:
    """By what a heading is known again."""
    return hashlib.sha256("\n".join(names).encode()).hexdigest()


def look(source: bytes | Path, *, rooms: Mapping[str, str] | None = None) -> ReadingsRead:
    """What the columns of a file seem to be; only its beginning is read. Raises as `read` does."""
    head, pieces = frames(source)
    first = next(pieces, None)
    if first is None or first.empty:
        raise bad("There is no line below its heading.")
    columns = _columns(head, first, rooms or {}, None)
    if not any(one.channel == TIME for one in columns):  # whatever it is called, a column of moments looks like one
        at = next((n for n, one in enumerate(columns) if not one.channel and _is_moment(one.sample)), None)
        if at is not None:
            columns[at] = Column(columns[at].name, TIME, columns[at].sample)
    used = [one.channel for one in columns if one.channel not in ("", TIME)]
    return ReadingsRead(columns, used, np.zeros(0), np.zeros((0, len(used))), [], heads_of(head.names))


def read(
    source: bytes | Path, *, zone: str = "UTC", rooms: Mapping[str, str] | None = None, mapped: Mapping[str, str] | None = None,
) -> ReadingsRead:  # fmt: skip
    """Readings of a file. `rooms`: ids by the names rooms are called; `mapped`: channels by column where somebody said ("" leaves it out).

    Raises `TooLarge`, `BadReadings` naming lines: no time, nothing known, a time or a figure that cannot be read, two columns of one name.
    """
    head, pieces = frames(source)
    if mapped:
        unknown = [name for name in mapped if name not in head.names]
        if unknown:
            raise bad(f"There is no column {unknown[0]!r} in the file.")
    columns: list[Column] = []
    taken: list[_Taken] = []
    moments: list[Any] = []
    lines: list[NDArray[np.int64]] = []
    offset: bool | None = None
    for table in pieces:
        if table.empty:
            continue
        if not columns:
            columns = _columns(head, table, rooms or {}, mapped)
            at = _time_of(columns)
            taken = [_Taken(one.name, one.channel) for one in _used(columns)]
        place = table[LINE].to_numpy()
        found, with_offset = _moments(table[at], place)
        if offset is not None and with_offset != offset:
            raise bad(f"From line {place[0]} on times are written another way: with an offset, or all without one.")
        offset = with_offset
        moments.append(found)
        lines.append(place)
        for one in taken:
            one.parts.append(_numbers(table[one.name], place, one))
    if not columns:
        raise bad("There is no line below its heading.")
    at_line = np.concatenate(lines)
    clock, notes = _on_the_clock(moments, zone, local=not offset)
    for one in taken:
        notes += _told(one, len(clock))
    names, channels = [one.name for one in taken], [one.channel for one in taken]
    values = np.empty((len(clock), len(taken)))
    for n, one in enumerate(taken):
        values[:, n] = np.concatenate(one.parts)
        one.parts.clear()
    clock, values, said = series.in_order(clock, values, at_line)
    notes += said
    notes += series.without_jumps(clock, values, channels, names)
    notes += series.rising(clock, values, channels, names)
    notes += series.copies(clock, values, channels) + series.gaps(clock)
    return ReadingsRead(
        columns, channels, clock, values, notes, heads_of(head.names), said_at(clock[0]), said_at(clock[-1])
    )


def read_into(
    source: Path, folder: Path, *, zone: str = "UTC", rooms: Mapping[str, str] | None = None, mapped: Mapping[str, str] | None = None,
) -> ReadingsRead:  # fmt: skip
    """As `read`; moments and figures are left in a folder (`AT`, `FIGURES`), so that a long file need not come back through a pipe."""
    found = read(source, zone=zone, rooms=rooms, mapped=mapped)
    np.save(folder / AT, found.at_s)
    np.save(folder / FIGURES, found.figures)
    none = np.zeros(0)
    return ReadingsRead(found.columns, found.channels, none, none, found.notes, found.heads, found.first, found.last)


def _columns(head: Head, table: Any, rooms: Mapping[str, str], mapped: Mapping[str, str] | None) -> list[Column]:
    return [Column(name, (mapped or {}).get(name, guess(name, rooms)), _sample(table[name])) for name in head.names]


def _sample(column: Any) -> str:
    known = column.dropna()
    return str(known.iloc[0])[:40] if len(known) else ""


def _is_moment(text: str) -> bool:
    """Whether something reads as a moment with its date.

    >>> _is_moment("01.02.2025 07:30"), _is_moment("2025-02-01T07:30Z"), _is_moment("20.5")
    (True, True, False)
    """
    return re.match(r"^(\d{4}-\d{2}-\d{2}|\d{1,2}\.\d{1,2}\.\d{4})([T ]\d{1,2}:\d{2}|$)", text.strip()) is not None


def _time_of(columns: Sequence[Column]) -> str:
    at = next((one.name for one in columns if one.channel == TIME), None)
    if at is None:
        raise bad(
            "No column is a time: its heading may be time, timestamp or date, or say which it is.",
            [Problem("line 1", f"has {', '.join(one.name for one in columns[:8])}")],
        )
    return at


def _used(columns: Sequence[Column]) -> list[Column]:
    used = [one for one in columns if one.channel not in ("", TIME)]
    twice = {one.channel for one in used if sum(1 for other in used if other.channel == one.channel) > 1}
    if twice:
        names = [one.name for one in used if one.channel in twice]
        raise bad(f"Two columns would be the same: {', '.join(names)}. Say which is which.")
    if not used:
        raise bad("None of its columns is known: say which is which.")
    for one in used:
        try:
            limits(one.channel)
        except KeyError:
            raise bad(f"{one.name}: there is no channel {one.channel!r}.") from None
    return used


def _moments(column: Any, lines: NDArray[np.int64]) -> tuple[Any, bool]:
    """Moments of a piece, and whether they carry an offset (then they are universal time)."""
    import pandas as pd

    text = column.astype(str).where(column.notna(), "").str.strip()
    offset = bool(text.str.contains(r"[+-]\d\d:?\d\d$|Z$").any())
    if offset:
        found = pd.to_datetime(text, utc=True, errors="coerce", format="ISO8601")
    else:
        dotted = text.str.match(r"^\d{1,2}\.\d{1,2}\.\d{4}")
        found = pd.to_datetime(text.where(~dotted), utc=False, errors="coerce", format="ISO8601")
        if dotted.any():
            found = found.fillna(pd.to_datetime(text.where(dotted), dayfirst=True, errors="coerce", format="mixed"))
    wrong = np.flatnonzero(found.isna().to_numpy())
    if wrong.size:
        raise bad(
            f"{wrong.size} {'line has' if wrong.size == 1 else 'lines have'} no time that can be read.",
            [Problem(f"line {lines[n]}, {column.name}", "is no time", str(text.iloc[n])[:40]) for n in wrong[:SHOWN]],
        )
    return pd.DatetimeIndex(found).as_unit("s").tz_localize(None), offset


def _on_the_clock(moments: list[Any], zone: str, *, local: bool) -> tuple[NDArray[np.float64], list[str]]:
    """Seconds since 1970; without an offset they are the house's clock."""
    import pandas as pd

    index = moments[0].append(moments[1:]) if len(moments) > 1 else moments[0]
    if not local:
        return index.asi8.astype(float), []
    try:
        clock = ZoneInfo(zone)
    except (ZoneInfoNotFoundError, ValueError):
        clock = ZoneInfo("UTC")
    notes = [f"Times without an offset: taken as the clock of {zone}."]
    try:
        placed = index.tz_localize(clock, ambiguous="infer", nonexistent="shift_forward")
    except ValueError:
        placed = index.tz_localize(clock, ambiguous=np.zeros(len(index), dtype=bool), nonexistent="shift_forward")
        notes.insert(0, "The hour that comes twice in autumn stands there once: it is taken as winter time.")
    return pd.DatetimeIndex(placed.tz_convert("UTC")).as_unit("s").asi8.astype(float), notes


def _numbers(column: Any, lines: NDArray[np.int64], one: _Taken) -> NDArray[np.float64]:
    """Figures of a piece in our units; what is no number, or cannot be, is noted and left out."""
    import pandas as pd

    if pd.api.types.is_numeric_dtype(column.dtype) and column.dtype != bool:
        values: NDArray[np.float64] = column.to_numpy(float, na_value=np.nan).copy()
    else:
        text = column.astype(str).where(column.notna(), "").str.strip()
        plain = text.str.replace(",", ".", regex=False) if not text.str.contains(r"\d,\d.*\.|\.\d.*,").any() else text
        values = pd.to_numeric(plain.where(plain != ""), errors="coerce").to_numpy(float).copy()
        wrong = np.flatnonzero(~np.isfinite(values) & (text != "").to_numpy())
        one.wrong += wrong.size
        for n in wrong[: SHOWN - len(one.wrong_at)]:
            one.wrong_at.append(Problem(f"line {lines[n]}, {one.name}", "is no number", str(text.iloc[n])[:40]))
    values[~np.isfinite(values)] = np.nan
    if fahrenheit(one.name):
        values = (values - 32.0) / 1.8
    values *= scale(one.name, one.channel)
    low, high = limits(one.channel)
    beyond = np.flatnonzero((values < low) | (values > high))
    if beyond.size:
        if not one.beyond:
            one.beyond_at = f"{values[beyond[0]]:g} at line {lines[beyond[0]]}"
        one.beyond += beyond.size
        values[beyond] = np.nan
    return values


def _told(one: _Taken, count: int) -> list[str]:
    """What was wrong with a column; raises where too much of it was."""
    if one.wrong > max(3, 0.02 * count):
        raise bad(f"{one.name}: {one.wrong} values are no numbers.", one.wrong_at)
    notes = []
    if one.wrong:
        place = one.wrong_at[0].path.split(",")[0]
        notes.append(
            f"{one.name}: {many(one.wrong, 'value')} that cannot be read as a number, first at {place}; left out."
        )
    if one.beyond:
        notes.append(f"{one.name}: {one.beyond_at} cannot be; {many(one.beyond, 'such value')} left out.")
    return notes
