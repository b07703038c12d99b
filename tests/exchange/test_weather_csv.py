"""Hourly CSVs of the public solar-radiation services. The two layouts are those `pvlib.iotools` documents and parses
(`read_pvgis_tmy`, `read_nsrdb_psm4`); the figures in them are of a year shipped with the application."""

import numpy as np
import pytest

from cinder.errors import BadWeather
from cinder.exchange.weather.weather_file import read_weather
from cinder.library import load
from cinder.library.years import COLUMNS, shipped_year
from cinder.physics.climate.weather import MONTH_DAYS

CLIMATE = next(one for one in load().climates.values() if one.year_sha256)
YEAR = shipped_year(CLIMATE.year_sha256)
HOURS = [(m + 1, d + 1, h) for m, days in enumerate(MONTH_DAYS) for d in range(days) for h in range(24)]


def values(n: int) -> tuple[float, ...]:
    return tuple(float(getattr(YEAR, name)[n]) for name in COLUMNS)


def typical() -> list[str]:
    head = [
        "Latitude (decimal degrees): 52.400", "Longitude (decimal degrees): -1.500", "Elevation (m): 98.0",
        "Irradiance Time Offset (h): 0.1761", "month,year", *(f"{m},{2005 + m}" for m in range(1, 13)),
        "time(UTC),T2m,RH,G(h),Gb(n),Gd(h),IR(h),WS10m,WD10m,SP",
    ]  # fmt: skip
    rows = []
    for n, (month, day, hour) in enumerate(HOURS):
        t, g, b, d = values(n)
        rows.append(
            f"{2005 + month}{month:02d}{day:02d}:{hour:02d}00,{t:.2f},80.0,{g:.1f},{b:.1f},{d:.1f},300.0,3.0,200,100000"
        )
    return [*head, *rows, "", "T2m: 2-m air temperature (degree Celsius)"]


def satellite() -> list[str]:
    head = [
        "Source,Location ID,City,State,Country,Latitude,Longitude,Time Zone,Elevation,Local Time Zone",
        "NSRDB,1234,Reedmace,-,-,44.96,-93.25,-6,264,-6", "Year,Month,Day,Hour,Minute,DHI,DNI,GHI,Temperature,Wind Speed",
    ]  # fmt: skip
    rows = []
    for n, (month, day, hour) in enumerate(HOURS):
        t, g, b, d = values(n)
        rows.append(f"2019,{month},{day},{hour},30,{d:.0f},{b:.0f},{g:.0f},{t:.1f},2.0")
    return [*head, *rows]


def test_a_typical_year_in_csv():
    found = read_weather("\r\n".join(typical()).encode())
    assert np.abs(found.year.outdoor_c - YEAR.outdoor_c).max() <= 0.006
    assert np.abs(found.year.ghi_w_m2 - YEAR.ghi_w_m2).max() <= 0.06
    assert np.abs(found.year.dni_w_m2 - YEAR.dni_w_m2).max() <= 0.06
    assert (found.climate.latitude_deg, found.climate.longitude_deg, found.climate.altitude_m) == (52.4, -1.5, 98.0)
    assert found.climate.typical
    assert any("put together of months" in note for note in found.notes)


def test_a_satellite_year_in_csv():
    found = read_weather("\n".join(satellite()).encode())
    assert np.abs(found.year.outdoor_c - YEAR.outdoor_c).max() <= 0.06
    assert np.abs(found.year.dhi_w_m2 - YEAR.dhi_w_m2).max() <= 0.6
    assert (found.climate.latitude_deg, found.climate.utc_offset_h, found.climate.altitude_m) == (44.96, -6.0, 264.0)
    assert found.climate.label == "Reedmace"
    assert not found.climate.typical


@pytest.mark.parametrize("made", [typical, satellite])
def test_hours_that_lack_or_run_backwards_are_named_by_their_line(made):
    lines = made()
    start = next(n for n, line in enumerate(lines) if line[:4].isdigit() and "," in line)
    with pytest.raises(BadWeather) as twice:
        read_weather("\n".join([*lines[: start + 50], lines[start + 10], *lines[start + 50 :]]).encode())
    assert f"line {start + 51}" in [p.path for p in twice.value.problems]
    with pytest.raises(BadWeather, match="a year has"):
        read_weather("\n".join(lines[: start + 4000]).encode())


def test_a_column_that_lacks_is_said():
    lines = [line.replace("Temperature", "Albedo") for line in satellite()]
    with pytest.raises(BadWeather, match="no column for temp_air"):
        read_weather("\n".join(lines).encode())
