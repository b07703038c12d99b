"""Hours of a weather file: each in its place of the year, short gaps bridged and said, and the climate they make."""

from __future__ import annotations

import csv

import numpy as np
from numpy.typing import NDArray

from cinder.errors import BadWeather, Problem
from cinder.library import ClimateEntry, HourlyYear
from cinder.library.years import COLUMNS, HOURS, sha256_of
from cinder.physics.climate.weather import MONTH_DAYS, bins, coldest, monthly_means_c
from cinder.physics.quantity import Array

MAX_LINES = 9500
"""Of a year of hours with its heading; a file of more is refused by what it holds, one of many more unread."""
LEAST_C, GREATEST_C = -70.0, 60.0
LONGEST_GAP_H = 6
MOST_MISSING = 72
SHOWN = 8
FIRST_OF_MONTH = np.concatenate([[0], np.cumsum(MONTH_DAYS)])[:12]
Stamp = tuple[int, int, int, int, int]
"""Line of the file, year, month, day, hour ending (1..24)."""


def data_rows(lines: list[str], header: int) -> list[tuple[int, list[str]]]:
    """Data rows with the number of their line."""
    if len(lines) > MAX_LINES:
        raise BadWeather(f"{len(lines):,} lines; a year of hours has {HOURS:,} and a heading.")
    rows = [(n + 1, row) for n, row in enumerate(csv.reader(lines)) if row and any(row)]
    return [(n, row) for n, row in rows if n > header]


def bad_line(line: int, what: str) -> BadWeather:
    return BadWeather(f"Line {line} of the weather file {what}.", problems=(Problem(f"line {line}", what),))


def number_in(text: str, line: int) -> float:
    try:
        return float(text)
    except ValueError:
        raise bad_line(line, f"holds {text[:20]!r} where a number belongs") from None


def whole_in(text: str, line: int) -> int:
    return int(number_in(text, line))


def places_of(stamps: list[Stamp]) -> tuple[list[int | None], list[str]]:
    """Hour of an ordinary year (0..8759) of every row; None for the leap day. Refuses hours twice or out of order."""
    notes: list[str] = []
    out: list[int | None] = []
    leap = 0
    last = -1
    for line, _, month, day, hour in stamps:
        if not (1 <= month <= 12 and 1 <= day <= 31 and 1 <= hour <= 24):
            raise bad_line(line, f"names no hour of a year: month {month}, day {day}, hour {hour}")
        if (month, day) == (2, 29):
            leap += 1
            out.append(None)
            continue
        if day > MONTH_DAYS[month - 1]:
            raise bad_line(line, f"names a day that month does not have: {day} in month {month}")
        place = int((FIRST_OF_MONTH[month - 1] + day - 1) * 24 + hour - 1)
        if place <= last:
            what = "comes twice" if place == last else "runs backwards"
            raise bad_line(line, f"{what}: month {month}, day {day}, hour {hour}")
        last = place
        out.append(place)
    if leap:
        notes.append(f"29 February ({leap} hours) is left out: a year is reckoned with 365 days.")
    lacking = HOURS - sum(place is not None for place in out)
    if lacking > MOST_MISSING:
        raise BadWeather(
            f"The file has {HOURS - lacking:,} hours; a year has {HOURS:,}.",
            problems=tuple(gaps_of(stamps, out)[:SHOWN]),
        )
    return out, notes


def gaps_of(stamps: list[Stamp], places: list[int | None]) -> list[Problem]:
    """Where hours are missing, with the line before which they lack."""
    found: list[Problem] = []
    expected = 0
    for (line, *_), place in zip(stamps, places, strict=True):
        if place is None:
            continue
        if place > expected:
            found.append(Problem(f"line {line}", f"{place - expected} hours lack before it, from {hour_of(expected)}"))
        expected = place + 1
    if expected < HOURS:
        found.append(Problem("end of file", f"{HOURS - expected} hours lack, from {hour_of(expected)}"))
    return found


