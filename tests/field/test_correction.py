"""The correction desk from a job's own looks to the step it proposes."""

import datetime as dt

import numpy as np
import pytest

from cinder.errors import InvalidJob
from cinder.field import correction
from cinder.field.channels import log_of
from cinder.field.correction import Log
from cinder.field.looks import looks_of
from cinder.library import shipped_year
from cinder.model import parse
from cinder.physics.machine import curve as law
from cinder.twin.of_job import twin_of
from cinder.twin.winters import winter
from tests.conftest import oat_store, tansy_cut
from tests.field.test_winter import hourly


def looked(document, house, shift_k, *, outdoors=(-2, 0, 3, 6, 9, 12)):
    """Looks by hand, as a house would show whose water is worth so much less."""
    out = np.array(outdoors, float)
    line = law.flow_at(house.control_line, outdoor_c=out)
    rooms = house.at(out, line - shift_k, np.full(len(out), 20.0)).room_c
    document["fire_up"] = {
        "observations": {
            f"look-{n}": {
                "at": f"2026-01-{10 + n:02d}T07:00:00Z", "outdoor_c": float(out[n]), "flow_c": round(float(line[n]), 1), "bright": False,
                "rooms": {key: round(float(rooms[n, r]), 1) for r, key in enumerate(house.house.rooms) if house.heated[r]},
            }
            for n in range(len(out))
        }
    }  # fmt: skip
    return parse(document)


def test_a_cold_house_gets_a_step_of_two_kelvin_at_most(houses):
    house, year = houses[0]
    found = correction.judge(looked(tansy_cut(), house, 5.0), year)
    assert found.verdict == "level up"
    assert found.step.cold_after_c - found.step.cold_before_c == pytest.approx(2.0)
    assert found.step.mild_after_c - found.step.mild_before_c == pytest.approx(2.0)
    assert 1 <= found.wait_days <= 3
    assert len(found.points) == 6
    assert all(one.should_c > one.flow_c for one in found.points)


def test_a_house_without_looks_and_one_without_a_machine_say_what_they_lack(houses):
    _, year = houses[0]
    assert "No look" in correction.judge(parse(tansy_cut()), year).lacks
    assert "no machine" in correction.judge(parse(oat_store()), None).lacks


def test_who_starts_low_is_told_where_to_begin_and_then_no_more(houses):
    _, year = houses[0]
    document = tansy_cut()
    document["practice"]["curve_start"] = "low"
    begin = correction.judge(parse(document), year).begin
    assert begin.cold_before_c - begin.cold_after_c == pytest.approx(5.0)
    document["fire_up"] = {
        "corrections": {
            "c": {"at": "2026-01-02T10:00:00Z", "cold_out_c": -3.0, "mild_out_c": 15.0, "cold_before_c": 46.0, "mild_before_c": 30.0,
                  "cold_after_c": 41.0, "mild_after_c": 25.0}
        }
    }  # fmt: skip
    assert correction.judge(parse(document), year).begin is None


@pytest.mark.parametrize(
    ("field", "value"),
    [
        ("outdoor_c", 85.0),
        ("flow_c", 120.0),
        ("at", "yesterday"),
        ("at", "2026-01-10T07:00:00"),
        ("rooms", {"cellar-42": 20.0}),
    ],
)
def test_what_cannot_have_been_seen_is_refused_at_its_place(field, value):
    document = tansy_cut()
    document["fire_up"] = {"observations": {"x": {"at": "2026-01-10T07:00:00Z", field: value}}}
    with pytest.raises(InvalidJob) as refused:
        parse(document)
    assert any(field in problem.path for problem in refused.value.problems)


def test_the_time_constant_is_what_is_held_over_what_is_lost(houses):
    house, _ = houses[0]
    rooms = house.house.house.rooms
    by_hand = sum(rooms.air_j_k + rooms.mass_j_k) / (sum(rooms.slope_w_k) - sum(sum(rooms.trade_w_k))) / 3600
    assert correction.constant_h(house) == pytest.approx(by_hand)
    assert correction.wait_days(5.0) == 1
    assert correction.wait_days(200.0) == 3


