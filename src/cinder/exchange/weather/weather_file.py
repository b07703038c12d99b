"""Hourly weather in and out: EPW, TMY3 and hourly CSV (read by pvlib, checked here line by line), and our own plain CSV."""

from __future__ import annotations

import csv
import io
import re
from dataclasses import dataclass, field

import numpy as np

from cinder.errors import BadWeather, LibraryError, Problem, TooLarge
from cinder.exchange.weather import weather_csv
from cinder.exchange.weather.weather_rows import (
    bad_line,
    check_possible,
    climate_of,
    data_rows,
    number_in,
    places_of,
    said_of,
    whole_in,
    whole_year,
)
from cinder.library import ClimateEntry, HourlyYear
from cinder.library.years import COLUMNS, HOURS, read
from cinder.physics.climate.weather import MONTH_DAYS

LEAP_YEAR = 2000  # so that a leap day in the file can be read, and then left out
MAX_BYTES = 8 * 1024 * 1024
MAX_LINES_READ = 20_000
EPW_HEADER_LINES = 8
TMY3_HEADER_LINES = 2
EPW_FIELDS = 16
EPW_MISSING_C, EPW_MISSING_SUN = 99.9, 9999.0


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
    for tells, reads in (
        (weather_csv.is_typical, weather_csv.typical),
        (weather_csv.is_satellite, weather_csv.satellite),
    ):
        if tells(first):
            return WeatherFile(*reads(text, label))
    if first == ",".join(COLUMNS):
        return _plain(data, label)
    raise BadWeather(
        "This is no weather file we read: not EPW, TMY3, an hourly CSV of a solar-radiation service, or our own.",
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
    check_possible(year.outdoor_c, [(n + 2, 0, 0, 0, 0) for n in range(HOURS)])
    entry = climate_of(year, label or "Hourly CSV", typical=False, source="hourly CSV", latitude_deg=None,
                     longitude_deg=None, utc_offset_h=0.0, altitude_m=None)  # fmt: skip
    return WeatherFile(entry, year, notes)


def _epw(text: str, label: str) -> WeatherFile:
    from pvlib.iotools import read_epw  # pandas comes with it: only here

    lines = text.splitlines()
    stamps = []
    for number, row in data_rows(lines, EPW_HEADER_LINES):
        if len(row) < EPW_FIELDS:
            raise bad_line(number, f"has {len(row)} fields; at least {EPW_FIELDS} are needed")
        year, month, day, hour = (whole_in(value, number) for value in row[:4])
        number_in(row[6], number)
        stamps.append((number, year, month, day, hour))
    places, notes = places_of(stamps)
    try:
        table, place = read_epw(io.StringIO(text), coerce_year=LEAP_YEAR)
    except (ValueError, KeyError, IndexError) as error:
        raise BadWeather(f"The EPW file cannot be read: {error}") from None
    kept = [n for n, at in enumerate(places) if at is not None]
    columns = [np.asarray(table[name], float)[kept] for name in ("temp_air", "ghi", "dni", "dhi")]
    missing = [columns[0] >= EPW_MISSING_C - 1e-6, *(c >= EPW_MISSING_SUN - 1e-6 for c in columns[1:])]
    at = np.array([p for p in places if p is not None])
    year_of, more = whole_year(columns, missing, at, [stamps[n] for n in kept])
    long_term = _design_conditions(lines)
    years = {(s[1], s[2]) for s in stamps}
    entry = climate_of(
        year_of, label or f"{place.get('city', 'Weather file')}, {place.get('country', '')}".strip(", "),
        typical=len({y for y, _ in years}) > 1, source=_source("EPW file", lines), latitude_deg=place["latitude"],
        longitude_deg=place["longitude"], utc_offset_h=place["TZ"], altitude_m=place["altitude"], long_term=long_term,
    )  # fmt: skip
    return WeatherFile(entry, year_of, notes + more + said_of(entry))


def _tmy3(text: str, label: str) -> WeatherFile:
    from pvlib.iotools import read_tmy3

    lines = text.splitlines()
    stamps = []
    for number, row in data_rows(lines, TMY3_HEADER_LINES):
        found = re.match(r"^(\d+)/(\d+)/(\d+)$", row[0]), re.match(r"^(\d+):(\d+)$", row[1] if len(row) > 1 else "")
        if found[0] is None or found[1] is None:
            raise bad_line(number, f"has no date and hour: {','.join(row[:2])[:40]!r}")
        month, day, year = (int(found[0][n]) for n in (1, 2, 3))
        stamps.append((number, year, month, day, int(found[1][1]) or 24))
    places, notes = places_of(stamps)
    try:
        table, place = read_tmy3(io.StringIO(text), coerce_year=LEAP_YEAR)
    except (ValueError, KeyError, IndexError) as error:
        raise BadWeather(f"The TMY3 file cannot be read: {error}") from None
    kept = [n for n, at in enumerate(places) if at is not None]
    columns = [np.asarray(table[name], float)[kept] for name in ("temp_air", "ghi", "dni", "dhi")]
    missing = [(c <= -9900 + 1e-6) | (n == 0) * (c >= EPW_MISSING_C - 1e-6) for n, c in enumerate(columns)]
    at = np.array([p for p in places if p is not None])
    year_of, more = whole_year(columns, missing, at, [stamps[n] for n in kept])
    entry = climate_of(
        year_of, label or str(place.get("Name", "Weather file")).strip('"').title(),
        typical=len({s[1] for s in stamps}) > 1, source="TMY3 file", latitude_deg=place["latitude"],
        longitude_deg=place["longitude"], utc_offset_h=place["TZ"], altitude_m=place["altitude"],
    )  # fmt: skip
    return WeatherFile(entry, year_of, notes + more + said_of(entry))


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
