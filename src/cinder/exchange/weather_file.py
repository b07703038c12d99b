"""Hourly weather in and out: EPW and TMY3 (read by pvlib, checked here line by line), and our own plain CSV."""

from __future__ import annotations

import csv
import io
import re
from dataclasses import dataclass, field

import numpy as np
from numpy.typing import NDArray

from cinder.errors import BadWeather, LibraryError, Problem, TooLarge
from cinder.library import ClimateEntry, HourlyYear
from cinder.library.years import COLUMNS, HOURS, read, sha256_of
from cinder.physics.quantity import Array
from cinder.physics.weather import MONTH_DAYS, bins, coldest, monthly_means_c

MAX_LINES = 9500
"""Of a year of hours with its heading; a file of more is refused by what it holds, one of many more unread."""
LEAP_YEAR = 2000  # so that a leap day in the file can be read, and then left out
MAX_BYTES = 8 * 1024 * 1024
MAX_LINES_READ = 20_000
EPW_HEADER_LINES = 8
TMY3_HEADER_LINES = 2
EPW_FIELDS = 16
LEAST_C, GREATEST_C = -70.0, 60.0
EPW_MISSING_C, EPW_MISSING_SUN = 99.9, 9999.0
LONGEST_GAP_H = 6
MOST_MISSING = 72
SHOWN = 8
FIRST_OF_MONTH = np.concatenate([[0], np.cumsum(MONTH_DAYS)])[:12]
Stamp = tuple[int, int, int, int, int]
"""Line of the file, year, month, day, hour ending (1..24)."""


@dataclass(slots=True)
class WeatherFile:
    """A file as it was read: the climate made of it, its hourly year, and what had to be mended."""

    climate: ClimateEntry
    year: HourlyYear
    notes: list[str] = field(default_factory=list)


def read_weather(data: bytes, *, label: str = "") -> WeatherFile:
    """Read a weather file; the kind is told from its first line.

    Raises `BadWeather` naming lines for another kind of file, a wrong number of hours, too many gaps or missing
    values, and temperatures that cannot be. Short gaps are filled straight from hour to hour, and said.
    """
    try:
        return _read(data, label)
    except (BadWeather, TooLarge, MemoryError):
        raise
    except Exception as error:  # a damaged file breaks its reader in more ways than can be listed
        raise BadWeather(f"The weather file cannot be read: {type(error).__name__}, {str(error)[:120]}.") from None


def _read(data: bytes, label: str) -> WeatherFile:
    if len(data) > MAX_BYTES:
        raise TooLarge(f"The weather file has {len(data):,} bytes; at most {MAX_BYTES:,} are taken.")
    text = data.decode("latin-1")
    if text.count("\n") > MAX_LINES_READ:
        raise TooLarge(f"The weather file has more than {MAX_LINES_READ:,} lines.")
    first = text.split("\n", 1)[0].strip()
    if first.upper().startswith("LOCATION,"):
        return _epw(text, label)
    if re.match(r'^"?\w+"?,.*,-?[\d.]+,-?[\d.]+,-?[\d.]+,-?[\d.]+\s*$', first):
        return _tmy3(text, label)
    if first == ",".join(COLUMNS):
        return _plain(data, label)
    raise BadWeather(
        "This is no weather file we read: not EPW, not TMY3, not our own CSV.",
        problems=(Problem("line 1", f"begins with {first[:40]!r}"),),
    )


def hourly(data: bytes) -> HourlyYear:
    """A year from our own CSV, every hour of it a number. Raises `BadWeather`."""
    try:
        year = read(data)
    except (LibraryError, ValueError, csv.Error) as error:
        raise BadWeather(f"The hourly CSV cannot be read: {str(error)[:200]}") from None
    for name in COLUMNS:
        odd = np.nonzero(~np.isfinite(getattr(year, name)))[0]
        if odd.size:
            raise BadWeather("The hourly CSV holds what is no number.", problems=(Problem(f"line {odd[0] + 2}", name),))
    return year


