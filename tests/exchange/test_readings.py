"""Files of readings: whatever decimals, names, zones; what cannot be is named with its line, the rest is kept."""

import io
import math
from datetime import UTC, datetime, timedelta

import numpy as np
import pytest
from openpyxl import Workbook

from cinder.errors import BadReadings, TooLarge
from cinder.exchange import readings
from cinder.exchange.readings import frames

ROOMS = {"Parlour": "parlour", "Box room": "box"}


def rows(*lines, head="time,Outdoor (°C),Flow °C,Parlour", zone="UTC", **more):
    return readings.read(("\n".join([head, *lines]) + "\n").encode(), zone=zone, rooms=ROOMS, **more)


def moment(*when):
    return datetime(*when, tzinfo=UTC).timestamp()


def test_plain_readings():
    found = rows("2026-01-10T06:00:00Z,3.5,41.2,20.1", "2026-01-10T07:00:00Z,3.1,41.6,20.0")
    assert found.channels == ["outdoor_c", "supply_c", "room:parlour"]
    assert found.at_s.tolist() == [moment(2026, 1, 10, 6), moment(2026, 1, 10, 7)]
    assert found.figures[0].tolist() == [3.5, 41.2, 20.1]


def test_semicolons_commas_and_days_before_months():
    found = rows(
        "10.01.2026 06:00;3,5;41,2;20,1",
        "11.01.2026 06:00;2,0;43,0;20,4",
        head="Date time;Outside;Flow temp;parlour",
        zone="Europe/Berlin",
    )
    assert found.at_s[0] == moment(2026, 1, 10, 5)
    assert found.figures[1].tolist() == [2.0, 43.0, 20.4]
    assert any("Europe/Berlin" in note for note in found.notes)


def test_the_hour_that_comes_twice_and_the_one_that_never_comes():
    """Britain, 26 October 2025: 01:30 stands there twice, first in summer time; 30 March 2025: 01:30 is not."""
    autumn = rows(
        *(f"2025-10-26T{h},5,40,20" for h in ("00:30", "01:00", "01:30", "01:00", "01:30", "02:00")),
        zone="Europe/London",
    )
    assert autumn.at_s.tolist() == [moment(2025, 10, 25, 23, 30) + 1800 * n for n in range(6)]
    spring = rows("2025-03-30T00:30,5,40,20", "2025-03-30T02:30,5,40,20", zone="Europe/London")
    assert spring.at_s.tolist() == [moment(2025, 3, 30, 0, 30), moment(2025, 3, 30, 1, 30)]


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
    assert math.isnan(found.figures[0][0])
    assert math.isnan(found.figures[2][1])
    assert any("85" in note and "line 2" in note for note in found.notes)
    assert any("line 4" in note for note in found.notes)


def test_a_sensor_that_jumps_and_lines_out_of_order():
    found = rows(
        "2026-01-10T06:20Z,3,41,20",
        "2026-01-10T06:00Z,3,41,20",
        "2026-01-10T06:10Z,30,41,20",
        "2026-01-10T06:30Z,3,41,20",
    )
    assert found.figures[[0, 2, 3], 0].tolist() == [3.0, 3.0, 3.0]
    assert math.isnan(found.figures[1, 0])
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
    assert found.figures[1].tolist() == [4.0, 42.0, 21.0]
    assert any("twice" in note for note in found.notes)
    assert any("48.0 h" in note for note in found.notes)


