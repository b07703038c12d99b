"""Files of readings: whatever decimals, names, zones; what cannot be is named with its line, the rest is kept."""

from datetime import UTC, datetime

import pytest

from cinder.errors import BadReadings, TooLarge
from cinder.exchange import readings_csv

ROOMS = {"Parlour": "parlour", "Box room": "box"}


def rows(*lines, head="time,Outdoor (°C),Flow °C,Parlour", zone="UTC", **more):
    return readings_csv.read(("\n".join([head, *lines]) + "\n").encode(), zone=zone, rooms=ROOMS, **more)


def moment(*when):
    return datetime(*when, tzinfo=UTC).timestamp()


def test_plain_readings():
    found = rows("2026-01-10T06:00:00Z,3.5,41.2,20.1", "2026-01-10T07:00:00Z,3.1,41.6,20.0")
    assert found.channels == ["outdoor_c", "supply_c", "room:parlour"]
    assert found.at_s == [moment(2026, 1, 10, 6), moment(2026, 1, 10, 7)]
    assert found.figures[0] == [3.5, 41.2, 20.1]


def test_semicolons_commas_and_days_before_months():
    found = rows(
        "10.01.2026 06:00;3,5;41,2;20,1",
        "11.01.2026 06:00;2,0;43,0;20,4",
        head="Date time;Outside;Flow temp;parlour",
        zone="Europe/Berlin",
    )
    assert found.at_s[0] == moment(2026, 1, 10, 5)
    assert found.figures[1] == [2.0, 43.0, 20.4]
    assert any("Europe/Berlin" in note for note in found.notes)


def test_the_hour_that_comes_twice_and_the_one_that_never_comes():
    """Britain, 26 October 2025: 01:30 stands there twice, first in summer time; 30 March 2025: 01:30 is not."""
    autumn = rows(
        *(f"2025-10-26T{h},5,40,20" for h in ("00:30", "01:00", "01:30", "01:00", "01:30", "02:00")),
        zone="Europe/London",
    )
    assert autumn.at_s == [moment(2025, 10, 25, 23, 30) + 1800 * n for n in range(6)]
    spring = rows("2025-03-30T00:30,5,40,20", "2025-03-30T02:30,5,40,20", zone="Europe/London")
    assert spring.at_s == [moment(2025, 3, 30, 0, 30), moment(2025, 3, 30, 1, 30)]


def test_fahrenheit_and_kilowatts():
    found = rows("2026-01-10T06:00Z,41,1.5", head="time,Outdoor °F,Electricity kW")
    assert found.figures[0] == pytest.approx([5.0, 1500.0])


def test_what_cannot_be_is_left_out_and_named():
    found = rows(
        "2026-01-10T06:00Z,85,41,20",
        "2026-01-10T07:00Z,3,41,20",
        "2026-01-10T08:00Z,3,oops,20",
        "2026-01-10T09:00Z,3,41,20",
    )
    assert found.figures[0][0] is None
    assert found.figures[2][1] is None
    assert any("85" in note and "line 2" in note for note in found.notes)
    assert any("line 4" in note for note in found.notes)


def test_a_sensor_that_jumps_and_lines_out_of_order():
    found = rows(
        "2026-01-10T06:20Z,3,41,20",
        "2026-01-10T06:00Z,3,41,20",
        "2026-01-10T06:10Z,30,41,20",
        "2026-01-10T06:30Z,3,41,20",
    )
    assert [row[0] for row in found.figures] == [3.0, None, 3.0, 3.0]
    assert any("order" in note for note in found.notes)
    assert any("jumps" in note for note in found.notes)


def test_gaps_and_moments_twice_are_told():
    found = rows(
        "2026-01-10T06:00Z,3,41,20",
        "2026-01-10T06:10Z,3,41,20",
        "2026-01-10T06:10Z,4,42,21",
        "2026-01-12T06:10Z,3,41,20",
    )
    assert len(found.at_s) == 3
    assert found.figures[1] == [4.0, 42.0, 21.0]
    assert any("twice" in note for note in found.notes)
    assert any("48.0 h" in note for note in found.notes)


def test_columns_are_what_somebody_says_they_are():
    look = rows(
        "2026-01-10T06:00Z,3,41,20",
        head="when,T1,T2,T3",
        only_look=False,
        mapped={"when": "time", "T1": "outdoor_c", "T2": "supply_c", "T3": ""},
    )
    assert look.channels == ["outdoor_c", "supply_c"]


@pytest.mark.parametrize(
    ("lines", "head", "said"),
    [
        (["2026-01-10T06:00Z,3"], "a,b", "No column is a time"),
        (["2026-01-10T06:00Z,3"], "time,mystery", "None of its columns"),
        (["soon,3"], "time,outdoor", "no time that can be read"),
        (["2026-01-10T06:00Z,a"] * 5, "time,outdoor", "no numbers"),
        (["2026-01-10T06:00Z,1,2"], "time,outdoor,outside", "Two columns"),
        ([], "time,outdoor", "no line below"),
    ],
)
def test_what_cannot_be_read_says_where(lines, head, said):
    with pytest.raises(BadReadings, match=said) as refused:
        rows(*lines, head=head)
    assert "stand" in refused.value.kept


def test_a_file_too_large_is_not_read():
    with pytest.raises(TooLarge):
        readings_csv.read(b"x" * (readings_csv.MAX_BYTES + 1))