def _plain(data: bytes, label: str) -> WeatherFile:
    year = hourly(data)
    notes = ["The file does not say where it was measured: the sun is left out until a latitude is known."]
    _possible(year.outdoor_c, [(n + 2, 0, 0, 0, 0) for n in range(HOURS)])
    entry = _climate(year, label or "Hourly CSV", typical=False, source="hourly CSV", latitude_deg=None,
                     longitude_deg=None, utc_offset_h=0.0, altitude_m=None)  # fmt: skip
    return WeatherFile(entry, year, notes)


def _epw(text: str, label: str) -> WeatherFile:
    from pvlib.iotools import read_epw  # pandas comes with it: only here

    lines = text.splitlines()
    stamps = []
    for number, row in _rows(lines, EPW_HEADER_LINES):
        if len(row) < EPW_FIELDS:
            raise _bad(number, f"has {len(row)} fields; at least {EPW_FIELDS} are needed")
        year, month, day, hour = (_whole(value, number) for value in row[:4])
        _number(row[6], number)
        stamps.append((number, year, month, day, hour))
    places, notes = _places(stamps)
    try:
        table, place = read_epw(io.StringIO(text), coerce_year=LEAP_YEAR)
    except (ValueError, KeyError, IndexError) as error:
        raise BadWeather(f"The EPW file cannot be read: {error}") from None
    kept = [n for n, at in enumerate(places) if at is not None]
    columns = [np.asarray(table[name], float)[kept] for name in ("temp_air", "ghi", "dni", "dhi")]
    missing = [columns[0] >= EPW_MISSING_C - 1e-6, *(c >= EPW_MISSING_SUN - 1e-6 for c in columns[1:])]
    at = np.array([p for p in places if p is not None])
    year_of, more = _whole_year(columns, missing, at, [stamps[n] for n in kept])
    long_term = _design_conditions(lines)
    years = {(s[1], s[2]) for s in stamps}
    entry = _climate(
        year_of, label or f"{place.get('city', 'Weather file')}, {place.get('country', '')}".strip(", "),
        typical=len({y for y, _ in years}) > 1, source=_source("EPW file", lines), latitude_deg=place["latitude"],
        longitude_deg=place["longitude"], utc_offset_h=place["TZ"], altitude_m=place["altitude"], long_term=long_term,
    )  # fmt: skip
    return WeatherFile(entry, year_of, notes + more + _said(entry))


def _tmy3(text: str, label: str) -> WeatherFile:
    from pvlib.iotools import read_tmy3

    lines = text.splitlines()
    stamps = []
    for number, row in _rows(lines, TMY3_HEADER_LINES):
        found = re.match(r"^(\d+)/(\d+)/(\d+)$", row[0]), re.match(r"^(\d+):(\d+)$", row[1] if len(row) > 1 else "")
        if found[0] is None or found[1] is None:
            raise _bad(number, f"has no date and hour: {','.join(row[:2])[:40]!r}")
        month, day, year = (int(found[0][n]) for n in (1, 2, 3))
        stamps.append((number, year, month, day, int(found[1][1]) or 24))
    places, notes = _places(stamps)
    try:
        table, place = read_tmy3(io.StringIO(text), coerce_year=LEAP_YEAR)
    except (ValueError, KeyError, IndexError) as error:
        raise BadWeather(f"The TMY3 file cannot be read: {error}") from None
    kept = [n for n, at in enumerate(places) if at is not None]
    columns = [np.asarray(table[name], float)[kept] for name in ("temp_air", "ghi", "dni", "dhi")]
    missing = [(c <= -9900 + 1e-6) | (n == 0) * (c >= EPW_MISSING_C - 1e-6) for n, c in enumerate(columns)]
    at = np.array([p for p in places if p is not None])
    year_of, more = _whole_year(columns, missing, at, [stamps[n] for n in kept])
    entry = _climate(
        year_of, label or str(place.get("Name", "Weather file")).strip('"').title(),
        typical=len({s[1] for s in stamps}) > 1, source="TMY3 file", latitude_deg=place["latitude"],
        longitude_deg=place["longitude"], utc_offset_h=place["TZ"], altitude_m=place["altitude"],
    )  # fmt: skip
    return WeatherFile(entry, year_of, notes + more + _said(entry))