def test_a_day_of_readings_is_one_look_and_its_bright_afternoon_another(houses):
    hour = np.arange(7, 7 + 48) % 24
    still = np.full(48, 5.0)
    sun = np.where((hour >= 12) & (hour < 17), 300.0, 0.0)
    sun[24:] = 0.0
    seen, rows = looks_of(hour, still, still + 30, still + 30, np.full((48, 1), 20.0), np.full((48, 0), np.nan), sun)
    assert seen.sun.tolist() == [0.0, 1.0, 0.0]
    assert len(rows[0]) == 24
    assert seen.flow_c == pytest.approx([35.0, 35.0, 35.0])


def test_readings_of_a_plant_are_read_by_the_houses_own_clock(houses):
    """The hour that ended at 06:00 UTC in January is of the night in Britain, of the morning in Finland."""
    house, year = houses[0]
    at = np.datetime64("2026-01-10T00:00:00") + np.arange(1, 73) * np.timedelta64(1, "h")
    n, rooms, emitters = 72, len(house.house.rooms), len(house.house.emitters)
    log = Log("x", at, np.full(n, 4.0), np.full(n, 39.0), np.full(n, np.nan), np.full(n, 20.0), np.full((n, rooms), 19.0),
              np.full((n, emitters), np.nan), np.full((n, emitters), np.nan))  # fmt: skip
    document = tansy_cut()
    document["time_zone"] = "Europe/Helsinki"
    found = correction.judge(parse(document), year, [log])
    first = dt.datetime.fromisoformat(found.points[0].at)
    assert found.looks == 3  # of five hours none, two days, nineteen hours
    assert first.hour == 5  # the day that ended at seven there


def test_looks_from_before_a_change_are_held_to_the_line_of_their_day(houses):
    house, year = houses[0]
    document = tansy_cut()
    looked(document, house, 5.0)
    control = document["schemes"]["lukewarm"].setdefault("control", {})
    was = law.flow_at(house.control_line, outdoor_c=np.array([-3.0, 15.0]))
    control |= {"cold_flow_c": float(was[0]) + 4.0, "mild_flow_c": float(was[1]) + 4.0}
    assert correction.judge(parse(document), year).verdict == "not followed"
    document["fire_up"]["corrections"] = {
        "c": {"at": "2026-02-01T10:00:00Z", "cold_out_c": -3.0, "mild_out_c": 15.0, "cold_before_c": float(was[0]),
              "mild_before_c": float(was[1]), "cold_after_c": float(was[0]) + 4.0, "mild_after_c": float(was[1]) + 4.0}
    }  # fmt: skip
    found = correction.judge(parse(document), year)
    assert found.verdict == "right"  # of 5 K that were missing 4 were given
    assert found.cold_k == pytest.approx(1.0, abs=0.6)


@pytest.mark.parametrize(
    ("kind", "more"),
    [("buffer 4", {}), ("buffer 4", {"buffer_l": 300.0, "machine_lph": 900.0}), ("header", {"machine_lph": 600.0})],
    ids=str,
)
def test_a_sound_house_behind_a_separator_is_left_as_it_is(kind, more):
    """The machine's water is up to six kelvin hotter than what its emitters get, by design: no step is asked for, and the line lies within
    a kelvin and a half of right. Six weeks of the twin, read by the hour."""
    document = tansy_cut()
    document["schemes"][document["active_scheme"]]["separation"] = {"kind": kind} | more
    job = parse(document)
    year = shipped_year(job.library.climates[job.climate.entry].data.year_sha256)
    twin = twin_of(job)
    assert twin.design.separation.lift_k > 0.9
    at, column = hourly(winter(twin, year, seed=3, days=45, shift_k=-3.0))
    found = correction.judge(job, year, [log_of("told", at, column, twin.rooms, twin.emitters)])
    assert found.verdict == "right"
    assert found.step is None
    assert abs(found.cold_k) < 1.5
