"""Prices by the half-hour or hour from a file: CSV with a heading, one line a step.

Columns: `from` (when the price begins: ISO 8601; without an offset it is the job's own clock) and `price` (minor units a kWh) or
`price_major` (whole units). Steps of 15, 30 or 60 minutes, some weeks or several years. It becomes the mean of every hour of
the day in every month, in standard time; what is missing is named and filled from the same hours of its month.
"""

from __future__ import annotations

import io
from dataclasses import dataclass
from typing import Any
from zoneinfo import ZoneInfo, ZoneInfoNotFoundError

import numpy as np

from cinder.errors import BadTariff, Problem, TooLarge

MAX_BYTES = 12 * 1024 * 1024
MAX_ROWS = 250_000
STEPS_MIN = (15, 30, 60)
LEAST_DAYS = 28
MOST_LACKING = 0.2
MOST_MINOR = 1000.0
SHOWN = 12
KEPT = "Nothing of it was taken; the prices of before stand."
TIMES, MINOR, MAJOR = ("from", "start", "time", "timestamp"), ("price", "price_minor"), ("price_major",)
MONTHS, HOURS = 12, 24


@dataclass(frozen=True, slots=True)
class HourPricesRead:
    """The mean price of every hour (12, 24) in minor units, and what is to be known of the file."""

    by_month: list[list[float]]
    label: str
    notes: list[str]


