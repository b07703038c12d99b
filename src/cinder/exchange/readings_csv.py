"""Readings from a file: CSV with a heading, one line a moment; which column is which is guessed from its name and may be said.

Times: ISO 8601, with or without an offset (without one they are the house's own clock, summer time and all), or day.month.year with a
time. Separators comma, semicolon, tab; decimals point or comma. What cannot be (an outdoor 85) is left out, named and counted.
"""

from __future__ import annotations

import io
import re
from collections.abc import Mapping, Sequence
from dataclasses import dataclass
from datetime import datetime
from typing import Any
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np

from cinder.errors import BadReadings, Problem, TooLarge

MAX_BYTES = 32 * 1024 * 1024
MAX_ROWS = 100_000
SHOWN = 12
KEPT = "Nothing of it was taken; the readings of before stand."
TIME = "time"
LIMITS = {
    "outdoor_c": (-60.0, 50.0), "supply_c": (-10.0, 95.0), "return_c": (-10.0, 95.0), "flow_lph": (0.0, 20000.0), "electric_w": (0.0, 30000.0),
    "heat_w": (-30000.0, 60000.0), "electric_kwh": (0.0, 4e7), "heat_kwh": (0.0, 4e7), "wanted_c": (0.0, 95.0), "sun_w_m2": (0.0, 1500.0),
    "room": (-20.0, 60.0), "tail": (-20.0, 95.0), "mode": (0.0, 3.0),
}  # fmt: skip
"""Beyond these a figure is not believed."""
JUMPS_K = {"outdoor_c": 12.0, "room": 8.0}
"""More than this between two moments within half an hour is a sensor that jumps."""
NAMES = (
    (TIME, r"^(date ?/? ?)?(time|timestamp|moment|at|from|date|datetime)"), ("outdoor_c", r"out(door|side)|ambient|external"),
    ("wanted_c", r"(wanted|target|set ?point|asked).*(flow|water|supply)|(flow|water|supply).*(wanted|target|set ?point|asked)"),
    ("sun_w_m2", r"sun|solar|irradi|ghi"),
    ("electric_kwh", r"(elec|power|energy in|consum).*kwh|kwh.*(elec|in\b)"),
    ("heat_kwh", r"heat.*kwh|kwh.*heat"), ("flow_lph", r"(l/?h|l per h|lph|litres|flow rate|volume)"),
    ("electric_w", r"elec|power.*\bw\b|consumption"),
    ("heat_w", r"heat (output|power)|\bheat\b.*\bw\b"), ("return_c", r"^return|return (temp|water)|^rtn"),
    ("supply_c", r"^flow|^supply|(flow|supply) (temp|water)|leaving"), ("mode", r"^mode$"),
)  # fmt: skip
"""Channels by what a column may be called, tried in this order after the rooms' own names."""


@dataclass(frozen=True, slots=True)
class Column:
    """A column of the file: what it seems to be (empty: nothing known), and its first value."""

    name: str
    channel: str
    sample: str


@dataclass(frozen=True, slots=True)
class ReadingsRead:
    """Moments (universal time, seconds since 1970) with their figures by channel, and what is to be known of the file."""

    columns: list[Column]
    channels: list[str]
    at_s: list[float]
    figures: list[list[float | None]]
    notes: list[str]
    first: str = ""
    last: str = ""