def _rows(lines: list[str], header: int) -> list[tuple[int, list[str]]]:
    """Data rows with the number of their line."""
    if len(lines) > MAX_LINES:
        raise BadWeather(f"{len(lines):,} lines; a year of hours has {HOURS:,} and a heading.")
    rows = [(n + 1, row) for n, row in enumerate(csv.reader(lines)) if row and any(row)]
    return [(n, row) for n, row in rows if n > header]


def _bad(line: int, what: str) -> BadWeather:
    return BadWeather(f"Line {line} of the weather file {what}.", problems=(Problem(f"line {line}", what),))


def _number(text: str, line: int) -> float:
    try:
        return float(text)
    except ValueError:
        raise _bad(line, f"holds {text[:20]!r} where a number belongs") from None


def _whole(text: str, line: int) -> int:
    return int(_number(text, line))


def _places(stamps: list[Stamp]) -> tuple[list[int | None], list[str]]:
    """Hour of an ordinary year (0..8759) of every row; None for the leap day. Refuses hours twice or out of order."""
    notes: list[str] = []
    out: list[int | None] = []
    leap = 0
    last = -1
    for line, _, month, day, hour in stamps:
        if not (1 <= month <= 12 and 1 <= day <= 31 and 1 <= hour <= 24):
            raise _bad(line, f"names no hour of a year: month {month}, day {day}, hour {hour}")
        if (month, day) == (2, 29):
            leap += 1
            out.append(None)
            continue
        if day > MONTH_DAYS[month - 1]:
            raise _bad(line, f"names a day that month does not have: {day} in month {month}")
        place = int((FIRST_OF_MONTH[month - 1] + day - 1) * 24 + hour - 1)
        if place <= last:
            what = "comes twice" if place == last else "runs backwards"
            raise _bad(line, f"{what}: month {month}, day {day}, hour {hour}")
        last = place
        out.append(place)
    if leap:
        notes.append(f"29 February ({leap} hours) is left out: a year is reckoned with 365 days.")
    lacking = HOURS - sum(place is not None for place in out)
    if lacking > MOST_MISSING:
        raise BadWeather(
            f"The file has {HOURS - lacking:,} hours; a year has {HOURS:,}.",
            problems=tuple(_gaps(stamps, out)[:SHOWN]),
        )
    return out, notes


def _gaps(stamps: list[Stamp], places: list[int | None]) -> list[Problem]:
    """Where hours are missing, with the line before which they lack."""
    found: list[Problem] = []
    expected = 0
    for (line, *_), place in zip(stamps, places, strict=True):
        if place is None:
            continue
        if place > expected:
            found.append(Problem(f"line {line}", f"{place - expected} hours lack before it, from {_hour(expected)}"))
        expected = place + 1
    if expected < HOURS:
        found.append(Problem("end of file", f"{HOURS - expected} hours lack, from {_hour(expected)}"))
    return found


