"""Hourly CSV files of the public solar-radiation services, as `pvlib.iotools` reads them."""

from __future__ import annotations

import io
import re
from typing import Any

import numpy as np

from cinder.errors import BadWeather
from cinder.exchange.weather.weather_rows import (
    Stamp,
    bad_line,
    climate_of,
    data_rows,
    places_of,
    said_of,
    whole_in,
    whole_year,
)
from cinder.library import ClimateEntry, HourlyYear
from cinder.library.years import HOURS
from cinder.physics.quantity import Array

SUN = ("temp_air", "ghi", "dni", "dhi")
TYPICAL_FIRST = "latitude (decimal degrees)"
"""How the European service's typical year begins: four to five lines of place, months and their years, then the heading."""
SATELLITE_FIRST = "source,location id"
"""How the American service's year begins: two lines about the place, then the heading."""
MISSING_C = -900.0
Read = tuple[ClimateEntry, HourlyYear, list[str]]


def is_typical(first: str) -> bool:
    return first.lower().startswith(TYPICAL_FIRST)


def is_satellite(first: str) -> bool:
    return first.lower().startswith(SATELLITE_FIRST)


def typical(text: str, label: str) -> Read:
    """A typical year in CSV: one line an hour, in universal time, months of several years.

    Raises `BadWeather` naming lines. Source: `pvlib.iotools.read_pvgis_tmy`.
    """
    from pvlib.iotools import read_pvgis_tmy

    lines = text.splitlines()
    head = next((n for n, line in enumerate(lines) if line.lower().startswith("time(")), None)
    if head is None:
        raise BadWeather("The typical year has no heading that begins with time(UTC).")
    stamps: list[Stamp] = []
    for line, row in data_rows(lines, head + 1):
        found = re.match(r"^(\d{4})(\d\d)(\d\d):(\d\d)\d\d$", row[0])
        if found is None:
            if len(stamps) >= HOURS:
                break  # the legend below the hours
            raise bad_line(line, f"has no date and hour: {row[0][:40]!r}")
        year, month, day, hour = (int(word) for word in found.groups())
        stamps.append((line, year, month, day, hour + 1))
    places, notes = places_of(stamps)
    try:
        table, place = read_pvgis_tmy(io.BytesIO(text.encode("latin-1")), pvgis_format="csv", map_variables=True)
    except (ValueError, KeyError, IndexError, TypeError) as error:
        raise BadWeather(f"The typical year cannot be read: {error}") from None
    where = place.get("inputs", place)
    latitude, longitude, altitude = (_place(where, word) for word in ("latitude", "longitude", "elevation"))
    return _made(
        table, stamps, places, notes, label or "Typical year", "typical year, CSV", latitude, longitude, altitude, 0.0
    )


def satellite(text: str, label: str) -> Read:
    """A year of satellite and model data in CSV, one line an hour, in local time.

    Raises `BadWeather` naming lines. Source: `pvlib.iotools.read_nsrdb_psm4`.
    """
    from pvlib.iotools import read_nsrdb_psm4

    lines = text.splitlines()
    stamps: list[Stamp] = []
    for line, row in data_rows(lines, 3):
        if len(row) < 5:
            raise bad_line(line, f"has {len(row)} fields; a date, an hour and the figures are needed")
        year, month, day, hour, _ = (whole_in(word, line) for word in row[:5])
        stamps.append((line, year, month, day, hour + 1))
    places, notes = places_of(stamps)
    try:
        table, place = read_nsrdb_psm4(io.StringIO(text), map_variables=True)
    except (ValueError, KeyError, IndexError, TypeError) as error:
        raise BadWeather(f"The year of hours cannot be read: {error}") from None
    return _made(
        table, stamps, places, notes, label or str(place.get("City", "") or "Weather file"), "satellite year, CSV",
        _place(place, "latitude"), _place(place, "longitude"), _place(place, "altitude"),
        _place(place, "Time Zone") or _place(place, "Local Time Zone") or 0.0,
    )  # fmt: skip


def _place(said: dict[str, object], word: str) -> float | None:
    value = said.get(word, said.get(word.title()))
    try:
        return float(str(value)) if value is not None else None
    except ValueError:
        return None


def _made(
    table: Any,  # a pandas table, whose types its reader does not state
    stamps: list[Stamp],
    places: list[int | None],
    notes: list[str],
    label: str,
    source: str,
    latitude_deg: float | None,
    longitude_deg: float | None,
    altitude_m: float | None,
    utc_offset_h: float,
) -> Read:
    kept = [n for n, at in enumerate(places) if at is not None]
    lacking = [name for name in SUN if name not in table]
    if lacking:
        raise BadWeather(f"The file has no column for {', '.join(lacking)}.")
    columns: list[Array] = [np.asarray(table[name], dtype=np.float64)[: len(stamps)][kept] for name in SUN]
    missing = [~np.isfinite(values) | (values <= MISSING_C) for values in columns]
    at = np.array([p for p in places if p is not None])
    year, more = whole_year(columns, missing, at, [stamps[n] for n in kept])
    entry = climate_of(
        year, label, typical=len({stamp[1] for stamp in stamps}) > 1, source=source, latitude_deg=latitude_deg,
        longitude_deg=longitude_deg, utc_offset_h=utc_offset_h, altitude_m=altitude_m,
    )  # fmt: skip
    return entry, year, notes + more + said_of(entry)
