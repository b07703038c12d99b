"""Weather files that are not as they should be: named, located, nothing lost; and those that can be mended are, and say so."""

import numpy as np
import pytest

from cinder.errors import BadWeather
from cinder.exchange.weather.weather_file import read_weather, write_epw
from cinder.library import load, shipped_year

CLIMATE = load().climates["mild-maritime"]
YEAR = shipped_year(CLIMATE.year_sha256)
GOOD = write_epw(CLIMATE, YEAR).decode().splitlines()
HEADER = 8


def lines(**changed):
    """The good file with lines exchanged (by number of the file, from 1); None takes a line out."""
    out = {n + 1: line for n, line in enumerate(GOOD)}
    for name, line in changed.items():
        out[int(name[1:])] = line
    return "\n".join(line for line in out.values() if line is not None).encode()


def with_field(n, field, value):
    row = GOOD[n - 1].split(",")
    row[field] = value
    return ",".join(row)


def refused(data):
    with pytest.raises(BadWeather) as error:
        read_weather(data)
    assert error.value.kept
    return error.value


def test_a_good_file_is_taken_as_it_is():
    found = read_weather(lines())
    assert found.year.outdoor_c == pytest.approx(YEAR.outdoor_c)
    assert found.notes == []


@pytest.mark.parametrize(("data", "words"), [
    (b"", "no weather file"), (b"\x00\xff\x00", "no weather file"), (b"room,width\nA,2", "no weather file"), (b"{}", "no weather file"),
])  # fmt: skip
def test_another_kind_of_file(data, words):
    assert words in refused(data).message


def test_missing_hours_are_counted_and_placed():
    error = refused(lines(**{f"L{n}": None for n in range(2000, 2200)}))
    assert "8,560 hours" in error.message
    assert error.problems[0].path == "line 2000"
    assert "200 hours lack" in error.problems[0].message


def test_half_a_year():
    error = refused("\n".join(GOOD[: HEADER + 4380]).encode())
    assert "4,380 hours; a year has 8,760" in error.message
    assert error.problems[-1].path == "end of file"


def test_two_years_in_one_file():
    longer = "\n".join(GOOD + GOOD[HEADER:]).encode()
    assert "17,528 lines; a year of hours has 8,760" in refused(longer).message


def test_a_few_hours_that_lack_are_bridged_and_said():
    found = read_weather(lines(L1000=None, L1001=None))
    assert any("2 hours of outdoor temperature were missing" in note for note in found.notes)
    n = 1000 - HEADER - 1
    between = sorted([YEAR.outdoor_c[n - 1], YEAR.outdoor_c[n + 2]])
    assert between[0] - 1e-6 <= found.year.outdoor_c[n] <= between[1] + 1e-6
    assert found.year.outdoor_c[n + 5 :] == pytest.approx(YEAR.outdoor_c[n + 5 :])


def test_the_sentinel_99_9_is_no_temperature():
    found = read_weather(lines(L3000=with_field(3000, 6, "99.9")))
    assert found.year.outdoor_c.max() < 50
    assert any("1 hours of outdoor temperature" in note for note in found.notes)


def test_too_many_sentinels_running_are_refused_at_their_line():
    error = refused(lines(**{f"L{n}": with_field(n, 6, "99.9") for n in range(3000, 3012)}))
    assert error.problems[0].path == "line 3000"
    assert "12 hours" in error.problems[0].message


def test_sentinels_of_the_sun_are_bridged_too():
    found = read_weather(lines(**{f"L{n}": with_field(n, 14, "9999") for n in range(4000, 4004)}))
    assert any("direct sun" in note for note in found.notes)
    assert found.year.dni_w_m2.max() < 1500


def test_a_temperature_that_cannot_be():
    error = refused(lines(L500=with_field(500, 6, "75.0")))
    assert error.problems[0].path == "line 500"
    assert "75 °C cannot be" in error.problems[0].message


@pytest.mark.parametrize(
    ("field", "value", "words"),
    [(6, "warm", "where a number belongs"), (1, "13", "no hour of a year"), (3, "25", "no hour of a year")],
)
def test_a_line_with_nonsense_is_named(field, value, words):
    error = refused(lines(L700=with_field(700, field, value)))
    assert error.problems[0].path == "line 700"
    assert words in error.message


def test_a_line_cut_short():
    assert refused(lines(L700="2001,1,29")).problems[0].path == "line 700"


def test_hours_twice_and_backwards():
    assert "comes twice" in refused(lines(L900=GOOD[898])).message
    assert "runs backwards" in refused(lines(L900=GOOD[500])).message


def test_a_leap_day_is_left_out_and_said():
    day = [line for line in GOOD[HEADER:] if line.startswith("2001,2,28,")]
    leap = [line.replace("2001,2,28,", "2001,2,29,") for line in day]
    at = GOOD.index(day[-1]) + 1
    found = read_weather("\n".join(GOOD[:at] + leap + GOOD[at:]).encode())
    assert any("29 February (24 hours) is left out" in note for note in found.notes)
    assert found.year.outdoor_c == pytest.approx(YEAR.outdoor_c)


def test_south_of_the_equator_is_said():
    place = GOOD[0].split(",")
    place[6] = "-42.9"
    found = read_weather(lines(L1=",".join(place)))
    assert found.climate.latitude_deg == -42.9
    assert any("South of the equator" in note for note in found.notes)


def test_our_own_csv_and_its_years():
    data = YEAR.write()
    found = read_weather(data, label="A garden thermometer")
    assert found.climate.label == "A garden thermometer"
    assert found.climate.latitude_deg is None
    assert np.array_equal(found.year.outdoor_c, YEAR.outdoor_c)
    short = b"\n".join(data.splitlines()[:-24])
    assert "8" in refused(short).message


def test_the_same_weather_has_the_same_name():
    assert read_weather(lines()).climate.id == read_weather(lines()).climate.id