def read(data: bytes, *, zone: str = "UTC", label: str = "") -> HourPricesRead:
    """Prices from a file.

    Raises `TooLarge`, `BadTariff` naming lines: no such columns, no time or price, hours twice, too much missing.
    """
    import pandas as pd  # slow to import: only such a file needs it

    if len(data) > MAX_BYTES:
        raise TooLarge(f"The file has {len(data):,} bytes; at most {MAX_BYTES:,} are taken.", kept=KEPT)
    times, prices, lines = _rows(pd, data)
    clock, notes = _on_the_clock(pd, times, lines, zone)
    order = np.argsort(clock.to_numpy(), kind="stable")
    if (np.diff(order) < 0).any():
        notes.append("Its lines do not stand in the order of time; they were put in order.")
    clock, prices, lines = clock[order], prices[order], lines[order]
    minutes = np.diff(clock.to_numpy()).astype("timedelta64[m]").astype(int)
    step = int(np.bincount(minutes[minutes > 0]).argmax()) if (minutes > 0).any() else 0
    if step not in STEPS_MIN:
        raise _bad(
            f"Its steps are {step} minutes; 15, 30 or 60 can be read.", [Problem("line 3", "another step", step)]
        )
    twice = np.flatnonzero(minutes == 0)
    if twice.size:
        notes.append(f"{twice.size} times stand there twice, first at line {lines[twice[0] + 1]}: their mean is taken.")
    notes += _gaps(clock, minutes, step)
    days = (clock[-1] - clock[0]).days + 1
    if days < LEAST_DAYS:
        raise _bad(f"It runs over {days} days; at least {LEAST_DAYS} are needed.", [])
    expected = int((clock[-1] - clock[0]).total_seconds() // 60 // step) + 1
    lacking = 1 - len(clock.unique()) / expected
    if lacking > MOST_LACKING:
        raise _bad(f"{lacking:.0%} of its hours are missing; at most {MOST_LACKING:.0%} may be.", [])
    by_month, more = _means(clock, prices)
    span = f"{clock[0]:%Y-%m-%d} to {clock[-1]:%Y-%m-%d}, steps of {step} minutes"
    return HourPricesRead(
        by_month, (label or f"Prices {span}")[:200], [f"{len(prices):,} prices, {span}.", *notes, *more]
    )


def _bad(message: str, problems: list[Problem]) -> BadTariff:
    return BadTariff(message, problems=tuple(problems[:SHOWN]), kept=KEPT)


def _rows(pd: Any, data: bytes) -> tuple[Any, Any, Any]:
    """Times as text, prices in minor units, and the line of each."""
    try:
        text = data.decode("utf-8-sig")
    except UnicodeDecodeError as error:
        raise _bad(f"Not UTF-8 text: byte {error.start}.", []) from None
    first = text.split("\n", 1)[0]
    separator = ";" if first.count(";") > first.count(",") else "\t" if "\t" in first else ","
    try:
        table = pd.read_csv(io.StringIO(text), sep=separator, dtype=str, nrows=MAX_ROWS + 1, skip_blank_lines=False)
    except (ValueError, pd.errors.ParserError, pd.errors.EmptyDataError) as error:
        raise _bad(f"Not a table: {str(error)[:120]}.", []) from None
    if len(table) > MAX_ROWS:
        raise TooLarge(f"The file has more than {MAX_ROWS:,} lines.", kept=KEPT)
    table.columns = [str(name).strip().lower() for name in table.columns]
    at = next((name for name in TIMES if name in table), None)
    price = next((name for name in (*MINOR, *MAJOR) if name in table), None)
    if at is None or price is None:
        raise _bad(
            "Its first line must name the columns `from` and `price` (or `price_major`).",
            [Problem("line 1", f"has {', '.join(table.columns[:6])}")],
        )
    table["line"] = np.arange(len(table)) + 2
    table = table[table[at].notna() | table[price].notna()]
    figures = table[price].str.strip()
    if separator == ";":
        figures = figures.str.replace(",", ".", regex=False)
    values = pd.to_numeric(figures, errors="coerce").to_numpy(float) * (100.0 if price in MAJOR else 1.0)
    wrong = np.flatnonzero(~np.isfinite(values) | (np.abs(values) > MOST_MINOR))
    if wrong.size:
        raise _bad(
            f"{wrong.size} {'line has' if wrong.size == 1 else 'lines have'} no price that can be read.",
            [
                Problem(f"line {table['line'].iloc[n]}, {price}", f"is no price between -{MOST_MINOR:g} and {MOST_MINOR:g}",
                        str(table[price].iloc[n])[:40])
                for n in wrong[:SHOWN]
            ],
        )  # fmt: skip
    if not len(values):
        raise _bad("It has no line with a price.", [])
    if price not in MAJOR and 0 < np.median(np.abs(values)) < 1:
        raise _bad(
            f"Half of its prices are under 1: is it in whole units? Name the column {MAJOR[0]}.",
            [Problem(f"line 2, {price}", "looks like whole units", float(values[0]))],
        )
    return table[at], values, table["line"].to_numpy()


def _on_the_clock(pd: Any, times: Any, lines: Any, zone: str) -> tuple[Any, list[str]]:
    """Times in the zone's standard time, without its summer hour; what the clock changes did."""
    try:
        place: Any = ZoneInfo(zone)
    except (ZoneInfoNotFoundError, ValueError):
        place = ZoneInfo("UTC")
    told = times.str.strip()
    offset = told.str.contains(r"(?:Z|[+-]\d\d:?\d\d)$", regex=True, na=False)
    notes: list[str] = []
    try:
        if offset.all():
            local = pd.DatetimeIndex(pd.to_datetime(told, utc=True, format="ISO8601")).tz_convert(place)
        else:
            naive = pd.DatetimeIndex(pd.to_datetime(told, format="ISO8601"))
            # of an hour that comes twice in autumn the first is summer's
            first = ~naive.duplicated(keep="first")
            local = naive.tz_localize(place, ambiguous=first, nonexistent="NaT")
            gone = np.flatnonzero(local.isna())
            if gone.size:
                notes.append(
                    f"{gone.size} of its times fall into the hour that a clock change leaves out, first at line "
                    f"{lines[gone[0]]} ({naive[gone[0]]:%Y-%m-%d %H:%M}): they were taken an hour later."
                )
                local = naive.tz_localize(place, ambiguous=first, nonexistent=pd.Timedelta(hours=1))
    except (ValueError, TypeError, OverflowError):
        stamps = pd.to_datetime(told, errors="coerce", format="ISO8601", utc=True)
        wrong = np.flatnonzero(stamps.isna().to_numpy())
        problems = [
            Problem(f"line {lines[n]}, from", "is no time as 2025-01-31T13:30", str(times.iloc[n])[:40])
            for n in wrong[:SHOWN]
        ]
        raise _bad(
            f"{wrong.size or 'Some'} of its times cannot be read."
            if wrong.size
            else "Some of its times have an offset and some have not.",
            problems,
        ) from None
    summer = pd.TimedeltaIndex([one.dst() or pd.Timedelta(0) for one in local])
    if (summer > pd.Timedelta(0)).any() and not offset.all():
        notes.append(f"Its times are the clock's of {zone}; the summer hour was taken out.")
    return local.tz_localize(None) - summer, notes


def _gaps(clock: Any, minutes: Any, step: int) -> list[str]:
    """What is missing, with its place."""
    at = np.flatnonzero(minutes > step)
    if not at.size:
        return []
    hours = sum(int(minutes[n]) - step for n in at) / 60
    said = [f"{clock[n]:%Y-%m-%d %H:%M} to {clock[n + 1]:%Y-%m-%d %H:%M}" for n in at[: SHOWN // 2]]
    more = f" and {at.size - len(said)} more" if at.size > len(said) else ""
    return [
        f"{hours:g} hours are missing in {at.size} {'gap' if at.size == 1 else 'gaps'} (standard time): {'; '.join(said)}{more}. "
        "The mean of the same hours of that month stands for them."
    ]


def _means(clock: Any, prices: Any) -> tuple[list[list[float]], list[str]]:
    """The mean of every hour of the day in every month; a month without any takes the mean of the others."""
    total, count = np.zeros((MONTHS, HOURS)), np.zeros((MONTHS, HOURS))
    np.add.at(total, (clock.month - 1, clock.hour), prices)
    np.add.at(count, (clock.month - 1, clock.hour), 1)
    notes = []
    empty = np.flatnonzero(count.sum(axis=1) == 0)
    by_hour = total.sum(axis=0) / np.maximum(count.sum(axis=0), 1)
    mean = np.where(count > 0, total / np.maximum(count, 1), by_hour)
    if empty.size:
        notes.append(
            f"It has no price of {empty.size} months ({', '.join(str(n + 1) for n in empty)}): the mean of the others stands there."
        )
    return [[round(float(value), 3) for value in row] for row in mean], notes