def test_columns_are_what_somebody_says_they_are():
    look = rows(
        "2026-01-10T06:00Z,3,41,20",
        head="when,T1,T2,T3",
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
        readings.read(b"x" * (readings.MAX_BYTES + 1))


def test_two_columns_of_one_name_are_named_with_their_places():
    with pytest.raises(BadReadings, match="called 'Flow'") as refused:
        rows("2026-01-10T06:00Z,3,41,40", head="time,outdoor,Flow,Flow")
    assert [one.path for one in refused.value.problems] == ["line 1, column 3", "line 1, column 4"]


def test_units_a_heading_may_say():
    found = rows(
        "2026-01-10T06:00Z,1.2,0.9,12,2", head="time,Volume flow m3/h,Electricity MWh,Heat output kW,Backup heater kW"
    )
    assert found.channels == ["flow_lph", "electric_kwh", "heat_w", "heater_w"]
    assert found.figures[0].tolist() == [1200.0, 900.0, 12000.0, 2000.0]


def hours(values, head, first=datetime(2026, 1, 1, tzinfo=UTC), every_h=1):
    return rows(*(f"{(first + timedelta(hours=every_h * n)).isoformat()},{v}" for n, v in enumerate(values)), head=head)


def test_a_meter_that_begins_again_goes_on():
    """9 999.x of a meter of four digits: what was counted stands, 6 kWh each step."""
    found = hours([9985, 9991, 9997, 3, 9, 15], "time,Heat meter kWh")
    assert found.figures[:, 0].tolist() == [9985, 9991, 9997, 10003, 10009, 10015]
    assert any("begins again at nought after 10,000 at 2026-01-01T03:00:00Z" in note for note in found.notes)


def test_a_meter_that_is_replaced_goes_on_from_its_first_reading():
    found = hours([5200, 5210, 17, 27, 26.95, 40], "time,Electricity meter kWh")
    assert found.figures[:, 0].tolist() == pytest.approx([5200, 5210, 5210, 5220, 5220, 5233])
    assert any("new meter" in note and "5210.0 to 17.0" in note for note in found.notes)


def test_a_clock_set_back_is_named_with_its_line():
    lines = [f"2026-01-10T{h:02d}:00Z,3,41,20" for h in (6, 7, 8, 7, 8, 9)]
    found = rows(*lines)
    assert len(found.at_s) == 4
    assert any("line 5 the clock goes back by 60 minutes" in note for note in found.notes)
    assert any("2 moments given twice" in note for note in found.notes)


def test_days_that_are_copies_are_named():
    day = [3 + 0.1 * n for n in range(24)]
    other = [2 + 0.13 * n for n in range(24)]
    found = hours(other + day * 9 + other[::-1], "time,Outdoor")
    assert [note for note in found.notes if "copies" in note] == [
        "From 2026-01-02 the same day stands 9 times to the last digit: copies are no readings."
    ]
    assert not any("copies" in note for note in hours(other + day + other[::-1], "time,Outdoor").notes)


def test_a_workbook_says_what_a_csv_says():
    book = Workbook()
    book.active.append(["time", "Outdoor", "Parlour", None])
    for n in range(50):
        book.active.append(
            [datetime(2026, 1, 10) + timedelta(minutes=10 * n), 3.5 + n / 10, "20,5" if n == 7 else 20.0]
        )
    out = io.BytesIO()
    book.save(out)
    found = readings.read(out.getvalue(), zone="Europe/Berlin", rooms=ROOMS)
    assert found.channels == ["outdoor_c", "room:parlour"]
    assert found.at_s[0] == moment(2026, 1, 9, 23)
    assert found.figures[7].tolist() == pytest.approx([4.2, 20.5])
    with pytest.raises(BadReadings, match="workbook"):
        readings.read(b"PK\x03\x04 nothing of the kind")


def test_what_is_read_in_pieces_is_what_is_read_at_once(monkeypatch):
    lines = [
        f"{(datetime(2026, 1, 1, tzinfo=UTC) + timedelta(minutes=7 * n)).isoformat()},{n % 17},{40 + n % 5},20"
        for n in range(500)
    ]
    lines[333] = lines[333].replace(",20", ",x")
    whole = rows(*lines)
    monkeypatch.setattr(frames, "PIECE", 37)
    pieces = rows(*lines)
    assert pieces.notes == whole.notes
    np.testing.assert_array_equal(pieces.figures, whole.figures)
    np.testing.assert_array_equal(pieces.at_s, whole.at_s)