def _hour(place: int) -> str:
    month = int(np.searchsorted(FIRST_OF_MONTH, place // 24, side="right"))
    return f"{place // 24 - int(FIRST_OF_MONTH[month - 1]) + 1}.{month}. {place % 24:02d}:00"


def _whole_year(
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
            _bridgeable(name, lack, stamps, at)
            hours = np.arange(HOURS)
            whole[lack] = np.interp(hours[lack], hours[~lack], whole[~lack], period=HOURS)
            notes.append(
                f"{int(lack.sum())} hours of {WORDS[n]} were missing and are bridged, the first {_hour(int(np.argmax(lack)))}."
            )
        out.append(whole)
    _possible(out[0], _lines_of(stamps, at))
    for n in (1, 2, 3):
        if (out[n] < -1e-6).any():
            notes.append(f"Negative {WORDS[n]} is taken as none.")
            out[n] = np.maximum(out[n], 0.0)
    return HourlyYear(*out), notes


WORDS = ("outdoor temperature", "sun on the level", "direct sun", "sky light")


def _lines_of(stamps: list[Stamp], at: Array) -> list[Stamp]:
    by_place = {int(place): stamp for place, stamp in zip(at, stamps, strict=True)}
    return [by_place.get(n, (0, 0, 0, 0, 0)) for n in range(HOURS)]


def _bridgeable(name: str, lack: Array, stamps: list[Stamp], at: Array) -> None:
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
    where = f"line {line}" if line else _hour(end - longest + 1)
    word = WORDS[COLUMNS.index(name)]
    raise BadWeather(
        f"{total} hours of {word} are missing, up to {longest} running.",
        problems=(Problem(where, f"here {longest} hours of {word} are missing (a sentinel value, or no line)"),),
    )


def _possible(outdoor_c: Array, stamps: list[Stamp]) -> None:
    wrong = np.nonzero((outdoor_c < LEAST_C) | (outdoor_c > GREATEST_C) | ~np.isfinite(outdoor_c))[0]
    if len(wrong):
        problems = tuple(
            Problem(f"line {stamps[n][0]}", f"{outdoor_c[n]:g} °C cannot be", float(outdoor_c[n]))
            for n in wrong[:SHOWN]
        )
        raise BadWeather(
            f"{len(wrong)} outdoor temperatures lie outside {LEAST_C:g} to {GREATEST_C:g} °C.", problems=problems
        )


def _design_conditions(lines: list[str]) -> tuple[float, float] | None:
    """99.6 % and 99 % heating dry bulb from the header, over many years; None where it carries none."""
    row = next(
        (line.split(",") for line in lines[:EPW_HEADER_LINES] if line.upper().startswith("DESIGN CONDITIONS")), []
    )
    for n, word in enumerate(row):
        if word.strip().lower() == "heating" and len(row) > n + 3:
            try:
                return float(row[n + 2]), float(row[n + 3])
            except ValueError:
                return None
    return None


def _source(kind: str, lines: list[str]) -> str:
    first = lines[0].split(",")
    return f"{kind}, {first[5].strip()}"[:300] if len(first) > 5 and first[5].strip() else kind


def _said(entry: ClimateEntry) -> list[str]:
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


def _climate(
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


def write_epw(climate: ClimateEntry, year: HourlyYear) -> bytes:
    """The year as EPW, so that other programs can read it; what we do not know carries the format's missing marks.

    A typical year keeps months of different years, which is how a reader knows it for one.

    Source: the EPW data dictionary (from memory), 35 fields a line.
    """
    place = (climate.label.replace(",", " "), "-", "-", climate.source.replace(",", " "), "0")
    numbers = (
        climate.latitude_deg or 0.0,
        climate.longitude_deg or 0.0,
        climate.utc_offset_h,
        climate.altitude_m or 0.0,
    )
    head = ["LOCATION," + ",".join([*place, *(f"{v:g}" for v in numbers)])]
    head += [
        "DESIGN CONDITIONS,0",
        "TYPICAL/EXTREME PERIODS,0",
        "GROUND TEMPERATURES,0",
        "HOLIDAYS/DAYLIGHT SAVINGS,No,0,0,0",
    ]
    said = "synthetic" if climate.synthetic else "as read"
    head += [f"COMMENTS 1,{said}", "COMMENTS 2,", "DATA PERIODS,1,1,Data,Sunday, 1/ 1,12/31"]
    lines = []
    hour = 0
    own_year = [2001 + (month if climate.typical else 0) for month in range(13)]
    for month, days in enumerate(MONTH_DAYS, start=1):
        for day in range(1, days + 1):
            for ending in range(1, 25):
                t, g, n, d = (float(getattr(year, name)[hour]) for name in COLUMNS)
                lines.append(
                    f"{own_year[month]},{month},{day},{ending},60,?,{t:.1f},99.9,999,999999,9999,9999,9999,{g:.0f},{n:.0f},{d:.0f},"
                    "999999,999999,999999,9999,999,999,99,99,9999,99999,9,999999999,999,.999,999,99,999,0,99"
                )
                hour += 1
    return ("\n".join([*head, *lines]) + "\n").encode()