def hour_of(place: int) -> str:
    month = int(np.searchsorted(FIRST_OF_MONTH, place // 24, side="right"))
    return f"{place // 24 - int(FIRST_OF_MONTH[month - 1]) + 1}.{month}. {place % 24:02d}:00"


def whole_year(
    columns: list[Array], missing: list[NDArray[np.bool_]], at: Array, stamps: list[Stamp]
) -> tuple[HourlyYear, list[str]]:
    """Every hour of the year from the rows that are there; short gaps are bridged, and said."""
    notes: list[str] = []
    out = []
    for n, (name, values, gone) in enumerate(zip(COLUMNS, columns, missing, strict=True)):
        whole = np.full(HOURS, np.nan)
        whole[at] = np.where(gone, np.nan, values)
        lack = np.isnan(whole)
        if lack.any():
            check_bridgeable(name, lack, stamps, at)
            hours = np.arange(HOURS)
            whole[lack] = np.interp(hours[lack], hours[~lack], whole[~lack], period=HOURS)
            notes.append(
                f"{int(lack.sum())} hours of {WORDS[n]} were missing and are bridged, the first {hour_of(int(np.argmax(lack)))}."
            )
        out.append(whole)
    check_possible(out[0], lines_of(stamps, at))
    for n in (1, 2, 3):
        if (out[n] < -1e-6).any():
            notes.append(f"Negative {WORDS[n]} is taken as none.")
            out[n] = np.maximum(out[n], 0.0)
    return HourlyYear(*out), notes


WORDS = ("outdoor temperature", "sun on the level", "direct sun", "sky light")


def lines_of(stamps: list[Stamp], at: Array) -> list[Stamp]:
    by_place = {int(place): stamp for place, stamp in zip(at, stamps, strict=True)}
    return [by_place.get(n, (0, 0, 0, 0, 0)) for n in range(HOURS)]


def check_bridgeable(name: str, lack: Array, stamps: list[Stamp], at: Array) -> None:
    """Refuse a column with too much missing: more than three days in all, or of temperature more than six hours running."""
    total = int(lack.sum())
    run, longest, end = 0, 0, 0
    for n, gone in enumerate(lack):
        run = run + 1 if gone else 0
        if run > longest:
            longest, end = run, n
    most = HOURS // 20 if name != "outdoor_c" else MOST_MISSING
    if total <= most and (name != "outdoor_c" or longest <= LONGEST_GAP_H):
        return
    by_place = {int(place): stamp[0] for place, stamp in zip(at, stamps, strict=True)}
    line = by_place.get(end - longest + 1)
    where = f"line {line}" if line else hour_of(end - longest + 1)
    word = WORDS[COLUMNS.index(name)]
    raise BadWeather(
        f"{total} hours of {word} are missing, up to {longest} running.",
        problems=(Problem(where, f"here {longest} hours of {word} are missing (a sentinel value, or no line)"),),
    )


def check_possible(outdoor_c: Array, stamps: list[Stamp]) -> None:
    wrong = np.nonzero((outdoor_c < LEAST_C) | (outdoor_c > GREATEST_C) | ~np.isfinite(outdoor_c))[0]
    if len(wrong):
        problems = tuple(
            Problem(f"line {stamps[n][0]}", f"{outdoor_c[n]:g} °C cannot be", float(outdoor_c[n]))
            for n in wrong[:SHOWN]
        )
        raise BadWeather(
            f"{len(wrong)} outdoor temperatures lie outside {LEAST_C:g} to {GREATEST_C:g} °C.", problems=problems
        )


def said_of(entry: ClimateEntry) -> list[str]:
    notes = []
    if entry.typical:
        notes.append(
            "A year put together of months from several years: it understates extremes by 2 to 3 K."
            + (" The header's long-term design temperature is used." if entry.long_term_p996_c is not None else
               " Enter a national design temperature if there is one.")
        )  # fmt: skip
    if entry.latitude_deg is not None and entry.latitude_deg < 0:
        notes.append("South of the equator: the heating season lies in the middle of the year.")
    return notes


def climate_of(
    year: HourlyYear,
    label: str,
    *,
    typical: bool,
    source: str,
    latitude_deg: float | None,
    longitude_deg: float | None,
    utc_offset_h: float,
    altitude_m: float | None,
    long_term: tuple[float, float] | None = None,
) -> ClimateEntry:
    cold = coldest(year.outdoor_c)
    values, hours = bins(year.outdoor_c)
    sha256 = sha256_of(year.write())
    return ClimateEntry(
        id=f"weather-{sha256[:16]}",
        label=label[:300],
        design_c=round(long_term[0] if long_term else cold.p996_c, 1),
        annual_mean_c=round(float(year.outdoor_c.mean()), 2),
        bin_outdoor_c=values.tolist(),
        bin_hours=hours.tolist(),
        synthetic=False,
        source=source,
        latitude_deg=latitude_deg,
        longitude_deg=longitude_deg,
        utc_offset_h=float(utc_offset_h),
        altitude_m=altitude_m,
        monthly_mean_c=[round(float(m), 2) for m in monthly_means_c(year.outdoor_c)],
        p996_c=round(cold.p996_c, 2),
        p99_c=round(cold.p99_c, 2),
        day_c=round(cold.day_c, 2),
        three_days_c=round(cold.three_days_c, 2),
        long_term_p996_c=long_term[0] if long_term else None,
        long_term_p99_c=long_term[1] if long_term else None,
        typical=typical,
        year_sha256=sha256,
    )