def read(
    data: bytes,
    *,
    zone: str = "UTC",
    rooms: Mapping[str, str] | None = None,
    mapped: Mapping[str, str] | None = None,
    only_look: bool = False,
) -> ReadingsRead:
    """Readings of a file. `rooms`: ids by the names rooms are called; `mapped`: channels by column where somebody said ("" leaves it out).

    Raises `TooLarge`, `BadReadings` naming lines: no time, nothing known, a time or a figure that cannot be read.
    """
    import pandas as pd  # slow to import: only such a file needs it

    if len(data) > MAX_BYTES:
        raise TooLarge(f"The file has {len(data):,} bytes; at most {MAX_BYTES:,} are taken.", kept=KEPT)
    table, decimal = _table(pd, data)
    columns = [
        Column(name, (mapped or {}).get(name, _guess(name, rooms or {})), _sample(table[name]))
        for name in table.columns
        if name != "line"
    ]
    if mapped:
        unknown = [name for name in mapped if name not in table.columns]
        if unknown:
            raise _bad(f"There is no column {unknown[0]!r} in the file.", [])
    at = next((one.name for one in columns if one.channel == TIME), None)
    if at is None:
        raise _bad("No column is a time: its heading may be time, timestamp or date, or say which it is.",
                   [Problem("line 1", f"has {', '.join(one.name for one in columns[:8])}")])  # fmt: skip
    used = [one for one in columns if one.channel not in ("", TIME)]
    twice = {one.channel for one in used if sum(1 for other in used if other.channel == one.channel) > 1}
    if twice and not only_look:
        names = [one.name for one in used if one.channel in twice]
        raise _bad(f"Two columns would be the same: {', '.join(names)}. Say which is which.", [])
    if only_look:
        return ReadingsRead(columns, [one.channel for one in used], [], [], [_many(len(table), "line") + "."])
    if not used:
        raise _bad("None of its columns is known: say which is which.", [])
    clock, notes = _on_the_clock(pd, table[at], table["line"].to_numpy(), zone)
    figures: dict[str, Any] = {}
    for one in used:
        figures[one.channel], said = _numbers(pd, table[one.name], table["line"].to_numpy(), one, decimal)
        notes += said
    order = np.argsort(clock, kind="stable")
    if (np.diff(order) < 0).any():
        notes.append("Its lines do not stand in the order of time; they were put in order.")
    clock = clock[order]
    values = np.stack([figures[one.channel][order] for one in used], axis=1)
    same = np.flatnonzero(np.diff(clock) == 0)
    if same.size:
        notes.append(f"{_many(same.size, 'moment')} given twice; the later line is taken.")
        keep = np.append(np.diff(clock) != 0, True)
        clock, values = clock[keep], values[keep]
    values, jumped = _jumps(clock, values, [one.channel for one in used], [one.name for one in used])
    notes += jumped + _gaps(clock)
    return ReadingsRead(
        columns, [one.channel for one in used], clock.tolist(), [[v if np.isfinite(v) else None for v in row] for row in values.tolist()],
        notes, _said(clock[0]), _said(clock[-1]),
    )  # fmt: skip


def _said(at: float) -> str:
    return datetime.fromtimestamp(at, tz=ZoneInfo("UTC")).isoformat().replace("+00:00", "Z")


def _bad(message: str, problems: Sequence[Problem]) -> BadReadings:
    return BadReadings(message, problems=tuple(problems[:SHOWN]), kept=KEPT)


def _table(pd: Any, data: bytes) -> tuple[Any, str]:
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise _bad(f"Not UTF-8 text: byte {error.start}.", []) from None
    if "\x00" in text:
        raise _bad("Text holds U+0000: this is no CSV.", [])
    first = text.split("\n", 1)[0]
    separator = ";" if first.count(";") > first.count(",") else "\t" if "\t" in first else ","
    try:
        table = pd.read_csv(io.StringIO(text), sep=separator, dtype=str, nrows=MAX_ROWS + 1, skip_blank_lines=False)
    except (ValueError, pd.errors.ParserError, pd.errors.EmptyDataError) as error:
        raise _bad(f"Not a table: {str(error)[:120]}.", []) from None
    if len(table) > MAX_ROWS:
        raise TooLarge(f"The file has more than {MAX_ROWS:,} lines.", kept=KEPT)
    if len(table.columns) > 700:
        raise TooLarge("The file has more than 700 columns.", kept=KEPT)
    table.columns = [str(name).strip() for name in table.columns]
    table["line"] = np.arange(len(table)) + 2
    filled = table.drop(columns="line").notna().any(axis=1)
    table = table[filled]
    if table.empty:
        raise _bad("There is no line below its heading.", [])
    # a comma between digits is a decimal sign wherever it does not part the columns
    return table, "," if separator != "," else "."


def _guess(name: str, rooms: Mapping[str, str]) -> str:
    plain = re.sub(r"[_.]+", " ", name).strip().lower()
    bare = re.sub(r"\s*[\[(].*?[\])]\s*", " ", plain).strip()
    bare = re.sub(r"\s+(c|°c|f|°f|temp(erature)?)$", "", bare).strip()
    for label, key in rooms.items():
        if bare == label.strip().lower():
            return f"room:{key}"
    return next((channel for channel, pattern in NAMES if re.search(pattern, plain)), "")


def _sample(column: Any) -> str:
    known = column.dropna()
    return str(known.iloc[0])[:40] if len(known) else ""


def _on_the_clock(pd: Any, column: Any, lines: Any, zone: str) -> tuple[Any, list[str]]:
    """Moments as seconds since 1970; without an offset they are the house's clock."""
    try:
        clock = ZoneInfo(zone)
    except (ZoneInfoNotFoundError, ValueError):
        clock = ZoneInfo("UTC")
    text = column.fillna("").str.strip()
    dotted = text.str.match(r"^\d{1,2}\.\d{1,2}\.\d{4}")
    moments = (
        pd.to_datetime(text.where(~dotted), utc=False, errors="coerce", format="ISO8601")
        if not text.str.contains(r"[+-]\d\d:?\d\d$|Z$").any()
        else None
    )
    notes: list[str] = []
    if moments is None:
        moments = pd.to_datetime(text, utc=True, errors="coerce", format="ISO8601")
        local = False
    else:
        if dotted.any():
            moments = moments.fillna(pd.to_datetime(text.where(dotted), dayfirst=True, errors="coerce", format="mixed"))
        local = True
    wrong = np.flatnonzero(moments.isna().to_numpy())
    if wrong.size:
        raise _bad(
            f"{wrong.size} {'line has' if wrong.size == 1 else 'lines have'} no time that can be read.",
            [Problem(f"line {lines[n]}, {column.name}", "is no time", str(column.iloc[n])[:40]) for n in wrong[:SHOWN]],
        )
    if local:
        index = pd.DatetimeIndex(moments)
        try:
            placed = index.tz_localize(clock, ambiguous="infer", nonexistent="shift_forward")
        except ValueError:
            placed = index.tz_localize(clock, ambiguous=np.zeros(len(index), dtype=bool), nonexistent="shift_forward")
            notes.append("The hour that comes twice in autumn stands there once: it is taken as winter time.")
        notes.append(f"Times without an offset: taken as the clock of {zone}.")
        moments = placed.tz_convert("UTC")
    else:
        moments = pd.DatetimeIndex(moments)
    return moments.as_unit("s").asi8.astype(float), notes


def _numbers(pd: Any, column: Any, lines: Any, one: Column, decimal: str) -> tuple[Any, list[str]]:
    text = column.fillna("").str.strip()
    if decimal == ",":
        text = text.str.replace(",", ".", regex=False)
    values = pd.to_numeric(text.where(text != ""), errors="coerce").to_numpy(float)
    wrong = np.flatnonzero(~np.isfinite(values) & (text != "").to_numpy())
    if wrong.size > max(3, 0.02 * len(values)):
        raise _bad(
            f"{one.name}: {wrong.size} values are no numbers.",
            [Problem(f"line {lines[n]}, {one.name}", "is no number", str(column.iloc[n])[:40]) for n in wrong[:SHOWN]],
        )
    if re.search(r"°f|\bf\)|_f$|fahrenheit", one.name.lower()):
        values = (values - 32.0) / 1.8
    if re.search(r"\bkw\b", one.name.lower().replace("kwh", "")) and one.channel in ("electric_w", "heat_w"):
        values = values * 1000.0
    low, high = LIMITS[one.channel.split(":")[0]]
    beyond = np.flatnonzero((values < low) | (values > high))
    notes = []
    if wrong.size:
        notes.append(
            f"{one.name}: {_many(wrong.size, 'value')} that cannot be read as a number, first at line {lines[wrong[0]]}; left out."
        )
    if beyond.size:
        n = beyond[0]
        notes.append(
            f"{one.name}: {values[n]:g} at line {lines[n]} cannot be; {_many(beyond.size, 'such value')} left out."
        )
        values = values.copy()
        values[beyond] = np.nan
    return values, notes


def _jumps(clock: Any, values: Any, channels: Sequence[str], names: Sequence[str]) -> tuple[Any, list[str]]:
    """Single figures that leap away and back: a sensor that jumps."""
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
            notes.append(f"{names[n]} jumps to {v[alone[0]]:.1f} and back; {_many(alone.size, 'such value')} left out.")
            v[alone] = np.nan
    return values, notes


def _many(count: int, what: str) -> str:
    return f"{count} {what}{'s' if count != 1 else ''}"


def _gaps(clock: Any) -> list[str]:
    if len(clock) < 3:
        return []
    steps = np.diff(clock)
    usual = float(np.quantile(steps, 0.25))
    wide = np.flatnonzero(steps > max(3 * usual, 3600.0))
    if not wide.size:
        return []
    return [
        f"{_many(wide.size, 'gap')}, the longest {steps[wide].max() / 3600:.1f} h, from {_said(clock[wide[np.argmax(steps[wide])]])}."
    ]
